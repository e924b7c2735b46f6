"""A spindle turned by hand, once or more, from standing at the first spot to standing there again."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from . import counting
from .captured import MARKED, MOST_PIECES, PIECES, UNMARKED, Captured, Wanted, between, course, judged
from .shapes import WAVES, Waves
from .stream import tidy

#: Farther off its middle than this (mm) a turn is cut into so many pieces, and the model is so many times too sure.
FAR_MM, FAR_PIECES, FAR_DOUBT = 0.3, 200, 1.3


def turn(
    at_s: Sequence[float], mm: Sequence[float], wanted: Wanted, *,
    spots: Sequence[float], marks_s: Sequence[float] = (), jaws: Sequence[float] = (0.0,), turns: int | None = None,
) -> Captured:  # fmt: skip
    """The turn found from the signal itself, and what it says of the surface.

    Parameters
    ----------
    at_s, mm
        (n,) What came in, and when.
    spots
        Places to tell a reading for, degrees from the first the way it was turned.
    marks_s
        When something passed: each of ``jaws`` (degrees from the first spot, that one first) every time, or the first spot alone.
    turns
        How many turns it was, where somebody says so.

    Raises
    ------
    BadInput
        At ``ended``, when too little came in.
    """
    found = tidy(at_s, mm, wanted.graduation_mm)
    said, marks = counting.passed([s - at_s[0] for s in marks_s], jaws, turns)
    even = found.steady
    far = float(np.ptp(found.mm[found.good])) / 2 > FAR_MM
    count = FAR_PIECES if far else PIECES
    pieces, counted = even.pieces(count), True
    if said is None:
        said, counted = counting.turns_of(pieces, wanted.form_mm)
    if said > 1:
        pieces = even.pieces(min(count * said, MOST_PIECES))
    total = 360.0 * said
    start = between(pieces, marks, total) if marks else counting.begin(pieces, said, wanted.form_mm)[1]
    ran = course(
        found,
        pieces,
        total,
        360.0,
        lambda form_mm: Waves(form_mm, wanted.radius_mm),
        marks,
        start,
        wanted,
        back=True,
        marked=bool(marks),
        doubt=(MARKED if marks else UNMARKED) * (FAR_DOUBT if far else 1.0),
    )
    shape, sine = ran.settled.shape, WAVES + 1
    waves = [math.hypot(shape[k], shape[WAVES + k]) for k in range(2, WAVES + 1)]
    size = math.hypot(shape[1], shape[sine])
    along = np.array([shape[1], shape[sine]]) / max(size, 1e-12)
    both = ran.cov[np.ix_([1, sine], [1, sine])]
    across = np.array([-along[1], along[0]])
    told = ran.told(spots, wanted.graduation_mm, waves).model_copy(update={
        "once_mm": size, "once_u_mm": float(along @ both @ along) ** 0.5, "counted": counted, "turns": said,
        "high": math.degrees(math.atan2(along[1], along[0])) % 360,
        "high_u": math.degrees(math.atan2(float(across @ both @ across) ** 0.5, size)),
    })  # fmt: skip
    return judged(told, wanted)
