"""Is a needle still, and did it turn back? From what came in, with the time of each."""

from __future__ import annotations

import math
from collections import deque
from dataclasses import dataclass, field
from typing import Literal

#: Still for so long (s), by at least so many values.
STILL_S, FEWEST = 0.5, 4
#: It is still when its standard deviation is under this part of a graduation.
STILL_PART = 0.2


def is_still(sd_mm: float | None, graduation_mm: float) -> bool:
    """Does a needle of that standard deviation stand still? Not while nobody knows it (None)."""
    return sd_mm is not None and sd_mm < STILL_PART * graduation_mm


@dataclass(slots=True)
class Stillness:
    """The values of the last half second."""

    values: deque[tuple[float, float]] = field(default_factory=lambda: deque(maxlen=2000))

    def add(self, at_s: float, mm: float) -> None:
        """One more; a clock that jumps back starts afresh."""
        if self.values and at_s < self.values[-1][0]:
            self.values.clear()
        self.values.append((at_s, mm))
        while len(self.values) > 1 and self.values[1][0] <= at_s - STILL_S:
            self.values.popleft()  # the one that reaches back to half a second ago stays

    def clear(self) -> None:
        """Nothing came: what was before says nothing of now."""
        self.values.clear()

    @property
    def sd_mm(self) -> float | None:
        """Standard deviation over the last half second; None until that has been seen."""
        if len(self.values) < FEWEST or self.values[-1][0] - self.values[0][0] < STILL_S * 0.95:
            return None
        mm = [v for _, v in self.values]
        mean = sum(mm) / len(mm)
        return math.sqrt(sum((v - mean) ** 2 for v in mm) / (len(mm) - 1))

    def still(self, graduation_mm: float) -> bool:
        """Did it stand still for half a second?"""
        return is_still(self.sd_mm, graduation_mm)


Side = Literal["high", "low"]


@dataclass(slots=True)
class Peak:
    """The extreme over a rod or a ball, kept only after it turned back by more than ``back_mm``; once from each side.

    ``side``: is the highest or the lowest looked for?
    """

    back_mm: float
    side: Side = "high"
    crests: list[float] = field(default_factory=list)
    _from: float | None = None
    _best: float | None = None

    def add(self, mm: float) -> float | None:
        """One more value; the crest when it has just been passed: it rose to it, and fell from it."""
        up = mm if self.side == "high" else -mm
        if self._best is None:
            self._from = up if self._from is None else min(self._from, up)
            if up - self._from > self.back_mm:
                self._best = up
            return None
        self._best = max(self._best, up)
        if self._best - up <= self.back_mm:
            return None
        crest = self._best if self.side == "high" else -self._best
        self.crests.append(crest)
        self._from, self._best = up, None
        return crest

    @property
    def both(self) -> tuple[float, float] | None:
        """The extreme by both ways over it, and how far they are apart; None before it was passed twice."""
        if len(self.crests) < 2:
            return None
        one, other = self.crests[-2:]
        return (one + other) / 2, abs(one - other)
