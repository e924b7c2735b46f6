"""Photos of set-ups."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from velvet_hand.core.errors import NotFound, NotNow

from .tables import PhotoRow, Setup

#: So many are kept of a set-up.
MOST = 24


@dataclass(frozen=True, slots=True)
class Kept:
    """A photo without its picture."""

    id: UUID
    setup: UUID
    at: datetime
    author: str
    width: int
    height: int


def keep(one: Kept, jpeg: bytes) -> bool:
    """Keep a photo; False when it was kept before (it was sent twice).

    Raises
    ------
    NotFound, NotNow
        No such set-up; it has ``MOST`` already.
    """
    with PhotoRow._meta.database.atomic():
        if not Setup.select(Setup.id).where(Setup.id == one.setup).for_update().exists():
            raise NotFound("unknown_set_up", "There is no such set-up here.", "Look for it in the Logbook.")
        if PhotoRow.select(PhotoRow.id).where(PhotoRow.id == one.id).exists():
            return False
        if PhotoRow.select().where(PhotoRow.setup == one.setup).count() >= MOST:
            raise NotNow("not_now", f"This set-up has {MOST} photos already.", "Take one away first.")
        PhotoRow.insert(
            id=one.id, setup=one.setup, at=one.at, author=one.author, width=one.width, height=one.height, jpeg=jpeg
        ).execute()
    return True


def of(setup_id: UUID) -> Sequence[Kept]:
    """The photos of a set-up, oldest first."""
    rows = PhotoRow.select(*_TOLD).where(PhotoRow.setup == setup_id).order_by(PhotoRow.at, PhotoRow.id)
    return [_kept(row) for row in rows.dicts()]


def every() -> Sequence[Kept]:
    """All of them, by id."""
    return [_kept(row) for row in PhotoRow.select(*_TOLD).order_by(PhotoRow.id).dicts()]


def jpeg(photo_id: UUID) -> bytes:
    """The picture.

    Raises
    ------
    NotFound
        ``unknown_thing``.
    """
    row = PhotoRow.select(PhotoRow.jpeg).where(PhotoRow.id == photo_id).first()
    if row is None:
        raise NotFound("unknown_thing", "That photo is not here.", "It may have been taken away.")
    return bytes(row.jpeg)


def take_away(photo_id: UUID) -> None:
    """Forget a photo; one that is not here is gone already."""
    PhotoRow.delete().where(PhotoRow.id == photo_id).execute()


_TOLD = (PhotoRow.id, PhotoRow.setup, PhotoRow.at, PhotoRow.author, PhotoRow.width, PhotoRow.height)


def _kept(row: Any) -> Kept:
    return Kept(row["id"], row["setup"], row["at"], row["author"], row["width"], row["height"])
