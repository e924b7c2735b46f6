"""Refresh docs/screenshots from a running demo: python -m scripts.screenshots http://127.0.0.1:8300

VELVET_DATABASE_URL has to be the demo's: each procedure is worked up to its first move there.
"""

from __future__ import annotations

import math
import os
import re
import sys
from datetime import date
from pathlib import Path
from typing import Any
from uuid import uuid4

from playwright.sync_api import sync_playwright

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advice.builder import state_closed
from velvet_hand.core.procedures.registry import samples
from velvet_hand.core.sim.sample import Sample
from velvet_hand.demo import worked
from velvet_hand.store import database as db
from velvet_hand.store import setups

FOLDER = Path(__file__).resolve().parent.parent / "docs" / "screenshots"


def shot(page: Any, name: str) -> None:
    page.wait_for_timeout(600)
    page.screenshot(path=str(FOLDER / f"{name}.png"), animations="disabled")


def planned(page: Any, part: str, limit: str) -> None:
    page.goto("/plan?machine=bramble&holder=four-jaw-200")
    page.get_by_role("textbox", name="Part", exact=True).fill(part)
    page.get_by_role("textbox", name="Diameter where it is read").fill("62 mm")
    page.get_by_role("textbox", name="True within").fill(limit)


def to_the_first_reading(page: Any) -> None:
    page.keyboard.press("Control+Enter")
    to_the_first_reading_here(page)


def to_the_first_reading_here(page: Any) -> None:
    page.locator("[data-part=headline]", has_text="Make safe").wait_for()
    for key in "12345":
        page.keyboard.press(key)
    for key, then in (("Enter", "Clean"), ("Enter", "jaw"), ("Enter", "Which way"), ("+", "zero"), ("Enter", "Read")):
        page.keyboard.press(key)
        page.locator("[data-part=headline]", has_text=then).wait_for()


def readings(page: Any, values: list[str]) -> None:
    for value in values:
        page.wait_for_function("() => !document.querySelector('[data-busy]')")
        page.keyboard.type(value)
        page.keyboard.press("Enter")
    page.wait_for_function("() => !document.querySelector('.cell.waits')")


def take_all(browser: Any, base: str) -> None:
    light = {"viewport": {"width": 1280, "height": 800}, "base_url": base, "locale": "en-GB", "color_scheme": "light"}
    page = browser.new_context(**light).new_page()
    page.add_init_script("localStorage.setItem('velvet-hand.prefs', JSON.stringify({ author: 'Ode', asked: true }))")
    page.goto("/")
    page.get_by_text("Go on").first.wait_for()
    shot(page, "bench")
    for address, name in (("/logbook", "logbook"), ("/shop", "shop")):
        page.goto(address)
        shot(page, name)
    page.goto("/job")
    for label, text in (("Part", "Inking drum core"), ("Diameter", "2.44"), ("Length", "3"), ("True within", "1")):
        page.get_by_role("textbox", name=label, exact=True).fill(text)
    page.locator("li[role=option]").first.wait_for()
    shot(page, "job")
    page.goto("/work-it-out/sine?unit=mm&angle=5°30'")
    page.locator("#sum-title").wait_for()
    shot(page, "work-it-out")
    page.get_by_text("thou", exact=True).click()
    page.goto("/history/holder/four-jaw-200")
    page.get_by_text("each set-up").first.wait_for()
    shot(page, "history")
    page.goto("/logbook")
    page.get_by_role("textbox", name="Look for any word").fill("Impression cylinder")
    page.get_by_role("link", name="Impression cylinder journal", exact=True).click()
    shot(page, "log-page")
    paper = page.get_by_role("link", name="Record", exact=True).get_attribute("href")
    page.goto(f"{paper}&size=a4")
    shot(page, "record")
    planned(page, "Cam blank, second", "0.2")
    page.get_by_text("more than a quarter").wait_for()
    shot(page, "plan")
    page.get_by_role("textbox", name="True within").fill("1")
    to_the_first_reading(page)
    readings(page, ["0", "3.9", "-4.8", "-8.7"])
    shot(page, "set-up")
    page.keyboard.press("r")
    page.locator("[data-part=headline]", has_text="Read jaw 1").wait_for()
    readings(page, ["0", "0.1", "0.05", "-0.05"])
    while page.locator("[data-part=headline]", has_text="Look at").count():
        page.keyboard.press("k")  # nothing was moved, so it asks whether that can be
        page.wait_for_timeout(300)
    page.locator("[data-part=headline]", has_text="Good.").wait_for()
    page.keyboard.press("Enter")
    page.locator("[data-part=headline]", has_text="opposite sides").wait_for()
    page.keyboard.press("f")
    page.locator("[data-part=headline]", has_text="Everything is tight").wait_for()
    readings(page, ["0", "0.05", "0.15", "0.1", "0.05", "0", "-0.1", "-0.05", "0"])
    page.locator(".label", has_text="is complete").wait_for()
    shot(page, "proof")
    dark = browser.new_context(**{**light, "color_scheme": "dark"}).new_page()
    planned(dark, "Ink roller stock, bore", "2")
    dark.get_by_text("a bore").click()
    dark.get_by_text("8 spots").click()
    to_the_first_reading(dark)
    readings(dark, [f"{5 * math.cos(math.radians(45 * i - 60)):.1f}" for i in range(8)])
    shot(dark, "bore-dark")


def take_live(browser: Any, base: str) -> None:
    """The set-up that waits for the simulated indicator, by one key up to its first move; and one gone through step by step."""
    page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base, locale="en-GB").new_page()
    page.goto("/logbook?words=Cam+follower")
    page.get_by_role("textbox", name="Look for any word").fill("Cam follower")
    page.get_by_role("link", name="Cam follower, live needle").click()
    page.get_by_role("link", name="Go on").click()
    to_the_first_reading_here(page)
    while not page.locator("[data-part=aim]").count():
        page.wait_for_timeout(1800)  # the hand at the simulated machine turns the chuck
        page.keyboard.press("Space")
        page.wait_for_timeout(400)
    page.wait_for_timeout(2600)
    shot(page, "live")
    page.goto("/logbook")
    page.get_by_role("textbox", name="Look for any word").fill("Side lay spindle")
    page.get_by_role("link", name="Side lay spindle", exact=True).click()
    page.get_by_role("link", name="Step by step").click()
    page.locator(".replay").wait_for()
    page.get_by_role("slider").fill("14")
    page.locator(".replay[data-seq='14']").wait_for()
    shot(page, "replay")


def take_practice(browser: Any, base: str) -> None:
    """The list, and the vise with its spots read and the answer asked for."""
    page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base, locale="en-GB").new_page()
    page.goto("/practice")
    page.get_by_text("Next for you").wait_for()
    shot(page, "practice-list")
    page.get_by_role("button", name="Full instead of half").first.click()
    page.locator("[data-part=reading]").wait_for()
    for _ in range(8):
        page.keyboard.press("n")
        page.wait_for_timeout(700)
        told = re.search(r"(\d+) marks to the (plus|minus)", str(page.locator("svg.dial").get_attribute("aria-label")))
        assert told is not None
        page.keyboard.type(f"{int(told[1]) / 2 * (1 if told[2] == 'plus' else -1)}")
        page.keyboard.press("Enter")
        page.wait_for_timeout(250)
    for key in ("h", "ArrowDown", "Shift+ArrowLeft"):
        page.keyboard.press(key)
    shot(page, "practice")


def at_its_first_move(procedure_id: str, sample: Sample) -> str:
    """The sample once more, left standing where the first move (or the finding) is on the screen; its set-up's id."""
    operator = worked.start(sample, worked.plan_of(procedure_id, sample, date.today()))
    procedure = desk.procedure_of(operator.plan)
    while operator.step():
        state, solution = operator.state, procedure.solve(operator.state)
        current = state.open_pass
        shown = solution.told or any(sample.shown in (None, move.do) for move in solution.moves[:1])
        if current and state_closed(state, current) and shown:
            break
    setup_id = uuid4()
    setups.open_setup(setup_id, operator.events[0].model_copy(update={"id": uuid4()}))
    for event in operator.events[1:]:
        setups.append(setup_id, uuid4(), event.at, sample.author, event.body)  # type: ignore[arg-type]
    return str(setup_id)


def take_worked(browser: Any, base: str) -> None:
    page = browser.new_context(viewport={"width": 1280, "height": 800}, base_url=base, locale="en-GB").new_page()
    for procedure_id, sample in samples():
        if sample.picture:
            page.goto(f"/set-up/{at_its_first_move(procedure_id, sample)}")
            page.locator("[data-part=headline]").wait_for()
            shot(page, sample.picture)


def main() -> None:
    with sync_playwright() as playwright:
        browser = playwright.chromium.launch(
            executable_path="/usr/bin/chromium-headless-shell", args=["--no-sandbox", "--disable-gpu"]
        )
        base = sys.argv[1] if len(sys.argv) > 1 else "http://127.0.0.1:8300"
        take_all(browser, base)
        take_live(browser, base)
        take_practice(browser, base)
        database = db.connect(os.environ["VELVET_DATABASE_URL"])
        with database.connection_context():
            take_worked(browser, base)
        browser.close()


if __name__ == "__main__":
    main()
