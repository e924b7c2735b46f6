"""What a machine was found to hold, in words."""

from __future__ import annotations

from ..shop import Floor
from ..wording import Bit, Text, length, text


def floor_told(floor: Floor) -> Text:
    """One finding in a line.

    Examples
    --------
    >>> from datetime import UTC, datetime
    >>> from ..wording import plain
    >>> found = Floor(at=datetime(2026, 1, 5, tzinfo=UTC), floor_mm=0.004, play_mm={"X": 0.01}, backlash_mm=0.03)
    >>> plain(floor_told(found), "mm", 0.001)
    'Repeats to 0.004 mm TIR; gives 0.010 mm in X; backlash 0.030 mm'
    """
    gives = [
        ("; gives " if n == 0 else ", ", length(mm), f" in {axis}")
        for n, (axis, mm) in enumerate(floor.play_mm.items())
    ]
    more: list[Bit] = []
    if floor.backlash_mm is not None:
        more += ["; backlash ", length(floor.backlash_mm)]
    if floor.spindle_mm is not None:
        more += ["; spindle and holder ", length(floor.spindle_mm), " TIR"]
    return text("Repeats to ", length(floor.floor_mm), " TIR", *gives, *more)
