"""Least squares and covariance, in one place."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import least_squares

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
    found = least_squares(miss, start, jac=slopes, method="lm", xtol=1e-12, ftol=1e-12, gtol=1e-12)
    if not found.success or not np.isfinite(found.x).all():
        raise BadInput(
            "fit_unsettled",
            "These readings do not settle to one shape.",
            "Look for a mistyped reading, or read the pass again.",
            "typed",
        )
    return np.asarray(found.x, float)


def covariance(model: Array, noise: float) -> Array:
    """Covariance of linear parameters, ``s^2 (J'J)^-1``; (p, p) for an (n, p) model.

    Examples
    --------
    >>> covariance(np.column_stack([np.ones(4), [-1.0, 1.0, -1.0, 1.0]]), 0.2).round(3).tolist()
    [[0.01, 0.0], [0.0, 0.01]]
    """
    return np.asarray(noise**2 * np.linalg.pinv(model.T @ model), float)
