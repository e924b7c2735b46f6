"""The main job, in the browser, with the keyboard alone."""

from __future__ import annotations

from typing import Any
from uuid import UUID

import pytest

from velvet_hand.core.desk import desk
from velvet_hand.store import setups

from .machinist import Machinist


def test_a_part_is_set_up_from_bench_to_logbook(page: Any) -> None:
    person = Machinist(page)
    person.plan("Cam blank, keyboard")
    page.get_by_text("nor name a bad spot").wait_for()
    setup_id = person.open()
    person.take(setup_id)
    person.make_ready()
    person.work_until_clear(setup_id)
    assert person.chuck is not None
    person.hold_point("Clear to run")
    person.shows("Holds")
    assert person.chuck.true_tir_mm <= 0.0254
    page.goto("/logbook")
    row = page.get_by_role("row", name="Cam blank, keyboard")
    row.get_by_text("Holds").wait_for()
    page.get_by_role("link", name="Cam blank, keyboard").click()
    page.get_by_text("Everything tight; a quick look next.").first.wait_for()


def test_what_a_step_asks_to_measure_is_taken_before_it_is_left(page: Any) -> None:
    person = Machinist(page)
    person.plan("Idler stud")
    setup_id = person.open()
    person.hold_point("Make safe")
    person.shows("Clean")
    page.keyboard.press("Enter")
    person.shows("Set each jaw")
    gap = page.get_by_role("textbox", name="Gap between opposite jaws now")
    gap.focus()
    page.keyboard.type("wide")
    page.keyboard.press("Enter")
    page.get_by_role("alert").get_by_text("“wide” is not a length.").wait_for()
    assert gap.input_value() == "wide"
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type("1.97")  # a shop that works in thou has its sizes in inches
    page.get_by_role("button", name="Done").press("Enter")
    page.get_by_text("It is taken").wait_for()
    assert page.get_by_role("alert").count() == 0
    page.get_by_role("button", name="Done").press("Enter")
    person.shows("Press the part")
    assert desk.load(setups.events_of(UUID(setup_id))).gap_mm == pytest.approx(1.97 * 25.4)
