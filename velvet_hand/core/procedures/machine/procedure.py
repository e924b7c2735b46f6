"""What this machine can hold: its play, its returns, the indicator's arm and its spindle, each apart from the others.

A reading repeats to ``s = sqrt(s_return**2 + s_arm**2)`` with Welch and Satterthwaite's degrees of freedom; ``t s`` is what one
reading is worth, and twice that what a TIR is: the floor, which goes to the machine. The returns from one side scatter about their own
mean; between the two means lies the backlash. The bar is read, gripped half over and read again: ``spindle = (c1 + c2)/2``.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

import numpy as np
from scipy.special import stdtrit

from ...budget import budget
from ...engine.measured import Measured
from ...engine.rings import look_ring
from ...errors import BadInput
from ...fit.parts import Parts, split_parts
from ...gauge import Carrier, Surface
from ...measure.base import Measure
from ...memo import once
from ...memory import Lesson
from ...path.cautions import DRIVES
from ...path.lathe import GENERAL, check_limit_mm, check_stations, presets, tell_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring, spots
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import Scene, SceneSpread, SpreadScene
from ...setup import events as ev
from ...setup.state import State
from ...shop import Floor, MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge
from ...wording import Text, length, strong, text
from .plan import Axis, MachinePlan

LOW, HIGH, FLICK, BARS = "low-", "high-", "flick", ("bar-", "over-")
WHOLE = {"returns": "the slide’s returns", "arm": "the indicator’s arm"}


@dataclass(frozen=True, slots=True)
class Found:
    """What a pass says: play by axis, scatter of returns and arm, backlash, spindle; mm, standard uncertainties behind."""

    play_mm: dict[Axis, float]
    return_sd_mm: float
    arm_sd_mm: float
    dof: float
    backlash_mm: float
    u_backlash_mm: float
    bar: Parts | None

    @property
    def spot_mm(self) -> float:
        """What one reading is worth, with 95 % confidence."""
        return float(stdtrit(self.dof, 0.975)) * math.hypot(self.return_sd_mm, self.arm_sd_mm)

    @property
    def floor_mm(self) -> float:
        """TIR that it cannot repeat below."""
        return 2 * self.spot_mm


class MachineCheck(Measured[MachinePlan]):
    """Nothing is corrected: it is read, and what was found becomes the machine’s floor."""

    id = "machine"
    title = "What this machine can hold"
    rank = 210
    only_reads = True
    certifies = "machine"
    machine_kinds: tuple[MachineKind, ...] = ("mill", "lathe")
    needs = Needs(
        holder="What holds the bar in the spindle.",
        gauge="A lever or plunger indicator with fine graduations, on the arm that you always use.",
        machine="A lathe or a mill, warm, its gibs and locks as they are in use.",
        part="A straight round bar with a mark along it.",
    )
    asks = Asks(
        part="Checked by",
        angles="the bar’s mark, counter-clockwise seen from its end",
        surface=False,
        place=False,
        view=False,
        diameter="Diameter of the bar",
        limit_kinds=("tir",),
        presets=presets("4 spots"),
    )
    plan_class = MachinePlan
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "work_turns"

    def check_plan(self, plan: MachinePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``; the floor that it has so far is no reason against measuring it."""
        if plan.along not in plan.axes:
            words = f"{plan.along} is not among the axes that are pushed and pulled."
            raise BadInput("field_invalid", words, "Choose another axis, or all three.", "choices.along")
        check_stations(plan)
        told = (c for c in check_limit_mm(plan, plan.limit.mm) if c.code not in ("limit_below_floor", "floor_unknown"))
        return (*told, *tell_gauge(plan))

    def path(self, plan: MachinePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            Step(
                id="make_safe", title="Make safe", hold=True, prompt=f"Before hands go onto it. {GENERAL}",
                cautions=(
                    Caution(id="stopped", text="Spindle stopped and cannot start: out of gear or locked."),
                    Caution(id="feeds", text=f"Everything is moved by hand; {DRIVES}"),
                    Caution(id="quill", text="Head, quill and knee cannot drop when they are pushed."),
                ),
            ),
            Step(id="clean", title="Clean", prompt="Wipe ways, spindle and bar. Gibs and locks as in use, not better."),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Push ", strong("the stylus"), " a hair. Which way does the needle go?"),
                prompt="The arm that you always use, its joints locked. It goes from place to place; each place has a zero of its own.",
            ),
            Step(id="prove", title="Read", prompt="Play, returns, flicks, and the bar in the spindle."),
            Step(
                id="clear_to_run", title="Put away", hold=True, prompt=GENERAL,
                cautions=(
                    Caution(id="off", text="Indicator and base taken off, the bar out of the spindle."),
                    Caution(id="locks", text="Locks, gibs and stops as they were."),
                ),
            ),
        )  # fmt: skip

    def measures(self, plan: MachinePlan) -> tuple[Measure, ...]:
        """Play along each axis, the returns from both sides (one zero), the flicks, and the bar twice."""

        def one(key: str, ring: str, group: str, label: str, short: str, x: float) -> Station:
            return Station(id=key, label=label, angle_deg=0, ring=ring, group=group, short=short, x_mm=x)

        pushed = [
            spots(plan, f"play{a}-", tuple(
                one(f"{word}{a}", f"play{a}-", f"Play along {a}", f"the needle, {word}", word, x)
                for word, x in (("pushed", 1.0), ("pulled", -1.0))
            ), closes=False)
            for a in plan.axes
        ]  # fmt: skip
        sides = ((LOW, "the low side", -1.0), (HIGH, "the high side", 1.0))
        back = [
            one(
                f"{key}{n}", "back-", f"From {side}", f"return {n} from {side}", f"Low {n}" if x < 0 else f"High {n}", x
            )
            for key, side, x in sides
            for n in range(1, plan.returns + 1)
        ]
        flicks = [
            one(f"{FLICK}{n}", "arm-", "Arm flicked", f"flick {n}", f"Flick {n}", 0.0)
            for n in range(1, plan.flicks + 1)
        ]
        bars = [
            ring(plan, key, name, "") for key, name in zip(BARS, ("Bar as gripped,", "Bar half over,"), strict=True)
        ]
        apart = (spots(plan, "back-", tuple(back), closes=False), spots(plan, "arm-", tuple(flicks), closes=False))
        return (*pushed, *apart, *bars)

    def remount(self, state: State[MachinePlan], ring: str) -> Text:
        """See ``Measured``."""
        along = state.plan.along
        if ring.startswith("play"):
            return text(
                "Indicator along ", strong(ring[4]), ", on what the part sits on. ",
                strong("Push"), " it by hand as hard as a cut would, and hold; then ", strong("pull"), ".",
            )  # fmt: skip
        return {
            "back-": text(f"Indicator along {along}. Run off a turn and come back to ", strong("the same mark"), ", each time from "
                "the low side; then from the high side."),
            "arm-": text("Leave everything where it is. ", strong("Flick the arm"), " with a finger and let it settle."),
            BARS[0]: text("Indicator on ", strong("the bar"), ", a finger above what holds it. Turn the spindle by hand."),
            BARS[1]: text("Loosen the bar, turn it ", strong("half over"), ", grip again as always. Same marks of the spindle."),
        }[ring]  # fmt: skip

    def found(self, state: State[MachinePlan], one: Pass) -> Found | None:
        """What the pass says; None until it is read, or when too little of it is known."""
        return once(state.memo, "machine", one.number, lambda: self._found(state, one))

    def _found(self, state: State[MachinePlan], one: Pass) -> Found | None:
        plan, seen = state.plan, {key: m.seen(state, one) for key, m in state.measures.items()}
        near = seen["back-"].toward_mm
        low, high = (np.array([mm for key, mm in near.items() if key.startswith(side)]) for side in (LOW, HIGH))
        arm = np.array(list(seen["arm-"].toward_mm.values()))
        play = [list(seen[f"play{a}-"].toward_mm.values()) for a in plan.axes]
        if not state.proved or not all(s.complete for s in seen.values()):
            return None
        if min(len(low), len(high), len(arm)) < 3 or min(map(len, play)) < 2:
            return None
        least = plan.gauge.u_read_mm  # nothing is seen finer than the dial is read
        pooled = math.sqrt((low.var() * len(low) + high.var() * len(high)) / (len(low) + len(high) - 2))
        back, flick = max(pooled, least), max(float(arm.std(ddof=1)), least)
        parts = back**2, flick**2
        dof = sum(parts) ** 2 / (parts[0] ** 2 / (len(low) + len(high) - 2) + parts[1] ** 2 / (len(arm) - 1))
        looks = [look_ring(state, one, key) for key in BARS]
        centers = tuple(look.center for look in looks if look.center is not None)
        u = max((look.fit.u_mm for look in looks if look.fit), default=0.0)
        return Found(
            play_mm={axis: abs(a - b) for axis, (a, b) in zip(axes_of(plan), play, strict=True)},
            return_sd_mm=back, arm_sd_mm=flick, dof=dof, backlash_mm=abs(float(low.mean() - high.mean())),
            u_backlash_mm=back * math.sqrt(1 / len(low) + 1 / len(high)),
            bar=split_parts((0.0, 180.0), centers, u) if len(centers) == 2 else None,
        )  # fmt: skip

    def judge(self, plan: MachinePlan, found: Found) -> Verdict:
        """Its floor against what was asked of it; a scatter is known to ``1/sqrt(2 dof)`` of itself."""
        scatter = 2 * found.floor_mm / math.sqrt(2 * found.dof)
        terms = budget(plan.gauge.u_read_mm, plan.gauge, floor_mm=0.0, scatter_mm=scatter)
        return judge("tir", found.floor_mm, plan.limit.mm, terms)

    def solved(self, state: State[MachinePlan], one: Pass) -> Solution:
        """See ``Measured``."""
        found, told = self.found(state, one), Solution(pass_no=one.number)
        if found is not None:
            told = Solution(
                pass_no=one.number, figures=self._figures(found), judged=self.judge(state.plan, found),
                caveats=self._what_to_do(found), told=self._told(state.plan, found),
            )  # fmt: skip
        return self.doubted(state, one, told, [look_ring(state, one, key) for key in BARS])

    def _figures(self, found: Found) -> tuple[Figure, ...]:
        play = [Figure(id=f"play{a}", label=f"Play along {a}", mm=mm) for a, mm in found.play_mm.items()]
        bar = found.bar
        turned = [
            Figure(id="spindle", label="Spindle and holder, TIR", mm=2 * abs(bar.fixed), u_mm=2 * bar.u_fixed_mm),
            Figure(id="bar", label="Bar’s own, TIR", mm=2 * abs(bar.turned), u_mm=2 * bar.u_turned_mm),
        ] if bar else []  # fmt: skip
        return (
            Figure(id="floor", label="Repeats to, TIR", mm=found.floor_mm),
            Figure(id="returns", label="A return, 95 of 100", mm=2 * found.return_sd_mm),
            Figure(id="arm", label="The arm, 95 of 100", mm=2 * found.arm_sd_mm),
            Figure(id="backlash", label="Backlash", mm=found.backlash_mm, u_mm=found.u_backlash_mm),
            *play, *turned,
        )  # fmt: skip

    def _told(self, plan: MachinePlan, found: Found) -> Text:
        return text(f"{plan.machine.name} repeats to ", length(found.floor_mm), " TIR.")

    def _what_to_do(self, found: Found) -> tuple[Caveat, ...]:
        """What most of it comes from, the side to come from, and the axis to lock."""
        more, less = sorted((("returns", found.return_sd_mm), ("arm", found.arm_sd_mm)), key=lambda part: -part[1])
        most = f"; most of it is {WHOLE[more[0]]}" if more[1] > 1.5 * less[1] else ""
        told = [("share", text(f"It becomes the floor of its plans{most}."))]
        if found.backlash_mm > found.spot_mm + 2 * found.u_backlash_mm:
            words = "Come to every mark from one side: from the other it stands "
            told.append(("backlash", text(words, length(found.backlash_mm), " off.")))
        axis, play = max(found.play_mm.items(), key=lambda part: part[1])
        if play > found.floor_mm:
            words = f"Lock {axis} in a cut: pushed and pulled it gives "
            told.append(("play", text(words, length(play), ".")))
        return tuple(Caveat(code=code, text=words) for code, words in told)

    def figures(self, state: State[MachinePlan], one: Pass) -> Row:
        """See ``Procedure``."""
        found, line = self.found(state, one), Row(number=one.number, purpose=one.purpose)
        if found is None:
            return line
        bar = found.bar
        changes = {
            "main": Quantity(kind="tir", mm=found.floor_mm), "outcome": self.judge(state.plan, found).outcome,
            "beside": (Quantity(kind="run_out", mm=2 * abs(bar.fixed), u_mm=2 * bar.u_fixed_mm),) if bar else (),
            "toward": text(length(found.backlash_mm)),
        }  # fmt: skip
        return line.model_copy(update=changes)

    def heads(self, plan: MachinePlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return "Repeats to, TIR", "Spindle, TIR", "Backlash"

    def lesson(self, state: State[MachinePlan]) -> Lesson:
        """The floor of the machine, rounded up, once a whole pass is judged and nothing forbids to believe it."""
        one = state.open_pass
        found = self.found(state, one) if one and state.verdict else None
        if found is None or one is None or self.doubt(state, one) is not None:
            return Lesson()
        read = max(e.at for e in state.effective if isinstance(e.body, ev.ReadingTaken))
        spindle = 2 * abs(found.bar.fixed) if found.bar else None
        floor = Floor(
            at=read,
            floor_mm=math.ceil(1e4 * found.floor_mm) / 1e4,
            play_mm=found.play_mm,
            backlash_mm=found.backlash_mm,
            spindle_mm=spindle,
        )
        return Lesson(floor=floor)

    def scene(self, state: State[MachinePlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        one, now = state.open_pass, state.station(station_id)
        found, groups = [], dict.fromkeys(s.group for s in state.stations)
        for group in groups:
            mine = [s for s in state.stations if s.group == group]
            near = state.measures[mine[0].ring].seen(state, one).toward_mm if one else {}
            middle = sum(near.values()) / max(len(near), 1)  # of both sides, where a row is one side of it
            at = tuple(near[s.id] - middle for s in mine if s.id in near)
            wide = max(at) - min(at) if len(at) == len(mine) else None
            found.append(
                SceneSpread(label=group, at_mm=at, figure_mm=wide, now=now.group == group and not solution.judged)
            )
        return SpreadScene(
            seen="Every reading about the middle of its row, all on one scale.",
            rows=tuple(found),
            limit_mm=state.plan.limit.mm,
            reading="At the end of a row: from its lowest to its highest."
            if solution.judged
            else f"Next: {now.label}.",
            describe=f"Readings of {len(found)} kinds on one scale: play, returns, flicks and the bar.",
        )


def axes_of(plan: MachinePlan) -> tuple[Axis, ...]:
    """The axes that are pushed and pulled."""
    return ("X", "Y", "Z") if plan.axes == "XYZ" else ("X", "Z")


PROCEDURE = MachineCheck()
