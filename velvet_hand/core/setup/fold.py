"""From events to the state of a set-up: the whole log folded, or the state carried one event on."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from ..errors import NotNow
from ..measure.base import LOOKED, Measure
from ..memo import without
from ..model import own
from ..readings import Pass
from . import events as ev
from .apply import apply
from .state import BY_MOVES, State

#: Events that change what earlier passes say.
REACH_BACK = (ev.PressTested, ev.GapMeasured, ev.ReadingCorrected, ev.SpotMarked)

#: Events that change what is read in the passes they touch.
READS = (*REACH_BACK, ev.ReadingTaken, ev.ZeroSet)


def fold(
    events: Iterable[ev.Event],
    measures: tuple[Measure, ...],
    hold_cautions: dict[str, tuple[str, ...]],
    tight: bool = False,
) -> State:
    """State after these events, taken in order; undone events count as if they had never been.

    Parameters
    ----------
    measures, hold_cautions
        From the procedure: what is read in a pass, and for each hold point its cautions.
    tight
        Nothing is moved in this procedure, so every pass may be judged.
    """
    kept = list(events)
    effective: list[ev.Event] = []
    for event in kept:
        if isinstance(event.body, ev.Undone):
            _undo(effective, event.body)
        else:
            effective.append(event)
    first = effective[0]
    state = State(
        plan=own(first.body, ev.Opened).plan,
        measures={m.id: m for m in measures},
        stations=tuple(s for m in measures for s in m.stations),
        hold_cautions=hold_cautions,
        opened_at=first.at,
        changed_at=first.at,
        tight=tight,
        only_reads=tight,
    )
    for event in effective[1:]:
        apply(state, event)
        if isinstance(event.body, REACH_BACK):
            state.memo.clear()
    state.effective, state.people = effective, tuple(dict.fromkeys(e.author for e in effective))
    state.seq = kept[-1].seq
    state.changed_at = kept[-1].at
    return state


def carried(state: State, event: ev.Event) -> State:
    """The state one event on, as the fold would leave it; the state it is made from stays as it is.

    What was computed of passes that the event does not touch goes along, so that a reading costs what it changes.

    Raises
    ------
    NotNow, BadInput
        As ``apply``; and ``ValueError`` for an undo, which only a fold can take back.
    """
    if isinstance(event.body, ev.Undone):
        raise ValueError("an undo is folded")
    touched = {len(state.passes), len(state.passes) + 1}
    if isinstance(event.body, ev.ReadingCorrected):
        key = str(event.body.reading_id)
        first = min(
            (p.number for p in state.passes if any(r.event_id == key for r in p.all_readings())),
            default=len(state.passes),
        )
        touched |= set(
            range(first, len(state.passes) + 1)
        )  # what a pass tells of form and scatter goes on to the later ones
    keep = 0 if isinstance(event.body, ev.PressTested | ev.GapMeasured) else min(touched)
    memo = {
        number: kept if number < keep - 1 else without(kept, BY_MOVES)
        for number, kept in state.memo.copy().items()
        if number < 0 or (number > 0 and number not in touched and keep)
    }
    opens = isinstance(event.body, ev.ReadingTaken) and event.body.pass_no > len(state.passes)
    if opens or not isinstance(event.body, READS):  # how what was read looks stays as it was
        looks = {
            number: {k: v for k, v in state.memo[number].items() if k.startswith(LOOKED)}
            for number in touched & state.memo.keys()
        }
        memo |= looks
    after = replace(
        state,
        frames=dict(state.frames),
        steps=dict(state.steps),
        passes=[_copied(one) if one.number in touched else one for one in state.passes],
        moves=list(state.moves),
        tightenings=list(state.tightenings),
        watched=dict(state.watched),
        notes=list(state.notes),
        measured=list(state.measured),
        follow_ups=dict(state.follow_ups),
        tried=list(state.tried),
        kept=set(state.kept),
        effective=[*state.effective, event],
        people=state.people if event.author in state.people else (*state.people, event.author),
        memo=memo,
    )
    apply(after, event)
    after.seq, after.changed_at = event.seq, event.at
    return after


def _copied(one: Pass) -> Pass:
    return replace(
        one,
        frames=dict(one.frames),
        readings=dict(one.readings),
        closings=dict(one.closings),
        bad=set(one.bad),
        moved=list(one.moved),
        touched=set(one.touched),
    )


def _undo(effective: list[ev.Event], body: ev.Undone) -> None:
    last = effective[-1]
    if isinstance(last.body, ev.Opened):
        raise NotNow("not_now", "There is nothing left to undo.", "Take the set-up off if it was a mistake.")
    if last.id != body.event_id:
        raise NotNow(
            "stale",
            "Something else has been done since, so this can no longer be undone first.",
            "Look at the last line of the log and undo again.",
        )
    effective.pop()
