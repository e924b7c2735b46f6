"""Where it was when: the uneven speed of a hand and the shape of the surface, told apart from one signal.

Unknown are the speed in each piece of time and the coefficients of the shape; the place is the speed summed up. A hand changes its
speed by a random walk of its logarithm, now and then by a jump (Student's t), and stands at the beginning and at the end; the shape’s
waves are small and the smaller the shorter. What fits both best is found by damped Gauss-Newton steps for two kinds of hands, weighed
by how well each explains what was seen (Laplace: MacKay, "Information Theory, Inference, and Learning Algorithms", 2003, chapter 27).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from .stream import Array, Pieces

#: A place where it stands is found again to so much of a turn or of the way.
STANDS = 1 / 360
#: A mark made in passing comes so early or late (s).
PASSING_S = 0.14
#: How a hand changes its speed: the logarithm of it walks by so much in a root second; a steady one, and one that is not.
HANDS = (0.5, 1.5)
#: Near standing still (s) it changes so many times as much; jumps are told by Student's t with so many degrees of freedom.
STARTS_S, STARTS, FREEDOM = 1.2, 5.0, 4.0
#: Two kinds of hands are weighed this much more evenly than their odds say: those hold for the model alone.
EVENLY = 3.0
#: Steps at most, and what is left to win when it is done; a speed changes by no more in one step.
STEPS, SETTLED, LEAP = 10, 0.02, 1.5

#: Far off its middle, it is settled coarsely first: to such parts of what the needle swings by.
COARSE = (0.1, 0.02)


class Shape(Protocol):
    """What may lie along the way: waves, a line and its bow."""

    @property
    def expected_mm(self) -> Array:
        """Standard deviation of each coefficient beforehand, mm (infinite: free)."""

    @property
    def first(self) -> tuple[int, ...]:
        """Which terms a plain fit of readings has, the level first."""

    def at(self, place: Array) -> tuple[Array, Array]:
        """Each term at these places (n, p), and its slope there."""

    def bend(self, place: Array, shape: Array) -> Array:
        """What lies at these places (n,) besides the terms, when the shape is (p,)."""


@dataclass(frozen=True, slots=True)
class Mark:
    """It was at a ``place`` at a moment; ``stood`` there, or was passed."""

    at_s: float
    place: float
    stood: bool = False


@dataclass(frozen=True, slots=True, eq=False)
class Settled:
    """The shape (p,) with its covariance (p, p), and where it was in each piece of time (M,).

    ``off`` is how much rougher than expected it came out: 1 when it is as expected.
    """

    shape: Array
    cov: Array
    place: Array
    off: float


@dataclass
class _Fit:
    """One try: pieces, total way, shape, marks, what is expected to be left over (mm), how a hand changes (per piece)."""

    pieces: Pieces
    total: float
    shape: Shape
    marks: Sequence[Mark]
    rest_mm: float
    change: Array

    def __post_init__(self) -> None:
        count = len(self.pieces.mm)
        self.sum = (np.tril(np.ones((count, count)), -1) + 0.5 * np.eye(count)) * self.pieces.step_s
        self.have = self.pieces.have / self.rest_mm
        self.stiff = 1 / self.shape.expected_mm
        mean = self.total / self.pieces.long_s
        sure = [
            STANDS * self.total / max(round(self.total / 360), 1) if m.stood else np.hypot(STANDS, PASSING_S * mean)
            for m in self.marks
        ]
        self.near = np.array([*sure, STANDS * self.total])
        self.rows = np.array(
            [*(self.sum[self.pieces.index(m.at_s)] for m in self.marks), np.full(count, self.pieces.step_s)]
        )
        self.wanted = np.array([*(m.place for m in self.marks), self.total])

    def terms(self, speed: Array) -> tuple[Array, Array]:
        """The terms of the shape where it was with these speeds, and their slopes along the way."""
        return self.shape.at(self.sum @ np.exp(speed))

    def cost(self, speed: Array, shape: Array) -> float:
        """Minus the logarithm of how likely all of it is."""
        miss = (self.pieces.mm - self.terms(speed)[0] @ shape) * self.have
        jumps = np.diff(speed) / self.change
        marks = (self.rows @ np.exp(speed) - self.wanted) / self.near
        walks = (FREEDOM + 1) * np.log1p(jumps**2 / FREEDOM).sum()
        return float(miss @ miss + walks + marks @ marks + ((self.stiff * shape) ** 2).sum()) / 2

    def linear(self, speed: Array) -> Array:
        """The shape that fits best when the speeds are these."""
        terms = self.terms(speed)[0] * self.have[:, None]
        found = np.linalg.solve(terms.T @ terms + np.diag(self.stiff**2), terms.T @ (self.pieces.mm * self.have))
        return np.asarray(found, float)

    def system(self, speed: Array, shape: Array) -> tuple[Array, Array]:
        """Normal equations of one Gauss-Newton step."""
        terms, slopes = self.terms(speed)
        flow, count = np.exp(speed), len(shape)
        jac = np.hstack([terms, (slopes @ shape)[:, None] * (self.sum * flow)]) * self.have[:, None]
        normal, pull = jac.T @ jac, jac.T @ ((self.pieces.mm - terms @ shape) * self.have)
        at = np.arange(count)
        normal[at, at] += self.stiff**2
        pull[:count] -= self.stiff**2 * shape
        jumps = np.diff(speed) / self.change
        weight = (FREEDOM + 1) / (FREEDOM + jumps**2) / self.change**2
        side, up = np.arange(count, len(normal)), weight * np.diff(speed)
        normal[side[:-1], side[:-1]] += weight
        normal[side[1:], side[1:]] += weight
        normal[side[:-1], side[1:]] -= weight
        normal[side[1:], side[:-1]] -= weight
        pull[side[:-1]] += up
        pull[side[1:]] -= up
        rows = self.rows * flow / self.near[:, None]
        normal[count:, count:] += rows.T @ rows
        pull[count:] -= rows.T @ ((self.rows @ flow - self.wanted) / self.near)
        return normal, pull

    def run(self, speed: Array) -> tuple[float, Array, Array, Array]:
        """How likely it is (logarithm), speeds, shape and normal equations where nothing more is won."""
        shape = self.linear(speed)
        cost, damp = self.cost(speed, shape), 1e-3
        normal, pull = self.system(speed, shape)
        for _ in range(STEPS):
            for _ in range(6):
                stiff = normal.copy()
                at = np.arange(len(stiff))
                stiff[at, at] *= 1 + damp
                step = np.linalg.solve(stiff, pull)
                near = speed + np.clip(step[len(shape) :], -LEAP, LEAP), shape + step[: len(shape)]
                now = self.cost(*near)
                if now < cost:
                    break
                damp *= 6
            else:
                break
            won, cost, damp = cost - now, now, damp / 6
            speed, shape = near
            normal, pull = self.system(speed, shape)
            if won < SETTLED:
                break
        likely = -cost - np.linalg.slogdet(normal)[1] / 2 - float(np.log(self.change).sum())
        return likely, speed, shape, normal


def settle(pieces: Pieces, total: float, shape: Shape, marks: Sequence[Mark], start: Array, rest_mm: float) -> Settled:
    """Where it was in each piece, and what shape it has.

    Parameters
    ----------
    total
        The whole way from standing to standing (degrees, or mm).
    marks
        Where it was at some moments.
    start
        (M,) places to begin with, never going back.
    rest_mm
        What may be left over in a piece, mm.
    """
    count = len(pieces.mm)
    flow = np.convolve(np.pad(np.diff(start, prepend=0.0), 3, mode="edge"), np.ones(7) / 7, "valid") / pieces.step_s
    speed = np.log(np.maximum(flow, 0.05 * total / pieces.long_s))
    speed += np.log(total / (np.exp(speed).sum() * pieces.step_s))
    edge = pieces.step_s * np.arange(1, count)
    near = np.where((edge < STARTS_S) | (edge > pieces.long_s - STARTS_S), STARTS, 1.0) * pieces.step_s**0.5
    size = float(np.ptp(pieces.mm[pieces.have])) / 2
    for coarse in COARSE:
        if coarse * size > rest_mm:
            speed = _Fit(pieces, total, shape, marks, coarse * size, HANDS[0] * near).run(speed)[1]
    found = []
    for hand in HANDS:
        fit = _Fit(pieces, total, shape, marks, rest_mm, hand * near)
        found.append(fit.run(speed))
        speed = found[-1][1]
    odds = np.array([one[0] for one in found])
    weights = np.exp((odds - odds.max()) / EVENLY)
    weights /= weights.sum()
    mean = np.sum([w * one[2] for w, one in zip(weights, found, strict=True)], axis=0)
    size = len(mean)
    cov = np.sum(
        [w * (np.linalg.inv(one[3])[:size, :size] + np.outer(one[2] - mean, one[2] - mean)) for w, one in zip(weights, found, strict=True)],
        axis=0,
    )  # fmt: skip
    best = found[int(odds.argmax())]
    place = fit.sum @ np.exp(best[1])
    left = (pieces.mm - shape.at(place)[0] @ best[2])[pieces.have] / rest_mm
    waves = (fit.stiff * best[2])[np.isfinite(shape.expected_mm)]
    off = max(float(np.sqrt(np.mean(left**2))), float(np.sqrt(np.mean(waves**2))))
    return Settled(mean, cov, place, off)
