"""Anything that is moved straight to an aim: one gain for every direction, and a shift on tightening, on one axis or two.

State: error (d), gain, shift (d)::  de = g a + tau s
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .kalman import Array, Belief, Effect, Model, Prior


@dataclass(frozen=True, slots=True)
class Moved:
    """One act: how far the error was to go along each axis, and how often all was tightened after it."""

    asked_mm: tuple[float, ...]
    tightened: int = 0


class OneGain(Model[Moved]):
    """What is moved ``d`` ways; a share ``missed`` of each move goes astray, in whatever direction."""

    gains = ("gain",)

    missed, shift_scatter_mm = 0.07, 0.001

    def __init__(self, dim: int, stop_mm: float, gain: Prior, shift_sd_mm: float) -> None:
        self.dim, self.stop_mm = dim, stop_mm
        shifts = {f"shift_{axis + 1}": Prior(0.0, shift_sd_mm, 0.0001) for axis in range(dim)}
        self.priors = {"gain": gain, **shifts}

    def clip(self, x: Array) -> Array:
        """See ``Model``."""
        found = x.copy()
        found[self.dim] = min(max(x[self.dim], 0.2), 3.0)
        return found

    def effect(self, x: Array, acts: Sequence[Moved]) -> Effect:
        """See ``Model``."""
        d = self.dim
        gain, shift = x[d], x[d + 1 : 2 * d + 1]
        all_asked, missed = np.zeros(d), 0.0
        for act in acts:
            if any(act.asked_mm):
                asked = np.array(act.asked_mm)
                all_asked += asked
                missed += float((self.missed * gain) ** 2 * (asked @ asked)) + self.stop_mm**2
        tightened, each, slopes = sum(act.tightened for act in acts), np.eye(d), np.zeros((d, len(x)))
        slopes[:, d], slopes[:, d + 1 : 2 * d + 1] = all_asked, tightened * each
        moved = gain * all_asked + tightened * shift
        return Effect(moved, slopes, missed * each, tightened * self.shift_scatter_mm**2 * each)

    def ask(self, belief: Belief, need_mm: Array) -> Array:
        """How far to move, so that the error goes by ``need_mm`` (d,)."""
        x = self.clip(belief.x)
        return np.asarray((need_mm - x[self.dim + 1 : 2 * self.dim + 1]) / x[self.dim], float)
