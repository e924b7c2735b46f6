"""Each event as one line of the log."""

from __future__ import annotations

from collections.abc import Sequence
from uuid import UUID

from ..after.story import ENDED
from ..detective.trials import QUICK_TESTS
from ..errors import VelvetHandError
from ..gauge import Gauge
from ..measured import measured_mm, what_words
from ..model import own
from ..move import Jaws
from ..path.lathe import overdue
from ..plan.base import BasePlan
from ..quantity import KIND_WORDS
from ..readings import Station
from ..setup import events as ev
from ..setup.follow import FOLLOW_WORDS
from ..units import UNIT_WORD, Typed, parse_reading, plain_parts
from ..wording import Text, day_word, length, signed, so_many, strong, text


def lines(
    events: Sequence[ev.Event],
    stations: tuple[Station, ...],
    titles: dict[str, str],
    known: tuple[ev.LogLine, ...] = (),
) -> tuple[ev.LogLine, ...]:
    """Log lines, oldest first. ``titles`` are the names of the steps, ``known`` the lines of the first events."""
    fresh = events[len(known) :]
    if any(isinstance(e.body, ev.Undone) for e in fresh):
        fresh, known = events, ()
    undone = {e.body.event_id for e in fresh if isinstance(e.body, ev.Undone)}
    first = own(events[0].body, ev.Opened)
    labels = {s.id: s.label for s in stations}
    gauges = {s.id: first.plan.gauge_in(first.plan.slot(s.ring)) for s in stations}
    angles = {s.id for s in stations if s.reads == "degrees"}
    told_of = any(isinstance(e.body, ev.ReadingCorrected | ev.ReadingKept) for e in fresh)
    by_id = {e.id: e for e in events} if told_of else {}
    found = list(known)
    for event in fresh:
        what = _what(event, first.plan, labels, gauges, angles, titles, by_id)
        found.append(ev.LogLine(seq=event.seq, at=event.at, author=event.author, what=what, undone=event.id in undone))
    return tuple(found)


def _with_unit(typed: Typed) -> str:
    """As it was typed, with the unit that was meant where none was typed."""
    number = plain_parts(typed.text, typed.unit)
    return typed.text.strip() if number is None or number[2] else f"{typed.text.strip()} {UNIT_WORD[typed.unit]}"


def _typed(typed: Typed, gauge: Gauge, degrees: bool = False) -> Text:
    if degrees:
        return text(f"{typed.text.strip().removesuffix('°')}°")
    try:
        value = parse_reading(typed.text, typed.unit, gauge)
    except VelvetHandError:
        return text(_with_unit(typed))
    return text(typed.text.strip()) if value.mm is None else text(signed(value.mm))


def _what(
    event: ev.Event,
    plan: BasePlan,
    labels: dict[str, str],
    gauges: dict[str, Gauge],
    angles: set[str],
    titles: dict[str, str],
    by_id: dict[UUID, ev.Event],
) -> Text:
    match event.body:
        case ev.Opened():
            held = "" if plan.holder.name == plan.machine.name else f" in {plan.holder.name}"  # a plate may be both
            return text("Set-up opened: ", strong(plan.part.name), f"{held} on {plan.machine.name}.")
        case ev.PressTested(went=went):
            return text(f"Press test: toward the indicator the needle goes {went}.")
        case ev.GapMeasured(typed=typed):
            return text(f"{plan.measured_word}: {_with_unit(typed)}.")
        case ev.StepPassed(step=step, checked=checked, reason=reason):
            seen = f", {so_many(len(checked), 'caution')} checked" if checked else ""
            why = f" Skipped: {reason}" if reason else ""
            return text(f"{titles.get(step, step)} done{seen}.{why}")
        case ev.ZeroSet(station_id=station, why=why):
            head = "Indicator bumped or moved; zero set afresh at " if why == "bumped" else "Zero set at "
            return text(f"{head}{labels.get(station, station)}.")
        case ev.ReadingTaken(station_id=station, typed=typed, closing=closing, pass_no=number):
            again = " again" if closing else ""
            return text(
                f"Pass {number}, {labels.get(station, station)}{again}: ",
                *_typed(typed, gauges.get(station, plan.gauge)),
            )
        case ev.ReadingCorrected(reading_id=reading, typed=typed):
            station = _read_at(by_id.get(reading))
            where = labels.get(station, "")
            return text(
                f"Reading corrected, {where}: ", *_typed(typed, gauges.get(station, plan.gauge), station in angles)
            )
        case ev.ReadingKept(reading_id=reading):
            station = _read_at(by_id.get(reading))
            return text(f"Reading kept as it is, {labels.get(station, '')}.")
        case ev.SpotMarked(station_id=station, bad=bad, pass_no=number):
            return text(f"Pass {number}, {labels.get(station, station)}: {'bad spot' if bad else 'good after all'}.")
        case ev.PassClosed(pass_no=number):
            return text(f"Pass {number} closed without a move.")
        case ev.MoveDone(phase=phase):
            return _move_words(event, phase)
        case ev.Tightened(quick=quick, watched=seen):
            moved = ("; the needle went ", signed(seen.after_mm - seen.before_mm), " meanwhile") if seen else ()
            return text("Everything tight", *moved, "; a quick look next." if quick else ".")
        case ev.Proved(pass_no=number):
            v = event.verdict
            if v is None:
                return text(f"Pass {number} taken as the proof.")
            return text(
                f"Proof, pass {number}: ", strong(ENDED[v.outcome]), ", ", length(v.value_mm), " ± ",
                length(v.band_mm), f" {KIND_WORDS[v.value.kind]}, limit ", length(v.limit_mm), ".",
                *(part for late in overdue(plan, event.at.date()) for part in (" ", *late.text)),
            )  # fmt: skip
        case ev.Tried(trial=trial, answer=answer):
            told = QUICK_TESTS[trial]
            return text(f"Quick test, {told.title.lower()}: {told.answered(answer)}.")
        case ev.Accepted(reason=reason):
            return text(f"Accepted: {reason}")
        case ev.Noted(text=words):
            return text(f"Note: {words}")
        case ev.MeasuredPart(what=what, typed=typed, piece=piece, by=by, note=note):
            mm = measured_mm(what, typed, plan)
            kind = what_words(what, plan.limit.kind)
            with_ = f", by {by}" if by else ""
            more = f" {note}" if note else ""
            return text(f"Piece {piece} measured ", signed(mm) if mm < 0 else length(mm), f" {kind}{with_}.{more}")
        case ev.FollowUpSet(follow=follow):
            when = (
                f"on {day_word(follow.on)}"
                if follow.on
                else f"at piece {follow.piece}"
                if follow.piece
                else FOLLOW_WORDS[follow.when]
            )
            return text(f"To be looked at again {when}: {follow.what.strip() or 'all of it'}")
        case ev.FollowUpDone():
            return text("Looked at again.")
        case ev.Undone():
            return text("Undone: the line above it that is struck out.")
        case ev.TakenOff():
            return text("Part taken off.")


def _read_at(event: ev.Event | None) -> str:
    """Where the reading was taken that this event is; nothing when it is none."""
    return event.body.station_id if event and isinstance(event.body, ev.ReadingTaken) else ""


def _move_words(event: ev.Event, phase: str) -> Text:
    move = event.shown
    if move is None:
        return text("Move.")
    if phase == "eased" and isinstance(move, Jaws) and move.ease:
        return text(f"Jaw {move.ease.number} backed off, the other not tightened yet.")
    if phase == "back":
        return text("Went back: the jaw that was backed off is tight again.")
    if not isinstance(move, Jaws):
        return move.log if move.aim_mm is None else (*move.log, *text(", aim ", signed(move.aim_mm), "."))
    drawn = move.draw.number
    head = f"Jaw {move.ease.number} backed off, jaw {drawn} tightened" if move.ease else f"Jaw {drawn} tightened"
    if move.aim_mm is None or move.asked is None:
        return text(f"{head} until the needle came back.")
    return text(f"{head}, aim ", signed(move.aim_mm), " (asked ", length(move.asked.mm), ").")
