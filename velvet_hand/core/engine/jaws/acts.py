"""What the jaws do in a move, and the sentence that says it."""

from __future__ import annotations

from ...move import Jaw, Needle
from ...plan.jaws import JawPlan
from ...setup.state import State
from ...wording import Text, strong, text


def jaw_going(state: State[JawPlan], number: int, mm: float | None) -> Jaw:
    """A jaw that goes so far, and what that is of the key."""
    holder = state.plan.holder
    key = 360 * mm / holder.lead_mm if mm is not None and holder.lead_mm else None
    return Jaw(number=number, at_deg=holder.jaw_deg(number), mm=mm, key_deg=key)


def sentence(ease: int | None, draw: int, needle: Needle) -> Text:
    """The move as a sentence; the loosening jaw comes first."""
    head = text("Just tighten ") if ease is None else text("Back off ", strong(f"jaw {ease}"), ", then tighten ")
    return text(
        *head, strong(f"jaw {draw}"), f"{', its' if needle.gap and needle.aim_mm is not None else ''} {needle.to}."
    )
