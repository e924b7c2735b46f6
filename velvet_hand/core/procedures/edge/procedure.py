"""A named edge along the table's travel: an angle plate (and its upright face), a fixture plate, long work, soft jaws."""

from __future__ import annotations

from ...engine.shimmed import ShimmedLine, pieces_words, shim_move, since_shimmed
from ...errors import BadInput
from ...fit.packing import nearest_stack
from ...measure.base import Measure
from ...measure.edge import Edge, LineLook
from ...move import Move, Packet, Shim
from ...path.cautions import NUTS
from ...path.mill import check_edge, clear_to_run_mill, make_safe_mill, play_step, set_gauge_edge, torque_words
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.edge import EDGE_LIMITS, edge, side_word
from ...plan.places import about_word, place_word
from ...quantity import Quantity
from ...readings import Pass, Station
from ...setup.state import State
from ...told import Caveat, Figure
from ...verdict import GAUGE_PART, Verdict
from ...wording import length, size, strong, text
from .plan import EdgePlan

THINGS = {
    "angle_plate": ("an angle plate", "its face"),
    "fixture_plate": ("a fixture plate", "its edge"),
    "long_work": ("long part", "its edge"),
    "soft_jaws": ("soft jaws", "the cut step"),
}


class NamedEdge(ShimmedLine[EdgePlan]):
    """As a vise, with the edge's own name; of an angle plate the lean of its face is shimmed first."""

    id = "edge"
    title = "Square a plate, an angle plate or a long part by an edge"
    rank = 160
    thing, edge, shape = "plate", "edge", "plate"
    mend = "Stone it, or read another edge that was cut with it."
    kick_repeats = False
    needs = Needs(
        holder="A plate, angle plate or long part with the length of its edge and the places of its bolts.",
        gauge="A lever or plunger indicator held in the spindle or on the column; graduations no coarser than a quarter of the limit.",
        machine="A mill whose table is run by hand.",
        part="An edge that was cut or ground straight. For an angle plate’s lean a drawer of shims.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the edge", limit_kinds=EDGE_LIMITS
    )
    plan_class = EdgePlan

    def check_plan(self, plan: EdgePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            An edge, a height or a limit that cannot work; a lean without shims to mend it.
        """
        if plan.upright_mm and plan.thing != "angle_plate":
            raise BadInput(
                "field_invalid", "Only an angle plate’s face is read up and down.", "Type 0.", "choices.upright_mm"
            )
        if 0 < plan.upright_mm < 10:
            raise BadInput(
                "field_invalid",
                "So short a way up shows no lean.",
                "Read over most of the face, or type 0.",
                "choices.upright_mm",
            )
        if plan.upright_mm and (plan.stock is None or not any(p.count for p in plan.stock.pieces)):
            raise BadInput(
                "field_invalid",
                "A lean is mended with shims, and there are none.",
                "Choose a drawer that has some.",
                "choices.stock",
            )
        told = [*check_edge(plan)]
        marks = plan.gauge.graduation_mm * plan.limit_length_mm / plan.upright_mm if plan.upright_mm else 0.0
        if marks > plan.limit.mm * GAUGE_PART:
            words = text(
                "Over ", size(plan.upright_mm), f" up, one graduation of {plan.gauge.name} is ", length(marks),
                " of lean over the limit’s length: it can mend the lean, but not prove it. A finer indicator, or a longer way up.",
            )  # fmt: skip
            told.append(Caveat(code="gauge_coarse", field="choices.upright_mm", text=words))
        if plan.thing == "long_work":
            hint = (
                "A long part hangs between its clamps: jack it where it is cut, and read it again when it is clamped."
            )
            told.append(Caveat(code="long_work", field="choices.thing", text=text(hint)))
        if plan.thing == "soft_jaws":
            hint = "Soft jaws cut in place are true as they stand; read them to see that nothing has moved since."
            told.append(Caveat(code="soft_jaws", field="choices.thing", text=text(hint)))
        return tuple(told)

    def path(self, plan: EdgePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        what, edge = THINGS[plan.thing]
        up = " Then the upright face, low and high." if plan.upright_mm else ""
        return (
            make_safe_mill(
                *((Caution(id="top", text="An angle plate is top-heavy: strapped "
                    "or held until two bolts are snug."),) if plan.thing == "angle_plate" else ())
            ),
            Step(id="clean", title="Clean & stone", prompt=f"Stone base and table under {what}, wipe; flat, thick washers. "
                f"One bolt snug, the hinge; the rest finger tight."),
            set_gauge_edge("the edge"),
            play_step(),
            Step(id="read", title="Square the edge", prompt=f"Along {edge}, past nicks, the same depth each time.{up}"),
            Step(
                id="nip_up",
                title="Clamp",
                headline=text("Clamp it ", strong("in small steps, crosswise"), f". Watch the needle at the "
                    f"{plan.end_word(plan.hinge != 'high')} end."),
                prompt=f"{torque_words(plan.holder)} If the needle walks, stop, tap it back, go on.",
            ),
            Step(id="prove", title="Prove", prompt="All clamped as in use: read it again, and the first spot once more."),
            clear_to_run_mill(NUTS, Caution(id="clamps", text="Clamps clear of the cutter’s way; sockets off hidden nuts.")),
        )  # fmt: skip

    def measures(self, plan: EdgePlan) -> tuple[Measure, ...]:
        """The upright face whenever it was shimmed, then the edge."""
        if not plan.upright_mm:
            return (edge(plan),)
        up = tuple(
            Station.model_validate(
                {
                    "id": f"up-{key}", "label": f"Face, {key}", "angle_deg": 0.0, "y_mm": z, "ring": "up-", "group": "Bed", "short": word,
                    "when": "shimmed",
                }
            )
            for key, word, z in (("low", "Low", 0.0), ("high", f"{place_word(plan, plan.upright_mm)} up", plan.upright_mm))
        )  # fmt: skip
        upright = Edge(
            id="up-",
            stations=up,
            gauge=plan.gauge,
            floor_mm=plan.machine.floor_mm,
            length_mm=plan.upright_mm,
            upright=True,
            finish=plan.roughness,
        )
        return upright, edge(plan)

    # -- the lean -----------------------------------------------------------------------------------

    def lean(self, state: State[EdgePlan]) -> tuple[int, float] | None:
        """Pass and lean (mm per mm of height, + = the top stands nearer the gauge) as it was read last since the last shim."""
        for one in since_shimmed(state):
            look = self.upright(state, one)
            if look is not None and look.line is not None:
                return one.number, look.line.slope
        return None

    def upright(self, state: State[EdgePlan], one: Pass) -> LineLook | None:
        """The face, up and down, where it is read in a pass."""
        found = state.measures.get("up-")
        if not isinstance(found, Edge) or not found.mine(state, one):
            return None
        return found.look(state, one)

    def base_read(self, state: State[EdgePlan], one: Pass) -> bool:
        """See ``ShimmedLine``."""
        found = self.lean(state)
        return found is not None and found[0] == one.number

    def base_verdict(self, state: State[EdgePlan]) -> Verdict | None:
        """See ``ShimmedLine``: the lean over the limit's length."""
        plan = state.plan
        found = self.lean(state) if plan.upright_mm else None
        if found is None:
            return None
        look = self.upright(state, state.passes[found[0] - 1])
        if look is None:
            return None
        limit, over = plan.limit, plan.limit_length_mm
        return look.edge.judge(state, look, limit.kind, limit.mm, over, where="upright")

    def shim(self, state: State[EdgePlan]) -> Move | None:
        """See ``ShimmedLine``: the side that it leans to is lifted by lean times base."""
        plan, found = state.plan, self.lean(state)
        if found is None or plan.stock is None:
            return None
        before = 0.0  # what lies under the gauge's side now; minus: under the other
        for record in reversed(state.moves):
            if isinstance(record.move, Shim):
                before = record.move.packets[0].mm
                break
        wanted = before + found[1] * plan.base_mm
        pieces = nearest_stack(abs(wanted), {p.mm: p.count for p in plan.stock.pieces})
        under = sum(pieces) * (1 if wanted > 0 else -1)
        left = abs(found[1] - (under - before) / plan.base_mm)
        if abs(found[1]) - left < plan.gauge.graduation_mm / 2 / plan.upright_mm:
            return None
        side = side_word(plan, under > 0)
        where = {"away from you": "back", "toward you": "front", "to the right": "right", "to the left": "left"}[side]
        leans = side_word(plan, found[1] > 0)
        reason = text(
            f"Its top leans {leans} by ",
            length(abs(found[1]) * plan.upright_mm),
            " over what is read; over the base that is ",
            length(abs(found[1]) * plan.base_mm),
            ". The side it leans to is lifted.",
        )
        what = pieces_words(pieces) if pieces else text(strong("no shim"))
        return shim_move(
            found[0],
            "up-",
            (Packet(number=1, name=f"{where} side", mm=under),),
            what,
            text(" under the ", strong(f"{where} side"), " of its base."),
            reason,
            Quantity(kind="lean", mm=left * plan.limit_length_mm),
            "up-high",
        )

    def base_figures(self, state: State[EdgePlan]) -> tuple[Figure, ...]:
        """See ``ShimmedLine``."""
        plan = state.plan
        found = self.lean(state) if plan.upright_mm else None
        if found is None:
            return ()
        note = text(f"top leans {side_word(plan, found[1] > 0)}")
        return (
            Figure(
                id="lean",
                label=f"Lean over {about_word(plan, plan.upright_mm)} up",
                mm=abs(found[1]) * plan.upright_mm,
                note=note,
            ),
        )


PROCEDURE = NamedEdge()
