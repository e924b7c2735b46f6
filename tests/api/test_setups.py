"""The contract: a set-up over HTTP from opening to the Logbook, its exports, its streams, its document."""

from __future__ import annotations

import csv
import io
import json
import socket
import threading
from pathlib import Path
from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_bad_input import opened, plan, reading, send
from tests.support import there
from velvet_hand.api import create_app
from velvet_hand.api.setups import _no_formula
from velvet_hand.api.stream import Hub
from velvet_hand.core.errors import ERROR_CODES
from velvet_hand.settings import ROOT, Settings


def at_the_first_reading(client: Any, **changes: Any) -> str:
    setup_id = opened(client, **changes)
    first = client.get(f"/api/setups/{setup_id}").json["panels"][0]["primary"]["events"][0]
    for body in (
        first,
        {"type": "step_passed", "step": "clean"},
        {"type": "step_passed", "step": "rough_in"},
        {"type": "press_tested", "went": "plus"},
        {"type": "zero_set", "station_id": "s1"},
        {"type": "step_passed", "step": "set_gauge"},
    ):
        assert send(client, setup_id, body).status_code == 200
    return setup_id


def proved(client: Any, part: str) -> str:
    setup_id = at_the_first_reading(client, part={"name": part, "diameter": {"text": "40", "unit": "mm"}})
    send(client, setup_id, {"type": "tightened"})
    for station in ("s1", "s1b", "s2", "s2b", "s3", "s3b", "s4", "s4b"):
        send(client, setup_id, reading("0", station))
    send(client, setup_id, {**reading("0"), "closing": True})
    send(client, setup_id, {"type": "press_tested", "went": "plus"})  # by paper: the needle never moved
    answer = send(client, setup_id, {"type": "proved", "pass_no": 1})
    assert answer.json["view"]["verdict"]["outcome"] == "holds"
    return setup_id


def test_a_button_sends_the_events_it_carries(client: Any) -> None:
    setup_id = at_the_first_reading(client)
    for station, text in (("s1", "4"), ("s2", "0"), ("s3", "-4"), ("s4", "0")):
        view = send(client, setup_id, reading(text, station)).json["view"]
    panel = view["panels"][0]
    assert panel["headline"][1] == {"kind": "words", "text": "jaw 3", "strong": True}
    assert panel["aim"]["aim_mm"] == pytest.approx(0, abs=1e-12)
    view = send(client, setup_id, panel["primary"]["events"][0]).json["view"]
    assert view["tray"]["pass_no"] == 2
    assert words(client.get(f"/api/setups/{setup_id}/record").json["log"][-1]["what"]).startswith(
        "Jaw 3 backed off, jaw 1 tightened, aim "
    )


def test_how_finely_a_hand_reads_goes_with_its_set_up(client: Any) -> None:
    told = {}
    for habit in ("fifth", "half", "whole"):
        setup_id = at_the_first_reading(client, read_to=habit)
        opening = json.loads(client.get(f"/api/setups/{setup_id}/events.json").text)[0]
        assert opening["body"]["plan"]["gauge"]["read_to"] == habit
        for station, text in (("s1", "4"), ("s2", "0"), ("s3", "-4"), ("s4", "0")):
            view = send(client, setup_id, reading(text, station)).json["view"]
        told[habit] = next(f["u_mm"] for f in view["figures"] if f["id"] == "off_centre")
    assert told["fifth"] < told["half"] < told["whole"]
    refused = client.post("/api/plans/check", json=plan(read_to="guess"))
    assert refused.status_code == 422
    assert refused.json["errors"][0]["field"] == "read_to"


def test_why_it_does_not_come_in_is_asked_and_answered(client: Any) -> None:
    setup_id = at_the_first_reading(client)
    why = f"/api/setups/{setup_id}/why"
    assert client.get(why).json["suspects"] == []
    for station, text in (("s1", "4"), ("s2", "0"), ("s3", "-4"), ("s4", "0")):
        send(client, setup_id, reading(text, station))
    asked = client.get(why).json
    assert asked["tried"] == []
    assert 0 < sum(one["share"] for one in asked["suspects"]) <= 1 + 1e-9
    assert send(client, setup_id, asked["test"]["answers"][1]["events"][0]).status_code == 200
    assert len(client.get(why).json["tried"]) == 1
    for wrong in ({"trial": "guess", "answer": "yes"}, {"trial": "flick", "answer": "perhaps"}, {"trial": "flick"}):
        assert send(client, setup_id, {"type": "tried", **wrong}).status_code == 422
    assert client.get(f"/api/setups/{uuid4()}/why").status_code == 404


def words(parts: list[dict[str, Any]]) -> str:
    return "".join(str(p.get("text", p.get("mm"))) for p in parts)


def test_opening_twice_answers_with_the_same_set_up(client: Any) -> None:
    body = {"id": str(uuid4()), "event_id": str(uuid4()), "at": "2026-01-05T09:00:00Z", "plan": plan()}
    first, again = client.post("/api/setups", json=body), client.post("/api/setups", json=body)
    assert (first.status_code, again.status_code) == (201, 200)
    assert first.json == again.json


def test_a_proved_set_up_is_on_the_bench_then_in_the_logbook(client: Any) -> None:
    setup_id = proved(client, "Cam blank for the logbook")
    stands = {s["machine"]["id"]: s for s in client.get("/api/bench").json["stands"]}
    assert setup_id in [s["id"] for s in stands["bramble"]["standing"]]
    send(client, setup_id, {"type": "taken_off"})
    stands = {s["machine"]["id"]: s for s in client.get("/api/bench").json["stands"]}
    assert setup_id not in [s["id"] for s in stands["bramble"]["standing"]]
    found = client.get("/api/logbook?words=for+the+logbook&outcome=holds&machine=Bramble+lathe").json
    assert [r["id"] for r in found["rows"]] == [setup_id]


def test_the_log_goes_out_as_csv_and_json(client: Any) -> None:
    setup_id = at_the_first_reading(client, part={"name": "=1+1", "diameter": {"text": "40", "unit": "mm"}})
    send(client, setup_id, reading("1.5"))
    rows = list(csv.DictReader(io.StringIO(client.get(f"/api/setups/{setup_id}/log.csv").text)))
    assert (rows[-1]["typed"], rows[-1]["unit"], float(rows[-1]["needle_mm"])) == ("1.5", "thou", 0.0381)
    events = json.loads(client.get(f"/api/setups/{setup_id}/events.json").text)
    assert [e["seq"] for e in events] == list(range(1, len(events) + 1))
    assert events[-1]["body"]["typed"] == {"text": "1.5", "unit": "thou"}


def test_a_set_up_is_shown_as_it_stood_then(client: Any) -> None:
    mine = proved(client, "drum, gone through")
    total = client.get(f"/api/setups/{mine}/at/1").json["total"]
    first, last = (client.get(f"/api/setups/{mine}/at/{n}").json for n in (1, total))
    assert first["view"]["seq"] == 1
    assert first["next"] is not None
    assert last["view"] == client.get(f"/api/setups/{mine}").json
    assert (last["next"], last["next_at"]) == (None, None)
    assert client.get(f"/api/setups/{mine}/at/{total + 5}").json["view"]["seq"] == total
    assert client.get(f"/api/setups/{mine}/at/0").status_code == 422
    assert client.get(f"/api/setups/{uuid4()}/at/1").status_code == 404


def told(frame: bytes) -> dict[str, int]:
    """Set-ups of a frame, each with its last event."""
    name, data = frame.decode().strip().split("\n")
    assert name == "event: changed"
    return {one["id"]: one["seq"] for one in json.loads(data.removeprefix("data: "))}


def test_a_stream_tells_of_an_event_within_a_second(client: Any) -> None:
    setup_id = at_the_first_reading(client)
    answer = client.get("/api/stream")
    frames = iter(answer.response)
    assert told(next(frames))[setup_id] == 7  # as it is now: a page that has this asks for nothing
    timer = threading.Timer(0.5, lambda: send(client, setup_id, reading("1")))
    timer.start()
    frame = next(frames)
    timer.join()
    assert told(frame) == {setup_id: 8}
    answer.close()


def test_streams_are_limited_so_that_readings_always_get_through(client: Any) -> None:
    setup_id = opened(client)
    held = [client.get("/api/stream") for _ in range(20)]
    assert [h.status_code for h in held] == [200] * 20
    for one in held:
        next(iter(one.response))
    assert client.get("/api/stream").status_code == 503
    assert send(client, setup_id, {"type": "noted", "text": "still here"}).status_code == 200
    for one in held:
        one.close()
    again = client.get("/api/stream")
    assert again.status_code == 200
    next(iter(again.response))
    again.close()


def test_a_stream_whose_client_hung_up_gives_its_place_away_at_once() -> None:
    hub = Hub("postgresql://nobody@127.0.0.1:1/none", 2)
    pairs = [socket.socketpair() for _ in range(2)]
    mine = [hub.open(server) for server, _ in pairs]
    assert None not in mine
    assert hub.open() is None  # both still listen
    frames = hub.frames(there(mine[0]))
    assert told(next(frames).encode()) == {}
    pairs[0][1].close()
    assert hub.open() is not None
    assert next(frames, "over") == "over"  # its thread is free
    assert hub.open() is None
    for server, client_end in pairs:
        server.close()
        client_end.close()


def test_a_body_that_stands_still_half_way_is_given_up(server: Any) -> None:
    with socket.create_connection(("127.0.0.1", server.port)) as half:
        head = f"POST /api/setups HTTP/1.1\r\nHost: 127.0.0.1:{server.port}\r\nContent-Type: application/json\r\n"
        half.sendall(f'{head}Content-Length: 5000\r\n\r\n{{"id":'.encode())
        assert half.recv(100).startswith(b"HTTP/1.1 408")


def test_every_error_code_is_in_the_docs() -> None:
    page = (ROOT / "docs" / "errors.md").read_text()
    assert [code for code in ERROR_CODES if f"`{code}`" not in page] == []


def test_pages_are_served_with_a_strict_content_policy(client: Any) -> None:
    answer = client.get("/logbook")
    assert b'<div id="app">' in answer.data
    assert "style-src 'self';" in answer.headers["Content-Security-Policy"]
    answer.close()


@pytest.mark.parametrize("way", ["gzip", "br"])
def test_what_is_sent_is_packed_as_far_as_the_browser_takes_it(client: Any, way: str) -> None:
    plain = client.get("/api/shop")
    packed = client.get("/api/shop", headers={"Accept-Encoding": way})
    assert packed.headers["Content-Encoding"] == way
    assert "Content-Encoding" not in plain.headers
    assert len(packed.data) < len(plain.data) / 2
    stream = client.get("/api/stream", headers={"Accept-Encoding": way})
    assert "Content-Encoding" not in stream.headers
    stream.close()


def test_files_go_out_as_they_were_packed_when_they_were_built(database_url: str, tmp_path: Path) -> None:
    assets = tmp_path / "assets"
    assets.mkdir()
    (assets / "a.js").write_text("let a = 1")
    (assets / "a.js.br").write_bytes(b"packed")
    app = create_app(Settings(database_url=database_url, web_dir=tmp_path))
    for takes, way, body in (("gzip, br", "br", b"packed"), ("gzip", None, b"let a = 1"), ("", None, b"let a = 1")):
        answer = app.test_client().get("/assets/a.js", headers={"Accept-Encoding": takes})
        assert (answer.headers.get("Content-Encoding"), answer.data) == (way, body)
        assert answer.mimetype == "text/javascript"
        assert answer.headers["Vary"] == "Accept-Encoding"
        answer.close()


@pytest.mark.parametrize(
    ("text", "goes_out"),
    [
        ("+3.90", "+3.90"), ("-0.5 thou", "-0.5 thou"), ("+off", "+off"), ("=1+1", "'=1+1"), ("+cmd|' /C calc'!A0", "'+cmd|' /C calc'!A0"),
        ("-2+3", "'-2+3"), ("@sum", "'@sum"), ("Ode", "Ode"),
    ],
)  # fmt: skip
def test_no_text_of_a_log_is_a_formula(text: str, goes_out: str) -> None:
    assert _no_formula(text) == goes_out
