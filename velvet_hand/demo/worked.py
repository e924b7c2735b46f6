"""The set-ups that the procedures' simulators tell of: planned with the things of the sample workshop, and worked there."""

from __future__ import annotations

from datetime import date
from typing import Any

import numpy as np

from velvet_hand.core.desk.advice.builder import state_closed
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan, Limit, Workpiece
from velvet_hand.core.procedures.registry import PROCEDURES, machine
from velvet_hand.core.sim.sample import Sample
from velvet_hand.core.units import Typed

from . import shelf


def plan_of(procedure: str, sample: Sample, today: date) -> BasePlan:
    """The plan of one set-up."""
    found = PROCEDURES[procedure]
    size, limit = (Typed(text=typed, unit="mm") for typed in (sample.size, sample.limit))
    surface = found.fixed_surface or "outside"
    common: dict[str, Any] = {
        "part": Workpiece(name=sample.part, diameter=size, surface=surface),
        "machine": shelf.named(shelf.MACHINES, sample.machine),
        "holder": shelf.named(shelf.HOLDERS, sample.holder),
        "gauge": shelf.named(shelf.gauges(today), sample.gauge),
        "limit": Limit(kind=sample.kind, typed=limit),
        "unit": sample.unit,
        "carrier": found.fixed_carrier or "work_turns",
    }
    drawer = {"stock": shelf.named(shelf.STOCK, sample.stock)} if sample.stock else {}
    plan: BasePlan = found.plan_class.model_validate({**common, **drawer, **sample.choices})
    between: BasePlan = found.looking_between(plan)
    return between


def start(sample: Sample, plan: BasePlan) -> Operator:
    """The set-up on its simulated machine, nothing done yet."""
    rng = np.random.default_rng(sample.seed)
    return Operator(plan, machine(plan, rng), rng)


def work(sample: Sample, plan: BasePlan) -> Operator:
    """Work it on its simulated machine, to its end or until it is left standing."""
    operator = start(sample, plan)
    if not sample.stop_after:
        operator.run(max_passes=14)
        return operator
    while operator.step():
        current = operator.state.open_pass
        if current and current.number == sample.stop_after and state_closed(operator.state, current):
            break
    return operator
