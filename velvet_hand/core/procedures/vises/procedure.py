"""Two vises in line, or a vise and a stop: the train by a bar through both, then each by itself, then the step.

Three numbers: the slope of each jaw, and the step between them. Squareness of each says nothing about the step. The one
with the hinge keeps its place; the other is turned and then slid: after squaring each about its swing point,
``step = h2(p2) - h1(p1)``, and the second goes by minus that. The verdict is the range of both jaws’ ends about the wanted line.
"""

from __future__ import annotations

from ...budget import budget
from ...engine.line_parts import hinge_bolts
from ...engine.one_line import OneLine
from ...engine.shimmed import pieces_words, shim_move
from ...engine.table import table_scene
from ...errors import BadInput
from ...fit.packing import nearest_stack
from ...move import Packet, Shim, Tap
from ...path.cautions import NUTS
from ...path.lathe import check_limit_mm, tell_gauge
from ...path.mill import (
    check_angle,
    check_spots,
    clear_to_run_mill,
    make_safe_mill,
    play_step,
    set_gauge_edge,
    torque_words,
)
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.places import place_word
from ...quantity import Quantity
from ...readings import Pass
from ...scene import Scene, SceneBody, SceneBolt
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge, worst
from ...wording import Text, length, strong, text
from .look import A, B, PairLook
from .moves import VisesMoves
from .plan import VisePairPlan


class Vises(VisesMoves):
    """Which of the two moves, and in which order."""

    id = "vises"
    title = "Two vises in line, or a vise and a stop"
    rank = 190
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="Two vises of one kind, with their jaw’s length and the places of their bolts.",
        gauge="A lever or plunger indicator held in the spindle or on the column; graduations no coarser than a quarter of the limit.",
        machine="A mill whose table is run by hand over both.",
        part="A straight ground bar that goes through both, and something to protect its faces.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the jaws", limit_kinds=("in_line",)
    )
    plan_class = VisePairPlan
    fixed_surface = OneLine.fixed_surface
    fixed_carrier = OneLine.fixed_carrier
    wrong_way = " at the end that is tapped"
    near_by = "by a rod or the slot"

    def check_plan(self, plan: VisePairPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Vises that overlap, a stop without its vise, beds compared with a stop, an angle past the dial, a limit the gauge cannot
            show.
        """
        check_spots(plan)
        if plan.apart_mm < plan.edge_mm:
            raise BadInput(
                "field_invalid",
                f"They would overlap: one jaw is {place_word(plan, plan.edge_mm)} long.",
                "Measure from first end to first end.",
                "choices.apart_mm",
            )
        if plan.second == "stop" and plan.bar == "through":
            raise BadInput("field_invalid", "No bar goes through a stop.", "Choose none.", "choices.bar")
        if plan.second == "stop" and plan.spans == "yes":
            raise BadInput("field_invalid", "A stop has no bed.", "Choose no.", "choices.spans")
        check_angle(plan, plan.whole_mm)
        told = [*check_limit_mm(plan, plan.limit.mm)]
        if plan.bar == "through":
            told.append(
                Caveat(
                    code="bar",
                    field="choices.bar",
                    text=text("Keys out of both, the bar only snug; protect its faces and the jaws’."),
                )
            )
        return (*told, *tell_gauge(plan))

    # -- path -----------------------------------------------------------------------------------------

    def path(self, plan: VisePairPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        bar = (
            "Bar through both, snug, its faces protected; one outer bolt snug, the rest finger tight."
            if plan.bar == "through"
            else "In each the outer bolt snug, the other finger tight."
        )
        sockets = tuple(
            Caution(id=f"socket_{n}", text=f"Socket or bar {n} taken off its hidden nut.")
            for n in range(1, plan.hidden_nuts + 1)
        )
        edge = set_gauge_edge("the fixed jaw")
        return (
            make_safe_mill(Caution(id="between", text="Hands never between the two vises while one is moved or tapped.")),
            Step(id="clean", title="Clean & stone", prompt=f"Stone bases and table, wipe, feel for chips. Keys out of both. {bar}"),
            edge.model_copy(update={"far_headline":
                text("On a bed: lift ", strong("the stylus"), " a hair, as a higher bed would. Which way?")}),
            play_step(),
            Step(id="read", title="Line up", prompt="Both jaws in one run of the table; the indicator is not touched between."),
            Step(
                id="nip_up",
                title="Pull down",
                headline=text("Pull ", strong("all nuts down in small steps"), ". One vise and the other in turn, watching the needle."),
                prompt=f"{torque_words(plan.holder)} The bar is out by now. If the needle walks, stop, tap it back, go on.",
                cautions=sockets,
            ),
            Step(id="prove", title="Prove", prompt="All at its torque: both jaws again, and the first spot once more."),
            clear_to_run_mill(NUTS, *sockets, *((Caution(id="bar", text="Bar out of both vises."),) if plan.bar == "through" else ())),
        )  # fmt: skip

    # -- what was read ----------------------------------------------------------------------------------

    # -- what to do ---------------------------------------------------------------------------------------

    # -- the beds -------------------------------------------------------------------------------------------

    def solve(self, state: State[VisePairPlan]) -> Solution:
        """See ``Procedure``: beds first, then the lines; judged together."""
        found, current, plan = super().solve(state), state.open_pass, state.plan
        seen = self.beds(state) if plan.spans == "yes" else None
        if current is None or seen is None:
            return found.model_copy(update={"judged": None}) if plan.spans == "yes" else found
        terms = budget(2**0.5 * plan.gauge.u_read_mm, plan.gauge, floor_mm=plan.machine.floor_mm)
        bed = judge("parallel", abs(seen[1]), plan.bed_limit_mm, terms).model_copy(update={"where": "the beds"})
        changes: dict[str, object] = {"judged": worst((found.judged, bed)) if found.judged else None}
        if seen[0] == current.number and bed.outcome != "holds" and not current.moved and plan.stock:
            pieces = nearest_stack(self._under(state, seen[1])[1], {p.mm: p.count for p in plan.stock.pieces})
            low, wanted = self._under(state, seen[1])
            left = abs(wanted - sum(pieces))
            if left < abs(seen[1]) - plan.gauge.graduation_mm:
                what = pieces_words(pieces) if pieces else text(strong("no shim"))
                name = f"the whole base of the {self.name(plan, low)}"
                move = shim_move(
                    current.number, "bed-", (Packet(number=low + 1, name=name, mm=sum(pieces)),), what,
                    text(" under ", strong(name), "."),
                    text("Its bed lies ", length(abs(seen[1])), " lower than the other’s; a part over both would rock."),
                    Quantity(kind="level", mm=left), "bed-0",
                )  # fmt: skip
                changes |= {"moves": (move,), "ready": False, "stop": ()}
        if any(isinstance(m, Shim) for m in state.moved_in(current.number)):
            changes["moves"] = ()
        return found.model_copy(update=changes)

    # -- figures, picture -------------------------------------------------------------------------------------

    def heads(self, plan: VisePairPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return "Out of line", "Step", "Slopes"

    def told_figures(self, state: State[VisePairPlan], look: PairLook) -> tuple[Figure, ...]:
        """See ``Corrected``."""
        plan, fit = look.plan, look.fit
        if fit is None:
            return ()
        found = [Figure(id="line", label="Out of line over both", mm=fit.mm, u_mm=fit.u_mm)]
        for which in (A, B):
            line = look.lines[which]
            if line:
                near = plan.end_word(look.off_slope(which) > 0)
                found.append(
                    Figure(
                        id=f"slope_{which}",
                        label=f"{self.name(plan, which).capitalize()} over its jaw",
                        mm=abs(look.off_slope(which)) * plan.edge_mm,
                        u_mm=line.u_slope * plan.edge_mm,
                        note=text(f"{near} end nearer"),
                    )
                )
        nearer = self.name(plan, B if look.step_mm > 0 else A)
        found.append(Figure(id="step", label="Step", mm=abs(look.step_mm), note=text(f"{nearer} nearer the indicator")))
        beds = self.beds(state) if plan.spans == "yes" else None
        if beds:
            found.append(
                Figure(
                    id="beds",
                    label="Beds",
                    mm=abs(beds[1]),
                    note=text(f"{self.name(plan, B if beds[1] > 0 else A)} higher"),
                )
            )
        if look.drift_mm is not None:
            found.append(Figure(id="drift", label="Closing error", mm=look.drift_mm))
        return tuple(found)

    def line(
        self,
        state: State[VisePairPlan],
        one: Pass,
        look: PairLook,
        judged: Verdict | None,
        asked_mm: float | None,
        got_mm: float | None,
    ) -> Row:
        """See ``Corrected``."""
        fit, plan = look.fit, look.plan
        slopes: Text = ()
        if fit:
            slopes = text(length(look.off_slope(A) * plan.edge_mm), ", ", length(look.off_slope(B) * plan.edge_mm))
        return Row(
            number=one.number, purpose=one.purpose, main=Quantity(kind="in_line", mm=fit.mm, u_mm=fit.u_mm) if fit else None,
            beside=(Quantity(kind="step", mm=abs(look.step_mm)),) if fit else (), toward=slopes, asked_mm=asked_mm, got_mm=got_mm,
            outcome=judged.outcome if judged else None,
        )  # fmt: skip

    def toward(self, state: State[VisePairPlan], deg: float) -> Text:
        """See ``Corrected``."""
        return ()

    def scene(self, state: State[VisePairPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        plan = state.plan
        looks = self.looks(state)
        known = next((k for k in looks.newest_first() if k.known), None)
        bodies = tuple(self._body(state, known, which, solution) for which in (A, B))
        base = known.height(self.kept(plan), self.pivot(plan, self.kept(plan))) if known else 0.0
        current = looks[state.passes[-1].number] if state.passes else None
        views = current.jaws if current else ()
        return table_scene(
            state, solution, station_id, looks=tuple((v, b.from_mm, b.from_mm + b.length_mm) for v, b in zip(views, bodies, strict=False)),
            bodies=tuple(b.model_copy(update={"shift_mm": b.shift_mm - base}) for b in bodies),
            edge_word="both jaws, end to end", limit_mm=plan.limit.mm, low_high=(0.0, plan.whole_mm),
        )  # fmt: skip

    def _body(self, state: State[VisePairPlan], look: PairLook | None, which: int, solution: Solution) -> SceneBody:
        plan = state.plan
        deep = plan.holder.deep_mm
        stop = which == B and plan.second == "stop"
        move = solution.moves[0] if solution.moves else None
        moving = isinstance(move, Tap) and (move.x_mm >= plan.apart_mm) == (which == B)
        bolts: tuple[SceneBolt, ...] = ()
        if not stop:
            hinge = {A: "low", B: "high"}[which]
            bolts = hinge_bolts(plan.model_copy(update={"hinge": hinge}), state.tight)
            if self.bar_in(state) and which != self.kept(plan):
                bolts = tuple(b.model_copy(update={"state": "loose", "label": "finger tight"}) for b in bolts)
        pivot = self.pivot(plan, which) - self.origin(plan, which) if not stop else plan.stop_mm / 2
        return SceneBody(
            name=self.name(plan, which).capitalize(), shape="stop" if stop else "vise", from_mm=self.origin(plan, which),
            length_mm=plan.stop_mm if stop else plan.edge_mm, ahead_mm=0.0 if stop else deep, behind_mm=0.28 * deep,
            slope=look.off_slope(which) if look else 0.0, shift_mm=look.height(which, self.origin(plan, which) + pivot) if look else 0.0,
            pivot_mm=pivot, bolts=bolts, moving=moving,
        )  # fmt: skip


PROCEDURE = Vises()
