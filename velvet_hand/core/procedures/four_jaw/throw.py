"""Judgement of a throw: its size and its direction, each against a limit of its own."""

from __future__ import annotations

import math

from ...plans import ThrowPlan
from ...setup.state import State
from ...verdict import Verdict, judge, worst
from ..rings import RingLook, rect, terms_of


def judge_throw(state: State, look: RingLook, shift: complex = 0j) -> Verdict | None:
    """Size of the throw against the limit, and its direction as a sideways distance at the wanted throw.

    ``throw = |e|``, the direction's miss is ``e`` across the wanted direction; a direction of d degrees
    allows ``throw sin d`` sideways.
    """
    plan, centre = state.plan, look.centre
    assert isinstance(plan, ThrowPlan)
    if centre is None:
        return None
    at = (centre + shift) * rect(1, -plan.throw_deg)
    terms, mark = terms_of(state, look, 1.0), plan.gauge.graduation_mm
    size = judge("throw", abs(abs(at) - plan.throw_mm), plan.limit.mm, terms, mark)
    if not plan.throw_mm:
        return size  # true on its flats: no direction is wanted
    allowed = plan.throw_mm * math.sin(math.radians(plan.turn_limit_deg))
    side = judge("sideways", abs(at.imag), allowed, terms, mark)
    return worst((size, side))
