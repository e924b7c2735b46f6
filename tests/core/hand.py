"""Somebody at a lathe: readings made of vectors, moves made, what is said and shown."""

from __future__ import annotations

import cmath
import math
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

from tests.core.lathe_plans import plan_of
from tests.support import paper, there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.told import Solution
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

THREE = (0.0, 120.0, 240.0)


def at(size: float, deg: float) -> complex:
    return cmath.rect(size, math.radians(deg))


class Hand:
    """A set-up of any procedure, worked by hand: readings from exact vectors by ring."""

    def __init__(self, plan: BasePlan, went: str = "plus") -> None:
        self.at = datetime(2026, 1, 5, 9, tzinfo=UTC)
        self.events: list[ev.Event] = [self._event(ev.Opened(plan=plan))]
        for step in desk.procedure_of(plan).path(plan):
            if step.id in ("read", "prove"):
                break
            if step.id == "set_gauge" and not plan.gauge.measures_gap:
                for slot in plan.slots:
                    self.send(ev.PressTested(went=went, gauge=slot))  # type: ignore[arg-type]
                self.send(ev.ZeroSet(station_id=desk.load(self.events).stations[0].id))
            self.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions)))

    def _event(self, body: ev.Body) -> ev.Event:
        self.at += timedelta(seconds=10)
        return ev.Event(id=uuid4(), seq=len(getattr(self, "events", [])) + 1, at=self.at, author="Ode", body=body)

    def send(self, body: ev.Body) -> None:
        self.events.append(desk.accept(self.events, self._event(body))[0])
        if isinstance(body, ev.ReadingTaken) and body.closing and (touched := paper(self.events)):
            self.send(touched)

    def read(self, high: dict[str, complex] | complex, closing: bool = True) -> None:
        """A pass in which each ring reads ``high . u``: plus where the surface stands nearest."""
        state = desk.load(self.events)
        number = state.next_pass_no
        for station, again in state.to_read(None):
            vector = high[station.ring] if isinstance(high, dict) else high
            if closing or not again:
                self._read(number, station.id, (vector * at(1, -station.angle_deg)).real, closing=again)

    def _read(self, number: int, station: str, mm: float, closing: bool = False) -> None:
        typed = Typed(text=f"{mm:.7f}", unit="mm")
        self.send(ev.ReadingTaken(pass_no=number, station_id=station, typed=typed, closing=closing))

    def solve(self) -> Solution:
        state = desk.load(self.events)
        return desk.procedure_of(state.plan).solution(state)

    def panel(self) -> Panel:
        return desk.show(self.events, "x").panels[0]

    def figure(self, name: str) -> float:
        return there(next(f.mm for f in self.solve().figures if f.id == name))

    def said(self) -> str:
        return plain(self.solve().moves[0].sentence, "mm", 0.0005)


def outside(procedure: str, **changes: Any) -> BasePlan:
    """A plan of seed 0: outside, gauge on top, four stations, numbered counter-clockwise; with changes."""
    plan = plan_of(procedure, 0)
    four = (0.0, 90.0, 180.0, 270.0)
    return plan.model_copy(update={"stations_deg": four, "school": "high_spot", **changes})
