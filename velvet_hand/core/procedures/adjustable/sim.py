"""Simulated machine of adjustable, and a plan for it."""

from __future__ import annotations

import math

import numpy as np

from ...holders import AdjustableBody
from ...move import Move, Screws
from ...sim.body import Body, Circle, Hands, part_circle, random_hands, vector, watched
from ...sim.example import held, short_lever, usual
from ...sim.sample import Sample
from .plan import AdjustablePlan


class SimulatedAdjustable(Body):
    """A body between n screws. ``follows`` says on which side of the contact the screws sit."""

    hides = ("center",)

    plan: AdjustablePlan

    def __init__(self, plan: AdjustablePlan, hands: Hands, rng: np.random.Generator, center: complex) -> None:
        super().__init__(plan, hands, rng)
        self.center, self.went = center, 0j

    def circle(self, ring: str) -> Circle:
        """The work in the chuck."""
        return part_circle(self.plan, self.center)

    def do(self, move: Move) -> None:
        """Slacken what is to be slackened, then tighten the rest alike until the needle stands at the aim."""
        holder = self.plan.holder
        side = 1.0 if holder.follows == "toward" else -1.0
        start, went = self.center, self.went
        normals, advances = [], []
        assert isinstance(move, Screws)
        for turn in move.turns:
            angle = (turn.number - 1) * 360.0 / holder.jaws * (-1 if holder.numbering == "cw" else 1)
            normals.append([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
            advances.append(side * (turn.mm or 0.0))
        # The body comes to rest where every screw that was turned touches again.
        x, y = np.linalg.lstsq(np.array(normals), np.array(advances), rcond=None)[0]
        whole = complex(x, y)
        way = whole / abs(whole)

        def needle(travel: float) -> float:
            self.center = start + way * travel
            value = self.needle(watched(move).deg)
            self.center = start
            return value

        stays = self.travel_to_aim(move, needle) * self.hands.gain
        goal = went + way * stays
        if holder.clearance_mm is not None and abs(goal) > holder.clearance_mm:
            goal = goal / abs(goal) * holder.clearance_mm
        self.center, self.went = start + goal - went, goal
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Locking drags the body."""
        self.center += shift

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.center)


def example(seed: int) -> AdjustablePlan:
    """A plan by a number: every orientation and option comes round."""
    numbering = ("ccw", "cw")[(seed // 5) % 2]
    screws = held(AdjustableBody, jaws=(3, 4, 6)[seed % 3], numbering=numbering, lead_mm=1.0, clearance_mm=0.4,
        follows=("toward", "away")[(seed // 3) % 2],
    )  # fmt: skip
    return AdjustablePlan(**usual(seed, holder=screws, **short_lever(seed, 0.2)))


def machine(plan: AdjustablePlan, rng: np.random.Generator) -> SimulatedAdjustable:
    """A body somewhere in its range."""
    most = (plan.holder.clearance_mm or 0.3) * 0.8
    return SimulatedAdjustable(plan, random_hands(rng, plan, 0.002), rng, vector(rng, 0.02, most))


SAMPLES = (
    Sample(
        part="Platen screw", size="28 mm", limit="0.0127 mm", machine="little-owl", holder="set-body-130", gauge="lever-fine",
        days_ago=4.5, author="Tamsin", seed=27,
    ),
)  # fmt: skip
