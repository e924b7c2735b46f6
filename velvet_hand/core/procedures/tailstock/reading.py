"""What a bar between centers, or two collars, say of a tailstock.

The rise of the bar's side over what is read is carried to the tailstock's center by similar triangles. Read again turned half over,
``(r0 + r180)/2`` is the axis and ``(r0 - r180)/2`` the bar's own runout and bend; its taper (mic it) and its sag stay, and are taken off.
Collars cut alike at a tool that stays: the thicker one stands farther from that tool, by half of it.
"""

from __future__ import annotations

from abc import ABC
from dataclasses import dataclass
from typing import Literal

from ...engine.measured import Measured
from ...engine.shimmed import since_shimmed
from ...fit.beam import sag_mm
from ...measure.base import Measure
from ...measure.edge import Edge, LineLook
from ...plan.places import place_word
from ...readings import Pass, Station
from ...setup.state import State
from ...verdict import Verdict, judge, worst
from .plan import TailstockPlan

SIDE, TOP, OVER, QUILL_TOP, QUILL_SIDE = "side-", "top-", "over", "quilltop-", "quillside-"
Way = Literal["side", "top"]
TURNS = (("", "Bar, "), (OVER, "Bar half over, "))


@dataclass(frozen=True, slots=True)
class Stands:
    """How the center stands one way: ``mm`` off at the center’s point (plus: nearer to the indicator; on top: high), the bar’s own
    rise over the same length, the looks that say so, and the pass.
    """

    mm: float
    own_mm: float
    looks: tuple[LineLook, ...]
    number: int


class TailstockReading(Measured[TailstockPlan], ABC):
    """Geometry and judgment of a pass."""

    def measures(self, plan: TailstockPlan) -> tuple[Measure, ...]:
        """The bar’s side and top, again half over, and the quill; or the collars."""
        if plan.by == "collars":
            return (self._line(plan, SIDE, "Collar", "", tuple(plan.spots_mm), {}),)
        x, far = plan.spots_mm, plan.spots_mm[-1]
        taper = {mm: plan.thicker_mm / 2 * (mm - x[0]) / (far - x[0]) for mm in x}
        hangs = {mm: taper[mm] - sag_mm(plan.between_mm, mm, plan.bar_mm) for mm in x}
        found: list[Measure] = []
        for turn, name in TURNS:
            found.append(self._line(plan, SIDE + turn, f"{name}side", "", x, taper))
            found.append(
                self._line(plan, TOP + turn, f"{name}top", "shimmed", x, hangs, wanted=plan.high_mm / plan.between_mm)
            )
        if plan.quill_mm:
            out = (0.0, plan.quill_mm)
            found.append(self._line(plan, QUILL_TOP, "Quill, top", "shimmed", out, {}, over=plan.quill_mm))
            found.append(self._line(plan, QUILL_SIDE, "Quill, side", "shimmed", out, {}, over=plan.quill_mm))
        return tuple(found)

    def _line(
        self, plan: TailstockPlan, key: str, name: str, when: str, x: tuple[float, ...], rises: dict[float, float], *,
        wanted: float = 0.0, over: float = 0.0,
    ) -> Edge:  # fmt: skip
        def word(mm: float) -> str:
            return ("at its casting" if mm == 0 else "at its end") if over else place_word(plan, mm)

        spots = tuple(
            Station.model_validate({
                "id": f"{key}{n}", "label": f"{name}{'' if plan.by == 'bar' else ' at'} {word(mm)}", "angle_deg": 0.0, "x_mm": mm,
                "ring": key, "group": name, "short": word(mm), "when": when or "always",
                "reads": plan.gauge.reads,
            })
            for n, mm in enumerate(x, start=1)
        )  # fmt: skip
        return Edge(
            id=key, stations=spots, gauge=plan.gauge, floor_mm=plan.machine.floor_mm, length_mm=over or plan.between_mm,
            wanted=wanted, rises={f"{key}{n}": rises[mm] for n, mm in enumerate(x, start=1) if mm in rises},
        )  # fmt: skip

    def line(self, state: State[TailstockPlan], one: Pass, key: str) -> LineLook | None:
        """One of its lines in a pass, whole."""
        found = state.measures.get(key)
        if not isinstance(found, Edge) or not found.mine(state, one):
            return None
        look = found.look(state, one)
        return look if look.complete and look.line is not None else None

    def rises(self, state: State[TailstockPlan], one: Pass, way: Way) -> tuple[float, tuple[LineLook, ...]] | None:
        """What a pass says of one way: off at the center’s point by the mean of its lines, and those; None until all are whole."""
        head = SIDE if way == "side" else TOP
        keys = (head, head + OVER) if state.plan.by == "bar" else (head,)
        looks = tuple(k for k in (self.line(state, one, key) for key in keys) if k is not None)
        found = [k.fit.mm for k in looks if k.fit is not None]
        return (sum(found) / len(found), looks) if len(found) == len(keys) else None

    def stands(self, state: State[TailstockPlan], way: Way) -> Stands | None:
        """How it stands one way, as it was read last; what was read before the last shim says nothing any more."""
        for one in since_shimmed(state):
            if (found := self.rises(state, one, way)) is not None:
                mean, looks = found
                first = looks[0].fit
                return Stands(mean, first.mm - mean if first else 0.0, looks, one.number)
        return None

    def lean(self, state: State[TailstockPlan], key: str) -> float | None:
        """Lean of the quill, mm per mm: plus where its end stands nearer to the indicator than its root."""
        for one in since_shimmed(state):
            look = self.line(state, one, key)
            if look is not None and look.line is not None:
                return look.line.slope
        return None

    def judge_way(self, state: State[TailstockPlan], way: Way) -> Verdict | None:
        """One way over the limit’s length; the band is that of the worse of its lines, for half over nobody else reads it."""
        plan, found = state.plan, self.stands(state, way)
        if found is None:
            return None
        over = plan.limit_length_mm
        terms = max((k.edge.terms(state, k, over) for k in found.looks), key=lambda t: sum(one.mm**2 for one in t))
        value = abs(found.mm) / plan.between_mm * over
        said = judge(plan.limit.kind, value, plan.limit.mm, terms)
        return said.model_copy(update={"where": "at the side" if way == "side" else "on top"})

    def judge(self, state: State[TailstockPlan]) -> Verdict | None:
        """The worse of side and top; collars know the side alone."""
        ways: tuple[Way, ...] = ("side", "top") if state.plan.by == "bar" else ("side",)
        found = [self.judge_way(state, way) for way in ways]
        return worst(tuple(v for v in found if v is not None)) if all(found) else None
