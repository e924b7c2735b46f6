"""What a pass over two vises says: both edges, the step between them, their beds."""

from __future__ import annotations

from abc import ABC
from collections.abc import Sequence
from dataclasses import dataclass, fields, replace
from math import hypot

from ...budget import budget
from ...engine.frame import Corrected
from ...engine.shimmed import since_shimmed
from ...fit.line import LineFit
from ...measure.base import Measure, Record, Seen
from ...measure.edge import Edge, LineLook, Rise
from ...memo import once
from ...move import Shim
from ...plan.places import place_word
from ...plan.ring import spots as measured
from ...readings import Pass, Station
from ...setup.state import State
from ...verdict import TermName, Verdict, judge
from .plan import VisePairPlan

A, B = 0, 1


@dataclass(frozen=True, kw_only=True)
class OneOfTwo(Edge):
    """One jaw of a ``run`` over both: one zero, one closing reading, and what walked is spread over both."""

    run: Measure

    def mine(self, record: Record, one: Pass | None) -> tuple[Station, ...]:
        """See ``Measure``."""
        ids = {s.id for s in self.stations}
        return tuple(s for s in record.asked(one) if s.id in ids)

    def seen(self, record: Record, one: Pass, spots: Sequence[Station] | None = None) -> Seen:
        """See ``Measure``."""
        both, ids = self.run.seen(record, one), {s.id for s in self.stations}
        return replace(both, toward_mm={k: v for k, v in both.toward_mm.items() if k in ids})


@dataclass(frozen=True, kw_only=True)
class BothJaws(Measure):
    """Both jaws in one run of the table."""

    jaws: tuple[OneOfTwo, OneOfTwo]
    along_travel = True

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """See ``Measure``: also a reading left out that nobody called bad."""
        wild = any(jaw.look(record, one).wild for jaw in self.jaws)
        return super().doubt(record, one) or ("wild" if wild else None)


@dataclass(frozen=True, slots=True)
class PairLook:
    """Both jaws in one pass, in one frame (of a stop only a height)."""

    number: int
    plan: VisePairPlan
    seen: Seen
    jaws: tuple[LineLook, LineLook]
    stop_mm: float | None

    @property
    def toward_mm(self) -> dict[str, float]:
        """See ``Look``."""
        return self.seen.toward_mm

    @property
    def off(self) -> dict[str, int]:
        """See ``Look``."""
        return self.seen.off

    @property
    def drift_mm(self) -> float | None:
        """See ``Look``."""
        return self.seen.drift_mm

    @property
    def complete(self) -> bool:
        """See ``Look``."""
        return self.seen.complete

    @property
    def wild(self) -> tuple[str, ...]:
        """See ``Look``."""
        return (*self.jaws[A].wild, *self.jaws[B].wild)

    @property
    def lines(self) -> tuple[LineFit | None, LineFit | None]:
        """The line of each; a stop has none."""
        return self.jaws[A].line, self.jaws[B].line

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
        a, b = self.lines
        if a is None or b is None:
            return self.off_slope(A)
        wa, wb = (1 / max(f.u_slope, 1e-12) ** 2 for f in (a, b))
        return (wa * self.off_slope(A) + wb * self.off_slope(B)) / (wa + wb)

    @property
    def step_mm(self) -> float:
        """How far the second stands nearer the gauge than the first, each at its own middle."""
        p = self.plan
        middle = p.apart_mm + (p.edge_mm if p.second == "vise" else p.stop_mm) / 2
        return self.height(B, middle) - self.height(A, p.edge_mm / 2)

    @property
    def fit(self) -> Rise | None:
        """Out of line over both, and how sure that is."""
        if not self.known:
            return None
        half = self.plan.edge_mm / 2
        u = max(k.unsure * hypot(k.line.u_level_mm, half * k.line.u_slope) for k in self.jaws if k.line is not None)
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
        run = measured(plan, "", tuple(jaws))
        low, high = (
            OneOfTwo(
                id="ab"[which], stations=tuple(s for s in jaws if s.id[0] == "ab"[which]), gauge=run.gauge, floor_mm=run.floor_mm,
                length_mm=plan.edge_mm, first_mm=self.origin(plan, which), wanted=plan.target_slope, finish=plan.roughness, run=run,
            )
            for which in (A, B)
        )  # fmt: skip
        both = BothJaws(**{f.name: getattr(run, f.name) for f in fields(run)}, jaws=(low, high))
        return (measured(plan, "bed-", beds), both) if beds else (both,)

    def look(self, state: State[VisePairPlan], one: Pass) -> PairLook:
        """See ``Corrected``."""
        return once(state.memo, "pair", one.number, lambda: self._look(state, one))

    def _look(self, state: State[VisePairPlan], one: Pass) -> PairLook:
        both = state.measures[""]
        if not isinstance(both, BothJaws):
            raise TypeError("two vises are read in one run over both jaws")
        low, high = (jaw.look(state, one) for jaw in both.jaws)
        seen = both.seen(state, one)
        stop = seen.toward_mm.get("b1") if state.plan.second == "stop" and state.proved else None
        return PairLook(one.number, state.plan, seen, (low, high), stop)

    def judge(self, state: State[VisePairPlan], look: PairLook, shift: complex = 0j) -> Verdict | None:
        """The range of both jaws’ ends about the wanted line."""
        plan, fit = state.plan, look.fit
        if fit is None:
            return None
        terms = budget(
            fit.u_mm, plan.gauge, floor_mm=plan.machine.floor_mm, share=min(k.of_gauge for k in look.jaws),
            form=("between", max(k.unseen_mm for k in look.jaws)), play_mm=state.gap_mm or 0.0, drift_mm=look.drift_mm,
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
