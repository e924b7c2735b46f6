"""The door of a set-up for the layers above: load events, take an event, show the view."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date
from typing import Any

from ..after.account import Account, account_of
from ..after.own import Done
from ..after.story import story
from ..detective.trials import QUICK_TESTS
from ..engine.procedure import Registered
from ..errors import BadInput, NotNow
from ..filling import Find
from ..memory import Lesson
from ..model import own
from ..path.lathe import overdue
from ..plan.base import BasePlan
from ..procedures.registry import PROCEDURES
from ..setup import events as ev
from ..setup.fold import carried, fold
from ..setup.state import State
from ..told import Caveat
from ..units import check_comma
from ..wording import Text
from .advise import offered_moves
from .again import choices_of
from .expect import expected
from .log import lines
from .planning import make_plan
from .suspects import WhyView, explain
from .view import FullRecord, SetupView, Summary, summary, view


def procedure_of(plan: BasePlan) -> Registered:
    """The procedure that a plan belongs to."""
    return PROCEDURES[plan.procedure]


def check_plan(plan: BasePlan, on: date | None = None) -> tuple[Caveat, ...]:
    """Refuse a plan that cannot work; return what is to be told at the start, on that day if it is known."""
    return (*procedure_of(plan).check_plan(plan), *(overdue(plan, on) if on else ()))


def expect(plan: BasePlan, done: Sequence[Done] = ()) -> Text:
    """How many passes and minutes to expect: by set-ups alike that were ``done`` here, where they are enough, else by the
    simulated machine; nothing where nobody can say.
    """
    return expected(procedure_of(plan), plan, done)


def load(events: Sequence[ev.Event]) -> State:
    """The state that these events leave."""
    first = own(events[0].body, ev.Opened)
    procedure = procedure_of(first.plan)
    holds = {s.id: tuple(c.id for c in s.cautions) if s.hold else () for s in procedure.path(first.plan)}
    return fold(events, procedure.measures(first.plan), holds, procedure.only_reads)


def complete(state: State, event: ev.Event) -> ev.Event:
    """The event with what the core has to add to it in this state: the move as shown, the verdict of a proof.

    Raises
    ------
    NotNow
        ``stale`` when the move is not among those on offer any more.
    BadInput
        ``comma_unclear`` when a number may be two.
    """
    body = event.body
    if isinstance(body, ev.ReadingTaken | ev.ReadingCorrected | ev.GapMeasured):
        check_comma(body.typed.text, "typed.text")
    if isinstance(body, ev.MoveDone):
        move = offered_moves(procedure_of(state.plan), state).get(body.move_id)
        if move is None:
            raise NotNow("stale", "That move is no longer the one to make.", "New readings came in: look again.")
        return event.model_copy(update={"shown": move})
    if isinstance(body, ev.Tried) and body.answer not in dict(QUICK_TESTS[body.trial].answers):
        raise BadInput("field_invalid", "That is none of the answers.", "Press one of those shown.", "answer")
    if isinstance(body, ev.Proved):
        judged = procedure_of(state.plan).solution(state).judged
        if judged is None and state.unread(state.open_pass) is None:
            raise NotNow("not_now", "This pass cannot be judged yet.", "Read what is missing, or read the pass again.")
        return event.model_copy(update={"verdict": judged})
    return event


def accept(events: Sequence[ev.Event], event: ev.Event, state: State | None = None) -> tuple[ev.Event, State]:
    """Check an event against a set-up and complete it; returns it and the state it leaves.

    Parameters
    ----------
    state
        What these events leave, when it is known already; it is not changed.

    Raises
    ------
    VelvetHandError
        When the event does not fit; nothing is changed then.
    """
    state = state or load(events)
    whole = complete(state, event)
    if isinstance(whole.body, ev.Undone):
        return whole, load([*events, whole])
    return whole, carried(state, whole)


def log_of(events: Sequence[ev.Event], state: State) -> tuple[ev.LogLine, ...]:
    """Every line of the log; those that were made before are not made again."""
    titles = {s.id: s.title for s in procedure_of(state.plan).steps(state)}
    found = lines(events, state.stations, titles, state.memo.get(-1, {}).get("log", ()))
    state.memo.setdefault(-1, {})["log"] = found
    return found


def show(events: Sequence[ev.Event], setup_id: str, state: State | None = None) -> SetupView:
    """The view of a set-up, with the latest of its passes."""
    state = state or load(events)
    return view(procedure_of(state.plan), state, setup_id)


def record(events: Sequence[ev.Event], state: State) -> FullRecord:
    """All passes and the whole log."""
    procedure = procedure_of(state.plan)
    rows = tuple(procedure.row(state, one) for one in state.passes)
    first = next((row.main for row in rows if row.main is not None and row.purpose != "quick"), None)
    return FullRecord(passes=rows, log=log_of(events, state), story=story(state, first))


def account(state: State) -> Account:
    """What the set-up leaves for those who look back."""
    return account_of(state)


def suspects(state: State, on: date | None = None) -> WhyView:
    """What could explain that it does not come in."""
    return explain(procedure_of(state.plan), state, on)


def choices_again(plan: BasePlan) -> dict[str, str]:
    """The procedure’s own choices as they were typed."""
    return choices_of(procedure_of(plan), plan)


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


def summarize(state: State) -> Summary:
    """The set-up in a line."""
    return summary(procedure_of(state.plan), state)
