"""How the rotary’s base answers a swing, and the column a bump at its flange; and how likely the next reading may be left out."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ...engine.answers import Answers, Done
from ...engine.learning import GAIN, SHIFT_MM, STOPS_TO, as_moved
from ...engine.rings import look_ring
from ...estimate.kalman import Array
from ...estimate.odds import inside
from ...estimate.one_gain import Moved, OneGain
from ...move import Move, Shim, Swing, TapRound
from ...setup.state import State
from .plan import ColumnPlan
from .reading import COLUMN, FAR, bar_slopes

#: From these odds on the next stage is opened without reading this one again.
SURE = 0.9
#: From these odds on it is tightened straight after a move.
WORTH = 0.3


def swing_answers(state: State[ColumnPlan]) -> Answers[Moved]:
    """How far the axis runs toward the person over the bar, and what swings have done to that."""
    plan = state.plan
    span = plan.bar_far_mm - plan.bar_near_mm
    model = OneGain(1, STOPS_TO * plan.gauge.graduation_mm, GAIN, SHIFT_MM / 4)

    def seen(number: int) -> tuple[Array, Array] | None:
        slopes = bar_slopes(state, state.passes[number - 1])
        return None if slopes is None else (np.array([slopes[1] * span]), np.eye(1) * plan.gauge.read_variance)

    def done(number: int, ways: tuple[int, ...]) -> Done[Moved]:
        return Done(_swung(state.moved_in(number)))

    return Answers(model, seen, done, lambda number: False, name="swing")


def slide_answers(state: State[ColumnPlan]) -> Answers[Moved]:
    """Where the far end stands, and what bumps have done to that; what a shim does to it, only a reading tells."""
    model = OneGain(2, STOPS_TO * state.plan.gauge.graduation_mm, GAIN, SHIFT_MM)

    def seen(number: int) -> tuple[Array, Array] | None:
        one = state.passes[number - 1]
        if not any(s.ring == FAR for s in state.asked(one)):
            return None
        look = look_ring(state, one, FAR)
        return (look.alone.center, look.alone.cov) if look.alone is not None and look.complete else None

    def done(number: int, ways: tuple[int, ...]) -> Done[Moved]:
        moves = state.moved_in(number)
        if any(isinstance(m, Shim) for m in moves) and state.stage(number - 1) >= COLUMN:
            return Done(None)
        acts = [*_bumped(moves)]
        if times := state.tightenings.count(number):
            acts.append(Moved((0.0, 0.0), times))
        return Done(tuple(acts))

    return Answers(model, seen, done, lambda number: False, name="slide")


def swing_odds(state: State[ColumnPlan], to_make: Iterable[Move], least_mm: float) -> float:
    """How likely the axis is true after what was swung and what is still to be."""
    return _odds(state, swing_answers(state), _swung(to_make), least_mm)


def slide_odds(state: State[ColumnPlan], to_make: Iterable[Move]) -> float:
    """How likely the far end is true enough, within half of the limit, after what was bumped and what is still to be."""
    return _odds(
        state,
        slide_answers(state),
        _bumped(to_make),
        state.plan.limit.off_centre_mm / 2,
    )


def _swung(moves: Iterable[Move]) -> tuple[Moved, ...]:
    return tuple(Moved((m.mm if m.near else -m.mm,)) for m in moves if isinstance(m, Swing))


def _bumped(moves: Iterable[Move]) -> tuple[Moved, ...]:
    return as_moved(m for m in moves if isinstance(m, TapRound))


def _odds(state: State[ColumnPlan], answers: Answers[Moved], to_make: tuple[Moved, ...], radius_mm: float) -> float:
    known = answers.after(state)
    if known.lost or not known.belief.updates:
        return 0.0
    mean, cov = answers.model.predict(known.belief, (*known.acts, *to_make))
    return inside(mean, cov, radius_mm)
