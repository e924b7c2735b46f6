"""The procedures: whatever folder here has a ``procedure.py``."""

from __future__ import annotations

from importlib import import_module

import numpy as np

from ..engine.procedure import Registered
from ..holders import HolderKind
from ..plan.any import procedure_ids
from ..plan.base import BasePlan
from ..shop import MachineKind
from ..sim.body import Body
from ..sim.sample import Sample


def _found() -> dict[str, Registered]:
    each: list[Registered] = [import_module(f"{__package__}.{name}.procedure").PROCEDURE for name in procedure_ids()]
    return {p.id: p for p in sorted(each, key=lambda p: p.rank)}


PROCEDURES: dict[str, Registered] = _found()


def holders_on(machine: MachineKind) -> tuple[HolderKind, ...]:
    """Kinds of holders that go on a kind of machine: what something is done in on such machines alone, and not on others alone."""
    own: dict[HolderKind, set[MachineKind]] = {}
    for procedure in PROCEDURES.values():
        for kind in procedure.holder_kinds:
            where = own.setdefault(kind, set())
            if len(procedure.machine_kinds) == 1:
                where.update(procedure.machine_kinds)
    return tuple(kind for kind, where in own.items() if machine in where)


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
