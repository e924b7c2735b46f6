"""What each event does to a set-up, and whether it fits: the same for what comes in and for what is kept."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal
from uuid import UUID

from ..errors import BadInput, NotFound, NotNow
from ..measured import Measured, measured_mm
from ..move import Jaws
from ..readings import Pass, Purpose, Reading, Station
from ..units import ReadingValue, Typed, parse_degrees, parse_length, parse_reading
from . import events as ev
from .state import CLEAR, NIP_UP, PROVE, READ, SET_GAUGE, MoveRecord, State, TrialRecord

#: No gap is wider (mm).
MOST_GAP_MM = 2000.0
#: What may still be told of a set-up that was taken off.
AFTERWARDS = (ev.Noted, ev.MeasuredPart, ev.FollowUpSet, ev.FollowUpDone)
#: Said to everything that would leave a jaw backed off.
HALF_DONE = "A move is half done: one jaw is backed off."
#: Said when a quick look cannot be compared with a full pass.
NO_QUICK = "A quick look would tell nothing here."


def apply(state: State, event: ev.Event) -> None:
    """Carry the state one event on.

    Raises
    ------
    NotNow
        When the set-up has moved on and the event no longer fits.
    BadInput
        When the event carries something that cannot be used.
    """
    body = event.body
    if state.half is not None and isinstance(
        body, ev.ZeroSet | ev.PassClosed | ev.Proved | ev.SpotMarked | ev.Tightened
    ):
        raise NotNow("not_now", HALF_DONE, "Finish the move or go back first.")
    if state.taken_off and not isinstance(body, AFTERWARDS):
        raise NotNow("not_now", "This set-up has been taken off the machine.", "Start another from the Bench.")
    match body:
        case ev.Opened():
            raise NotNow("not_now", "This set-up is open already.")
        case ev.PressTested():
            sign: Literal[-1, 1] = 1 if body.went == "plus" else -1
            if body.gauge not in state.plan.slots:
                raise BadInput(
                    "field_invalid", "There is no second indicator in this set-up.", "Press at the first.", "gauge"
                )
            if body.gauge:
                state.push_far = sign
            else:
                state.push_reads = sign
            if state.open_pass is not None:
                state.open_pass.touched.add(body.gauge)
        case ev.GapMeasured():
            state.gap_mm = _gap(body.typed, event.version)
        case ev.StepPassed():
            _step_passed(state, body, event.version)
        case ev.ZeroSet():
            _zero_set(state, state.station(body.station_id))
            _drop_verdict(state)
        case ev.ReadingTaken():
            _reading_taken(state, event, body)
        case ev.ReadingCorrected():
            _reading_corrected(state, body, event.version)
        case ev.ReadingKept():
            _place(state, body.reading_id)
            state.kept.add(str(body.reading_id))
        case ev.SpotMarked():
            _spot_marked(state, body)
        case ev.PassClosed():
            if state.quick and body.pass_no == state.next_pass_no:
                state.quick = False
            else:
                _need_pass(state, body.pass_no).closed = True
                _drop_verdict(state)
        case ev.MoveDone():
            _move_done(state, event, body)
        case ev.Tightened():
            _tightened(state, body, event.version)
        case ev.Proved():
            _proved(state, event, body)
        case ev.Accepted():
            if not body.reason.strip():
                raise BadInput("reason_missing", "No reason was given.", "Say why it is good enough.", "reason")
            state.accepted = body.reason
            state.steps[PROVE] = ev.StepPassed(step=PROVE)
        case ev.Tried():
            state.tried.append(TrialRecord(len(state.passes), body.trial, body.answer))
        case ev.Noted():
            state.notes.append(body.text)
        case ev.MeasuredPart():
            _measured_part(state, event, body)
        case ev.FollowUpSet(follow=follow):
            follow.check()
            state.follow_ups[str(event.id)] = follow.model_copy(update={"id": str(event.id)})
        case ev.FollowUpDone(follow_id=follow_id):
            if state.follow_ups.pop(str(follow_id), None) is None:
                raise NotNow("stale", "That is done already.", "Look at the list again.")
        case ev.TakenOff():
            state.taken_off = True
        case ev.Undone():
            raise AssertionError("undone events are taken out before the fold")


def _measured_part(state: State, event: ev.Event, body: ev.MeasuredPart) -> None:
    if not (state.verdict or state.accepted or state.taken_off):
        raise NotNow("not_now", "Nothing can have been cut in it yet.", "Prove it, or accept it, first.")
    mm = measured_mm(body.what, body.typed, state.plan)
    found = Measured(
        str(event.id), event.at, event.author, body.what, mm, body.piece, body.by.strip(), body.note.strip()
    )
    state.measured.append(found)


def _gap(typed: Typed, version: int) -> float:
    """What was measured while roughing in: an opening, a play; never less than nothing, nor more than a machine."""
    gap = float(parse_length(typed.text, typed.unit, "typed"))
    if version >= 2 and not 0 <= gap <= MOST_GAP_MM:
        raise BadInput(
            "length_nonsense", f"“{typed.text[:40]}” is no gap.", "Measure it again; check the unit.", "typed"
        )
    return gap


def _step_passed(state: State, body: ev.StepPassed, version: int) -> None:
    if body.step not in state.hold_cautions:
        raise BadInput("field_invalid", f"This path has no step “{body.step}”.", "Reload the page.", "step")
    if version >= 2:
        _in_order(state, body.step)
    missing = [c for c in state.hold_cautions[body.step] if c not in body.checked]
    if missing and version >= 2:  # there were fewer cautions once
        raise BadInput(
            "cautions_unchecked",
            "This is a hold point: every caution has to be checked.",
            "Check each one, then go on.",
            "checked",
        )
    found = state.verdict is not None and (state.only_reads or state.verdict.outcome == "holds")
    if body.step == CLEAR and not (state.accepted or found):
        raise NotNow("not_now", "It is neither proved nor accepted.", "Prove it, or accept it with a reason, first.")
    if body.step in (NIP_UP, PROVE):
        raise NotNow("not_now", "This step is passed by doing it.", "Tighten everything, or read the proof.")
    if body.step == SET_GAUGE and not (state.proved and (state.frames or state.plan.gauge.measures_gap)):
        raise NotNow(
            "not_now",
            "The needle’s direction is not known yet, or zero is not set.",
            "Press the surface toward the indicator and say which way the needle goes; then set zero.",
        )
    state.steps[body.step] = body


def _in_order(state: State, step: str) -> None:
    """Nothing is passed before what comes before it: hold points are not walked round."""
    order = list(state.hold_cautions)
    first = next((s for s in order[: order.index(step)] if s not in state.steps), None)
    if first is not None:
        raise NotNow("not_now", f"“{first.replace('_', ' ')}” comes before that.", "Go through the steps in order.")


def _zero_set(state: State, station: Station) -> None:
    """Readings of two zeros must never be mixed in one measure; what another measure has read stands."""
    ring, current = station.ring, state.open_pass
    state.quick = False  # nothing that was read before can be compared any more
    state.frames[ring] = state.frames.get(ring, 0) + 1
    state.zero_station = station.id
    if current is None:
        return
    if current.quick or any(state.station(r.station_id).ring == ring for r in current.all_readings()):
        current.closed = True
    else:
        current.frames[ring] = state.frames[ring]


def _reading_taken(state: State, event: ev.Event, body: ev.ReadingTaken) -> None:
    station = state.station(body.station_id)
    value = value_at(state, station, body.typed, event.version)
    if state.half is not None:
        raise NotNow(
            "not_now",
            HALF_DONE,
            "Finish the move or go back, then read.",
        )
    current = _pass_for(state, body.pass_no)
    if station not in state.asked(current):
        raise NotNow(
            "not_now", f"{station.label} is not read in this pass.", "Read the spots that the screen asks for."
        )
    reading = Reading(
        str(event.id), event.seq, station.id, body.typed, value.mm, value.off, body.closing, value.lost, value.deg,
        (body.live.u_mm or 0.0) if body.live else 0.0, body.live is not None,
    )  # fmt: skip
    if body.closing and current.quick:
        raise NotNow("not_now", "A quick look reads no spot again.", "Read the full pass for that.")
    if body.closing:
        current.closings[station.ring] = reading
    else:
        if station.id in current.readings:
            raise NotNow(
                "stale",
                f"{station.label} has been read in pass {current.number} already.",
                "Correct that reading if it is wrong.",
            )
        current.readings[station.id] = reading
        current.bad.discard(station.id)
    _drop_verdict(state)


def value_at(state: State, station: Station, typed: Typed, version: int = 2) -> ReadingValue:
    """What was typed, as what is noted at that station.

    Raises
    ------
    BadInput
        At ``typed.text``, when it is no reading there.
    """
    if station.reads == "degrees":
        return parse_degrees(typed.text, "typed.text")
    gauge = state.plan.gauge_in(state.plan.slot(station.ring))
    value = parse_reading(typed.text, typed.unit, gauge, "typed.text", by_number=version >= 2)
    if station.reads == "swing" and (value.mm is None or value.mm < 0):
        raise BadInput(
            "reading_nonsense",
            "A swing is highest minus lowest: never less than nothing.",
            "Read the turn again.",
            "typed.text",
        )
    return value


def _pass_for(state: State, pass_no: int) -> Pass:
    """The open pass of that number, opened if it is the next."""
    expected = state.next_pass_no
    if pass_no != expected:
        raise NotNow(
            "stale",
            f"This was for pass {pass_no}, but the set-up is at pass {expected}.",
            "Somebody moved on, perhaps on another tablet. Read that spot again.",
        )
    if expected > len(state.passes):
        if state.passes:
            state.passes[-1].closed = True
        spots = tuple(s.id for s in state.quick_spots()) if state.quick else ()
        purpose: Purpose = "quick" if spots else "prove" if state.tight else "correct"
        state.passes.append(Pass(expected, dict(state.frames), purpose, spots=spots))
        state.quick = False
    return state.passes[-1]


def _need_pass(state: State, pass_no: int) -> Pass:
    current = state.open_pass
    if current is None or current.number != pass_no:
        raise NotNow("stale", f"Pass {pass_no} is not the open pass.", "Look at the screen again.")
    return current


def _place(state: State, reading_id: UUID) -> tuple[dict[str, Reading], str]:
    """Where the reading that was taken by this event is kept."""
    for one in state.passes:
        for kept in (one.readings, one.closings):
            for key, reading in kept.items():
                if reading.event_id == str(reading_id):
                    return kept, key
    raise NotFound("unknown_thing", "That reading is not in this set-up.", "It may have been undone.", "reading_id")


def _reading_corrected(state: State, body: ev.ReadingCorrected, version: int) -> None:
    kept, key = _place(state, body.reading_id)
    reading = kept[key]
    value = value_at(state, state.station(reading.station_id), body.typed, version)
    kept[key] = replace(
        reading, typed=body.typed, needle_mm=value.mm, off=value.off, lost=value.lost, deg=value.deg,
        u_mm=(body.live.u_mm or 0.0) if body.live else 0.0, live=body.live is not None,
    )  # fmt: skip
    state.kept.discard(str(body.reading_id))
    _drop_verdict(state)


def _spot_marked(state: State, body: ev.SpotMarked) -> None:
    station = state.station(body.station_id)
    current = _pass_for(state, body.pass_no)
    (current.bad.add if body.bad else current.bad.discard)(station.id)
    _drop_verdict(state)


def _move_done(state: State, event: ev.Event, body: ev.MoveDone) -> None:
    current = _need_pass(state, body.pass_no)
    if event.shown is None:
        raise NotNow("stale", "That move is no longer the one to make.", "Look at the screen again.")
    record = MoveRecord(str(event.id), event.shown, event.at, body.taps)
    if body.phase == "back":
        if state.half is None:
            raise NotNow("not_now", "No move is half done.", "There is nothing to take back.")
        state.half = None
        current.back = True
        current.moved.append("back")
    elif body.phase == "eased" and not (isinstance(event.shown, Jaws) and event.shown.ease):
        raise NotNow("not_now", "Nothing is backed off in that move.", "Make the move, then read again.")
    elif body.phase == "eased":
        state.half = record
    else:
        state.half = None
        current.moved.append(record.move.id)
        state.moves.append(record)
    state.tight = False
    for step in (READ, NIP_UP, PROVE):
        state.steps.pop(step, None)
    state.quick = body.quick
    if body.quick and (body.phase != "done" or not state.quick_spots()):
        raise NotNow("not_now", NO_QUICK, "Read the full pass.")
    _drop_verdict(state)


def _tightened(state: State, body: ev.Tightened, version: int) -> None:
    if READ not in state.hold_cautions:
        raise NotNow("not_now", "Nothing is tightened in this set-up.", "Read on.")
    if version >= 2:
        _in_order(state, READ)
    if body.quick and not state.quick_spots():
        raise NotNow("not_now", NO_QUICK, "Read the full pass.")
    state.tight, state.quick = True, body.quick
    state.tightenings.append(len(state.passes))
    if body.watched is not None:
        state.watched[len(state.passes)] = body.watched
    if state.passes:
        state.passes[-1].closed = True
    state.steps[READ] = state.steps.get(READ, ev.StepPassed(step=READ))
    state.steps[NIP_UP] = ev.StepPassed(step=NIP_UP)
    _drop_verdict(state)


def _proved(state: State, event: ev.Event, body: ev.Proved) -> None:
    current = _need_pass(state, body.pass_no)
    if current.purpose != "prove" or not state.tight:
        raise NotNow(
            "not_now",
            "Only a pass read after the final tightening can prove a set-up.",
            "Tighten everything, then read a full pass.",
        )
    left = [
        f"{s.label} again" if closing else s.label
        for s, closing in state.to_read(current)
        if not (s.ring in current.closings if closing else current.answered(s.id))
    ]
    if event.version < 3 and current.closings:
        left = [word for word in left if not word.endswith(" again")]  # once, one closing reading did for all of a pass
    if left:
        raise NotNow("not_now", "The pass is not complete.", f"Still to read: {', '.join(left)}.")
    state.verdict = event.verdict
    if event.verdict and (
        state.only_reads or event.verdict.outcome == "holds"
    ):  # a finding ends a job that only measures
        state.steps[PROVE] = ev.StepPassed(step=PROVE)


def _drop_verdict(state: State) -> None:
    """A proof is only as good as its readings: whatever touches them takes it back."""
    state.verdict = None
    state.accepted = None
    state.steps.pop(PROVE, None)
    state.steps.pop(CLEAR, None)
