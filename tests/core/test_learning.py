"""What a chuck answers is learned with its uncertainty, over whatever was done between two passes, and no faster than that can tell."""

from __future__ import annotations

from typing import cast

import pytest

from tests.core.bench_person import Person
from velvet_hand.core.desk import desk
from velvet_hand.core.engine.answers import Answered
from velvet_hand.core.engine.jaws.answers import answered
from velvet_hand.core.estimate.pairs import Screwed
from velvet_hand.core.memory import remember
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State

GAIN = slice(2, 4)
SHIFT = slice(8, 10)


def known(person: Person) -> Answered[Screwed]:
    return answered(cast("State[JawPlan]", desk.load(person.events)))


def proved(person: Person, off_mm: float = 0.0) -> None:
    """Go on to a proof of a part so far off its middle."""
    person.send(ev.Tightened())
    person.read_all(0.0, off_mm, 0.0, -off_mm, closing=0.0)
    person.send(ev.Proved(pass_no=len(desk.load(person.events).passes)))


def test_a_pair_alone_is_enough_to_learn_from() -> None:
    person = Person(school="pairs")
    person.read("s1", "0.3")
    person.read("s2", "-0.3")
    person.do()
    person.read("s1", "0.09")
    person.read("s2", "-0.09")
    found = known(person)
    assert found.moves == 1
    assert found.belief.x[2] == pytest.approx(0.73, abs=0.04)
    assert found.belief.sd(2) < 0.06
    assert found.belief.sd(3) == pytest.approx(0.15, abs=0.01)  # of the other pair nothing is known


def test_each_pair_has_a_gain_of_its_own() -> None:
    person = Person()
    person.read_all(0.5, 0.5, -0.5, -0.5)
    person.do()
    person.do()
    person.read_all(0.2, -0.025, -0.2, 0.025)  # 0.6 and 1.05 of it arrived
    assert known(person).belief.x[GAIN] == pytest.approx([0.62, 1.03], abs=0.04)


def test_a_move_that_was_tightened_over_teaches_the_gain_and_hardly_the_shift() -> None:
    person = Person()
    person.read_all(0.3, 0.0, -0.3, 0.0)
    person.do()
    person.send(ev.Tightened())
    person.read_all(0.1, 0.0, -0.1, 0.0)
    found = known(person).belief
    assert found.x[2] == pytest.approx(0.7, abs=0.05)
    assert abs(found.x[SHIFT]).max() < 0.0005


def test_tightening_alone_teaches_the_shift_and_nothing_of_the_gain() -> None:
    person = Person()
    person.read_all(0.0, 0.0, 0.0, 0.0)
    person.send(ev.Tightened())
    person.read_all(0.004, 0.0, -0.004, 0.0)
    found = known(person)
    assert found.moves == 0
    assert found.belief.x[8] == pytest.approx(0.0034, abs=3e-4)
    assert found.belief.x[GAIN].tolist() == [0.85, 0.85]


def test_a_move_past_the_dial_and_one_gone_back_on_teach_nothing() -> None:
    person = Person(travel_mm=0.25)
    person.read("s1", "0")
    person.read("s3", "-off")
    person.do()
    person.send(ev.ZeroSet(station_id="s1"))
    person.read_all(0.1, 0.0, -0.1, 0.0)
    assert known(person).moves == 0
    back = Person()
    back.read_all(0.3, 0.0, -0.3, 0.0)
    back.do(phase="eased")
    back.do(phase="back")
    back.read_all(0.2, 0.0, -0.2, 0.0)
    assert known(back).moves == 0


def test_a_move_that_did_what_moves_never_did_is_not_believed_and_said() -> None:
    person = Person()
    person.read_all(0.3, 0.3, -0.3, -0.3)
    person.do()
    person.do()
    person.read_all(0.045, 0.045, -0.045, -0.045)
    before = known(person).belief
    person.do()
    person.do()
    person.read_all(-0.05, 0.0, 0.05, 0.0)  # something slipped
    found = known(person)
    assert found.odd
    assert found.moves == 1
    assert abs(found.belief.x[2] - before.x[2]) < 0.1
    assert found.belief.sd(2) > before.sd(2)
    assert found.belief.x[0] == pytest.approx(-0.05, abs=0.001)  # where it is, is believed
    assert "odd_move" in [c.code for c in person.solve().caveats]


def test_a_move_the_wrong_way_teaches_nothing() -> None:
    person = Person()
    person.read_all(0.3, 0.0, -0.3, 0.0)
    person.do()
    person.read_all(0.6, 0.0, -0.6, 0.0)
    found = known(person)
    assert found.wrong
    assert found.belief.x[GAIN].tolist() == [0.85, 0.85]
    assert found.belief.x[0] == pytest.approx(0.6, abs=0.001)


def test_undoing_a_move_unlearns_it() -> None:
    person = Person()
    person.read_all(0.3, 0.0, -0.3, 0.0)
    person.do()
    person.read_all(0.1, 0.0, -0.1, 0.0)
    assert known(person).moves == 1
    for _ in range(5):
        person.undo()
    assert known(person).moves == 0
    assert desk.load(person.events).moves == []


def test_only_a_proved_set_up_teaches_and_memory_gives_its_answer_back() -> None:
    person = Person(limit_thou="1")
    person.read_all(0.3, 0.3, -0.3, -0.3)
    person.do()
    person.do()
    person.read_all(0.09, 0.09, -0.09, -0.09)
    assert desk.lesson(desk.load(person.events)).empty
    proved(person)
    lesson = desk.lesson(desk.load(person.events))
    assert lesson.taught["gain_1"][0] == pytest.approx(0.7, abs=0.06)
    wise = Person(memory=remember([lesson] * 5))
    wise.read_all(0.3, 0.0, -0.3, 0.0)
    asked = wise.solve().moves[0].asked
    assert asked is not None
    assert asked.mm > 0.3 / 0.8


@pytest.mark.parametrize(("off_mm", "outcome"), [(0.0, "holds"), (0.1, "outside"), (0.0063, "cannot_tell")])
def test_only_a_proof_that_holds_teaches(off_mm: float, outcome: str) -> None:
    person = Person()
    person.read_all(0.0, 0.3, 0.0, -0.3, closing=0.0)
    person.do()
    person.read_all(0.0, 0.1, 0.0, -0.1, closing=0.0)
    proved(person, off_mm)
    state = desk.load(person.events)
    assert state.verdict is not None
    assert state.verdict.outcome == outcome
    assert desk.lesson(state).empty == (outcome != "holds")
