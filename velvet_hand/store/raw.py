"""What is kept as it is kept: out of the tables, and back into them when it is whole."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import datetime
from typing import Any
from uuid import UUID

from peewee import DataError, IntegrityError
from pydantic import ValidationError

from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, VelvetHandError
from velvet_hand.core.job.order import JobOrder

from . import notify, photos, setups, shop
from .tables import EventRow, JobRow, Setup, ShopItem


def things() -> list[dict[str, Any]]:
    """Everything of the Shop, by id."""
    rows: Any = ShopItem.select().order_by(ShopItem.id).dicts()
    return [{**row, "changed_at": row["changed_at"].isoformat()} for row in rows]


def setup_ids() -> list[UUID]:
    """All set-ups."""
    return [row.id for row in Setup.select(Setup.id).order_by(Setup.id)]


def events(setup_id: UUID) -> list[dict[str, Any]]:
    """All events of a set-up, as they are kept."""
    rows: Any = EventRow.select().where(EventRow.setup == setup_id).order_by(EventRow.seq).dicts()
    return [
        {
            "id": str(row["id"]),
            "seq": row["seq"],
            "at": row["at"].isoformat(),
            "received_at": row["received_at"].isoformat(),
            "author": row["author"],
            "body": row["body"],
            "extra": row["extra"],
        }
        for row in rows
    ]


@contextmanager
def all_or_nothing() -> Iterator[None]:
    """One transaction; what the database itself refuses is told in words."""
    try:
        with Setup._meta.database.atomic():
            yield
    except (IntegrityError, DataError) as bad:
        raise _unfit("Something in it does not fit what is kept here", str(bad).splitlines()[0][:120]) from bad


def _unfit(where: str, why: str) -> BadInput:
    return BadInput("archive_unreadable", f"{where}: {why}.", "Nothing was kept.", "file")


def restore_thing(row: Any, where: str) -> bool:
    """Put a thing of the Shop back; False when it is there already, the same.

    Raises
    ------
    BadInput
        ``archive_unreadable``: it is no such thing, or another is kept under its id.
    """
    try:
        kept = {"id": str(row["id"]), "kind": str(row["kind"]), "name": str(row["name"]), "body": row["body"]}
        changed_at = _moment(row["changed_at"])
        thing = shop.read_as(kept["kind"], kept["body"])
    except (KeyError, TypeError, ValueError) as bad:
        raise _unfit(where, "it is no machine, holder, indicator or drawer") from bad
    if (thing.id, thing.name) != (kept["id"], kept["name"]):
        raise _unfit(where, "its name or id is not that of what it holds")
    there = ShopItem.get_or_none(ShopItem.id == kept["id"])
    if there is not None:
        if (there.kind, there.name, there.body) != (kept["kind"], kept["name"], kept["body"]):
            raise _unfit(where, f"another “{there.name}” is kept here under the same id")
        return False
    ShopItem.insert(**kept, changed_at=changed_at).execute()
    return True


def restore_setup(setup_id: UUID, told: Any, where: str) -> bool:
    """Put a set-up back, event by event as it was; False when it is there already, the same.

    Raises
    ------
    BadInput
        ``archive_unreadable``: its events are not those of a set-up, or another one is kept under its id.
    """
    try:
        rows = [
            {**one, "id": UUID(one["id"]), "at": _moment(one["at"]), "received_at": _moment(one["received_at"])}
            for one in told
        ]
        if [row["seq"] for row in rows] != list(range(1, len(rows) + 1)) or not rows:
            raise _unfit(where, "events are missing")
        if any(set(one) != {"id", "seq", "at", "received_at", "author", "body", "extra"} for one in told):
            raise _unfit(where, "there is more in it than events")
        state = desk.load([setups.event_of(row) for row in rows])
    except VelvetHandError as bad:
        raise bad if isinstance(bad, BadInput) and bad.code == "archive_unreadable" else _unfit(where, bad.why) from bad
    except ValidationError as bad:
        at = ".".join(str(part) for part in bad.errors()[0]["loc"])
        raise _unfit(where, f"{bad.errors()[0]['msg']} ({at})") from bad
    except (KeyError, TypeError, ValueError, AttributeError, AssertionError, IndexError) as bad:
        raise _unfit(where, "it is no list of events") from bad
    if Setup.select().where(Setup.id == setup_id).exists():
        if events(setup_id) != told:
            raise _unfit(where, "another set-up is kept here under the same id")
        return False
    setups.restore(setup_id, rows, state)
    notify.tell(setup_id, state.seq)
    return True


def jobs_told() -> list[dict[str, Any]]:
    """All parts with their operations, by id."""
    rows: Any = JobRow.select().order_by(JobRow.id).dicts()
    return [{**row, "id": str(row["id"]), "changed_at": row["changed_at"].isoformat()} for row in rows]


def restore_job(told: Any, where: str) -> bool:
    """Put a part with its operations back; False when it is there already, the same.

    Raises
    ------
    BadInput
        ``archive_unreadable``: it is none, or another is kept under its id.
    """
    try:
        job_id, changed_at = UUID(told["id"]), _moment(told["changed_at"])
        body = JobOrder.model_validate(told["body"], strict=False)
        body.check()
        if body.name != told["name"]:
            raise ValueError("its name is another")
    except (KeyError, TypeError, ValueError) as bad:
        raise _unfit(where, "it is no part with operations") from bad
    there = JobRow.get_or_none(JobRow.id == job_id)
    if there is not None:
        if there.body != told["body"]:
            raise _unfit(where, "another part is kept here under the same id")
        return False
    JobRow.insert(id=job_id, name=body.name, body=told["body"], changed_at=changed_at).execute()
    return True


def photos_told() -> list[dict[str, Any]]:
    """All photos by id, without their pictures."""
    return [
        {
            "id": str(p.id),
            "setup": str(p.setup),
            "at": p.at.isoformat(),
            "author": p.author,
            "width": p.width,
            "height": p.height,
        }
        for p in photos.every()
    ]


def restore_photo(told: Any, jpeg: bytes, where: str) -> bool:
    """Put a photo back; False when it is there already, the same.

    Raises
    ------
    BadInput
        ``archive_unreadable``: it is no photo of a set-up that is here, or another is kept under its id.
    """
    try:
        one = photos.Kept(
            UUID(told["id"]),
            UUID(told["setup"]),
            _moment(told["at"]),
            str(told["author"]),
            int(told["width"]),
            int(told["height"]),
        )
        fresh = photos.keep(one, jpeg)
    except VelvetHandError as bad:
        raise _unfit(where, bad.why) from bad
    except (KeyError, TypeError, ValueError) as bad:
        raise _unfit(where, "it is no photo") from bad
    if not fresh and (photos.jpeg(one.id) != jpeg or one not in photos.of(one.setup)):
        raise _unfit(where, "another photo is kept here under the same id")
    return fresh


def _moment(text: str) -> datetime:
    found = datetime.fromisoformat(text)
    if found.tzinfo is None:
        raise ValueError("a moment without its zone")
    return found
