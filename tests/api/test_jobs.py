"""Plan a job over HTTP: ways with all that a set-up starts with; nonsense at its field."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_bad_input import AT, is_problem, plan, send


def job(**changes: Any) -> dict[str, Any]:
    base: dict[str, Any] = {
        "name": "Inking drum core",
        "across": {"text": "62", "unit": "mm"},
        "limit": {"kind": "tir", "typed": {"text": "1", "unit": "thou"}},
    }
    return {**base, **changes}


def test_every_way_that_works_starts_a_set_up(client: Any) -> None:
    found = client.post("/api/jobs/propose", json=job()).json["candidates"]
    shop = client.get("/api/shop").json
    works = [one for one in found if one["rating"] != "out"]
    assert works
    for one in works:
        assert one["holder_id"] in [h["id"] for h in shop["holders"]]
        assert one["gauge_id"] in [g["id"] for g in shop["gauges"]]
        assert one["machine_id"] in [m["id"] for m in shop["machines"]]
    flat = job(shape="flat", limit={"kind": "over_part", "typed": {"text": "0.02", "unit": "mm"}})
    assert client.post("/api/jobs/propose", json=flat).json["candidates"]
    asks = client.get("/api/jobs/asks").json
    assert "ground" in [s["id"] for s in asks["surfaces"]]
    assert asks["kinds"]["flat"]


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"across": {"text": "wide", "unit": "mm"}}, "across"),
        ({"across": {"text": "0", "unit": "mm"}}, "across"),
        ({"limit": {"kind": "flat", "typed": {"text": "1", "unit": "mm"}}}, "limit.kind"),
        ({"limit": {"kind": "tir", "typed": {"text": "0", "unit": "mm"}}}, "limit.typed"),
        ({"mass": {"text": "-1", "unit": "mm"}}, "mass"),
        ({"mass": {"text": "abc", "unit": "thou"}}, "mass"),
        ({"mass": {"text": "1,200 kg", "unit": "mm"}}, "mass"),
        ({"many": "0"}, "many"),
        ({"many": "two"}, "many"),
        ({"many": "1.5"}, "many"),
        ({"surface": "velvet"}, "surface"),
        ({"long": {"text": "1,000", "unit": "mm"}}, "long"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(client: Any, changes: dict[str, Any], field: str) -> None:
    answer = client.post("/api/jobs/propose", json=job(**changes))
    assert answer.status_code == 422, answer.json
    assert [e["field"] for e in answer.json["errors"]] == [field]
    assert "code" in answer.json
    is_problem(answer, 422, answer.json["code"])


@pytest.mark.parametrize(
    ("typed", "unit", "heavy"),
    [("13", "mm", True), ("13", "thou", False), ("30", "thou", True), ("13 kg", "thou", True), ("13 lb", "mm", False)],
)  # fmt: skip
def test_a_mass_by_itself_is_in_the_shops_own_unit(client: Any, typed: str, unit: str, heavy: bool) -> None:
    found = client.post("/api/jobs/propose", json=job(mass={"text": typed, "unit": unit}, many="")).json["candidates"]
    best = next(one for one in found if one["rating"] != "out")
    assert ("hoist or a second person" in best["fetch"]) is heavy


def order_of(client: Any, job_id: str, *operations: dict[str, Any]) -> Any:
    return client.put(f"/api/jobs/orders/{job_id}", json={"name": "Bearing housing", "operations": list(operations)})


def test_a_part_goes_through_its_operations(client: Any) -> None:
    job_id, first, second = str(uuid4()), {"id": "a", "name": "First side"}, {"id": "b", "name": "Second side"}
    kept = order_of(client, job_id, first, second)
    assert [one["stage"] for one in kept.json["operations"]] == ["to_do", "waits"]
    assert job_id in [one["id"] for one in client.get("/api/jobs/orders").json["jobs"]]
    body: dict[str, Any] = {
        "id": str(uuid4()), "event_id": str(uuid4()), "at": AT, "author": "Ode", "plan": plan(),
        "operation": {"job": job_id, "operation": "a"},
    }  # fmt: skip
    assert client.post("/api/setups", json=body).status_code == 201
    assert client.post("/api/setups", json=body).status_code == 200
    view = client.get(f"/api/jobs/orders/{job_id}").json["operations"]
    assert (view[0]["operation"]["setup"], view[0]["stage"]) == (body["id"], "at_it")
    assert send(client, body["id"], {"type": "accepted", "reason": "Roughed only."}).status_code == 200
    view = client.get(f"/api/jobs/orders/{job_id}").json["operations"]
    assert [one["stage"] for one in view] == ["done", "to_do"]
    wrong = {**body, "id": str(uuid4()), "event_id": str(uuid4()), "operation": {"job": job_id, "operation": "z"}}
    is_problem(client.post("/api/setups", json=wrong), 404, "unknown_thing")
    is_problem(client.get(f"/api/setups/{wrong['id']}"), 404, "unknown_set_up")  # nothing of it was kept


def test_an_order_that_cannot_be_is_refused(client: Any) -> None:
    job_id = str(uuid4())
    one = {"id": "a", "name": "First side"}
    assert order_of(client, job_id, one, one).status_code == 422
    assert order_of(client, job_id, {**one, "name": ""}).status_code == 422
    assert order_of(client, job_id, *({**one, "id": f"o{n}"} for n in range(21))).status_code == 422
    is_problem(order_of(client, job_id, {**one, "setup": "x"}), 422, "field_invalid", "operations.0.setup")
    is_problem(client.get(f"/api/jobs/orders/{job_id}"), 404, "unknown_thing")
