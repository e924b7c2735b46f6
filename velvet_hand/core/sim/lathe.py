"""Simulated machines of the other procedures: rigid bodies, contacts and blows, no shared formula."""

from __future__ import annotations

import cmath
import math
from dataclasses import replace

import numpy as np
from scipy.optimize import least_squares

from ..move import Move
from ..plans import (
    AdjustablePlan,
    ClockingPlan,
    ColletPlan,
    DowelPlan,
    FaceplatePlan,
    PackingPlan,
    Plan,
    ReversalPlan,
    RoughPlan,
    ShaftPlan,
    ThrowPlan,
    TramPlan,
    TwoPlanesPlan,
)
from ..plans.mill import CentrePlan, ColumnPlan, EdgeBase, HeightsPlan
from ..readings import Station
from .body import Body, Circle, Hands, part_circle, random_hands
from .four_jaw import SimulatedChuck, random_quirks
from .mill import simulated_mill


def _vector(rng: np.random.Generator, least: float, most: float) -> complex:
    return cmath.rect(float(rng.uniform(least, most)), float(rng.uniform(0, 2 * math.pi)))


def _at(deg: float) -> complex:
    return cmath.rect(1.0, math.radians(deg))


class SimulatedFaceplate(Body):
    """Work that slides on a plate when it is tapped."""

    def __init__(self, plan: Plan, hands: Hands, rng: np.random.Generator, centre: complex) -> None:
        super().__init__(plan, hands, rng)
        self.centre = centre

    def circle(self, ring: str) -> Circle:
        """The boss or bore that is read."""
        return part_circle(self.plan, self.centre)

    def do(self, move: Move) -> None:
        """Blows at the named place, through the middle, until the needle stands at the aim."""
        blow, start = -_at(move.acts[-1].at_deg), self.centre

        def needle(travel: float) -> float:
            self.centre = start + blow * travel
            value = self.needle(move.watch_deg)
            self.centre = start
            return value

        travel = self.travel_to_aim(move, needle)
        aside = blow * 1j * travel * float(self._rng.normal(0, 0.03))
        self.centre = start + blow * travel * self.hands.gain + aside
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Pinching the clamps drags the work."""
        self.centre += shift

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.centre)


class SimulatedAdjustable(Body):
    """A body between n screws. ``follows`` says on which side of the contact the screws sit."""

    def __init__(self, plan: Plan, hands: Hands, rng: np.random.Generator, centre: complex) -> None:
        super().__init__(plan, hands, rng)
        self.centre, self.went = centre, 0j

    def circle(self, ring: str) -> Circle:
        """The work in the chuck."""
        return part_circle(self.plan, self.centre)

    def do(self, move: Move) -> None:
        """Slacken what is to be slackened, then tighten the rest alike until the needle stands at the aim."""
        holder = self.plan.holder
        side = 1.0 if holder.follows == "toward" else -1.0
        start, went = self.centre, self.went
        step = self.plan.holder.numbering == "cw"
        normals, advances = [], []
        for act in move.acts:
            angle = (act.jaw - 1) * 360.0 / holder.jaws * (-1 if step else 1)
            normals.append([math.cos(math.radians(angle)), math.sin(math.radians(angle))])
            advances.append(side * (act.mm or 0.0) * (-1 if act.do == "slacken" else 1))
        # The body comes to rest where every screw that was turned touches again.
        x, y = np.linalg.lstsq(np.array(normals), np.array(advances), rcond=None)[0]
        whole = complex(x, y)
        way = whole / abs(whole)

        def needle(travel: float) -> float:
            self.centre = start + way * travel
            value = self.needle(move.watch_deg)
            self.centre = start
            return value

        stays = self.travel_to_aim(move, needle) * self.hands.gain
        goal = went + way * stays
        if holder.clearance_mm is not None and abs(goal) > holder.clearance_mm:
            goal = goal / abs(goal) * holder.clearance_mm
        self.centre, self.went = start + goal - went, goal
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Locking drags the body."""
        self.centre += shift

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.centre)


class SimulatedClocking(Body):
    """A plate that runs out, and a chuck that runs out on it, turned by whole bolt positions."""

    def __init__(
        self, plan: ClockingPlan, hands: Hands, rng: np.random.Generator, plate: complex, chuck: complex
    ) -> None:
        super().__init__(plan, hands, rng)
        self.plate, self.chuck, self.bolts, self.position = plate, chuck, plan.bolts, 1

    @property
    def whole(self) -> complex:
        """Where the bar's centre stands."""
        return self.plate + self.chuck * _at(360.0 / self.bolts * (self.position - 1))

    def circle(self, ring: str) -> Circle:
        """The register, or the bar in the chuck."""
        return part_circle(self.plan, self.plate if ring == "plate" else self.whole)

    def do(self, move: Move) -> None:
        """Bolt the chuck on at the named position."""
        self.position = move.acts[0].jaw
        self.tight = False

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.whole)

    @property
    def best_tir_mm(self) -> float:
        """The least that any position gives."""
        return 2 * min(abs(self.plate + self.chuck * _at(360.0 / self.bolts * k)) for k in range(self.bolts))


class SimulatedPacking(Body):
    """Three jaws on one scroll, each a flat of some width with an error of its own, that close on round work."""

    def __init__(self, plan: PackingPlan, hands: Hands, rng: np.random.Generator, errors: tuple[float, ...]) -> None:
        super().__init__(plan, hands, rng)
        self.errors, self.shims = errors, dict.fromkeys(plan.holder.numbers, 0.0)
        self.wanted = -_at(plan.holder.jaw_deg(plan.throw_jaw)) * plan.throw_mm
        self.centre = self._closed()

    def _touch(self, centre: complex, angle_deg: float) -> float:
        """How far out a flat jaw stops: the farthest that any point of its face meets the circle."""
        radius, width = self.plan.part.diameter_mm / 2, self.plan.holder.jaw_width_mm
        c = centre * _at(-angle_deg)
        face = np.clip(np.linspace(-width / 2, width / 2, 401) - c.imag, -radius, radius)
        return float((c.real + np.sqrt(radius**2 - face**2)).max())

    def _closed(self) -> complex:
        """The centre at which all three jaws touch at one setting of the scroll."""
        numbers = self.plan.holder.numbers
        sign = -1 if self.plan.holder.numbering == "cw" else 1
        angles = [sign * (j - 1) * 120.0 for j in numbers]
        built = [self.errors[i] + self.shims[j] for i, j in enumerate(numbers)]

        def miss(p: np.ndarray) -> list[float]:
            centre = complex(p[0], p[1])
            return [b + self._touch(centre, a) - p[2] for a, b in zip(angles, built, strict=True)]

        found = least_squares(miss, [0.0, 0.0, self.plan.part.diameter_mm / 2], xtol=1e-12, ftol=1e-12, gtol=1e-12)
        return complex(found.x[0], found.x[1])

    def circle(self, ring: str) -> Circle:
        """The work."""
        return part_circle(self.plan, self.centre)

    def do(self, move: Move) -> None:
        """Open, put the shims in, grip again: it repeats as a scroll does."""
        self.shims = dict.fromkeys(self.plan.holder.numbers, 0.0)
        for act in move.acts:
            self.shims[act.jaw] = act.mm or 0.0
        s = self.hands.kick_scatter_mm
        self.centre = self._closed() + complex(self._rng.normal(0, s), self._rng.normal(0, s))
        self.tight = False

    @property
    def true_tir_mm(self) -> float:
        """Twice what it is off the wanted place."""
        return 2 * abs(self.centre - self.wanted)


class SimulatedReversal(Body):
    """Work that is gripped again in other rotations."""

    def __init__(
        self, plan: ReversalPlan, hands: Hands, rng: np.random.Generator, chuck: complex, work: complex
    ) -> None:
        super().__init__(plan, hands, rng)
        self.chuck, self.work, self.positions = chuck, work, plan.positions_deg
        s = hands.kick_scatter_mm
        self._slip = [complex(rng.normal(0, s), rng.normal(0, s)) for _ in plan.positions_deg]

    def circle(self, ring: str) -> Circle:
        """The work at the position of that ring."""
        i = int(ring[1:-1])
        return part_circle(self.plan, self.chuck + self.work * _at(self.positions[i]) + self._slip[i])

    @property
    def true_tir_mm(self) -> float:
        """What is the chuck's own."""
        return 2 * abs(self.chuck)


class SimulatedCollet(Body):
    """A bar in a collet in a taper: two axes, each through two points."""

    def __init__(
        self, plan: ColletPlan, hands: Hands, rng: np.random.Generator,
        spindle: tuple[complex, complex], collet: tuple[complex, complex],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.spindle, self.collet, self.positions = spindle, collet, plan.positions_deg
        self.deg = plan.positions_deg[0]

    def circle(self, ring: str) -> Circle:
        """The bar at the nose or far out, the collet at the ring's position or where it stands."""
        if ring[1:-1]:
            self.deg = self.positions[int(ring[1:-1])]
        plane = 0 if ring[0] == "n" else 1
        return part_circle(self.plan, self.spindle[plane] + self.collet[plane] * _at(self.deg))

    def do(self, move: Move) -> None:
        """Turn the collet to its mark, to half a degree or so."""
        self.deg = move.acts[0].at_deg + float(self._rng.normal(0, 0.5))
        self.tight = False

    def at(self, deg: float) -> float:
        """TIR of the worse plane at an angle of the collet."""
        return 2 * max(abs(s + c * _at(deg)) for s, c in zip(self.spindle, self.collet, strict=True))

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return self.at(self.deg)


class SimulatedShaft(Body):
    """A shaft whose axis is a polyline, on centres that do not run true, with journals turned as they were."""

    def __init__(
        self, plan: ShaftPlan, hands: Hands, rng: np.random.Generator, bend: complex, bend_z: float,
        ends: tuple[complex, complex], own: dict[int, complex],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.z, self.bend, self.bend_z, self.ends, self.own = plan.z_mm, bend, bend_z, ends, own

    def off(self, i: int) -> complex:
        """How far a journal's centre is off the line through the ends."""
        first, last, z = self.z[0], self.z[-1], self.z[i]
        rise = (z - first) / (self.bend_z - first) if z < self.bend_z else (last - z) / (last - self.bend_z)
        return self.bend * rise + self.own.get(i, 0j)

    def circle(self, ring: str) -> Circle:
        """The journal of that ring."""
        i = int(ring[1:-1])
        part = (self.z[i] - self.z[0]) / (self.z[-1] - self.z[0])
        return part_circle(self.plan, self.ends[0] * (1 - part) + self.ends[1] * part + self.off(i))

    def read(self, spot: Station | float) -> float | str:
        """The needle; or the swing of a whole turn, or the place where it was highest."""
        if not isinstance(spot, Station) or spot.reads == "needle":
            return super().read(spot)
        turn = np.arange(0.0, 360.0, 1.0)
        push = self.hands.push_reads
        seen = np.array([self.needle(float(a), spot.ring) * push for a in turn])
        if spot.reads == "degrees":
            high = float(turn[int(seen.argmax())] + self._rng.normal(0, 2.0))
            return f"{high % 360:.0f}"
        mark = self.plan.gauge.graduation_mm / 2
        return round(float(seen.max() - seen.min() + self._rng.normal(0, self.hands.noise_mm)) / mark) * mark

    @property
    def true_tir_mm(self) -> float:
        """The worst journal's."""
        return 2 * max(abs(self.off(i)) for i in range(1, len(self.z) - 1))


class SimulatedDowels(Body):
    """A housing whose bore goes where its two dowels put it; the arm that carries the gauge sags."""

    def __init__(self, plan: DowelPlan, hands: Hands, rng: np.random.Generator, bore: complex, sag_mm: float) -> None:
        super().__init__(plan, hands, rng)
        self.start, self.sag_mm, self.put = bore, sag_mm, 0j

    @property
    def centre(self) -> complex:
        """Where the bore's centre is."""
        return self.start + self.put

    def circle(self, ring: str) -> Circle:
        """The bore from inside; the true bar from outside. The arm's droop lowers the gauge, so both seem higher."""
        lifted = complex(0.0, self.sag_mm)
        if ring == "bar-":
            return Circle(lifted, 20.0, inside=False)
        return part_circle(self.plan, self.centre + lifted)

    def do(self, move: Move) -> None:
        """Both dowels alike: the housing shifts by their offset toward their mark, set to half a degree or so."""
        act = move.acts[0]
        self.put = (act.mm or 0.0) * _at(act.at_deg + float(self._rng.normal(0, 0.4)))
        self.tight = False

    @property
    def true_tir_mm(self) -> float:
        """See ``Body``."""
        return 2 * abs(self.centre)


class SimulatedHead(Body):
    """A plane under a head that turns about its pivots: heights over the table, in mm a mm."""

    def __init__(self, plan: TramPlan, hands: Hands, rng: np.random.Generator, slope: complex) -> None:
        super().__init__(plan, hands, rng)
        self.slope, self.height, self.radius = slope, 0.0, plan.part.diameter_mm / 2
        self.pivot = complex(plan.pivot_x_mm, plan.pivot_y_mm)

    def circle(self, ring: str) -> Circle:
        """There is none: the gauge runs on a plane."""
        raise AssertionError(ring)

    def nearness(self, at: complex, ring: str = "") -> float:
        """Height of the table under the gauge; along a square the quill's own lean."""
        if ring == "quill-":
            return 0.0
        spot = self.radius * _at(at.real)
        return self.height + self.slope.real * spot.real + self.slope.imag * spot.imag

    def _turned(self, slope: complex) -> tuple[complex, float]:
        """The table's height at the pivot stays when the head turns about it."""
        p = self.pivot
        at_pivot = self.height + self.slope.real * p.real + self.slope.imag * p.imag
        return slope, at_pivot - slope.real * p.real - slope.imag * p.imag

    def do(self, move: Move) -> None:
        """Turn the head's top away from the named side, until the needle stands at the aim."""
        way, start = -_at(move.acts[0].at_deg), (self.slope, self.height)

        def put(travel: float) -> None:
            self.slope, self.height = start
            self.slope, self.height = self._turned(start[0] + way * travel / self.radius)

        def needle(travel: float) -> float:
            put(travel)
            value = self.needle(move.watch_deg, "sweep-")
            self.slope, self.height = start
            return value

        put(self.travel_to_aim(move, needle) * self.hands.gain)
        self.tight = False

    def kicked(self, shift: complex) -> None:
        """Clamping turns the head a little."""
        self.slope += shift / self.radius

    @property
    def true_tir_mm(self) -> float:
        """Over the sweep."""
        return 2 * abs(self.slope) * self.radius


def simulated(plan: Plan, rng: np.random.Generator) -> Body:
    """A machine for any plan, with errors such as a shop may have."""
    limit = plan.limit.mm
    match plan:
        case TwoPlanesPlan():
            quirks = random_quirks(rng, plan, 0.6, 0.001)
            lean = _vector(rng, 0.0, 0.4) / plan.far_z_mm
            return SimulatedChuck(plan, replace(quirks, tilt=lean, push_far=int(rng.choice([-1, 1]))), rng)
        case RoughPlan():
            quirks = random_quirks(rng, plan, 12.0, limit / 3)
            face = _vector(rng, 0.5, 3.0)
            return SimulatedChuck(plan, replace(quirks, face=face, noise_mm=0.08, stop_mm=0.15), rng)
        case ThrowPlan():
            quirks = random_quirks(rng, plan, 1.5, 0.001)
            return SimulatedChuck(plan, replace(quirks, size_mm=(0.0, float(rng.uniform(-0.3, 0.3)))), rng)
        case FaceplatePlan():
            return SimulatedFaceplate(plan, random_hands(rng, plan), rng, _vector(rng, 0.1, 1.2))
        case AdjustablePlan():
            most = (plan.holder.clearance_mm or 0.3) * 0.8
            return SimulatedAdjustable(plan, random_hands(rng, plan, 0.002), rng, _vector(rng, 0.02, most))
        case ClockingPlan():
            hands = random_hands(rng, plan, 0.0)
            return SimulatedClocking(plan, hands, rng, _vector(rng, 0.01, 0.04), _vector(rng, 0.01, 0.04))
        case PackingPlan():
            hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.15, kick_scatter_mm=0.0005)
            errors = tuple(float(e) for e in rng.uniform(0, 0.12, 3))
            return SimulatedPacking(plan, _pushed(hands, rng), rng, errors)
        case ReversalPlan():
            hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.15, kick_scatter_mm=0.0005)
            return SimulatedReversal(plan, _pushed(hands, rng), rng, _vector(rng, 0, 0.06), _vector(rng, 0, 0.06))
        case ColletPlan():
            spindle = _vector(rng, 0, 0.006)
            collet = _vector(rng, 0.002, 0.01)
            out = (spindle + _vector(rng, 0, 0.004), collet + _vector(rng, 0, 0.006))
            return SimulatedCollet(plan, random_hands(rng, plan, 0.0), rng, (spindle, out[0]), (collet, out[1]))
        case ShaftPlan():
            return _random_shaft(plan, rng)
        case TramPlan():
            return SimulatedHead(plan, random_hands(rng, plan), rng, _vector(rng, 0.0005, 0.004))
        case DowelPlan():
            sizes = [p.mm for p in plan.stock.pieces]
            sag = float(rng.uniform(0, 0.02)) if plan.sag == "swept" else 0.0
            return SimulatedDowels(plan, random_hands(rng, plan, 0.0), rng, _vector(rng, 0.02, max(sizes)), sag)
        case EdgeBase() | CentrePlan() | HeightsPlan() | ColumnPlan():
            return simulated_mill(plan, rng)
        case _:
            return SimulatedChuck(plan, random_quirks(rng, plan), rng)


def _random_shaft(plan: ShaftPlan, rng: np.random.Generator) -> SimulatedShaft:
    """Straight, bent, or turned eccentric; on centres that run out a little."""
    kind = int(rng.integers(0, 3))
    bend = _vector(rng, 0.02, 0.1) if kind == 1 else 0j
    inner = range(1, len(plan.z_mm) - 1)
    own = {i: _vector(rng, 0.02, 0.06) for i in inner} if kind == 2 else {}
    place = float(rng.uniform(plan.z_mm[1], plan.z_mm[-2]))
    ends = (_vector(rng, 0, 0.003), _vector(rng, 0, 0.003))
    return SimulatedShaft(plan, random_hands(rng, plan, 0.0), rng, bend, place, ends, own)


def _pushed(hands: Hands, rng: np.random.Generator) -> Hands:
    return replace(hands, push_reads=int(rng.choice([-1, 1])))
