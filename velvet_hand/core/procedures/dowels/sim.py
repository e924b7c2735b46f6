"""Simulated machine of dowels, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import DowelledHousing
from ...model import own
from ...move import Move, Swap
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, random_hands, vector
from ...sim.by_hand import Control, Option, dial, nearest
from ...sim.example import PINS, held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import DowelPlan


class SimulatedDowels(Body):
    """A housing whose bore goes where its two dowels put it; the arm that carries the gauge sags."""

    hides = ("start",)

    def __init__(self, plan: DowelPlan, hands: Hands, rng: np.random.Generator, bore: complex, sag_mm: float) -> None:
        super().__init__(plan, hands, rng)
        self.start, self.sag_mm = bore, sag_mm
        self.stock, self.behind = plan.stock.pieces, plan.mark_from == "behind"
        self.size_mm, self.mark_deg = 0.0, 90.0

    @property
    def center(self) -> complex:
        """Where the bore's center is."""
        return self.start + self.size_mm * at_deg(self.mark_deg)

    def circle(self, ring: str) -> Circle:
        """The bore from inside; the true bar from outside. The arm's droop lowers the gauge, so both seem higher."""
        lifted = complex(0.0, self.sag_mm)
        if ring == "bar-":
            return Circle(lifted, 20.0, inside=False)
        return part_circle(self.plan, self.center + lifted)

    def do(self, move: Move) -> None:
        """Both dowels alike: the housing shifts by their offset toward their mark, set to half a degree or so."""
        move = own(move, Swap)
        self.size_mm, self.mark_deg = move.mm, move.at_deg + float(self._rng.normal(0, 0.4))
        self.tight = False

    @property
    def _sizes(self) -> tuple[float, ...]:
        return tuple(sorted({0.0, *(piece.mm for piece in self.stock)}))

    def controls(self) -> tuple[Control, ...]:
        """Which pair of dowels, and where their mark stands: straight up as found."""
        sizes = tuple(Option(id=f"{mm:g}", words=f"{mm:g} mm offset" if mm else "straight") for mm in self._sizes)
        seen = "from behind" if self.behind else "from the front"
        return (
            Control(id="pair", label="Both dowels", kind="pick", choices=sizes),
            dial("mark", f"Their mark, {seen}", "clockwise", "counter-clockwise"),
        )

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return nearest(self._sizes, self.size_mm)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """Drawn, and put in again."""
        if held:
            return
        if control == "pair":
            self.size_mm = self._sizes[int(amount)]
        else:
            self.mark_deg += amount if self.behind else -amount
        self.tight = False

    @property
    def best_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * min(abs(abs(self.start) - mm) for mm in self._sizes)

    @property
    def astray(self) -> complex:
        """Where the bore's center stands."""
        return self.center


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
