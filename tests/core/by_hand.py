"""Somebody who practices and does as the advice says, with keys, hammer and shims; the needle is all that is looked at."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from uuid import uuid4

from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.move import Clock, Jaws, Lean, Move, Shim, Tap
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.session import Session, Told
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.by_hand import Control
from velvet_hand.core.units import Typed

BEGAN = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)


class Trainee:
    """Works one practice; ``blind`` to everything but panel and dial."""

    def __init__(self, drill: str, seed: int, **told: object) -> None:
        self.session = Session(Told.model_validate({"drill": drill, "seed": seed, "advice": "full", **told}), BEGAN)
        self.acts: list[acts.Act] = []

    def do(self, body: acts.Anything) -> None:
        act = acts.Act(id=uuid4(), at=BEGAN + timedelta(seconds=7 * (len(self.acts) + 1)), body=body)
        self.session.act(act)
        self.acts.append(act)

    def tell(self, body: ev.ClientBody, at: float | None = None) -> None:
        self.do(acts.Done(body=body, at=at))

    def control(self, name: str) -> Control:
        return next(c for c in self.session.controls if c.id == name)

    def needle(self, station: str, control: str = "", amount: float = 0.0) -> float:
        return self.session.needle(station, None, None, control, amount).needle_mm

    def read(self) -> None:
        """The next spot that is asked for, off the dial, to half a mark."""
        state = self.session.person.state
        station, closing = there(state.unread(state.being_read))
        shown, half = self.session.needle(station.id, None), self.session.body.gauge_of(station.ring).graduation_mm / 2
        off = "+off" if shown.needle_mm > 0 else "-off"
        text = off if shown.at_stop else f"{round(shown.needle_mm / half) * half:.5f}"
        typed = Typed(text=text, unit="mm")
        self.tell(ev.ReadingTaken(pass_no=state.next_pass_no, station_id=station.id, typed=typed, closing=closing))

    def work(self, most: int = 12) -> None:
        """Pass after pass as the advice has it; then it is called good."""
        for _ in range(400):
            state = self.session.person.state
            panel = self.session.panel
            if self.session.person.full_passes > most:
                return
            if state.verdict is not None and state.verdict.outcome == "holds":
                break
            if panel.name == "doubt":
                self.tell(next(a for a in panel.others if a.id == "keep").events[0])
            elif state.unread(state.being_read) is not None and not self._moves(panel):
                self.read()
            elif panel.primary is None:
                break
            else:
                for event in panel.primary.events:
                    self._act(event)
        self.do(acts.Good())

    def _moves(self, panel: Panel) -> bool:
        return panel.primary is not None and any(
            isinstance(e, ev.MoveDone | ev.Tightened) for e in panel.primary.events
        )

    def _act(self, event: ev.ClientBody) -> None:
        if isinstance(event, ev.MoveDone):
            state = self.session.person.state
            move = next((m for m in self.moves() if m.id == event.move_id), None) or there(state.half).move
            if event.phase == "eased" and isinstance(move, Jaws):
                self._ease(move)
            else:
                self._move(move)
        self.tell(event)

    def moves(self) -> tuple[Move, ...]:
        """What the advice would have moved."""
        state = self.session.person.state
        return tuple(desk.procedure_of(state.plan).solution(state).moves)

    def _move(self, move: Move) -> None:
        if isinstance(move, Jaws):
            drawn = move.draw.number
            if self.session.person.state.half is None:
                self._ease(move)
            spot, aim = self._aim(move)
            self.do(acts.Hand(control=f"jaw{drawn}", amount=self._turned(spot, aim, f"jaw{drawn}")))
        elif isinstance(move, Tap):
            end = "low" if move.x_mm < there(getattr(self.session.person.plan, "edge_mm", None)) / 2 else "high"
            self._tapped(move, f"{end}.{'toward' if move.toward else 'away'}")
        elif isinstance(move, Lean):
            self._tapped(move, str(round(move.at_deg / 90) % 4 * 90.0))
        elif isinstance(move, Shim):
            for packet in move.packets:
                control = next(
                    c
                    for c in self.session.controls
                    if c.label.removeprefix("Shim ").removeprefix("at ") in (packet.name, f"jaw {packet.number}")
                )
                sizes = [float(one.id) for one in control.choices]
                self.do(
                    acts.Hand(
                        control=control.id, amount=min(range(len(sizes)), key=lambda i: abs(sizes[i] - packet.mm))
                    )
                )
        elif isinstance(move, Clock):
            self.do(acts.Hand(control="chuck", amount=move.position - 1))
        else:
            raise AssertionError(move.do)

    def _ease(self, move: Jaws) -> None:
        """The jaw across backed off."""
        self.do(acts.Hand(control=f"jaw{(move.draw.number + 1) % 4 + 1}", amount=-1.0))

    def _aim(self, move: Move) -> tuple[str, float]:
        needle = there(move.needle)
        state = self.session.person.state
        spot = next((s.id for s in state.stations if s.label == needle.label), state.stations[0].id)
        end = self.session.person.plan.gauge.travel_mm * 0.8
        return needle.station_id or spot, needle.aim_mm if needle.aim_mm is not None else end if self.needle(
            spot
        ) > 0 else -end

    def _turned(self, spot: str, aim: float, control: str) -> float:
        """Turn by turn until the needle has come to the aim."""
        step, before = self.control(control).step_mm, self.needle(spot) - aim
        for n in range(1, 2400):
            if (self.needle(spot, control, n * step) - aim) * before <= 0:
                return n * step
        raise AssertionError("the needle never comes to its aim")

    def _tapped(self, move: Move, control: str) -> None:
        spot, aim = self._aim(move)
        before = self.needle(spot) - aim
        for _ in range(400):
            left = self.needle(spot) - aim
            if left * before <= 0:
                return
            far = abs(left) > 40 * self.session.person.plan.gauge.graduation_mm
            self.do(acts.Hand(control=control, amount=2 if far else 1))
        raise AssertionError(f"{move.id}: taps never bring it to its aim")
