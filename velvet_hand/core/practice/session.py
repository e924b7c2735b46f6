"""A practice as it goes: a hidden machine, the set-up that is read from it, and what hands have done. Replayed from its acts."""

from __future__ import annotations

import copy
import zlib
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from typing import Literal
from uuid import UUID

import numpy as np

from ..desk import desk
from ..desk.advise import advise, current_step
from ..desk.panel import AimBox, Panel
from ..errors import BadInput, NotFound, NotNow
from ..model import Model
from ..operator import Operator
from ..readings import Station
from ..setup import events as ev
from ..setup.state import PROVE, READ
from ..sim.body import Body, Truth
from ..sim.by_hand import Control
from ..units import Unit
from ..wording import plain
from . import acts
from .dials import in_unit
from .drills import Drill, drill_of
from .faults import Fault
from .what_if import Past, what_if

Advice = Literal["off", "asked", "full"]
#: Steps of the grip: loose, snug, firm, tight.
GripName = Literal["loose", "snug", "firm", "tight"]
GRIPS: tuple[GripName, ...] = ("loose", "snug", "firm", "tight")
TIGHT = 3
#: What the last step of it is called.
TIGHTENED = "everything tight"
#: A needle that is to move by less than this part of a graduation stays where it stood: it sticks.
STICKS = 0.15
#: What is sent of a needle is no finer than this part of a graduation: nobody sees more.
SEEN = 0.05
#: Looked at aslant the needle stands over another place, by up to so many graduations.
ASLANT = 2.2


class Told(Model):
    """How a practice was begun: drill (or machine and level), its number, who, and how much advice; or the log that it goes on from."""

    drill: str
    seed: int
    advice: Advice = "asked"
    author: str = ""
    unit: Unit = "thou"
    past: Past | None = None


class Shown(Model):
    """What the dial shows: mm from zero, and whether the needle stands at its stop."""

    needle_mm: float
    at_stop: bool


@dataclass(slots=True)
class Stroke:
    """One thing done by hand, between two readings, with what it did that nobody saw."""

    at: datetime
    what: str
    before: complex
    after: complex
    stood: tuple[Truth, ...]
    stands: tuple[Truth, ...]
    hard: bool
    in_pass: int
    advised: Panel
    at_aim: bool


class AtTheBench(Operator):
    """The set-up's own events, made at the time of the acts."""

    def _event(self, body: ev.Body) -> ev.Event:
        made = UUID(bytes=self._rng.bytes(16), version=4)
        return ev.Event(id=made, seq=len(self.events) + 1, at=self.at, author="", body=body)


@dataclass
class Session:
    """A hidden machine with what was done at it so far.

    Raises
    ------
    NotFound
        ``unknown_thing`` when there is no such drill.
    """

    told: Told
    began: datetime
    drill: Drill = field(init=False)
    body: Body = field(init=False)
    person: AtTheBench = field(init=False)
    strokes: list[Stroke] = field(init=False, default_factory=list)
    grip: int = field(init=False, default=1)
    square: bool = field(init=False, default=True)
    asks: int = field(init=False, default=0)
    asked_since: int = field(init=False, default=0)
    picked: dict[str, int] = field(init=False, default_factory=dict)
    turned: dict[str, float] = field(init=False, default_factory=dict)
    beside: list[str] = field(init=False, default_factory=list)
    last: datetime = field(init=False)
    ended: datetime | None = field(init=False, default=None)
    called: Fault | None = field(init=False, default=None)
    proved: bool = field(init=False, default=False)
    passes_before: int = field(init=False, default=0)

    def __post_init__(self) -> None:
        drill = what_if(self.told.past) if self.told.past else drill_of(self.told.drill, self.told.seed)
        if drill is None:
            raise NotFound("unknown_thing", "There is no such drill.", "Choose one from the list.", "drill")
        self.drill = drill
        self.body, self.person = begin(drill, self.told, self.began)
        self.square, self.last = not drill.aslant, self.began
        self.passes_before = self.person.full_passes if self.told.past else 0
        self.grip = TIGHT if self.person.state.tight and self.told.past else 1
        self.turned = {c.id: 0.0 for c in self.controls if c.kind == "key"}

    @property
    def controls(self) -> tuple[Control, ...]:
        """What a hand can take hold of."""
        return self.body.controls()

    @property
    def panel(self) -> Panel:
        """What the advice says now, whether it is shown or not."""
        state = self.person.state
        procedure = desk.procedure_of(state.plan)
        return advise(procedure, state, procedure.solution(state))[0]

    @property
    def passes(self) -> int:
        """Full passes read since it was begun."""
        return self.person.full_passes - self.passes_before

    @property
    def past_mm(self) -> float:
        """How far it truly is past the limit (below zero: within)."""
        return self.body.past_limit_mm

    # -- what the dial shows ---------------------------------------------------------------------

    def needle(
        self, station_id: str, at: float | None, was_mm: float | None = None, control: str = "", amount: float = 0.0
    ) -> Shown:
        """Where the needle stands, with the stylus ``at`` an angle or a place (None: at the spot itself), while a hand holds a key.

        Raises
        ------
        BadInput
            ``unknown_station``; ``field_invalid`` when there is no such key.
        """
        station, body = self.person.state.station(station_id), self.body
        if control:
            found = self._control(control)
            if found.kind == "key" and amount:
                body = copy.deepcopy(body, {id(body.plan): body.plan, id(body._rng): body._rng})
                body.by_hand(control, amount, held=True)
        needle = body.needle(self._place(station, at), station.ring) + self._aslant(station)
        gauge = body.gauge_of(station.ring)
        end, mark = gauge.travel_mm, gauge.graduation_mm
        if was_mm is not None and abs(needle - was_mm) < STICKS * mark:
            needle = was_mm
        step = SEEN * mark
        return Shown(needle_mm=min(max(round(needle / step) * step, -end), end), at_stop=abs(needle) >= end)

    def _place(self, station: Station, at: float | None) -> complex:
        """Where the stylus stands; a ring that has no zero yet gets one, near the middle of the dial."""
        spot, ring = self.body.spot(station)
        place = complex(spot) if at is None else complex(at, complex(spot).imag)
        self.body.brought_near(place, ring, np.random.default_rng([self.told.seed, zlib.crc32(ring.encode())]))
        return place

    def _aslant(self, station: Station) -> float:
        """What somebody sees who does not stand square to the dial: never the same twice."""
        if self.square:
            return 0.0
        key = [self.told.seed, zlib.crc32(station.id.encode()), len(self.person.state.passes)]
        return (
            ASLANT * self.body.gauge_of(station.ring).graduation_mm * float(np.random.default_rng(key).uniform(-1, 1))
        )

    # -- what is done ----------------------------------------------------------------------------

    def act(self, act: acts.Act) -> None:
        """Do it.

        Raises
        ------
        NotNow
            When the practice is over, or it does not fit now.
        BadInput
            When it cannot be done there.
        """
        if self.ended is not None:
            raise NotNow("not_now", "This practice is over.", "Begin another.")
        self.person.at = act.at
        match act.body:
            case acts.Hand():
                self._hand(act.at, act.body)
            case acts.Grip(way=way):
                self._gripped(act.at, way)
            case acts.Look(square=square):
                self.square = square
            case acts.Ask():
                if self.told.advice == "off":
                    raise NotNow("not_now", "No advice is given in this one.", "It was begun without.")
                self.asks += 1
                self.asked_since += 1
            case acts.Done(body=body, at=at):
                self._done(body, at)
            case acts.Good(fault=fault):
                self.ended, self.called, self.proved = act.at, fault, self._is_proved()
        self.last = act.at

    def _control(self, name: str) -> Control:
        found = next((c for c in self.controls if c.id == name), None)
        if found is None:
            raise BadInput(
                "field_invalid", "There is nothing like that to take hold of.", "Choose from those shown.", "control"
            )
        return found

    def _hand(self, at: datetime, hand: acts.Hand) -> None:
        name, amount, control = hand.control, hand.amount, self._control(hand.control)
        if control.kind == "pick" and not 0 <= amount < len(control.choices):
            raise BadInput("field_invalid", "There is no such choice.", "Choose from those shown.", "amount")
        if control.kind == "tap" and amount not in (1, 2):
            raise BadInput("field_invalid", "A tap is light or hard.", "Strike it once.", "amount")
        if control.here and hand.at is None:
            raise BadInput("field_invalid", "Where does the blow fall?", "Turn the part to the place first.", "at")
        if control.here:
            name = f"{name}.{hand.at}"
        if control.kind == "key":
            self.turned[name] += amount
        hard = control.kind == "tap" and amount > 1
        self._stroke(at, words_for(control, amount, hand.at), hard, lambda: self.body.by_hand(name, amount))

    def _stroke(self, at: datetime, what: str, hard: bool, do: Callable[[], None]) -> None:
        before, stood = self.body.astray, self.body.truths
        advised = self.panel
        do()
        if self.grip == TIGHT and not self.body.tight:
            self.grip = 1
        number, aim = len(self.person.state.passes), self._stands_at(advised.aim)
        stroke = Stroke(at, what, before, self.body.astray, stood, self.body.truths, hard, number, advised, aim)
        self.strokes.append(stroke)
        self.asked_since = 0

    def _stands_at(self, aim: AimBox | None) -> bool:
        """Does the needle stand where the advice wants it, as near as anybody stops?"""
        if aim is None or aim.aim_mm is None or not aim.station_id:
            return False
        station = self.person.state.station(aim.station_id)
        needle = self.body.needle(self._place(station, None), station.ring)
        return abs(needle - aim.aim_mm) <= 2 * self.body.gauge_of(station.ring).graduation_mm

    def _gripped(self, at: datetime, way: Literal["tighten", "loosen"]) -> None:
        if way == "loosen":
            self.grip = 1
            self.body.slacken()
            return
        if self.grip == TIGHT:
            raise NotNow("not_now", "Everything is tight already.", "Read it again.")
        self.grip += 1
        if self.grip == TIGHT:
            self._stroke(at, TIGHTENED, False, self.body.tighten)
            self._tell(ev.Tightened())

    def _done(self, body: ev.ClientBody, at: float | None) -> None:
        match body:
            case (
                ev.ReadingTaken()
                | ev.ReadingCorrected()
                | ev.PassClosed()
                | ev.SpotMarked()
                | ev.MoveDone()
                | ev.Proved()
            ):
                pass
            case ev.ReadingKept() | ev.StepPassed() | ev.Tried():
                pass
            case ev.ZeroSet():
                spot, ring = self.body.spot(self.person.state.station(body.station_id))
                self.body.zero_at(complex(spot) if at is None else complex(at, complex(spot).imag), ring)
            case ev.Tightened():
                if self.grip == TIGHT and self.person.state.tight:  # tightened again: slacked off first
                    self._gripped(self.person.at, "loosen")
                while self.grip < TIGHT:
                    self._gripped(self.person.at, "tighten")
                return
            case _:
                raise BadInput(
                    "field_invalid", "That is not done at this bench.", "Read, move, tighten, or call it good."
                )
        if isinstance(body, ev.MoveDone) and body.phase == "done":
            self._as_said(body)
        self.person.send(body)
        self.asked_since = 0
        if isinstance(body, ev.ReadingTaken) and at is not None:
            self._beside(body.station_id, at)

    def _as_said(self, body: ev.MoveDone) -> None:
        """Where nothing can be taken hold of, a move is done as its sentence says."""
        move = desk.complete(self.person.state, self.person._event(body)).shown
        if move is None or self.body.in_hand(move):
            return
        try:
            self._stroke(self.person.at, plain(move.sentence, self.told.unit, 0.001), False, lambda: self.body.do(move))
        except AssertionError as wrong:
            raise NotNow(
                "not_now", "The needle goes the other way there.", "Read it again, or do it another way."
            ) from wrong

    def _beside(self, station_id: str, at: float) -> None:
        """Was it read somewhere else than was asked?"""
        station = self.person.state.station(station_id)
        spot = complex(self.body.spot(station)[0]).real
        turns = station.x_mm == 0.0 and spot == station.angle_deg
        apart = abs((at - spot + 180) % 360 - 180) if turns else abs(at - spot)
        if apart > (5.0 if turns else 3.0):
            self.beside.append(station.label)

    def _tell(self, body: ev.Body) -> None:
        """Told to the set-up where that fits; a hand does not ask whether it does."""
        try:
            self.person.send(body)
        except (NotNow, BadInput):
            return

    def _is_proved(self) -> bool:
        """Was everything read after the last thing that was done by hand?"""
        state = self.person.state
        last = state.passes[-1] if state.passes else None
        if last is None or any(stroke.in_pass >= last.number for stroke in self.strokes):
            return False
        return state.unread(last) is None and (self.grip == TIGHT or not self.controls)


def begin(drill: Drill, told: Told, began: datetime) -> tuple[Body, AtTheBench]:
    """The hidden machine with its part in it, safe, clean, the indicator set and zeroed: what comes before the first reading."""
    plan = drill.plan(told.seed)
    if told.past is None:
        plan = plan.model_copy(update={"unit": told.unit, "gauge": in_unit(plan.gauge, told.unit)})
    body = drill.body(plan, np.random.default_rng(told.seed))
    person = AtTheBench(plan, body, np.random.default_rng(told.seed + 1))
    person.at = began
    if told.past is not None:
        person.events = told.past.before
        person.state = desk.load(person.events)
    for _ in range(40):
        step = current_step(desk.procedure_of(plan), person.state)
        if step is None or step.id in (READ, PROVE) or not person.step():
            break
    return body, person


def replay(told: Told, began: datetime, done: Sequence[acts.Act]) -> Session:
    """The practice as these acts leave it."""
    session = Session(told, began)
    for act in done:
        session.act(act)
    return session


def words_for(control: Control, amount: float, at: float | None = None) -> str:
    """What a hand did, for the debrief."""
    name = control.label[0].lower() + control.label[1:]
    if control.kind == "key":
        turn = abs(amount) / control.step_mm * control.turn_deg
        return f"{name} {turn:.3g}° {control.more if amount > 0 else control.less}"
    if control.kind == "tap":
        where = name.replace("the indicator", f"{(at or 0.0) % 360:.0f}°") if control.here else name
        return f"{'hard blow' if amount > 1 else 'light tap'}: {where}"
    return f"{name}: {control.choices[int(amount)].words}"
