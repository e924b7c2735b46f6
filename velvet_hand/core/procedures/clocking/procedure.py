"""A chuck on its register: which bolt position makes plate and chuck oppose best."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...angles import apart, direction_deg, rect
from ...engine.face import SEEN
from ...engine.measured import Measured
from ...engine.rings import judge_ring, look_ring
from ...engine.telling import pass_line, ring_figures
from ...errors import BadInput
from ...measure.base import Measure
from ...measure.ring import RingLook
from ...move import Clock, Move
from ...path.cautions import RELIFT, ROUND
from ...path.lathe import check_limit, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...plan.ring import ring
from ...quantity import Quantity
from ...readings import Pass
from ...scene import ClockScene, Scene, SceneDot, ScenePosition
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict
from ...wording import Text, degrees, length, strong, text
from .plan import ClockingPlan


@dataclass(frozen=True, slots=True)
class Split:
    """``plate`` stays with the spindle, ``chuck`` (as it stands at position 1) turns with the chuck."""

    plate: complex
    chuck: complex
    position: int
    u_mm: float
    seen: dict[int, complex]

    def at(self, position: int, bolts: int) -> complex:
        """The offset with the chuck at that position: as it was read there, else ``plate + chuck rot``."""
        if position in self.seen:
            return self.seen[position]
        return self.plate + self.chuck * rect(1, 360.0 * (position - 1) / bolts)


def _clocked(state: State[ClockingPlan]) -> list[Clock]:
    return [r.move for r in state.moves if isinstance(r.move, Clock)]


class Clocking(Measured[ClockingPlan]):
    """Register alone, then the whole at one bolt position; every other position follows by vectors."""

    id = "clocking"
    title = "Clock a chuck on its register"
    rank = 50
    usual_passes = (3, 3)
    needs = Needs(
        holder="A chuck that bolts to a register in several positions.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="A ground bar in the jaws, or the surface of the chuck that counts.",
    )
    asks = Asks(
        angles="hole 1, counter-clockwise seen from the tailstock",
        surface=False,
        presets=presets("4 spots"),
        limit_kinds=("tir", "off_centre"),
    )
    plan_class = ClockingPlan

    def ways(self, state: State[ClockingPlan]) -> tuple[tuple[str, State[ClockingPlan]], ...]:
        """The other way of choosing."""
        way = "oppose" if state.plan.way == "every" else "every"
        return ((way, state.with_plan(state.plan.model_copy(update={"way": way}))),)

    def check_plan(self, plan: ClockingPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Stations that are too few, a bolt count that is none, a limit the gauge cannot show.
        """
        if plan.bolts < 2:
            raise BadInput(
                "field_invalid", "With fewer than two positions there is no choice.", "Count again.", "choices.bolts"
            )
        check_stations(plan)
        words = (
            "Read the register alone first. A mark made on the mounted chuck contains the plate’s error as well: "
            "only the difference is the chuck’s own."
        )
        return (*check_limit(plan), Caveat(code="subtract", field="choices.bolts", text=text(words)))

    def path(self, plan: ClockingPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(Caution(id="lift", text="A chuck is heavy: a board over the ways, a bar through it or a hoist.")),
            Step(
                id="clean",
                title="Clean",
                prompt=(
                    "Chuck off. Wipe and stone the register, its face and the chuck’s back; no chip in any bolt hole. "
                    "Mark hole 1 on the plate; that is angle 0."
                ),
            ),
            set_gauge(plan, "Stylus on the register first."),
            Step(id="read", title="Read & choose", prompt="The register, then the whole; then the best position."),
            Step(
                id="nip_up",
                title="Bolt up",
                headline=text("Tighten the bolts ", strong("crosswise, in steps"), " to the torque in the manual."),
                prompt="The register must not carry the bolts’ load: the face seats all round, no light shows.",
            ),
            Step(id="prove", title="Prove", prompt="Everything is tight: read the whole again."),
            clear_to_run(tight="Chuck key out. All bolts of the chuck tight."),
        )

    def measures(self, plan: ClockingPlan) -> tuple[Measure, ...]:
        """The register once; the whole in every pass."""
        return ring(plan, "plate", "Register", "", "first"), ring(plan, "whole", "Whole", "")

    def remount(self, state: State[ClockingPlan], ring: str) -> Text:
        """See ``Measured``."""
        if ring != "whole" or state.moves:
            return ()
        return text("Bolt the chuck on at ", strong("position 1"), ", bolts tight, bar in the jaws.")

    def position(self, state: State[ClockingPlan], before: int | None = None) -> int:
        """The position that the chuck is bolted at (in the pass of that number)."""
        placed = [m.position for m in _clocked(state) if before is None or m.pass_no < before]
        return placed[-1] if placed else 1

    def split(self, state: State[ClockingPlan], whole: RingLook) -> Split | None:
        """Plate and chuck, by least squares from the register and every reading of the whole so far.

        ``plate = register``, ``plate + chuck rot(360 k/N) = whole_k``: more positions sharpen both.
        """
        plan, plate = state.plan, self.newest(state, "plate")
        if plate is None or plate.center is None or whole.center is None or plate.fit is None or whole.fit is None:
            return None
        rows: list[list[complex]] = [[1.0, 0.0]]
        seen, known = [plate.center], {}
        for one in state.passes:
            look = look_ring(state, one, "whole")
            if look.complete and look.center is not None:
                at = self.position(state, one.number)
                rows.append([1.0, rect(1, 360.0 * (at - 1) / plan.bolts)])
                seen.append(look.center)
                known[at] = look.center
        found = np.linalg.lstsq(np.array(rows, complex), np.array(seen), rcond=None)[0]
        u = (plate.fit.u_mm**2 + whole.fit.u_mm**2) ** 0.5
        return Split(complex(found[0]), complex(found[1]), self.position(state, whole.number), u, known)

    def order(self, plan: ClockingPlan, split: Split) -> list[int]:
        """Positions, the best first: by predicted TIR, or by how well the high spots oppose."""
        numbers = range(1, plan.bolts + 1)
        if plan.way == "oppose":
            high = direction_deg(split.plate) + 180
            return sorted(
                numbers, key=lambda k: apart(direction_deg(split.chuck) + 360.0 * (k - 1) / plan.bolts, high)
            )  # fmt: skip
        return sorted(numbers, key=lambda k: abs(split.at(k, plan.bolts)))

    def solved(self, state: State[ClockingPlan], one: Pass) -> Solution:
        """See ``Measured``."""
        plan, whole = state.plan, look_ring(state, one, "whole")
        judged = judge_ring(state, whole) if whole.complete else None
        split = self.split(state, whole) if whole.complete else None
        moves: tuple[Move, ...] = ()
        stop: Text = ()
        if split is not None and not one.moved:
            best = self.order(plan, split)[0]
            gain = abs(split.at(split.position, plan.bolts)) - abs(split.at(best, plan.bolts))
            if best != split.position and (gain > split.u_mm or plan.way == "oppose"):
                moves = (self._move(state, one.number, split, best),)
            elif judged is not None and judged.outcome != "holds":
                stop = self._cannot(state, split, best)
        done = bool(judged and not moves and not one.moved and split)
        figures = self._figures(state, whole, split)
        found = Solution(pass_no=one.number, figures=figures, moves=moves, judged=judged, ready=done, stop=stop)
        return self.doubted(state, one, found, (whole,), whole.center)

    def _cannot(self, state: State[ClockingPlan], split: Split, best: int) -> Text:
        """An honest end: the best there is does not reach the limit."""
        left = 2 * abs(split.at(best, state.plan.bolts))
        return text(
            "This is its best position, and it leaves ", length(left), " TIR. This chuck cannot do better by clocking: "
            "pack the jaws, or use an adjustable body or an independent four-jaw.",
        )  # fmt: skip

    def _move(self, state: State[ClockingPlan], number: int, split: Split, best: int) -> Move:
        plan = state.plan
        deg = 360.0 * (best - 1) / plan.bolts
        left = 2 * abs(split.at(best, plan.bolts))
        return Clock(
            pass_no=number,
            thing="chuck",
            position=best,
            at_deg=deg,
            care=RELIFT,
            title=f"position {best}",
            made=f"Bolted at {best}, read again",
            expects=Quantity(kind="tir", mm=left),
            sentence=text(
                "Bolt the chuck on at ", strong(f"position {best}"), f": its mark {degrees(deg)} on. {ROUND}",
            ),
            reason=text(
                "The plate is ", length(abs(split.plate)), f" off center toward {degrees(direction_deg(split.plate))}; the "
                "chuck by itself ", length(abs(split.chuck)), f" toward {degrees(direction_deg(split.chuck))} when it stands "
                "at position 1. At the best position they point against each other as nearly as the holes allow.",
            ),
            log=text(f"Chuck bolted at position {best}, ", length(left), " TIR predicted."),
        )  # fmt: skip

    def _figures(self, state: State[ClockingPlan], whole: RingLook, split: Split | None) -> tuple[Figure, ...]:
        toward = text(f"{degrees(whole.fit.toward_deg)}") if whole.fit else ()
        found = list(ring_figures(state, whole, toward))
        if split is not None:
            for key, word, part in (
                ("plate", "Plate alone, TIR", split.plate),
                ("chuck", "Chuck alone, TIR", split.chuck),
            ):
                note = text(f"high at {degrees(direction_deg(part))}")
                found.append(Figure(id=key, label=word, mm=2 * abs(part), u_mm=2 * split.u_mm, note=note))
        return tuple(found)

    def figures(self, state: State[ClockingPlan], one: Pass) -> Row:
        """See ``Procedure``."""
        look = look_ring(state, one, "whole")
        toward = text(f"{degrees(look.fit.toward_deg)}, at {self.position(state, one.number)}") if look.fit else ()
        judged: Verdict | None = judge_ring(state, look) if look.complete else None
        return pass_line(state, one, look, toward, judged)

    def scene(self, state: State[ClockingPlan], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        plan, current = state.plan, state.open_pass
        whole = self.newest(state, "whole") if current else None
        split = self.split(state, whole) if whole else None
        plate = self.newest(state, "plate")
        positions: tuple[ScenePosition, ...] = ()
        chuck = None
        if split is not None:
            order = self.order(plan, split)
            positions = tuple(
                ScenePosition(
                    number=k, at_deg=360.0 * (k - 1) / plan.bolts, tir_mm=2 * abs(split.at(k, plan.bolts)),
                    rank=order.index(k) + 1, now=k == self.position(state),
                )
                for k in range(1, plan.bolts + 1)
            )  # fmt: skip
            best = order[0]
            chuck = split.chuck * rect(1, 360.0 * (best - 1) / plan.bolts)
        fixed = plate.center if plate else None
        words = f"best position {min(positions, key=lambda p: p.rank).number}" if positions else "nothing known yet"
        return ClockScene(
            seen=SEEN[plan.view],
            view_turn_deg=state.sense.view_turn_deg,
            what="bolt positions",
            positions=positions,
            fixed=None if fixed is None else SceneDot.of(fixed),
            turned=None if chuck is None else SceneDot.of(chuck),
            fixed_word="plate",
            turned_word="chuck, at the best position",
            limit_mm=plan.limit.tir_mm,
            reading=state.station(station_id).label if not positions else "",
            describe=f"All {plan.bolts} bolt positions with their predicted TIR; {words}.",
        )


PROCEDURE = Clocking()
