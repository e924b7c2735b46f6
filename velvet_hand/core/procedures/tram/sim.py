"""Simulated machine of tram, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import MillHead
from ...model import own
from ...move import Lean, Move
from ...plan.base import Workpiece
from ...sim.body import Body, Circle, Hands, at_deg, random_hands, vector
from ...sim.by_hand import Control
from ...sim.example import held, usual
from ...sim.sample import Sample
from ...units import Typed
from .plan import TramPlan


class SimulatedHead(Body):
    """A plane under a head that turns about its pivots: heights over the table, in mm a mm."""

    hides = ("slope",)

    def __init__(self, plan: TramPlan, hands: Hands, rng: np.random.Generator, slope: complex) -> None:
        super().__init__(plan, hands, rng)
        self.slope, self.height, self.radius = slope, 0.0, plan.part.diameter_mm / 2
        self.pivot = complex(plan.pivot_x_mm, plan.pivot_y_mm)

    def circle(self, ring: str) -> Circle:
        """There is none: the gauge runs on a plane."""
        raise AssertionError(ring)

    def nearness(self, at: complex, ring: str = "") -> float:
        """Height of the table under the gauge; along a square the quill's own lean."""
        if ring == "quill-":
            return 0.0
        spot = self.radius * at_deg(at.real)
        return self.height + self.slope.real * spot.real + self.slope.imag * spot.imag

    def _turned(self, slope: complex) -> tuple[complex, float]:
        """The table's height at the pivot stays when the head turns about it."""
        p = self.pivot
        at_pivot = self.height + self.slope.real * p.real + self.slope.imag * p.imag
        return slope, at_pivot - slope.real * p.real - slope.imag * p.imag

    def do(self, move: Move) -> None:
        """Turn the head's top away from the named side, until the needle stands at the aim."""
        move = own(move, Lean)
        way, start = -at_deg(move.at_deg), (self.slope, self.height)

        def put(travel: float) -> None:
            self.slope, self.height = start
            self.slope, self.height = self._turned(start[0] + way * travel / self.radius)

        put(self.travel_to_aim(move, put, "sweep-") * self.hands.gain)
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """A soft hammer at the head's top, from four sides."""
        sides = (("right", 0.0), ("back", 90.0), ("left", 180.0), ("front", 270.0))
        return tuple(Control(id=str(deg), label=f"Top, from the {name}", kind="tap", at_deg=deg) for name, deg in sides)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """One blow: the top goes away from it."""
        way = -at_deg(float(control)) * self.blow_mm(amount) * self.hands.gain
        self.slope, self.height = self._turned(self.slope + way / self.radius)
        self.tight = False

    @property
    def astray(self) -> complex:
        """The lean, over the sweep."""
        return 2 * self.slope * self.radius

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return abs(self.astray)

    def kicked(self, shift: complex) -> None:
        """Clamping turns the head a little."""
        self.slope += shift / self.radius


def example(seed: int) -> TramPlan:
    """A plan by a number: every orientation and option comes round."""
    head = held(MillHead, diameter_mm=400)
    sweep = Workpiece.model_validate({"name": "table", "diameter": Typed(text="220", unit="mm")})
    plan = usual(seed, holder=head, carrier="gauge_turns", view="tailstock", part=sweep)
    pivots = ((0.0, 0.0), (60.0, 260.0), (-80.0, 0.0))[seed % 3]
    return TramPlan(**plan, pivot_x_mm=pivots[0], pivot_y_mm=pivots[1], quill_mm=(0.0, 100.0)[seed % 2])


def machine(plan: TramPlan, rng: np.random.Generator) -> SimulatedHead:
    """A head that leans."""
    return SimulatedHead(plan, random_hands(rng, plan), rng, vector(rng, 0.0005, 0.004))


SAMPLES = (
    Sample(
        part="Head after the heavy cut", size="220 mm", limit="0.06 mm", machine="heron", holder="heron-head",
        gauge="lever-half", days_ago=1.2, author="Ode", seed=41, choices={"pivot_y_mm": 260.0},
    ),
)  # fmt: skip
