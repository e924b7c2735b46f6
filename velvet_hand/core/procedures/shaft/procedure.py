"""A shaft between centers: is it bent, where, and which way? Found and recorded, never pressed."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ...angles import apart, direction_deg, rect
from ...budget import budget
from ...engine.face import SIDE_PART, magnification
from ...engine.measured import Measured
from ...engine.rings import look_ring
from ...engine.telling import worst_drift
from ...errors import BadInput
from ...fit.bend import Bend, find_bend, off_line
from ...measure.base import Measure
from ...path.cautions import SPLINES
from ...path.lathe import GENERAL, check_limit, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.places import about_word, place_word
from ...plan.ring import ring, spots
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge, worst
from ...wording import Text, degrees, length, listed, size, strong, text
from .plan import ShaftPlan


@dataclass(frozen=True, slots=True)
class Axis:
    """The axis as one pass has it: centers by z, what is off the line, their uncertainty, each one's form."""

    z_mm: tuple[float, ...]
    centers: tuple[complex, ...]
    off: tuple[complex, ...]
    u_mm: float
    form_mm: tuple[float, ...]
    bend: Bend | None
    drift_mm: float | None


class Shaft(Measured[ShaftPlan]):
    """Vectors along z; the line through the ends is the centers', the rest is the shaft's."""

    id = "shaft"
    title = "Between centers: is this shaft bent?"
    rank = 100
    only_reads = True
    needs = Needs(
        holder="Two centers; the driving one turned true in its place and not taken out since.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Ground journals to read on, the outer two near the centers.",
    )
    asks = Asks(angles="the mark on its end, counter-clockwise seen from the tailstock",
        surface=False, diameter="Diameter of the journals", limit_kinds=("tir",),
        presets=tuple(p for p in presets("4 spots") if p.id != "12"),
    )  # fmt: skip
    plan_class = ShaftPlan

    def check_plan(self, plan: ShaftPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Fewer than three places, not in order, or the same twice.
        """
        where = "choices.z_mm"
        if len(plan.z_mm) < 3:
            raise BadInput(
                "field_invalid", f"{len(plan.z_mm)} places: two carry the line, so at least three.", "Add one.", where
            )
        if len(plan.z_mm) > 12:
            raise BadInput("field_invalid", "More than twelve places.", "Leave some out.", where)
        if any(b - a < 1 for a, b in zip(plan.z_mm, plan.z_mm[1:], strict=False)):
            raise BadInput("field_invalid", "The places are not in order, each at least 1 mm on.", "Sort them.", where)
        if plan.z_mm[-1] > plan.holder.longest_mm:
            raise BadInput(
                "part_too_big",
                f"{plan.z_mm[-1]:.0f} mm is outside: {plan.holder.name} take {plan.holder.longest_mm:.0f} mm between them.",
                "Check the places and their unit.",
                where,
            )
        check_stations(plan)
        told = list(check_limit(plan))
        if len(plan.z_mm) < 5:
            words = "With fewer than five places a bend shows, but not where it is."
            told.append(Caveat(code="few_places", field=where, text=text(words)))
        return tuple(told)

    def path(self, plan: ShaftPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(
                Caution(id="carry", text="A long shaft is carried by two, or a hoist, until both centers hold it."),
                SPLINES,
                chuck=False,
                where="the shaft",
            ),
            Step(
                id="centres",
                title="Centers",
                hold=True,
                prompt=f"Everything that follows rests on the centers. {GENERAL}",
                cautions=(
                    Caution(id="turned", text="Driving center turned true in place, and not taken out since."),
                    Caution(id="holes", text="Center holes clean, no burr; a drop of oil. No play, no force."),
                ),
            ),
            Step(
                id="clean",
                title="Clean",
                prompt="Read only on ground journals: wipe them, stone nicks. Mark angle 0 on the shaft’s end.",
            ),
            set_gauge(plan, "Ends first: what they run out is the centers’, not the shaft’s."),
            Step(id="prove", title="Read", prompt="The two ends, then every journal between them."),
            clear_to_run(tight="Driver and dog tight, tail center locked."),
        )

    def order(self, plan: ShaftPlan) -> list[int]:
        """Ends first, then from the driving end."""
        return [0, len(plan.z_mm) - 1, *range(1, len(plan.z_mm) - 1)]

    def measures(self, plan: ShaftPlan) -> tuple[Measure, ...]:
        """Each place with its angles, or with its swing and where it is high."""
        return tuple(self._journal(plan, i, f"{place_word(plan, plan.z_mm[i])},") for i in self.order(plan))

    def _journal(self, plan: ShaftPlan, i: int, name: str) -> Measure:
        if plan.noted == "all":
            return ring(plan, f"z{i}-", name, "")
        noted: tuple[tuple[str, str, Literal["swing", "degrees"]], ...] = (
            ("swing", "TIR", "swing"), ("high", "high at", "degrees"),
        )  # fmt: skip
        both = tuple(
            Station(
                id=f"z{i}-{key}", label=f"{name} {word}", angle_deg=0, ring=f"z{i}-", reads=reads, group=name.rstrip(","), short=word
            )
            for key, word, reads in noted
        )  # fmt: skip
        return spots(plan, f"z{i}-", both, closes=False)

    def remount(self, state: State[ShaftPlan], ring: str) -> Text:
        """See ``Measured``."""
        index = int(ring[1:-1])
        what = "end" if index in (0, len(state.plan.z_mm) - 1) else "journal"
        return text(f"Indicator to the {what} at ", size(state.plan.z_mm[index]), ".")

    def place(self, state: State[ShaftPlan], one: Pass, index: int) -> tuple[complex, float, float] | None:
        """Center, its uncertainty and the form at one place."""
        plan = state.plan
        if plan.noted == "high":
            swing, high = (one.readings.get(f"z{index}-{k}") for k in ("swing", "high"))
            if swing is None or high is None or swing.needle_mm is None or high.deg is None:
                return None
            u = plan.gauge.u_read_mm * 2**0.5
            return rect(abs(swing.needle_mm) * state.sense.scale / 2, high.deg), u, 0.0
        look = look_ring(state, one, f"z{index}-")
        if not look.complete or look.center is None or look.fit is None:
            return None
        form = look.fit.form_mm if look.fit.form_mm > 4 * plan.gauge.u_read_mm else 0.0
        return look.center, look.fit.u_mm, form

    def axis(self, state: State[ShaftPlan], one: Pass) -> Axis | None:
        """The whole axis, when every place has been read."""
        plan = state.plan
        places = [self.place(state, one, i) for i in range(len(plan.z_mm))]
        known = [p for p in places if p is not None]
        if len(known) < len(places):
            return None
        centers = tuple(p[0] for p in known)
        u = max(p[1] for p in known)
        return Axis(
            plan.z_mm,
            centers,
            off_line(plan.z_mm, centers),
            u,
            tuple(p[2] for p in known),
            find_bend(plan.z_mm, centers, u),
            worst_drift(state, one),
        )

    def judge(self, state: State[ShaftPlan], axis: Axis) -> Verdict:
        """Each journal's TIR about the line through the ends."""
        plan = state.plan
        u_line = axis.u_mm * 1.5**0.5
        terms = budget(2 * u_line, plan.gauge, stretch=2.0, floor_mm=plan.machine.floor_mm, drift_mm=axis.drift_mm)
        found = [
            judge("tir", 2 * abs(axis.off[i]), plan.limit.mm, terms).model_copy(
                update={"where": f"the journal at {place_word(plan, z)}"}
            )
            for i, z in enumerate(axis.z_mm)
            if 0 < i < len(axis.z_mm) - 1
        ]
        return worst(tuple(found)).model_copy(update={"beside": ()})

    def solved(self, state: State[ShaftPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        axis, ends = self.axis(state, one), self._ends(state, one)
        looks = [look_ring(state, one, key) for key in state.measures] if state.plan.noted == "all" else []
        if axis is None:
            return self.doubted(state, one, Solution(pass_no=one.number, caveats=ends), looks)
        found = Solution(
            pass_no=one.number,
            figures=self._figures(state.plan, axis),
            judged=self.judge(state, axis),
            caveats=(*ends, *self._tell(state, axis)),
            told=self._told(axis),
        )
        return self.doubted(state, one, found, looks, max(axis.off, key=abs))

    def _ends(self, state: State[ShaftPlan], one: Pass) -> tuple[Caveat, ...]:
        """Runout at the ends belongs to the centers."""
        plan = state.plan
        ends = [self.place(state, one, i) for i in (0, len(plan.z_mm) - 1)]
        worse = max((abs(e[0]) for e in ends if e is not None), default=0.0)
        if 2 * worse <= plan.limit.mm:
            return ()
        words = text(
            "The ends run out ", length(2 * worse), " TIR: that is the centers’, or the end itself is bent. It is taken out as "
            "a straight line; better true the centers first and read again.",
        )  # fmt: skip
        return (Caveat(code="ends", text=words),)

    def _tell(self, state: State[ShaftPlan], axis: Axis) -> tuple[Caveat, ...]:
        """Worn journals are no bend."""
        told = []
        if axis.bend is not None and axis.bend.sure:
            words = "This finds and records. Straightening is dangerous work for somebody qualified; nothing is pressed here."
            told.append(Caveat(code="no_press", text=text(words)))
        worn = [
            place_word(state.plan, z)
            for z, form in zip(axis.z_mm, axis.form_mm, strict=True)
            if form > state.plan.limit.mm / 2
        ]
        if not worn:
            return tuple(told)
        words = f"Out of round by itself at {listed(worn)}: worn, or never round. That is no bend."
        return (*told, Caveat(code="worn", text=text(words)))

    def _told(self, axis: Axis) -> Text:
        """Bent in one direction, turned eccentric in several, or straight."""
        bend = axis.bend
        plain = [z for z in axis.off[1:-1] if abs(z) > 3 * axis.u_mm]
        if not plain:
            return text(strong("Straight"), " as far as this indicator can tell.")
        one_way = max(apart(direction_deg(a), direction_deg(b)) for a in plain for b in plain) < 50
        if bend is not None and bend.sure and one_way:
            return text(
                strong("Bent "), length(2 * bend.height_mm), " TIR, ", size(bend.place_mm), " from the driving end. Give or take ",
                size(max(bend.u_place_mm, 0.5)), f"; high at {degrees(bend.high_deg)}.",
            )  # fmt: skip
        if one_way:
            high = direction_deg(max(plain, key=abs))
            return text(
                strong("Bowed"), f" one way, high at {degrees(high)}; too few places, or too smooth, to say where."
            )
        return text(
            strong("Not one bend"),
            ": the journals run out in different directions. They were turned eccentric, or are worn.",
        )

    def _figures(self, plan: ShaftPlan, axis: Axis) -> tuple[Figure, ...]:
        found = []
        if axis.bend is not None and axis.bend.sure:
            b = axis.bend
            note = text("at ", size(b.place_mm), f", high {degrees(b.high_deg)}")
            found.append(Figure(id="bend", label="Bend, TIR", mm=2 * b.height_mm, u_mm=2 * b.u_height_mm, note=note))
        for i in sorted(range(1, len(axis.z_mm) - 1), key=lambda i: -abs(axis.off[i]))[:3]:
            note = text(f"high {degrees(direction_deg(axis.off[i]))}")
            label = f"At {place_word(plan, axis.z_mm[i])}, TIR"
            found.append(
                Figure(id=f"z{i}", label=label, mm=2 * abs(axis.off[i]), u_mm=2 * axis.u_mm * 1.5**0.5, note=note)
            )
        return tuple(found)

    def figures(self, state: State[ShaftPlan], one: Pass) -> Row:
        """By the worst journal."""
        axis = self.axis(state, one)
        judged = self.judge(state, axis) if axis else None
        big = max(axis.off, key=abs) if axis else None
        toward = text(f"{degrees(direction_deg(big))}, {judged.where.removeprefix('the ')}") if big and judged else ()
        row = Row(number=one.number, purpose=one.purpose, toward=toward, outcome=judged.outcome if judged else None)
        if big is None or axis is None:
            return row
        u = axis.u_mm * 1.5**0.5
        both = Quantity(kind="tir", mm=2 * abs(big), u_mm=2 * u), Quantity(kind="off_centre", mm=abs(big), u_mm=u)
        changes = {"main": both[0], "beside": both[1:], "track_x_mm": big.real, "track_y_mm": big.imag}
        return row.model_copy(update=changes)

    def scene(self, state: State[ShaftPlan], solution: Solution, station_id: str) -> Scene:
        """The axis from the side, in its worst plane."""
        plan, current = state.plan, state.open_pass
        axis = self.axis(state, current) if current else None
        station = state.station(station_id)
        bend = axis.bend if axis and axis.bend and axis.bend.sure else None
        up = bend.high_deg if bend else direction_deg(max(axis.off, key=abs)) if axis else 0.0
        stops = []
        for i, z in enumerate(plan.z_mm):
            off = axis.off[i] if axis else None
            read = current is not None and self.place(state, current, i) is not None
            stops.append(
                SceneStop(
                    label=f"{z:g}", z_mm=z, height_mm=None if off is None else (off * rect(1, -up)).real,
                    tir_mm=None if off is None else 2 * abs(off), over=off is not None and 2 * abs(off) > plan.limit.mm,
                    state="now" if station.ring == f"z{i}-" and not axis else "read" if read else "open",
                )
            )  # fmt: skip
        largest = max((abs(z) for z in axis.off), default=0.0) if axis else 0.0
        return AxisScene(
            seen="Seen from your side, driving end at the left",
            held="centres",
            length_mm=plan.z_mm[-1],
            stops=tuple(stops),
            line=SceneLine(z1_mm=plan.z_mm[0], h1_mm=0.0, z2_mm=plan.z_mm[-1], h2_mm=0.0) if axis else None,
            known=axis is not None,
            magnification=magnification(largest, plan.z_mm[-1] * SIDE_PART, plan.gauge.graduation_mm),
            up=text(f"Up is {degrees(up)} on the shaft") if axis else (),
            mark_z_mm=bend.place_mm if bend else None,
            mark=text("bent here, ", length(2 * bend.height_mm), " TIR") if bend else (),
            limit_mm=plan.limit.mm / 2,
            reading=station.label,
            describe=f"The shaft from the side with {len(stops)} places"
            + (f", bent at {about_word(plan, bend.place_mm)}." if bend else "."),
        )


PROCEDURE = Shaft()
