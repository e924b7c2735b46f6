"""Simulated machine of column, and a plan for it."""

from __future__ import annotations

import cmath
import math
import re
from typing import Any

import numpy as np
from scipy.optimize import linprog

from ...gauge import Gauge
from ...holders import Column
from ...model import own
from ...move import Move, Shim, TapRound
from ...readings import Station
from ...sim.body import Body, Circle, Hands, Truth, at_deg, part_circle, random_hands
from ...sim.by_hand import Control, Packets, blows, struck_deg
from ...sim.example import FINE_SHIMS, held, limit_mm, part_of, usual
from ...sim.sample import Sample
from ...sim.table import named_shims, stacks
from ...wording import plain
from .plan import ColumnPlan


class SimulatedColumn(Body):
    """A rotary axis, a column that leans on its flange and is out of center, and a tailstock that stands beside the axis."""

    hides = ("axis", "offset")

    def __init__(
        self, plan: ColumnPlan, hands: Hands, rng: np.random.Generator, *, axis: tuple[float, float], bar: tuple[float, float],
        offset: complex, own: complex, seat: complex, tail: complex, softness: float,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.column, self.axis, self.bar_lean = plan, list(axis), bar
        self.offset, self.own, self.seat0, self.tail, self.softness = offset, own, seat, tail, softness
        self.shims, self.packets = [0.0] * plan.bolts, Packets(plan.stock)
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
        """The bar on top or at the side; the flange's face; the far end pushed by the center; or a circle."""
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
        """What the gauge sees of a push at the center: by tipping, by bending, or some of both."""
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
            lift = sum(stacks(said)) / self.column.foot_mm
            self.axis[0] += lift if "front" in said else -lift
        elif "rotary’s base" in said:
            self._swing(move, 1.0 if "toward you" in said else -1.0)
        elif "Under the flange" in said:
            thick = named_shims(said)
            self.shims = [thick.get(f"bolt {n}", 0.0) for n in range(1, self.column.bolts + 1)]
        elif "Move the tailstock" in said:
            parts = re.findall(r"(up|down|toward you|away from you) by ([\d.]+)", said)
            way = {"up": 1j, "down": -1j, "toward you": 1 + 0j, "away from you": -1 + 0j}
            self.tail += sum(way[word] * float(mm) for word, mm in parts) * float(self._rng.normal(1, 0.03))
        else:
            self._bump(move)

    def _swing(self, move: Move, toward: float) -> None:
        start, self.named = self.axis[1], "bar-side-far-180"

        def put(travel: float) -> None:
            self.axis[1] = start + toward * travel / self.column.bar_far_mm

        put(self.travel_to_aim(move, put, "bar-") * self.hands.gain)

    def _bump(self, move: Move) -> None:
        """A blow at the flange slides the whole column."""
        move = own(move, TapRound)
        ring = "far-" if "needle at the far end" in plain(move.sentence, "mm", 0.001) else "flange-"
        blow, start = -cmath.rect(1.0, math.radians(move.at_deg)), self.offset

        def put(travel: float) -> None:
            self.offset = start + blow * travel

        put(self.travel_to_aim(move, put, ring) * self.hands.gain)

    def controls(self) -> tuple[Control, ...]:
        """A soft hammer round the flange, and shims at its bolts."""
        bolts = (f"at bolt {n}" for n in range(1, self.column.bolts + 1))
        return (blows("Flange"), *self.packets.controls(bolts))

    def in_hand(self, move: Move) -> bool:
        """See ``Body``: the flange alone; rotary and tailstock are done as it is said."""
        return isinstance(move, TapRound) or (isinstance(move, Shim) and move.packets[0].name.startswith("bolt"))

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return self.packets.lying(control, self.shims)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A blow, or a shim."""
        if not self.packets.put(control, amount, self.shims):
            self.offset -= at_deg(struck_deg(control)) * self.blow_mm(amount) * self.hands.gain
        self.tight = False

    @property
    def astray(self) -> complex:
        """Where the far end's center stands."""
        return self.circle("far-").center

    def kicked(self, shift: complex) -> None:
        """Tightening drags it a little."""
        self.offset += shift

    @property
    def pushed_mm(self) -> float:
        """What the tailstock does at the gauge, the worse of its two ways."""
        return max(abs(self.tail.real), abs(self.tail.imag)) * self.influence

    @property
    def truths(self) -> tuple[Truth, ...]:
        """The far end, and what the tailstock pushes it."""
        pushed = (Truth("pushed", self.pushed_mm, self.plan.limit.off_centre_mm),) if self.column.tail == "yes" else ()
        return (*super().truths, *pushed)


def example(seed: int) -> ColumnPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside", "ground")}
    vise = held(Column, edge_mm=260)
    lever = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.8)
    kind = {
        "holder": vise,
        "limit": limit_mm("0.02"),
        "gauge": lever,
        "school": "high_spot",
        "gauge_clock_deg": 90.0,
    }
    more: dict[str, Any] = {
        "face_radius_mm": (0.0, 55.0)[seed // 3 % 2],
        "tail": ("yes", "no")[seed % 5 == 4],
        "bar": ("no", "yes")[seed // 2 % 2],
    }
    return ColumnPlan(
        **usual(seed, **{**outside, **kind, "carrier": "work_turns", "view": "tailstock"}),
        stock=FINE_SHIMS,
        far_z_mm=(250.0, 230.0)[seed % 2],
        gives=("tips", "bends", "between")[seed % 3],
        sag_mm=(0.0, 0.012)[seed // 4 % 2],
        bolts=(3, 4)[seed // 5 % 2],
        bar_taper_mm=(0.0, 0.006)[seed // 6 % 2],
        **more,
    )


def machine(plan: ColumnPlan, rng: np.random.Generator) -> SimulatedColumn:
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


SAMPLES = (
    Sample(
        part="Gripper column", size="60 mm", limit="0.03 mm", machine="heron", holder="column-260", gauge="lever-micron",
        stock="fine-shims", unit="mm", days_ago=0.9, author="Tamsin", seed=68,
        choices={"far_z_mm": 250.0, "face_radius_mm": 50.0},
    ),
)  # fmt: skip
