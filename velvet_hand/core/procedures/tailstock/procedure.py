"""Is the tailstock true? A bar between centers read top and side, or two collars cut alike."""

from __future__ import annotations

from itertools import pairwise

from ...engine.face import SIDE_PART, magnification
from ...engine.telling import closings, too_few
from ...errors import BadInput
from ...measure.edge import LineLook
from ...memory import Lesson
from ...move import Move, Shim, Slide
from ...path.lathe import GENERAL, check_limit_mm, make_safe, tell_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.places import about_word
from ...quantity import Quantity
from ...readings import Pass
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...wording import Text, length, plain, strong, text
from .moves import TailstockMoves
from .plan import TailstockPlan
from .reading import OVER, QUILL_SIDE, QUILL_TOP, SIDE, Stands


class Tailstock(TailstockMoves):
    """Height by shims, then the side by its screws; lean and offset told apart."""

    id = "tailstock"
    title = "Set a tailstock true"
    rank = 125
    usual_passes = (4, 4)
    needs = Needs(
        holder="Centers, both clean and true in their tapers.",
        gauge="A lever or plunger indicator on the carriage; for collars a micrometer.",
        machine="A lathe whose carriage is run by hand.",
        part="A ground bar with good center holes; for collars a bar with one near each end.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part to be turned", limit_kinds=("over_part", "over_length"),
        gauges=("lever", "plunger", "micrometer"),
    )  # fmt: skip
    plan_class = TailstockPlan

    def check_plan(self, plan: TailstockPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Places that make no line, centers that do not open so far, an indicator that is not what it is read with.
        """
        spots = plan.spots_mm
        if len(spots) < 2 or any(b - a < 5 for a, b in pairwise(spots)) or spots[-1] > plan.between_mm:
            raise BadInput(
                "field_invalid", "Two places or more, in order, between the centers.",
                f"From 0 to {plan.between_mm:g} mm, at least 5 mm apart.", "choices.spots_mm",
            )  # fmt: skip
        if spots[-1] - spots[0] < plan.between_mm / 3:
            raise BadInput(
                "field_invalid", "So short a stretch says little of the tailstock.",
                "Read at least a third of what is between the centers.", "choices.spots_mm",
            )  # fmt: skip
        if plan.between_mm > plan.holder.longest_mm:
            raise BadInput(
                "field_invalid", f"{plan.holder.name} open {plan.holder.longest_mm:g} mm.", "Check the length and its unit.",
                "choices.between_mm",
            )  # fmt: skip
        if (plan.by == "collars") is not (plan.gauge.kind == "micrometer"):
            words = "Collars are measured across." if plan.by == "collars" else "A micrometer cannot follow a bar."
            needed = "Choose a micrometer." if plan.by == "collars" else "Choose an indicator, or two collars."
            raise BadInput("field_invalid", words, needed, "gauge_id")
        span = spots[-1] - spots[0]
        told = [*check_limit_mm(plan, plan.limit.mm / plan.limit_length_mm * span), *tell_gauge(plan)]
        if plan.by == "collars":
            hint = "Collars say nothing of the height, which matters little to a diameter: read a bar on top for that."
            told.append(Caveat(code="no_height", field="choices.by", text=text(hint)))
        elif plan.stock is None:
            hint = "Without shims its height can be read, but not mended."
            told.append(Caveat(code="no_shims", field="choices.stock", text=text(hint)))
        return tuple(told)

    def path(self, plan: TailstockPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        collars = plan.by == "collars"
        cut = Caution(id="dog", text="Dog and tail clear of the tool and carriage; guard shut for each cut.")
        read = (
            "A light cut over both collars, cross slide locked, nothing touched between; stop, and mic both."
            if collars
            else "Top and side at each place; then turn the bar half over in its centers and read the same again."
        )
        setting = (
            "The mic zeroed and clean; collars without burrs."
            if collars
            else "Indicator on the carriage, on center height at the side, then on top over the axis. Run the carriage once from end to "
            "end: nothing hits, the needle stays on."
        )
        return (
            make_safe(*((cut,) if collars else ()), chuck=False, where="the centers"),
            Step(
                id="clean", title="Clean",
                prompt="Wipe both tapers, centers and center holes; a drop of oil. Quill and tailstock clamped as in use.",
            ),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Push ", strong("the bar"), " a hair toward the indicator. Which way does the needle go?"),
                prompt=setting,
            ),
            Step(id="read", title="Read & move", prompt=read),
            Step(
                id="nip_up", title="Clamp", headline=text("Clamp ", strong("the tailstock"), " as in use, its screws both snug."),
                prompt="Watch the needle while the clamp is pulled: what it does is allowed for the next time.",
            ),
            Step(id="prove", title="Prove", prompt="All clamped as in use: everything again, and the first place once more."),
            Step(
                id="clear_to_run", title="Clear to run", hold=True, prompt=f"Last look before power. {GENERAL}",
                cautions=(
                    Caution(id="gauge_off", text="Indicator and base taken off the carriage; bar out, or its dog clear."),
                    Caution(id="screws", text="Set-over screws both snug; tailstock clamped."),
                    Caution(id="moved", text="Set over for a taper before? The next one who turns parallel is told."),
                ),
            ),
        )  # fmt: skip

    # -- all of it ------------------------------------------------------------------------------------

    def solved(self, state: State[TailstockPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        whole = all(one.answered(s.id) for s in state.asked(one))
        judged = self.judge(state) if whole and state.proved else None
        good = judged is not None and judged.outcome == "holds"
        moves = self.moves(state, one.number) if judged is not None and not good and not one.moved else ()
        ready = judged is not None and not one.moved and (good or not moves)
        found = Solution(
            pass_no=one.number, figures=self._figures(state), moves=moves, judged=judged, ready=ready,
            stop=self._stop(state) if ready and not good else (),
            need_reading=too_few(one, "place") if whole and not judged else (),
        )  # fmt: skip
        return self.doubted(state, one, found, self._looks(state, one))

    def _looks(self, state: State[TailstockPlan], one: Pass) -> list[LineLook]:
        return [look for key in state.measures if (look := self.line(state, one, key)) is not None]

    def _stop(self, state: State[TailstockPlan]) -> Text:
        top = self.stands(state, "top")
        said = self.judge_way(state, "top") if top is not None else None
        if top is not None and top.mm > 0 and said is not None and said.outcome != "holds":
            return text(
                "Stop here. It stands ",
                length(top.mm),
                " high, and nothing lies under it to take out. Live with it, or have its base ground.",
            )
        return text("Stop here. Screws and shims can do no better.")

    def need_reading(self, state: State[TailstockPlan], one: Pass | None) -> Text:
        """What to read next; first what to do for it."""
        left = [s for s in state.asked(one) if one is None or not one.answered(s.id)]
        if not left:
            return ()
        ring = left[0].ring
        begun = one is not None and any(one.answered(s.id) for s in state.asked(one) if s.ring == ring)
        todo: Text = ()
        if not begun and ring == SIDE + OVER:
            todo = text("Turn ", strong("the bar half over"), " in its centers. Then read ")
        elif not begun and state.plan.by == "collars":
            todo = text("Take ", strong("a light cut over both collars"), ", and stop. Then mic ")
        return (*(todo or text("Read ")), *text(strong(left[0].label.lower()), "."))

    # -- told -----------------------------------------------------------------------------------------

    def _figures(self, state: State[TailstockPlan]) -> tuple[Figure, ...]:
        plan, found = state.plan, []
        side, top = self.stands(state, "side"), self.stands(state, "top")
        if side is not None:
            found.append(
                Figure(
                    id="side",
                    label="Center off at the side",
                    mm=abs(side.mm),
                    u_mm=self._u(side, state),
                    note=text(self._way(plan, side.mm)),
                )
            )
            taper = 2 * abs(side.mm) / plan.between_mm * plan.limit_length_mm
            thick = "thicker" if (side.mm < 0) else "thinner"
            words = f"Taper it turns over {about_word(plan, plan.limit_length_mm)}"
            found.append(Figure(id="taper", label=words, mm=taper, note=text(f"{thick} at the tailstock")))
        if top is not None:
            note = text("high" if top.mm > 0 else "low")
            found.append(
                Figure(id="height", label="Center off in height", mm=abs(top.mm), u_mm=self._u(top, state), note=note)
            )
        if side is not None and plan.by == "bar":
            found.append(
                Figure(id="bar", label="Bar’s own, at the side", mm=abs(side.own_mm), note=text("turned out of it"))
            )
        for key, word, plus, minus in (
            (QUILL_TOP, "up or down", "end high", "end low"),
            (QUILL_SIDE, "to a side", "", ""),
        ):
            lean = self.lean(state, key)
            if lean is not None:
                note = text((plus if lean > 0 else minus) or f"end {self._way(plan, lean)}")
                found.append(
                    Figure(id=f"lean_{key[5:-1]}", label=f"Quill leans {word}", mm=abs(lean) * plan.quill_mm, note=note)
                )
        return tuple(found)

    def _u(self, found: Stands, state: State[TailstockPlan]) -> float:
        return max(k.edge.band_mm(state, k, state.plan.between_mm) for k in found.looks) / 2

    def _way(self, plan: TailstockPlan, toward: float) -> str:
        return "toward you" if toward * plan.near_sign > 0 else "away from you"

    def figures(self, state: State[TailstockPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        rise, top = self._at(state, one.number), self.rises(state, one, "top") if state.plan.by == "bar" else None
        line = Row(number=one.number, purpose=one.purpose)
        if rise is None:
            return line
        plan = state.plan
        main = Quantity(kind=plan.limit.kind, mm=abs(rise), over_mm=plan.between_mm).over(plan.limit_length_mm)
        beside = (Quantity(kind="height", mm=abs(top[0])),) if top is not None else ()
        judged = self.judge(state) if state.open_pass is one or one.number == len(state.passes) else None
        outcome = judged.outcome if judged is not None else None
        changes = {"main": main, "beside": beside, "toward": text(self._way(plan, rise)), "outcome": outcome}
        return line.model_copy(update=changes)

    def heads(self, plan: TailstockPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return f"Side over {about_word(plan, plan.limit_length_mm)}", "Height, at its point", "Stands"

    def lesson(self, state: State[TailstockPlan]) -> Lesson:
        """Centers learn nothing but how well they repeat: the shift is the tailstock’s, of this set-up."""
        return Lesson(closings=closings(state))

    def scene(self, state: State[TailstockPlan], solution: Solution, station_id: str) -> Scene:
        """The bar from above while the side is read or moved; from the side while the height is."""
        plan, station = state.plan, state.station(station_id)
        move = solution.moves[0] if solution.moves else None
        above = isinstance(move, Slide) or (not isinstance(move, Shim) and station.ring.startswith((SIDE, QUILL_SIDE)))
        found = self.stands(state, "side" if above else "top")
        high = 0.0 if found is None else found.mm * (-plan.near_sign if above else 1)
        stops = tuple(
            SceneStop(label=s.short, z_mm=s.x_mm, height_mm=high * s.x_mm / plan.between_mm if found else None, tir_mm=None, over=False,
                      state="now" if s.id[-1] == station_id[-1] and not move else "read" if found else "open")
            for s in state.stations if s.ring == SIDE
        )  # fmt: skip
        drawn: tuple[tuple[str, float, float], ...] = (("", 0.0, 0.0), ("", plan.between_mm, high))
        ends = tuple(
            SceneStop(label=word, z_mm=z, height_mm=h if found else None, tir_mm=None, over=False, state="read" if found else "open")
            for word, z, h in drawn
        )  # fmt: skip
        return AxisScene(
            seen="Seen from above, you below, headstock at the left" if above else "Seen from your side, headstock at the left",
            held="centres", length_mm=plan.between_mm, stops=(ends[0], *stops, ends[1]),
            line=SceneLine(z1_mm=0.0, h1_mm=0.0, z2_mm=plan.between_mm, h2_mm=high) if found else None, known=found is not None,
            magnification=magnification(abs(high), plan.between_mm * SIDE_PART, plan.gauge.graduation_mm),
            up=text("Up is away from you") if above else (), mark_z_mm=plan.between_mm if move else None,
            mark=self._mark(move), limit_mm=plan.limit.mm / plan.limit_length_mm * plan.between_mm, reading=station.label,
            describe="The bar between its centers" + (f"; {plain(move.sentence, plan.unit, plan.gauge.resolution_mm)}" if move else "."),
        )  # fmt: skip

    def _mark(self, move: Move | None) -> Text:
        if isinstance(move, Slide):
            return text("toward you ↓" if move.near_mm > 0 else "↑ away from you")
        return text("shims here") if isinstance(move, Shim) else ()


PROCEDURE = Tailstock()
