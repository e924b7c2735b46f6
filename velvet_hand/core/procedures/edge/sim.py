"""Simulated machine of edge, and a plan for it."""

from __future__ import annotations

import math
from typing import Any

import numpy as np

from ...gauge import Gauge
from ...holders import Fixture
from ...sim.body import Body, Truth
from ...sim.by_hand import Packets
from ...sim.example import FINE_SHIMS, edge_usual, held
from ...sim.sample import Sample
from ...sim.table import ShimmedEdge, edge_as_found, random_edge, stacks
from .plan import EdgePlan

SIDES = {"back": 1j, "front": -1j, "right": 1 + 0j, "left": -1 + 0j}


class SimulatedUpright(ShimmedEdge):
    """An angle plate whose face leans, and is shimmed at one side of its base."""

    hides = ("pose", "lean0")
    what = "Under the"

    def __init__(self, plan: EdgePlan, lean: float, **edge: Any) -> None:
        # the indicator's side, which takes its top away from it when it is lifted, and the other
        ways = (plan.gauge_way, -plan.gauge_way)
        names = tuple(f"{word} side" for way in ways for word, side in SIDES.items() if abs(side - way) < 0.1)
        super().__init__(plan, Packets(plan.stock, 0.3), names, **edge)
        self.upright_plan, self.lean0 = plan, lean

    @property
    def under(self) -> float:
        """How much higher the indicator's side of its base stands."""
        return self.shims[0] - self.shims[1]

    @property
    def lean(self) -> float:
        """How much its top stands nearer the gauge for a millimeter of height (rad)."""
        return self.lean0 - math.atan(self.under / self.upright_plan.base_mm)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """The edge, and the face that leans."""
        plan = self.upright_plan
        return (*super().truths, Truth("lean", abs(self.lean) * plan.limit_length_mm, plan.limit.mm))

    def nearness(self, at: complex, ring: str = "") -> float:
        """The face at that height, in the middle; or the edge along it."""
        return at.imag * math.tan(self.lean) if ring == "up-" else super().nearness(at, ring)

    def puts(self, said: str) -> list[float]:
        """See ``ShimmedEdge``: all of it under one side."""
        return [sum(stacks(said)) * (name in said) for name in self.names]


def example(seed: int) -> EdgePlan:
    """A plan by a number: every orientation and option comes round."""
    vise = held(Fixture, edge_mm=240, depth_mm=140, bolts_mm=(20.0, 220.0))
    up = (
        {"thing": "angle_plate", "upright_mm": 90.0, "base_mm": 120.0}
        if seed // 3 % 2
        else {"thing": ("fixture_plate", "long_work", "soft_jaws")[seed % 3]}
    )
    fine = Gauge(id="g", name="Fine lever", kind="lever", graduation_mm=0.0005, travel_mm=1.0)
    more = {"gauge": fine} if "upright_mm" in up else {}
    return EdgePlan(**edge_usual(seed, vise, **more), stock=FINE_SHIMS, **up)


def machine(plan: EdgePlan, rng: np.random.Generator) -> Body:
    """A plate some tenths off, or an angle plate that leans as well."""
    if plan.upright_mm:
        return SimulatedUpright(plan, float(rng.uniform(-0.0012, 0.0012)), **edge_as_found(plan, rng))
    return random_edge(plan, rng)


SAMPLES = (
    Sample(
        part="Platen jig", size="300 mm", limit="0.02 mm", kind="over_jaw", machine="heron", holder="fixture-plate",
        gauge="lever-micron", unit="mm", days_ago=2.2, author="Wilf", seed=65,
        choices={"spots_mm": (20.0, 90.0, 160.0, 230.0, 300.0)},
    ),
)  # fmt: skip
