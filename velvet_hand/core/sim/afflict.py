"""Put one trouble into a simulated machine."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from ..causes import Cause
from ..readings import Station
from .body import Body
from .jaws import SimulatedChuck
from .trouble import Trouble


def afflict(body: Body, cause: Cause, rng: np.random.Generator, spots: Sequence[Station]) -> Trouble:
    """The trouble, at work in a machine that has these spots to read; of ``floor`` the plan has to be ``unfit`` already."""
    trouble = Trouble(cause, body.plan, rng)
    body.trouble = trouble
    if cause == "spring":
        body.hands = replace(body.hands, gain=trouble.keeps)
        if isinstance(body, SimulatedChuck):
            body.quirks = replace(body.quirks, gain=(trouble.keeps, trouble.keeps * float(rng.uniform(0.9, 1.1))))
    elif cause == "lost_motion" and isinstance(body, SimulatedChuck):
        body.quirks = replace(body.quirks, backlash_mm=trouble.lost_mm)
    elif cause == "burr":
        at, _ = body.spot(spots[int(rng.integers(len(spots)))])
        trouble.burr_at = complex(at)
    return trouble
