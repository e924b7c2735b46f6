"""How a tapped edge has answered so far: its tap's gain, where it swings, its shift on tightening, all in the holder's own frame.

Plus is counter-clockwise seen from above, whatever side the indicator stands on; places count from the holder's first end.
"""

from __future__ import annotations

import numpy as np

from ..estimate.kalman import Array, Belief, Prior
from ..estimate.tapped import LEAST_STEP_MM, Swung, Tapped
from ..measure.edge import LineLook
from ..move import Move, Tap
from ..plan.edge import EdgeBase
from ..setup.state import State
from . import learning
from .answers import Answers, Done
from .look import Looks

#: A snug bolt is where it swings, give or take this (mm); without a hinge it is somewhere about the middle, by this part of the length.
BOLT_SD_MM, MIDDLE_SD = 12.0, 0.15
#: A swing point wanders by this from tap to tap (mm).
WANDERS_MM = 1.0
#: While nuts are pulled a thing slides as a whole by about this (mm).
SLID_MM = 0.010


def pivot_prior(plan: EdgeBase) -> Prior:
    """Where it should swing, by its bolts."""
    low, high = plan.holder.pins_mm
    if plan.hinge == "none":
        return Prior((low + high) / 2, MIDDLE_SD * plan.edge_mm, WANDERS_MM)
    return Prior(low if plan.hinge == "low" else high, BOLT_SD_MM, WANDERS_MM)


def model_of(plan: EdgeBase) -> Swung:
    """The model of an edge on its bolts; what is learned of the pivot belongs to the bolt that is snug."""
    stop = learning.STOPS_TO * plan.gauge.graduation_mm
    return Swung(plan.edge_mm, pivot_prior(plan), stop, f"pivot_{plan.hinge}")


def acts_of(plan: EdgeBase, moves: tuple[Move, ...]) -> tuple[Tapped, ...]:
    """Taps as what the estimate knows of them; what nobody can say the size of is left out."""
    taps = [move for move in moves if isinstance(move, Tap)]
    return tuple(Tapped(plan.turn_sign * (m.mm if m.toward else -m.mm), m.x_mm) for m in taps if m.mm is not None)


def least_mm(plan: EdgeBase) -> float:
    """A tap that is to move less than this is as likely to harm as to help."""
    return max(plan.gauge.graduation_mm / 4, LEAST_STEP_MM / 2)


def brought(plan: EdgeBase, belief: Belief, at_mm: float) -> tuple[Tapped, ...] | None:
    """The tap there that brings it in by its pivot, none where it is too small; None in schools of which nobody can say."""
    if plan.way != "swing":
        return None
    run = model_of(plan).ask(belief, -float(belief.x[0]), at_mm)
    return () if abs(run) < least_mm(plan) else (Tapped(run, at_mm),)


def rise_variance(look: LineLook) -> float:
    """Variance of an edge's rise over its length."""
    line = look.line
    assert line is not None
    return float(look.variance * (line.u_slope / line.noise_mm * look.edge_mm) ** 2)


def answers_of(state: State[EdgeBase], looks: Looks[LineLook], first_x_mm: float) -> Answers[Tapped]:
    """The model on this set-up's passes; ``first_x_mm`` is the spot at the hinge's end, whose height tells the pivot."""
    plan = state.plan
    model, sign = model_of(plan), plan.turn_sign

    def level(look: LineLook) -> float:
        """Variance of the edge's height at its middle."""
        line = look.line
        assert line is not None
        return float(look.variance * (line.u_level_mm / line.noise_mm) ** 2)

    def seen(number: int) -> tuple[Array, Array] | None:
        look = looks[number]
        if look.fit is None or not look.complete:
            return None
        return np.array([sign * look.fit.mm]), np.array([[rise_variance(look)]])

    def done(number: int, ways: tuple[int, ...]) -> Done[Tapped]:
        moves = state.moved_in(number)
        acts = list(acts_of(plan, moves))
        unknown = state.passes[number - 1].back or len(acts) < len(moves)
        if times := state.tightenings.count(number):
            acts.append(Tapped(tightened=times))
        return Done(None if unknown else tuple(acts))

    def heights(belief: Belief, number: int) -> Belief:
        """Where it swung, when the dial kept its zero."""
        before, after = looks.get(number - 1), looks[number]
        passes = state.passes[number - 2 : number]
        if (
            before is None
            or before.line is None
            or after.line is None
            or passes[0].frames.get("") != passes[1].frames.get("")
        ):
            return belief
        if plan.gauge.measures_gap:  # it is touched anew in every pass
            return belief
        turned = sign * (after.line.slope - before.line.slope) * plan.edge_mm
        rose = sign * (after.line.at(first_x_mm) - before.line.at(first_x_mm))
        noise = sum(level(look) + look.walked_mm**2 for look in (before, after))
        slid = SLID_MM**2 if number - 1 in state.tightenings else 0.0
        return model.crossed(
            belief, turned, first_x_mm, rose, noise + slid, (rise_variance(before) + rise_variance(after)) / 2
        )

    def wrong(number: int) -> bool:
        before, after = looks[number], looks.get(number + 1)
        if after is None or before.fit is None or after.fit is None:
            return False
        return learning.went_wrong(state, learning.got_mm(state, number, looks, learning.along_fit))

    return Answers(model, seen, done, wrong, heights)
