"""Simulated machine of rough, and a plan for it."""

from __future__ import annotations

import cmath
import math
from dataclasses import replace

import numpy as np

from ...sim.body import Body, vector
from ...sim.example import RULE, limit_mm, part_of, usual
from ...sim.jaws import POINTER_MM, Quirks, SimulatedChuck, random_quirks
from ...sim.sample import Sample
from .plan import RoughPlan


class RoughWork(SimulatedChuck):
    """Work that is read to a pointer; its face is tapped square, or its outer end over."""

    most_mm = 60.0

    def __init__(self, plan: RoughPlan, quirks: Quirks, rng: np.random.Generator) -> None:
        super().__init__(plan, quirks, rng)
        self.behind, self.tap_ring = plan.second == "feelers", "face"

    def nearness(self, at: complex, ring: str = "") -> float:
        """How near the surface or the face is to the pointer."""
        if ring == "face":
            return -POINTER_MM + (self.face * cmath.rect(1, -math.radians(at.real))).real
        return super().nearness(at, ring) - self.plan.part.diameter_mm / 2 - POINTER_MM

    def tapped(self, blow: complex, travel: float) -> None:
        """On the face it sets it square; the outer end is tapped over from the other side."""
        self.face -= self.side_of(blow) * travel

    def side_of(self, blow: complex) -> complex:
        """See ``SimulatedChuck``."""
        return -blow if self.behind else blow

    @property
    def blind_mm(self) -> float:
        """It is read with a rule."""
        return 0.6


def example(seed: int) -> RoughPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    kind = {"carrier": "work_turns", "gauge": RULE, "limit": limit_mm("2.5"), **outside}
    return RoughPlan(**usual(seed, **kind), second=("face", "none", "feelers")[seed % 3])


def machine(plan: RoughPlan, rng: np.random.Generator) -> Body:
    """Rough work, far off."""
    quirks = random_quirks(rng, plan, 12.0, plan.limit.mm / 3)
    face = vector(rng, 0.5, 3.0)
    return RoughWork(plan, replace(quirks, face=face, noise_mm=0.08, stop_mm=0.15), rng)


SAMPLES = (
    Sample(
        part="Flywheel casting", size="210 mm", limit="2.5 mm", machine="bramble", holder="four-jaw-315", gauge="rule",
        unit="mm", days_ago=12, author="Wilf", seed=21, choices={"second": 'face', "face_radius_mm": 70.0},
    ),
)  # fmt: skip
