"""An edge that is read at places along it: its line, and how sure that is.

Heights are toward values: plus is nearer to the indicator. An edge is true when its slope is the wanted one; a common shift of all
readings says nothing about that.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..budget import budget
from ..fit.line import LineFit, fit_line
from ..fit.scatter import widened
from ..memo import once
from ..quantity import LimitKind
from ..readings import Pass
from ..verdict import Term, TermName, Verdict, judge
from .base import Measure, Record

#: Unevenness below this many reading uncertainties is no more than the gauge can tell.
CALM = 6.0


@dataclass(frozen=True, slots=True)
class Rise:
    """How much an edge rises over its length beyond what is wanted; standard uncertainty."""

    mm: float
    u_mm: float


@dataclass(frozen=True, slots=True)
class LineLook:
    """One edge in one pass. ``edge_mm`` is its length, ``target`` the slope that is wanted."""

    edge: Edge
    number: int
    x_mm: dict[str, float]
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    line: LineFit | None
    wild: tuple[str, ...]
    complete: bool

    @property
    def edge_mm(self) -> float:
        """Length of the edge."""
        return self.edge.length_mm

    @property
    def target(self) -> float:
        """The slope that is wanted."""
        return self.edge.wanted

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
    def uneven_mm(self) -> float:
        """Width of the edge's minimum zone, when it is more than readings scatter by."""
        zone = self.line.zone_mm if self.line else 0.0
        return zone if zone > CALM * self.edge.gauge.u_read_mm else 0.0


@dataclass(frozen=True, kw_only=True)
class Edge(Measure):
    """Places along an edge of a length, and the slope that is ``wanted``; ``rises`` is what a spot's surface stands out by itself.

    An ``upright`` edge is read along y (up a face) instead of along x.
    """

    length_mm: float
    wanted: float = 0.0
    rises: Mapping[str, float] = field(default_factory=dict)
    upright: bool = False

    def look(self, record: Record, one: Pass) -> LineLook:
        """The edge in one pass."""
        return once(record.memo, f"edge {self.id}", one.number, lambda: self._look(record, one))

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
        return LineLook(self, one.number, x, toward, seen.off, seen.drift_mm, line, wild, seen.complete)

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """See ``Measure``: also a reading left out that nobody called bad."""
        return super().doubt(record, one) or ("wild" if self.look(record, one).wild else None)

    def terms(self, record: Record, look: LineLook, length_mm: float) -> tuple[Term, ...]:
        """What widens the band of its rise over ``length_mm``; by similar triangles over what was read."""
        line = look.line
        assert line is not None
        more, share = widened(line, self.gauge.u_read_mm, surface=bool(look.uneven_mm))
        return budget(
            line.u_slope * more * length_mm,
            self.gauge,
            stretch=length_mm / line.span_mm,
            floor_mm=self.floor_mm,
            share=share,
            form=("straightness", look.uneven_mm / 2),
            play_mm=record.gap_mm or 0.0,
            drift_mm=look.drift_mm,
        )

    def judge(
        self, record: Record, look: LineLook, kind: LimitKind, limit_mm: float, length_mm: float, *, shift_mm: float = 0.0, where: str = ""
    ) -> Verdict | None:  # fmt: skip
        """The rise over ``length_mm`` against a limit; ``shift_mm`` (over the edge) is added first."""
        if look.fit is None or look.line is None:
            return None
        value = abs(look.fit.mm + shift_mm) / self.length_mm * length_mm
        found = judge(kind, value, limit_mm, self.terms(record, look, length_mm))
        return found.model_copy(update={"where": where})
