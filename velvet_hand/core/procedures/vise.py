"""A vise square to the table's travel, or at an angle to it: read the fixed jaw, tap one end, pull down, prove."""

from __future__ import annotations

import math

from ..errors import BadInput
from ..plans import BasePlan, Plan
from ..plans.mill import EdgeBase, VisePlan
from ..setup.state import State
from ..shop import HolderKind
from ..verdict import LimitKind
from ..wording import length, size, strong, text
from .base import Asks, Caution, Caveat, Choice, FieldSpec, Needs, Step
from .common import GENERAL, check_limit_mm, tell_gauge
from .lines import LineLook, check_spots
from .one_line import WAYS, OneLine

EDGE_LIMITS: tuple[LimitKind, ...] = ("over_jaw", "over_part", "over_length", "angle")
SPOTS = FieldSpec(
    name="spots_mm", label="Spots along the edge", kind="lengths", start="10mm 45mm 80mm 115mm 150mm", most=5000,
    hint="From its left (or front) end, a space between. Below the lip, past nicks, the same depth each time.",
)  # fmt: skip
LIES = FieldSpec(
    name="lies", label="The edge lies", kind="choice", start="across",
    choices=(Choice(id="across", word="left to right"), Choice(id="along", word="front to back")),
)  # fmt: skip
SIDE = FieldSpec(
    name="gauge_side", label="The gauge stands", kind="choice", start="near",
    choices=(Choice(id="near", word="in front of it, or to its right"), Choice(id="far", word="behind it, or to its left")),
)  # fmt: skip
HINGE = FieldSpec(
    name="hinge", label="Hinge, the snug bolt", kind="choice", start="low",
    hint="The end that touches first, or that you can reach least well. The other bolt only finger tight.",
    choices=(Choice(id="low", word="left (front)"), Choice(id="high", word="right (back)"), Choice(id="none", word="none")),
)  # fmt: skip
WAY = FieldSpec(
    name="way", label="Way of working", kind="choice", start="swing",
    choices=tuple(Choice(id=way, word=word) for way, word in WAYS),
)  # fmt: skip
ANGLE = FieldSpec(
    name="target_deg", label="Angle wanted", kind="angle", start="0", least=-45, most=45,
    hint="0: square. Else degrees, counter-clockwise seen from above.",
)  # fmt: skip
OVER = FieldSpec(
    name="over_length_mm", label="Length asked for", kind="length", start="300 mm", least=10, most=5000,
    hint="For a limit over a length of its own.",
)  # fmt: skip


def make_safe_mill(*more: Caution) -> Step:
    """The first hold point of anything on a mill's table."""
    return Step(
        id="make_safe",
        title="Make safe",
        hold=True,
        prompt=f"Make it safe before hands go onto the table. {GENERAL}",
        cautions=(
            Caution(id="stopped", text="Spindle stopped and cannot start: out of gear, or stop locked in."),
            Caution(id="feeds", text="Power feeds off: the table is moved by hand while the gauge touches."),
            Caution(
                id="lift", text="What is heavy was lifted with a hoist or a second person; fingers out from under."
            ),
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
            Caution(id="gauge_off", text="Gauge and base taken off, rods too; arm out of the spindle."),
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
        headline=text(strong("Push the table, then pull it"), ", gauge on the edge. How far does the needle swing?"),
        prompt="Gibs and locks as in use. What the table gives by itself no tapping can mend; it becomes the floor.",
    )


def set_gauge_edge(where: str) -> Step:
    """Set the gauge on an edge; press test and zero belong to it."""
    return Step(
        id="set_gauge",
        title="Set gauge",
        headline=text("Push ", strong(where), " toward the gauge by hand. Which way does the needle go?"),
        prompt=(
            "Arm stiff, joints and quill locked, stylus nearly along the face. Run the table once from end to end without "
            "reading: nothing hits, the needle stays on the dial."
        ),
    )


def torque_words(plan: BasePlan) -> str:
    """What its own papers say; a figure is never made up."""
    if plan.holder.torque:
        return f"To {plan.holder.torque}, as its papers say."
    return f"To the torque that the papers of {plan.holder.name} give; none is written down here."


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
    if plan.target_deg and abs(math.tan(math.radians(plan.target_deg))) * span > plan.gauge.travel_mm:
        words = text(
            "At ", f"{plan.target_deg:g}° the edge runs ", size(abs(math.tan(math.radians(plan.target_deg))) * span), " over what "
            "is read, more than the gauge’s travel: set a square or a sine bar to the jaw, and read that as square (0°).",
        )  # fmt: skip
        raise BadInput(
            "field_invalid",
            "".join(p.text for p in words if p.kind == "words"),
            "Type 0 and read the sine bar’s edge.",
            "choices.target_deg",
        )
    return (*told, *tell_gauge(plan), *tell_edge_memory(plan))


def tell_edge_memory(plan: EdgeBase) -> tuple[Caveat, ...]:
    """What the holder answered before, in the words of an edge."""
    memory = plan.memory
    if not memory.setups:
        return ()
    words: list[object] = [f"{plan.holder.name} remembers {memory.setups} set-up{'s' if memory.setups != 1 else ''}"]
    if memory.moves:
        words.append(f": a tap does {memory.gain:.2f} of what its bolts say (from {memory.moves})")
    if memory.kicks:
        words += [", pulling down kicks it ", length(memory.kick_x_mm), " over its edge"]
    if memory.per_tap_mm:
        words += [", a tap moves ", length(memory.per_tap_mm)]
    return (Caveat(code="memory", field="holder_id", text=text(*words, ". The aims use it.")),)  # type: ignore[arg-type]


class Vise(OneLine):
    """Fixed jaw along the table's travel."""

    id = "vise"
    title = "Square a vise by its fixed jaw"
    holder_kinds: tuple[HolderKind, ...] = ("vise",)
    needs = Needs(
        holder="A vise with its jaw’s length and the places of its bolts.",
        gauge="A lever or plunger gauge held in the spindle or on the column; marks no coarser than a quarter of the limit.",
        machine="A mill whose table is run by hand.",
        part="Nothing yet, or two rods held to the fixed jaw.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the jaw", limit_kinds=EDGE_LIMITS,
    )  # fmt: skip
    fields: tuple[FieldSpec, ...] = (
        SPOTS, LIES, SIDE, HINGE, WAY,
        FieldSpec(
            name="read_on", label="Read on", kind="choice", start="jaw",
            choices=(Choice(id="jaw", word="the fixed jaw"), Choice(id="rods", word="two round rods, peak over each")),
        ),
        FieldSpec(name="rods_differ_mm", label="Second rod is "
            "thicker by", kind="length", start="0", least=-1, most=1, hint="Mic both: what "
            "they differ "
            "by would be a slant."),
        FieldSpec(
            name="keys", label="Keys", kind="choice", start="out",
            choices=(Choice(id="out", word="taken out"), Choice(id="in", word="fitted")),
        ),
        ANGLE, OVER,
    )  # fmt: skip
    plan_class: type[BasePlan] = VisePlan

    def check_plan(self, plan: Plan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Spots that make no line, rods that are not two, a limit the gauge cannot show.
        """
        assert isinstance(plan, VisePlan)
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
                " of slant; turned over end for end the two sides differ by twice that.",
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
            f" off over {plan.limit_length_mm:.0f} mm either way.",
        )
        if free < plan.limit.mm:
            words = (*words, *text(" So keys alone hold the limit, if slot and keys are as good as their papers."))
        return [Caveat(code="keys", field="choices.keys", text=words)]

    def path(self, plan: Plan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        assert isinstance(plan, VisePlan)
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
                prompt=f"A third, two thirds, then all. {torque_words(plan)} If the needle walks, stop, "
                f"tap it back, go on. A common shift of all readings is no fault.",
                cautions=(Caution(id="both", text="Both nuts with a flat, thick washer; no socket left on one."),),
            ),
            Step(id="prove", title="Prove", prompt="All at its torque: sweep again, and the first spot once more."),
            clear_to_run_mill(),
        )

    def rises(self, plan: EdgeBase) -> dict[str, float]:
        """A thicker rod stands nearer the gauge."""
        assert isinstance(plan, VisePlan)
        if plan.read_on != "rods" or not plan.rods_differ_mm:
            return {}
        return {"s1" if plan.spots_mm[0] > plan.spots_mm[1] else "s2": plan.rods_differ_mm}

    def more_caveats(self, state: State, look: LineLook) -> tuple[Caveat, ...]:
        """Keys that are in the way, the kick, and a slant told on the part."""
        plan = state.plan
        assert isinstance(plan, VisePlan)
        found = [*super().more_caveats(state, look)]
        holder = plan.holder
        if look.fit and plan.keys == "in" and holder.key_clearance_mm is not None and holder.key_span_mm:
            free = 2 * holder.key_clearance_mm / holder.key_span_mm * plan.edge_mm
            if abs(look.fit.mm) > free:
                words = "It has to turn further than the keys let it: take the keys out."
                found.append(Caveat(code="keys_stop", text=text(words)))
        return tuple(found)


VISE = Vise()
