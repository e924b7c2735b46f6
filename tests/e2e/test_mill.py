"""What the mill and the plate have at the screen besides the way through: files, taps, schools, bolts in the Shop."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

import pytest

from tests.e2e.axe import faults_of
from tests.e2e.machinist import Beside
from tests.e2e.test_lathe import FIRST, AtTheScreen, plan_by_keys
from tests.e2e.waiting import DRAWN, settled
from velvet_hand.core.desk import desk
from velvet_hand.core.setup import events as ev
from velvet_hand.demo.worked import plan_of
from velvet_hand.store import setups

SAID = "[data-part=headline]"


def to_the_reading(page: Any, title: str, part: str, size: str, limit: str, fields: dict[str, str]) -> AtTheScreen:
    """Planned by keys, and worked up to the first reading."""
    person = AtTheScreen(page, plan_by_keys(page, title, part, size, limit, fields), seed=4)
    while not person._reading_step():
        assert person.step()
    return person


def test_readings_of_a_plate_come_from_a_file(page: Any) -> None:
    grid = {"Indicator": "Lever 0.002", "Depth, front to back": "150 mm", "Close repeats at the first place": "0"}
    person = to_the_reading(page, "Is this plate parallel", "Forme bed", "240 mm", "0.05 mm", grid)
    page.get_by_role("button", name="From a file").click()
    box = page.get_by_role("textbox", name="Or paste it here")
    box.wait_for()
    settled(page)
    assert faults_of(page) == []
    box.fill("1, 0.1\n2, 0.2, 0.3")
    page.get_by_role("button", name="Show the readings").click()
    page.get_by_role("alert").filter(has_text="cells").wait_for()
    assert box.input_value() == "1, 0.1\n2, 0.2, 0.3"
    rows = ["0.012 mm,0.010 mm,0.011 mm", "0.006 mm,0.004 mm,0.007 mm", "0 mm,0.002 mm,0.003 mm"]
    box.fill("\n".join(rows))
    page.get_by_role("button", name="Show the readings").click()
    page.get_by_role("button", name="Take these 9 readings").wait_for()
    assert faults_of(page) == []
    page.keyboard.press("Enter")
    page.locator(SAID, has_text="again").wait_for()  # nine are in; only the loop is left to close
    state = desk.load(setups.events_of(person.setup_id))
    seen = {k: round(r.needle_mm or 0.0, 6) for k, r in state.passes[0].readings.items()}
    assert seen == {
        "g1": 0,
        "g2": 0.002,
        "g3": 0.003,
        "g4": 0.007,
        "g5": 0.004,
        "g6": 0.006,
        "g7": 0.012,
        "g8": 0.01,
        "g9": 0.011,
    }
    page.locator("[data-part=height]", has_text="+").first.wait_for()
    person.events = setups.events_of(person.setup_id)
    page.keyboard.type("0 mm")
    person.press(["Enter"], 1)
    page.locator(SAID, has_text="Parallel to the datum").wait_for()
    person.press(["Enter"], 1)
    assert person.state.verdict is not None


RAIL = replace(FIRST["vise"], part="Rail, first side", limit="0.03 mm", unit="thou")


def opened() -> str:
    """A vise that was planned just now."""
    now, setup_id = datetime.now(UTC), uuid4()
    plan = plan_of("vise", RAIL, now.date())
    opening = ev.Event(id=uuid4(), seq=1, at=now, author="Ode", body=ev.Opened(plan=plan))
    setups.open_setup(setup_id, opening)
    return str(setup_id)


@pytest.fixture
def vise(page: Any) -> AtTheScreen:
    """One whose first move is on the screen; so far another tablet has worked it."""
    setup_id = opened()
    person = AtTheScreen(page, setup_id, seed=4)
    person.away = True
    while not (person.state.open_pass and person.state.open_pass.closings):
        assert Beside.step(person)
    person.away = False
    page.goto(f"/set-up/{setup_id}")
    page.locator("[data-part=aim]").wait_for()
    settled(page)
    return person


def test_taps_that_were_counted_go_with_the_move(page: Any, vise: AtTheScreen) -> None:
    field = page.get_by_label("Taps it took, if you counted")
    field.fill("a few")
    page.get_by_role("alert").filter(has_text="whole number").wait_for()
    assert page.locator("[data-part=primary]").is_enabled()
    page.locator("[data-part=primary]").click()
    settled(page)
    assert not [e for e in setups.events_of(vise.setup_id) if isinstance(e.body, ev.MoveDone)]
    field.fill("9")
    page.keyboard.press("Enter")
    page.locator(SAID, has_text="Read").wait_for()
    made = [e.body for e in setups.events_of(vise.setup_id) if isinstance(e.body, ev.MoveDone)]
    assert [m.taps for m in made] == [9]


def test_upright_a_long_list_leaves_the_picture_its_size(page: Any) -> None:
    page.set_viewport_size({"width": 768, "height": 1024})
    page.goto(f"/set-up/{opened()}")
    page.locator(SAID, has_text="Make safe").wait_for()
    settled(page)
    picture, chips, tools = (
        page.locator(one).bounding_box() for one in (".picture", ".picture .chips", ".picture .tools")
    )
    assert picture["height"] >= 300
    assert chips["x"] + chips["width"] <= tools["x"]
    page.set_viewport_size({"width": 1024, "height": 768})
    assert page.locator(".below").is_hidden()  # what makes it safe is all in sight
    over = """one => [...one.querySelectorAll(':not(.visually-hidden)')].filter(
        (e) => e.clientHeight && e.scrollHeight > e.clientHeight + 2).length"""
    assert page.locator(".say").evaluate(over) == 0


def test_the_other_schools_are_a_key_away_and_aim_otherwise(page: Any, vise: AtTheScreen) -> None:
    aims = []
    for _ in range(3):
        aims.append(page.locator("[data-part=aim] .gold").inner_text())
        page.keyboard.press("d")
        page.evaluate(DRAWN)
    assert len(set(aims)) == 3
    assert page.locator("[data-part=aim] .gold").inner_text() == aims[0]  # round to the first again


def test_the_arrow_is_at_the_corner_that_the_sentence_names(page: Any, vise: AtTheScreen) -> None:
    said = page.locator(SAID).inner_text()
    blow = page.locator("[data-part=blow]")
    toward = blow.get_attribute("data-toward")
    assert ("away from you" in said) == (toward == "-1")  # the gauge stands in front
    assert float(blow.get_attribute("data-at")) == pytest.approx(150.0)
    assert "right corner" in said
    gauge = page.locator("[data-part=gauge]")
    assert float(gauge.get_attribute("data-at")) == pytest.approx(150.0)
    box = blow.locator("path").first.bounding_box()
    table = page.locator("[data-part=body]").bounding_box()
    middle = table["y"] + table["height"] / 2
    assert (box["y"] > middle) == ("front" in said)


def test_a_dead_server_in_the_middle_of_a_sweep_loses_nothing(page: Any, server: Any, vise: AtTheScreen) -> None:
    vise.step()  # the move is made
    server.kill()
    for i, value in enumerate(("0.01 mm", "0.004 mm")):
        page.keyboard.type(value)
        page.keyboard.press("Enter")
        page.locator(".cell.waits").nth(i).wait_for()
        page.evaluate(DRAWN)  # the field of the next spot has the focus
    server.start()
    page.wait_for_function("() => !document.querySelector('.cell.waits')")
    state = desk.load(setups.events_of(vise.setup_id))
    assert [r.typed.text for r in state.passes[1].readings.values()] == ["0.01 mm", "0.004 mm"]


def test_the_bolts_of_a_vise_are_kept_in_the_shop(page: Any) -> None:
    page.goto("/shop")
    page.get_by_role("button", name="Vise 160").first.click()
    bolts = page.get_by_label("Its bolts, from the left end of the edge")
    bolts.wait_for()
    assert bolts.input_value() == "14 146"
    assert page.get_by_label("Biggest part").count() == 0  # not asked of a vise
    bolts.fill("14 400")
    page.get_by_role("button", name="Keep it").click()
    page.get_by_text("A bolt sits beyond the end of its edge").wait_for()
    assert bolts.input_value() == "14 400"
    bolts.fill("16 144")
    page.get_by_role("button", name="Keep it").click()
    settled(page)
    page.goto("/shop")
    page.get_by_role("button", name="Vise 160").first.click()
    bolts.wait_for()
    assert bolts.input_value() == "16 144"
    bolts.fill("14 146")
    page.get_by_role("button", name="Keep it").click()


def test_keys_work_on_the_setup_that_was_opened(page: Any, vise: AtTheScreen) -> None:
    assert isinstance(vise.setup_id, UUID)
    before = len(setups.events_of(vise.setup_id))
    vise.press(["u"], 1)
    events = setups.events_of(vise.setup_id)
    assert len(events) == before + 1
    assert isinstance(events[-1].body, ev.Undone)
