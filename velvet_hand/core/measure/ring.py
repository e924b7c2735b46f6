"""A circle: what it says, and how sure it is.

It has a zero of its own, so readings of different rings are only ever compared as offsets.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..budget import budget
from ..fit.circle import CircleFit, fit_circle
from ..fit.scatter import widened
from ..memo import once
from ..quantity import LimitKind
from ..readings import Pass, Station
from ..verdict import Term, TermName, Verdict, judge
from .base import Measure, Record

#: Form that is more than this many reading uncertainties is the surface's own.
FORM_CALM = 4.0
#: A stretch without readings wider than this proves nothing of what lies there.
UNSEEN_DEG = 200.0


@dataclass(frozen=True, slots=True)
class RingLook:
    """One ring of one pass as geometry.

    ``toward_mm`` holds the good readings, drift taken out, by station id; ``off`` the end (+1 toward,
    -1 away, 0 not said) of readings past the gauge's travel; ``fit`` is None until three good
    readings fix a circle.
    """

    ring: Ring
    number: int
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    fit: CircleFit | None
    wild: tuple[str, ...]
    complete: bool

    @property
    def range_mm(self) -> float:
        """Highest minus lowest of the readings that were used."""
        used = [v for k, v in self.toward_mm.items() if k not in self.wild]
        return max(used) - min(used) if used else 0.0

    @property
    def center(self) -> complex | None:
        """Offset of the ring's center, as a complex number."""
        return complex(self.fit.x_mm, self.fit.y_mm) if self.fit else None

    @property
    def form_counts(self) -> bool:
        """Is what is left over more than the dial could make up?"""
        return self.fit is not None and self.fit.form_mm > FORM_CALM * self.ring.gauge.u_read_mm

    @property
    def flat_low(self) -> int:
        """Spots that share the lowest reading where a round surface would not: the stylus may have left it there (0: none)."""
        gauge, values = self.ring.gauge, list(self.toward_mm.values())
        if self.fit is None or len(values) < 4 or gauge.measures_gap or self.ring.flats:
            return 0
        mark, low = gauge.graduation_mm, min(values)
        flat, few = sum(v < low + mark / 2 for v in values), len(values) < 6
        rises = self.range_mm >= (4 if few else 8) * mark and (few or self.fit.form_mm >= 3 * mark)
        return flat if flat >= 3 and rises else 0

    @property
    def unseen_deg(self) -> float:
        """The widest stretch without a reading that counts."""
        angle = {s.id: s.angle_deg % 360 for s in self.ring.stations}
        at = sorted(angle[key] for key in self.toward_mm if key not in self.wild)
        return max((b - a for a, b in zip(at, [*at[1:], at[0] + 360], strict=True)), default=360.0) if at else 360.0

    @property
    def tir_mm(self) -> float:
        """TIR: twice the offset, or the whole range when the surface adds to it."""
        twice = 2 * self.fit.offset_mm if self.fit else 0.0
        return max(twice, self.range_mm) if self.form_counts else twice


@dataclass(frozen=True, kw_only=True)
class Ring(Measure):
    """A circle of spots.

    ``radius_mm`` is that of the circle which the ball's center follows (R + tip outside, R - tip in a bore; infinite where the
    readings are an exact sinusoid), ``sign`` +1 outside and -1 in a bore. On ``flats`` each opposed pair has a size of its own, so
    only half differences count and the model is ``r = e . n``, exactly.
    """

    radius_mm: float
    sign: int
    flats: bool = False

    def look(self, record: Record, one: Pass) -> RingLook:
        """The ring in one pass."""
        return once(record.memo, f"ring {self.id}", one.number, lambda: self._look(record, one))

    def _look(self, record: Record, one: Pass) -> RingLook:
        mine = self.mine(record, one)
        seen = self.seen(record, one, mine)
        model = _about_pairs(mine, seen.toward_mm) if self.flats else seen.toward_mm
        used = [s for s in mine if s.id in model]
        fit: CircleFit | None = None
        if len(used) >= 3 and self.proved(record):
            found = fit_circle(
                tuple(s.angle_deg for s in used),
                tuple(model[s.id] for s in used),
                self.radius_mm,
                self.sign,
                self.gauge.u_read_mm,
            )
            fit = found if found.determined else None
        wild = tuple(used[i].id for i in fit.left_out) if fit else ()
        return RingLook(self, one.number, seen.toward_mm, seen.off, seen.drift_mm, fit, wild, seen.complete)

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """See ``Measure``: also a reading left out that nobody called bad, spots on one side only, a low side cut off flat."""
        look, found = self.look(record, one), super().doubt(record, one)
        if found is not None or look.fit is None:
            return found
        return (
            "wild" if look.wild else "unread" if look.unseen_deg > UNSEEN_DEG else "preload" if look.flat_low else None
        )

    def terms(self, look: RingLook, factor: float, form_in_value: bool = False) -> tuple[Term, ...]:
        """What widens the band of its offset times ``factor`` (2 for a TIR)."""
        fit = look.fit
        assert fit is not None
        more, share = widened(fit, self.gauge.u_read_mm, surface=form_in_value)
        return budget(
            factor * fit.u_mm * more,
            self.gauge,
            stretch=factor,
            floor_mm=self.floor_mm,
            share=share,
            drift_mm=look.drift_mm,
        )

    def judge(
        self,
        look: RingLook,
        kind: LimitKind,
        limit_mm: float,
        *,
        shift: complex = 0j,
        target: complex = 0j,
        where: str = "",
    ) -> Verdict | None:
        """The ring against a limit; ``shift`` is added to the offset first (a forecast), ``target`` taken off."""
        fit = look.fit
        if fit is None:
            return None
        factor = 2.0 if kind == "tir" else 1.0
        # Form that counts is in the TIR itself; it must not widen the band a second time.
        in_value = kind == "tir" and not target and look.form_counts
        center = complex(fit.x_mm, fit.y_mm)
        offset = abs(center - target)
        value = max(look.tir_mm, 2 * offset) if in_value else factor * offset
        value += factor * (abs(center + shift - target) - offset)
        terms = self.terms(look, factor, in_value)
        found = judge(kind, max(value, 0.0), limit_mm, terms, fit.form_mm if in_value else 0.0)
        return found.model_copy(update={"where": where}) if where else found


def _about_pairs(stations: tuple[Station, ...], toward: dict[str, float]) -> dict[str, float]:
    """Each reading less the mean of its opposed pair; flats without their opposite say nothing."""
    found = {}
    for station in stations:
        across = next((s for s in stations if abs((s.angle_deg - station.angle_deg) % 360 - 180) < 0.5), None)
        if across and station.id in toward and across.id in toward:
            found[station.id] = (toward[station.id] - toward[across.id]) / 2
    return found
