"""A mill's head square to its table: swept on a circle, swivelled left or right, nodded fore or aft."""

from __future__ import annotations

import math
from typing import Literal

from ...engine.answers import Answers
from ...engine.beyond import AS_FAR, shown_part
from ...engine.face import Face
from ...engine.learning import Learned
from ...engine.one_ring import OneRing
from ...engine.rings import look_ring
from ...errors import BadInput
from ...estimate.kalman import Belief
from ...estimate.one_gain import Moved
from ...gauge import Carrier, Surface
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Asked, Lean, Move, Needle
from ...path.cautions import DRIVES
from ...path.lathe import GENERAL, check_limit, check_stations, spread
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs, Preset
from ...plan.places import about_word
from ...plan.ring import ring, spots, turn_stations
from ...quantity import HEADS
from ...readings import Pass, Station
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict
from ...wording import Text, degrees, length, strong, text
from .answers import acts_of, answers_of, brought, side_of
from .plan import TramPlan

#: Where things are, seen from above with the operator in front.
_SIDES = {0.0: "right", 90.0: "back", 180.0: "left", 270.0: "front"}
#: A tilt of less than such a part of the limit waits for the pass after the bigger one.
COUNTS = 8
#: An axis that is found nearer than this to where it was said is not spoken of (mm).
ELSEWHERE_MM = 20.0
_QUILL = (("x-up", "x, quill up"), ("x-down", "x, quill down"), ("y-up", "y, quill up"), ("y-down", "y, quill down"))


class Tram(OneRing[TramPlan]):
    """Reading = mean + r tan(tilt) cos(angle - lean), an exact sinusoid: TIR = 2 r tan(tilt).

    The top of the spindle leans toward the high reading. The one height that does not change when the
    head turns is the plane's at the pivot, so that is the aim.
    """

    id = "tram"
    title = "Mill head square to the table"
    rank = 130
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "gauge_turns"
    needs = Needs(
        holder="A head that swivels or nods, with its clamp bolts.",
        gauge="A lever or plunger indicator on an arm in the spindle.",
        machine="A mill whose spindle can be turned by hand.",
        part="The table, or a flat plate that lies on it without a chip.",
    )
    asks = Asks(part="What it is done for", angles="the right, counter-clockwise seen from above",
        surface=False, place=False, view=False, diameter="Diameter of the sweep", limit_kinds=("tir",),
        presets=(
            Preset(id="4", word="4 sides", hint="Right, back, left, front.", stations_deg=spread(4)),
            Preset(id="8", word="8 spots", hint="Shows slots and a table that is not flat.", stations_deg=spread(8)),
        ),
    )  # fmt: skip
    plan_class = TramPlan
    ring = "sweep-"
    word = ""
    mend = "turning the head"
    holder_shape: Literal["jaws", "screws", "faceplate"] = "faceplate"
    holder_name = "Table"
    wrong_way = ", and look which way the head turns"
    near_by = "by the head’s scale or a square"
    kick_repeats = True

    def check_plan(self, plan: TramPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            A sweep without a size, stations that leave a side out, a limit the gauge cannot show.
        """
        if plan.part.diameter_mm < 20:
            raise BadInput(
                "part_too_small",
                "So small a sweep shows no tilt.",
                "Sweep as wide as the table allows.",
                "part.diameter",
            )
        check_stations(plan)
        told = [*check_limit(plan)]
        words = f"Square to the table over a sweep of {about_word(plan, plan.part.diameter_mm)}: over half of it, it is half as much."
        told.append(Caveat(code="over_the_sweep", field="limit.typed", text=text(words)))
        return tuple(told)

    def path(self, plan: TramPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            Step(
                id="make_safe",
                title="Make safe",
                hold=True,
                prompt=f"Make it safe before hands go near the spindle. {GENERAL}",
                cautions=(
                    Caution(id="stopped", text=f"Spindle cannot start: out of gear or locked; {DRIVES}"),
                    Caution(
                        id="head",
                        text="A head is heavy: its clamp bolts only eased, never taken out; jack or strap if it nods.",
                    ),
                    Caution(id="sleeves", text="Safety glasses on; no sleeves, gloves, rings or rags near what turns."),
                ),
            ),
            Step(
                id="clean",
                title="Clean",
                prompt="Stone and wipe the table, or the plate on it; no chip under it. Knee and gibs locked as in use.",
            ),
            Step(
                id="set_gauge",
                title="Set indicator",
                headline=text(
                    "Lift ",
                    strong("the stylus"),
                    " a hair, as the table would. Which way does it go?",
                ),
                prompt="Arm stiff, joints locked. Turn the spindle by hand one full turn: nothing hits, lift over slots.",
            ),
            Step(
                id="read", title="Read & turn", prompt="Read right, back, left, front; then turn the head to the aim."
            ),
            Step(
                id="nip_up",
                title="Clamp",
                headline=text("Clamp the head ", strong("in steps, crosswise"), ", watching the needle."),
                prompt="Bolts to the torque in the machine’s manual. It often creeps at the last turn; what it does is learned.",
            ),
            Step(id="prove", title="Prove", prompt="Clamped as in use: sweep again, and the first side once more."),
            Step(
                id="clear_to_run",
                title="Clear to run",
                hold=True,
                prompt=f"Last look before power. {GENERAL}",
                cautions=(
                    Caution(id="gauge_off", text="Indicator and base taken off, arm out of the spindle."),
                    Caution(id="key_out", text="All clamp bolts of the head tight, wrenches off."),
                    Caution(id="by_hand", text="One full turn by hand: nothing hits table, vise or guard."),
                ),
            ),
        )

    def measures(self, plan: TramPlan) -> tuple[Measure, ...]:
        """The sweep, its sides by name; then the quill once, when it is checked."""
        sweep = tuple(
            s.model_copy(
                update={
                    "label": f"Sweep, {_SIDES.get(s.angle_deg, s.short)}",
                    "short": _SIDES.get(s.angle_deg, s.short),
                }
            )
            for s in turn_stations(plan, "sweep-", "Sweep,", "")
        )
        # a head that leans takes the needle up or down as well, all round
        swept = ring(plan, "sweep-", flat=True, spots=sweep, level_stays=False)
        if not plan.quill_mm:
            return (swept,)
        quill = tuple(
            Station(
                id=f"quill-{key}",
                label=f"Quill, {word}",
                angle_deg=0.0,
                ring="quill-",
                group="Quill",
                short=word,
                when="first",
            )
            for key, word in _QUILL
        )
        return spots(plan, "quill-", quill, closes=False), swept

    def look(self, state: State[TramPlan], one: Pass) -> RingLook:
        """The sweep: ``r = v . u`` exactly, v toward the high side."""
        return look_ring(state, one, "sweep-")

    def toward(self, state: State[TramPlan], deg: float) -> Text:
        """A direction by the table's sides."""
        near = round(deg / 90) % 4 * 90.0
        return text(f"{_SIDES[near]}" if abs((deg - near + 180) % 360 - 180) < 10 else f"{degrees(deg)}")

    def moves(self, state: State[TramPlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """Both tilts where both count, else the bigger; then everything is read again.

        What turns about an axis far from the spindle takes the whole sweep up or down, and nobody stops just so: it comes last, and
        alone where even the other one takes it farther than is left to do.
        """
        if look.center is None or look.fit is None:
            return ()
        plan, need = state.plan, look.center + learned.shift
        radius, least = plan.part.diameter_mm / 2, plan.gauge.graduation_mm / 4
        bigger, other = sorted(((True, need.real), (False, need.imag)), key=lambda tilt: -abs(tilt[1]))
        if abs(bigger[1]) < least:
            return ()
        tilts = [bigger]
        if abs(other[1]) >= max(least, plan.limit.mm / COUNTS):
            near, far = sorted((bigger, other), key=lambda tilt: abs(self._pivot(state, tilt[0])))
            if abs(near[1] * self._pivot(state, near[0])) <= abs(far[1]) * radius:
                tilts = [near, far]
        found: list[Lean] = []
        level = look.fit.mean_mm + look.walked_mm
        for in_x, tilt in tilts:
            asked = learned.ask(abs(tilt))
            found.append(self._move(state, look, in_x, tilt, asked, level))
            level += math.copysign(asked, tilt) * self._pivot(state, in_x) / radius
        return tuple(found)

    def _pivot(self, state: State[TramPlan], in_x: bool) -> float:
        """Where that axis lies, as planned and as its turns have shown."""
        return float(self.learned(state).known.belief.x[5 if in_x else 6])

    def answers(self, state: State[TramPlan]) -> Answers[Moved]:
        """See ``Corrected``: a gain, a shift, and where both axes lie."""
        return answers_of(state, self.looks(state))

    def acts_of(self, state: State[TramPlan], moves: tuple[Move, ...]) -> tuple[Moved, ...]:
        """See ``Corrected``."""
        return acts_of(state, moves, self.looks(state))

    def bring(
        self, state: State[TramPlan], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Moved, ...], tuple[int, ...]] | None:
        """See ``Corrected``."""
        return brought(state.plan, belief), ways

    def _move(
        self, state: State[TramPlan], look: RingLook, in_x: bool, tilt_mm: float, asked_mm: float, mean: float
    ) -> Lean:
        """One tilt taken out; ``mean`` is what the needle shows in the middle of the sweep before it."""
        plan, sense, fit = state.plan, state.sense, look.fit
        assert fit is not None
        along = self._pivot(state, in_x) / (plan.part.diameter_mm / 2)
        now_tilt, way = (fit.x_mm if in_x else fit.y_mm), 1 if tilt_mm > 0 else -1
        spots = {s.angle_deg: s.id for s in state.stations if s.ring == "sweep-"}
        side = side_of(along)  # it shows more there
        watch = (0.0 if side > 0 else 180.0) if in_x else (90.0 if side > 0 else 270.0)
        here, goes = mean + side * now_tilt, -way * (side - along)
        part = shown_part(state, sense.needle_mm(here), sense.needle_mm(here + goes * asked_mm))
        asked_mm *= part
        needle = Needle.at(
            sense, here, here + goes * asked_mm, station_id=spots.get(watch, ""), label=_SIDES[watch], deg=watch
        )
        lean = (0.0 if tilt_mm > 0 else 180.0) if in_x else (90.0 if tilt_mm > 0 else 270.0)
        to = {0.0: "to the left", 180.0: "to the right", 90.0: "toward you", 270.0: "away from you"}[lean]
        verb = "Swivel" if in_x else "Nod"
        return Lean(
            pass_no=look.number,
            at_deg=lean,
            mm=asked_mm,
            needle=needle,
            asked=Asked(mm=asked_mm, deg=(lean + 180) % 360),
            title="the swivel" if in_x else "the nod",
            sentence=text(
                f"At the {_SIDES[watch]}: {verb.lower()} ", strong(f"the head’s top {to}"), f", {needle.to}."
            ),
            reason=text(
                f"The table reads high at the {_SIDES[lean]}, so the spindle’s top leans that way: ", length(2 * abs(now_tilt)),
                " over the sweep. ",
                "It turns about the spindle, so half of the difference is right."
                if along == 0
                else "It turns about an axis beside the spindle, so the aim is the table’s height there, not the half.",
                self._seen(state, in_x),
                AS_FAR if part < 1 else "",
            ),
            rezero=part < 1,
            log=text(f"{verb} of the head, top {to}"),
        )  # fmt: skip

    def _seen(self, state: State[TramPlan], in_x: bool) -> str:
        """Where an axis lies, when that is not where the plan has it."""
        said = state.plan.pivot_x_mm if in_x else state.plan.pivot_y_mm
        found, sd = self._pivot(state, in_x), self.learned(state).known.belief.sd(5 if in_x else 6)
        if abs(found - said) < max(3 * sd, ELSEWHERE_MM):
            return ""
        side = ("right of" if found > 0 else "left of") if in_x else ("behind" if found > 0 else "in front of")
        return (
            f" As its turns have shown, that axis lies about {about_word(state.plan, abs(found))} {side} the spindle."
        )

    def heads(self, plan: TramPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return "TIR", HEADS["half_tir"], "Toward"

    def line(
        self, state: State[TramPlan], one: Pass, look: RingLook, judged: Verdict | None, asked_mm: float | None,
        got_mm: float | None,
    ) -> Row:  # fmt: skip
        """See ``Corrected``: half of the TIR is the tilt's own size, nothing is off center."""
        row = super().line(state, one, look, judged, asked_mm, got_mm)
        return row.model_copy(update={"beside": tuple(q.model_copy(update={"kind": "half_tir"}) for q in row.beside)})

    def solve(self, state: State[TramPlan]) -> Solution:
        """Nothing is off center here: half of the TIR is the tilt's own size."""
        found = super().solve(state)
        named = tuple(
            f.model_copy(update={"label": "Half of the TIR"}) if f.id == "off_centre" else f for f in found.figures
        )
        return found.model_copy(update={"figures": named})

    def more_figures(self, state: State[TramPlan], look: RingLook) -> tuple[Figure, ...]:
        """Both tilts over the sweep, and the quill's lean over its travel."""
        found = []
        if look.fit is not None:
            for key, word, mm, sides in (
                ("x", "left-right", look.fit.x_mm, (0, 180)),
                ("y", "fore-aft", look.fit.y_mm, (90, 270)),
            ):
                high = _SIDES[float(sides[0] if mm >= 0 else sides[1])]
                note = text(f"high at the {high}")
                found.append(
                    Figure(id=f"tilt_{key}", label=f"Tilt {word}", mm=2 * abs(mm), u_mm=2 * look.fit.u_mm, note=note)
                )
        return (*found, *self._quill(state))

    def _quill(self, state: State[TramPlan]) -> tuple[Figure, ...]:
        """Along a square: what the needle changes between quill up and down."""
        seen = {}
        for one in state.passes:
            for key, _ in _QUILL:
                reading = one.good().get(f"quill-{key}")
                if reading is not None and reading.needle_mm is not None:
                    seen[key] = state.sense.toward_mm(reading.needle_mm)
        found = []
        for axis in "xy":
            if f"{axis}-up" in seen and f"{axis}-down" in seen:
                mm = abs(seen[f"{axis}-down"] - seen[f"{axis}-up"])
                found.append(Figure(id=f"quill_{axis}", label=f"Quill leans in {axis}", mm=mm))
        return tuple(found)

    def face_of(self, state: State[TramPlan]) -> Face:
        """The table from above."""
        seen = super().face_of(state)
        return Face(
            look=seen.look,
            centers=seen.centers,
            holder="faceplate",
            name=seen.name,
            seen="Seen from above, you at the bottom",
        )


PROCEDURE = Tram()
