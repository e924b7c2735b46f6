"""A column on a rotary axis: the axis to the machine, flange and far end, then the tailstock, which must not move it.

``tilt = (far - flange)/L``; a face that is high at F (vector, toward the indicator) seats it by ``-F/r``; what is left,
``tilt - seat``, is the column's own. Slide by bumping at the flange, tilt by shims under it: ``p_j = r tilt . u_j - min``, the
thickest where the column leans to. The far end's center is what counts; the flange only has to come near.
"""

from __future__ import annotations

from ...angles import direction_deg, rect
from ...budget import budget
from ...engine.blows import tap_move
from ...engine.face import Face, face, magnification
from ...engine.many_rings import ManyRings
from ...engine.rings import judge_ring, look_ring
from ...engine.shimmed import pieces_words
from ...engine.telling import drift_caveat, empty, off_caveats, pass_line, ring_figures, wild_caveats, worst_drift
from ...errors import BadInput
from ...fit.beam import droop_mm, tail_ratio
from ...fit.packing import nearest_stack
from ...fit.plane import choose_shims, rest_on
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Move, Needle, Packet, Shim, Slide, Stage, Swing, TapRound
from ...path.lathe import GENERAL, check_limit, check_stations, presets, spread
from ...path.mill import make_safe_mill
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring, spots, turn_stations
from ...quantity import HEADS, Quantity
from ...readings import Pass, Station
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, judge, worst
from ...wording import Bit, Text, length, signed, strong, text, words_of
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


class Column(ManyRings[ColumnPlan]):
    """Three stages, each with its own spots; a move at the end of each opens the next."""

    id = "column"
    title = "A column on a rotary axis, with its tailstock"
    rank = 210
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="A column with the length from flange to end; a drawer of shims.",
        gauge="A lever or plunger gauge on the spindle or column; marks no coarser than a quarter of the limit.",
        machine="A mill with a rotary axis and a tailstock; both stopped while hands are near.",
        part="Round at its flange and at its far end, or a plug that is.",
    )
    asks = Asks(surface=False, place=False, view=False, presets=presets("4 spots"), diameter="Diameter that is read")
    plan_class = ColumnPlan

    def check_plan(self, plan: ColumnPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Places in the wrong order, an empty drawer, stations that leave a side out, a limit the gauge cannot show.
        """
        check_stations(plan)
        if not any(p.count for p in plan.stock.pieces):
            raise BadInput(
                "field_invalid", f"{plan.stock.name} is empty.", "Put shims into it in the Shop.", "choices.stock"
            )
        if plan.tail == "yes" and plan.centre_z_mm < 0.5 * plan.far_z_mm:
            raise BadInput(
                "field_invalid",
                "The center holds the column at its far end.",
                "Check where it touches.",
                "choices.centre_z_mm",
            )
        if plan.bar == "yes" and plan.bar_far_mm - plan.bar_near_mm < 20:
            raise BadInput(
                "field_invalid",
                "The bar’s two places are too close together.",
                "Read it near and far out.",
                "choices.bar_far_mm",
            )
        told = [*check_limit(plan)]
        if plan.tail == "yes" and plan.far_z_mm < 0.6 * plan.centre_z_mm and plan.gives != "tips":
            words = "The gauge stands low on a column that bends: what the tailstock does shows little there. Read nearer to the center."
            told.append(Caveat(code="gauge_low", field="choices.far_z_mm", text=text(words)))
        return tuple(told)

    def path(self, plan: ColumnPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        bar = (
            "A straight bar in the rotary first; the column after it. "
            if plan.bar == "yes"
            else "Column on its flange, bolts snug. "
        )
        return (
            make_safe_mill(
                Caution(id="rotary", text="Rotary axis turned by hand or by its wheel only; its drive off."),
                Caution(id="column", text="The column held or hung until two bolts are snug."),
            ),
            Step(id="clean", title="Clean & stone", prompt=f"Stone flange and table, wipe; center and "
                f"center hole clean. {bar}Tailstock back."),
            Step(
                id="set_gauge", title="Set gauge",
                headline=text("Lift ", strong("the stylus"), " a little by hand, as a higher surface would. Which way does the needle go?"),
                far_headline=text("Gauge against the flange’s face: press ", strong("the stylus"), " a little, as if the face came nearer. "
                    "Which way does the needle go?"),
                prompt=f"Gauge on top, over the axis. Turn the axis one full turn by hand: nothing hits. {GENERAL}",
            ),
            Step(id="read", title="Read & move", prompt="Bump at the flange through a soft block; hitting the free "
                "end only bends it. As it comes in, snug more."),
            Step(
                id="nip_up", title="Tighten",
                headline=text("Tighten ", strong("flange bolts crosswise, then the tailstock"), ", in small steps, watching the needle."),
                prompt="The column must not move when the center is tightened: not on top, not at the side.",
                cautions=(Caution(id="shims", text="Every shim lies flat under its bolt and cannot creep out."),),
            ),
            Step(id="prove", title="Prove", prompt="All tight: everything of this stage again, and the first spot once more."),
            Step(
                id="clear_to_run", title="Clear to run", hold=True, prompt=f"Last look before power. {GENERAL}",
                cautions=(
                    Caution(id="gauge_off", text="Gauge and base taken off; blocks and wrenches off the table."),
                    Caution(id="round", text="One full turn by hand: the column clears spindle, table and guard."),
                    Caution(id="note", text="What is machined in place is noted: next time those faces are picked up."),
                ),
            ),
        )  # fmt: skip

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
        """See ``ManyRings``."""
        if ring == TAIL:
            return text("Back the ", strong("center"), " off, gauge on top at the far end.")
        return ()

    # -- what was read ------------------------------------------------------------------------------

    def ring(self, state: State[ColumnPlan], one: Pass, name: str) -> RingLook | None:
        """A ring of this pass, whole."""
        if not any(s.ring == name for s in state.asked(one)):
            return None
        look = look_ring(state, one, name)
        return look if look.complete and look.fit is not None else None

    def bar_slopes(self, state: State[ColumnPlan], one: Pass) -> tuple[float, float] | None:
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

    # -- judgment ----------------------------------------------------------------------------------

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
        limit = plan.limit.mm / (2 if plan.limit.kind == "tir" else 1)
        terms = budget(2**0.5 * plan.gauge.u_read_mm, plan.gauge, floor_mm=plan.machine.floor_mm)
        sides = tuple(
            judge("off_centre", abs(mm), limit, terms).model_copy(update={"where": where})
            for mm, where in zip(pushed, ("pushed on top", "pushed at the side"), strict=True)
        )
        return worst((found, *sides))

    # -- what to do ---------------------------------------------------------------------------------

    def moves(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """The next thing in the order of the stages."""
        stage = state.stage(one.number - 1)
        if stage == AXIS:
            return self._axis(state, one)
        if stage == COLUMN:
            return self._column(state, one)
        return self._held(state, one)

    def _axis(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """Shim and swing the rotary’s base until bar and travel agree; then the column comes on."""
        plan, slopes = state.plan, self.bar_slopes(state, one)
        if slopes is None:
            return ()
        up, side = slopes
        span = plan.bar_far_mm - plan.bar_near_mm
        least = max(plan.gauge.graduation_mm, plan.limit.mm / 8)
        lift = abs(up) * plan.foot_mm
        pieces = nearest_stack(lift, {p.mm: p.count for p in plan.stock.pieces})
        if abs(up) * span > least and abs(lift - sum(pieces)) < 0.8 * lift:
            foot = "front of the rotary (column end)" if up < 0 else "back of the rotary (drive end)"
            packet = Packet(number=1 if up < 0 else 2, name=foot, mm=sum(pieces))
            left = abs(lift - sum(pieces)) / plan.foot_mm * span
            return (
                Shim(
                    pass_no=one.number, measure=BAR, packets=(packet,), title="the axis", made="Shimmed, read again", teaches=False,
                    expects=Quantity(kind="over_bar", mm=left),
                    sentence=text("Put ", *pieces_words(pieces), " more under ", strong(f"the {foot}"), "."),
                    reason=text("The bar, turned half over, "
                        "says that the axis ", "rises " if up > 0 else "falls ", length(up * span), " toward its far place. Droop "
                        "and taper are taken off."),
                    log=text("Rotary shimmed: ", *pieces_words(pieces), f" under the {foot}"),
                ),
            )  # fmt: skip
        if abs(side) * span > least:
            sense = state.sense_of(state.station("bar-side-far-180"))
            reading = one.readings["bar-side-far-180"].needle_mm or 0.0
            way = "away from you" if side > 0 else "toward you"
            here = sense.toward_mm(reading)
            needle = Needle.at(sense, here, here - side * span, station_id="bar-side-far-180", label="bar, side, far")
            return (
                Swing(
                    pass_no=one.number, near=side < 0, mm=abs(side) * span, needle=needle, title="the axis", teaches=False,
                    sentence=text("Gauge at the bar’s side, far place. Swing ", strong("the rotary’s base"), f" so that the bar’s end goes "
                        f"{way}, until {needle.does}."),
                    reason=text("The axis runs ", length(side * span), f" {'toward you' if side > 0 else 'away from you'} "
                        f"over the bar. It swings about its near bolt."),
                    log=text(f"Rotary’s base swung, bar’s end {way}"),
                ),
            )  # fmt: skip
        return (
            Stage(
                pass_no=one.number, what="column_on", teaches=False, title="the column", made="Column is on, read it", opens=True,
                sentence=text("The axis is true. ", strong("Bar out, column on"), ", bolts snug."),
                reason=text("Rotary axis before column: now the column is brought to it."), log=text("Bar out, column on"),
            ),
        )  # fmt: skip

    def _column(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        plan, flange, far, tilt = (
            state.plan,
            self.ring(state, one, FLANGE),
            self.ring(state, one, FAR),
            self.tilt(state, one),
        )
        if flange is None or far is None or tilt is None or flange.center is None or far.center is None:
            return ()
        least = plan.gauge.graduation_mm / 2
        if 2 * abs(flange.center) > plan.flange_limit_mm:
            why = text(
                "The flange runs out ",
                length(2 * abs(flange.center)),
                " TIR, more than near enough. The far end goes with it. ",
            )
            return (self._bump(state, one, flange, -flange.center, why),)
        shims, left = self.shims(state, tilt)
        if abs(tilt) * plan.far_z_mm > max(plan.limit.mm / 4, least) and left < 0.8 * abs(tilt):
            return (self._shim(state, one, tilt, shims, left),)
        if 2 * abs(far.center) > plan.limit.mm / 2 and abs(far.center) > least:
            why = text(
                "The flange is near enough and the lean is out; the far end is what counts: ",
                length(2 * abs(far.center)),
                " TIR there. ",
            )
            return (self._bump(state, one, far, -far.center, why),)
        if plan.tail == "yes":
            return (
                Stage(
                    pass_no=one.number, what="tailstock", teaches=False, title="the tailstock", made="Tailstock is near, read on",
                    opens=True,
                    sentence=text("Flange bolts ", strong("tight, crosswise"), "; bring the tailstock near, its center not touching yet."),
                    reason=text("The far end runs true enough by itself, so the flange no "
                        "longer matters. The tailstock must not move it."), log=text("Tailstock brought near"),
                ),
            )  # fmt: skip
        return ()

    def _bump(self, state: State[ColumnPlan], one: Pass, look: RingLook, need: complex, reason: Text) -> Move:
        """Slide it at the flange, the needle watched where the ring is read."""
        found = tap_move(
            state,
            look,
            need,
            abs(need) / 0.92,
            what="the flange through a soft block",
            where=text(f"{(direction_deg(need) + 180) % 360:.0f}°"),
            title="the slide",
            reason=(*reason, *text("Bump at the flange; at the free end it would only bend.")),
            teaches=False,
        )
        return found

    def bolt_degs(self, plan: ColumnPlan) -> tuple[float, ...]:
        """Angles of the flange bolts."""
        return spread(plan.bolts)

    def under(self, state: State[ColumnPlan]) -> list[float]:
        """What lies at each bolt now."""
        for record in reversed(state.moves):
            if isinstance(record.move, Shim) and record.move.measure == FLANGE:
                return [p.mm for p in record.move.packets]
        return [0.0] * state.plan.bolts

    def shims(self, state: State[ColumnPlan], tilt: complex) -> tuple[list[tuple[float, ...]], float]:
        """Stacks at each bolt in all, and the lean they leave: the flange rests on three of them."""
        plan = state.plan
        units = [rect(plan.bolt_radius_mm, deg) for deg in self.bolt_degs(plan)]
        at = tuple((u.real, u.imag) for u in units)
        lies = rest_on(at, self.under(state), (0.0, 0.0)) or (0.0, 0.0, 0.0)
        # Where it leans to, the flange's plane is low: the plane falls by the tilt.
        found = choose_shims(at, -tilt.real - lies[0], -tilt.imag - lies[1], (0.0, 0.0), plan.stock.pieces)
        if found is None:
            return [() for _ in at], abs(tilt)
        return list(found.pieces), abs(complex(found.a, found.b))

    def _shim(
        self, state: State[ColumnPlan], one: Pass, tilt: complex, stacks: list[tuple[float, ...]], left: float
    ) -> Move:
        plan = state.plan
        packets = tuple(
            Packet(number=n, name=f"bolt {n}", at_deg=deg, mm=sum(s))
            for n, (s, deg) in enumerate(zip(stacks, self.bolt_degs(plan), strict=True), start=1)
        )
        what: list[Bit] = []
        for n, stack in enumerate(stacks, start=1):
            if stack:
                what += ["; " if what else "", *pieces_words(stack), " at ", strong(f"bolt {n}")]
        bare = [str(n) for n, stack in enumerate(stacks, start=1) if not stack]
        tail = f", bolt {' and '.join(bare)} bare." if bare else "."
        seat = self.seat(state, one)
        reason: list[Bit] = [
            "It leans ",
            length(abs(tilt) * plan.far_z_mm),
            f" over its length toward {direction_deg(tilt):.0f}°; the thickest shim goes where it leans to. ",
        ]
        if seat is not None:
            reason += [
                "Of that its seat makes ",
                length(abs(seat) * plan.far_z_mm),
                " and the column itself ",
                length(abs(tilt - seat) * plan.far_z_mm),
                ". ",
            ]
        return Shim(
            pass_no=one.number, measure=FLANGE, packets=packets, title="the lean", made="Shimmed, read again", teaches=False,
            expects=Quantity(kind="lean_tir", mm=2 * left * plan.far_z_mm),
            sentence=text("Under the flange put ", *(what or [strong("no shim")]), tail),
            reason=text(*reason), log=text("Flange shimmed: ", *(what or ["none"])),
        )  # fmt: skip

    def seat(self, state: State[ColumnPlan], one: Pass) -> complex | None:
        """What a face out of true does to the lean: ``-F/r``."""
        plan = state.plan
        look = self.ring(state, one, FACE)
        return -look.center / plan.face_radius_mm if look is not None and look.center is not None else None

    def _held(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """Shift the tailstock by what the needle said, scaled by where gauge and center stand."""
        plan, pushed = state.plan, self.pushed(state, one)
        far = self.ring(state, one, FAR)
        if pushed is None or far is None:
            return ()
        ratio = tail_ratio(plan.centre_z_mm, plan.far_z_mm, plan.gives)
        up, near = (-mm * ratio for mm in pushed)
        least = max(plan.gauge.graduation_mm / 2, plan.limit.mm / 16)
        words: list[Bit] = []
        for mm, plus, minus in ((up, "up", "down"), (near, "toward you", "away from you")):
            if abs(mm) > least:
                words += [" and " if words else "", strong(plus if mm > 0 else minus), " by ", length(mm)]
        if not words:
            return ()
        sag = self.sag(plan)
        reason: list[Bit] = [
            "Tightening the center moves the gauge ", signed(pushed[0] + sag), " on top and ", signed(pushed[1]), " toward you. ",
        ]  # fmt: skip
        if sag > plan.gauge.graduation_mm / 4:
            reason += ["Of the rise ", length(sag), " is only its own weight taken up, which is right. "]
        reason += [
            f"The center stands {plan.centre_z_mm / plan.far_z_mm:.2f} times as far out as the "
            f"gauge, so it moves {ratio:.2f} times as much. Watch both planes."
        ]
        return (
            Slide(
                pass_no=one.number, up_mm=up, near_mm=near, title="the tailstock", made="Shifted, read again", teaches=False,
                expects=Quantity(kind="pushed", mm=0.0),
                sentence=text("Center off. Move the tailstock ", *words, "."), reason=text(*reason),
                log=text("Tailstock moved ", *words),
            ),
        )  # fmt: skip

    # -- all of it ------------------------------------------------------------------------------------

    def solve(self, state: State[ColumnPlan]) -> Solution:
        """See ``Procedure``."""
        current, plan = state.open_pass, state.plan
        if current is None:
            return empty(state).model_copy(update={"need_reading": self.need_reading(state, None)})
        asked = state.asked(current)
        whole = all(current.answered(s.id) for s in asked)
        moves = self.moves(state, current) if whole and state.proved and not current.moved else ()
        judged = self.judge(state, current) if whole else None
        final = state.stage(current.number - 1) == (HELD if plan.tail == "yes" else COLUMN)
        ready = bool(whole and final and not current.moved and judged and (judged.outcome == "holds" or not moves))
        stop: Text = ()
        if ready and judged and judged.outcome != "holds":
            stop = text(
                "Stop here: shims and tailstock can do no better. Machine what has to be true in place, and note what to pick up next time."
            )
        rings = [look for look in (self.ring(state, current, n) for n in (FLANGE, FAR)) if look]
        looks = [look_ring(state, current, n) for n in (FLANGE, FAR) if any(s.ring == n for s in asked)]
        far = self.ring(state, current, FAR)
        wild = tuple(w for look in rings for w in look.wild)
        return empty(state).model_copy(
            update={
                "pass_no": current.number,
                "figures": self._figures(state, current),
                "moves": moves if not (ready and judged and judged.outcome == "holds") else (),
                "judged": judged,
                "ready": ready,
                "stop": stop,
                "wild": wild,
                "caveats": (
                    *off_caveats(state, tuple(looks)),
                    *wild_caveats(state, wild),
                    *drift_caveat(state, worst_drift(state, current)),
                ),
                "x_mm": far.center.real if far and far.center is not None else None,
                "y_mm": far.center.imag if far and far.center is not None else None,
                "need_reading": self.need_reading(state, current)
                if not whole
                else ()
                if moves or judged
                else text("Too few good readings: mark no more than one spot bad, and read again."),
            }
        )

    def _figures(self, state: State[ColumnPlan], one: Pass) -> tuple[Figure, ...]:
        plan, found = state.plan, []
        slopes = self.bar_slopes(state, one) if state.stage(one.number - 1) == AXIS else None
        if slopes:
            span = plan.bar_far_mm - plan.bar_near_mm
            found += [
                Figure(
                    id="axis_up",
                    label=f"Axis over {span:.0f} mm, on top",
                    mm=abs(slopes[0]) * span,
                    note=text("rises" if slopes[0] > 0 else "falls"),
                ),
                Figure(
                    id="axis_side",
                    label="at the side",
                    mm=abs(slopes[1]) * span,
                    note=text("toward you" if slopes[1] > 0 else "away"),
                ),
            ]
        for name, word, key in ((FLANGE, "Flange", "flange_"), (FAR, "Far end", "")):
            look = self.ring(state, one, name)
            if look is not None and look.fit is not None:
                found += [
                    f
                    for f in ring_figures(state, look, text(f"{look.fit.toward_deg:.0f}°"), word, key)
                    if "off_centre" not in f.id
                ]
        tilt, seat = self.tilt(state, one), self.seat(state, one)
        if tilt is not None:
            found.append(
                Figure(
                    id="lean",
                    label="Leans over its length",
                    mm=abs(tilt) * plan.far_z_mm,
                    note=text(f"toward {direction_deg(tilt):.0f}°"),
                )
            )
        if tilt is not None and seat is not None:
            found.append(
                Figure(
                    id="own",
                    label="of it the column’s own",
                    mm=abs(tilt - seat) * plan.far_z_mm,
                    note=text(f"toward {direction_deg(tilt - seat):.0f}°"),
                )
            )
        pushed = self.pushed(state, one)
        if pushed is not None:
            found += [
                Figure(
                    id="push_top",
                    label="Center pushes on top",
                    mm=abs(pushed[0]),
                    note=text("up" if pushed[0] > 0 else "down"),
                ),
                Figure(
                    id="push_side",
                    label="at the side",
                    mm=abs(pushed[1]),
                    note=text("toward you" if pushed[1] > 0 else "away"),
                ),
            ]
        return tuple(found)

    def heads(self, plan: ColumnPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return HEADS["run_out"], HEADS["off_centre"], "Toward"

    def figures(self, state: State[ColumnPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        look = look_ring(state, one, FAR)
        toward = text(f"{look.fit.toward_deg:.0f}°") if look.fit else ()
        whole = all(one.answered(s.id) for s in state.asked(one))
        return pass_line(state, one, look, toward, self.judge(state, one) if whole else None)

    def scene(self, state: State[ColumnPlan], solution: Solution, station_id: str) -> Scene:
        """The flange from its end while it is read or bumped there; else the column from the side."""
        current = state.open_pass
        station = next((s for s in state.stations if s.id == station_id), state.asked()[0])
        move = solution.moves[0] if solution.moves else None
        bump = isinstance(move, TapRound)
        if bump or (move is None and station.ring in (FLANGE, FACE)):
            ring = FAR if station.ring == FAR else FLANGE
            look = look_ring(state, current, ring) if current else None
            centers = [
                (one.number, k.center)
                for one in state.passes
                if (k := self.ring(state, one, ring)) is not None and k.center is not None
            ]
            shown = solution.model_copy(update={"x_mm": None, "y_mm": None})
            if look is not None and look.complete and look.center is not None:
                shown = solution.model_copy(update={"x_mm": look.center.real, "y_mm": look.center.imag})
            seen = Face(
                look=look,
                centers=centers,
                holder="faceplate",
                name="Flange" if ring == FLANGE else "Far end",
                seen="Seen from the far end, you at the left",
                lean=False,
            )
            return face(state, shown, station.id, seen)
        return self._side(state, solution, station, move)

    def _side(self, state: State[ColumnPlan], solution: Solution, station: Station, move: Move | None) -> AxisScene:
        plan = state.plan
        one = next((p for p in reversed(state.passes) if self.ring(state, p, FAR) is not None), None)
        flange, far = (self.ring(state, one, n) for n in (FLANGE, FAR)) if one else (None, None)
        up = direction_deg(far.center) if far and far.center else 90.0
        at = {0.0: flange, plan.far_z_mm: far}
        h = {z: ((k.center or 0j) * rect(1, -up)).real if k else None for z, k in at.items()}
        stops = [
            SceneStop(
                label=word,
                z_mm=z,
                height_mm=h[z],
                tir_mm=2 * abs(k.center) if k is not None and k.center is not None else None,
                over=False,
                state="now" if station.ring == ring else "read" if k is not None else "open",
            )
            for (z, k), word, ring in zip(at.items(), ("flange", "far end"), (FLANGE, FAR), strict=True)
        ]
        mark_z, mark = None, text()
        match move:
            case Shim():
                mark_z, mark = 0.0, text("shims here")
            case Swing():
                mark_z, mark = plan.bar_far_mm, text("bar’s end ", "toward you" if move.near else "away from you")
            case Slide():
                mark_z, mark = plan.centre_z_mm, text("tailstock")
        known = [v for v in h.values() if v is not None]
        line = SceneLine(z1_mm=0.0, h1_mm=known[0], z2_mm=plan.far_z_mm, h2_mm=known[-1]) if len(known) == 2 else None
        return AxisScene(
            seen="Seen from your side, rotary at the left",
            held="flange",
            length_mm=max(plan.far_z_mm, plan.centre_z_mm if plan.tail == "yes" else 0.0),
            stops=tuple(stops),
            line=line,
            known=bool(known),
            magnification=magnification(
                max((abs(v) for v in known), default=0.0), plan.far_z_mm * 0.35, plan.gauge.graduation_mm
            ),
            up=text(f"Up is {up:.0f}°"),
            mark_z_mm=mark_z,
            mark=mark,
            limit_mm=plan.limit.mm / (2 if plan.limit.kind == "tir" else 1),
            reading=station.label,
            tail_z_mm=plan.centre_z_mm if state.stage(len(state.passes)) == HELD else None,
            describe="The column from the side" + (f"; {words_of(move.sentence)}" if move else "."),
        )


PROCEDURE = Column()
