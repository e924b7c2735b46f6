"""Server time per event, and the time from Enter to the new move on the screen."""

from __future__ import annotations

import http.client
import json
import os
import time
from collections.abc import Iterator
from contextlib import contextmanager
from typing import Any
from uuid import uuid4

import numpy as np

from tests.support import BROWSER, CHROMIUM, Server, drop_database, fill_shop, fresh_database
from velvet_hand.store import database as db

AT = "2026-01-05T09:00:00Z"
PLAN = {
    "part": {"name": "Cam blank", "diameter": {"text": "55", "unit": "mm"}},
    "machine_id": "bramble",
    "holder_id": "four-jaw-200",
    "gauge_id": "lever-fine",
    "limit": {"kind": "tir", "typed": {"text": "1", "unit": "thou"}},
    "unit": "thou",
}


@contextmanager
def running() -> Iterator[Server]:
    """A server on a fresh database with a filled shop."""
    admin, name = os.environ["VELVET_TEST_DATABASE_URL"], f"b_{uuid4().hex[:10]}"
    url = fresh_database(admin, name)
    database = db.connect(url)
    db.migrate(database)
    with database.connection_context():
        fill_shop()
    database.close_all()
    server = Server(url)
    server.start()
    try:
        yield server
    finally:
        server.close()
        drop_database(admin, name)


class Client:
    """One set-up over a kept-alive connection."""

    def __init__(self, server: Server) -> None:
        self._connection = http.client.HTTPConnection("127.0.0.1", server.port)
        self.id = str(uuid4())
        self.events = 1
        self._post("/api/setups", {"id": self.id, "event_id": str(uuid4()), "at": AT, "author": "Ode", "plan": PLAN})
        for body in (
            {
                "type": "step_passed",
                "step": "make_safe",
                "checked": ["stopped", "key", "body", "board", "sleeves"],
            },
            {"type": "step_passed", "step": "clean"},
            {"type": "step_passed", "step": "rough_in"},
            {"type": "press_tested", "went": "plus"},
            {"type": "zero_set", "station_id": "s1"},
            {"type": "step_passed", "step": "set_gauge"},
        ):
            self.send(body)
        self.view: dict[str, Any] = {}

    def _post(self, path: str, body: dict[str, Any]) -> dict[str, Any]:
        self._connection.request("POST", path, json.dumps(body), {"Content-Type": "application/json"})
        answer = self._connection.getresponse()
        data = json.loads(answer.read())
        assert answer.status < 300, data
        return data  # type: ignore[no-any-return]

    def rest(self) -> None:
        """Nothing is sent for a while: the server would close the connection, the next event opens it again."""
        self._connection.close()

    def send(self, body: dict[str, Any]) -> float:
        """Send one event; returns milliseconds."""
        began = time.perf_counter()
        answer = self._post(f"/api/setups/{self.id}/events", {"id": str(uuid4()), "at": AT, "body": body})
        spent = (time.perf_counter() - began) * 1000
        self.view, self.events = answer["view"], self.events + 1
        return spent

    def read(self, station: str, text: str) -> float:
        """Send a reading of the open pass."""
        number = self.view["tray"]["pass_no"] if self.view else 1
        typed = {"text": text, "unit": "thou"}
        return self.send({"type": "reading_taken", "pass_no": number, "station_id": station, "typed": typed})

    def work(self) -> Iterator[float]:
        """Passes and moves without end, each event's milliseconds: whatever the screen asks for next is done."""
        size, turn = 8.0, 0
        while True:
            cells = (
                [c for c in self.view["tray"]["cells"] if c["state"] == "open" and not c["closing"]]
                if self.view
                else []
            )
            panel = self.view["panels"][0] if self.view else None
            if panel and panel["name"] in ("high_spot", "pairs"):
                for body in panel["primary"]["events"]:
                    yield self.send(body)
                size = 8.0 if size < 2 else size * 0.6
            elif panel and not cells:
                yield self.send({"type": "pass_closed", "pass_no": self.view["tray"]["pass_no"]})
            else:
                part = (1, 0.5, -1, -0.5)[turn % 4]
                turn += 1
                yield self.read(cells[0]["station_id"] if cells else "s1", f"{size * part:.2f}")


def events_table(server: Server) -> list[list[str]]:
    """Milliseconds an event takes over HTTP when the set-up has 20, 500 and 2000 events.

    One of each in turn: how quick a machine is comes and goes.
    """
    lengths = (20, 500, 2000)
    spent: dict[int, list[float]] = {wanted: [] for wanted in lengths}
    long = {wanted: _brought(server, wanted - 30) for wanted in lengths[1:]}
    for _ in range(5):
        works = {lengths[0]: _brought(server, lengths[0] - 6), **long}
        for _ in range(12):
            for wanted, work in works.items():
                spent[wanted].append(next(work))
    rows = [["events in the set-up", "p50", "p95", "events measured"]]
    for wanted, each in spent.items():
        p50, p95 = np.percentile(each, (50, 95))
        rows.append([str(wanted), f"{p50:.1f} ms", f"{p95:.1f} ms", str(len(each))])
    return rows


def _brought(server: Server, events: int) -> Iterator[float]:
    """The work in a set-up that has so many events by now."""
    client = Client(server)
    work = client.work()
    while client.events < events:
        next(work)
    client.rest()
    return work


def screen_table(server: Server, times: int = 40) -> list[list[str]]:
    """Milliseconds from the Enter key to the changed aim on the screen, in Chromium."""
    from playwright.sync_api import sync_playwright

    client = Client(server)
    for station, text in (("s1", "4"), ("s2", "1"), ("s3", "-4"), ("s4", "-1")):
        client.read(station, text)
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=BROWSER, args=CHROMIUM)
        page = browser.new_page(viewport={"width": 1280, "height": 800}, base_url=server.url)
        page.goto(f"/set-up/{client.id}")
        page.locator("[data-part=aim]").wait_for()
        page.evaluate(_WATCH)
        spent = []
        for turn in range(times):
            page.locator("[data-station='Jaw 3']").click()
            page.locator("[data-part=reading][aria-label$='Jaw 3']").wait_for()
            page.locator("[data-part=reading]").fill(f"-{3 + turn % 5}.{turn % 10}")
            before = page.locator("[data-part=aim]").text_content()
            page.keyboard.press("Enter")
            page.wait_for_function(
                "was => document.querySelector('[data-part=aim]')?.textContent !== was && !document.querySelector('.cell.waits')",
                arg=before,
            )
        spent = page.evaluate("window.__spent")
        browser.close()
    rows = [["Enter to the new move", "p50", "p95", "times"]]
    rows.append(
        ["on the screen", f"{np.percentile(spent, 50):.0f} ms", f"{np.percentile(spent, 95):.0f} ms", str(len(spent))]
    )
    return rows


_WATCH = """() => {
  window.__spent = []
  let began = 0
  document.addEventListener('keydown', (e) => { if (e.key === 'Enter') began = performance.now() }, true)
  const aim = document.querySelector('[data-part=aim]')
  let last = aim.textContent
  new MutationObserver(() => {
    const now = document.querySelector('[data-part=aim]')?.textContent
    if (!began || !now || now === last) return
    last = now
    const start = began
    began = 0
    requestAnimationFrame(() => window.__spent.push(performance.now() - start))
  }).observe(document.body, { subtree: true, childList: true, characterData: true })
}"""
