"""Eccentric on purpose in an independent four-jaw: a throw of a wanted size and direction."""

from __future__ import annotations

import math

from ...angles import direction_deg
from ...engine.jaws.jaws import Jaws
from ...engine.jaws.path import path as jaw_path
from ...engine.jaws.plan import tell_holder
from ...errors import BadInput
from ...path.lathe import check_limit, check_limit_mm, check_size, check_stations, presets
from ...path.steps import Step
from ...plan.asks import Asks, Needs
from ...quantity import HEADS
from ...setup.state import State
from ...told import Caveat, Figure, Solution
from ...wording import Bit, Text, angle, length, size, strong, text
from .plan import ThrowPlan


class Throw(Jaws[ThrowPlan]):
    """A four-jaw set-up whose target is not the middle."""

    id = "throw"
    title = "Eccentric on purpose, or a part on its flats, in a four-jaw"
    rank = 40
    needs = Needs(
        holder="An independent four-jaw chuck with room for part and throw.",
        gauge="One that travels more than the throw: a plunger that counts turns is best.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round, or with opposite flats parallel (square, hexagon, rectangle); its size there.",
    )
    asks = Asks(presets=presets(), limit_kinds=("throw",), schools=Jaws.asks.schools)
    plan_class = ThrowPlan

    def path(self, plan: ThrowPlan) -> tuple[Step, ...]:
        """The four-jaw's; balanced before power."""
        return jaw_path(plan, eccentric=True)

    def check_plan(self, plan: ThrowPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            A throw beyond the chuck or the gauge, stations without their opposite on flats.
        """
        check_size(plan, plan.holder)
        check_stations(plan, opposed=plan.shape == "flats")
        throw, radius = plan.throw_mm, plan.part.diameter_mm / 2
        where = "choices.throw_mm"
        if throw == 0 and plan.shape == "round":
            raise BadInput(
                "field_invalid", "A throw of nothing is a plain round part.", "Use the four-jaw set-up.", where
            )
        if throw + radius > plan.holder.max_work_mm / 2:
            raise BadInput(
                "part_too_big",
                f"Part and throw reach {throw + radius:.1f} mm from the axis; {plan.holder.name} opens to "
                f"{plan.holder.max_work_mm / 2:.1f} mm.",
                "Take a smaller throw or a bigger chuck.",
                where,
            )
        if throw >= radius:
            raise BadInput(
                "field_invalid",
                "The throw is bigger than the part’s own radius: the axis lies outside the part.",
                "The jaws cannot be set by an indicator on it; use a fixture.",
                where,
            )
        if plan.gauge.travel_mm < throw * 1.05 + plan.limit.mm:
            raise BadInput(
                "limit_beyond_gauge",
                f"{plan.gauge.name} cannot follow a throw of {throw:.2f} mm.",
                "Take a plunger indicator that counts turns; set the jaws by their openings first.",
                "gauge_id",
            )
        told = [*check_limit(plan), *tell_holder(plan)]
        if plan.sideways_mm is not None:  # what the angle comes to at the throw is a limit like any other
            sideways = check_limit_mm(plan, 2 * plan.sideways_mm, plan.sideways_mm)
            told += [one.model_copy(update={"field": "choices.turn_limit_deg"}) for one in sideways]
        if plan.gauge.travel_mm < 2 * throw:
            words = "Set zero half-way between the highest and the lowest spot: the needle swings by twice the throw."
            told.append(Caveat(code="zero_between", field="gauge_id", text=text(words)))
        if plan.shape == "flats":
            words = "Each flat at its lowest while rocking the part: square to the indicator, at its dead point."
            told.append(Caveat(code="flats", field="choices.shape", text=text(words)))
        return tuple(told)

    def heads(self, plan: ThrowPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return HEADS["throw"], HEADS["sideways"], "Toward"

    def rough_in(self, state: State[ThrowPlan]) -> Text:
        """Openings of the four jaws: ``g_i = T.u_i + sqrt(R^2 - max(0, |T x u_i| - w/2)^2)``."""
        plan = state.plan
        parts: list[Bit] = ["Set each jaw as far from the middle as below. "]
        for number in plan.holder.numbers:
            opening = jaw_opening(plan, number)
            parts += [
                strong(f"{'J' if number == 1 else 'j'}aw {number}"),
                " ",
                size(opening),
                "; " if number != plan.holder.jaws else ".",
            ]
        if plan.part.surface == "inside":
            parts = ["Its outside sits ", length(plan.throw_mm), " off the middle, toward ",
                     *text(f"{plan.throw_deg:g}°"), " from jaw 1."]  # fmt: skip
        return text(*parts)

    def solve(self, state: State[ThrowPlan]) -> Solution:
        """Throw and direction instead of TIR and off center."""
        found = super().solve(state)
        plan = state.plan
        if found.x_mm is None or found.y_mm is None:
            return found
        center = complex(found.x_mm, found.y_mm)
        u = next((f.u_mm for f in found.figures if f.id == "off_centre"), None)
        miss = (direction_deg(center) - plan.throw_deg + 180) % 360 - 180
        figures = [
            Figure(id="throw", label="Throw", mm=abs(center), u_mm=u, note=text("wanted ", length(plan.throw_mm))),
            Figure(
                id="direction", label="Direction, off by", mm=abs(center) * abs(math.sin(math.radians(miss))), u_mm=u,
                note=text("sideways: ", angle(direction_deg(center)), f" where {plan.throw_deg:g}° is wanted"),
            ),
        ]  # fmt: skip
        rest = [f for f in found.figures if f.id not in ("tir", "off_centre")]
        return found.model_copy(update={"figures": (*figures, *rest)})


def jaw_opening(plan: ThrowPlan, jaw: int) -> float:
    """Distance of a jaw's face from the axis with the work at its throw (flat face of the jaw's width)."""
    t = complex(plan.throw_mm, 0) * complex(
        math.cos(math.radians(plan.throw_deg)), math.sin(math.radians(plan.throw_deg))
    )
    deg = math.radians(plan.holder.jaw_deg(jaw))
    along = t.real * math.cos(deg) + t.imag * math.sin(deg)
    across = abs(t.imag * math.cos(deg) - t.real * math.sin(deg))
    beyond = max(0.0, across - plan.holder.jaw_width_mm / 2)
    radius = plan.part.diameter_mm / 2
    return along + math.sqrt(max(radius**2 - beyond**2, 0.0))


PROCEDURE = Throw()
