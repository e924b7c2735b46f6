"""Beside the set-ups: Work it out by keys alone, with links and notes; the whole installation in one file and back."""

from __future__ import annotations

from pathlib import Path
from typing import Any
from uuid import UUID

import pytest

from tests.e2e.axe import faults_of
from tests.e2e.machinist import QUIRKS, Machinist
from velvet_hand.core.sums.registry import SUMS
from velvet_hand.store import setups

FIND = "#find-sum"
TITLE = "#sum-title"
#: What is of one sum alone; the list beside it is looked at once.
SUM = "{include: [['section.picture'], ['section.sum']]}"


def text_of(page: Any, figure: str) -> str:
    return str(page.input_value(f"#sum-{figure}"))


def follows(page: Any, figure: str, text: str) -> None:
    page.wait_for_function(
        "([id, text]) => document.getElementById(id)?.value === text", arg=[f"sum-{figure}", text]
    )  # fmt: skip


def test_every_sum_opens_from_a_typed_word_and_is_free_of_axe_faults(page: Any) -> None:
    page.goto("/work-it-out")
    page.get_by_role("link", name="TIR and off center").wait_for()
    assert faults_of(page) == []
    for one in SUMS.values():
        page.keyboard.press("Escape")
        page.keyboard.press("/")
        page.keyboard.type(one.title.lower())
        page.keyboard.press("Enter")
        page.locator(TITLE, has_text=one.title).wait_for()
        page.locator("main svg[role=img]").wait_for()
        assert faults_of(page, within=SUM) == []


def test_a_figure_is_typed_the_others_follow_and_the_sum_is_turned_round(page: Any) -> None:
    page.goto("/")
    page.get_by_role("heading", name="Standing now").wait_for()
    page.keyboard.press("=")
    page.locator(FIND).wait_for()
    page.locator(f"{FIND}:focus").wait_for()
    page.get_by_role("link", name="Sine bar").wait_for()
    page.keyboard.type("sine stack")
    page.keyboard.press("Enter")
    page.locator(TITLE, has_text="Sine bar").wait_for()
    page.get_by_label("Angle", exact=True).focus()
    page.keyboard.type("30")
    follows(page, "height", "1.9685")  # in inches: the screen is in thou
    page.get_by_label("Stack height").focus()
    page.keyboard.type("50 mm")
    follows(page, "angle", "30.0000")
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type("120 mm")
    page.get_by_role("alert").filter(has_text="upright").wait_for()
    assert text_of(page, "height") == "120 mm"
    page.keyboard.press("ControlOrMeta+a")
    page.keyboard.type("25 mm")
    follows(page, "angle", "14.4775")
    page.get_by_label("Between the rolls").focus()
    page.keyboard.press("Delete")  # what is emptied follows, and stays empty while somebody is in it
    page.locator(".figure.follows", has_text="Between the rolls").wait_for()
    assert text_of(page, "bar") == ""
    page.keyboard.type("100 mm")
    follows(page, "angle", "14.4775")
    page.get_by_text("mm", exact=True).click()
    follows(page, "height", "25.000")  # the same length in another unit
    page.wait_for_url("**height=25.000**")
    page.goto(page.url)
    follows(page, "angle", "14.4775")
    follows(page, "height", "25.000")


def test_a_sum_is_noted_in_the_set_up_that_stands(page: Any) -> None:
    person = Machinist(page, QUIRKS)
    person.plan("Cam blank")
    setup_id = person.open()
    page.goto("/work-it-out/key?unit=mm&move=0.3&lead=5")
    follows(page, "turn", "21.6")
    page.keyboard.press("n")
    page.get_by_role("button", name="Cam blank").press("Enter")
    page.get_by_text("in the log of that set-up").wait_for()
    page.goto(f"/set-up/{setup_id}")
    page.locator("[data-part=headline]").wait_for()
    page.keyboard.press("l")
    page.get_by_text("Turn of the key: Jaw moves by 0.3 mm").wait_for()
    noted = setups.read(UUID(setup_id)).state.notes
    assert "21.6°" in noted[0]


def test_pasted_rubbish_is_told_with_its_line_and_kept(page: Any) -> None:
    page.goto("/work-it-out/plane")
    box = page.get_by_label("x, y and reading")
    box.fill("0 0 0\n100 0 a chip\n0 80 1")
    page.get_by_role("alert").filter(has_text="line 2").wait_for()
    assert box.input_value() == "0 0 0\n100 0 a chip\n0 80 1"
    box.fill("0 0 0\n4 0 1\n0 4 1")
    page.get_by_role("alert").wait_for(state="detached")
    assert faults_of(page) == []


@pytest.mark.parametrize("size", [(1024, 768), (768, 1024)])
def test_nothing_is_cut_off_on_smaller_screens(page: Any, size: tuple[int, int]) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    for sum_id in ("sine", "planes", "circle"):
        page.goto(f"/work-it-out/{sum_id}")
        page.locator(TITLE).wait_for()
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
        for name in ("Note it in a set-up", "Copy link"):
            button = page.get_by_role("button", name=name)
            button.scroll_into_view_if_needed()
            box = button.bounding_box()
            assert box["x"] >= 0
            assert box["x"] + box["width"] <= size[0]
            assert box["height"] >= 48


def test_everything_is_taken_away_in_one_file_and_read_back(page: Any, tmp_path: Path) -> None:
    page.goto("/shop")
    with page.expect_download() as taken:
        page.get_by_role("link", name="Take it with you").click()
    file = tmp_path / "shop.zip"
    taken.value.save_as(file)
    page.get_by_label("Read one back").set_input_files(file)
    page.get_by_role("status").filter(has_text="Nothing new in it").wait_for()
    broken = tmp_path / "broken.zip"
    broken.write_bytes(file.read_bytes()[:-300])
    page.get_by_label("Read one back").set_input_files(broken)
    page.get_by_role("alert").filter(has_text="no archive of Velvet Hand").wait_for()
    assert faults_of(page) == []
