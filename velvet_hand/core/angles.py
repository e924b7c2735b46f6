"""Directions and vectors in a plane: degrees outside, complex numbers inside."""

from __future__ import annotations

import cmath
import math

import numpy as np
from numpy.typing import NDArray

#: Angles closer than this are one spot.
SAME_SPOT_DEG = 0.5


def rect(size: float, deg: float) -> complex:
    """A vector of that size and direction."""
    return cmath.rect(size, math.radians(deg))


def direction_deg(z: complex) -> float:
    """Direction of a vector, 0 to 360."""
    return math.degrees(cmath.phase(z)) % 360


def xy(z: complex) -> NDArray[np.float64]:
    """A vector as its two components."""
    return np.array([z.real, z.imag])


def apart(a_deg: float, b_deg: float) -> float:
    """Angle between two directions, 0 to 180."""
    return abs((a_deg - b_deg + 180) % 360 - 180)
