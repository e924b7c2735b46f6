"""Plan a job over HTTP: ways with all that a set-up starts with; nonsense at its field."""

from __future__ import annotations

from typing import Any

import pytest

from tests.api.test_bad_input import is_problem


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
        ({"kg": -1}, "kg"),
        ({"many": 0}, "many"),
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
