"""From set-up to set-up: what one taught, and what many together lead to expect.

A lesson is what a set-up's own readings say of a parameter, its prior divided out: ``1/w = 1/P - 1/P0``, ``mu = w (x/P - x0/P0)``.
What many lessons say is a mixture over how much a holder changes between set-ups; the widest of these is the cold start itself. Whether it
is the same holder still, its answers tell (``met``); so memory is never much worse than none.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from scipy.special import expit

from .kalman import Belief, Model, Prior

#: How much a holder may change from one set-up to the next, as parts of what its kind spreads.
BETWEEN = (0.1, 0.3, 0.6, 1.0)
#: So likely something was done to it since, and it answers like any other of its kind: a screw oiled, a jaw ground.
ANEW = 0.16
#: A lesson whose data say less than this part of what the kind says teaches nothing.
TEACHES = 1e-6
#: A place so many standard deviations from where its kind has it is another one.
ELSEWHERE = 4.0


@dataclass(frozen=True, slots=True)
class Taught:
    """What one set-up's readings say of a parameter: value and variance."""

    value: float
    variance: float


def lesson(model: Model[Any], start: Belief, end: Belief) -> dict[str, Taught]:
    """What a set-up taught of each parameter, from what it started with and what it ended with."""
    found = {}
    for name in model.names:
        at = model.at(name)
        before, after = start.cov[at, at], end.cov[at, at]
        more = 1 / after - 1 / before
        if more * before > TEACHES:
            variance, kind = 1 / more, model.priors[name]
            value = variance * (end.x[at] / after - start.x[at] / before)
            if name not in model.places or abs(value - kind.mean) <= ELSEWHERE * kind.sd:
                found[name] = Taught(value, variance)
    return found


def expected(kind: Prior, lessons: Sequence[Taught]) -> Prior:
    """What to expect of a parameter after these lessons, oldest first.

    Examples
    --------
    >>> gains = [Taught(g, 0.04**2) for g in (0.72, 0.75, 0.70, 0.74)]
    >>> found = expected(Prior(0.85, 0.15), gains)
    >>> round(found.mean, 6), round(found.sd, 6)
    (0.733539, 0.050302)
    """
    if not lessons:
        return kind
    ways = [_after(kind, part, lessons) for part in BETWEEN]
    top = max(log for log, _, _ in ways)
    weights = [math.exp(log - top) for log, _, _ in ways]
    whole = sum(weights)
    weights = [w / whole for w in weights]
    mean = sum(w * m for w, (_, m, _) in zip(weights, ways, strict=True))
    spread = sum(
        w * (v + (part * kind.sd) ** 2 + (m - mean) ** 2)
        for w, part, (_, m, v) in zip(weights, BETWEEN, ways, strict=True)
    )
    return Prior(mean, math.sqrt(min(spread, kind.sd**2)), kind.wanders)


def met(kept: Belief, anew: Belief) -> Belief:
    """A holder that is remembered, as it answers now: what follows from its memory, and what follows if it answers anew, each by how
    well it foresaw what was read.
    """
    other = float(expit(math.log(ANEW / (1 - ANEW)) + anew.foresaw - kept.foresaw))
    apart, likelier = anew.x - kept.x, anew if other > 0.5 else kept
    cov = (1 - other) * kept.cov + other * anew.cov + (1 - other) * other * np.outer(apart, apart)
    return replace(likelier, x=kept.x + other * apart, cov=cov)


def _after(kind: Prior, part: float, lessons: Sequence[Taught]) -> tuple[float, float, float]:
    """Log weight, mean and variance when a holder changes by this part of what its kind spreads."""
    log, mean = 0.0, kind.mean
    variance = kind.sd**2 * max(1 - part**2, 1e-9)
    for one in lessons:
        spread = variance + (part * kind.sd) ** 2 + one.variance
        miss = one.value - mean
        log += -2.5 * math.log(1 + miss**2 / (4 * spread)) - 0.5 * math.log(spread)
        pull = variance / spread * min(1.0, 9 * spread / miss**2) if miss else variance / spread
        mean += pull * miss
        variance *= 1 - pull
    return log, mean, variance
