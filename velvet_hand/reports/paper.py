"""What stands on the papers of a set-up: before it (a sheet to work by) and after it (a record to keep)."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from datetime import date, datetime

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advice.builder import OUTCOME_WORDS, verdict_text
from velvet_hand.core.engine.procedure import Registered
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.path.steps import Step
from velvet_hand.core.quantity import KIND_WORDS, Quantity
from velvet_hand.core.readings import Pass, Station
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.shelves import repeats
from velvet_hand.core.told import Row
from velvet_hand.core.units import UNIT_WORD, Unit, format_length
from velvet_hand.core.verdict import TERM_WORDS, Verdict
from velvet_hand.core.wording import Text, length, plain, text

from .drawn import picture_of

#: A table of readings has at most so many columns; of more spots the passes are listed.
COLUMNS = 12
#: What the paper of a set-up is called that vouches for something, or for nothing but itself.
TITLES = {
    "": "Set-up record",
    "gauge": "Check certificate of an indicator",
    "machine": "Check certificate of a machine",
}
#: Of more spots so many stand beside each other.
PAIRS = 4
#: A sheet has room for so many passes of many spots.
SHEET_PASSES = 3


@dataclass(frozen=True, slots=True)
class Line:
    """A line of a list: what, and what of it."""

    name: str
    what: str


@dataclass(frozen=True, slots=True)
class Table:
    """A table with its heads."""

    heads: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class Checked:
    """A step with its cautions, and when and by whom they were checked off."""

    title: str
    cautions: tuple[str, ...]
    by: str = ""


@dataclass(frozen=True, slots=True)
class Paper:
    """Everything that stands on a paper, as words; ``picture`` is SVG."""

    title: str
    part: str
    asked: str
    outcome: str = ""
    verdict: str = ""
    band: tuple[Line, ...] = ()
    accepted: str = ""
    facts: tuple[Line, ...] = ()
    figures: tuple[Line, ...] = ()
    told: tuple[str, ...] = ()
    picture: str = ""
    about_picture: str = ""
    passes: Table | None = None
    readings: Table | None = None
    done: tuple[Line, ...] = ()
    steps: tuple[Checked, ...] = ()
    notes: tuple[str, ...] = ()
    blank: bool = False
    unit: str = ""


class _Writer:
    """Puts figures into the unit of the paper."""

    def __init__(self, state: State, unit: Unit) -> None:
        self.unit, self.res = unit, state.plan.gauge.resolution_mm

    def words(self, parts: Text) -> str:
        return plain(parts, self.unit, self.res)

    def bare(self, mm: float, sign: bool = False) -> str:
        return format_length(mm, self.unit, self.res, signed=sign, bare=True)

    def quantity(self, found: Quantity | None) -> str:
        return "" if found is None else self.words(found.told)


def _day(at: datetime) -> str:
    return f"{at:%Y-%m-%d %H:%M} UTC"


def _gauge(gauge: Gauge, on: date, write: _Writer) -> str:
    due = f", next check due {gauge.check_due:%Y-%m-%d}" if gauge.check_due is not None else ""
    used = f", in {gauge.used} set-ups since its check" if gauge.worn_out_by else ""
    checked = f"{due}{used}{'; overdue' if gauge.overdue(on) else ''}"
    return f"{gauge.name}, one graduation {write.words(text(length(gauge.graduation_mm)))}{checked}"


def _certificate(procedure: Registered, state: State, write: _Writer) -> tuple[Line, ...]:
    """What it was found to do, in figures, and how long that is believed."""
    found = procedure.solution(state)
    lines = [
        Line(f.label, write.words((*(text(length(f.mm)) if f.mm is not None else ()), *f.note))) for f in found.figures
    ]
    said = write.words(found.told)
    check = procedure.lesson(state).check
    due = (Line("To be checked again", f"{check.due:%Y-%m-%d}"),) if check is not None and check.due else ()
    return (Line("Checked by", state.plan.part.name), *((Line("Found", said),) if said else ()), *lines, *due)


def _facts(state: State, who: Sequence[str], write: _Writer) -> tuple[Line, ...]:
    plan = state.plan
    gauges = {plan.gauge_in(slot).name: plan.gauge_in(slot) for slot in plan.slots}
    found = [
        Line("Machine", f"{plan.machine.name}, {write.words(repeats(plan.machine))}"),
        Line("Held in", plan.holder.name),
        *(Line("Indicator", _gauge(g, state.changed_at.date(), write)) for g in gauges.values()),
        Line("Done by", ", ".join(who)),
        Line("From, to", f"{_day(state.opened_at)}, {_day(state.changed_at)}"),
    ]
    return tuple(found)


def _asked(state: State, write: _Writer) -> str:
    limit = state.plan.limit
    return write.words(text("Within ", length(limit.mm), f" {KIND_WORDS[limit.kind]}"))


def _table(state: State, rows: Sequence[Row], write: _Writer) -> Table:
    heads = ("Pass", "For", desk.procedure_of(state.plan).heads(state.plan)[0], "Beside it", "Asked", "Got")
    purpose = {"correct": "correcting", "prove": "proof", "quick": "quick look"}

    def moved(mm: float | None) -> str:
        return "" if mm is None else write.bare(mm)

    lines = tuple(
        (
            str(row.number),
            purpose[row.purpose] + (f", {OUTCOME_WORDS[row.outcome].lower()}" if row.outcome else ""),
            write.quantity(row.main),
            "; ".join(write.quantity(q) for q in row.beside),
            moved(row.asked_mm),
            moved(row.got_mm),
        )
        for row in rows
    )
    return Table(heads, lines)


def _value(one: Pass, station_id: str, write: _Writer) -> str:
    reading = one.readings.get(station_id)
    if station_id in one.bad:
        return "bad spot"
    if reading is None:
        return ""
    if reading.deg is not None:
        return f"{reading.deg:g}°"
    return reading.typed.text if reading.needle_mm is None else write.bare(reading.needle_mm, sign=True)


def _readings(state: State, write: _Writer) -> Table:
    """A line for each pass where the spots are few, else a line for each spot of the last pass that is complete."""
    spots = state.stations
    if len(spots) <= COLUMNS:
        rows = tuple(
            (str(p.number), *(_value(p, s.id, write) for s in spots), _closings(p, write)) for p in state.passes
        )
        return Table(("Pass", *_named(spots).values(), "First again"), rows)
    last = max(state.passes, key=lambda p: (len(p.readings), p.number), default=None)
    if last is None:
        return Table(("Place", "Pass"), ())
    read = [(s.label, _value(last, s.id, write)) for s in spots if s.id in last.readings or s.id in last.bad]
    read += [("", "")] * (-len(read) % PAIRS)
    lines = tuple(tuple(cell for pair in read[i : i + PAIRS] for cell in pair) for i in range(0, len(read), PAIRS))
    return Table(("Place", f"Pass {last.number}") * PAIRS, lines)


_CALLED: tuple[Callable[[Station], str], ...] = (
    lambda s: s.short or s.label, lambda s: s.label, lambda s: f"{s.group}, {s.label}",
)  # fmt: skip


def _named(spots: Sequence[Station], in_full: bool = False) -> dict[str, str]:
    """What each spot is called on a paper: shortly where that is enough to know it, else in full, with its group where it has to be."""
    each = ({s.id: call(s) for s in spots} for call in _CALLED[in_full:])
    return next((names for names in each if len(set(names.values())) == len(names)), {s.id: s.label for s in spots})


def _boxes(state: State) -> Table:
    """Room for what is to be read: a line for each pass where one ring or edge of few spots is read, else a line for each spot, two
    beside each other.
    """
    spots = state.asked()
    if len(spots) <= COLUMNS and len({s.ring for s in spots}) == 1:
        return Table(("Pass", *_named(spots).values(), "First again"), (("",) * (len(spots) + 2),) * 5)
    boxes, name = ("",) * SHEET_PASSES, _named(spots, in_full=True)
    lines = [(f"{name[s.id]} again" if closing else name[s.id], *boxes) for s, closing in state.to_read(None)]
    half = -(-len(lines) // 2)
    lines += [("", *boxes)] * (2 * half - len(lines))
    heads = ("Place", *(f"Pass {n}" for n in range(1, SHEET_PASSES + 1)))
    return Table(heads * 2, tuple((*a, *b) for a, b in zip(lines[:half], lines[half:], strict=True)))


def _closings(one: Pass, write: _Writer) -> str:
    return "; ".join(write.bare(r.needle_mm, sign=True) for r in one.closings.values() if r.needle_mm is not None)


def _band(verdict: Verdict, write: _Writer) -> tuple[Line, ...]:
    return tuple(Line(TERM_WORDS[t.name], write.words(text(length(t.mm)))) for t in verdict.parts)


def _steps(state: State, events: Sequence[ev.Event]) -> tuple[Checked, ...]:
    """The hold points that were passed, with what was checked off there."""
    found = []
    steps: dict[str, Step] = {s.id: s for s in desk.procedure_of(state.plan).steps(state)}
    kept = {str(e.id) for e in state.effective}
    for event in events:
        body = event.body
        if not isinstance(body, ev.StepPassed) or str(event.id) not in kept or body.step not in steps:
            continue
        step = steps[body.step]
        cautions = tuple(c.text for c in step.cautions if c.id in body.checked)
        if cautions or body.reason:
            more = (f"Skipped: {body.reason}",) if body.reason else ()
            found.append(Checked(step.title, (*cautions, *more), f"{event.author}, {_day(event.at)}"))
    return tuple(found)


def record(events: Sequence[ev.Event], state: State, unit: Unit | None = None) -> Paper:
    """What was asked, what was found, and how: a record to keep."""
    write = _Writer(state, unit or state.plan.unit)
    full = desk.record(events, state)
    verdict, kept = state.verdict, {str(e.id) for e in state.effective}
    acts = (ev.MoveDone, ev.Tightened, ev.Proved, ev.Accepted, ev.Tried, ev.ZeroSet, ev.PressTested)
    acted = [
        (event.at, write.words(line.what))
        for event, line in zip(events, full.log, strict=True)
        if isinstance(event.body, acts) and str(event.id) in kept
    ]
    days = [state.opened_at.date(), *(at.date() for at, _ in acted)]
    done = tuple(
        Line(f"{at:%H:%M}" if at.date() == before else f"{at:%Y-%m-%d %H:%M}", what)
        for before, (at, what) in zip(days, acted, strict=False)
    )
    who = list(dict.fromkeys(e.author for e in events if e.author))
    accepted = state.accepted or ""
    word = "Accepted" if accepted else OUTCOME_WORDS[verdict.outcome] if verdict else "Not proved"
    picture = picture_of(state, full.passes)
    procedure = desk.procedure_of(state.plan)
    about = {"gauge": state.plan.gauge.name, "machine": state.plan.machine.name}
    return Paper(
        title=TITLES[procedure.certifies],
        part=about.get(procedure.certifies, state.plan.part.name),
        figures=_certificate(procedure, state, write) if procedure.certifies else (),
        asked=_asked(state, write),
        outcome=word,
        verdict=write.words(verdict_text(verdict)) if verdict else "",
        band=_band(verdict, write) if verdict else (),
        accepted=accepted,
        facts=_facts(state, who, write),
        told=tuple(write.words(t) for t in desk.show(events, "", state).told),
        picture=picture.svg(write.unit, write.res) if picture else "",
        about_picture=picture.about if picture else "",
        passes=_table(state, full.passes, write),
        readings=_readings(state, write),
        done=done,
        steps=_steps(state, events),
        notes=tuple(state.notes),
        unit=UNIT_WORD[write.unit],
    )


def sheet(events: Sequence[ev.Event], state: State, unit: Unit | None = None) -> Paper:
    """What is to be done, to be taken to the machine: every step with its cautions, and room for readings."""
    write = _Writer(state, unit or state.plan.unit)
    procedure = desk.procedure_of(state.plan)
    steps = tuple(Checked(s.title, tuple(c.text for c in s.cautions), s.prompt) for s in procedure.path(state.plan))
    expect = desk.expect(state.plan)
    told = [write.words(t) for t in desk.show(events, "", state).told]
    return Paper(
        title="Set-up sheet",
        part=state.plan.part.name,
        asked=_asked(state, write),
        facts=_facts(state, [], write)[:-2],
        told=(*((write.words(expect),) if expect else ()), *told),
        readings=_boxes(state),
        steps=steps,
        blank=True,
        unit=UNIT_WORD[write.unit],
    )
