"""What is done about it, stage by stage: the axis, the column on its flange, the tailstock."""

from __future__ import annotations

from abc import ABC

from ...angles import direction_deg, rect
from ...engine.blows import tap_move
from ...engine.learning import learned
from ...engine.shimmed import pieces_words
from ...fit.beam import tail_ratio
from ...fit.packing import nearest_stack
from ...fit.plane import choose_shims, rest_on
from ...measure.ring import RingLook
from ...move import Move, Needle, Packet, Shim, Slide, Stage, Swing
from ...path.cautions import FINGERS, RELIFT
from ...path.lathe import spread
from ...quantity import Quantity
from ...readings import Pass
from ...setup.state import State
from ...wording import Bit, Text, degrees, length, signed, strong, text
from .answers import SURE, WORTH, slide_answers, slide_odds, swing_answers, swing_odds
from .plan import ColumnPlan
from .reading import AXIS, BAR, COLUMN, FAR, FLANGE, ColumnReading, bar_slopes


class ColumnMoves(ColumnReading, ABC):
    """The next thing in the order of the stages."""

    def moves(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """What follows from a pass, in the order of the stages; the next stage is opened at its end when it needs no reading before."""
        stage = state.stage(one.number - 1)
        if any(move.opens for move in state.moved_in(one.number)):
            return ()
        found = {AXIS: self._axis, COLUMN: self._column}.get(stage, self._held)(state, one)
        left, done = tuple(m for m in found if m.id not in one.moved), len(one.moved)
        return tuple(
            m.model_copy(update={"index": done + i, "count": done + len(left)}) for i, m in enumerate(left, start=1)
        )

    def _axis(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """Shim and swing the rotary’s base until bar and travel agree; then the column comes on."""
        plan, slopes = state.plan, bar_slopes(state, one)
        if slopes is None:
            return ()
        up, side = slopes
        span = plan.bar_far_mm - plan.bar_near_mm
        least = max(plan.gauge.graduation_mm, plan.limit.mm / 8)
        lift = abs(up) * plan.foot_mm
        pieces = nearest_stack(lift, {p.mm: p.count for p in plan.stock.pieces})
        found: list[Move] = []
        if abs(up) * span > least and abs(lift - sum(pieces)) < 0.8 * lift:
            found.append(self._lift(state, one, up, pieces))
        if abs(side) * span > least:
            found.append(self._swing(state, one, side * span))
        if any(isinstance(m, Shim) for m in found) or swing_odds(state, _to_make(one, found), least) < SURE:
            return tuple(found)
        made = text("The axis is true. ") if not found else text("Then the axis is true. ")
        return (
            *found,
            Stage(
                pass_no=one.number, what="column_on", teaches=False, title="the column", made="Column is on, read it", opens=True,
                care=RELIFT,
                sentence=text(*made, strong("Bar out, column on"), ", bolts snug."),
                reason=text("Rotary axis before column: now the column is brought to it."), log=text("Bar out, column on"),
            ),
        )  # fmt: skip

    def _lift(self, state: State[ColumnPlan], one: Pass, up: float, pieces: tuple[float, ...]) -> Move:
        """Shims under one foot of the rotary."""
        plan = state.plan
        span, lift = plan.bar_far_mm - plan.bar_near_mm, abs(up) * plan.foot_mm
        foot = "front of the rotary (column end)" if up < 0 else "back of the rotary (drive end)"
        packet = Packet(number=1 if up < 0 else 2, name=foot, mm=sum(pieces))
        left = abs(lift - sum(pieces)) / plan.foot_mm * span
        return Shim(
            pass_no=one.number, measure=BAR, packets=(packet,), title="the axis", made="Shimmed", teaches=False, care=FINGERS,
            expects=Quantity(kind="over_bar", mm=left),
            sentence=text("Put ", *pieces_words(pieces), " more under ", strong(f"the {foot}"), "."),
            reason=text("The bar, turned half over, says that the axis ", "rises " if up > 0 else "falls ", length(up * span),
                " toward its far place. Droop and taper are taken off."),
            log=text("Rotary shimmed: ", *pieces_words(pieces), f" under the {foot}"),
        )  # fmt: skip

    def _swing(self, state: State[ColumnPlan], one: Pass, side_mm: float) -> Move:
        """The rotary’s base swung about its near bolt; ``side_mm`` is how far its axis runs toward the person over the bar."""
        sense = state.sense_of(state.station("bar-side-far-180"))
        reading = one.readings["bar-side-far-180"].needle_mm or 0.0
        way = "away from you" if side_mm > 0 else "toward you"
        asked = learned(state, swing_answers(state), 1).ask(abs(side_mm))
        here = sense.toward_mm(reading)
        needle = Needle.at(
            sense,
            here,
            here - asked * (1 if side_mm > 0 else -1),
            station_id="bar-side-far-180",
            label="bar, side, far",
        )
        return Swing(
            pass_no=one.number, near=side_mm < 0, mm=asked, needle=needle, title="the axis", teaches=False,
            sentence=text("Bar’s far end: swing ", strong("the rotary’s base"), f" {way}, {needle.to}."),
            reason=text("The axis runs ", length(abs(side_mm)), f" {'toward you' if side_mm > 0 else 'away from you'} "
                f"over the bar. It pivots on its near bolt."),
            log=text(f"Rotary’s base swung, bar’s end {way}"),
        )  # fmt: skip

    def _column(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """The lean by shims, then the slide that brings the far end in: both from one pass, for a slide leaves the lean alone."""
        plan, far, tilt = state.plan, self.ring(state, one, FAR), self.tilt(state, one)
        if far is None or tilt is None or far.center is None:
            return ()
        least = plan.gauge.graduation_mm / 2
        found: list[Move] = []
        shims, left = self.shims(state, one, tilt)
        leans = abs(tilt) * plan.far_z_mm
        if (leans > max(plan.limit.mm / 4, least) or 2 * leans > plan.flange_limit_mm) and left < 0.8 * abs(tilt):
            found.append(self._shim(state, one, tilt, shims, left))
            far = far.moved((self.left_over(state, one, tilt, shims) - tilt) * plan.far_z_mm)
        center = far.center or 0j
        if 2 * abs(center) > plan.limit.mm / 2 and abs(center) > least:
            shimmed = ", with those shims. " if found else ". "
            why = text("The far end is what counts: ", length(2 * abs(center)), f" TIR there{shimmed}")
            found.append(self._bump(state, one, far, why))
        lifted = any(isinstance(m, Shim) for m in (*found, *state.moved_in(one.number)))
        if plan.tail != "yes" or lifted or slide_odds(state, _to_make(one, found)) < SURE:
            return tuple(found)
        return (
            *found,
            Stage(
                pass_no=one.number, what="tailstock", teaches=False, title="the tailstock", made="Tailstock is near, read on",
                opens=True,
                sentence=text("Flange bolts ", strong("tight, crosswise"), ". Bring the tailstock near, its center not touching yet."),
                reason=text("The far end runs true enough by itself, so the flange no "
                    "longer matters. The tailstock must not move it."), log=text("Tailstock brought near"),
            ),
        )  # fmt: skip

    def _bump(self, state: State[ColumnPlan], one: Pass, look: RingLook, reason: Text) -> Move:
        """Slide it at the flange, the needle watched at the far end."""
        known = learned(state, slide_answers(state), 2)
        need = -((look.center or 0j) + known.shift)
        return tap_move(
            state,
            look,
            need,
            known.ask(abs(need)),
            what="the flange",
            watched="far end",
            where=text(f"{degrees(direction_deg(need) + 180)}"),
            title="the slide",
            reason=(*reason, *text("Bump it through a soft block at the flange; at the free end it would only bend.")),
            teaches=False,
        )

    def bolt_degs(self, plan: ColumnPlan) -> tuple[float, ...]:
        """Angles of the flange bolts."""
        return spread(plan.bolts)

    def under(self, state: State[ColumnPlan], one: Pass) -> list[float]:
        """What lay at each bolt while a pass was read."""
        for record in reversed(state.moves):
            if isinstance(record.move, Shim) and record.move.measure == FLANGE and record.move.pass_no < one.number:
                return [p.mm for p in record.move.packets]
        return [0.0] * state.plan.bolts

    def shims(self, state: State[ColumnPlan], one: Pass, tilt: complex) -> tuple[list[tuple[float, ...]], float]:
        """Stacks at each bolt in all, and the lean they leave: the flange rests on three of them."""
        plan = state.plan
        units = [rect(plan.bolt_radius_mm, deg) for deg in self.bolt_degs(plan)]
        at = tuple((u.real, u.imag) for u in units)
        lies = rest_on(at, self.under(state, one), (0.0, 0.0)) or (0.0, 0.0, 0.0)
        # Where it leans to, the flange's plane is low: the plane falls by the tilt.
        found = choose_shims(at, -tilt.real - lies[0], -tilt.imag - lies[1], (0.0, 0.0), plan.stock.pieces)
        if found is None:
            return [() for _ in at], abs(tilt)
        return list(found.pieces), abs(complex(found.a, found.b))

    def left_over(self, state: State[ColumnPlan], one: Pass, tilt: complex, stacks: list[tuple[float, ...]]) -> complex:
        """The lean that is left with these stacks in all under the flange."""
        units = [rect(state.plan.bolt_radius_mm, deg) for deg in self.bolt_degs(state.plan)]
        at = tuple((u.real, u.imag) for u in units)
        was = rest_on(at, self.under(state, one), (0.0, 0.0)) or (0.0, 0.0, 0.0)
        now = rest_on(at, [sum(s) for s in stacks], (0.0, 0.0)) or (0.0, 0.0, 0.0)
        return tilt - complex(now[0] - was[0], now[1] - was[1])

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
            f" over its length toward {degrees(direction_deg(tilt))}; the thickest shim goes where it leans to. ",
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
            pass_no=one.number, measure=FLANGE, packets=packets, title="the lean", made="Shimmed", teaches=False,
            care=FINGERS,
            expects=Quantity(kind="lean_tir", mm=2 * left * plan.far_z_mm),
            short=text("Put ", strong("the shims below"), " under the flange."),
            sentence=text("Under the flange put ", *(what or [strong("no shim")]), tail),
            reason=text(*reason), log=text("Flange shimmed: ", *(what or ["none"])),
        )  # fmt: skip

    def worth(self, state: State[ColumnPlan], one: Pass) -> bool:
        """Is it worth tightening straight after what was moved? The pass after it is read anyway, and corrects."""
        if any(isinstance(m, Shim) for m in state.moved_in(one.number)):
            return False
        return state.plan.tail == "yes" or slide_odds(state, ()) >= WORTH

    def _held(self, state: State[ColumnPlan], one: Pass) -> tuple[Move, ...]:
        """Shift the tailstock by what the needle said, scaled by where gauge and center stand."""
        plan, pushed = state.plan, self.pushed(state, one)
        far = self.ring(state, one, FAR)
        if pushed is None or far is None or far.center is None:
            return ()
        if 2 * abs(far.center) > 0.8 * plan.limit.tir_mm:
            why = text(
                "Tightening the flange moved it: ",
                length(2 * abs(far.center)),
                " TIR at the far end. Center off, bolts snug. ",
            )
            return (self._bump(state, one, far, why),)
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
            "Tightening the center moves the indicator ", signed(pushed[0] + sag), " on top and ", signed(pushed[1]), " toward you. ",
        ]  # fmt: skip
        if sag > plan.gauge.graduation_mm / 4:
            reason += ["Of the rise ", length(sag), " is only its own weight taken up, which is right. "]
        reason += [
            f"The center stands {plan.centre_z_mm / plan.far_z_mm:.2f} times as far out as the "
            f"indicator, so it moves {ratio:.2f} times as much. Watch both planes."
        ]
        return (
            Slide(
                pass_no=one.number, up_mm=up, near_mm=near, title="the tailstock", made="Shifted, read again", teaches=False,
                expects=Quantity(kind="pushed", mm=0.0),
                sentence=text("Center off. Move the tailstock ", *words, "."), reason=text(*reason),
                log=text("Tailstock moved ", *words),
            ),
        )  # fmt: skip


def _to_make(one: Pass, found: list[Move]) -> list[Move]:
    """Those that were not made in this pass yet."""
    return [m for m in found if m.id not in one.moved]
