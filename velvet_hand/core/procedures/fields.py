"""From what was typed on the start page to the plan of a procedure."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from typing import Any

from ..errors import BadInput
from ..plans import BasePlan, Plan
from ..units import Unit, parse_length
from .base import FieldSpec, Procedure

#: Finds a thing of the Shop: kind, id, field.
Find = Callable[[str, str, str], Any]


def size_unit(typed: str, unit: Unit) -> tuple[str, Unit]:
    """A bare size is in mm, or in inches when the shop works in thou."""
    bare = re.fullmatch(r"[-+]?[\d.,\s]+", typed.strip()) is not None
    return (f"{typed.strip()} in", "mm") if bare and unit in ("thou", "tenth") else (typed, "mm")


def read(spec: FieldSpec, typed: str, unit: Unit, find: Find) -> Any:
    """The value of one field.

    Raises
    ------
    BadInput, NotFound
        At ``choices.<name>``, in shop words.
    """
    where = f"choices.{spec.name}"
    if not typed.strip():
        if spec.optional:
            return None
        raise BadInput("field_invalid", f"{spec.label}: nothing was typed.", spec.hint or "Fill it in.", where)
    match spec.kind:
        case "choice":
            if typed not in [c.id for c in spec.choices]:
                raise BadInput("field_invalid", f"{spec.label}: there is no such choice.", "Choose again.", where)
            return typed
        case "shims" | "dowels" | "gauge":
            return find(spec.kind, typed, where)
        case "length":
            return _bounded(spec, float(parse_length(*size_unit(typed, unit), where)), "mm", where)
        case "lengths":
            parts = re.split(r"[\s;]+", typed.strip())
            return tuple(_bounded(spec, float(parse_length(*size_unit(p, unit), where)), "mm", where) for p in parts)
        case "angle":
            return _bounded(spec, _number(spec, typed, where), "°", where)
        case "angles":
            return tuple(
                _bounded(spec, _number(spec, p, where), "°", where) for p in re.split(r"[\s;]+", typed.strip())
            )
        case "number":
            value = _bounded(spec, _number(spec, typed, where), "", where)
            if value != int(value):
                raise BadInput(
                    "field_invalid", f"{spec.label}: {typed[:20]} is no whole number.", "Count again.", where
                )
            return int(value)


def _number(spec: FieldSpec, typed: str, where: str) -> float:
    try:
        value = float(typed.strip().replace(",", ".").removesuffix("°"))
    except ValueError:
        raise BadInput(
            "field_invalid", f"{spec.label}: “{typed[:40]}” is no number.", "Type a number.", where
        ) from None
    if not abs(value) < 1e9:
        raise BadInput("field_invalid", f"{spec.label}: that is no number to work with.", "Type a number.", where)
    return value


def _bounded(spec: FieldSpec, value: float, unit: str, where: str) -> float:
    if spec.least <= value <= spec.most:
        return value
    raise BadInput(
        "field_invalid",
        f"{spec.label} is between {spec.least:g} and {spec.most:g}{unit and ' ' * (unit == 'mm') + unit}; "
        f"this is {value:g}.",
        "Check it and its unit.",
        where,
    )


def make_plan(procedure: Procedure, common: Mapping[str, Any], choices: Mapping[str, str], find: Find) -> Plan:
    """A plan from the common part (models and typed texts) and the typed ``choices`` of the procedure.

    Raises
    ------
    BadInput, NotFound
        At the field concerned.
    """
    unit: Unit = common["unit"]
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
    plan: BasePlan = procedure.plan_class.model_validate({**common, **given})
    return plan  # type: ignore[return-value]
