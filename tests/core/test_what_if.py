"""A logged set-up goes on from any step, at a machine that answers as the log says that it was answered."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.errors import NotNow
from velvet_hand.core.operator import Operator
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.debrief import debrief
from velvet_hand.core.practice.session import Session, Told
from velvet_hand.core.practice.what_if import NAME, Past, fitted, past_of
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev

NOW = datetime(2026, 11, 28, 9, tzinfo=UTC)
MOVED = sorted(name for name in PROCEDURES if machine(example(name, 0), np.random.default_rng(0)).hides)


def worked(name: str, seed: int) -> tuple[ev.Event, ...]:
    """A set-up worked to its verdict."""
    plan = example(name, seed)
    person = Operator(plan, machine(plan, np.random.default_rng(seed)), np.random.default_rng(seed + 1))
    person.run()
    return tuple(person.events)


def after_pass(events: tuple[ev.Event, ...], number: int) -> int:
    """How many events there were when the last reading of a pass came in."""
    return max(e.seq for e in events if isinstance(e.body, ev.ReadingTaken) and e.body.pass_no == number)


def test_most_procedures_can_be_gone_on_from() -> None:
    assert len(MOVED) >= 17
    assert {"four_jaw", "vise", "tram", "packing", "clocking", "bed", "column", "vises"} <= set(MOVED)


@pytest.mark.parametrize("name", MOVED)
def test_it_stands_as_the_pass_read_it_and_comes_in_from_there(name: str) -> None:
    events = worked(name, 2)
    past = past_of("s", events, after_pass(events, 1))
    body, state = fitted(past), desk.load(past.before)
    mark = state.plan.gauge.graduation_mm
    for key, reading in state.passes[0].good().items():
        station = state.station(key)
        if station.reads == "needle" and reading.needle_mm is not None:
            at, ring = body.spot(station)
            assert body.needle(complex(at), ring) == pytest.approx(reading.needle_mm, abs=4 * mark), station.label
    session = Session(Told(drill=NAME, seed=1, past=past), NOW)
    session.person.run(12)
    verdict = session.person.state.verdict
    assert verdict is not None
    assert verdict.outcome in ("holds", "cannot_tell") or not body.curable
    if verdict.outcome == "holds":
        assert session.body.past_limit_mm <= max(4 * mark, session.body.blind_mm)


@pytest.mark.parametrize("name", ["four_jaw", "vise", "tram"])
@pytest.mark.parametrize("seed", range(3))
def test_what_was_done_then_does_there_what_it_did(name: str, seed: int) -> None:
    """The moves of the log, made at the fitted machine, leave what the next pass read, but for a part of the move."""
    events = worked(name, 3 * seed)
    whole = desk.load(events)
    past = past_of("s", events, after_pass(events, 1))
    body = fitted(past)
    for move in whole.moved_in(1):
        body.do(move)
    if 1 in whole.tightenings:
        body.tighten()
    then = whole.passes[1]
    left = {k: r.needle_mm - body.needle(complex(body.spot(whole.station(k))[0]), body.spot(whole.station(k))[1])
            for k, r in then.good().items() if r.needle_mm is not None}  # fmt: skip
    before = {k: r.needle_mm for k, r in whole.passes[0].good().items() if r.needle_mm is not None}
    moved = [abs(r.needle_mm - before[k]) for k, r in then.good().items() if r.needle_mm is not None and k in before]
    apart = np.array(list(left.values()))
    assert np.abs(apart - apart.mean()).max() < max(0.15 * max(moved), 6 * whole.plan.gauge.graduation_mm)


def test_something_else_is_done_from_there_and_told_against_how_it_was() -> None:
    events = worked("four_jaw", 4)
    seq = after_pass(events, 1)
    session = Session(Told(drill=NAME, seed=1, advice="full", past=past_of("s", events, seq)), NOW)
    before = len(session.person.events)
    session.act(acts.Act(id=events[0].id, at=NOW, body=acts.Hand(control="jaw1", amount=-0.1)))
    session.act(acts.Act(id=events[1].id, at=NOW, body=acts.Hand(control="jaw3", amount=0.05)))
    assert len(session.person.events) == before  # a hand tells nothing
    assert session.strokes
    session.act(acts.Act(id=events[2].id, at=NOW, body=acts.Good(fault=None)))
    told = debrief(session)
    assert told.passes == 0
    assert told.best_passes is not None
    assert "As it was" in str(told.truth)


def test_what_was_taken_back_is_left_out() -> None:
    events = list(worked("four_jaw", 4))[: after_pass(worked("four_jaw", 4), 1)]
    undone = ev.Event(id=events[0].id, seq=len(events) + 1, at=NOW, author="", body=ev.Undone(event_id=events[-1].id))
    past = past_of("s", (*events, undone), len(events) + 1)
    assert [e.seq for e in past.before] == list(range(1, len(events)))


def test_nothing_is_gone_on_from_where_nothing_moves_or_a_move_is_half_done() -> None:
    with pytest.raises(NotNow, match="Nothing is moved"):
        past_of("s", worked("plate", 0), 5)
    events = worked("four_jaw", 4)
    state = desk.load(events[: after_pass(events, 1)])
    move = desk.procedure_of(state.plan).solution(state).moves[0]
    eased = ev.MoveDone(pass_no=1, move_id=move.id, phase="eased")
    half = desk.complete(state, ev.Event(id=events[0].id, seq=state.seq + 1, at=NOW, author="", body=eased))
    with pytest.raises(NotNow, match="half done"):
        past_of("s", (*events[: state.seq], half), state.seq + 1)


def test_a_past_goes_into_the_database_and_back() -> None:
    past = past_of("s", worked("vise", 1), 12)
    assert Past.model_validate(past.model_dump(mode="json"), strict=False) == past


@pytest.mark.parametrize("name", ["column", "vises"])
def test_what_nobody_can_take_hold_of_is_done_as_it_is_said(name: str) -> None:
    events = worked(name, 2)
    past = past_of("s", events, after_pass(events, 1))
    session = Session(Told(drill=NAME, seed=1, advice="full", past=past), NOW)
    for number in range(120):
        before = session.body.past_limit_mm
        panel = session.panel
        done = [e for e in panel.primary.events if isinstance(e, ev.MoveDone)] if panel.primary else []
        if done and not session.body.in_hand(desk.complete(session.person.state, session.person._event(done[0])).shown):  # type: ignore[arg-type]
            session.act(acts.Act(id=events[number % len(events)].id, at=NOW, body=acts.Done(body=done[0])))
            assert session.strokes
            if session.body.past_limit_mm != before:
                return
        else:
            session.person.step()
    pytest.fail("nothing was to be moved")
