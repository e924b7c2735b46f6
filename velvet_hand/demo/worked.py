"""A set-up of the sample world that its simulated machine works, to its end or until it is left standing."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from velvet_hand.core.desk.advise import state_closed
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan, Limit, Workpiece
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.shop import Holder, Machine
from velvet_hand.core.units import Typed, Unit

#: Gauges with marks in millimeters.
MM_GAUGES = ("rule", "feelers", "lever-micron")
#: What stands still while the gauge goes along or round it.
CARRIED = ("dowelled_housing", "mill_head", "vise", "vise_pair", "fixture", "rotary_table", "surface_plate")


@dataclass(frozen=True, slots=True)
class Worked:
    """One set-up: how it is planned, who did it when, and where it is left standing (0: it is finished)."""

    part: str
    build: Callable[[dict[str, Any]], BasePlan]
    machine: str
    holder: Holder
    gauge: str
    diameter: str
    limit: str
    days_ago: float
    author: str
    seed: int
    kind: str = "tir"
    more: tuple[tuple[str, Any], ...] = ()
    stop_after: int = 0
    reason: str = "Known now, and good enough for roughing; noted for the next overhaul."


def unit_of(job: Worked) -> Unit:
    """The unit of the gauge's own marks."""
    return "mm" if job.gauge in MM_GAUGES else "thou"


def plan_of(job: Worked, machines: dict[str, Machine], gauges: dict[str, Gauge]) -> BasePlan:
    """The plan of one job."""
    surface = "inside" if job.holder.kind == "dowelled_housing" else "outside"
    common: dict[str, Any] = {
        "part": Workpiece.model_validate(
            {"name": job.part, "diameter": Typed(text=job.diameter, unit="mm"), "surface": surface}
        ),
        "machine": machines[job.machine],
        "holder": job.holder,
        "gauge": gauges[job.gauge],
        "limit": Limit.model_validate({"kind": job.kind, "typed": Typed(text=job.limit, unit="mm")}),
        "unit": unit_of(job),
        "carrier": "gauge_turns" if job.holder.kind in CARRIED else "work_turns",
        **dict(job.more),
    }
    return job.build(common)


def start(job: Worked, plan: BasePlan) -> Operator:
    """The job on its simulated machine, nothing done yet."""
    rng = np.random.default_rng(job.seed)
    return Operator(plan, machine(plan, rng), rng)


def work(job: Worked, plan: BasePlan) -> Operator:
    """Work the job on its simulated machine, to its end or until it is left standing."""
    operator = start(job, plan)
    if not job.stop_after:
        operator.run(max_passes=14)
        return operator
    while operator.step():
        current = operator.state.open_pass
        if current and current.number == job.stop_after and state_closed(operator.state, current):
            break
    return operator
