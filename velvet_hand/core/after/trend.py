"""Does a row of values still come from where it came from? A change is found by ranks, so that one wild value moves nothing.

Pettitt, "A non-parametric approach to the change-point problem" (Applied Statistics, 1979): with ranks r, the sum of the first t is off by
``U_t = 2 (r_1 + ... + r_t) - t (n + 1)``, and ``K = max |U_t|``. How rare a K is where nothing changed is counted in shuffled rows, for his
own approximation is too shy for few values. Limits are those of a chart of single values: the mean of what was before, and 2.66 mean
moving ranges to both sides (Shewhart; Wheeler, "Understanding Variation").
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

#: A change that would be seen so rarely where nothing changed is told of.
RARE = 0.005
#: With fewer values nothing is said.
LEAST = 8
#: Three standard deviations by the mean moving range of neighbors (3 / d2, d2 = 1.128).
BY_RANGE = 2.66
#: So many are needed before a change, or after it, to say what it was like.
SIDE = 3
#: So many rows are shuffled to know how rare a change is.
SHUFFLES = 4000


@dataclass(frozen=True, slots=True)
class Trend:
    """``middle``, ``low`` and ``high`` of the values before ``changed`` (the index of the first after it; None: of all)."""

    middle: float
    low: float
    high: float
    changed: int | None = None
    before: float = 0.0
    after: float = 0.0

    def odd(self, value: float) -> bool:
        """Is it outside its limits?"""
        return not self.low <= value <= self.high


def trend(values: Sequence[float], least: float = 0.0) -> Trend | None:
    """The trend of values in the order of time; None when they are too few. No limit is below ``least``.

    Examples
    --------
    >>> same = trend([1.0, 1.2, 0.9, 1.1, 1.0, 0.8, 1.1, 1.0])
    >>> same.changed, round(same.middle, 3), same.odd(1.9)
    (None, 1.013, True)
    >>> rose = trend([1.0, 1.2, 0.9, 1.1, 1.0, 0.8, 1.1, 2.1, 2.0, 2.4, 2.2, 2.5, 2.6, 2.2])
    >>> rose.changed, rose.before, rose.after
    (7, 1.0, 2.2)
    """
    x = np.asarray(values, float)
    if len(x) < LEAST:
        return None
    at = _changed(x)
    base = x if at is None else x[:at]
    middle, spread = float(base.mean()), BY_RANGE * float(np.abs(np.diff(base)).mean())
    low = max(middle - spread, least)
    if at is None:
        return Trend(middle, low, middle + spread)
    return Trend(middle, low, middle + spread, at, float(np.median(x[:at])), float(np.median(x[at:])))


def _changed(x: np.ndarray) -> int | None:
    _, at, count = np.unique(x, return_inverse=True, return_counts=True)
    ranks = (np.cumsum(count) - (count - 1) / 2)[at]  # those that are equal share their ranks
    off = np.abs(_off(ranks))[0]
    best = int(off.argmax())
    shuffled = np.random.default_rng(1979).permuted(np.tile(ranks, (SHUFFLES, 1)), axis=1)
    rare = (1 + np.count_nonzero(np.abs(_off(shuffled)).max(axis=1) >= off[best])) / (1 + SHUFFLES)
    return SIDE + best if rare < RARE else None


def _off(ranks: np.ndarray) -> np.ndarray:
    """``U_t`` of each row, for every t that leaves enough to both sides."""
    rows = np.atleast_2d(ranks)
    n = rows.shape[1]
    sums = 2 * np.cumsum(rows, axis=1) - np.arange(1, n + 1) * (n + 1)
    return np.asarray(sums[:, SIDE - 1 : n - SIDE])
