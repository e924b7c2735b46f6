"""The bed of a vise level by shims under its base, then its jaw square: both proved together."""

from __future__ import annotations

from dataclasses import replace

from ...engine.face import shown_move
from ...engine.forecast import Way
from ...engine.shimmed import ShimmedLine, pieces_words, shim_move, since_shimmed
from ...engine.table import spot_state
from ...errors import BadInput
from ...fit.plane import Points, Shims, choose_shims, fit_plane, rest_on
from ...measure.base import Measure
from ...measure.face import Face, FaceLook
from ...model import own
from ...move import Move, Packet, Shim
from ...path.cautions import NUTS
from ...path.mill import check_edge, clear_to_run_mill, make_safe_mill, play_step, set_gauge_edge, torque_words
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.edge import EDGE_LIMITS, edge
from ...plan.places import place_word
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import HeightScene, Scene, SceneShim, SceneSpotHeight
from ...setup.state import State
from ...told import Caveat, Figure, Solution
from ...verdict import Verdict
from ...wording import Bit, Text, length, plain, strong, text
from .plan import BedPlan


def corner_names(plan: BedPlan) -> tuple[str, str, str, str]:
    """The base’s corners: first end and near side, far end and near side, then the other side."""
    if plan.lies == "across":
        return ("front left", "front right", "back left", "back right")
    return ("front right", "back right", "front left", "back left")


def corners(plan: BedPlan) -> Points:
    """Places of the four corners of the base."""
    deep = plan.holder.deep_mm
    return ((0.0, 0.0), (plan.edge_mm, 0.0), (0.0, deep), (plan.edge_mm, deep))


class Bed(ShimmedLine[BedPlan]):
    """Parallels or ways at 3 or more places, shims at named corners, then the jaw."""

    id = "bed"
    title = "Level a vise’s bed by shims, then square its jaw"
    rank = 150
    needs = Needs(
        holder="A vise with its jaw’s length, its depth and the places of its bolts.",
        gauge="A lever or plunger indicator that reads down on the bed and on the jaw.",
        machine="A mill whose table is run by hand.",
        part="Two parallels of one height on the ways, or the ways themselves; a drawer of shims.",
    )
    asks = Asks(
        surface=False, place=False, view=False, diameter="Length of the part along the jaw", limit_kinds=EDGE_LIMITS
    )
    plan_class = BedPlan

    def check_plan(self, plan: BedPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Places on the bed that make no plane, an empty drawer, an edge or limit that cannot work.
        """
        x, y = plan.bed_x_mm, plan.bed_y_mm
        if len(x) != len(y):
            raise BadInput(
                "field_invalid", f"{len(x)} places along, but {len(y)} away.", "One for each.", "choices.bed_y_mm"
            )
        if not 3 <= len(x) <= 16:
            raise BadInput(
                "field_invalid", f"{len(x)} places: 3 to 16.", "Four near the corners do.", "choices.bed_x_mm"
            )
        if fit_plane(tuple(zip(x, y, strict=True)), (0.0,) * len(x), 0.0) is None:
            raise BadInput(
                "field_invalid",
                "The places lie on one line: that shows no tilt across it.",
                "Spread them to the corners.",
                "choices.bed_x_mm",
            )
        if not any(p.count for p in plan.stock.pieces):
            raise BadInput(
                "field_invalid", f"{plan.stock.name} is empty.", "Put shims into it in the Shop.", "choices.stock"
            )
        told = [*check_edge(plan)]
        least = min(p.mm for p in plan.stock.pieces if p.count)
        if least > 2 * plan.bed_limit_mm:
            words = text(
                "The thinnest shim is ", length(least), ": it may not come as level as ", length(plan.bed_limit_mm), "."
            )
            told.append(Caveat(code="shims_coarse", field="choices.stock", text=words))
        return tuple(told)

    def path(self, plan: BedPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        edge = set_gauge_edge("the fixed jaw")
        return (
            make_safe_mill(),
            Step(id="clean", title="Clean & stone", prompt="Stone base, ways and table; wipe. Keys out. A chip under the "
                "base looks like a tilt: lift and wipe before any shim."),
            edge.model_copy(
                update={
                    "far_headline": text("On the bed: lift ", strong("the stylus"), " a hair, as a higher bed would. Which way?")
                }
            ),
            play_step(),
            Step(id="read", title="Level & square", prompt="Bed first, then the jaw."),
            Step(
                id="nip_up",
                title="Pull down",
                headline=text("Pull the nuts down ", strong("in small steps, one and the other in turn"), f". Watch the needle at the "
                    f"{plan.end_word(plan.hinge != 'high')} end."),
                prompt=f"Over the shims, never over air. {torque_words(plan.holder)} If the needle walks, stop, tap it back, go on.",
                cautions=(Caution(id="shims", text="Every shim is under the casting and cannot creep out."),),
            ),
            Step(id="prove", title="Prove", prompt="All at its torque: bed and jaw, and the first spot once more."),
            clear_to_run_mill(NUTS),
        )  # fmt: skip

    def way(self, state: State[BedPlan]) -> Way | None:
        """See ``Procedure``: the bed comes first."""
        found = super().way(state)
        return found and replace(found, before=1)

    def measures(self, plan: BedPlan) -> tuple[Measure, ...]:
        """The bed, whenever it was shimmed; the jaw always."""
        bed = tuple(
            Station.model_validate(
                {
                    "id": f"bed-{n}", "label": f"Bed, place {n} ({place_word(plan, x)}, "
                        f"{place_word(plan, y)})", "angle_deg": 0.0, "x_mm": x, "y_mm": y,
                    "ring": "bed-", "group": "Bed", "short": f"Place {n}", "when": "shimmed",
                }
            )
            for n, (x, y) in enumerate(zip(plan.bed_x_mm, plan.bed_y_mm, strict=True), start=1)
        )  # fmt: skip
        tall = max(plan.bed_y_mm) - 1
        taller = {s.id: plan.parallels_differ_mm for s in bed if s.y_mm > tall}
        slot = plan.slot("bed-")
        face = Face(
            id="bed-", stations=bed, gauge=plan.gauge_in(slot), slot=slot, floor_mm=plan.machine.floor_mm, taller=taller
        )  # fmt: skip
        return face, edge(plan, "Jaw")

    # -- the bed ------------------------------------------------------------------------------------

    def bed(self, state: State[BedPlan], one: Pass) -> FaceLook | None:
        """The bed of one pass; None when it was not read, or not enough of it."""
        return own(state.measures["bed-"], Face).look(state, one)

    def newest(self, state: State[BedPlan]) -> FaceLook | None:
        """The bed as it was read last, since the last shim."""
        for one in since_shimmed(state):
            found = self.bed(state, one)
            if found is not None:
                return found
        return None

    def base_read(self, state: State[BedPlan], one: Pass) -> bool:
        """See ``ShimmedLine``."""
        return self.bed(state, one) is not None

    def base_verdict(self, state: State[BedPlan]) -> Verdict | None:
        """See ``ShimmedLine``."""
        plan, look = state.plan, self.newest(state)
        if look is None:
            return None
        return look.face.judge_level(look, plan.bed_limit_mm, "the bed")

    def present(self, state: State[BedPlan]) -> dict[str, float]:
        """What lies under each corner now, as asked."""
        for record in reversed(state.moves):
            if isinstance(record.move, Shim):
                return {p.name: p.mm for p in record.move.packets}
        return {}

    def chosen(self, state: State[BedPlan]) -> tuple[Shims, float] | None:
        """The shims to use, and how far off level they leave the places that are read."""
        plan, look = state.plan, self.newest(state)
        if look is None:
            return None
        at, now = corners(plan), self.present(state)
        middle = (at[3][0] / 2, at[3][1] / 2)
        under = [now.get(name, 0.0) for name in corner_names(plan)]
        lies = rest_on(at, under, middle) or (0.0, 0.0, 0.0)
        a, b = look.plane.a - lies[0], look.plane.b - lies[1]  # as it would lie on bare corners
        found = choose_shims(at, a, b, middle, plan.stock.pieces)
        if found is None:
            return None
        values = [found.a * x + found.b * y for x, y in look.points]
        return found, max(values) - min(values)

    def shim(self, state: State[BedPlan]) -> Move | None:
        """See ``ShimmedLine``."""
        look, best = self.newest(state), self.chosen(state)
        if look is None or best is None or best[1] > look.off_level_mm - state.plan.gauge.graduation_mm:
            return None
        shims, left = best
        names = corner_names(state.plan)
        packets = tuple(Packet(number=i + 1, name=name, mm=shims.thick(i)) for i, name in enumerate(names))
        what: list[Bit] = []
        for i, name in enumerate(names):
            if shims.pieces[i]:
                what += ["; " if what else "", *pieces_words(shims.pieces[i]), " under the ", strong(name)]
        bare = [n for i, n in enumerate(names) if not shims.pieces[i]]
        rest = f", the {' and the '.join(bare)} bare." if bare else "."
        low = names[max(range(4), key=shims.thick)]
        reason = text(
            "The bed is off level by ",
            length(look.off_level_mm),
            f", lowest at the {low}. Shims in all, with what lies there now.",
        )
        words = (
            (text(*what), text(rest)) if what else (text(strong("no shim")), text(" under it: take out what is there."))
        )
        return shim_move(look.number, "bed-", packets, *words, reason, Quantity(kind="level", mm=left), "bed-1")

    def base_figures(self, state: State[BedPlan]) -> tuple[Figure, ...]:
        """See ``ShimmedLine``: off level, and its two tilts."""
        look, plan = self.newest(state), state.plan
        if look is None:
            return ()
        wide = max(x for x, _ in look.points) - min(x for x, _ in look.points)
        deep = max(y for _, y in look.points) - min(y for _, y in look.points)
        names = corner_names(plan)
        ends = (names[0].split()[1], names[1].split()[1]) if plan.lies == "across" else ("front", "back")
        sides = ("front", "back") if plan.lies == "across" else ("right", "left")
        a, b = look.plane.a * wide, look.plane.b * deep
        return (
            Figure(id="bed", label="Bed off level", mm=look.off_level_mm),
            Figure(id="bed_a", label="along the jaw", mm=abs(a), note=text(f"{ends[a > 0]} high")),
            Figure(id="bed_b", label="across it", mm=abs(b), note=text(f"{sides[b > 0]} high")),
        )

    def scene(self, state: State[BedPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``: the bed while it is read or shimmed, else the jaw."""
        move = shown_move(state, solution)
        if state.station(station_id).ring == "bed-" or isinstance(move, Shim):
            return self._heights(state, solution, station_id, move)
        return super().scene(state, solution, station_id)

    def _heights(self, state: State[BedPlan], solution: Solution, station_id: str, move: Move | None) -> HeightScene:
        plan = state.plan
        one = state.passes[-1] if state.passes else None
        mine = [s for s in state.stations if s.ring == "bed-"]
        bed = state.measures["bed-"]
        seen = bed.seen(state, one, mine).toward_mm if one and bed.proved(state) else {}
        look = self.newest(state)
        level = look.plane.level_mm if look else 0.0
        turned = plan.lies == "along"

        def on_table(x: float, y: float) -> tuple[float, float]:
            return (corners(plan)[3][1] - y, x) if turned else (x, y)

        shims = []
        if isinstance(move, Shim):
            for (x, y), packet in zip(corners(plan), move.packets, strict=True):
                at = on_table(x, y)
                shims.append(SceneShim(label=packet.name, x_mm=at[0], y_mm=at[1], mm=packet.mm))
        wide, deep = on_table(*corners(plan)[3]) if not turned else (corners(plan)[3][1], corners(plan)[3][0])
        down = complex(-look.plane.a, -look.plane.b) * (1j if turned else 1) if look else 0j
        off = look.off_level_mm if look else None
        tells = off is not None and off > plan.gauge.graduation_mm
        spots = tuple(
            SceneSpotHeight.model_validate(
                {
                    "station_id": s.id, "label": s.short, "x_mm": on_table(s.x_mm, s.y_mm)[0], "y_mm": on_table(s.x_mm, s.y_mm)[1],
                    "h_mm": seen[s.id] - level if s.id in seen else None,
                    "state": spot_state(state, solution, one, s, station_id),
                }
            )
            for s in mine
        )  # fmt: skip
        words: Text = move.sentence if move else ()
        return HeightScene(
            seen="The bed from above, you at the bottom",
            width_mm=wide,
            depth_mm=deep,
            spots=spots,
            shims=tuple(shims),
            zero_word="Plus is higher than its middle.",
            down_x=(down / abs(down)).real if tells and abs(down) else 0.0,
            down_y=(down / abs(down)).imag if tells and abs(down) else 0.0,
            fall_mm=off,
            limit_mm=plan.bed_limit_mm,
            reading="The arrow points downhill." if tells else "",
            describe="The bed from above. " + plain(words, plan.unit, plan.gauge.resolution_mm),
        )


PROCEDURE = Bed()
