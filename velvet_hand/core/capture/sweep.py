"""A table run along by hand: from standing at the first place to standing at the last, or back to the first."""

from __future__ import annotations

from collections.abc import Sequence

from .captured import BACK, MARKED, PIECES, Captured, Wanted, between, course, judged
from .shapes import Line
from .stream import tidy
from .warp import Mark


def sweep(
    at_s: Sequence[float], mm: Sequence[float], length_mm: float, wanted: Wanted, *, spots: Sequence[float], marks_s: Sequence[float] = ()
) -> Captured:  # fmt: skip
    """A line with its bow, as the needle saw it.

    Parameters
    ----------
    at_s, mm
        (n,) What came in, and when.
    spots
        Places to tell a reading for, mm from the first.
    marks_s
        One: when it stood at the far end, from where it was run back to the first place.

    Raises
    ------
    BadInput
        At ``ended``, when too little came in.
    """
    found = tidy(at_s, mm, wanted.graduation_mm)
    back = len(marks_s) == 1
    marks = (Mark(marks_s[0] - at_s[0], length_mm, stood=True),) if back else ()
    total = length_mm * (2 if back else 1)
    even = found.steady if back else found
    pieces = even.pieces(2 * PIECES if back else PIECES)
    ran = course(
        found, pieces, total, length_mm, lambda form_mm: Line(length_mm, form_mm), marks, between(pieces, marks, total), wanted,
        back=back, marked=True, doubt=BACK if back else MARKED,
    )  # fmt: skip
    shape = ran.settled.shape
    told = ran.told(spots, wanted.graduation_mm, [abs(float(v)) for v in shape[2:]]).model_copy(update={
        "once_mm": 2 * float(shape[1]), "once_u_mm": 2 * float(ran.cov[1, 1]) ** 0.5, "high": length_mm if shape[1] > 0 else 0.0,
    })  # fmt: skip
    return judged(told, wanted)
