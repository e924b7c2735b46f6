"""How much one reading scatters, told by all passes of a set-up: what repeats at a spot is form, what does not is scatter."""

from __future__ import annotations

from collections.abc import Callable, Hashable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any

import numpy as np
from scipy.special import stdtrit

from .kalman import Array

#: What is known of an indicator beforehand counts like so many readings.
KNOWN = 3.0
#: How certain a finish is: it counts like so many residuals.
FINISH_COUNTS = 4.0
#: No contact repeats better than this (mm).
LEAST_MM = 0.0005


def expected_variance(graduation_mm: float, finest_mm: float) -> float:
    """Variance of one reading before anything was read: a quarter of a graduation lost in contact and play, and what is read to.

    Examples
    --------
    >>> round(1e6 * expected_variance(0.001, 0.0005), 6)
    0.270833
    """
    return float(max(graduation_mm / 4, LEAST_MM) ** 2 + finest_mm**2 / 12)


@dataclass(frozen=True, slots=True, eq=False)
class Repeats:
    """What is left over at the same spots in several passes: how many passes, their sum (N,), and the sum of squares."""

    count: int = 0
    total: Array = field(default_factory=lambda: np.zeros(0))
    squares: float = 0.0

    def add(self, left_over: Array) -> Repeats:
        """One pass more."""
        total = self.total + left_over if self.count else left_over
        return Repeats(self.count + 1, total, self.squares + float(left_over @ left_over))

    def repeated(self, passes: int) -> Repeats:
        """As after so many passes more that read what these read on the mean."""
        mean, count = self.total / max(self.count, 1), self.count + passes
        return Repeats(count, mean * count, self.squares + passes * float(mean @ mean))


def pooled(groups: Iterable[Repeats], fitted: int, before: float, counts: float) -> tuple[float, float]:
    """Variance of one reading and its degrees of freedom (for Student's t).

    Parameters
    ----------
    groups
        Passes that read the same spots.
    fitted
        Terms that each pass's fit has.
    before, counts
        Variance expected beforehand, and how many readings that counts for.

    Examples
    --------
    >>> still = Repeats()
    >>> for _ in range(3):
    ...     still = still.add(np.full(8, 0.001))
    >>> pooled([still], 3, 0.27e-6, 6.0)[1]
    16.0
    """
    squares, freedom = 0.0, 0.0
    for group in groups:
        if group.count > 1:
            squares += group.squares - float(group.total @ group.total) / group.count
            freedom += (group.count - 1) * max(len(group.total) - fitted, 0)
    return (counts * before + max(squares, 0.0)) / (counts + freedom), counts + freedom


def form_told(
    spots: Hashable,
    groups: Mapping[Any, Repeats],
    shape: Callable[[Any], tuple[Array, Array]],
    spread: Array,
    variance: float,
    fitted: int,
    marks: float = 0.0,
) -> tuple[Array, Array, float]:
    """What the surface itself is by all passes: (k,) terms, their (k, k) covariance, and its degrees of freedom.

    Parameters
    ----------
    spots, groups
        What this pass read, and what is left over in the passes that read the same spots, by these spots.
    shape
        Of spots: (N, k) what each term is there, and (N, N) the projector onto what a fit leaves over.
    spread
        (k,) variance of each term expected beforehand; it grows where what repeats is more than that.
    variance, fitted
        Of one reading; terms that each pass's fit has.
    marks
        Variance of what every place has of its own besides.
    """
    mine = groups[spots]
    terms, rest = shape(spots)
    free, repeats = max(len(terms) - fitted, 0), mine.total / mine.count
    known = float(np.trace(rest @ terms @ np.diag(spread) @ terms.T))
    more = max(0.0, float(repeats @ repeats) - (variance / mine.count + marks) * free) / known if known > 1e-15 else 0.0
    grown = (FINISH_COUNTS + free * more) / (FINISH_COUNTS + free)
    precise, pull = np.diag(1 / (grown * spread)), np.zeros(len(spread))
    for others, group in groups.items():
        theirs, left = shape(others)
        each = variance + group.count * marks
        precise = precise + group.count * theirs.T @ left @ theirs / each
        pull = pull + theirs.T @ group.total / each
    cov = np.asarray(np.linalg.inv(precise), float)
    return cov @ pull, cov, FINISH_COUNTS + free


def half95(variance: float, freedom: float) -> float:
    """Half the 95 % interval of a normal value of that estimated variance: Student's t."""
    return float(stdtrit(freedom, 0.975) * variance**0.5)
