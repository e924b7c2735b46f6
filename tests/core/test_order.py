"""Operations in order: what waits, what is handed over, and what is to be done again."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta

import pytest

from tests.core.test_after import account, proved
from velvet_hand.core.after.account import Account
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.job.order import JobOrder, Operation, in_order
from velvet_hand.core.setup import events as ev
from velvet_hand.core.verdict import Outcome
from velvet_hand.core.wording import plain

NOON = datetime(2026, 11, 27, 12, tzinfo=UTC)


def ended(hours: float, outcome: Outcome = "holds", accepted: bool = False) -> Account:
    changes = {"ended_at": NOON + timedelta(hours=hours), "accepted": accepted, "outcome": outcome}
    return account(0.008, None).model_copy(update=changes)


def job(*setups: str | None) -> JobOrder:
    names = ("First side", "Second side", "Bore")
    return JobOrder(
        name="Bearing housing",
        operations=tuple(
            Operation(id=f"o{n}", name=names[n], setup=setup, leaves="Face A cut" if n == 0 else "")
            for n, setup in enumerate(setups)
        ),
    )


def stages(order: JobOrder, **known: Account) -> list[str]:
    return [one.stage for one in in_order(order, known)]


def test_each_waits_for_the_one_before_it() -> None:
    assert stages(job(None, None, None)) == ["to_do", "waits", "waits"]
    begun = account(0.0, None).model_copy(update={"outcome": None})
    assert stages(job("a", None, None), a=begun) == ["at_it", "waits", "waits"]
    assert stages(job("a", None, None), a=ended(0)) == ["done", "to_do", "waits"]
    assert stages(job("a", "b", None), a=ended(0), b=ended(1)) == ["done", "done", "to_do"]
    assert stages(job("a", None, None), a=ended(0, "outside")) == ["at_it", "waits", "waits"]
    assert stages(job("a", None, None), a=ended(0, "outside", accepted=True)) == ["done", "to_do", "waits"]
    assert stages(job("gone", None)) == ["to_do", "waits"]  # its set-up is not here


def test_doing_an_earlier_one_again_marks_those_after_it_and_says_why() -> None:
    found = in_order(job("a", "b", "c"), {"a": ended(5), "b": ended(1), "c": ended(6)})
    assert [one.stage for one in found] == ["done", "again", "again"]
    assert found[1].why == "“First side” was done again after it: what it left is another."
    assert found[2].why == "“Second side” is to be done again before it."
    reopened = account(0.0, None).model_copy(update={"outcome": None, "value": None})
    found = in_order(job("a", "b"), {"a": reopened, "b": ended(1)})
    assert [one.stage for one in found] == ["at_it", "again"]
    assert found[1].why == "“First side” is not proved any more."


def test_what_was_left_is_handed_over() -> None:
    found = in_order(job("a", None, None), {"a": ended(0)})
    told = [plain(line, "mm", 0.001) for line in found[2].told]
    assert told == ["First side: holds, 0.008 mm TIR left", "First side leaves: Face A cut"]
    assert found[0].told == ()


def test_a_proof_that_is_taken_back_has_not_ended() -> None:
    person = proved()
    told = desk.account(desk.load(person.events))
    assert told.ended_at == person.events[-1].at
    person.send(ev.PressTested(went="plus"))
    person.undo()
    person.undo()
    assert desk.account(desk.load(person.events)).ended_at is None


def test_the_same_operation_twice_is_refused() -> None:
    one = Operation(id="x", name="First side")
    with pytest.raises(BadInput, match="there twice"):
        JobOrder(name="Part", operations=(one, one)).check()
