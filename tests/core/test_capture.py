"""A turn and a run along, captured: the surface found from the signal, what is left out, and how sure it is."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

import numpy as np
import pytest

from bench.capture import one_sweep, one_turn
from tests.core.by_turning import Turner
from velvet_hand.core.capture.captured import Captured, Wanted
from velvet_hand.core.capture.stream import tidy
from velvet_hand.core.capture.sweep import sweep
from velvet_hand.core.capture.together import together
from velvet_hand.core.capture.turn import turn
from velvet_hand.core.desk.course import course_of, read_course
from velvet_hand.core.errors import BadInput, NotNow
from velvet_hand.core.fit.circle import ray
from velvet_hand.core.live.recording import MOST, Recording
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.sim.winding import STEADINESS, Array, pressed, wound
from velvet_hand.core.wording import words_of

WANTED = Wanted(0.001, 0.02)
SPOTS = [45.0 * i for i in range(8)]
JAWS = [0.0, 90.0, 180.0, 270.0]


def eccentric(deg: Array, size: float = 0.05, high: float = 90.0) -> Array:
    return np.asarray(size * np.cos(np.radians(deg - high)))


def turned(seed: int = 1, turns: int = 1, hand: int = 1) -> tuple[Array, Array, list[float]]:
    """Moments, angles and marks at the jaws."""
    rng = np.random.default_rng(seed)
    at_s, deg = wound(rng, STEADINESS[hand], 360.0 * turns, 45.0)
    return at_s, deg, pressed(rng, at_s, deg, np.linspace(90, 360 * turns - 90, 4 * turns - 1))


def captured(at_s: Array, mm: Array, marks: Sequence[float] = (), turns: int | None = 1) -> Captured:
    mm = np.round(mm / 0.001) * 0.001
    return turn(list(at_s), list(mm), WANTED, spots=SPOTS, marks_s=marks, jaws=JAWS, turns=turns)


def test_what_is_captured_agrees_with_typed_readings_as_it_says() -> None:
    """A small one of ``./velvet bench capture``: hands of every steadiness, with marks and without, round and along."""
    rows = [one_turn(seed, hand, 1, marked) for seed in range(3) for hand in STEADINESS for marked in (True, False)]
    rows += [one_sweep(seed, hand, back) for seed in range(3) for hand in STEADINESS for back in (True, False)]
    assert np.mean([row.agrees for row in rows]) >= 0.9
    assert all(row.count_right for row in rows)


@pytest.mark.parametrize("sign", [1, -1])
def test_a_round_part_far_off_its_middle_is_no_cosine_and_not_oval(sign: int) -> None:
    """Roughed in to a millimeter: what the circle bends by is 25 µm there, twelve times the form."""
    rows = [one_turn(seed, "usual", 1, True, off_mm=1.0, radius_mm=20.0, sign=sign) for seed in range(10)]
    assert np.mean([row.agrees for row in rows]) >= 0.9
    at_s, deg, marks = turned()
    mm = list(ray(deg, 0.0, 1.0, 20.0, sign))
    found = turn(list(at_s), mm, replace(WANTED, radius_mm=sign * 20.0), spots=SPOTS, marks_s=marks, jaws=JAWS, turns=1)
    assert all(wave.mm < 0.003 for wave in found.form)
    assert found.tir_mm == pytest.approx(2.0, abs=0.004)


@pytest.mark.parametrize("high", [0.0, 90.0, 200.0, 315.0])
def test_it_stands_highest_where_it_does(high: float) -> None:
    at_s, deg, marks = turned()
    found = captured(at_s, eccentric(deg, high=high), marks)
    assert abs((found.high - high + 180) % 360 - 180) < 6
    assert found.once_mm == pytest.approx(0.05, abs=0.003)
    assert found.tir_mm == pytest.approx(0.1, abs=0.004)
    for spot in found.spots:
        assert spot.mm == pytest.approx(
            float(eccentric(np.array(spot.place), high=high)), abs=max(3 * spot.u_mm, 0.004)
        )


def test_a_nick_is_left_out_and_named_where_it_is() -> None:
    at_s, deg, marks = turned()
    mm = eccentric(deg, 0.02)
    mm[np.abs(deg - 140) < 1.5] -= 0.08
    found = captured(at_s, mm, marks)
    assert [one.kind for one in found.left_out] == ["nick"]
    assert found.left_out[0].at == pytest.approx(140, abs=12)
    assert found.once_mm == pytest.approx(0.02, abs=0.003)


def test_a_silence_is_named_and_a_clock_that_jumps_back_is_passed_over() -> None:
    at_s, deg, marks = turned()
    kept = ~((deg > 200) & (deg < 230))
    at, mm = at_s[kept].copy(), eccentric(deg)[kept]
    at[50] = at[10]
    found = captured(at, mm, marks)
    assert "silence" in [one.kind for one in found.left_out]
    assert found.once_mm == pytest.approx(0.05, abs=0.004)


@pytest.mark.parametrize("turns", [1, 2, 3])
def test_how_often_it_went_round_is_found(turns: int) -> None:
    at_s, deg, _ = turned(turns=turns, hand=0)
    found = captured(at_s, eccentric(deg, 0.05, 60.0), turns=None)
    assert found.turns == turns
    assert found.counted == (turns == 1)  # two turns look like one of an oval part: it asks


def test_an_oval_part_turned_once_is_not_taken_for_another_turned_twice() -> None:
    at_s, deg, marks = turned()
    oval = 0.03 * np.cos(2 * np.radians(deg)) + eccentric(deg, 0.005)
    assert not captured(at_s, oval, turns=None).counted
    found = captured(at_s, oval, marks, None)
    assert (found.turns, found.counted) == (1, True)
    assert max(found.form, key=lambda wave: wave.mm).order == 2


def test_more_turns_make_it_surer_as_long_as_they_agree() -> None:
    ways = [turned(seed) for seed in range(4)]
    turns = [captured(at_s, eccentric(deg), marks) for at_s, deg, marks in ways]
    assert together(turns, WANTED).spots[3].u_mm < min(one.spots[3].u_mm for one in turns)
    moved = captured(ways[0][0], eccentric(ways[0][1], high=150.0), ways[0][2])
    assert together([turns[0], moved], WANTED).spots[3].u_mm > turns[0].spots[3].u_mm


def test_a_way_there_alone_leaves_the_closing_reading_to_be_read() -> None:
    at_s, x = wound(np.random.default_rng(3), "usual", 120.0, 15.0)
    mm = 0.03 * x / 120
    there = sweep(list(at_s), list(mm), 120.0, WANTED, spots=[0.0, 60.0, 120.0])
    assert there.closing_mm is None
    assert there.once_mm == pytest.approx(0.03, abs=3 * there.once_u_mm)


def test_too_little_is_refused() -> None:
    with pytest.raises(BadInput) as refused:
        tidy([0.0, 0.1], [0.0, 0.0], 0.001)
    assert refused.value.field == "ended"


def test_a_recording_has_an_end() -> None:
    recording = Recording(0.0)
    for i in range(MOST + 5):
        recording.add(i / 50, 0.0)
    assert (len(recording.mm), recording.full) == (MOST, True)


@pytest.mark.parametrize("name", ["four_jaw", "edge", "vise"])
@pytest.mark.parametrize("seed", range(3))
def test_a_set_up_read_by_turning_ends_within_its_limit(name: str, seed: int) -> None:
    """The loop with whole circles and edges captured instead of typed: no wrong way, and what is called good is good."""
    plan = example(name, seed * 5)
    body = machine(plan, np.random.default_rng(seed))
    person = Turner(plan, body, np.random.default_rng(seed + 1))
    out = person.run()
    assert person.captured
    assert out.state.verdict is not None
    assert out.state.verdict.outcome == "holds"
    assert body.past_limit_mm <= 0


def test_a_course_is_offered_only_before_its_first_reading() -> None:
    plan = example("four_jaw", 0)
    person = Turner(plan, machine(plan, np.random.default_rng(0)), np.random.default_rng(1))
    while course_of(person.state) is None or person.state.unread(None) is None or not person.state.proved:
        person.step()
    here = course_of(person.state)
    assert here is not None
    assert "toward" in words_of(here.how)
    past = Recording(0.0)
    for i in range(200):
        past.add(i / 50, plan.gauge.travel_mm)
    with pytest.raises(NotNow, match="ran off"):
        read_course(person.state, past, ())
    spot = person.state.stations[0].id
    super(Turner, person)._read(spot, False)
    assert course_of(person.state) is None
    with pytest.raises(NotNow, match="meanwhile"):
        read_course(person.state, person_recording(), ())


def person_recording() -> Recording:
    recording = Recording(0.0)
    for i in range(200):
        recording.add(i / 50, 0.0)
    return recording
