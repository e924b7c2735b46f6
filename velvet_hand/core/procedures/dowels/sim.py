"""Simulated machine of dowels, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import DowelledHousing
from ...move import Move, Swap
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, random_hands, vector
from ...sim.example import PINS, held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import DowelPlan


class SimulatedDowels(Body):
    """A housing whose bore goes where its two dowels put it; the arm that carries the gauge sags."""

    hides = ("start",)

    def __init__(self, plan: DowelPlan, hands: Hands, rng: np.random.Generator, bore: complex, sag_mm: float) -> None:
        super().__init__(plan, hands, rng)
        self.start, self.sag_mm, self.put = bore, sag_mm, 0j

    @property
    def center(self) -> complex:
        """Where the bore's center is."""
        return self.start + self.put

    def circle(self, ring: str) -> Circle:
        """The bore from inside; the true bar from outside. The arm's droop lowers the gauge, so both seem higher."""
        lifted = complex(0.0, self.sag_mm)
        if ring == "bar-":
            return Circle(lifted, 20.0, inside=False)
        return part_circle(self.plan, self.center + lifted)

    def do(self, move: Move) -> None:
        """Both dowels alike: the housing shifts by their offset toward their mark, set to half a degree or so."""
        assert isinstance(move, Swap)
        self.put = move.mm * at_deg(move.at_deg + float(self._rng.normal(0, 0.4)))
        self.tight = False

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.center)


def example(seed: int) -> DowelPlan:
    """A plan by a number: every orientation and option comes round."""
    body = held(DowelledHousing, diameter_mm=300)
    plan = usual(seed, holder=body, carrier="gauge_turns", part=part_of(seed, "inside"), limit=limit_mm("0.06"))
    return DowelPlan(
        **plan,
        stock=PINS,
        span_mm=240,
        sag=("swept", "none")[seed % 2],
        mark_from=("front", "behind")[seed // 2 % 2],
    )


def machine(plan: DowelPlan, rng: np.random.Generator) -> SimulatedDowels:
    """A bore off the shaft."""
    sizes = [p.mm for p in plan.stock.pieces]
    sag = float(rng.uniform(0, 0.02)) if plan.sag == "swept" else 0.0
    return SimulatedDowels(plan, random_hands(rng, plan, 0.0), rng, vector(rng, 0.02, max(sizes)), sag)


SAMPLES = (
    Sample(
        part="Drive housing bore", size="80 mm", limit="0.06 mm", machine="wren", holder="drive-housing", gauge="lever-fine",
        stock="offset-dowels", days_ago=2.5, author="Tamsin", seed=30, choices={"span_mm": 190.0},
    ),
)  # fmt: skip
