"""The fewest blocks of a set that stack to a height."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

#: A stack this near to the height is the height; more pieces than this are not wrung together.
NEAR_MM, MOST_PIECES = 0.0005, 5
#: So many of the nearest pairs of parts are tried, until two share no block.
TRIED = 60


def fewest(height_mm: float, blocks: Sequence[tuple[float, int]]) -> tuple[float, ...]:
    """The stack of at most five blocks that comes nearest: of those that reach the height the one of fewest pieces, the thinnest first.

    Parameters
    ----------
    blocks
        Size and count of each.

    Examples
    --------
    >>> fewest(9.585, ((1.005, 1), (1.08, 1), (7.5, 1), (1.0, 1), (2.5, 1)))
    (1.005, 1.08, 7.5)
    """
    items = tuple(sorted(mm for mm, count in blocks for _ in range(min(count, MOST_PIECES))))
    best: tuple[float, tuple[int, ...]] | None = None
    for pieces in range(1, min(MOST_PIECES, len(items)) + 1):
        found = _nearest(height_mm, items, pieces)
        if found is not None and (best is None or found[0] < best[0] - 1e-9):
            best = found
        if best is not None and best[0] <= NEAR_MM:
            break
    return tuple(items[i] for i in best[1]) if best else ()


@lru_cache(maxsize=32)
def _sums(items: tuple[float, ...], pieces: int) -> tuple[NDArray[np.float64], NDArray[np.intp]]:
    """All sums of so many blocks in ascending order, and which they are."""
    which = np.array(list(combinations(range(len(items)), pieces)), dtype=np.intp).reshape(-1, pieces)
    sums = np.asarray(items)[which].sum(axis=1)
    order = np.argsort(sums)
    return sums[order], which[order]


def _nearest(height_mm: float, items: tuple[float, ...], pieces: int) -> tuple[float, tuple[int, ...]] | None:
    """How far off the nearest stack of so many is, and which: two parts of it that are looked up in each other."""
    many = max(1, pieces - 2) if pieces > 1 else 0
    sums, which = _sums(items, pieces - many)
    if not many:
        at = int(np.abs(sums - height_mm).argmin())
        return abs(float(sums[at]) - height_mm), tuple(int(i) for i in which[at])
    others, these = _sums(items, many)
    wanted = height_mm - others
    place = np.searchsorted(sums, wanted)
    tries = np.clip(place[:, None] + np.arange(-2, 3)[None, :], 0, len(sums) - 1)
    miss = np.abs(sums[tries] - wanted[:, None])
    flat = np.argpartition(miss, min(TRIED, miss.size - 1), axis=None)[:TRIED]
    for index in flat[np.argsort(miss.ravel()[flat])]:
        row, column = np.unravel_index(index, miss.shape)
        chosen = {*(int(i) for i in these[row]), *(int(i) for i in which[tries[row, column]])}
        if len(chosen) == pieces:
            return float(miss[row, column]), tuple(sorted(chosen))
    return None
