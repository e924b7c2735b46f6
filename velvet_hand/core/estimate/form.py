"""What a ring's readings say of its center and its form together, and so of its TIR.

A reading round a turn is ``r0 + e.u + form``, form being the orders 2 to 5 with a spread expected from the finish. Form repeats from
pass to pass (it is the part's), scatter does not: all passes tell the form, this pass alone tells where the center is. Gaussian in
(e, form); the value is the largest minus the least of ``e.u + form`` round the turn.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

import numpy as np
from numpy.typing import NDArray

from .kalman import Array
from .scatter import Repeats, form_told, half95

#: Orders of form, and how far each cosine and sine of it spreads on a ground surface (mm).
ORDERS = (2, 3, 4, 5)
GROUND_MM = (0.0004, 0.0004, 0.0003, 0.0003)
#: How far marks of the tool, which every place has of its own, spread for each time that a finish is rougher than ground (mm).
MARKS_MM = 0.000225
#: A TIR is from the lowest mark near one end to the highest near the other, not between any two: in marks squared.
TOPS = 5.0
#: Where the TIR is looked for (degrees).
STEP_DEG = 5.0


@dataclass(frozen=True, slots=True, eq=False)
class RoundLook:
    """A ring as its readings have it, all mm: center (2,) with its covariance, TIR and offset with half their 95 % bands, what the
    TIR is at least, the part of the bands that the scatter of the readings makes by itself, and peak to valley of the form alone,
    with its orders.
    """

    center: Array
    cov: Array
    tir_mm: float
    band_mm: float
    least_mm: float
    scatter_mm: float
    offset_band_mm: float
    offset_scatter_mm: float
    form_mm: float
    form: Array

    def moved(self, by: complex) -> RoundLook:
        """The same surface with its center elsewhere."""
        center = self.center + np.array([by.real, by.imag])
        way, shape = _turn()
        return replace(self, center=center, tir_mm=float(np.ptp(way @ center + shape @ self.form)))

    def told_by(self, more: Array, sigmas: float) -> RoundLook:
        """The same with its center known by ``more`` (2, 2) worse; a 95 % band is ``sigmas`` standard deviations to each side."""
        wide = sigmas * float(np.linalg.eigvalsh(more)[-1]) ** 0.5
        return replace(
            self,
            cov=self.cov + more,
            band_mm=math.hypot(self.band_mm, 2 * wide),
            scatter_mm=math.hypot(self.scatter_mm, 2 * wide),
            offset_band_mm=math.hypot(self.offset_band_mm, wide),
            offset_scatter_mm=math.hypot(self.offset_scatter_mm, wide),
        )

    def stands_out(self, deg: float) -> float:
        """How far the form alone stands out there (mm)."""
        return float((_orders(np.radians(np.array([deg]))) @ self.form)[0])


@lru_cache(maxsize=256)
def _shape(angles_deg: tuple[float, ...]) -> tuple[Array, Array, Array, Array]:
    """[1 cos sin], the form's orders, the projector onto residuals, and the pseudo-inverse of the first."""
    theta = np.radians(angles_deg)
    plain = np.column_stack([np.ones_like(theta), np.cos(theta), np.sin(theta)])
    inverse = np.linalg.pinv(plain)
    return plain, _orders(theta), np.eye(len(theta)) - plain @ inverse, inverse


@lru_cache(maxsize=64)
def _leaks(angles_deg: tuple[float, ...]) -> tuple[Array, Array, Array, Array]:
    """What of each order of the form passes for an offset (2, k), what it is all round less that (n, k); and the offset per variance of
    a reading: its covariance (2, 2), and the variance of the difference that it makes of any two places (n, n).
    """
    plain, orders, _, inverse = _shape(angles_deg)
    leak, each = (inverse @ orders)[1:], np.asarray(np.linalg.inv(plain.T @ plain)[1:, 1:], float)
    way, shape = _turn()
    return leak, shape - way @ leak, each, _apart(way, each)


def _orders(theta: Array) -> Array:
    return np.column_stack([f(n * theta) for n in ORDERS for f in (np.cos, np.sin)])


@lru_cache(maxsize=1)
def _turn() -> tuple[Array, Array]:
    """Directions (n, 2) and orders (n, 8) all round."""
    theta = np.radians(np.arange(0.0, 360.0, STEP_DEG))
    return np.column_stack([np.cos(theta), np.sin(theta)]), _orders(theta)


def see(
    angles_deg: tuple[float, ...], now: Array, groups: Mapping[tuple[float, ...], Repeats], variance: float, freedom: float,
    finish: float = 1.0, times: int = 1,
) -> RoundLook:  # fmt: skip
    """A ring in one pass, told by all of them.

    Parameters
    ----------
    angles_deg, now
        (N,) spots and readings of this pass, the circle's own curve taken off, plus where the center lies.
    groups
        What is left over in the passes that read the same spots, by these spots; this pass's among them.
    variance, freedom
        Of one reading, with its degrees of freedom.
    finish
        How much rougher than ground the surface is.
    times
        Passes that ``now`` is the mean of, with nothing done between them.

    Examples
    --------
    >>> angles = tuple(45.0 * i for i in range(8))
    >>> now = np.array([0.0020, 0.0015, 0.0005, -0.0005, -0.0010, -0.0010, 0, 0.0010])
    >>> found = see(angles, now, {angles: Repeats().add(left_over(angles, now))}, 0.25e-6, 16)
    >>> round(1000 * found.tir_mm, 4), round(1000 * found.band_mm, 4)
    (3.0318, 1.7414)
    """
    leak, less, each_center, apart_center = _leaks(angles_deg)
    spread = np.repeat(np.array(GROUND_MM) * finish, 2) ** 2
    marks = (MARKS_MM * max(finish - 1.0, 0.0)) ** 2
    form, cov_form, counts = form_told(angles_deg, groups, lambda spots: _shape(spots)[1:3], spread, variance, 3, marks)
    center = (_shape(angles_deg)[3] @ now)[1:] - leak @ form
    alone_center = variance / times * each_center
    leaked = leak @ cov_form @ leak.T + marks * each_center
    cov_center: Array = np.asarray(alone_center + leaked, float)
    way, shape = _turn()
    round_mm = way @ center + shape @ form
    tir_mm = float(np.ptp(round_mm))
    # scatter and form are each known as well as their own estimates: each has its degrees of freedom
    scatter, wide = half95(1.0, freedom), half95(1.0, counts)
    by_scatter = scatter**2 * variance / times * apart_center
    by_form = wide**2 * _apart(less, cov_form)
    if marks:
        by_form += (wide**2 * marks) * (apart_center + TOPS * (1 - np.eye(len(way))))
    bands = np.sqrt(by_scatter + by_form)
    # the largest difference that may be, wherever it lies: readings that all agree say nothing of the places between them
    apart = round_mm[:, None] - round_mm[None, :]
    most = apart + bands
    worst = np.unravel_index(int(most.argmax()), most.shape)
    size = float(np.hypot(*center))
    along = center / size if size > 0 else np.array([1.0, 0.0])
    offset_scatter_mm = scatter * float(np.sqrt(along @ alone_center @ along))
    offset_form = wide * max(float(along @ leaked @ along), 0.0) ** 0.5
    band_mm = float(most[worst]) - tir_mm
    alone = shape @ form
    return RoundLook(
        center=center,
        cov=cov_center,
        tir_mm=tir_mm,
        band_mm=band_mm,
        least_mm=float((apart - bands).max()),
        scatter_mm=min(float(np.sqrt(by_scatter[worst])), band_mm),
        offset_band_mm=float(np.hypot(offset_scatter_mm, offset_form)),
        offset_scatter_mm=offset_scatter_mm,
        form_mm=float(alone.max() - alone.min()),
        form=form,
    )


class Surface:
    """The form of a surface of some finish, drawn by chance, and the way that its center is off."""

    def __init__(self, finish: float, rng: np.random.Generator) -> None:
        way, shape = _turn()
        self.form = shape @ (np.repeat(np.array(GROUND_MM) * finish, 2) * rng.standard_normal(2 * len(ORDERS)))
        deg = rng.uniform(0, 2 * np.pi)
        self.toward = way @ np.array([np.cos(deg), np.sin(deg)])

    def room_mm(self, radius_mm: float) -> float:
        """How far off center it may lie where a true one may lie ``radius_mm`` off; 0 where its form leaves no room.

        Examples
        --------
        >>> one = Surface(1.0, np.random.default_rng(1))
        >>> [round(one.room_mm(mm), 4) for mm in (0.001, 0.002, 0.010)]
        [0.0003, 0.0015, 0.0098]
        """
        low, high = 0.0, max(radius_mm, 0.0)
        for _ in range(16):
            middle = (low + high) / 2
            low, high = (middle, high) if np.ptp(middle * self.toward + self.form) <= 2 * radius_mm else (low, middle)
        return low


def _apart(rows: Array, cov: NDArray[np.floating[Any]]) -> Array:
    """Variance of the difference of any two places round the turn (n, n); ``rows`` (n, k) say what each is made of."""
    each = rows @ cov @ rows.T
    own = np.diag(each)
    return np.asarray(np.maximum(own[:, None] + own[None, :] - 2 * each, 0.0))


def left_over(angles_deg: tuple[float, ...], now: Array) -> Array:
    """What a circle's offset does not explain of (N,) readings."""
    return np.asarray(_shape(angles_deg)[2] @ now, float)
