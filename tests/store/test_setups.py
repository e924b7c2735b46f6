"""The event log: only ever longer, one at a time, and the same after any restart."""

from __future__ import annotations

import gzip
import json
import threading
from collections.abc import Iterator
from datetime import UTC, date, datetime
from importlib import import_module
from typing import Any
from uuid import UUID, uuid4

import psycopg
import pytest
from peewee import DatabaseError

from tests.core.bench_person import Person
from tests.support import ROOT
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, NotFound, NotNow
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.gauge_check import GaugeCheck
from velvet_hand.core.holders import Centres, Holder, Vise
from velvet_hand.core.memory import Lesson
from velvet_hand.core.operator import Operator
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Floor
from velvet_hand.core.units import Typed
from velvet_hand.store import database as db
from velvet_hand.store import found, notify, setups, shop, tables
from velvet_hand.store.tables import EventRow, Setup


@pytest.fixture(scope="module", autouse=True)
def database(database_url: str) -> Iterator[Any]:
    connected = db.connect(database_url)
    with connected.connection_context():
        yield connected
    connected.close_all()


def kept(person: Person | Operator) -> UUID:
    """Everything that the person did, put into the store one event at a time."""
    setup_id = uuid4()
    setups.open_setup(setup_id, person.events[0])
    for event in person.events[1:]:
        setups.append(setup_id, event.id, event.at, event.author, event.body)  # type: ignore[arg-type]
    return setup_id


def a_reading(number: int, station: str = "s1") -> ev.ReadingTaken:
    return ev.ReadingTaken(pass_no=number, station_id=station, typed=Typed(text="1.5", unit="thou"))


def test_what_is_kept_comes_back_the_same_to_the_last_digit() -> None:
    person = Person()
    person.read_all(0.2, 0.0127, -0.2, 1 / 3)
    person.do()
    setup_id = kept(person)
    assert setups.events_of(setup_id) == person.events
    assert desk.show(setups.events_of(setup_id), "x") == person.view()


def test_a_repeated_event_is_accepted_and_changes_nothing() -> None:
    person = Person()
    setup_id = kept(person)
    event_id = uuid4()
    first = setups.append(setup_id, event_id, person.at, "Ode", a_reading(1))
    again = setups.append(setup_id, event_id, person.at, "Ode", a_reading(1))
    assert (first.added, again.added) == (True, False)
    assert again.events == first.events
    opened = setups.open_setup(setup_id, person.events[0])
    assert not opened.added


def test_an_id_that_was_used_for_something_else_is_refused() -> None:
    person = Person()
    setup_id, other_id = kept(person), kept(Person())
    event_id = uuid4()
    setups.append(setup_id, event_id, person.at, "Ode", a_reading(1))
    for where, body in ((setup_id, a_reading(1, "s2")), (other_id, a_reading(1))):
        with pytest.raises(NotNow) as caught:
            setups.append(where, event_id, person.at, "Ode", body)
        assert caught.value.code == "repeated_differently"
    with pytest.raises(NotNow):
        setups.open_setup(setup_id, Person().events[0])


def test_a_refused_event_leaves_no_trace() -> None:
    person = Person()
    setup_id = kept(person)
    with pytest.raises(BadInput):
        setups.append(setup_id, uuid4(), person.at, "Ode", ev.ZeroSet(station_id="nowhere"))
    assert setups.events_of(setup_id) == person.events


def test_an_unknown_set_up_is_said_to_be_unknown() -> None:
    with pytest.raises(NotFound):
        setups.events_of(uuid4())
    with pytest.raises(NotFound):
        setups.append(uuid4(), uuid4(), Person().at, "", ev.Tightened())


@pytest.mark.parametrize("statement", ["UPDATE event SET author = 'x'", "DELETE FROM event", "TRUNCATE event"])
def test_the_database_itself_refuses_to_change_an_event(database: Any, statement: str) -> None:
    kept(Person(ready=False))
    with pytest.raises(DatabaseError, match="only ever added"), database.atomic():
        database.execute_sql(statement)


def test_two_writers_at_once_come_one_after_the_other(database: Any) -> None:
    person = Person()
    setup_id = kept(person)
    seen: list[str] = []

    def write(stations: list[str]) -> None:
        with database.connection_context():
            for station in stations:
                try:
                    setups.append(setup_id, uuid4(), person.at, station, a_reading(1, station))
                    seen.append(station)
                except NotNow as late:
                    seen.append(late.code)

    both = [threading.Thread(target=write, args=(["s1", "s2", "s3", "s4"],)) for _ in range(2)]
    for one in both:
        one.start()
    for one in both:
        one.join()
    assert sorted(seen) == ["s1", "s2", "s3", "s4", "stale", "stale", "stale", "stale"]
    assert [e.seq for e in setups.events_of(setup_id)] == list(range(1, len(person.events) + 5))


def test_a_new_event_is_announced_when_it_is_committed(database_url: str) -> None:
    person = Person()
    setup_id = kept(person)
    notes = notify.listen(database_url, 2.0)
    assert next(notes) is None
    setups.append(setup_id, uuid4(), person.at, "Ode", a_reading(1))
    assert next(notes) == (setup_id, len(person.events) + 1)


def test_two_migrations_at_once_do_not_collide(admin_url: str, database: Any) -> None:
    name = f"m_{uuid4().hex[:10]}"
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'CREATE DATABASE "{name}"')
    url = admin_url.rsplit("/", 1)[0] + f"/{name}"
    faults: list[Exception] = []

    def run() -> None:
        from playhouse.postgres_ext import Psycopg3Database

        try:
            db.migrate(Psycopg3Database(url))
        except Exception as fault:
            faults.append(fault)

    both = [threading.Thread(target=run) for _ in range(2)]
    for one in both:
        one.start()
    for one in both:
        one.join()
    assert faults == []
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def test_a_name_is_given_once_in_its_kind() -> None:
    gauge = shop.all_of(Gauge)[0]
    with pytest.raises(BadInput) as caught:
        shop.save(gauge.model_copy(update={"id": "another"}))
    assert (caught.value.code, caught.value.field) == ("name_taken", "name")
    shop.save(gauge)  # the same one may be saved again


def test_set_ups_of_an_older_form_are_read_anew_from_their_events() -> None:
    """What an earlier version wrote: events with its moves and verdicts, and a line for lists that is no longer understood."""
    world = json.loads(gzip.decompress((ROOT / "tests" / "cases" / "old_world.json.gz").read_bytes()))
    old = next(one for one in world if one["procedure"] == "vise" and one["end"]["verdict"])
    setup_id = uuid4()
    first, last = old["events"][0], old["events"][-1]
    Setup.insert(
        id=setup_id, seq=last["seq"], standing=True, machine_id="heron", machine="Heron mill", holder="Vise 160",
        holder_id="vise-160", lesson=None, outcome="holds", search="", summary={"tir_mm": 0.0}, opened_at=first["at"],
        changed_at=last["at"], projected=1,
    ).execute()  # fmt: skip
    for event in old["events"]:
        EventRow.insert(
            setup=setup_id, seq=event["seq"], id=uuid4(), at=event["at"], received_at=event["at"], author="Wilf",
            body=event["body"], extra={"shown": event["shown"], "verdict": event["verdict"]},
        ).execute()  # fmt: skip
    assert setups.rebuild() == 1
    assert setups.rebuild() == 0
    rows, _ = found.search(found.Asked(words="side lay rail"))
    mine = next(one for one in rows if one.id == setup_id)
    assert mine.summary.main is not None
    assert mine.summary.main.kind == "over_jaw"
    state = desk.load(setups.events_of(setup_id))
    assert state.verdict is not None
    assert state.verdict.value.mm == pytest.approx(old["end"]["verdict"]["value"])


def test_a_machine_knows_what_its_set_ups_found() -> None:
    person = Person()
    machine = person.plan.machine.model_copy(update={"id": f"mill {uuid4()}"})
    for floor_mm in (0.004, 0.006):
        setup_id = kept(Person())
        lesson = Lesson(floor=Floor(at=person.events[0].at, floor_mm=floor_mm, play_mm={"X": 0.01}))
        changes = {"machine_id": machine.id, "lesson": lesson.model_dump(mode="json")}
        Setup.update(**changes).where(Setup.id == setup_id).execute()
    kept(Person())  # one that found nothing
    known = setups.known(machine)
    assert known.floor_mm in (0.004, 0.006)  # opened at the same moment
    assert {f.floor_mm for f in known.found} == {0.004, 0.006}
    assert known.found[0].play_mm == {"X": 0.01}
    assert setups.known(machine.model_copy(update={"id": "another"})).found == ()


def test_an_indicator_knows_what_its_checks_found_and_no_other_does() -> None:
    gauge = Person().plan.gauge.model_copy(update={"id": f"lever {uuid4()}"})
    for near_mm in (0.001, 0.002):
        seen = {"over_mm": 0.5, "error_mm": 0.004, "near_mm": near_mm, "hysteresis_mm": 0.001, "repeat_mm": 0.0005}
        check = GaugeCheck(gauge_id=gauge.id, at=datetime.now(UTC), due=date(2027, 1, 5), **seen)
        Setup.update(lesson=Lesson(check=check).model_dump(mode="json")).where(Setup.id == kept(Person())).execute()
    known = setups.checked(gauge)
    assert {c.near_mm for c in known.checks} == {0.001, 0.002}
    assert (known.error_mm, known.lost_motion_mm, known.check_due) == (
        known.checks[-1].near_mm,
        0.001,
        date(2027, 1, 5),
    )
    assert setups.checked(gauge.model_copy(update={"id": "another"})).checks == ()


def test_set_ups_that_taught_nothing_push_no_lesson_out() -> None:
    person = Person()
    holder = person.plan.holder.model_copy(update={"id": f"chuck {uuid4()}"})
    taught = Lesson(taught={"gain_1": (0.8, 0.001)})
    Setup.update(holder_id=holder.id, lesson=taught.model_dump(mode="json")).where(Setup.id == kept(Person())).execute()
    for _ in range(22):
        Setup.update(holder_id=holder.id).where(Setup.id == kept(Person())).execute()
    memory = setups.memory_of(holder)
    assert (memory.setups, memory.taught) == (1, {"gain_1": ((0.8, 0.001),)})


def test_the_same_opening_again_is_the_same_whatever_the_shop_says_by_now() -> None:
    person, setup_id = Person(), uuid4()
    opened = person.events[0]
    setups.open_setup(setup_id, opened)
    plan = person.plan
    later = {
        "memory": plan.memory.model_copy(update={"setups": 20, "taught": {"gain_1": ((0.8, 0.001),)}}),
        "machine": plan.machine.model_copy(update={"floor_mm": 0.009}),
        "gauge": plan.gauge.model_copy(update={"name": "Renamed"}),
    }
    again = opened.model_copy(update={"body": ev.Opened(plan=plan.model_copy(update=later))})
    assert not setups.open_setup(setup_id, again).added
    other = plan.model_copy(update={"part": plan.part.model_copy(update={"name": "Another part"})})
    with pytest.raises(NotNow) as caught:
        setups.open_setup(setup_id, opened.model_copy(update={"body": ev.Opened(plan=other)}))
    assert caught.value.code == "repeated_differently"


def test_an_id_is_never_taken_over_by_something_of_another_kind() -> None:
    plan = Person().plan
    holder = plan.holder.model_copy(update={"id": "one-id", "name": "Only a holder"})
    shop.save(holder)
    with pytest.raises(BadInput) as caught:
        shop.save(plan.machine.model_copy(update={"id": "one-id", "name": "A machine"}))
    assert caught.value.field == "id"
    assert holder in shop.all_of(Holder)


def test_a_holder_kept_with_every_field_is_read_with_those_of_its_kind() -> None:
    old = {
        "id": "old-vise", "name": "Old vise", "kind": "vise", "diameter_mm": 150, "min_work_mm": 0, "max_work_mm": 3000,
        "lead_mm": None, "numbering": "ccw", "rings_mm": [], "jaws": 0, "jaw_width_mm": 0, "clearance_mm": None,
        "follows": "toward", "runout_mm": None, "edge_mm": 0, "depth_mm": 90, "bolts_mm": [14, 136], "key_clearance_mm": 0.03,
        "key_span_mm": 100, "torque": "40 Nm", "forget_before": "2026-01-05T09:00:00Z",
    }  # fmt: skip
    kept = {**old, "id": "old-centers", "name": "Old centers", "kind": "centres", "max_work_mm": 800}
    for body in (old, kept):
        tables.ShopItem.insert(
            id=body["id"], kind="holder", name=body["name"], body=body, changed_at=datetime.now(UTC)
        ).execute()
    migration = import_module("velvet_hand.store.migrations.0004_holders_by_kind")
    migration.up(None, tables.ShopItem._meta.database)
    vise = shop.get(Holder, "old-vise", "holder_id")
    assert isinstance(vise, Vise)
    assert (vise.edge_mm, vise.bolts_mm, vise.key_clearance_mm) == (150, (14, 136), 0.03)
    assert vise.forget_before == datetime(2026, 1, 5, 9, tzinfo=UTC)
    centers = shop.get(Holder, "old-centers", "holder_id")
    assert isinstance(centers, Centres)
    assert centers.longest_mm == 800
    migration.up(None, tables.ShopItem._meta.database)
    assert shop.get(Holder, "old-vise", "holder_id") == vise
