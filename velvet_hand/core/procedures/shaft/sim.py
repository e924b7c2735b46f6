"""Simulated machine of shaft, and a plan for it."""

from __future__ import annotations

import numpy as np

from ...holders import Centres
from ...readings import Station
from ...sim.body import Body, Circle, Hands, part_circle, random_hands, vector
from ...sim.example import held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import ShaftPlan


class SimulatedShaft(Body):
    """A shaft whose axis is a polyline, on centers that do not run true, with journals turned as they were."""

    def __init__(
        self, plan: ShaftPlan, hands: Hands, rng: np.random.Generator, bend: complex, bend_z: float,
        ends: tuple[complex, complex], own: dict[int, complex],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.z, self.bend, self.bend_z, self.ends, self.own = plan.z_mm, bend, bend_z, ends, own

    def off(self, i: int) -> complex:
        """How far a journal's center is off the line through the ends."""
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
        mark = self.plan.gauge.graduation_mm * self.hands.reads_to
        return round(float(seen.max() - seen.min() + self._rng.normal(0, self.hands.noise_mm)) / mark) * mark

    @property
    def true_tir_mm(self) -> float:
        """The worst journal's."""
        return 2 * max(abs(self.off(i)) for i in range(1, len(self.z) - 1))

    @property
    def blind_mm(self) -> float:
        """Centers that run out, and swings by hand."""
        return 0.006


def example(seed: int) -> ShaftPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    centers = held(Centres, longest_mm=1500)
    plan = usual(seed, **outside, holder=centers, limit=limit_mm("0.03"))
    return ShaftPlan(**plan, z_mm=(10, 110, 200, 290, 390, 480), noted=("all", "high")[(seed // 4) % 2])


def machine(plan: ShaftPlan, rng: np.random.Generator) -> SimulatedShaft:
    """Straight, bent, or turned eccentric; on centers that run out a little."""
    kind = int(rng.integers(0, 3))
    bend = vector(rng, 0.02, 0.1) if kind == 1 else 0j
    inner = range(1, len(plan.z_mm) - 1)
    own = {i: vector(rng, 0.02, 0.06) for i in inner} if kind == 2 else {}
    place = float(rng.uniform(plan.z_mm[1], plan.z_mm[-2]))
    ends = (vector(rng, 0, 0.003), vector(rng, 0, 0.003))
    return SimulatedShaft(plan, random_hands(rng, plan, 0.0), rng, bend, place, ends, own)


SAMPLES = (
    Sample(
        part="Delivery shaft", size="32 mm", limit="0.03 mm", machine="wren", holder="centres", gauge="lever-fine",
        days_ago=3.5, author="Wilf", seed=51,
        choices={"stations_deg": (0.0, 45.0, 90.0, 135.0, 180.0, 225.0, 270.0, 315.0), "z_mm": (12.0, 130.0, 240.0, 330.0, 450.0, 560.0)},
        reason="Bent, as found. It is not run; it goes to be straightened or replaced.", picture="shaft",
    ),
)  # fmt: skip
