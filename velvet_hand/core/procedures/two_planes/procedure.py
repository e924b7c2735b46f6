"""Long work in an independent four-jaw: true near the jaws, and true out at the end."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

import numpy as np

from ...angles import direction_deg, rect
from ...engine.answers import Answers, Done
from ...engine.blows import off_tap, tap_move
from ...engine.face import SIDE_PART, magnification
from ...engine.forecast import Way, rough_mm
from ...engine.jaws.answers import acts_of, answered, axes, model
from ...engine.jaws.jaws import Jaws
from ...engine.jaws.look import Look, look_at
from ...engine.jaws.moves import moves as jaw_moves
from ...engine.jaws.path import path as jaw_path
from ...engine.jaws.plan import tell_holder
from ...engine.jaws.policy import least_mm
from ...engine.jaws.solve import solve as jaws_alone
from ...engine.jaws.solve import toward_words
from ...engine.learning import GAIN, SHIFT_MM, STOPS_TO, Learned, as_moved, learned
from ...engine.policy import Next, held_before, next_of, pass_readings
from ...engine.rings import Room, judge_ring, look_ring, out_of_round, with_form
from ...engine.telling import pass_line, ring_figures, wild_caveats, zero_caveat
from ...errors import BadInput
from ...estimate.kalman import Array
from ...estimate.one_gain import Moved, OneGain
from ...fit.circle import ray
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Asked, Move, TapRound
from ...path.lathe import check_limit, check_size, check_stations, presets
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring, turn_stations
from ...readings import Pass
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...told import Caveat, Row, Solution
from ...verdict import Verdict, worst
from ...wording import degrees, length, text
from .odds import BothPlanes, both, way_of
from .plan import TwoPlanesPlan

#: Rounder than this part of the limit counts as round when the squeeze of a tube is looked for.
SQUEEZE_PART = 0.25


class TwoPlanes(Jaws[TwoPlanesPlan]):
    """``tilt = (e_far - e_near)/(z_far - z_near)``; the jaws mend ``e_near - tilt z_near``, a tap the tilt."""

    id = "two_planes"
    title = "Long part true in two planes, in a four-jaw"
    rank = 30
    needs = Needs(
        holder="An independent four-jaw chuck.",
        gauge="One indicator carried along on the carriage, or two that stay.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round in both planes; a thin tube is watched for squeezing.",
    )
    asks = Asks(surface=False, presets=presets(), schools=())
    plan_class = TwoPlanesPlan

    def ways(self, state: State[TwoPlanesPlan]) -> tuple[tuple[str, State[TwoPlanesPlan]], ...]:
        """There is one way: jaws near, tap far."""
        return ()

    def check_plan(self, plan: TwoPlanesPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Planes too close together or in the wrong order, two gauges that are the same one.
        """
        check_size(plan, plan.holder)
        check_stations(plan)
        if plan.far_z_mm - plan.near_z_mm < 5:
            raise BadInput(
                "field_invalid",
                "The far plane is not at least 5 mm farther out than the near one.",
                "Take the planes as far apart as the part allows.",
                "choices.far_z_mm",
            )
        if plan.far_gauge and plan.far_gauge.id == plan.gauge.id:
            raise BadInput(
                "field_invalid",
                f"{plan.gauge.name} cannot stand in two places at once.",
                "Choose another indicator for the far plane, or leave it empty and move this one.",
                "choices.far_gauge",
            )
        if plan.far_gauge and plan.far_gauge.measures_gap:
            raise BadInput(
                "field_invalid", f"{plan.far_gauge.name} is no indicator.", "Choose another.", "choices.far_gauge"
            )
        told = [*check_limit(plan), *tell_holder(plan)]
        if plan.far_z_mm > 4 * plan.part.diameter_mm:
            words = "It stands out more than four diameters: support it before cutting, and tap gently."
            told.append(Caveat(code="overhang", field="choices.far_z_mm", text=text(words)))
        return tuple(told)

    def path(self, plan: TwoPlanesPlan) -> tuple[Step, ...]:
        """The four-jaw's path; the tube's caution stands at the tightening."""
        found = []
        for step in jaw_path(plan, long=True):
            if step.id == "nip_up" and plan.thin == "tube":
                squeeze = Caution(
                    id="squeeze", text="A tube: even, light grip; a plug inside helps. The proof compares its form."
                )
                step = step.model_copy(update={"cautions": (*step.cautions, squeeze)})
            if step.id == "read":
                step = step.model_copy(update={"prompt": "Read the near plane, then the far one; then the move."})
            found.append(step)
        return tuple(found)

    def measures(self, plan: TwoPlanesPlan) -> tuple[Measure, ...]:
        """The near plane, then the same spots at the far one."""
        far = tuple(s.model_copy(update={"jaw": None}) for s in turn_stations(plan, "far", "Far,"))
        return ring(plan, "near", "Near,"), ring(plan, "far", spots=far)

    def way(self, state: State[TwoPlanesPlan]) -> Way | None:
        """See ``Procedure``: jaws and tap from one pass."""
        near, far = self.rings(state, state.passes[-1])
        chance = self._chance(state, near, far)
        if chance is None:
            return None
        found = way_of(chance, least_mm(state), rough_mm(state), pass_readings(state))
        return with_form(found, near) if state.plan.limit.kind == "tir" else found

    def rings(self, state: State[TwoPlanesPlan], one: Pass) -> tuple[Look, RingLook]:
        """Near and far."""
        return look_at(state, one), look_ring(state, one, "far")

    def judge(self, state: State[TwoPlanesPlan], near: RingLook, far: RingLook) -> Verdict | None:
        """Both planes against the same limit; the worse one leads."""
        found = (judge_ring(state, near, where="near the jaws"), judge_ring(state, far, where="at the far end"))
        return worst((found[0], found[1])) if found[0] and found[1] else None

    def solve(self, state: State[TwoPlanesPlan]) -> Solution:
        """Jaws near and a tap far, both from one pass; then tighten as soon as that is worth it."""
        base = jaws_alone(state, decides=False)
        current = state.open_pass
        if current is None:
            return base
        near, far = self.rings(state, current)
        complete = near.complete and far.complete
        judged = self.judge(state, near, far) if complete else None
        moves = self._moves(state, base, near, far) if complete and not current.back else ()
        figures = tuple(
            f
            for name, key, look in (("Near", "near_", near), ("Far", "", far))
            for f in ring_figures(state, look, toward_words(state, look.fit.toward_deg) if look.fit else (), name, key)
        )
        lost = complete and far.off and not (near.off or moves or current.moved)
        leads = far if judged is None or judged.where == "at the far end" else near
        return base.model_copy(
            update={
                **self._next(state, near, far, judged, moves).told,
                "figures": figures,
                "moves": moves,
                "judged": judged,
                "caveats": (
                    *base.caveats,
                    *(zero_caveat(state, "by rule") if lost else ()),
                    *wild_caveats(state, far.wild),
                    *self._squeezed(state, current),
                ),
                "wild": (*near.wild, *far.wild),
                "x_mm": leads.fit.x_mm if leads.fit else None,
                "y_mm": leads.fit.y_mm if leads.fit else None,
                "need_reading": () if not complete else base.need_reading,
                "quick": None,  # both planes would have to be looked at: that is nearly a full pass
            }
        )

    def _next(
        self, state: State[TwoPlanesPlan], near: Look, far: RingLook, judged: Verdict | None, moves: tuple[Move, ...]
    ) -> Next:  # fmt: skip
        """Move, tighten, or stop."""
        current = state.passes[-1]
        chance = self._chance(state, near, far) if judged is not None and not current.back else None
        if judged is None or chance is None or chance.known.lost or any(m.rezero for m in moves):
            return Next()
        leads, twice = far if judged.where == "at the far end" else near, 2.0 if judged.kind == "tir" else 1.0
        acts = (*acts_of(moves, chance.known.ways or (0, 0)), *_taps(moves))
        return next_of(
            state, chance, judged, acts, left=bool(moves),
            stop=out_of_round(leads, judged, twice * abs(leads.center or 0j), "moving it"),
            small="Stop here. Neither jaws nor a tap can make it better than this indicator can tell.",
            held=held_before(state, lambda one: self.judge(state, *self.rings(state, one))),
        )  # fmt: skip

    def _chance(self, state: State[TwoPlanesPlan], near: Look, far: RingLook) -> BothPlanes | None:
        """How likely both planes hold."""
        if near.alone is None or far.alone is None:
            return None
        radii = []
        for look in (near, far):
            judged = judge_ring(state, look)
            if judged is None:
                return None
            radii.append(Room.of(look, judged).radius_mm(judged.band_mm))
        turned = np.array([[way.real, way.imag] for way in axes(state)])
        grip, leans = (model(state), answered(state)), (_lean_model(state), _lean_answers(state).after(state))
        noises = near.alone.cov, far.alone.cov
        return both(grip, leans, turned, state.plan.near_z_mm / state.plan.far_z_mm, (radii[0], radii[1]), noises)

    def _moves(self, state: State[TwoPlanesPlan], base: Solution, near: Look, far: RingLook) -> tuple[Move, ...]:
        """The tap, then both pairs of jaws; all from one pass, for a tap leaves alone where the jaws hold it.

        The other way round the tap would take what the jaws miss for lean.
        """
        made = state.moved_in(near.number)
        beyond = off_tap(state, far, "the far end") if far.off and not (near.off or made) else None
        if beyond is not None:  # first onto the dial; what it takes out is a bound, and teaches nothing
            return (beyond.model_copy(update={"teaches": False}),)
        if far.off and not far.toward_mm and not (near.off or made):
            return ()  # nothing is known of it before it has a zero of its own
        if near.center is None or far.center is None or any(m.rezero for m in base.moves):
            return base.moves
        if any(m.rezero for m in made):
            return ()  # zero was set afresh
        struck = any(isinstance(m, TapRound) for m in made)
        tap = None if struck else self._tap(state, near.center, far)
        here = _leaning_no_more(near) if struck or tap is not None else near
        jaws = tuple(self._with_effect(m, far.center) for m in jaw_moves(state, here, answered(state)))
        found, done = (*(() if tap is None else (tap,)), *jaws), len(made)
        return tuple(
            m.model_copy(update={"index": done + i, "count": done + len(found)}) for i, m in enumerate(found, start=1)
        )

    def _tap(self, state: State[TwoPlanesPlan], near: complex, far: RingLook) -> TapRound | None:
        """The tap that takes the lean out; None when that is too small."""
        plan, known = state.plan, _lean(state)
        if far.center is None:
            return None
        tilt = (far.center - near) / (plan.far_z_mm - plan.near_z_mm)
        need = -(tilt * plan.far_z_mm + known.shift)
        if abs(need) <= plan.gauge_in(plan.slot("far")).graduation_mm * STOPS_TO:
            return None
        reason = text(
            "The far end stands ", length(abs(far.center)), " off center and the near plane ", length(abs(near)),
            ": the part leans by ", length(abs(tilt) * plan.far_z_mm), " at the far plane. First the lean, then the jaws. The tap also "
            "moves the near plane by ", length(abs(tilt) * plan.near_z_mm), "; both are read again.",
        )  # fmt: skip
        found = tap_move(
            state, far, need, known.ask(abs(need)), what="the far end", where=toward_words(state, direction_deg(-need)),
            title="the far end", reason=reason, teaches=False,
        )  # fmt: skip
        shows = abs(found.aim_mm or 0.0) <= plan.gauge_in(plan.slot("far")).travel_mm
        return found if shows else None  # the jaws bring it nearer first

    def _with_effect(self, move: Move, far: complex) -> Move:
        """A jaw moves the whole work: what that does to the far plane."""
        asked = move.asked or Asked(mm=0.0)
        after = abs(far + rect(asked.mm, asked.deg))
        told = text(" The far end goes with it by as much and then stands ", length(after), " off center.")
        return move.model_copy(update={"reason": (*move.reason, *told)})

    def _squeezed(self, state: State[TwoPlanesPlan], current: Pass) -> tuple[Caveat, ...]:
        """The form of a tube before and after tightening."""
        plan = state.plan
        before = current.number - 1
        if plan.thin != "tube" or before not in state.tightenings or before < 1:
            return ()
        was, now = look_at(state, state.passes[before - 1]).fit, look_at(state, current).fit
        if was is None or now is None or now.form_mm - was.form_mm < plan.limit.mm * SQUEEZE_PART:
            return ()
        return (
            Caveat(
                code="squeezed",
                text=text(
                    "Tightening squeezed the tube: out of round grew from ", length(was.form_mm), " to ",
                    length(now.form_mm), ". Loosen the grip, use a plug or wider jaws; it springs back when it is let go.",
                ),
            ),
        )  # fmt: skip

    def figures(self, state: State[TwoPlanesPlan], one: Pass) -> Row:
        """By the worse plane."""
        line = super().figures(state, one)
        near, far = self.rings(state, one)
        judged = self.judge(state, near, far) if near.complete and far.complete else None
        leads = far if judged and judged.where == "at the far end" else near
        if leads.fit is None or judged is None:
            return line.model_copy(update={"outcome": None})
        toward = (*toward_words(state, leads.fit.toward_deg), *text(", far" if leads is far else ", near"))
        ring = pass_line(state, one, leads, toward, judged)
        changes = {k: getattr(ring, k) for k in ("main", "beside", "toward", "track_x_mm", "track_y_mm", "outcome")}
        return line.model_copy(update=changes)

    def scene(self, state: State[TwoPlanesPlan], solution: Solution, station_id: str) -> Scene:
        """The face for the jaws; from the side when the far end is to be tapped."""
        current = state.open_pass
        move = solution.moves[0] if solution.moves else None
        if current is None or not isinstance(move, TapRound):
            return super().scene(state, solution, station_id)
        return side_view(state, *self.rings(state, current), move)


def _lean(state: State[TwoPlanesPlan]) -> Learned:
    """What taps have done to the lean so far."""
    return learned(state, _lean_answers(state), 2)


def _leaning_no_more(near: Look) -> Look:
    """The near plane as it stands when the lean has been taken out."""
    by = -near.target
    if near.fit is None or not by:
        return near
    ring, at = near.ring, complex(near.fit.x_mm, near.fit.y_mm)

    def stands(deg: float, center: complex) -> float:
        return float(ray(deg, center.real, center.imag, ring.radius_mm, ring.sign))

    angles = {s.id: s.angle_deg for s in ring.stations}
    toward = {
        name: mm + stands(angles[name], at + by) - stands(angles[name], at) for name, mm in near.toward_mm.items()
    }
    return replace(near.moved(by), toward_mm=toward, target=0j)


def _lean_model(state: State[TwoPlanesPlan]) -> OneGain:
    watched = state.plan.gauge_in(state.plan.slot("far"))  # a tap is stopped by the far needle
    return OneGain(2, STOPS_TO * watched.graduation_mm, GAIN, SHIFT_MM)


def _taps(moves: Iterable[Move]) -> tuple[Moved, ...]:
    """Taps at the far end, as acts on the lean."""
    return as_moved(m for m in moves if isinstance(m, TapRound))


def _lean_answers(state: State[TwoPlanesPlan]) -> Answers[Moved]:
    """How the work has answered taps: its lean at the far plane, which jaws leave as it is."""
    plan = state.plan
    reach = plan.far_z_mm / (plan.far_z_mm - plan.near_z_mm)

    def seen(number: int) -> tuple[Array, Array] | None:
        near, far = (look_ring(state, state.passes[number - 1], ring) for ring in ("near", "far"))
        if near.round is None or far.round is None or not (near.complete and far.complete):
            return None
        return (far.round.center - near.round.center) * reach, (far.round.cov + near.round.cov) * reach**2

    def done(number: int, ways: tuple[int, ...]) -> Done[Moved]:
        asked = [m.asked for m in state.moved_in(number) if isinstance(m, TapRound)]
        acts = [*_taps(state.moved_in(number))]
        if times := state.tightenings.count(number):
            acts.append(Moved((0.0, 0.0), times))
        return Done(tuple(acts) if None not in asked else None)

    return Answers(_lean_model(state), seen, done, lambda number: False, name="lean")


def side_view(state: State[TwoPlanesPlan], near: RingLook, far: RingLook, move: TapRound) -> AxisScene:
    """The work's axis from the side, in the plane of the tap."""
    plan = state.plan
    up = move.at_deg
    heights = [(look.center * rect(1, -up)).real if look.center is not None else None for look in (near, far)]
    known = [h for h in heights if h is not None]
    line = None
    if len(known) == 2:
        slope = (known[1] - known[0]) / (plan.far_z_mm - plan.near_z_mm)
        line = SceneLine(z1_mm=0.0, h1_mm=known[0] - slope * plan.near_z_mm, z2_mm=plan.far_z_mm, h2_mm=known[1])
    return AxisScene(
        seen="Seen from your side, chuck at the left",
        held="jaws",
        length_mm=plan.far_z_mm,
        stops=tuple(
            SceneStop(
                label=name, z_mm=z, height_mm=h, tir_mm=2 * abs(look.center) if look.center is not None else None,
                over=False, state="read" if look.complete else "open",
            )
            for name, z, h, look in (("near", plan.near_z_mm, heights[0], near), ("far", plan.far_z_mm, heights[1], far))
        ),
        line=line,
        known=len(known) == 2,
        magnification=magnification(max((abs(h) for h in known), default=0.0), plan.far_z_mm * SIDE_PART, plan.gauge.graduation_mm),
        up=text("Up is ", *toward_words(state, up)),
        mark_z_mm=plan.far_z_mm,
        mark=text("tap ", length(move.mm or 0.0)),
        limit_mm=plan.limit.off_centre_mm,
        reading=move.needle.label if move.needle else "",
        describe=f"The part from the side; the far end is tapped at {degrees(move.at_deg)}.",
    )  # fmt: skip


PROCEDURE = TwoPlanes()
