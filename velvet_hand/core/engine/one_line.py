"""The frame of procedures that read one edge in every pass and tap it to where it is wanted.

Aim at the tapping station B: the height of the line at the point about which it swings, ``Y = h(xp)``, for that is
the one point that does not move (with a wanted slope ``t``: plus ``t (xB - xp)``). What a tap really does is learned
as the change of slope for a millimeter at B, so swing point and spring-back need not be known apart.
"""

from __future__ import annotations

import math
from abc import ABC
from typing import Any

import numpy as np

from ..estimate.kalman import Belief
from ..estimate.tapped import Tapped
from ..fit.line import crossing
from ..gauge import Carrier, Surface
from ..measure.base import Measure
from ..measure.edge import LineLook
from ..memo import once
from ..move import Asked, Move, Needle, Tap
from ..plan.edge import corner_word, edge, side_word
from ..plan.places import about_word
from ..quantity import HEADS
from ..readings import Pass, Station
from ..scene import Scene, SceneBody, SceneBolt
from ..setup.state import State
from ..shop import MachineKind
from ..told import Caveat, Figure, Row, Solution
from ..verdict import Verdict
from ..wording import Bit, Text, length, so_many, strong, text
from . import learning
from .answers import Answers
from .beyond import AS_FAR, shown_part
from .frame import Corrected
from .learning import Learned
from .line_parts import (
    E,
    Swing,
    beside_word,
    edge_of,
    end_of,
    hinge_bolts,
    line_caveats,
    line_figures,
    other_ways,
    ran_off,
    swings_there,
    tap_off_dial,
    taps_high,
    uneven_stop,
    watched,
)
from .policy import Odds
from .table import table_scene
from .tapping import acts_of, answers_of, brought, least_mm, model_of, pivot_prior, rise_variance

TAP_WORTH = 0.2  # pulled down straight after a tap from this part of the best odds on


class OneLine(Corrected[E, LineLook], ABC):
    """What procedures of one edge share; each of them adds ``check_plan`` and ``path``.

    ``thing`` is what is tapped (``vise``), ``edge`` what is read (``jaw``), ``mend`` what mends an edge that is not straight.
    """

    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    thing = "vise"
    edge = "jaw"
    mend = "Stone it, or hold a straight bar in it and read that."
    kick_repeats = True
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "gauge_turns"
    wrong_way = " at the end that is tapped"
    near_by = "by a rod or the slot"

    # -- what is read ------------------------------------------------------------------------------

    def measures(self, plan: E) -> tuple[Measure, ...]:
        """See ``Procedure``."""
        return (edge(plan, rises=self.rises(plan)),)

    def rises(self, plan: E) -> dict[str, float]:
        """What stands out by itself at a station."""
        return {}

    def look(self, state: State[E], one: Pass) -> LineLook:
        """See ``Corrected``."""
        return edge_of(state).look(state, one)

    def judge(self, state: State[E], look: LineLook, shift: complex = 0j) -> Verdict | None:
        """See ``Corrected``."""
        plan = state.plan
        return look.edge.judge(state, look, plan.limit.kind, plan.limit.mm, plan.limit_length_mm, shift_mm=shift.real)

    # -- where it swings ---------------------------------------------------------------------------

    def swing(self, state: State[E]) -> Swing:
        """Where it swings: the bolts' word, and what taps have shown, weighed together."""
        known = self.answers(state).after(state)
        sd = known.belief.sd(2)
        seen = bool(known.moves) or (bool(state.moves) and sd < pivot_prior(state.plan).sd / 2)
        return Swing(float(known.belief.x[2]), sd, seen)

    def answers(self, state: State[E]) -> Answers[Tapped]:
        """See ``Corrected``."""
        return answers_of(state, self.looks(state), self.first_station(state).x_mm)

    def taps_high(self, state: State[E]) -> bool:
        """Is it tapped at its second end?"""
        return taps_high(state.plan, self.swing(state), state.stations)

    def tap_station(self, state: State[E]) -> Station:
        """The spot at the end that is tapped."""
        return end_of(state.stations, high=self.taps_high(state))

    def learned(self, state: State[E]) -> Learned:
        """What taps and tightening did: the gain is the part of a tap that stays, the shift a rise over the edge, plus toward the
        gauge at its far end.
        """
        return once(state.memo, "learned", 0, lambda: self._learned(state))

    def _learned(self, state: State[E]) -> Learned:
        known = self.answers(state).after(state)
        told = bool(known.moves or state.plan.memory.taught)
        return Learned(
            known, math.exp(known.belief.x[1]), complex(float(known.belief.x[3]) * state.plan.turn_sign), told
        )

    # -- what to do ---------------------------------------------------------------------------------

    def ways(self, state: State[E]) -> tuple[tuple[str, State[E]], ...]:
        """See ``Procedure``: the other schools on the same readings."""
        return other_ways(state)

    def moves(self, state: State[E], look: LineLook, learned: Learned) -> tuple[Move, ...]:
        """One tap at the end away from the hinge."""
        plan, fit, line = state.plan, look.fit, look.line
        if fit is None or line is None:
            return ()
        station, first, shift = self.tap_station(state), self.first_station(state), learned.shift.real
        if plan.way == "swing":
            run = self._asked(state, learned, -fit.mm)
            asked = -(fit.mm + shift)
        else:
            shift = 0.0
            run = -(fit.mm / look.edge_mm) * (station.x_mm - first.x_mm) * (1.0 if plan.way == "zero" else 0.5)
            asked = -fit.mm * (1.0 if plan.way == "zero" else 0.5)
        if abs(run) < least_mm(plan) or asked == 0:
            return ()
        return (self._tap(state, look, station, run, asked, shift),)

    def _asked(self, state: State[E], learned: Learned, need: float) -> float:
        """How far to tap at the tapping spot so that the rise changes by ``need`` beyond the shift of tightening; the first tap is
        asked plainly, to the height of the point that it swings about.
        """
        sign, x = state.plan.turn_sign, self.tap_station(state).x_mm
        model, belief = model_of(state.plan), learned.known.belief
        if not learned.told:
            return need / state.plan.edge_mm * model.arm(model.clip(belief.x), x)
        return sign * model.ask(belief, sign * need, x)

    def first_station(self, state: State[E]) -> Station:
        """The spot at the hinge's end."""
        return end_of(state.stations, high=state.plan.hinge == "high")

    def _tap(self, state: State[E], look: LineLook, station: Station, run: float, asked: float, shift: float) -> Tap:
        """Tap at ``station`` until its height has changed by ``run``; ``asked`` is the rise over the edge that it makes."""
        plan, sense, line = state.plan, state.sense_of(station), look.line
        assert line is not None
        swing = self.swing(state)
        spot, goes = watched(state, look, station, self.first_station(state), run, swing.x_mm)
        more = look.walked_mm + look.edge.rises.get(spot.id, 0.0)
        here = line.at(spot.x_mm) + more
        read = look.toward_mm.get(spot.id, 0.0) + more if spot.id in look.toward_mm else here
        if spot.id in look.wild or (here + goes - read) * goes <= 0:
            read = here  # a burr, or no more than one reading scatters by
        at: dict[str, Any] = {"station_id": spot.id, "label": spot.label.lower(), "x_mm": spot.x_mm}
        part = shown_part(state, sense.needle_mm(read), sense.needle_mm(here + goes))
        after, run, asked = read + (here + goes - read) * part, run * part, asked * part
        needle = Needle.at(sense, read, after, gap=plan.gauge.measures_gap, **at)
        taps = self._taps(state, abs((needle.now_mm or 0.0) - (needle.aim_mm or 0.0)) * sense.scale)
        if station.id in look.off:
            needle = needle.model_copy(update={"now_mm": None})
        high, toward = self.taps_high(state), run > 0
        corner, way = corner_word(plan, high, toward), side_word(plan, toward)
        return Tap(
            pass_no=look.number,
            x_mm=station.x_mm,
            toward=toward,
            mm=abs(run),
            pivot_mm=swing.x_mm,
            slope_after=line.slope + asked / look.edge_mm,
            needle=needle,
            asked=Asked(mm=abs(asked), deg=0.0 if asked > 0 else 180.0),
            title=f"the {plan.end_word(high)} end",
            sentence=text("Tap the ", strong(corner), f" {way}, {needle.to}."),
            rezero=part < 1,
            reason=(*self._reason(state, look, swing, shift), *taps, *text(AS_FAR if part < 1 else "")),
            log=text(f"{corner[0].upper()}{corner[1:]} tapped {way}"),
        )

    def _taps(self, state: State[E], run_mm: float) -> Text:
        """How many blows, where they were counted before."""
        each = learning.per_tap_mm(state)
        if not each:
            return text("Light taps, hammer held near its head; read when the needle is still.")
        count = max(1, round(run_mm / each))
        return text(f"About {so_many(count, 'light tap')} at ", length(each), " each.")

    def _reason(self, state: State[E], look: LineLook, swing: Swing, shift: float) -> Text:
        plan = state.plan
        if plan.way == "zero":
            return text("Pivot taken at your first reading: tap out all of it. Run back along it after. ")
        if plan.way == "half":
            return text("Pivot taken at the middle: tap out half of the difference. Zero afresh, and again. ")
        first = self.first_station(state)
        beside = swing.x_mm - first.x_mm
        where = (
            text("under the first reading")
            if abs(beside) < 1
            else text(about_word(plan, abs(beside)), f" {beside_word(plan, beside)} the first reading")
        )
        by = ", as the taps have shown" if swing.seen else " by its bolt"
        words: list[Bit] = ["It pivots ", *where, f"{by}; the {self.edge}’s height there is the aim."]
        words.extend(swings_there(plan, self.taps_high(state)))
        learned = self.learned(state)
        if learned.told:
            words.append(f" Taps move it {100 * learned.gain:.0f} % of what is figured.")
        if abs(shift) > max(plan.gauge.graduation_mm / 4, learned.known.belief.sd(3)):
            words += [" Pulling it down shifts it ", length(shift), " over its length; the aim allows for that."]
        return text(*words, " ")

    def off_dial(self, state: State[E], look: LineLook) -> Move | None:
        """See ``Corrected``."""
        return tap_off_dial(state, look, self.tap_station(state), self.taps_high(state))

    # -- is it enough? --------------------------------------------------------------------------------

    def odds(self, state: State[E], look: LineLook, judged: Verdict) -> Odds[Tapped]:
        """See ``Corrected``."""
        radius = (judged.limit_mm - judged.band_mm) * look.edge_mm / state.plan.limit_length_mm
        return Odds(
            model_of(state.plan), self.learned(state).known, np.array([[rise_variance(look)]]), radius, np.zeros(1), Tapped(tightened=1),
            slice(3, 4), TAP_WORTH,
        )  # fmt: skip

    def acts_of(self, state: State[E], moves: tuple[Move, ...]) -> tuple[Tapped, ...]:
        """See ``Corrected``."""
        return acts_of(state.plan, moves)

    def bring(
        self, state: State[E], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Tapped, ...], tuple[int, ...]] | None:
        """See ``Corrected``."""
        acts = brought(state.plan, belief, self.tap_station(state).x_mm)
        return None if acts is None else (acts, ways)

    def stop_for(self, state: State[E], look: LineLook, judged: Verdict) -> Text:
        """See ``Corrected``: an edge that is not straight."""
        return uneven_stop(look, judged, self.edge, self.mend)

    small_words = "Stop here. No tap makes it better than this indicator can tell."

    def what_to_read(self, look: LineLook) -> Text:
        """See ``Corrected``."""
        if not look.complete or look.fit is not None:
            return ()
        return ran_off(look.edge) if look.off else text("Only one good reading: a line needs two.")

    # -- figures -------------------------------------------------------------------------------------

    def heads(self, plan: E) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return f"Over {about_word(plan, plan.limit_length_mm)}", HEADS["straight"], "Pivot"

    def told_figures(self, state: State[E], look: LineLook) -> tuple[Figure, ...]:
        """See ``Corrected``."""
        plan, fit = state.plan, look.fit
        if fit is None or look.line is None:
            return ()
        part = plan.limit_length_mm / look.edge_mm
        near = plan.end_word(fit.mm > 0)
        swing = self.swing(state)
        word = "Out of its angle" if plan.target_deg else "Out of true"
        note = text(f"{near} end nearer the indicator") if abs(fit.mm) > 2 * fit.u_mm else text("no side to speak of")
        found = [
            Figure(
                id="rise",
                label=f"{word} over {about_word(plan, plan.limit_length_mm)}",
                mm=abs(fit.mm) * part,
                u_mm=look.edge.band_mm(state, look, plan.limit_length_mm) / 2,
                note=note,
            ),
        ]
        slant = math.degrees(math.atan(look.line.slope - look.target))
        found.append(Figure(id="angle", label="Out of square", mm=None, note=text(f"{abs(slant):.3f}°")))
        if look.uneven_mm:
            found.append(Figure(id="straight", label=f"{self.edge.capitalize()} not straight", mm=look.line.zone_mm))
        if swing.seen:
            found.append(
                Figure(
                    id="swing",
                    label="Pivot",
                    mm=None,
                    note=text(
                        f"{about_word(plan, swing.x_mm)} ± {about_word(plan, 2 * swing.u_mm)} from its first end"
                    ),
                )
            )
        if look.drift_mm is not None:
            found.append(Figure(id="drift", label="Closing error", mm=look.drift_mm))
        return tuple(found)

    def line(
        self, state: State[E], one: Pass, look: LineLook, judged: Verdict | None, asked_mm: float | None, got_mm: float | None
    ) -> Row:  # fmt: skip
        """See ``Corrected``."""
        return line_figures(state, one, look, judged, asked_mm, got_mm, self.swing_after(state, one))

    def swing_after(self, state: State[E], one: Pass) -> Text:
        """Where it swung on the way to this pass."""
        before = next((p for p in state.passes if p.number == one.number - 1), None)
        if before is None or before.frames.get("") != one.frames.get("") or before.number in state.tightenings:
            return ()
        here, there = self.look(state, before).line, self.look(state, one).line
        met = crossing(here, there) if here and there else None
        return text(about_word(state.plan, met[0])) if met and met[1] < 30 else ()

    def toward(self, state: State[E], deg: float) -> Text:
        """See ``Corrected``."""
        return text(f"{state.plan.end_word(deg < 90 or deg > 270)} end nearer")

    def more_caveats(self, state: State[E], look: LineLook) -> tuple[Caveat, ...]:
        """See ``Corrected``: a tap about the first reading that swings back; what tightening does, when it does much."""
        return line_caveats(state, self.looks(state).get(look.number - 1), look, self.learned(state))

    # -- the picture ---------------------------------------------------------------------------------

    def scene(self, state: State[E], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        plan = state.plan
        looks = self.looks(state)
        look = looks[state.passes[-1].number] if state.passes else None
        if look is not None and look.fit is None:
            look = next((k for k in looks.newest_first() if k.fit is not None), look)
        return table_scene(
            state, solution, station_id,
            looks=((look, 0.0, plan.edge_mm),),
            bodies=(self.body(state, look),),
            edge_word=f"{self.edge} face, end to end" if self.edge == "jaw" else f"{self.edge}, end to end",
            limit_mm=plan.limit.mm * plan.edge_mm / plan.limit_length_mm,
            low_high=(0.0, plan.edge_mm),
        )  # fmt: skip

    shape = "vise"

    def body(self, state: State[E], look: LineLook | None) -> SceneBody:
        """What is moved, as it lies."""
        plan = state.plan
        deep = plan.holder.deep_mm
        ahead = deep if self.shape == "vise" else 0.0
        return SceneBody(
            name=plan.holder.name,
            shape="vise" if self.shape == "vise" else "plate",
            from_mm=0.0,
            length_mm=plan.edge_mm,
            ahead_mm=ahead,
            behind_mm=0.28 * deep if ahead else deep,
            slope=look.fit.mm / look.edge_mm if look and look.fit else 0.0,
            shift_mm=0.0,
            pivot_mm=self.swing(state).x_mm,
            bolts=self.bolts(state),
            moving=True,
        )

    def bolts(self, state: State[E]) -> tuple[SceneBolt, ...]:
        """Its hold-down bolts: the hinge snug, the other loose, until all are pulled."""
        plan = state.plan
        return hinge_bolts(plan, state.tight)
