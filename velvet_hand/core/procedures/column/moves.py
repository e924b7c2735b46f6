"""What is done about it, stage by stage: the axis, the column on its flange, the tailstock."""

from __future__ import annotations

from abc import ABC

from ...angles import direction_deg, rect
from ...engine.blows import tap_move
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
from .plan import ColumnPlan
from .reading import AXIS, BAR, COLUMN, FAR, FLANGE, ColumnReading


class ColumnMoves(ColumnReading, ABC):
    """The next thing in the order of the stages."""

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
                    care=FINGERS,
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
                    sentence=text("Bar’s far end: swing ", strong("the rotary’s base"), f" {way}, {needle.to}."),
                    reason=text("The axis runs ", length(side * span), f" {'toward you' if side > 0 else 'away from you'} "
                        f"over the bar. It pivots on its near bolt."),
                    log=text(f"Rotary’s base swung, bar’s end {way}"),
                ),
            )  # fmt: skip
        return (
            Stage(
                pass_no=one.number, what="column_on", teaches=False, title="the column", made="Column is on, read it", opens=True,
                care=RELIFT,
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
                    sentence=text("Flange bolts ", strong("tight, crosswise"), ". Bring the tailstock near, its center not touching yet."),
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
            what="the flange",
            watched="far end" if look.ring.id == FAR else "flange",
            where=text(f"{degrees(direction_deg(need) + 180)}"),
            title="the slide",
            reason=(*reason, *text("Bump it through a soft block at the flange; at the free end it would only bend.")),
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
            pass_no=one.number, measure=FLANGE, packets=packets, title="the lean", made="Shimmed, read again", teaches=False,
            care=FINGERS,
            expects=Quantity(kind="lean_tir", mm=2 * left * plan.far_z_mm),
            short=text("Put ", strong("the shims below"), " under the flange."),
            sentence=text("Under the flange put ", *(what or [strong("no shim")]), tail),
            reason=text(*reason), log=text("Flange shimmed: ", *(what or ["none"])),
        )  # fmt: skip

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
