"""What can be wrong at the bench and has to be called by its name; the same words as where a set-up will not come in."""

from __future__ import annotations

from typing import Literal, get_args

from ..causes import Cause
from ..detective.causes import CULPRITS

#: The causes of any set-up, and what only a job that measures finds.
Fault = Literal[
    "loose", "burr", "form", "worn", "spindle", "spring", "lifting", "sign", "square", "lost_motion", "floor", "bent", "eccentric"
]  # fmt: skip
OWN: dict[Fault, str] = {"bent": "The shaft is bent", "eccentric": "Its seats are eccentric"}


def words_of(fault: Fault) -> str:
    """What it is called."""
    found = OWN.get(fault)
    return found or CULPRITS[as_cause(fault)].title


def as_cause(fault: Fault) -> Cause:
    """The cause of that name, of those that keep a part from coming in."""
    return next(cause for cause in CULPRITS if cause == fault)


FAULTS: dict[Fault, str] = {fault: words_of(fault) for fault in get_args(Fault)}
