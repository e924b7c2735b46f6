"""Simulated machine of four jaw, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...sim.body import Body
from ...sim.example import short_lever, usual
from ...sim.jaws import SimulatedChuck, random_quirks
from ...sim.sample import Sample
from .plan import FourJawPlan


def example(seed: int) -> FourJawPlan:
    """A plan by a number: every orientation and option comes round."""
    count, first = ((4, 0.0), (8, 0.0), (6, 0.0), (12, 15.0))[(seed // 16) % 4]
    stations = tuple(first + 360.0 / count * i for i in range(count))
    school = ("high_spot", "pairs")[(seed // 32) % 2]
    return FourJawPlan(
        **usual(seed, stations_deg=stations, school=school, between=count == 4, **short_lever(seed, 0.4))
    )


def machine(plan: FourJawPlan, rng: np.random.Generator) -> Body:
    """A chuck as a shop may have it."""
    return SimulatedChuck(plan, random_quirks(rng, plan), rng)


#: The workshop's own history (``demo/world.py``) is worked on it, with errors that are chosen there.
SAMPLES: tuple[Sample, ...] = ()
