"""The simulated chuck is a body of its own: checked against plane geometry, not against the procedure."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.support import make_plan, there
from velvet_hand.core.operator import Operator
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.body import Jammed, WrongWay
from velvet_hand.core.sim.jaws import Quirks, SimulatedChuck, random_quirks


def chuck(quirks: Quirks, **plan: object) -> SimulatedChuck:
    return SimulatedChuck(make_plan(**plan), quirks, np.random.default_rng(1))


def test_a_turned_chuck_shows_a_fixed_gauge_what_a_carried_gauge_sees_going_round() -> None:
    quirks = Quirks(offset_mm=0.7, offset_deg=37)
    fixed = chuck(quirks, gauge_clock_deg=180.0)
    carried = chuck(quirks, carrier="gauge_turns")
    for deg in range(0, 360, 30):
        assert fixed.read(float(deg)) == pytest.approx(carried.read(float(deg)), abs=0.002)


def test_tir_is_twice_the_offset_outside_and_in_a_bore() -> None:
    for surface in ("outside", "inside"):
        seen = [float(chuck(Quirks(0.7, 40), surface=surface, travel_mm=60.0).read(float(d))) for d in range(0, 360, 5)]
        assert max(seen) - min(seen) == pytest.approx(1.4, abs=0.003)
        high = seen.index(max(seen)) * 5
        assert high == pytest.approx(40 if surface == "outside" else 220, abs=5)


def test_marks_ends_and_sense_of_the_needle() -> None:
    work = chuck(Quirks(0.5, 0, push_reads=-1), travel_mm=0.4)
    work.zero(90.0)
    assert work.press() == "minus"
    assert work.read(0.0) == "-off"
    assert work.read(180.0) == "+off"
    value = work.read(80.0)
    assert isinstance(value, float)
    assert (value / 0.00127) % 1 == pytest.approx(0, abs=1e-6)


def test_drawing_a_jaw_in_moves_the_work_away_from_it_and_springs_back() -> None:
    person = Person(travel_mm=2.0)
    person.read_all(0.4, 0.0, -0.4, 0.0)
    work = chuck(Quirks(0.4, 0, gain=(0.8, 0.8)))
    work.zero(0.0)
    work._zero[""] = work._zero.get("", 0.0) - 0.4  # the dial stands as in the readings above
    work.do(person.solve().moves[0])
    assert work.center.real == pytest.approx(0.4 - 0.8 * 0.4, abs=2e-3)
    assert work.true_tir_mm == pytest.approx(0.16, abs=4e-3)


def test_a_move_the_wrong_way_and_a_jaw_that_was_not_eased_are_caught() -> None:
    person = Person(travel_mm=2.0)
    person.read_all(0.4, 0.0, -0.4, 0.0)
    move = person.solve().moves[0]
    work = chuck(Quirks(0.4, 180))
    work.zero(0.0)
    work._zero[""] = work._zero.get("", 0.0) - 0.4
    with pytest.raises(WrongWay):
        work.do(move.model_copy(update={"needle": there(move.needle).model_copy(update={"aim_mm": 0.9})}))
    with pytest.raises(Jammed):
        work.do(move.model_copy(update={"ease": None}))


def test_tightening_kicks_once_until_something_is_loosened() -> None:
    work = chuck(Quirks(0.0, 0, kick_mm=0.01, kick_deg=90))
    work.tighten()
    work.tighten()
    assert work.center == pytest.approx(0.01j, abs=1e-12)
    work.slacken()
    work.tighten()
    assert work.center == pytest.approx(0.02j, abs=1e-12)


def test_what_is_tightened_again_was_slacked_off_first() -> None:
    plan = make_plan(travel_mm=2.0)
    work = SimulatedChuck(plan, Quirks(0.0, 0, kick_mm=0.01, kick_deg=90), np.random.default_rng(1))
    person = Operator(plan, work, np.random.default_rng(2))
    while not person.state.tight:
        assert person.step()
    assert work.center == pytest.approx(0.01j, abs=1e-6)
    person._act(ev.Tightened())
    assert person.state.tightenings == [1, 1]
    assert work.center == pytest.approx(0.02j, abs=1e-6)


@pytest.mark.parametrize("seed", range(3))
def test_the_same_seed_is_the_same_chuck(seed: int) -> None:
    plan = make_plan()
    first, again = (random_quirks(np.random.default_rng(seed), plan) for _ in range(2))
    assert first == again
    assert math.isfinite(first.offset_mm)
