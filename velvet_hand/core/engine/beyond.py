"""Readings past the gauge's travel: no numbers, but a direction, and a safe run for the needle."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from ..angles import direction_deg, rect
from ..measure.ring import RingLook
from ..move import Move
from ..readings import Pass, Station
from ..setup.state import State

#: A run of less than this part of the travel is not worth a move: the zero is misplaced.
LEAST_RUN = 0.4
#: A fresh zero that brings less than this part of the travel onto the dial is not worth a pass.
GAINS = 0.2
#: An aim stays this far on the dial, for a hand that stops beside it.
DIAL_PART = 0.97
#: What is said of a reading past the end of the dial, and of a move that goes on past it.
ONLY_THE_WAY = "It ran off the end there, so only the way is known, not how far."
AS_FAR = " The dial cannot follow all of it: this is as much as it shows. Then set zero afresh there, needle mid-travel, and read again."


@dataclass(frozen=True, slots=True)
class Run:
    """Where to watch, and the end of the dial to run to (toward value; None: until it comes back)."""

    station: Station
    end_mm: float | None
    asked_mm: float | None


def zero_at(state: State, one: Pass) -> str | None:
    """The spot to set the zero at, so that what went past the dial comes onto it and what is on it stays: the nearest to that end, or
    the first of a measure that is past it all over; with nothing off, the one farthest out. None where no zero helps.
    """
    seen = [] if state.plan.gauge.measures_gap else [(m, m.seen(state, one)) for m in state.measures.values()]
    gains: list[tuple[float, str]] = []  # parts of the travel
    for measure, found in [both for both in seen if both[1].off] or seen:
        ends, known = set(found.off.values()), found.toward_mm
        if len(ends) > 1 or 0 in ends:
            continue
        if ends and not known:  # a move took the whole of it past the dial, or it is another plane
            return measure.mine(state, one)[0].id
        end, travel = ends.pop() if ends else 0, measure.gauge.travel_mm
        gains += [
            ((end * mm if end else abs(mm)) / travel, key)
            for key, mm in known.items()
            if all(abs(other - mm) <= DIAL_PART * travel for other in known.values())
        ]
    gain, key = max(gains, default=(0.0, ""))
    return key if gain >= GAINS else None


def past_any_dial(state: State, one: Pass) -> bool:
    """Does a pass take more than the dial, wherever zero is set?"""
    return one.ran_off and not state.plan.gauge.measures_gap and zero_at(state, one) is None


def shown_part(state: State, now_mm: float, aim_mm: float) -> float:
    """How much of a needle's run from ``now_mm`` to ``aim_mm`` its dial can show, of 1."""
    travel = state.plan.gauge.travel_mm
    most = DIAL_PART * travel
    if abs(aim_mm) <= most or abs(now_mm) > travel or state.plan.gauge.measures_gap:
        return 1.0
    return max((math.copysign(most, aim_mm) - now_mm) / (aim_mm - now_mm), 0.0)


def one_zero(found: tuple[Move, ...]) -> tuple[Move, ...]:
    """Up to the first after which zero is set afresh: the aims of what follows are of the old one."""
    last = next((n for n, move in enumerate(found, start=1) if move.rezero), len(found))
    return found if last == len(found) else tuple(m.model_copy(update={"count": last}) for m in found[:last])


def zero_first(state: State, one: Pass, found: Sequence[Move]) -> bool:
    """Is the next move one that the dial shows too little of, or a small one while another zero would show what is past its end?"""
    needle = found[0].needle if found else None
    if needle is None or needle.now_mm is None or needle.aim_mm is None:
        return False
    run = abs(needle.aim_mm - needle.now_mm)
    if run >= LEAST_RUN * state.plan.gauge.travel_mm:
        return False
    return found[0].rezero or (one.ran_off and zero_at(state, one) is not None)


def pull(state: State, look: RingLook) -> complex | None:
    """Toward where the work's center sits, from readings of which some are off the dial.

    What is off counts as twice the travel, which is good enough for a direction.
    """
    travel = look.ring.gauge.travel_mm
    value = {k: 2 * travel * end for k, end in look.off.items() if end} | look.toward_mm
    spots = [s for s in state.stations if s.id in value]
    if len(spots) < 3:
        return None
    found = state.sense.center_sign * sum((value[s.id] * rect(1, s.angle_deg) for s in spots), 0j)
    return found if abs(found) >= travel else None


def run_for(state: State, look: RingLook, away_deg: float) -> Run | None:
    """What to watch while the work goes toward ``away_deg``: the spot on the dial that runs the furthest
    with it, or else one that comes back with it. None when no run is left.
    """
    travel, sign = look.ring.gauge.travel_mm, state.sense.center_sign
    runs: list[tuple[float, Run]] = []
    back: list[tuple[float, Run]] = []
    for station in state.stations:
        along = sign * rect(1, station.angle_deg - away_deg).real
        if station.id in look.toward_mm and abs(along) > 0.5:
            end = travel if along > 0 else -travel
            run = abs(end - look.toward_mm[station.id])
            runs.append((run, Run(station, end, run / abs(along))))
        elif look.off.get(station.id, 0) * along < -0.5:
            back.append((abs(along), Run(station, None, None)))
    if not runs:
        return max(back, key=lambda b: b[0])[1] if back else None
    longest = max(runs, key=lambda r: r[0])
    return longest[1] if longest[0] >= LEAST_RUN * travel else None


def away_from(pulled: complex) -> float:
    """The direction in which the work has to go."""
    return (direction_deg(pulled) + 180) % 360
