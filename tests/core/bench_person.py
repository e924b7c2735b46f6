"""A set-up worked by hand in tests: sends events as a client would, with readings of one's own."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

from tests.support import make_plan, paper
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.desk.view import SetupView
from velvet_hand.core.setup import events as ev
from velvet_hand.core.told import Solution
from velvet_hand.core.units import Typed

CAUTIONS = ("stopped", "key", "body", "board", "sleeves")


class Person:
    """Opens a set-up; ``ready=True`` goes on to the first reading with a press test of ``went``."""

    def __init__(self, *, ready: bool = True, went: str = "plus", **plan: Any) -> None:
        self.plan = make_plan(**plan)
        self.at = datetime(2026, 1, 5, 9, tzinfo=UTC)
        self.events: list[ev.Event] = [self._event(ev.Opened(plan=self.plan))]
        if ready:
            self.send(ev.StepPassed(step="make_safe", checked=CAUTIONS))
            self.send(ev.StepPassed(step="clean"))
            self.send(ev.StepPassed(step="rough_in"))
            self.send(ev.PressTested(went=went))  # type: ignore[arg-type]
            self.send(ev.ZeroSet(station_id="s1"))
            self.send(ev.StepPassed(step="set_gauge"))

    def _event(self, body: ev.Body) -> ev.Event:
        self.at += timedelta(seconds=10)
        seq = len(getattr(self, "events", [])) + 1
        return ev.Event(id=uuid4(), seq=seq, at=self.at, author="Ode", body=body)

    def send(self, body: ev.Body) -> ev.Event:
        event, _ = desk.accept(self.events, self._event(body))
        self.events.append(event)
        if isinstance(body, ev.ReadingTaken) and body.closing and (touched := paper(self.events)):
            self.send(touched)
        return event

    def read(self, station: str, text: str, *, unit: str = "mm", closing: bool = False) -> ev.Event:
        number = desk.load(self.events).next_pass_no
        typed = Typed(text=text, unit=unit)  # type: ignore[arg-type]
        return self.send(ev.ReadingTaken(pass_no=number, station_id=station, typed=typed, closing=closing))

    def read_all(self, *values: float, closing: float | None = None, unit: str = "mm") -> None:
        for index, value in enumerate(values, start=1):
            self.read(f"s{index}", f"{value:.6f}", unit=unit)
        if closing is not None:
            self.read("s1", f"{closing:.6f}", unit=unit, closing=True)

    def undo(self) -> None:
        self.send(ev.Undone(event_id=desk.load(self.events).effective[-1].id))

    def solve(self) -> Solution:
        state = desk.load(self.events)
        return desk.procedure_of(state.plan).solution(state)

    def view(self) -> SetupView:
        return desk.show(self.events, "x")

    def log(self) -> tuple[ev.LogLine, ...]:
        return desk.log_of(self.events, desk.load(self.events))

    def panel(self) -> Panel:
        return self.view().panels[0]

    def do(self, index: int = 0, phase: str = "done") -> None:
        move = self.solve().moves[index]
        self.send(ev.MoveDone(pass_no=move.pass_no, move_id=move.id, phase=phase))  # type: ignore[arg-type]
