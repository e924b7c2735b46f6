"""What came in while it was turned, made ready: one clock, short spikes and silences set apart, evenly spaced."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from ..errors import BadInput

Array = NDArray[np.float64]
#: Fewest values and shortest time (s) that say anything.
FEWEST, SHORTEST_S = 40, 1.0
#: A spike stands out from what is within so long of it (s) by so many graduations, and by so many times what is usual.
NEAR_S, STANDS_OUT, TIMES = 0.35, 6.0, 6.0
#: Who begins and who ends stands still for at least so long (s).
STOOD_S = 0.12
#: Nothing came for so long (s): a gap.
GAP_S = 0.3


@dataclass(frozen=True, slots=True, eq=False)
class Pieces:
    """Evenly spaced pieces of time: middle (s, from the first value), mean of what came in it (mm), whether anything did, and how long."""

    mid_s: Array
    mm: Array
    have: NDArray[np.bool_]
    step_s: float

    @property
    def long_s(self) -> float:
        """From the first value to the last."""
        return self.step_s * len(self.mm)

    def index(self, at_s: float) -> int:
        """The piece that holds a moment."""
        return int(np.clip(at_s / self.step_s, 0, len(self.mm) - 1))


@dataclass(frozen=True, slots=True, eq=False)
class Tidy:
    """A stream (n,) whose clock goes on, from 0 s; ``good`` are the values that are no spike; ``spikes`` and ``gaps`` from when to when."""

    at_s: Array
    mm: Array
    good: NDArray[np.bool_]
    spikes: tuple[tuple[float, float], ...]
    gaps: tuple[tuple[float, float], ...]

    @property
    def stood_mm(self) -> tuple[float, float]:
        """What the needle showed while it stood: before it went, and at the end."""
        first, last = self.at_s <= STOOD_S, self.at_s >= self.at_s[-1] - STOOD_S
        return float(np.median(self.mm[first])), float(np.median(self.mm[last]))

    @property
    def walked_mm(self) -> float:
        """What the needle did not come back by, where it ends at the place that it began at."""
        first, last = self.stood_mm
        return last - first

    @property
    def steady(self) -> Tidy:
        """The same with what walked taken out, evenly."""
        return replace(self, mm=self.mm - self.walked_mm * self.at_s / self.at_s[-1])

    def pieces(self, count: int) -> Pieces:
        """The stream in so many pieces of time."""
        long = float(self.at_s[-1])
        index = np.clip((self.at_s[self.good] / long * count).astype(int), 0, count - 1)
        number = np.bincount(index, minlength=count)
        total = np.bincount(index, self.mm[self.good], minlength=count)
        step = long / count
        mid = np.asarray((np.arange(count) + 0.5) * step, float)
        return Pieces(mid, np.asarray(total / np.maximum(number, 1), float), number > 0, step)


def tidy(at_s: Sequence[float], mm: Sequence[float], graduation_mm: float) -> Tidy:
    """A stream made ready. A clock that jumps back, or a moment twice, is left out.

    Raises
    ------
    BadInput
        At ``ended``, when too little came.

    Examples
    --------
    >>> at = np.arange(200) / 50
    >>> mm = np.where((at > 1.0) & (at < 1.1), 0.05, 0.0)
    >>> [tuple(round(float(s), 2) for s in one) for one in tidy(at, mm, 0.001).spikes]
    [(1.02, 1.08)]
    """
    at, value = np.asarray(at_s, float), np.asarray(mm, float)
    kept = np.isfinite(at) & np.isfinite(value)
    at, value = at[kept], value[kept]
    later = np.concatenate([[True], at[1:] > np.maximum.accumulate(at)[:-1]]) if len(at) else kept
    at, value = at[later], value[later]
    if len(at) < FEWEST or at[-1] - at[0] < SHORTEST_S:
        raise BadInput(
            "field_invalid", "Too little came in.", "Turn it slowly, once round, while the needle is live.", "ended"
        )
    at = at - at[0]
    good = ~_spikes(at, value, graduation_mm)
    silent = np.flatnonzero(np.diff(at) > GAP_S)
    return Tidy(at, value, good, _runs(at, ~good), tuple((float(at[i]), float(at[i + 1])) for i in silent))


def _spikes(at: Array, mm: Array, graduation_mm: float) -> NDArray[np.bool_]:
    """What stands out from the median of its neighborhood: a nick, a chip, a keyway that is run over."""
    half = max(round(NEAR_S * len(at) / float(at[-1] - at[0])), 2)
    around = np.lib.stride_tricks.sliding_window_view(np.pad(mm, half, mode="edge"), 2 * half + 1)
    apart = np.abs(mm - np.median(around, axis=1))
    usual = float(np.median(apart))
    return np.asarray(apart > max(STANDS_OUT * graduation_mm, TIMES * 1.48 * usual))


def _runs(at: Array, marked: NDArray[np.bool_]) -> tuple[tuple[float, float], ...]:
    """From when to when the marked ones go, near ones together."""
    found: list[tuple[float, float]] = []
    for moment in at[marked]:
        if found and moment - found[-1][1] < NEAR_S:
            found[-1] = (found[-1][0], float(moment))
        else:
            found.append((float(moment), float(moment)))
    return tuple(found)
