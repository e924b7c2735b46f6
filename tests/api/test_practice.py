"""Practice over the API: begun and gone on with, once however often it is sent, kept through a killed server, apart from the Logbook."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_setups import proved
from velvet_hand.core.practice.drills import DRILLS
from velvet_hand.store import practices
from velvet_hand.store.practices import Bench


def begin(client: Any, drill: str = "half", **more: Any) -> dict[str, Any]:
    body = {"id": str(uuid4()), "drill": drill, "advice": "asked", "author": "Ode", "unit": "mm", **more}
    answer = client.post("/api/practices", json=body)
    assert answer.status_code == 201, answer.json
    found: dict[str, Any] = answer.json
    return found


def act(client: Any, practice: dict[str, Any], body: dict[str, Any], id: str | None = None) -> Any:
    return client.post(f"/api/practices/{practice['id']}/acts", json={"id": id or str(uuid4()), "body": body})


def needle(client: Any, practice: dict[str, Any], **query: Any) -> Any:
    return client.get(
        f"/api/practices/{practice['id']}/needle",
        query_string={"station": practice["places"][0]["station_id"], **query},
    )


def reading(practice: dict[str, Any], text: str) -> dict[str, Any]:
    tray = practice["view"]["tray"]
    cell = next(c for c in tray["cells"] if c["state"] == "open")
    typed = {"text": text, "unit": "mm"}
    body = {"type": "reading_taken", "pass_no": tray["pass_no"], "station_id": cell["station_id"], "typed": typed}
    return {"type": "done", "body": {**body, "closing": cell["closing"]}, "at": practice["places"][0]["at"]}


def test_a_practice_is_read_moved_and_called_good(client: Any) -> None:
    practice = begin(client)
    assert practice["view"]["panels"] == []
    assert needle(client, practice, at=practice["places"][2]["at"]).json["needle_mm"] != 0
    answer = act(client, practice, reading(practice, "0"))
    assert answer.status_code == 200
    assert answer.json["seq"] == 1
    assert answer.json["view"]["tray"]["cells"][0]["typed"] == "0"
    held = needle(client, practice, control="jaw1", amount=0.2).json["needle_mm"]
    assert needle(client, practice).json["needle_mm"] == pytest.approx(0, abs=0.02)
    assert (
        act(client, practice, {"type": "hand", "control": "jaw1", "amount": 0.2}).json["hands"][0]["turned_mm"] == 0.2
    )
    assert isinstance(held, float)
    asked = act(client, practice, {"type": "ask"}).json
    assert asked["asked"][0]["text"].startswith("High reads so much more")
    ended = act(client, practice, {"type": "good", "fault": None}).json["ended"]
    assert ended["good"] is False
    assert ended["best_passes"] == 2
    assert ended["asks"] == 1
    assert act(client, practice, {"type": "ask"}).status_code == 409


def test_what_is_sent_twice_is_done_once_and_beginning_again_changes_nothing(client: Any) -> None:
    practice = begin(client)
    again = client.post("/api/practices", json={"id": practice["id"], "drill": "oval", "author": "Ode"}).json
    assert again["drill"] == "half"
    one = str(uuid4())
    body = {"type": "hand", "control": "jaw2", "amount": -0.5}
    assert act(client, practice, body, one).json["seq"] == 1
    assert act(client, practice, body, one).json["seq"] == 1
    assert client.get(f"/api/practices/{practice['id']}").json["hands"][1]["turned_mm"] == -0.5


def test_a_server_that_was_killed_knows_it_all_again(client: Any) -> None:
    practice = begin(client, "pivot")
    for _ in range(3):
        act(client, practice, {"type": "hand", "control": "high.away", "amount": 1})
    act(client, practice, {"type": "grip", "way": "tighten"})
    before, shown = client.get(f"/api/practices/{practice['id']}").json, needle(client, practice, at=100).json
    client.application.extensions["practice"] = Bench()
    assert client.get(f"/api/practices/{practice['id']}").json == before
    assert needle(client, practice, at=100).json == shown


def test_the_record_says_what_to_practice_next_and_who_it_is_of(client: Any) -> None:
    mine = f"Wilf {uuid4().hex[:6]}"
    hall = client.get("/api/practice", query_string={"author": mine}).json
    assert [d["id"] for d in hall["drills"]] == [d.id for d in DRILLS]
    assert (hall["record"]["next"], hall["going"]) == (DRILLS[0].id, None)
    practice = begin(client, "oval", author=mine)
    assert client.get("/api/practice", query_string={"author": mine}).json["going"]["id"] == practice["id"]
    act(client, practice, {"type": "good", "fault": "burr"})
    told = client.get("/api/practice", query_string={"author": mine}).json
    assert (told["record"]["next"], told["going"]) == ("oval", None)
    again = begin(client, "oval", author=mine)
    assert act(client, again, {"type": "good", "fault": "form"}).json["ended"]["good"] is True
    assert [r.good for r in practices.results_of(mine)] == [False, True]
    assert client.get("/api/practice", query_string={"author": "Tamsin"}).json["record"]["standings"][5]["tries"] == 0


def test_it_never_touches_the_logbook(client: Any) -> None:
    before = [client.get(path).json for path in ("/api/bench", "/api/logbook", "/api/shop")]
    practice = begin(client, "four_jaw.easy")
    act(client, practice, reading(practice, "0"))
    act(client, practice, {"type": "good", "fault": None})
    assert [client.get(path).json for path in ("/api/bench", "/api/logbook", "/api/shop")] == before
    assert client.get(f"/api/setups/{practice['id']}").status_code == 404


@pytest.mark.parametrize(
    ("body", "status"),
    [
        ({"type": "hand", "control": "jaw7", "amount": 1}, 422),
        ({"type": "hand", "control": "jaw1", "amount": 1e9}, 422),
        ({"type": "hand", "control": "jaw1", "amount": "nan"}, 422),
        ({"type": "grip", "way": "sideways"}, 422),
        ({"type": "done", "body": {"type": "taken_off"}}, 422),
        ({"type": "done", "body": {"type": "reading_taken", "pass_no": 1, "station_id": "zz", "typed": {"text": "1", "unit": "mm"}}}, 422),
        ({"type": "done", "body": {"type": "proved", "pass_no": 1}}, 409),
        ({"type": "good", "fault": "gremlins"}, 422),
        ({"type": "fly"}, 422),
        ("nonsense", 422),
    ],
)  # fmt: skip
def test_nonsense_is_refused_in_words_and_nothing_is_kept(client: Any, body: Any, status: int) -> None:
    practice = begin(client)
    answer = act(client, practice, body)
    assert answer.status_code == status, answer.json
    assert answer.json["detail"]
    assert client.get(f"/api/practices/{practice['id']}").json["seq"] == 0


def test_what_is_not_there_is_said(client: Any) -> None:
    assert client.get(f"/api/practices/{uuid4()}").status_code == 404
    assert client.get(f"/api/practices/{uuid4()}/needle?station=s").status_code == 404
    assert (
        client.post(f"/api/practices/{uuid4()}/acts", json={"id": str(uuid4()), "body": {"type": "ask"}}).status_code
        == 404
    )
    assert client.post("/api/practices", json={"id": str(uuid4()), "drill": "chess"}).status_code == 404
    practice = begin(client)
    for query in ({"station": "nowhere"}, {"at": "far"}, {"control": "jaw9", "amount": 1}, {"at": 1e9}, {"was": "nan"}):
        assert needle(client, practice, **query).status_code == 422, query


def test_two_schools_are_told_by_the_number_of_their_machine(client: Any) -> None:
    one = client.get("/api/practice/schools?seed=4").json
    assert one == client.get("/api/practice/schools?seed=4").json
    assert [p["school"] for p in one["played"]] == ["high_spot", "pairs"]
    assert client.get("/api/practice/schools").json["seed"] >= 0
    assert client.get("/api/practice/schools?seed=-1").status_code == 422


def test_a_logged_set_up_is_gone_on_from_by_hand(client: Any) -> None:
    """What was read stands there, the dial shows it, a hand changes it; the log never hears of it, and a killed server knows it again."""
    setup_id = proved(client, "Quoin key, what if")
    seq = client.get(f"/api/setups/{setup_id}").json["seq"]
    at = client.get(f"/api/setups/{setup_id}/at/{seq - 2}").json
    assert at["what_if"] is True
    practice = begin(client, "what_if", past={"setup_id": setup_id, "seq": seq - 2})
    assert practice["title"] == "What if: Quoin key, what if"
    assert practice["past"] == {"setup_id": setup_id, "seq": seq - 2}
    assert practice["view"]["tray"]["cells"][0]["typed"] == "0"
    assert needle(client, practice).json["needle_mm"] == pytest.approx(0, abs=0.004)
    assert act(client, practice, {"type": "hand", "control": "jaw1", "amount": -0.2}).status_code == 200
    assert act(client, practice, {"type": "hand", "control": "jaw3", "amount": 0.1}).status_code == 200
    moved = needle(client, practice).json
    assert abs(moved["needle_mm"]) > 0.02
    client.application.extensions["practice"] = Bench()
    assert needle(client, practice).json == moved
    going = client.get("/api/practice", query_string={"author": "Ode"}).json["going"]
    assert going["title"] == practice["title"]
    ended = act(client, practice, {"type": "good", "fault": None}).json["ended"]
    assert "As it was" in ended["truth"][0]["text"]
    assert client.get(f"/api/setups/{setup_id}").json["seq"] == seq
    refused = client.post(
        "/api/practices", json={"id": str(uuid4()), "drill": "what_if", "past": {"setup_id": str(uuid4()), "seq": 3}}
    )
    assert refused.status_code == 404
    assert client.post("/api/practices", json={"id": str(uuid4()), "drill": "what_if"}).status_code == 404
