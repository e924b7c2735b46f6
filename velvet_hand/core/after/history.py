"""The history of a holder, a machine, an indicator or a hand: what it is like, what changed, and what to do about it."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Literal, NamedTuple

from ..holders import AdjustableBody, Collet, Holder, ThreeJaw
from ..memory import SEEN_MM, Lesson
from ..model import Model
from ..wording import Text, bare, day_word, length, so_many, strong, text
from .account import Account
from .score import Score, score
from .trend import trend

Subject = Literal["holder", "machine", "gauge", "hand"]
Measure = Literal["mm", "percent", "count", "minutes"]


@dataclass(frozen=True, slots=True)
class Past:
    """One set-up of a history."""

    id: str
    at: datetime
    part: str
    account: Account
    lesson: Lesson


class Point(Model):
    """A value of one set-up; ``odd`` when it is outside what was usual."""

    setup: str
    at: datetime
    part: str
    value: float
    odd: bool


class Series(Model):
    """Values in the order of time, with what was usual (from ``low`` to ``high``) before ``since``, and the sentence that it wants."""

    id: str
    label: str
    measure: Measure
    points: tuple[Point, ...]
    middle: float | None = None
    low: float | None = None
    high: float | None = None
    since: datetime | None = None
    told: Text = ()


class Push(Model):
    """Where tightening pushed the work, in the holder's own frame; mm toward +x and +y of it (first pair, second pair)."""

    setup: str
    at: datetime
    x_mm: float
    y_mm: float


class LessonLine(Model):
    """What one set-up taught, and whether that counts."""

    setup: str
    at: datetime
    part: str
    what: Text
    counts: Literal["counts", "struck", "no lesson", "forgotten"]


class History(Model):
    """Everything that is told of one holder, machine, indicator or hand; ``jaws_deg`` where a holder's jaws stand, from number 1."""

    subject: Subject
    name: str
    about: Text
    series: tuple[Series, ...]
    score: Score
    pushes: tuple[Push, ...]
    jaws_deg: dict[int, float]
    lessons: tuple[LessonLine, ...]


@dataclass(frozen=True, slots=True)
class Kind:
    """A figure of a set-up that is followed: which way is worse, and what to do when it goes there."""

    id: str
    label: str
    measure: Measure
    of: Callable[[Past], float | None]
    grew: str = ""
    fell: str = ""


#: A set-up that tells of it no better than this (standard uncertainty) is left out of a history: shift in mm, part of a move.
SURE_MM, SURE_PART = 0.008, 0.16


class Told(NamedTuple):
    """What a set-up taught, and its standard uncertainty."""

    value: float
    u: float


def _shift(one: Past) -> Told | None:
    """The shift on tightening that a set-up taught, mm."""
    found = [one.lesson.taught[name] for name in ("shift", "shift_1", "shift_2") if name in one.lesson.taught]
    most = max((variance for _, variance in found), default=math.inf)
    return None if most > SURE_MM**2 else Told(math.hypot(*(value for value, _ in found)), most**0.5)


def _gain(name: str) -> Callable[[Past], Told | None]:
    """What arrives of a move, percent."""

    def of(one: Past) -> Told | None:
        value, variance = one.lesson.taught.get(name, (0.0, math.inf))
        if variance > SURE_PART**2:
            return None
        told = Told(value, variance**0.5)
        if name.startswith("log_"):
            told = Told(math.exp(value), math.exp(value) * told.u)
        return Told(100 * told.value, 100 * told.u)

    return of


def _value(told: Callable[[Past], Told | None]) -> Callable[[Past], float | None]:
    def of(one: Past) -> float | None:
        found = told(one)
        return None if found is None else found.value

    return of


def _repeat(one: Past) -> float | None:
    found = one.lesson.closings
    return math.sqrt(sum(c * c for c in found) / len(found)) if found else None


def _room(one: Past) -> float | None:
    return 100 * one.account.value.mm / one.account.limit.mm if one.account.value else None


def _promised(runout_mm: float) -> Kind:
    """What was proved of a holder, against what its manual promises."""

    def of(one: Past) -> float | None:
        value = one.account.value
        return 100 * value.mm / runout_mm if value is not None and value.kind == "tir" else None

    return Kind("promised", "Part of what its manual promises", "percent", of,
                "Clean jaws, scroll or taper; then look for wear: it comes out worse than it used to.", "")  # fmt: skip


_STUCK = "Clean and oil its screws and look for wear: less of a move stays."
SHIFT = Kind("shift", "Shift on tightening", "mm", _value(_shift),
             "Clean and grease the screws, look for a chip under a jaw.", "Nothing to do; the next aims follow it.")  # fmt: skip
REPEAT = Kind("repeat", "Repeat of a spot", "mm", _repeat,
              "Check base, arm and stylus, and that the surface is clean where it is read.", "")  # fmt: skip
PASSES = Kind("passes", "Passes to the verdict", "count", lambda p: float(p.account.passes) if p.account.outcome else None,
              "Look at what else changed, or ask “Stuck?” in the next set-up.", "")  # fmt: skip
MINUTES = Kind("minutes", "Minutes at it", "minutes", lambda p: p.account.minutes, "", "")
ROOM = Kind("room", "Part of the limit used", "percent", _room, "It comes out nearer to the limit than it used to.", "")
KINDS: dict[Subject, tuple[Kind, ...]] = {
    "holder": (
        SHIFT,
        Kind("gain_1", "What stays of a move, first pair", "percent", _value(_gain("gain_1")), "", _STUCK),
        Kind("gain_2", "What stays of a move, second pair", "percent", _value(_gain("gain_2")), "", _STUCK),
        Kind("gain", "What stays of a move", "percent", _value(_gain("gain")), "", _STUCK),
        Kind("taps", "What arrives of a tap", "percent", _value(_gain("log_gain")), "", "Look at the bolts: are they snug alike?"),
        REPEAT, PASSES, MINUTES, ROOM,
    ),
    "machine": (
        Kind("floor", "Machine’s repeat, TIR", "mm", lambda p: p.lesson.floor.floor_mm if p.lesson.floor else None,
             "Gibs, spindle bearings and what holds the bar want a look, by the machine’s manual.", ""),
        REPEAT, PASSES, MINUTES, ROOM,
    ),
    "gauge": (
        Kind("error", "Off along its travel", "mm", lambda p: p.lesson.check.error_mm if p.lesson.check else None,
             "Have it overhauled before it is trusted with small limits.", ""),
        Kind("hysteresis", "Hysteresis", "mm", lambda p: p.lesson.check.hysteresis_mm if p.lesson.check else None,
             "Clean it, or have it cleaned: something in it drags.", ""),
        REPEAT, ROOM,
    ),
    "hand": (PASSES, MINUTES, REPEAT, ROOM),
}  # fmt: skip


def history(subject: Subject, name: str, past: Sequence[Past], holder: Holder | None = None) -> History:
    """The history of set-ups, oldest first; a holder says which lessons count."""
    kinds = KINDS[subject]
    if isinstance(holder, ThreeJaw | AdjustableBody | Collet) and holder.runout_mm:
        kinds = (*kinds, _promised(holder.runout_mm))
    struck, forgotten = (frozenset(holder.struck), holder.forget_before) if holder else (frozenset[str](), None)
    found = [one for kind in kinds if (one := _series(kind, past)) is not None]
    lessons = [_line(one, struck, forgotten) for one in reversed(past)] if subject == "holder" else []
    pushes = [
        Push(setup=p.id, at=p.at, x_mm=p.lesson.taught["shift_1"][0], y_mm=p.lesson.taught["shift_2"][0])
        for p in past
        if subject == "holder" and {"shift_1", "shift_2"} <= p.lesson.taught.keys() and SHIFT.of(p) is not None
    ]
    return History(
        subject=subject, name=name, about=_about(past), series=tuple(found),
        score=score(p.account for p in past), pushes=tuple(pushes), jaws_deg=holder.jaws_deg if holder else {}, lessons=tuple(lessons),
    )  # fmt: skip


def _about(past: Sequence[Past]) -> Text:
    if not past:
        return text("No set-up yet.")
    proved = sum(p.account.outcome == "holds" for p in past)
    taken = sum(p.account.accepted for p in past)
    said = f", {taken} accepted with a reason" if taken else ""
    return text(f"{so_many(len(past), 'set-up')}, {proved} proved{said}.")


def _series(kind: Kind, past: Sequence[Past]) -> Series | None:
    values = [(p, value) for p in past if (value := kind.of(p)) is not None]
    if not values:
        return None
    found = trend([value for _, value in values])
    since = values[found.changed][0].at if found and found.changed is not None else None
    points = [
        Point(setup=p.id, at=p.at, part=p.part, value=value, odd=bool(found and found.odd(value)))
        for p, value in values
    ]
    told: Text = ()
    if found and since:
        told = _told(kind, found.before, found.after, since)
    return Series(
        id=kind.id, label=kind.label, measure=kind.measure, points=tuple(points), since=since, told=told,
        middle=found.middle if found else None, low=found.low if found else None, high=found.high if found else None,
    )  # fmt: skip


def _told(kind: Kind, before: float, after: float, since: datetime) -> Text:
    way, do = ("grew", kind.grew) if after > before else ("fell", kind.fell)
    figures = [length(v) if kind.measure == "mm" else _words(kind.measure, v) for v in (before, after)]
    return text(
        strong(f"{kind.label} {way}"),
        " from ",
        figures[0],
        " to ",
        figures[1],
        f" since {day_word(since)}.",
        f" {do}" if do else "",
    )


def _words(measure: Measure, value: float) -> str:
    return {"percent": f"{value:.0f} %", "count": f"{value:g}", "minutes": f"{value:.0f} minutes"}.get(
        measure, f"{value:g}"
    )


def _line(one: Past, struck: frozenset[str], forgotten: datetime | None) -> LessonLine:
    shift = _shift(one)
    gains = [g for name in ("gain_1", "gain_2", "gain", "log_gain") if (g := _gain(name)(one)) is not None]
    parts: list[Text] = []
    if gains:
        parts.append(text(f"{' and '.join(f'{g.value:.0f} ± {2 * g.u:.0f}' for g in gains)} % stays"))
    if shift is not None:
        band = 2 * shift.u
        parts.append(
            text("shift ", bare(shift.value), " ± ", length(band))
            if band >= SEEN_MM
            else text("shift ", length(shift.value))
        )
    what = tuple(bit for n, part in enumerate(parts) for bit in ((*text(", "), *part) if n else part))
    old = forgotten is not None and one.at <= forgotten
    counts: Literal["counts", "struck", "no lesson", "forgotten"] = (
        "no lesson" if one.lesson.empty else "forgotten" if old else "struck" if one.id in struck else "counts"
    )
    return LessonLine(setup=one.id, at=one.at, part=one.part, what=what, counts=counts)
