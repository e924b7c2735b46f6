"""Simulated machine of bed, and a plan for it."""

from __future__ import annotations

from typing import Any

import numpy as np
from scipy.optimize import linprog

from ...holders import Vise
from ...sim.body import Truth
from ...sim.by_hand import Packets
from ...sim.example import FINE_SHIMS, edge_usual, held
from ...sim.sample import Sample
from ...sim.table import ShimmedEdge, edge_as_found
from .plan import BedPlan

#: Its corners, for somebody who stands at the machine, by how its jaw lies.
CORNERS = {
    "across": ("front left", "front right", "back left", "back right"),
    "along": ("front right", "back right", "front left", "back left"),
}


class SimulatedBed(ShimmedEdge):
    """A vise whose base stands on its four corners, or on what lies under them; shims turn the jaw a little."""

    hides = ("pose", "tilt")

    def __init__(
        self, plan: BedPlan, corners: tuple[tuple[float, float], ...], tilt: tuple[float, float], **edge: Any
    ) -> None:
        super().__init__(plan, Packets(plan.stock), CORNERS[plan.lies], **edge)
        self.bed_plan, self.corners, self.tilt = plan, corners, tilt
        self._rest: dict[tuple[float, ...], np.ndarray] = {}

    def lies(self) -> np.ndarray:
        """The base comes down until it rests: the lowest plane at its middle that no support sticks through."""
        if tuple(self.shims) not in self._rest:
            points = np.array([(1.0, x, y) for x, y in self.corners])
            answer = linprog(points.mean(axis=0), A_ub=-points, b_ub=-np.array(self.shims), bounds=[(None, None)] * 3)
            self._rest[tuple(self.shims)] = np.asarray(answer.x)
        return self._rest[tuple(self.shims)]

    def nearness(self, at: complex, ring: str = "") -> float:
        """A gauge that looks down on the bed, or along the jaw."""
        if ring != "bed-":
            return super().nearness(at, ring)
        tall = self.bed_plan.parallels_differ_mm if at.imag > max(self.bed_plan.bed_y_mm) - 1 else 0.0
        base = float(self.lies() @ np.array([1.0, at.real, at.imag]))
        return base + self.tilt[0] * at.real + self.tilt[1] * at.imag + tall

    @property
    def off_level_mm(self) -> float:
        """Range of the bed's plane over the places that are read, parallels left out."""
        places = zip(self.bed_plan.bed_x_mm, self.bed_plan.bed_y_mm, strict=True)
        rest = self.lies()
        z = [float(rest @ np.array([1.0, x, y])) + self.tilt[0] * x + self.tilt[1] * y for x, y in places]
        return max(z) - min(z)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """The jaw, and the bed."""
        return (*super().truths, Truth("level", self.off_level_mm, self.bed_plan.bed_limit_mm))


def example(seed: int) -> BedPlan:
    """A plan by a number: every orientation and option comes round."""
    differ = (0.0, 0.006)[seed // 7 % 2]
    vise = held(Vise, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
    return BedPlan(**edge_usual(seed, vise), stock=FINE_SHIMS, bed_limit_mm=0.014, parallels_differ_mm=differ)


def machine(plan: BedPlan, rng: np.random.Generator) -> SimulatedBed:
    """A vise whose bed falls off by some hundredths."""
    deep = plan.holder.deep_mm
    corners = ((0.0, 0.0), (plan.edge_mm, 0.0), (0.0, deep), (plan.edge_mm, deep))
    tilt = (float(rng.uniform(-0.1, 0.1)) / plan.edge_mm, float(rng.uniform(-0.08, 0.08)) / deep)
    return SimulatedBed(plan, corners, tilt, **edge_as_found(plan, rng))


SAMPLES = (
    Sample(
        part="Ink duct end plate", size="120 mm", limit="0.015 mm", kind="over_jaw", machine="heron", holder="vise-160",
        gauge="lever-micron", stock="fine-shims", unit="mm", days_ago=4.2, author="Tamsin", seed=63,
        choices={"bed_limit_mm": 0.02},
    ),
)  # fmt: skip
