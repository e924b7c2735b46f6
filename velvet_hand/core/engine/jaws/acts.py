"""What the jaws do in a move, and the sentence that says it."""

from __future__ import annotations

from ...move import Act
from ...plan.jaws import JawPlan
from ...setup.state import State
from ...wording import Text, strong, text


def acts(state: State[JawPlan], draw: int, asked_mm: float | None, ease: bool) -> tuple[Act, ...]:
    """What the jaws do: the opposite one is eased first, then ``draw`` is drawn in."""
    holder = state.plan.holder
    key = 360 * asked_mm / holder.lead_mm if asked_mm is not None and holder.lead_mm else None
    other = holder.opposite(draw)
    drawn = Act(do="draw_in", jaw=draw, at_deg=holder.jaw_deg(draw), mm=asked_mm, key_deg=key)
    if not ease:
        return (drawn,)
    return (Act(do="ease", jaw=other, at_deg=holder.jaw_deg(other), mm=asked_mm, key_deg=key), drawn)


def sentence(ease: int | None, draw: int, needle: str, gap: bool = False) -> Text:
    """The move as a sentence; the loosening jaw comes first."""
    end = (
        f"until the gap at jaw {draw} {'grows' if needle == 'rises' else 'closes'} to the aim."
        if gap
        else "until the needle comes back on the dial."
        if needle == "comes back"
        else f"until the needle {needle} to the aim."
    )
    if ease is None:
        return text("Only draw ", strong(f"jaw {draw} in"), f", easing nothing, {end}")
    return text("Ease ", strong(f"jaw {ease} off"), ", then draw ", strong(f"jaw {draw} in"), f" {end}")
