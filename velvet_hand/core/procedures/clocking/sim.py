"""Simulated machine of clocking, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import ThreeJaw
from ...model import own
from ...move import Clock, Move
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, random_hands, vector
from ...sim.by_hand import Control, Option
from ...sim.example import held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import ClockingPlan


class SimulatedClocking(Body):
    """A plate that runs out, and a chuck that runs out on it, turned by whole bolt positions."""

    hides = ("plate", "chuck")

    curable = False

    def __init__(
        self, plan: ClockingPlan, hands: Hands, rng: np.random.Generator, plate: complex, chuck: complex
    ) -> None:
        super().__init__(plan, hands, rng)
        self.plate, self.chuck, self.bolts, self.position = plate, chuck, plan.bolts, 1

    @property
    def astray(self) -> complex:
        """Where the bar's center stands."""
        return self.plate + self.chuck * at_deg(360.0 / self.bolts * (self.position - 1))

    def circle(self, ring: str) -> Circle:
        """The register, or the bar in the chuck."""
        return part_circle(self.plan, self.plate if ring == "plate" else self.astray)

    def do(self, move: Move) -> None:
        """Bolt the chuck on at the named position."""
        move = own(move, Clock)
        self.position = move.position
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """The chuck on its bolts."""
        turns = tuple(
            Option(id=str(n), words=f"position {n}, {360 * (n - 1) / self.bolts:g}°") for n in range(1, self.bolts + 1)
        )
        return (Control(id="chuck", label="Chuck on the plate", kind="pick", choices=turns),)

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return self.position - 1

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """Bolt it on there."""
        self.position = int(amount) + 1
        self.tight = False

    @property
    def best_tir_mm(self) -> float:
        """The least that any position gives."""
        return 2 * min(abs(self.plate + self.chuck * at_deg(360.0 / self.bolts * k)) for k in range(self.bolts))


def example(seed: int) -> ClockingPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    numbering = ("ccw", "cw")[(seed // 5) % 2]
    three = held(ThreeJaw, numbering=numbering)
    plan = usual(seed, **outside, holder=three, limit=limit_mm("0.02"))
    return ClockingPlan(**plan, bolts=(3, 4, 6)[seed % 3], way=("every", "oppose")[(seed // 4) % 2])


def machine(plan: ClockingPlan, rng: np.random.Generator) -> SimulatedClocking:
    """A plate and a chuck that run out."""
    hands = random_hands(rng, plan, 0.0)
    return SimulatedClocking(plan, hands, rng, vector(rng, 0.01, 0.04), vector(rng, 0.01, 0.04))


SAMPLES = (
    Sample(
        part="Register of the three-jaw", size="25 mm", limit="0.02 mm", machine="wren", holder="three-jaw-160",
        gauge="lever-fine", days_ago=7, author="Wilf", seed=50, choices={"bolts": 6},
    ),
    Sample(
        part="Chuck moved to the Wren", size="25 mm", limit="0.03 mm", machine="wren", holder="three-jaw-160",
        gauge="lever-fine", days_ago=0.05, author="Wilf", seed=55, choices={"bolts": 3}, stop_after=1,
    ),
)  # fmt: skip
