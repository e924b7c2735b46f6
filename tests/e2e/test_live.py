"""Whole set-ups without a number typed: the simulated indicator, its own program, and a hand that takes readings by one key."""

from __future__ import annotations

import subprocess
import sys
import time
from collections.abc import Iterator
from typing import Any
from uuid import UUID

import pytest

from tests.e2e.axe import faults_of
from tests.e2e.test_lathe import plan_by_keys
from tests.e2e.waiting import arrived
from tests.support import Server
from velvet_hand.demo import shelf
from velvet_hand.instruments.simulated import PRESSED, Hidden
from velvet_hand.store import setups

#: What the needle shows, in mm; it stands there in thou.
SHOWS = "(Number(document.querySelector('[data-part=live]').innerText.replace('\\u2212', '-')) * 0.0254)"

#: The same hidden machine in every run.
SEED = 6


@pytest.fixture
def simulated(server: Server) -> Iterator[subprocess.Popen[str]]:
    """The program, told to hurry; it has told the Shop where it is."""
    command = [
        sys.executable,
        "-m",
        "velvet_hand.instruments.simulated",
        "--server",
        server.url,
        "--gauge",
        shelf.LIVE.name,
    ]
    with subprocess.Popen(
        [*command, "--port", "0", "--register", shelf.WIRE.id, "--haste", "40", "--turn", "4", "--seed", str(SEED)],
        stdin=subprocess.PIPE, stdout=subprocess.PIPE, text=True,
    ) as made:  # fmt: skip
        assert made.stdout is not None
        assert "socket://" in made.stdout.readline()
        yield made
        made.kill()


class ByTheNeedle:
    """Looks at the screen and presses Space, Enter, plus and minus. What the needle will come to rest at is known from a twin of the
    hidden machine, so that nothing has to wait for a time.
    """

    def __init__(self, page: Any, setup_id: str) -> None:
        self.page, self.id = page, UUID(setup_id)
        self.twin = Hidden(setups.events_of(self.id), SEED)

    def look(self) -> int:
        events = setups.events_of(self.id)
        assert self.twin.follow(events, time.monotonic())
        return len(events)

    def rest_at(self, mm: float) -> None:
        self.page.wait_for_function(f"mm => Math.abs({SHOWS} - mm) < 0.0006", arg=mm)

    def press(self, *keys: str) -> None:
        """Press, and wait until that has been kept and shown."""
        before = self.look()
        for key in keys:
            self.page.keyboard.press(key)
        self.kept(before)

    def kept(self, before: int) -> None:
        """Something more has been kept, and is shown."""
        arrived(self.page, before + 1)
        self.look()

    def take(self) -> None:
        """Space, until a reading is taken: on a busy machine a needle may be old for a moment, and is refused then."""
        before = self.look()
        while True:
            with self.page.expect_response(lambda answer: answer.url.endswith("/take")) as got:
                self.page.keyboard.press("Space")
            if got.value.ok:
                break
        self.kept(before)

    def step(self) -> bool:
        """Do what the screen says; False at the last hold point."""
        page = self.page
        spot, aim, pressed = self.twin.asked
        cautions = page.locator(".cautions input").count()
        if pressed:
            rest = self.twin.shown(spot)
            away = PRESSED * shelf.LIVE.graduation_mm / 2
            self.rest_at(rest)  # on its way from another spot it goes somewhere too, and that is no answer
            went = page.wait_for_function(
                f"([rest, away]) => Math.abs({SHOWS} - rest) > away && ({SHOWS} > rest ? 'plus' : 'minus')",
                arg=[rest, away],
            )
            self.press("+" if went.json_value() == "plus" else "-")
        elif cautions:
            if "Make safe" not in page.locator("[data-part=headline]").inner_text():
                return False
            self.press(*["Space"] * cautions, "Enter")
        elif aim is not None and aim.aim_mm is not None:
            page.get_by_text("At the aim.").wait_for()
            self.press("Enter")
        elif page.locator("[data-part=reading]").count() and self.twin.state.unread(self.twin.state.being_read):
            self.rest_at(self.twin.shown(spot))
            self.take()
        else:
            self.press("Enter")
        return True


@pytest.mark.parametrize(
    ("title", "size", "limit"),
    [("Round part true in an independent", "40 mm", "0.03 mm"), ("Square a vise", "120 mm", "0.03 mm")],
)
def test_a_whole_set_up_is_done_without_a_number_typed(
    page: Any, simulated: subprocess.Popen[str], title: str, size: str, limit: str
) -> None:
    held = {"Indicator": shelf.LIVE.name}
    setup_id = plan_by_keys(page, title, f"Live, {title}", size, limit, held)
    page.locator("[data-part=live]").wait_for()
    person = ByTheNeedle(page, setup_id)
    looked = False
    while person.step():
        if person.twin.state.passes and not looked:
            assert faults_of(page) == []
            looked = True
    state = person.twin.state
    assert state.verdict is not None
    assert state.verdict.outcome == "holds"
    readings = [e.body for e in state.effective if e.body.type == "reading_taken"]
    assert readings
    assert all(r.live is not None and r.live.raw.endswith("mm") for r in readings)


@pytest.mark.parametrize(
    ("title", "size", "marks"), [("Round part true in an independent", "40 mm", 3), ("Square a vise", "120 mm", 1)]
)
def test_it_is_turned_or_run_along_and_read_in_one_go(
    page: Any, simulated: subprocess.Popen[str], title: str, size: str, marks: int
) -> None:
    """C, Space, the pedal of the hand at the machine, Enter, Enter: every spot agrees with the hidden machine as it says."""
    setup_id = plan_by_keys(page, title, f"Turned, {title}", size, "0.03 mm", {"Indicator": shelf.LIVE.name})
    page.locator("[data-part=live]").wait_for()
    person = ByTheNeedle(page, setup_id)
    while not page.get_by_role("button", name="slowly" if marks == 3 else "along").count():
        person.step()
    page.keyboard.press("c")
    page.get_by_role("dialog").get_by_role("button", name="begin").wait_for()
    assert faults_of(page) == []
    page.keyboard.press("Space")
    page.get_by_text(f"{marks} marks of {marks}" if marks > 1 else "1 mark of 1").wait_for()
    first = person.twin.shown(person.twin.asked[0])
    page.wait_for_function(f"mm => Math.abs({SHOWS} - mm) < 0.0006", arg=first)
    page.locator(".live .state", has_text="still").wait_for()
    before = person.look()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Take these").wait_for()
    assert faults_of(page) == []
    page.keyboard.press("Enter")
    cells = page.locator(".cell").count()
    arrived(page, before + max(cells, 3))
    person.look()
    readings = [e.body for e in person.twin.state.effective if e.body.type == "reading_taken"]
    for one in readings:
        assert one.live is not None
        assert one.live.u_mm is not None
        noted = float(one.typed.text.split()[0])
        assert abs(noted - person.twin.shown(one.station_id)) < max(4 * one.live.u_mm, 0.005)


def test_one_that_is_unplugged_is_shown_as_gone_and_gives_no_reading(
    page: Any, simulated: subprocess.Popen[str]
) -> None:
    setup_id = plan_by_keys(
        page, "Round part true in an independent", "Live, unplugged", "40 mm", "0.03 mm", {"Indicator": shelf.LIVE.name}
    )
    person = ByTheNeedle(page, setup_id)
    page.locator("[data-part=live]").wait_for()
    while not (page.locator("[data-part=reading]").count() and not page.locator(".cautions input").count()):
        person.step()
    for wide, high in ((1024, 768), (768, 1024), (1280, 800)):
        page.set_viewport_size({"width": wide, "height": high})
        assert page.evaluate("document.documentElement.scrollWidth <= window.innerWidth")
        for button in page.locator(".live button").all():
            box = button.bounding_box()
            assert box["x"] + box["width"] <= wide
            assert box["y"] + box["height"] <= high
            assert box["height"] >= 48
    page.keyboard.press("g")
    large = page.get_by_role("dialog", name="The needle, large")
    assert large.locator(".huge").evaluate("one => parseFloat(getComputedStyle(one).fontSize)") >= 150
    page.keyboard.press("Escape")
    large.wait_for(state="detached")
    assert simulated.stdin is not None
    simulated.stdin.write("gone\n")
    simulated.stdin.flush()
    page.get_by_text("gone: ").wait_for()
    page.keyboard.press("Space")
    page.get_by_role("alert").filter(has_text="type what the needle shows").wait_for()
    assert not person.twin.state.passes
    assert faults_of(page) == []
    page.keyboard.type("0 mm")
    person.press("Enter")
    assert len(person.twin.state.passes) == 1
    simulated.stdin.write("back\n")
    simulated.stdin.flush()
    page.locator(".live .state", has_text="still").wait_for()


#: A port of the browser that says 0.0123 mm ten times a second.
FAKE_PORT = """
Object.defineProperty(navigator, 'serial', { value: { requestPort: async () => ({
  open: async () => undefined, close: async () => undefined, writable: null,
  readable: new ReadableStream({ start(feed) {
    const line = Uint8Array.from('+0.0123 mm\\r\\n', (c) => c.charCodeAt(0))
    const timer = setInterval(() => feed.enqueue(line), 100)
    window.unplug = () => { clearInterval(timer); feed.error(new Error('device lost')) }
  } }),
}) } })
"""


def test_an_indicator_on_the_tablet_is_read_by_its_browser(page: Any, server: Server) -> None:
    """Connected by one button, seen and taken like any other, gone when it is unplugged."""
    page.add_init_script(FAKE_PORT)
    setup_id = plan_by_keys(
        page, "Round part true in an independent", "On the tablet", "40 mm", "0.03 mm", {"Indicator": shelf.LIVE.name}
    )
    shop = page.request.get("/api/shop").json()
    wire = next(w for w in shop["wires"] if w["id"] == shelf.WIRE.id)
    hung = {"kind": "stream", "name": wire["name"], "typed": {**wire["typed"], "port": "tablet:"}}
    assert page.request.put(f"/api/shop/wires/{shelf.WIRE.id}", data=hung).ok
    try:
        page.goto(f"/set-up/{setup_id}")
        page.get_by_role("button", name="Connect it here").press("Enter")
        page.wait_for_function(f"() => Math.abs({SHOWS} - 0.0123) < 6e-4")
        page.locator(".live .state", has_text="still").wait_for()
        page.evaluate("window.unplug()")
        page.locator(".live .state", has_text="device lost").wait_for()
        page.get_by_role("button", name="Connect it here").wait_for()
    finally:
        typed = {"kind": wire["kind"], "name": wire["name"], "typed": wire["typed"]}
        assert page.request.put(f"/api/shop/wires/{shelf.WIRE.id}", data=typed).ok
