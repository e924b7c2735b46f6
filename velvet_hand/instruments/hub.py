"""All live indicators of this process: one link each, however many watch it."""

from __future__ import annotations

import threading

from velvet_hand.core.live.wire import Wire

from .link import Fed, Link, Now

#: What a wire shows that nobody looks at.
NOBODY = Now(state="opening", why="", mm=None, raw="", at=None, age_s=None, sd_mm=None, number=0)


class Wires:
    """Opens a link when somebody first looks, and anew when its wire was changed."""

    def __init__(self, most_watching: int) -> None:
        self._lock = threading.Lock()
        self._places = threading.Semaphore(most_watching)
        self._links: dict[str, Link] = {}

    def link(self, wire: Wire) -> Link:
        """The link of a wire as it is now."""
        with self._lock:
            found = self._links.get(wire.id)
            if found is None or found.wire != wire:
                if found is not None:
                    found.stop()
                found = self._links[wire.id] = (Fed if wire.on_a_tablet else Link)(wire).start()
            return found

    def now(self, wire: Wire) -> Now:
        """What a wire shows, if somebody looks at it; nobody’s port is opened for it."""
        with self._lock:
            found = self._links.get(wire.id)
        return found.now() if found is not None and found.wire == wire else NOBODY

    def watch(self) -> bool:
        """A place for one more screen that follows the needles; False when there is none. Give it back with ``leave``."""
        return self._places.acquire(blocking=False)

    def leave(self) -> None:
        """A screen looks no more."""
        self._places.release()

    def drop(self, wire_id: str) -> None:
        """Let go of one."""
        with self._lock:
            found = self._links.pop(wire_id, None)
        if found is not None:
            found.stop()

    def close(self) -> None:
        """Let go of all."""
        for wire_id in list(self._links):
            self.drop(wire_id)
