"""Every other procedure from the Bench to its verdict, in the browser, with the keyboard alone."""

from __future__ import annotations

from datetime import date
from typing import Any
from urllib.parse import urlencode
from uuid import UUID

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.fields import as_typed
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.procedures.registry import PROCEDURES, machine, samples
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.sample import Sample
from velvet_hand.demo import shelf
from velvet_hand.store import setups

from .axe import faults_of
from .layout import hidden_of
from .machinist import Beside
from .waiting import arrived, settled

#: Each procedure with its first sample of the workshop; the plain four-jaw has a test of its own.
FIRST = dict(reversed(samples()))
#: Planned by keys from the Bench on, from a lathe and a mill; the others by a link.
BY_KEYS = ("packing", "vises")


def things_of(sample: Sample) -> dict[str, str]:
    """Machine, holder and indicator of the sample, by the labels of their fields."""
    return {
        "Machine": shelf.named(shelf.MACHINES, sample.machine).name,
        "Held in": shelf.named(shelf.HOLDERS, sample.holder).name,
        "Indicator": shelf.named(shelf.gauges(date.today()), sample.gauge).name,
    }


def fields_of(procedure: str, sample: Sample) -> dict[str, str]:
    """What the sample's plan has for the procedure's own fields, as somebody types or chooses it."""
    found, typed = PROCEDURES[procedure], {}
    for spec in found.fields:
        if spec.kind in ("shims", "dowels") and sample.stock:
            typed[spec.label] = shelf.named(shelf.STOCK, sample.stock).name
        elif spec.name in sample.choices:
            text = as_typed(found.plan_class, spec.name, sample.choices[spec.name])
            typed[spec.label] = next((c.word for c in spec.choices if c.id == text), text)
    return typed


#: The field of that spot has the focus.
IN_FOCUS = "label => document.activeElement?.ariaLabel === label"


class AtTheScreen(Beside):
    """Follows the advice by keys; the simulated machine answers. What is shown is what the store says.

    Between the first move and the last grip, and between the second and the last spot of a pass, it goes on at another tablet.
    """

    def __init__(self, page: Any, setup_id: str, seed: int) -> None:
        self.page = page
        rng = np.random.default_rng(seed)
        super().__init__(setup_id, machine(desk.load(setups.events_of(UUID(setup_id))).plan, rng), rng)
        self.away = False

    def step(self) -> bool:
        away = self._elsewhere()
        if self.away and not away:
            arrived(self.page, self.events[-1].seq)
        self.away = away
        return super().step()

    def _elsewhere(self) -> bool:
        if self.state.half is not None:
            return False
        one, shaken = self.state.open_pass, bool(self.state.moves) and not self.state.tight
        read = [one.answered(s.id) for s in self.state.asked(one)] if one and not one.moved else []
        return shaken or (sum(read) > 1 and len(read) - sum(read) > 1)

    def press(self, keys: list[str], events: int) -> None:
        """Press keys and wait until that many events have arrived, and the screen shows them."""
        wanted = len(self.events) + events
        for key in keys:
            self.page.keyboard.press(key)
        arrived(self.page, wanted)
        self.events = setups.events_of(self.setup_id)
        self.state = desk.load(self.events)

    def _follow(self, panel: Panel) -> None:
        if self.away:
            super()._follow(panel)
            return
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
        return self.away and super()._mid_pass()

    def _done_by_hand(self, body: ev.ClientBody) -> None:
        if isinstance(body, ev.MoveDone):
            move = desk.procedure_of(self.plan).solve(self.state).moves[0]
            assert move.id == body.move_id
            self.chuck.do(move)
        elif isinstance(body, ev.ZeroSet):
            self.chuck.zero(self.state.station(body.station_id))
        elif isinstance(body, ev.Tightened):
            self.chuck.grip(self.state.tight)

    def _read(self, station_id: str, closing: bool) -> None:
        if self.away:
            super()._read(station_id, closing)
            return
        station = self.state.station(station_id)
        label = f"Reading at {station.label}{' again' if closing else ''}"
        self.page.wait_for_function(IN_FOCUS, arg=label)
        value = self.chuck.read(station)
        text = value if isinstance(value, str) else f"{value:.5f} mm"
        (self.page.keyboard.insert_text if self.state.passes else self.page.keyboard.type)(text)
        self.press(["Enter"], 1)
        taken = self.events[-1].body
        assert isinstance(taken, ev.ReadingTaken)
        assert (taken.station_id, taken.closing, taken.typed.text) == (station_id, closing, text)


def quickest(plan: BasePlan) -> int:
    """The number of a simulated machine that takes few steps and is moved all the same, where anything is moved."""
    found = []
    for seed in range(3):
        rng = np.random.default_rng(seed)
        done = Operator(plan, machine(plan, rng), rng)
        done.run(max_passes=12)
        found.append((not done.state.moves, done.state.verdict is None, len(done.events), seed))
    return min(found)[-1]


#: The option that Enter would take of a list that is shown; null while it is not (another may still be fading away).
HOVERED = """id => {
    const list = document.getElementById(id)
    return list?.getClientRects().length ? (list.querySelector('.is-hovering')?.innerText ?? '') : null
}"""
#: What a list shows as chosen.
CHOSEN = "one => one.closest('.el-select').innerText"


def choose(page: Any, label: str, word: str) -> None:
    """Open a list by Enter, go to the word, take it."""
    field = page.get_by_role("combobox", name=label, exact=True)
    field.focus()
    page.keyboard.press("Enter")
    own = field.get_attribute("aria-controls")
    page.wait_for_function(f"id => ({HOVERED})(id) !== null", arg=own)
    options = page.locator(f"[id='{own}'] [role=option]").evaluate_all("all => all.map((o) => o.innerText)")
    hovered = page.evaluate(HOVERED, own)
    here = options.index(hovered) if hovered in options else -1
    there = next(i for i, o in enumerate(options) if o.startswith(word))
    for _ in range(abs(there - here)):
        page.keyboard.press("ArrowDown" if there > here else "ArrowUp")
        page.wait_for_function(f"([id, before]) => ({HOVERED})(id) !== before", arg=[own, hovered])
        hovered = page.evaluate(HOVERED, own)
    assert str(hovered).startswith(word), (hovered, word)
    page.keyboard.press("Enter")
    field.evaluate("one => new Promise((done) => requestAnimationFrame(done))")
    assert field.evaluate(CHOSEN).startswith(word), label


def pick(page: Any, label: str, word: str) -> None:
    """A choice in a row: into the row, and to it."""
    page.get_by_role("radiogroup", name=label).get_by_role("radio", name=word, exact=True).focus()
    page.keyboard.press("Space")
    settled(page)


def fill(page: Any, label: str, text: str) -> None:
    """Whatever control has that label."""
    if page.get_by_role("radiogroup", name=label, exact=True).count():
        pick(page, label, text)
    elif page.get_by_role("combobox", name=label, exact=True).count():
        choose(page, label, text)
    else:
        page.get_by_role("textbox", name=label, exact=True).focus()
        page.keyboard.press("Control+a")
        page.keyboard.type(text)


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
    label_of_size = next(p.asks.diameter for p in PROCEDURES.values() if p.title.startswith(title))
    for label, text in {label_of_size: diameter, "True within": limit, **fields}.items():
        fill(page, label, text)
    return started(page)


def started(page: Any) -> str:
    """Start what is planned; returns the set-up's id."""
    page.keyboard.press("Control+Enter")
    page.wait_for_url("**/set-up/*")
    page.locator("[data-part=headline]").wait_for()
    return str(page.url.rsplit("/", 1)[-1])


def plan_by_link(page: Any, procedure: str, part: str, sample: Sample) -> str:
    """By a link, as a job's plan has it, and what is the procedure's own by keys; returns the set-up's id."""
    told = {
        "procedure": procedure, "part": part, "diameter": sample.size, "limit": sample.limit, "machine": sample.machine,
        "holder": sample.holder, "gauge": sample.gauge,
    }  # fmt: skip
    page.goto(f"/plan?{urlencode(told)}")
    page.get_by_text("To know before you start").wait_for()
    for label, text in fields_of(procedure, sample).items():
        fill(page, label, text)
    return started(page)


@pytest.mark.parametrize("procedure", FIRST)
def test_it_runs_from_the_bench_to_its_verdict(page: Any, procedure: str) -> None:
    sample = FIRST[procedure]
    part = f"{sample.part}, by keys"
    if procedure in BY_KEYS:
        fields = things_of(sample) | fields_of(procedure, sample)
        setup_id = plan_by_keys(page, PROCEDURES[procedure].title, part, sample.size, sample.limit, fields)
    else:
        setup_id = plan_by_link(page, procedure, part, sample)
    person = AtTheScreen(page, setup_id, quickest(desk.load(setups.events_of(UUID(setup_id))).plan))
    looked = False
    for _ in range(600):
        if not looked and person.state.open_pass and person.state.open_pass.closings:
            # With the move, or the finding, and its picture on the screen; what is around it has tests of its own.
            assert faults_of(page, within="'.middle'") == []
            assert hidden_of(page) == []
            looked = True
        if not person.step():
            break
    verdict = person.state.verdict
    assert verdict is not None, person.page.locator("[data-part=headline]").inner_text()
    page.get_by_role("link", name="Logbook", exact=True).click()
    page.get_by_role("link", name=part, exact=True).first.wait_for()
