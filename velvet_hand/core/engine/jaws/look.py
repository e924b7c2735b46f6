"""What one pass says, and what the set-up has learned from all of them."""

from __future__ import annotations

from dataclasses import dataclass, fields
from functools import partial

import numpy as np

from ...angles import rect
from ...estimate.kalman import Array
from ...measure.ring import RingLook
from ...memo import once
from ...plan.jaws import JawPlan
from ...readings import Pass, Station
from ...setup.state import State
from ..look import Looks
from ..rings import look_ring, truest_at

#: Before a pass is whole, a circle of few spots says an offset plainly when that is so many times its uncertainty.
PLAIN = 6
#: Jaws that face each other.
PAIRS: tuple[tuple[int, int], ...] = ((1, 3), (2, 4))


@dataclass(frozen=True, slots=True)
class Look(RingLook):
    """One pass as geometry.

    ``pair_mm`` is the offset along each completely read pair of jaws, toward its first jaw; exact at
    any offset. ``target`` is where the work's center is to be, as seen on this ring.
    """

    pair_mm: dict[tuple[int, int], float]
    target: complex


def unit_vector(deg: float) -> tuple[float, float]:
    """``u(t)``."""
    return float(np.cos(np.radians(deg))), float(np.sin(np.radians(deg)))


def jaw_station(state: State[JawPlan], jaw: int) -> Station | None:
    """The station at a jaw, when the plan has one there."""
    return next((s for s in state.stations if s.jaw == jaw), None)


def look_at(state: State[JawPlan], one: Pass) -> Look:
    """Turn the readings of a pass into geometry.

    A closing error d is spread over the pass in the order of reading: ``r_i - d i/N``.
    """
    return once(state.memo, "look", one.number, lambda: _look_at(state, one))


def looks_of(state: State[JawPlan]) -> Looks[Look]:
    """The look of every pass."""
    return Looks(state.passes, partial(look_at, state))


def _look_at(state: State[JawPlan], one: Pass) -> Look:
    ring = next((s.ring for s in state.stations), "")
    seen = look_ring(state, one, ring)
    sense = state.sense
    pairs: dict[tuple[int, int], float] = {}
    for pair in PAIRS:
        ends = [jaw_station(state, jaw) for jaw in pair]
        values = [seen.toward_mm.get(s.id) if s else None for s in ends]
        if values[0] is not None and values[1] is not None and sense.proved:
            pairs[pair] = sense.center_sign * (values[0] - values[1]) / 2
    said = {one.name: getattr(seen, one.name) for one in fields(seen)}
    return Look(**said, pair_mm=pairs, target=target_of(state, one, seen))


def target_of(state: State[JawPlan], one: Pass, seen: RingLook) -> complex:
    """Where the jaws are to bring the center, in the chuck's angles: where its TIR is least, or as the plan wants it.

    With two planes it is what a true grip leaves at the near plane for as long as the work leans.
    """
    plan = state.plan
    if plan.planes_mm is not None:
        near_mm, far_mm = plan.planes_mm
        near, far = (look_ring(state, one, ring).center for ring in ("near", "far"))
        if near is not None and far is not None:
            return (far - near) / (far_mm - near_mm) * near_mm
    return truest_at(seen, plan.limit.kind, plan.limit.mm) if aims_truest(plan) else plan.target


def aims_truest(plan: JawPlan) -> bool:
    """Is the center wanted where the TIR is least, not at a throw or where a true grip leaves it?"""
    return not plan.target and plan.planes_mm is None


def at_grip(state: State[JawPlan], look: Look) -> tuple[Array, Array] | None:
    """Where the work's axis goes through the jaws by a whole pass, what is wanted there taken off, and its covariance; mm.

    Of one ring that is the ring itself. Of two planes the axis through both tells it, and a tap far out leaves it as it is.
    """
    if look.alone is None or not look.complete:
        return None
    planes = state.plan.planes_mm
    if planes is None:
        return look.alone.center, look.alone.cov
    far = look_ring(state, state.passes[look.number - 1], "far")
    if far.alone is None or not far.complete:
        return None
    out = planes[0] / (planes[1] - planes[0])
    center = (1 + out) * np.asarray(look.alone.center) - out * np.asarray(far.alone.center)
    return center, (1 + out) ** 2 * look.alone.cov + out**2 * far.alone.cov


def along(state: State[JawPlan], look: Look, deg: float) -> float | None:
    """The offset along a jaw's direction where the jaws hold it: from the circle, or from that jaw's pair alone."""
    if state.plan.planes_mm is not None:
        held = at_grip(state, look)
        return None if held is None else (complex(*held[0]) * rect(1, -deg)).real
    if look.fit is not None:
        ux, uy = unit_vector(deg)
        return look.fit.x_mm * ux + look.fit.y_mm * uy
    for pair, offset in look.pair_mm.items():
        apart = abs((state.plan.holder.jaw_deg(pair[0]) - deg + 180) % 360 - 180)
        if apart < 1 or apart > 179:
            return offset if apart < 1 else -offset
    return None
