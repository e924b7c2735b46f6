"""What a chuck answers is learned with its uncertainty, and no faster than the moves can tell."""

from __future__ import annotations

from typing import cast

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.bench_person import Person
from velvet_hand.core.desk import desk
from velvet_hand.core.engine.jaws.look import learn
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.response import GAIN_PRIOR, Gain, Kick
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State


def test_before_any_move_the_plain_need_is_asked_for() -> None:
    assert Gain().ask(0.3) == 0.3


@given(st.floats(0.6, 1.1), st.integers(3, 8))
def test_moves_that_always_answer_alike_are_believed_more_and_more(truth: float, count: int) -> None:
    gain = Gain()
    spreads = [gain.variance]
    for _ in range(count):
        gain = gain.learn(0.4, truth * 0.4, 0.0005)
        spreads.append(gain.variance)
    assert spreads == sorted(spreads, reverse=True)
    assert abs(gain.value - truth) < abs(GAIN_PRIOR - truth) * 0.5 + 0.02
    assert gain.ask(1.0) * truth == pytest.approx(1.0, abs=0.12)


def test_a_move_as_small_as_the_noise_teaches_next_to_nothing() -> None:
    gain = Gain().learn(0.001, -0.002, 0.002)
    assert gain.value == pytest.approx(GAIN_PRIOR, abs=0.06)


@given(st.floats(-3, 3))
def test_the_gain_stays_within_reason_whatever_is_read(got: float) -> None:
    assert 0.4 <= Gain().learn(0.2, got, 0.0005).value <= 1.4


def test_the_learned_gain_misses_least_on_average() -> None:
    """The cautious command against the plain one, over chucks drawn from the prior."""
    rng = np.random.default_rng(8)
    cautious, plain = [], []
    for _ in range(3000):
        truth = rng.normal(GAIN_PRIOR, 0.15)
        gain = Gain().learn(0.5, truth * 0.5 * (1 + rng.normal(0, 0.05)), 0.001)
        cautious.append((1 - truth * gain.ask(1.0)) ** 2)
        plain.append((1 - truth) ** 2)
    assert float(np.mean(cautious)) < 0.35 * float(np.mean(plain))


def test_a_kick_is_believed_as_far_as_it_exceeds_its_scatter() -> None:
    assert Kick().learn(0.0, 0.0005).mean_mm == 0.0
    once = Kick().learn(0.008, 0.0005)
    assert 0.005 < once.mean_mm < 0.008
    assert once.learn(0.008, 0.0005).mean_mm > once.mean_mm
    assert abs(Kick().learn(0.008, 0.02).mean_mm) < 0.001


def learned(person: Person) -> tuple[float, int, tuple[float, float]]:
    found = learn(cast("State[JawPlan]", desk.load(person.events)))
    return found.gain.value, found.gain.moves, found.kick_mm


def test_a_pair_alone_is_enough_to_learn_from() -> None:
    person = Person(school="pairs")
    person.read("s1", "0.3")
    person.read("s2", "-0.3")
    person.do()
    person.read("s1", "0.09")
    person.read("s2", "-0.09")
    value, moves, _ = learned(person)
    assert moves == 1
    assert value == pytest.approx(0.7, abs=0.03)


def test_a_move_that_was_tightened_over_teaches_neither_gain_nor_kick() -> None:
    person = Person()
    person.read_all(0.3, 0.0, -0.3, 0.0)
    person.do()
    person.send(ev.Tightened())
    person.read_all(0.1, 0.0, -0.1, 0.0)
    assert learned(person) == (GAIN_PRIOR, 0, (0.0, 0.0))


def test_a_move_past_the_dial_and_one_gone_back_on_teach_nothing() -> None:
    person = Person(travel_mm=0.25)
    person.read("s1", "0")
    person.read("s3", "-off")
    person.do()
    person.send(ev.ZeroSet(station_id="s1"))
    person.read_all(0.1, 0.0, -0.1, 0.0)
    assert learned(person)[1] == 0
    back = Person()
    back.read_all(0.3, 0.0, -0.3, 0.0)
    back.do(phase="eased")
    back.do(phase="back")
    back.read_all(0.2, 0.0, -0.2, 0.0)
    assert learned(back)[1] == 0


def test_undoing_a_move_unlearns_it() -> None:
    person = Person()
    person.read_all(0.3, 0.0, -0.3, 0.0)
    person.do()
    person.read_all(0.1, 0.0, -0.1, 0.0)
    assert learned(person)[1] == 1
    for _ in range(5):
        person.undo()
    assert learned(person)[1] == 0
    assert desk.load(person.events).moves == []
