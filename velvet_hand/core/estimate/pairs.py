"""Opposed screws on two axes, as in a four-jaw chuck: what a move of each pair and a tightening do to the offset.

Axis 1 points toward jaw 1, axis 2 toward jaw 2; lengths mm. State: offset (2), gain of each pair, cross-coupling (share of the
other pair's movement that shows on an axis), lost motion of each pair on reversing, shift on tightening (2)::

    own_i = g_i (a_i - sgn(a_i) rho_i b_i),  de_i = own_i + c_ij own_j + tau s_i
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from .kalman import Array, Belief, Effect, Model, Prior

#: Share of a move that is missed at random; least step that a screw makes; scatter of the shift on tightening (mm).
MISSED, LEAST_STEP_MM, SHIFT_SCATTER_MM = 0.07, 0.0012, 0.0007

#: Where they stand in the state, behind the offset: two of each.
GAIN, CROSS, LOST, SHIFT = slice(2, 4), slice(4, 6), slice(6, 8), slice(8, 10)


@dataclass(frozen=True, slots=True)
class Screwed:
    """One act: how far each pair was to move the work along its axis (0: it was not moved), whether it reverses by that (1 yes, 0 no,
    one half when its last way is not known), and how often all was tightened after it.
    """

    asked_mm: tuple[float, float] = (0.0, 0.0)
    reverses: tuple[float, float] = (0.0, 0.0)
    tightened: int = 0


class Pairs(Model[Screwed]):
    """Two pairs of screws; ``stop_mm`` is how well a hand stops at the aim."""

    dim = 2
    gains = ("gain_1", "gain_2")
    priors = {  # noqa: RUF012 - nobody changes it
        "gain_1": Prior(0.85, 0.15, 0.01),
        "gain_2": Prior(0.85, 0.15, 0.01),
        "cross_12": Prior(0.0, 0.04),
        "cross_21": Prior(0.0, 0.04),
        "lost_1": Prior(0.010, 0.007),
        "lost_2": Prior(0.010, 0.007),
        "shift_1": Prior(0.0, 0.0025, 0.0001),
        "shift_2": Prior(0.0, 0.0025, 0.0001),
    }

    def __init__(self, stop_mm: float) -> None:
        self.stop_mm = stop_mm

    def clip(self, x: Array) -> Array:
        """See ``Model``."""
        found = x.copy()
        found[GAIN] = np.minimum(np.maximum(x[GAIN], 0.25), 1.8)
        found[LOST] = np.minimum(np.maximum(x[LOST], 0.0), 0.06)
        return found

    def effect(self, x: Array, acts: Sequence[Screwed]) -> Effect:
        """See ``Model``."""
        gain, cross, lost, shift = (
            x[part].tolist() for part in (GAIN, CROSS, LOST, SHIFT)
        )  # two of each: plain numbers are quicker
        moved, missed, rest = [0.0, 0.0], [0.0, 0.0], [0.0, 0.0]
        slopes = [[0.0] * len(x), [0.0] * len(x)]
        for act in acts:
            back, times = act.reverses, act.tightened
            sign = [float(asked > 0) - float(asked < 0) for asked in act.asked_mm]
            run = [asked - s * b * rho for asked, s, b, rho in zip(act.asked_mm, sign, back, lost, strict=True)]
            own = [g * r for g, r in zip(gain, run, strict=True)]
            for i, j in ((0, 1), (1, 0)):
                slope = slopes[i]
                moved[i] += own[i] + cross[i] * own[j] + times * shift[i]
                slope[2 + i] += run[i]
                slope[2 + j] += cross[i] * run[j]
                slope[4 + i] += own[j]
                slope[6 + i] -= gain[i] * sign[i] * back[i]
                slope[6 + j] -= cross[i] * gain[j] * sign[j] * back[j]
                slope[8 + i] += times
                rest[i] += times * SHIFT_SCATTER_MM**2
                if act.asked_mm[i]:
                    missed[i] += (MISSED * own[i]) ** 2 + self.stop_mm**2 + (0.6 * LEAST_STEP_MM) ** 2
                    missed[i] += (0.25 * (gain[i] * lost[i]) ** 2) if back[i] == 0.5 else 0.0
        return Effect(np.array(moved), np.array(slopes), np.diag(missed), np.diag(rest))

    def ask(self, belief: Belief, need_mm: Array, last_way: tuple[int, int], tightens: bool = True) -> Array:
        """How far to move each pair, so that the work goes by ``need_mm`` (2,), the shift of the tightening to come taken off.

        ``last_way`` is which way each pair went last (0: not known).
        """
        x = self.clip(belief.x)
        gain, cross, lost, shift = x[GAIN], x[CROSS], x[LOST], x[SHIFT]
        own = np.linalg.solve(np.array([[1.0, cross[0]], [cross[1], 1.0]]), need_mm - (shift if tightens else 0.0))
        sign = np.sign(own)
        back = np.array([reverses(int(s), last) for s, last in zip(sign, last_way, strict=True)])
        return np.asarray(own / gain + sign * back * lost, float)

    def moved(
        self, belief: Belief, need_mm: Array, ways: tuple[int, ...], least_mm: float, one: bool = False
    ) -> tuple[tuple[Screwed, ...], tuple[int, ...]]:
        """The act that brings the work by ``need_mm`` (2,), and which way each pair went last then; none below ``least_mm``.

        With ``one`` only the pair that has farther to go is moved.
        """
        last = (ways[0], ways[1]) if ways else (0, 0)
        asked = self.ask(belief, need_mm, last)
        if one:
            asked[int(np.abs(asked).argmin())] = 0.0
        asked = np.where(np.abs(asked) < least_mm, 0.0, asked)
        if not asked.any():
            return (), last
        sign = np.sign(asked).astype(int)
        back = tuple(reverses(int(s), w) if s else 0.0 for s, w in zip(sign, last, strict=True))
        act = Screwed((float(asked[0]), float(asked[1])), (back[0], back[1]))
        return (act,), tuple(int(s) or w for s, w in zip(sign, last, strict=True))


def reverses(way: int, last: int) -> float:
    """Does a screw that goes ``way`` reverse, after it went ``last``? One half when nobody knows."""
    return 0.5 if last == 0 else float(way * last < 0)
