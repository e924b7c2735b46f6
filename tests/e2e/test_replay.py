"""A set-up gone through step by step: what stood on the screen then stands there again, by keys, slider and by itself."""

from __future__ import annotations

from typing import Any
from uuid import UUID

from tests.e2e.axe import faults_of
from tests.e2e.test_logbook import proved
from velvet_hand.core.desk import desk
from velvet_hand.core.wording import plain
from velvet_hand.store import setups


def test_every_step_shows_what_stood_there_then(page: Any) -> None:
    setup_id = proved(page, "Tympan roller")
    events = setups.events_of(UUID(setup_id))
    page.goto(f"/logbook/{setup_id}")
    page.get_by_role("link", name="Step by step").press("Enter")
    page.locator(".replay[data-seq='1']").wait_for()
    assert faults_of(page) == []
    for key, seq in (
        ("ArrowRight", 2),
        ("ArrowRight", 3),
        ("End", len(events)),
        ("ArrowLeft", len(events) - 1),
        ("Home", 1),
    ):
        page.keyboard.press(key)
        page.locator(f".replay[data-seq='{seq}']").wait_for()
        view = desk.show(events[:seq], setup_id)
        said = plain(view.panels[0].headline, "thou", view.resolution_mm).replace(" ± ", "\u00a0±\u00a0")
        assert page.locator("[data-part=headline]").inner_text() == said
        assert f"{seq} of {len(events)}" in page.locator("p.done").inner_text()
    page.get_by_role("slider").fill("5")
    page.locator(".replay[data-seq='5']").wait_for()
    page.get_by_role("radio", name="100×").check(force=True)
    page.keyboard.press("Space")
    page.locator(f".replay[data-seq='{len(events)}']").wait_for()  # played to its end
    page.get_by_role("button", name="Play").wait_for()
    assert len(setups.events_of(UUID(setup_id))) == len(events)  # looking changes nothing


def test_something_else_is_done_from_a_step_by_keys(page: Any) -> None:
    """W, at a machine that answers as the log says; its own step is where it comes back to."""
    setup_id = proved(page, "Gripper bar")
    events = setups.events_of(UUID(setup_id))
    last = max(e.seq for e in events if e.body.type == "reading_taken")
    page.goto(f"/replay/{setup_id}")
    page.locator(".replay").wait_for()
    page.get_by_role("slider").fill(str(last))
    page.locator(f".replay[data-seq='{last}']").wait_for()
    page.keyboard.press("w")
    page.wait_for_url("**/practice/*")
    page.get_by_text("What if: Gripper bar").wait_for()
    assert faults_of(page) == []
    page.keyboard.press("g")
    page.get_by_text("As it was:").wait_for()
    page.get_by_role("link", name="To its replay").press("Enter")
    page.locator(".replay").wait_for()
    assert len(setups.events_of(UUID(setup_id))) == len(events)
