"""Least squares and covariance, in one place."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from ..errors import BadInput

Array = NDArray[np.float64]


def settle(miss: Callable[[Array], Array], slopes: Callable[[Array], Array], start: Array) -> Array:
    """Parameters that make the sum of squares of ``miss`` least, from a start near by.

    Parameters
    ----------
    miss, slopes
        (n,) residuals and (n, p) Jacobian at (p,) parameters.

    Raises
    ------
    BadInput
        ``fit_unsettled`` when it finds none.

    Examples
    --------
    >>> line = np.column_stack([np.ones(3), np.arange(3.0)])
    >>> settle(lambda p: line @ p - np.array([1.0, 3.0, 5.0]), lambda p: line, np.zeros(2)).round(6).tolist()
    [1.0, 2.0]
    """
    from scipy.optimize import leastsq  # half a second of a start, so only when it is needed

    # the same MINPACK as least_squares(method="lm"), a tenth of its overhead: a choice of shims settles fifty times
    found, _, _, _, ended = leastsq(miss, start, Dfun=slopes, xtol=1e-12, ftol=1e-12, gtol=1e-12, full_output=True)
    if ended not in (1, 2, 3, 4) or not np.isfinite(found).all():
        raise BadInput(
            "fit_unsettled",
            "These readings do not settle to one shape.",
            "Look for a mistyped reading, or read the pass again.",
            "typed",
        )
    return np.asarray(found, float)


def best_without(model: Array, residuals: Array, count: int) -> tuple[tuple[int, ...], float]:
    """Which ``count`` (1 or 2) readings to leave out so that the sum of squares of the rest is least, and that sum.

    Leaving S out of a linear fit takes ``r_S' (I - H_SS)^-1 r_S`` off the sum of squares, with H the hat matrix (Cook and Weisberg,
    "Residuals and Influence in Regression", 1982): no fit is made again.

    Examples
    --------
    >>> line = np.column_stack([np.ones(6), np.arange(6.0)])
    >>> h = np.array([0.0, 1.0, 5.0, 3.0, 4.0, 5.0])
    >>> rest = h - line @ np.linalg.lstsq(line, h, rcond=None)[0]
    >>> out, left = best_without(line, rest, 1)
    >>> out, abs(left) < 1e-9
    ((2,), True)
    """
    free = np.eye(len(residuals)) - model @ np.linalg.pinv(model)
    alone = np.maximum(np.diag(free), 1e-12)
    total = float(residuals @ residuals)
    if count == 1:
        gains = residuals**2 / alone
        worst = int(gains.argmax())
        return (worst,), total - float(gains[worst])
    first, second = np.triu_indices(len(residuals), 1)
    a, b, off = alone[first], alone[second], free[first, second]
    p, q = residuals[first], residuals[second]
    turn = a * b - off**2
    gains = np.where(turn > 1e-12, (b * p**2 - 2 * off * p * q + a * q**2) / np.maximum(turn, 1e-12), -np.inf)
    at = int(gains.argmax())
    return (int(first[at]), int(second[at])), total - float(gains[at])


def covariance(model: Array, noise: float) -> Array:
    """Covariance of linear parameters, ``s^2 (J'J)^-1``; (p, p) for an (n, p) model.

    Examples
    --------
    >>> covariance(np.column_stack([np.ones(4), [-1.0, 1.0, -1.0, 1.0]]), 0.2).round(3).tolist()
    [[0.01, 0.0], [0.0, 0.01]]
    """
    return np.asarray(noise**2 * np.linalg.pinv(model.T @ model), float)
