"""Rings of a set-up, and when a ring is good enough."""

from __future__ import annotations

from typing import Any

from ..measure.ring import Ring, RingLook
from ..readings import Pass
from ..setup.state import State
from ..verdict import Verdict
from ..wording import Text, length, text


def ring_of(state: State, key: str = "") -> Ring:
    """A ring of the set-up by its name."""
    found = state.measures[key]
    assert isinstance(found, Ring)
    return found


def look_ring(state: State, one: Pass, key: str = "") -> RingLook:
    """A ring as one pass shows it."""
    return ring_of(state, key).look(state, one)


def judge_ring(state: State, look: RingLook, **more: Any) -> Verdict | None:
    """A ring against the plan's limit; see ``Ring.judge``."""
    return look.ring.judge(look, state.plan.limit.kind, state.plan.limit.mm, **more)


def out_of_round(look: RingLook, judged: Verdict, left_mm: float, mend: str) -> Text:
    """The surface itself leaves no room within the limit, and no more than half of the limit, ``left_mm``, is the offset's: nothing
    mends that.
    """
    if judged.outcome == "holds" or left_mm > judged.limit_mm / 2 or look.round is None:
        return ()
    form, band = look.round.form_mm, judged.band_mm
    if form + band <= judged.limit_mm:
        return ()
    more = (
        text("more than the limit")
        if form > judged.limit_mm
        else text("and ± ", length(band), " on that leaves no room")
    )
    return text(
        "Stop here. The surface is out of round by ",
        length(form),
        ", ",
        *more,
        f". {mend.capitalize()} cannot mend that; only ",
        length(abs(complex(*look.round.center))),
        " of it is off center.",
    )
