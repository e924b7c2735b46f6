"""Two vises in line, or a vise and a stop: the train by a bar through both, then each by itself, then the step.

Three numbers: the slope of each jaw, and the step between them. Squareness of each says nothing about the step. The one
with the hinge keeps its place; the other is turned and then slid: after squaring each about its swing point,
``step = h2(p2) - h1(p1)``, and the second goes by minus that. The verdict is the range of both jaws’ ends about the wanted line.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

from ...budget import budget
from ...engine.frame import Corrected
from ...engine.learning import Learned
from ...engine.one_line import OneLine, hinge_bolts
from ...engine.shimmed import pieces_words, shim_move
from ...engine.table import table_scene
from ...errors import BadInput
from ...fit.line import LineFit, fit_line
from ...fit.packing import nearest_stack
from ...measure.base import Measure
from ...measure.edge import Edge, LineLook, Rise
from ...memo import once
from ...move import Asked, Move, Needle, Packet, Shim, Stage, Tap
from ...path.lathe import check_limit_mm, tell_gauge
from ...path.mill import check_spots, clear_to_run_mill, make_safe_mill, play_step, set_gauge_edge, torque_words
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.edge import corner_word, place_word, side_word
from ...plan.ring import spots as measured
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import Scene, SceneBody, SceneBolt
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge, worst
from ...wording import Text, length, strong, text
from .plan import VisePairPlan

#: The bar comes out when the train is within this part of the limit, or after that many taps.
TRAIN_PART, TRAIN_TAPS = 0.5, 4
A, B = 0, 1


@dataclass(frozen=True, slots=True)
class PairLook:
    """Both jaws in one pass, in one frame: a line each (of a stop only a height)."""

    number: int
    plan: VisePairPlan
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    lines: tuple[LineFit | None, LineFit | None]
    stop_mm: float | None
    wild: tuple[str, ...]
    complete: bool

    @property
    def known(self) -> bool:
        """Is there enough to say how both lie?"""
        return self.lines[A] is not None and (self.lines[B] is not None or self.stop_mm is not None)

    def off_slope(self, which: int) -> float:
        """Slope of a jaw beyond the wanted one (0 for a stop)."""
        line = self.lines[which]
        return line.slope - self.plan.target_slope if line else 0.0

    def height(self, which: int, x_mm: float) -> float:
        """How far a jaw stands toward the gauge at a place, beyond the wanted slope."""
        line = self.lines[which]
        h = line.at(x_mm) if line else (self.stop_mm or 0.0)
        return h - self.plan.target_slope * x_mm

    @property
    def ends(self) -> tuple[float, ...]:
        """Heights of the ends of both jaws."""
        p = self.plan
        second = (p.apart_mm, p.whole_mm) if p.second == "vise" else (p.apart_mm + p.stop_mm / 2,)
        return (*(self.height(A, x) for x in (0.0, p.edge_mm)), *(self.height(B, x) for x in second))

    @property
    def common(self) -> float:
        """Slope of both as one, beyond the wanted one: pooled over what was read of each."""
        (a, b), s = self.lines, 0.0
        if a is None or b is None:
            return self.off_slope(A)
        wa, wb = (1 / max(f.u_slope, 1e-12) ** 2 for f in (a, b))
        s = (wa * self.off_slope(A) + wb * self.off_slope(B)) / (wa + wb)
        return s

    @property
    def step_mm(self) -> float:
        """How far the second stands nearer the gauge than the first, each at its own middle."""
        p = self.plan
        middle = p.apart_mm + (p.edge_mm if p.second == "vise" else p.stop_mm) / 2
        return self.height(B, middle) - self.height(A, p.edge_mm / 2)

    @property
    def fit(self) -> Rise | None:
        """Out of line over both, and how sure that is."""
        a, b = self.lines
        if not self.known or a is None:
            return None
        u = max((f.u_level_mm**2 + (p.edge_mm / 2 * f.u_slope) ** 2) ** 0.5 for f in (a, b or a) for p in (self.plan,))
        return Rise(max(self.ends) - min(self.ends), 2**0.5 * u)

    @property
    def center(self) -> complex | None:
        """What tightening shifts: common rise, and step."""
        return None if not self.known else complex(self.common * self.plan.whole_mm, self.step_mm)


class Vises(Corrected[VisePairPlan, PairLook]):
    """Which of the two moves, and in which order."""

    id = "vises"
    title = "Two vises in line, or a vise and a stop"
    rank = 190
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="Two vises of one kind, with their jaw’s length and the places of their bolts.",
        gauge="A lever or plunger gauge held in the spindle or on the column; marks no coarser than a quarter of the limit.",
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

    def check_plan(self, plan: VisePairPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Vises that overlap, a stop without its vise, beds compared with a stop, a limit the gauge cannot show.
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

    # -- names ----------------------------------------------------------------------------------------

    def name(self, plan: VisePairPlan, which: int) -> str:
        """What the one or the other is called."""
        if which == B and plan.second == "stop":
            return "stop"
        return f"{plan.end_word(which == B)} vise"

    def origin(self, plan: VisePairPlan, which: int) -> float:
        """Where its first end lies along the table."""
        return plan.apart_mm if which == B else 0.0

    def kept(self, plan: VisePairPlan) -> int:
        """The one that keeps its place."""
        return A if plan.hinge == "low" or plan.second == "stop" else B

    def pivot(self, plan: VisePairPlan, which: int) -> float:
        """Where it should swing by itself: its outer bolt."""
        low, high = plan.holder.pins_mm
        return low if which == A else self.origin(plan, B) + high

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
            make_safe_mill(),
            Step(id="clean", title="Clean & stone", prompt=f"Stone bases and table, wipe, feel for chips. Keys out of both. {bar}"),
            edge.model_copy(update={"far_headline": text("Gauge down on a bed: lift ", strong("the stylus"), " a little by hand, as a "
                "higher bed would. "
                "Which way does the needle go?")}),
            play_step(),
            Step(id="read", title="Line up", prompt="Both jaws in one run of the table; the gauge is not touched between."),
            Step(
                id="nip_up",
                title="Pull down",
                headline=text("Pull ", strong("all nuts down in small steps"), ", one vise and the other in turn, watching the needle."),
                prompt=f"{torque_words(plan.holder)} The bar is out by now. If the needle walks, stop, tap it back, go on.",
                cautions=sockets,
            ),
            Step(id="prove", title="Prove", prompt="All at its torque: both jaws again, and the first spot once more."),
            clear_to_run_mill(*sockets, *((Caution(id="bar", text="Bar out of both vises."),) if plan.bar == "through" else ())),
        )  # fmt: skip

    def measures(self, plan: VisePairPlan) -> tuple[Measure, ...]:
        """The beds when a part lies over both; then both jaws in one run."""
        beds = tuple(
            Station.model_validate(
                {
                    "id": f"bed-{which}", "label": f"Bed of the "
                        f"{self.name(plan, which)}", "angle_deg": 0.0, "x_mm": self.origin(plan, which),
                    "ring": "bed-", "group": "Bed", "short": self.name(plan, which).capitalize(), "when": "shimmed",
                }
            )
            for which in (A, B)
        ) if plan.spans == "yes" else ()  # fmt: skip
        jaws = []
        for which in (A, B):
            spots = plan.spots_mm if which == A or plan.second == "vise" else (plan.stop_mm / 2,)
            name = self.name(plan, which)
            for n, x in enumerate(sorted(spots), start=1):
                at = place_word(plan, x)
                jaws.append(
                    Station.model_validate(
                        {
                            "id": f"{'ab'[which]}{n}", "label": f"{name.capitalize()}, {at}" if name != "stop" else "Stop",
                            "angle_deg": 0.0, "x_mm": self.origin(plan, which) + x, "short": f"{name.split()[0].capitalize()} "
                                f"{at}" if name != "stop" else "Stop",
                        }
                    )
                )  # fmt: skip
        both = measured(plan, "", tuple(jaws))
        return (measured(plan, "bed-", beds), both) if beds else (both,)

    # -- what was read ----------------------------------------------------------------------------------

    def look(self, state: State[VisePairPlan], one: Pass) -> PairLook:
        """See ``Corrected``."""
        return once(state.memo, "pair", one.number, lambda: self._look(state, one))

    def _look(self, state: State[VisePairPlan], one: Pass) -> PairLook:
        plan = state.plan
        mine = [s for s in state.stations if s.ring == ""]
        seen = state.measures[""].seen(state, one, mine)
        toward = seen.toward_mm
        lines: list[LineFit | None] = []
        wild: list[str] = []
        for letter in "ab":
            ids = [s.id for s in mine if s.id[0] == letter and s.id in toward]
            x = {s.id: s.x_mm for s in mine}
            fit = None
            if len(ids) >= 2 and state.proved:
                fit = fit_line(tuple(x[i] for i in ids), tuple(toward[i] for i in ids), plan.gauge.u_read_mm)
                wild += [ids[i] for i in fit.left_out]
            lines.append(fit)
        stop = toward.get("b1") if plan.second == "stop" and state.proved else None
        return PairLook(
            one.number,
            plan,
            toward,
            seen.off,
            seen.drift_mm,
            (lines[A], lines[B]),
            stop,
            tuple(wild),
            seen.complete,
        )

    def kicks(self, state: State[VisePairPlan]) -> tuple[float, float, float]:
        """What tightening did so far: to each slope, and to the step; the mean, a little shrunk."""
        looks, found = self.looks(state), []
        moved = {r.move.pass_no for r in state.moves}
        for number in state.tightenings:
            before, after = looks.get(number), looks.get(number + 1)
            if before and after and before.known and after.known and number not in moved:
                found.append(
                    (
                        after.off_slope(A) - before.off_slope(A),
                        after.off_slope(B) - before.off_slope(B),
                        after.step_mm - before.step_mm,
                    )
                )
        a, b, step = (sum(kick[i] for kick in found) / (len(found) + 0.25) for i in range(3))
        return a, b, step

    def judge(self, state: State[VisePairPlan], look: PairLook, shift: complex = 0j) -> Verdict | None:
        """The range of both jaws’ ends about the wanted line."""
        plan, fit = state.plan, look.fit
        if fit is None:
            return None
        terms = budget(
            fit.u_mm, plan.gauge, floor_mm=plan.machine.floor_mm, play_mm=state.gap_mm or 0.0, drift_mm=look.drift_mm
        )
        return judge("in_line", fit.mm + abs(shift), plan.limit.mm, terms)

    # -- what to do ---------------------------------------------------------------------------------------

    def bar_in(self, state: State[VisePairPlan]) -> bool:
        """Is the bar still through both?"""
        return state.plan.bar == "through" and not any(r.move.do == "stage" for r in state.moves)

    def moves(self, state: State[VisePairPlan], look: PairLook, learned: Learned) -> tuple[Move, ...]:
        """The train, then the bar out, then each slope, then the step."""
        plan = state.plan
        current = state.open_pass
        made = state.moved_in(current.number) if current else ()
        again = any(isinstance(m, Stage) or (isinstance(m, Tap) and m.train) for m in made)
        if not look.known or again:
            return ()  # what moved both has to be read again first
        if self.bar_in(state):
            taps = sum(isinstance(r.move, Tap) and r.move.train for r in state.moves)
            small = TRAIN_PART * plan.limit.mm
            if abs(look.common * plan.whole_mm) > small and taps < TRAIN_TAPS:
                return (self._train(state, look),)
            return (self._bar_out(look),)
        kick_a, kick_b, kick_step = self.kicks(state)
        need = {A: look.off_slope(A) + kick_a, B: look.off_slope(B) + kick_b}
        least = max(plan.limit.mm / 6, plan.gauge.graduation_mm / 2)
        order = [
            w
            for w in (self.kept(plan), 1 - self.kept(plan))
            if look.lines[w] is not None and abs(need[w]) * plan.edge_mm > least
        ]
        if order:
            return tuple(self._square(state, look, w, need[w], n, len(order)) for n, w in enumerate(order, start=1))
        step = look.step_mm + kick_step
        if abs(step) > plan.gauge.graduation_mm / 4:
            return (self._slide(state, look, step),)
        return ()

    def _needle(self, state: State[VisePairPlan], station: Station, look: PairLook, here: float, run: float) -> Needle:
        """Needle now and aim at a station."""
        shifted = here + (look.drift_mm or 0.0)
        at: dict[str, Any] = {"station_id": station.id, "label": station.label.lower(), "x_mm": station.x_mm}
        found = Needle.at(state.sense_of(station), shifted, shifted + run, **at)
        return found.model_copy(update={"now_mm": None}) if station.id in look.off else found

    def _spot(self, state: State[VisePairPlan], which: int, high: bool) -> Station:
        mine = [s for s in state.stations if s.ring == "" and s.id[0] == "ab"[which]]
        return (max if high else min)(mine, key=lambda s: s.x_mm)

    def _turn(
        self, state: State[VisePairPlan], look: PairLook, which: int, high: bool, about: float, slope: float
    ) -> dict[str, Any]:
        """A tap at an end that takes ``slope`` out about a swing point: where, which way, how far."""
        station = self._spot(state, which, high)
        line = look.lines[which]
        assert line is not None
        run = -slope * (station.x_mm - about)
        return {
            "pass_no": look.number, "thing": which, "x_mm": station.x_mm, "toward": run > 0, "mm": abs(run), "pivot_mm": about,
            "slope_after": line.slope - slope, "needle": self._needle(state, station, look, line.at(station.x_mm), run),
            "asked": Asked(mm=abs(run)), "teaches": False,
        }  # fmt: skip

    def _train(self, state: State[VisePairPlan], look: PairLook) -> Move:
        plan = state.plan
        kept = self.kept(plan)
        high = kept == A
        turn = self._turn(state, look, 1 - kept, high, self.pivot(plan, kept), look.common)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, 1 - kept)
        return Tap(
            **turn, train=True, title="the train",
            sentence=text("Tap the ", strong(f"{corner} of the {name}"), f" {way}: both swing as one. Stop when {turn['needle'].does}."),
            reason=text("The bar holds both together; they swing "
                "about the outer bolt of the ", f"{self.name(plan, kept)}. "
                    f"Together they are off by ", length(look.common * plan.whole_mm), " over the whole length."),
            log=text(f"Train: {corner} of the {name} tapped {way}"),
        )  # fmt: skip

    def _bar_out(self, look: PairLook) -> Move:
        return Stage(
            pass_no=look.number, what="bar_out", title="bar out", made="Bar out, read again", teaches=False,
            sentence=text("Take ", strong("the bar out"), ". In each vise the outer bolt snug, the other finger tight."),
            reason=text("As one they lie near enough. Now each is squared by itself, and then the step between them is taken out."),
            log=text("Bar taken out"),
        )  # fmt: skip

    def _square(
        self, state: State[VisePairPlan], look: PairLook, which: int, slope: float, index: int, count: int
    ) -> Move:
        plan = state.plan
        high = which == A  # the inner end is tapped
        turn = self._turn(state, look, which, high, self.pivot(plan, which), slope)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, which)
        return Tap(
            **turn, index=index, count=count, title=f"the {name}",
            sentence=text("Tap the ", strong(f"{corner} of the {name}"), f" {way}. Stop when {turn['needle'].does}."),
            reason=text("Its own jaw is off by ", length(slope * plan.edge_mm), " over its length; it swings about its outer bolt, "
                "and its height there is the aim. Light taps."),
            log=text(f"{name.capitalize()}: {corner} tapped {way}"),
        )  # fmt: skip

    def _slide(self, state: State[VisePairPlan], look: PairLook, step: float) -> Move:
        plan = state.plan
        which = 1 - self.kept(plan)
        step = step if which == B else -step
        high = which == A
        station = self._spot(state, which, high)
        line = look.lines[which]
        here = line.at(station.x_mm) if line else (look.stop_mm or 0.0)
        needle = self._needle(state, station, look, here, -step)
        way, name = side_word(plan, step < 0), self.name(plan, which)
        both = (
            "both its bolts finger tight, taps at its two ends in turn"
            if line
            else "its bolt finger tight, taps at its middle"
        )
        return Tap(
            pass_no=look.number, thing=which, whole=True, toward=step < 0, mm=abs(step), needle=needle, asked=Asked(mm=abs(step)),
            x_mm=self.origin(plan, which) + (plan.edge_mm if line else plan.stop_mm) / 2, title="the step", teaches=False,
            sentence=text("Slide ", strong(f"the whole {name}"), f" {way}, {both}. Stop when {needle.does}."),
            reason=text("Both lie square, but the ", f"{name} stands ", length(step), f" {side_word(plan, step > 0)} of the other. The "
                f"{self.name(plan, self.kept(plan))} keeps its place."),
            log=text(f"{name.capitalize()} slid {way} by ", length(step)),
        )  # fmt: skip

    def enough(
        self, state: State[VisePairPlan], look: PairLook, judged: Verdict | None, learned: Learned
    ) -> tuple[bool, Text]:
        """See ``Corrected``."""
        if judged is None or self.bar_in(state):
            return False, ()
        kick = self.kicks(state)
        shift = max(abs(kick[0]), abs(kick[1])) * look.plan.edge_mm + abs(kick[2])
        forecast = self.judge(state, look, complex(shift)) if shift else judged
        if judged.outcome == "holds" and forecast is not None and forecast.outcome == "holds":
            return True, ()
        if judged.outcome == "holds" and not self.moves(state, look, learned):
            return True, ()
        if judged.value_mm <= judged.band_mm or not self.moves(state, look, learned):
            return True, text(
                "Stop here: what is left, ", length(judged.value_mm), ", is no more than gauge and machine can tell."
            )
        return False, ()

    def what_to_read(self, look: PairLook) -> Text:
        """See ``Corrected``."""
        if not look.complete or look.known:
            return ()
        if look.off:
            return text("The needle ran off at too many spots: rough them in by a rod or the slot, then read again.")
        return text("Each jaw needs two good readings.")

    # -- the beds -------------------------------------------------------------------------------------------

    def beds(self, state: State[VisePairPlan]) -> tuple[int, float] | None:
        """Pass, and how much higher the second bed is, as read last since the last shim."""
        for one in reversed(state.passes):
            mine = [s for s in state.asked(one) if s.ring == "bed-"]
            seen = state.measures["bed-"].seen(state, one, mine).toward_mm if mine and state.proved else {}
            if {"bed-0", "bed-1"} <= set(seen):
                return one.number, seen["bed-1"] - seen["bed-0"]
            if any(isinstance(m, Shim) for m in state.moved_in(one.number)):
                return None
        return None

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

    def _under(self, state: State[VisePairPlan], higher: float) -> tuple[int, float]:
        """Which of the two is to have how much under it in all."""
        now = [0.0, 0.0]
        for record in state.moves:
            if isinstance(record.move, Shim):
                now = [0.0, 0.0]
                now[record.move.packets[0].number - 1] = record.move.packets[0].mm
        bare = higher - now[B] + now[A]
        return (A, bare) if bare > 0 else (B, -bare)

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
        found.append(Figure(id="step", label="Step", mm=abs(look.step_mm), note=text(f"{nearer} nearer the gauge")))
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
        views = tuple(self._view(current, which) for which in (A, B)) if current else ()
        return table_scene(
            state, solution, station_id, looks=tuple((v, b.from_mm, b.from_mm + b.length_mm) for v, b in zip(views, bodies, strict=False)),
            bodies=tuple(b.model_copy(update={"shift_mm": b.shift_mm - base}) for b in bodies),
            edge_word="both jaws, end to end", limit_mm=plan.limit.mm, low_high=(0.0, plan.whole_mm),
        )  # fmt: skip

    def _view(self, look: PairLook, which: int) -> LineLook:
        """One jaw, as the profile draws it."""
        plan = look.plan
        mine = {k: v for k, v in look.toward_mm.items() if k[0] == "ab"[which]}
        shown = Edge(id="", stations=(), gauge=plan.gauge, length_mm=plan.whole_mm, wanted=plan.target_slope)
        x = dict.fromkeys(mine, 0.0)
        return LineLook(shown, look.number, x, mine, {}, None, look.lines[which], look.wild, look.complete)

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
