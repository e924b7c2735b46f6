"""Simulated machine of plate, and a plan for it."""

from __future__ import annotations

from typing import Any

import numpy as np
from scipy.optimize import linprog

from ...gauge import Gauge
from ...holders import SurfacePlate
from ...plan.base import Workpiece
from ...sim.body import Hands, Truth
from ...sim.example import held, limit_mm, usual
from ...sim.sample import Sample
from ...sim.table import OnTheTable
from ...units import Typed
from .plan import HeightsPlan


class SimulatedPlate(OnTheTable):
    """A plate with a taper, a bow, a twist and tool marks, on a datum that tilts; turned over it lies on two blocks."""

    def __init__(
        self, plan: HeightsPlan, hands: Hands, rng: np.random.Generator, *, taper: tuple[float, float], bow: float, twist: float,
        marks: float, seat: tuple[float, float],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.face, self.taper, self.bow, self.twist, self.marks, self.seat = plan, taper, bow, twist, marks, seat

    def thick(self, x: float, y: float) -> float:
        """How much thicker it is there than at its front left corner, as it lies right way up."""
        u, v = x / self.face.width_mm, y / self.face.depth_mm
        bow = self.bow * (1 - (2 * u - 1) ** 2)
        return self.taper[0] * u + self.taper[1] * v + bow + self.twist * (2 * u - 1) * (2 * v - 1) / 4

    def nearness(self, at: complex, ring: str = "") -> float:
        """Height above the datum at that place; the tip never comes down twice on the same tool mark."""
        mark = float(self._rng.normal(0, self.marks)) if self.marks else 0.0
        x, y = at.real, at.imag
        if ring == "inv-":
            # Turned over left for right: what was at x is at width - x; the blocks carry it at both ends.
            carried = (
                self.face.blocks_differ_mm * (x / self.face.width_mm > 0.5) + self.seat[1] * x / self.face.width_mm
            )
            return self.thick(self.face.width_mm - x, y) + carried + mark
        return self.thick(x, y) + self.seat[0] * x / self.face.width_mm + mark

    @property
    def true_tir_mm(self) -> float:
        """Range over the places that are read, tool marks left out."""
        z = [self.thick(x, y) + self.seat[0] * x / self.face.width_mm for x, y in self.face.places]
        return max(z) - min(z)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """Range over the places; of what is to be flat the least distance of two planes, which linear programming finds."""
        if self.plan.limit.kind == "parallel":
            return super().truths
        z = np.array([self.thick(x, y) for x, y in self.face.places])
        rows = np.column_stack([np.array(self.face.places) / 100, np.ones(len(z)), np.ones(len(z))])
        over, under = rows * (-1, -1, -1, -0.5), rows * (1, 1, 1, -0.5)
        least = linprog([0, 0, 0, 1], np.vstack([over, under]), np.concatenate([-z, z]), bounds=(None, None))
        return (Truth("flat", float(least.fun), self.plan.limit.mm),)

    @property
    def blind_mm(self) -> float:
        """Without close repeats nobody knows the tool marks: then only what they cannot turn over is asked."""
        return 4 * self.marks


def example(seed: int) -> HeightsPlan:
    """A plan by a number: every orientation and option comes round."""
    datum = held(SurfacePlate, edge_mm=600, depth_mm=400)
    shape: tuple[Any, int, int] = (("grid", 3, 3), ("edges", 4, 3), ("grid", 4, 2))[seed % 3]
    wide = Workpiece.model_validate({"name": "bed plate", "diameter": Typed(text="240", unit="mm")})
    fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.5)
    kind = {"limit": limit_mm("0.02", ("parallel", "flat")[seed // 2 % 2]), "gauge": fine, "part": wide}
    turned: dict[str, Any] = {"inverted": ("no", "yes")[seed // 4 % 2], "blocks_differ_mm": (0.0, 0.008)[seed // 8 % 2]}
    return HeightsPlan(
        **usual(seed, holder=datum, carrier="gauge_turns", view="tailstock", school="high_spot", **kind),
        depth_mm=160, pattern=shape[0], columns=shape[1], rows=shape[2], repeats=(3, 0)[seed // 3 % 2],
        parallels_mm=(0.0, 0.004)[seed % 2], table_mm=(0.002, 0.0)[seed // 5 % 2], **turned,
    )  # fmt: skip


def machine(plan: HeightsPlan, rng: np.random.Generator) -> SimulatedPlate:
    """A plate as it comes: within the limit or not."""
    size = plan.limit.mm
    taper = (float(rng.uniform(-1, 1)) * size, float(rng.uniform(-1, 1)) * size)
    hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.1, push_reads=int(rng.choice([-1, 1])))
    seat = float(rng.uniform(-0.4, 0.4)) * size if plan.inverted == "yes" else 0.0
    return SimulatedPlate(
        plan, hands, rng, taper=taper, bow=float(rng.uniform(-0.4, 0.4)) * size, twist=float(rng.uniform(-0.3, 0.3)) * size,
        marks=float(rng.uniform(0, 0.06)) * size, seat=(seat, seat),
    )  # fmt: skip


SAMPLES = (
    Sample(
        part="Chase face", size="240 mm", limit="0.02 mm", kind="parallel", machine="slate", holder="slate-plate",
        gauge="lever-micron", unit="mm", days_ago=1.6, author="Ode", seed=67,
        choices={"depth_mm": 150.0, "columns": 4, "rows": 3, "parallels_mm": 0.003, "table_mm": 0.002},
        reason="Read only; it goes to be scraped.", picture="plate",
    ),
)  # fmt: skip
