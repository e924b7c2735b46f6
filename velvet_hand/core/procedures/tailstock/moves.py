"""What is done about it: shims under the tailstock for its height and lean, then its set-over screws."""

from __future__ import annotations

from abc import ABC
from collections import Counter
from dataclasses import dataclass
from typing import Any

from ...engine.shimmed import pieces_words
from ...fit.packing import nearest_stack
from ...move import Move, Needle, Packet, Shim, Slide
from ...path.cautions import FINGERS
from ...quantity import Quantity
from ...setup.state import State
from ...wording import Bit, Text, length, strong, text
from .plan import TailstockPlan
from .reading import QUILL_TOP, TOP, TailstockReading

#: So often it is shimmed; what is then left is what shims can do.
SHIMS_MOST = 3
FEET = ("front foot", "back foot")


@dataclass(frozen=True, slots=True)
class Under:
    """Shims in all under the front and the back foot, and what they leave: off in height at the point, lean of the quill."""

    front: tuple[float, ...]
    back: tuple[float, ...]
    left_mm: float
    left_lean: float


class TailstockMoves(TailstockReading, ABC):
    """Height before side: a shim moves both."""

    def moves(self, state: State[TailstockPlan], number: int) -> tuple[Move, ...]:
        """The one thing to do now; none where nothing makes it better."""
        move = self.shim(state, number) or self.slide(state, number)
        return (move,) if move is not None else ()

    def least_mm(self, plan: TailstockPlan) -> float:
        """What is worth moving, at the center’s point: half a graduation where the needle is watched."""
        return plan.gauge.graduation_mm / 2 * plan.between_mm / plan.spots_mm[-1] * plan.gauge.true_part(0.0, 0.0)

    # -- height ----------------------------------------------------------------------------------------

    def shim(self, state: State[TailstockPlan], number: int) -> Move | None:
        """Shims that bring it to its height, and its quill level, nearer than it is."""
        plan, top = state.plan, self.stands(state, "top")
        shimmed = [r.move for r in state.moves if isinstance(r.move, Shim)]
        if top is None or top.number != number or plan.stock is None or len(shimmed) >= SHIMS_MOST:
            return None
        lean = self.lean(state, QUILL_TOP) or 0.0
        now = tuple(p.mm for p in shimmed[-1].packets) if shimmed else (0.0, 0.0)
        found = self.under(plan, top.mm, lean, (now[0], now[1]))
        gain = abs(top.mm) - abs(found.left_mm) + (abs(lean) - abs(found.left_lean)) * plan.quill_mm
        if gain < 2 * self.least_mm(plan) or (sum(found.front), sum(found.back)) == now:
            return None
        packets = tuple(
            Packet(number=n, name=name, mm=sum(stack))
            for n, (name, stack) in enumerate(zip(FEET, (found.front, found.back), strict=True), start=1)
        )
        what: list[Bit] = []
        for name, stack in zip(FEET, (found.front, found.back), strict=True):
            what += [
                " and " if what else "",
                *(pieces_words(stack) if stack else text(strong("no shim"))),
                " under its ",
                strong(name),
            ]
        reason: list[Bit] = ["Its center stands ", length(abs(top.mm)), " high. " if top.mm > 0 else " low. "]
        if plan.quill_mm:
            rise = text(
                "Over ",
                length(plan.quill_mm),
                " its quill ",
                "rises " if lean > 0 else "falls ",
                length(abs(lean) * plan.quill_mm),
                " toward its end. ",
            )
            reason += rise
        reason.append(
            "Shims lie between its base and its top; wipe both, snug it down again. It moves the side too: that comes after."
        )
        return Shim(
            pass_no=number, measure=TOP, packets=packets, title="the height", made="Shimmed, read again", teaches=False, care=FINGERS,
            spot=f"{TOP}{len(plan.spots_mm)}", short=text("Put ", strong("the shims below"), " under the tailstock’s top."),
            sentence=text("In all put ", *what, "."), reason=text(*reason), log=text("Tailstock shimmed: ", *what),
            expects=Quantity(kind="height", mm=abs(found.left_mm)),
        )  # fmt: skip

    def under(self, plan: TailstockPlan, high_mm: float, lean: float, now: tuple[float, float]) -> Under:
        """The stacks for both feet. Raised by ``f`` in front and ``b`` at the back its point rises ``f + (f - b) out/base``, its quill
        tips by ``(f - b)/base``: so ``f = -high + lean out``, ``b = f + lean base``.
        """
        assert plan.stock is not None
        front = -high_mm + lean * plan.out_mm
        back = front + lean * plan.base_mm
        part, level = plan.out_mm / plan.base_mm, max(-high_mm, -min(now))
        ways = (
            (front, back),
            ((-high_mm - now[1] * part) / (1 + part), -now[1]),
            (-now[0], (high_mm - now[0] * (1 + part)) / part),
            (level, level),
        )

        def left(f: float, b: float) -> tuple[float, float]:
            tips = (f - b) / plan.base_mm
            return high_mm + f + tips * plan.out_mm, lean + tips

        can = [w for w in ways if w[0] >= -now[0] and w[1] >= -now[1] and abs(left(*w)[1]) <= abs(lean) + 1e-9]
        front, back = min(can, key=lambda w: abs(left(*w)[0]) + abs(left(*w)[1]) * plan.quill_mm)
        stock = {p.mm: p.count for p in plan.stock.pieces}
        first = nearest_stack(max(0.0, now[0] + front), stock)
        rest = {mm: count - Counter(first)[mm] for mm, count in stock.items()}
        second = nearest_stack(max(0.0, now[1] + back), rest)
        return Under(first, second, *left(sum(first) - now[0], sum(second) - now[1]))

    # -- side ------------------------------------------------------------------------------------------

    def shift(self, state: State[TailstockPlan]) -> float:
        """What clamping it has done to its side in this set-up, toward the indicator at its point: the mean of all times."""
        found = []
        for number in state.tightenings:
            before, after = (self._at(state, n) for n in (number, number + 1))
            slid = [m for m in state.moved_in(number) if isinstance(m, Slide)]
            if before is None or after is None or any(isinstance(m, Shim) for m in state.moved_in(number)):
                continue
            found.append(after - (before + slid[-1].near_mm * state.plan.near_sign if slid else before))
        return sum(found) / len(found) if found else 0.0

    def _at(self, state: State[TailstockPlan], number: int) -> float | None:
        found = self.rises(state, state.passes[number - 1], "side") if number <= len(state.passes) else None
        return found[0] if found else None

    def slide(self, state: State[TailstockPlan], number: int) -> Move | None:
        """The set-over screws, until the needle at the bar’s last place stands at its aim."""
        plan, side = state.plan, self.stands(state, "side")
        if side is None or side.number != number:
            return None
        goes = -side.mm - self.shift(state)
        if abs(side.mm) < self.least_mm(plan) or abs(goes) < self.least_mm(plan):
            return None
        near = goes * plan.near_sign
        way, yours, other = (
            ("toward you", "on your side", "on the far side")
            if near > 0
            else ("away from you", "on the far side", "on your side")
        )
        head, at = (
            text("Loosen its clamp, ease the set-over screw ", strong(yours), f" and tighten the one {other}: "),
            side.looks[-1],
        )
        reason = text(
            "The center stands ",
            length(abs(side.mm)),
            f" {'away from you' if side.mm * plan.near_sign < 0 else 'toward you'}.",
            *self._why(plan, side.mm),
        )
        more: dict[str, Any] = {
            "pass_no": number, "up_mm": 0.0, "near_mm": near, "title": "the side", "made": "Moved, read again", "teaches": False,
            "log": text("Tailstock moved ", strong(way), " by ", length(abs(near))), "reason": reason,
            "expects": Quantity(kind=plan.limit.kind, mm=abs(self.shift(state)) / plan.between_mm * plan.limit_length_mm),
        }  # fmt: skip
        if plan.by == "collars":
            told = text(
                "Set an indicator against its barrel. ", *head, "move it ", strong(way), " by ", length(abs(near)), "."
            )
            return Slide(
                sentence=told, short=text("Move the tailstock ", strong(way), " by ", length(abs(near)), "."), **more
            )
        spot = state.station(f"{at.edge.id}{len(plan.spots_mm)}")
        reading = state.passes[number - 1].readings.get(spot.id)
        if reading is None or reading.needle_mm is None:
            return None
        sense = state.sense_of(spot)
        here = sense.toward_mm(reading.needle_mm)
        needle = Needle.at(
            sense,
            here,
            here + goes * spot.x_mm / plan.between_mm,
            station_id=spot.id,
            label=spot.label.lower(),
            x_mm=spot.x_mm,
        )
        told = text(*head, f"it goes {way}, {needle.to}.")
        return Slide(
            sentence=told, short=text("Move the tailstock ", strong(way), f", {needle.to}."), needle=needle, **more
        )

    def _why(self, plan: TailstockPlan, off_mm: float) -> Text:
        return text(
            " As it stands it turns ",
            length(2 * abs(off_mm) / plan.between_mm * plan.limit_length_mm),
            " of taper over the limit’s length.",
        )
