"""A part in a vise: what clamping does to it, and what mends that.

What changes from free to clamped, ``c = held - free`` (with the shims since), is split into a plane, a twist and a bow: the plane is a
lift off the parallels (across: away from the fixed jaw; along: at one end), which a soft hammer mends, or a round bar where the moving jaw
turns the part each time; the rest is the part bent by the jaws, which only less force mends. What the free part shows, where its
top is known, is the parallels' and the bed's.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...budget import budget
from ...engine.measured import Measured
from ...engine.table import spot_state
from ...engine.telling import drift_caveat
from ...errors import BadInput
from ...fit.packing import nearest_stack
from ...fit.plane import PlaneFit, fit_plane
from ...gauge import Carrier, Surface
from ...measure.base import Measure, Seen
from ...move import Move, Needle, Packet, Seat, Shim
from ...path.cautions import NUTS
from ...path.lathe import check_limit_mm, tell_gauge
from ...path.mill import clear_to_run_mill, make_safe_mill, torque_words
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import spots
from ...quantity import Quantity
from ...readings import Pass, Station
from ...scene import HeightScene, Scene, SceneShim, SceneSpotHeight
from ...setup.state import State
from ...shop import MachineKind
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict, doubted, judge
from ...wording import Text, length, plain, strong, text
from .plan import ClampedPlan

FREE, HELD = "free-", "held-"
#: A part of the limit that is worth a move.
WORTH = 0.25


@dataclass(frozen=True, slots=True)
class Clamped:
    """What clamping did, in mm at the places that are known: the change, its plane over the face, and what is not a plane of it."""

    ids: tuple[str, ...]
    places: tuple[tuple[float, float], ...]
    held_mm: tuple[float, ...]
    change_mm: tuple[float, ...]
    free: PlaneFit
    plane: PlaneFit
    seen: Seen
    doubtful: bool

    @property
    def lifts_mm(self) -> tuple[float, ...]:
        """How far each place is off its seat, by the plane, from the one that is lowest."""
        heights = [self.plane.at(u, v) for u, v in self.places]
        return tuple(h - min(heights) for h in heights)

    def across_mm(self, depth_mm: float) -> float:
        """Lift at the moving jaw over the fixed one."""
        return self.plane.b * depth_mm

    @property
    def bent_mm(self) -> float:
        """Twist and bow together: the change that no plane explains."""
        return max(self.plane.residuals_mm) - min(self.plane.residuals_mm)


class ClampedPart(Measured[ClampedPlan]):
    """Read free, clamped, struck down, clamped another way; the last clamping is proved."""

    id = "clamped"
    title = "The part, clamped: does it sit?"
    rank = 145
    usual_passes = (4, 5)
    machine_kinds: tuple[MachineKind, ...] = ("mill",)
    needs = Needs(
        holder="A vise that is square and level, and two parallels of one height.",
        gauge="A lever or plunger indicator that looks down, graduations no coarser than a quarter of the limit.",
        machine="A mill whose table is run by hand.",
        part="Deburred; its top smooth where it is read, or read at the same spots each time.",
    )
    asks = Asks(surface=False, place=False, view=False, diameter="Length along the jaws", limit_kinds=("parallel",))
    plan_class = ClampedPlan
    fixed_surface: Surface | None = "outside"
    fixed_carrier: Carrier | None = "gauge_turns"

    def check_plan(self, plan: ClampedPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            A part too small to read, an empty drawer, or a limit the gauge cannot show.
        """
        if plan.length_mm < 10:
            raise BadInput(
                "part_too_small", "So short a part shows no lift.", "Check it and its unit.", "part.diameter"
            )
        if plan.stock is not None and not any(p.count for p in plan.stock.pieces):
            raise BadInput(
                "field_invalid", f"{plan.stock.name} is empty.", "Put shims into it in the Shop.", "choices.stock"
            )
        return (*check_limit_mm(plan, plan.limit.mm), *tell_gauge(plan))

    def path(self, plan: ClampedPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe_mill(),
            Step(id="clean", title="Clean", prompt="Wipe vise, parallels and part; stone what stands up. Lay the part on both parallels "
                "against the fixed jaw. Neither parallel slides under it."),
            Step(
                id="set_gauge", title="Set indicator",
                headline=text("Down on the part: lift ", strong("the stylus"), " a hair. Which way does it go?"),
                prompt="The indicator stands still, the table carries the places under it. It is not touched again until the end.",
            ),
            Step(id="read", title="Seat it", prompt="Free first, then clamped as for the cut."),
            Step(
                id="nip_up", title="Clamp",
                headline=text("Clamp it ", strong("for the cut"), " and strike it down once more. Try both parallels with a finger."),
                prompt=f"The way that was found: bar, shims and force as they were. {torque_words(plan.holder)}",
                cautions=(Caution(id="holds", text="Less force holds less: a stop behind the part, or lighter cuts."),),
            ),
            Step(id="prove", title="Prove", prompt="Every place clamped as for the cut, and the first again."),
            clear_to_run_mill(NUTS, Caution(id="bar", text="Bar, hammer and handle cannot be reached by the cutter.")),
        )  # fmt: skip

    def measures(self, plan: ClampedPlan) -> tuple[Measure, ...]:
        """The part as it lies, until that was read once; clamped, always."""

        def face(ring: str, group: str, when: str) -> Measure:
            found = [
                Station.model_validate(
                    {
                        "id": f"{ring}{n}", "label": f"{group}, {plan.place_name(u, v)}", "angle_deg": 0.0, "x_mm": u, "y_mm": v,
                        "ring": ring, "group": group, "short": plan.short_name(u, v).capitalize(), "when": when,
                    }
                )
                for n, (u, v) in enumerate(plan.places, start=1)
            ]  # fmt: skip
            return spots(plan, ring, tuple(found))

        return face(FREE, "Free", "first"), face(HELD, "Clamped", "always")

    def remount(self, state: State[ClampedPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring != HELD or len(state.passes) != 1:
            return ()
        return text(strong("Clamp it"), " as for the cut; leave the hammer, and the indicator.")

    # -- what the readings say --------------------------------------------------------------------

    def laid(self, state: State[ClampedPlan], v: float) -> float:
        """How much higher it lies there for the shims under its parallels."""
        under = next((r.move.packets for r in reversed(state.moves) if isinstance(r.move, Shim)), ())
        part = v / state.plan.depth_mm
        return sum(p.mm * (part if p.number == 2 else 1 - part) for p in under)

    def look(self, state: State[ClampedPlan], one: Pass) -> Clamped | None:
        """What clamping did by this pass; None until both are read, or when too little is known to say."""
        plan, first = state.plan, next((p for p in state.passes if state.measures[FREE].seen(state, p).complete), None)
        if first is None or not state.proved:
            return None
        free, held = state.measures[FREE].seen(state, first), state.measures[HELD].seen(state, one)
        known = [
            n
            for n in range(1, len(plan.places) + 1)
            if f"{FREE}{n}" in free.toward_mm and f"{HELD}{n}" in held.toward_mm
        ]
        if not held.complete or len(known) < 3:
            return None
        places = tuple(plan.places[n - 1] for n in known)
        lies = tuple(free.toward_mm[f"{FREE}{n}"] + self.laid(state, plan.places[n - 1][1]) for n in known)
        stands = tuple(held.toward_mm[f"{HELD}{n}"] for n in known)
        change = tuple(b - a for a, b in zip(lies, stands, strict=True))
        u = plan.gauge.u_read_mm
        flat, plane = fit_plane(places, lies, u), fit_plane(places, change, u)
        if flat is None or plane is None:
            return None
        doubtful = len(known) < len(plan.places) or free.doubt is not None
        return Clamped(tuple(f"{HELD}{n}" for n in known), places, stands, change, flat, plane, held, doubtful)

    def judge(self, state: State[ClampedPlan], look: Clamped) -> Verdict:
        """What the top is out: of its change, or where it is known to be parallel of its heights themselves."""
        plan, known = state.plan, state.plan.top == "true"
        values = look.held_mm if known else look.change_mm
        terms = budget(
            plan.gauge.u_read_mm * (2**0.5 if known else 2.0),
            plan.gauge,
            floor_mm=plan.machine.floor_mm,
            drift_mm=look.seen.drift_mm,
        )
        found = judge("parallel", max(values) - min(values), plan.limit.mm, terms)
        return doubted(found, "unread") if look.doubtful else found

    # -- what mends it ----------------------------------------------------------------------------

    def move(self, state: State[ClampedPlan], one: Pass, look: Clamped) -> Move | None:
        """Shims while it is out anyway, then the hammer, a bar, less force; None when nothing more is worth it."""
        plan, worth = state.plan, max(WORTH * state.plan.limit.mm, state.plan.gauge.graduation_mm)
        seats = [r.move for r in state.moves if isinstance(r.move, Seat)]
        clamped = max([m.pass_no for m in seats if m.act != "strike"] + list(state.tightenings), default=0)
        acts = {m.act for m in seats if m.act != "strike" or m.pass_no > clamped}
        shim = self.shim(state, one, look) if plan.top == "true" else None
        if shim is not None:
            return shim
        if max(look.lifts_mm) > worth and "strike" not in acts:
            return self.strike(state, one, look)
        if look.across_mm(plan.depth_mm) > worth and "bar" not in acts:
            todo = text(
                "Open the vise. Put ",
                strong("a round bar"),
                " between moving jaw and part, at half its height. Clamp it, strike it down.",
            )
            up = length(look.across_mm(plan.depth_mm))
            why = text(
                "Struck down it still stands ",
                up,
                " up at the moving jaw, which turns it as it closes. On a bar it can only push.",
            )
            return self.again(one, look, "bar", "round bar", todo, why, look.bent_mm)
        if max(look.bent_mm, max(look.lifts_mm)) > worth and "torque" not in acts:
            todo = text("Open the vise and clamp it again with ", strong("half the force"), "; strike it down.")
            bent = length(look.bent_mm)
            why = text(
                "The jaws bend it by ",
                bent,
                "; half the force, half as much. It holds less: put a stop behind it, cut lighter.",
            )
            return self.again(
                one, look, "torque", "half the force", todo, why, (max(look.change_mm) - min(look.change_mm)) / 2
            )
        return None

    def again(self, one: Pass, look: Clamped, act: str, name: str, todo: Text, why: Text, left_mm: float) -> Seat:
        """Clamped again in another way; no needle is watched."""
        return Seat(
            pass_no=one.number, act=act, spot=look.ids[-1], teaches=False, title=name, made="Clamped again, read again", sentence=todo,
            reason=why, log=text(f"Clamped again: {name}"), expects=Quantity(kind="parallel", mm=left_mm),
        )  # fmt: skip

    def strike(self, state: State[ClampedPlan], one: Pass, look: Clamped) -> Move:
        """The soft hammer, over the place that stands highest off its seat, or along the jaw that does."""
        plan, lifts = state.plan, look.lifts_mm
        high = max(range(len(lifts)), key=lambda i: lifts[i])
        label, sense = plan.place_name(*look.places[high]), state.sense_in(state.measures[HELD].slot)
        needle = Needle.at(
            sense, look.held_mm[high], look.held_mm[high] - lifts[high], way=-1, station_id=look.ids[high], label=label
        )
        aims = {key: sense.needle_mm(h - up) for key, h, up in zip(look.ids, look.held_mm, lifts, strict=True)}
        along = abs(look.plane.a) * plan.length_mm > lifts[high] / 3
        where = f"over the {label}" if along else f"along the {label.split(',')[0]}, one end and the other"
        short = where.split(", one")[0]
        return Seat(
            pass_no=one.number, act="strike", needle=needle, aims=aims, teaches=False, title="strike down", made="Struck, read again",
            short=text("Strike it down ", strong(short), f", {needle.to}."),
            sentence=text("Strike it down with ", strong(f"a soft hammer {where}"), f", {needle.to}, or no farther."),
            reason=text("It stands ", length(lifts[high]), " off its seat there: the parallel under it is loose."),
            log=text(f"Struck down {where}"), expects=Quantity(kind="parallel", mm=look.bent_mm),
        )  # fmt: skip

    def shim(self, state: State[ClampedPlan], one: Pass, look: Clamped) -> Move | None:
        """Under the parallel that is low, when the drawer has what makes it better."""
        plan, rise = state.plan, look.free.b * state.plan.depth_mm
        if plan.stock is None or abs(rise) <= WORTH * plan.limit.mm:
            return None
        before = self.laid(state, plan.depth_mm) - self.laid(state, 0.0)
        wanted = before - rise  # plus: under the moving jaw's parallel
        pieces = nearest_stack(abs(wanted), {p.mm: p.count for p in plan.stock.pieces})
        left = abs(abs(wanted) - sum(pieces))
        if not pieces or left > abs(rise) - plan.gauge.graduation_mm:
            return None
        number, jaw = (2, "moving") if wanted > 0 else (1, "fixed")
        packet = Packet(number=number, name=f"parallel at the {jaw} jaw", mm=sum(pieces))
        return Shim(
            pass_no=one.number, measure=HELD, packets=(packet,), spot=look.ids[-1 if number == 2 else 0], teaches=False, title="shims",
            made="Shimmed, read again",
            short=text("Shim ", strong(packet.name), " by ", length(packet.mm), ", and clamp it again."),
            sentence=text("Take it out. Put ", length(packet.mm), " under the ", strong(packet.name), ", none under the other; clamp it."),
            reason=text("Free it lies ", length(abs(rise)), f" higher at the {'moving' if rise > 0 else 'fixed'} jaw: parallels or bed."),
            log=text("Shimmed: ", length(packet.mm), f" under the {packet.name}"), expects=Quantity(kind="parallel", mm=left),
        )  # fmt: skip

    # -- what is told -----------------------------------------------------------------------------

    def solved(self, state: State[ClampedPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        look = self.look(state, one)
        if look is None:
            return super().solved(state, one)
        judged, moved = self.judge(state, look), bool(one.moved)
        move = None if judged.outcome == "holds" or moved or one.back else self.move(state, one, look)
        stop = (
            text() if move or judged.outcome == "holds" else text("It sits as well as hammer, bar and force make it.")
        )
        return Solution(
            pass_no=one.number, figures=self._figures(state.plan, look), moves=(move,) if move else (), judged=judged,
            ready=move is None and not moved, stop=stop, need_reading=self.need_reading(state, one),
            caveats=(*drift_caveat(state, one), *self._what_it_does(state, look, judged)),
        )  # fmt: skip

    def _what_it_does(self, state: State[ClampedPlan], look: Clamped, judged: Verdict) -> tuple[Caveat, ...]:
        """To the top, over the length, and turned over."""
        if judged.outcome == "holds":
            return ()
        plan, told = state.plan, list[Caveat]()
        if look.doubtful:
            why = text(
                "A place is not known both free and clamped; undo back to it and read it, or this cannot be proved."
            )
            told.append(Caveat(code="unread", text=why))
        worth, across = WORTH * plan.limit.mm, abs(look.across_mm(plan.depth_mm))
        if across > worth:
            out = text(
                "Cut like this its top comes out ",
                length(across),
                " out over the width, and turned over it does so again.",
            )
            told.append(Caveat(code="lift", text=out))
        if look.bent_mm > worth:
            left = zip(look.places, look.plane.residuals_mm, strict=True)
            middle = sum(r for (u, _), r in left if abs(u / plan.length_mm - 0.5) < 0.2)
            shape = "springs back hollow" if middle > 0 else "springs back crowned" if middle < 0 else "twists back"
            told.append(Caveat(code="bent", text=text(f"Cut flat like this it {shape} by ", length(look.bent_mm), ".")))
        return tuple(told)

    def _figures(self, plan: ClampedPlan, look: Clamped) -> tuple[Figure, ...]:
        across, along = look.across_mm(plan.depth_mm), look.plane.a * plan.length_mm
        ends = ("left", "right") if plan.fixed in ("back", "front") else ("front", "back")
        lies = look.free.b * plan.depth_mm
        return (
            Figure(id="across", label="Lift across", mm=abs(across), note=text(f"{'moving' if across > 0 else 'fixed'} jaw up")),
            Figure(id="along", label="Lift along", mm=abs(along), note=text(f"{ends[along > 0]} end up")),
            Figure(id="bent", label="Bent by the jaws", mm=look.bent_mm),
            Figure(id="lies", label="Free, across", mm=abs(lies), note=text(f"{'moving' if lies > 0 else 'fixed'} jaw high")),
        )  # fmt: skip

    def figures(self, state: State[ClampedPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        look, line = self.look(state, one), Row(number=one.number, purpose=one.purpose)
        if look is None:
            return line
        high = max(range(len(look.ids)), key=lambda i: look.lifts_mm[i])
        judged = self.judge(state, look)
        changes = {
            "main": judged.value, "beside": (Quantity(kind="level", mm=max(look.lifts_mm)),), "outcome": judged.outcome,
            "toward": text(state.plan.short_name(*look.places[high])),
        }  # fmt: skip
        return line.model_copy(update=changes)

    def heads(self, plan: ClampedPlan) -> tuple[str, str, str]:
        """See ``Procedure``."""
        return "Parallel", "Off its seat", "Most at"

    def scene(self, state: State[ClampedPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``: the heights as it lies, then what clamping changed."""
        plan, one, now = state.plan, state.passes[-1] if state.passes else None, state.station(station_id)
        look = self.look(state, one) if one else None
        mine = [s for s in state.stations if s.ring == (HELD if look else now.ring)]
        near = dict(zip(look.ids, look.change_mm, strict=True)) if look else {}
        if not look and one and state.proved:
            near = state.measures[now.ring].seen(state, one).toward_mm
        level = float(np.mean(list(near.values()))) if near else 0.0
        at = {s.id: plan.seen(s.x_mm, s.y_mm) for s in mine}
        width, depth = (
            (plan.length_mm, plan.depth_mm) if plan.fixed in ("back", "front") else (plan.depth_mm, plan.length_mm)
        )
        move = solution.moves[0] if solution.moves else None
        under = move.packets if isinstance(move, Shim) else ()
        seats = [(p, plan.seen(plan.length_mm / 2, plan.depth_mm if p.number == 2 else 0.0)) for p in under]
        what = "What clamping changed" if look else f"Heights, {now.group.lower()}"
        return HeightScene(
            seen=f"{what}; the fixed jaw is at the {plan.fixed}",
            width_mm=width, depth_mm=depth,
            spots=tuple(
                SceneSpotHeight.model_validate(
                    {
                        "station_id": s.id, "label": s.short, "x_mm": at[s.id][0], "y_mm": at[s.id][1],
                        "h_mm": near[s.id] - level if s.id in near else None, "state": spot_state(state, solution, one, s, station_id),
                    }
                )
                for s in mine
            ),
            shims=tuple(SceneShim(label=p.name, x_mm=x, y_mm=y, mm=p.mm) for p, (x, y) in seats),
            zero_word="", down_x=0.0, down_y=0.0, fall_mm=None, limit_mm=plan.limit.mm,
            reading="From above, you at the bottom. Plus is higher than its middle.",
            describe=f"{what}, from above. {plain(move.sentence, plan.unit, plan.gauge.resolution_mm) if move else ''}",
        )  # fmt: skip


PROCEDURE = ClampedPart()
