"""Hands that turn a spindle or wind a table, steadily or not: where it is when."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray

from ..readings import Station
from .body import Body

Array = NDArray[np.float64]
#: How a hand goes: nearly even; as people do; in fits; from grip to grip, standing in between.
Steadiness = Literal["steady", "usual", "uneven", "jerky"]
STEADINESS: tuple[Steadiness, ...] = get_args(Steadiness)
#: The logarithm of its speed wanders by so much, and forgets itself in so long (s).
WANDER: dict[Steadiness, tuple[float, float]] = {"steady": (0.1, 2.0), "usual": (0.35, 1.0), "uneven": (0.7, 0.6)}
#: Lines a second; how long it stands before and after (s).
RATE_HZ, STANDS_S = 50.0, (0.3, 1.0)
#: At the far end it stands so long before it is marked, and after (s).
TURNS_BACK_S = 0.25
#: Who sends a mark in passing sends it so late, give or take (s).
LATE_S, SCATTER_S = 0.04, 0.1


def wound(
    rng: np.random.Generator, steadiness: Steadiness, total: float, mean: float, rate_hz: float = RATE_HZ
) -> tuple[Array, Array]:
    """Moments (n,) in seconds and places (n,), from standing at 0 to standing at ``total``, at about ``mean`` a second."""
    parts = (
        _gripped(rng, total, mean, rate_hz)
        if steadiness == "jerky"
        else _wandering(rng, steadiness, total, mean, rate_hz)
    )
    before, after = (int(rng.uniform(*STANDS_S) * rate_hz) for _ in range(2))
    place = np.array([*np.zeros(before), *parts, *np.full(after, total)])
    return np.arange(len(place)) / rate_hz, place


@dataclass(frozen=True, slots=True)
class Way:
    """Once round a part, or along it and back, over its spots: (n,) moments and places, where the stylus begins, which way the places
    count, and when something passes that is marked.
    """

    at_s: Array
    place: Array
    first: complex
    sense: float
    ring: str
    marks_s: tuple[float, ...]

    def at(self, seconds: float) -> complex:
        """Where the stylus is on the part then."""
        return self.first + self.sense * float(np.interp(seconds, self.at_s, self.place))


def way_over(
    body: Body, spots: Sequence[Station], places: Sequence[float], turns: bool, rng: np.random.Generator, steadiness: Steadiness,
    takes_s: float,
) -> Way:  # fmt: skip
    """A hand that goes over these spots in about so long; ``places`` are theirs from the first on, round it when it ``turns``."""
    (first, ring), last = body.spot(spots[0]), complex(body.spot(spots[-1])[0])
    if turns:
        at_s, place = wound(rng, steadiness, 360.0, 360.0 / takes_s)
        passed = [
            p for p, s in zip(places[1:], spots[1:], strict=True) if s.jaw is not None and spots[0].jaw is not None
        ]
        sense = 1.0 if (spots[1].angle_deg - spots[0].angle_deg) % 360 <= 180 else -1.0
        return Way(
            at_s, place, complex(first), sense, ring, tuple(float(np.interp(p, *_going(place, at_s))) for p in passed)
        )
    there, along = wound(rng, steadiness, places[-1], places[-1] / takes_s)
    back, again = wound(rng, steadiness, places[-1], places[-1] / takes_s)
    far = float(there[-1]) + TURNS_BACK_S
    at_s, place = np.concatenate([there, far + TURNS_BACK_S + back]), np.concatenate([along, places[-1] - again])
    return Way(at_s, place, complex(first), 1.0 if (last - first).real >= 0 else -1.0, ring, (far,))


def _wandering(
    rng: np.random.Generator, steadiness: Steadiness, total: float, mean: float, rate_hz: float
) -> list[float]:
    rough, forgets = WANDER[steadiness]
    step, wander, at, found = 1 / rate_hz, 0.0, 0.0, list[float]()
    while at < total:
        wander += -wander * step / forgets + rough * (2 * step / forgets) ** 0.5 * rng.normal()
        starts = min(1.0, (len(found) + 1) * step / 0.4) * min(1.0, (total - at) / (mean * 0.4) + 0.03)
        at += mean * np.exp(wander) * starts * step
        found.append(min(at, total))
    return found


def _gripped(rng: np.random.Generator, total: float, mean: float, rate_hz: float) -> list[float]:
    at, found, least = 0.0, list[float](), 0.024 * total
    while at < total:
        push = min(rng.uniform(0.1, 0.38) * min(total, 360.0), total - at)
        push = total - at if total - at - push < least else push
        count = max(int(push / mean / rng.uniform(0.6, 1.4) * rate_hz), 4)
        speed = np.sin(np.pi * np.arange(count) / count) ** rng.uniform(0.8, 2.0) + 1e-3
        found.extend(at + np.cumsum(speed) / speed.sum() * push)
        at += push
        found.extend([at] * int(rng.uniform(0.05, 0.9) * rate_hz))
    return found


def pressed(rng: np.random.Generator, at_s: Array, place: Array, wanted: Array) -> list[float]:
    """When somebody presses a key at these places, in passing."""
    moments = np.interp(wanted, *_going(place, at_s)) + rng.normal(LATE_S, SCATTER_S, len(wanted))
    return [float(s) for s in np.sort(moments)]


def _going(place: Array, at_s: Array) -> tuple[Array, Array]:
    """Places that rise, and their moments: standing still is passed once."""
    new = np.concatenate([[True], np.diff(place) > 0])
    return place[new], at_s[new]
