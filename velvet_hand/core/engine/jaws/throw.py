"""Judgment of a throw: its size and its direction, each against a limit of its own."""

from __future__ import annotations

from ...angles import direction_deg, rect
from ...measure.ring import RingLook
from ...plan.jaws import JawPlan
from ...setup.state import State
from ...verdict import Verdict, judge, worst


def judge_throw(state: State[JawPlan], look: RingLook) -> Verdict | None:
    """Size of the throw against the limit, and its direction as a sideways distance at the wanted throw.

    ``throw = |e|``, the direction's miss is ``e`` across the wanted direction; a direction of d degrees
    allows ``throw sin d`` sideways.
    """
    plan, center = state.plan, look.center
    if center is None:
        return None
    throw = abs(plan.target)
    at = center * rect(1, -direction_deg(plan.target))
    terms = look.ring.terms(look, "off_centre")
    size = judge("throw", abs(abs(at) - throw), plan.limit.mm, terms)
    if plan.sideways_mm is None:
        return size  # true on its flats: no direction is wanted
    side = judge("sideways", abs(at.imag), plan.sideways_mm, terms)
    return worst((size, side))
