"""One live indicator: a thread that reads its port, keeps what came last, and comes back by itself."""

from __future__ import annotations

import threading
import time
from collections import deque
from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Literal

import serial

from velvet_hand.core.live.recording import Recording
from velvet_hand.core.live.still import Peak, Side, Stillness
from velvet_hand.core.live.wire import LONGEST, Wire, understand

#: Nothing came for so long (s): what stands there is old.
STALE_S = 0.5
#: So long it waits before it tries its port again (s), longer each time.
AGAIN_S, AGAIN_MOST_S = 0.2, 1.0
#: A tablet that sent nothing for so long has let go of its indicator (s).
FEEDS_S = 2.0
#: At most so much is read at once, and so many of its lines are looked at: the last of a flood.
CHUNK, LINES = 4096, 60
#: So many lines are kept to be looked at.
KEPT = 30
State = Literal["opening", "live", "stale", "gone"]


@dataclass(frozen=True, slots=True)
class Line:
    """A line as it came, when, and what it was taken for."""

    number: int
    at: datetime
    raw: str
    mm: float | None
    why: str


@dataclass(frozen=True, slots=True)
class Now:
    """What an indicator shows: its state, and why where something is wrong; the last value understood, its line, how old it is, and how
    still the needle was; the ``crests`` of the ``side`` that is looked for, each kept after the needle turned back, and
    ``both`` of them (``Peak.both``); how many ``marks`` there are while it is recorded (None: it is not).
    """

    state: State
    why: str
    mm: float | None
    raw: str
    at: datetime | None
    age_s: float | None
    sd_mm: float | None
    number: int
    crests: tuple[float, ...] = ()
    both: tuple[float, float] | None = None
    side: Side | None = None
    marks: int | None = None


class Link:
    """Reads ``wire`` until it is stopped. ``clock`` counts seconds, and never back."""

    def __init__(self, wire: Wire, clock: Callable[[], float] = time.monotonic) -> None:
        self.wire, self._clock = wire, clock
        self._lock = threading.Lock()
        self._over = threading.Event()
        self._state: State = "opening"
        self._why = ""
        self._value: tuple[float, float, str, datetime] | None = None  # clock, mm, raw, at
        self._number = 0
        self._still = Stillness()
        self._peak: Peak | None = None
        self._recording: Recording | None = None
        self._lines: deque[Line] = deque(maxlen=KEPT)
        self._rest = b""
        self._whole = False
        self._thread = threading.Thread(target=self._run, name=f"wire {wire.id}", daemon=True)

    def start(self) -> Link:
        """Begin to read."""
        self._thread.start()
        return self

    def stop(self) -> None:
        """Let go of the port."""
        self._over.set()
        self._thread.join(timeout=2.0)

    # -- what it shows ---------------------------------------------------------------------------------

    def now(self) -> Now:
        """What it shows now. A value that is too old is told as old, whatever the port says."""
        with self._lock:
            value, state, why = self._value, self._state, self._why
            age = None if value is None else self._clock() - value[0]
            if state == "live" and (age is None or age > STALE_S):
                state = "stale"
                why = why or ("nothing comes" if age is None else "nothing has come for a while")
            sd = self._still.sd_mm if state == "live" else None
            return Now(
                state=state, why=why, mm=value[1] if value else None, raw=value[2] if value else "",
                at=value[3] if value else None, age_s=age, sd_mm=sd, number=self._number,
                crests=tuple(self._peak.crests) if self._peak else (), both=self._peak.both if self._peak else None,
                side=self._peak.side if self._peak else None, marks=None if self._recording is None else len(self._recording.marks_s),
            )  # fmt: skip

    def look_for(self, side: Side | None, back_mm: float) -> None:
        """From now on the highest or the lowest over a rod or a ball, kept when it has turned back by ``back_mm``; None: no more."""
        with self._lock:
            self._peak = Peak(back_mm, side) if side else None

    def record(self) -> None:
        """From now on everything is kept, until ``forget``."""
        with self._lock:
            self._recording = Recording(self._clock())

    def mark(self, *ran_s: float) -> int | None:
        """Marks in what is recorded, each so long (s) after it was begun, none of them yet to come; how many there are, or None when
        nothing is recorded.
        """
        with self._lock:
            if self._recording is None:
                return None
            began_s, now_s = self._recording.began_s, self._clock()
            for ran in ran_s:
                self._recording.mark(min(began_s + ran, now_s))
            return len(self._recording.marks_s)

    @property
    def ran_s(self) -> float:
        """How long it has been recorded (s); nothing where it is not."""
        with self._lock:
            return 0.0 if self._recording is None else self._clock() - self._recording.began_s

    def recorded(self) -> Recording | None:
        """What has been recorded so far."""
        with self._lock:
            return None if self._recording is None else self._recording.copy()

    def forget(self) -> None:
        """Nothing is recorded any more."""
        with self._lock:
            self._recording = None

    def lines(self) -> tuple[Line, ...]:
        """The last lines, the latest first."""
        with self._lock:
            return tuple(reversed(self._lines))

    # -- the thread ------------------------------------------------------------------------------------

    def _run(self) -> None:
        again = AGAIN_S
        while not self._over.is_set():
            try:
                port = serial.serial_for_url(self.wire.port, baudrate=self.wire.baud, timeout=0.02, write_timeout=0.5)
            except (serial.SerialException, ValueError, OSError) as bad:
                self._lost(_words(bad))
                self._over.wait(again)
                again = min(2 * again, AGAIN_MOST_S)
                continue
            again = AGAIN_S
            with suppress(serial.SerialException, OSError), port:  # one that is gone may not let itself be closed
                try:
                    self._read(port)
                except (serial.SerialException, OSError) as bad:
                    self._lost(_words(bad))  # told before it is closed, which takes a while
            self._over.wait(AGAIN_S)

    def _read(self, port: Any) -> None:
        asked, since, opened = 0.0, self._clock(), False
        while not self._over.is_set():
            if self.wire.kind == "request" and self._clock() - asked >= self.wire.every_ms / 1000:
                port.write(self.wire.asks)
                asked = self._clock()
            data = port.read(CHUNK)  # what has come within the port's 20 ms
            if not opened and (data or self._clock() - since > STALE_S):  # one that shuts at once is still gone
                self._opened()
                opened = True
            if data:
                self.take(data)

    def _opened(self) -> None:
        with self._lock:
            self._state, self._why, self._rest = "live", "", b""
            self._whole = self.wire.kind == "request"  # who sends by itself may be in the middle of a line
            self._still.clear()

    def _lost(self, why: str) -> None:
        with self._lock:
            self._state, self._why = "gone", why
            self._still.clear()
            if self._peak is not None:  # what was not seen may have been higher
                self._peak = Peak(self._peak.back_mm, self._peak.side)

    def take(self, data: bytes) -> None:
        """What came; lines end with a return or a new line. Half a line waits for its rest."""
        self._rest += data
        *lines, self._rest = self._rest.replace(b"\r", b"\n").split(b"\n")
        endless = len(self._rest) > 2 * LONGEST
        if endless:  # it is told as what it is; what comes before the next end belongs to it
            lines.append(self._rest)
            self._rest = b""
        for raw in [line for line in lines if line.strip()][-LINES:]:
            if self._whole:
                self._line(raw)
            self._whole = True
        self._whole = self._whole and not endless

    def _line(self, raw: bytes) -> None:
        shown = "".join(c if c.isprintable() else "·" for c in raw.decode("ascii", "replace"))[: LONGEST + 1]
        found, at = understand(self.wire, shown), datetime.now(UTC)
        with self._lock:
            self._number += 1
            self._lines.append(Line(self._number, at, shown, found.mm, found.why))
            if found.mm is None:
                self._why = f"{found.why}: {shown[:40]}"
                return
            self._why = ""
            self._value = (self._clock(), found.mm, shown, at)
            self._still.add(self._clock(), found.mm)
            if self._recording is not None:
                self._recording.add(self._value[0], found.mm)
            if self._peak is not None:
                self._peak.add(found.mm)


class Fed(Link):
    """One that hangs on a tablet: its browser sends on what comes, and no port is opened here. One browser at a time feeds it."""

    _by = ""
    _fed_at: float | None = None

    def start(self) -> Link:
        """Wait until somebody sends."""
        self._lost("no tablet sends for it yet")
        return self

    def stop(self) -> None:
        """There is nothing to let go of."""

    def fed(self, by: str, data: bytes) -> bool:
        """What came at a tablet; False when another one is sending for it."""
        now = self._clock()
        if by != self._by and self._fed_at is not None and now - self._fed_at < FEEDS_S:
            return False
        if by != self._by or self._state == "gone":
            self._opened()
        self._by, self._fed_at = by, now
        self.take(data)
        return True

    def unplugged(self, by: str, why: str) -> None:
        """The tablet that sends for it says that it is gone."""
        if by == self._by:
            self._fed_at = None
            self._lost(why)


def _words(bad: Exception) -> str:
    said = str(bad)
    for sign, words in (
        ("Permission", "this port may not be opened by who runs the server"),
        ("busy", "something else has this port"),
        ("in use", "something else has this port"),
        ("No such file", "there is no such port"),
        ("could not open", "nothing answers there"),
        ("refused", "nothing answers there"),
        ("disconnected", "it was unplugged"),
        ("closed", "it was unplugged"),
    ):
        if sign in said:
            return words
    return "the port does not work"
