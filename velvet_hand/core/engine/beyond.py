"""Readings past the gauge's travel: no numbers, but a direction, and a safe run for the needle."""

from __future__ import annotations

from dataclasses import dataclass

from ..angles import direction_deg, rect
from ..measure.ring import RingLook
from ..readings import Station
from ..setup.state import State

#: A run of less than this part of the travel is not worth a move: the zero is misplaced.
LEAST_RUN = 0.4


@dataclass(frozen=True, slots=True)
class Run:
    """Where to watch, and the end of the dial to run to (toward value; None: until it comes back)."""

    station: Station
    end_mm: float | None
    asked_mm: float | None


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
