"""A turn or a run along that may be captured now, and what it says as readings."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import replace
from itertools import pairwise
from typing import Literal

from ..capture.captured import Captured, Wanted
from ..capture.sweep import sweep
from ..capture.together import together
from ..capture.turn import turn
from ..errors import NotNow
from ..live.recording import Recording
from ..measure.base import Measure
from ..measure.edge import Edge
from ..measure.ring import Ring
from ..model import Model
from ..readings import Station
from ..setup.state import State
from ..wording import Bit, Text, angle, length, strong, text

#: Closer to a spot than this it lies at that spot (degrees).
AT_DEG = 10.0
#: So many things that were left out are named.
NAMED = 3


class Course(Model):
    """What can be turned or run along in one go: whose spots, from which to which side, and which are marked in passing; an end to turn
    back at is a mark too.
    """

    way: Literal["turn", "along"]
    ring: str
    slot: str
    how: Text
    passed: tuple[str, ...]


class CourseReading(Model):
    """A reading as it is to be sent; ``needle_mm`` with its standard uncertainty."""

    station_id: str
    closing: bool
    needle_mm: float
    u_mm: float


class CourseFound(Model):
    """What a course said: readings to send, and in words what it is, what was left out, and what to do when that is not enough.

    ``turns`` to choose from, where nobody can tell how often it went round.
    """

    readings: tuple[CourseReading, ...]
    told: Text
    notes: tuple[Text, ...]
    sure: bool
    turns: tuple[int, ...]
    captured: Captured


def course_of(state: State) -> Course | None:
    """What can be captured next: all spots of one circle or edge, none of them read yet."""
    found = _spots(state)
    if found is None:
        return None
    measure, spots = found
    first, then = spots[0].short or spots[0].label, spots[1].short or spots[1].label
    if isinstance(measure, Ring):
        jaws = [s.short or s.label for s in spots if s.jaw is not None] if spots[0].jaw is not None else []
        passed = tuple(jaws[1:])
        what = "each jaw" if passed else f"{first} every time"
        how = text(
            "From ",
            strong(first),
            " slowly toward ",
            then,
            ", once round or more, back to ",
            strong(first),
            f". Mark {what} as it passes.",
        )
        return Course(way="turn", ring=measure.id, slot=measure.slot, how=how, passed=passed)
    last = spots[-1].short or spots[-1].label
    how = text(
        "From ", strong(first), " slowly along to ", last, ". Mark it there, and run back to ", strong(first), "."
    )
    return Course(way="along", ring=measure.id, slot=measure.slot, how=how, passed=(last,))


def route(state: State) -> tuple[tuple[Station, ...], list[float], bool] | None:
    """The spots of the course in the order of reading, where they lie from the first on, and whether it goes round."""
    found = _spots(state)
    if found is None:
        return None
    measure, spots = found
    turns = isinstance(measure, Ring)
    return spots, _round(spots) if turns else _along(measure, spots), turns


def read_course(
    state: State, recorded: Recording, earlier: Sequence[Captured], turns: int | None = None
) -> CourseFound:
    """What was recorded, as readings; ``earlier`` turns of the same spots are told together with it.

    Raises
    ------
    NotNow
        Nothing is to be captured any more, or nobody pressed the surface toward the indicator yet.
    BadInput
        At ``ended``, when too little came in.
    """
    found = _spots(state)
    if found is None:
        raise NotNow("stale", "Those spots have been read meanwhile.", "Look at the tray.")
    measure, spots = found
    if any(measure.gauge.at_its_end(mm) for mm in recorded.mm):
        raise NotNow(
            "not_now", "The needle ran off its travel on the way.", "Set it nearer the middle, and turn again.", "act"
        )
    wanted = Wanted(measure.gauge.graduation_mm, state.plan.limit.mm, state.tight)
    if isinstance(measure, Ring):
        bends = measure.sign * state.sense_in(measure.slot).needle_mm(measure.radius_mm)
        wanted = replace(wanted, radius_mm=bends)
        places = _round(spots)
        jaws = [p for p, s in zip(places, spots, strict=True) if s.jaw is not None]
        one = turn(
            recorded.at_s, recorded.mm, wanted, spots=places, marks_s=recorded.marks_s, turns=turns,
            jaws=jaws if spots[0].jaw is not None else (0.0,),
        )  # fmt: skip
    else:
        along = _along(measure, spots)
        one = sweep(recorded.at_s, recorded.mm, along[-1], wanted, spots=along, marks_s=recorded.marks_s[:1])
    whole = together((*earlier, one), wanted)
    digits = 1 - math.floor(math.log10(measure.gauge.graduation_mm))  # a tenth of a graduation, or a little finer
    readings = [
        CourseReading(station_id=s.id, closing=False, needle_mm=round(at.mm, digits), u_mm=at.u_mm)
        for s, at in zip(spots, whole.spots, strict=True)
    ]
    if whole.closing_mm is not None and measure.closes:
        readings.append(
            CourseReading(station_id=spots[0].id, closing=True, needle_mm=round(whole.closing_mm, digits), u_mm=0.0)
        )
    choice = (1, whole.turns) if not whole.counted and whole.turns > 1 else (1, 2) if not whole.counted else ()
    return CourseFound(
        readings=tuple(readings), told=_told(measure, spots, whole), notes=_notes(measure, spots, whole, wanted.proof), sure=whole.sure,
        turns=choice, captured=whole,
    )  # fmt: skip


def _spots(state: State) -> tuple[Measure, tuple[Station, ...]] | None:
    """The circle or edge whose first spot is read next, and its spots in the order of reading."""
    left = state.unread(state.being_read)
    if left is None or left[1] or state.half is not None or state.quick:
        return None
    one, measure = state.being_read, state.measures[left[0].ring]
    spots = measure.mine(state, one)
    if one is not None and (one.quick or any(one.answered(s.id) for s in spots)):
        return None
    if any(s.reads != "needle" for s in spots) or measure.gauge.measures_gap or left[0] is not spots[0]:
        return None
    if isinstance(measure, Ring):
        return (measure, spots) if not measure.flats and len(spots) >= 3 and _rises(_round(spots)) else None
    if isinstance(measure, Edge):
        return (measure, spots) if len(spots) >= 2 and _rises(_along(measure, spots)) else None
    return None


def _rises(places: Sequence[float]) -> bool:
    return all(b > a for a, b in pairwise(places))


def _round(spots: Sequence[Station]) -> list[float]:
    """Degrees from the first spot, the way they are read."""
    turned = [(s.angle_deg - spots[0].angle_deg) % 360 for s in spots]
    return turned if turned[1] <= 180 else [-deg % 360 for deg in turned]


def _along(measure: Measure, spots: Sequence[Station]) -> list[float]:
    """Millimeters from the first spot."""
    upright = isinstance(measure, Edge) and measure.upright
    at = [s.y_mm if upright else s.x_mm for s in spots]
    way = 1.0 if at[-1] >= at[0] else -1.0
    return [(x - at[0]) * way for x in at]


def _told(measure: Measure, spots: Sequence[Station], found: Captured) -> Text:
    if isinstance(measure, Ring):
        turns = "One turn" if found.turns == 1 else f"{found.turns} turns"
        at = _near(spots, found.high)
        tir = text("TIR ", length(found.tir_mm), " ± ", length(2 * found.tir_u_mm))
        return text(f"{turns}: ", tir, "; highest ", at, " ± ", angle(min(2 * found.high_u, 180.0)), ".")
    rise = "rises" if found.once_mm > 0 else "falls"
    return text(
        f"It {rise} ",
        length(abs(found.once_mm)),
        " ± ",
        length(2 * found.once_u_mm),
        " on the needle from ",
        spots[0].label,
        " on.",
    )


def _near(spots: Sequence[Station], place: float) -> Text:
    """Where that is, in the names of the spots."""
    places = _round(spots)
    apart = [(place - p + 180) % 360 - 180 for p in places]
    nearest = min(range(len(spots)), key=lambda i: abs(apart[i]))
    name = spots[nearest].short or spots[nearest].label
    if abs(apart[nearest]) <= AT_DEG:
        return text("at ", name)
    after = nearest if apart[nearest] > 0 else nearest - 1
    return text(angle((place - places[after]) % 360), " after ", spots[after].short or spots[after].label)


def _notes(measure: Measure, spots: Sequence[Station], found: Captured, proof: bool) -> tuple[Text, ...]:
    notes = []
    for one in found.left_out[:NAMED]:
        what = "A nick" if one.kind == "nick" else "Nothing came"
        at: Bit = _near(spots, one.at) if isinstance(measure, Ring) else text(length(one.at), " along")
        notes.append(text(what, " ", at, "; left out." if one.kind == "nick" else "."))
    if found.form:
        most = max(found.form, key=lambda w: w.mm)
        waves = f"{most.order} waves round: ±" if isinstance(measure, Ring) else "A bow: ±"
        notes.append(text(waves, length(most.mm), "."))
    if not found.counted:
        notes.append(text("Once round and oval, or more than once? Nobody can tell by the needle alone."))
    elif not found.sure:
        once = "Turn it once more" if isinstance(measure, Ring) else "Run along once more"
        marks = (
            ""
            if found.marked
            else ", and mark each jaw as it passes"
            if any(s.jaw for s in spots)
            else ", and mark the first spot each time"
        )
        enough, other = ("for a proof", "read it spot by spot") if proof else ("yet", "take it as it is")
        notes.append(text(f"Not sure enough {enough}. {once}{marks}; or {other}."))
    return tuple(notes)
