"""The whole shop into a file and into an empty database without a difference; anything else is refused, and nothing of it is kept."""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Callable, Iterator
from datetime import UTC, datetime
from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_photos import picture
from tests.core.bench_person import Person
from tests.support import drop_database, fill_shop, fresh_database
from velvet_hand.core.errors import BadInput
from velvet_hand.core.job.order import JobOrder, Operation
from velvet_hand.demo import world
from velvet_hand.exchange import archive
from velvet_hand.exchange.picture import photo
from velvet_hand.store import database as db
from velvet_hand.store import found, jobs, photos, raw, setups, tables

DAY = datetime(2026, 1, 5, tzinfo=UTC)


@pytest.fixture
def empty(admin_url: str) -> Iterator[Callable[[], Any]]:
    """Connects to a fresh database of its own each time it is called."""
    made: list[tuple[str, Any]] = []

    def connect() -> Any:
        name = f"archive_{uuid4().hex[:8]}"
        database = db.connect(fresh_database(admin_url, name))
        db.migrate(database)
        made.append((name, database))
        database.connect(reuse_if_open=True)
        return database

    yield connect
    for name, database in made:
        database.close_all()
        drop_database(admin_url, name)


def packed() -> bytes:
    target = io.BytesIO()
    archive.write(target, DAY)
    return target.getvalue()


def test_the_demo_shop_goes_into_an_empty_database_and_back_without_a_difference(empty: Callable[[], Any]) -> None:
    empty()
    world.load()
    made = photo(picture(300, 200))
    first = found.search(found.Asked(), size=1)[0][0].id
    photos.keep(photos.Kept(uuid4(), first, DAY, "Ode", made.width, made.height), made.jpeg)
    jobs.save(uuid4(), JobOrder(name="Housing", operations=(Operation(id="a", name="First side", setup=str(first)),)))
    out = packed()
    listed = [one.summary for one in found.search(found.Asked(), size=500)[0]]
    empty()
    assert tables.nothing_yet()
    taken = archive.read_back(io.BytesIO(out))
    assert (taken.things, taken.known) == (len(raw.things()), 0)
    assert taken.setups == len(listed) > 30
    assert packed() == out
    assert [one.summary for one in found.search(found.Asked(), size=500)[0]] == listed
    assert [photos.jpeg(one.id) for one in photos.of(first)] == [made.jpeg]
    again = archive.read_back(io.BytesIO(out))  # the same once more changes nothing
    assert (again.things, again.setups, again.known) == (0, 0, taken.things + taken.setups + 2)
    assert packed() == out


def remade(source: bytes, change: Callable[[dict[str, Any]], None]) -> bytes:
    """An archive with its files changed: by name, JSON or bytes."""
    files: dict[str, Any] = {}
    with zipfile.ZipFile(io.BytesIO(source)) as read:
        for name in read.namelist():
            files[name] = json.loads(read.read(name))
    change(files)
    target = io.BytesIO()
    with zipfile.ZipFile(target, "w", zipfile.ZIP_DEFLATED) as made:
        for name, what in files.items():
            made.writestr(name, what if isinstance(what, bytes) else json.dumps(what))
    return target.getvalue()


def first(files: dict[str, Any]) -> str:
    return next(name for name in files if name.startswith("setups/"))


def drop_an_event(files: dict[str, Any]) -> None:
    del files[first(files)][2]


def swap_a_sign(files: dict[str, Any]) -> None:
    files[first(files)][0]["body"]["plan"]["gauge"]["travel_mm"] = -1


def add_a_word(files: dict[str, Any]) -> None:
    files[first(files)][1]["mood"] = "good"


def end_early(files: dict[str, Any]) -> None:
    files[first(files)] = b'[{"id": \n nonsense'


BROKEN: tuple[tuple[Callable[[dict[str, Any]], Any], str], ...] = (
    (drop_an_event, "events are missing"),
    (swap_a_sign, "travel_mm"),
    (add_a_word, "more in it than events"),
    (end_early, "line 2"),
    (lambda f: f.update({"setups/evil.json": []}), "does not belong"),
    (lambda f: f.update({"../../etc/passwd": []}), "does not belong"),
    (lambda f: f.pop("shop.json"), "no archive"),
    (lambda f: f.pop("manifest.json"), "no archive"),
    (lambda f: f.pop(first(f)), "missing"),
    (lambda f: f["manifest.json"].update(version=archive.VERSION + 1), "newer version"),
    (lambda f: f["manifest.json"].update(version="1"), "newer version"),
    (lambda f: f["manifest.json"].update(photos=1), "missing"),
    (lambda f: f["jobs.json"].append({"id": str(uuid4()), "name": "x", "changed_at": "soon", "body": {}}), "jobs.json, job 1"),
    (lambda f: f.update({f"photos/{uuid4()}.jpg": b"x"}), "missing"),
    (lambda f: f["manifest.json"].update(format="other"), "no archive"),
    (lambda f: f.update({"manifest.json": []}), "no archive"),
    (lambda f: f["shop.json"].append("a hammer") or f["manifest.json"].update(things=len(f["shop.json"])), "no machine"),
    (lambda f: f["shop.json"][0]["body"].update(id="other"), "name or id"),
    (lambda f: f["shop.json"][0].update(kind="spoon"), "no machine"),
    (lambda f: f["shop.json"][0].update(changed_at="yesterday"), "no machine"),
    (lambda f: f.update({first(f): {}}), "events"),
    (lambda f: f.update({first(f): [3]}), "no list of events"),
    (lambda f: f[first(f)][1].update(id=f[first(f)][0]["id"]), "does not fit"),
    (lambda f: f.update({first(f): b"[" * 100_000}), "damaged"),
    (lambda f: f.update({first(f): b"[NaN]"}), "damaged"),
    (lambda f: f.update({first(f): b"0" * (archive.MOST_OF_ONE + 1)}), "larger than any set-up"),
)  # fmt: skip


@pytest.fixture(scope="module")
def small(admin_url: str) -> bytes:
    """An archive of the stocked shop with one set-up."""
    name = f"archive_{uuid4().hex[:8]}"
    database = db.connect(fresh_database(admin_url, name))
    db.migrate(database)
    with database.connection_context():
        fill_shop()
        person = Person()
        person.read_all(0.1, 0.2, 0.3, 0.2)
        setup_id = uuid4()
        setups.open_setup(setup_id, person.events[0])
        for event in person.events[1:]:
            setups.append(setup_id, event.id, event.at, event.author, event.body)  # type: ignore[arg-type]
        found = packed()
    database.close_all()
    drop_database(admin_url, name)
    return found


def test_a_broken_archive_is_refused_in_words_and_nothing_of_it_is_kept(small: bytes, empty: Callable[[], Any]) -> None:
    empty()
    for change, words in BROKEN:
        with pytest.raises(BadInput) as told:
            archive.read_back(io.BytesIO(remade(small, change)))
        assert told.value.code == "archive_unreadable"
        assert words in told.value.why, told.value.why
        assert "Nothing was kept" in told.value.fix
        assert tables.nothing_yet(), words
    archive.read_back(io.BytesIO(small))
    assert packed() == small


@pytest.mark.parametrize("cut", [0, 1, 10, 200, -1, -30])
def test_half_a_file_and_no_file_are_refused(small: bytes, empty: Callable[[], Any], cut: int) -> None:
    empty()
    with pytest.raises(BadInput, match=r"archive|damaged"):
        archive.read_back(io.BytesIO(small[:cut]))
    assert tables.nothing_yet()


def test_every_flipped_byte_is_noticed_or_changes_nothing(small: bytes, empty: Callable[[], Any]) -> None:
    empty()
    for place in range(30, len(small), max(len(small) // 24, 1)):
        broken = bytearray(small)
        broken[place] ^= 0x5A
        try:
            archive.read_back(io.BytesIO(bytes(broken)))
        except BadInput:
            assert tables.nothing_yet()
            continue
        assert packed() == small  # it was in a place that says nothing, such as a day
        empty()


def test_another_thing_under_the_same_id_is_not_overwritten(small: bytes, empty: Callable[[], Any]) -> None:
    empty()
    archive.read_back(io.BytesIO(small))
    before = packed()

    def renamed(files: dict[str, Any]) -> None:
        thing = files["shop.json"][0]
        thing["name"] = thing["body"]["name"] = "Another"

    with pytest.raises(BadInput, match="under the same id"):
        archive.read_back(io.BytesIO(remade(small, renamed)))

    def retyped(files: dict[str, Any]) -> None:
        files[first(files)][-1]["author"] = "Somebody else"

    with pytest.raises(BadInput, match="another set-up"):
        archive.read_back(io.BytesIO(remade(small, retyped)))
    assert packed() == before
