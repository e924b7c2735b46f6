"""Afterwards: what was done and what it cost, what the advice would have said, and how it could have gone."""

from __future__ import annotations

from datetime import datetime
from functools import lru_cache
from typing import Literal

import numpy as np

from ..model import Model
from ..operator import Operator
from ..quantity import Quantity
from ..sim.body import Truth
from ..wording import Text, text
from ..wording import length as length_of
from .faults import FAULTS, words_of
from .session import TIGHTENED, Session, Stroke, Told

Judged = Literal["right way", "wrong way", "went past", "shifted", "nothing moved", "as it was"]
#: So many passes the advice is given for the same machine.
MOST_PASSES = 12


class Step(Model):
    """One thing done by hand between two readings, or several of one kind in a row, and what they truly did.

    ``before_mm`` and ``after_mm`` are how far it is off, as its limit counts it, in what it changed most; nobody saw them then.
    """

    after_pass: int
    what: str
    before_mm: float
    after_mm: float
    judged: Judged
    advice: Text
    hard: int = 0


class Debrief(Model):
    """How it went. ``truth`` is what was hidden; ``best_passes`` what the advice needs at the same machine (None: it does not end)."""

    good: bool
    headline: Text
    why: Text
    truth: Text
    habit: str
    passes: int
    seconds: int
    asks: int
    wrong_ways: int
    past: int
    hard_near: int
    beside: tuple[str, ...]
    end_mm: float
    limit_mm: float
    floor_mm: float
    best_passes: int | None
    steps: tuple[Step, ...]


def debrief(session: Session) -> Debrief:
    """What is told at the end of a practice."""
    body, plan = session.body, session.person.plan
    steps = tuple(_step(session, group) for group in _groups(session.strokes))
    fault = session.drill.fault(body) or _hidden(session)
    within = session.past_mm <= 0
    good = session.called == fault if session.called or session.drill.fault(body) else within and session.proved
    end = body.worst
    near = 4 * plan.gauge.graduation_mm
    return Debrief(
        good=good, headline=_ended(session, fault, within),
        why=_why(session), truth=_truth(session, fault), habit=session.drill.habit,
        passes=session.passes, seconds=seconds_of(session), asks=session.asks,
        wrong_ways=sum(s.judged == "wrong way" for s in steps), past=sum(s.judged == "went past" for s in steps),
        hard_near=sum(s.hard and past(s.stood) < near for s in session.strokes), beside=tuple(session.beside),
        end_mm=end.mm, limit_mm=end.limit_mm, floor_mm=plan.machine.floor_mm,
        best_passes=best_passes(session.told.model_copy(update={"author": "", "advice": "full"}), session.began), steps=steps,
    )  # fmt: skip


def seconds_of(session: Session) -> int:
    """From the beginning to the end, or to what was done last."""
    return max(round((session.last - session.began).total_seconds()), 0)


def _hidden(session: Session) -> str | None:
    """The cause that was switched on, where it may be called by its name instead."""
    return session.body.trouble.cause if session.body.trouble is not None else None


def _ended(session: Session, fault: str | None, within: bool) -> Text:
    if session.called is not None:
        return text(f"You said: {words_of(session.called).lower()}.")
    if fault and session.drill.fault(session.body):
        return text("You called it good, and it cannot be made good.")
    if not within:
        return text("You called it good, and it is outside.")
    return text("It is within the limit", "." if session.proved else ", but nobody had read it: a guess that came out.")


def _why(session: Session) -> Text:
    """How it stands in the end."""
    end = session.body.worst
    stands = text(
        "It stands at ", *Quantity(kind=end.kind, mm=end.mm).told, "; the limit is ", length_of(end.limit_mm), "."
    )
    if session.beside:
        return text(*stands, f" Read beside the spot: {', '.join(dict.fromkeys(session.beside))}.")
    return stands


def _truth(session: Session, fault: str | None) -> Text:
    if fault is not None:
        return text(f"What was hidden: {_words(fault)}.")
    return text(session.drill.lures or "Nothing was wrong with this machine.")


def _words(fault: str) -> str:
    return next((words for name, words in FAULTS.items() if name == fault), fault).lower()


def _groups(strokes: list[Stroke]) -> list[list[Stroke]]:
    """Strokes in a row, between the same two passes; tightening stands by itself."""
    found: list[list[Stroke]] = []
    for stroke in strokes:
        last = found[-1] if found else []
        alike = bool(last) and last[0].in_pass == stroke.in_pass and TIGHTENED not in (last[0].what, stroke.what)
        if alike:
            last.append(stroke)
        else:
            found.append([stroke])
    return found


def _step(session: Session, group: list[Stroke]) -> Step:
    first, last = group[0], group[-1]
    before, after = max(zip(first.stood, last.stands, strict=True), key=lambda two: abs(two[1].mm - two[0].mm))
    words = [stroke.what for stroke in group]
    what = "; ".join(f"{w}{f' ({words.count(w)} times)' if words.count(w) > 1 else ''}" for w in dict.fromkeys(words))
    return Step(
        after_pass=first.in_pass, what=what, before_mm=before.mm, after_mm=after.mm, judged=judged(session, first, last),
        advice=first.advised.headline, hard=sum(s.hard for s in group),
    )  # fmt: skip


def judged(session: Session, first: Stroke, last: Stroke) -> Judged:
    """What it did to how far it is off: by vectors where there are any, else by size."""
    before, after = first.before, last.after
    small, worse = 0.25 * session.person.plan.gauge.graduation_mm, past(last.stands) - past(first.stood)
    if abs(after - before) < small and abs(worse) < small:
        return "nothing moved"
    if first.what == TIGHTENED:
        return "shifted"
    if last.at_aim:
        return "right way"  # to the aim, which may lie beside the middle: tightening brings it there
    if worse > small:
        return "went past" if _crossed(before, after) else "wrong way"
    if worse < -small:
        return "right way"
    return "went past" if _crossed(before, after) else "as it was"


def past(stands: tuple[Truth, ...]) -> float:
    """How far it is past its limit then, the worst of all that is judged."""
    return max(truth.past_mm for truth in stands)


def _crossed(before: complex, after: complex) -> bool:
    """Is it on the other side now?"""
    return (before.conjugate() * after).real < 0


def best_passes(told: Told, began: datetime) -> int | None:
    """Full passes that the advice needs at the same machine; None when it does not get there."""
    return _needed(told, began) if told.past is not None else _known(told, began)


@lru_cache(maxsize=64)
def _known(told: Told, began: datetime) -> int | None:
    return _needed(told, began)


def _needed(told: Told, began: datetime) -> int | None:
    session = Session(told, began)
    goes_on = told.past is not None
    person = (
        session.person if goes_on else Operator(session.person.plan, session.body, np.random.default_rng(told.seed + 2))
    )
    try:
        person.run(session.passes_before + MOST_PASSES)
    except AssertionError:  # a hidden trouble: what is advised does not go as it should
        return None
    verdict = person.state.verdict
    return person.full_passes - session.passes_before if verdict is not None and verdict.outcome == "holds" else None
