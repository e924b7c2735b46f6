"""One state of a holder, estimated together: where the work is, and how what is done moves it.

The state leads with the error that the passes show (an offset, a rise, several), then how the holder answers: gains, lost motion,
the shift on tightening. Between two passes lie acts; each model says what they do (``effect``) and by how much that is missed at
random. The update is an extended Kalman step, made twice or more because how much a move scatters depends on the gain itself.
After a surprise (an innovation beyond three sigma) the position is believed and the move is not: it spoils one pass, not the holder.
Source: R. E. Kalman, "A New Approach to Linear Filtering and Prediction Problems", 1960; iterated as in Jazwinski, 1970, 8.3.
"""

from __future__ import annotations

import math
import sys
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Generic, TypeVar

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
Act = TypeVar("Act")
#: Innovation squared, in sigmas, from which a move is not believed.
SURPRISE = 9.0
#: After a surprise the variance of the gains grows by this.
WIDEN = 1.5
#: By how much a move is missed, as its kind says, counts like so many components of moves that were seen.
MOVES_KNOWN = 8.0
#: A step of the update that misses so many times more than it promised (squared) is too long; parts of it that are tried then.
FAR_FROM_LINEAR, PARTS = 4.0, (1.0, 0.75, 0.5, 0.35, 0.25, 0.12, 0.0)
#: Degrees of freedom of what a pass was foreseen to show.
TAILS = 4.0
#: Variance of a place that nothing is known of (mm^2).
UNKNOWN = 100.0


@dataclass(frozen=True, slots=True)
class Prior:
    """What is expected of a parameter before anything was seen: mean, standard deviation, and how much it wanders from act to act."""

    mean: float
    sd: float
    wanders: float = 0.0


@dataclass(frozen=True, slots=True, eq=False)
class Belief:
    """Mean (n,) and covariance (n, n) of the state; ``surprise`` is the squared innovation of the last update, in sigmas, ``odd`` whether
    the last move was not believed for it. This hand misses its aims by ``rough`` times the variance that its kind says (at least that
    much), as ``told`` components of moves say. ``foresaw`` is how well it foresaw all passes: the logarithm of how likely they were.
    """

    x: Array
    cov: Array
    surprise: float = 0.0
    updates: int = 0
    odd: bool = False
    rough: float = 1.0
    told: float = MOVES_KNOWN
    foresaw: float = 0.0

    def sd(self, index: int) -> float:
        """Standard uncertainty of one of its components."""
        return float(np.sqrt(max(self.cov[index, index], 0.0)))


@dataclass(frozen=True, slots=True, eq=False)
class Effect:
    """What acts do to the error: how much (d,), its Jacobian to the whole state (d, n), and the covariance of what is missed, of
    the moves and of the rest (d, d).
    """

    moved: Array
    slopes: Array
    missed: Array
    rest: Array


class Model(ABC, Generic[Act]):
    """How a kind of holder answers: ``priors`` of its parameters by name, behind an error of ``dim`` components.

    ``rounds`` of the update; ``gains`` are the parameters that widen after a surprise, ``places`` those that belong to something else
    where they are far from what was expected: they teach nothing then.
    """

    dim: int
    priors: dict[str, Prior]
    gains: tuple[str, ...] = ()
    places: tuple[str, ...] = ()
    rounds = 2

    @abstractmethod
    def effect(self, x: Array, acts: Sequence[Act]) -> Effect:
        """What these acts do when the state is ``x``."""

    @abstractmethod
    def clip(self, x: Array) -> Array:
        """The state within what a holder can be."""

    @property
    def names(self) -> tuple[str, ...]:
        """The parameters, in the order of the state."""
        return tuple(self.priors)

    def at(self, name: str) -> int:
        """Where a parameter stands in the state."""
        return self.dim + self.names.index(name)

    def start(self, known: dict[str, Prior] | None = None) -> Belief:
        """Nothing read yet; ``known`` is what the holder is remembered for."""
        priors = [{**self.priors, **(known or {})}[name] for name in self.names]
        x = np.array([0.0] * self.dim + [p.mean for p in priors])
        return Belief(x, np.diag([UNKNOWN] * self.dim + [p.sd**2 for p in priors]))

    def aged(self, belief: Belief) -> Belief:
        """Before one more act is learned from: what wanders is known a little less."""
        wander = np.diag([0.0] * self.dim + [p.wanders**2 for p in self.priors.values()])
        return replace(belief, cov=belief.cov + wander, surprise=0.0, odd=False)

    def lost(self, belief: Belief) -> Belief:
        """Something unknown was done: where the work is, nobody knows; how the holder answers stays."""
        d, cov = self.dim, belief.cov.copy()
        cov[:d, :], cov[:, :d] = 0.0, 0.0
        cov[:d, :d] = np.eye(d) * UNKNOWN
        return replace(belief, cov=cov, surprise=0.0, odd=False)

    def predict(self, belief: Belief, acts: Sequence[Act]) -> tuple[Array, Array]:
        """Error and its covariance to expect after these acts."""
        d, effect = self.dim, self.effect(self.clip(belief.x), acts)
        step = _step(effect, d)[:d]
        return belief.x[:d] + effect.moved, step @ belief.cov @ step.T + effect.missed * belief.rough + effect.rest

    def update(self, belief: Belief, acts: Sequence[Act], seen: Array, noise: Array) -> Belief:
        """After these acts a pass saw the error ``seen`` (d,) with covariance ``noise`` (d, d)."""
        d = self.dim
        if belief.updates == 0 or not acts:
            return self._measured(belief, seen, noise)
        start, theta, widen = belief.cov, belief.x, 1.0
        found, rounds, rough, told = belief, self.rounds, belief.rough, belief.told
        while rounds:
            rounds -= 1
            here = self.clip(theta)
            effect = self.effect(here, acts)
            step = _step(effect, d)
            cov = step @ start @ step.T
            cov[:d, :d] += effect.missed * belief.rough * widen + effect.rest
            expected = belief.x[:d] + effect.moved + effect.slopes[:, d:] @ (belief.x - here)[d:]
            spread = cov[:d, :d] + noise
            miss = seen - expected
            sharp = np.linalg.inv(spread)
            pull = cov[:, :d] @ sharp
            before = belief.x.copy()
            before[:d] = expected
            theta = self._shortened(
                belief, acts, seen - belief.x[:d], noise, widen, effect, theta, before + pull @ miss
            )
            after = cov - pull @ cov[:d, :]
            surprise = float(miss @ sharp @ miss)
            if widen == 1.0:
                rough, told = _missed_by(belief, effect, spread, surprise)
            foresaw = found.foresaw + (_likely(surprise, spread) if found is belief else 0.0)  # before it learned
            found = Belief(theta, (after + after.T) / 2, surprise, belief.updates + 1, False, rough, told, foresaw)
            if rounds == 0 and widen == 1.0 and found.surprise > SURPRISE and effect.missed.any():
                widen, rounds = found.surprise, 1
        if widen > 1.0:
            cov = found.cov.copy()
            for name in self.gains:
                cov[self.at(name), self.at(name)] *= WIDEN
            return replace(found, cov=cov, surprise=widen, odd=True)
        return found

    def _shortened(
        self,
        belief: Belief,
        acts: Sequence[Act],
        came: Array,
        noise: Array,
        widen: float,
        begun: Effect,
        here: Array,
        there: Array,
    ) -> Array:
        """The step to ``there``; where it does not do what it promised, so much of it as explains best by how much the error ``came``
        nearer. A holder that is far from linear (a tap near the pivot) would be thrown past what it can be.
        """
        d = self.dim

        def wide(effect: Effect) -> Array:
            return belief.cov[:d, :d] + effect.missed * belief.rough * widen + effect.rest + noise

        sharp = np.linalg.inv(wide(begun))
        promised = came - begun.moved - begun.slopes[:, d:] @ (there - self.clip(here))[d:]
        got = came - self.effect(self.clip(there), acts).moved
        if got @ sharp @ got <= max(SURPRISE, FAR_FROM_LINEAR * float(promised @ sharp @ promised)):
            return there
        own = np.linalg.pinv(belief.cov[d:, d:])

        def unlikely(x: Array) -> float:
            """Squared sigmas by which it missed, and the logarithm of how wide they are."""
            effect, off = self.effect(self.clip(x), acts), (x - belief.x)[d:]
            miss, spread = came - effect.moved, wide(effect)
            missed = float(miss @ np.linalg.solve(spread, miss)) + float(np.linalg.slogdet(spread)[1])
            return missed + float(off @ own @ off)

        return min((np.concatenate([there[:d], (here + (there - here) * part)[d:]]) for part in PARTS), key=unlikely)

    def _measured(self, belief: Belief, seen: Array, noise: Array) -> Belief:
        """Another look at the same place."""
        d = self.dim
        pull = np.linalg.solve(belief.cov[:d, :d] + noise, belief.cov[:d, :]).T
        cov = belief.cov - pull @ belief.cov[:d, :]
        x = belief.x + pull @ (seen - belief.x[:d])
        return replace(belief, x=x, cov=(cov + cov.T) / 2, surprise=0.0, odd=False, updates=belief.updates + 1)

    def scalar(self, belief: Belief, row: Array, seen: float, variance: float) -> Belief:
        """One number measured: ``row`` (n,) of the state; beyond three sigma it pulls only as far as three would."""
        spread = float(row @ belief.cov @ row) + variance
        miss = seen - float(row @ belief.x)
        pull = belief.cov @ row / spread
        pull *= min(1.0, 9.0 * spread / miss**2) if miss else 1.0
        cov = belief.cov - np.outer(pull, row @ belief.cov)
        return replace(belief, x=belief.x + pull * miss, cov=(cov + cov.T) / 2, odd=False)


def _likely(surprise: float, spread: Array) -> float:
    """How likely it is to miss by ``surprise``, with heavy tails: a reading that is wrong is no other holder."""
    wide = max(float(np.linalg.det(spread)), sys.float_info.min)  # nothing is known without a doubt
    return -(TAILS + len(spread)) / 2 * math.log1p(surprise / TAILS) - math.log(wide) / 2


def _missed_by(belief: Belief, effect: Effect, spread: Array, surprise: float) -> tuple[float, float]:
    """By how much this hand misses its aims, one update later: ``surprise`` against what was expected, as far as the moves made it."""
    d = len(spread)
    share = belief.rough * float(np.trace(effect.missed) / np.trace(spread))
    told = belief.told + share * d
    return max(1.0, belief.rough * (belief.told + share * min(surprise, SURPRISE)) / told), told


def _step(effect: Effect, dim: int) -> Array:
    """The state's transition: the error moves, the rest stays."""
    step = np.eye(effect.slopes.shape[1])
    step[:dim, :] += effect.slopes
    return step
