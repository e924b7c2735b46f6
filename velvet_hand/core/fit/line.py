"""A straight line through heights along an edge, how straight the edge is, and where two lines cross.

Slope ``s = sum (x - xm)(h - hm)/Sxx``, ``u(s) = sigma/sqrt(Sxx)``. Straightness is the minimum zone: the
least ``2 w`` with ``|h - a - s x| <= w``. Two lines of one rigid edge cross where it
swung: ``xp = -(a2 - a1)/(s2 - s1)``.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from scipy.special import stdtrit

from ._lsq import best_without

#: Chance of calling a good reading bad, shared by all readings of a pass.
WILD_CHANCE = 0.01
#: Fewer readings than this cannot name a wild one.
LEAST_TO_NAME = 5


@dataclass(frozen=True, slots=True)
class LineFit:
    """Result of ``fit_line``; heights are toward values.

    ``level_mm`` is the height at ``middle_mm`` (the mean place), ``u_level_mm`` its standard uncertainty;
    ``noise_mm`` is the scatter of one reading, ``rms_mm`` what the residuals alone say of it by ``dof`` degrees of freedom;
    ``zone_mm`` the width of the minimum zone, ``spread_mm`` the range of the residuals, ``left_out`` the
    indices of readings that do not belong to the line.
    """

    slope: float
    u_slope: float
    middle_mm: float
    level_mm: float
    u_level_mm: float
    noise_mm: float
    rms_mm: float
    dof: int
    residuals_mm: tuple[float, ...]
    left_out: tuple[int, ...]
    zone_mm: float
    span_mm: float

    def at(self, x_mm: float) -> float:
        """Height of the line at a place."""
        return self.level_mm + self.slope * (x_mm - self.middle_mm)

    @property
    def kept(self) -> tuple[int, ...]:
        """Indices of the readings that were used."""
        return tuple(i for i in range(len(self.residuals_mm)) if i not in self.left_out)

    @property
    def kept_mm(self) -> tuple[float, ...]:
        """Their residuals."""
        return tuple(self.residuals_mm[i] for i in self.kept)

    @property
    def spread_mm(self) -> float:
        """Range of the residuals of the readings that were used."""
        return max(self.kept_mm) - min(self.kept_mm)


@lru_cache(maxsize=4096)
def fit_line(x_mm: tuple[float, ...], h_mm: tuple[float, ...], u_read_mm: float) -> LineFit:
    """Fit heights along an edge.

    Parameters
    ----------
    x_mm, h_mm
        (n,) places and heights, n >= 2.
    u_read_mm
        Standard uncertainty of one reading; residuals that say more count more.

    Raises
    ------
    ValueError
        Fewer than two places.

    Examples
    --------
    >>> f = fit_line((0, 50, 100, 150), (0, 0.21, 0.41, 0.63), 0.001)
    >>> round(f.slope, 5), round(f.at(30), 4), round(f.zone_mm, 3)
    (0.00418, 0.1244, 0.01)
    """
    x, h = np.asarray(x_mm, float), np.asarray(h_mm, float)
    if len(x) < 2 or np.ptp(x) <= 0:
        raise ValueError("a line needs two places")
    out = _wild(x, h, u_read_mm) if len(x) >= LEAST_TO_NAME else ()
    keep = np.array([i not in out for i in range(len(x))])
    slope, level, middle = _plain(x[keep], h[keep])
    rest = h - level - slope * (x - middle)
    n = int(keep.sum())
    seen = float(np.sqrt((rest[keep] ** 2).sum() / (n - 2))) if n > 2 else 0.0
    noise = max(seen, u_read_mm)
    sxx = float(((x[keep] - middle) ** 2).sum())
    return LineFit(
        slope=slope,
        u_slope=noise / sxx**0.5,
        middle_mm=middle,
        level_mm=level,
        u_level_mm=noise / n**0.5,
        noise_mm=noise,
        rms_mm=seen,
        dof=max(n - 2, 0),
        residuals_mm=tuple(float(r) for r in rest),
        left_out=out,
        zone_mm=zone(x[keep], h[keep]),
        span_mm=float(np.ptp(x[keep])),
    )


def _plain(x: np.ndarray, h: np.ndarray) -> tuple[float, float, float]:
    middle = float(x.mean())
    slope = float(((x - middle) * h).sum() / ((x - middle) ** 2).sum())
    return slope, float(h.mean()), middle


def _wild(x: np.ndarray, h: np.ndarray, u_mm: float) -> tuple[int, ...]:
    """The fewest readings (one, or two of seven) without which the rest agree: a deleted-residual test each.

    A reading is named only if what is left agrees to a quarter of what it is off by; a bent edge leaves
    its other ends off as well.
    """
    model = np.column_stack([np.ones_like(x), x - x.mean()])
    residuals = h - model @ np.linalg.lstsq(model, h, rcond=None)[0]
    for count in (1, 2):
        if len(x) < LEAST_TO_NAME + 2 * (count - 1):
            break
        out = best_without(model, residuals, count)[0]
        keep = np.array([i not in out for i in range(len(x))])
        if np.ptp(x[keep]) <= 0:
            break
        slope, level, middle = _plain(x[keep], h[keep])
        rest = h - level - slope * (x - middle)
        sigma = max(float(np.sqrt((rest[keep] ** 2).sum() / max(keep.sum() - 2, 1))), u_mm)
        sxx = ((x[keep] - middle) ** 2).sum()
        worth = [abs(rest[i]) / (sigma * (1 + 1 / keep.sum() + (x[i] - middle) ** 2 / sxx) ** 0.5) for i in out]
        limit = -float(stdtrit(max(len(x) - count - 2, 1), WILD_CHANCE / 2 / len(x)))
        if min(worth) > max(limit, 4.0):
            return out
    return ()


def zone(x_mm: np.ndarray, h_mm: np.ndarray) -> float:
    """Width of the narrowest band between two parallel lines that holds all points (along h): one of the lines goes through two of
    them, so the slopes of all pairs are tried.

    Examples
    --------
    >>> round(zone(np.array([0., 1., 2.]), np.array([0., 1., 0.])), 9)
    1.0
    """
    if len(x_mm) < 3:
        return 0.0
    first, second = np.triu_indices(len(x_mm), 1)
    apart = x_mm[second] - x_mm[first]
    slopes = (h_mm[second] - h_mm[first])[apart != 0] / apart[apart != 0]
    return float(np.ptp(h_mm[None, :] - slopes[:, None] * x_mm[None, :], axis=1).min())


def crossing(before: LineFit, after: LineFit) -> tuple[float, float] | None:
    """Where an edge swung between two passes of one frame, and its standard uncertainty; None when it hardly turned.

    ``u^2 = sum(var h + d^2 var s)/(s1 - s2)^2`` with d the distance from each line's own middle.

    Examples
    --------
    >>> one = fit_line((0, 50, 100, 150), (0, 0.21, 0.41, 0.63), 0.0)
    >>> two = fit_line((0, 50, 100, 150), (0.105, 0.139, 0.178, 0.213), 0.0)
    >>> round(crossing(one, two)[0], 1)
    30.5
    """
    turned = after.slope - before.slope
    if abs(turned) <= 4 * (after.u_slope**2 + before.u_slope**2) ** 0.5 or turned == 0:
        return None
    x = (before.at(0.0) - after.at(0.0)) / turned
    var = sum(f.u_level_mm**2 + (x - f.middle_mm) ** 2 * f.u_slope**2 for f in (before, after))
    return float(x), float(var**0.5 / abs(turned))
