"""Simulated machine of rod, and a plan for it."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np

from ...holders import Vise
from ...readings import Station
from ...sim.example import FEELERS, edge_usual, held, limit_mm
from ...sim.sample import Sample
from ...sim.table import SimulatedEdge, edge_as_found
from .plan import RodPlan


class SimulatedGap(SimulatedEdge):
    """An edge seen by a rod in the spindle: it touches at one end, and a gap is left at the other."""

    rod = 0.0

    def read(self, spot: Station | float) -> float | str:
        """A rod that is brought up afresh for every pass: at the first place it may or may not touch."""
        if isinstance(spot, Station) and spot.id == "s1":
            self.rod = max(self.nearness(complex(x, 0.0)) for x in self.edge_plan.spots_mm)
        seen = super().read(spot)
        return seen if isinstance(seen, str) else max(seen, 0.0)

    def needle(self, at: complex, ring: str = "") -> float:
        """The gap itself."""
        return self.rod - self.nearness(at, ring)

    @property
    def blind_mm(self) -> float:
        """Feelers go in steps."""
        return 0.15


def example(seed: int) -> RodPlan:
    """A plan by a number: every orientation and option comes round."""
    vise = held(Vise, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
    seen = {"gauge": FEELERS, "limit": limit_mm("0.3", "over_jaw"), "spots_mm": (10.0, 150.0)}
    return RodPlan(**edge_usual(seed, vise, **seen), by=("rod", "slot")[seed // 2 % 2])


def machine(plan: RodPlan, rng: np.random.Generator) -> SimulatedGap:
    """An edge some millimeters off."""
    found = edge_as_found(plan, rng, 0.01)
    hands = replace(found["hands"], noise_mm=plan.gauge.graduation_mm / 4, stop_mm=plan.gauge.graduation_mm / 2)
    turn = math.radians(plan.target_deg) + float(rng.choice([-1, 1]) * rng.uniform(0.005, 0.03))
    return SimulatedGap(plan, **{**found, "hands": hands, "turn": turn})


SAMPLES = (
    Sample(
        part="Forme bed clamp, roughed in", size="140 mm", limit="0.3 mm", kind="over_jaw", machine="heron",
        holder="vise-160", gauge="feelers", unit="mm", days_ago=5.3, author="Wilf", seed=60,
        choices={"spots_mm": (10.0, 150.0)},
    ),
)  # fmt: skip
