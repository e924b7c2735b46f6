"""The Logbook over HTTP: found by anything, page after page; what a part measured; the same again; looking back."""

from __future__ import annotations

from datetime import datetime
from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_bad_input import AT, is_problem, opened, plan, send
from tests.api.test_setups import proved


def found(client: Any, query: str) -> list[str]:
    return [row["id"] for row in client.get(f"/api/logbook?{query}").json["rows"]]


def test_it_is_found_by_words_and_by_what_was_chosen(client: Any) -> None:
    mine = proved(client, "Frisket hinge")
    choices = client.get("/api/logbook/choices").json
    assert "Bramble lathe" in choices["machines"]
    assert "Ode" in choices["hands"]
    for query in (
        "words=frisk",
        "words=hinge&machine=Bramble lathe&outcome=holds",
        "words=frisket&standing=yes&hand=Ode",
    ):
        assert found(client, query) == [mine], query
    for query in ("words=frisket&standing=no", "words=frisket&since=2026-01-06", "words=frisket&outcome=open"):
        assert found(client, query) == [], query
    assert found(client, "words=frisket&since=2026-01-01&until=2036-01-06") == [mine]


@pytest.mark.parametrize(
    "query",
    [
        "since=soon",
        "since=0001-01-01",
        "until=9999-12-31",
        "outcome=fine",
        "standing=maybe",
        "after=2",
        "words=" + "x" * 300,
    ],
)
def test_nonsense_is_refused_at_its_field(client: Any, query: str) -> None:
    answer = client.get(f"/api/logbook?{query}")
    assert answer.status_code == 422, answer.json
    assert [e["field"] for e in answer.json["errors"]] == [query.split("=")[0]]


def test_a_part_is_measured_and_the_verdict_scored(client: Any) -> None:
    mine = proved(client, "Frame stud")
    body = {"type": "measured_part", "what": "asked", "typed": {"text": "0.5", "unit": "thou"}, "by": "Ring gauge"}
    assert send(client, mine, {**body, "typed": {"text": "-1", "unit": "thou"}}).status_code == 422
    is_problem(
        send(client, mine, {**body, "typed": {"text": "x", "unit": "mm"}}),
        422,
        "length_nonsense",
        "typed.text",
    )
    before = client.get("/api/history/holder/four-jaw-200").json["score"]["promised"]
    assert send(client, mine, body).status_code == 200
    story = client.get(f"/api/setups/{mine}/record").json["story"]
    assert len(story["after"]) == 1
    history = client.get(f"/api/history/holder/{story['holder']}").json
    assert history["score"]["promised"] == before + 1
    assert history["name"] == "Four-jaw 200"
    for subject in ("machine", "gauge", "hand"):
        again = client.get(f"/api/history/{subject}/{story[subject]}").json
        assert again["subject"] == subject
        assert again["score"]["promised"] >= 1
    is_problem(send(client, opened(client), body), 409, "not_now")


def test_the_same_again_is_planned_as_it_was_typed_and_held_against_it(client: Any) -> None:
    mine = proved(client, "Roller stock bush")
    plan = client.get(f"/api/setups/{mine}/again").json
    assert plan["part"]["name"] == "Roller stock bush"
    assert plan["limit"]["typed"] == {"text": "1", "unit": "thou"}
    new = str(uuid4())
    body = {"id": new, "event_id": str(uuid4()), "at": AT, "author": "Ode", "plan": plan, "again": mine}
    assert client.post("/api/setups", json=body).status_code == 201
    assert client.post("/api/setups", json=body).status_code == 200
    before = client.get(f"/api/setups/{new}/events.json").json[0]["body"]["plan"]["before"]
    assert before["setup"] == mine
    assert before["toward_mm"]["s1"] == 0
    is_problem(
        client.post("/api/setups", json={**body, "id": str(uuid4()), "again": str(uuid4())}), 404, "unknown_set_up"
    )
    other = {**body, "id": str(uuid4()), "event_id": str(uuid4()), "plan": {**plan, "holder_id": "four-jaw-100"}}
    known = [h["id"] for h in client.get("/api/shop").json["holders"] if h["kind"] == "four_jaw_independent"]
    other["plan"]["holder_id"] = next(h for h in known if h != "four-jaw-200")
    assert client.post("/api/setups", json=other).status_code == 201
    kept = client.get(f"/api/setups/{other['id']}/events.json").json[0]["body"]["plan"]
    assert kept["before"] is None  # another chuck was never left anywhere


def test_a_holder_is_planned_as_it_was_worked_the_last_time(client: Any) -> None:
    mine = proved(client, "Type high gauge")
    holder = client.get(f"/api/setups/{mine}/again").json["holder_id"]
    last = client.get(f"/api/holders/{holder}/last?procedure=four_jaw").json
    assert last["plan"] == client.get(f"/api/setups/{last['setup']}/again").json
    assert last["plan"]["holder_id"] == holder
    assert datetime.fromisoformat(last["at"]) == datetime.fromisoformat(AT)
    for never in (f"{holder}/last?procedure=throw", "nobody/last?procedure=four_jaw", f"{holder}/last?procedure=x%00"):
        found = client.get(f"/api/holders/{never}")
        assert (found.status_code, found.json) == (200, {"setup": None, "at": None, "plan": None}), never
    is_problem(client.get(f"/api/holders/{holder}/last"), 422, "field_invalid")


def test_a_lesson_is_struck_and_counts_again(client: Any) -> None:
    mine = proved(client, "Bearer")
    for struck in (True, True, False):
        answer = client.put("/api/holders/four-jaw-200/struck", json={"setup_id": mine, "struck": struck})
        assert answer.status_code == 200
        lines = client.get("/api/history/holder/four-jaw-200").json["lessons"]
        assert next(one["counts"] for one in lines if one["setup"] == mine) == ("struck" if struck else "counts")
    is_problem(client.put("/api/holders/nobody/struck", json={"setup_id": mine}), 404, "unknown_thing")
    is_problem(client.put("/api/holders/four-jaw-200/struck", json={"setup_id": str(uuid4())}), 404, "unknown_set_up")


@pytest.mark.parametrize(
    ("path", "status"), [("holder/none", 404), ("hand/Nobody", 404), ("tool/x", 422), ("machine/%00", 422)]
)
def test_what_has_no_history_is_told(client: Any, path: str, status: int) -> None:
    assert client.get(f"/api/history/{path}").status_code == status


def test_two_hands_that_share_a_bench_have_a_history(client: Any) -> None:
    body = {"id": str(uuid4()), "event_id": str(uuid4()), "at": AT, "author": "Ode / Wilf", "plan": plan()}
    assert client.post("/api/setups", json=body).status_code == 201
    assert client.get("/api/history/hand/Ode%20%2F%20Wilf").json["name"] == "Ode / Wilf"


def test_what_wants_a_look_stands_on_the_bench_until_it_is_done(client: Any) -> None:
    mine = proved(client, "Stop rod")
    follow = {"what": "Runout at the far end", "when": "next_mounting"}
    event_id = str(uuid4())
    assert send(client, mine, {"type": "follow_up_set", "follow": follow}, event_id).status_code == 200
    send(client, mine, {"type": "taken_off"})
    due = [one for one in client.get("/api/bench").json["due"] if one["setup_id"] == mine]
    assert due == [
        {
            "name": "Stop rod",
            "what": "Runout at the far end: at the next mounting",
            "setup_id": mine,
            "follow_id": event_id,
        }
    ]
    assert send(client, mine, {"type": "follow_up_done", "follow_id": event_id}).status_code == 200
    assert not [one for one in client.get("/api/bench").json["due"] if one["setup_id"] == mine]
    refused = send(client, mine, {"type": "follow_up_set", "follow": {"when": "on"}})
    is_problem(refused, 422, "field_invalid", "follow.on")
