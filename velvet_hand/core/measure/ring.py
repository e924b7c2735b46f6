"""A circle: what it says, and how sure it is.

It has a zero of its own, so readings of different rings are only ever compared as offsets.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import combinations
from typing import Self

import numpy as np

from ..budget import budget
from ..estimate.form import RoundLook, left_over, marks_variance, see
from ..estimate.kalman import Array
from ..estimate.scatter import KNOWN, Repeats, half95, pooled
from ..fit.circle import CircleFit, fit_circle, moved_by, ray
from ..memo import once
from ..quantity import LimitKind
from ..readings import Pass, Station
from ..verdict import Term, TermName, Verdict, judge
from .base import Measure, Record, before, full_before

#: A curve of the circle that is so many times the scatter of a reading may hide what a wrong size makes of it.
BENDS = 20.0
#: Groups of passes that read the same spots, by the spots.
Groups = dict[tuple[float, ...], Repeats]
#: Two passes of one place differ by no more than so many sigmas, in two dimensions.
SAME = 3.7
#: Two spots of a quick look are at least so far from lying opposite each other, or on one another (sine of the angle between).
LEAST_SQUARE = 0.5
#: The first proof, and every one where few spots steer, sees little of the surface's form: one that leaves less of the limit is read
#: closely too.
CLOSE = 0.9
#: So many readings more than a circle needs tell its form.
FORM_DOF = 3
#: A stretch without readings wider than this proves nothing of what lies there.
UNSEEN_DEG = 200.0


@dataclass(frozen=True, slots=True, eq=False)
class Mean:
    """Mean of the readings (N,) of passes that saw the same, at these spots."""

    spots: tuple[float, ...]
    now: Array
    times: int

    def agrees(self, now: Array, variance: float) -> bool:
        """Does another pass see the same: no farther apart than scatter takes two centers in 999 of 1000 times?"""
        theta = np.radians(self.spots)
        apart = np.hypot(*(2 / len(theta) * np.array([np.cos(theta), np.sin(theta)]) @ (now - self.now)))
        return bool(apart <= SAME * (variance * 2 / len(theta) * (1 + 1 / self.times)) ** 0.5)


@dataclass(frozen=True, slots=True)
class RingLook:
    """One ring of one pass as geometry.

    ``toward_mm`` holds the good readings, drift taken out, by station id; ``off`` the end (+1 toward,
    -1 away, 0 not said) of readings past the gauge's travel; ``fit`` is None until three good
    readings fix a circle, and so is ``round``, what this pass says when all passes up to it have told form and scatter (``groups``).
    Passes with nothing done between them say it together (``mean``); what this one says ``alone`` is what is learned from.
    """

    ring: Ring
    number: int
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    fit: CircleFit | None
    wild: tuple[str, ...]
    complete: bool
    groups: Groups
    variance: float
    round: RoundLook | None
    alone: RoundLook | None
    mean: Mean | None

    def moved(self, by: complex) -> Self:
        """The same ring with its center elsewhere: what lies between indicator and surface taken off."""
        if self.fit is None or self.round is None:
            return self
        fit = replace(self.fit, x_mm=self.fit.x_mm + by.real, y_mm=self.fit.y_mm + by.imag)
        return replace(self, fit=fit, round=self.round.moved(by))

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
        """TIR of the surface: largest less smallest all round, form and all."""
        return self.round.tir_mm if self.round else 0.0

    def band_mm(self, kind: LimitKind) -> float:
        """Half the 95 % band of its TIR or its offset, everything in it: the one that it is judged by."""
        return float(sum(t.mm**2 for t in self.ring.terms(self, kind)) ** 0.5) if self.round else 0.0

    @property
    def tir_u_mm(self) -> float:
        """Standard uncertainty of the TIR."""
        return self.band_mm("tir") / 2

    @property
    def offset_u_mm(self) -> float:
        """Standard uncertainty of the offset."""
        return self.band_mm("off_centre") / 2

    @property
    def tells_form(self) -> bool:
        """Have enough spots told how it is out of round?"""
        return self.fit is not None and self.round is not None and self.fit.dof >= FORM_DOF and not self.ring.flats

    def surface_mm(self, deg: float, by: complex = 0j) -> float | None:
        """Toward value there by all readings and the form, with the center moved ``by``; None where too few tell the form."""
        fit, seen, ring = self.fit, self.round, self.ring
        if fit is None or seen is None or not self.tells_form:
            return None
        at = complex(*seen.center) + by
        level = fit.mean_mm + float(ray(deg, at.real, at.imag, ring.radius_mm, ring.sign))
        return level + ring.sign * seen.stands_out(deg)

    def surface_at(self, station: Station) -> tuple[float, float] | None:
        """The same where it was read, and its variance but for where the center is; None where the reading itself is as good."""
        mm, seen, mean = self.surface_mm(station.angle_deg), self.round, self.mean
        if mm is None or seen is None or mean is None:
            return None
        variance = self.variance / (len(mean.spots) * mean.times)
        variance += seen.form_variance(station.angle_deg) + marks_variance(self.ring.finish)
        found = mm, variance
        return found if variance < self.variance else None

    @property
    def walked_mm(self) -> float:
        """What has walked since the first reading, as far as it is more than two readings scatter by."""
        return self.ring.gauge.walked_mm(self.drift_mm or 0.0)


@dataclass(frozen=True, kw_only=True)
class Ring(Measure):
    """A circle of spots.

    ``radius_mm`` is that of the circle which the ball's center follows (R + tip outside, R - tip in a bore; infinite where the
    readings are an exact sinusoid), ``sign`` +1 outside and -1 in a bore. On ``flats`` each opposed pair has a size of its own, so
    only half differences count and the model is ``r = e . n``, exactly. ``finish`` is how much rougher than ground it is; its form
    stays where it is while the part is not turned in what holds it (``form_stays``), and where moves leave its mean where it is
    (``level_stays``) two spots tell what has changed; ``settle_mm`` is the limit, where that
    is on TIR or off center (``settle_kind``).
    """

    radius_mm: float
    sign: int
    flats: bool = False
    finish: float = 1.0
    form_stays: bool = True
    level_stays: bool = True
    settle_mm: float | None = None
    settle_kind: LimitKind = "tir"

    def undecided(self, record: Record, one: Pass) -> bool:
        """See ``Measure``: a band that goes over the limit, ``settle_mm``, or nearly so where little is known of the form."""
        first = tuple(s for s in self.stations if s.when != "undecided")
        between = [s.id for s in self.stations if s.when == "undecided"]
        before = record.passes[one.number - 2] if record.untouched_before(one) else one
        if any(key in before.readings or key in one.readings for key in between):
            return True  # what was undecided here is read as closely again
        if self.settle_mm is None or len(first) == len(self.stations) or not all(one.answered(s.id) for s in first):
            return False
        # asked while events are folded: what was read belongs to the name, for the pass goes on
        read = (
            [one.readings[s.id].needle_mm if s.id in one.readings else None for s in first],
            sorted(one.bad),
            one.closed_by(self.id),
        )
        return once(record.memo, f"undecided {self.id} {read}", one.number, lambda: self._undecided(record, one, first))

    def _undecided(self, record: Record, one: Pass, first: tuple[Station, ...]) -> bool:
        found = self.judge(self._look(record, one, first), self.settle_kind, self.settle_mm or 0.0)
        if found is None or found.value_mm > found.limit_mm:
            return False
        if found.outcome == "cannot_tell" or found.value_mm + found.band_mm <= CLOSE * found.limit_mm:
            return found.outcome == "cannot_tell"
        if any(s.when == "proof" for s in first):  # few of them steer
            return True
        between = [s.id for s in self.stations if s not in first]
        seen = any(key in earlier.readings for earlier in record.passes[: one.number - 1] for key in between)
        return self.settle_kind == "tir" and not seen

    def look(self, record: Record, one: Pass) -> RingLook:
        """The ring in one pass; what the passes before it told is carried along."""
        made = self._quick if one.quick else self._look
        return once(record.memo, self.looked, one.number, lambda: made(record, one))

    def quick_spots(self, record: Record, full: Pass) -> tuple[Station, ...]:
        """See ``Measure``: two spots as near to a quarter turn apart as there are, those at jaws first."""
        look = self.look(record, full)
        if look.fit is None or not look.complete or look.off or look.walked_mm or not self._compares(look):
            return ()
        good = [s for s in self.stations if s.id in look.toward_mm and s.id not in look.wild]
        return tuple(good[i] for i in _squarest(tuple((s.angle_deg, s.jaw is not None) for s in good)))

    def _compares(self, look: RingLook) -> bool:
        """Can a pass be compared with a later one, spot by spot?"""
        return (
            self.form_stays
            and self.level_stays
            and not self.flats
            and not self.gauge.measures_gap
            and self.gauge.came_back(look.drift_mm or 0.0)
        )

    def _quick(self, record: Record, one: Pass) -> RingLook:
        """The last full pass, its center moved by what two spots have changed since."""
        full, mine = self.look(record, full_before(record, one)), self.mine(record, one)
        seen = self.seen(record, one, mine)
        found = replace(full, number=one.number, off=seen.off, drift_mm=None, complete=seen.complete, mean=None)
        if full.fit is None or full.round is None or not all(s.id in seen.toward_mm for s in mine):
            return replace(found, toward_mm=seen.toward_mm, fit=None, round=None, wild=())
        at, angles = (full.fit.x_mm, full.fit.y_mm), [s.angle_deg for s in mine]
        told = [full.surface_at(s) for s in mine]
        smooth = [one for one in told if one is not None]
        if len(smooth) == len(told):  # the center is where these readings have it, however it was read before
            before, known, variance = [mm for mm, _ in smooth], full.round.form_alone(), max(v for _, v in smooth)
        else:
            before, known, variance = [full.toward_mm[s.id] for s in mine], full.round, full.variance
        changed = [seen.toward_mm[s.id] - mm for s, mm in zip(mine, before, strict=True)]
        by, spread = moved_by(angles, changed, at, self.radius_mm, self.sign)
        angle = {s.id: s.angle_deg for s in self.stations}
        toward = {
            key: mm + float(ray(angle[key], at[0] + by[0], at[1] + by[1], self.radius_mm, self.sign))
            - float(ray(angle[key], *at, self.radius_mm, self.sign))
            for key, mm in full.toward_mm.items()
        }  # fmt: skip
        moved = found.moved(complex(*by))
        noise, sigmas = (full.variance + variance) * spread, half95(full.variance, KNOWN) / full.variance**0.5
        surer = known.moved(complex(*by)).told_by(noise, sigmas)
        return replace(moved, toward_mm=toward | seen.toward_mm, round=surer, alone=surer)

    def _look(self, record: Record, one: Pass, mine: tuple[Station, ...] | None = None) -> RingLook:
        mine = self.mine(record, one) if mine is None else mine
        seen = self.seen(record, one, mine)
        model = _about_pairs(mine, seen.toward_mm) if self.flats else seen.toward_mm
        used = [s for s in mine if s.id in model]
        fit: CircleFit | None = None
        if len(used) >= 3 and self.proved(record):
            circle = fit_circle(
                tuple(s.angle_deg for s in used),
                tuple(model[s.id] for s in used),
                self.radius_mm,
                self.sign,
                self.gauge.u_read_mm,
            )
            fit = circle if circle.determined else None
        wild = tuple(used[i].id for i in fit.left_out) if fit else ()
        earlier = before(record, one, self.looked, self.look) if self.form_stays else None
        groups = dict(earlier.groups) if earlier else {}
        found = RingLook(
            self, one.number, seen.toward_mm, seen.off, seen.drift_mm, fit, wild, seen.complete, groups,
            self.gauge.read_variance, None, None, None,
        )  # fmt: skip
        same = earlier.mean if earlier is not None and record.untouched_before(one) else None
        return found if fit is None else self._round(found, fit, used, same, seen.extra_mm2)

    def _round(
        self, look: RingLook, fit: CircleFit, used: list[Station], same: Mean | None, extra_mm2: float
    ) -> RingLook:
        """What it says when form and scatter are told from all passes; a place that is left out tells nothing."""
        kept = [i for i in range(len(used)) if i not in fit.left_out]
        angles = tuple(used[i].angle_deg for i in kept)
        theta = np.radians(angles)
        off = np.array([fit.residuals_mm[i] for i in kept]) * self.sign
        now = fit.x_mm * np.cos(theta) + fit.y_mm * np.sin(theta) + off
        earlier = look.groups
        groups = {**earlier, angles: earlier.get(angles, Repeats()).add(left_over(angles, now))}
        variance, freedom = pooled(groups.values(), 3, self.gauge.read_variance, KNOWN)
        variance += extra_mm2
        # far off, a size that was typed a little wrong bends the readings like a form, and an indicator that was bumped steps: such a
        # pass teaches nothing to the later ones
        bends = (fit.x_mm**2 + fit.y_mm**2) / (2 * self.radius_mm)
        calm = bends <= BENDS * self.gauge.read_variance**0.5 and self.gauge.came_back(look.drift_mm or 0.0)
        taught = groups if calm else earlier
        alone = seen = see(angles, now, groups, variance, freedom, self.finish)
        mean = Mean(angles, now, 1)
        if same is not None and same.spots == angles and calm and same.agrees(now, variance):
            mean = Mean(angles, (same.now * same.times + now) / (same.times + 1), same.times + 1)
            seen = see(angles, mean.now, groups, variance, freedom, self.finish, mean.times)
        return replace(look, groups=taught, variance=variance, round=seen, alone=alone, mean=mean if calm else None)

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """See ``Measure``: also a reading left out that nobody called bad, spots on one side only, a low side cut off flat."""
        look, found = self.look(record, one), super().doubt(record, one)
        if found is not None or look.fit is None:
            return found
        return (
            "wild" if look.wild else "unread" if look.unseen_deg > UNSEEN_DEG else "preload" if look.flat_low else None
        )

    def terms(self, look: RingLook, kind: LimitKind) -> tuple[Term, ...]:
        """What widens the band of its TIR or of its offset."""
        seen = look.round
        assert seen is not None
        twice = 2.0 if kind == "tir" else 1.0
        band, alone = (
            (seen.band_mm, seen.scatter_mm) if kind == "tir" else (seen.offset_band_mm, seen.offset_scatter_mm)
        )
        return budget(
            alone / 2,
            self.gauge,
            stretch=twice,
            floor_mm=self.floor_mm,
            share=min(1.0, (self.gauge.read_variance / look.variance) ** 0.5),
            form=("form", max(band**2 - alone**2, 0.0) ** 0.5 / twice),
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
        seen = look.round
        if seen is None:
            return None
        center = complex(*seen.center)
        terms, least = self.terms(look, kind), None
        if kind == "tir" and not target:
            more = 2 * (abs(center + shift) - abs(center))
            value, form = seen.tir_mm + more, seen.form_mm
            others = sum(t.mm**2 for t in terms if t.name not in ("gauge", "scatter", "form")) ** 0.5
            least = seen.least_mm + more - others
        else:
            value, form = (2.0 if kind == "tir" else 1.0) * abs(center + shift - target), 0.0
        found = judge(kind, max(value, 0.0), limit_mm, terms, form, least)
        return found.model_copy(update={"where": where}) if where else found


@lru_cache(maxsize=256)
def _squarest(spots: tuple[tuple[float, bool], ...]) -> tuple[int, ...]:
    """Which two of those angles (degrees; at a jaw?) are most nearly a quarter turn apart, those at jaws first; none if all are nearly
    on one line through the center.
    """

    def square(i: int, j: int) -> float:
        return abs(math.sin(math.radians(spots[i][0] - spots[j][0])))

    pairs = combinations(range(len(spots)), 2)
    best = max(pairs, key=lambda two: (round(square(*two), 2), sum(spots[i][1] for i in two)), default=None)
    return best if best is not None and square(*best) >= LEAST_SQUARE else ()


def _about_pairs(stations: tuple[Station, ...], toward: dict[str, float]) -> dict[str, float]:
    """Each reading less the mean of its opposed pair; flats without their opposite say nothing."""
    found = {}
    for station in stations:
        across = next((s for s in stations if abs((s.angle_deg - station.angle_deg) % 360 - 180) < 0.5), None)
        if across and station.id in toward and across.id in toward:
            found[station.id] = (toward[station.id] - toward[across.id]) / 2
    return found
