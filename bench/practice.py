"""A step at the bench to practice on, over HTTP: a look at the dial, a key let go of, a reading, and all of it again after a restart."""

from __future__ import annotations

import http.client
import json
import time
from typing import Any
from uuid import uuid4

import numpy as np

from .server import running

DRILLS = (
    "half",
    "pivot",
    "bed",
    "packing",
    "chip",
    "shaft",
    "four_jaw.hard",
    "tram.usual",
    "two_planes.usual",
    "column.usual",
)
LOOKS, STROKES = 200, 20


def _ask(connection: http.client.HTTPConnection, method: str, path: str, body: Any = None) -> Any:
    head = {"Content-Type": "application/json"} if body is not None else {}
    connection.request(method, path, json.dumps(body) if body is not None else None, head)
    answer = connection.getresponse()
    told = json.loads(answer.read())
    assert answer.status < 300, told
    return told


def _timed(connection: http.client.HTTPConnection, times: list[float], *asked: Any) -> Any:
    began = time.perf_counter()
    told = _ask(connection, *asked)
    times.append(1000 * (time.perf_counter() - began))
    return told


def _act(connection: http.client.HTTPConnection, practice: Any, times: list[float], body: Any) -> Any:
    return _timed(
        connection, times, "POST", f"/api/practices/{practice['id']}/acts", {"id": str(uuid4()), "body": body}
    )


def _reading(practice: Any, mm: float) -> Any:
    tray = practice["view"]["tray"]
    cell = next((c for c in tray["cells"] if c["state"] == "open"), None)
    if cell is None:
        return {"type": "done", "body": {"type": "pass_closed", "pass_no": tray["pass_no"]}}
    text = f"{mm:.4f}" if cell["reads"] != "degrees" else "90"
    typed = {"text": text.replace("-", "") if cell["reads"] == "swing" else text, "unit": "mm"}
    body = {"type": "reading_taken", "pass_no": tray["pass_no"], "station_id": cell["station_id"], "typed": typed}
    return {"type": "done", "body": {**body, "closing": cell["closing"]}}


def table() -> list[list[str]]:
    """The table of docs/measured.md: p95 in ms of each kind of step."""
    rows = [["Drill", "look at the dial", "by hand", "a reading", "its end, with all that is told"]]
    with running() as server:
        connection = http.client.HTTPConnection("127.0.0.1", server.port)
        for drill in DRILLS:
            looks: list[float] = []
            strokes: list[float] = []
            readings: list[float] = []
            ends: list[float] = []
            begun = {"id": str(uuid4()), "drill": drill, "advice": "full", "unit": "mm"}
            practice = _ask(connection, "POST", "/api/practices", begun)
            spot = practice["places"][0]
            path = f"/api/practices/{practice['id']}/needle?station={spot['station_id']}&at="
            for n in range(LOOKS):
                _timed(connection, looks, "GET", f"{path}{spot['at'] + n / 10}")
            for n in range(STROKES):
                practice = _act(
                    connection, practice, readings, _reading(practice, practice["dial"]["graduation_mm"] * (n % 7))
                )
                for hand in practice["hands"][:1]:
                    kind = hand["control"]["kind"]
                    amount = {"key": 0.02, "tap": 1, "pick": n % 2}[kind]
                    stroke = {"type": "hand", "control": hand["control"]["id"], "amount": amount, "at": spot["at"]}
                    practice = _act(connection, practice, strokes, stroke)
            _act(connection, practice, ends, {"type": "good", "fault": None})
            rows.append(
                [
                    drill,
                    *(f"{np.percentile(times, 95):.1f}" if times else "" for times in (looks, strokes, readings, ends)),
                ]
            )
    return rows
