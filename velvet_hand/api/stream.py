"""Server-sent events: every page hears of new events within a second.

One thread listens to the database and hands each announcement to all streams of this process.
"""

from __future__ import annotations

import json
import queue
import select
import socket
import threading
import time
from collections.abc import Iterator, Sequence
from typing import Literal
from uuid import UUID

import psycopg

from velvet_hand.store import notify

#: A comment is sent this often, so that lost clients are noticed.
HEARTBEAT_S = 15.0
Note = tuple[UUID, int] | Literal["over"] | None
Notes = queue.SimpleQueue[Note]


def client_gone(connection: socket.socket | None) -> bool:
    """Has whoever listens hung up? Without a connection of its own nobody can say."""
    if connection is None:
        return False
    try:
        readable = select.select([connection], [], [], 0)[0]
        return bool(readable) and connection.recv(1, socket.MSG_PEEK | socket.MSG_DONTWAIT) == b""
    except BlockingIOError:
        return False
    except (OSError, ValueError):
        return True


class Hub:
    """Fans announcements out to the streams that are open."""

    def __init__(self, url: str, max_streams: int) -> None:
        self._url, self._max = url, max_streams
        self._lock = threading.Lock()
        self._queues: dict[Notes, socket.socket | None] = {}
        self._thread: threading.Thread | None = None

    def _start(self) -> None:
        if self._thread is None or not self._thread.is_alive():
            self._thread = threading.Thread(target=self._run, name="notify", daemon=True)
            self._thread.start()

    def _run(self) -> None:
        while True:
            try:
                for note in notify.listen(self._url, 5.0):
                    self._tell(note)
            except psycopg.Error:
                time.sleep(0.5)  # the database is restarting; clients reload when it is back

    def _tell(self, note: tuple[UUID, int] | None) -> None:
        with self._lock:
            for one in self._queues:
                one.put(note)

    def open(self, connection: socket.socket | None = None) -> Notes | None:
        """A queue of announcements (None: nothing new), or None when too many streams are open; those whose clients have hung up
        give their places away.
        """
        with self._lock:
            if len(self._queues) >= self._max:
                for one in [one for one, other in self._queues.items() if client_gone(other)]:
                    del self._queues[one]
                    one.put("over")
            if len(self._queues) >= self._max:
                return None
            mine: Notes = queue.SimpleQueue()
            self._queues[mine] = connection
        self._start()
        return mine

    def close(self, mine: Notes) -> None:
        """Forget a queue; whoever opened it does this when its client is gone."""
        with self._lock:
            self._queues.pop(mine, None)

    def frames(self, mine: Notes, standing: Sequence[tuple[UUID, int]] = ()) -> Iterator[str]:
        """Frames of one stream: ``changed`` with set-ups and their seqs, first those that stand, and comments in between."""
        last = time.monotonic()
        yield _changed(standing)
        while True:
            note = mine.get()
            if note == "over":
                return
            if note is not None:
                yield _changed([note])
            elif time.monotonic() - last > HEARTBEAT_S:
                last = time.monotonic()
                yield ": still here\n\n"


def _changed(notes: Sequence[tuple[UUID, int]]) -> str:
    told = [{"id": str(setup_id), "seq": seq} for setup_id, seq in notes]
    return f"event: changed\ndata: {json.dumps(told)}\n\n"
