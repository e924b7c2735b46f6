"""How far to move each pair of jaws, and the odds that it then holds."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from ...estimate.kalman import Array
from ...estimate.pairs import LEAST_STEP_MM, SHIFT, Screwed
from ...plan.jaws import JawPlan
from ...setup.state import State
from ...verdict import Verdict
from ..answers import Answered
from ..beyond import DIAL_PART
from ..learning import STOPS_TO
from ..policy import Odds
from ..rings import Room, next_mm
from .answers import answers, axes, model, on_axes
from .look import Look


def least_mm(state: State[JawPlan]) -> float:
    """A move smaller than this is as likely to harm as to help."""
    return max(LEAST_STEP_MM / 2, state.plan.gauge.graduation_mm * STOPS_TO)


def shift_of(known: Answered[Screwed]) -> Array:
    """The shift to expect of the next tightening, on the chuck's axes."""
    return known.belief.x[SHIFT]


def shift_seen(known: Answered[Screwed], axis: int) -> bool:
    """Is that shift more than its own uncertainty?"""
    return bool(abs(known.belief.x[SHIFT][axis]) > known.belief.sd(SHIFT.start + axis))


def asks(state: State[JawPlan], known: Answered[Screwed], need_mm: Array) -> Array:
    """How far to move each pair so that the work goes by ``need_mm`` (2,), the shift being in it already.

    The very first move of a chuck that nothing is known of is asked plainly: the mean of its pair, as everybody expects.
    """
    if not known.moves and "gain_1" not in state.plan.memory.taught:
        return need_mm
    ways = answers(state).after(state, len(state.passes) - 1).ways or (0, 0)
    return model(state).ask(known.belief, need_mm, (ways[0], ways[1]), tightens=False)


def on_the_dial(state: State[JawPlan], asked_mm: float, aim_mm: Callable[[float], float]) -> float:
    """As much of a move as the dial can show, when that is most of it: an aim past its end is no aim."""
    most = DIAL_PART * state.plan.gauge.travel_mm / state.sense.scale
    start = aim_mm(0.0)
    if abs(aim_mm(asked_mm)) <= most or abs(start) >= most:
        return asked_mm
    low, high = 0.0, asked_mm
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if abs(aim_mm(middle)) <= most else (low, middle)
    return low if low >= 0.5 * asked_mm else asked_mm


def odds(state: State[JawPlan], look: Look, known: Answered[Screwed], judged: Verdict) -> Odds[Screwed]:
    """How likely the next full pass holds; ``judged`` is this one."""
    plan = state.plan
    noise = look.alone.cov if look.alone else np.eye(2) * plan.gauge.u_read_mm**2
    room, aim, tighten = Room.of(look, judged, look.target), on_axes(state, look.target), Screwed(tightened=1)
    radius = next_mm(state, room)
    if plan.sideways_mm is not None:
        return Odds(model(state), known, noise, min(radius, plan.sideways_mm - judged.band_mm), aim, tighten, SHIFT)
    ways = axes(state)

    def takes(off: Array) -> Array:
        return on_axes(state, room.takes(off[0] * ways[0] + off[1] * ways[1]))

    return Odds(
        model(state), known, noise, radius, aim, tighten, SHIFT, again=room.again,
        takes=takes if room.truest else None, hope_mm=room.hope_mm,
    )  # fmt: skip
