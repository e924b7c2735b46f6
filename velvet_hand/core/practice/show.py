"""What a practice shows while it goes, and what it tells when it is over. Nothing of what is hidden is in it before that."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from ..desk import desk
from ..desk.panel import Panel
from ..desk.view import SetupView
from ..model import Model
from ..quantity import LimitKind
from ..sim.by_hand import Control
from ..units import Unit
from ..wording import Text, text
from .debrief import Debrief, debrief, seconds_of
from .drills import LEVELS
from .faults import FAULTS
from .session import GRIPS, Advice, GripName, Session

#: Advice that is given when it is asked for: a question first, then the answer.
ANSWERED = 2


class Place(Model):
    """A spot to bring under the stylus: its angle, or its place along the travel."""

    station_id: str
    label: str
    at: float


class Dial(Model):
    """The face of an indicator; a plunger's hand goes round once in ``turn_mm``."""

    name: str
    graduation_mm: float
    travel_mm: float
    turn_mm: float | None


class InHand(Model):
    """Something to take hold of, and how it stands: which choice lies there, how far its key was turned since the beginning."""

    control: Control
    picked: int = 0
    turned_mm: float = 0.0


class FaultChoice(Model):
    """Something that may be wrong, to call it by its name."""

    id: str
    words: str


class PastStep(Model):
    """The step of a logged set-up that it goes on from."""

    setup_id: str
    seq: int


class Practice(Model):
    """A practice as its screen shows it. ``asked`` is what was answered to “what would you do?”, ``advice`` the panel when it is shown."""

    id: str
    seq: int
    drill: str
    title: str
    about: Text
    level: str
    advice_kind: Advice
    began_at: datetime
    seconds: int
    passes: int
    asks: int
    turns: bool
    gauge_moves: bool
    places: tuple[Place, ...]
    dial: Dial
    square: bool
    aslant: bool
    grip: GripName
    hands: tuple[InHand, ...]
    faults: tuple[FaultChoice, ...]
    numbering: Literal["ccw", "cw"]
    clock_deg: float
    size_mm: float
    limit_mm: float
    limit_kind: LimitKind
    unit: Unit
    view: SetupView
    advice: Panel | None
    asked: Text
    ended: Debrief | None
    past: PastStep | None


def show(session: Session, practice_id: str, seq: int) -> Practice:
    """What may be seen of it now."""
    state, plan, drill = session.person.state, session.person.plan, session.drill
    whole = desk.show(session.person.events, practice_id, state)
    first = whole.tray.cells[0] if whole.tray.cells else None
    slot = first.slot if first is not None else ""
    gauge = plan.gauge_in(slot)
    over = session.ended is not None
    shown = _advice(session)
    return Practice(
        id=practice_id, seq=seq, drill=session.told.drill, title=drill.title, about=whole.about,
        level=LEVELS.get(session.told.drill.partition(".")[2], ""), advice_kind=session.told.advice, began_at=session.began,
        seconds=seconds_of(session), passes=session.passes, asks=session.asks,
        turns=all(s.x_mm == 0.0 for s in state.stations),
        gauge_moves=plan.carrier == "gauge_turns",
        places=tuple(_place(session, station.id) for station in state.stations),
        dial=Dial(name=gauge.name, graduation_mm=gauge.graduation_mm, travel_mm=gauge.travel_mm, turn_mm=gauge.turn_mm),
        square=session.square, aslant=drill.aslant, grip=GRIPS[session.grip],
        hands=tuple(_hand(session, control) for control in session.controls),
        faults=tuple(FaultChoice(id=name, words=words) for name, words in FAULTS.items()),
        numbering=getattr(plan.holder, "numbering", "ccw"), clock_deg=plan.gauge_clock_deg, size_mm=plan.part.diameter_mm,
        limit_mm=plan.limit.mm, limit_kind=plan.limit.kind, unit=plan.unit,
        view=whole if shown is not None else whole.model_copy(update={"panels": ()}),
        advice=shown, asked=_asked(session), ended=debrief(session) if over else None,
        past=PastStep(setup_id=session.told.past.setup_id, seq=session.told.past.seq) if session.told.past else None,
    )  # fmt: skip


def _hand(session: Session, control: Control) -> InHand:
    lies = session.body.lying(control.id) if control.kind == "pick" else 0
    return InHand(control=control, picked=lies, turned_mm=session.turned.get(control.id, 0.0))


def _place(session: Session, station_id: str) -> Place:
    station = session.person.state.station(station_id)
    spot, _ = session.body.spot(station)
    return Place(station_id=station.id, label=station.label, at=complex(spot).real)


def _advice(session: Session) -> Panel | None:
    """The panel, where it is to be seen: always, or since the answer was asked for."""
    if session.told.advice == "full" or (session.told.advice == "asked" and session.asked_since >= ANSWERED):
        return session.panel
    return None


def _asked(session: Session) -> Text:
    if session.told.advice != "asked" or not session.asked_since:
        return ()
    if session.asked_since < ANSWERED:
        return text(session.drill.question)
    return session.panel.headline
