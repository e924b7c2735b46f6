"""How likely the next pass proves it, and how many passes that takes."""

from __future__ import annotations

import math

import numpy as np
from scipy.special import chndtr, ndtr

from .kalman import Array

#: A tightening is worth it from this part of the best odds on.
WORTH = 0.05
#: So many standard deviations beyond the radius nothing is inside.
FAR = 8.0


def inside(mean: Array, cov: Array, radius_mm: float) -> float:
    """Chance that an error (d,) of this mean and covariance lies within a radius; in two dimensions the covariance's mean is taken.

    Examples
    --------
    >>> round(inside(np.zeros(2), np.eye(2) * 2.7**2, 1.6), 3), round(inside(np.zeros(2), np.eye(2) * 0.9**2, 1.6), 3)
    (0.161, 0.794)
    """
    if radius_mm <= 0:
        return 0.0
    d = len(mean)
    sd = math.sqrt(float(np.trace(cov)) / d) or 1e-12
    if float(np.linalg.norm(mean)) > radius_mm + FAR * sd:
        return 0.0  # chndtr knows no such distance
    if d == 1:
        return float(ndtr((radius_mm - mean[0]) / sd) - ndtr((-radius_mm - mean[0]) / sd))
    return float(chndtr((radius_mm / sd) ** 2, d, float(mean @ mean) / sd**2))
