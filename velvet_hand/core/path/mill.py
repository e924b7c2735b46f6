"""Steps, cautions and checks of a plan that procedures on a mill’s table share."""

from __future__ import annotations

import math
from itertools import pairwise

from ..errors import BadInput
from ..holders import OnTheTable
from ..plan.edge import EdgeBase
from ..plan.places import place_word
from ..told import Caveat
from ..wording import size, strong, text
from .cautions import DRIVES, EYES
from .lathe import GENERAL, check_limit_mm, tell_gauge, tell_memory
from .steps import Caution, Step


def make_safe_mill(*more: Caution) -> Step:
    """The first hold point of anything on a mill's table."""
    return Step(
        id="make_safe",
        title="Make safe",
        hold=True,
        prompt=f"Make it safe before hands go onto the table. {GENERAL}",
        cautions=(
            Caution(id="stopped", text="Spindle stopped and cannot start: out of gear or locked."),
            Caution(id="feeds", text=f"The table is moved by hand; {DRIVES}"),
            Caution(
                id="lift", text="What is heavy was lifted with a hoist or a second person; fingers out from under."
            ),
            EYES,
            *more,
        ),
    )


def clear_to_run_mill(*more: Caution) -> Step:
    """The last hold point of anything on a mill's table."""
    return Step(
        id="clear_to_run",
        title="Clear to run",
        hold=True,
        prompt=f"Last look before power. {GENERAL}",
        cautions=(
            Caution(id="gauge_off", text="Indicator and base taken off, rods too; arm out of the spindle."),
            Caution(id="wrenches", text="Hammer and wrenches off the table; handle off the vise."),
            *more,
            Caution(id="clear", text="Travel run by hand once: cutter and spindle clear bolts and jaws."),
        ),
    )


def play_step() -> Step:
    """Push and pull: the play of the table is the floor of all that follows."""
    return Step(
        id="play",
        title="Play",
        ask="gap",
        ask_label="How far the needle swings when the table is pushed and pulled",
        headline=text(
            strong("Push the table, then pull it"), ", indicator on the edge. How far does the needle swing?"
        ),
        prompt="Gibs and locks as in use. What the table gives by itself no tapping can mend; it becomes the floor.",
    )


def set_gauge_edge(where: str) -> Step:
    """Set the gauge on an edge; press test and zero belong to it."""
    return Step(
        id="set_gauge",
        title="Set indicator",
        headline=text(strong("Crank the table a hair toward the indicator"), ". Which way does it go?"),
        prompt=(
            "Arm stiff, joints and quill locked, stylus nearly along the face. Run the table once from end to end without "
            "reading: nothing hits, the needle stays on the dial."
        ),
    )


def torque_words(held: OnTheTable) -> str:
    """What its own manual says; a figure is never made up."""
    if held.torque:
        return f"To {held.torque}, as its manual says."
    return f"Use the torque in the manual of {held.name}; none is in the Shop."


def check_spots(plan: EdgeBase, least: int = 2) -> None:
    """Refuse places that are too few, repeated, or beyond the edge.

    Raises
    ------
    BadInput
        At ``choices.spots_mm``.
    """
    spots, where = plan.spots_mm, "choices.spots_mm"
    if not least <= len(spots) <= 24:
        raise BadInput(
            "stations_too_few", f"{len(spots)} spots: a line needs {least} to 24.", "Take five along the edge.", where
        )
    ordered = sorted(spots)
    if any(b - a < 1.0 for a, b in pairwise(ordered)):
        raise BadInput("stations_repeated", "Two spots lie within a millimeter.", "Take one out.", where)
    if ordered[-1] > plan.edge_mm + 1e-6:
        raise BadInput(
            "field_invalid",
            f"{place_word(plan, ordered[-1])} is beyond {plan.holder.name}, which is {place_word(plan, plan.edge_mm)} long.",
            "Count from its left (or front) end.",
            where,
        )


def _check_hinge(plan: EdgeBase) -> None:
    bolts = plan.holder.bolts_mm
    if plan.hinge == "none" or not bolts:
        return
    pivot, tapped = (min(bolts), plan.edge_mm) if plan.hinge == "low" else (max(bolts), 0.0)
    if abs(tapped - pivot) < 0.15 * plan.edge_mm:
        raise BadInput(
            "field_invalid",
            f"The snug bolt sits at {place_word(plan, pivot)}, where it would be tapped: a tap there turns nothing.",
            "Choose the other end as the hinge, or check the places of its bolts in the Shop.",
            "choices.hinge",
        )


def check_angle(plan: EdgeBase, span_mm: float) -> None:
    """Raises BadInput where an edge at its angle runs past the dial over what is read, ``span_mm``."""
    runs = abs(math.tan(math.radians(plan.target_deg))) * span_mm
    if runs > plan.gauge.travel_mm:
        raise BadInput(
            "field_invalid",
            f"At {plan.target_deg:g}° the edge runs {place_word(plan, round(runs, 2))} over what is read, more than the indicator’s "
            "travel: set a square or a sine bar to the jaw, and read that as square (0°).",
            "Type 0 and read the sine bar’s edge.",
            "choices.target_deg",
        )


def check_edge(plan: EdgeBase, least: int = 2) -> tuple[Caveat, ...]:
    """What every edge's plan is checked for, and what is told at its start.

    Raises
    ------
    BadInput
        Spots, limit or length that cannot work.
    """
    check_spots(plan, least)
    if plan.holder.bolts_mm and not all(-plan.edge_mm <= b <= 2 * plan.edge_mm for b in plan.holder.bolts_mm):
        raise BadInput(
            "field_invalid",
            f"A bolt of {plan.holder.name} sits far off its edge.",
            "Count bolts from the left end of its edge, in the Shop.",
            "holder_id",
        )
    _check_hinge(plan)
    if plan.limit.kind == "over_part" and plan.part.diameter_mm < 1:
        raise BadInput(
            "part_too_small", "So short a part has no angle.", "Type its length along the edge.", "part.diameter"
        )
    span = max(plan.spots_mm) - min(plan.spots_mm)
    told = [*check_limit_mm(plan, plan.limit.mm / plan.limit_length_mm * span)]
    if plan.limit_length_mm > 1.5 * span:
        words = text(
            "The limit is over ", size(plan.limit_length_mm), ", but only ", size(span), " is read: every error counts "
            f"{plan.limit_length_mm / span:.1f} times. A long straight bar in the jaws gives more to read.",
        )  # fmt: skip
        told.append(Caveat(code="short_edge", field="choices.spots_mm", text=words))
    check_angle(plan, span)
    return (*told, *tell_gauge(plan), *tell_memory(plan))
