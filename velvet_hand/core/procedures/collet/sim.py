"""Simulated machine of collet, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import Collet
from ...model import own
from ...move import Clock, Move
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, random_hands, vector
from ...sim.by_hand import Control, Option
from ...sim.example import held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import ColletPlan

#: A hand turns a collet as finely as this.
STEP_DEG = 5


class SimulatedCollet(Body):
    """A bar in a collet in a taper: two axes, each through two points."""

    hides = ("spindle", "collet")

    curable = False

    def __init__(
        self, plan: ColletPlan, hands: Hands, rng: np.random.Generator,
        spindle: tuple[complex, complex], collet: tuple[complex, complex],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.spindle, self.collet, self.positions = spindle, collet, plan.positions_deg
        self.deg = plan.positions_deg[0]

    def circle(self, ring: str) -> Circle:
        """The bar at the nose or far out, the collet at the ring's position or where it stands."""
        if ring[1:-1]:
            self.deg = self.positions[int(ring[1:-1])]
        plane = 0 if ring[0] == "n" else 1
        return part_circle(self.plan, self.spindle[plane] + self.collet[plane] * at_deg(self.deg))

    def do(self, move: Move) -> None:
        """Turn the collet to its mark, to half a degree or so."""
        move = own(move, Clock)
        self.deg = move.at_deg + float(self._rng.normal(0, 0.5))
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """The collet, turned in its taper, counter-clockwise from the spindle’s mark."""
        marks = tuple(Option(id=str(deg), words=f"{deg}°") for deg in range(0, 360, STEP_DEG))
        return (Control(id="collet", label="Collet, from the spindle’s mark", kind="pick", choices=marks),)

    def lying(self, control: str) -> int:
        """See ``Body``: reading brings it to its positions too."""
        return round(self.deg / STEP_DEG) % (360 // STEP_DEG)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """Slackened, turned, and closed."""
        self.deg, self.tight = amount * STEP_DEG, False

    @property
    def astray(self) -> complex:
        """Where the bar's center stands in the worse plane."""
        planes = zip(self.spindle, self.collet, strict=True)
        return max((spindle + collet * at_deg(self.deg) for spindle, collet in planes), key=abs)

    @property
    def best_tir_mm(self) -> float:
        """See ``Body``."""
        return min(self.at(float(deg)) for deg in range(360))

    def at(self, deg: float) -> float:
        """TIR of the worse plane at an angle of the collet."""
        return 2 * max(abs(s + c * at_deg(deg)) for s, c in zip(self.spindle, self.collet, strict=True))

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return self.at(self.deg)


def example(seed: int) -> ColletPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside", "ground")}
    nose = held(Collet, max_work_mm=80)
    turns = ((0.0, 180.0), (0.0, 120.0, 240.0))[seed % 2]
    plan = usual(seed, **outside, holder=nose, limit=limit_mm("0.018"), stations_deg=(0.0, 90.0, 180.0, 270.0))
    return ColletPlan(**plan, far_z_mm=80, positions_deg=turns)


def machine(plan: ColletPlan, rng: np.random.Generator) -> SimulatedCollet:
    """A spindle and a collet that run out."""
    spindle = vector(rng, 0, 0.006)
    collet = vector(rng, 0.002, 0.01)
    out = (spindle + vector(rng, 0, 0.004), collet + vector(rng, 0, 0.006))
    return SimulatedCollet(plan, random_hands(rng, plan, 0.0), rng, (spindle, out[0]), (collet, out[1]))


SAMPLES = (
    Sample(
        part="Gripper pin", size="12 mm", limit="0.02 mm", machine="little-owl", holder="collet-nose", gauge="lever-fine",
        days_ago=4, author="Ode", seed=46, choices={"far_z_mm": 60.0},
    ),
)  # fmt: skip
