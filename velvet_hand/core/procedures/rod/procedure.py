"""Roughing in: touch a rod in the spindle (or sight along a slot) at one end, see the gap at the other, tap it shut."""

from __future__ import annotations

from ...engine.one_line import OneLine
from ...errors import BadInput
from ...measure.base import Measure
from ...path.lathe import GENERAL
from ...path.mill import check_spots, clear_to_run_mill, make_safe_mill
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.edge import EDGE_LIMITS, edge
from ...told import Caveat
from ...wording import strong, text
from .plan import RodPlan


class RodIn(OneLine[RodPlan]):
    """Gap over distance is the angle; the tap closes it to what the swing point needs."""

    id = "rod"
    title = "Rough an edge in by a rod or a slot"
    rank = 170
    usual_passes = (3, 3)
    thing, edge = "vise", "edge"
    mend = "Take it as it is, and read it with an indicator."
    kick_repeats = False
    needs = Needs(
        holder="A vise, plate or long part with the length of its edge and the places of its bolts.",
        gauge="Feelers, or a rule for what is a long way off.",
        machine="A mill whose table is run by hand; a straight rod in the spindle, or a clean slot edge.",
        part="Nothing yet.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the edge", limit_kinds=EDGE_LIMITS,
        gauges=("feelers", "rule"),
    )  # fmt: skip
    plan_class = RodPlan

    def check_plan(self, plan: RodPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Not two places, or a limit finer than a gap can be seen.
        """
        check_spots(plan)
        if len(plan.spots_mm) != 2:
            raise BadInput(
                "field_invalid", f"{len(plan.spots_mm)} places: a gap needs two.", "Type both ends.", "choices.spots_mm"
            )
        span = abs(plan.spots_mm[1] - plan.spots_mm[0])
        if plan.limit.mm / plan.limit_length_mm * span < 2 * plan.gauge.graduation_mm:
            raise BadInput(
                "limit_beyond_gauge",
                f"{plan.gauge.name} cannot show so small a gap.",
                "Rough it in to a few tenths; an indicator does the rest.",
                "limit.typed",
            )
        return ()

    def path(self, plan: RodPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        rod = plan.by == "rod"
        touch = (
            "Bring the table until the edge just drags a slip of paper on the rod at one end; "
            "lock the other axis; run to the other end and measure the gap."
            if rod
            else "Measure from the edge to the slot’s edge at both places, square to the slot."
        )
        return (
            make_safe_mill(*((Caution(id="rod", text="The rod runs true by hand, or is turned "
                "to the same side each time."),) if rod else ())),
            Step(id="clean", title="Clean & stone", prompt="Stone base and table, wipe. Hinge bolt snug, the other finger tight."),
            Step(id="set_gauge", title="Touch", headline=text("Touch at ", strong("one end"), ", then run to "
                "the other."), prompt=f"{touch} Where it "
                f"touches the gap is 0."),
            Step(id="read", title="See the gap", prompt="Type both gaps; where it touches type 0."),
            Step(id="nip_up", title="Snug", headline=text("Snug ", strong("both bolts"), " lightly."), prompt="Only so that it stays; "
                "the indicator comes next."),
            Step(id="prove", title="Look again", prompt="Both ends once more, and the first again."),
            clear_to_run_mill().model_copy(update={"title": "On to the indicator", "prompt": f"Rod out. Next comes the indicator: plan the "
                f"set-up that squares it. {GENERAL}"}),
        )  # fmt: skip

    def measures(self, plan: RodPlan) -> tuple[Measure, ...]:
        """See ``Procedure``."""
        return (edge(plan, spot="Gap"),)


PROCEDURE = RodIn()
