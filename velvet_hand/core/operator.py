"""Work a simulated chuck from the first reading to the verdict, through the same events as a person.

Used by the closed-loop tests and by the benchmark; nothing here looks at the hidden errors.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID

import numpy as np

from .desk import desk
from .desk.advise import advise, current_step
from .desk.panel import Panel
from .model import own
from .plan.base import BasePlan
from .setup import events as ev
from .setup.fold import carried
from .setup.state import PROVE, READ, State
from .sim.body import Body
from .units import MM_PER, Typed


@dataclass(slots=True)
class Outcome:
    """How a run ended: the state, the full passes read, the moves made, and the machine."""

    state: State
    passes: int
    moves: int
    chuck: Body


class Operator:
    """Does what the first panel says, and nothing else."""

    def __init__(self, plan: BasePlan, chuck: Body, rng: np.random.Generator) -> None:
        self.plan, self.chuck, self._rng = plan, chuck, rng
        self.at = datetime(2026, 1, 5, 9, 0, tzinfo=UTC)
        self.events: list[ev.Event] = []
        self.state = self._open()

    def _event(self, body: ev.Body) -> ev.Event:
        self.at += timedelta(seconds=20)
        made = UUID(bytes=self._rng.bytes(16), version=4)
        return ev.Event(id=made, seq=len(self.events) + 1, at=self.at, author="Ode", body=body)

    def _open(self) -> State:
        self.events.append(self._event(ev.Opened(plan=self.plan)))
        return desk.load(self.events)

    def send(self, body: ev.Body) -> None:
        """Add one event. The state is carried on as the fold does it; ``run`` folds all of it again at the end."""
        event = desk.complete(self.state, self._event(body))
        self.state = carried(self.state, event)
        self.events.append(event)

    def run(self, max_passes: int = 25) -> Outcome:
        """Follow the advice until it is proved, or the passes run out."""
        for _ in range(1000):
            if self.full_passes > max_passes or not self.step():
                break
        again = desk.load(self.events)
        assert again.verdict == self.state.verdict
        assert len(again.passes) == len(self.state.passes)
        return Outcome(self.state, self.full_passes, len(self.state.moves), self.chuck)

    @property
    def full_passes(self) -> int:
        """Passes read so far, quick looks left out."""
        return self.state.full_passes

    def step(self) -> bool:
        """Do the one thing that is advised now; False when there is nothing left to do."""
        procedure = desk.procedure_of(self.plan)
        if current_step(procedure, self.state) is None:
            return False
        if self._mid_pass():
            reading = self._unread()
            assert reading is not None
            self._read(*reading)
            return True
        panel = advise(procedure, self.state, procedure.solution(self.state))[0]
        if self.state.verdict is not None and panel.name == "verdict" and panel.primary is None:
            return False
        self._follow(panel)
        return True

    def _mid_pass(self) -> bool:
        """Is a pass begun that is read to its end before anything is looked at?"""
        current = self.state.open_pass
        if current is None or current.moved or self.state.half or self.state.plan.school == "pairs":
            return False
        return any(not current.answered(s.id) for s in self.state.asked(current))

    def _follow(self, panel: Panel) -> None:
        if panel.name == "doubt":  # what it read is what the needle shows
            self.send(next(a for a in panel.others if a.id == "keep").events[0])
            return
        if panel.name == "press":
            asked = own(panel.others[0].events[0], ev.PressTested)
            self.send(ev.PressTested(went=self.chuck.press(asked.gauge), gauge=asked.gauge))
            return
        step = current_step(desk.procedure_of(self.plan), self.state)
        reading_left = self._unread() if step is not None and step.id in (READ, PROVE) else None
        if reading_left is not None and panel.name != "half" and self._should_read(panel):
            self._read(*reading_left)
            return
        assert panel.primary is not None, f"nothing to do in panel {panel.name}"
        for body in panel.primary.events:
            self._act(body)

    def _act(self, body: ev.ClientBody) -> None:
        if isinstance(body, ev.MoveDone):
            move = desk.complete(self.state, self._event(body)).shown
            assert move is not None
            self.chuck.do(move)
        elif isinstance(body, ev.ZeroSet):
            self.chuck.zero(self.state.station(body.station_id))
        elif isinstance(body, ev.Tightened):
            self.chuck.grip(self.state.tight)
        self.send(body)

    def _unread(self) -> tuple[str, bool] | None:
        """The station to read next, and whether it is the closing reading."""
        left = self.state.unread(self.state.being_read)
        return (left[0].id, left[1]) if left else None

    def _should_read(self, panel: Panel) -> bool:
        """Finish a pass before moving, unless pair by pair is the way of working."""
        current = self.state.open_pass
        if panel.primary is not None and current is not None and current.quick:
            return False
        if panel.primary is None or self.state.plan.school != "pairs":
            moved = bool(current and current.moved)
            return not (moved and panel.primary is not None)
        return panel.name in ("reading", "prove")

    def _read(self, station_id: str, closing: bool) -> None:
        value = self.chuck.read(self.state.station(station_id))
        unit = self.plan.unit
        places = 6 if unit == "mm" else 4
        shown = value if isinstance(value, str) else f"{value / float(MM_PER[unit]):.{places}f}".rstrip("0").rstrip(".")
        typed = Typed(text=shown, unit=unit)
        self.send(ev.ReadingTaken(pass_no=self.state.next_pass_no, station_id=station_id, typed=typed, closing=closing))
