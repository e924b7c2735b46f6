"""A machine that gives, comes back to its marks and turns a bar as its hidden errors have it, and a plan for it."""

from __future__ import annotations

import math

import numpy as np

from ...holders import Collet, MillHead
from ...readings import Station
from ...shop import Machine
from ...sim.body import Body, Circle, Hands, part_circle, pushed, vector
from ...sim.example import four_jaw_plan, held, limit_mm
from ...sim.sample import Sample
from .plan import MachinePlan


class SimulatedMachine(Body):
    """Play and backlash of its slides, scatter of its returns and of the arm, a spindle and a bar that run out."""

    def __init__(
        self, plan: MachinePlan, hands: Hands, rng: np.random.Generator, *, play: tuple[float, ...], returns: float, arm: float,
        backlash: float, spindle: complex, bar: complex,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.play, self.returns, self.arm, self.backlash = dict(zip("XYZ", play, strict=True)), returns, arm, backlash
        self.spindle, self.bar = spindle, bar

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """The bar by its angle; all else by the side it was pushed to, or comes from."""
        if isinstance(spot, Station) and spot.ring not in ("bar-", "over-"):
            return complex(spot.x_mm), spot.ring
        return super().spot(spot)

    def circle(self, ring: str) -> Circle:
        """The bar, as gripped or half over."""
        return part_circle(self.plan, self.spindle + (self.bar if ring == "bar-" else -self.bar))

    def nearness(self, at: complex, ring: str = "") -> float:
        """Where it stands this time."""
        side = at.real
        if ring.startswith("play"):
            return self.play[ring[4]] / 2 * side
        if ring == "back-":
            return self.backlash / 2 * side + float(self._rng.normal(0, self.returns))
        if ring == "arm-":
            return float(self._rng.normal(0, self.arm))
        return super().nearness(at, ring)

    @property
    def true_tir_mm(self) -> float:
        """Twice what 95 of 100 single readings come back within."""
        return 2 * 1.96 * math.hypot(self.returns, self.arm, self.hands.noise_mm)

    @property
    def blind_mm(self) -> float:
        """Few returns and fewer flicks know a scatter only roughly."""
        return 0.35 * self.true_tir_mm


def example(seed: int) -> MachinePlan:
    """A plan by a number: every axis and option comes round."""
    mill = seed % 2 == 0
    kind = "mill" if mill else "lathe"
    bar = four_jaw_plan(
        graduation_mm=0.001, travel_mm=0.8, holder=held(MillHead if mill else Collet), limit=limit_mm("0.012"),
        machine=Machine(id="m", name="Machine", kind="mill" if mill else "lathe", floor_mm=0.005),
    )  # fmt: skip
    axes = "XYZ" if kind == "mill" else "XZ"
    along = axes[seed // 2 % len(axes)]
    return MachinePlan.model_validate({**bar, "axes": axes, "along": along, "returns": (10, 6)[seed // 3 % 2]})


def machine(plan: MachinePlan, rng: np.random.Generator) -> SimulatedMachine:
    """Tight or worn, about what it is asked to hold."""
    spot = plan.limit.mm / 4 * float(rng.uniform(0.15, 1.2))
    share = float(rng.uniform(0.2, 0.98))
    hands = pushed(Hands(noise_mm=plan.gauge.graduation_mm * 0.1), rng)
    return SimulatedMachine(
        plan, hands, rng, play=tuple(float(p) for p in rng.uniform(0.002, 0.03, 3)), returns=spot * share,
        arm=spot * math.sqrt(1 - share**2), backlash=float(rng.uniform(0, 0.08)), spindle=vector(rng, 0, 0.01),
        bar=vector(rng, 0, 0.008),
    )  # fmt: skip


SAMPLES = (
    Sample(
        part="Test bar 20", size="20 mm", limit="0.02 mm", machine="heron", holder="heron-head", gauge="lever-micron",
        unit="mm", days_ago=6.8, author="Ode", seed=70,
    ),
    Sample(
        part="Test bar 20, after the gibs", size="20 mm", limit="0.02 mm", machine="heron", holder="heron-head",
        gauge="lever-micron", unit="mm", days_ago=2.1, author="Ode", seed=71, choices={"along": "Y"},
    ),
)  # fmt: skip
