"""Simulated machine of four jaw, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...sim.body import Body
from ...sim.example import usual
from ...sim.jaws import SimulatedChuck, random_quirks
from .plan import FourJawPlan


def example(seed: int) -> FourJawPlan:
    """A plan by a number: every orientation and option comes round."""
    return FourJawPlan(**usual(seed))


def machine(plan: FourJawPlan, rng: np.random.Generator) -> Body:
    """A chuck as a shop may have it."""
    return SimulatedChuck(plan, random_quirks(rng, plan), rng)
