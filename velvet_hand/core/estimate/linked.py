"""Two things in line, each tapped about its own pivot, the one slid to the other.

State: rise of each over its length ``L`` (mm, + counter-clockwise seen from above), step between their middles; then for each the
logarithm of its tap's gain and its pivot (mm from its own first end), the gain of a slide, and what tightening shifts::

    dm_i = kappa_i d + tau s_i,  kappa_i = e^lambda_i L/(t_i - p_i)
    dh_i = dm_i (L/2 - p_i)/L,   ds = dh_2 - dh_1 + g x + tau s_3

with ``t`` the place that is tapped, ``d`` how far the tap moves it there, ``dh`` what its middle does, ``x`` a slide of the second.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .kalman import Array, Belief, Effect, Model, Prior
from .tapped import LEAST_ARM, LEAST_STEP_MM, MISSED

#: A slide turns what is slid by this share of it, misses by this share; tightening scatters by so much (mm).
TURNS, SLIDE_MISSED, SCATTER_MM = 0.05, 0.08, 0.001


@dataclass(frozen=True, slots=True)
class Linked:
    """One act: which is tapped (0, 1) at which of its own places and how far; or ``slide``, how far the second goes (the first, the
    other way); or all is tightened. Lengths in mm, + counter-clockwise and so toward the back of the first's own frame.
    """

    which: int = 0
    at_mm: float = 0.0
    tapped_mm: float = 0.0
    slide_mm: float = 0.0
    tightened: int = 0


class Pair(Model[Linked]):
    """Two of a length; ``pivots`` are what is expected of where each swings, ``stop_mm`` how well a hand stops at the aim."""

    dim = 3
    gains = ("log_gain_a", "log_gain_b", "gain_slide")
    rounds = 3

    def __init__(self, length_mm: float, pivots: tuple[Prior, Prior], stop_mm: float) -> None:
        self.length_mm, self.stop_mm = length_mm, stop_mm
        self.priors = {
            "log_gain_a": Prior(math.log(0.9), 0.15, 0.01),
            "log_gain_b": Prior(math.log(0.9), 0.15, 0.01),
            "pivot_a": pivots[0],
            "pivot_b": pivots[1],
            "gain_slide": Prior(1.0, 0.2, 0.01),
            "shift_a": Prior(0.0, 0.005 * length_mm / 150, 0.0001),
            "shift_b": Prior(0.0, 0.005 * length_mm / 150, 0.0001),
            "shift_step": Prior(0.0, 0.004, 0.0001),
        }

    def clip(self, x: Array) -> Array:
        """See ``Model``; the first is tapped at its far end, the second at its near one."""
        found, least, length = x.copy(), LEAST_ARM * self.length_mm, self.length_mm
        found[3:5] = np.clip(x[3:5], -1.4, 0.6)
        found[5] = np.clip(x[5], -0.4 * length, length - 2 * least)
        found[6] = np.clip(x[6], 2 * least, 1.4 * length)
        found[7] = np.clip(x[7], 0.2, 3.0)
        return found

    def kappa(self, x: Array, which: int, at_mm: float) -> float:
        """Rise over the length that a tap of one makes there."""
        return math.exp(float(x[3 + which])) * self.length_mm / (at_mm - float(x[5 + which]))

    def effect(self, x: Array, acts: Sequence[Linked]) -> Effect:
        """See ``Model``."""
        n, length = len(x), self.length_mm
        moved, slopes = np.zeros(3), np.zeros((3, n))
        missed, rest = np.zeros((3, 3)), np.zeros((3, 3))
        for act in acts:
            moved += act.tightened * x[8:11]
            slopes[:, 8:11] += act.tightened * np.eye(3)
            rest += act.tightened * SCATTER_MM**2 * np.eye(3)
            if act.slide_mm:
                moved[2] += x[7] * act.slide_mm
                slopes[2, 7] += act.slide_mm
                missed[2, 2] += (SLIDE_MISSED * act.slide_mm) ** 2 + self.stop_mm**2
                missed[act.which, act.which] += (TURNS * act.slide_mm) ** 2
            if act.tapped_mm:
                w, arm = act.which, act.at_mm - x[5 + act.which]
                turned = self.kappa(x, w, act.at_mm) * act.tapped_mm
                side = 1.0 if w else -1.0
                lift = side * (length / 2 - x[5 + w]) / length  # of the step, for a rise over the length
                way = np.zeros(3)
                way[w], way[2] = 1.0, lift
                moved += turned * way
                slopes[:, 3 + w] += turned * way
                slopes[:, 5 + w] += turned / arm * way
                slopes[2, 5 + w] -= side * turned / length
                lever = (length / arm) ** 2
                var = (MISSED * turned) ** 2 + lever * (self.stop_mm**2 + (0.3 * LEAST_STEP_MM) ** 2)
                missed += var * np.outer(way, way)
        return Effect(moved, slopes, missed, rest)

    def ask(self, belief: Belief, which: int, at_mm: float) -> float:
        """How far to tap one there so that it lies true when all is tight."""
        x = self.clip(belief.x)
        return float(-(x[which] + x[8 + which]) / self.kappa(x, which, at_mm))

    def ask_slide(self, belief: Belief, acts: Sequence[Linked]) -> float:
        """How far to slide the second, after these acts, so that no step is left when all is tight."""
        x = self.clip(belief.x)
        step = x[2] + self.effect(x, acts).moved[2] + x[10]
        return float(-step / x[7])


def out_of_line(errors: Array) -> Array:
    """Range of the ends of both (n,) of (n, 3) errors: each rises about its own middle, the second stands a step off."""
    a, b, step = errors.T
    ends = np.stack([-a / 2, a / 2, step - b / 2, step + b / 2])
    return np.asarray(ends.max(axis=0) - ends.min(axis=0), float)
