"""Sums over HTTP: all of them, in the unit asked for; nonsense is told at its figure, and only what cannot be a sum is refused."""

from __future__ import annotations

from typing import Any

import pytest

from tests.support import ROOT
from velvet_hand.core.sums.registry import SUMS


def post(client: Any, sum_id: str, *typed: tuple[str, str, str], unit: str = "mm") -> Any:
    body = {"unit": unit, "typed": [{"figure": f, "text": t, "unit": u} for f, t, u in typed]}
    return client.post(f"/api/sums/{sum_id}", json=body)


def test_the_list_has_every_sum_and_so_has_its_page() -> None:
    page = (ROOT / "docs" / "sums.md").read_text()
    assert [one for one in SUMS if f"(`{one}`)" not in page] == []
    assert [s.formula for s in SUMS.values() if s.formula not in page] == []


def test_every_sum_answers(client: Any) -> None:
    listed = client.get("/api/sums").json["sums"]
    assert [one["id"] for one in listed] == list(SUMS)
    for one in listed:
        answer = post(client, one["id"], unit="thou")
        assert answer.status_code == 200
        assert answer.json["picture"]["shapes"]


def test_a_drawer_of_the_shop_is_offered(client: Any) -> None:
    figures = {f["id"]: f for f in post(client, "dowels").json["figures"]}
    assert [c["word"] for c in figures["drawer"]["choices"]] == ["Offset dowels"]
    blocks = {f["id"]: f for f in post(client, "sine").json["figures"]}["blocks"]
    assert blocks["choices"][0]["word"] == "Gauge blocks, 47"


@pytest.mark.parametrize(
    ("sum_id", "body", "status"),
    [
        ("nothing", {}, 404),
        ("tir", {"unit": "furlong"}, 422),
        ("tir", {"typed": [{"figure": "tir", "text": 4, "unit": "mm"}]}, 422),
        ("tir", {"typed": [{"figure": "x" * 50, "text": "4", "unit": "mm"}]}, 422),
        ("tir", {"typed": "4"}, 422),
        ("tir", {"typed": [{"figure": "tir", "text": "9" * 30_000, "unit": "mm"}]}, 422),
    ],
)
def test_what_is_no_sum_is_refused(client: Any, sum_id: str, body: dict[str, Any], status: int) -> None:
    answer = client.post(f"/api/sums/{sum_id}", json=body)
    assert answer.status_code == status
    assert answer.content_type == "application/problem+json"


@pytest.mark.parametrize("text", ["\x00", "\ud800", "1e400", "∞", "-" * 500, "1\n2\n3", "null"])
def test_odd_text_is_told_and_never_breaks_it(client: Any, text: str) -> None:
    for sum_id, figure in (
        ("tir", "tir"),
        ("circle", "read"),
        ("sine", "angle"),
        ("torque", "full"),
        ("dowels", "drawer"),
    ):
        answer = post(client, sum_id, (figure, text, "mm"))
        assert answer.status_code in (200, 400, 422), (sum_id, answer.status_code)
        if answer.status_code == 200:
            assert answer.json["faults"][0]["figure"] == figure
