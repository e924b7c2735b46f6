"""A head that leans two ways, each turned about its own axis until a needle on the table stands at its aim.

State: tilt of the table against the head (2, over the sweep's radius R), gain, shift (2), place of each axis (2, from the spindle)::

    dv = g run / (side - p/R) + tau s

A needle at ``side`` (+1 or -1) of the sweep runs by ``run`` while the head turns; where the axis ``p`` lies decides how much that is. What
the table's height under the sweep's middle does from pass to pass, ``-dv . p/R``, tells where the axes are.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .kalman import Array, Belief, Effect, Prior
from .one_gain import Moved, OneGain

#: A turn of less than this says nothing of its axis (mm over the radius); a head that is loosened and nipped up again goes up or down
#: by about so much (mm).
TELLS_MM, RIDES_MM = 0.005, 0.004
#: A needle nearer to the axis than this part of the radius shows too little of a turn.
LEAST_ARM = 0.15


@dataclass(frozen=True, slots=True)
class Leant(Moved):
    """One turn: about which axis, at which side the needle ran, how far (mm, toward the indicator), and by how much the turns before it
    were to lift the whole sweep.
    """

    asked_mm: tuple[float, ...] = (0.0, 0.0)
    axis: int = 0
    side: int = 1
    run_mm: float = 0.0
    lifted_mm: float = 0.0


class Leaning(OneGain):
    """A head whose axes are expected at ``pivots`` (mm), swept at ``radius_mm``."""

    def __init__(
        self, radius_mm: float, pivots: tuple[Prior, Prior], stop_mm: float, gain: Prior, shift_sd_mm: float
    ) -> None:
        super().__init__(2, stop_mm, gain, shift_sd_mm)
        self.radius_mm = radius_mm
        self.priors |= {"pivot_x": pivots[0], "pivot_y": pivots[1]}

    def arm(self, x: Array, axis: int, side: int) -> float:
        """How far a needle at that side runs while the tilt changes by one."""
        arm = side - float(x[5 + axis]) / self.radius_mm
        return float(np.copysign(max(abs(arm), LEAST_ARM), arm))

    def effect(self, x: Array, acts: Sequence[Moved]) -> Effect:
        """See ``Model``."""
        moved, missed = self._moved(x, acts), np.zeros(2)
        tightened = sum(act.tightened for act in acts)
        for act in acts:
            if isinstance(act, Leant) and act.run_mm:
                arm = self.arm(x, act.axis, act.side)
                missed[act.axis] += (self.missed * x[2] * act.run_mm / arm) ** 2 + (self.stop_mm / arm) ** 2
        slopes = np.zeros((2, len(x)))
        for at, step in ((2, 1e-4), (3, 1e-4), (4, 1e-4), (5, 1e-2), (6, 1e-2)):
            there = x.copy()
            there[at] += step
            slopes[:, at] = (self._moved(there, acts) - moved) / step
        rest = np.eye(2) * tightened * self.shift_scatter_mm**2
        return Effect(moved, slopes, np.diag(missed), rest)

    def _moved(self, x: Array, acts: Sequence[Moved]) -> Array:
        moved, level = np.zeros(2), 0.0
        for act in acts:
            moved += act.tightened * x[3:5]
            if isinstance(act, Leant) and act.run_mm:
                turned = float(x[2]) * (act.run_mm + act.lifted_mm - level) / self.arm(x, act.axis, act.side)
                moved[act.axis] += turned
                level -= turned * float(x[5 + act.axis]) / self.radius_mm
        return moved

    def lifted(self, belief: Belief, turned_mm: Array, rose_mm: float, noise: float) -> Belief:
        """Where the axes are, from two passes with one zero: the tilt changed by ``turned_mm`` (2,) and the height under the middle by
        ``rose_mm``, of variance ``noise``.
        """
        if float(np.abs(turned_mm).max()) < TELLS_MM:
            return belief
        row = np.zeros(len(belief.x))
        row[5:7] = -turned_mm / self.radius_mm
        return self.scalar(belief, row, rose_mm, noise + RIDES_MM**2)

    def turn(self, x: Array, axis: int, side: int, turned_mm: float, lifted_mm: float) -> Leant:
        """The turn that brings the tilt about ``axis`` by ``turned_mm``, watched at ``side``."""
        run = turned_mm / float(x[2]) * self.arm(x, axis, side)
        return Leant(axis=axis, side=side, run_mm=run, lifted_mm=lifted_mm)
