"""A plate parallel and flat: heights on a datum, tool marks told from slope, and what the set-up itself can explain.

Parallelism is the range of heights against the datum; flatness the width of the closest pair of planes; twist the part of the
heights that goes with x times y. Turned over left for right on two blocks, the plate's own taper changes its sign in x and the
seat's does not: ``taper = (a1 - a2)/2``, ``seat = (a1 + a2)/2``.
"""

from __future__ import annotations

from ...engine.table import spot_state
from ...errors import BadInput
from ...gauge import Carrier, Surface
from ...path.cautions import EYES
from ...path.lathe import GENERAL, check_limit_mm, tell_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...quantity import HEADS, Kind, Quantity
from ...readings import Pass
from ...scene import HeightScene, Scene, SceneSpotHeight
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...wording import Bit, Text, length, listed, strong, text
from .look import BUDGET, GRID, OVER, Heights, PlateReading
from .plan import HeightsPlan


class Plate(PlateReading):
    """Nothing is moved: it is read, and told what is the plate’s and what the set-up’s."""

    id = "plate"
    title = "Is this plate parallel and flat?"
    rank = 200
    machine_kinds: tuple[MachineKind, ...] = ("plate",)
    only_reads = True
    needs = Needs(
        holder="A surface plate, or a table that is as good.",
        gauge="A lever or plunger indicator on a stand; graduations no coarser than a quarter of the limit.",
        machine="A surface plate.",
        part="Deburred and wiped; for the second way two blocks of one height.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Width, left to right", limit_kinds=("parallel", "flat"),
    )  # fmt: skip
    plan_class = HeightsPlan
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "gauge_turns"

    def check_plan(self, plan: HeightsPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            A face too small to read, or a limit the gauge cannot show.
        """
        if plan.width_mm < 5:
            raise BadInput(
                "part_too_small", "So narrow a face shows no tilt.", "Check the width and its unit.", "part.diameter"
            )
        if plan.pattern == "edges" and plan.limit.kind == "flat" and plan.columns == plan.rows == 2:
            raise BadInput(
                "field_invalid",
                "Four corners show a twist, but not how flat it is between.",
                "Read more places.",
                "choices.columns",
            )
        told = [*check_limit_mm(plan, plan.limit.mm), *tell_gauge(plan)]
        known = sum(getattr(plan, name) for name, *_ in BUDGET)
        if known >= plan.limit.mm:
            words = text(
                "Parallels, datum, vise and ram can already explain ",
                length(known),
                ": that is the whole limit. Mend the set-up first.",
            )
            told.append(Caveat(code="budget", field="limit.typed", text=words))
        return tuple(told)

    def path(self, plan: HeightsPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            Step(
                id="make_safe", title="Make safe", hold=True, prompt=f"Before it is lifted onto the plate. {GENERAL}",
                cautions=(
                    Caution(id="lift", text="What is heavy is lifted with a hoist or a second person; fingers out from under."),
                    Caution(id="edge", text="It lies whole on the plate, not over its edge."),
                    Caution(id="tips", text="Its blocks stand wide apart: on narrow ones a plate tips."),
                    EYES,
                ),
            ),
            Step(id="clean", title="Clean & stone", prompt="Stone the plate’s burrs, wipe both; it must not rock. An "
                "hour on the datum takes the warmth of the hand out."),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Lift ", strong("the stylus"), " a hair, as a higher place would. Which way does it go?"),
                prompt="Stand heavy and wiped, arm short. Slide the part or the stand once over all places without reading.",
            ),
            Step(id="prove", title="Read", prompt="Every place, and the first again: the loop has to close."),
            Step(
                id="clear_to_run", title="Put away", hold=True, prompt=GENERAL,
                cautions=(Caution(id="off", text="Indicator and base taken off first, then the part lifted off."),
                    Caution(id="cover", text="The datum wiped, oiled and covered."),),
            ),
        )  # fmt: skip

    # -- what it says -------------------------------------------------------------------------------

    def told(self, state: State[HeightsPlan], look: Heights) -> Text:
        """The finding in a sentence or three."""
        plan = state.plan
        words: list[Bit] = [
            "Parallel to the datum within ",
            length(look.range_mm),
            ", flat within ",
            length(look.plane.zone_mm),
            ". ",
        ]
        if self.tilts(state, look):
            words += ["It rises to the ", strong(self.high_corner(look)), ". "]
        else:
            words.append("No tilt to speak of. ")
        if look.over is not None:
            taper, seat = self.reversal(plan, look)
            words += [
                "Of the rise to the right, ",
                length(taper),
                " is the plate’s own and ",
                length(seat),
                " is where it sat. ",
            ]
        return text(*words)

    def _left_over(self, state: State[HeightsPlan], look: Heights) -> Text:
        plan = state.plan
        parts, worst, rss = self.budget(plan, 2 * 2**0.5 * plan.gauge.u_read_mm)
        if len(parts) <= 1:
            return ()
        left = look.range_mm - worst
        words: list[Bit] = [
            "The set-up can explain ",
            length(worst),
            " at worst, ",
            length(rss),
            " as it usually adds up. ",
        ]
        if left > 0:
            words += [length(left), " is left over at the least: that is the plate’s. "]
            words.append(
                "Next: grind or scrape it, or read it turned over to be sure."
                if plan.inverted == "no"
                else "Next: grind or scrape it."
            )
        elif look.range_mm > rss:
            words.append(f"It may all be the set-up’s. Next: check {parts[0][0]}, the biggest.")
        else:
            words.append(f"Nothing need be the plate’s. Next, if it matters: {parts[0][0]}.")
        return text(*words)

    def solved(self, state: State[HeightsPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        look, whole = self.look(state, one), all(one.answered(s.id) for s in state.asked(one))
        if look is None:
            left = (
                text("Three good places, not in one line, are the least.") if whole else self.need_reading(state, one)
            )
            return Solution(pass_no=one.number, need_reading=left)
        return Solution(
            pass_no=one.number,
            figures=self._figures(state, look),
            judged=self.judge(state, look) if whole else None,
            told=self.told(state, look) if whole else (),
            x_mm=look.plane.a * 100,
            y_mm=look.plane.b * 100,
            caveats=self._caveats(state, look),
            need_reading=self.need_reading(state, one),
        )

    def _caveats(self, state: State[HeightsPlan], look: Heights) -> tuple[Caveat, ...]:
        found: list[Caveat] = []
        missing = self.missing(state.plan, look)
        if missing:
            names = listed([str(state.plan.places.index(place) + 1) for place in missing])
            carried = text(
                f"Not known: place{'s' if len(missing) > 1 else ''} {names}. ",
                "The plane of the others is carried there; the band is wider for it.",
            )
            found.append(Caveat(code="unread", text=carried))
        if look.drift_mm is not None and not state.plan.gauge.came_back(look.drift_mm):
            words = text(
                "The loop does not close: ",
                length(look.drift_mm),
                ". Something moved, or it warms. ",
                strong("Read this pass again."),
            )
            found.append(Caveat(code="drift", text=words))
        if look.marks_mm is not None and look.marks_mm > 2 * state.plan.gauge.u_read_mm:
            words = text(
                "Tool marks scatter by ",
                length(look.marks_mm),
                ": that is noise, not slope. A wider tip or a light stone takes most of it.",
            )
            found.append(Caveat(code="tool_marks", text=words))
        left = self._left_over(state, look)
        if left:
            found.append(Caveat(code="budget", text=left))
        return tuple(found)

    def _figures(self, state: State[HeightsPlan], look: Heights) -> tuple[Figure, ...]:
        plan, plane = state.plan, look.plane
        wide, deep = plan.width_mm, plan.depth_mm
        found = [
            Figure(id="parallel", label="Parallelism", mm=look.range_mm),
            Figure(
                id="flat",
                label="Flatness, closest planes",
                mm=plane.zone_mm,
                note=text("least squares ", length(plane.spread_mm)),
            ),
            Figure(
                id="tilt_x",
                label="Tilt left-right",
                mm=abs(plane.a) * wide,
                u_mm=plane.u_a * wide,
                note=text(f"{'right' if plane.a > 0 else 'left'} high"),
            ),
            Figure(
                id="tilt_y",
                label="Tilt front-back",
                mm=abs(plane.b) * deep,
                u_mm=plane.u_b * deep,
                note=text(f"{'back' if plane.b > 0 else 'front'} high"),
            ),
            Figure(id="twist", label="Twist", mm=abs(look.twist_mm(wide, deep))),
        ]
        if look.marks_mm is not None:
            found.append(Figure(id="marks", label="Tool marks, scatter", mm=look.marks_mm))
        if look.over is not None:
            taper, seat = self.reversal(plan, look)
            found += [
                Figure(id="taper", label="Its own taper", mm=abs(taper)),
                Figure(id="seat", label="Its seat", mm=abs(seat)),
            ]
        if look.drift_mm is not None:
            found.append(Figure(id="drift", label="Loop closes to", mm=look.drift_mm))
        return tuple(found)

    def heads(self, plan: HeightsPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        kinds: tuple[Kind, Kind] = ("parallel", "flat") if plan.limit.kind == "parallel" else ("flat", "parallel")
        return HEADS[kinds[0]], HEADS[kinds[1]], "Rises to"

    def figures(self, state: State[HeightsPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        look = self.look(state, one)
        row = Row(number=one.number, purpose=one.purpose)
        if look is None:
            return row
        both = (Quantity(kind="parallel", mm=look.range_mm), Quantity(kind="flat", mm=look.plane.zone_mm))
        main, beside = both if state.plan.limit.kind == "parallel" else both[::-1]
        changes = {"main": main, "beside": (beside,), "toward": text(self.high_corner(look))}
        return row.model_copy(update={**changes, "outcome": self.judge(state, look).outcome})

    def scene(self, state: State[HeightsPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        plan = state.plan
        one = state.passes[-1] if state.passes else None
        station = next((s for s in state.stations if s.id == station_id), state.stations[0])
        ring = OVER if station.ring == OVER else GRID
        mine = [s for s in state.stations if s.ring == ring]
        seen = self._seen(state, one, ring) if one and state.proved else {}
        look = self.look(state, one) if one else None
        level = look.plane.level_mm if look and ring == GRID else (sum(seen.values()) / len(seen) if seen else 0.0)
        tilted = look is not None and ring == GRID and self.tilts(state, look)
        down = -complex(look.plane.a, look.plane.b) if look and tilted else 0j
        return HeightScene(
            seen="From above, you at the bottom" if ring == GRID else "Turned over, from above, you at the bottom",
            width_mm=plan.width_mm,
            depth_mm=plan.depth_mm,
            spots=tuple(
                SceneSpotHeight.model_validate(
                    {
                        "station_id": s.id,
                        "label": s.short,
                        "x_mm": s.x_mm,
                        "y_mm": s.y_mm,
                        "h_mm": seen[s.id] - level if s.id in seen else None,
                        "state": spot_state(state, solution, one, s, station.id),
                    }
                )
                for s in mine
            ),
            shims=(),
            zero_word="Plus is higher than its middle.",
            down_x=(down / abs(down)).real if down else 0.0,
            down_y=(down / abs(down)).imag if down else 0.0,
            fall_mm=look.range_mm if look else None,
            limit_mm=plan.limit.mm,
            reading="The arrow points downhill." if down else f"Reading: {station.label}" if look is None else "",
            describe="Heights from above"
            + (f"; it rises to the {self.high_corner(look)}." if look and tilted else "."),
        )


PROCEDURE = Plate()
