"""Readings to be asked about: a turn of the hand off, at the end of the travel, far from where pass and move leave them, or finer than
their dial.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import takewhile
from typing import Literal

import numpy as np

from ..gauge import Gauge
from ..readings import Pass, Reading, Station
from ..setup.state import State
from .fineness import meant, too_fine

#: Without a move, a needle does not jump farther than so many graduations and this much.
JUMP_MARKS, JUMP_MM = 20, 0.15
#: A move may get so many times what was asked of it, before its reading is doubted.
JUMP_TIMES = 4.0


@dataclass(frozen=True, slots=True)
class Doubt:
    """A reading to be asked about, and what it may be instead.

    ``turn``: with one turn of the hand more or less (``meant_mm``) it would fit. ``end``: the needle may stand at its stop.
    ``jump``: it stands ``off_mm`` from where the last pass and the move leave it. ``fine``: the readings are finer than the dial shows;
    ``instead`` tells what each would be in the ``unit`` that they fit.
    """

    reading: Reading
    station: Station
    why: Literal["turn", "end", "jump", "fine"]
    meant_mm: float | None = None
    off_mm: float = 0.0
    unit: str = ""
    instead: tuple[tuple[str, str], ...] = ()


def doubted(state: State) -> Doubt | None:
    """The first reading of the open pass to be asked about; None when all are as expected, or were said to be right."""
    one = state.open_pass
    if one is None or one.moved:
        return None
    expected = _expected(state, one)
    for measure in state.measures.values():
        readings = [r for r in one.all_readings() if state.station(r.station_id).ring == measure.id]
        fresh = [r for r in readings if r.needle_mm is not None and r.event_id not in state.kept]
        spots = {r.station_id: state.station(r.station_id) for r in fresh}
        gauge = state.plan.gauge_in(measure.slot)
        if not fresh or any(s.reads != gauge.reads for s in spots.values()):
            continue
        first = {i: r for i, r in one.good().items() if i in spots or state.station(i).ring == measure.id}
        found = None
        if not gauge.measures_gap:
            found = _turned(fresh, first, expected, gauge, state) or _jumped(fresh, expected, gauge)
        if found is not None:
            reading, why, meant_mm, off = found
            return Doubt(reading, spots[reading.station_id], why, meant_mm, off)
        if len(fresh) == len(readings) and not any(r.live for r in fresh) and too_fine(fresh, gauge):
            other = meant(fresh, gauge) or ("", ())
            return Doubt(fresh[-1], spots[fresh[-1].station_id], "fine", unit=other[0], instead=other[1])
    return None


#: A reading, why it is doubted, what may be meant, how far it is off.
Found = tuple[Reading, Literal["turn", "end", "jump"], float | None, float]


def _expected(state: State, one: Pass) -> dict[str, tuple[float, float]]:
    """Where each needle should stand by the last full pass and the moves since, and how far it may be from there."""
    before = next((p for p in reversed(state.passes[: one.number - 1]) if not p.quick), None)
    if before is None:
        return {}
    late = takewhile(lambda r: r.move.pass_no >= before.number, reversed(state.moves))  # there may be hundreds before
    records = [r for r in late if r.move.pass_no < one.number][::-1]
    found = {}
    for station_id, reading in before.good().items():
        ring = state.station(station_id).ring
        if reading.needle_mm is None or before.frames.get(ring) != one.frames.get(ring):
            continue
        last = records[-1].move.aims if records else {}
        if records and not last:
            continue  # nobody said what is to be read after that move
        moved = max(
            (
                abs(aim - r.needle_mm)
                for i, aim in last.items()
                if (r := before.readings.get(i)) and r.needle_mm is not None
            ),
            default=0.0,
        )
        found[station_id] = (last.get(station_id, reading.needle_mm), JUMP_TIMES * moved)
    return found


def _turned(
    fresh: Sequence[Reading],
    first: dict[str, Reading],
    expected: dict[str, tuple[float, float]],
    gauge: Gauge,
    state: State,
) -> Found | None:
    """A reading that one turn of the hand would bring in line with the others, and nothing else is as good."""
    turn = gauge.turn_mm
    if not turn:
        return None
    values = {i: r.needle_mm for i, r in first.items() if r.needle_mm is not None}
    best: tuple[float, Found] | None = None
    wide = _spread(values.values())
    for reading in fresh:
        if not reading.closing and wide <= turn / 2:
            continue  # what lies within half a turn of the hand cannot come half a turn nearer
        assert reading.needle_mm is not None
        beside: float | None
        if reading.closing:
            beside = values.get(reading.station_id)
        else:
            others = {i: v for i, v in values.items() if i != reading.station_id}
            beside = _beside(state.station(reading.station_id), [(state.station(i), v) for i, v in others.items()])
            if beside is None and reading.station_id in expected:
                at, far = expected[reading.station_id]
                beside = at if far < turn / 4 else None
        if beside is None:
            continue
        off = reading.needle_mm - beside
        meant = reading.needle_mm - math.copysign(turn, off)
        if abs(off) <= turn / 2 or abs(meant - beside) >= turn / 4 or abs(meant) > gauge.travel_mm:
            continue
        if gauge.dial == "continuous" and not gauge.counts_turns and turn / 2 < meant <= turn:
            continue  # on such a dial that is how the other one is written
        spread = _spread([*(v for i, v in values.items() if reading.closing or i != reading.station_id), meant])
        narrower = reading.closing or spread < wide - turn / 2
        if narrower and (best is None or spread < best[0]):
            best = (spread, (reading, "turn", meant, off))
    return best[1] if best else None


def _spread(values: Iterable[float]) -> float:
    found = list(values)
    return max(found) - min(found) if found else 0.0


def _beside(spot: Station, others: Sequence[tuple[Station, float]]) -> float | None:
    """What the others say should be read at a spot: by a ring's once-per-turn curve, or a straight line or plane; None if too few."""

    def row(one: Station) -> list[float]:
        if spot.x_mm or spot.y_mm or any(s.x_mm or s.y_mm for s, _ in others):
            return [1.0, one.x_mm / 100, *([one.y_mm / 100] if any(s.y_mm for s, _ in others) else [])]
        return [1.0, math.cos(math.radians(one.angle_deg)), math.sin(math.radians(one.angle_deg))]

    if not others:
        return None
    rows = np.array([row(s) for s, _ in others])
    if np.linalg.matrix_rank(rows, tol=1e-6) < rows.shape[1]:
        return None
    solved = np.linalg.lstsq(rows, np.array([v for _, v in others]), rcond=None)[0]
    return float(np.dot(row(spot), solved))


def _jumped(fresh: Sequence[Reading], expected: dict[str, tuple[float, float]], gauge: Gauge) -> Found | None:
    """A needle at its stop, or one that stands where neither the last pass nor the move explains it."""
    for reading in fresh:
        assert reading.needle_mm is not None
        if abs(reading.needle_mm) > gauge.travel_mm - gauge.graduation_mm / 2:
            return reading, "end", None, 0.0
        if reading.station_id in expected:
            at, far = expected[reading.station_id]
            off = reading.needle_mm - at
            if abs(off) > max(far, JUMP_MARKS * gauge.graduation_mm, JUMP_MM):
                return reading, "jump", None, off
    return None
