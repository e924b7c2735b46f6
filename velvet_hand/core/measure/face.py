"""A face that is read from above at places: its plane, how level it is, and how sure that is."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from ..budget import budget
from ..fit.plane import PlaneFit, Points, fit_plane
from ..memo import once
from ..readings import Pass
from ..verdict import Verdict, judge
from .base import Measure, Record


@dataclass(frozen=True, slots=True)
class FaceLook:
    """A face as it was read in one pass; ``ids`` are the spots that are known."""

    face: Face
    number: int
    ids: tuple[str, ...]
    points: Points
    plane: PlaneFit
    drift_mm: float | None

    @property
    def off_level_mm(self) -> float:
        """Range of the plane over all places, those that are not known as well."""
        values = [self.plane.at(s.x_mm, s.y_mm) for s in self.face.stations]
        return max(values) - min(values)


@dataclass(frozen=True, kw_only=True)
class Face(Measure):
    """Heights over a face; ``taller`` is what a spot stands higher by itself (a taller parallel)."""

    taller: Mapping[str, float] = field(default_factory=dict)

    def look(self, record: Record, one: Pass) -> FaceLook | None:
        """The face in one pass; None when it was not read whole, or not enough of it is known."""
        return once(record.memo, f"face {self.id}", one.number, lambda: self._look(record, one))

    def _look(self, record: Record, one: Pass) -> FaceLook | None:
        mine = self.mine(record, one)
        seen = self.seen(record, one, mine)
        known = [s for s in mine if s.id in seen.toward_mm]
        if not seen.complete or not self.proved(record) or len(known) < 3:
            return None
        points = tuple((s.x_mm, s.y_mm) for s in known)
        z = tuple(seen.toward_mm[s.id] - self.taller.get(s.id, 0.0) for s in known)
        plane = fit_plane(points, z, self.gauge.u_read_mm)
        if plane is None:
            return None
        return FaceLook(self, one.number, tuple(s.id for s in known), points, plane, seen.drift_mm)

    def judge_level(self, look: FaceLook, limit_mm: float, where: str) -> Verdict:
        """How far it is off level against a limit."""
        middle, plane = look.plane.middle_mm, look.plane
        reach = (
            max(abs(s.x_mm - middle[0]) for s in self.stations), max(abs(s.y_mm - middle[1]) for s in self.stations)
        )  # fmt: skip
        u = ((2 * reach[0] * plane.u_a) ** 2 + (2 * reach[1] * plane.u_b) ** 2) ** 0.5
        terms = budget(u, self.gauge, floor_mm=self.floor_mm, drift_mm=look.drift_mm)
        found = judge("parallel", look.off_level_mm, limit_mm, terms)
        return found.model_copy(update={"where": where})
