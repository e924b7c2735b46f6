"""The hand that turns the simulated machine while somebody records, with a foot on the pedal that marks what passes."""

from __future__ import annotations

import json
import threading
import time
import urllib.request
from contextlib import suppress
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from velvet_hand.core.desk.course import route
from velvet_hand.core.sim.winding import Way, way_over

if TYPE_CHECKING:
    from .simulated import Follower, Hidden

#: It looks so often whether somebody records, and whether a mark is due (s); takes so long to begin, and to go once round or along.
LOOKS_S, TREADS_S, BEGINS_S, TAKES_S = 0.2, 0.02, 0.6, 7.0


@dataclass(slots=True)
class Winding:
    """A hand that goes its way from a moment on, and what is to be marked still. It goes on past a mark only once that has been counted,
    as somebody does who looks at the count: however busy the machine is, a mark is where it says.
    """

    began_s: float
    way: Way
    marks_s: list[float]

    def place_at(self, now_s: float) -> complex:
        """Where the stylus is on the part."""
        return self.way.at(min([now_s - self.began_s, *self.marks_s[:1]]))

    def is_due(self, now_s: float) -> bool:
        """Has the moment of the next mark come?"""
        return bool(self.marks_s) and now_s - self.began_s >= self.marks_s[0]

    def counted(self, now_s: float) -> None:
        """The mark that was due has been counted: on from there."""
        self.began_s = now_s - self.marks_s.pop(0)


def winding_for(hidden: Hidden, now_s: float, rng: np.random.Generator, takes_s: float) -> Winding | None:
    """Once round, or along and back, as the screen asks for it now; None where it asks for nothing like it."""
    found = route(hidden.state)
    if found is None:
        return None
    way = way_over(hidden.body, *found, rng, "usual", takes_s)
    return Winding(now_s + BEGINS_S, way, list(way.marks_s))


def watch(follower: Follower, wire: str) -> None:
    """Turn whenever somebody records this indicator, for ever; its pedal goes to the server like anybody’s."""
    rng, looked, recording = np.random.default_rng(7), 0.0, False
    while True:
        time.sleep(TREADS_S if recording else LOOKS_S)
        with suppress(OSError):
            if time.monotonic() - looked >= LOOKS_S:
                recording = any(w["marks"] is not None for w in follower.ask("/api/live")["wires"] if w["id"] == wire)
                looked = time.monotonic()
            if follower.wound(recording, rng):
                _mark(follower)
                follower.counted()


def start(follower: Follower, wire: str) -> None:
    """Watch in a thread of its own."""
    threading.Thread(target=watch, args=(follower, wire), daemon=True).start()


def _mark(follower: Follower) -> None:
    body = json.dumps({"act": "mark", "turns": None}).encode()
    address = f"{follower.address}/api/setups/{follower.setup}/course"
    sent = urllib.request.Request(address, body, {"Content-Type": "application/json"})
    urllib.request.urlopen(sent, timeout=5).close()
