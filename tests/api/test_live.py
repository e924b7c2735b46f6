"""Live indicators over HTTP: what they show, a reading taken and refused, and what is typed about them."""

from __future__ import annotations

import base64
import itertools
import json
import math
import threading
import time
from collections.abc import Iterator
from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_bad_input import is_problem
from tests.api.test_setups import at_the_first_reading
from velvet_hand.instruments.simulated import Server


@pytest.fixture
def indicator(client: Any) -> Iterator[tuple[str, Server]]:
    """A live indicator that stands at 0.0123 mm, in the Shop as that of the fine lever."""
    server = Server(lambda _now: 0.0123)
    wire_id = f"wire-{uuid4().hex[:6]}"
    kept(client, wire_id, port=f"socket://127.0.0.1:{server.bind('127.0.0.1', 0)}")
    threading.Thread(target=server.run, daemon=True).start()
    yield wire_id, server
    client.delete(f"/api/live/{wire_id}")
    server.trouble = "gone"
    server.listening.close()


def kept(client: Any, wire_id: str, **typed: str) -> Any:
    body = {
        "kind": "stream",
        "name": f"Live {wire_id}",
        "typed": {"gauge": "lever-fine", "pattern": r"(?P<value>[-+][\d.]+) mm", **typed},
    }
    body["typed"] = {"unit": "mm", "turned": "no", "baud": "9600", **body["typed"]}  # type: ignore[dict-item]
    return client.put(f"/api/shop/wires/{wire_id}", json=body)


def now(client: Any, wire_id: str, state: str) -> dict[str, Any]:
    """What it shows, once it is in that state."""
    while True:
        found: dict[str, Any] = client.get(f"/api/live/{wire_id}/lines").json["now"]
        if found["state"] == state and (state != "live" or found["mm"] is not None):
            return found
        time.sleep(0.01)


def test_a_reading_is_taken_with_its_line(client: Any, indicator: tuple[str, Server]) -> None:
    wire_id, _ = indicator
    now(client, wire_id, "live")
    taken = client.post(f"/api/live/{wire_id}/take", json={})
    assert taken.status_code == 200
    assert taken.json["typed"] == {"text": "0.0123 mm", "unit": "mm"}
    assert taken.json["live"]["raw"] == "+0.0123 mm"


@pytest.mark.parametrize(
    ("mm", "typed"), [(-0.0001, "0 mm"), (0.0126, "0.0126 mm"), (0.9, "+off"), (-0.9, "-off"), (-0.0127, "-0.0127 mm")]
)
def test_what_is_typed_for_it_is_what_can_be_read(
    client: Any, indicator: tuple[str, Server], mm: float, typed: str
) -> None:
    """Less than a fifth of a graduation is noise, and the end of the travel (0.25 mm) is past it."""
    wire_id, server = indicator
    server.needle = lambda _now: mm
    while now(client, wire_id, "live")["mm"] != mm:
        time.sleep(0.01)
    answer = client.post(f"/api/live/{wire_id}/take", json={}).json
    assert answer["typed"]["text"] == typed
    assert answer["live"]["raw"].startswith(f"{mm:+.4f}")


def test_an_extreme_is_taken_only_after_it_turned_back_from_both_sides(
    client: Any, indicator: tuple[str, Server]
) -> None:
    wire_id, server = indicator
    now(client, wire_id, "live")
    assert client.post(f"/api/live/{wire_id}/peak", json={"side": "high"}).json["now"]["side"] == "high"
    is_problem(client.post(f"/api/live/{wire_id}/take", json={}), 409, "not_live", "item_id")

    def run_to(mm: float) -> None:
        server.needle = lambda _now: mm
        while now(client, wire_id, "live")["mm"] != mm:
            time.sleep(0.01)

    for mm in (0.0, 0.05, 0.0, 0.056, 0.0):
        run_to(mm)
    taken = client.post(f"/api/live/{wire_id}/take", json={}).json
    assert float(taken["typed"]["text"].removesuffix(" mm")) == pytest.approx(0.053, abs=0.0003)
    assert taken["live"]["still_mm"] == pytest.approx(0.006)
    is_problem(client.post(f"/api/live/{wire_id}/take", json={}), 409, "not_live", "item_id")  # the next one anew
    assert client.post(f"/api/live/{wire_id}/peak", json={"side": None}).json["now"]["side"] is None
    is_problem(client.post(f"/api/live/{wire_id}/peak", json={"side": "up"}), 422, "field_invalid", "side")


def test_nothing_is_taken_from_one_that_is_gone(client: Any, indicator: tuple[str, Server]) -> None:
    wire_id, server = indicator
    now(client, wire_id, "live")
    server.trouble = "gone"
    assert now(client, wire_id, "gone")["why"]
    is_problem(client.post(f"/api/live/{wire_id}/take", json={}), 409, "not_live", "item_id")
    is_problem(client.post("/api/live/nobody/take", json={}), 404, "unknown_thing", "item_id")


def test_lines_stand_beside_what_they_were_taken_for(client: Any, indicator: tuple[str, Server]) -> None:
    wire_id, server = indicator
    server.trouble = "rubbish"
    while not any(line["why"] for line in client.get(f"/api/live/{wire_id}/lines").json["lines"]):
        time.sleep(0.01)
    lines = client.get(f"/api/live/{wire_id}/lines").json["lines"]
    assert all((line["mm"] is None) is bool(line["why"]) for line in lines)
    listed = {w["id"]: w for w in client.get("/api/live").json["wires"]}
    assert listed[wire_id]["gauge"] == "lever-fine"


def test_needles_are_streamed(client: Any, indicator: tuple[str, Server]) -> None:
    wire_id, _ = indicator
    now(client, wire_id, "live")
    answer = client.get(f"/api/live/stream?ids={wire_id}", buffered=False)
    assert answer.content_type == "text/event-stream"
    frame = next(iter(answer.response)).decode()
    assert frame.startswith("event: needles\ndata: ")
    shown = json.loads(frame.split("data: ", 1)[1])
    assert (shown[0]["id"], shown[0]["mm"]) == (wire_id, 0.0123)
    answer.close()
    is_problem(client.get("/api/live/stream?ids=nobody"), 404, "unknown_thing", "item_id")


@pytest.mark.parametrize(
    ("field", "typed"),
    [
        ("typed.port", {"port": "file:///etc/passwd"}),
        ("typed.pattern", {"port": "COM3", "pattern": "(("}),
        ("typed.pattern", {"port": "COM3", "pattern": r"\d+"}),
        ("typed.baud", {"port": "COM3", "baud": "12"}),
        ("typed.unit", {"port": "COM3", "unit": "cubit"}),
        ("typed.port", {"port": ""}),
    ],
)
def test_what_cannot_be_reached_or_read_is_refused_at_its_field(client: Any, field: str, typed: dict[str, str]) -> None:
    is_problem(kept(client, "wire-odd", **typed), 422, "field_invalid", field)
    assert "wire-odd" not in {w["id"] for w in client.get("/api/live").json["wires"]}


def turned(client: Any, setup_id: str, act: str, **more: Any) -> Any:
    return client.post(f"/api/setups/{setup_id}/course", json={"act": act, **more})


def test_a_turn_is_recorded_marked_and_told_as_readings(client: Any, indicator: tuple[str, Server]) -> None:
    """Without a live indicator, before it was begun, or on nonsense it says so; a set-up never hears of it before its readings are sent."""
    _, server = indicator
    setup_id = at_the_first_reading(client, gauge_id="lever-fine")
    assert turned(client, setup_id, "mark").json["code"] == "not_now"
    assert turned(client, setup_id, "end").json["code"] == "not_now"
    assert turned(client, setup_id, "turn").status_code == 422
    lines = itertools.count(-1_000_000)
    server.rate_hz = 100.0
    server.needle = lambda _now: 0.02 * math.cos(2 * math.pi * min(max((next(lines) - 20) / 110, 0.0), 1.0))
    while not turned(client, setup_id, "begin").json.get("running"):
        time.sleep(0.02)  # nothing has come yet
    lines = itertools.count()
    while next(lines) < 160:  # this one counts too
        time.sleep(0.02)
    answer = turned(client, setup_id, "end", turns=1)
    assert answer.status_code == 200
    assert answer.json["found"]["captured"]["tir_mm"] == pytest.approx(0.04, abs=0.004)
    assert len(answer.json["readings"]) >= 4
    assert all(one["live"]["u_mm"] is not None for one in answer.json["readings"])
    assert turned(client, setup_id, "end", turns=2).json["found"]["captured"]["turns"] == 2
    assert client.get(f"/api/setups/{setup_id}").json["passes_total"] == 0


def test_a_turn_that_is_left_is_forgotten(client: Any, indicator: tuple[str, Server]) -> None:
    wire_id, _ = indicator
    setup_id = at_the_first_reading(client, gauge_id="lever-fine")
    now(client, wire_id, "live")
    assert turned(client, setup_id, "begin").json["running"]
    assert now(client, wire_id, "live")["marks"] == 0
    assert turned(client, setup_id, "mark").json["marks"] == 1
    ran_s = turned(client, setup_id, "look").json["ran_s"]
    assert ran_s > 0
    assert turned(client, setup_id, "mark", marks_s=[ran_s / 2, 3600.0]).json["marks"] == 3
    again = turned(client, setup_id, "mark", marks_s=[ran_s / 2])  # its answer was lost
    assert again.json["marks"] == 3
    is_problem(turned(client, setup_id, "mark", marks_s=[-1.0]), 422, "field_invalid", "marks_s.0")
    assert turned(client, setup_id, "end").json["code"] == "field_invalid"  # nearly nothing came
    assert turned(client, setup_id, "begin").json["running"]
    assert turned(client, setup_id, "drop").json["running"] is False
    assert now(client, wire_id, "live")["marks"] is None


def test_what_a_tablet_sends_is_read_like_a_port_by_one_of_them_at_a_time(client: Any) -> None:
    wire_id = f"wire-{uuid4().hex[:6]}"
    assert kept(client, wire_id, port="tablet:").status_code == 200

    def fed(by: str, data: str = "", gone: str = "") -> Any:
        return client.post(
            f"/api/live/{wire_id}/feed",
            json={"by": by, "data": base64.b64encode(data.encode("latin-1")).decode(), "gone": gone},
        )

    assert client.get(f"/api/live/{wire_id}/lines").json["now"]["state"] == "gone"
    assert fed("one", "12 mm\r\n+0.0123 mm\r\n+0.01").status_code == 200  # the first may be half a line
    assert client.get(f"/api/live/{wire_id}/lines").json["now"]["mm"] == 0.0123
    assert fed("two", "+0.5000 mm\r\n").json["detail"] == "Another tablet sends for it."
    assert fed("one", "50 mm\r\n\xff\x00~\r\n").status_code == 200
    lines = client.get(f"/api/live/{wire_id}/lines").json
    assert lines["now"]["mm"] == 0.015
    assert lines["lines"][0]["why"] == "not understood"
    assert client.post(f"/api/live/{wire_id}/take", json={}).json["typed"]["text"] == "0.015 mm"
    fed("one", gone="it was unplugged")
    assert client.post(f"/api/live/{wire_id}/take", json={}).json["code"] == "not_live"
    assert fed("two", "+0\r\n+0.0200 mm\r\n").status_code == 200
    assert client.get(f"/api/live/{wire_id}/lines").json["now"]["mm"] == 0.02
    assert fed("", "x").status_code == 422
    assert client.post(f"/api/live/{wire_id}/feed", json={"by": "one", "data": "a"}).status_code == 422
    client.delete(f"/api/live/{wire_id}")


def test_only_one_that_hangs_on_a_tablet_is_fed(client: Any, indicator: tuple[str, Server]) -> None:
    refused = client.post(f"/api/live/{indicator[0]}/feed", json={"by": "one", "data": "eA=="})
    assert (refused.status_code, refused.json["code"]) == (409, "not_live")
    assert client.get("/api/live").json["wires"][0]["tablet"] is None
