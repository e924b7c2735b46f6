"""Simulated machine of throw, and a plan for it."""

from __future__ import annotations

import cmath
import math
from dataclasses import replace

import numpy as np

from ...gauge import Gauge
from ...sim.body import Body
from ...sim.example import limit_mm, part_of, usual
from ...sim.jaws import Quirks, SimulatedChuck, random_quirks
from .plan import ThrowPlan


class Eccentric(SimulatedChuck):
    """Round work off its throw, or work on flats whose opposed pairs differ in size."""

    most_mm = 60.0

    def __init__(self, plan: ThrowPlan, quirks: Quirks, rng: np.random.Generator) -> None:
        super().__init__(plan, quirks, rng)
        self.wanted = cmath.rect(plan.throw_mm, math.radians(plan.throw_deg))

    def nearness(self, at: complex, ring: str = "") -> float:
        """A flat is read at its dead point."""
        if not self.plan.flats:
            return super().nearness(at, ring)
        along = (self.center * cmath.rect(1, -math.radians(at.real))).real
        return along + self.quirks.size_mm[round(at.real / 90) % 2]

    @property
    def true_tir_mm(self) -> float:
        """About the throw that is wanted."""
        return 2 * abs(self.center - self.wanted)


def example(seed: int) -> ThrowPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    shape = ("round", "flats")[(seed // 2) % 2]
    gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.00254, travel_mm=12, turn_mm=2.54)
    plan = usual(seed, gauge=gauge, limit=limit_mm("0.0254", "throw"))
    if shape == "flats":
        plan |= outside
    return ThrowPlan(**plan, throw_mm=(1.0, 3.0, 0.4)[seed % 3], throw_deg=float(seed * 37 % 360), shape=shape)


def machine(plan: ThrowPlan, rng: np.random.Generator) -> Body:
    """Work some way off its throw."""
    quirks = random_quirks(rng, plan, 1.5, 0.001)
    return Eccentric(plan, replace(quirks, size_mm=(0.0, float(rng.uniform(-0.3, 0.3)))), rng)
