"""Sentences as parts: words, lengths and angles stay apart until they are shown.

So a screen can change unit at any moment, and a sentence and a picture can be made from the very
same numbers.
"""

from __future__ import annotations

from collections.abc import Sequence
from typing import Annotated, Literal

from pydantic import Field

from .model import Model
from .units import Unit, format_length, format_size


class Words(Model):
    """Plain words; ``strong`` marks what is to be done."""

    kind: Literal["words"] = "words"
    text: str
    strong: bool = False


class Length(Model):
    """A length in mm. ``size`` is a part's or chuck's size, shown in mm or inches."""

    kind: Literal["length"] = "length"
    mm: float
    signed: bool = False
    size: bool = False


class Angle(Model):
    """An angle in whole degrees."""

    kind: Literal["angle"] = "angle"
    deg: float


Part = Annotated[Words | Length | Angle, Field(discriminator="kind")]
Text = tuple[Part, ...]
#: What a text is built from.
Bit = str | Words | Length | Angle | Text


def text(*parts: Bit | Sequence[Bit]) -> Text:
    """Build a text; bare strings become words, texts inside are taken as they are.

    Examples
    --------
    >>> words_of(text("Tap ", text(strong("jaw 1")), [" by ", "hand"]))
    'Tap jaw 1 by hand'
    """
    found: list[Part] = []
    for part in parts:
        if isinstance(part, str):
            found.append(Words(text=part))
        elif isinstance(part, Words | Length | Angle):
            found.append(part)
        else:
            found += text(*part)
    return tuple(found)


def strong(words: str) -> Words:
    """Words that name what to do."""
    return Words(text=words, strong=True)


def length(mm: float) -> Length:
    """A length without a sign."""
    return Length(mm=abs(mm))


def signed(mm: float) -> Length:
    """A needle value, always with its sign."""
    return Length(mm=mm, signed=True)


def size(mm: float) -> Length:
    """A part's or chuck's size."""
    return Length(mm=mm, size=True)


def angle(deg: float) -> Angle:
    """An angle."""
    return Angle(deg=deg)


def words_of(parts: Text) -> str:
    """The words of a text, its figures left out; for what describes a picture."""
    return "".join(p.text for p in parts if p.kind == "words")


def plain(parts: Text, unit: Unit, resolution_mm: float) -> str:
    """The text as one string in ``unit``."""
    return "".join(_plain_part(p, unit, resolution_mm) for p in parts)


def _plain_part(part: Words | Length | Angle, unit: Unit, resolution_mm: float) -> str:
    if isinstance(part, Words):
        return part.text
    if isinstance(part, Angle):
        return f"{round(part.deg)}°"
    if part.size:
        return format_size(part.mm, unit)
    return format_length(part.mm, unit, resolution_mm, part.signed)
