"""Set-ups are found by the beginning of any word, by what, where, who and when, page after page; and looked back at."""

from __future__ import annotations

from collections.abc import Iterator
from datetime import UTC, date, datetime
from typing import Any
from uuid import UUID, uuid4

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.store.test_setups import kept
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.store import database as db
from velvet_hand.store import found, past, setups
from velvet_hand.store.found import Asked, search
from velvet_hand.store.tables import Setup


@pytest.fixture(scope="module", autouse=True)
def database(database_url: str) -> Iterator[Any]:
    connected = db.connect(database_url)
    with connected.connection_context():
        yield connected
    connected.close_all()


def worked(seed: int) -> Operator:
    """A four-jaw worked on its simulated machine to its proof."""
    rng, plan = np.random.default_rng(seed), example("four_jaw", seed)
    operator = Operator(plan, machine(plan, rng), rng)
    operator.run()
    return operator


LIMIT = {"kind": "tir", "typed": {"text": "0.04", "unit": "mm"}}


def proved(part: str = "Drum", note: str = "") -> UUID:
    person = Person(part={"name": part, "diameter": {"text": "62", "unit": "mm"}, "surface": "outside"}, limit=LIMIT)
    person.send(ev.Tightened())
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    person.send(ev.Proved(pass_no=1))
    if note:
        person.send(ev.Noted(text=note))
    return kept(person)


def ids(**asked: Any) -> list[UUID]:
    return [one.id for one in search(Asked(**asked), size=500)[0]]


def test_it_is_found_by_what_where_who_and_when() -> None:
    mine = proved("Gripper bar, Köhler’s", "The left jaw squeals")
    state = setups.read(mine).state
    plan = state.plan
    day = state.changed_at.astimezone().date()
    for asked in (
        {"words": "grip KOHL"},
        {"words": "squeals"},
        {"words": "Ode gripper"},
        {
            "words": "köhler",
            "machine": plan.machine.name,
            "holder": plan.holder.name,
            "outcome": "holds",
            "hand": "Ode",
        },
        {"words": "gripper", "standing": True, "since": day, "until": day},
        {"procedure": desk.procedure_of(plan).title, "words": "gripper"},
    ):
        assert ids(**asked) == [mine], asked
    for asked in (
        {"words": "ripper"},
        {"words": "gripper platen"},
        {"words": "gripper", "outcome": "open"},
        {"words": "gripper", "standing": False},
        {"words": "gripper", "until": date(2026, 1, 1)},
        {"words": "gripper", "since": date(2036, 1, 1)},
        {"words": "100%_"},
        {"words": "'; drop & | ! :* ( <->"},
        {"words": "!!! ???"},
    ):
        assert ids(**asked) == [], asked


def test_what_a_part_measured_is_found_by_what_measured_it() -> None:
    mine = proved("Cam blank")
    typed = Typed(text="0.01", unit="mm")
    person = Person()
    setups.append(
        mine, person.events[0].id, person.at, "Wilf", ev.MeasuredPart(what="asked", typed=typed, by="Ring gauge 40")
    )
    assert ids(words="ring gauge cam") == [mine]
    assert ids(words="wilf cam") == [mine]


def test_pages_show_each_once_while_others_come_in() -> None:
    mine = {proved("Paged roller") for _ in range(7)}
    rows, after = search(Asked(words="paged"), size=3)
    seen = [one.id for one in rows]
    while after:
        setups.append(seen[0], uuid4(), datetime.now(UTC), "Ode", ev.Noted(text="Newer than all."))  # its page was left
        rows, after = search(Asked(words="paged"), after, size=3)
        seen += [one.id for one in rows]
    assert len(seen) == len(set(seen))
    assert set(seen) == mine
    for nonsense in ("2", "2026-01-01~x", "~", "2026-01-01T00:00:00~" + str(next(iter(mine)))):
        with pytest.raises(BadInput):
            search(Asked(), nonsense)


def test_hands_are_known_without_looking_through_everything() -> None:
    assert found.hands() == ["Ode"]


def test_a_struck_lesson_counts_no_more() -> None:
    person = worked(3)
    assert person.state.verdict is not None
    assert person.state.verdict.outcome == "holds"
    setup_id = kept(person)
    holder = person.state.plan.holder
    before = setups.memory_of(holder)
    assert before.taught
    after = setups.memory_of(holder.model_copy(update={"struck": (str(setup_id),)}))
    assert after.setups == before.setups - 1
    rows = past.of("holder", holder.id)
    assert rows[-1].id == str(setup_id)
    assert rows[-1].lesson.taught
    assert rows[-1].account.moves == len(person.state.moves)
    for subject, item in (
        ("machine", person.state.plan.machine.id),
        ("gauge", person.state.plan.gauge.id),
        ("hand", person.events[0].author),
    ):
        assert str(setup_id) in [p.id for p in past.of(subject, item)]  # type: ignore[arg-type]


@pytest.mark.parametrize("name", ["Ode", "O'Hara \\ sons", "a:* & b", "Köhler’s “best”", "x\ty"])
def test_a_word_is_found_beside_what_was_chosen_however_it_is_written(
    name: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Beyond the latest few of what was chosen the index of words beside it is asked; it says the same."""
    mine, other = proved(f"Frisket hinge {len(name)}"), proved("Tympan hinge")
    for one in (mine, other):
        Setup.update(hand=name, holder=f"{name}, four-jaw").where(Setup.id == one).execute()
    chosen: tuple[dict[str, Any], ...] = (
        {"hand": name}, {"holder": f"{name}, four-jaw"}, {"hand": name, "machine": "Bramble lathe"},
        {"hand": name, "outcome": "holds"},
    )  # fmt: skip
    for near, few in ((found.NEAR, found.FEW), (1, found.FEW), (1, 0)):
        monkeypatch.setattr(found, "NEAR", near)
        monkeypatch.setattr(found, "FEW", few)
        for asked in chosen:
            assert ids(words=f"frisk {len(name)}", **asked) == [mine], (near, few, asked)
            assert set(ids(words="hinge", **asked)) == {other, mine}
            assert ids(words="hinge nowhere", **asked) == []
        assert ids(words="frisk", hand="somebody else") == []


def test_what_is_not_proved_yet_is_found_beside_words(monkeypatch: pytest.MonkeyPatch) -> None:
    person = Person(
        part={"name": "Quoin key", "diameter": {"text": "62", "unit": "mm"}, "surface": "outside"}, limit=LIMIT
    )
    open_one = kept(person)
    proved("Quoin key")
    monkeypatch.setattr(found, "NEAR", 1)
    assert ids(words="quoin", outcome="open") == [open_one]
