"""How a head has answered so far: gain, shift on clamping, and where its two axes lie."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ...engine.answers import Answers
from ...engine.learning import GAIN, SHIFT_MM, STOPS_TO, moved_by
from ...engine.look import Looks
from ...estimate.kalman import Belief, Prior
from ...estimate.leaning import Leaning, Leant
from ...estimate.one_gain import Moved
from ...measure.ring import RingLook
from ...move import Lean, Move
from ...setup.state import State
from .plan import TramPlan

#: An axis lies where it is said, give or take this part of its distance, and at least so much (mm); it wanders by so much.
PIVOT_PART, PIVOT_MM, WANDERS_MM = 0.35, 10.0, 1.0


def model_of(plan: TramPlan) -> Leaning:
    """The model of a head as it is planned."""
    said = (plan.pivot_x_mm, plan.pivot_y_mm)
    x, y = (Prior(mm, max(PIVOT_MM, PIVOT_PART * abs(mm)), WANDERS_MM) for mm in said)
    return Leaning(plan.part.diameter_mm / 2, (x, y), STOPS_TO * plan.gauge.graduation_mm, GAIN, SHIFT_MM)


def side_of(pivot_mm: float) -> int:
    """At which side the needle is watched: the one farther from the axis shows more."""
    return -1 if pivot_mm > 0 else 1


def acts_of(state: State[TramPlan], moves: tuple[Move, ...], looks: Looks[RingLook]) -> tuple[Leant, ...]:
    """Turns as what the estimate knows of them: where the needle ran, and how far."""
    found = []
    for move in moves:
        look = looks.get(move.pass_no)
        if not isinstance(move, Lean) or move.needle is None or look is None or look.fit is None:
            continue
        deg, axis = move.needle.deg, 0 if move.at_deg % 180 == 0 else 1
        side = 1 if deg < 180 else -1
        here, there = (state.sense.toward_mm(mm or 0.0) for mm in (move.now_mm, move.aim_mm))
        level = here - side * (look.fit.x_mm if axis == 0 else look.fit.y_mm)
        found.append(
            Leant(axis=axis, side=side, run_mm=there - here, lifted_mm=level - look.fit.mean_mm - look.walked_mm)
        )
    return tuple(found)


def brought(plan: TramPlan, belief: Belief) -> tuple[Leant, ...]:
    """The turns that bring it in."""
    model, lifted, found = model_of(plan), 0.0, []
    x = model.clip(belief.x)
    for axis in (0, 1):
        need, pivot = -float(x[axis] + x[3 + axis]), float(x[5 + axis])
        if abs(need) >= plan.gauge.graduation_mm / 4:
            found.append(model.turn(x, axis, side_of(pivot), need, lifted))
            lifted -= need * pivot / model.radius_mm
    return tuple(found)


def answers_of(state: State[TramPlan], looks: Looks[RingLook]) -> Answers[Moved]:
    """The model on this set-up's passes."""
    model = model_of(state.plan)

    def heights(belief: Belief, number: int) -> Belief:
        """Where it turned, when the dial kept its zero."""
        before, after = looks.get(number - 1), looks[number]
        if before is None or before.fit is None or after.fit is None:
            return belief
        if state.passes[number - 2].frames.get("sweep-") != state.passes[number - 1].frames.get("sweep-"):
            return belief
        turned = np.array([after.fit.x_mm - before.fit.x_mm, after.fit.y_mm - before.fit.y_mm])
        noise = sum(look.fit.u_mm**2 + look.walked_mm**2 for look in (before, after) if look.fit is not None)
        return model.lifted(belief, turned, after.fit.mean_mm - before.fit.mean_mm, noise)

    return replace(moved_by(state, looks, model, lambda moves: acts_of(state, moves, looks)), heights=heights)
