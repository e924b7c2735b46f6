"""A job is planned by keys: told once, the ways to hold it compared, and the set-up started from it with nothing typed twice."""

from __future__ import annotations

from typing import Any

import pytest

from tests.e2e.axe import faults_of
from tests.e2e.layout import hidden_of


def tell(page: Any, label: str, text: str) -> None:
    page.get_by_role("textbox", name=label, exact=True).focus()
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type(text)


def test_a_part_is_told_once_and_its_set_up_started(page: Any) -> None:
    page.goto("/job")
    page.get_by_text("Say how large it is").wait_for()
    assert faults_of(page) == []
    tell(page, "Part", "Ink fountain shaft")
    tell(page, "Diameter", "62 mm")
    tell(page, "True within", "1")
    page.locator("li[role=option]").first.wait_for()
    page.get_by_text("left for the set-up").wait_for()
    assert faults_of(page) == []
    assert hidden_of(page, ".job") == []
    page.get_by_role("option", name="Four-jaw 200").focus()
    page.locator("[role=option][aria-selected=true]", has_text="Four-jaw 200").wait_for()
    page.keyboard.press("ArrowDown")
    page.keyboard.press("ArrowUp")
    page.locator("[role=option][aria-selected=true]", has_text="Four-jaw 200").wait_for()
    page.keyboard.press("ControlOrMeta+Enter")
    page.get_by_role("heading", name="Plan a set-up").wait_for()
    page.wait_for_function("() => document.querySelector('[aria-label=Part]')?.value === 'Ink fountain shaft'")
    assert page.get_by_role("textbox", name="Diameter where it is read").input_value() == "62 mm"
    assert page.get_by_role("textbox", name="True within").input_value() == "1"
    page.get_by_text("Four-jaw 200").first.wait_for()
    page.keyboard.press("Control+Enter")
    page.locator("[data-part=headline]", has_text="Make safe").wait_for()
    page.goto("/job")  # it is still told there
    page.wait_for_function("() => document.querySelector('[aria-label=Diameter]')?.value === '62 mm'")


def test_a_part_goes_through_two_operations(page: Any) -> None:
    page.goto("/job")
    tell(page, "Part", "Bearing housing")
    tell(page, "Diameter", "62 mm")
    tell(page, "True within", "1")
    page.locator("li[role=option]").first.wait_for()
    for name in ("First side", "Second side"):
        page.get_by_role("button", name="Add what is chosen").press("Enter")
        page.wait_for_function(
            "name => [...document.querySelectorAll('.order li input')].some((one) => one.value === name)", arg=name
        )
    page.get_by_text("“First side” comes before it.").wait_for()
    assert faults_of(page) == []
    leaves = page.get_by_role("textbox", name="What First side leaves for the next")
    leaves.fill("Face A cut, mark at jaw 1")
    leaves.press("Tab")
    page.get_by_text("First side leaves: Face A cut").wait_for()
    page.locator(".order li").first.get_by_role("button", name="Start").press("Enter")
    page.get_by_text("Bearing housing, First side.").wait_for()
    page.wait_for_function("() => document.querySelector('[aria-label=Part]')?.value === 'Bearing housing'")
    page.keyboard.press("Control+Enter")
    page.locator("[data-part=headline]", has_text="Make safe").wait_for()
    page.goto("/job")
    page.locator(".order li").first.get_by_text("At it").wait_for()
    page.locator(".order li").nth(1).get_by_role("button", name="Start").press("Enter")
    page.get_by_text("First side leaves: Face A cut").wait_for()
    assert faults_of(page) == []


def test_nonsense_is_told_at_its_field_and_what_is_ruled_out_is_not_started(page: Any) -> None:
    page.goto("/job")
    tell(page, "Diameter", "wide")
    tell(page, "True within", "0.00001")
    page.get_by_text("“wide” is not a length.").wait_for()
    page.get_by_role("alert").filter(has_text="Correct the marked field first.").wait_for()
    tell(page, "Diameter", "62 mm")
    tell(page, "Mass", "heavy")
    page.get_by_text("“heavy” cannot be read").wait_for()
    tell(page, "Mass", "13 kg")
    page.get_by_text("too much").wait_for()
    page.get_by_text("Cannot work").first.wait_for()
    assert page.get_by_role("button", name="Start it").is_disabled()
    page.get_by_role("button", name="Another part").click()
    page.get_by_text("Say how large it is").wait_for()


@pytest.mark.parametrize("size", [(1024, 768), (768, 1024)])
def test_nothing_is_cut_off_on_smaller_screens(page: Any, size: tuple[int, int]) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto("/job")
    tell(page, "Diameter", "62 mm")
    tell(page, "True within", "1")
    page.locator("li[role=option]").first.wait_for()
    assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
    button = page.get_by_role("button", name="Start it")
    button.scroll_into_view_if_needed()
    box = button.bounding_box()
    assert box["height"] >= 48
    assert box["x"] + box["width"] <= size[0]
