"""A vise square to the table's travel, or at an angle to it: read the fixed jaw, tap one end, pull down, prove."""

from __future__ import annotations

from ...engine.one_line import OneLine
from ...errors import BadInput
from ...measure.edge import LineLook
from ...path.cautions import NUTS
from ...path.mill import check_edge, clear_to_run_mill, make_safe_mill, play_step, set_gauge_edge, torque_words
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.edge import EDGE_LIMITS
from ...plan.places import about_word
from ...setup.state import State
from ...told import Caveat
from ...wording import length, size, strong, text
from .plan import VisePlan


class Vise(OneLine[VisePlan]):
    """Fixed jaw along the table's travel."""

    id = "vise"
    title = "Square a vise by its fixed jaw"
    rank = 140
    needs = Needs(
        holder="A vise with its jaw’s length and the places of its bolts.",
        gauge="A lever or plunger indicator held in the spindle or on the column; graduations no coarser than a quarter of the limit.",
        machine="A mill whose table is run by hand.",
        part="Nothing yet, or two rods held to the fixed jaw.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the jaw", limit_kinds=EDGE_LIMITS,
    )  # fmt: skip
    plan_class = VisePlan

    def check_plan(self, plan: VisePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Spots that make no line, rods that are not two, a limit the gauge cannot show.
        """
        if plan.read_on == "rods" and len(plan.spots_mm) != 2:
            raise BadInput(
                "field_invalid",
                f"Two rods, but {len(plan.spots_mm)} spots.",
                "Type where the two rods stand, the one at the hinge under its bolt.",
                "choices.spots_mm",
            )
        if plan.read_on == "jaw" and plan.rods_differ_mm:
            raise BadInput(
                "field_invalid", "No rods are read here.", "Type 0, or read on two rods.", "choices.rods_differ_mm"
            )
        told = [*check_edge(plan)]
        told += self._keys(plan)
        if plan.limit.kind != "over_part":
            over = plan.limit.mm / plan.limit_length_mm * plan.part.diameter_mm
            words = text(
                "On a part ",
                size(plan.part.diameter_mm),
                " long the limit is ",
                length(over),
                " out of square; turned over end for end the two sides differ by twice that.",
            )
            told.append(Caveat(code="on_the_part", field="limit.typed", text=words))
        return tuple(told)

    def _keys(self, plan: VisePlan) -> list[Caveat]:
        holder = plan.holder
        if plan.keys == "out" or holder.key_clearance_mm is None or not holder.key_span_mm:
            return []
        free = holder.key_clearance_mm / holder.key_span_mm * plan.limit_length_mm
        if plan.target_deg:
            raise BadInput(
                "field_invalid",
                "Keys hold it square; at an angle they are in the way.",
                "Take the keys out.",
                "choices.keys",
            )
        words = text(
            "The keys’ play of ",
            length(holder.key_clearance_mm),
            " over ",
            size(holder.key_span_mm),
            " lets it lie ",
            length(free),
            f" off over {about_word(plan, plan.limit_length_mm)} either way.",
        )
        if free < plan.limit.mm:
            words = (*words, *text(" So keys alone hold the limit, if slot and keys are as good as their manual says."))
        return [Caveat(code="keys", field="choices.keys", text=words)]

    def path(self, plan: VisePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        keys = "Keys out. " if plan.keys == "out" else "Keys fitted: wipe the slot, no burr on a key. "
        hinge = {
            "none": "Both bolts snug alike, so that it slides under light taps",
            "low": f"{plan.end_word(False).capitalize()} bolt snug, the hinge; the other only finger tight",
            "high": f"{plan.end_word(True).capitalize()} bolt snug, the hinge; the other only finger tight",
        }[plan.hinge]
        read = (
            "Two rods of one size held to the fixed jaw; run past each and take the highest reading."
            if plan.read_on == "rods"
            else "Fixed jaw only, never the moving one; below the lip, past nicks, the same depth each time."
        )
        return (
            make_safe_mill(),
            Step(
                id="clean",
                title="Clean & stone",
                prompt=f"Stone base and table, wipe, slide the vise about to feel for chips. {keys}Flat, thick washers.",
            ),
            Step(
                id="rough_in",
                title="Rough in",
                prompt=f"By eye to a slot, or by a rod in the spindle, until both ends stay on the dial. {hinge}.",
            ),
            set_gauge_edge("the fixed jaw"),
            play_step(),
            Step(id="read", title="Square the jaw", prompt=read),
            Step(
                id="nip_up",
                title="Pull down",
                headline=text(
                    "Pull the nuts down ",
                    strong("in small steps, one and the other in turn"),
                    f". Watch the needle at the {plan.end_word(plan.hinge != 'high')} end.",
                ),
                prompt=f"A third, two thirds, then all. {torque_words(plan.holder)} If the needle walks, stop, "
                f"tap it back, go on. A common shift of all readings is no fault.",
                cautions=(Caution(id="both", text="Both nuts with a flat, thick washer; no socket left on one."),),
            ),
            Step(id="prove", title="Prove", prompt="All at its torque: sweep again, and the first spot once more."),
            clear_to_run_mill(NUTS),
        )

    def rises(self, plan: VisePlan) -> dict[str, float]:
        """A thicker rod stands nearer the gauge."""
        if plan.read_on != "rods" or not plan.rods_differ_mm:
            return {}
        return {"s1" if plan.spots_mm[0] > plan.spots_mm[1] else "s2": plan.rods_differ_mm}

    def more_caveats(self, state: State[VisePlan], look: LineLook) -> tuple[Caveat, ...]:
        """Keys that are in the way, the kick, and a slant told on the part."""
        plan = state.plan
        found = [*super().more_caveats(state, look)]
        holder = plan.holder
        if look.fit and plan.keys == "in" and holder.key_clearance_mm is not None and holder.key_span_mm:
            free = 2 * holder.key_clearance_mm / holder.key_span_mm * plan.edge_mm
            if abs(look.fit.mm) > free:
                words = "It has to turn further than the keys let it: take the keys out."
                found.append(Caveat(code="keys_stop", text=text(words)))
        return tuple(found)


PROCEDURE = Vise()
