"""An edge that is read at places along it: its line, and how sure that is.

Heights are toward values: plus is nearer to the indicator. An edge is true when its slope is the wanted one; a common shift of all
readings says nothing about that.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

import numpy as np

from ..budget import budget
from ..estimate.scatter import KNOWN, Repeats, half95, pooled
from ..estimate.waves import unseen_rise_mm
from ..fit.line import LineFit, fit_line
from ..memo import once
from ..quantity import LimitKind
from ..readings import Pass, Station
from ..verdict import Term, TermName, Verdict, judge
from .base import Measure, Record, before, full_before

#: Unevenness below this many reading uncertainties is no more than the gauge can tell.
CALM = 6.0
#: A quick look at both ends spans at least this part of the edge.
LEAST_REACH = 0.5


@dataclass(frozen=True, slots=True)
class Rise:
    """How much an edge rises over its length beyond what is wanted; standard uncertainty."""

    mm: float
    u_mm: float


@dataclass(frozen=True, slots=True)
class LineLook:
    """One edge in one pass. ``edge_mm`` is its length, ``target`` the slope that is wanted; ``variance`` and ``freedom`` are of one
    reading, told by all passes up to this one (``groups``); ``unseen_mm`` is half the 95 % band of
    what the edge does between its spots, in its rise.
    """

    edge: Edge
    number: int
    x_mm: dict[str, float]
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    line: LineFit | None
    wild: tuple[str, ...]
    complete: bool
    groups: dict[tuple[float, ...], Repeats]
    variance: float
    freedom: float
    unseen_mm: float = 0.0

    @property
    def edge_mm(self) -> float:
        """Length of the edge."""
        return self.edge.length_mm

    @property
    def target(self) -> float:
        """The slope that is wanted."""
        return self.edge.wanted

    @property
    def unsure(self) -> float:
        """How many times less sure a reading is, by all passes, than the line takes it to be."""
        return half95(self.variance, self.freedom) / 2 / self.line.noise_mm if self.line else 1.0

    @property
    def of_gauge(self) -> float:
        """Which part of that is the indicator's own."""
        return float(min(1.0, (self.edge.gauge.read_variance / self.variance) ** 0.5))

    @property
    def fit(self) -> Rise | None:
        """The rise over the whole edge beyond the wanted one."""
        if self.line is None:
            return None
        return Rise((self.line.slope - self.target) * self.edge_mm, self.line.u_slope * self.edge_mm)

    @property
    def center(self) -> complex | None:
        """The rise, as a vector along the edge."""
        return None if self.fit is None else complex(self.fit.mm, 0.0)

    @property
    def walked_mm(self) -> float:
        """What has walked since the first reading, as far as it is more than two readings scatter by."""
        return self.edge.gauge.walked_mm(self.drift_mm or 0.0)

    @property
    def uneven_mm(self) -> float:
        """Width of the edge's minimum zone, when it is more than readings scatter by."""
        zone = self.line.zone_mm if self.line else 0.0
        return zone if zone > CALM * self.edge.gauge.u_read_mm else 0.0


@dataclass(frozen=True, kw_only=True)
class Edge(Measure):
    """Places along an edge of a length, and the slope that is ``wanted``; ``rises`` is what a spot's surface stands out by itself.

    An ``upright`` edge is read along y (up a face) instead of along x; ``finish`` is how much rougher than ground it is; ``first_mm`` is
    where it begins.
    """

    length_mm: float
    first_mm: float = 0.0
    wanted: float = 0.0
    rises: Mapping[str, float] = field(default_factory=dict)
    upright: bool = False
    finish: float = 1.0

    @property
    def along_travel(self) -> bool:
        """See ``Measure``."""
        return not self.upright

    def look(self, record: Record, one: Pass) -> LineLook:
        """The edge in one pass; what the passes before it told is carried along."""
        made = self._quick if one.quick else self._look
        return once(record.memo, self.looked, one.number, lambda: made(record, one))

    def quick_spots(self, record: Record, full: Pass) -> tuple[Station, ...]:
        """See ``Measure``: both ends."""
        look = self.look(record, full)
        if look.line is None or not look.complete or look.off or look.walked_mm or self.gauge.measures_gap:
            return ()
        good = sorted((x, key) for key, x in look.x_mm.items() if key in look.toward_mm and key not in look.wild)
        if good[-1][0] - good[0][0] < LEAST_REACH * self.length_mm or not self.gauge.came_back(look.drift_mm or 0.0):
            return ()
        return tuple(s for s in self.stations if s.id in (good[0][1], good[-1][1]))

    def _quick(self, record: Record, one: Pass) -> LineLook:
        """The last full pass, its line moved by what both ends have changed since."""
        full, mine = self.look(record, full_before(record, one)), self.mine(record, one)
        seen = self.seen(record, one, mine)
        toward = {k: v - self.rises.get(k, 0.0) for k, v in seen.toward_mm.items()}
        found = replace(full, number=one.number, off=seen.off, drift_mm=None, complete=seen.complete)
        if full.line is None or not all(s.id in toward for s in mine):
            return replace(found, toward_mm=toward, line=None, wild=())
        (x_a, a), (x_b, b) = ((full.x_mm[s.id], toward[s.id] - full.toward_mm[s.id]) for s in mine)
        line, turned = full.line, (b - a) / (x_b - x_a)

        def rose(x_mm: float) -> float:
            return a + turned * (x_mm - x_a)

        after = replace(
            line,
            slope=line.slope + turned,
            level_mm=line.level_mm + rose(line.middle_mm),
            u_slope=float(np.hypot(line.u_slope, 2 * line.noise_mm / (x_b - x_a))),
            u_level_mm=float(np.hypot(line.u_level_mm, line.noise_mm)),
        )
        moved = {key: mm + rose(full.x_mm[key]) for key, mm in full.toward_mm.items()}
        return replace(found, toward_mm=moved | toward, line=after)

    def _look(self, record: Record, one: Pass) -> LineLook:
        mine = self.mine(record, one)
        seen = self.seen(record, one, mine)
        toward = {k: v - self.rises.get(k, 0.0) for k, v in seen.toward_mm.items()}
        x = {s.id: s.y_mm if self.upright else s.x_mm for s in mine}
        ids = [s.id for s in mine if s.id in toward]
        line: LineFit | None = None
        if len(ids) >= 2 and self.proved(record):
            line = fit_line(tuple(x[i] for i in ids), tuple(toward[i] for i in ids), self.gauge.u_read_mm)
        wild = tuple(ids[i] for i in line.left_out) if line else ()
        earlier = before(record, one, self.looked, self.look)
        groups, expected, known = dict(earlier.groups) if earlier else {}, self.gauge.read_variance, KNOWN
        variance, freedom = expected, known
        if line is not None:
            spots = tuple(x[ids[i]] for i in line.kept)
            groups[spots] = groups.get(spots, Repeats()).add(np.array(line.kept_mm))
            variance, freedom = pooled(groups.values(), 2, expected, known)
            if freedom == known and line.zone_mm <= CALM * self.gauge.u_read_mm:
                # nothing was read twice: what is left over is scatter, as far as it is not plainly the edge itself
                freedom = known + line.dof
                variance = (known * expected + line.dof * line.rms_mm**2) / freedom
        variance += seen.extra_mm2
        ends = min((self.first_mm, *x.values())), max((self.first_mm + self.length_mm, *x.values()))
        unseen = unseen_rise_mm(spots, ends, groups, variance, self.finish) if line is not None else 0.0
        taught = groups if self.gauge.came_back(seen.drift_mm or 0.0) else earlier.groups if earlier else {}
        return LineLook(
            self, one.number, x, toward, seen.off, seen.drift_mm, line, wild, seen.complete, taught, variance, freedom,
            unseen,
        )  # fmt: skip

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """See ``Measure``: also a reading left out that nobody called bad."""
        return super().doubt(record, one) or ("wild" if self.look(record, one).wild else None)

    def terms(self, record: Record, look: LineLook, length_mm: float) -> tuple[Term, ...]:
        """What widens the band of its rise over ``length_mm``; by similar triangles over what was read."""
        line = look.line
        assert line is not None
        return budget(
            look.unsure * line.u_slope * length_mm,
            self.gauge,
            stretch=length_mm / line.span_mm,
            floor_mm=self.floor_mm,
            share=look.of_gauge,
            form=("straightness" if look.uneven_mm else "between", look.unseen_mm * line.span_mm / self.length_mm),
            play_mm=record.gap_mm or 0.0,
            drift_mm=look.drift_mm,
        )

    def band_mm(self, record: Record, look: LineLook, length_mm: float) -> float:
        """Half the 95 % band of its rise over ``length_mm``, everything in it: the one that it is judged by."""
        return float(sum(t.mm**2 for t in self.terms(record, look, length_mm)) ** 0.5)

    def judge(
        self, record: Record, look: LineLook, kind: LimitKind, limit_mm: float, length_mm: float, *, shift_mm: float = 0.0, where: str = ""
    ) -> Verdict | None:  # fmt: skip
        """The rise over ``length_mm`` against a limit; ``shift_mm`` (over the edge) is added first."""
        if look.fit is None or look.line is None:
            return None
        value = abs(look.fit.mm + shift_mm) / self.length_mm * length_mm
        found = judge(kind, value, limit_mm, self.terms(record, look, length_mm))
        return found.model_copy(update={"where": where})
