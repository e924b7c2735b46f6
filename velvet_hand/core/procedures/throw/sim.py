"""Simulated machine of throw, and a plan for it."""

from __future__ import annotations

import cmath
import math
from dataclasses import replace
from typing import Literal

import numpy as np

from ...gauge import Gauge
from ...sim.body import Body, Truth
from ...sim.example import limit_mm, part_of, usual
from ...sim.jaws import Quirks, SimulatedChuck, random_quirks
from ...sim.sample import Sample
from .plan import ThrowPlan


class Eccentric(SimulatedChuck):
    """Round work off its throw, or work on flats whose opposed pairs differ in size."""

    most_mm = 60.0

    def __init__(self, plan: ThrowPlan, quirks: Quirks, rng: np.random.Generator) -> None:
        super().__init__(plan, quirks, rng)
        self.throw, self.wanted = plan, cmath.rect(plan.throw_mm, math.radians(plan.throw_deg))

    def nearness(self, at: complex, ring: str = "") -> float:
        """A flat is read at its dead point."""
        if not self.plan.flats:
            return super().nearness(at, ring)
        along = (self.center * cmath.rect(1, -math.radians(at.real))).real
        return along + self.quirks.size_mm[round(at.real / 90) % 2]

    @property
    def astray(self) -> complex:
        """How far it is off the throw that is wanted."""
        return self.center - self.wanted

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``: one plane is read."""
        return 2 * abs(self.astray)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """Off the throw in its size and, where one is wanted, sideways of its direction."""
        plan = self.throw
        size = Truth("throw", abs(abs(self.center) - plan.throw_mm), plan.limit.mm)
        if not plan.throw_mm:
            return (size,)
        at = self.center * cmath.rect(1, -math.radians(plan.throw_deg))
        return size, Truth("sideways", abs(at.imag), plan.throw_mm * math.sin(math.radians(plan.turn_limit_deg)))


def example(seed: int) -> ThrowPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    shape: Literal["round", "flats"] = "flats" if (seed // 2) % 2 else "round"
    gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.00254, travel_mm=12, turn_mm=2.54)
    plan = usual(seed, gauge=gauge, limit=limit_mm("0.0254", "throw"))
    if shape == "flats":
        plan |= outside
    return ThrowPlan(**plan, throw_mm=(1.0, 3.0, 0.4)[seed % 3], throw_deg=float(seed * 37 % 360), shape=shape)


def machine(plan: ThrowPlan, rng: np.random.Generator) -> Body:
    """Work some way off its throw."""
    quirks = random_quirks(rng, plan, 1.5, 0.001)
    return Eccentric(plan, replace(quirks, size_mm=(0.0, float(rng.uniform(-0.3, 0.3)))), rng)


SAMPLES = (
    Sample(
        part="Throw-off cam", size="40 mm", limit="0.06 mm", kind="throw", machine="bramble", holder="four-jaw-200",
        gauge="plunger-fine", days_ago=10, author="Ode", seed=23, choices={"throw_mm": 3.0, "throw_deg": 90.0},
    ),
)  # fmt: skip
