"""How a four-jaw has answered so far, and what to ask of its two pairs."""

from __future__ import annotations

from collections.abc import Iterable

import numpy as np

from ...angles import rect
from ...estimate.kalman import Array
from ...estimate.pairs import Pairs, Screwed, reverses
from ...move import Jaws, Move, TapRound
from ...plan.jaws import JawPlan
from ...setup.state import State
from ..answers import Answered, Answers, Done
from ..learning import STOPS_TO, along_fit, got_mm, went_wrong
from .look import PAIRS, PLAIN, Look, along, at_grip, look_at, looks_of

#: What is not read at all is known to no better than this.
UNKNOWN_MM = 100.0


def axes(state: State[JawPlan]) -> tuple[complex, complex]:
    """Unit vectors toward jaws 1 and 2."""
    holder = state.plan.holder
    return rect(1.0, holder.jaw_deg(1)), rect(1.0, holder.jaw_deg(2))


def on_axes(state: State[JawPlan], center: complex) -> Array:
    """A place in the chuck's own axes: toward jaw 1, toward jaw 2 (2,)."""
    return np.array([(center * way.conjugate()).real for way in axes(state)])


def answers(state: State[JawPlan]) -> Answers[Screwed]:
    """The four-jaw's model on this set-up's passes."""

    def seen(number: int) -> tuple[Array, Array] | None:
        look = look_at(state, state.passes[number - 1])
        held = at_grip(state, look)
        if held is not None:
            turned = np.array([[way.real, way.imag] for way in axes(state)])
            return turned @ held[0], turned @ held[1] @ turned.T
        if state.plan.planes_mm is not None:
            return None
        told = [_told_along(state, look, pair) for pair in PAIRS]
        if not any(told):
            return None
        each = [one or (0.0, UNKNOWN_MM**2) for one in told]
        return np.array([mm for mm, _ in each]), np.diag([variance for _, variance in each])

    def done(number: int, ways: tuple[int, ...]) -> Done[Screwed]:
        return _done(state, number, ways or (0, 0))

    def wrong(number: int) -> bool:
        return went_wrong(state, got_mm(state, number, looks_of(state), along if state.plan.planes_mm else along_fit))

    return Answers(model(state), seen, done, wrong)


def _told_along(state: State[JawPlan], look: Look, pair: tuple[int, int]) -> tuple[float, float] | None:
    """Offset along a pair and its variance in a pass that is not whole: of the pair itself, or of a circle that says it plainly."""
    if pair in look.pair_mm:
        return look.pair_mm[pair], look.variance / 2
    fit = look.fit
    if fit is None:
        return None
    along = (complex(fit.x_mm, fit.y_mm) * rect(1.0, -state.plan.holder.jaw_deg(pair[0]))).real
    return (along, fit.u_mm**2) if abs(along) > PLAIN * fit.u_mm else None


def model(state: State[JawPlan]) -> Pairs:
    """The model of two pairs, at this indicator."""
    return Pairs(STOPS_TO * state.plan.gauge.graduation_mm)


def acts_of(moves: Iterable[Move], ways: tuple[int, ...] = (0, 0)) -> tuple[Screwed, ...]:
    """Moves of jaws as acts on the two pairs, those that nobody can say the effect of left out; see ``_done``."""
    acts, way = [], list(ways)
    for move in moves:
        if isinstance(move, Jaws) and move.asked is not None:
            pair, sign = (move.draw.number - 1) % 2, -1 if move.draw.number <= 2 else 1
            asked, back = [0.0, 0.0], [0.0, 0.0]
            asked[pair], back[pair] = sign * move.asked.mm, reverses(sign, way[pair])
            way[pair] = sign
            acts.append(Screwed((asked[0], asked[1]), (back[0], back[1])))
    return tuple(acts)


def _done(state: State[JawPlan], number: int, ways: tuple[int, ...]) -> Done[Screwed]:
    far = state.plan.planes_mm is not None  # a tap at the far end leaves alone where the jaws hold it
    moves = [m for m in state.moved_in(number) if not (far and isinstance(m, TapRound))]
    acts, way = acts_of(moves, ways), list(ways)
    for move in moves:
        if isinstance(move, Jaws):
            way[(move.draw.number - 1) % 2] = -1 if move.draw.number <= 2 else 1
    unknown = state.passes[number - 1].back or len(acts) < len(moves)
    if times := state.tightenings.count(number):
        acts = (*acts, Screwed(tightened=times))
    return Done(None if unknown else acts, tuple(way))


def answered(state: State[JawPlan]) -> Answered[Screwed]:
    """What the chuck has answered so far."""
    return answers(state).after(state)
