"""Simulated machine of center, and a plan for it."""

from __future__ import annotations

import cmath
from typing import Any

import numpy as np

from ...holders import RotaryTable
from ...move import Move
from ...sim.body import Centered, random_hands
from ...sim.by_hand import TIGHT, Control
from ...sim.example import held, limit_mm, usual
from ...sim.sample import Sample
from ...wording import plain
from .plan import CentrePlan


class SimulatedCentre(Centered):
    """A rotary table's bore somewhere beside the spindle; its handles move the table, which is watched at a side; locks drag it."""

    plan: CentrePlan

    def do(self, move: Move) -> None:
        """Turn the handle that the sentence names, the way it names, until the needle stands at the aim."""
        said, start = plain(move.sentence, "mm", 0.001), self.center
        clockwise = "counter-clockwise" not in said
        way = self._way("X" if "X handle" in said else "Y") * (1 if clockwise else -1)

        def put(travel: float) -> None:
            self.center = start + way * travel

        put(self.travel_to_aim(move, put))
        self.tight = False

    def _way(self, axis: str) -> complex:
        """Which way the table goes when that handle is turned clockwise."""
        plan = self.plan
        if axis == "X":
            return 1 + 0j if plan.x_clockwise == "right" else -1 + 0j
        return 1j if plan.y_clockwise == "away" else -1j

    def controls(self) -> tuple[Control, ...]:
        """Both handles of the table, by small parts of a turn."""
        lead = self.plan.dial_mm
        return tuple(
            Control(
                id=axis, label=f"{axis} handle", kind="key", more="clockwise", less="counter-clockwise",
                step_mm=lead / 2500, turn_deg=0.144,
            )
            for axis in ("X", "Y")
        )  # fmt: skip

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A handle turned; what is locked gives next to nothing."""
        self.center += self._way(control) * amount * (TIGHT if self.tight else 1.0)
        self.tight = self.tight and held


def example(seed: int) -> CentrePlan:
    """A plan by a number: every orientation and option comes round."""
    table = held(RotaryTable, diameter_mm=300)
    swept = {"carrier": "gauge_turns", "view": "tailstock", "school": "high_spot", "limit": limit_mm("0.02")}
    ways: dict[str, Any] = {
        "x_clockwise": ("right", "left")[seed // 2 % 2],
        "y_clockwise": ("away", "toward")[seed // 5 % 2],
    }
    return CentrePlan(**usual(seed, holder=table, **swept), **ways)


def machine(plan: CentrePlan, rng: np.random.Generator) -> SimulatedCentre:
    """A table beside the spindle."""
    at = cmath.rect(float(rng.uniform(0.05, 0.9)), float(rng.uniform(0, 6.28)))
    return SimulatedCentre(plan, random_hands(rng, plan, 0.006), rng, at)


SAMPLES = (
    Sample(
        part="Index ring", size="60 mm", limit="0.06 mm", machine="heron", holder="rotary-250", gauge="lever-half",
        days_ago=1.8, author="Tamsin", seed=66,
    ),
)  # fmt: skip
