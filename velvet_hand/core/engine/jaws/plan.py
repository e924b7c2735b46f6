"""What a plan must have, what is told at the start, the stations, and roughing in."""

from __future__ import annotations

from ...angles import SAME_SPOT_DEG, apart
from ...path.lathe import check_limit, check_size, check_stations
from ...plan.jaws import JawPlan
from ...plan.ring import turn_stations
from ...readings import Station
from ...setup.state import State
from ...told import Caveat
from ...wording import Bit, Text, angle, size, so_many, strong, text


def check_plan(plan: JawPlan) -> tuple[Caveat, ...]:
    """Refuse what cannot work; return what is to be told at the start.

    Raises
    ------
    BadInput
        Part without size or bigger than the chuck takes, fewer than three stations or one twice,
        limit of zero or beyond the gauge.
    """
    check_size(plan, plan.holder)
    check_stations(plan)
    return (*check_limit(plan), *tell_holder(plan), *_tell_stations(plan))


def tell_holder(plan: JawPlan) -> tuple[Caveat, ...]:
    """A jaw screw whose lead is not known."""
    if plan.holder.lead_mm is not None:
        return ()
    return (
        Caveat(
            code="holder_without_lead",
            field="holder_id",
            text=text(
                f"{plan.holder.name} has no jaw screw lead yet. The aims work without it; the turn of the key "
                "cannot be given. Measure ten turns of the key, divide by ten, and put it in the Shop."
            ),
        ),
    )


def _tell_stations(plan: JawPlan) -> tuple[Caveat, ...]:
    if len(plan.stations_deg) > 4:
        return ()
    return (
        Caveat(
            code="few_stations",
            field="stations_deg",
            text=text(
                "Four readings or fewer cannot see a three-lobed part, nor name a bad spot."
                + (" The proof reads the spots between as well." if plan.between else " Take eight to see form.")
            ),
        ),
    )


def stations(plan: JawPlan) -> tuple[Station, ...]:
    """Stations in the order given; one that falls on a jaw carries the jaw's number.

    Who works pair by pair reads opposed stations one after the other.
    """
    if plan.school == "pairs":
        plan = plan.model_copy(update={"stations_deg": tuple(_opposed_together(list(plan.stations_deg)))})
    return turn_stations(plan)


def _opposed_together(stops: list[float]) -> list[float]:
    left, found = list(stops), []
    while left:
        found.append(left.pop(0))
        across = next((s for s in left if apart(s, found[-1] + 180) < SAME_SPOT_DEG), None)
        if across is not None:
            left.remove(across)
            found.append(across)
    return found


def rough_in(state: State[JawPlan]) -> Text:
    """Opening of each jaw from diameter and present gap, and the ring to start from."""
    plan = state.plan
    radius = plan.part.diameter_mm / 2
    parts: list[Bit] = [
        "Set each jaw ",
        size(radius),
        " from the middle. ",
    ]
    if plan.part.surface == "inside":
        parts = ["Set the jaws by what they grip: the bore is not where they touch. "]
    rings = [r for r in plan.holder.rings_mm if r > 0]
    if rings and plan.part.surface == "outside":
        ring = min(rings, key=lambda r: abs(r - radius))
        place = "inside" if radius < ring else "outside"
        parts += [
            "Ring ",
            size(ring),
            " on the chuck’s face is nearest; the part’s edge falls ",
            size(abs(radius - ring)),
            f" {place} it. ",
        ]
    if state.gap_mm is not None and plan.part.surface == "outside":
        each = (plan.part.diameter_mm - state.gap_mm) / 2
        way = strong("Open each jaw ") if each >= 0 else strong("Close each jaw ")
        parts += [way, size(abs(each))]
        if plan.holder.lead_mm:
            turns = abs(each) / plan.holder.lead_mm
            whole = int(turns)
            parts += [f": {so_many(whole, 'turn')} of the key and ", angle((turns - whole) * 360)]
        parts += ["."]
    return text(*parts)
