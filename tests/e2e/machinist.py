"""A person at the machine: looks at the screen, answers with keys, and has a chuck that answers."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from tests.support import as_a
from velvet_hand.core.desk import desk
from velvet_hand.core.move import Jaws
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.readings import Station
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.sim.body import Body
from velvet_hand.core.sim.jaws import Quirks, SimulatedChuck
from velvet_hand.store import setups

from .waiting import arrived, settled

QUIRKS = Quirks(
    offset_mm=0.19,
    offset_deg=63,
    gain=(0.85, 0.85),
    noise_mm=0.0002,
    stop_mm=0.0005,
    kick_mm=0.003,
    kick_deg=10,
    push_reads=-1,
)


class Beside(Operator):
    """Goes on with a set-up that was opened in the browser as another tablet would: what it does goes straight into the store."""

    def __init__(self, setup_id: str, chuck: Body, rng: np.random.Generator) -> None:
        self.setup_id = UUID(setup_id)
        super().__init__(desk.load(setups.events_of(self.setup_id)).plan, chuck, rng)

    def _open(self) -> State:
        self.events = setups.events_of(self.setup_id)
        return desk.load(self.events)

    def send(self, body: ev.Body) -> None:
        kept = setups.append(self.setup_id, uuid4(), datetime.now(UTC), "Ode", body)  # type: ignore[arg-type]
        self.events, self.state = list(kept.events), kept.state


class Machinist:
    """Works one set-up in the browser by keyboard alone.

    Moves are carried out on the simulated chuck from what the store says is shown (the same move
    object that the sentence is made from); everything else is read off the page.
    """

    def __init__(self, page: Any, quirks: Quirks = QUIRKS) -> None:
        self.page, self.quirks = page, quirks
        self.chuck: SimulatedChuck | None = None

    def plan(self, part: str, *, limit: str = "1", diameter: str = "62 mm") -> None:
        """From the Bench, P; then fill in the form with Tab and Enter."""
        page = self.page
        page.goto("/")
        page.get_by_role("button", name="Plan it").wait_for()
        page.wait_for_function("() => !document.querySelector('.plan').disabled")
        page.keyboard.press("p")
        page.get_by_label("Part", exact=True).wait_for()
        page.wait_for_function("() => document.activeElement.getAttribute('aria-label') === 'Part'")
        page.keyboard.type(part)
        page.keyboard.press("Tab")
        page.keyboard.type(diameter)
        page.keyboard.press("Tab")  # the gauge: leave what is chosen
        page.keyboard.press("Tab")
        page.keyboard.type(limit)
        page.get_by_text("To know before you start").wait_for()

    def open(self) -> str:
        self.page.keyboard.press("Control+Enter")
        self.page.wait_for_url("**/set-up/*")
        self.page.locator("[data-part=headline]").wait_for()
        return str(self.page.url.rsplit("/", 1)[-1])

    def take(self, setup_id: str) -> None:
        """Put the part into a simulated chuck as it was planned."""
        plan = as_a(JawPlan, desk.load(setups.events_of(UUID(setup_id))).plan)
        self.chuck = SimulatedChuck(plan, self.quirks, np.random.default_rng(5))

    def headline(self) -> str:
        return str(self.page.locator("[data-part=headline]").inner_text())

    def shows(self, words: str) -> None:
        """Those words stand there, and what was done before has been kept: no key is dropped any more."""
        self.page.locator("[data-part=headline]", has_text=words).wait_for()
        self.page.wait_for_function("() => !document.querySelector('[data-busy]')")

    def hold_point(self, title: str) -> None:
        """Space checks off caution after caution; Enter goes on."""
        self.shows(title)
        for _ in range(self.page.locator(".cautions input").count()):
            self.page.keyboard.press("Space")
        self.page.keyboard.press("Enter")

    def make_ready(self) -> None:
        """From the first hold point to the first reading."""
        assert self.chuck is not None
        self.hold_point("Make safe")
        self.shows("Clean")
        self.page.keyboard.press("Enter")
        self.shows("Set each jaw")
        self.page.keyboard.press("Enter")
        self.shows("Press the part")
        self.page.keyboard.press("+" if self.chuck.press() == "plus" else "-")
        self.shows("Set zero")
        self.chuck.zero(0.0)
        self.page.keyboard.press("Enter")
        self.shows("Read jaw 1")

    def read_one(self) -> str:
        """Read the spot whose cell is open and type it; returns the station."""
        assert self.chuck is not None
        field = self.page.locator("[data-part=reading]")
        label = str(field.get_attribute("aria-label")).removeprefix("Reading at ")
        value = self.chuck.read(next(s for s in self.stations() if label.removesuffix(" again") == s.label))
        self.page.keyboard.type(value if isinstance(value, str) else f"{value / 0.0254:.2f}")
        self.page.keyboard.press("Enter")
        return label

    def stations(self) -> tuple[Station, ...]:
        assert self.chuck is not None
        return desk.procedure_of(self.chuck.plan).stations(self.chuck.plan)

    def read_pass(self) -> None:
        """All that is asked, spot after spot as the page names them, and the first again."""
        read: list[str] = []
        while not read or not read[-1].endswith(" again"):
            self.page.wait_for_function(
                """read => {
                  const label = document.querySelector('[data-part=reading]')?.getAttribute('aria-label')
                  return label && !read.includes(label.replace('Reading at ', ''))
                }""",
                arg=read,
            )
            read.append(self.read_one())
        self.page.wait_for_function("() => !document.querySelector('.cell.waits')")

    def make_move(self, setup_id: str) -> None:
        """Do on the chuck what the headline says, then Enter."""
        assert self.chuck is not None
        state = desk.load(setups.events_of(UUID(setup_id)))
        move = desk.procedure_of(state.plan).solve(state).moves[0]
        said = self.headline()
        assert f"ighten jaw {as_a(Jaws, move).draw.number} " in said, (said, move.id)
        self.chuck.do(move)
        self.page.keyboard.press("Enter")
        arrived(self.page, state.seq + 1)

    def quick_look(self) -> None:
        """The spots that the headline asks for."""
        while "Quick look" in (said := self.headline()):
            self.read_one()
            self.page.wait_for_function(
                "said => document.querySelector('[data-part=headline]')?.innerText !== said", arg=said
            )
            self.page.wait_for_function("() => !document.querySelector('[data-busy], .cell.waits')")

    def work_until_clear(self, setup_id: str) -> None:
        """Passes, moves and tightenings as the headline has them, a quick look wherever one can be had, until it is proved."""
        assert self.chuck is not None
        for _ in range(80):
            settled(self.page)
            said = self.headline()
            if "Clear to run" in said:
                return
            if "Quick look" in said:
                self.quick_look()
            elif "to the aim" in said:
                self.make_move(setup_id)
            elif "Read" in said:
                self.read_pass()
            else:
                key = "Enter"
                if "in steps, opposite sides" in said:
                    self.chuck.tighten()
                    quick = self.page.get_by_role("button", name="All tight, quick look")
                    key = "q" if quick.count() and quick.inner_text().endswith("Q") else key
                seq = len(setups.events_of(UUID(setup_id)))
                goes = {"plus": "+", "minus": "-"}[self.chuck.press()]
                self.page.keyboard.press(goes if "paper under the stylus" in said else key)
                arrived(self.page, seq + 1)
        raise AssertionError("never clear to run: " + self.headline())
