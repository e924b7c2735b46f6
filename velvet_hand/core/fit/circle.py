"""The circle seen by a gauge: offset, mean, what is left over, and which spot is bad.

Model (outside surface, ball tip on center height; exact at any offset)::

    r(theta) = r0 + e cos p + sqrt(Re^2 - e^2 sin^2 p) - Re,   p = theta - t0,  Re = R + tip

from solving ``|s u - e| = Re`` for the tip's distance ``s``. In a bore the surface is nearer where
the center has moved away from: ``r = r0 - (...)`` with ``Re = R - tip``.

The root is the same at p and p + 180, so half the difference of opposed readings is ``e cos p``
exactly, whatever the offset and whatever even lobing the part has. When every station has its
opposite, the offset is therefore the linear least-squares solution of these half differences;
otherwise it is found by ``_lsq.settle`` from the small-offset solution. The covariance is
``s^2 (J'J)^-1``.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray
from scipy.special import stdtrit

from ._lsq import best_without, covariance, settle

Array = NDArray[np.float64]
#: Chance of calling a good reading bad, shared by all readings of a pass.
WILD_CHANCE = 0.01
#: With all readings this near to one circle (in reading uncertainties) none of them can be wild.
CALM = 3.0


@dataclass(frozen=True, slots=True)
class CircleFit:
    """Result of ``fit_circle``.

    ``mean_mm`` is r0 (toward value), ``x_mm``/``y_mm`` the offset of the center, ``u_mm`` the
    standard uncertainty of the offset along its worst direction, ``noise_mm`` the standard
    deviation of one reading that was used, ``rms_mm`` what the residuals alone say of it by ``dof``
    degrees of freedom, ``residuals_mm`` one per reading given (left-out ones too), ``left_out`` the
    indices not used, ``form_mm`` peak to valley of what is left over, ``lobe`` its main order (None
    when too few readings to say), ``determined`` False when the stations cannot fix a circle.
    """

    mean_mm: float
    x_mm: float
    y_mm: float
    u_mm: float
    noise_mm: float
    rms_mm: float
    dof: int
    residuals_mm: tuple[float, ...]
    left_out: tuple[int, ...]
    form_mm: float
    lobe: int | None
    suspicious: bool
    determined: bool

    @property
    def offset_mm(self) -> float:
        """Size of the offset."""
        return float(np.hypot(self.x_mm, self.y_mm))

    @property
    def toward_deg(self) -> float:
        """Direction of the offset."""
        return float(np.degrees(np.arctan2(self.y_mm, self.x_mm)) % 360)


def ray(angle_deg: Array | float, x_mm: float, y_mm: float, radius_mm: float, sign: int) -> Array:
    """Toward value of a circle with its center at (x, y), less its mean r0.

    Parameters
    ----------
    radius_mm
        Effective radius Re: R + tip outside, R - tip in a bore.
    sign
        +1 outside, -1 in a bore (``Sense.centre_sign``).
    """
    theta = np.radians(angle_deg)
    along = x_mm * np.cos(theta) + y_mm * np.sin(theta)
    across = y_mm * np.cos(theta) - x_mm * np.sin(theta)
    return np.asarray(sign * (along - sagitta(across, radius_mm)))


def sagitta(across_mm: Array, radius_mm: float) -> Array:
    """How far a circle falls away so far beside its top, mm: ``R - sqrt(R^2 - a^2)``; of an infinite one nothing."""
    # without taking one big number from another
    return np.asarray(across_mm**2 / (np.sqrt(np.maximum(radius_mm**2 - across_mm**2, 0.0)) + radius_mm))


def moved_by(
    angles_deg: Sequence[float], changed_mm: Sequence[float], at: tuple[float, float], radius_mm: float, sign: int
) -> tuple[tuple[float, float], Array]:
    """How far the center of a circle went, by how two toward values changed with one zero.

    Parameters
    ----------
    angles_deg, changed_mm
        Two spots, not opposite each other, and what the toward value changed by at each.
    at
        Where the center was.

    Returns
    -------
    by, spread
        The way it went, and the covariance of it per variance of one change (2, 2).

    Raises
    ------
    BadInput
        ``fit_unsettled`` when no circle of that size does it.

    Examples
    --------
    >>> by, spread = moved_by((0, 90), (-0.5, 0.02), (0.5, 0.0), 25.0, 1)
    >>> [round(mm, 4) for mm in by], spread.diagonal().round(6).tolist()
    ([-0.5, 0.015], [1.0, 1.0])
    """
    deg, theta = np.asarray(angles_deg, float), np.radians(angles_deg)
    line = sign * np.column_stack([np.cos(theta), np.sin(theta)])
    before = ray(deg, *at, radius_mm, sign)

    def miss(p: Array) -> Array:
        return np.asarray(
            ray(deg, at[0] + p[0], at[1] + p[1], radius_mm, sign) - before - np.asarray(changed_mm), float
        )

    inverse = np.linalg.inv(line)
    by = settle(miss, lambda p: line, inverse @ np.asarray(changed_mm))
    return (float(by[0]), float(by[1])), inverse @ inverse.T


def _solve(theta: Array, r: Array, radius_mm: float, sign: int) -> tuple[Array, Array]:
    """Parameters (r0, x, y) and the Jacobian at the solution."""
    cos, sin, jac, inverse, across = _design(tuple(theta.tolist()), sign)
    if across is not None:
        x, y = inverse @ ((r - r[across]) / 2)
        mean = float((r - ray(np.degrees(theta), x, y, radius_mm, sign)).mean())
        return np.array([mean, x, y]), jac
    start = inverse @ r
    limit, size = 0.9 * radius_mm, float(np.hypot(start[1], start[2]))
    if size > limit:
        start[1:] *= limit / size

    def miss(p: Array) -> Array:
        return np.asarray(p[0] + ray(np.degrees(theta), p[1], p[2], radius_mm, sign) - r, float)

    def slopes(p: Array) -> Array:
        across = p[2] * cos - p[1] * sin
        pull = across / np.sqrt(np.maximum(radius_mm**2 - across**2, 1e-12))
        return np.column_stack([np.ones_like(theta), sign * (cos + pull * sin), sign * (sin - pull * cos)])

    p = settle(miss, slopes, start)
    return p, slopes(p)


@lru_cache(maxsize=512)
def _design(theta: tuple[float, ...], sign: int) -> tuple[Array, Array, Array, Array, NDArray[np.intp] | None]:
    """Cosines, sines, the linear model (n, 3), its pseudo-inverse, and each station's opposite; where all have one, the pseudo-inverse
    is that of the offset alone.
    """
    at = np.array(theta)
    cos, sin, across = np.cos(at), np.sin(at), _opposites(at)
    jac = np.column_stack([np.ones_like(at), sign * cos, sign * sin])
    inverse = np.linalg.pinv(jac if across is None else jac[:, 1:])
    return cos, sin, jac, inverse, across


def _opposites(theta: Array) -> NDArray[np.intp] | None:
    """Index of each station's opposite, or None when one has none."""
    apart = np.abs(np.angle(np.exp(1j * (theta[:, None] - theta[None, :] - np.pi))))
    nearest = apart.argmin(axis=1)
    return nearest if bool((apart.min(axis=1) < 1e-6).all()) else None


def fit_circle(
    angles_deg: tuple[float, ...], toward_mm: tuple[float, ...], radius_mm: float, sign: int, u_read_mm: float
) -> CircleFit:
    """Offset of a round surface from readings round it, leaving out at most two wild ones.

    Parameters
    ----------
    angles_deg, toward_mm
        (N,) station angles and toward values, N >= 3.
    radius_mm, sign
        See ``ray``.
    u_read_mm
        Standard uncertainty of one reading; the noise is never taken smaller.

    Returns
    -------
    CircleFit
        Loss: sum of squares of the readings used. A wild reading is named only when
        ``N >= 3 + 2 w`` (w wild ones), each by the studentized residual at 1 %, shared by the N
        readings (Bonferroni), the one or two tried whose leaving out helps most; two only if no single lobing order explains all
        readings as well.

    Examples
    --------
    >>> f = fit_circle((0, 120, 240), (0.90904, 0.42996, -1.48004), 12, 1, 0.001)
    >>> round(f.offset_mm, 3), round(f.toward_deg, 1)
    (1.5, 50.0)
    """
    return _fit_cached(angles_deg, toward_mm, radius_mm, sign, u_read_mm)


@lru_cache(maxsize=4096)
def _fit_cached(
    angles_deg: tuple[float, ...], toward_mm: tuple[float, ...], radius_mm: float, sign: int, u_read_mm: float
) -> CircleFit:
    theta, r = np.radians(np.asarray(angles_deg, float)), np.asarray(toward_mm, float)
    n = len(r)
    wild, suspicious = _find_wild(theta, r, radius_mm, sign, u_read_mm)
    used = np.array([i not in wild for i in range(n)])
    p, jac = _solve(theta[used], r[used], radius_mm, sign)
    residuals = r - p[0] - ray(np.degrees(theta), p[1], p[2], radius_mm, sign)
    dof = int(used.sum()) - 3
    rms = float(np.sqrt((residuals[used] ** 2).sum() / dof)) if dof > 0 else 0.0
    noise = max(u_read_mm, rms)
    normal = jac.T @ jac
    determined = bool(np.linalg.cond(normal) < 1e6)
    cov = covariance(jac, noise)
    u = float(np.sqrt(np.linalg.eigvalsh(cov[1:, 1:]).max()))
    left = residuals[used]
    form = float(left.max() - left.min())
    lobe = _main_lobe(theta[used], left) if form > 4 * u_read_mm else None
    return CircleFit(
        float(p[0]),
        float(p[1]),
        float(p[2]),
        u,
        noise,
        rms,
        max(dof, 0),
        tuple(residuals.tolist()),
        tuple(wild),
        form,
        lobe,
        suspicious,
        determined,
    )


def _find_wild(theta: Array, r: Array, radius_mm: float, sign: int, u_read_mm: float) -> tuple[tuple[int, ...], bool]:
    """Indices of wild readings, and whether something is wild that cannot be named."""
    n = len(r)
    if n < 4:
        return (), False
    p, jac = _solve(theta, r, radius_mm, sign)
    residuals = r - p[0] - ray(np.degrees(theta), p[1], p[2], radius_mm, sign)
    misses = np.abs(residuals)
    if n > 4 and misses.max() < CALM * u_read_mm:
        return (), False  # a reading that could be named wild would stand out by more than this
    if n == 4:
        # One residual degree of freedom: a wild reading shows, but any of the four may be it.
        return (), bool(misses.max() > 12 * u_read_mm)
    floor = n * u_read_mm**2
    for count in range(1, 3):
        if n < 3 + 2 * count + (1 if count == 2 else 0):
            break
        best = best_without(jac, residuals, count)[0]
        if _all_wild(theta, r, best, radius_mm, sign, u_read_mm) and not (
            count == 2 and _one_lobing_explains(theta, residuals, floor)
        ):
            return best, True
    return (), False


def _all_wild(theta: Array, r: Array, out: tuple[int, ...], radius_mm: float, sign: int, u_read_mm: float) -> bool:
    """Is each reading of ``out`` improbable, given the ones that are kept?"""
    keep_theta, keep_r = np.delete(theta, out), np.delete(r, out)
    dof = len(keep_r) - 3
    p, jac = _solve(keep_theta, keep_r, radius_mm, sign)
    squares = float(((keep_r - p[0] - ray(np.degrees(keep_theta), p[1], p[2], radius_mm, sign)) ** 2).sum())
    s = max(u_read_mm, float(np.sqrt(squares / dof)))
    inverse = np.linalg.pinv(jac.T @ jac)
    limit = float(stdtrit(dof, 1 - WILD_CHANCE / (2 * len(r))))
    for i in out:
        row = np.array([1.0, sign * np.cos(theta[i]), sign * np.sin(theta[i])])
        miss = r[i] - p[0] - float(ray(float(np.degrees(theta[i])), p[1], p[2], radius_mm, sign))
        if abs(miss) <= limit * s * float(np.sqrt(1 + row @ inverse @ row)):
            return False
    return True


def _one_lobing_explains(theta: Array, residuals: Array, floor: float) -> bool:
    """A lobed part looks like two wild readings; does one lobing order fit all readings instead?"""
    for order in range(2, len(theta) // 2 + 1):
        basis = np.column_stack([np.cos(order * theta), np.sin(order * theta)])
        rest = residuals - basis @ np.linalg.lstsq(basis, residuals, rcond=None)[0]
        if float((rest**2).sum()) <= 4 * floor:
            return True
    return False


def _main_lobe(theta: Array, residuals: Array) -> int | None:
    """Order (2, 3 ...) with the largest amplitude in what is left over; N/2 is a lower bound."""
    orders = range(2, len(theta) // 2 + 1)
    if not orders:
        return None

    def amplitude(order: int) -> float:
        basis = np.column_stack([np.cos(order * theta), np.sin(order * theta)])
        return float(np.linalg.norm(basis @ np.linalg.lstsq(basis, residuals, rcond=None)[0]))

    return max(orders, key=amplitude)
