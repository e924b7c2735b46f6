"""What can go wrong, in shop words.

::

    VelvetHandError
    ├── BadInput        (ValueError)   something typed or chosen cannot be used; names its field
    ├── NotNow          (RuntimeError) the set-up has moved on; this event no longer fits
    └── NotFound        (LookupError)  no such thing is kept here

Each carries ``code`` (closed list below), ``why`` (what is wrong), ``fix`` (what to do) and
``field`` (dotted path of the input concerned, or "").
"""

from __future__ import annotations

from typing import Literal, get_args

ErrorCode = Literal[
    "fit_unsettled",
    "reading_nonsense",
    "reading_beyond_travel",
    "reading_too_fine",
    "comma_unclear",
    "reading_no_turns",
    "length_nonsense",
    "limit_zero",
    "limit_beyond_gauge",
    "part_too_big",
    "part_too_small",
    "part_size_missing",
    "stations_repeated",
    "stations_too_few",
    "holder_without_lead",
    "unknown_station",
    "unknown_thing",
    "unknown_set_up",
    "stale",
    "repeated_differently",
    "not_now",
    "cautions_unchecked",
    "reason_missing",
    "name_taken",
    "bad_text",
    "not_json",
    "not_from_here",
    "too_big",
    "too_slow",
    "field_invalid",
    "busy",
    "archive_unreadable",
    "photo_unreadable",
    "not_live",
]
ERROR_CODES: tuple[str, ...] = get_args(ErrorCode)


class VelvetHandError(Exception):
    """Root of every error that is meant for a person."""

    def __init__(self, code: ErrorCode, why: str, fix: str = "", field: str = "") -> None:
        super().__init__(f"{why} {fix}".strip())
        self.code: ErrorCode = code
        self.why = why
        self.fix = fix
        self.field = field

    def __reduce__(self) -> tuple[type[VelvetHandError], tuple[str, str, str, str]]:
        """It can be handed from one process to another."""
        return type(self), (self.code, self.why, self.fix, self.field)


class BadInput(VelvetHandError, ValueError):
    """Something typed or chosen cannot be used; ``field`` says where."""


class NotNow(VelvetHandError, RuntimeError):
    """The set-up has moved on, so that this event no longer fits."""


class NotFound(VelvetHandError, LookupError):
    """No such thing is kept here."""
