"""The work chucked again in another rotation: is the chuck to blame, or the work?"""

from __future__ import annotations

from ...angles import direction_deg, rect
from ...budget import budget
from ...engine.face import SEEN
from ...engine.measured import Measured
from ...engine.rings import look_ring
from ...engine.telling import pass_line, worst_drift
from ...fit.parts import Parts, split_parts
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...path.cautions import ROUND
from ...path.lathe import (
    check_limit,
    check_positions,
    check_size,
    check_stations,
    clear_to_run,
    make_safe,
    presets,
    set_gauge,
)
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring
from ...quantity import Quantity
from ...readings import Pass
from ...scene import ClockScene, Scene, SceneDot, ScenePosition
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge
from ...wording import Bit, Text, bare, degrees, length, strong, text
from .plan import ReversalPlan


class Reversal(Measured[ReversalPlan]):
    """``e_k = chuck + work rot(phi_k)``: what stays is the chuck's, what turns is the work's."""

    id = "reversal"
    title = "Chuck or part: which one runs out?"
    rank = 70
    only_reads = True
    needs = Needs(
        holder="A chuck that the part is taken out of and gripped in again.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round where it is read, with a mark at its angle 0.",
    )
    asks = Asks(angles="jaw 1, counter-clockwise seen from the tailstock", surface=False, presets=presets("4 spots"))
    plan_class = ReversalPlan

    def check_plan(self, plan: ReversalPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``."""
        check_size(plan, plan.holder)
        check_stations(plan)
        check_positions(plan.positions_deg)
        told = list(check_limit(plan))
        if len(plan.positions_deg) == 2:
            words = "With two positions nothing shows how well the chuck repeats; three or four do."
            told.append(Caveat(code="two_positions", field="choices.positions_deg", text=text(words)))
        return tuple(told)

    def path(self, plan: ReversalPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(),
            Step(
                id="clean",
                title="Clean",
                prompt="Wipe jaws and part, deburr. Mark the part’s 0° at jaw 1; grip it with the pinion you always use.",
                cautions=(Caution(id="support", text="Carry the part when the jaws open; it comes out in your hand."),),
            ),
            set_gauge(plan, "All angles count from jaw 1, at every position."),
            Step(id="prove", title="Read", prompt="A full turn at each position of the part."),
            clear_to_run(title="Put away"),
        )

    def measures(self, plan: ReversalPlan) -> tuple[Measure, ...]:
        """The same angles of the spindle at each position."""
        return tuple(ring(plan, f"p{i}-", f"Part at {deg:g}°,", "") for i, deg in enumerate(plan.positions_deg))

    def remount(self, state: State[ReversalPlan], ring: str) -> Text:
        """See ``Measured``."""
        deg = state.plan.positions_deg[int(ring[1:-1])]
        if ring == "p0-":
            return ()
        return text("Turn the part in the jaws, its mark to ", strong(f"{deg:g}°"), f" from jaw 1; grip again. {ROUND}")

    def rings(self, state: State[ReversalPlan], one: Pass) -> list[RingLook]:
        """One look a position."""
        return [look_ring(state, one, f"p{i}-") for i in range(len(state.plan.positions_deg))]

    def parts(self, state: State[ReversalPlan], one: Pass) -> Parts | None:
        """What stays and what turns."""
        looks = self.rings(state, one)
        centers = [look.center for look in looks if look.complete and look.center is not None]
        if len(centers) < len(looks):
            return None
        u = max(look.fit.u_mm for look in looks if look.fit)
        return split_parts(state.plan.positions_deg, tuple(centers), u)

    def judge(self, state: State[ReversalPlan], one: Pass, parts: Parts) -> Verdict:
        """The chuck's own part against the limit."""
        plan, factor = state.plan, 2.0 if state.plan.limit.kind == "tir" else 1.0
        terms = budget(
            factor * parts.u_fixed_mm, plan.gauge, stretch=factor, floor_mm=plan.machine.floor_mm,
            repeat_mm=factor * (parts.misfit_mm or 0.0), drift_mm=worst_drift(state, one),
        )  # fmt: skip
        value = factor * abs(parts.fixed)
        found = judge(plan.limit.kind, value, plan.limit.mm, terms)
        return found.model_copy(update={"where": "the chuck’s own part"})

    def solved(self, state: State[ReversalPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        parts = self.parts(state, one)
        found = Solution(pass_no=one.number)
        if parts:
            figures, judged, told = self._figures(parts), self.judge(state, one, parts), self._told(state, parts)
            found = Solution(pass_no=one.number, figures=figures, judged=judged, told=told)
        return self.doubted(state, one, found, self.rings(state, one), parts.fixed if parts else None)

    def _told(self, state: State[ReversalPlan], parts: Parts) -> Text:
        chuck, work = abs(parts.fixed), abs(parts.turned)
        heads: list[Bit] = [
            "By itself the chuck runs out ", bare(2 * chuck), ", the part ", length(2 * work), " TIR. ",
        ]  # fmt: skip
        if chuck <= 2 * parts.u_fixed_mm and work <= 2 * parts.u_turned_mm:
            heads.append("Neither is more than can be told.")
        elif chuck > 2 * work:
            heads += ["It is mostly ", strong("the chuck"), ": clock it, pack it, or use another holder."]
        elif work > 2 * chuck:
            heads += ["It is mostly ", strong("the part"), ": no chuck mends that; turn it true."]
        else:
            heads += [strong("Both"), " have their share."]
        return text(*heads)

    def _figures(self, parts: Parts) -> tuple[Figure, ...]:
        found = [
            Figure(
                id="chuck", label="Chuck’s own, TIR", mm=2 * abs(parts.fixed), u_mm=2 * parts.u_fixed_mm,
                note=text(f"high at {degrees(direction_deg(parts.fixed))}"),
            ),
            Figure(
                id="work", label="Part’s own, TIR", mm=2 * abs(parts.turned), u_mm=2 * parts.u_turned_mm,
                note=text(f"high {degrees(direction_deg(parts.turned))} from its mark"),
            ),
        ]  # fmt: skip
        if parts.misfit_mm is not None:
            found.append(Figure(id="repeat", label="Positions agree to", mm=parts.misfit_mm))
        return tuple(found)

    def figures(self, state: State[ReversalPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        parts = self.parts(state, one)
        judged = self.judge(state, one, parts) if parts else None
        line = pass_line(state, one, self.rings(state, one)[0], (), judged)
        if parts is None or judged is None:
            return line
        changes = {
            "main": judged.value, "beside": (Quantity(kind="off_centre", mm=abs(parts.fixed), u_mm=parts.u_fixed_mm),),
            "track_x_mm": parts.fixed.real, "track_y_mm": parts.fixed.imag,
            "toward": text(f"chuck, {degrees(direction_deg(parts.fixed))}"),
        }  # fmt: skip
        return line.model_copy(update=changes)

    def scene(self, state: State[ReversalPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        plan, current = state.plan, state.open_pass
        looks = self.rings(state, current) if current else []
        parts = self.parts(state, current) if current else None
        station = state.station(station_id)
        known = {i: look for i, look in enumerate(looks) if look.complete and look.center is not None}
        ranks = sorted(known, key=lambda i: abs(known[i].center or 0))
        turned = parts.turned * rect(1, plan.positions_deg[ranks[0]]) if parts and ranks else None
        return ClockScene(
            seen=SEEN[plan.view],
            view_turn_deg=state.sense.view_turn_deg,
            what="positions of the part",
            positions=tuple(
                ScenePosition(
                    number=i + 1, at_deg=plan.positions_deg[i], tir_mm=2 * abs(look.center or 0), rank=ranks.index(i) + 1,
                    now=station.ring == f"p{i}-",
                )
                for i, look in known.items()
            ),
            fixed=SceneDot.of(parts.fixed) if parts else None,
            turned=SceneDot.of(turned) if turned is not None else None,
            fixed_word="chuck",
            turned_word="part, at its best position",
            limit_mm=plan.limit.tir_mm,
            reading=station.label if parts is None else "",
            describe=f"TIR at {len(known)} of {len(plan.positions_deg)} positions of the part in the chuck.",
        )  # fmt: skip


PROCEDURE = Reversal()
