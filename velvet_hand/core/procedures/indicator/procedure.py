"""An indicator against known steps, out and back: its error along its travel, its hysteresis and its repeat.

``e_k = reading_k - k step``, both ways about the zero of the first step. Off by: range of all ``e_k``, out and back. Of neighbors: the
largest change of the mean of both ways from one step to the next, less what the reading itself scatters, ``sqrt(max(0, d^2 - 8 u^2 / 2))``.
Hysteresis: the largest ``back_k - out_k``. Repeat: ``t s`` of one step read again, 95 %.
"""

from __future__ import annotations

import math
from calendar import monthrange
from dataclasses import dataclass
from datetime import date

import numpy as np
from scipy.special import stdtrit

from ...budget import budget
from ...engine.measured import Measured
from ...errors import BadInput
from ...gauge import Carrier, Surface
from ...gauge_check import GaugeCheck
from ...measure.base import Measure
from ...memo import once
from ...memory import Lesson
from ...path.cautions import EYES
from ...path.lathe import GENERAL, tell_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import spots
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import Scene, SceneSpread, SpreadScene
from ...setup import events as ev
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...units import format_length
from ...verdict import Term, Verdict, judge
from ...wording import Text, length, strong, text
from .plan import IndicatorPlan

STEPS, SAME = "steps-", "same-"


@dataclass(frozen=True, slots=True)
class Found:
    """Errors along the travel, out and back (mm, by step; the last one turns round), and what follows from them."""

    out_mm: tuple[float, ...]
    back_mm: tuple[float, ...]
    same_mm: tuple[float, ...]
    u_mm: float

    @property
    def error_mm(self) -> float:
        """Range of all errors."""
        every = (*self.out_mm, *self.back_mm)
        return max(every) - min(every)

    @property
    def near_mm(self) -> float:
        """The most that it is off from one step to the next; each is the mean of two readings."""
        both = np.array([(a + b) / 2 for a, b in zip(self.out_mm, (*self.back_mm, self.out_mm[-1]), strict=True)])
        worst = float(np.abs(np.diff(both)).max())
        return math.sqrt(max(worst**2 - 4 * self.u_mm**2, 0.0))

    @property
    def hysteresis_mm(self) -> float:
        """The most that it shows otherwise when it comes back."""
        return max(abs(b - a) for a, b in zip(self.out_mm, self.back_mm, strict=False))

    @property
    def repeat_mm(self) -> float:
        """What one reading of a step is worth, 95 %."""
        n = len(self.same_mm)
        return float(stdtrit(n - 1, 0.975)) * max(float(np.std(self.same_mm, ddof=1)), self.u_mm)


class IndicatorCheck(Measured[IndicatorPlan]):
    """Nothing is corrected: it is read, and what was found goes to the indicator."""

    id = "indicator"
    title = "Check an indicator"
    rank = 220
    only_reads = True
    certifies = "gauge"
    machine_kinds: tuple[MachineKind, ...] = ("plate",)
    needs = Needs(
        holder="A surface plate, or a table that is as good, with a stand.",
        gauge="The indicator to be checked.",
        machine="A surface plate.",
        part="Gauge blocks, a micrometer head or known steps, all at the warmth of the room.",
    )
    asks = Asks(
        part="Checked by",
        surface=False, place=False, view=False, diameter="Travel to check", limit_kinds=("shows",),
    )  # fmt: skip
    plan_class = IndicatorPlan
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "gauge_turns"

    def check_plan(self, plan: IndicatorPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            More than it travels, or steps that its graduations do not show.
        """
        gauge = plan.gauge
        if plan.travel_mm > gauge.travel_mm:
            why = f"{gauge.name} does not travel that far from zero."
            raise BadInput(
                "field_invalid", why, "Check less of it, or correct its travel in the Shop.", "part.diameter"
            )
        if plan.step_mm < gauge.graduation_mm:
            raise BadInput("field_invalid", "A step is less than one graduation.", "Fewer steps.", "choices.steps")
        told = list(tell_gauge(plan))
        if plan.known_mm > plan.limit.mm / 4:
            words = text("The steps themselves take more than a quarter of the limit: better blocks, or a wider limit.")
            told.append(Caveat(code="budget", field="choices.known_mm", text=words))
        return tuple(told)

    def path(self, plan: IndicatorPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            Step(
                id="make_safe", title="Make ready", hold=True, prompt=f"Before anything is put up. {GENERAL}",
                cautions=(
                    Caution(id="warm", text="Indicator, blocks and plate have lain together for an hour."),
                    Caution(id="fall", text="Blocks and stand cannot be knocked off the plate."),
                    EYES,
                ),
            ),
            Step(id="clean", title="Clean", prompt="Wipe plate, blocks, contact and stem. No oil in the stem."),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Lift ", strong("the contact"), " a hair, as a thicker block would. Which way does it go?"),
                prompt="Square to the plate, arm short, a little preload. Zero over the first step; the whole travel lies before the hand.",
            ),
            Step(id="prove", title="Read", prompt="Every step out, never going back; then back; then one step again and again."),
            Step(
                id="clear_to_run", title="Put away", hold=True, prompt=GENERAL,
                cautions=(Caution(id="off", text="Indicator and base taken off; the indicator in its box."),
                    Caution(id="blocks", text="Blocks parted, wiped, greased and put away."),),
            ),
        )  # fmt: skip

    def measures(self, plan: IndicatorPlan) -> tuple[Measure, ...]:
        """The steps out and back with one zero, and one step again."""

        def named(k: int, bare: bool = False) -> str:
            return format_length(k * plan.step_mm, plan.unit, plan.gauge.resolution_mm, bare=bare)

        def one(key: str, ring: str, group: str, label: str, short: str, k: int, back: bool = False) -> Station:
            x, y = k * plan.step_mm, 1.0 if back else 0.0
            return Station(id=key, label=label, angle_deg=0, ring=ring, group=group, short=short, x_mm=x, y_mm=y)

        out = [
            one(f"out{k}", STEPS, "Out", f"{named(k)}, going out", named(k, bare=True), k)
            for k in range(plan.steps + 1)
        ]
        back = [
            one(f"back{k}", STEPS, "Back", f"{named(k)}, coming back", f"back {named(k, bare=True)}", k, True)
            for k in reversed(range(plan.steps))
        ]
        middle = plan.steps // 2
        same = [
            one(f"same{n}", SAME, "One step again", f"{named(middle)}, time {n}", f"Time {n}", middle)
            for n in range(1, plan.again + 1)
        ]
        return (spots(plan, STEPS, (*out, *back), closes=False), spots(plan, SAME, tuple(same), closes=False))

    def remount(self, state: State[IndicatorPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring == SAME:
            return text("One step ", strong("off and on again"), " each time: lift the contact, let it down.")
        return text("First step under the contact. Go ", strong("out step by step"), "; if you pass one, start over.")

    def found(self, state: State[IndicatorPlan], one: Pass) -> Found | None:
        """What the pass says; None until all of it is read."""
        return once(state.memo, "indicator", one.number, lambda: self._found(state, one))

    def _found(self, state: State[IndicatorPlan], one: Pass) -> Found | None:
        plan, seen = state.plan, {key: m.seen(state, one) for key, m in state.measures.items()}
        if not state.proved or not all(s.complete for s in seen.values()):
            return None
        near, same = seen[STEPS].toward_mm, seen[SAME].toward_mm
        names = [f"out{k}" for k in range(plan.steps + 1)], [f"back{k}" for k in range(plan.steps)]
        if any(name not in near for name in (*names[0], *names[1])) or len(same) < 3:
            return None
        out, back = (tuple(near[name] - k * plan.step_mm for k, name in enumerate(part)) for part in names)
        return Found(out, back, tuple(same.values()), plan.gauge.u_read_mm)

    def judge(self, plan: IndicatorPlan, found: Found) -> Verdict:
        """How far it is off against what was asked; two readings, what one repeats to, and the steps themselves."""
        terms = (
            *budget(2**0.5 * found.u_mm, plan.gauge.bare, floor_mm=0.0, scatter_mm=found.repeat_mm),
            *((Term(name="standard", mm=plan.known_mm),) if plan.known_mm else ()),
        )
        return judge("shows", found.error_mm, plan.limit.mm, terms)

    def solved(self, state: State[IndicatorPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        found = self.found(state, one)
        if found is None:
            return super().solved(state, one)
        return Solution(
            pass_no=one.number, figures=_figures(found), judged=self.judge(state.plan, found),
            caveats=_what_to_do(state.plan, found), told=_told(state.plan, found), need_reading=self.need_reading(state, one),
        )  # fmt: skip

    def figures(self, state: State[IndicatorPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        found, line = self.found(state, one), Row(number=one.number, purpose=one.purpose)
        if found is None:
            return line
        changes = {
            "main": Quantity(kind="shows", mm=found.error_mm), "outcome": self.judge(state.plan, found).outcome,
            "beside": (Quantity(kind="hysteresis", mm=found.hysteresis_mm),), "toward": text(length(found.repeat_mm)),
        }  # fmt: skip
        return line.model_copy(update=changes)

    def heads(self, plan: IndicatorPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return "Off by", "Hysteresis", "Repeats to"

    def lesson(self, state: State[IndicatorPlan]) -> Lesson:
        """What it showed, rounded up, once a whole pass is judged and nothing forbids to believe it."""
        one = state.open_pass
        found = self.found(state, one) if one and state.verdict else None
        if found is None or one is None or self.doubt(state, one) is not None:
            return Lesson()
        read = max(e.at for e in state.effective if isinstance(e.body, ev.ReadingTaken))

        def up(mm: float) -> float:
            return math.ceil(1e5 * mm - 1e-6) / 1e5

        return Lesson(
            check=GaugeCheck(
                gauge_id=state.plan.gauge.id, at=read, over_mm=state.plan.travel_mm, error_mm=up(found.error_mm), near_mm=up(found.near_mm),
                hysteresis_mm=up(found.hysteresis_mm), repeat_mm=up(found.repeat_mm), due=_later(read.date(), state.plan.months),
            )
        )  # fmt: skip

    def scene(self, state: State[IndicatorPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        one, now, plan = state.open_pass, state.station(station_id), state.plan
        rows = []
        for group in dict.fromkeys(s.group for s in state.stations):
            mine = [s for s in state.stations if s.group == group]
            near = state.measures[mine[0].ring].seen(state, one).toward_mm if one else {}
            off = [near[s.id] - (s.x_mm if s.ring == STEPS else 0.0) for s in mine if s.id in near]
            middle = sum(off) / max(len(off), 1)
            wide = max(off) - min(off) if len(off) == len(mine) else None
            rows.append(
                SceneSpread(
                    label=group, at_mm=tuple(o - middle for o in off), figure_mm=wide, now=now.group == group and not solution.judged
                )
            )  # fmt: skip
        return SpreadScene(
            seen="How far it is off at each step, about the middle of its row, all on one scale.", rows=tuple(rows), limit_mm=plan.limit.mm,
            reading="At the end of a row: from its lowest to its highest." if solution.judged else f"Next: {now.label}.",
            describe=f"Errors of {plan.gauge.name} going out, coming back, and at one step again, on one scale.",
        )  # fmt: skip


def _figures(found: Found) -> tuple[Figure, ...]:
    return (
        Figure(id="error", label="Off along its travel", mm=found.error_mm),
        Figure(id="near", label="Off from one step to the next", mm=found.near_mm),
        Figure(id="hysteresis", label="Hysteresis", mm=found.hysteresis_mm),
        Figure(id="repeat", label="A reading repeats to", mm=found.repeat_mm),
    )


def _told(plan: IndicatorPlan, found: Found) -> Text:
    good = 4 * max(found.near_mm + found.hysteresis_mm, plan.gauge.graduation_mm)
    return text(f"{plan.gauge.name} is off by ", length(found.error_mm), ", good for limits from ", length(good), ".")


def _what_to_do(plan: IndicatorPlan, found: Found) -> tuple[Caveat, ...]:
    """What most of it is, and what helps."""
    told = [("goes", text("Its error and hysteresis enter every band from now on, until it is checked again."))]
    scale = np.polyfit(np.arange(len(found.out_mm)), found.out_mm, 1)[0] * (len(found.out_mm) - 1)
    if abs(scale) > 0.6 * found.error_mm and abs(scale) > plan.gauge.graduation_mm:
        way = "too much" if scale > 0 else "too little"
        told.append(
            (
                "scale",
                text(f"Most of it grows with the travel: it shows {way}. A lever’s stylus may stand at an angle."),
            )
        )
    if found.hysteresis_mm > max(plan.gauge.graduation_mm / 2, 2 * found.repeat_mm):
        told.append(
            ("hysteresis", text("It hangs when it comes back: clean it, and come to every reading from one side."))
        )
    return tuple(Caveat(code=code, text=words) for code, words in told)


def _later(day: date, months: int) -> date:
    """The same day some months on; the last of a month that is shorter.

    Examples
    --------
    >>> _later(date(2026, 11, 30), 3), _later(date(2026, 1, 5), 12)
    (datetime.date(2027, 2, 28), datetime.date(2027, 1, 5))
    """
    month = day.month - 1 + months
    year, month = day.year + month // 12, month % 12 + 1
    return date(year, month, min(day.day, monthrange(year, month)[1]))


PROCEDURE = IndicatorCheck()
