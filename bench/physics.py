"""The machines that advice is measured on: two sorts of friction, which stay as they are.

``A``: a share of every move is missed at random, screws and taps have a least step, tightening shifts by what repeats and a little that
does not. ``B``, on which nothing is ever tuned: friction in slips, gains log-normal and apart by direction, heavy tails, readings half as
noisy again.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from velvet_hand.core.estimate.form import truest
from velvet_hand.core.move import Jaws, Move
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.sim.body import Hands, WrongWay
from velvet_hand.core.sim.jaws import Quirks, SimulatedChuck
from velvet_hand.core.sim.table import Edge, SimulatedEdge, said_way

REPEAT_MM = 0.0006
#: Size of each order of form: its cosine and sine have a share of it each.
FORM_MM = 0.0005
ORDERS = (2, 3, 4, 5)


def heavy(rng: np.random.Generator, physics: str) -> float:
    """A random number of spread one; with heavy tails in B."""
    return float(rng.standard_t(3)) / 3**0.5 if physics == "B" else float(rng.normal())


def repeat_mm(physics: str) -> float:
    """Scatter of one reading."""
    return REPEAT_MM * (1.5 if physics == "B" else 1.0)


def stick(rng: np.random.Generator, physics: str, step_mm: float, way_mm: float) -> float:
    """What of a movement really happens: whole steps, or in B slips whose size nobody knows beforehand."""
    step = float(rng.uniform(0.001, 0.004)) if physics == "B" else step_mm
    return (
        step * math.floor(way_mm / step + float(rng.uniform(0, 1))) if physics == "B" else step * round(way_mm / step)
    )


@dataclass(frozen=True, slots=True)
class Screws:
    """What a chuck keeps from set-up to set-up."""

    gain: tuple[float, float]
    apart: tuple[float, float]
    lost_mm: tuple[float, float]
    cross: tuple[float, float]
    step_mm: float
    shift: complex


def screws(rng: np.random.Generator, physics: str) -> Screws:
    """A chuck by chance."""

    def two(draw: Callable[[], float]) -> tuple[float, float]:
        return float(draw()), float(draw())

    if physics == "B":
        gain, apart = two(lambda: 0.85 * math.exp(0.25 * rng.normal())), two(lambda: 0.08 * rng.choice([-1, 1]))
    else:
        gain, apart = two(lambda: rng.uniform(0.6, 1.1)), (0.0, 0.0)
    return Screws(
        gain, apart, two(lambda: rng.uniform(0, 0.020)), two(lambda: rng.normal(0, 0.03)), float(rng.uniform(0.0005, 0.002)),
        complex(rng.normal(0, 0.0015), rng.normal(0, 0.0015)),
    )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Form:
    """Cosine and sine of each order of a part's form."""

    parts: tuple[tuple[float, float], ...] = ()

    def at(self, deg: float) -> float:
        """How far the surface stands out there."""
        t = math.radians(deg)
        return sum(c * math.cos(n * t) + s * math.sin(n * t) for n, (c, s) in zip(ORDERS, self.parts, strict=True))


class Chuck(SimulatedChuck):
    """A four-jaw, 1 to 2 mm off."""

    def __init__(self, plan: JawPlan, rng: np.random.Generator, holder: Screws, physics: str) -> None:
        quirks = Quirks(
            offset_mm=float(rng.uniform(1, 2)), offset_deg=float(rng.uniform(0, 360)), noise_mm=repeat_mm(physics),
            stop_mm=plan.gauge.graduation_mm / 4, push_reads=int(rng.choice([-1, 1])),
        )  # fmt: skip
        super().__init__(plan, quirks, rng)
        self.screws, self.physics, self.tightenings, self.readings = holder, physics, 0, 0
        each = FORM_MM / 2**0.5
        self.form = Form(tuple((rng.normal(0, each), rng.normal(0, each)) for _ in ORDERS))

    def nearness(self, at: complex, ring: str = "") -> float:
        """The part's form on top of its circle."""
        return super().nearness(at, ring) + self.form.at(at.real)

    def read(self, spot: object) -> float | str:
        """Counted."""
        self.readings += 1
        return super().read(spot)  # type: ignore[arg-type]  # as it comes

    def do(self, move: Move) -> None:
        """The named jaw goes in until the needle stands at the aim; what stays of it is the screws' affair."""
        assert isinstance(move, Jaws)
        try:
            push, travel = self.pushed(move)
        except WrongWay:
            return  # the other pair took it past its aim: it is left there
        drawn = move.draw.number
        pair, way = (drawn - 1) % 2, 1.0 if drawn <= 2 else -1.0
        s = self.screws
        run = travel
        if self._last_way.get(pair, way) != way:
            run = max(travel - s.lost_mm[pair], 0.0)
        self._last_way[pair] = way
        own = s.gain[pair] * (1 + s.apart[pair] * way / 2) * run * (1 + 0.06 * heavy(self._rng, self.physics))
        own = stick(self._rng, self.physics, s.step_mm, own)
        side = push * 1j if pair == 0 else push / 1j
        self.center += push * own + side * own * s.cross[pair]
        self.tight = False

    def tighten(self) -> None:
        """It shifts by what this chuck always does, and a little more."""
        if not self.tight:
            spread = 0.0005 * (1.5 if self.physics == "B" else 1.0)
            self.center += self.screws.shift + complex(self._rng.normal(0, spread), self._rng.normal(0, spread))
            self.tightenings += 1
        self.tight = True

    @property
    def least_mm(self) -> float:
        """The least TIR that the part comes to, wherever it sits."""
        return truest(tuple(mm for order in self.form.parts for mm in order))[1]

    @property
    def true_tir_mm(self) -> float:
        """Largest less smallest, all round."""
        e, degrees = self.center, np.arange(0.0, 360.0, 1.0)
        ways = np.radians(degrees)
        seen = e.real * np.cos(ways) + e.imag * np.sin(ways) + np.array([self.form.at(float(deg)) for deg in degrees])
        return float(np.ptp(seen))


@dataclass(frozen=True, slots=True)
class Bolts:
    """What a vise keeps from set-up to set-up: its tap's gain, where it swings, its shift over the length."""

    gain: float
    swing_mm: float
    shift_mm: float
    apart: float = 0.0


#: An end this near to where a vise swings about goes nowhere when it is tapped.
DEAD_MM = 25.0
#: Where a vise swings about: by a bolt that is snug (``low`` or ``high``), about the middle with both light, or nobody knows where.
Swings = Literal["low", "high", "light", "unknown"]


def bolts(rng: np.random.Generator, physics: str, plan: EdgeBase, swings: Swings) -> Bolts:
    """A vise by chance."""
    low, high = plan.holder.pins_mm
    about, spread = {
        "low": (low, 12.0),
        "high": (high, 12.0),
        "light": ((low + high) / 2, 15.0),
        "unknown": (0.37 * plan.edge_mm, 32.0),
    }[swings]
    swing = rng.normal(about, spread)
    if swings == "unknown":  # between its bolts, and not where it is tapped: whoever taps there goes to the other end
        swing = min(max(swing, low), high - DEAD_MM)
    gain = 0.9 * math.exp(0.25 * rng.normal()) if physics == "B" else rng.uniform(0.7, 1.1)
    return Bolts(
        float(gain),
        float(swing),
        float(rng.normal(0, 0.008)),
        0.08 * float(rng.choice([-1, 1])) if physics == "B" else 0.0,
    )


class Vise(SimulatedEdge):
    """A vise, half a millimeter to one off over its jaw."""

    def __init__(self, plan: EdgeBase, rng: np.random.Generator, holder: Bolts, physics: str) -> None:
        self.bolts, self.physics, self.tightenings, self.readings = holder, physics, 0, 0
        off = float(rng.uniform(0.5, 1.0)) * float(rng.choice([-1, 1])) / plan.edge_mm
        hands = Hands(
            noise_mm=repeat_mm(physics), stop_mm=plan.gauge.graduation_mm / 4, push_reads=int(rng.choice([-1, 1]))
        )
        super().__init__(
            plan, hands, rng, swing=complex(holder.swing_mm, float(rng.uniform(-60, 10))), turn=off,
            edge=Edge(bow_mm=float(rng.normal(0, 0.001)), length_mm=plan.edge_mm), wander_mm=4.0,
        )  # fmt: skip
        self.was_tight = False

    def read(self, spot: object) -> float | str:
        """Counted."""
        self.readings += 1
        return super().read(spot)  # type: ignore[arg-type]  # as it comes

    def do(self, move: Move) -> None:
        """As any vise, but a share of each tap goes astray, and a loosened bolt moves it by itself."""
        self.loosened()
        about_way = 1.0 if said_way(move).imag > 0 else -1.0
        share = self.bolts.gain * (1 + self.bolts.apart * about_way / 2) * (1 + 0.12 * heavy(self._rng, self.physics))
        self.hands = replace(self.hands, gain=max(share, 0.05))
        super().do(move)

    def loosened(self) -> None:
        """What was tight turns a little as it is loosened."""
        if self.was_tight:
            self.pose = self.pose.turned(self.pivot(), float(self._rng.normal(0, 0.002)) / self.edge_plan.edge_mm)
            self.was_tight = False

    def slacken(self) -> None:
        """See ``Body``."""
        self.loosened()
        super().slacken()

    def tighten(self) -> None:
        """It turns by what this vise always does, and a little more."""
        if not self.tight:
            mm = self.bolts.shift_mm + float(self._rng.normal(0, 0.0015))
            self.pose = self.pose.turned(self.pivot(), mm / self.edge_plan.edge_mm)
            self.tightenings += 1
        self.tight = self.was_tight = True
