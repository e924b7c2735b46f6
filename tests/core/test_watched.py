"""Which spot is watched, what swings back, and what is past the dial while the rest is true."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.core.at_the_mill import AtTheMill, along, mill
from tests.core.hand import Hand, at
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.move import Jaws, Tap, TapRound
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain, words_of


@pytest.mark.parametrize("how", ["burr", "bad", "both"])
def test_a_burr_at_the_tapped_end_is_not_watched(how: str) -> None:
    """The next good spot is, so that stopping at the aim is right whatever stands out beside it."""
    clean, hand = AtTheMill(mill("vise")), AtTheMill(mill("vise"))
    spots = hand.plan_spots
    values = along(0.002, 0.0, spots)
    clean.type(values, closing=True)
    plain_tap = as_a(Tap, clean.solve().moves[0])
    last = f"s{len(spots)}"
    hand.type({**values, last: float(values[last]) + (0.08 if how != "bad" else 0.0)}, closing=True)
    if how != "burr":
        hand.send(ev.SpotMarked(pass_no=1, station_id=last))
    tap = as_a(Tap, hand.solve().moves[0])
    needle = there(tap.needle)
    assert needle.station_id == f"s{len(spots) - 1}"
    assert tap.x_mm == plain_tap.x_mm  # it is struck where it was
    pivot = there(tap.pivot_mm)
    part = (spots[-2] - pivot) / (spots[-1] - pivot)
    run, whole = there(needle.aim_mm) - there(needle.now_mm), there(plain_tap.aim_mm) - there(plain_tap.now_mm)
    assert run == pytest.approx(part * whole, abs=1e-3)


def test_a_tap_about_the_wrong_end_that_swings_back_is_told_once_it_did() -> None:
    hand = AtTheMill(mill("vise", hinge="none", way="zero"))
    told = []
    for sign in (1, -1, 1):
        hand.type({k: sign * float(v) for k, v in along(0.002, 0.0, hand.plan_spots).items()}, closing=True)
        told.append(any(c.code == "swings_back" for c in hand.solve().caveats))
        hand.done()
    assert told == [False, True, True]


def test_a_far_end_past_the_dial_is_tapped_onto_it_while_the_near_plane_is_true() -> None:
    hand = Hand(plan_of("two_planes", 0))
    for station, closing in desk.load(hand.events).to_read(None):
        along_it = math.cos(math.radians(station.angle_deg - 40))
        text = "0" if station.ring == "near" or abs(along_it) < 0.2 else "+off" if along_it > 0 else "-off"
        typed = Typed(text=text, unit="mm")
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=typed, closing=closing))
    solution = hand.solve()
    move = as_a(TapRound, solution.moves[0])
    assert not solution.ready
    assert move.rezero
    assert not move.teaches
    assert "tap the far end" in plain(move.sentence, "mm", 0.001)
    assert abs(move.at_deg - 40) < 15


def test_a_direction_too_fine_for_the_indicator_is_told_at_the_plan() -> None:
    plan = plan_of("throw", 0).model_copy(update={"throw_mm": 0.4, "turn_limit_deg": 2.0})
    coarse = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"graduation_mm": 0.005})})
    fields = {c.field for c in desk.check_plan(coarse) if c.code == "gauge_coarse"}
    assert "choices.turn_limit_deg" in fields
    fine = plan.model_copy(update={"throw_mm": 8.0})
    assert "choices.turn_limit_deg" not in {c.field for c in desk.check_plan(fine)}


@pytest.mark.parametrize("first", [0.0, 30.0])
@pytest.mark.parametrize("toward", [0.0, 45.0, 90.0, 200.0, 280.0])
def test_a_hexagon_on_its_flats_is_brought_in_by_all_of_them(first: float, toward: float) -> None:
    """Not every jaw has a flat in front of it: the offset tells the move, the nearest flat shows it."""
    spots = tuple(first + 60.0 * i for i in range(6))
    plan = plan_of("throw", 0).model_copy(update={"throw_mm": 0.0, "shape": "flats", "stations_deg": spots})
    hand = Hand(plan)
    off = at(0.13, toward)
    hand.read(off)
    moves = [as_a(Jaws, m) for m in hand.solve().moves]
    assert moves
    for move in moves:
        needle = there(move.needle)
        jaw = at(1.0, 90.0 * (move.draw.number - 1))
        assert (off * jaw.conjugate()).real > 0.01  # the jaw on the side where it stands out pushes it back
        normal = at(1.0, needle.deg)
        assert there(needle.now_mm) == pytest.approx((off * normal.conjugate()).real, abs=1e-6)
        asked = there(move.asked)
        off += at(asked.mm, asked.deg)
        assert there(needle.aim_mm) == pytest.approx((off * normal.conjugate()).real, abs=1e-6)
    assert abs(off) < 0.03


def test_what_the_needle_did_while_all_was_tightened_is_kept_and_told_until_the_next_pass() -> None:
    plan = example("vise", 3)
    person = Operator(plan, machine(plan, np.random.default_rng(3)), np.random.default_rng(4))
    while not any(isinstance(e, ev.Tightened) for e in _primary(person)):
        assert person.step()
    seen = ev.Watched(gauge="g", before_mm=0.010, after_mm=-0.002)
    person.send(ev.Tightened(watched=seen))
    assert person.state.shift_mm == pytest.approx(-0.012)
    told = " ".join(plain(line, "mm", 0.001) for line in desk.show(person.events, "s").panels[0].why)
    assert "While it was tightened the needle went \u22120.012" in told
    log = desk.log_of(person.events, person.state)
    assert "the needle went" in words_of(log[-1].what)
    person._read(person.state.stations[0].id, False)
    assert person.state.shift_mm is None
    assert desk.load(person.events).watched == person.state.watched


def _primary(person: Operator) -> tuple[ev.ClientBody, ...]:
    panel = desk.show(person.events, "s").panels[0]
    return panel.primary.events if panel.primary else ()
