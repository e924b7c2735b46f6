"""How many turns it was, where it may have been in each piece of time, and what marks made in passing mean."""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np

from .stream import Array, Pieces
from .warp import Mark

#: Turns that are tried.
MOST_TURNS = 4
#: Places a turn that a beginning is looked for in.
GRID = 120
#: How unevenly it may be turned there, and how far a surface may be from a plain eccentric (part of its eccentricity).
UNEVEN, PART = 0.6, 0.15
#: Another number of turns has to explain it so many times better, or nobody can tell.
PLAINLY = 1.5


def begin(pieces: Pieces, turns: int, form_mm: float) -> tuple[float, Array]:
    """How badly a plain eccentric turned so often explains it, and where it was then in each piece (M,), degrees.

    The best path by dynamic programming over a grid of places, which never goes back.
    """
    mm, have = pieces.mm, pieces.have
    low, high = np.quantile(mm[have], (0.005, 0.995))
    center, size = (low + high) / 2, max((high - low) / 2, 1e-6)
    grid = np.arange(GRID * turns + 1) * 360 / GRID
    mean = len(grid) / len(mm)
    most = int(min(len(grid) - 1, max(6, math.ceil(6 * mean))))
    steps = np.arange(most + 1)
    price = np.asarray(0.15 * ((steps - mean) / (UNEVEN * mean + 0.7)) ** 2, float)
    first = math.degrees(math.acos(float(np.clip((np.median(mm[have][:3]) - center) / size, -1, 1))))
    tries = []
    for high_deg in (first, -first):
        away = (mm[:, None] - center - size * np.cos(np.radians(grid - high_deg))) / (PART * size + form_mm)
        tries.append(_path(np.asarray(away**2 / 2 * have[:, None], float), price))
    cost, path = min(tries, key=lambda one: one[0])
    return cost, grid[path]


def _path(miss: Array, price: Array) -> tuple[float, Array]:
    """The cheapest way from the first place to the last: its cost, and the place in each piece."""
    count, places = miss.shape
    most = len(price) - 1
    cost = np.full(places, 1e12)
    cost[0] = miss[0, 0]
    came = np.zeros((count, places), np.int32)
    for i in range(1, count):
        reach = (
            np.lib.stride_tricks.sliding_window_view(np.concatenate([np.full(most, 1e12), cost]), most + 1)
            + price[::-1]
        )
        best = reach.argmin(axis=1)
        cost = reach[np.arange(places), best] + miss[i]
        came[i] = most - best
    at = places - 1
    path = [at]
    for i in range(count - 1, 0, -1):
        at -= came[i, at]
        path.append(at)
    return float(cost[-1]), np.clip(np.array(path[::-1]), 0, places - 1)


def turns_of(pieces: Pieces, form_mm: float) -> tuple[int, bool]:
    """How many turns it was, by the signal alone, and whether that is plain: an oval part turned once looks like another turned twice."""
    costs = {turns: begin(pieces, turns, form_mm)[0] for turns in range(1, MOST_TURNS + 1)}
    best = min(costs, key=lambda turns: costs[turns])
    return best, best == 1 and PLAINLY * costs[1] < min(costs[turns] for turns in costs if turns > 1)


def passed(at_s: Sequence[float], places: Sequence[float], turns: int | None) -> tuple[int | None, tuple[Mark, ...]]:
    """What marks made in passing mean, and how many turns they say that it was.

    ``places`` are those in a turn that are marked (degrees, the first stood at). Each of them every time round, the last return to the
    first left out; or only the first, each time it comes by. Anything else means nothing.
    """
    count, each = len(at_s), len(places)
    if not count:
        return turns, ()
    every = count + 1
    if every % each == 0 and turns in (None, every // each):
        found = [360.0 * (i // each) + places[i % each] for i in range(1, every)]
        return every // each, tuple(Mark(s, deg) for s, deg in zip(at_s, found, strict=True))
    if turns in (None, every) and every <= MOST_TURNS:
        return every, tuple(Mark(s, 360.0 * (i + 1)) for i, s in enumerate(at_s))
    return turns, ()
