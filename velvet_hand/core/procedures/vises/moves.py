"""What is done about it: the bar out, each vise squared, the one brought to the other."""

from __future__ import annotations

from abc import ABC
from typing import Any

from ...engine.learning import Learned
from ...engine.policy import Next
from ...move import Asked, Move, Needle, Stage, Tap
from ...plan.edge import corner_word, side_word
from ...readings import Station
from ...setup.state import State
from ...verdict import Verdict
from ...wording import Text, length, strong, text
from .look import A, B, PairLook, VisesReading
from .plan import VisePairPlan

#: The bar comes out when the train is within this part of the limit, or after that many taps.
TRAIN_PART, TRAIN_TAPS = 0.5, 4


class VisesMoves(VisesReading, ABC):
    """Which of the two moves, and in which order."""

    def moves(self, state: State[VisePairPlan], look: PairLook, learned: Learned) -> tuple[Move, ...]:
        """The train, then the bar out, then each slope, then the step."""
        plan = state.plan
        current = state.open_pass
        made = state.moved_in(current.number) if current else ()
        again = any(isinstance(m, Stage) or (isinstance(m, Tap) and m.train) for m in made)
        if not look.known or again:
            return ()  # what moved both has to be read again first
        if self.bar_in(state):
            taps = sum(isinstance(r.move, Tap) and r.move.train for r in state.moves)
            small = TRAIN_PART * plan.limit.mm
            if abs(look.common * plan.whole_mm) > small and taps < TRAIN_TAPS:
                return (self._train(state, look),)
            return (self._bar_out(look),)
        kick_a, kick_b, kick_step = self.kicks(state)
        need = {A: look.off_slope(A) + kick_a, B: look.off_slope(B) + kick_b}
        least = max(plan.limit.mm / 6, plan.gauge.graduation_mm / 2)
        order = [
            w
            for w in (self.kept(plan), 1 - self.kept(plan))
            if look.lines[w] is not None and abs(need[w]) * plan.edge_mm > least
        ]
        if order:
            return tuple(self._square(state, look, w, need[w], n, len(order)) for n, w in enumerate(order, start=1))
        step = look.step_mm + kick_step
        if abs(step) > plan.gauge.graduation_mm / 4:
            return (self._slide(state, look, step),)
        return ()

    def _needle(self, state: State[VisePairPlan], station: Station, look: PairLook, here: float, run: float) -> Needle:
        """Needle now and aim at a station."""
        shifted = here + state.plan.gauge.walked_mm(look.drift_mm or 0.0)
        at: dict[str, Any] = {"station_id": station.id, "label": station.label.lower(), "x_mm": station.x_mm}
        found = Needle.at(state.sense_of(station), shifted, shifted + run, **at)
        return found.model_copy(update={"now_mm": None}) if station.id in look.off else found

    def _spot(self, state: State[VisePairPlan], which: int, high: bool) -> Station:
        mine = [s for s in state.stations if s.ring == "" and s.id[0] == "ab"[which]]
        return (max if high else min)(mine, key=lambda s: s.x_mm)

    def _turn(
        self, state: State[VisePairPlan], look: PairLook, which: int, high: bool, about: float, slope: float
    ) -> dict[str, Any]:
        """A tap at an end that takes ``slope`` out about a swing point: where, which way, how far."""
        station = self._spot(state, which, high)
        line = look.lines[which]
        assert line is not None
        run = -slope * (station.x_mm - about)
        return {
            "pass_no": look.number, "thing": which, "x_mm": station.x_mm, "toward": run > 0, "mm": abs(run), "pivot_mm": about,
            "slope_after": line.slope - slope, "needle": self._needle(state, station, look, line.at(station.x_mm), run),
            "asked": Asked(mm=abs(run)), "teaches": False,
        }  # fmt: skip

    def _train(self, state: State[VisePairPlan], look: PairLook) -> Move:
        plan = state.plan
        kept = self.kept(plan)
        high = kept == A
        turn = self._turn(state, look, 1 - kept, high, self.pivot(plan, kept), look.common)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, 1 - kept)
        return Tap(
            **turn, train=True, title="the train",
            sentence=text(f"{name.capitalize()}: tap the ", strong(corner), f" {way}, {turn['needle'].to}."),
            reason=text("Both turn as one: the bar holds them together; they pivot "
                "on the outer bolt of the ", f"{self.name(plan, kept)}. "
                    f"Together they are off by ", length(look.common * plan.whole_mm), " over the whole length."),
            log=text(f"Train: {corner} of the {name} tapped {way}"),
        )  # fmt: skip

    def _bar_out(self, look: PairLook) -> Move:
        return Stage(
            pass_no=look.number, what="bar_out", title="bar out", made="Bar out, read again", teaches=False,
            sentence=text("Take ", strong("the bar out"), ". In each vise the outer bolt snug, the other finger tight."),
            reason=text("As one they lie near enough. Now each is squared by itself, and then the step between them is taken out."),
            log=text("Bar taken out"),
        )  # fmt: skip

    def _square(
        self, state: State[VisePairPlan], look: PairLook, which: int, slope: float, index: int, count: int
    ) -> Move:
        plan = state.plan
        high = which == A  # the inner end is tapped
        turn = self._turn(state, look, which, high, self.pivot(plan, which), slope)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, which)
        return Tap(
            **turn, index=index, count=count, title=f"the {name}",
            sentence=text(f"{name.capitalize()}: tap the ", strong(corner), f" {way}, {turn['needle'].to}."),
            reason=text("Its own jaw is off by ", length(slope * plan.edge_mm), " over its length; it pivots on its outer bolt, "
                "and its height there is the aim. Light taps."),
            log=text(f"{name.capitalize()}: {corner} tapped {way}"),
        )  # fmt: skip

    def _slide(self, state: State[VisePairPlan], look: PairLook, step: float) -> Move:
        plan = state.plan
        which = 1 - self.kept(plan)
        step = step if which == B else -step
        high = which == A
        station = self._spot(state, which, high)
        line = look.lines[which]
        here = line.at(station.x_mm) if line else (look.stop_mm or 0.0)
        needle = self._needle(state, station, look, here, -step)
        way, name = side_word(plan, step < 0), self.name(plan, which)
        both = (
            "both its bolts finger tight, taps at its two ends in turn"
            if line
            else "its bolt finger tight, taps at its middle"
        )
        return Tap(
            pass_no=look.number, thing=which, whole=True, toward=step < 0, mm=abs(step), needle=needle, asked=Asked(mm=abs(step)),
            x_mm=self.origin(plan, which) + (plan.edge_mm if line else plan.stop_mm) / 2, title="the step", teaches=False,
            sentence=text("Slide ", strong(f"the whole {name}"), f" {way}, {needle.to}."),
            reason=text(
                f"{both[0].upper()}{both[1:]}. Both lie square, but the {name} stands ", length(step),
                f" {side_word(plan, step > 0)} of the other. The {self.name(plan, self.kept(plan))} keeps its place.",
            ),
            log=text(f"{name.capitalize()} slid {way} by ", length(step)),
        )  # fmt: skip

    def then(
        self, state: State[VisePairPlan], look: PairLook, judged: Verdict | None, to_make: tuple[Move, ...]
    ) -> Next:  # fmt: skip
        """See ``Corrected``."""
        if judged is None or self.bar_in(state) or state.passes[-1].moved:
            return Next()
        kick = self.kicks(state)
        shift = max(abs(kick[0]), abs(kick[1])) * look.plan.edge_mm + abs(kick[2])
        forecast = self.judge(state, look, complex(shift)) if shift else judged
        if judged.outcome == "holds" and ((forecast is not None and forecast.outcome == "holds") or not to_make):
            return Next(True)
        if judged.value_mm <= judged.band_mm or not to_make:
            return Next(
                True,
                text(
                    "Stop here. What is left, ",
                    length(judged.value_mm),
                    ", is no more than indicator and machine can tell.",
                ),
            )
        return Next()

    def what_to_read(self, look: PairLook) -> Text:
        """See ``Corrected``."""
        if not look.complete or look.known:
            return ()
        if look.off:
            return text("The needle ran off at too many spots: rough them in by a rod or the slot, then read again.")
        return text("Each jaw needs two good readings.")
