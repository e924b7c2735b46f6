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
