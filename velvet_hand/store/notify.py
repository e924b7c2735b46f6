"""Who wrote: NOTIFY inside the writing transaction, LISTEN on a connection of its own."""

from __future__ import annotations

from collections.abc import Iterator
from uuid import UUID

import psycopg

from .tables import Setup

CHANNEL = "setup_changed"


def tell(setup_id: UUID, seq: int) -> None:
    """Announce a new event; delivered when the transaction commits."""
    Setup._meta.database.execute_sql("SELECT pg_notify(%s, %s)", (CHANNEL, f"{setup_id} {seq}"))


def listen(url: str, wait_s: float) -> Iterator[tuple[UUID, int] | None]:
    """Every announcement as (set-up, seq); None whenever ``wait_s`` went by without one.

    Raises
    ------
    psycopg.OperationalError
        When the connection is lost.
    """
    with psycopg.connect(url, autocommit=True) as connection:
        connection.execute(f"LISTEN {CHANNEL}")
        yield None
        while True:
            for note in connection.notifies(timeout=wait_s):
                setup_id, seq = note.payload.split()
                yield UUID(setup_id), int(seq)
            yield None
