"""Where an axis between two centers bends: a line, or two lines that meet.

Bad center holes only add a straight (complex) line in z, so the line through the reference journals
is taken out. A bend is ``v = A + B z + K max(0, z - zk)`` with zk searched; its angle is ``|K|``, its
height ``|K| (zk - z1)(zn - zk)/(zn - z1)`` and its high side the direction of ``-K``. Against a
straight axis it is tested with F(3, 2n - 7), or chi2(3) with a known sigma.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray
from scipy.special import chdtrc, fdtrc

#: Chance of calling a straight shaft bent.
BENT_CHANCE = 0.01


@dataclass(frozen=True, slots=True)
class Bend:
    """``place_mm`` +- ``u_place_mm``, ``angle_rad``, ``height_mm`` +- ``u_height_mm`` at the bend."""

    place_mm: float
    u_place_mm: float
    angle_rad: float
    height_mm: float
    u_height_mm: float
    high_deg: float
    sure: bool


def off_line(z: tuple[float, ...], centers: tuple[complex, ...]) -> tuple[complex, ...]:
    """What is left of each center when the line through the first and the last is taken out."""
    slope = (centers[-1] - centers[0]) / (z[-1] - z[0])
    return tuple(c - centers[0] - slope * (at - z[0]) for at, c in zip(z, centers, strict=True))


def find_bend(z: tuple[float, ...], centers: tuple[complex, ...], u_mm: float) -> Bend | None:
    """The bend that explains the centers best; None with fewer than five stations.

    Parameters
    ----------
    z, centers
        (n,) places, ascending, and the offset of the axis there.
    u_mm
        Standard uncertainty of one coordinate of a center.

    Examples
    --------
    >>> z = (0.0, 80.0, 160.0, 240.0, 320.0, 400.0)
    >>> v = tuple(min(a / 200, (400 - a) / 200) * 0.05 * 1j for a in z)
    >>> b = find_bend(z, v, 0.0005)
    >>> round(b.place_mm), round(b.height_mm, 3), round(b.high_deg)
    (200, 0.05, 90)
    """
    n = len(z)
    if n < 5:
        return None
    from scipy.optimize import minimize_scalar  # half a second of a start, so only when it is needed

    off = _OffLine(np.asarray(z, float), np.asarray(centers, complex))
    at, straight = off.at, off.straight
    # Between two stations the sum of squares is smooth in the kink's place: the least of each stretch, then the least of all.
    stretches = [
        minimize_scalar(off.left, bounds=(a, b), method="bounded", options={"xatol": 1e-3})
        for a, b in pairwise(at[1:-1])
    ]
    best = min(stretches, key=lambda found: float(found.fun))
    zk, error = float(best.x), float(best.fun)
    dof = 2 * n - 7
    s = max(u_mm, math.sqrt(error / dof)) if dof > 0 else u_mm
    k = off.kink(zk)[0]
    reach = (zk - at[0]) * (at[-1] - zk) / (at[-1] - at[0])
    known = float(chdtrc(3, max(straight - error, 0.0) / u_mm**2))
    tested = float(fdtrc(3, dof, (straight - error) / 3 / (error / dof))) if dof > 0 and error > 1e-12 else 0.0
    sure = known < BENT_CHANCE and (tested < BENT_CHANCE or error < dof * (2 * u_mm) ** 2)
    return Bend(
        place_mm=zk,
        u_place_mm=off.reach_mm(zk, error + s**2),
        angle_rad=float(abs(k)),
        height_mm=float(abs(k) * reach),
        u_height_mm=s,
        high_deg=float(np.degrees(np.angle(-k)) % 360),
        sure=sure,
    )


class _OffLine:
    """Centers with the best line through them taken out, so that a kink alone is left to fit."""

    def __init__(self, at: NDArray[np.float64], v: NDArray[np.complex128]) -> None:
        line = np.column_stack([np.ones_like(at), at])
        self.at, self._rest = at, np.eye(len(at)) - line @ np.linalg.pinv(line)
        self._v = self._rest @ v
        self.straight = float((np.abs(self._v) ** 2).sum())

    def kink(self, zk: float) -> tuple[complex, NDArray[np.complex128]]:
        """How sharp it is at that place, and what it leaves."""
        shape = self._rest @ np.maximum(0.0, self.at - zk)
        k = complex(shape @ self._v / (shape @ shape))
        return k, self._v - k * shape

    def left(self, zk: float) -> float:
        """Sum of squares that a kink there leaves."""
        return float((np.abs(self.kink(float(zk))[1]) ** 2).sum())

    def reach_mm(self, zk: float, most: float) -> float:
        """How far the kink may lie to either side before the sum of squares is over ``most``; half of the whole stretch."""
        from scipy.optimize import brentq

        ends = []
        for end in (float(self.at[1]), float(self.at[-2])):
            over = self.left(end) > most
            ends.append(float(brentq(lambda z: self.left(z) - most, zk, end, xtol=1e-2)) if over else end)
        return abs(ends[1] - ends[0]) / 2
