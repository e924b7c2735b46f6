"""What was typed into the fields of a page, turned into values."""

from __future__ import annotations

import re
from collections.abc import Callable
from datetime import date
from typing import Any

from .errors import BadInput
from .fields import FieldSpec
from .units import Unit, check_comma, parse_length

#: Finds a thing of the Shop: kind, id, field.
Find = Callable[[str, str, str], Any]


def size_unit(typed: str, unit: Unit) -> tuple[str, Unit]:
    """A bare size is in mm, or in inches when the shop works in thou."""
    bare = re.fullmatch(r"[-+]?[\d.,\s]+", typed.strip()) is not None
    return (f"{typed.strip()} in", "mm") if bare and unit in ("thou", "tenth") else (typed, "mm")


def read(spec: FieldSpec, typed: str, unit: Unit, find: Find, at: str = "choices") -> Any:
    """The value of one field.

    Raises
    ------
    BadInput, NotFound
        At ``<at>.<name>``, in shop words.
    """
    where = f"{at}.{spec.name}"
    if not typed.strip():
        if spec.optional:
            return None
        raise BadInput("field_invalid", f"{spec.label}: nothing was typed.", spec.hint or "Fill it in.", where)
    match spec.kind:
        case "words":
            return typed.strip()
        case "date":
            return _date(spec, typed, where)
        case "pieces":
            return tuple(_piece(spec, one, where) for one in re.split(r"[\s;]+", typed.strip()))
        case "choice" | "yes_no":
            if typed not in [c.id for c in spec.choices]:
                raise BadInput("field_invalid", f"{spec.label}: there is no such choice.", "Choose again.", where)
            return typed if spec.kind == "choice" else typed == "yes"
        case "shims" | "dowels" | "gauge":
            return find(spec.kind, typed, where)
        case "length":
            check_comma(typed, where)
            return _bounded(spec, float(parse_length(*size_unit(typed, unit), where)), "mm", where)
        case "lengths":
            parts = re.split(r"[\s;]+", typed.strip()) if typed.strip() else []
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


def _date(spec: FieldSpec, typed: str, where: str) -> date:
    try:
        return date.fromisoformat(typed.strip())
    except ValueError:
        raise BadInput(
            "field_invalid", f"{spec.label}: “{typed[:20]}” is no date.", "Type it as 2026-05-31.", where
        ) from None


def _piece(spec: FieldSpec, typed: str, where: str) -> dict[str, float]:
    """One size and how many of it: ``0.05x4``; without a count there is one."""
    size, _, count = re.sub("[×*]", "x", typed).partition("x")
    mm = float(parse_length(size, "mm", where))
    if not 0 < mm <= 500 or not (count or "1").isascii() or not (count or "1").isdigit() or int(count or "1") > 1000:
        why = f"{spec.label}: “{typed[:20]}” is no size with a count."
        raise BadInput("field_invalid", why, "Type 0.05x4: above zero to 500 mm, 0 to 1000 pieces.", where)
    return {"mm": mm, "count": int(count or "1")}


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
