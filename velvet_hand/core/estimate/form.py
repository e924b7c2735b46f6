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
    with its orders (k,) and their covariance (k, k).
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
    cov_form: Array

    @property
    def truest(self) -> tuple[Array, float]:
        """Where its center (2,) makes its TIR least, and that TIR (mm): a surface that is out of round is truest a little off its
        least-squares center.
        """
        return truest(tuple(self.form.tolist()))

    def room_mm(self, more_mm: float) -> float:
        """How far off that it may lie for a TIR that is ``more_mm`` more; see ``room_mm``."""
        return room_mm(tuple(self.form.tolist()), more_mm) if more_mm > 0 else more_mm / 2

    def moved(self, by: complex) -> RoundLook:
        """The same surface with its center moved."""
        return self.at(complex(*self.center) + by)

    def at(self, where: complex) -> RoundLook:
        """The same surface with its center elsewhere."""
        center = np.array([where.real, where.imag])
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

    def form_alone(self) -> RoundLook:
        """The same with nothing unsure but its form: what the readings scatter is left out of every band."""
        return replace(
            self,
            cov=np.zeros((2, 2)),
            band_mm=max(self.band_mm**2 - self.scatter_mm**2, 0.0) ** 0.5,
            scatter_mm=0.0,
            offset_band_mm=max(self.offset_band_mm**2 - self.offset_scatter_mm**2, 0.0) ** 0.5,
            offset_scatter_mm=0.0,
        )

    def stands_out(self, deg: float) -> float:
        """How far the form alone stands out there (mm)."""
        return float((_orders(np.radians(np.array([deg]))) @ self.form)[0])

    def form_variance(self, deg: float) -> float:
        """Variance of that (mm²)."""
        row = _orders(np.radians(np.array([deg])))[0]
        return float(row @ self.cov_form @ row)


def marks_variance(finish: float) -> float:
    """Variance of what every place of such a surface has of its own (mm²)."""
    return (MARKS_MM * max(finish - 1.0, 0.0)) ** 2


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


@lru_cache(maxsize=256)
def room_mm(form: tuple[float, ...], more_mm: float) -> float:
    """How far from where it is truest the center of such a surface may lie for its TIR to be ``more_mm`` more than it is there: the
    radius of a circle as large as all the places where it may.

    Examples
    --------
    >>> round(room_mm((0.0,) * 8, 0.001), 6), round(room_mm((0.001,) + (0.0,) * 7, 0.0001), 6)
    (0.0005, 8.3e-05)
    """
    way, shape = _turn()
    center, least_mm = truest(form)
    still, goes = way @ center + shape @ np.array(form), way @ way[:: len(way) // 12].T
    # the TIR is convex along a way out: from outside Newton's steps never go past it
    far = np.full(goes.shape[1], more_mm + least_mm)
    each = np.arange(len(far))
    for _ in range(20):
        out = still[:, None] + goes * far
        high, low = out.argmax(axis=0), out.argmin(axis=0)
        over = out[high, each] - out[low, each] - least_mm - more_mm
        if over.max() < 1e-9:
            break
        far = far - over / (goes[high, each] - goes[low, each])
    return float(np.sqrt(np.mean(far**2)))


@lru_cache(maxsize=256)
def truest(form: tuple[float, ...]) -> tuple[Array, float]:
    """Where the center (2,) of a surface of those orders of form makes its TIR least, and that TIR; mm.

    The minimum zone of ISO 12181 in the linear model, by Remez's exchange of four places that are high and low in turn.

    Examples
    --------
    >>> center, least_mm = truest((0.001, 0.0, 0.0, 0.0005, 0.0, 0.0, 0.0, 0.0))
    >>> [round(1000 * float(mm), 3) for mm in (*center, least_mm)]
    [0.0, 0.5, 2.37]
    """
    way, shape = _turn()
    out = shape @ np.array(form)
    plain = np.column_stack([np.ones(len(way)), way])
    at = [len(way) * i // 4 for i in range(4)]
    for _ in range(len(way)):
        ends = np.column_stack([plain[at], [1.0, -1.0, 1.0, -1.0]])
        level, x, y, zone = np.linalg.solve(ends, out[at])
        left = out - plain @ (level, x, y)
        far = int(np.abs(left).argmax())
        if abs(left[far]) <= abs(zone) + 1e-12:
            break
        before = max((i for i in range(4) if at[i] <= far), default=3)
        stays = left[far] * zone * (-1) ** before > 0
        at[before if stays else (before + 1) % 4] = far
        at.sort()
    return np.array([-x, -y]), 2 * abs(float(zone))


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
    marks = marks_variance(finish)
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
        cov_form=cov_form,
    )


class Surface:
    """The form of a surface of some finish, drawn by chance, and the way that its center is off its least-squares center, or off
    where it is truest (``truest_at``).
    """

    def __init__(self, finish: float, rng: np.random.Generator, truest_at: bool = False) -> None:
        way, shape = _turn()
        form = np.repeat(np.array(GROUND_MM) * finish, 2) * rng.standard_normal(2 * len(ORDERS))
        self.form = shape @ form + (way @ truest(tuple(form.tolist()))[0] if truest_at else 0.0)
        deg = rng.uniform(0, 2 * np.pi)
        self.toward = way @ np.array([np.cos(deg), np.sin(deg)])

    def room_mm(self, radius_mm: float) -> float:
        """How far off that it may lie where a true one may lie ``radius_mm`` off; 0 where its form leaves no room.

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
