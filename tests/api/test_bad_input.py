"""Nonsense over HTTP: a clear message at the field, nothing lost, never a 5xx."""

from __future__ import annotations

import json
from datetime import UTC, datetime
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from velvet_hand.store.tables import ShopItem

AT = "2026-01-05T09:00:00Z"


def plan(**changes: Any) -> dict[str, Any]:
    base: dict[str, Any] = {
        "part": {"name": "Cam blank", "diameter": {"text": "55", "unit": "mm"}, "surface": "outside"},
        "machine_id": "bramble",
        "holder_id": "four-jaw-200",
        "gauge_id": "lever-fine",
        "limit": {"kind": "tir", "typed": {"text": "1", "unit": "thou"}},
        "unit": "thou",
    }
    return {**base, **changes}


def opened(client: Any, **changes: Any) -> str:
    setup_id = str(uuid4())
    body = {"id": setup_id, "event_id": str(uuid4()), "at": AT, "author": "Ode", "plan": plan(**changes)}
    answer = client.post("/api/setups", json=body)
    assert answer.status_code == 201, answer.json
    return setup_id


def send(client: Any, setup_id: str, body: dict[str, Any], event_id: str | None = None) -> Any:
    event = {"id": event_id or str(uuid4()), "at": AT, "author": "Ode", "body": body}
    return client.post(f"/api/setups/{setup_id}/events", json=event)


def is_problem(answer: Any, status: int, code: str, field: str = "") -> None:
    assert answer.status_code == status, answer.json
    assert answer.content_type == "application/problem+json"
    assert answer.json["status"] == status
    assert answer.json["code"] == code
    assert answer.json["detail"]
    if field:
        assert [e["field"] for e in answer.json["errors"]] == [field]


def reading(text: str, station: str = "s1", number: int = 1) -> dict[str, Any]:
    return {"type": "reading_taken", "pass_no": number, "station_id": station, "typed": {"text": text, "unit": "thou"}}


@pytest.mark.parametrize(
    ("changes", "status", "code", "field"),
    [
        ({"limit": {"kind": "tir", "typed": {"text": "0", "unit": "thou"}}}, 422, "limit_zero", "limit.typed"),
        (
            {"limit": {"kind": "tir", "typed": {"text": "4000", "unit": "thou"}}},
            422,
            "limit_beyond_gauge",
            "limit.typed",
        ),
        ({"part": {"name": "x", "diameter": {"text": "900", "unit": "mm"}}}, 422, "part_too_big", "part.diameter"),
        ({"part": {"name": "x", "diameter": {"text": "", "unit": "mm"}}}, 422, "length_nonsense", "part.diameter"),
        ({"part": {"name": " ", "diameter": {"text": "9", "unit": "mm"}}}, 422, "field_invalid", "part.name"),
        ({"stations_deg": [0, 0, 90, 180]}, 422, "stations_repeated", "stations_deg"),
        ({"stations_deg": [0, None, 90]}, 422, "field_invalid", "stations_deg.1"),
        ({"stations_deg": [0, 90, 180, 1e17]}, 422, "field_invalid", "stations_deg.3"),
        ({"choices": {"depth": "3"}}, 422, "field_invalid", "choices.depth"),
        ({"holder_id": "none"}, 404, "unknown_thing", "holder_id"),
        ({"gauge_clock_deg": 1e400}, 422, "field_invalid", "gauge_clock_deg"),
        ({"surprise": 1}, 422, "field_invalid", "surprise"),
    ],
)
def test_a_plan_that_cannot_work(client: Any, changes: dict[str, Any], status: int, code: str, field: str) -> None:
    is_problem(client.post("/api/plans/check", json=plan(**changes)), status, code, field)


def test_a_holder_without_a_lead_is_told_at_its_field(client: Any) -> None:
    answer = client.post("/api/plans/check", json=plan(holder_id="four-jaw-100"))
    assert "holder_without_lead" in [t["code"] for t in answer.json["told"] if t["field"] == "holder_id"]


@pytest.mark.parametrize("text", ["", "four", "99999", "0.0001", "1+2", "\u0661\u0662"])
def test_nonsense_in_a_reading_loses_nothing_else(client: Any, text: str) -> None:
    setup_id = opened(client)
    assert send(client, setup_id, reading("1.5", "s2")).status_code == 200
    answer = send(client, setup_id, reading(text))
    assert answer.status_code == 422
    assert [e["field"] for e in answer.json["errors"]] == ["typed.text"]
    view = client.get(f"/api/setups/{setup_id}").json
    assert [c["typed"] for c in view["tray"]["cells"]][:2] == [None, "1.5"]


def test_a_stale_event_and_a_repeated_one(client: Any) -> None:
    setup_id, event_id = opened(client), str(uuid4())
    first = send(client, setup_id, reading("1.5"), event_id)
    again = send(client, setup_id, reading("1.5"), event_id)
    assert (first.json["added"], again.json["added"]) == (True, False)
    assert first.json["view"]["seq"] == again.json["view"]["seq"]
    is_problem(send(client, setup_id, reading("2"), event_id), 409, "repeated_differently")
    is_problem(send(client, setup_id, reading("1", "s2", 3)), 409, "stale")
    is_problem(send(client, setup_id, reading("1", "s9")), 422, "unknown_station", "station_id")


@pytest.mark.parametrize("raw", [b"", b"{", b"[1]", b"nonsense", b"\xff\xfe", b"null", b"[" * 100000])
def test_a_body_that_is_no_json_object(client: Any, raw: bytes) -> None:
    is_problem(client.post("/api/setups", data=raw, content_type="application/json"), 400, "not_json")


def test_a_body_of_ten_megabytes(client: Any) -> None:
    answer = client.post("/api/setups", data=b" " * 10_000_000, content_type="application/json")
    is_problem(answer, 413, "too_big")


@pytest.mark.parametrize(
    "at", ["0001-01-01T00:00:00Z", "9999-12-31T23:59:59-12:00", "2026-01-05T09:00:00", "yesterday"]
)
def test_a_clock_that_cannot_be_right(client: Any, at: str) -> None:
    event = {"id": str(uuid4()), "at": at, "body": {"type": "noted", "text": "x"}}
    is_problem(client.post(f"/api/setups/{opened(client)}/events", json=event), 422, "field_invalid", "at")


def test_a_clock_that_runs_years_ahead_is_not_believed(client: Any) -> None:
    setup_id = opened(client)
    event = {"id": str(uuid4()), "at": "2199-01-01T00:00:00Z", "author": "Ode", "body": {"type": "noted", "text": "x"}}
    assert client.post(f"/api/setups/{setup_id}/events", json=event).status_code == 200
    line = client.get(f"/api/setups/{setup_id}/record").json["log"][-1]
    assert datetime.fromisoformat(line["at"]) <= datetime.now(UTC)


@pytest.mark.parametrize("text", ["-5", "999999", "-0.001"])
def test_a_gap_that_no_jaws_have(client: Any, text: str) -> None:
    body = {"type": "gap_measured", "typed": {"text": text, "unit": "mm"}}
    is_problem(send(client, opened(client), body), 422, "length_nonsense", "typed")


@pytest.mark.parametrize("number", [True, "1", 1.5, None])
def test_a_number_is_a_number_and_nothing_like_one(client: Any, number: Any) -> None:
    body = {"type": "reading_taken", "pass_no": number, "station_id": "s1", "typed": {"text": "1", "unit": "thou"}}
    is_problem(send(client, opened(client), body), 422, "field_invalid")
    is_problem(client.post("/api/plans/check", json=plan(gauge_clock_deg=str(number))), 422, "field_invalid")


@pytest.mark.parametrize("letter", ["\x00", "\x07", "\u202e", "\u2066", "\ud800"])
def test_text_that_cannot_be_kept_or_turns_what_is_beside_it(client: Any, letter: str) -> None:
    setup_id = opened(client)
    raw = json.dumps({"id": str(uuid4()), "at": AT, "author": "", "body": {"type": "noted", "text": f"a{letter}b"}})
    answer = client.post(f"/api/setups/{setup_id}/events", data=raw, content_type="application/json")
    is_problem(answer, 422, "bad_text")


@pytest.mark.parametrize("address", ["/api/setups/xyz", "/api/setups/%00", "/api/nothing", "/nothing.js"])
def test_addresses_of_nothing(client: Any, address: str) -> None:
    answer = client.get(address)
    assert answer.status_code in (404, 422)
    assert answer.content_type == "application/problem+json"


def test_an_unknown_set_up(client: Any) -> None:
    is_problem(client.get(f"/api/setups/{uuid4()}"), 404, "unknown_set_up")
    is_problem(send(client, str(uuid4()), {"type": "tightened"}), 404, "unknown_set_up")


#: A thing of each shelf as it should be: its kind, and what was typed.
GOOD: dict[str, tuple[str, dict[str, str]]] = {
    "machines": ("lathe", {"floor_mm": "0.002"}),
    "holders": (
        "four_jaw_independent",
        {"diameter_mm": "250", "min_work_mm": "6", "max_work_mm": '9"', "rings_mm": ""},
    ),
    "gauges": ("lever", {"graduation_mm": "0.01", "travel_mm": "0.8", "tip_radius_mm": "1"}),
    "stock": ("shims", {"pieces": '0.05x4 .002"'}),
}


def put_thing(client: Any, shelf: str, item_id: str, name: str, kind: str = "", **typed: str) -> Any:
    """A good thing with what is changed, put into the Shop; a default of the form where nothing is said."""
    usual, own = GOOD[shelf]
    starts = client.get("/api/shop/forms").json["shelves"]
    form = next(k for s in starts if s["shelf"] == shelf for k in s["kinds"] if k["id"] == (kind or usual))
    start = {f["name"]: f["start"] for f in form["fields"]}
    body = {"name": name, "kind": kind or usual, "typed": {**start, **(own if kind in ("", usual) else {}), **typed}}
    return client.put(f"/api/shop/{shelf}/{item_id}", json=body)


@pytest.mark.parametrize(
    ("shelf", "typed", "field"),
    [
        ("machines", {"floor_mm": "-1"}, "floor_mm"),
        ("machines", {"floor_mm": ""}, "floor_mm"),
        ("holders", {"lead_mm": "0"}, "lead_mm"),
        ("holders", {"min_work_mm": "400"}, "min_work_mm"),
        ("holders", {"rings_mm": "40 x"}, "rings_mm"),
        ("holders", {"rings_mm": "40 300"}, "rings_mm"),
        ("gauges", {"graduation_mm": "0"}, "graduation_mm"),
        ("gauges", {"travel_mm": "0.011"}, "travel_mm"),
        ("gauges", {"check_due": "soon"}, "check_due"),
        ("gauges", {"counts_turns": "perhaps"}, "counts_turns"),
        ("gauges", {"dial": "square"}, "dial"),
        ("stock", {"pieces": "0.05x3 0.050x2"}, "pieces"),
        ("stock", {"pieces": "0.05x-1"}, "pieces"),
        ("stock", {"pieces": "widex1"}, "pieces"),
        ("stock", {"pieces": "0.05x١"}, "pieces"),
    ],
)
def test_the_shop_refuses_at_the_field(client: Any, shelf: str, typed: dict[str, str], field: str) -> None:
    name, item_id = uuid4().hex, str(uuid4())
    refused = put_thing(client, shelf, item_id, name, **typed)
    assert refused.status_code == 422, refused.json
    assert [e["field"] for e in refused.json["errors"]] == [f"typed.{field}"]
    assert put_thing(client, shelf, item_id, name).status_code == 200
    is_problem(put_thing(client, shelf, str(uuid4()), name), 422, "name_taken", "name")


def test_the_shop_refuses_what_has_no_name_no_kind_or_no_shelf(client: Any) -> None:
    is_problem(put_thing(client, "machines", str(uuid4()), ""), 422, "field_invalid", "name")
    body = {"name": "Mandrel", "kind": "mandrel", "typed": {}}
    is_problem(client.put("/api/shop/holders/x1", json=body), 422, "field_invalid", "kind")
    assert client.put("/api/shop/attic/x1", json=body).status_code in (404, 422)


@pytest.mark.parametrize("shelf", list(GOOD))
def test_what_the_shop_shows_can_be_kept_again_as_it_stands(client: Any, shelf: str) -> None:
    before = client.get("/api/shop").json
    for item in before[shelf]:
        body = {key: item[key] for key in ("name", "kind", "typed")}
        assert client.put(f"/api/shop/{shelf}/{item['id']}", json=body).status_code == 200, item
    assert client.get("/api/shop").json[shelf] == before[shelf]


JSON = st.recursive(
    st.none() | st.booleans() | st.integers() | st.floats() | st.text(max_size=20),
    lambda inner: st.lists(inner, max_size=3) | st.dictionaries(st.text(max_size=8), inner, max_size=3),
    max_leaves=8,
)
FIELDS = st.sampled_from(
    ["type", "pass_no", "station_id", "typed", "move_id", "phase", "step", "checked", "reason", "event_id"]
)


@given(
    kind=st.sampled_from(["reading_taken", "step_passed", "move_done", "undone", "zero_set", "opened", "?"]),
    rest=st.dictionaries(FIELDS, JSON),
)
@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_no_event_whatever_makes_the_server_stumble(client: Any, kind: str, rest: dict[str, Any]) -> None:
    if not hasattr(test_no_event_whatever_makes_the_server_stumble, "setup"):
        test_no_event_whatever_makes_the_server_stumble.setup = opened(client)  # type: ignore[attr-defined]
    setup_id = test_no_event_whatever_makes_the_server_stumble.setup  # type: ignore[attr-defined]
    raw = json.dumps({"id": str(uuid4()), "at": AT, "body": {"type": kind, **rest}})
    answer = client.post(f"/api/setups/{setup_id}/events", data=raw, content_type="application/json")
    assert answer.status_code < 500, answer.data


@given(
    changes=st.dictionaries(
        st.sampled_from(["part", "limit", "stations_deg", "unit", "gauge_clock_deg", "school"]), JSON
    )
)
@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
def test_no_plan_whatever_makes_the_server_stumble(client: Any, changes: dict[str, Any]) -> None:
    answer = client.post("/api/plans/check", data=json.dumps(plan(**changes)), content_type="application/json")
    assert answer.status_code < 500, answer.data


@pytest.mark.parametrize(
    ("headers", "allowed"),
    [
        ({}, True),
        ({"Host": "192.168.1.20:8300"}, True),
        ({"Host": "[::1]:8300"}, True),
        ({"Host": "bench-pc:8300", "Origin": "http://bench-pc:8300"}, True),
        ({"Host": "evil.example"}, False),
        ({"Origin": "http://evil.example"}, False),
        ({"Origin": "null"}, False),
        ({"Sec-Fetch-Site": "cross-site"}, False),
        ({"Sec-Fetch-Site": "same-origin"}, True),
    ],
)
def test_another_sites_page_gets_in_nowhere(client: Any, headers: dict[str, str], allowed: bool) -> None:
    body = json.dumps(plan())
    writes = client.post("/api/plans/check", data=body, content_type="application/json", headers=headers)
    reads = client.get("/api/bench", headers=headers)
    assert {writes.status_code, reads.status_code} == ({200} if allowed else {403})


def test_a_body_that_is_not_called_json_is_not_read(client: Any) -> None:
    for kind in ("text/plain", "application/x-www-form-urlencoded"):
        is_problem(client.post("/api/plans/check", data=json.dumps(plan()), content_type=kind), 415, "not_json")


def test_what_is_nested_or_named_without_end_is_no_fault_of_the_server(client: Any) -> None:
    for deep in (400, 5000):
        raw = json.dumps(plan())[:-1] + ', "surprise": ' + "[" * deep + "]" * deep + "}"
        answer = client.post("/api/plans/check", data=raw, content_type="application/json")
        assert answer.status_code in (400, 422), deep
    assert client.get("/" + "x" * 300).status_code == 404


def test_nothing_that_is_zero_by_nature_is_refused_in_the_shop(client: Any) -> None:
    free = {"edge_mm": "100", "bolts_mm": "0", "key_clearance_mm": "0", "key_span_mm": "0"}
    assert put_thing(client, "holders", "no-play", "Vise without play", "vise", **free).status_code == 200
    assert put_thing(client, "gauges", "knife", "Knife edge", tip_radius_mm="0").status_code == 200
    below = put_thing(client, "holders", "no-play", "Vise without play", "vise", **{**free, "key_clearance_mm": "-1"})
    is_problem(below, 422, "field_invalid", "typed.key_clearance_mm")


def test_what_is_kept_and_cannot_be_read_hides_nothing_else_and_is_nobodys_mistake(client: Any, caplog: Any) -> None:
    with client.application.extensions["database"].connection_context():
        ShopItem.insert(id="odd", kind="holder", name="Odd", body={"kind": "vise"}, changed_at=AT).execute()
    try:
        holders = client.get("/api/shop").json["holders"]
        assert "four-jaw-200" in [h["id"] for h in holders]
        assert "odd" not in [h["id"] for h in holders]
        assert "'odd' of the Shop cannot be read" in caplog.text
        answer = client.post("/api/plans/check", json=plan(holder_id="odd"))
        is_problem(answer, 500, "fault")
        assert "not the reason" in answer.json["detail"]
    finally:
        with client.application.extensions["database"].connection_context():
            ShopItem.delete().where(ShopItem.id == "odd").execute()


def test_a_mistake_of_the_program_is_said_and_written_down(client: Any, caplog: Any, monkeypatch: Any) -> None:
    def broken() -> None:
        raise ZeroDivisionError("a sum of ours")

    monkeypatch.setattr("velvet_hand.api.bench.shop.all_of", lambda _: broken())
    is_problem(client.get("/api/bench"), 500, "fault")
    assert "a sum of ours" in caplog.text


def test_a_request_is_one_line_of_the_log(client: Any, caplog: Any) -> None:
    with caplog.at_level("INFO", logger="velvet_hand.requests"):
        client.get("/api/logbook?words=drum&page=1")
        client.get("/api/health")
    lines = [r.getMessage() for r in caplog.records if r.name == "velvet_hand.requests"]
    assert [line.split(" ")[:3] for line in lines] == [
        ["GET", "/api/logbook?words=drum&page=1", "200"],
        ["GET", "/api/health", "200"],
    ]
    assert all(line.endswith(" ms") for line in lines)
