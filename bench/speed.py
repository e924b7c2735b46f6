"""What everything costs: ``./velvet bench speed``. Processor time in the core, time over HTTP, what goes over the wire, starts."""

from __future__ import annotations

import gzip
import json
import os
import shutil
import subprocess
import tempfile
import time
import urllib.error
import urllib.request
from pathlib import Path
from typing import Any

import numpy as np

from bench.server import Client
from tests.support import BROWSER, CHROMIUM, ROOT, Server
from velvet_hand.core.desk import desk
from velvet_hand.core.fit.circle import fit_circle
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.fold import carried
from velvet_hand.core.sim.body import Jammed, WrongWay
from velvet_hand.core.units import Typed

#: Readings that are timed for a procedure, and how long a set-up is made for that.
TIMED, LONG = 24, 500


def _cost_ms(hand: Operator) -> float:
    """Processor time of the next reading: taken in, folded, shown."""
    if hand.state.open_pass is not None and hand.state.unread(hand.state.being_read) is None:
        hand.send(ev.PassClosed(pass_no=hand.state.open_pass.number))
    state = hand.state
    left = state.unread(state.being_read) or (state.asked(None)[0], False)
    value = hand.chuck.read(left[0])
    text = value if isinstance(value, str) else f"{value:.6f}"
    body = ev.ReadingTaken(
        pass_no=state.next_pass_no, station_id=left[0].id, typed=Typed(text=text, unit="mm"), closing=left[1]
    )
    event = hand._event(body)
    began = time.process_time()
    after = carried(state, desk.complete(state, event))
    desk.show([], "x", after).model_dump_json()
    spent = (time.process_time() - began) * 1000
    hand.state = after
    hand.events.append(event)
    return spent


def _worked_to(procedure: str, events: int) -> Operator:
    """A set-up with so many events: worked by the advice, then read again and again."""
    rng = np.random.default_rng(3)
    plan = example(procedure, 4).model_copy(update={"unit": "mm"})
    hand = Operator(plan, machine(plan, rng), rng)
    going = True
    while len(hand.events) < events:
        try:
            going = going and hand.step()
        except (WrongWay, Jammed):
            going = False
        if not going:
            _cost_ms(hand)
    return hand


def core_table() -> list[list[str]]:
    """Processor time of a reading in the core, for every procedure, in a short and a long set-up."""
    rows = [["procedure", "20 events, p50", f"{LONG} events, p50", "p95"]]
    for procedure in PROCEDURES:
        cells = []
        for events in (20, LONG):
            hand = _worked_to(procedure, events)
            spent = [_cost_ms(hand) for _ in range(TIMED)]
            cells.append(np.percentile(spent, (50, 95)))
        rows.append([procedure, f"{cells[0][0]:.1f} ms", f"{cells[1][0]:.1f} ms", f"{cells[1][1]:.1f} ms"])
    return rows


def pieces_table() -> list[list[str]]:
    """Single pieces that were slow once."""
    angles = tuple(15.0 * i for i in range(24))
    readings = tuple(0.01 * float(np.cos(np.radians(a - 40))) + 0.03 * (a in (30.0, 180.0)) for a in angles)
    began = time.process_time()
    for _ in range(20):
        fit_circle(angles, readings, 30.0, 1, 0.0005)
    return [["piece", "time"], ["24 spots, two of them wild", f"{(time.process_time() - began) * 50:.1f} ms"]]


def wire_table(server: Server) -> list[list[str]]:
    """What goes over the wire: the first page, requests for one reading, an answer, packed."""
    from playwright.sync_api import sync_playwright

    client = Client(server)
    for station, text in (("s1", "4"), ("s2", "1"), ("s3", "-4")):
        client.read(station, text)
    answer = json.dumps(client.view).encode()
    asked: list[str] = []
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=BROWSER, args=CHROMIUM)
        page = browser.new_context(base_url=server.url, service_workers="block").new_page()
        page.goto("/")
        page.get_by_role("button", name="Plan it").wait_for()
        page.evaluate("() => document.fonts.ready")
        first = page.evaluate(_TRANSFERRED)
        page.goto(f"/set-up/{client.id}")
        page.locator("[data-part=reading]").wait_for()
        page.evaluate("() => document.fonts.ready")
        whole = page.evaluate(_TRANSFERRED)
        page.on("request", lambda request: asked.append(f"{request.method} {request.url}"))
        page.keyboard.type("-1")
        page.keyboard.press("Enter")
        page.locator("[data-part=aim]").wait_for()
        page.wait_for_timeout(500)
        browser.close()
    return [
        ["what", "how much"],
        ["first page (Bench) with fonts, as it is sent", f"{first / 1000:.0f} kB"],
        ["a set-up's page, what is new of it", f"{whole / 1000:.0f} kB"],
        ["requests for one reading", str(len(asked))],
        ["view of a set-up, plain / packed", f"{len(answer) / 1000:.1f} / {len(gzip.compress(answer)) / 1000:.1f} kB"],
    ]


_TRANSFERRED = """() => performance.getEntriesByType('resource')
  .concat(performance.getEntriesByType('navigation')).reduce((sum, one) => sum + one.transferSize, 0)"""


def start_table() -> list[list[str]]:
    """Everything set up and the data there: from the command to the first page."""
    folder = Path(tempfile.mkdtemp(dir=ROOT / "var", prefix="bench-"))
    environment: dict[str, Any] = {
        **os.environ,
        "VELVET_VAR": str(folder),
        "VELVET_PORT": "8390",
        "VELVET_PG_PORT": "54390",
    }
    spent = []
    try:
        for _ in range(3):  # the first one makes the database and its data
            began = time.monotonic()
            started = subprocess.Popen(
                [ROOT / "velvet", "demo"], env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.PIPE, text=True
            )
            assert started.stderr is not None
            address = next((line.split()[3] for line in started.stderr if "http://" in line), "")
            while True:
                try:
                    urllib.request.urlopen(address, timeout=5).read()
                    break
                except urllib.error.URLError:
                    time.sleep(0.02)
            spent.append(time.monotonic() - began)
            subprocess.run([ROOT / "velvet", "stop"], env=environment, stderr=subprocess.DEVNULL, check=True)
            started.wait()
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    return [
        ["start", "to the first page"],
        ["first, with its data", f"{spent[0]:.1f} s"],
        ["warm", f"{min(spent[1:]):.1f} s"],
    ]
