"""Every other procedure from the Bench to its verdict, in the browser, with the keyboard alone."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.store import setups

from .axe import faults_of

#: Procedure, how often ArrowDown, diameter, limit (in mm), and its own fields as typed.
JOBS: tuple[tuple[str, str, str, dict[str, str]], ...] = (
    ("Rough or cast work", "100 mm", "2.5 mm", {"Gauge": "Steel rule", "Face read at radius": "45 mm", "@pick": "a trued face"}),
    (
        "Long work true in two planes", "42 mm", "0.03 mm",
        {"Near plane, out from the jaws’ middle": "25 mm", "Far plane, out from the jaws’ middle": "150 mm"},
    ),
    ("Eccentric on purpose", "60 mm", "0.06 mm", {"Gauge": "Plunger 0.0005", "Throw wanted": "1.5 mm", "Toward, degrees from jaw 1": "40"}),
    ("Clock a chuck", "25 mm", "0.03 mm", {"Bolt positions": "6"}),
    ("Pack a three-jaw", "36 mm", "0.03 mm", {}),
    ("Chuck or work", "30 mm", "0.05 mm", {"Turned in the jaws to, degrees": "0 180"}),
    ("True in a chuck with an adjustable body", "40 mm", "0.0127 mm", {}),
    ("Collet and spindle taper", "12 mm", "0.02 mm", {"Far plane, out from the nose": "60 mm"}),
    ("Between centers", "32 mm", "0.03 mm", {"Places, from the driving end": "10mm 120mm 230mm 340mm 450mm"}),
    ("Bore concentric to a shaft", "80 mm", "0.06 mm", {"Between the dowels": "190 mm"}),
    ("Work on a faceplate", "68 mm", "0.06 mm", {}),
    ("Square a vise by its fixed jaw", "140 mm", "0.03 mm", {"Gauge": "Lever 0.002"}),
    ("Level a vise’s bed", "140 mm", "0.03 mm", {"Gauge": "Lever 0.002", "Shims from": "Fine"}),
    ("Square a plate, an angle plate", "300 mm", "0.03 mm", {"Gauge": "Lever 0.002", "Spots along the edge": "20mm 160mm 300mm"}),
    ("Rough an edge in by a rod", "140 mm", "0.3 mm", {"Gauge": "Feelers"}),
    ("Bring a rotary table’s center", "60 mm", "0.06 mm", {"Gauge": "Plunger 0.0005"}),
    ("Two vises in line", "300 mm", "0.04 mm", {"Gauge": "Lever 0.002", "Spots along each jaw": "10mm 60mm 115mm"}),
    ("Is this plate parallel", "240 mm", "0.02 mm", {"Gauge": "Lever 0.002", "Depth, front to back": "150 mm"}),
    ("A column on a rotary axis", "60 mm", "0.03 mm", {"Gauge": "Lever 0.002", "Shims from": "Fine"}),
    ("Mill head square", "220 mm", "0.06 mm", {"Gauge": "Plunger 0.0005", "Nod’s axis, behind the spindle": "260 mm"}),
)  # fmt: skip


class AtTheScreen(Operator):
    """Follows the advice by keys; the simulated machine answers. What is shown is what the store says."""

    def __init__(self, page: Any, setup_id: str, seed: int) -> None:
        self.page, self.setup_id = page, UUID(setup_id)
        rng = np.random.default_rng(seed)
        plan = desk.load(setups.events_of(self.setup_id)).plan
        super().__init__(plan, machine(plan, rng), rng)

    def _open(self) -> State:
        self.events = setups.events_of(self.setup_id)
        return desk.load(self.events)

    def press(self, keys: list[str], events: int) -> None:
        """Press keys and wait until that many events have arrived, and the screen shows them."""
        wanted = len(self.events) + events
        for key in keys:
            self.page.keyboard.press(key)
        for _ in range(1200):
            self.events = setups.events_of(self.setup_id)
            if len(self.events) >= wanted:
                break
            self.page.wait_for_timeout(25)
        else:
            raise AssertionError(f"after {keys} there are {len(self.events)} events, not {wanted}")
        self.page.wait_for_function("() => !document.querySelector('.cell.waits')")
        arrived = "seq => Number(document.querySelector('.setup')?.dataset.seq ?? 0) >= seq"
        self.page.wait_for_function(arrived, arg=self.events[-1].seq)
        self.page.wait_for_timeout(60)
        self.state = desk.load(self.events)

    def _follow(self, panel: Panel) -> None:
        if panel.name == "press":
            asked = panel.others[0].events[0]
            assert isinstance(asked, ev.PressTested)
            self.press(["+" if self.chuck.press(asked.gauge) == "plus" else "-"], 1)
            return
        left = self._unread() if panel.name not in ("half", "finished") and self._reading_step() else None
        if left is not None and self._should_read(panel):
            self._read(*left)
            return
        assert panel.primary is not None, panel.name
        for words in (p.text for p in panel.headline if p.kind == "words" and p.strong):
            self.page.locator("[data-part=headline]", has_text=words).wait_for()
        for body in panel.primary.events:
            self._done_by_hand(body)
        keys = [str(i + 1) for i in range(len(panel.cautions))] if panel.hold else []
        self.press([*keys, panel.primary.key], len(panel.primary.events))

    def _reading_step(self) -> bool:
        return bool(self.page.locator("[data-part=reading]").count())

    def _mid_pass(self) -> bool:
        return False

    def _done_by_hand(self, body: ev.ClientBody) -> None:
        if isinstance(body, ev.MoveDone):
            move = desk.procedure_of(self.plan).solve(self.state).moves[0]
            assert move.id == body.move_id
            self.chuck.do(move)
        elif isinstance(body, ev.ZeroSet):
            self.chuck.zero(self.state.station(body.station_id))
        elif isinstance(body, ev.Tightened):
            self.chuck.tighten()

    def _read(self, station_id: str, closing: bool) -> None:
        station = self.state.station(station_id)
        label = f"Reading at {station.label}{' again' if closing else ''}"
        self.page.locator(f'[data-part=reading][aria-label="{label}"]').wait_for()
        value = self.chuck.read(station)
        self.page.keyboard.type(value if isinstance(value, str) else f"{value:.5f} mm")
        self.press(["Enter"], 1)


def choose(page: Any, label: str, word: str) -> None:
    """Open a list by Enter, go down to the word, take it."""
    page.get_by_role("combobox", name=label, exact=True).focus()
    page.keyboard.press("Enter")
    options = page.locator(".el-select-dropdown__item:visible")
    options.first.wait_for()
    page.wait_for_timeout(250)
    words = options.all_inner_texts()
    here = next((i for i, o in enumerate(options.all()) if "is-selected" in str(o.get_attribute("class"))), -1)
    there = next(i for i, o in enumerate(words) if o.startswith(word))
    for _ in range(abs(there - max(here, 0)) + (1 if here < 0 else 0)):
        page.keyboard.press("ArrowDown" if there > here else "ArrowUp")
    page.keyboard.press("Enter")
    page.get_by_text(word).first.wait_for()


def pick(page: Any, word: str) -> None:
    """A choice in a row: into the row, and along it by the arrow keys."""
    page.locator(".el-radio-button", has_text=word).locator("input").focus()
    page.keyboard.press("Space")
    page.wait_for_timeout(100)


def plan_by_keys(page: Any, title: str, part: str, diameter: str, limit: str, fields: dict[str, str]) -> str:
    """From the Bench by P, then the form from top to bottom; returns the set-up's id."""
    page.goto("/")
    page.get_by_role("button", name="Plan it").wait_for()
    page.wait_for_function("() => !document.querySelector('.plan').disabled")
    page.keyboard.press("p")
    page.get_by_label("Part", exact=True).wait_for()
    page.wait_for_function("() => document.activeElement.getAttribute('aria-label') === 'Part'")
    page.keyboard.type(part)
    choose(page, "What is to be done", title)
    for label, text in {"@diameter": diameter, "True within": limit, **fields}.items():
        if label == "@pick":
            pick(page, text)
            continue
        if label in ("Gauge", "Shims from"):
            choose(page, label, text)
            continue
        box = page.locator(".form .two").nth(1).locator("input").nth(1) if label == "@diameter" else None
        (box or page.get_by_role("textbox", name=label, exact=True)).focus()
        page.keyboard.press("Control+a")
        page.keyboard.type(text)
    page.keyboard.press("Control+Enter")
    page.wait_for_url("**/set-up/*")
    page.locator("[data-part=headline]").wait_for()
    return str(page.url.rsplit("/", 1)[-1])


@pytest.mark.parametrize("job", JOBS, ids=[j[0] for j in JOBS])
def test_it_runs_from_the_bench_to_its_verdict(page: Any, job: tuple[str, str, str, dict[str, str]]) -> None:
    title, diameter, limit, fields = job
    setup_id = plan_by_keys(page, title, f"{title}, by keys", diameter, limit, fields)
    person = AtTheScreen(page, setup_id, seed=3)
    looked = False
    for _ in range(600):
        if not looked and person.state.open_pass and person.state.open_pass.closings:
            assert faults_of(page) == []  # with the move, or the finding, and its picture on the screen
            looked = True
        if not person.step():
            break
    verdict = person.state.verdict
    assert verdict is not None, person.page.locator("[data-part=headline]").inner_text()
    page.goto("/logbook")
    page.get_by_role("link", name=f"{title}, by keys", exact=True).first.wait_for()
