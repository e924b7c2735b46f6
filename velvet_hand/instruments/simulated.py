"""A simulated indicator: its own program, lines over a socket, that follows a simulated machine; and a hand at that machine.

It looks at the set-up that stands with its indicator, does to a hidden machine what is said to be done, and shows what that machine’s
needle shows at the spot that is to be read next. ``python -m velvet_hand.instruments.simulated --help``. On standard input it is told to
misbehave: ``jitter``, ``drop``, ``rubbish``, ``half``, ``units``, ``hang``, ``flood``, ``gone`` and ``back``.
"""

from __future__ import annotations

import argparse
import json
import socket
import sys
import threading
import time
import urllib.request
import zlib
from collections.abc import Callable, Iterator
from contextlib import suppress
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from pydantic import TypeAdapter

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advise import advise
from velvet_hand.core.desk.panel import AimBox
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.sim.body import Body, Jammed, WrongWay

from . import winding
from .winding import Winding, winding_for

#: Lines a second; how fast a hand brings the next spot under the stylus (part of the way in a second); its trembling (graduations).
RATE_HZ, HASTE, TREMBLE = 50.0, 6.0, 0.02
#: A hand looks at a move for so long before it turns the key, and turns it for so long (s).
LOOKS_S, TURNS_S = 1.2, 2.5
#: A press test is pressed once in so many seconds, for so long, by so much (graduations).
PRESS_S, PRESSED_S, PRESSED = 2.0, 0.9, 12.0
#: A server that says nothing for so long is away (it sends a comment in between); so long before it is asked again (s).
SILENT_S, AGAIN_S = 40.0, 0.5
TROUBLES = ("jitter", "drop", "rubbish", "half", "units", "hang", "flood", "gone", "back")
_EVENTS = TypeAdapter(list[ev.Event])


class Hidden:
    """The machine behind a set-up, brought to where its events have brought it."""

    def __init__(self, events: list[ev.Event], seed: int, haste: float = HASTE) -> None:
        self.slow = HASTE / haste
        self.state: State = desk.load(events[:1])
        self.body: Body = machine(self.state.plan, np.random.default_rng(seed))
        self.done: list[ev.Event] = [events[0]]
        self.since = 0.0
        self.winding: Winding | None = None
        self.asked = self._asked()

    def follow(self, events: list[ev.Event], now_s: float) -> bool:
        """What has happened since: moves, zeros, tightening; False when something was taken back, which no machine does."""
        state = desk.load(events)
        if state.effective[: len(self.done)] != self.done:
            return False
        tight = self.state.tight
        for event in state.effective[len(self.done) :]:
            match event.body:
                case ev.MoveDone() if event.shown is not None:
                    tight = False
                    with suppress(WrongWay, Jammed):  # a hand does not go on where the needle runs away from the aim
                        self.body.do(event.shown)
                case ev.ZeroSet():
                    self.body.zero(self.state.station(event.body.station_id))
                case ev.Tightened():
                    self.body.grip(tight)
                    tight = True
        if state.seq != self.state.seq:
            self.since = now_s
        self.state, self.done = state, list(state.effective)
        self.asked = self._asked()
        return True

    def _asked(self) -> tuple[str, AimBox | None, bool]:
        """What the screen asks for: the spot under the stylus, the aim of a move that is shown, and whether it is pressed."""
        state = self.state
        procedure = desk.procedure_of(state.plan)
        panel = advise(procedure, state, procedure.solution(state))[0]
        left = state.unread(state.being_read)
        return (left[0].id if left else state.stations[0].id), panel.aim, panel.name == "press"

    def needle(self, now_s: float) -> float:
        """What the needle shows now, mm: at the spot that is to be read; pressed; or on its way to the aim of a move."""
        if self.winding is not None:
            end = self.state.plan.gauge.travel_mm
            return min(max(self.body.needle(self.winding.place_at(now_s), self.winding.way.ring), -end), end)
        waited, (spot, aim, pressed) = now_s - self.since, self.asked
        if pressed:
            push = 1.0 if self.body.press() == "plus" else -1.0
            away = push * PRESSED * self.state.plan.gauge.graduation_mm
            return self.shown(spot) + (away if waited % PRESS_S < PRESSED_S else 0.0)
        if aim is not None and aim.now_mm is not None and aim.aim_mm is not None:
            part = min(max((waited - LOOKS_S * self.slow) / (TURNS_S * self.slow), 0.0), 1.0)
            return aim.now_mm + (aim.aim_mm - aim.now_mm) * part
        return self.shown(spot)

    def shown(self, station_id: str) -> float:
        """What the needle shows at a spot, once it has come to rest."""
        at, ring = self.body.spot(self.state.station(station_id))
        end = self.state.plan.gauge.travel_mm
        return min(max(self.body.needle(at, ring), -end), end)  # at its stop it goes no farther


@dataclass(slots=True)
class Needle:
    """Where the needle stands: it follows ``wanted`` as fast as a hand goes, trembling."""

    wanted: Callable[[float], float]
    mark_mm: float
    haste: float = HASTE
    at_once: Callable[[], bool] = lambda: False
    at_mm: float = 0.0
    last_s: float = 0.0

    def step(self, now_s: float, tremble: float) -> float:
        """One step of time; a surface that is turned under it is followed at once."""
        part = 1.0 if self.at_once() else 1 - np.exp(-self.haste * max(now_s - self.last_s, 0.0))
        self.at_mm += float(part) * (self.wanted(now_s) - self.at_mm)
        self.last_s = now_s
        return self.at_mm + tremble * self.mark_mm


def plain_line(mm: float) -> bytes:
    """The format that is sent all the time: ``+0.0123 mm``."""
    return f"{mm:+.4f} mm\r\n".encode()


def asked_line(mm: float) -> bytes:
    """The format that is asked for: inches, behind a name."""
    return f"ID1 {mm / 25.4:+.5f} in\r".encode()


@dataclass(slots=True)
class Server:
    """Sends lines to whoever connects, in one of two formats, and misbehaves when it is told to."""

    needle: Callable[[float], float]
    asked: bool = False
    trouble: str = ""
    clock: Callable[[], float] = time.monotonic
    rate_hz: float = RATE_HZ
    listening: socket.socket = field(init=False)

    def __post_init__(self) -> None:
        self.listening = socket.socket()
        self.listening.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)

    def bind(self, host: str, port: int) -> int:
        """Take a port (0: any); returns it."""
        self.listening.bind((host, port))
        self.listening.listen(8)
        return int(self.listening.getsockname()[1])

    def run(self) -> None:
        """Serve until the socket is closed."""
        while True:
            try:
                other, _ = self.listening.accept()
            except OSError:
                return
            threading.Thread(target=self._serve, args=(other,), daemon=True).start()

    def _serve(self, other: socket.socket) -> None:
        number, due = 0, self.clock()
        with other:
            other.settimeout(0.2)
            try:
                while self.trouble != "gone":
                    if self.asked:
                        try:
                            if not other.recv(64):
                                return
                        except TimeoutError:
                            continue
                    else:
                        due = max(due + 1 / self.rate_hz, self.clock() - 0.1)
                        time.sleep(max(due - self.clock(), 0.0))
                    number += 1
                    if line := self.line(number):
                        other.sendall(line)
            except OSError:
                return

    def line(self, number: int) -> bytes:
        """The next line, as the trouble of the hour leaves it."""
        mm = self.needle(self.clock())
        write = asked_line if self.asked else plain_line
        if self.trouble == "jitter":
            mm += (-1) ** number * 0.01
        good = write(mm)
        match self.trouble:
            case "hang":
                return b""
            case "drop":
                return good if number % 7 < 4 else b""
            case "rubbish":
                return b"\xff\x00~#+\r\n" if number % 3 else good
            case "half":
                return good if number % 3 else good[: len(good) // 2]
            case "units":
                return plain_line(mm) if number % 2 else f"{mm / 25.4:+.5f} in\r\n".encode()
            case "flood":
                return good * 400
        return good


class Follower:
    """The set-up that stands with an indicator, as the server of Velvet Hand tells it."""

    def __init__(
        self,
        address: str,
        gauge: str,
        *,
        takes_s: float = winding.TAKES_S,
        seed: int | None = None,
        haste: float = HASTE,
    ) -> None:
        self.address, self.gauge, self.takes_s, self.seed, self.haste = address, gauge, takes_s, seed, haste
        self.hidden: Hidden | None = None
        self.setup = ""
        self._seq = 0
        self._lock = threading.Lock()

    def ask(self, path: str) -> Any:
        """What the server answers there."""
        with urllib.request.urlopen(f"{self.address}{path}", timeout=5) as answer:
            return json.load(answer)

    def register(self, wire: str, port: str) -> None:
        """Tell the Shop where this indicator is now."""
        found = next(w for w in self.ask("/api/shop")["wires"] if w["id"] == wire)
        body = {"kind": found["kind"], "name": found["name"], "typed": {**found["typed"], "port": port}}
        asked = urllib.request.Request(
            f"{self.address}/api/shop/wires/{wire}",
            json.dumps(body).encode(),
            {"Content-Type": "application/json"},
            method="PUT",
        )
        urllib.request.urlopen(asked, timeout=5).close()

    def changes(self) -> Iterator[None]:
        """Once now, and whenever something was done in any set-up; ends when the server goes away."""
        with urllib.request.urlopen(f"{self.address}/api/stream", timeout=SILENT_S) as heard:
            yield
            for line in heard:
                if line.startswith(b"data:"):
                    yield

    def look(self, now_s: float) -> None:
        """Has something been done? The latest set-up that stands with this indicator is followed."""
        standing = [
            s
            for stand in self.ask("/api/bench")["stands"]
            for s in stand["standing"]
            if s["summary"]["gauge"] == self.gauge
        ]
        if not standing:
            return
        latest = max(standing, key=lambda s: str(s["summary"]["changed_at"]))
        if (latest["id"], latest["seq"]) == (self.setup, self._seq):
            return
        raw = self.ask(f"/api/setups/{latest['id']}/events.json")
        events = _EVENTS.validate_python(raw, strict=False)
        with self._lock:
            if latest["id"] != self.setup or self.hidden is None or not self.hidden.follow(events, now_s):
                seed = zlib.crc32(latest["id"].encode()) if self.seed is None else self.seed
                self.hidden = Hidden(events, seed, self.haste)
                self.hidden.follow(events, now_s)
        self.setup, self._seq = latest["id"], latest["seq"]

    def wound(self, recording: bool, rng: np.random.Generator) -> bool:
        """Turn while somebody records; has the pedal to send a mark now?"""
        now_s = time.monotonic()
        with self._lock:
            if self.hidden is None or not recording:
                if self.hidden is not None:
                    self.hidden.winding = None
                return False
            if self.hidden.winding is None:
                self.hidden.winding = winding_for(self.hidden, now_s, rng, self.takes_s)
            return self.hidden.winding is not None and self.hidden.winding.is_due(now_s)

    def counted(self) -> None:
        """The mark has been counted: the hand goes on."""
        with self._lock:
            if self.hidden is not None and self.hidden.winding is not None and self.hidden.winding.marks_s:
                self.hidden.winding.counted(time.monotonic())

    @property
    def turns(self) -> bool:
        """Is it turned just now?"""
        with self._lock:
            return self.hidden is not None and self.hidden.winding is not None

    def needle(self, now_s: float) -> float:
        """What the needle of that machine shows; nothing is under it while no set-up stands."""
        with self._lock:
            return 0.0 if self.hidden is None else self.hidden.needle(now_s)


def _say(words: str) -> None:
    sys.stdout.write(f"{words}\n")
    sys.stdout.flush()


def _listen_for_trouble(server: Server) -> None:
    for line in sys.stdin:
        said = line.strip()
        if said in TROUBLES:
            server.trouble = "" if said == "back" else said
            _say(f"now: {server.trouble or 'well'}")


def main(arguments: list[str] | None = None) -> int:
    """Run it until it is ended."""
    parser = argparse.ArgumentParser(prog="simulated", description="A simulated indicator that follows a set-up.")
    parser.add_argument("--server", default="http://127.0.0.1:8300", help="where Velvet Hand is")
    parser.add_argument("--gauge", required=True, help="name of the indicator that it is")
    parser.add_argument("--host", default="127.0.0.1")
    parser.add_argument("--port", type=int, default=8391)
    parser.add_argument(
        "--asked", action="store_true", help="answer when asked, in inches, instead of sending all the time"
    )
    parser.add_argument("--haste", type=float, default=HASTE, help="how fast the hand goes")
    parser.add_argument("--turn", type=float, default=winding.TAKES_S, help="seconds that a turn takes")
    parser.add_argument("--seed", type=int, help="the same machine every time; else each set-up has its own")
    parser.add_argument("--mark", type=float, default=0.001, help="one graduation, mm")
    parser.add_argument(
        "--register", metavar="WIRE", help="id of the live indicator of the Shop to be told where this is"
    )
    asked = parser.parse_args(arguments)
    follower = Follower(asked.server, asked.gauge, takes_s=asked.turn, seed=asked.seed, haste=asked.haste)
    rng = np.random.default_rng(1)
    needle = Needle(follower.needle, asked.mark, asked.haste, lambda: follower.turns)
    server = Server(lambda now_s: needle.step(now_s, float(rng.normal(0, TREMBLE))), asked=asked.asked)
    try:
        port = server.bind(asked.host, asked.port)
    except OSError:
        port = server.bind(asked.host, 0)
    where = f"socket://{asked.host}:{port}"
    if asked.register:
        follower.register(asked.register, where)
        winding.start(follower, asked.register)
    _say(f"simulated indicator at {where}")
    threading.Thread(target=server.run, daemon=True).start()
    threading.Thread(target=_listen_for_trouble, args=(server,), daemon=True).start()
    while True:
        with suppress(OSError):  # while the server is away the needle stays where it is
            for _ in follower.changes():
                follower.look(time.monotonic())
        time.sleep(AGAIN_S)


if __name__ == "__main__":
    sys.exit(main())
