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

from ..model import own
from ..move import Move, Shim, Tap
from ..plan.edge import EdgeBase
from ..readings import Station
from ..wording import plain
from .body import Body, Hands, WrongWay, random_hands, watched
from .by_hand import Control, Packets

#: The cosine of the angle at which an indicator runs past an edge instead of along it.
STEEPEST = 0.2


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

    def watches(self, move: Move) -> complex:
        """See ``Body``: a place along the travel."""
        return complex(watched(move).x_mm or 0.0)


class SimulatedEdge(OnTheTable):
    """A vise, plate or long part held by bolts: tapped, it turns about its swing point; tightened, it kicks.

    ``swing`` is how far along the edge it really swings, and how far behind it; friction makes that point wander from tap
    to tap. Machine frame: real to the right, imaginary away from the person.
    """

    hides: tuple[str, ...] = ("pose",)

    def __init__(
        self, plan: EdgeBase, hands: Hands, rng: np.random.Generator, *, swing: complex, turn: float, edge: Edge,
        wander_mm: float = 1.5, kick_turn: float = 0.0, rods_mm: tuple[float, float] | None = None,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
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
        move = own(move, Tap)
        pushed = self.struck(move.x_mm, said_way(move))

        def put(travel: float) -> None:
            self.pose = pushed(travel)

        self.swung(pushed, self.travel_to_aim(move, put, most_mm=12.0))

    def struck(self, x_mm: float, push: complex) -> Callable[[float], Pose]:
        """Where it lies after a push of so many mm at a place along the edge: it turns about its swing point of this time."""
        about, start = self.pivot(), self.pose
        arm = start.place(complex(x_mm, 0.0)) - about
        turns = (arm.conjugate() * push).imag  # the moment of the push about the swing point
        return lambda travel: start.turned(about, math.copysign(travel / max(abs(turns), 5.0), turns))

    def swung(self, pushed: Callable[[float], Pose], travel: float) -> None:
        """It springs back a little, and slips."""
        slip = complex(self._rng.normal(0, 0.02), self._rng.normal(0, 0.02)) * travel
        self.pose = pushed(travel * self.hands.gain).shifted(slip)
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """A soft hammer at either end, from either side."""
        ends = ("left", "right") if self.edge_plan.lies == "across" else ("front", "back")
        first, last = ends if self.edge_plan.edge_way.real + self.edge_plan.edge_way.imag > 0 else ends[::-1]
        return tuple(
            Control(id=f"{end}.{way}", label=f"{name.capitalize()} end, {words}", kind="tap")
            for end, name in (("low", first), ("high", last))
            for way, words in (("away", "away from the indicator"), ("toward", "toward the indicator"))
        )

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """One blow."""
        end, way = control.split(".")
        x, push = (
            0.06 if end == "low" else 0.94,
            self.edge_plan.gauge_way * (1 if way == "toward" else -1),
        )
        self.swung(self.struck(x * self.edge_plan.edge_mm, push), self.blow_mm(amount))

    @property
    def astray(self) -> complex:
        """How far it is turned beyond what is wanted, over the limit's length."""
        return complex(math.tan(self.turn_left) * self.edge_plan.limit_length_mm)

    def kicked(self, shift: complex) -> None:
        """Pulling the nuts turns it about the snug bolt, and shifts it as a whole, which is no fault."""
        turn = self.kick_turn + float(self._rng.normal(0, abs(self.kick_turn) * 0.15 + 1e-6))
        if self.trouble is not None:
            turn += self.trouble.last_shift.real / self.edge_plan.edge_mm
        self.pose = self.pose.turned(self.pivot(), turn).shifted(shift)


class ShimmedEdge(SimulatedEdge):
    """An edge whose base is shimmed too; what was lifted lies a little otherwise when it is down again.

    ``names`` are the places of its shims, for somebody who stands at the machine, and ``puts`` what a sentence lays under each.
    """

    what = "Shim"

    def __init__(self, plan: EdgeBase, packets: Packets, names: tuple[str, ...], **edge: Any) -> None:
        super().__init__(plan, **edge)
        self.packets, self.names, self.shims = packets, names, [0.0] * len(names)

    def puts(self, said: str) -> list[float]:
        """How thick a stack lies at each place when it was done as said."""
        thick = named_shims(said)
        return [thick.get(name, 0.0) for name in self.names]

    def do(self, move: Move) -> None:
        """Shims as the sentence names them, or taps."""
        if not isinstance(move, Shim):
            super().do(move)
            return
        self.shims = self.puts(plain(move.sentence, "mm", 0.0005))
        self._set_down()

    def _set_down(self) -> None:
        self.pose = self.pose.turned(self.pivot(), float(self._rng.normal(0, 0.0006)))
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """A shim at each of its places, and the taps of any edge."""
        return (*self.packets.controls(self.names, self.what), *super().controls())

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return self.packets.lying(control, self.shims)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A shim, or a blow."""
        if self.packets.put(control, amount, self.shims):
            self._set_down()
        else:
            super().by_hand(control, amount, held=held)


WAYS = {"away from you": 1j, "toward you": -1j, "to the right": 1 + 0j, "to the left": -1 + 0j}


def said_way(move: Move) -> complex:
    """Which way the sentence says to tap, for somebody who stands at the machine."""
    said = plain(move.sentence, "mm", 0.001)
    found = [way for words, way in WAYS.items() if words in said]
    assert len(found) == 1, said
    return found[0]


STACK = r"\d[\d.]*(?: mm)?(?: \+ \d[\d.]*(?: mm)?)*"


def stacks(said: str) -> list[float]:
    """The pieces of the stack that a sentence names; nothing when it says to put in no shim."""
    found = re.search(STACK, said)
    return [float(mm) for mm in re.findall(r"\d[\d.]*\d|\d", found[0])] if found else []


def named_shims(said: str) -> dict[str, float]:
    """How thick a stack the sentence puts where: under a named corner, at a numbered bolt."""
    found = re.findall(rf"({STACK}) (?:under the|at) (bolt \d+|\w+ \w+)", said)
    return {name: sum(stacks(stack)) for stack, name in found}


def touch(curve: Callable[[float], complex], at: float) -> float:
    """Height at which a ray at ``at`` along the travel meets a curve given by its own parameter.

    Raises
    ------
    WrongWay
        When the curve is turned too far for that.
    """
    x = at
    for _ in range(6):  # the edge is nearly along the travel: Newton on the parameter converges at once
        here, there = curve(x), curve(x + 1e-4)
        along = (there.real - here.real) / 1e-4
        if abs(along) < STEEPEST:
            raise WrongWay("it is turned so far that the indicator runs past it")
        x += (at - here.real) / along
    return curve(x).imag


def edge_as_found(plan: EdgeBase, rng: np.random.Generator, worn_mm: float = 0.0008) -> dict[str, Any]:
    """A vise or plate as somebody has put it down: some tenths off, on bolts that are roughly where they are said to be."""
    low, high = plan.holder.pins_mm
    spread = float(rng.normal(0, 5.0))
    x = {"low": low, "high": high, "none": (low + high) / 2}[plan.hinge] + spread
    if plan.hinge == "none":
        x += float(rng.uniform(-0.15, 0.15)) * plan.edge_mm
    gauge = plan.gauge
    most = min(0.8, 0.8 * gauge.travel_mm) / plan.edge_mm
    turn = math.radians(plan.target_deg) + float(rng.choice([-1, 1])) * float(rng.uniform(0.2, 1.0)) * most
    kick = float(rng.uniform(-0.006, 0.006)) / plan.edge_mm
    edge = Edge(
        bow_mm=float(rng.normal(0, worn_mm / 2)), ripple_mm=float(rng.uniform(0, worn_mm)), length_mm=plan.edge_mm
    )
    hands = replace(random_hands(rng, plan, 0.01), kick_scatter_mm=0.001)
    return {
        "hands": hands, "rng": rng, "swing": complex(x, float(rng.uniform(-80, 20))), "turn": turn, "edge": edge,
        "kick_turn": kick,
    }  # fmt: skip


def random_edge(plan: EdgeBase, rng: np.random.Generator) -> SimulatedEdge:
    """An edge to be tapped true."""
    return SimulatedEdge(plan, **edge_as_found(plan, rng))
