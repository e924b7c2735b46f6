"""The hand that turns the simulated machine while somebody records, with a foot on the pedal that marks what passes."""

from __future__ import annotations

import json
import threading
import time
import urllib.request
from contextlib import suppress
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np

from velvet_hand.core.desk.course import route
from velvet_hand.core.sim.winding import Array, wound

if TYPE_CHECKING:
    from .simulated import Follower, Hidden

#: It looks so often whether somebody records, and whether a mark is due (s); takes so long to begin, and to go once round or along.
LOOKS_S, TREADS_S, BEGINS_S, TAKES_S = 0.2, 0.02, 0.6, 7.0
#: Beside the spots that pass, the far end is marked when it stands there so long (s).
STANDS_S = 0.25


@dataclass(slots=True)
class Winding:
    """Where the spindle or the table is, from a moment on: (n,) moments and places, and what is to be marked when."""

    began_s: float
    at_s: Array
    place: Array
    first: complex
    way: float
    ring: str
    marks_s: list[float] = field(default_factory=list)

    def place_at(self, now_s: float) -> complex:
        """Where the stylus is on the part."""
        return self.first + self.way * float(np.interp(now_s - self.began_s, self.at_s, self.place))

    def due(self, now_s: float) -> int:
        """Marks whose moment has come; they are told once."""
        late = [s for s in self.marks_s if s <= now_s - self.began_s]
        self.marks_s = self.marks_s[len(late) :]
        return len(late)


def winding_for(hidden: Hidden, now_s: float, rng: np.random.Generator, takes_s: float) -> Winding | None:
    """Once round, or along and back, as the screen asks for it now; None where it asks for nothing like it."""
    found = route(hidden.state)
    if found is None:
        return None
    spots, places, turns = found
    first, ring = (complex(hidden.body.spot(spots[0])[0]), hidden.body.spot(spots[0])[1])
    if turns:
        at_s, place = wound(rng, "usual", 360.0, 360.0 / takes_s)
        way = 1.0 if (spots[1].angle_deg - spots[0].angle_deg) % 360 <= 180 else -1.0
        passed = [p for p, s in zip(places[1:], spots[1:], strict=True) if s.jaw is not None]
        marks = [float(np.interp(p, place, at_s)) for p in passed] if spots[0].jaw is not None else []
        return Winding(now_s + BEGINS_S, at_s, place, first, way, ring, marks)
    last = complex(hidden.body.spot(spots[-1])[0])
    there, along = wound(rng, "usual", places[-1], places[-1] / takes_s)
    back, again = wound(rng, "usual", places[-1], places[-1] / takes_s)
    far = float(there[-1]) + STANDS_S
    at_s, place = np.concatenate([there, far + STANDS_S + back]), np.concatenate([along, places[-1] - again])
    return Winding(now_s + BEGINS_S, at_s, place, first, 1.0 if (last - first).real >= 0 else -1.0, ring, [far])


def watch(follower: Follower, wire: str) -> None:
    """Turn whenever somebody records this indicator, for ever; its pedal goes to the server like anybody’s."""
    rng, looked, recording = np.random.default_rng(7), 0.0, False
    while True:
        time.sleep(TREADS_S if recording else LOOKS_S)
        with suppress(OSError):
            if time.monotonic() - looked >= LOOKS_S:
                recording = any(w["marks"] is not None for w in follower.ask("/api/live")["wires"] if w["id"] == wire)
                looked = time.monotonic()
            for _ in range(follower.wound(recording, rng)):
                _mark(follower)


def start(follower: Follower, wire: str) -> None:
    """Watch in a thread of its own."""
    threading.Thread(target=watch, args=(follower, wire), daemon=True).start()


def _mark(follower: Follower) -> None:
    body = json.dumps({"act": "mark", "turns": None}).encode()
    address = f"{follower.address}/api/setups/{follower.setup}/course"
    sent = urllib.request.Request(address, body, {"Content-Type": "application/json"})
    urllib.request.urlopen(sent, timeout=5).close()
