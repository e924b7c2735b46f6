"""The procedures: whatever folder here has a ``procedure.py``."""

from __future__ import annotations

from importlib import import_module

import numpy as np

from ..engine.procedure import Registered
from ..plan.any import procedure_ids
from ..plan.base import BasePlan
from ..sim.body import Body
from ..sim.sample import Sample


def _found() -> dict[str, Registered]:
    each: list[Registered] = [import_module(f"{__package__}.{name}.procedure").PROCEDURE for name in procedure_ids()]
    return {p.id: p for p in sorted(each, key=lambda p: p.rank)}


PROCEDURES: dict[str, Registered] = _found()


def example(procedure_id: str, seed: int) -> BasePlan:
    """A plan of that procedure by a number: orientations and options come round with it."""
    found: BasePlan = import_module(f"{__package__}.{procedure_id}.sim").example(seed)
    between: BasePlan = PROCEDURES[procedure_id].looking_between(found)
    return between


def machine(plan: BasePlan, rng: np.random.Generator) -> Body:
    """A simulated machine for a plan, with errors such as a shop may have."""
    found: Body = import_module(f"{__package__}.{plan.procedure}.sim").machine(plan, rng)
    return found


def samples() -> tuple[tuple[str, Sample], ...]:
    """The set-ups of the sample workshop that the simulators tell of, each with its procedure's id."""
    each = ((name, import_module(f"{__package__}.{name}.sim")) for name in PROCEDURES)
    return tuple((name, sample) for name, module in each for sample in module.SAMPLES)
