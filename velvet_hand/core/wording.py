"""Sentences as parts: words, lengths and angles stay apart until they are shown.

So a screen can change unit at any moment, and a sentence and a picture can be made from the very
same numbers.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from datetime import date
from fractions import Fraction
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
    """A length in mm. ``size`` is a part's or chuck's size, shown in mm or inches; an ``exact``
    one of these to a micrometer; a ``bare`` length leaves its unit to the next."""

    kind: Literal["length"] = "length"
    mm: float
    signed: bool = False
    size: bool = False
    exact: bool = False
    bare: bool = False


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


def joined(parts: Sequence[Bit], between: str) -> Text:
    """Parts with the same words between each two.

    Examples
    --------
    >>> words_of(joined(("a", strong("b"), "c"), " + "))
    'a + b + c'
    """
    return text(*(bit for part in parts for bit in (between, part)))[1:]


def listed(names: Sequence[str]) -> str:
    """Names as one says them.

    Examples
    --------
    >>> listed(["4"]), listed(["4", "9"]), listed(["1", "3", "5"])
    ('4', '4 and 9', '1, 3 and 5')
    """
    *first, last = names
    return f"{', '.join(first)} and {last}" if first else last


def strong(words: str) -> Words:
    """Words that name what to do."""
    return Words(text=words, strong=True)


def length(mm: float) -> Length:
    """A length without a sign."""
    return Length(mm=abs(mm))


def bare(mm: float) -> Length:
    """A length without a sign, its unit said by the length behind it."""
    return Length(mm=abs(mm), bare=True)


def signed(mm: float) -> Length:
    """A needle value, always with its sign."""
    return Length(mm=mm, signed=True)


def size(mm: float, exact: bool = False) -> Length:
    """A part's or chuck's size."""
    return Length(mm=mm, size=True, exact=exact)


def angle(deg: float) -> Angle:
    """An angle."""
    return Angle(deg=deg)


def degrees(deg: float) -> str:
    """A direction in whole degrees, 0 to 359.

    Examples
    --------
    >>> degrees(359.7), degrees(-90)
    ('0°', '270°')
    """
    return f"{round(deg) % 360}°"


def turn_words(deg: float) -> str:
    """How far a key is turned, to the nearest sixteenth of a turn; of less than that in degrees.

    Examples
    --------
    >>> turn_words(225), turn_words(450), turn_words(358), turn_words(4)
    ('5/8 turn (225°)', '1 1/4 turns (450°)', '1 turn (358°)', '4°')
    """
    whole, part = divmod(round(deg / 22.5), 16)
    if not whole and not part:
        return f"{deg:.0f}°"
    fraction = str(Fraction(part, 16)) if part else ""
    words = " ".join(w for w in (str(whole) if whole else "", fraction) if w)
    return f"{words} turn{'s' if whole > 1 or (whole and part) else ''} ({deg:.0f}°)"


#: A headline is no longer than this (letters).
HEADLINE = 70
#: Where a sentence ends, when another one follows.
_ENDS = re.compile(r"[.?!] (?=\S|$)")
STOPS = (".", "?", "!")


def headlined(parts: Text, unit: Unit, resolution_mm: float) -> tuple[Text, Text]:
    """A headline and what of it goes below it: of what is too long only the first sentence stays.

    Examples
    --------
    >>> long = text("Stop here. ", "What is left is too small for this indicator to show at any of its spots.")
    >>> [words_of(found) for found in headlined(long, "mm", 0.001)]
    ['Stop here.', 'What is left is too small for this indicator to show at any of its spots.']
    """
    if len(plain(parts, unit, resolution_mm)) <= HEADLINE:
        return parts, ()
    for index, part in enumerate(parts):
        if not isinstance(part, Words):
            continue
        if (
            index
            and (before := parts[index - 1]).kind == "words"
            and before.text.endswith(STOPS)
            and part.text.startswith(" ")
        ):
            return parts[:index], (part.model_copy(update={"text": part.text[1:]}), *parts[index + 1 :])
        if end := _ENDS.search(part.text):
            head, rest = part.text[: end.start() + 1], part.text[end.end() :]
            after = (*(text(part.model_copy(update={"text": rest})) if rest else ()), *parts[index + 1 :])
            return ((*parts[:index], part.model_copy(update={"text": head})), after) if after else (parts, ())
    return parts, ()


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
        return format_size(part.mm, unit, part.exact)
    return format_length(part.mm, unit, resolution_mm, part.signed, part.bare)


def so_many(count: int, word: str) -> str:
    """So many of a thing.

    >>> so_many(1, "pass"), so_many(3, "pass"), so_many(0, "set-up")
    ('1 pass', '3 passes', '0 set-ups')
    """
    return f"{count} {word}" if count == 1 else f"{count} {word}{'es' if word.endswith('s') else 's'}"


def day_word(day: date) -> str:
    """A day as screens say it.

    >>> day_word(date(2026, 1, 5))
    '5 Jan 2026'
    """
    return f"{day.day} {day:%b %Y}"
