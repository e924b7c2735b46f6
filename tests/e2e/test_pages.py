"""What happens at a tablet: the server dies, two tablets share a set-up, keys, marks, nonsense, every page readable."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

import pytest

from tests.e2e.axe import COLORS, EVERYTHING, faults_of
from tests.e2e.machinist import QUIRKS, Machinist
from tests.e2e.waiting import settled, watch
from velvet_hand.core.desk import desk
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.store import setups

CELL = "[data-station='{}']"


def at_the_first_reading(page: Any, part: str) -> tuple[Machinist, str]:
    person = Machinist(page, replace(QUIRKS, push_reads=1))
    person.plan(part)
    setup_id = person.open()
    person.take(setup_id)
    person.make_ready()
    return person, setup_id


def type_reading(page: Any, text: str) -> None:
    page.keyboard.type(text)
    page.keyboard.press("Enter")


def readings(setup_id: str) -> list[str]:
    state = desk.load(setups.events_of(UUID(setup_id)))
    return [r.typed.text for one in state.passes for r in one.readings.values()]


#: So many events are written down in the browser: on a slow machine that takes longer than it takes to show them.
WRITTEN = """async (count) => {
    const got = (asked) => new Promise((done) => (asked.onsuccess = () => done(asked.result)))
    const kept = await got(indexedDB.open('velvet-hand'))
    while ((await got(kept.transaction('outbox').objectStore('outbox').count())) < count);
    kept.close()
}"""


@pytest.mark.opens_offline
def test_readings_survive_a_server_that_is_killed_and_a_reload(page: Any, server: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Side lay spindle")
    type_reading(page, "1")
    page.locator(CELL.format("Jaw 1"), has_text="+1.00").wait_for()
    page.wait_for_function("() => navigator.serviceWorker.controller !== null")  # it has all files by then
    server.kill()
    for text in ("-2.5", "3"):
        type_reading(page, text)
    page.locator(CELL.format("Jaw 2"), has_text="waiting").wait_for()
    page.get_by_text("2 waiting to go up").wait_for()
    page.get_by_text("The server does not answer.").first.wait_for()
    type_reading(page, "1.5")  # it goes on being typed
    assert page.locator("[data-part=reading]").get_attribute("aria-label") == "Reading at Jaw 1 again"
    assert readings(setup_id) == ["1"]
    page.evaluate(WRITTEN, 3)
    page.reload()  # with nobody there: the page opens all the same, and goes on
    page.locator(CELL.format("Jaw 2"), has_text="waiting").wait_for()
    page.get_by_text("3 waiting to go up").wait_for()
    page.wait_for_function("() => document.activeElement.dataset.part === 'reading'")
    type_reading(page, "1")
    server.start()
    page.reload()
    page.locator(CELL.format("Jaw 4"), has_text="+1.50").wait_for()
    page.wait_for_function("() => !document.querySelector('.cell.waits')")
    assert readings(setup_id) == ["1", "-2.5", "3", "1.5"]
    assert desk.load(setups.events_of(UUID(setup_id))).passes[0].closings


#: Holds back what a page sends until it is let go.
HOLD = """() => {
    const send = window.fetch
    const gate = new Promise((resolve) => (window.letGo = resolve))
    window.fetch = async (request) => {
        if (request.method === 'POST') await gate
        return send(request)
    }
}"""


def see_each_other(page: Any, other: Any, setup_id: str) -> None:
    """Open the set-up in another page; what is typed in one of them stands in both."""
    other.goto(f"/set-up/{setup_id}")
    other.locator("[data-part=headline]", has_text="Read jaw 1").wait_for()
    type_reading(page, "4")
    other.locator(CELL.format("Jaw 1"), has_text="+4.00").wait_for()
    type_reading(other, "2")
    page.locator(CELL.format("Jaw 2"), has_text="+2.00").wait_for()


def test_two_tablets_see_each_other(page: Any, browser: Any, server: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Gripper bar pivot")
    other = watch(browser.new_context(viewport={"width": 1280, "height": 800}, base_url=server.url).new_page())
    see_each_other(page, other, setup_id)
    # Both type the same spot: one is kept, the other is told, and its number is still there.
    server_side = page.locator("[data-part=reading]")
    assert server_side.get_attribute("aria-label") == "Reading at Jaw 3"
    page.evaluate(HOLD)  # what is sent from here stays on its way until the other one's is there
    type_reading(page, "-4")
    type_reading(other, "-3.5")
    other.locator(CELL.format("Jaw 3"), has_text="-3.50".replace("-", "−")).wait_for()
    page.evaluate("() => window.letGo()")
    page.get_by_text("has been read in pass 1 already").wait_for()
    assert readings(setup_id) == ["4", "2", "-3.5"]
    other.context.close()


def test_two_tabs_of_a_browser_hear_by_one_stream(page: Any) -> None:
    streams: list[str] = []
    page.context.on("request", lambda one: streams.append(one.url) if one.url.endswith("/stream") else None)
    _, setup_id = at_the_first_reading(page, "Ink drum pin")
    tab = watch(page.context.new_page())
    see_each_other(page, tab, setup_id)
    assert len(streams) == 1
    page.close()  # the one that listened: the other goes on by itself
    asked = ev.ReadingTaken(pass_no=1, station_id="s3", typed=Typed(text="-3.5", unit="thou"))
    setups.append(UUID(setup_id), uuid4(), datetime.now(UTC), "Wilf", asked)
    tab.locator(CELL.format("Jaw 3"), has_text="−3.50").wait_for()
    assert len(streams) == 2


def test_nonsense_stays_at_its_field_until_it_is_corrected(page: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Cam blank")
    type_reading(page, "4")
    type_reading(page, "fuor")
    page.get_by_role("alert").get_by_text("is not a reading").wait_for()
    field = page.locator("[data-part=reading]")
    assert field.get_attribute("aria-label") == "Reading at Jaw 2"
    assert field.input_value() == "fuor"
    page.keyboard.press("Control+A")
    type_reading(page, "1.5")
    page.locator(CELL.format("Jaw 2"), has_text="+1.50").wait_for()
    assert page.get_by_role("alert").count() == 0
    assert readings(setup_id) == ["4", "1.5"]


def test_keys_correct_mark_undo_and_go_another_way(page: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Platen stud")
    for text in ("4", "0", "-4", "9"):
        type_reading(page, text)
    page.wait_for_function("() => !document.querySelector('.cell.waits')")
    page.keyboard.press("ArrowLeft")  # back to jaw 4
    assert page.locator("[data-part=reading]").input_value() == "9"
    type_reading(page, "-9")
    page.locator(CELL.format("Jaw 4"), has_text="\u22129.00").wait_for()
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Backspace")  # empties it
    page.keyboard.press("Backspace")  # back to jaw 3
    page.keyboard.press("x")
    page.locator(".cell.bad").wait_for()
    page.keyboard.press("u")
    page.wait_for_function("() => !document.querySelector('.cell.bad')")
    page.keyboard.press("d")
    page.get_by_text("One pair at a time").wait_for()
    page.keyboard.press("d")
    page.get_by_text("Both pairs from one pass").wait_for()
    page.keyboard.press("e")
    page.locator("[data-part=headline]", has_text="is backed off. Now tighten").wait_for()
    page.keyboard.press("b")
    page.locator("[data-part=headline]", has_text="Read jaw 1").wait_for()
    page.keyboard.press("?")
    page.get_by_role("dialog", name="Keys").wait_for()
    page.keyboard.press("Escape")
    page.get_by_role("dialog", name="Keys").wait_for(state="hidden")
    page.keyboard.press("l")
    page.get_by_text("Went back: the jaw that was backed off is tight again.").wait_for()
    assert desk.load(setups.events_of(UUID(setup_id))).next_pass_no == 2


def test_one_key_asks_why_it_does_not_come_in(page: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Stubborn drum")
    page.keyboard.press("y")
    page.locator("[data-part=why]", has_text="Read a pass first").wait_for()
    page.keyboard.press("Escape")
    page.locator("[data-part=why]").wait_for(state="hidden")
    for text in ("4", "0", "-4", "1", "9"):
        type_reading(page, text)
    page.locator("[data-part=headline]", has_text="ighten jaw").wait_for()
    page.keyboard.press("y")
    test = page.get_by_role("region", name="Quick test")
    test.get_by_role("button").nth(1).wait_for()
    settled(page)
    assert faults_of(page) == []
    first = test.inner_text()
    page.keyboard.press("2")
    page.get_by_text("Tests made in this pass").wait_for()
    assert test.count() == 0 or test.inner_text() != first
    page.keyboard.press("Escape")
    page.locator("[data-part=why]").wait_for(state="hidden")
    page.keyboard.press("l")
    page.get_by_text("Quick test,").wait_for()
    tried = desk.load(setups.events_of(UUID(setup_id))).tried
    assert len(tried) == 1
    assert tried[0].pass_no == 1


def test_a_set_up_can_be_ended_at_any_time_and_taken_up_again(page: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Wrong part")
    page.keyboard.press("l")
    page.get_by_label("A note for the log").fill("chucked the wrong blank")
    page.keyboard.press("Enter")
    page.get_by_text("Note: chucked the wrong blank").wait_for()
    page.get_by_role("button", name="End it here").click()
    page.locator("[data-part=headline]", has_text="Not proved.").wait_for()
    assert desk.load(setups.events_of(UUID(setup_id))).taken_off
    page.get_by_role("dialog").wait_for(state="hidden")
    page.keyboard.press("u")
    page.locator("[data-part=headline]", has_text="Read jaw 1").wait_for()
    page.goto("/")
    page.get_by_text("Wrong part").wait_for()


def test_the_shop_takes_a_chuck_and_says_what_is_wrong_at_its_field(page: Any) -> None:
    page.goto("/shop")
    page.get_by_role("button", name="Add").nth(1).click()
    dialog = page.get_by_role("dialog")
    for label, value in (
        ("Name", "Old four-jaw 160"),
        ("Its own diameter", "160 mm"),
        ("Smallest part", "4 mm"),
        ("Biggest part", "wide"),
        ("Travel for one turn of the key", '0.125"'),
    ):
        dialog.get_by_role("textbox", name=label).fill(value)
    page.keyboard.press("Enter")
    dialog.get_by_text("“wide” is not a length.").wait_for()
    assert dialog.get_by_role("textbox", name="Its own diameter").input_value() == "160 mm"
    dialog.get_by_role("textbox", name="Biggest part").fill("140")
    page.keyboard.press("Enter")
    dialog.wait_for(state="hidden")
    page.get_by_role("button", name="Old four-jaw 160").filter(has_text="0.125 in a turn").wait_for()


def test_a_plan_says_what_is_wrong_at_its_field_and_loses_nothing(page: Any) -> None:
    person = Machinist(page)
    person.plan("Ink roller", limit="0")
    page.get_by_text("Nothing can be true to zero.").wait_for()
    box = page.get_by_role("textbox", name="True within")
    box.fill("1")
    page.get_by_text("Nothing can be true to zero.").wait_for(state="hidden")
    page.get_by_text("own angles").click()
    page.get_by_role("textbox", name="Own angles").fill("0 90 90 180")
    page.get_by_text("is there twice").wait_for()
    page.keyboard.press("Control+Enter")
    settled(page)
    assert page.url.endswith("holder=four-jaw-200") or "/plan" in page.url
    assert page.get_by_role("textbox", name="Part", exact=True).input_value() == "Ink roller"
    page.get_by_role("textbox", name="Own angles").fill("0 60 120 180 240 300")
    page.get_by_text("is there twice").wait_for(state="hidden")
    person.open()
    page.locator("[data-station='240°']").wait_for(state="attached")  # shown as soon as it is read


def test_the_logbook_finds_by_words_and_verdict(page: Any) -> None:
    at_the_first_reading(page, "Peculiar gripper")
    page.goto("/logbook")
    page.get_by_role("textbox", name="Look for any word").fill("peculiar")
    page.wait_for_function("() => document.querySelectorAll('.el-table__row').length === 1")
    page.get_by_role("row", name="Peculiar gripper").get_by_text("No proof yet").wait_for()
    page.get_by_role("textbox", name="Look for any word").fill("nothing like it")
    page.get_by_text("Nothing found.").wait_for()


def test_an_address_of_nothing_says_so_and_leads_back(page: Any) -> None:
    page.goto("/set-up/7b2b52ec-c710-48d9-80e0-162ccb8c7b19")
    page.get_by_text("There is no such set-up here.").wait_for()
    page.goto("/tea")
    page.get_by_role("link", name="To the Bench", exact=True).click()
    page.get_by_text("Standing now").wait_for()


def test_the_unit_switches_everywhere_at_once(page: Any) -> None:
    at_the_first_reading(page, "Forme bed screw")
    for text in ("4", "0", "-4", "0"):
        type_reading(page, text)
    page.locator("[data-part=aim]", has_text="0.00").wait_for()
    page.get_by_role("radio", name="mm").check(force=True)
    page.locator(CELL.format("Jaw 1"), has_text="+0.102").wait_for()
    page.locator("svg.chuck", has_text="tighten 0.102 mm").wait_for()
    page.locator("[data-part=aim]", has_text="mm").wait_for()


def test_picture_sentence_and_tray_agree_on_the_screen(page: Any) -> None:
    at_the_first_reading(page, "Impression journal")
    for text in ("0", "5", "0", "-5"):
        type_reading(page, text)
    page.locator("[data-part=headline]", has_text="tighten jaw 2").wait_for()
    page.wait_for_function("() => !document.querySelector('.cell.waits')")  # three readings give a move, too
    page.locator(CELL.format("Jaw 4"), has_text="5.00").wait_for()
    settled(page)
    drawn = page.locator("svg.chuck .act.draw_in")
    eased = page.locator("svg.chuck .act.ease")
    assert (drawn.get_attribute("data-jaw"), eased.get_attribute("data-jaw")) == ("2", "4")
    gauge = page.locator("svg.chuck [data-part=gauge]")
    jaw = page.locator("svg.chuck .jaw.draw_in")
    assert float(gauge.get_attribute("data-angle")) == pytest.approx(float(jaw.get_attribute("data-angle")))
    # the arrow of the jaw that is tightened points at the middle; the work lies off on its side
    work = page.locator("svg.chuck [data-part=work]").get_attribute("transform")
    x, y = (float(n) for n in work.removeprefix("translate(").removesuffix(")").split())
    assert abs(x) < 1
    assert y < -8
    aim = page.locator("[data-part=aim] .gold").inner_text().split()[0]
    assert f"aim {aim}" in page.locator(CELL.format("Jaw 2")).inner_text()


@pytest.mark.parametrize("theme", ["light", "dark"])
def test_no_page_has_an_accessibility_fault(browser: Any, server: Any, theme: str) -> None:
    what = EVERYTHING if theme == "light" else COLORS
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, base_url=server.url, color_scheme=theme, reduced_motion="reduce"
    )
    page = watch(context.new_page())
    _, setup_id = at_the_first_reading(page, f"Bearing housing {theme}")
    for text in ("0", "5", "0", "-5"):
        type_reading(page, text)
    page.locator("[data-part=headline]", has_text="tighten jaw 2").wait_for()
    faults = faults_of(page, what)
    page.keyboard.press("?")
    page.get_by_role("dialog", name="Keys").wait_for()
    settled(page)  # colors are only what they are when it has faded in
    faults += faults_of(page, what)
    for address in ("/", "/plan", "/job", "/logbook", f"/logbook/{setup_id}", "/shop"):
        page.goto(address)
        settled(page)
        faults += faults_of(page, what)
    page.get_by_role("button", name="Add").nth(1).click()
    page.get_by_role("dialog").wait_for()
    settled(page)
    faults += faults_of(page, what)
    context.close()
    assert faults == []


#: Elements that have letters of their own.
MARKED = """() => document.body.querySelectorAll('*').forEach((one) => {
    if ([...one.childNodes].some((n) => n.nodeType === 3 && n.textContent.trim())) one.dataset.lettered = ''
})"""


def test_every_letter_on_the_screen_ships_with_the_app(page: Any) -> None:
    _, setup_id = at_the_first_reading(page, "Letters")
    type_reading(page, "1.5")
    for address in (
        f"/set-up/{setup_id}",
        "/",
        "/shop",
        "/job",
        "/work-it-out/packing",
        "/work-it-out/sine",
        "/work-it-out/droop",
    ):
        page.goto(address)
        settled(page)
        page.evaluate("() => document.fonts.ready")
        page.evaluate(MARKED)
        client = page.context.new_cdp_session(page)
        client.send("DOM.enable")
        client.send("CSS.enable")
        root = client.send("DOM.getDocument", {"depth": -1})["root"]
        nodes = client.send("DOM.querySelectorAll", {"nodeId": root["nodeId"], "selector": "[data-lettered]"})[
            "nodeIds"
        ]
        strangers = set()
        for node in nodes:
            for font in client.send("CSS.getPlatformFontsForNode", {"nodeId": node})["fonts"]:
                if not font["isCustomFont"]:
                    html = client.send("DOM.getOuterHTML", {"nodeId": node})["outerHTML"]
                    strangers.add(f"{font['familyName']}: {html[:200]}")
        assert strangers == set(), address


def test_a_finger_is_enough(browser: Any, server: Any) -> None:
    """768 px wide, touch: the pad types, and what is pressed is at least 48 px high."""
    context = browser.new_context(viewport={"width": 1024, "height": 768}, base_url=server.url, has_touch=True)
    page = watch(context.new_page())
    _, setup_id = at_the_first_reading(page, "Touched")
    if not page.get_by_role("group", name="Number pad").is_visible():
        page.get_by_role("button", name="Number pad").tap()
    for key in ("-", "4", ".", "5", "Enter"):
        page.get_by_role("group", name="Number pad").get_by_role("button", name=key, exact=True).tap()
    page.locator(CELL.format("Jaw 1"), has_text="\u22124.50").wait_for()
    assert readings(setup_id) == ["-4.5"]
    heights = page.eval_on_selector_all(
        ".button, .tools button, .pad button, nav a, .units label",
        "all => all.map(e => [e.textContent.trim(), e.offsetHeight])",
    )
    assert [h for h in heights if h[1] < 46] == []
    context.close()
