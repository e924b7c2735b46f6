"""A port that works, misbehaves and comes back: nothing is lost that was there, nothing is told that was not."""

from __future__ import annotations

import itertools
import threading
import time
from collections.abc import Callable, Iterator

import pytest
import serial

from tests.core.test_live import wire
from velvet_hand.core.live.wire import Wire
from velvet_hand.instruments.hub import Wires
from velvet_hand.instruments.link import STALE_S, Link
from velvet_hand.instruments.simulated import Server


def until(true: Callable[[], bool]) -> None:
    """Wait until something is so; the run's own time limit ends what never is."""
    while not true():
        time.sleep(0.005)


@pytest.fixture
def server() -> Iterator[Server]:
    made = Server(lambda _now: 0.0123)
    yield made
    made.trouble = "gone"
    made.listening.close()


def linked(server: Server, **changes: object) -> Link:
    port = server.bind("127.0.0.1", 0)
    threading.Thread(target=server.run, daemon=True).start()
    return Link(wire(port=f"socket://127.0.0.1:{port}", **changes)).start()


@pytest.mark.parametrize("asked", [False, True])
def test_what_it_shows_comes_with_its_line_and_time(server: Server, asked: bool) -> None:
    server.asked = asked
    own = {"kind": "request", "pattern": r"ID1 (?P<value>[-+][\d.]+) (?P<unit>in)", "every_ms": 10} if asked else {}
    link = linked(server, **own)
    until(lambda: link.now().state == "live" and link.now().mm is not None)
    now = link.now()
    assert now.mm == pytest.approx(0.0123, abs=2e-4)
    assert now.raw.startswith("ID1 +0.00048" if asked else "+0.0123 mm")
    assert now.at is not None
    until(lambda: link.now().sd_mm is not None)
    assert link.now().sd_mm == pytest.approx(0.0, abs=1e-9)
    link.stop()


@pytest.mark.parametrize("trouble", ["rubbish", "half", "drop"])
def test_what_is_no_reading_is_told_and_the_good_ones_are_kept(server: Server, trouble: str) -> None:
    server.trouble = trouble
    link = linked(server)
    until(lambda: link.now().number > 30)
    values = {line.mm for line in link.lines()}
    assert values <= {0.0123, None}
    assert any(line.mm == 0.0123 for line in link.lines())
    if trouble == "rubbish":
        assert any(line.why and "·" in line.raw for line in link.lines())
    link.stop()


def test_two_units_are_each_read_by_what_the_line_says(server: Server) -> None:
    server.trouble = "units"
    link = linked(server)
    until(lambda: link.now().number > 6)
    assert all(line.mm == pytest.approx(0.0123, abs=2e-4) for line in link.lines())
    link.stop()


def test_a_flood_leaves_the_last_line_and_no_heap(server: Server) -> None:
    shown = itertools.count()
    server.needle = lambda _now: next(shown) / 10_000
    server.trouble = "flood"
    link = linked(server)
    until(lambda: link.now().number > 500)
    assert len(link.lines()) <= 30
    assert link.now().state == "live"
    assert (link.now().mm or 0.0) > 0
    link.stop()


def test_unplugged_it_is_gone_and_it_comes_back_by_itself(server: Server) -> None:
    link = linked(server)
    until(lambda: link.now().state == "live")
    before = link.now().number
    server.trouble = "gone"
    until(lambda: link.now().state == "gone")
    assert link.now().why
    assert link.now().sd_mm is None
    server.trouble = ""
    until(lambda: link.now().state == "live" and link.now().number > before)
    link.stop()


def test_one_that_opens_and_shuts_at_once_stays_gone(monkeypatch: pytest.MonkeyPatch) -> None:
    """A converter whose indicator is unplugged takes every call and hangs up: the screen must not flicker between old and gone."""
    told: list[str] = []

    class HangsUp:
        def __enter__(self) -> HangsUp:
            return self

        def __exit__(self, *_: object) -> None:
            told.append(f"closing: {link.now().state}")

        def read(self, _most: int) -> bytes:
            if told:
                told.append(f"reading: {link.now().state}")
            raise serial.SerialException("socket disconnected")

    monkeypatch.setattr(serial, "serial_for_url", lambda *_args, **_more: HangsUp())
    link = Link(wire(port="socket://127.0.0.1:1"))
    link.start()
    until(lambda: len(told) >= 5)
    link.stop()
    assert set(told) == {"closing: gone", "reading: gone"}
    assert link.now().why == "it was unplugged"


def test_one_that_hangs_is_stale_though_its_port_stands(server: Server) -> None:
    at = [100.0]
    port = server.bind("127.0.0.1", 0)
    server.trouble = "hang"
    threading.Thread(target=server.run, daemon=True).start()
    link = Link(wire(port=f"socket://127.0.0.1:{port}"), clock=lambda: at[0])
    link.take(b"\r\n+0.0100 mm\r\n+0.0100 mm\r\n")
    link._opened()
    assert link.now().state == "live"
    at[0] += STALE_S + 0.01
    assert (link.now().state, link.now().mm) == ("stale", 0.01)  # shown as old, and as what it was


def test_what_comes_first_may_be_half_a_line_and_is_left_out() -> None:
    link = Link(wire(), clock=lambda: 0.0)
    link._opened()
    link.take(b"0120 mm\r\n+0.0")
    assert link.now().mm is None  # 0.0120 would have been +10.0120
    link.take(b"120 mm\r\n")
    assert link.now().mm == 0.012
    link.take(b"9" * 5000)
    assert "too long" in link.lines()[0].why
    link.take(b"99\r\n+0.5 mm\r\n")
    assert link.now().mm == 0.5


def test_a_port_that_is_not_there_is_told_in_words() -> None:
    link = Link(wire(port="/dev/ttyNOWHERE9")).start()
    until(lambda: link.now().state == "gone")
    assert link.now().why == "there is no such port"
    link.stop()


def test_one_link_serves_all_who_watch_and_is_made_anew_when_the_wire_changes(server: Server) -> None:
    port = server.bind("127.0.0.1", 0)
    threading.Thread(target=server.run, daemon=True).start()
    wires, mine = Wires(2), wire(port=f"socket://127.0.0.1:{port}")
    assert wires.now(mine).state == "opening"  # nobody looks yet: its port is not opened
    assert not wires._links
    assert wires.link(mine) is wires.link(Wire.model_validate(mine.model_dump()))
    other = wires.link(mine.model_copy(update={"turned": True}))
    assert other is not wires.link(mine)
    assert [wires.watch() for _ in range(3)] == [True, True, False]
    wires.leave()
    assert wires.watch()
    wires.close()
