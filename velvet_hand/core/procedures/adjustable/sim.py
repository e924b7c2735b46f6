"""Simulated machine of adjustable, and a plan for it."""

from __future__ import annotations

import itertools
import math

import numpy as np

from ...holders import AdjustableBody
from ...model import own
from ...move import Move, Screws
from ...sim.body import Centered, Hands, at_deg, random_hands, vector
from ...sim.by_hand import Control
from ...sim.example import held, short_lever, usual
from ...sim.sample import Sample
from .plan import AdjustablePlan


class SimulatedAdjustable(Centered):
    """A body between n screws. ``follows`` says on which side of the contact the screws sit."""

    plan: AdjustablePlan

    def __init__(self, plan: AdjustablePlan, hands: Hands, rng: np.random.Generator, center: complex) -> None:
        super().__init__(plan, hands, rng, center)
        self.went = 0j
        #: How far each screw lets the body come, along its own way.
        self.stands = dict.fromkeys(plan.holder.numbers, 0.0)

    def do(self, move: Move) -> None:
        """Slacken what is to be slackened, then tighten the rest alike until the needle stands at the aim."""
        holder = self.plan.holder
        side = 1.0 if holder.follows == "toward" else -1.0
        start, went = self.center, self.went
        normals, advances = [], []
        move = own(move, Screws)
        for turn in move.turns:
            angle = self._angle(turn.number)
            normals.append([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
            advances.append(side * (turn.mm or 0.0))
        # The body comes to rest where every screw that was turned touches again.
        x, y = np.linalg.lstsq(np.array(normals), np.array(advances), rcond=None)[0]
        whole = complex(x, y)
        way = whole / abs(whole)

        def put(travel: float) -> None:
            self.center = start + way * travel

        self._goes_to(went + way * self.travel_to_aim(move, put) * self.hands.gain)
        self._all_touch()

    def _angle(self, number: int) -> float:
        holder = self.plan.holder
        return (number - 1) * 360.0 / holder.jaws * (-1 if holder.numbering == "cw" else 1)

    def _goes_to(self, goal: complex) -> None:
        """As far as its clearance lets it."""
        clearance = self.plan.holder.clearance_mm
        if clearance is not None and abs(goal) > clearance:
            goal = goal / abs(goal) * clearance
        self.center, self.went = self.center + goal - self.went, goal
        self.tight = False

    def _way(self, number: int) -> complex:
        """Which way that screw takes the body when it is tightened."""
        return at_deg(self._angle(number)) * (1 if self.plan.holder.follows == "toward" else -1)

    def _all_touch(self) -> None:
        self.stands = {n: (self.went.conjugate() * self._way(n)).real for n in self.stands}

    def _rests(self, stands: dict[int, float]) -> complex | None:
        """Where the screws let the body rest, no farther from where it is than they push it; None when they squeeze it."""
        ways = [(self._way(n), mm) for n, mm in stands.items()]
        found = [self.went, *(self.went + way * (mm - (self.went.conjugate() * way).real) for way, mm in ways)]
        for (a, at_a), (b, at_b) in itertools.combinations(ways, 2):
            if abs((a.conjugate() * b).imag) > 1e-6:
                x, y = np.linalg.solve([[a.real, a.imag], [b.real, b.imag]], [at_a, at_b])
                found.append(complex(x, y))
        fits = [d for d in found if all((d.conjugate() * way).real >= mm - 1e-9 for way, mm in ways)]
        return min(fits, key=lambda d: abs(d - self.went), default=None)

    def controls(self) -> tuple[Control, ...]:
        """Each of its screws, with a key."""
        lead = self.plan.holder.lead_mm or 1.0
        return tuple(
            Control(
                id=f"screw{n}", label=f"Screw {n}", kind="key", at_deg=self._angle(n) % 360, more="tighter", less="looser",
                step_mm=lead / 720, turn_deg=0.5,
            )
            for n in self.stands
        )  # fmt: skip

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A screw lets the body go, or pushes it as far as the others have been slackened; then it only squeezes."""
        n = int(control.removeprefix("screw"))
        self.tight, mm = False, amount
        if self._rests(self.stands | {n: self.stands[n] + amount}) is None:
            mm, most = 0.0, amount
            for _ in range(30):
                middle = (mm + most) / 2
                fits = self._rests(self.stands | {n: self.stands[n] + middle}) is not None
                mm, most = (middle, most) if fits else (mm, middle)
        self.stands[n] += mm
        rests = self._rests(self.stands)
        if mm > 0 and rests is not None:
            part = 1.0 if held else self.hands.gain
            self._goes_to(self.went + (rests - self.went) * part)
            self.stands[n] = min(self.stands[n], (self.went.conjugate() * self._way(n)).real)

    @property
    def best_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * max(abs(self.center - self.went) - (self.plan.holder.clearance_mm or math.inf), 0.0)

    def tighten(self) -> None:
        """See ``Body``; no screw is left loose."""
        self._all_touch()
        super().tighten()


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
