"""Two drills from the list to what is told afterwards, with the keyboard alone; the dial is read as it is drawn."""

from __future__ import annotations

import re
from typing import Any
from uuid import UUID

import pytest

from tests.core.by_hand import Trainee
from tests.e2e.axe import faults_of
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.drills import DRILLS
from velvet_hand.core.setup import events as ev
from velvet_hand.store.practices import Bench

TITLES = {drill.id: drill.title for drill in DRILLS}
#: What the drawn needle tells whoever cannot see it.
DIAL = "svg.dial"
STANDS = re.compile(r"stands about (\d+) marks to the (plus|minus) side")


def begun(page: Any, drill: str, advice: str) -> str:
    """Chosen from the list by keys; returns the practice's id."""
    page.goto("/practice")
    page.get_by_text("Next for you").wait_for()
    page.get_by_role("radio", name=advice, exact=True).focus()
    page.keyboard.press("Space")
    page.get_by_role("button", name=TITLES[drill]).first.focus()
    page.keyboard.press("Enter")
    page.locator("[data-part=reading]").wait_for()
    return str(page.url.rsplit("/", 1)[-1])


class AtTheBench(Trainee):
    """Does by keys what the trainee does; what stands on the bench is looked up where it is kept."""

    def __init__(self, page: Any, practice_id: str) -> None:
        self.page, self.id, self.acts = page, UUID(practice_id), []
        self.session, self.seq = Bench().get(self.id)

    def do(self, body: acts.Anything) -> None:
        match body:
            case acts.Hand(control=control, amount=amount):
                self._hold(control)
                kind = self.control(control).kind
                assert kind == "tap"
                self.page.keyboard.press("Shift+Space" if amount > 1 else "Space")
            case acts.Done(body=ev.ReadingTaken() as taken):
                self.page.keyboard.press("n")
                self._at_rest()
                self.page.keyboard.type(taken.typed.text + " mm")
                self.page.keyboard.press("Enter")
            case acts.Done():
                self.page.keyboard.press("Enter")
            case acts.Good():
                self.page.keyboard.press("g")
            case _:
                raise AssertionError(body)
        self.page.wait_for_function("n => Number(document.querySelector('.practice')?.dataset.seq) > n", arg=self.seq)
        self.page.wait_for_function("() => !document.querySelector('[data-busy]')")
        self.session, self.seq = Bench().get(self.id)

    def _act(self, event: ev.ClientBody) -> None:
        """One Enter tells all that the button tells."""
        panel = self.session.panel.primary
        if panel is None or event != panel.events[0]:
            return
        wanted = self.seq + len(panel.events)
        super()._act(event)
        self.page.wait_for_function("n => Number(document.querySelector('.practice')?.dataset.seq) >= n", arg=wanted)
        self.session, self.seq = Bench().get(self.id)

    def _hold(self, control: str) -> None:
        label = self.control(control).label
        for _ in self.session.controls:
            if self.page.get_by_role("radio", name=label, checked=True).count():
                return
            self.page.keyboard.press("ArrowDown")
        assert self.page.get_by_role("radio", name=label, checked=True).count(), label

    def _at_rest(self) -> None:
        """The spot is under the stylus, and the needle stands still."""
        self.page.wait_for_function("() => document.querySelector('.practice')?.dataset.rests !== undefined")

    def marks(self) -> int:
        """What the drawn dial shows, in whole marks."""
        self._at_rest()
        found = STANDS.search(str(self.page.locator(DIAL).get_attribute("aria-label")))
        assert found is not None
        return int(found[1]) * (1 if found[2] == "plus" else -1)


def test_a_vise_is_squared_by_keys_with_the_advice_shown(page: Any) -> None:
    person = AtTheBench(page, begun(page, "two_minutes", "full"))
    assert faults_of(page) == []
    person.work(6)
    page.get_by_text("Well done").wait_for()
    assert faults_of(page) == []
    page.get_by_role("link", name="To the list").press("Enter")
    page.locator(".board li").first.wait_for()


@pytest.mark.parametrize("size", [(1280, 800), (1024, 768), (800, 1280)])
def test_an_oval_part_is_read_off_the_dial_and_called_by_its_name(page: Any, size: tuple[int, int]) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    person = AtTheBench(page, begun(page, "oval", "when I ask"))
    mark = person.session.person.plan.gauge.graduation_mm
    shown = {}
    for station in person.session.person.state.stations:
        page.keyboard.press("n")
        shown[station.id] = person.marks()
        assert shown[station.id] == pytest.approx(person.needle(station.id) / mark, abs=0.8)
        person.read()
    assert page.evaluate("() => document.documentElement.scrollWidth <= window.innerWidth")
    page.keyboard.press("h")
    page.locator("[data-part=advice]", has_text="Opposite spots read alike").wait_for()
    page.keyboard.press("f")
    page.get_by_role("dialog", name="What is the matter?").wait_for()
    page.keyboard.press("c")
    page.get_by_text("Well done").wait_for()
    page.get_by_text("The habit to keep").wait_for()


def test_two_schools_are_watched_step_by_step(page: Any) -> None:
    page.goto("/practice")
    page.get_by_role("link", name="Both pairs, or pair by pair").press("Enter")
    page.get_by_role("heading", name="both pairs at once").wait_for()
    assert faults_of(page) == []
    for _ in range(3):
        page.keyboard.press("ArrowRight")
    before = page.locator("section li").count()
    page.keyboard.press("End")
    page.get_by_text("is quicker, by").or_(page.get_by_text("take as long")).wait_for()
    assert page.locator("section li").count() > before
    page.keyboard.press("Home")
    assert page.locator("section li").count() < before
