"""The door of a set-up for the layers above: load events, take an event, show the view."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from ..engine.procedure import Registered
from ..errors import BadInput, NotNow
from ..memory import Lesson
from ..plan.base import BasePlan
from ..plan.fields import Find
from ..procedures.registry import PROCEDURES
from ..setup import events as ev
from ..setup.state import State, fold
from ..told import Caveat
from .advise import offered_moves
from .log import lines
from .planning import make_plan
from .view import SetupView, Summary, summary, view


def procedure_of(plan: BasePlan) -> Registered:
    """The procedure that a plan belongs to."""
    return PROCEDURES[plan.procedure]


def check_plan(plan: BasePlan) -> tuple[Caveat, ...]:
    """Refuse a plan that cannot work; return what is to be told at the start."""
    return procedure_of(plan).check_plan(plan)


def load(events: Sequence[ev.Event]) -> State:
    """The state that these events leave."""
    first = events[0].body
    assert isinstance(first, ev.Opened), "a set-up begins with its opening"
    procedure = procedure_of(first.plan)
    holds = {s.id: tuple(c.id for c in s.cautions) if s.hold else () for s in procedure.path(first.plan)}
    return fold(events, procedure.measures(first.plan), holds, procedure.only_reads)


def complete(state: State, event: ev.Event) -> ev.Event:
    """The event with what the core has to add to it in this state: the move as shown, the verdict of a proof.

    Raises
    ------
    NotNow
        ``stale`` when the move is not among those on offer any more.
    """
    body = event.body
    if isinstance(body, ev.MoveDone):
        move = offered_moves(procedure_of(state.plan), state).get(body.move_id)
        if move is None:
            raise NotNow("stale", "That move is no longer the one to make.", "New readings came in: look again.")
        return event.model_copy(update={"shown": move})
    if isinstance(body, ev.Proved):
        return event.model_copy(update={"verdict": procedure_of(state.plan).solve(state).judged})
    return event


def accept(events: Sequence[ev.Event], event: ev.Event) -> tuple[ev.Event, State]:
    """Check an event against a set-up and complete it; returns it and the state it leaves.

    Raises
    ------
    VelvetHandError
        When the event does not fit; nothing is changed then.
    """
    adds = isinstance(event.body, ev.MoveDone | ev.Proved)
    whole = complete(load(events), event) if adds else event
    return whole, load([*events, whole])


def show(events: Sequence[ev.Event], setup_id: str, state: State | None = None) -> SetupView:
    """The view of a set-up."""
    state = state or load(events)
    procedure = procedure_of(state.plan)
    titles = {s.id: s.title for s in procedure.path(state.plan)}
    return view(procedure, state, setup_id, lines(events, state.stations, titles))


def lesson(state: State) -> Lesson:
    """What the set-up teaches about its holder."""
    return procedure_of(state.plan).lesson(state)


def plan_for(procedure_id: str, common: Mapping[str, Any], choices: Mapping[str, str], find: Find) -> BasePlan:
    """A plan from what the start page sends (see ``fields.make_plan``).

    Raises
    ------
    BadInput, NotFound
        At the field concerned.
    """
    procedure = PROCEDURES.get(procedure_id)
    if procedure is None:
        raise BadInput("field_invalid", "There is no such way of indicating.", "Choose one from the list.", "procedure")
    return make_plan(procedure, common, choices, find)


def summarise(state: State) -> Summary:
    """The set-up in a line."""
    return summary(procedure_of(state.plan), state)
