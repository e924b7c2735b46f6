"""Needle to screen: ten simulated indicators at 50 Hz, twenty screens that watch two each. The value is the time that it was sent at."""

from __future__ import annotations

import http.client
import json
import threading
import time
from itertools import pairwise

import numpy as np

from velvet_hand.instruments import simulated

from .server import running

INDICATORS, SCREENS, SECONDS = 10, 20, 20.0
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


def table() -> list[list[str]]:
    """The table of docs/measured.md."""
    with running() as server:
        asked = http.client.HTTPConnection("127.0.0.1", server.port)
        ids = []
        for number in range(INDICATORS):
            made = simulated.Server(lambda now_s: now_s % ROUND)
            where = f"socket://127.0.0.1:{made.bind('127.0.0.1', 0)}"
            threading.Thread(target=made.run, daemon=True).start()
            typed = {
                "gauge": "lever-fine",
                "port": where,
                "unit": "mm",
                "turned": "no",
                "baud": "9600",
                "pattern": r"(?P<value>[-+][\d.]+) mm",
            }
            body = json.dumps({"kind": "stream", "name": f"Needle {number}", "typed": typed})
            asked.request("PUT", f"/api/shop/wires/needle-{number}", body, {"Content-Type": "application/json"})
            assert asked.getresponse().read()
            ids.append(f"needle-{number}")
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
