"""The center of a rotary table brought under the spindle: sweep its bore or boss, move X and Y by the needle."""

from __future__ import annotations

from typing import Literal

from ...engine.beyond import AS_FAR, ONLY_THE_WAY, pull, run_for, shown_part
from ...engine.blows import run_needle
from ...engine.face import Face
from ...engine.learning import Learned
from ...engine.one_ring import OneRing
from ...errors import BadInput
from ...gauge import Carrier
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Asked, Handle, Move, Needle
from ...path.lathe import GENERAL, check_ball, check_limit, check_stations, presets
from ...path.mill import clear_to_run_mill, make_safe_mill
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring, turn_stations
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat
from ...wording import Text, degrees, length, strong, text, turn_words
from .plan import CentrePlan

SIDES = {0.0: "right", 90.0: "back", 180.0: "left", 270.0: "front"}


class Centre(OneRing[CentrePlan]):
    """The gauge is carried round by the spindle; the table goes the other way than the center sits."""

    id = "centre"
    title = "Bring a rotary table’s center under the spindle"
    rank = 180
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="A rotary table with a bore or a boss at its center.",
        gauge="A lever or plunger indicator carried by the spindle; graduations no coarser than a quarter of the limit.",
        machine="A mill whose spindle can be turned by hand.",
        part="The bore or boss, clean; its diameter where it is swept.",
    )
    asks = Asks(
        angles="the right, counter-clockwise seen from above",
        place=False,
        view=False,
        presets=presets("4 sides"),
        diameter="Diameter that is swept",
    )
    kick_repeats = True
    plan_class = CentrePlan
    fixed_carrier: Carrier | None = "gauge_turns"
    word = ""
    mend = "moving the table"
    holder_shape: Literal["jaws", "screws", "faceplate"] = "faceplate"
    holder_name = "Rotary table"
    wrong_way = ", and look which way each handle moves the table"

    def check_plan(self, plan: CentrePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Stations that leave a side out, a ball that does not go in, a limit the gauge cannot show.
        """
        check_stations(plan)
        check_ball(plan)
        for side in (0.0, 90.0):
            if not any(
                abs((a - side + 180) % 360 - 180) < 1 or abs((a - side) % 360 - 180) < 1 for a in plan.stations_deg
            ):
                raise BadInput(
                    "stations_too_few",
                    "Both axes need a station on their line.",
                    "Take the four sides, or 8 or 12.",
                    "stations_deg",
                )
        return check_limit(plan)

    def path(self, plan: CentrePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe_mill(Caution(id="gears", text="Rotary table’s own lock on, worm engaged.")),
            Step(id="clean", title="Clean", prompt="Wipe the bore or boss, stone its edge; table clamped "
                "down, square enough not to matter here."),
            Step(
                id="set_gauge",
                title="Set indicator",
                headline=text("Press ", strong("the arm"), " against the surface by hand. Which way does the needle go?"),
                prompt=f"Indicator in the spindle, stylus on the surface. Turn the spindle one full turn by hand: nothing hits. {GENERAL}",
            ),
            Step(id="read", title="Sweep & move", prompt="Right, back, left, front, seen from where you stand."),
            Step(
                id="nip_up",
                title="Lock",
                headline=text("Lock ", strong("X and Y"), ", one after the other, watching the needle."),
                prompt="A lock often drags the table by some hundredths; what it does is learned and allowed for.",
            ),
            Step(id="prove", title="Prove", prompt="Locked as in use: sweep again, and the first side "
                "once more. Then set both dials to zero."),
            clear_to_run_mill(Caution(id="dials", text="Dials or displays set to zero at this center.")),
        )  # fmt: skip

    def measures(self, plan: CentrePlan) -> tuple[Measure, ...]:
        """The sides by name."""
        named = tuple(
            s.model_copy(update=dict.fromkeys(("label", "short"), SIDES.get(s.angle_deg, s.label).capitalize()))
            for s in turn_stations(plan, word="")
        )
        return (ring(plan, spots=named),)

    def toward(self, state: State[CentrePlan], deg: float) -> Text:
        """A direction by the table's sides."""
        near = round(deg / 90) % 4 * 90.0
        return text(SIDES[near] if abs((deg - near + 180) % 360 - 180) < 10 else f"{degrees(deg)}")

    def moves(self, state: State[CentrePlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """X, then Y: each by the needle at a side on its axis."""
        if look.fit is None:
            return ()
        need = -complex(look.fit.x_mm, look.fit.y_mm) - learned.shift
        small = state.plan.gauge.graduation_mm / 4
        asked: list[tuple[Literal["X", "Y"], float]] = [("X", need.real), ("Y", need.imag)]
        asked = [(axis, mm) for axis, mm in asked if abs(mm) >= small]
        return tuple(
            self._slide(state, look, axis, mm, n, len(asked), learned) for n, (axis, mm) in enumerate(asked, start=1)
        )

    def off_dial(self, state: State[CentrePlan], look: RingLook) -> Move | None:
        """See ``Corrected``: the worse axis, as far as the dial can follow."""
        pulled = pull(state, look)
        if pulled is None:
            return None
        in_x = abs(pulled.real) >= abs(pulled.imag)
        need = -(pulled.real if in_x else pulled.imag)
        away = (0.0 if need > 0 else 180.0) if in_x else (90.0 if need > 0 else 270.0)
        run = run_for(state, look, away)
        if run is None:
            return None
        side = SIDES.get(run.station.angle_deg)
        needle = run_needle(state, look, run).model_copy(update={"label": f"the {side} side"} if side else {})
        told = text(ONLY_THE_WAY, AS_FAR)
        found = self._turn(state, look, "X" if in_x else "Y", need, run.asked_mm, needle, told)
        return found.model_copy(update={"rezero": True, "title": "off the dial"})

    def _slide(
        self, state: State[CentrePlan], look: RingLook, axis: Literal["X", "Y"], need: float, index: int, count: int,
        learned: Learned,
    ) -> Move:  # fmt: skip
        plan, sense, fit = state.plan, state.sense, look.fit
        assert fit is not None
        asked = learned.ask(abs(need))
        base = 0.0 if axis == "X" else 90.0
        spots = {round(s.angle_deg) % 360: s for s in state.stations if s.id in look.toward_mm}
        watch = base if round(base) in spots else base + 180
        station = spots.get(round(watch))
        sign = sense.center_sign * (1 if watch == base else -1)
        offset = fit.x_mm if axis == "X" else fit.y_mm
        here = fit.mean_mm + look.walked_mm + sign * offset
        goes = sign * (1 if need > 0 else -1)
        part = shown_part(state, sense.needle_mm(here), sense.needle_mm(here + goes * asked))
        needle = Needle.at(
            sense, here, here + goes * asked * part, station_id=station.id if station else "", label=f"the {SIDES[watch]} side",
            deg=watch,
        )  # fmt: skip
        told = text(
            "The center sits ", length(abs(offset)), f" {'to the ' if axis == 'X' else ''}{self._sits(axis, offset)}; "
            f"that is {turn_words(asked / plan.dial_mm * 360)} of the handle.",
            AS_FAR if part < 1 else "",
        )  # fmt: skip
        found = self._turn(state, look, axis, need, asked * part, needle, told)
        return found.model_copy(update={"index": index, "count": count, "rezero": part < 1})

    def _turn(
        self, state: State[CentrePlan], look: RingLook, axis: Literal["X", "Y"], need: float, asked: float | None,
        needle: Needle, told: Text,
    ) -> Handle:  # fmt: skip
        """One handle turned to an aim; ``need`` says which way, ``asked`` how far where that is known."""
        plan = state.plan
        goes = {"X": ("right", "left"), "Y": ("away from you", "toward you")}[axis][need < 0]
        clockwise = (plan.x_clockwise if axis == "X" else plan.y_clockwise) == goes.split()[0]
        hand = "clockwise" if clockwise else "counter-clockwise"
        deg = (0.0 if axis == "X" else 90.0) + (0.0 if need > 0 else 180.0)
        by = (" by ", length(asked)) if asked is not None else ()
        return Handle(
            pass_no=look.number,
            axis=axis,
            at_deg=deg,
            mm=asked,
            turn_deg=None if asked is None else asked / plan.dial_mm * 360,
            needle=needle,
            asked=None if asked is None else Asked(mm=asked, deg=deg),
            title=axis,
            sentence=text(f"At {needle.label}: turn the ", strong(f"{axis} handle {hand}"), f", {needle.to}."),
            reason=text(
                *told, f" The table goes {'to the ' if axis == 'X' else ''}{goes}. "
                "Come to the aim from one side only: past it, go back a turn and come again. The display is not the measure, the needle is."
            ),
            log=text(f"Table moved {goes} in {axis}", *by),
        )  # fmt: skip

    def _sits(self, axis: str, offset: float) -> str:
        return {"X": ("right", "left"), "Y": ("away from you", "toward you")}[axis][offset < 0]

    def face_of(self, state: State[CentrePlan]) -> Face:
        """The table from above."""
        seen = super().face_of(state)
        return Face(
            look=seen.look,
            centers=seen.centers,
            holder="faceplate",
            name=seen.name,
            seen="Seen from above, you at the bottom",
            lean=False,
        )


PROCEDURE = Centre()
