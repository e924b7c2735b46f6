"""A column on a rotary axis: the axis to the machine, flange and far end, then the tailstock, which must not move it.

``tilt = (far - flange)/L``; a face that is high at F (vector, toward the indicator) seats it by ``-F/r``; what is left,
``tilt - seat``, is the column's own. Slide by bumping at the flange, tilt by shims under it: ``p_j = r tilt . u_j - min``, the
thickest where the column leans to. The far end's center is what counts; the flange only has to come near.
"""

from __future__ import annotations

from ...angles import direction_deg, rect
from ...engine.face import Face, face, magnification
from ...engine.rings import look_ring
from ...engine.telling import (
    pass_line,
    ring_figures,
    too_few,
)
from ...errors import BadInput
from ...move import Move, Shim, Slide, Swing, TapRound
from ...path.cautions import NUTS
from ...path.lathe import GENERAL, check_limit, check_stations, presets
from ...path.mill import make_safe_mill
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.places import about_word
from ...quantity import HEADS
from ...readings import Pass, Station
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...wording import Text, degrees, plain, strong, text
from .moves import ColumnMoves
from .plan import ColumnPlan
from .reading import AXIS, COLUMN, FACE, FAR, FLANGE, HELD, bar_slopes


class Column(ColumnMoves):
    """Three stages, each with its own spots; a move at the end of each opens the next."""

    id = "column"
    title = "A column on a rotary axis, with its tailstock"
    rank = 210
    usual_passes = (5, 7)
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="A column with the length from flange to end; a drawer of shims.",
        gauge="A lever or plunger indicator on the spindle or column; graduations no coarser than a quarter of the limit.",
        machine="A mill with a rotary axis and a tailstock; both stopped while hands are near.",
        part="Round at its flange and at its far end, or a plug that is.",
    )
    asks = Asks(
        angles="bolt 1, counter-clockwise seen from the far end",
        surface=False,
        place=False,
        view=False,
        presets=presets("4 spots"),
        diameter="Diameter that is read",
    )
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
            words = "So low on a column that bends the indicator shows little of what the tailstock does. Read nearer to the center."
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
                Caution(id="lean", text="Nobody leans on the column until its bolts are at torque."),
            ),
            Step(id="clean", title="Clean & stone", prompt=f"Stone flange and table, wipe; center and "
                f"center hole clean. {bar}Tailstock back."),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Lift ", strong("the stylus"), " a hair, as a higher surface would. Which way?"),
                far_headline=text("At the flange’s face: press ", strong("the stylus"), " a hair. Which way does it go?"),
                prompt=f"Indicator on top, over the axis. Turn the axis one full turn by hand: nothing hits. {GENERAL}",
            ),
            Step(id="read", title="Read & move", prompt="Bump at the flange through a soft block; hitting the free "
                "end only bends it. As it comes in, snug more."),
            Step(
                id="nip_up", title="Tighten",
                headline=text("Tighten ", strong("flange bolts crosswise, then the tailstock"), ". Small steps, watching the needle."),
                prompt="The column must not move when the center is tightened: not on top, not at the side.",
                cautions=(Caution(id="shims", text="Every shim lies flat under its bolt and cannot creep out."),),
            ),
            Step(id="prove", title="Prove", prompt="All tight: everything of this stage again, and the first spot once more."),
            Step(
                id="clear_to_run", title="Clear to run", hold=True, prompt=f"Last look before power. {GENERAL}",
                cautions=(
                    Caution(id="gauge_off", text="Indicator and base taken off; blocks and wrenches off the table."),
                    NUTS,
                    Caution(id="round", text="One full turn by hand: the column clears spindle, table and guard."),
                    Caution(id="note", text="What is machined in place is noted: next time those faces are picked up."),
                ),
            ),
        )  # fmt: skip

    # -- all of it ------------------------------------------------------------------------------------

    def solved(self, state: State[ColumnPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        plan, asked = state.plan, state.asked(one)
        whole = all(one.answered(s.id) for s in asked)
        moves = self.moves(state, one) if whole and state.proved else ()
        judged = self.judge(state, one) if whole else None
        final = state.stage(one.number - 1) == (HELD if plan.tail == "yes" else COLUMN)
        ready = bool(whole and final and not one.moved and judged and (judged.outcome == "holds" or not moves))
        stop: Text = ()
        if whole and final and one.moved and not moves and self.worth(state, one):
            ready, stop = True, text("Now ", strong("tighten"), ", then read: the pass after it may be the proof.")
        if ready and not one.moved and judged and judged.outcome != "holds":
            stop = text(
                "Stop here. Shims and tailstock can do no better. Machine what has to be true in place, and note what to pick up next time."
            )
        looks = [look_ring(state, one, n) for n in (FLANGE, FAR) if any(s.ring == n for s in asked)]
        far = self.ring(state, one, FAR)
        found = Solution(
            pass_no=one.number,
            figures=self._figures(state, one),
            moves=moves if not (ready and judged and judged.outcome == "holds") else (),
            judged=judged,
            ready=ready,
            stop=stop,
            need_reading=too_few(one, "spot") if whole and not (moves or judged) else (),
        )
        return self.doubted(state, one, found, looks, far.center if far else None)

    def _figures(self, state: State[ColumnPlan], one: Pass) -> tuple[Figure, ...]:
        plan, found = state.plan, []
        slopes = bar_slopes(state, one) if state.stage(one.number - 1) == AXIS else None
        if slopes:
            span = plan.bar_far_mm - plan.bar_near_mm
            found += [
                Figure(
                    id="axis_up",
                    label=f"Axis over {about_word(plan, span)}, on top",
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
                    for f in ring_figures(state, look, text(f"{degrees(look.fit.toward_deg)}"), word, key)
                    if "off_centre" not in f.id
                ]
        tilt, seat = self.tilt(state, one), self.seat(state, one)
        if tilt is not None:
            found.append(
                Figure(
                    id="lean",
                    label="Leans over its length",
                    mm=abs(tilt) * plan.far_z_mm,
                    note=text(f"toward {degrees(direction_deg(tilt))}"),
                )
            )
        if tilt is not None and seat is not None:
            found.append(
                Figure(
                    id="own",
                    label="of it the column’s own",
                    mm=abs(tilt - seat) * plan.far_z_mm,
                    note=text(f"toward {degrees(direction_deg(tilt - seat))}"),
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
        toward = text(f"{degrees(look.fit.toward_deg)}") if look.fit else ()
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
            up=text(f"Up is {degrees(up)}"),
            mark_z_mm=mark_z,
            mark=mark,
            limit_mm=plan.limit.off_centre_mm,
            reading=station.label,
            tail_z_mm=plan.centre_z_mm if state.stage(len(state.passes)) == HELD else None,
            describe="The column from the side"
            + (f"; {plain(move.sentence, plan.unit, plan.gauge.resolution_mm)}" if move else "."),
        )


PROCEDURE = Column()
