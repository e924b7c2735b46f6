"""How two vises have answered so far, in their own frame, and how likely both hold."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from ...engine.answers import Answers, Done
from ...engine.learning import STOPS_TO, went_wrong
from ...engine.look import Looks
from ...engine.policy import Odds
from ...engine.tapping import BOLT_SD_MM, WANDERS_MM
from ...estimate.kalman import Array, Belief, Prior
from ...estimate.linked import Linked, Pair, out_of_line
from ...move import Move, Tap
from ...setup.state import State
from .look import A, B, PairLook
from .plan import VisePairPlan

#: Points (n, 3) of a standard normal distribution that odds are counted on, drawn once for all; each has its opposite.
HALF = np.random.default_rng(7).standard_normal((128, 3))
POINTS = np.concatenate([HALF, -HALF])


@dataclass(frozen=True, slots=True, eq=False)
class InLine(Odds[Linked]):
    """How likely the range of all ends is within ``radius_mm``."""

    def inside(self, mean: Array, cov: Array) -> float:
        """See ``Odds``."""
        root = np.linalg.cholesky(cov + 1e-14 * np.eye(3))
        return float((out_of_line(mean + POINTS @ root.T) <= self.radius_mm).mean())


def model_of(plan: VisePairPlan) -> Pair:
    """Each swings about its outer bolt."""
    low, high = plan.holder.pins_mm
    pivots = (Prior(low, BOLT_SD_MM, WANDERS_MM), Prior(high, BOLT_SD_MM, WANDERS_MM))
    return Pair(plan.edge_mm, pivots, STOPS_TO * plan.gauge.graduation_mm)


def acts_of(plan: VisePairPlan, moves: tuple[Move, ...]) -> tuple[Linked, ...]:
    """Taps and slides of one alone; what moves both as one is left out."""
    found = []
    for move in moves:
        if not isinstance(move, Tap) or move.train or move.mm is None:
            continue
        run = plan.turn_sign * (move.mm if move.toward else -move.mm)
        which = B if move.thing else A
        if move.whole:
            found.append(Linked(which, slide_mm=run if which == B else -run))
        else:
            found.append(Linked(which, move.x_mm - (plan.apart_mm if which == B else 0.0), run))
    return tuple(found)


def errors_of(look: PairLook) -> Array:
    """Both rises and the step, in the pair's own frame."""
    sign, length = look.plan.turn_sign, look.plan.edge_mm
    return sign * np.array([look.off_slope(A) * length, look.off_slope(B) * length, look.step_mm])


def noise_of(look: PairLook) -> Array:
    """Covariance of these three."""
    variance, length = look.plan.gauge.read_variance, look.plan.edge_mm
    rises, levels = [], []
    for line in look.lines:
        unit = variance / line.noise_mm**2 if line is not None else 0.0
        rises.append(unit * (line.u_slope * length) ** 2 if line is not None else 1e-12)
        levels.append(unit * line.u_level_mm**2 if line is not None else variance)
    return np.diag([*rises, sum(levels)])


def errors_after(model: Pair, belief: Belief, acts: Sequence[Linked], sign: int) -> Array:
    """Both rises, the step, and by how much the middle of each has come nearer (5,), after these acts, as toward values."""
    x, length = model.clip(belief.x), model.length_mm
    lifted = [
        sum(
            model.kappa(x, which, act.at_mm) * act.tapped_mm * (length / 2 - x[5 + which]) / length
            for act in acts
            if act.which == which and act.tapped_mm
        )
        for which in (A, B)
    ]
    return sign * np.array([*(x[:3] + model.effect(x, acts).moved), *lifted])


def answers_of(state: State[VisePairPlan], looks: Looks[PairLook]) -> Answers[Linked]:
    """The model on this set-up's passes."""
    plan = state.plan

    def seen(number: int) -> tuple[Array, Array] | None:
        look = looks[number]
        return (errors_of(look), noise_of(look)) if look.known and look.complete else None

    def done(number: int, ways: tuple[int, ...]) -> Done[Linked]:
        moves = state.moved_in(number)
        acts = list(acts_of(plan, moves))
        unknown = state.passes[number - 1].back or len(acts) < sum(m.do != "shim" for m in moves)
        if times := state.tightenings.count(number):
            acts.append(Linked(tightened=times))
        return Done(None if unknown else tuple(acts))

    def wrong(number: int) -> bool:
        before, after = looks[number], looks.get(number + 1)
        taps = [a for a in acts_of(plan, state.moved_in(number)) if a.tapped_mm]
        if after is None or not (before.known and after.known):
            return False
        change, model = errors_of(after) - errors_of(before), model_of(plan)
        start = model.start().x
        pairs = []
        for act in taps:
            asked = model.kappa(start, act.which, act.at_mm) * act.tapped_mm
            pairs.append((abs(asked), float(change[act.which]) * (1 if asked > 0 else -1)))
        return went_wrong(state, pairs)

    return Answers(model_of(plan), seen, done, wrong)
