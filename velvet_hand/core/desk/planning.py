"""From what was typed on the start page to the plan of a procedure."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from pydantic import ValidationError

from ..engine.procedure import Registered
from ..errors import BadInput
from ..filling import Find, read
from ..plan.base import BasePlan
from ..units import Unit, check_comma


def make_plan(procedure: Registered, common: Mapping[str, Any], choices: Mapping[str, str], find: Find) -> BasePlan:
    """A plan from the common part (models and typed texts) and the typed ``choices`` of the procedure.

    Raises
    ------
    BadInput, NotFound
        At the field concerned.
    """
    unit: Unit = common["unit"]
    unknown = next((name for name in choices if name not in {f.name for f in procedure.fields}), None)
    if unknown is not None:
        raise BadInput(
            "field_invalid", "This way of indicating does not ask that.", "Leave it out.", f"choices.{unknown[:40]}"
        )
    own = {f.name: read(f, choices.get(f.name, f.start), unit, find) for f in procedure.fields}
    holder, gauge = common["holder"], common["gauge"]
    if holder.kind not in procedure.holder_kinds:
        raise BadInput("field_invalid", f"{holder.name} is not for this.", procedure.needs.holder, "holder_id")
    if gauge.kind not in procedure.asks.gauges:
        raise BadInput("field_invalid", f"{gauge.name} is not for this.", procedure.needs.gauge, "gauge_id")
    if procedure.fixed_surface:
        common = {**common, "part": common["part"].model_copy(update={"surface": procedure.fixed_surface})}
    if procedure.fixed_carrier:
        common = {**common, "carrier": procedure.fixed_carrier}
    given = {k: v for k, v in own.items() if v is not None}
    try:
        plan: BasePlan = procedure.plan_class.model_validate({**common, **given})
    except ValidationError as refused:
        one = refused.errors()[0]
        name = str(one["loc"][0]) if one["loc"] else ""
        why = one["msg"].removeprefix("Value error, ")
        field = f"choices.{name}" if name in given else name
        raise BadInput("field_invalid", why, "Check it.", field) from refused
    check_comma(plan.part.diameter.text, "part.diameter")
    if plan.limit.typed is not None:
        check_comma(plan.limit.typed.text, "limit.typed")
    between: BasePlan = procedure.looking_between(plan)
    return between
