"""What is done about it: the bar out, each vise squared, the one brought to the other."""

from __future__ import annotations

from abc import ABC
from dataclasses import replace
from typing import Any

import numpy as np

from ...engine.answers import Answers
from ...engine.beyond import AS_FAR, DIAL_PART, ONLY_THE_WAY
from ...engine.forecast import Way
from ...engine.learning import Learned
from ...engine.one_line import TAP_WORTH
from ...engine.policy import Next
from ...engine.tapping import least_mm
from ...estimate.kalman import Array, Belief
from ...estimate.linked import Linked
from ...fit.line import LineFit
from ...memo import once
from ...move import Asked, Move, Needle, Stage, Tap
from ...plan.edge import corner_word, side_word
from ...readings import Station
from ...setup.state import State
from ...verdict import Verdict
from ...wording import Text, length, strong, text
from .answers import InLine, acts_of, answers_of, errors_after, model_of, noise_of
from .look import A, B, PairLook, VisesReading
from .plan import VisePairPlan

#: Within this part of the limit both lie near enough as one; else the train is tapped before the bar comes out.
TRAIN_PART = 0.5


class VisesMoves(VisesReading, ABC):
    """Which of the two moves, and in which order."""

    def answers(self, state: State[VisePairPlan]) -> Answers[Linked]:
        """See ``Corrected``."""
        return answers_of(state, self.looks(state))

    def learned(self, state: State[VisePairPlan]) -> Learned:
        """See ``Corrected``."""
        return once(state.memo, "learned", 0, lambda: Learned(self.answers(state).after(state), 1.0, 0j, told=True))

    def moves(self, state: State[VisePairPlan], look: PairLook, learned: Learned) -> tuple[Move, ...]:
        """The train, then the bar out, then each slope, then the step."""
        plan = state.plan
        current = state.open_pass
        made = state.moved_in(current.number) if current else ()
        if not look.known or any(isinstance(m, Stage) for m in made):
            return ()  # what lay as one has to be read again first
        if self.bar_in(state):
            train = (self._train(state, look),) if abs(look.common * plan.whole_mm) > TRAIN_PART * plan.limit.mm else ()
            return (*train, self._bar_out(look, len(train) + 1))
        return self._both(state, look, learned)

    def _both(self, state: State[VisePairPlan], look: PairLook, learned: Learned) -> tuple[Move, ...]:
        """Each squared that has to be, then the one slid to where the other will be: all from one pass."""
        plan, model, belief = state.plan, model_of(state.plan), learned.known.belief
        acts, sign = self._acts(state, belief), plan.turn_sign
        taps = [act for act in acts if act.tapped_mm]
        after = errors_after(model, belief, taps, sign)
        found: list[Move] = [
            self._square(state, look, act.which, sign * act.tapped_mm, float(after[act.which]), n, len(acts))
            for n, act in enumerate(taps, start=1)
        ]
        return (*found, *(self._slide(state, look, sign * a.slide_mm, after, len(acts)) for a in acts if a.slide_mm))

    def _acts(self, state: State[VisePairPlan], belief: Belief) -> list[Linked]:
        """What brings it in: taps of those that are to be squared, the one that keeps its place first, then the slide of the other."""
        plan, model = state.plan, model_of(state.plan)
        least = least_mm(plan)
        acts: list[Linked] = []
        for which in (self.kept(plan), 1 - self.kept(plan)):
            at = self._spot(state, which, which == A).x_mm - self.origin(plan, which)
            run = model.ask(belief, which, at) if which == A or plan.second == "vise" else 0.0
            if abs(run) >= least:
                acts.append(Linked(which, at, run))
        slide = model.ask_slide(belief, acts)
        return [*acts, Linked(1 - self.kept(plan), slide_mm=slide)] if abs(slide) >= least else acts

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
        self, state: State[VisePairPlan], look: PairLook, which: int, high: bool, about: float, run: float, slope: float
    ) -> dict[str, Any]:
        """A tap at an end that moves it by ``run`` and leaves ``slope``: where, which way, how far."""
        station = self._spot(state, which, high)
        line = look.lines[which]
        assert line is not None
        return {
            "pass_no": look.number, "thing": which, "x_mm": station.x_mm, "toward": run > 0, "mm": abs(run), "pivot_mm": about,
            "slope_after": slope, "needle": self._needle(state, station, look, line.at(station.x_mm), run),
            "asked": Asked(mm=abs(run)), "teaches": False,
        }  # fmt: skip

    def _train(self, state: State[VisePairPlan], look: PairLook) -> Move:
        plan = state.plan
        kept = self.kept(plan)
        high = kept == A
        about, station, line = self.pivot(plan, kept), self._spot(state, 1 - kept, high), look.lines[1 - kept]
        run = -look.common * (station.x_mm - about)
        slope = line.slope - look.common if line is not None else plan.target_slope
        turn = self._turn(state, look, 1 - kept, high, about, run, slope)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, 1 - kept)
        return Tap(
            **turn, train=True, title="the train", count=2,
            sentence=text(f"{name.capitalize()}: tap the ", strong(corner), f" {way}, {turn['needle'].to}."),
            reason=text("Both turn as one: the bar holds them together; they pivot "
                "on the outer bolt of the ", f"{self.name(plan, kept)}. "
                    f"Together they are off by ", length(look.common * plan.whole_mm), " over the whole length."),
            log=text(f"Train: {corner} of the {name} tapped {way}"),
        )  # fmt: skip

    def off_dial(self, state: State[VisePairPlan], look: PairLook) -> Move | None:
        """See ``Corrected``: with one of them past the end of the dial, the one that does not keep its place is brought to the other."""
        plan, train = state.plan, self.bar_in(state)
        kept, other = self.kept(plan), 1 - self.kept(plan)
        out = [{end for key, end in look.off.items() if key[0] == "ab"[which]} for which in (A, B)]
        ends = [self._spot(state, other, high) for high in ((kept == A,) if train else (other == A, other == B))]
        past = out[other] or (set() if train else {-end for end in out[kept]})
        station = next((s for s in ends if (s.id in look.off) == bool(out[other])), None)
        if look.known or len(past) != 1 or station is None:
            return None
        toward = past.pop() < 0
        needle = self._back(state, look, station, toward, None if train else look.lines[kept])
        name, way = self.name(plan, other), side_word(plan, toward)
        tap = text(f"{name.capitalize()}: tap the ", strong(corner_word(plan, kept == A, toward)))
        slide = text("Slide ", strong(f"the whole {name}"))
        told = ONLY_THE_WAY + " Or rough it in first by a rod."
        if needle.aim_mm is not None:
            told = "It is past the end of the dial there; the aim is where the other one stands."
        if not out[other]:
            told = "The other one is past the end of the dial." + AS_FAR
        return Tap(
            pass_no=look.number, thing=other, train=train, whole=not train, toward=toward, mm=None, x_mm=station.x_mm, needle=needle,
            title="off the dial", teaches=False, rezero=not out[other],
            sentence=text(*(tap if train else slide), f" {way}{needle.then}."),
            reason=text(told),
            log=text(f"{name.capitalize()} brought onto the dial, {way}"),
        )  # fmt: skip

    def _back(
        self, state: State[VisePairPlan], look: PairLook, station: Station, toward: bool, line: LineFit | None
    ) -> Needle:
        """To the dial's end, of one that is on it; of one that is past it, to where the ``line`` of the other stands, or onto the dial."""
        spot: dict[str, Any] = {"station_id": station.id, "label": station.label.lower(), "x_mm": station.x_mm}
        sense, most = state.sense_of(station), DIAL_PART * state.plan.gauge.travel_mm
        way = 1 if toward else -1
        if station.id in look.toward_mm:
            return Needle.at(sense, look.toward_mm[station.id], way * most * sense.scale, **spot)
        if line is not None:
            there = line.level_mm + state.plan.target_slope * (station.x_mm - line.middle_mm)
            needle = Needle.at(sense, -2 * way * most, there, **spot).model_copy(update={"now_mm": None})
            if abs(needle.aim_mm or 0.0) <= most:
                return needle
        return Needle.back(**spot)

    def _bar_out(self, look: PairLook, index: int) -> Move:
        return Stage(
            pass_no=look.number, what="bar_out", title="bar out", made="Bar out, read again", teaches=False, index=index, count=index,
            sentence=text("Take ", strong("the bar out"), ". In each vise the outer bolt snug, the other finger tight."),
            reason=text("As one they lie near enough. Each is squared by itself next, and the step between them taken out."),
            log=text("Bar taken out"),
        )  # fmt: skip

    def _square(
        self, state: State[VisePairPlan], look: PairLook, which: int, run: float, left_mm: float, index: int, count: int
    ) -> Move:
        plan = state.plan
        high = which == A  # the inner end is tapped
        about = self.origin(plan, which) + self.swings_at(state, which)
        turn = self._turn(state, look, which, high, about, run, plan.target_slope + left_mm / plan.edge_mm)
        slope = look.off_slope(which)
        corner, way = corner_word(plan, high, turn["toward"]), side_word(plan, turn["toward"])
        name = self.name(plan, which)
        return Tap(
            **turn, index=index, count=count, title=f"the {name}",
            sentence=text(f"{name.capitalize()}: tap the ", strong(corner), f" {way}, {turn['needle'].to}."),
            reason=text("Its own jaw is off by ", length(slope * plan.edge_mm), " over its length; it pivots near its outer bolt. "
                "What taps and nuts did so far is in the aim. Light taps."),
            log=text(f"{name.capitalize()}: {corner} tapped {way}"),
        )  # fmt: skip

    def _slide(self, state: State[VisePairPlan], look: PairLook, slide: float, after: Array, count: int) -> Move:
        """The one that is not kept goes to where the other will be; it is squared before, so its needle stands by then elsewhere."""
        plan, which = state.plan, 1 - self.kept(state.plan)
        run = slide if which == B else -slide
        high = which == A
        station = self._spot(state, which, high)
        line, own = look.lines[which], station.x_mm - self.origin(plan, which) - plan.edge_mm / 2
        if line is not None:  # its middle, and there what is left of its slope
            middle = line.at(self.origin(plan, which) + plan.edge_mm / 2)
            lifted = float(after[3 + which])
            here = middle + lifted + (plan.target_slope + float(after[which]) / plan.edge_mm) * own
        else:
            here = look.stop_mm or 0.0
        needle = self._needle(state, station, look, here, run)
        step = float(after[2]) * (1 if which == B else -1)
        way, name = side_word(plan, run > 0), self.name(plan, which)
        both = (
            "both its bolts finger tight, taps at its two ends in turn"
            if line
            else "its bolt finger tight, taps at its middle"
        )
        return Tap(
            pass_no=look.number, thing=which, whole=True, toward=run > 0, mm=abs(run), needle=needle, asked=Asked(mm=abs(run)),
            index=count, count=count,
            x_mm=self.origin(plan, which) + (plan.edge_mm if line else plan.stop_mm) / 2, title="the step", teaches=False,
            sentence=text("Slide ", strong(f"the whole {name}"), f" {way}, {needle.to}."),
            reason=text(
                f"{both[0].upper()}{both[1:]}. Squared, the {name} stands ", length(step),
                f" {side_word(plan, step > 0)} of the other. The {self.name(plan, self.kept(plan))} keeps its place.",
                *((" Past the aim by then? Slide it back to it.",) if count > 1 else ()),
            ),
            log=text(f"{name.capitalize()} slid {way} by ", length(run)),
        )  # fmt: skip

    def swings_at(self, state: State[VisePairPlan], which: int) -> float:
        """Where one swings, from its own first end."""
        belief = self.answers(state).after(state).belief
        return float(model_of(state.plan).clip(belief.x)[5 + which])

    def odds(self, state: State[VisePairPlan], look: PairLook, judged: Verdict) -> InLine:
        """See ``Corrected``."""
        return InLine(
            model_of(state.plan), self.learned(state).known, noise_of(look), judged.limit_mm - judged.band_mm, np.zeros(3),
            Linked(tightened=1), slice(8, 11), TAP_WORTH,
        )  # fmt: skip

    def bring(
        self, state: State[VisePairPlan], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Linked, ...], tuple[int, ...]] | None:
        """See ``Corrected``; with the bar out."""
        return tuple(self._acts(state, belief)), ways

    def way(self, state: State[VisePairPlan]) -> Way | None:
        """See ``Procedure``: the train and the beds come first."""
        found, plan = super().way(state), state.plan
        return found and replace(found, before=(plan.bar == "through") + (plan.spans == "yes"))

    def acts_of(self, state: State[VisePairPlan], moves: tuple[Move, ...]) -> tuple[Linked, ...]:
        """See ``Corrected``."""
        return acts_of(state.plan, moves)

    def then(
        self, state: State[VisePairPlan], look: PairLook, judged: Verdict | None, to_make: tuple[Move, ...]
    ) -> Next:
        """See ``Corrected``: not while the bar is in."""
        return Next() if self.bar_in(state) else super().then(state, look, judged, to_make)

    def what_to_read(self, look: PairLook) -> Text:
        """See ``Corrected``."""
        if not look.complete or look.known:
            return ()
        if look.off:
            return text("The needle ran off at too many spots: rough them in by a rod or the slot, then read again.")
        return text("Each jaw needs two good readings.")
