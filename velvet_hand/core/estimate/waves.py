"""What an edge does between the places that are read, and what of it passes for a slope.

The edge is a line and waves of the orders 1 to 4 along it, with a spread expected from its finish; its slope is that of the line of
least squares through all of it. Few places take a wave for a slope, and no scatter of the readings shows it.
"""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

import numpy as np

from .kalman import Array
from .scatter import Repeats, form_told, half95

#: Orders of waves along it, and how far each cosine and sine of it spreads on a ground edge (mm) of that length or longer; a shorter one
#: is straighter.
ORDERS = (1, 2, 3, 4)
GROUND_MM = (0.0004, 0.0004, 0.0003, 0.0003)
LONG_MM = 150.0  # a jaw of a vise
#: Places along the whole of it.
ALL = 61


@lru_cache(maxsize=512)
def _shape(parts: tuple[float, ...]) -> tuple[Array, Array, Array]:
    """At places in parts of the length: the waves (N, 8), the projector onto what a line leaves over (N, N), and what of each wave goes
    into the slope of a line through them beyond its own share in the whole edge's (8,).
    """
    x = np.array(parts)
    waves, line, inverse = _line(x)
    return waves, np.eye(len(x)) - line @ inverse, inverse[1] @ waves - _whole()


def _line(x: Array) -> tuple[Array, Array, Array]:
    """Waves at places (N, 8), the line through them (N, 2) and its pseudo-inverse."""
    line = np.column_stack([np.ones_like(x), x - x.mean()])
    waves = np.column_stack([f(2 * np.pi * n * x) for n in ORDERS for f in (np.cos, np.sin)])
    return waves, line, np.linalg.pinv(line)


@lru_cache(maxsize=1)
def _whole() -> Array:
    """What of each wave goes into the slope of a line through all of the edge."""
    waves, _, inverse = _line(np.linspace(0.0, 1.0, ALL))
    return np.asarray(inverse[1] @ waves)


def unseen_rise_mm(
    x_mm: tuple[float, ...], ends_mm: tuple[float, float], groups: Mapping[tuple[float, ...], Repeats], variance: float, finish: float = 1.0
) -> float:  # fmt: skip
    """Half the 95 % band of a rise between both ends that the edge's own waves make; what is known of them is not taken off it.

    Parameters
    ----------
    x_mm, ends_mm
        Places of this pass, and from where to where the edge goes.
    groups
        What a line leaves over in the passes that read the same places, by these places; this pass's among them.
    variance
        Of one reading.
    finish
        How much rougher than ground the edge is.

    Examples
    --------
    >>> few, many = (0.0, 50.0, 100.0), tuple(float(x) for x in np.linspace(0, 100, 12))
    >>> [round(1000 * unseen_rise_mm(x, (0, 100), {x: Repeats().add(np.zeros(len(x)))}, 1e-8), 2) for x in (few, many)]
    [1.29, 0.07]
    """
    low, high = ends_mm

    def parts(spots: tuple[float, ...]) -> tuple[float, ...]:
        return tuple((x - low) / (high - low) for x in spots)

    spread = np.repeat(np.array(GROUND_MM) * finish * min(1.0, (high - low) / LONG_MM), 2) ** 2
    form, cov, counts = form_told(x_mm, groups, lambda spots: _shape(parts(spots))[:2], spread, variance, 2)
    leak = _shape(parts(x_mm))[2]
    return half95(float(leak @ cov @ leak + (leak @ form) ** 2), counts)
