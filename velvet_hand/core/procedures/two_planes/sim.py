"""Simulated machine of two planes, and a plan for it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...move import Jaws, Move, TapRound
from ...sim.body import Body, at_deg, vector
from ...sim.by_hand import Control, blows, struck_deg
from ...sim.example import SECOND_LEVER, part_of, usual
from ...sim.jaws import Quirks, SimulatedChuck, random_quirks
from ...sim.sample import Sample
from .plan import TwoPlanesPlan


class LongWork(SimulatedChuck):
    """A rigid part whose axis leans: each plane has a center of its own, and a tap turns it about the jaws."""

    def __init__(self, plan: TwoPlanesPlan, quirks: Quirks, rng: np.random.Generator) -> None:
        super().__init__(plan, quirks, rng)
        self.planes_mm = {"": plan.near_z_mm, "near": plan.near_z_mm, "far": plan.far_z_mm}
        self.jaw_ring, self.tap_ring = "near", "far"
        self.reach_mm = plan.far_z_mm

    def drawn_in(self, shift: complex) -> None:
        """A jaw tips the work a little as it pushes."""
        super().drawn_in(shift)
        self.tilt += shift * 1j * float(self._rng.normal(0, 0.05)) / self.reach_mm

    def controls(self) -> tuple[Control, ...]:
        """Four jaws, and a soft hammer round the far end."""
        return (*super().controls(), blows("Far end"))

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A key, or a blow far out."""
        if control.startswith("tap."):
            self.struck(at_deg(struck_deg(control)), self.blow_mm(amount))
        else:
            super().by_hand(control, amount, held=held)

    def in_hand(self, move: Move) -> bool:
        """See ``Body``."""
        return isinstance(move, Jaws | TapRound)

    @property
    def astray(self) -> complex:
        """Where the center of the worse plane stands."""
        return max((self.center + self.tilt * z for z in self.planes_mm.values()), key=abs)


def example(seed: int) -> TwoPlanesPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    far = SECOND_LEVER if seed % 3 == 0 else None
    return TwoPlanesPlan(
        **usual(seed, **outside, school="high_spot"), near_z_mm=25, far_z_mm=(90, 160)[seed % 2], far_gauge=far
    )


def machine(plan: TwoPlanesPlan, rng: np.random.Generator) -> Body:
    """Long work in a chuck, leaning."""
    quirks = random_quirks(rng, plan, 0.6, 0.001)
    lean = vector(rng, 0.0, 0.4) / plan.far_z_mm
    return LongWork(plan, replace(quirks, tilt=lean, push_far=int(rng.choice([-1, 1]))), rng)


SAMPLES = (
    Sample(
        part="Inking drum shaft", size="42 mm", limit="0.06 mm", machine="little-owl", holder="four-jaw-200",
        gauge="plunger-fine", days_ago=11, author="Tamsin", seed=22, choices={"near_z_mm": 30.0, "far_z_mm": 170.0},
    ),
)  # fmt: skip
