"""Follow-ups: due when they are, in words; set and done in the log."""

from __future__ import annotations

from datetime import date, timedelta
from uuid import UUID

import pytest

from tests.core.bench_person import Person
from tests.core.test_after import measured, proved
from velvet_hand.core.after.follow import due
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, NotNow
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.follow import FollowUp, When
from velvet_hand.core.wording import plain

TODAY = date(2026, 11, 27)


def follow(person: Person, what: str, when: When, on: date | None = None, piece: int | None = None) -> str:
    event = person.send(ev.FollowUpSet(follow=FollowUp(what=what, when=when, on=on, piece=piece)))
    return str(event.id)


def words(person: Person, *pieces: int, on: date = TODAY) -> list[str]:
    return [one.what for one in due(desk.account(desk.load(person.events)), pieces, on)]


def test_a_day_comes_nearer_and_passes() -> None:
    person = Person()
    one = follow(person, "Check the stop", "on", TODAY + timedelta(days=2))
    follow(person, "", "on", TODAY + timedelta(days=40))
    assert words(person) == ["Check the stop: in 2 days"]
    assert words(person, on=TODAY + timedelta(days=2)) == ["Check the stop: today"]
    assert words(person, on=TODAY + timedelta(days=9))[0] == "Check the stop: overdue by 7 days"
    person.send(ev.FollowUpDone(follow_id=UUID(one)))
    assert words(person) == []
    assert [plain(line.what, "mm", 0.001) for line in person.log()[-3:]] == [
        "To be looked at again on 29 Nov 2026: Check the stop",
        "To be looked at again on 6 Jan 2027: all of it",
        "Looked at again.",
    ]
    with pytest.raises(NotNow, match="done already"):
        person.send(ev.FollowUpDone(follow_id=UUID(one)))


def test_what_comes_after_the_cut_waits_for_it() -> None:
    person = proved()
    follow(person, "Runout again", "first_cut")
    follow(person, "Wear of the jaws", "next_mounting")
    assert words(person) == ["Wear of the jaws: at the next mounting"]
    state = desk.load(person.events)
    cautions = state.hold_cautions["clear_to_run"]
    person.send(ev.StepPassed(step="clear_to_run", checked=cautions))
    assert words(person)[0] == "Runout again: after the first cut"


def test_a_piece_comes_round_while_it_stands() -> None:
    person = proved()
    follow(person, "Bore", "piece", piece=5)
    assert words(person, 4) == ["Bore: from piece 5", "measure piece 4"]
    person.send(measured("0.01", piece=6))
    assert words(person, 4) == []
    assert words(person, 9) == ["measure piece 9"]
    person.send(ev.TakenOff())
    assert words(person, 9) == []
    assert follow(person, "Later", "next_mounting")  # also when it is off


@pytest.mark.parametrize(("when", "field"), [("on", "follow.on"), ("piece", "follow.piece")])
def test_what_never_comes_is_refused(when: When, field: str) -> None:
    with pytest.raises(BadInput) as caught:
        follow(Person(), "x", when)
    assert caught.value.field == field
