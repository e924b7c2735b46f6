"""What the start page asks for, and from what was typed to a value."""

from __future__ import annotations

import re
from collections.abc import Callable
from typing import Any, Literal

from ..errors import BadInput
from ..model import Model
from ..units import Unit, parse_length


class Choice(Model):
    """One of the answers to a field."""

    id: str
    word: str


class FieldSpec(Model):
    """Something that the start page asks for this procedure; parsed by ``fields.read``.

    ``kind``: a length (in the shop's size unit), an angle in degrees, a whole number, a choice, a
    list of lengths or of angles, a drawer of the Shop (``shims`` or ``dowels``), a second gauge.
    ``least``/``most`` bound it, in mm or degrees; ``start`` is what stands there at first.
    """

    name: str
    label: str
    kind: Literal["length", "angle", "number", "choice", "lengths", "angles", "shims", "dowels", "gauge"]
    hint: str = ""
    start: str = ""
    choices: tuple[Choice, ...] = ()
    optional: bool = False
    least: float = 0.0
    most: float = 3000.0


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
