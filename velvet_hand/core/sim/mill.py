"""Simulated things on a mill's table: rigid bodies that turn about a true swing point, with friction and kick.

They share no formula with the procedures. A body has a pose (a point and an angle in the table's frame); its edge is a
curve in its own frame; the gauge comes along its own ray, at its own place on the travel, and touches that curve.
"""

from __future__ import annotations

import cmath
import math
import re
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Any

import numpy as np
from scipy.optimize import linprog

from ..move import Move
from ..plans import Plan
from ..plans.mill import (
    BedPlan,
    CentrePlan,
    ColumnPlan,
    EdgeBase,
    EdgePlan,
    HeightsPlan,
    RodPlan,
    VisePairPlan,
    VisePlan,
)
from ..readings import Station
from ..wording import plain
from .body import Body, Circle, Hands, part_circle, random_hands


@dataclass(frozen=True, slots=True)
class Pose:
    """Where a rigid body's own origin is on the table, and how far it is turned counter-clockwise (rad)."""

    origin: complex = 0j
    turn: float = 0.0

    def place(self, own: complex) -> complex:
        """A point of the body on the table."""
        return self.origin + own * cmath.exp(1j * self.turn)

    def turned(self, about: complex, by: float) -> Pose:
        """Turned by ``by`` about a point of the table."""
        return Pose(about + (self.origin - about) * cmath.exp(1j * by), self.turn + by)

    def shifted(self, by: complex) -> Pose:
        """Slid along the table."""
        return Pose(self.origin + by, self.turn)


@dataclass(frozen=True, slots=True)
class Edge:
    """An edge in its body's frame: along the real axis, its form a bow and a ripple, and nicks at places."""

    bow_mm: float = 0.0
    ripple_mm: float = 0.0
    wave_mm: float = 40.0
    length_mm: float = 150.0

    def out(self, x: float) -> float:
        """How far the edge stands out at ``x`` along it."""
        t = 2 * x / self.length_mm - 1
        return self.bow_mm * (1 - t * t) + self.ripple_mm / 2 * math.sin(2 * math.pi * x / self.wave_mm)


class OnTheTable(Body):
    """What is read at places on a table, not at angles."""

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """A place on the table: along the travel, and across it."""
        return (complex(spot.x_mm, spot.y_mm), spot.ring) if isinstance(spot, Station) else (float(spot), "")


class SimulatedEdge(OnTheTable):
    """A vise, plate or long part held by bolts: tapped, it turns about its swing point; tightened, it kicks.

    ``swing`` is how far along the edge it really swings, and how far behind it; friction makes that point wander from tap
    to tap. Machine frame: real to the right, imaginary away from the person.
    """

    def __init__(
        self, plan: EdgeBase, hands: Hands, rng: np.random.Generator, *, swing: complex, turn: float, edge: Edge,
        wander_mm: float = 1.5, kick_turn: float = 0.0, rods_mm: tuple[float, float] | None = None,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)  # type: ignore[arg-type]
        self.edge_plan = plan
        self.square = cmath.phase(plan.edge_way)
        self.pose = Pose(0j, self.square).turned(0j, turn)
        self.swing, self.edge, self.wander_mm, self.kick_turn, self.rods_mm = swing, edge, wander_mm, kick_turn, rods_mm

    @property
    def side(self) -> float:
        """Is the gauge on the left (+1) or the right (-1) of the edge, looking along it?"""
        return round((self.edge_plan.gauge_way / self.edge_plan.edge_way).imag)

    def curve(self, x: float) -> complex:
        """A point of the edge on the table."""
        return self.pose.place(complex(x, self.side * self.edge.out(x)))

    def seen(self, point: complex) -> complex:
        """A point of the table as the gauge has it: real along the travel, imaginary toward the gauge."""
        plan = self.edge_plan
        return complex((point / plan.edge_way).real, (point / plan.gauge_way).real)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The gauge runs down its ray at that place along the travel until it touches the edge, or a rod on it."""
        if self.rods_mm is not None:
            return self._peak(at.real)
        return touch(lambda x: self.seen(self.curve(x)), at.real)

    def _peak(self, at: float) -> float:
        """The highest reading while the table runs past a rod held to the edge near ``at``."""
        assert self.rods_mm is not None
        spots = sorted(self.edge_plan.spots_mm)
        radius = self.rods_mm[0 if abs(at - spots[0]) < abs(at - spots[1]) else 1] / 2
        # The rod touches the edge there: its middle lies a radius off it, square to the edge.
        foot, near = self.curve(at), self.curve(at + 0.01)
        along = (near - foot) / abs(near - foot)
        return self.seen(foot + along * 1j * self.side * radius).imag + radius

    @property
    def turn_left(self) -> float:
        """How far it is turned beyond the angle that is wanted (rad, counter-clockwise)."""
        return self.pose.turn - self.square - math.radians(self.edge_plan.target_deg)

    @property
    def true_tir_mm(self) -> float:
        """Off the wanted angle, over the limit's length."""
        wanted = math.radians(self.edge_plan.target_deg)
        return abs(math.tan(wanted + self.turn_left) - math.tan(wanted)) * self.edge_plan.limit_length_mm

    def pivot(self) -> complex:
        """Where it swings this time, on the table."""
        wander = complex(self._rng.normal(0, self.wander_mm), self._rng.normal(0, self.wander_mm))
        return self.pose.place(self.swing + wander)

    def do(self, move: Move) -> None:
        """Taps at the named corner, the way the sentence says, until the needle stands at the aim; then it springs back."""
        assert move.blow_x_mm is not None
        about, push, start = self.pivot(), said_way(move), self.pose
        arm = self.pose.place(complex(move.blow_x_mm, 0.0)) - about
        turns = (arm.conjugate() * push).imag  # the moment of the push about the swing point

        def pushed(travel: float) -> Pose:
            return start.turned(about, math.copysign(travel / max(abs(turns), 5.0), turns))

        def needle(travel: float) -> float:
            self.pose = pushed(travel)
            value = self.needle(complex(move.watch_x_mm or 0.0, 0.0), "")
            self.pose = start
            return value

        travel = self.travel_to_aim(move, needle, 12.0)
        slip = complex(self._rng.normal(0, 0.02), self._rng.normal(0, 0.02)) * travel
        self.pose = pushed(travel * self.hands.gain).shifted(slip)
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Pulling the nuts turns it about the snug bolt, and shifts it as a whole, which is no fault."""
        turn = self.kick_turn + float(self._rng.normal(0, abs(self.kick_turn) * 0.15 + 1e-6))
        self.pose = self.pose.turned(self.pivot(), turn).shifted(shift)


WAYS = {"away from you": 1j, "toward you": -1j, "to the right": 1 + 0j, "to the left": -1 + 0j}


def said_way(move: Move) -> complex:
    """Which way the sentence says to tap, for somebody who stands at the machine."""
    said = plain(move.sentence, "mm", 0.001)
    found = [way for words, way in WAYS.items() if words in said]
    assert len(found) == 1, said
    return found[0]


class SimulatedBed(SimulatedEdge):
    """A vise whose base stands on its four corners, or on what lies under them; shims turn the jaw a little."""

    def __init__(
        self, plan: BedPlan, corners: tuple[tuple[float, float], ...], tilt: tuple[float, float], **edge: Any
    ) -> None:
        super().__init__(plan, **edge)
        self.bed_plan, self.corners, self.tilt = plan, corners, tilt
        self.shims = [0.0] * len(corners)
        self._rest: dict[tuple[float, ...], np.ndarray] = {}

    def lies(self) -> np.ndarray:
        """The base comes down until it rests: the lowest plane at its middle that no support sticks through."""
        if tuple(self.shims) not in self._rest:
            points = np.array([(1.0, x, y) for x, y in self.corners])
            answer = linprog(points.mean(axis=0), A_ub=-points, b_ub=-np.array(self.shims), bounds=[(None, None)] * 3)
            self._rest[tuple(self.shims)] = np.asarray(answer.x)
        return self._rest[tuple(self.shims)]

    def nearness(self, at: complex, ring: str = "") -> float:
        """A gauge that looks down on the bed, or along the jaw."""
        if ring != "bed-":
            return super().nearness(at, ring)
        tall = self.bed_plan.parallels_differ_mm if at.imag > max(self.bed_plan.bed_y_mm) - 1 else 0.0
        base = float(self.lies() @ np.array([1.0, at.real, at.imag]))
        return base + self.tilt[0] * at.real + self.tilt[1] * at.imag + tall

    def do(self, move: Move) -> None:
        """Shims as the sentence names them, or taps."""
        if move.acts[0].do != "shim":
            super().do(move)
            return
        said = plain(move.sentence, "mm", 0.0005)
        names = (
            ("front left", "front right", "back left", "back right")
            if self.edge_plan.lies == "across"
            else ("front right", "back right", "front left", "back left")
        )
        for i, (name, act) in enumerate(zip(names, move.acts, strict=True)):
            assert name in said or not act.mm, said
            self.shims[i] = act.mm or 0.0
        self.pose = self.pose.turned(self.pivot(), float(self._rng.normal(0, 0.0006)))
        self.tight = False

    @property
    def off_level_mm(self) -> float:
        """Range of the bed's plane over the places that are read, parallels left out."""
        places = zip(self.bed_plan.bed_x_mm, self.bed_plan.bed_y_mm, strict=True)
        rest = self.lies()
        z = [float(rest @ np.array([1.0, x, y])) + self.tilt[0] * x + self.tilt[1] * y for x, y in places]
        return max(z) - min(z)


class SimulatedUpright(SimulatedEdge):
    """An angle plate whose face leans, and is shimmed at one side of its base."""

    def __init__(self, plan: EdgePlan, lean: float, **edge: Any) -> None:
        super().__init__(plan, **edge)
        self.upright_plan, self.lean0, self.under = plan, lean, 0.0

    @property
    def lean(self) -> float:
        """How much its top stands nearer the gauge for a millimetre of height (rad)."""
        return self.lean0 - math.atan(self.under / self.upright_plan.base_mm)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The face at that height, in the middle; or the edge along it."""
        return at.imag * math.tan(self.lean) if ring == "up-" else super().nearness(at, ring)

    def do(self, move: Move) -> None:
        """A shim under the side that the sentence names: it lifts that side."""
        if move.acts[0].do != "shim":
            super().do(move)
            return
        said = plain(move.sentence, "mm", 0.0005)
        sides = {"back": 1j, "front": -1j, "right": 1 + 0j, "left": -1 + 0j}
        named = next(way for word, way in sides.items() if f"{word} side" in said)
        lifts = (named / self.edge_plan.gauge_way).real  # +1: the gauge's side goes up, so the top goes away from it
        self.under = lifts * abs(move.acts[0].mm or 0.0)
        self.pose = self.pose.turned(self.pivot(), float(self._rng.normal(0, 0.0006)))
        self.tight = False


class SimulatedGap(SimulatedEdge):
    """An edge seen by a rod in the spindle: it touches at one end, and a gap is left at the other."""

    rod = 0.0

    def read(self, spot: Station | float) -> float | str:
        """A rod that is brought up afresh for every pass: at the first place it may or may not touch."""
        if isinstance(spot, Station) and spot.id == "s1":
            self.rod = max(self.nearness(complex(x, 0.0)) for x in self.edge_plan.spots_mm)
        seen = super().read(spot)
        return seen if isinstance(seen, str) else max(seen, 0.0)

    def needle(self, at: complex, ring: str = "") -> float:
        """The gap itself."""
        return self.rod - self.nearness(at, ring)


class SimulatedCentre(Body):
    """A rotary table's bore somewhere beside the spindle; its handles move the table, which is watched at a side."""

    def __init__(self, plan: CentrePlan, hands: Hands, rng: np.random.Generator, centre: complex) -> None:
        super().__init__(plan, hands, rng)
        self.centre_plan, self.centre = plan, centre

    def circle(self, ring: str) -> Circle:
        """The bore or boss."""
        return part_circle(self.plan, self.centre)

    def do(self, move: Move) -> None:
        """Turn the handle that the sentence names, the way it names, until the needle stands at the aim."""
        said, plan, start = plain(move.sentence, "mm", 0.001), self.centre_plan, self.centre
        clockwise = "counter-clockwise" not in said
        if "X handle" in said:
            way = (1 + 0j) * (1 if (plan.x_clockwise == "right") == clockwise else -1)
        else:
            way = 1j * (1 if (plan.y_clockwise == "away") == clockwise else -1)

        def needle(travel: float) -> float:
            self.centre = start + way * travel
            value = self.needle(move.watch_deg)
            self.centre = start
            return value

        self.centre = start + way * self.travel_to_aim(move, needle)
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Locking drags the table."""
        self.centre += shift

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.centre)


class SimulatedPair(OnTheTable):
    """Two vises (or a vise and a stop), each a rigid body; a bar through both makes them one until it is out."""

    def __init__(self, plan: VisePairPlan, hands: Hands, rng: np.random.Generator, turns: tuple[float, float], step: float,
                 kicks: tuple[float, float], bed: float) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.pair, self.kick_turns, self.bed = plan, kicks, bed
        square = cmath.phase(plan.edge_way) + math.radians(plan.target_deg)
        along = cmath.exp(1j * square)
        self.poses = [
            Pose(0j, square).turned(0j, turns[0]),
            Pose(plan.apart_mm * along + step * plan.gauge_way, square).turned(0j, turns[1]),
        ]
        self.under = [0.0, 0.0]
        self.square, self.bar = square, plan.bar == "through"

    def _seen(self, point: complex) -> complex:
        return complex((point / self.pair.edge_way).real, (point / self.pair.gauge_way).real)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The jaw that lies at that place along the travel; or a bed from above."""
        second = at.real >= self.pair.apart_mm - 1
        if ring == "bed-":
            return (self.bed if second else 0.0) + self.under[second]
        return touch(lambda x: self._seen(self.poses[second].place(complex(x, 0.0))), at.real)

    def _bolts(self) -> tuple[complex, complex]:
        """The outer bolts on the table, as they are now; the hands’ guess is some millimetres out."""
        bolts = sorted(self.pair.holder.bolts_mm)
        off = complex(float(self._rng.normal(0, 3)), float(self._rng.normal(-30, 5)))
        return self.poses[0].place(bolts[0] + off), self.poses[1].place(bolts[-1] + off)

    def do(self, move: Move) -> None:
        """The bar out, shims, a tap at a named corner of a named vise, or the whole of it slid."""
        said = plain(move.sentence, "mm", 0.0005)
        self.tight = False
        names = ("left vise", "right vise") if self.pair.lies == "across" else ("front vise", "back vise")
        which = 1 if names[1] in said or "stop" in said.split("until")[0].split("Stop when")[0] else 0
        if "the bar out" in said:
            self.bar = False
            for i, about in enumerate(self._bolts()):
                self.poses[i] = self.poses[i].turned(about, float(self._rng.normal(0, 0.0001)))
            return
        if "whole base" in said:
            self.under = [0.0, 0.0]
            self.under[which] = move.acts[0].mm or 0.0
            return
        push, start = said_way(move), list(self.poses)
        bolts = self._bolts()
        about = bolts[0 if self.pair.hinge == "low" else 1] if self.bar else bolts[which]
        moved = (0, 1) if self.bar else (which,)
        slid = "Slide" in said
        blow = start[which].place(complex((move.blow_x_mm or 0.0) - (self.pair.apart_mm if which else 0.0), 0.0))
        turns = ((blow - about).conjugate() * push).imag

        def pushed(travel: float) -> list[Pose]:
            by = math.copysign(travel / max(abs(turns), 5.0), turns)
            return [
                p if i not in moved else p.shifted(push * travel) if slid else p.turned(about, by)
                for i, p in enumerate(start)
            ]

        def needle(travel: float) -> float:
            self.poses = pushed(travel)
            value = self.needle(complex(move.watch_x_mm or 0.0, 0.0), "")
            self.poses = list(start)
            return value

        travel = self.travel_to_aim(move, needle, 12.0)
        self.poses = pushed(travel * self.hands.gain)
        if slid:
            self.poses[which] = self.poses[which].turned(
                bolts[which], float(self._rng.normal(0, 0.05)) * travel / self.pair.edge_mm
            )

    def kicked(self, shift: complex) -> None:
        """Pulling the nuts turns each about its bolt, and shifts both alike."""
        for i, about in enumerate(self._bolts()):
            self.poses[i] = (
                self.poses[i].turned(about, self.kick_turns[i] + float(self._rng.normal(0, 3e-6))).shifted(shift)
            )

    @property
    def true_tir_mm(self) -> float:
        """Range of both jaws' ends about the wanted line."""
        plan = self.pair
        ends = [self.poses[0].place(x) for x in (0.0, plan.edge_mm)]
        ends += [
            self.poses[1].place(x) for x in ((0.0, plan.edge_mm) if plan.second == "vise" else (plan.stop_mm / 2,))
        ]
        across = [(p * cmath.exp(-1j * self.square)).imag for p in ends]
        return max(across) - min(across)


def random_pair(plan: VisePairPlan, rng: np.random.Generator) -> SimulatedPair:
    """Two vises as somebody has put them down."""
    most = 0.3 / plan.whole_mm
    turns = (float(rng.uniform(-most, most)), float(rng.uniform(-most, most)))
    kicks = (float(rng.uniform(-4e-5, 4e-5)), float(rng.uniform(-4e-5, 4e-5)))
    hands = replace(random_hands(rng, plan, 0.004), kick_scatter_mm=0.0005)
    return SimulatedPair(plan, hands, rng, turns, float(rng.uniform(-0.15, 0.15)), kicks, float(rng.uniform(-0.1, 0.1)))


class SimulatedPlate(OnTheTable):
    """A plate with a taper, a bow, a twist and tool marks, on a datum that tilts; turned over it lies on two blocks."""

    def __init__(
        self, plan: HeightsPlan, hands: Hands, rng: np.random.Generator, *, taper: tuple[float, float], bow: float, twist: float,
        marks: float, seat: tuple[float, float],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.face, self.taper, self.bow, self.twist, self.marks, self.seat = plan, taper, bow, twist, marks, seat

    def thick(self, x: float, y: float) -> float:
        """How much thicker it is there than at its front left corner, as it lies right way up."""
        u, v = x / self.face.width_mm, y / self.face.depth_mm
        bow = self.bow * (1 - (2 * u - 1) ** 2)
        return self.taper[0] * u + self.taper[1] * v + bow + self.twist * (2 * u - 1) * (2 * v - 1) / 4

    def nearness(self, at: complex, ring: str = "") -> float:
        """Height above the datum at that place; the tip never comes down twice on the same tool mark."""
        mark = float(self._rng.normal(0, self.marks)) if self.marks else 0.0
        x, y = at.real, at.imag
        if ring == "inv-":
            # Turned over left for right: what was at x is at width - x; the blocks carry it at both ends.
            carried = (
                self.face.blocks_differ_mm * (x / self.face.width_mm > 0.5) + self.seat[1] * x / self.face.width_mm
            )
            return self.thick(self.face.width_mm - x, y) + carried + mark
        return self.thick(x, y) + self.seat[0] * x / self.face.width_mm + mark

    @property
    def true_tir_mm(self) -> float:
        """Range over the places that are read, tool marks left out."""
        z = [self.thick(x, y) + self.seat[0] * x / self.face.width_mm for x, y in self.face.places]
        return max(z) - min(z)


def random_plate(plan: HeightsPlan, rng: np.random.Generator) -> SimulatedPlate:
    """A plate as it comes: within the limit or not."""
    size = plan.limit.mm
    taper = (float(rng.uniform(-1, 1)) * size, float(rng.uniform(-1, 1)) * size)
    hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.1, push_reads=int(rng.choice([-1, 1])))
    seat = float(rng.uniform(-0.4, 0.4)) * size if plan.inverted == "yes" else 0.0
    return SimulatedPlate(
        plan, hands, rng, taper=taper, bow=float(rng.uniform(-0.4, 0.4)) * size, twist=float(rng.uniform(-0.3, 0.3)) * size,
        marks=float(rng.uniform(0, 0.06)) * size, seat=(seat, seat),
    )  # fmt: skip


class SimulatedColumn(Body):
    """A rotary axis, a column that leans on its flange and is out of centre, and a tailstock that stands beside the axis."""

    def __init__(
        self, plan: ColumnPlan, hands: Hands, rng: np.random.Generator, *, axis: tuple[float, float], bar: tuple[float, float],
        offset: complex, own: complex, seat: complex, tail: complex, softness: float,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.column, self.axis, self.bar_lean = plan, list(axis), bar
        self.offset, self.own, self.seat0, self.tail, self.softness = offset, own, seat, tail, softness
        self.shims = [0.0] * plan.bolts
        self._rest: dict[tuple[float, ...], complex] = {}
        self._drooped = {z: self._droop(z) for z in (plan.bar_near_mm, plan.bar_far_mm)}

    @property
    def seat(self) -> complex:
        """Lean of the seat: what the face does, and the shims, on which the flange comes to rest."""
        r = self.column.bolt_radius_mm
        at = [cmath.rect(r, 2 * math.pi * n / self.column.bolts) for n in range(self.column.bolts)]
        points = np.array([(1.0, p.real, p.imag) for p in at])
        if tuple(self.shims) not in self._rest:
            answer = linprog(points.mean(axis=0), A_ub=-points, b_ub=-np.array(self.shims), bounds=[(None, None)] * 3).x
            self._rest[tuple(self.shims)] = complex(answer[1], answer[2])
        return self.seat0 - self._rest[tuple(self.shims)]  # it leans away from the side that is lifted

    def circle(self, ring: str) -> Circle:
        """The flange, or the far end."""
        out = self.column.far_z_mm if ring == "far-" else 0.0
        return part_circle(self.plan, self.offset + (self.own + self.seat) * out)

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """Rings by their angle; bar and tailstock by the spot's own name."""
        if isinstance(spot, Station) and spot.ring in ("bar-", "tail-"):
            self.named = spot.id
            return 0.0, spot.ring
        return super().spot(spot)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The bar on top or at the side; the flange's face; the far end pushed by the centre; or a circle."""
        plan = self.column
        if ring == "bar-":
            _, side, where, turn = self.named.split("-")
            z = plan.bar_near_mm if where == "near" else plan.bar_far_mm
            lean = self.bar_lean[side == "side"] * (1 if turn == "0" else -1)
            droop = self._drooped[z] if side == "top" else 0.0
            return (self.axis[side == "side"] + lean) * z - droop + plan.bar_taper_mm / 2 * (where == "far")
        if ring == "face-":
            return -plan.face_radius_mm * ((self.seat + 0j) * cmath.rect(1.0, -math.radians(at.real))).real
        if ring == "tail-":
            free = "free" in self.named
            side_mm = self.tail.real if "side" in self.named else self.tail.imag
            sag = 0.0 if "side" in self.named else (plan.sag_mm or 0.0)
            return 0.0 if free else side_mm * self.influence + sag
        return super().nearness(at, ring)

    def _droop(self, z: float) -> float:
        """A steel bar of its diameter, by its own weight: integrated twice, not by a formula."""
        plan, n = self.column, 400
        step = plan.bar_far_mm / n
        load = 7850e-9 * 9.81 * math.pi * plan.bar_diameter_mm**2 / 4
        stiff = 206_000.0 * math.pi * plan.bar_diameter_mm**4 / 64
        slope = sunk = 0.0
        for i in range(round(z / step)):
            slope += load * (plan.bar_far_mm - (i + 0.5) * step) ** 2 / 2 / stiff * step
            sunk += slope * step
        return sunk

    @property
    def influence(self) -> float:
        """What the gauge sees of a push at the centre: by tipping, by bending, or some of both."""
        out = self.column.far_z_mm / self.column.centre_z_mm
        bends = out**2 * (3 - out) / 2 if out <= 1 else 1 + 1.5 * (out - 1)
        return self.softness * out + (1 - self.softness) * bends

    def do(self, move: Move) -> None:
        """What the sentence says: shims, bumps, a swing of the base, the tailstock by its two ways."""
        said = plain(move.sentence, "mm", 0.0005)
        self.tight = False
        if move.opens:
            return
        if "rotary (" in said:
            lift = (move.acts[0].mm or 0.0) / self.column.foot_mm
            self.axis[0] += lift if "front" in said else -lift
        elif "rotary’s base" in said:
            self._swing(move, 1.0 if "toward you" in said else -1.0)
        elif "Under the flange" in said:
            for n, act in enumerate(move.acts):
                assert not act.mm or f"bolt {n + 1}" in said, said
                self.shims[n] = act.mm or 0.0
        elif "Move the tailstock" in said:
            parts = re.findall(r"(up|down|toward you|away from you) by ([\d.]+)", said)
            way = {"up": 1j, "down": -1j, "toward you": 1 + 0j, "away from you": -1 + 0j}
            self.tail += sum(way[word] * float(mm) for word, mm in parts) * float(self._rng.normal(1, 0.03))
        else:
            self._bump(move)

    def _swing(self, move: Move, toward: float) -> None:
        start, self.named = self.axis[1], "bar-side-far-180"

        def needle(travel: float) -> float:
            self.axis[1] = start + toward * travel / self.column.bar_far_mm
            value = self.needle(0.0, "bar-")
            self.axis[1] = start
            return value

        self.axis[1] = start + toward * self.travel_to_aim(move, needle) * self.hands.gain / self.column.bar_far_mm

    def _bump(self, move: Move) -> None:
        """A blow at the flange slides the whole column."""
        ring = "far-" if move.watch_station.startswith("far") or not move.watch_station else "flange-"
        blow, start = -cmath.rect(1.0, math.radians(move.acts[-1].at_deg)), self.offset
        ring = "far-" if "what counts" in plain(move.reason, "mm", 0.001) else ring if move.watch_station else "flange-"

        def needle(travel: float) -> float:
            self.offset = start + blow * travel
            value = self.needle(move.watch_deg, ring)
            self.offset = start
            return value

        self.offset = start + blow * self.travel_to_aim(move, needle) * self.hands.gain

    def kicked(self, shift: complex) -> None:
        """Tightening drags it a little."""
        self.offset += shift

    @property
    def true_tir_mm(self) -> float:
        """Runout at the far end."""
        return 2 * abs(self.circle("far-").centre)

    @property
    def pushed_mm(self) -> float:
        """What the tailstock does at the gauge, the worse of its two ways."""
        return max(abs(self.tail.real), abs(self.tail.imag)) * self.influence


def random_column(plan: ColumnPlan, rng: np.random.Generator) -> SimulatedColumn:
    """A column as it comes onto its axis."""
    hands = random_hands(rng, plan, 0.002)
    size = 0.3 * plan.gauge.travel_mm

    def some(most: float) -> complex:
        return cmath.rect(float(rng.uniform(0.2, 1.0)) * most, float(rng.uniform(0, 6.28)))

    axis = (float(rng.uniform(-3e-4, 3e-4)), float(rng.uniform(-3e-4, 3e-4))) if plan.bar == "yes" else (0.0, 0.0)
    bar = (float(rng.uniform(-1e-4, 1e-4)), float(rng.uniform(-1e-4, 1e-4)))
    return SimulatedColumn(
        plan, hands, rng, axis=axis, bar=bar, offset=some(min(size, 0.2)), own=some(2e-4), seat=some(3e-4), tail=some(0.06),
        softness={"tips": 1.0, "bends": 0.0, "between": 0.5}[plan.gives],
    )  # fmt: skip


def touch(curve: Callable[[float], complex], at: float) -> float:
    """Height at which a ray at ``at`` along the travel meets a curve given by its own parameter."""
    x = at
    for _ in range(6):  # the edge is nearly along the travel: Newton on the parameter converges at once
        here, there = curve(x), curve(x + 1e-4)
        x += (at - here.real) / ((there.real - here.real) / 1e-4)
    return curve(x).imag


def edge_as_found(plan: EdgeBase, rng: np.random.Generator, worn_mm: float = 0.0008) -> dict[str, Any]:
    """A vise or plate as somebody has put it down: some tenths off, on bolts that are roughly where they are said to be."""
    bolts = sorted(plan.holder.bolts_mm) or [0.12 * plan.edge_mm, 0.88 * plan.edge_mm]
    spread = float(rng.normal(0, 5.0))
    x = {"low": bolts[0], "high": bolts[-1], "none": (bolts[0] + bolts[-1]) / 2}[plan.hinge] + spread
    if plan.hinge == "none":
        x += float(rng.uniform(-0.15, 0.15)) * plan.edge_mm
    gauge = plan.gauge
    most = min(0.8, 0.8 * gauge.travel_mm) / plan.edge_mm
    turn = math.radians(plan.target_deg) + float(rng.choice([-1, 1])) * float(rng.uniform(0.2, 1.0)) * most
    kick = float(rng.uniform(-0.006, 0.006)) / plan.edge_mm
    edge = Edge(
        bow_mm=float(rng.normal(0, worn_mm / 2)), ripple_mm=float(rng.uniform(0, worn_mm)), length_mm=plan.edge_mm
    )
    hands = replace(random_hands(rng, plan, 0.01), kick_scatter_mm=0.001)  # type: ignore[arg-type]
    rods = None
    if isinstance(plan, VisePlan) and plan.read_on == "rods":
        rods = (12.0, 12.0 + plan.rods_differ_mm)
    return {
        "hands": hands, "rng": rng, "swing": complex(x, float(rng.uniform(-80, 20))), "turn": turn, "edge": edge,
        "kick_turn": kick, "rods_mm": rods,
    }  # fmt: skip


def random_edge(plan: EdgeBase, rng: np.random.Generator) -> SimulatedEdge:
    """An edge to be tapped true."""
    return SimulatedEdge(plan, **edge_as_found(plan, rng))


def random_bed(plan: BedPlan, rng: np.random.Generator) -> SimulatedBed:
    """A vise whose bed falls off by some hundredths."""
    deep = plan.holder.depth_mm or 0.7 * plan.edge_mm
    corners = ((0.0, 0.0), (plan.edge_mm, 0.0), (0.0, deep), (plan.edge_mm, deep))
    tilt = (float(rng.uniform(-0.1, 0.1)) / plan.edge_mm, float(rng.uniform(-0.08, 0.08)) / deep)
    return SimulatedBed(plan, corners, tilt, **edge_as_found(plan, rng))


def simulated_mill(plan: Plan, rng: np.random.Generator) -> Body:
    """A machine for a plan of the mill, with errors such as a shop may have."""
    match plan:
        case ColumnPlan():
            return random_column(plan, rng)
        case HeightsPlan():
            return random_plate(plan, rng)
        case BedPlan():
            return random_bed(plan, rng)
        case VisePairPlan():
            return random_pair(plan, rng)
        case EdgePlan() if plan.upright_mm:
            return SimulatedUpright(plan, float(rng.uniform(-0.0012, 0.0012)), **edge_as_found(plan, rng))
        case RodPlan():
            found = edge_as_found(plan, rng, 0.01)
            hands = replace(found["hands"], noise_mm=plan.gauge.graduation_mm / 4, stop_mm=plan.gauge.graduation_mm / 2)
            turn = math.radians(plan.target_deg) + float(rng.choice([-1, 1]) * rng.uniform(0.005, 0.03))
            return SimulatedGap(plan, **{**found, "hands": hands, "turn": turn})
        case CentrePlan():
            at = cmath.rect(float(rng.uniform(0.05, 0.9)), float(rng.uniform(0, 6.28)))
            return SimulatedCentre(plan, random_hands(rng, plan, 0.006), rng, at)
        case _:
            assert isinstance(plan, EdgeBase)
            return random_edge(plan, rng)
