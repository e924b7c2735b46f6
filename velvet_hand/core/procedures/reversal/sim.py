"""Simulated machine of reversal, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import ThreeJaw
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, pushed, vector
from ...sim.example import held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import ReversalPlan


class SimulatedReversal(Body):
    """Work that is gripped again in other rotations."""

    def __init__(
        self, plan: ReversalPlan, hands: Hands, rng: np.random.Generator, chuck: complex, work: complex
    ) -> None:
        super().__init__(plan, hands, rng)
        self.chuck, self.work, self.positions = chuck, work, plan.positions_deg
        s = hands.kick_scatter_mm
        self._slip = [complex(rng.normal(0, s), rng.normal(0, s)) for _ in plan.positions_deg]

    def circle(self, ring: str) -> Circle:
        """The work at the position of that ring."""
        i = int(ring[1:-1])
        return part_circle(self.plan, self.chuck + self.work * at_deg(self.positions[i]) + self._slip[i])

    @property
    def astray(self) -> complex:
        """What is the chuck's own."""
        return self.chuck


def example(seed: int) -> ReversalPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    numbering = ("ccw", "cw")[(seed // 5) % 2]
    three = held(ThreeJaw, numbering=numbering)
    turns = ((0.0, 180.0), (0.0, 120.0, 240.0), (0.0, 90.0, 180.0, 270.0))[seed % 3]
    return ReversalPlan(**usual(seed, **outside, holder=three, limit=limit_mm("0.03")), positions_deg=turns)


def machine(plan: ReversalPlan, rng: np.random.Generator) -> SimulatedReversal:
    """A chuck and work that run out."""
    hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.15, kick_scatter_mm=0.0005)
    return SimulatedReversal(plan, pushed(hands, rng), rng, vector(rng, 0, 0.06), vector(rng, 0, 0.06))


SAMPLES = (
    Sample(
        part="Roller end, twice chucked", size="30 mm", limit="0.08 mm", machine="bramble", holder="three-jaw-160",
        gauge="lever-fine", days_ago=6.5, author="Tamsin", seed=26, choices={"positions_deg": (0.0, 120.0, 240.0)},
    ),
)  # fmt: skip
