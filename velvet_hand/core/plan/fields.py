"""What the start page asks for, said once: in the plan itself.

``base_mm: Annotated[float, LengthOf("Base from front to back", least=10)] = 100.0`` is a field of the plan, its bounds, its
words on the page and what stands there at first. ``fields_of`` turns a plan's into what the page draws; ``read`` turns what was
typed into the value.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any, ClassVar, Literal, get_args

from pydantic import BaseModel, GetCoreSchemaHandler
from pydantic.fields import FieldInfo
from pydantic_core import CoreSchema, core_schema

from ..errors import BadInput
from ..model import Model
from ..units import Unit, parse_length

Kind = Literal["length", "angle", "number", "choice", "lengths", "angles", "shims", "dowels", "gauge"]


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
    kind: Kind
    hint: str = ""
    start: str = ""
    choices: tuple[Choice, ...] = ()
    optional: bool = False
    least: float = 0.0
    most: float = 3000.0


@dataclass(frozen=True)
class Asked:
    """What a plan's field says of itself: words, hint, and its place (``rank``) among the others."""

    label: str
    hint: str = ""
    rank: int = field(default=50, kw_only=True)
    kind: ClassVar[Kind]

    def spec(self, name: str, info: FieldInfo) -> FieldSpec:
        """The field as the page draws it."""
        start = "" if info.is_required() or info.default is None else self.start(info.default)
        optional = not info.is_required() and info.default is None
        return FieldSpec(
            name=name,
            label=self.label,
            kind=self.kind,
            hint=self.hint,
            start=start,
            optional=optional,
            **self.more(info),
        )

    def start(self, value: Any) -> str:
        """A default as somebody would type it."""
        return str(value)

    def more(self, info: FieldInfo) -> dict[str, Any]:
        """What this kind adds."""
        return {}


@dataclass(frozen=True)
class _Bounded(Asked):
    least: float = field(default=0.0, kw_only=True)
    most: float = field(default=3000.0, kw_only=True)
    mark: ClassVar[str] = ""

    def more(self, info: FieldInfo) -> dict[str, Any]:
        return {"least": self.least, "most": self.most}

    def start(self, value: Any) -> str:
        values = value if isinstance(value, tuple) else (value,)
        gap = "" if isinstance(value, tuple) else " "
        return " ".join(f"{v:g}{gap + self.mark if self.mark and (v or gap == '') else ''}" for v in values)

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_after_validator_function(self._within, handler(source))

    def _within(self, value: Any) -> Any:
        for one in value if isinstance(value, tuple) else (value,):
            if one is not None and not self.least <= one <= self.most:
                raise ValueError(f"{self.label} is between {self.least:g} and {self.most:g}.")
        return value


class LengthOf(_Bounded):
    """A length, or several, in the shop's size unit."""

    kind, mark = "length", "mm"


class LengthsOf(_Bounded):
    """Lengths, a space between."""

    kind, mark = "lengths", "mm"


class AngleOf(_Bounded):
    """Degrees."""

    kind = "angle"


class AnglesOf(_Bounded):
    """Degrees, a space between."""

    kind = "angles"


class NumberOf(_Bounded):
    """A whole number."""

    kind = "number"


@dataclass(frozen=True)
class OneOf(Asked):
    """One of the plan's own words, each in words for the page."""

    words: Mapping[str, str] = field(default_factory=dict, kw_only=True)
    kind: ClassVar[Kind] = "choice"

    def more(self, info: FieldInfo) -> dict[str, Any]:
        """Its choices.

        Raises
        ------
        TypeError
            When they are not those of the plan.
        """
        if set(self.words) != set(get_args(info.annotation)):
            raise TypeError(f"{self.label}: {sorted(self.words)} are not the choices of the plan")
        return {"choices": tuple(Choice(id=key, word=word) for key, word in self.words.items())}


class ShimsOf(Asked):
    """A drawer of shims."""

    kind = "shims"


class DowelsOf(Asked):
    """A drawer of offset dowels."""

    kind = "dowels"


class GaugeOf(Asked):
    """A second indicator."""

    kind = "gauge"


@cache
def fields_of(plan_class: type[BaseModel]) -> tuple[FieldSpec, ...]:
    """What the page asks for this plan, in order."""
    found = []
    for name, info in plan_class.model_fields.items():
        asked = next((m for m in info.metadata if isinstance(m, Asked)), None)
        if asked is not None:
            found.append((asked.rank, asked.spec(name, info)))
    return tuple(spec for _, spec in sorted(found, key=lambda f: f[0]))


def as_typed(plan_class: type[BaseModel], name: str, value: Any) -> str:
    """A value of that field as somebody would type it; of a choice its id, of a thing from the Shop its id."""
    asked = next(m for m in plan_class.model_fields[name].metadata if isinstance(m, Asked))
    return str(getattr(value, "id", None) or asked.start(value))


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
