"""Papers over HTTP: page, PDF and style sheet; what is not there or not offered is refused in words."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest

from tests.api.test_bad_input import is_problem, opened, send
from tests.api.test_bad_input import plan as plan_body
from tests.api.test_setups import proved


def test_a_set_up_prints_before_and_after(client: Any) -> None:
    setup_id = opened(client)
    send(client, setup_id, {"type": "noted", "text": "Rusty <b>journal</b>"})
    sheet = client.get(f"/api/setups/{setup_id}/sheet.html")
    assert (sheet.status_code, sheet.content_type) == (200, "text/html; charset=utf-8")
    assert "Set-up sheet" in sheet.text
    assert 'class="letter"' in sheet.text  # it was planned in thou
    assert "style-src 'self'" in sheet.headers["Content-Security-Policy"]
    assert "<style" not in sheet.text
    assert "style=" not in sheet.text
    record = client.get(f"/api/setups/{setup_id}/record.html?size=a4&unit=mm")
    assert "Rusty &lt;b&gt;journal" in record.text
    assert 'class="a4"' in record.text
    assert f"/logbook/{setup_id}" in record.text
    pdf = client.get(f"/api/setups/{setup_id}/record.pdf")
    assert (pdf.status_code, pdf.content_type, pdf.data[:5]) == (200, "application/pdf", b"%PDF-")
    css = client.get("/api/paper.css")
    assert (css.status_code, css.content_type) == (200, "text/css; charset=utf-8")


@pytest.mark.parametrize(
    ("path", "status", "code"),
    [
        ("record.html?size=a3", 422, "field_invalid"),
        ("record.pdf?unit=cubit", 422, "field_invalid"),
        ("recipe.html", 422, "field_invalid"),
    ],
)
def test_what_is_not_offered_is_refused(client: Any, path: str, status: int, code: str) -> None:
    is_problem(client.get(f"/api/setups/{opened(client)}/{path}"), status, code)


def test_a_paper_of_nothing_is_not_found(client: Any) -> None:
    for name in ("record.html", "record.pdf", "sheet.html", "sheet.pdf"):
        is_problem(client.get(f"/api/setups/{uuid4()}/{name}"), 404, "unknown_set_up")


def test_a_sheet_prints_from_a_plan_and_nothing_is_kept(client: Any) -> None:
    before = client.get("/api/logbook").json
    plan = plan_body()
    answer = client.post("/api/plans/sheet.html", json=plan)
    assert answer.status_code == 200
    assert answer.content_type == "text/html; charset=utf-8"
    assert "Set-up sheet" in answer.text
    assert plan["part"]["name"] in answer.text
    assert client.get("/api/logbook").json == before
    plan["limit"]["typed"]["text"] = "nothing"
    is_problem(client.post("/api/plans/sheet.html", json=plan), 422, "length_nonsense", "limit.typed")


def test_a_pass_goes_out_as_it_is_read_back(client: Any) -> None:
    setup_id = proved(client, "drum, read out")
    answer = client.get(f"/api/setups/{setup_id}/readings.csv?pass=1")
    assert answer.status_code == 200
    assert answer.text.startswith("place,reading\r\ns1,")
    is_problem(client.get(f"/api/setups/{setup_id}/readings.csv?pass=99"), 422, "field_invalid", "pass")
    is_problem(client.get(f"/api/setups/{setup_id}/readings.csv?pass=x"), 422, "field_invalid", "pass")
