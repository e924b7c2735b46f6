"""What the heights of a face say: its plane, parallelism, flatness, twist, and what is not read."""

from __future__ import annotations

from abc import ABC
from dataclasses import dataclass

import numpy as np

from ...budget import DRIFT_LEFT, budget
from ...engine.measured import Measured
from ...fit.plane import PlaneFit, fit_plane
from ...measure.base import Measure
from ...memo import once
from ...plan.places import place_word
from ...plan.ring import spots
from ...readings import Pass, Station
from ...setup.state import State
from ...verdict import Verdict, judge
from ...wording import Text, strong, text
from .plan import HeightsPlan

GRID, NEAR, OVER = "g-", "near-", "inv-"
BUDGET = (
    ("parallels_mm", "Parallels differ by", "the parallels", "Mic both, at the same spot."),
    ("table_mm", "Datum’s own tilt over it", "the datum’s own tilt", "From sweeping it, or its certificate."),
    ("vise_mm", "Vise or seat lifts by", "the vise or seat", "How much it lifts or rocks when it is clamped."),
    ("ram_mm", "Column or ram gives by", "the column or ram", "What it droops or gives over that way."),
)


@dataclass(frozen=True, slots=True)
class Heights:
    """One reading of the whole face."""

    number: int
    places: tuple[tuple[float, float], ...]
    z_mm: tuple[float, ...]
    ids: tuple[str, ...]
    plane: PlaneFit
    drift_mm: float | None
    marks_mm: float | None
    over: PlaneFit | None

    @property
    def range_mm(self) -> float:
        """Parallelism: highest minus lowest, against the datum."""
        return max(self.z_mm) - min(self.z_mm)

    def twist_mm(self, width_mm: float, depth_mm: float) -> float:
        """How far one diagonal stands above the other, corner to corner (0 when too few places tell)."""
        if len(self.z_mm) < 4:
            return 0.0
        p = np.asarray(self.places) - np.asarray(self.plane.middle_mm)
        cross = p[:, 0] * p[:, 1]
        model = np.column_stack([np.ones(len(p)), p, cross])
        if np.linalg.matrix_rank(model, tol=1e-6 * float(np.abs(cross).max() or 1.0)) < 4:
            return 0.0
        return float(np.linalg.lstsq(model, np.asarray(self.z_mm), rcond=None)[0][3] * width_mm * depth_mm)


class PlateReading(Measured[HeightsPlan], ABC):
    """Geometry and judgment of a pass."""

    def measures(self, plan: HeightsPlan) -> tuple[Measure, ...]:
        """Turned over first, if asked; then the close repeats and every place."""

        def make(key: str, ring: str, group: str, label: str, short: str, at: tuple[float, float]) -> Station:
            return Station.model_validate(
                {
                    "id": key,
                    "label": label,
                    "angle_deg": 0.0,
                    "ring": ring,
                    "group": group,
                    "short": short,
                    "x_mm": at[0],
                    "y_mm": at[1],
                    "cell": ring == GRID and plan.pattern == "grid",
                }
            )

        found = []
        if plan.inverted == "yes":
            x, y = (plan.width_mm * 0.06, plan.width_mm * 0.94), (plan.depth_mm * 0.06, plan.depth_mm * 0.94)
            four = (
                ("front left", (x[0], y[0])),
                ("front right", (x[1], y[0])),
                ("back right", (x[1], y[1])),
                ("back left", (x[0], y[1])),
            )
            found += [
                make(f"inv-{n}", OVER, "Turned over", f"Turned over, {word}", word, at)
                for n, (word, at) in enumerate(four, start=1)
            ]
        first = plan.places[0]
        near = [
            make(f"near-{n}", NEAR, "Close to the first", f"Close to place 1, {n}", f"Close {n}", first)
            for n in range(1, plan.repeats + 1)
        ]
        grid = [
            make(
                f"g{n}",
                GRID,
                "Right way up",
                f"Place {n} ({place_word(plan, round(x))}, {place_word(plan, round(y))})",
                f"{n}",
                (x, y),
            )
            for n, (x, y) in enumerate(plan.places, start=1)
        ]
        return (
            *((spots(plan, OVER, tuple(found)),) if found else ()),
            *((spots(plan, NEAR, tuple(near), closes=False),) if near else ()),
            spots(plan, GRID, tuple(grid)),
        )

    def remount(self, state: State[HeightsPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring == OVER:
            return text(strong("Turn it over, left for right"), ", onto the two blocks.")
        if state.plan.inverted == "yes" and ring == (NEAR if state.plan.repeats else GRID):
            return text(strong("Turn it right way up"), ", onto the datum itself.")
        return ()

    def look(self, state: State[HeightsPlan], one: Pass) -> Heights | None:
        """The face in one pass; None until it is read whole."""
        return once(state.memo, "plate", one.number, lambda: self._look(state, one))

    def _look(self, state: State[HeightsPlan], one: Pass) -> Heights | None:
        plan = state.plan
        rings = {ring: [s for s in state.stations if s.ring == ring] for ring in (GRID, NEAR, OVER)}
        if not state.proved or not all(one.answered(s.id) for s in rings[GRID]):
            return None
        grid = state.measures[GRID].seen(state, one)
        seen, drift = grid.toward_mm, grid.drift_mm
        ids = tuple(s.id for s in rings[GRID] if s.id in seen)
        at = {s.id: (s.x_mm, s.y_mm) for s in state.stations}
        plane = (
            fit_plane(tuple(at[i] for i in ids), tuple(seen[i] for i in ids), plan.gauge.u_read_mm)
            if len(ids) >= 3
            else None
        )
        if plane is None:
            return None
        near = list(self._seen(state, one, NEAR).values())
        marks = float(np.std(near, ddof=1)) if len(near) >= 2 else None
        turned = self._seen(state, one, OVER)
        over = None
        if len(turned) >= 3:
            z = tuple(turned[i] - plan.blocks_differ_mm * (at[i][0] > plan.width_mm / 2) for i in turned)
            over = fit_plane(tuple(at[i] for i in turned), z, plan.gauge.u_read_mm)
        return Heights(
            one.number, tuple(at[i] for i in ids), tuple(seen[i] for i in ids), ids, plane, drift, marks, over
        )

    def _seen(self, state: State[HeightsPlan], one: Pass, key: str) -> dict[str, float]:
        measure = state.measures.get(key)
        return measure.seen(state, one).toward_mm if measure else {}

    def noise_mm(self, state: State[HeightsPlan], look: Heights) -> float:
        """Scatter of one reading: the gauge’s, or the tool marks’ when they show more."""
        return max(look.marks_mm or 0.0, state.plan.gauge.u_read_mm)

    def judge(self, state: State[HeightsPlan], look: Heights) -> Verdict:
        """Parallelism or flatness against the limit."""
        plan = state.plan
        missing = self.missing(plan, look)
        heights = (*look.z_mm, *(look.plane.at(x, y) for x, y in missing))
        value = max(heights) - min(heights) if plan.limit.kind == "parallel" else look.plane.zone_mm
        u, marks = plan.gauge.u_read_mm, look.plane.noise_mm if look.marks_mm is None else look.marks_mm
        # A loop that does not close by more than a mark is no measure at all: all of it counts.
        open_loop = look.drift_mm is not None and not plan.gauge.came_back(look.drift_mm)
        terms = budget(
            2**0.5 * u, plan.gauge, floor_mm=plan.machine.floor_mm, scatter_mm=2 * 2**0.5 * max(marks**2 - u**2, 0.0) ** 0.5,
            drift_mm=look.drift_mm, drift_part=1.0 if open_loop else 4 * DRIFT_LEFT,
            unread_mm=2 * max((look.plane.u_at(x, y) for x, y in missing), default=0.0),
        )  # fmt: skip
        return judge(plan.limit.kind, value, plan.limit.mm, terms)

    def missing(self, plan: HeightsPlan, look: Heights) -> tuple[tuple[float, float], ...]:
        """Places that are marked bad or past the dial; the plane of the others is carried there."""
        return tuple(place for place in plan.places if place not in look.places)

    def high_corner(self, look: Heights) -> str:
        """Which corner the plane rises to."""
        return f"{'back' if look.plane.b > 0 else 'front'} {'right' if look.plane.a > 0 else 'left'}"

    def budget(self, plan: HeightsPlan, gauge_mm: float) -> tuple[list[tuple[str, float]], float, float]:
        """What each part of the set-up can explain, the largest first; worst case and root-sum-square."""
        parts = [(word, float(getattr(plan, name))) for name, _, word, _ in BUDGET] + [("the indicator", gauge_mm)]
        parts = sorted((p for p in parts if p[1] > 0), key=lambda p: -p[1])
        return parts, sum(mm for _, mm in parts), sum(mm**2 for _, mm in parts) ** 0.5

    def tilts(self, state: State[HeightsPlan], look: Heights) -> bool:
        """Is the tilt more than tool marks?"""
        plane = look.plane
        more = self.noise_mm(state, look) / max(plane.noise_mm, 1e-9)
        sure = 2 * max(more, 1.0)
        return abs(plane.a) > sure * plane.u_a or abs(plane.b) > sure * plane.u_b

    def reversal(self, plan: HeightsPlan, look: Heights) -> tuple[float, float]:
        """The plate’s own taper and its seat’s, left to right over its width."""
        assert look.over is not None
        return (look.plane.a - look.over.a) / 2 * plan.width_mm, (look.plane.a + look.over.a) / 2 * plan.width_mm
