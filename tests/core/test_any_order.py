"""Whatever is sent in whatever order, in any procedure: refused in shop words, or taken and shown whole."""

from __future__ import annotations

import pickle
import random
from dataclasses import replace
from uuid import UUID

import pytest

from tests.core.hand import Hand
from tests.core.lathe_plans import plan_of
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advise import offered_moves
from velvet_hand.core.errors import VelvetHandError
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.units import Typed

WALKS, STEPS = 6, 50
VALUES = ("0", "0.01", "-0.02", "0.1", "-0.15", "0.3", "+off", "-off", "off", "lost", "40", "0 90", "x", "")


def something(dice: random.Random, state: State) -> ev.ClientBody:
    """Any event at all, mostly a reading of what is asked."""
    number = dice.choice([state.next_pass_no, state.next_pass_no, len(state.passes), 1])
    station = dice.choice(state.asked() if dice.random() < 0.8 else state.stations).id
    typed = Typed(text=dice.choice(VALUES), unit="mm")
    moves = list(offered_moves(PROCEDURES[state.plan.procedure], state))
    reading = next((r for p in state.passes for r in p.readings.values()), None)
    events: list[ev.ClientBody] = [
        *[ev.ReadingTaken(pass_no=max(number, 1), station_id=station, typed=typed)] * 8,
        ev.ReadingTaken(pass_no=max(number, 1), station_id=station, typed=typed, closing=True),
        ev.ReadingCorrected(reading_id=UUID(reading.event_id) if reading else UUID(int=1), typed=typed),
        ev.SpotMarked(pass_no=max(number, 1), station_id=station, bad=dice.random() < 0.7),
        ev.PassClosed(pass_no=max(len(state.passes), 1)),
        ev.ZeroSet(station_id=station, why="bumped"),
        ev.StepPassed(step="read"),
        ev.Tightened(quick=dice.random() < 0.5),
        ev.Proved(pass_no=max(len(state.passes), 1)),
        ev.Accepted(reason="good enough"),
        ev.PressTested(went=dice.choice(["plus", "minus"]), gauge=dice.choice(["", "far"])),
        ev.GapMeasured(typed=typed),
        ev.Undone(event_id=state.effective[-1].id),
        *[
            ev.MoveDone(
                pass_no=max(len(state.passes), 1), move_id=dice.choice(moves or ["none"]),
                phase=dice.choice(["done", "done", "eased", "back"]), quick=dice.random() < 0.4,
            )
        ] * 4,
    ]  # fmt: skip
    return dice.choice(events)


@pytest.mark.parametrize("walk", range(WALKS))
@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_nothing_in_any_order_breaks_it(procedure: str, walk: int) -> None:
    dice = random.Random(f"{procedure} {walk}")
    hand = Hand(plan_of(procedure, walk))
    taken, kept = 0, desk.load(hand.events)
    for _ in range(STEPS):
        state, was = kept, pickle.dumps(replace(kept, memo={}))
        before = len(hand.events)
        refused: VelvetHandError | None
        try:
            whole, kept = desk.accept(hand.events, hand._event(something(dice, state)), state)
            hand.events.append(whole)
        except VelvetHandError as told:
            refused = told
        else:
            taken += 1
            refused = None
        assert refused is None or (refused.why and len(hand.events) == before)
        assert state == pickle.loads(was)  # what was kept is never changed: others may be looking at it
        view = desk.show(hand.events, "x", kept)
        assert view.panels
        assert view.model_dump_json()
        desk.summarize(kept)
        if taken % 4 == 0:  # carried on event by event it is what the fold makes of all of them, and looks the same
            folded = desk.load(hand.events)
            assert kept == folded
            assert view == desk.show(hand.events, "x", folded)
    assert taken > STEPS / 10
