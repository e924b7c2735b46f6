"""A state as the screens need it: plain data, complete, nothing left to compute."""

from __future__ import annotations

from datetime import datetime
from typing import Any, Literal

from ..after.story import Story
from ..engine.procedure import Registered
from ..measure.edge import Edge
from ..memo import once
from ..model import Model
from ..path.lathe import overdue
from ..plan.base import School
from ..quantity import KIND_WORDS, LimitKind, Quantity
from ..readings import Pass, Purpose, Reading, Station
from ..scene import SceneDot
from ..setup.events import LogLine
from ..setup.state import PROVE, READ, State
from ..told import Figure, Row, Solution
from ..units import Unit
from ..verdict import Outcome, Verdict
from ..wording import Text, angle, length, text
from .advise import current_step, panels_of, waits_for
from .course import Course, course_of
from .panel import Panel

#: So many passes go with every answer, the latest; the rest and the log are asked for (``FullRecord``).
TAIL = 16
Looks = Literal["open", "read", "bad", "wild", "off"]


class PathStop(Model):
    """A step of the path on the top line."""

    id: str
    title: str
    hold: bool
    status: Literal["done", "now", "ahead"]


class Cell(Model):
    """A cell of the tray. ``typed`` is what was typed; ``needle_mm`` what it means.

    ``group`` and ``short`` are the halves of the label where a ring has a name. ``true_mm`` is what will
    be read here when all is true. Where the needle has to stop in the move that is shown belongs to
    the panel, so that tray and sentence cannot disagree.
    """

    station_id: str
    label: str
    ring: str
    group: str
    short: str
    reads: Literal["needle", "gap", "size", "swing", "degrees"]
    at: Text
    slot: str
    closing: bool
    state: Looks
    reading_id: str | None
    typed: str | None
    typed_unit: Unit | None
    needle_mm: float | None
    true_mm: float | None
    note: Text


class Tray(Model):
    """The readings of the pass that is open, or about to be; a ``course`` reads several of them in one go, where an indicator is live."""

    pass_no: int
    purpose: Purpose
    active: bool
    cells: tuple[Cell, ...]
    course: Course | None


class GaugeAt(Model):
    """An indicator of a set-up: which slot it stands in ("" is the first)."""

    slot: str
    id: str
    name: str
    graduation_mm: float


class SetupView(Model):
    """A whole set-up as its screen shows it; its log is asked for when somebody looks at it. ``watches``: the stylus can stay where it is
    while all is tightened. ``certifies`` an indicator or a machine, where no part is cut.
    """

    id: str
    seq: int
    last_event_id: str
    can_undo: bool
    part: str
    about: Text
    machine: str
    holder: str
    gauge: str
    gauges: tuple[GaugeAt, ...]
    unit: Unit
    resolution_mm: float
    floor_mm: float
    watches: bool
    limit_mm: float
    limit_kind: LimitKind
    school: School
    certifies: Literal["", "gauge", "machine"]
    standing: bool
    step: str | None
    path: tuple[PathStop, ...]
    panels: tuple[Panel, ...]
    tray: Tray
    figures: tuple[Figure, ...]
    passes: tuple[Row, ...]
    passes_total: int
    heads: tuple[str, ...]
    verdict: Verdict | None
    accepted: str | None
    told: tuple[Text, ...]


class FullRecord(Model):
    """All passes and all lines of the log, oldest first, and the whole in a few sentences."""

    passes: tuple[Row, ...]
    log: tuple[LogLine, ...]
    story: Story


class Summary(Model):
    """A set-up in a line, for Bench and Logbook. ``track`` is where its center stood in the last passes; what has none is told by
    ``of_limit``: what each of them found, in parts of the limit.
    """

    part: str
    machine_id: str
    machine: str
    holder: str
    gauge: str
    procedure: str
    standing: bool
    step: str | None
    waits: Text
    detail: Text
    outcome: Outcome | Literal["accepted"] | None
    main: Quantity | None
    resolution_mm: float
    unit: Unit
    passes: int
    limit_radius_mm: float
    track: tuple[SceneDot, ...]
    of_limit: tuple[float, ...] = ()
    opened_at: datetime
    changed_at: datetime


def view(procedure: Registered, state: State, setup_id: str) -> SetupView:
    """Everything that the Set-up screen and a page of the Logbook show."""
    plan = state.plan
    solution = procedure.solution(state)
    step = current_step(procedure, state)
    kind = KIND_WORDS[plan.limit.kind]
    return SetupView(
        id=setup_id,
        seq=state.seq,
        last_event_id=str(state.effective[-1].id),
        can_undo=len(state.effective) > 1,
        part=plan.part.name,
        about=text(f"{plan.holder.name} · within ", length(plan.limit.mm), f" {kind}"),
        machine=plan.machine.name,
        holder=plan.holder.name,
        gauge=plan.gauge.name,
        gauges=tuple(
            GaugeAt(slot=slot, id=g.id, name=g.name, graduation_mm=g.graduation_mm)
            for slot, g in ((slot, plan.gauge_in(slot)) for slot in plan.slots)
        ),
        unit=plan.unit,
        floor_mm=plan.machine.floor_mm,
        watches=all(isinstance(m, Edge) for m in state.measures.values()),
        resolution_mm=plan.gauge.resolution_mm,
        limit_mm=plan.limit.mm,
        limit_kind=plan.limit.kind,
        school=plan.school,
        certifies=procedure.certifies,
        standing=not state.taken_off,
        step=None if state.taken_off or step is None else step.id,
        path=_path(procedure, state),
        panels=panels_of(procedure, state, solution),
        tray=_tray(procedure, state, solution),
        figures=solution.figures,
        passes=tuple(procedure.row(state, one) for one in state.passes[-TAIL:]),
        passes_total=len(state.passes),
        heads=procedure.heads(plan),
        verdict=state.verdict,
        accepted=state.accepted,
        told=_told(procedure, state),
    )


def _told(procedure: Registered, state: State) -> tuple[Text, ...]:
    """What was told at the start, once for a set-up."""

    def told() -> tuple[Text, ...]:
        plan = state.plan
        return tuple(c.text for c in (*procedure.check_plan(plan), *overdue(plan, state.opened_at.date())))

    return once(state.memo, "told", -1, told)


def _path(procedure: Registered, state: State) -> tuple[PathStop, ...]:
    now = current_step(procedure, state)
    found = []
    for step in procedure.steps(state):
        done = step.id in state.steps
        status: Literal["done", "now", "ahead"] = "done" if done else "now" if now and step.id == now.id else "ahead"
        found.append(PathStop(id=step.id, title=step.title, hold=step.hold, status=status))
    return tuple(found)


def _tray(procedure: Registered, state: State, solution: Solution) -> Tray:
    number = state.next_pass_no
    shown = state.being_read
    move = state.half.move if state.half else solution.moves[0] if solution.moves else None
    aims = move.aims if move else _last_aims(state)
    cells = [
        _closing_cell(state, s, shown) if closing else _cell(state, s, shown, solution, aims)
        for s, closing in state.to_read(shown)
    ]
    next_up: Purpose = "quick" if state.quick else "prove" if state.tight else "correct"
    step = current_step(procedure, state)
    active = step is not None and step.id in (READ, PROVE) and state.half is None and not state.taken_off
    return Tray(
        pass_no=number, purpose=shown.purpose if shown else next_up, active=active, cells=tuple(cells),
        course=course_of(state) if active else None,
    )  # fmt: skip


def _last_aims(state: State) -> dict[str, float]:
    """After a move, the aims it was made to, until there are new ones (in the same frame only)."""
    current = state.passes[-1] if state.passes else None
    if not state.moves or current is None or current.frames != state.frames:
        return {}
    last = state.moves[-1].move
    return last.aims if last.pass_no >= len(state.passes) - 1 else {}


def _cell(state: State, station: Station, shown: Pass | None, solution: Solution, aims: dict[str, float]) -> Cell:
    reading = shown.readings.get(station.id) if shown else None
    bad = bool(shown and station.id in shown.bad)
    wild = station.id in solution.wild
    looks: Looks = "open"
    if bad:
        looks = "bad"
    elif reading:
        looks = "read" if reading.deg is not None else "off" if not reading.known else "wild" if wild else "read"
    notes = {"bad": "bad spot", "wild": "stands out", "off": "past the end"}
    note = text(notes[looks]) if looks in notes else ()
    if not note and station.id == state.zero_station and not aims:
        note = text("zero here")
    at = text(angle(station.angle_deg)) if station.jaw else ()
    return Cell(
        station_id=station.id, label=station.label, ring=station.ring, group=station.group,
        short=station.short or station.label, reads=station.reads, at=at,
        slot=state.measures[station.ring].slot, closing=False, state=looks, note=note,
        true_mm=aims.get(station.id), **_typed(reading),
    )  # fmt: skip


def _typed(reading: Reading | None) -> dict[str, Any]:
    return {
        "reading_id": reading.event_id if reading else None,
        "typed": reading.typed.text if reading else None,
        "typed_unit": reading.typed.unit if reading else None,
        "needle_mm": reading.needle_mm if reading else None,
    }


def _closing_cell(state: State, first: Station, shown: Pass | None) -> Cell:
    reading = shown.closings.get(first.ring) if shown else None
    return Cell(
        station_id=first.id, label=f"{first.label} again", ring=first.ring, group=first.group,
        short=f"{first.short or first.label} again", reads=first.reads, at=(),
        slot=state.measures[first.ring].slot, closing=True, state="read" if reading else "open",
        note=() if reading else text("come back?"), true_mm=None, **_typed(reading),
    )  # fmt: skip


#: So many passes of the center are drawn in a list.
TRACK = 8


def summary(procedure: Registered, state: State) -> Summary:
    """The set-up in a line."""
    plan = state.plan
    solution = procedure.solution(state)
    panels = panels_of(procedure, state, solution)
    newest = (procedure.row(state, one) for one in reversed(state.passes))
    last = next((row for row in newest if row.main is not None), None)
    step = current_step(procedure, state)
    kind = KIND_WORDS[plan.limit.kind]
    detail = text("Wants ", length(plan.limit.mm), f" {kind}")
    if last is not None and last.main is not None:
        detail = text(
            f"{'Quick look' if last.purpose == 'quick' else 'Pass'} {last.number} · ",
            last.main.told,
            ", wants ",
            length(plan.limit.mm),
        )
    rows = [procedure.row(state, one) for one in state.passes[-TRACK:]]
    dots = [
        SceneDot(pass_no=p.number, x_mm=p.track_x_mm, y_mm=p.track_y_mm)
        for p in rows
        if p.track_x_mm is not None and p.track_y_mm is not None
    ]
    values = () if dots else tuple(row.main.mm / plan.limit.mm for row in rows if row.main is not None)
    outcome = "accepted" if state.accepted else state.verdict.outcome if state.verdict else None
    return Summary(
        part=plan.part.name,
        machine_id=plan.machine.id,
        machine=plan.machine.name,
        holder=plan.holder.name,
        gauge=plan.gauge.name,
        procedure=procedure.title,
        standing=not state.taken_off,
        step=None if step is None or state.taken_off else step.id,
        waits=waits_for(procedure, state, panels),
        detail=detail,
        outcome=outcome,
        main=last.main if last else None,
        resolution_mm=plan.gauge.resolution_mm,
        unit=plan.unit,
        passes=state.full_passes,
        limit_radius_mm=plan.limit.off_centre_mm,
        track=tuple(dots),
        of_limit=values,
        opened_at=state.opened_at,
        changed_at=state.changed_at,
    )
