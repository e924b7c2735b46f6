"""What a pass over two vises says: both edges, the step between them, their beds."""

from __future__ import annotations

from abc import ABC
from dataclasses import dataclass

import numpy as np

from ...budget import budget
from ...engine.frame import Corrected
from ...engine.shimmed import since_shimmed
from ...estimate.scatter import Repeats
from ...estimate.waves import unseen_rise_mm
from ...fit.line import LineFit, fit_line
from ...measure.base import Measure
from ...measure.edge import Rise
from ...memo import once
from ...move import Shim
from ...plan.places import place_word
from ...plan.ring import spots as measured
from ...readings import Pass, Station
from ...setup.state import State
from ...verdict import Verdict, judge
from .plan import VisePairPlan

A, B = 0, 1


@dataclass(frozen=True, slots=True)
class PairLook:
    """Both jaws in one pass, in one frame: a line each (of a stop only a height). ``unseen_mm`` is half the 95 % band of what a jaw does
    between its spots, in its rise.
    """

    number: int
    plan: VisePairPlan
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    lines: tuple[LineFit | None, LineFit | None]
    stop_mm: float | None
    wild: tuple[str, ...]
    complete: bool
    unseen_mm: float

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


class VisesReading(Corrected[VisePairPlan, PairLook], ABC):
    """Geometry and judgment of a pass over both."""

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
        unseen = 0.0
        for which, letter in enumerate("ab"):
            ids = [s.id for s in mine if s.id[0] == letter and s.id in toward]
            x = {s.id: s.x_mm for s in mine}
            fit = None
            if len(ids) >= 2 and state.proved:
                fit = fit_line(tuple(x[i] for i in ids), tuple(toward[i] for i in ids), plan.gauge.u_read_mm)
                wild += [ids[i] for i in fit.left_out]
                unseen = max(unseen, self._unseen_mm(plan, which, tuple(x[i] for i in ids), fit))
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
            unseen,
        )

    def _unseen_mm(self, plan: VisePairPlan, which: int, x_mm: tuple[float, ...], line: LineFit) -> float:
        """What that jaw may do between its spots, by this pass alone."""
        spots, first = tuple(x_mm[i] for i in line.kept), self.origin(plan, which)
        told = {spots: Repeats().add(np.array(line.kept_mm))}
        return unseen_rise_mm(spots, (first, first + plan.edge_mm), told, plan.gauge.read_variance, plan.roughness)

    def judge(self, state: State[VisePairPlan], look: PairLook, shift: complex = 0j) -> Verdict | None:
        """The range of both jaws’ ends about the wanted line."""
        plan, fit = state.plan, look.fit
        if fit is None:
            return None
        terms = budget(
            fit.u_mm, plan.gauge, floor_mm=plan.machine.floor_mm, form=("between", look.unseen_mm), play_mm=state.gap_mm or 0.0,
            drift_mm=look.drift_mm,
        )  # fmt: skip
        return judge("in_line", fit.mm + abs(shift), plan.limit.mm, terms)

    def bar_in(self, state: State[VisePairPlan]) -> bool:
        """Is the bar still through both?"""
        return state.plan.bar == "through" and not any(r.move.do == "stage" for r in state.moves)

    def beds(self, state: State[VisePairPlan]) -> tuple[int, float] | None:
        """Pass, and how much higher the second bed is, as read last since the last shim."""
        for one in since_shimmed(state):
            mine = [s for s in state.asked(one) if s.ring == "bed-"]
            seen = state.measures["bed-"].seen(state, one, mine).toward_mm if mine and state.proved else {}
            if {"bed-0", "bed-1"} <= set(seen):
                return one.number, seen["bed-1"] - seen["bed-0"]
        return None

    def _under(self, state: State[VisePairPlan], higher: float) -> tuple[int, float]:
        """Which of the two is to have how much under it in all."""
        now = [0.0, 0.0]
        for record in state.moves:
            if isinstance(record.move, Shim):
                now = [0.0, 0.0]
                now[record.move.packets[0].number - 1] = record.move.packets[0].mm
        bare = higher - now[B] + now[A]
        return (A, bare) if bare > 0 else (B, -bare)
