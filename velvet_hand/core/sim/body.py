"""What every simulated machine has: surfaces in the machine's frame, a gauge on its own ray, a person's hand.

It shares no formula with the procedures it tests. A surface is a circle with its center at a hidden
place, turned with the spindle; the gauge's ball is run down its own ray until it touches; the needle has
a hidden sense, marks, noise and an end of travel. Who follows a move watches the needle and stops at the
aim; then what was moved springs back. Complex numbers in the holder's frame (number 1 at 0).
"""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..gauge import Gauge
from ..move import Move, Needle
from ..plan.base import BasePlan
from ..quantity import Kind
from ..readings import Station
from .by_hand import HARD, LIGHT_MARKS, TIGHT, Control
from .trouble import Trouble


class WrongWay(AssertionError):
    """Advice was followed, and the needle went away from the aim."""


class Jammed(AssertionError):
    """Something was to be drawn in far against what had not been eased."""


@dataclass(frozen=True, slots=True)
class Circle:
    """A surface: center and radius, is the gauge inside it, and its form (peak to valley, order, where)."""

    center: complex
    radius_mm: float
    inside: bool = False
    form_mm: float = 0.0
    lobes: int = 2
    form_deg: float = 0.0


@dataclass(frozen=True, slots=True)
class Truth:
    """One thing that is judged: what, how large it truly is, and what is allowed."""

    kind: Kind
    mm: float
    limit_mm: float

    @property
    def past_mm(self) -> float:
        """How far it is past what is allowed; below zero within it."""
        return self.mm - self.limit_mm


@dataclass(frozen=True, slots=True)
class Hands:
    """How well things are done: reading noise, to which part of a mark it is read, stopping at the aim, kick of tightening, the
    needle's sense.
    """

    noise_mm: float = 0.0
    stop_mm: float = 0.0
    gain: float = 1.0
    kick: complex = 0j
    kick_scatter_mm: float = 0.0
    push_reads: int = 1
    push_far: int = 1
    reads_to: float = 0.5


def random_hands(rng: np.random.Generator, plan: BasePlan, kick_mm: float = 0.004) -> Hands:
    """A person and a machine as a shop may have them."""
    mark = plan.gauge.graduation_mm
    return Hands(
        noise_mm=mark * 0.15,
        stop_mm=mark * 0.5,
        gain=float(rng.uniform(0.72, 1.02)),
        kick=cmath.rect(float(rng.uniform(0, kick_mm)), float(rng.uniform(0, 6.28))),
        kick_scatter_mm=0.0005 if kick_mm else 0.0,
        push_reads=int(rng.choice([-1, 1])),
        push_far=int(rng.choice([-1, 1])),
    )


class Body:
    """Answers ``press``, ``zero``, ``read``, ``do`` and ``tighten`` as a machine and a person would.

    A subclass says which circle lies at a station (``circle``), and what a move does (``do``). ``curable``: what is
    advised can always bring it within the limit. ``hides`` names what of it nobody knows and readings tell: numbers, or what is made
    of them; what is ``left_over`` may lie on a ring beside its own form.
    """

    curable = True
    hides: tuple[str, ...] = ()

    def __init__(self, plan: BasePlan, hands: Hands, rng: np.random.Generator) -> None:
        self.plan, self.hands, self._rng = plan, hands, rng
        self.trouble: Trouble | None = None
        self._zero: dict[str, float] = {}
        self.left_over: dict[str, Callable[[float], float]] = {}
        self.tight = False

    # -- what a procedure's machine says ---------------------------------------------------------

    def circle(self, ring: str) -> Circle:
        """The surface that is read on a ring, where it stands now; what has none says itself how near it is."""
        raise AssertionError(f"no circle lies on {ring!r}")

    def do(self, move: Move) -> None:
        """Follow a move; a machine that is only measured has none."""
        raise AssertionError(f"nothing can be moved here: {move.id}")

    def kicked(self, shift: complex) -> None:
        """Tightening shifts what is held."""

    # -- by hand, without a sentence -------------------------------------------------------------

    def controls(self) -> tuple[Control, ...]:
        """What a hand can take hold of; a machine that is only read has nothing."""
        return ()

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """Turn a key by so many mm, strike (1 light, more: hard), or put in what has that number among the choices.

        ``held``: the hand has not let go, so nothing has sprung back yet.
        """
        raise AssertionError(f"nothing can be taken hold of here: {control}")

    @property
    def astray(self) -> complex:
        """How far it is off, and which way, that nobody in a shop can see; 0 where nothing is moved."""
        return 0j

    def blow_mm(self, strength: float) -> float:
        """How far a blow carries: no two are alike."""
        part = float(self._rng.uniform(0.6, 1.4)) * (TIGHT if self.tight else 1.0)
        return part * self.plan.gauge.graduation_mm * LIGHT_MARKS * (HARD if strength > 1 else 1.0)

    @property
    def true_tir_mm(self) -> float:
        """TIR that nobody in a shop can see."""
        return 2 * abs(self.astray)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """Everything that is judged, as its limit counts it; what the plan's own limit is set on comes first."""
        half = self.plan.limit.kind in ("off_centre", "throw")
        return (Truth(self.plan.limit.kind, self.true_tir_mm / (2.0 if half else 1.0), self.plan.limit.mm),)

    @property
    def worst(self) -> Truth:
        """What is farthest past its limit, or nearest to it."""
        return max(self.truths, key=lambda truth: truth.past_mm)

    @property
    def past_limit_mm(self) -> float:
        """How far it truly is past what the plan allows (below zero: within it), the worst of all that is judged."""
        return self.worst.past_mm

    @property
    def best_tir_mm(self) -> float:
        """The least that can be reached by what is moved there."""
        return 0.0

    @property
    def blind_mm(self) -> float:
        """What is beyond the readings that the plan has: a verdict may be wrong by as much."""
        return 0.0

    # -- what the gauge sees ---------------------------------------------------------------------

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """Where a spot is (an angle; on a table a place, x + iy) and the ring it belongs to."""
        return (spot.angle_deg, spot.ring) if isinstance(spot, Station) else (float(spot), "")

    def nearness(self, at: complex, ring: str = "") -> float:
        """How near the surface is to the gauge at that spot; only differences mean anything."""
        angle_deg = at.real
        c = self.circle(ring)
        gauge, turn = self._stand(angle_deg)
        center = c.center * cmath.rect(1.0, math.radians(turn))
        ray = cmath.rect(1.0, math.radians(gauge))
        tip = self.plan.gauge.tip_radius_mm
        reach = c.radius_mm + (-tip if c.inside else tip)
        # |s ray - center| = reach, the larger root: the ball's center on the ray.
        b = (ray.conjugate() * center).real
        inside = b * b - abs(center) ** 2 + reach * reach
        if inside < 0:
            raise WrongWay(f"the surface at {at} is out of the indicator's reach")
        s = b + math.sqrt(inside)
        s += c.form_mm / 2 * math.cos(math.radians(c.lobes * (angle_deg - c.form_deg)))
        return -s if c.inside else s

    def _stand(self, angle_deg: float) -> tuple[float, float]:
        """(machine angle of the gauge, turn of the holder) when that spot is read."""
        if self.plan.carrier == "work_turns":
            return self.plan.gauge_clock_deg, self.plan.gauge_clock_deg - angle_deg
        return angle_deg, 0.0

    def gauge_of(self, ring: str) -> Gauge:
        """The gauge that reads a ring."""
        return self.plan.gauge_in(self.plan.slot(ring))

    def needle(self, at: complex, ring: str = "") -> float:
        """What the needle shows there now, before marks and noise."""
        slot = self.plan.slot(ring)
        push = self.hands.push_far if slot else self.hands.push_reads
        stretch = 1 / self.gauge_of(ring).true_part(self.plan.stylus_deg, self.plan.swing_deg)
        near = self.nearness(at if self.trouble is None else self.trouble.seen_at(at), ring)
        if self.trouble is not None:
            near += self.trouble.stands_out(at)
        left = self.left_over[ring](at.real) if ring in self.left_over else 0.0
        return push * near * stretch - self._zero.get(ring, 0.0) + left

    def shift_zero(self, ring: str, by_mm: float) -> None:
        """Turn the dial of a ring: its needle shows so much less."""
        self._zero[ring] = self._zero.get(ring, 0.0) + by_mm

    def posed(self) -> None:
        """What is hidden was put somewhere else: what follows from it is made anew."""

    def in_hand(self, move: Move) -> bool:
        """Is there something to take hold of for it? What there is not is done as its sentence says."""
        return bool(self.controls())

    def lying(self, control: str) -> int:
        """Which of the choices of something that is put there lies there now."""
        return 0

    def press(self, slot: str = "") -> Literal["plus", "minus"]:
        """The surface pressed toward the gauge: which way does the needle go?"""
        push = self.hands.push_far if slot else self.hands.push_reads
        wrong = self.trouble is not None and self.trouble.cause == "sign"
        return "plus" if (push > 0) is not wrong else "minus"

    def zero(self, spot: Station | float) -> None:
        """Set the dial to zero at a spot; a gauge that comes to another ring has another zero there."""
        self.zero_at(*self.spot(spot))

    def zero_at(self, at: complex, ring: str) -> None:
        """Set it to zero with the stylus there."""
        self._zero[ring] = self._zero.get(ring, 0.0) + self.needle(at, ring)

    def brought_near(self, at: complex, ring: str, rng: np.random.Generator) -> None:
        """Another plane, another zero: the person brings the needle to somewhere near the middle."""
        if ring and ring not in self._zero:
            self._zero[ring] = self.needle(at, ring) + float(rng.uniform(-1, 1)) * self.gauge_of(ring).travel_mm / 20

    def read(self, spot: Station | float) -> float | str:
        """What a person would type, in mm: a value on the marks, ``+off`` or ``-off``."""
        at, ring = self.spot(spot)
        gauge = self.gauge_of(ring)
        self.brought_near(at, ring, self._rng)
        needle = self.needle(at, ring) + float(self._rng.normal(0, self.hands.noise_mm))
        if self.trouble is not None:
            needle += self.trouble.misses()
        step = gauge.graduation_mm * self.hands.reads_to
        shown = round(needle / step) * step
        if abs(shown) > gauge.travel_mm:
            return "+off" if needle > 0 else "-off"
        return shown

    # -- what a person does ----------------------------------------------------------------------

    def watches(self, move: Move) -> complex:
        """The place of the needle that is watched while it is made."""
        return complex(watched(move).deg)

    def travel_to_aim(self, move: Move, put: Callable[[float], object], ring: str = "", most_mm: float = 5.0) -> float:
        """How far something is moved until the needle on a ring stands at the aim (or is back on the dial).

        ``put`` puts it so far from where it was; in the end it is there again.

        Raises
        ------
        WrongWay
            When moving it takes the needle away from the aim.
        """
        at = self.watches(move)

        def needle(travel: float) -> float:
            put(travel)
            try:
                return self.needle(at, ring)
            finally:
                put(0.0)

        aim = move.aim_mm
        if aim is None:
            end = self.plan.gauge.travel_mm * 0.9
            aim = end if needle(0.0) > 0 else -end
        aim += float(self._rng.normal(0, self.hands.stop_mm))
        if self.trouble is not None and self.trouble.cause == "sign":
            return self.trouble.unwatched(aim - needle(0.0))
        gap = needle(0.0) - aim
        if abs(needle(0.002) - aim) > abs(gap):
            if abs(gap) > 4 * self.plan.gauge.graduation_mm:
                raise WrongWay(f"{move.id}: the needle goes away from {aim:+.4f}")
            return 0.0  # it stands at the aim already, as near as a person can see
        low, high = 0.0, min(0.05, most_mm)
        while (needle(high) - aim) * gap > 0 and high < most_mm:  # not from the far end: so far round all is otherwise
            low, high = high, min(2 * high, most_mm)
        if (needle(high) - aim) * gap > 0:
            raise WrongWay(f"{move.id}: the needle never comes to {aim:+.4f}")
        from scipy.optimize import brentq  # half a second of a start, so only when it is needed

        found: float = brentq(lambda travel: needle(travel) - aim, low, high, xtol=1e-12)
        return found

    def slacken(self) -> None:
        """Loosened again with nothing moved: the next final grip shifts it afresh."""
        self.tight = False

    def grip(self, again: bool) -> None:
        """Tightened as it is said to be; ``again``, with nothing moved since, it is slacked off first."""
        if again:
            self.slacken()
        self.tighten()

    def tighten(self) -> None:
        """Final grip: the work shifts by the kick; what is tight already is not shifted by it."""
        s = self.hands.kick_scatter_mm
        scatter = complex(self._rng.normal(0, s), self._rng.normal(0, s)) if s else 0j
        if not self.tight:
            self.kicked(self.hands.kick + scatter + (self.trouble.shift() if self.trouble is not None else 0j))
        self.tight = True


class Centered(Body):
    """One round surface whose center stands somewhere beside where it should; what tightens it drags it along."""

    hides = ("center",)

    def __init__(self, plan: BasePlan, hands: Hands, rng: np.random.Generator, center: complex) -> None:
        super().__init__(plan, hands, rng)
        self.center = center

    def circle(self, ring: str) -> Circle:
        """The bore, boss or bar that is read."""
        return part_circle(self.plan, self.center)

    @property
    def astray(self) -> complex:
        """Where its center stands."""
        return self.center

    def kicked(self, shift: complex) -> None:
        """See ``Body``."""
        self.center += shift


def part_circle(plan: BasePlan, center: complex, form_mm: float = 0.0, lobes: int = 2, form_deg: float = 0.0) -> Circle:
    """The part's own surface."""
    inside = plan.part.surface == "inside"
    return Circle(center, plan.part.diameter_mm / 2, inside, form_mm, lobes, form_deg)


def watched(move: Move) -> Needle:
    """What the person looks at while making it."""
    assert move.needle is not None, f"{move.id}: no needle is watched"
    return move.needle


def vector(rng: np.random.Generator, least: float, most: float) -> complex:
    """A vector of a size between the two, in any direction."""
    return cmath.rect(float(rng.uniform(least, most)), float(rng.uniform(0, 2 * math.pi)))


def at_deg(deg: float) -> complex:
    """The unit vector of that direction."""
    return cmath.rect(1.0, math.radians(deg))


def pushed(hands: Hands, rng: np.random.Generator) -> Hands:
    """The same hands at an indicator of one sense or the other."""
    return replace(hands, push_reads=int(rng.choice([-1, 1])))
