"""A bore made concentric to a rotating shaft by two offset dowels; the shaft carries the gauge round."""

from __future__ import annotations

from collections.abc import Iterator

from ...angles import direction_deg, rect
from ...engine.face import gauge, magnification, spot
from ...engine.learning import Learned
from ...engine.measured import Measured
from ...engine.one_ring import OneRing
from ...engine.rings import look_ring
from ...engine.telling import closings
from ...errors import BadInput
from ...gauge import Carrier, Surface
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...memo import once
from ...memory import Lesson
from ...move import Asked, Move, Swap
from ...path.cautions import RELIFT, SPLINES
from ...path.lathe import check_ball, check_limit, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring
from ...quantity import Quantity
from ...readings import Pass
from ...scene import DowelScene, Scene, SceneDot
from ...setup.state import State
from ...told import Caveat, Figure, Solution
from ...wording import Text, degrees, length, strong, text
from .plan import DowelPlan


class Dowels(OneRing[DowelPlan], Measured[DowelPlan]):
    """In a bore the high reading is where the wall is nearest: the housing goes TOWARD it, by TIR/2.

    Both dowels are clocked alike to that direction; what an offset ``o`` leaves is ``| |S| - o |``.
    """

    id = "dowels"
    title = "Bore concentric to a shaft, on two offset dowels"
    rank = 110
    needs = Needs(
        holder="A housing on two dowels and base bolts.",
        gauge="An indicator on an arm that the shaft carries round.",
        machine="A shaft that can be turned by hand.",
        part="The bore; its diameter.",
    )
    asks = Asks(
        angles="the right, counter-clockwise seen from the front",
        surface=False,
        place=False,
        presets=presets("4 spots"),
        diameter="Diameter of the bore",
    )
    plan_class = DowelPlan
    fixed_surface: Surface | None = "inside"
    fixed_carrier: Carrier | None = "gauge_turns"
    ring = "bore-"
    word = ""
    mend = "moving the housing"
    holder_name = "Housing"

    def check_plan(self, plan: DowelPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            An empty drawer, a span that is none, a limit the gauge cannot show.
        """
        check_ball(plan)
        check_stations(plan)
        if not any(p.count >= 2 for p in plan.stock.pieces):
            raise BadInput(
                "field_invalid",
                f"{plan.stock.name} has no two dowels alike.",
                "Put pairs into it in the Shop.",
                "choices.stock",
            )
        kind = "TIR: twice off center" if plan.limit.kind == "tir" else "off center: half of the TIR"
        told = [*check_limit(plan), Caveat(code="which_limit", field="limit.typed", text=text(f"The limit is {kind}."))]
        if plan.sag == "none":
            words = "An arm that sags adds a false once-a-turn part. Sweep it on a true bar if you are not sure."
            told.append(Caveat(code="sag", field="choices.sag", text=text(words)))
        return tuple(told)

    def path(self, plan: DowelPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(
                Caution(id="lock", text="Drive locked off: the shaft turns by hand only."),
                SPLINES,
                chuck=False,
                board=False,
                where="the shaft",
            ),
            Step(
                id="clean",
                title="Clean & torque",
                prompt="Wipe bore, feet and dowel holes. Base bolts at working torque before anything is read: loose readings lie.",
                cautions=(
                    Caution(id="torque", text="Base bolts at the torque in the manual, as in use."),
                    Caution(
                        id="roll", text="A level stands on the housing: it must not roll between marking and clocking."
                    ),
                ),
            ),
            set_gauge(
                plan, "One dry turn, then a full turn and some overlap. Angle 0 is to the right, seen from the front."
            ),
            Step(
                id="read", title="Read & clock", prompt="Read under torque; then size and clock angle for both dowels."
            ),
            Step(
                id="nip_up",
                title="Torque",
                headline=text("Seat both dowels. ", strong("Base bolts to working torque"), " in steps, crosswise."),
                prompt="The housing must drop on by hand. If it binds, the dowels do not point alike: never draw it down.",
                cautions=(Caution(id="bind", text="Dowels not parallel bind the housing and crack its ears."),),
            ),
            Step(id="prove", title="Prove", prompt="At working torque: sweep again."),
            clear_to_run(SPLINES, tight="Base bolts at torque, arm off the shaft.", clears="housing or guard"),
        )

    def measures(self, plan: DowelPlan) -> tuple[Measure, ...]:
        """The bar once, when the arm's sag is swept; the bore in every pass."""
        bar = (ring(plan, "bar-", "Bar,", "", "first"),) if plan.sag == "swept" else ()
        return (*bar, ring(plan, "bore-", "Bore,", ""))

    def remount(self, state: State[DowelPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring == "bar-":
            return text("The same arm on a ", strong("stiff true bar"), ", stylus on its outside.")
        return (
            text("Now in ", strong("the bore"), ", arm unchanged.") if self._sag_seen(state) and not state.moves else ()
        )

    def _sag_seen(self, state: State[DowelPlan]) -> bool:
        return state.plan.sag == "swept"

    def sag(self, state: State[DowelPlan]) -> complex:
        """What the arm's droop adds to the bore's apparent center: up on a bar's high, down in a bore."""
        if not self._sag_seen(state):
            return 0j
        bar = once(state.memo, "bar", 0, lambda: self.newest(state, "bar-"))
        return bar.center if bar is not None and bar.center is not None else 0j

    def look(self, state: State[DowelPlan], one: Pass) -> RingLook:
        """The bore with the sag taken off.

        With droop g both sweeps read ``+-g sin``: the bar's fit (by the bore's sign) is minus its high
        vector, and the bore's true center is its fit plus that.
        """
        look, sag = look_ring(state, one, "bore-"), self.sag(state)
        return once(state.memo, f"bore less {sag}", one.number, lambda: look.moved(sag)) if sag else look

    def in_place(self, state: State[DowelPlan], before: int | None = None) -> complex:
        """Shift that the dowels in place give now: their offset toward their clock angle."""
        made = [r.move for r in state.moves if isinstance(r.move, Swap)]
        placed = [m for m in made if before is None or m.pass_no < before]
        return rect(placed[-1].mm, placed[-1].at_deg) if placed else 0j

    def moves(self, state: State[DowelPlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """Size and clock angle from what is in place plus what is still wanted."""
        plan = state.plan
        if look.center is None or look.fit is None:
            return ()
        now = self.in_place(state, look.number)
        total = now - look.center
        sizes = [0.0, *(p.mm for p in plan.stock.pieces if p.count >= 2)]
        best = min(sizes, key=lambda o: abs(abs(total) - o))
        left = abs(abs(total) - best)
        if abs(look.center) - left <= max(look.fit.u_mm, plan.gauge.graduation_mm / 8):
            return ()
        return (self._move(state, look, now, total, best, left),)

    def clock_words(self, state: State[DowelPlan], deg: float) -> Text:
        """A clock angle as it is set: from vertical, clockwise, seen from where the dowels are clocked."""
        behind = state.plan.mark_from == "behind"
        vertical = (deg - 90) % 360 if behind else (90 - deg) % 360
        seen = "from behind" if behind else "from the front"
        return text(strong(f"{vertical:.1f}°"), f" clockwise from straight up, seen {seen}")

    def _move(
        self, state: State[DowelPlan], look: RingLook, now: complex, total: complex, size_mm: float, left: float
    ) -> Move:
        deg = direction_deg(total)
        same = abs(abs(now) - size_mm) < 1e-6 and size_mm > 0
        turn = (deg - direction_deg(now) + 180) % 360 - 180 if same else 0.0
        if size_mm == 0:
            sentence = text("Take the offset dowels out: ", strong("plain dowels"), " leave the least.")
        elif same:
            way = "counter-clockwise" if turn > 0 else "clockwise"
            sentence = text(
                "Turn ", strong("both dowels"), f" {abs(turn):.1f}° {way}, both alike. Seen from the front, that is; to ",
                *self.clock_words(state, deg), ".",
            )  # fmt: skip
        else:
            sentence = text(
                "Put in ", strong("both dowels"), " of ", length(size_mm), " offset, clocked alike. Set each to ",
                *self.clock_words(state, deg), ".",
            )  # fmt: skip
        center = look.center or 0j
        return Swap(
            pass_no=look.number,
            mm=size_mm,
            at_deg=deg,
            asked=Asked(mm=abs(total - now), deg=direction_deg(-center)),
            title="the dowels",
            made="Clocked and torqued, sweep again",
            care=RELIFT,
            expects=Quantity(kind="tir", mm=2 * left),
            sentence=sentence,
            reason=text(
                "The wall stands nearest at ", f"{degrees(direction_deg(-center))}: the housing has to go that way by ",
                length(abs(center)), ", half of the TIR. ",
                *(("With what is in place that makes ", length(abs(total)), f" toward {degrees(deg)}. ") if now else ()),
                "Both dowels alike leave ", length(2 * left), " TIR. Mark the thickest point of each dowel; carry the angle "
                "over with a level, and see that the housing has not rolled.",
            ),
            log=text(f"Dowels clocked to {deg:.1f}°, offset ", length(size_mm), ", ", length(2 * left), " TIR predicted."),
        )  # fmt: skip

    def more_figures(self, state: State[DowelPlan], look: RingLook) -> tuple[Figure, ...]:
        """The sag that was taken off, and the form of the bore."""
        sag = self.sag(state)
        found = []
        if sag:
            found.append(Figure(id="sag", label="Sag of the arm, taken off", mm=abs(sag)))
        if look.fit is not None and len(look.toward_mm) > 3:
            found.append(Figure(id="form", label="Form left over", mm=look.fit.form_mm))
        return tuple(found)

    def lesson(self, state: State[DowelPlan]) -> Lesson:
        """How far its spots came back; dowels only come in sizes, so a move teaches no gain."""
        return Lesson(closings=closings(state))

    def solve(self, state: State[DowelPlan]) -> Solution:
        """Says so when no dowel in the drawer comes nearer."""
        found = super().solve(state)
        current = state.open_pass
        look = self.look(state, current) if current else None
        need = self.need_reading(state, current)
        found = found.model_copy(update={"need_reading": found.need_reading or need})
        blocked = (
            look and look.complete and look.fit and not found.moves and not found.ready and not state.passes[-1].moved
        )
        if not blocked:
            return found
        stop = text(
            "No pair of dowels in the drawer comes nearer. A pair of another offset would, or scraping the feet."
        )
        return found.model_copy(update={"ready": True, "stop": stop})

    def scene(self, state: State[DowelPlan], solution: Solution, station_id: str) -> Scene:
        """The housing from the front."""
        plan = state.plan
        move = solution.moves[0] if solution.moves else None
        station = state.station(station_id)
        known = solution.x_mm is not None and solution.y_mm is not None
        center = complex(solution.x_mm or 0.0, solution.y_mm or 0.0)
        in_place = self.in_place(state)
        dowel = move if isinstance(move, Swap) else None
        radius = plan.part.diameter_mm / 2
        spots = [s for s in state.asked() if s.ring == station.ring]
        return DowelScene(
            seen="Seen from the front",
            view_turn_deg=0.0,
            bore_radius_mm=radius,
            span_mm=plan.span_mm,
            known=known,
            x_mm=center.real,
            y_mm=center.imag,
            magnification=magnification(abs(center), radius, plan.gauge.graduation_mm),
            shift_deg=direction_deg(-center) if known and abs(center) else None,
            shift_mm=abs(center) if known else None,
            clock_deg=dowel.at_deg if dowel else direction_deg(in_place) if in_place else None,
            dowel_mm=dowel.mm if dowel else abs(in_place) if in_place else None,
            limit_radius_mm=plan.limit.off_centre_mm,
            spots=tuple(spot(state, solution, s, station_id, 0.0) for s in spots),
            gauge=gauge(state, None, station, 0.0),
            track=tuple(self._track(state)),
            describe="The housing from the front"
            + (f"; both dowels clocked to {degrees(dowel.at_deg)}." if dowel else "; the indicator sweeps its bore."),
        )

    def _track(self, state: State[DowelPlan]) -> Iterator[SceneDot]:
        for number, look in self.looks(state).items():
            if look.center is not None:
                yield SceneDot.of(look.center, number)


PROCEDURE = Dowels()
