"""A thing that is tapped at an end and swings about a point: a vise on its table.

State: rise over its length ``L`` (mm, + when it is turned counter-clockwise seen from above), logarithm of the tap's gain, the pivot
(mm from the thing's own first end), the shift on tightening (rise over L)::

    kappa = e^lambda L/(t - p),  dm = kappa d + tau s

with ``t`` the place that is tapped and ``d`` how far the tap moves it there.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from .kalman import SURPRISE, Array, Belief, Effect, Model, Prior

#: Share of a tap that is missed at random, least step of a tap, scatter of the shift on tightening (mm; loosening included).
MISSED, LEAST_STEP_MM, SHIFT_SCATTER_MM = 0.13, 0.002, 0.0025
#: What heights miss by when a thing slides a little while it swings (mm).
SLIDES_MM = 0.004
#: What heights miss by when it slips as well, and how far off, as a part of the length, it swings where no slip explains what was seen.
SLIPS_MM, ANYWHERE = 0.015, 0.5
#: A tap is never taken to be nearer to the pivot than this part of the length; nor does it swing farther past an end than that.
LEAST_ARM, BEYOND = 0.08, 0.4
#: Rise below which a tap says nothing of the pivot (mm).
TELLS_MM = 0.020


@dataclass(frozen=True, slots=True)
class Tapped:
    """One act: how far a tap was to move the place ``at_mm`` (0: none was made), and how often all was tightened after it."""

    asked_mm: float = 0.0
    at_mm: float = 0.0
    tightened: int = 0


class Swung(Model[Tapped]):
    """A thing of a length that swings about ``pivot``; ``stop_mm`` is how well a hand stops at the aim, ``name`` what the
    pivot is remembered by.
    """

    dim = 1
    gains = ("log_gain",)
    rounds = 3

    def __init__(self, length_mm: float, pivot: Prior, stop_mm: float, name: str = "pivot") -> None:
        self.length_mm, self.stop_mm, self.places = length_mm, stop_mm, (name,)
        self.priors = {
            "log_gain": Prior(math.log(0.9), 0.15, 0.01),
            name: pivot,
            "shift": Prior(0.0, 0.008 * length_mm / 150, 0.0001),
        }

    def clip(self, x: Array) -> Array:
        """See ``Model``."""
        found = x.copy()
        found[1] = np.clip(x[1], -1.4, 0.6)
        found[2] = np.clip(x[2], -BEYOND * self.length_mm, (1 + BEYOND) * self.length_mm)
        return found

    def arm(self, x: Array, at_mm: float) -> float:
        """How far a place that is tapped lies beyond the pivot."""
        arm = at_mm - float(x[2])
        return math.copysign(max(abs(arm), LEAST_ARM * self.length_mm), arm)

    def effect(self, x: Array, acts: Sequence[Tapped]) -> Effect:
        """See ``Model``."""
        moved, slopes, missed, rest = 0.0, np.zeros((1, len(x))), 0.0, 0.0
        for act in acts:
            moved += act.tightened * x[3]
            slopes[0, 3] += act.tightened
            rest += act.tightened * SHIFT_SCATTER_MM**2
            if act.asked_mm:
                arm = self.arm(x, act.at_mm)
                kappa = math.exp(x[1]) * self.length_mm / arm
                turned = kappa * act.asked_mm
                moved += turned
                slopes[0, 1] += turned
                slopes[0, 2] += turned / arm
                lever = (self.length_mm / arm) ** 2
                missed += (MISSED * turned) ** 2 + lever * (self.stop_mm**2 + (0.3 * LEAST_STEP_MM) ** 2)
        return Effect(np.array([moved]), slopes, np.array([[missed]]), np.array([[rest]]))

    def crossed(
        self, belief: Belief, turned_mm: float, at_mm: float, rose_mm: float, noise: float, rise_noise: float
    ) -> Belief:
        """Where it swung, from the heights of two passes with one zero: at ``at_mm`` it rose by ``rose_mm`` while the rise over the
        length changed by ``turned_mm``, so ``rose = turned (at - p)/L``. ``noise`` is the variance of ``rose_mm``, ``rise_noise``
        that of one rise over the length.
        """
        if abs(turned_mm) <= TELLS_MM:
            return belief
        row = np.zeros(len(belief.x))
        row[2] = -turned_mm / self.length_mm
        far = (at_mm - belief.x[2]) / self.length_mm
        seen = rose_mm - turned_mm * at_mm / self.length_mm
        variance = noise + far**2 * 2 * rise_noise + SLIDES_MM**2
        if (seen - row @ belief.x) ** 2 > SURPRISE * (row @ belief.cov @ row + variance + SLIPS_MM**2):
            belief = self._elsewhere(belief)
        return self.scalar(belief, row, seen, variance)

    def _elsewhere(self, belief: Belief) -> Belief:
        """It does not swing where the bolts say: nothing is known of the pivot any more."""
        cov = belief.cov.copy()
        cov[2, :] = cov[:, 2] = 0.0
        cov[2, 2] = (ANYWHERE * self.length_mm) ** 2
        return replace(belief, cov=cov)

    def ask(self, belief: Belief, need_mm: float, at_mm: float) -> float:
        """How far to move the place that is tapped, so that the rise changes by ``need_mm``."""
        x = self.clip(belief.x)
        kappa = math.exp(x[1]) * self.length_mm / self.arm(x, at_mm)
        return float((need_mm - x[3]) / kappa)
