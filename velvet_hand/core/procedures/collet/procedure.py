"""A collet in the spindle's taper: what is the spindle's, what is the collet's, and how to clock it."""

from __future__ import annotations

from dataclasses import dataclass

from ...angles import direction_deg, rect
from ...engine.face import SIDE_PART, magnification
from ...engine.measured import Measured
from ...engine.rings import judge_ring, look_ring
from ...engine.telling import pass_line, ring_figures
from ...errors import BadInput
from ...fit.parts import Parts, best_turn_deg, split_parts
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Clock, Move
from ...path.cautions import ROUND
from ...path.lathe import (
    check_limit,
    check_positions,
    check_size,
    check_stations,
    clear_to_run,
    make_safe,
    presets,
    set_gauge,
)
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring
from ...quantity import Quantity
from ...readings import Pass
from ...scene import AxisScene, Scene, SceneLine, SceneStop
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, worst
from ...wording import Text, degrees, length, strong, text
from .plan import ColletPlan

#: A nose better by less than this part of the limit is not worth turning the collet again.
WORTH_PART = 0.3


@dataclass(frozen=True, slots=True)
class Both:
    """Spindle's and collet's part at the nose and far out."""

    nose: Parts
    far: Parts

    def at(self, deg: float) -> tuple[complex, complex]:
        """Offsets to expect with the collet turned to that angle."""
        turn = rect(1, deg)
        return self.nose.fixed + self.nose.turned * turn, self.far.fixed + self.far.turned * turn


class Collet(Measured[ColletPlan]):
    """Read a true bar at the nose and far out with the collet at 2 to 4 angles; the rest is vectors."""

    id = "collet"
    title = "Collet and spindle taper"
    rank = 90
    usual_passes = (2, 3)
    needs = Needs(
        holder="A collet that can be turned in its taper, with a mark on its face.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="A true ground bar, long enough for two planes.",
    )
    asks = Asks(
        angles="the spindle’s mark, counter-clockwise seen from the tailstock",
        surface=False,
        presets=presets("4 spots"),
        diameter="Diameter of the bar",
    )
    plan_class = ColletPlan

    def check_plan(self, plan: ColletPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Positions that cannot be told apart, planes too close.
        """
        check_size(plan, plan.holder, "collet")
        check_stations(plan)
        check_positions(plan.positions_deg)
        if plan.far_z_mm < plan.part.diameter_mm * 0.5:
            raise BadInput(
                "field_invalid", "The far plane is closer than half a diameter: no angle shows there.",
                "Go out one to four diameters.", "choices.far_z_mm",
            )  # fmt: skip
        words = "What the bar itself runs out counts with the collet, unless the bar is turned in it as well."
        return (*check_limit(plan), Caveat(code="bar_counts", field="part.diameter", text=text(words)))

    def path(self, plan: ColletPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(chuck=False, where="the spindle"),
            Step(
                id="clean",
                title="Clean",
                prompt=(
                    "Wipe the spindle’s taper, collet, nut and bar; feel for burrs with a finger nail. Mark the collet’s face. "
                    "Dirt is the commonest fault: clean before you blame."
                ),
                cautions=(Caution(id="slots", text="No chip in the collet’s slots; the nut’s ring runs free."),),
            ),
            set_gauge(plan, "Angles count from the spindle’s own mark; the collet’s mark stands at 0 first."),
            Step(
                id="read",
                title="Read & clock",
                prompt="Nose and far out, at each angle of the collet; then its best one.",
            ),
            Step(
                id="nip_up",
                title="Close",
                headline=text("Close the collet to ", strong("its working torque"), ", as it will be used."),
                prompt="Seat the bar as deep as the part will sit. The collet grips all along, never a short end.",
            ),
            Step(id="prove", title="Prove", prompt="Closed as for a part: read nose and far out again."),
            clear_to_run(tight="Collet closed, no wrench left on the nut."),
        )

    def measures(self, plan: ColletPlan) -> tuple[Measure, ...]:
        """All positions once; afterwards nose and far as it stands."""
        found = [
            ring(plan, f"{key}{i}-", f"{name}, {deg:g}°:", "", "first")
            for i, deg in enumerate(plan.positions_deg)
            for key, name in (("n", "Nose"), ("f", "Far"))
        ]
        return (
            *found,
            ring(plan, "n-", "Nose,", "", "later", stays=False),
            ring(plan, "f-", "Far,", "", "later", stays=False),
        )

    def remount(self, state: State[ColletPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring[0] == "f":
            return text("Go ", strong("out to the far plane"), ".")
        if ring == "n-":
            return text("Back to ", strong("the nose"), ".")
        deg = state.plan.positions_deg[int(ring[1:-1])]
        return text("Turn collet and bar to ", strong(f"{deg:g}°"), ", close; indicator to the nose.")

    def both(self, state: State[ColletPlan]) -> Both | None:
        """The split of the first, long pass."""
        plan = state.plan
        found = []
        for plane in "nf":
            looks = [self.newest(state, f"{plane}{i}-") for i in range(len(plan.positions_deg))]
            centers = [look.center for look in looks if look is not None and look.center is not None]
            if len(centers) < len(looks):
                return None
            u = max(look.fit.u_mm for look in looks if look and look.fit)
            found.append(split_parts(plan.positions_deg, tuple(centers), u))
        return Both(*found)

    def standing(self, state: State[ColletPlan], one: Pass) -> tuple[RingLook, RingLook]:
        """Nose and far as the collet stands in this pass: in the long one, at its last position."""
        late = state.asked(one)[0].when == "later"
        tail = "-" if late else f"{len(state.plan.positions_deg) - 1}-"
        return look_ring(state, one, f"n{tail}"), look_ring(state, one, f"f{tail}")

    def judge(self, state: State[ColletPlan], nose: RingLook, far: RingLook) -> Verdict | None:
        """Both planes against the limit."""
        a = judge_ring(state, nose, where="at the nose")
        b = judge_ring(state, far, where="far out")
        return worst((a, b)) if a and b and nose.complete and far.complete else None

    def stands_at(self, state: State[ColletPlan]) -> float:
        """The collet's angle now."""
        placed = [r.move.at_deg for r in state.moves if isinstance(r.move, Clock)]
        return placed[-1] if placed else state.plan.positions_deg[-1]

    def solved(self, state: State[ColletPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        plan = state.plan
        nose, far = self.standing(state, one)
        judged = self.judge(state, nose, far)
        both = self.both(state)
        moves: tuple[Move, ...] = ()
        stop: Text = ()
        if judged is not None and both is not None and not one.moved:
            deg, left = best_turn_deg((both.nose.fixed, both.far.fixed), (both.nose.turned, both.far.turned))
            now = max(abs(z) for z in (nose.center or 0j, far.center or 0j))
            if judged.outcome != "holds" and now - left > plan.limit.off_centre_mm * WORTH_PART and not state.moves:
                moves = (self._move(one.number, both, deg, left),)
            elif judged.outcome != "holds":
                stop = self._cannot(plan, both, left)
        worse = far if judged and judged.where == "far out" else nose
        found = Solution(
            pass_no=one.number,
            figures=self._figures(state, nose, far, both),
            moves=moves,
            judged=judged,
            ready=bool(judged and not moves and not one.moved),
            stop=stop,
            caveats=self._tell(both),
        )
        return self.doubted(state, one, found, (nose, far), worse.center)

    def _cannot(self, plan: ColletPlan, both: Both, left: float) -> Text:
        spindle = max(abs(both.nose.fixed), abs(both.far.fixed))
        collet = max(abs(both.nose.turned), abs(both.far.turned))
        todo = "clean the spindle’s taper again, then have it looked at" if spindle > collet else "replace this collet"
        return text("Turning it does no better than ", length(2 * left), f" TIR. What is left to do: {todo}.")

    def _tell(self, both: Both | None) -> tuple[Caveat, ...]:
        """Dirt shows as an angle: far out much more than at the nose."""
        if both is None:
            return ()
        told = []
        for name, near, out in (
            ("spindle", both.nose.fixed, both.far.fixed),
            ("collet", both.nose.turned, both.far.turned),
        ):
            u = both.far.u_fixed_mm
            if abs(out - near) > 2 * abs(near) and abs(out - near) > 4 * u:
                words = (
                    "a chip in the taper, or a bent nose"
                    if name == "spindle"
                    else "dirt in it, or a nut that pulls askew"
                )
                told.append(
                    Caveat(
                        code=f"angle_{name}", text=text(f"The {name}’s part is an angle more than an offset: {words}.")
                    )
                )
        return tuple(told)

    def _move(self, number: int, both: Both, deg: float, left: float) -> Move:
        return Clock(
            pass_no=number,
            thing="collet",
            at_deg=deg,
            title="clock the collet",
            made=f"Closed at {degrees(deg)}, read again",
            expects=Quantity(kind="tir", mm=2 * left),
            sentence=text(
                "Turn the collet to ", strong(f"{degrees(deg)}"), f" from the spindle’s mark, and close. {ROUND}",
            ),
            reason=text(
                "The spindle by itself: ", length(2 * abs(both.nose.fixed)), " TIR at the nose, ",
                length(2 * abs(both.far.fixed)), " far out. The collet with its bar: ", length(2 * abs(both.nose.turned)),
                " and ", length(2 * abs(both.far.turned)), ". At this angle they work against each other best.",
            ),
            log=text(f"Collet closed at {degrees(deg)}, ", length(2 * left), " TIR predicted."),
        )  # fmt: skip

    def _figures(
        self, state: State[ColletPlan], nose: RingLook, far: RingLook, both: Both | None
    ) -> tuple[Figure, ...]:
        found: list[Figure] = []
        for name, key, look in (("Nose", "nose_", nose), ("Far", "", far)):
            if look.complete:
                found += ring_figures(state, look, (), name, key)[:1]
        if both is not None:
            for key, word, part, u in (
                ("spindle", "Spindle, nose TIR", both.nose.fixed, both.nose.u_fixed_mm),
                ("spindle_far", "Spindle, far TIR", both.far.fixed, both.far.u_fixed_mm),
                ("collet", "Collet, nose TIR", both.nose.turned, both.nose.u_turned_mm),
                ("collet_far", "Collet, far TIR", both.far.turned, both.far.u_turned_mm),
            ):
                found.append(Figure(id=key, label=word, mm=2 * abs(part), u_mm=2 * u))
        return tuple(found)

    def figures(self, state: State[ColletPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        nose, far = self.standing(state, one)
        judged = self.judge(state, nose, far)
        worse = far if judged and judged.where == "far out" else nose
        toward = text(f"{degrees(worse.fit.toward_deg)}, {'far' if worse is far else 'nose'}") if worse.fit else ()
        return pass_line(state, one, worse, toward, judged)

    def scene(self, state: State[ColletPlan], solution: Solution, station_id: str) -> Scene:
        """The bar's axis from the side, in the plane where it is worst."""
        plan, current = state.plan, state.open_pass
        nose, far = self.standing(state, current) if current else (None, None)
        move = solution.moves[0] if solution.moves else None
        both = self.both(state)
        centers = [look.center if look and look.complete else None for look in (nose, far)]
        if isinstance(move, Clock) and both is not None:
            note, centers = "as it will stand", list(both.at(move.at_deg))
        else:
            note = "as it stands"
        known = [z for z in centers if z is not None]
        up = direction_deg(max(known, key=abs)) if known else 0.0
        heights = [None if z is None else (z * rect(1, -up)).real for z in centers]
        stops = tuple(
            SceneStop(
                label=name, z_mm=z, height_mm=h, tir_mm=None if c is None else 2 * abs(c),
                over=c is not None and 2 * abs(c) > plan.limit.tir_mm,
                state="read" if c is not None else "open",
            )
            for name, z, h, c in zip(("nose", "far"), (0.0, plan.far_z_mm), heights, centers, strict=True)
        )  # fmt: skip
        line = None
        if heights[0] is not None and heights[1] is not None:
            line = SceneLine(z1_mm=0.0, h1_mm=heights[0], z2_mm=plan.far_z_mm, h2_mm=heights[1])
        return AxisScene(
            seen="Seen from your side, spindle at the left",
            held="collet",
            length_mm=plan.far_z_mm,
            stops=stops,
            line=line,
            known=line is not None,
            magnification=magnification(
                max((abs(z) for z in known), default=0.0), plan.far_z_mm * SIDE_PART, plan.gauge.graduation_mm
            ),
            up=text(f"Up is {degrees(up)} from the spindle’s mark; {note}"),
            mark_z_mm=None,
            mark=text(f"collet at {degrees(move.at_deg)}")
            if isinstance(move, Clock)
            else text(f"collet at {degrees(self.stands_at(state))}"),
            limit_mm=plan.limit.off_centre_mm,
            reading=state.station(station_id).label,
            describe=f"The bar from the side, {note}: nose and far plane.",
        )


PROCEDURE = Collet()
