"""Simulated machine of faceplate, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import Faceplate
from ...model import own
from ...move import Move, TapRound
from ...sim.body import Centered, at_deg, random_hands, vector
from ...sim.by_hand import Control, blows, struck_deg
from ...sim.example import held, short_lever, usual
from ...sim.sample import Sample
from .plan import FaceplatePlan


class SimulatedFaceplate(Centered):
    """Work that slides on a plate when it is tapped, and is dragged when the clamps are pinched."""

    def do(self, move: Move) -> None:
        """Blows at the named place, through the middle, until the needle stands at the aim."""
        move = own(move, TapRound)
        blow, start = -at_deg(move.at_deg), self.center

        def put(travel: float) -> None:
            self.center = start + blow * travel

        self._slid(blow, self.travel_to_aim(move, put))

    def _slid(self, blow: complex, travel: float) -> None:
        """It springs back a little, and goes a little aside."""
        aside = blow * 1j * travel * float(self._rng.normal(0, 0.03))
        self.center += blow * travel * self.hands.gain + aside
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """A soft hammer all round."""
        return (blows("Part"),)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """One blow: it goes away from it."""
        self._slid(-at_deg(struck_deg(control)), self.blow_mm(amount))


def example(seed: int) -> FaceplatePlan:
    """A plan by a number: every orientation and option comes round."""
    plate = held(Faceplate, diameter_mm=300)
    return FaceplatePlan(**usual(seed, holder=plate, **short_lever(seed, 0.4)))


def machine(plan: FaceplatePlan, rng: np.random.Generator) -> SimulatedFaceplate:
    """Work some tenths off."""
    return SimulatedFaceplate(plan, random_hands(rng, plan), rng, vector(rng, 0.1, 1.2))


SAMPLES = (
    Sample(
        part="Rocker bearing", size="68 mm", limit="0.06 mm", machine="bramble", holder="faceplate-300", gauge="lever-half",
        days_ago=1.5, author="Wilf", seed=44, choices={"clamps": 3},
    ),
)  # fmt: skip
