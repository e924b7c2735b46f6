"""What is read of a column on its axis, and what it says: the bar, flange, face and far end, the tailstock."""

from __future__ import annotations

from abc import ABC

from ...budget import budget
from ...engine.measured import Measured
from ...engine.rings import judge_ring, look_ring
from ...fit.beam import droop_mm
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...plan.ring import ring, spots, turn_stations
from ...readings import Pass, Station
from ...setup.state import State
from ...verdict import Verdict, judge, worst
from ...wording import Text, strong, text
from .plan import ColumnPlan

BAR, FLANGE, FACE, FAR, TAIL = "bar-", "flange-", "face-", "far-", "tail-"
#: Stages of reading: the axis by a bar, the column by itself, the column with its tailstock.
AXIS, COLUMN, HELD = 1, 2, 3
_TAIL = (
    ("top-free", "Top, center off", "Top, off"),
    ("top-on", "Top, center tight", "Top, tight"),
    ("side-free", "Side, center off", "Side, off"),
    ("side-on", "Side, center tight", "Side, tight"),
)


class ColumnReading(Measured[ColumnPlan], ABC):
    """Geometry and judgment of a pass."""

    def measures(self, plan: ColumnPlan) -> tuple[Measure, ...]:
        """The bar; flange, face and far end; the far end and the tailstock."""

        def staged(name: str, word: str, stage: int) -> tuple[Station, ...]:
            return tuple(
                s.model_copy(update={"stage": stage, "id": f"{s.id}{'h' if stage == HELD else ''}"})
                for s in turn_stations(plan, name, word, "")
            )

        bar = tuple(
            Station(
                id=f"bar-{side}-{where}-{turn}", label=f"Bar {turn}°, {side}, {where}", angle_deg=0.0, ring=BAR,
                group=f"Bar at {turn}°", short=f"{side.capitalize()} {where} {turn}°", stage=AXIS,
            )
            for turn in (0, 180) for side in ("top", "side") for where in ("near", "far")
        )  # fmt: skip
        tail = tuple(
            Station(id=f"tail-{key}", label=word, angle_deg=0.0, ring=TAIL, group="Tailstock", short=short, stage=HELD)
            for key, word, short in _TAIL
        )
        held, face = plan.tail == "yes", plan.face_radius_mm > 0
        far = (*staged(FAR, "Far end,", COLUMN), *(staged(FAR, "Far end,", HELD) if held else ()))
        return (
            *((spots(plan, BAR, bar),) if plan.bar == "yes" else ()),
            ring(plan, FLANGE, spots=staged(FLANGE, "Flange,", COLUMN)),
            *((ring(plan, FACE, flat=True, spots=staged(FACE, "Face,", COLUMN)),) if face else ()),
            ring(plan, FAR, spots=far),
            *((spots(plan, TAIL, tail),) if held else ()),
        )

    def remount(self, state: State[ColumnPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring == TAIL:
            return text("Back the ", strong("center"), " off, indicator on top at the far end.")
        return ()

    def ring(self, state: State[ColumnPlan], one: Pass, name: str) -> RingLook | None:
        """A ring of this pass, whole."""
        if not any(s.ring == name for s in state.asked(one)):
            return None
        look = look_ring(state, one, name)
        return look if look.complete and look.fit is not None else None

    def tilt(self, state: State[ColumnPlan], one: Pass) -> complex | None:
        """Lean of the column, mm per mm, toward where its far end stands."""
        flange, far = self.ring(state, one, FLANGE), self.ring(state, one, FAR)
        if flange is None or far is None or flange.center is None or far.center is None:
            return None
        return (far.center - flange.center) / state.plan.far_z_mm

    def sag(self, plan: ColumnPlan) -> float:
        """How far it hangs at the far end while it is free."""
        return (
            plan.sag_mm if plan.sag_mm is not None else droop_mm(plan.centre_z_mm, plan.far_z_mm, plan.part.diameter_mm)
        )

    def pushed(self, state: State[ColumnPlan], one: Pass) -> tuple[float, float] | None:
        """What tightening the center does at the gauge: up beyond the sag it takes out, and toward you."""
        mine = [s for s in state.asked(one) if s.ring == TAIL]
        seen = state.measures[mine[0].ring].seen(state, one, mine).toward_mm if mine and state.proved else {}
        if len(seen) < 4:
            return None
        up = seen["tail-top-on"] - seen["tail-top-free"] - self.sag(state.plan)
        return up, seen["tail-side-on"] - seen["tail-side-free"]

    def judge(self, state: State[ColumnPlan], one: Pass) -> Verdict | None:
        """The far end’s runout, and what the tailstock pushes, which may be as much off center as the runout may."""
        plan = state.plan
        far = self.ring(state, one, FAR)
        found = judge_ring(state, far, where="at the far end") if far else None
        if found is None or plan.tail == "no":
            return found
        pushed = self.pushed(state, one)
        if pushed is None:
            return None
        limit = plan.limit.off_centre_mm
        terms = budget(2**0.5 * plan.gauge.u_read_mm, plan.gauge, floor_mm=plan.machine.floor_mm)
        sides = tuple(
            judge("off_centre", abs(mm), limit, terms).model_copy(update={"where": where})
            for mm, where in zip(pushed, ("pushed on top", "pushed at the side"), strict=True)
        )
        return worst((found, *sides))

    def seat(self, state: State[ColumnPlan], one: Pass) -> complex | None:
        """What a face out of true does to the lean: ``-F/r``."""
        plan = state.plan
        look = self.ring(state, one, FACE)
        return -look.center / plan.face_radius_mm if look is not None and look.center is not None else None


def bar_slopes(state: State[ColumnPlan], one: Pass) -> tuple[float, float] | None:
    """Rise of the axis toward the far end, on top and toward your side, mm per mm: the bar’s own error turned out of it."""
    plan = state.plan
    mine = [s for s in state.asked(one) if s.ring == BAR]
    seen = state.measures[mine[0].ring].seen(state, one, mine).toward_mm if mine and state.proved else {}
    if len(seen) < len(mine) or not mine:
        return None
    span = plan.bar_far_mm - plan.bar_near_mm
    rise = {
        side: sum(seen[f"bar-{side}-far-{t}"] - seen[f"bar-{side}-near-{t}"] for t in (0, 180)) / 2
        - plan.bar_taper_mm / 2
        for side in ("top", "side")
    }
    full = plan.bar_far_mm
    droop = droop_mm(full, plan.bar_far_mm, plan.bar_diameter_mm) - droop_mm(
        full, plan.bar_near_mm, plan.bar_diameter_mm
    )
    return (rise["top"] + droop) / span, rise["side"] / span
