"""A plane through heights, how flat a face is, and shims that level a base on three or more supports.

Plane ``z = c + a x + b y`` by least squares; minimum zone by a linear program: the least ``2 h`` with
``|z - c - a x - b y| <= h``, along z. Shims that lift the low supports: ``p_j = max_i h_i - h_j``, one stays bare. A rigid base
on more than three supports rests on the three whose triangle holds its center of gravity and above which nothing else sticks out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations, combinations_with_replacement, product

import numpy as np

from ..shop import Piece
from ._lsq import covariance

Points = tuple[tuple[float, float], ...]
#: A support that carries nothing hangs at most this far above its shim before it counts as a gap.
TOUCHES_MM = 1e-6


@dataclass(frozen=True, slots=True)
class PlaneFit:
    """Heights over a face: ``a`` and ``b`` the slopes in x and y (mm per mm), with their standard uncertainties."""

    a: float
    b: float
    middle_mm: tuple[float, float]
    level_mm: float
    u_a: float
    u_b: float
    noise_mm: float
    residuals_mm: tuple[float, ...]
    zone_mm: float

    def at(self, x_mm: float, y_mm: float) -> float:
        """Height of the plane at a place."""
        return self.level_mm + self.a * (x_mm - self.middle_mm[0]) + self.b * (y_mm - self.middle_mm[1])

    def u_at(self, x_mm: float, y_mm: float) -> float:
        """Standard uncertainty of the surface at a place that was not read: of the plane there, and of what is not a plane of it."""
        dx, dy = x_mm - self.middle_mm[0], y_mm - self.middle_mm[1]
        plane = self.noise_mm**2 / len(self.residuals_mm) + (dx * self.u_a) ** 2 + (dy * self.u_b) ** 2
        return float((plane + self.noise_mm**2) ** 0.5)

    @property
    def spread_mm(self) -> float:
        """Flatness by least squares: range of the residuals."""
        return max(self.residuals_mm) - min(self.residuals_mm)


@lru_cache(maxsize=1024)
def fit_plane(points: Points, z_mm: tuple[float, ...], u_read_mm: float) -> PlaneFit | None:
    """A plane through heights; None when the places lie on one line.

    Parameters
    ----------
    points, z_mm
        (n, 2) places and (n,) heights, n >= 3.

    Examples
    --------
    >>> f = fit_plane(((0, 0), (100, 0), (100, 80), (0, 80), (50, 40)), (0, 0.020, 0.052, 0.034, 0.025), 0.0)
    >>> round(f.a, 5), round(f.b, 6), round(f.zone_mm, 3)
    (0.00019, 0.000413, 0.002)
    """
    p, z = np.asarray(points, float), np.asarray(z_mm, float)
    if len(p) < 3:
        return None
    middle = p.mean(axis=0)
    model = np.column_stack([np.ones(len(p)), p - middle])
    if np.linalg.matrix_rank(model, tol=1e-6 * max(float(np.abs(p - middle).max()), 1.0)) < 3:
        return None
    answer = np.linalg.lstsq(model, z, rcond=None)[0]
    rest = z - model @ answer
    n = len(p)
    seen = float(np.sqrt((rest**2).sum() / (n - 3))) if n > 3 else 0.0
    noise = max(seen, u_read_mm)
    cov = covariance(model, noise)
    return PlaneFit(
        a=float(answer[1]),
        b=float(answer[2]),
        middle_mm=(float(middle[0]), float(middle[1])),
        level_mm=float(answer[0]),
        u_a=float(np.sqrt(cov[1, 1])),
        u_b=float(np.sqrt(cov[2, 2])),
        noise_mm=noise,
        residuals_mm=tuple(float(r) for r in rest),
        zone_mm=_zone(model, z),
    )


def _zone(model: np.ndarray, z: np.ndarray) -> float:
    """Distance of the closest pair of parallel planes that hold all heights between them."""
    if len(z) <= 3:
        return 0.0
    one = np.ones((len(z), 1))
    from scipy.optimize import linprog  # half a second of a start, so only when it is needed

    answer = linprog(
        [0, 0, 0, 2.0],
        A_ub=np.vstack([np.hstack([model, -one]), np.hstack([-model, -one])]),
        b_ub=np.concatenate([z, -z]),
        bounds=[(None, None)] * 3 + [(0, None)],
    )
    return float(answer.fun)


def exact_shims(supports: Points, a: float, b: float) -> tuple[float, ...]:
    """What has to go under each support so that a base that slopes by (a, b) lies level; one stays bare.

    Examples
    --------
    >>> [round(p, 4) for p in exact_shims(((0, 0), (100, 0), (50, 80)), 0.00019, 0.00041250)]
    [0.0425, 0.0235, 0.0]
    """
    heights = [a * x + b * y for x, y in supports]
    return tuple(max(heights) - h for h in heights)


def rest_on(
    supports: Points, heights_mm: Sequence[float], gravity: tuple[float, float]
) -> tuple[float, float, float] | None:
    """How a rigid base lies on supports of these heights: (a, b, largest gap under an idle support); None when it would tip.

    Examples
    --------
    >>> a, b, gap = rest_on(((0, 0), (100, 0), (0, 100), (100, 100)), (0.0, 0.0, 0.0, 0.02), (50, 50))
    >>> round(max(abs(a), abs(b)) * 100, 3), round(gap, 3)
    (0.02, 0.02)
    """
    best: tuple[float, float, float] | None = None
    h = np.asarray(heights_mm, float)
    for three, inverse, every in _triangles(supports, gravity):
        plane = inverse @ h[list(three)]
        gaps = every @ plane - h
        if gaps.min() >= -TOUCHES_MM and (best is None or gaps.max() < best[2]):
            best = (float(plane[1]), float(plane[2]), float(gaps.max()))
    return best


@lru_cache(maxsize=64)
def _triangles(
    supports: Points, gravity: tuple[float, float]
) -> tuple[tuple[tuple[int, ...], np.ndarray, np.ndarray], ...]:
    """Every three supports that hold the center of gravity between them, and what makes a plane of their heights."""
    every, found = np.array([(1.0, x, y) for x, y in supports]), []
    for three in combinations(range(len(supports)), 3):
        model = every[list(three)]
        if abs(np.linalg.det(model)) > 1e-6 and (np.linalg.solve(model.T, [1.0, *gravity]) >= -1e-9).all():
            found.append((three, np.linalg.inv(model), every))
    return tuple(found)


@dataclass(frozen=True, slots=True)
class Shims:
    """Pieces under each support (empty: bare), the slopes left, and the largest gap under an idle one."""

    pieces: tuple[tuple[float, ...], ...]
    a: float
    b: float
    gap_mm: float

    def thick(self, support: int) -> float:
        """What lies under a support."""
        return sum(self.pieces[support])


@lru_cache(maxsize=512)
def choose_shims(
    supports: Points, a: float, b: float, gravity: tuple[float, float], stock: tuple[Piece, ...], near: int = 4
) -> Shims | None:
    """The stacks (two pieces at most) that leave the least slope and the least rocking; None without stock.

    Every support is tried with the ``near`` stacks that come closest to what it needs, all combinations.
    """
    sizes = [p.mm for p in stock if p.count]
    if not sizes:
        return None
    stacks = [(), *((s,) for s in sizes), *combinations_with_replacement(sorted(sizes), 2)]
    wanted = exact_shims(supports, a, b)
    options = [sorted(stacks, key=lambda s: (abs(sum(s) - want), len(s)))[:near] for want in wanted]
    have = {p.mm: p.count for p in stock}
    reach = max(abs(x - supports[0][0]) + abs(y - supports[0][1]) for x, y in supports)
    best: tuple[float, int, Shims] | None = None
    for pick in product(*options):
        used = [mm for stack in pick for mm in stack]
        if any(used.count(mm) > have[mm] for mm in set(used)):
            continue
        lies = [sum(stack) + a * x + b * y for stack, (x, y) in zip(pick, supports, strict=True)]
        found = rest_on(supports, lies, gravity)
        if found is None:
            continue
        left = (abs(found[0]) + abs(found[1])) * reach + 2 * found[2]
        left = round(left, 4)  # what lifts all of it alike is worth no piece
        if best is None or (left, len(used)) < best[:2]:
            best = (left, len(used), Shims(tuple(tuple(s) for s in pick), *found))
    return best[2] if best else None
