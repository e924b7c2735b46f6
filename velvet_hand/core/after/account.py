"""What a set-up leaves for those who look back: what was asked, judged and measured, by whom and in which time."""

from __future__ import annotations

from datetime import datetime, timedelta
from itertools import pairwise

from ..measured import What
from ..model import Model
from ..quantity import Quantity
from ..setup import events as ev
from ..setup.apply import AFTERWARDS
from ..setup.follow import FollowUp
from ..setup.state import CLEAR, State
from ..verdict import Outcome

#: A gap longer than this was no work at the machine.
BREAK = timedelta(minutes=20)
#: What ends it.
ENDS = (ev.Proved, ev.Accepted)


class PartMeasured(Model):
    """What a piece measured, in the kind of the limit where that was measured (``asked``)."""

    what: What
    mm: float
    piece: int
    by: str
    author: str
    at: datetime


class Account(Model):
    """A set-up as a line of its holder's, machine's, indicator's and hand's history; lengths in mm."""

    limit: Quantity
    value: Quantity | None = None
    band_mm: float | None = None
    outcome: Outcome | None = None
    accepted: bool = False
    hand: str
    minutes: float | None
    passes: int
    moves: int
    measured: tuple[PartMeasured, ...] = ()
    follow_ups: tuple[FollowUp, ...] = ()
    standing: bool = True
    cleared: bool = False
    ended_at: datetime | None = None


def account_of(state: State) -> Account:
    """The account of a set-up as it stands."""
    limit, verdict = state.plan.limit, state.verdict
    return Account(
        limit=Quantity(kind=limit.kind, mm=limit.mm),
        value=verdict.value if verdict else None,
        band_mm=verdict.band_mm if verdict else None,
        outcome=verdict.outcome if verdict else None,
        accepted=state.accepted is not None,
        hand=state.effective[0].author,
        minutes=minutes_of(state),
        passes=state.full_passes,
        moves=len(state.moves),
        measured=tuple(
            PartMeasured(what=m.what, mm=m.mm, piece=m.piece, by=m.by, author=m.author, at=m.at) for m in state.measured
        ),
        follow_ups=tuple(state.follow_ups.values()),
        standing=not state.taken_off,
        cleared=CLEAR in state.steps,
        ended_at=_ended_at(state),
    )


def _ended_at(state: State) -> datetime | None:
    """When it was proved or accepted the last time; None while it is neither."""
    if not (state.verdict or state.accepted):  # asked at every event
        return None
    return next((e.at for e in reversed(state.effective) if isinstance(e.body, ENDS)), None)


def minutes_of(state: State) -> float | None:
    """From the first thing done at the machine to the last proof or acceptance, breaks left out; None while there is neither."""
    if not (state.verdict or state.accepted):  # asked at every event
        return None
    work = [e for e in state.effective if not isinstance(e.body, (ev.Opened, ev.TakenOff, *AFTERWARDS))]
    ends = [n for n, e in enumerate(work) if isinstance(e.body, ENDS)]
    if not ends:
        return None
    times = [e.at for e in work[: ends[-1] + 1]]
    gaps = (max(b - a, timedelta()) for a, b in pairwise(times))
    return sum((gap for gap in gaps if gap <= BREAK), timedelta()).total_seconds() / 60


def kept_word(told: Account, one: PartMeasured) -> bool | None:
    """Did a part keep what a verdict of "holds" promised? None where nothing was promised of what was measured."""
    if one.what != "asked" or told.outcome != "holds":
        return None
    return one.mm <= told.limit.mm
