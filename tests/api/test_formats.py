"""Open formats: workbook, calendar, schemas, and the page that tells of the API."""

from __future__ import annotations

import io
import json
import re
from datetime import date, timedelta
from typing import Any
from uuid import uuid4

import jsonschema
import pytest
from icalendar import Calendar
from openpyxl import load_workbook

from tests.api.test_bad_input import is_problem, opened, send
from tests.api.test_setups import proved
from velvet_hand.exchange.schemas import PUBLISHED


def test_the_logbook_goes_into_a_workbook_with_figures_as_figures(client: Any) -> None:
    mine = proved(client, '=HYPERLINK("http://x") drum')
    body = {"type": "measured_part", "what": "asked", "typed": {"text": "0.5", "unit": "thou"}, "piece": 3}
    send(client, mine, body)
    answer = client.get("/api/logbook.xlsx?words=hyperlink&unit=thou")
    assert answer.status_code == 200
    heads, *lines = load_workbook(io.BytesIO(answer.data)).active.iter_rows()
    assert len(lines) == 1
    row = {head.value: cell for head, cell in zip(heads, lines[0], strict=True)}
    assert row["Part"].value == '=HYPERLINK("http://x") drum'
    assert row["Part"].data_type == "s"  # a text, no formula
    assert row["Wanted, thou"].value == pytest.approx(1)
    assert (row["Verdict"].value, row["Piece"].value, row["Id"].value) == ("holds", 3, mine)
    assert row["It measured, thou"].value == pytest.approx(0.5)
    assert row["Measured what"].value == "TIR"
    assert row["Opened"].is_date
    nothing = client.get("/api/logbook.xlsx?words=nobodyever")
    assert load_workbook(io.BytesIO(nothing.data)).active.max_row == 1
    is_problem(client.get("/api/logbook.xlsx?unit=cubit"), 422, "field_invalid", "unit")


@pytest.mark.parametrize("day", [date.today() + timedelta(days=20), date.max], ids=["soon", "the last there is"])
def test_days_to_remember_go_into_a_calendar(client: Any, day: date) -> None:
    mine = opened(client)
    follow = {"what": "Stone, the jaw; again", "when": "on", "on": day.isoformat()}
    event_id = str(uuid4())
    send(client, mine, {"type": "follow_up_set", "follow": follow}, event_id)
    answer = client.get("/api/calendar.ics")
    assert answer.content_type == "text/calendar; charset=utf-8"
    found = {str(e["uid"]): e for e in Calendar.from_ical(answer.data).walk("VEVENT")}
    event = found[f"{event_id}@velvet-hand"]
    assert str(event["summary"]) == "Cam blank: Stone, the jaw; again"
    assert event.decoded("dtstart") == day
    assert str(event["url"]).endswith(f"/logbook/{mine}")
    assert any(uid.startswith("check-") for uid in found)
    assert b"\r\n" in answer.data


@pytest.mark.parametrize("name", PUBLISHED)
def test_a_published_schema_is_one(client: Any, name: str) -> None:
    told = client.get(f"/api/schemas/{name}.json")
    assert told.content_type == "application/schema+json"
    schema = json.loads(told.data)
    jsonschema.Draft202012Validator.check_schema(schema)
    assert schema["$id"] == f"urn:velvet-hand:{name}:{PUBLISHED[name][0]}"
    assert client.get("/api/schemas").json[name]["href"] == f"/api/schemas/{name}.json"


def test_what_goes_out_fits_what_is_published(client: Any) -> None:
    setup_id = proved(client, "Schema pin")
    events = json.loads(client.get(f"/api/setups/{setup_id}/events.json").data)
    schema = json.loads(client.get("/api/schemas/set-up.json").data)
    jsonschema.validate(events, schema)
    plan = json.loads(client.get("/api/schemas/plan.json").data)
    jsonschema.validate(events[0]["body"]["plan"], plan)
    broken = [{**events[0], "seq": "one"}]
    with pytest.raises(jsonschema.ValidationError):
        jsonschema.validate(broken, schema)
    is_problem(client.get("/api/schemas/soup.json"), 404, "unknown_thing")


def test_the_api_tells_of_itself(client: Any) -> None:
    page = client.get("/api")
    assert (page.status_code, page.content_type) == (200, "text/html; charset=utf-8")
    doc = client.get("/api/openapi.json").json
    for path in doc["paths"]:
        assert path.replace("<", "&lt;") in page.text, path
    assert "style=" not in page.text
    assert client.get("/api/guide.css").content_type == "text/css; charset=utf-8"
    calls = re.findall(r"-d &#39;(.*?)&#39;</pre>", page.text, re.DOTALL)
    assert len(calls) > 5
    for call in calls:
        json.loads(
            call.replace("&#34;", '"')
            .replace("&#39;", "'")
            .replace("&amp;", "&")
            .replace("&lt;", "<")
            .replace("&gt;", ">")
        )


def test_the_document_tells_how_a_body_that_is_no_json_is_refused(client: Any) -> None:
    paths, found = client.get("/api/openapi.json").json["paths"], 0
    for address, methods in paths.items():
        for method, told in methods.items():
            if "application/json" not in told.get("requestBody", {}).get("content", {}):
                continue
            where = re.sub(r"\{.*?\}", "a7c6a2cf-2c85-4f0e-9d8c-9a4f0b2a7c6a", address)
            for body, kind in (("[1]", "application/json"), ("{}", "text/plain")):
                answer = getattr(client, method)(where, data=body, content_type=kind)
                assert str(answer.status_code) in told["responses"], (method, address, answer.status_code)
                found += 1
    assert found > 20
