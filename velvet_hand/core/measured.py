"""What a part measured afterwards, cut in a set-up: the only judge of a verdict."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from .errors import BadInput
from .plan.base import BasePlan
from .quantity import KIND_WORDS, Kind
from .units import Typed, check_comma, parse_length

#: What can be measured of it: what the limit was set on, a change of diameter along it, how far it is off its size.
What = Literal["asked", "taper", "size"]
_WORDS: dict[What, str] = {"taper": "of taper", "size": "off size"}
#: No part is wrong by more.
MOST_MM = 50.0


def what_words(what: What, asked: Kind) -> str:
    """After a figure that a part measured; what was ``asked`` is called as its limit."""
    return KIND_WORDS[asked] if what == "asked" else _WORDS[what]


@dataclass(frozen=True, slots=True)
class Measured:
    """One measurement: ``mm`` of what, at which piece (from 1), by which instrument."""

    event_id: str
    at: datetime
    author: str
    what: What
    mm: float
    piece: int
    by: str
    note: str


def measured_mm(what: What, typed: Typed, plan: BasePlan) -> float:
    """What was typed, in millimeters (an angle as what it comes to over 100 mm, like its limit).

    Raises
    ------
    BadInput
        At ``typed.text``: no number, less than nothing where that cannot be, or no error that a part has.
    """
    check_comma(typed.text, "typed.text")
    if what == "asked" and plan.limit.kind == "angle":
        zero = typed.text.strip().rstrip("°").strip("0.") == ""
        mm = 0.0 if zero else plan.limit.model_copy(update={"typed": typed}).mm
    else:
        mm = float(parse_length(typed.text, typed.unit, "typed.text"))
    if what == "asked" and mm < 0:
        raise BadInput(
            "reading_nonsense",
            "An error like that is never less than nothing.",
            "Type it without a sign.",
            "typed.text",
        )
    if abs(mm) > MOST_MM:
        raise BadInput(
            "reading_nonsense", f"“{typed.text[:40]}” is no error of a part.", "Check the unit.", "typed.text"
        )
    return mm
