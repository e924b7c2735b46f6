"""Needle to screen: ten simulated indicators at 50 Hz, twenty screens that watch two each. The value is the time that it was sent at."""

from __future__ import annotations

import http.client
import json
import resource
import threading
import time
from itertools import pairwise
from pathlib import Path

import numpy as np

from velvet_hand.instruments import simulated

from .server import running

INDICATORS, SCREENS, SECONDS = 10, 20, 20.0
#: An hour of lines goes by so many times as fast.
FASTER = 20
#: The time is sent as a length that no indicator is too short for.
ROUND = 900.0


def _watch(port: int, ids: str, until: float, late: list[float], gaps: list[float]) -> None:
    connection = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
    connection.request("GET", f"/api/live/stream?ids={ids}")
    answer, came = connection.getresponse(), []
    while time.monotonic() < until:
        line = answer.readline()
        if not line.startswith(b"data: "):
            continue
        now = time.monotonic()
        came.append(now)
        late += [(now - n["mm"]) % ROUND for n in json.loads(line[6:]) if n["state"] == "live" and n["mm"] is not None]
    gaps += [b - a for a, b in pairwise(came)]
    connection.close()


def _bound(asked: http.client.HTTPConnection, number: int, made: simulated.Server) -> str:
    """An indicator of the Shop that reads a simulated one; its id."""
    where = f"socket://127.0.0.1:{made.bind('127.0.0.1', 0)}"
    threading.Thread(target=made.run, daemon=True).start()
    typed = {
        "gauge": "lever-fine", "port": where, "unit": "mm", "turned": "no", "baud": "9600",
        "pattern": r"(?P<value>[-+][\d.]+) mm",
    }  # fmt: skip
    body = json.dumps({"kind": "stream", "name": f"Needle {number}", "typed": typed})
    asked.request("PUT", f"/api/shop/wires/needle-{number}", body, {"Content-Type": "application/json"})
    assert asked.getresponse().read()
    return f"needle-{number}"


def _resident_mb(process: int) -> float:
    """Memory of a process and those that it has started, MB."""
    each = [process, *(int(child) for child in Path(f"/proc/{process}/task/{process}/children").read_text().split())]
    pages = (Path(f"/proc/{one}/statm").read_text().split()[1] for one in each)
    return sum(int(p) for p in pages) * resource.getpagesize() / 1e6


def memory(minutes: float = 60.0) -> list[list[str]]:
    """As many lines as an indicator sends at 50 Hz in so long, twenty times as fast, with two screens that follow: memory of the server
    after each quarter.
    """
    rows = [["lines", "memory, MB"]]
    with running() as server:
        asked = http.client.HTTPConnection("127.0.0.1", server.port)
        made = simulated.Server(lambda now_s: now_s % ROUND, rate_hz=50.0 * FASTER)
        ids, seconds = _bound(asked, 0, made), 60 * minutes / FASTER
        late, gaps = list[float](), list[float]()
        until = time.monotonic() + seconds
        for _ in range(2):
            threading.Thread(target=_watch, args=(server.port, ids, until, late, gaps), daemon=True).start()
        for quarter in range(5):
            if quarter:
                time.sleep(seconds / 4)
            asked = http.client.HTTPConnection("127.0.0.1", server.port)  # the other one has been closed meanwhile
            asked.request("GET", f"/api/live/{ids}/lines")
            answer = json.loads(asked.getresponse().read())
            number = answer["lines"][0]["number"] if answer["lines"] else 0
            rows.append([str(number), f"{_resident_mb(server.pid):.1f}"])
            late.clear()
    return rows


def table() -> list[list[str]]:
    """The table of docs/measured.md."""
    with running() as server:
        asked = http.client.HTTPConnection("127.0.0.1", server.port)
        ids = [_bound(asked, number, simulated.Server(lambda now_s: now_s % ROUND)) for number in range(INDICATORS)]
        late: list[float] = []
        gaps: list[float] = []
        until = time.monotonic() + SECONDS
        pairs = [f"{ids[n % INDICATORS]},{ids[(n + 1) % INDICATORS]}" for n in range(SCREENS)]
        threads = [threading.Thread(target=_watch, args=(server.port, pair, until, late, gaps)) for pair in pairs]
        for thread in threads:
            thread.start()
        for thread in threads:
            thread.join()
    ms, between = 1000 * np.array(late), 1000 * np.array(gaps)

    def row(word: str, values: np.ndarray) -> list[str]:
        return [word, *(f"{np.percentile(values, q):.0f}" for q in (50, 95)), f"{values.max():.0f}"]

    return [
        ["ms", "p50", "p95", "most"],
        row("needle to screen", ms),
        row(f"between frames ({len(gaps) / SCREENS / SECONDS:.1f} a second)", between),
    ]
