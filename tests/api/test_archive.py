"""The archive over HTTP: out as a file, back in, and what is none refused with nothing kept."""

from __future__ import annotations

import io
import zipfile
from typing import Any

from tests.api.test_bad_input import is_problem, opened
from velvet_hand.api import exchange


def send(client: Any, body: bytes) -> Any:
    return client.post("/api/archive", data=body, content_type="application/zip")


def test_everything_goes_out_and_comes_back(client: Any) -> None:
    opened(client)
    out = client.get("/api/archive")
    assert (out.status_code, out.content_type) == (200, "application/zip")
    assert "attachment" in out.headers["Content-Disposition"]
    with zipfile.ZipFile(io.BytesIO(out.data)) as packed:
        assert {"manifest.json", "shop.json"} < set(packed.namelist())
    body = out.data
    out.close()
    back = send(client, body)
    assert back.status_code == 200
    assert back.json["things"] == back.json["setups"] == 0
    assert back.json["known"] > 10


def test_what_is_no_archive_is_refused(client: Any, monkeypatch: Any) -> None:
    for body in (b"", b"hello", b"PK\x05\x06" + b"\0" * 18, b"\xff" * 4000):
        is_problem(send(client, body), 422, "archive_unreadable", "file")
    monkeypatch.setattr(exchange, "MOST", 1000)
    is_problem(send(client, b"x" * 5000), 413, "too_big")


def test_another_site_cannot_send_one(client: Any) -> None:
    answer = client.post("/api/archive", data=b"x", headers={"Origin": "https://elsewhere.example"})
    is_problem(answer, 403, "not_from_here")
