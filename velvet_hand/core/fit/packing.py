"""Shims under the jaws of a three-jaw.

A jaw with a flat of width w touches round work of radius R with its center at c at the distance
``g_i(c) = c.u_i + sqrt(R^2 - max(0, |c x u_i| - w/2)^2)`` (nearest point of a segment; narrow w = 0,
wide w >= sqrt(3) e). All jaws share one radius of the scroll, so ``p_i + g_i(c)`` is the same for all:
to go from e to T the shims change by ``g_i(e) - g_i(T)``, less the least.
"""

from __future__ import annotations

import cmath
import math
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, combinations_with_replacement

import numpy as np
from numpy.typing import NDArray

from ._lsq import settle

#: Pieces that may lie on each other under one jaw.
MOST_PIECES = 3
#: So many stacks under each two jaws, the nearest by small shifts, are tried exactly.
NEAR = 16


def reach_mm(center: complex, deg: float, radius_mm: float, width_mm: float) -> float:
    """``g_i``: distance at which a jaw at ``deg`` touches the work."""
    c = center * cmath.rect(1, -math.radians(deg))
    beyond = max(0.0, abs(c.imag) - width_mm / 2)
    return c.real + math.sqrt(max(radius_mm**2 - beyond**2, 0.0))


def exact_shims(
    now: complex,
    wanted: complex,
    angles_deg: tuple[float, ...],
    present_mm: tuple[float, ...],
    radius_mm: float,
    width_mm: float,
) -> tuple[float, ...]:
    """Shims (all >= 0, one bare) that bring the center from ``now`` to ``wanted``.

    Examples
    --------
    >>> [round(p, 4) for p in exact_shims(cmath.rect(0.07, math.radians(25)), 0j, (0, 120, 240), (0, 0, 0), 18, 40)]
    [0.1208, 0.0512, 0.0]
    >>> round(exact_shims(0j, -2.5 + 0j, (0, 120, 240), (0, 0, 0), 18, 0.0)[0], 3)
    3.619
    """
    raw = [
        p + reach_mm(now, a, radius_mm, width_mm) - reach_mm(wanted, a, radius_mm, width_mm)
        for p, a in zip(present_mm, angles_deg, strict=True)
    ]
    return tuple(p - min(raw) for p in raw)


def centre_after(
    now: complex, present_mm: tuple[float, ...], shims_mm: tuple[float, ...], angles_deg: tuple[float, ...],
    radius_mm: float, width_mm: float,
) -> complex:  # fmt: skip
    """Where the center goes when the shims change: all jaws touch again at one setting of the scroll.

    Raises
    ------
    BadInput
        ``fit_unsettled`` when no such place is found.
    """
    change = [b - a for a, b in zip(present_mm, shims_mm, strict=True)]
    units = np.array([cmath.rect(1, math.radians(a)) for a in angles_deg])
    was = np.array([p - reach_mm(now, a, radius_mm, width_mm) for p, a in zip(change, angles_deg, strict=True)])

    def miss(p: np.ndarray) -> np.ndarray:
        reach = [reach_mm(complex(p[0], p[1]), a, radius_mm, width_mm) for a in angles_deg]
        return np.asarray(was + np.array(reach) - p[2], float)

    def slopes(p: np.ndarray) -> np.ndarray:
        return np.column_stack([units.real, units.imag, -np.ones(len(units))])

    found = settle(miss, slopes, np.array([now.real, now.imag, 0.0]))
    return complex(found[0], found[1])


@dataclass(frozen=True, slots=True)
class Packing:
    """Pieces under each jaw (by jaw index), and where the center is then expected."""

    stacks: tuple[tuple[float, ...], ...]
    center: complex

    @property
    def shims_mm(self) -> tuple[float, ...]:
        """Thickness under each jaw."""
        return tuple(sum(s) for s in self.stacks)


def choose_packing(
    now: complex, wanted: complex, angles_deg: tuple[float, ...], present_mm: tuple[float, ...], radius_mm: float,
    width_mm: float, stock: Mapping[float, int], enough_mm: float = 0.0,
) -> Packing:  # fmt: skip
    """The stacks of at most three pieces under at most two jaws that come nearest; ties: fewer pieces.

    Parameters
    ----------
    enough_mm
        What comes as near as this is near enough: of such the fewest pieces.
    stock
        Size to count; what is under the jaws now counts as back in the drawer.
    """
    return _choose(now, wanted, angles_deg, present_mm, radius_mm, width_mm, tuple(sorted(stock.items())), enough_mm)


@lru_cache(maxsize=256)
def _choose(
    now: complex, wanted: complex, angles_deg: tuple[float, ...], present_mm: tuple[float, ...], radius_mm: float,
    width_mm: float, drawer: tuple[tuple[float, int], ...], enough_mm: float,
) -> Packing:  # fmt: skip
    stock = dict(drawer)
    sizes = sorted(s for s, n in stock.items() if n > 0)
    stacks: list[tuple[float, ...]] = [()]
    for count in range(1, MOST_PIECES + 1):
        stacks += [c for c in combinations_with_replacement(sizes, count) if _in_stock(c, stock)]
    sums = np.array([sum(s) for s in stacks])
    units = [cmath.rect(1, math.radians(a)) for a in angles_deg]
    exact = exact_shims(now, wanted, angles_deg, present_mm, radius_mm, width_mm)
    base = 2 / 3 * sum(p * u for p, u in zip(exact, units, strict=True))
    found: list[tuple[float, int, tuple[tuple[float, ...], ...]]] = []
    for i, j in combinations(range(len(units)), 2):
        for a, b in _nearest(1.5 * base, sums, units[i], units[j]):
            if not _in_stock((*stacks[a], *stacks[b]), stock):
                continue
            put = [() if k not in (i, j) else stacks[a] if k == i else stacks[b] for k in range(len(units))]
            shims = tuple(sum(s) for s in put)
            center = centre_after(now, present_mm, shims, angles_deg, radius_mm, width_mm)
            found.append((round(abs(center - wanted), 5), len(stacks[a]) + len(stacks[b]), tuple(put)))
    if not found:
        found = [(0.0, 0, tuple(() for _ in units))]
    best = min(found, key=lambda f: (max(f[0] - enough_mm, 0.0), f[1], f[0]))[2]
    shims = tuple(sum(s) for s in best)
    return Packing(best, centre_after(now, present_mm, shims, angles_deg, radius_mm, width_mm))


def _nearest(wanted: complex, sums: NDArray[np.float64], u: complex, v: complex) -> list[tuple[int, int]]:
    """The ``NEAR`` pairs of stacks that come nearest to ``wanted`` by ``sums[a] * u + sums[b] * v``, the nearest first.

    Along v only the neighbors of the foot of the perpendicular can be nearest: so few of all pairs are looked at.
    """
    order = np.argsort(sums, kind="stable")
    left = wanted - sums * u
    foot = np.searchsorted(sums[order], left.real * v.real + left.imag * v.imag)
    beside = np.clip(foot[:, None] + np.arange(-NEAR // 2, NEAR // 2), 0, len(sums) - 1)
    off = np.abs(left[:, None] - sums[order][beside] * v)
    pairs: dict[tuple[int, int], None] = {}
    for flat in np.argsort(off, axis=None, kind="stable"):
        a, k = divmod(int(flat), NEAR)
        pairs.setdefault((a, int(order[beside[a, k]])))
        if len(pairs) == NEAR:
            break
    return list(pairs)


def nearest_stack(wanted_mm: float, stock: Mapping[float, int], most: int = MOST_PIECES) -> tuple[float, ...]:
    """The stack that comes nearest to a thickness; ties: fewer pieces.

    Examples
    --------
    >>> nearest_stack(0.13, {0.05: 2, 0.1: 1, 0.02: 1})
    (0.02, 0.1)
    """
    sizes = sorted(s for s, n in stock.items() if n > 0)
    stacks: list[tuple[float, ...]] = [()]
    for count in range(1, most + 1):
        stacks += [c for c in combinations_with_replacement(sizes, count) if _in_stock(c, stock)]
    return min(stacks, key=lambda s: (round(abs(sum(s) - wanted_mm), 6), len(s)))


def _in_stock(pieces: tuple[float, ...], stock: Mapping[float, int]) -> bool:
    return all(stock[size] >= n for size, n in Counter(pieces).items())
