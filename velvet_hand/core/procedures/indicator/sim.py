"""An indicator with a hidden error along its travel, over known steps; a plan for it."""

from __future__ import annotations

import math

import numpy as np

from ...gauge import Gauge
from ...holders import SurfacePlate
from ...model import own
from ...plan.base import Workpiece
from ...readings import Station
from ...sim.body import Body, Hands
from ...sim.example import held, limit_mm, usual
from ...sim.sample import Sample
from ...units import Typed
from .plan import IndicatorPlan


class SimulatedIndicator(Body):
    """Shows too much or too little with the travel, swings once a turn of its gears, and hangs on the way back."""

    def __init__(
        self, plan: IndicatorPlan, hands: Hands, rng: np.random.Generator, *, scale: float, swing_mm: float, turn_mm: float, phase: float,
        hangs_mm: float, lifts_mm: float,
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.scale, self.swing_mm, self.turn_mm, self.phase = scale, swing_mm, turn_mm, phase
        self.hangs_mm, self.lifts_mm, self.travel_mm, self.steps = hangs_mm, lifts_mm, plan.travel_mm, plan.steps

    def off(self, x_mm: float) -> float:
        """How far it is off there, going out."""
        return self.scale * x_mm + self.swing_mm * math.sin(2 * math.pi * x_mm / self.turn_mm + self.phase)

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """Where it stands, and whether it comes back."""
        spot = own(spot, Station)
        return complex(spot.x_mm, spot.y_mm), spot.ring

    def nearness(self, at: complex, ring: str = "") -> float:
        """What it makes of a step."""
        lifted = float(self._rng.normal(0, self.lifts_mm)) if ring == "same-" else 0.0
        return at.real + self.off(at.real) + (self.hangs_mm if at.imag else 0.0) + lifted

    @property
    def true_tir_mm(self) -> float:
        """Range of its errors at the steps, both ways."""
        out = [self.off(self.travel_mm * k / self.steps) for k in range(self.steps + 1)]
        every = [*out, *(o + self.hangs_mm for o in out[:-1])]
        return max(every) - min(every)

    @property
    def blind_mm(self) -> float:
        """The largest of two dozen readings is a little too large."""
        return 3 * self.hands.noise_mm + self.plan.gauge.graduation_mm / 2


def example(seed: int) -> IndicatorPlan:
    """A plan by a number: every option comes round."""
    fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.8)
    plunger = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.01, travel_mm=10, turn_mm=1.0)
    lever = seed % 2 == 0
    steps = Workpiece.model_validate({"name": "steps", "diameter": Typed(text="0.5" if lever else "5", unit="mm")})
    kind = {
        "limit": limit_mm("0.006" if lever else "0.04", "shows"),
        "gauge": fine if lever else plunger,
        "part": steps,
    }
    base = usual(
        seed,
        holder=held(SurfacePlate, edge_mm=600, depth_mm=400),
        carrier="gauge_turns",
        view="tailstock",
        school="high_spot",
        **kind,
    )
    return IndicatorPlan(
        **base,
        against=("blocks", "head", "step")[seed // 2 % 3],
        steps=(10, 8)[seed // 4 % 2],
        known_mm=(0.0005, 0.0)[seed // 3 % 2],
        again=(6, 4)[seed // 5 % 2],
    )


def machine(plan: IndicatorPlan, rng: np.random.Generator) -> SimulatedIndicator:
    """New, worn or bent, about what it is asked to hold."""
    size, mark = plan.limit.mm, plan.gauge.graduation_mm
    hands = Hands(noise_mm=mark * 0.1, push_reads=int(rng.choice([-1, 1])))
    scale, swing, turn, phase, hangs = (
        float(rng.uniform(*b)) for b in ((-0.7, 0.7), (0, 0.35), (0.3, 1.5), (0, 6.3), (0, 0.3))
    )
    return SimulatedIndicator(
        plan, hands, rng, scale=scale * size / plan.travel_mm, swing_mm=swing * size, turn_mm=plan.travel_mm * turn, phase=phase,
        hangs_mm=hangs * size, lifts_mm=mark * 0.15,
    )  # fmt: skip


SAMPLES = (
    Sample(
        part="Gauge blocks, 47", size="0.5 mm", limit="0.006 mm", kind="shows", machine="slate", holder="slate-plate",
        gauge="lever-micron", unit="mm", days_ago=4.4, author="Ode", seed=76, reason="Known now; it goes to be cleaned.",
    ),
)  # fmt: skip
