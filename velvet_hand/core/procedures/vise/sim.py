"""Simulated machine of vise, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import Vise
from ...sim.body import Body
from ...sim.example import edge_usual, held
from ...sim.sample import Sample
from ...sim.table import SimulatedEdge, edge_as_found
from .plan import VisePlan


def example(seed: int) -> VisePlan:
    """A plan by a number: every orientation and option comes round."""
    return VisePlan(**edge_usual(seed, held(Vise, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))))


def machine(plan: VisePlan, rng: np.random.Generator) -> Body:
    """A vise some tenths off."""
    rods = (12.0, 12.0 + plan.rods_differ_mm) if plan.read_on == "rods" else None
    return SimulatedEdge(plan, rods_mm=rods, **edge_as_found(plan, rng))


SAMPLES = (
    Sample(
        part="Side lay rail", size="140 mm", limit="0.015 mm", kind="over_jaw", machine="heron", holder="vise-160",
        gauge="lever-micron", unit="mm", days_ago=5.2, author="Wilf", seed=61, picture="vise",
    ),
    Sample(
        part="Gripper bar, second side", size="180 mm", limit="0.01 mm", kind="over_part", machine="heron", holder="vise-160",
        gauge="lever-micron", unit="mm", days_ago=0.01, author="Ode", seed=62, stop_after=2,
    ),
)  # fmt: skip
