"""The sample world: loaded once, through the same door as a person's work, and true to its own numbers."""

from __future__ import annotations

from collections.abc import Iterator
from uuid import uuid4

import pytest

from tests.support import drop_database, fresh_database
from velvet_hand.core.after.history import history
from velvet_hand.core.desk import desk
from velvet_hand.core.estimate.pairs import Pairs
from velvet_hand.core.holders import FourJaw, Holder
from velvet_hand.core.memory import remembered
from velvet_hand.core.procedures.registry import PROCEDURES, samples
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Machine
from velvet_hand.core.sim.sample import Sample
from velvet_hand.core.wording import words_of
from velvet_hand.demo import world
from velvet_hand.store import database as db
from velvet_hand.store import found, past, setups, shop, tables


@pytest.fixture(scope="module", autouse=True)
def _world(admin_url: str) -> Iterator[None]:
    name = f"w_{uuid4().hex[:10]}"
    database = db.connect(fresh_database(admin_url, name))
    db.migrate(database)
    with database.connection_context():
        assert tables.nothing_yet()
        world.load()
        yield
    database.close_all()
    drop_database(admin_url, name)


def listed(part: str) -> found.Listed:
    """The set-up of that part, found by its words."""
    rows, _ = found.search(found.Asked(words=part), size=100)
    return next(r for r in rows if r.summary.part == part)


def test_all_of_it_is_loaded_and_then_something_is_there() -> None:
    assert not tables.nothing_yet()
    assert (
        len(found.search(found.Asked(), size=500)[0]) == len(world.JOBS) + len(world.history()) + len(samples()) + 1
    )  # and the one that waits for the live needle


def test_machines_stand_as_the_bench_shows_them() -> None:
    assert {m.name for m in shop.all_of(Machine)} == {
        "Bramble lathe",
        "Little Owl lathe",
        "Wren lathe",
        "Heron mill",
        "Slate plate",
    }
    standing = {s.summary.machine_id: s.summary for s in setups.standing()}
    assert standing["bramble"].step == "read"
    assert standing["little-owl"].outcome == "holds"
    assert any(isinstance(h, FourJaw) and h.lead_mm is None for h in shop.all_of(Holder))


@pytest.mark.parametrize("job", [*world.JOBS, *world.history()], ids=lambda j: j.part)
def test_every_log_can_be_folded_and_ends_as_it_says(job: world.Job) -> None:
    events = setups.events_of(listed(job.part).id)
    state = desk.load(events)
    assert {e.author for e in events} == {job.author}
    assert [e.seq for e in events] == list(range(1, len(events) + 1))
    assert state.taken_off == (job.take_off and not job.stop_in_pass)
    if state.taken_off:
        assert state.accepted or (state.verdict and state.verdict.outcome == "holds")
    typed = [e.body.typed for e in events if isinstance(e.body, ev.ReadingTaken)]
    assert {t.unit for t in typed} <= {job.unit, "mm"}


def test_every_other_procedure_has_a_sample() -> None:
    assert {procedure for procedure, _ in samples()} | {"four_jaw"} == set(PROCEDURES)


@pytest.mark.parametrize("sample", [s for _, s in samples()], ids=lambda s: s.part)
def test_every_sample_has_a_page_in_the_logbook(sample: Sample) -> None:
    events = setups.events_of(listed(sample.part).id)
    state = desk.load(events)
    desk.check_plan(state.plan)
    assert state.taken_off == (not sample.stop_after)
    assert state.verdict is not None or sample.stop_after
    shown = desk.show(events, "x", state)
    assert shown.panels[0].scene.describe


def test_holders_remember_the_sample_world() -> None:
    chuck = next(h for h in shop.all_of(Holder) if h.id == "four-jaw-200")
    memory = setups.memory_of(chuck)
    assert memory.setups >= 5
    assert 0.7 < remembered(memory, Pairs.priors)["gain_1"].mean < 1.05


def test_the_four_jaw_says_that_its_shift_grew_and_most_of_what_holds_held() -> None:
    chuck = shop.all_of(Holder)[[h.id for h in shop.all_of(Holder)].index("four-jaw-200")]
    told = history("holder", chuck.name, past.of("holder", chuck.id), chuck)
    shift = next(one for one in told.series if one.id == "shift")
    assert shift.since is not None
    assert "Shift on tightening grew" in words_of(shift.told)
    assert 0 < told.score.promised - told.score.kept < told.score.promised / 4
