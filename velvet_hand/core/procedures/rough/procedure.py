"""Rough or cast work in an independent four-jaw, by rule or feelers: bigger is farther."""

from __future__ import annotations

from ...angles import apart
from ...engine.jaws.jaws import Jaws
from ...engine.jaws.plan import tell_holder
from ...engine.jaws.solve import toward_words
from ...engine.rings import look_ring
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Move, Needle, TapRound
from ...path.lathe import check_limit, check_size, check_stations, presets
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring, turn_stations
from ...setup.state import State
from ...told import Caveat, Figure, Solution
from ...wording import Text, length, strong, text
from .plan import RoughPlan


class Rough(Jaws[RoughPlan]):
    """Gaps at the jaws to a pointer that stands still; a second plane from gaps to a face."""

    id = "rough"
    title = "Rough or cast part in a four-jaw, without an indicator"
    rank = 20
    usual_passes = (3, 5)
    needs = Needs(
        holder="An independent four-jaw chuck.",
        gauge="A rule or feelers, and a pointer that stands still: a surface gauge.",
        machine="A lathe whose spindle can be turned by hand.",
        part="As cast or as sawn; its mean diameter. A trued face for the second plane.",
    )
    asks = Asks(
        surface=False, place=False, diameter="Diameter, roughly", gauges=("rule", "feelers"), presets=presets(),
        schools=Jaws.asks.schools,
    )  # fmt: skip
    plan_class = RoughPlan

    def check_plan(self, plan: RoughPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``."""
        check_size(plan, plan.holder)
        check_stations(plan)
        told = [*check_limit(plan), *tell_holder(plan)]
        if plan.limit.mm < plan.gauge.graduation_mm * 3:
            words = "So close a limit is worth an indicator: a rule only brings the part within its travel."
            told.append(Caveat(code="gauge_worth", field="limit.typed", text=text(words)))
        return tuple(told)

    def path(self, plan: RoughPlan) -> tuple[Step, ...]:
        """The four-jaw's path, with a pointer instead of a gauge."""
        found = []
        for step in super().path(plan):
            if step.id == "set_gauge":
                step = Step(
                    id="set_gauge",
                    title="Set pointer",
                    headline=text("Stand the ", strong("pointer"), " clear of the highest spot, and leave it there."),
                    prompt=(
                        "Base solid on the carriage. Turn the part by hand one full turn: nothing touches. Every gap is "
                        "measured to the same pointer; a bigger gap means that the surface is farther away."
                    ),
                    cautions=(Caution(id="scale", text="Knock loose scale and sand off first; skip risers and fins."),),
                )
            found.append(step)
        return tuple(found)

    def measures(self, plan: RoughPlan) -> tuple[Measure, ...]:
        """Round the work; then, with a second plane, on the face."""
        if plan.second == "none":
            return super().measures(plan)
        name = "Face," if plan.second == "face" else "Behind,"
        face = tuple(s.model_copy(update={"jaw": None}) for s in turn_stations(plan, "face", name))
        return ring(plan), ring(plan, "face", flat=True, spots=face)

    def face_look(self, state: State[RoughPlan]) -> RingLook | None:
        """The second plane: ``r = F . u`` exactly. The work leans away from F: where a face stands out, or where
        the gap behind a jaw is smallest.
        """
        current, plan = state.open_pass, state.plan
        return look_ring(state, current, "face") if current and plan.second != "none" else None

    def solve(self, state: State[RoughPlan]) -> Solution:
        """The four-jaw's answer; the face's tilt after the jaws are right."""
        found = super().solve(state)
        face, plan = self.face_look(state), state.plan
        changes: dict[str, object] = {}
        if face is not None and face.complete and face.center is not None:
            changes["figures"] = (*found.figures, self._tilt_figure(state, face))
            tilted = 2 * abs(face.center) > plan.gauge.graduation_mm
            first = not found.moves or not (found.judged and found.judged.outcome == "outside")
            if tilted and first and not state.passes[-1].moved:
                changes |= {"moves": (self._tilt_move(state, face),), "ready": False, "stop": ()}
        caveats = found.caveats
        if found.ready:
            words = "A rule shows no more than this. If it has to be closer, an indicator is worth it from here on."
            caveats = (*caveats, Caveat(code="gauge_worth", text=text(words)))
        fit_form = next((f for f in found.figures if f.id == "form"), None)
        if fit_form and (fit_form.mm or 0.0) > plan.gauge.graduation_mm * 1.5:
            words = (
                "Its high spots are the casting’s own: the aim is the middle of its mean roundness, not of its bumps."
            )
            caveats = (*caveats, Caveat(code="casting", text=text(words)))
        return found.model_copy(update={**changes, "caveats": caveats})

    def _tilt_figure(self, state: State[RoughPlan], face: RingLook) -> Figure:
        assert face.fit is not None
        return Figure(
            id="tilt", label="Face runs out" if _by_face(state) else "Gaps behind differ", mm=2 * face.fit.offset_mm,
            u_mm=2 * face.fit.u_mm,
            note=text("nearest at ", *toward_words(state, face.fit.toward_deg)),
        )  # fmt: skip

    def _tilt_move(self, state: State[RoughPlan], face: RingLook) -> Move:
        """Tap the face back where it stands nearest, or the outer end over; else pack the jaw's end."""
        plan, fit, sense = state.plan, face.fit, state.sense
        assert fit is not None
        deg = fit.toward_deg
        spots = [s for s in state.stations if s.ring == "face" and s.id in face.toward_mm]
        watch = min(spots, key=lambda s: apart(s.angle_deg, deg))
        needle = Needle.at(
            sense, face.toward_mm[watch.id], fit.mean_mm, station_id=watch.id, label=watch.label.lower(), deg=watch.angle_deg,
            gap=True,
        )  # fmt: skip
        across = plan.holder.opposite(min(plan.holder.numbers, key=lambda j: apart(plan.holder.jaw_deg(j), deg)))
        pack = fit.offset_mm / plan.arm_mm * plan.jaw_length_mm
        by_face = _by_face(state)
        blow = deg if by_face else (deg + 180) % 360
        return TapRound(
            pass_no=face.number,
            at_deg=blow,
            mm=fit.offset_mm,
            needle=needle,
            aims={s.id: needle.aim_mm or 0.0 for s in spots},
            title="the face" if by_face else "the lean",
            teaches=False,
            sentence=_tilt_sentence(by_face, watch.short.lower(), across),
            reason=text(
                "The face sticks out " if by_face else "The gap there is smaller by ", length(fit.offset_mm),
                " than its mean. If it springs back, the jaws "
                f"lean: pack the outer end of jaw {across} by ", length(pack), " or seat the part on them again. "
                "Then every gap is measured again.",
            ),
            log=text(f"Face tapped back at {watch.label.lower()}" if by_face else f"Outer end tapped over, away from jaw {across}"),
        )  # fmt: skip


def _by_face(state: State[RoughPlan]) -> bool:
    return state.plan.second == "face"


def _tilt_sentence(by_face: bool, spot: str, across: int) -> Text:
    if by_face:
        return text(
            f"At {spot}: tap ", strong("the face toward the chuck"), ", gap growing to the aim. Its gap is smallest there.",
        )  # fmt: skip
    return text(
        "Tap ",
        strong("the outer end"),
        f" over, from the side of jaw {across}, until the gap behind {spot} grows to the aim.",
    )


PROCEDURE = Rough()
