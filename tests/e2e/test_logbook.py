"""The Logbook by keys: found by a word, what the part measured, the same again held against the last time, side by side, looked back at."""

from __future__ import annotations

from dataclasses import replace
from typing import Any
from uuid import UUID

import numpy as np
import pytest

from tests.e2e.axe import faults_of
from tests.e2e.machinist import QUIRKS, Beside, Machinist
from velvet_hand.core.desk import desk
from velvet_hand.store import setups

TRUE = replace(QUIRKS, offset_mm=0.0, kick_mm=0.0, noise_mm=0.0, push_reads=1)


def proved(page: Any, part: str) -> str:
    """A set-up that is true from the start, opened by keys, and proved elsewhere."""
    person = Machinist(page, TRUE)
    person.plan(part)
    setup_id = person.open()
    person.take(setup_id)
    assert person.chuck is not None
    Beside(setup_id, person.chuck, np.random.default_rng(5)).run()
    return setup_id


def test_a_set_up_is_found_measured_made_again_compared_and_looked_back_at(page: Any) -> None:
    setup_id = proved(page, "Frisket hinge pin")
    page.goto("/logbook")
    page.wait_for_function("() => document.activeElement.getAttribute('aria-label')?.startsWith('Look for')")
    page.keyboard.type("frisk BRAMBLE")
    page.get_by_role("link", name="Frisket hinge pin").wait_for()
    assert faults_of(page) == []
    page.get_by_role("link", name="Frisket hinge pin").press("Enter")
    page.get_by_text("What did the part measure?").wait_for()
    page.get_by_role("textbox", name="It measured").focus()
    page.keyboard.type("0.4x")
    page.keyboard.press("Enter")
    page.get_by_role("alert").wait_for()
    page.keyboard.press("Backspace")
    page.keyboard.press("Enter")
    page.get_by_text("Piece 1 measured").first.wait_for()
    assert faults_of(page) == []
    assert len(desk.load(setups.events_of(UUID(setup_id))).measured) == 1

    page.get_by_role("textbox", name="What to look at").focus()
    page.keyboard.type("Wear of jaw 2")
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Done", exact=True).wait_for()
    assert faults_of(page) == []

    page.get_by_role("link", name="Same again").press("Enter")
    page.get_by_role("heading", name="The same again").wait_for()
    page.wait_for_function("() => document.querySelector('[aria-label=Part]')?.value === 'Frisket hinge pin'")
    person = Machinist(page, TRUE)
    page.keyboard.press("Control+Enter")
    page.wait_for_url("**/set-up/*")
    page.locator("[data-part=headline]").wait_for()
    again = str(page.url.rsplit("/", 1)[-1])
    person.take(again)
    person.make_ready()
    person.read_pass()
    page.get_by_text("It stands as it was left on").wait_for()

    page.goto(f"/compare?a={setup_id}")
    page.locator("li .button", has_text="Frisket hinge pin").first.press("Enter")
    page.get_by_role("heading", name="Frisket hinge pin").nth(1).wait_for()
    assert faults_of(page) == []
    page.goto("/history/holder/four-jaw-200")
    page.get_by_text("1 of 1").wait_for()
    page.get_by_role("button", name="Strike: Frisket").first.press("Enter")
    page.get_by_role("button", name="Let count again: Frisket").wait_for()
    assert faults_of(page) == []


@pytest.mark.parametrize("size", [(1024, 768), (768, 1024)])
def test_nothing_is_cut_off_on_smaller_screens(page: Any, size: tuple[int, int]) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for address, there in (
        ("/logbook", "Any verdict"),
        ("/history/machine/bramble", "set-up"),
        ("/history/hand/Nobody", "Nobody"),
    ):
        page.goto(address)
        page.get_by_text(there).first.wait_for()
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth"), address
