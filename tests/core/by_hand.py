"""Somebody who practices and does as the advice says, with keys, hammer and shims; the needle is all that is looked at."""

from __future__ import annotations

import re
from datetime import UTC, datetime, timedelta
from uuid import uuid4

from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.move import Clock, Handle, Jaws, Lean, Move, Screws, Seat, Shim, Slide, Swap, Tap, TapRound
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.session import Session, Told
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.by_hand import Control
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

BEGAN = datetime(2026, 3, 2, 8, 0, tzinfo=UTC)


def said(move: Move) -> str:
    """The sentence of a move, for somebody who reads it."""
    return plain(move.sentence, "mm", 0.0005)


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

    def needle(self, station: str, control: str = "", amount: float = 0.0, at: float | None = None) -> float:
        return self.session.needle(station, at, None, control, amount).needle_mm

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
        """Is something done now, before anything is read?"""
        current = self.session.person.state.open_pass
        kinds = (ev.MoveDone, ev.Tightened, *((ev.StepPassed,) if current and current.moved else ()))
        return panel.primary is not None and any(isinstance(e, kinds) for e in panel.primary.events)

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
        if not self.session.body.in_hand(move):
            return
        if isinstance(move, Jaws):
            drawn = move.draw.number
            if self.session.person.state.half is None:
                self._ease(move)
            self._turn(move, f"jaw{drawn}")
        elif isinstance(move, Screws):
            self._screws(move)
        elif isinstance(move, Tap):
            self._tapped(move, self._end(move))
        elif isinstance(move, TapRound):
            self._tapped(move, "tap", move.at_deg)
        elif isinstance(move, Lean):
            self._tapped(move, str(round(move.at_deg / 90) % 4 * 90.0))
        elif isinstance(move, Shim):
            self._shims(move)
        elif isinstance(move, Clock) and move.thing == "collet":
            self.do(acts.Hand(control="collet", amount=round(move.at_deg / 5) % 72))
        elif isinstance(move, Clock):
            self.do(acts.Hand(control="chuck", amount=move.position - 1))
        elif isinstance(move, Swap):
            self._swap(move)
        elif isinstance(move, Handle):
            self._turn(move, move.axis, -1 if "counter-clockwise" in said(move) else 1)
        elif isinstance(move, Slide):
            self._turn(move, "over", 1 if "toward you" in said(move) else -1)
        elif isinstance(move, Seat):
            self._seat(move)
        else:
            raise AssertionError(move.do)

    def _turn(self, move: Move, control: str, way: int = 1) -> None:
        spot, _, aim = self._aim(move)
        self.do(acts.Hand(control=control, amount=self._turned(spot, aim, control, way)))

    def _screws(self, move: Screws) -> None:
        """What is to be slackened, then the others, the last one to the aim."""
        for turn in move.turns[:-1]:
            step = self.control(f"screw{turn.number}").step_mm
            more = 1.2 if (turn.mm or 0.0) < 0 else 1.0
            self.do(acts.Hand(control=f"screw{turn.number}", amount=round((turn.mm or 0.0) * more / step) * step))
        self._turn(move, f"screw{move.turns[-1].number}")

    def _end(self, move: Tap) -> str:
        way = "toward" if move.toward else "away"
        plan = self.session.person.plan
        edge, apart = there(getattr(plan, "edge_mm", None)), getattr(plan, "apart_mm", 0.0)
        x_mm = move.x_mm - (apart if move.thing else 0.0)
        end = "whole" if move.whole else "low" if x_mm < edge / 2 else "high"
        return f"{move.thing}.{end}.{way}" if apart else f"{end}.{way}"

    def _shims(self, move: Shim) -> None:
        """All that is to lie there; where nothing is said of a place, nothing does."""
        lie = {f"jaw {packet.number}": packet.mm for packet in move.packets} | {p.name: abs(p.mm) for p in move.packets}
        for control in self.session.controls:
            if control.kind != "pick" or control.choices[0].id != "0":
                continue
            name = control.label.removeprefix("Shim ").removeprefix("Under the ").removeprefix("at ")
            sizes, mm = [float(one.id) for one in control.choices], lie.get(name, 0.0)
            self.do(acts.Hand(control=control.id, amount=min(range(len(sizes)), key=lambda i: abs(sizes[i] - mm))))

    def _dial(self, control: str, wanted_deg: float, now_deg: float) -> None:
        self.do(acts.Hand(control=control, amount=round((wanted_deg - now_deg + 180) % 360 - 180)))

    def _swap(self, move: Swap) -> None:
        """The sizes by their name, the mark as it is said: from straight up, clockwise."""
        sizes = [float(one.id) for one in self.control("pair").choices]
        self.do(acts.Hand(control="pair", amount=min(range(len(sizes)), key=lambda i: abs(sizes[i] - move.mm))))
        named = re.search(r"to ([\d.]+)° clockwise from straight up", said(move))
        if named:
            self._dial("mark", float(named[1]), self.session.turned["mark"])

    def _seat(self, move: Seat) -> None:
        if "round bar" in said(move):
            self.do(acts.Hand(control="bar", amount=1))
        if "half the force" in said(move):
            self.do(acts.Hand(control="force", amount=self.session.body.lying("force") + 1))
        if "soft hammer" in said(move):
            for _ in range(4):
                self.do(acts.Hand(control="hammer", amount=1))

    def _ease(self, move: Jaws) -> None:
        """The jaw across backed off."""
        room = max(1.0, 1.5 * (move.draw.mm or 0.0))
        self.do(acts.Hand(control=f"jaw{(move.draw.number + 1) % 4 + 1}", amount=-room))

    def _aim(self, move: Move) -> tuple[str, float | None, float]:
        """The spot to watch, where the stylus stands there (None: at the spot), and where the needle has to stop."""
        needle, stations = there(move.needle), self.session.person.state.stations
        spot, at = needle.station_id, None
        if not spot and isinstance(move, TapRound):  # between spots: on the ring that the sentence names
            words = said(move)
            ring = "far-" if "far end" in words else "flange-" if "flange" in words else ""
            named = next((s for s in stations if s.ring == ring or (ring and s.id.startswith("far"))), stations[0])
            spot, at = named.id, needle.deg
        spot = spot or next((s.id for s in stations if s.label == needle.label), stations[0].id)
        if needle.aim_mm is not None:
            return spot, at, needle.aim_mm
        end = self.session.person.plan.gauge.travel_mm * 0.8
        return spot, at, end if self.needle(spot, at=at) > 0 else -end

    def _turned(self, spot: str, aim: float, control: str, way: int = 1) -> float:
        """Turn by turn until the needle has come to the aim."""
        step, before = way * self.control(control).step_mm, self.needle(spot) - aim
        for n in range(1, 2400):
            if (self.needle(spot, control, n * step) - aim) * before <= 0:
                return n * step
        raise AssertionError("the needle never comes to its aim")

    def _tapped(self, move: Move, control: str, struck: float | None = None) -> None:
        spot, at, aim = self._aim(move)
        before = self.needle(spot, at=at) - aim
        for _ in range(400):
            left = self.needle(spot, at=at) - aim
            if left * before <= 0:
                return
            far = abs(left) > 40 * self.session.person.plan.gauge.graduation_mm
            self.do(acts.Hand(control=control, amount=2 if far else 1, at=struck))
        raise AssertionError(f"{move.id}: taps never bring it to its aim")
