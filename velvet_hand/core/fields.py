"""What a page asks for, said once: in the model that is filled.

``base_mm: Annotated[float, LengthOf("Base from front to back", least=10)] = 100.0`` is a field of a plan, its bounds, its
words on the page and what stands there at first. ``fields_of`` turns a model's into what the page draws; ``filling.read`` turns what
was typed into the value.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cache
from typing import Any, ClassVar, Literal, get_args

from pydantic import BaseModel, GetCoreSchemaHandler
from pydantic.fields import FieldInfo
from pydantic_core import CoreSchema, core_schema

from .model import Model

Kind = Literal[
    "length", "angle", "number", "choice", "yes_no", "lengths", "angles", "words", "date", "pieces", "shims", "dowels", "gauge"
]  # fmt: skip


class Choice(Model):
    """One of the answers to a field."""

    id: str
    word: str


class FieldSpec(Model):
    """Something that a page asks; parsed by ``filling.read``.

    ``kind``: a length (in the shop's size unit), an angle in degrees, a whole number, a choice, yes or no, a list of lengths or of
    angles, words, a date, pieces by size, a drawer of the Shop (``shims`` or ``dowels``), a second gauge.
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
    """What a model's field says of itself: words, hint, its place (``rank``) among the others, and the kinds of thing that have it."""

    label: str
    hint: str = ""
    rank: int = field(default=50, kw_only=True)
    only: tuple[str, ...] = field(default=(), kw_only=True)
    kind: ClassVar[Kind]

    def spec(self, name: str, info: FieldInfo) -> FieldSpec:
        """The field as the page draws it."""
        optional = not info.is_required() and info.default in (None, (), "")
        start = "" if info.is_required() or optional else self.start(info.default)
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
        return " ".join(f"{_shortly(v)}{gap + self.mark if self.mark and (v or gap == '') else ''}" for v in values)

    def __get_pydantic_core_schema__(self, source: Any, handler: GetCoreSchemaHandler) -> CoreSchema:
        return core_schema.no_info_after_validator_function(self._within, handler(source))

    def _within(self, value: Any) -> Any:
        for one in value if isinstance(value, tuple) else (value,):
            if one is not None and not self.least <= one <= self.most:
                raise ValueError(f"{self.label} is between {self.least:g} and {self.most:g}.")
        return value


def _shortly(value: float) -> str:
    """A number with no more digits than it has."""
    return f"{value:.7f}".rstrip("0").rstrip(".")


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


class YesNo(Asked):
    """Yes or no."""

    kind = "yes_no"

    def start(self, value: Any) -> str:
        """See ``Asked``."""
        return "yes" if value else "no"

    def more(self, info: FieldInfo) -> dict[str, Any]:
        """See ``Asked``."""
        return {"choices": (Choice(id="yes", word="yes"), Choice(id="no", word="no"))}


class WordsOf(Asked):
    """Words, or none."""

    kind = "words"


class DateOf(Asked):
    """A day."""

    kind = "date"


class PiecesOf(Asked):
    """Sizes, and how many of each."""

    kind = "pieces"

    def start(self, value: Any) -> str:
        """See ``Asked``."""
        return " ".join(f"{_shortly(piece.mm)}x{piece.count}" for piece in value)


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
def fields_of(model: type[BaseModel], kind: str = "") -> tuple[FieldSpec, ...]:
    """What a page asks for this model, in order; of a model with several kinds, for one of them."""
    found = []
    for name, info in model.model_fields.items():
        asked = asked_of(model, name)
        if asked is not None and (not asked.only or kind in asked.only):
            found.append((asked.rank, asked.spec(name, info)))
    return tuple(spec for _, spec in sorted(found, key=lambda f: f[0]))


def asked_of(model: type[BaseModel], name: str) -> Asked | None:
    """What a field says of itself, if a page asks for it."""
    return next((m for m in model.model_fields[name].metadata if isinstance(m, Asked)), None)


def as_typed(model: type[BaseModel], name: str, value: Any) -> str:
    """A value of that field as somebody would type it; of a choice its id, of a thing from the Shop its id, of nothing nothing."""
    asked = asked_of(model, name)
    if asked is None or value is None:
        return ""
    return str(getattr(value, "id", None) or asked.start(value))
