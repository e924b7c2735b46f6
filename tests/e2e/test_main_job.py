"""The main job, in the browser, with the keyboard alone."""

from __future__ import annotations

from typing import Any

from .machinist import Machinist


def test_a_part_is_set_up_from_bench_to_logbook(page: Any) -> None:
    person = Machinist(page)
    person.plan("Cam blank, keyboard")
    page.get_by_text("nor name a bad spot").wait_for()
    setup_id = person.open()
    person.take(setup_id)
    person.make_ready()
    person.correct_until_ready(setup_id)
    page.keyboard.press("Enter")
    person.shows("in steps, opposite sides in turn")
    assert person.chuck is not None
    person.chuck.tighten()
    page.keyboard.press("Enter")
    person.shows("Everything is tight")
    for _ in range(6):
        person.read_pass()
        page.locator(".label", has_text="is complete").wait_for()
        page.keyboard.press("Enter")
        page.wait_for_timeout(400)
        if "Clear to run" in person.headline():
            break
        while "to the aim" in person.headline():
            person.make_move(setup_id)
        person.correct_until_ready(setup_id)
        page.keyboard.press("Enter")
        person.shows("in steps, opposite sides in turn")
        person.chuck.tighten()
        page.keyboard.press("Enter")
        person.shows("Everything is tight")
    person.hold_point("Clear to run")
    person.shows("Holds")
    assert person.chuck.true_tir_mm <= 0.0254
    page.goto("/logbook")
    row = page.get_by_role("row", name="Cam blank, keyboard")
    row.get_by_text("Holds").wait_for()
    page.get_by_role("link", name="Cam blank, keyboard").click()
    page.get_by_text("Everything tight.").wait_for()
