"""Simulated machine of a tailstock, and a plan for it."""

from __future__ import annotations

import math
from dataclasses import replace
from typing import Any

import numpy as np

from ...gauge import Gauge
from ...holders import Centres
from ...model import own
from ...move import Move, Shim, Slide
from ...plan.base import Workpiece
from ...readings import Station
from ...sim.body import Body, Hands, Truth, random_hands, watched
from ...sim.by_hand import TIGHT, Control, Packets
from ...sim.example import FINE_SHIMS, held, limit_mm, usual
from ...sim.sample import Sample
from ...sim.table import stacks
from ...units import Typed
from ...wording import plain
from .plan import TailstockPlan


class SimulatedTailstock(Body):
    """A tailstock on two feet: its point stands beside the spindle’s axis and high or low, its quill leans; a bar that is bent and
    tapered hangs between the centers. Complex: toward the person, and up.
    """

    hides = ("point", "lean")

    def __init__(
        self,
        plan: TailstockPlan,
        hands: Hands,
        rng: np.random.Generator,
        *,
        point: complex,
        lean: complex,
        bow: complex,
        high: bool,
    ) -> None:
        super().__init__(plan, hands, rng)
        self.stock, self.point, self.lean, self.bow = plan, point, lean, bow
        self.curable = not high  # one that stands high stays high
        self.feet, self.packets = (0.0, 0.0), Packets(plan.stock)
        self.turned = 1.0

    @property
    def raised(self) -> tuple[float, float]:
        """How far shims lift its point, and tip its quill up toward its end."""
        front, back = self.feet
        tips = (front - back) / self.stock.base_mm
        return front + tips * self.stock.out_mm, tips

    @property
    def tip(self) -> complex:
        """Where its point stands."""
        return self.point + 1j * self.raised[0]

    def sag(self, x: float) -> float:
        """A steel bar by its own weight, integrated twice."""
        plan, n = self.stock, 600
        step = plan.between_mm / n
        load = 7850e-9 * 9.81 * math.pi * plan.bar_mm**2 / 4
        stiff = 206_000.0 * math.pi * plan.bar_mm**4 / 64
        middle = (np.arange(n) + 0.5) * step
        bends = load * middle * (plan.between_mm - middle) / 2 / stiff
        slope = np.cumsum(bends) * step
        deflects = np.cumsum(slope) * step
        sunk = np.interp(x, middle + step / 2, deflects - deflects[-1] * (middle + step / 2) / plan.between_mm)
        return float(-sunk)

    def spot(self, spot: Station | float) -> tuple[float | complex, str]:
        """A place along the bar or quill."""
        spot = own(spot, Station)
        return complex(spot.x_mm, 0.0), spot.ring

    def nearness(self, at: complex, ring: str = "") -> float:
        """The side or top of bar or quill."""
        plan, x = self.stock, at.real
        side = -1.0 if plan.gauge_at == "back" else 1.0
        if ring.startswith("quill"):
            lean = complex(self.lean.real, self.lean.imag + self.raised[1])
            return x * (side * lean.real if "side" in ring else lean.imag)
        axis = self.tip * x / plan.between_mm
        own = self.bow * math.sin(math.pi * x / plan.between_mm / 1.5) * (-1.0 if ring.endswith("over") else 1.0)
        first, last = plan.spots_mm[0], plan.spots_mm[-1]
        thick = plan.thicker_mm / 2 * (x - first) / (last - first)
        where = axis + own
        return (side * where.real if ring.startswith("side") else where.imag - self.sag(x)) + thick

    def needle(self, at: complex, ring: str = "") -> float:
        """The dial; or a collar’s diameter, cut by a tool that stood still on its own side."""
        if self.stock.by == "bar":
            return super().needle(at, ring)
        side = -1.0 if self.stock.gauge_at == "back" else 1.0
        return 40.0 - 2 * side * self.tip.real * at.real / self.stock.between_mm

    def do(self, move: Move) -> None:
        """Shims under both feet as the sentence says, or its screws until the needle stands at the aim."""
        said = plain(move.sentence, "mm", 0.0005)
        self.tight = False
        if isinstance(move, Shim):
            front, back = said.split("under its front foot")
            self.feet = (sum(stacks(front)), sum(stacks(back)))
            self.point += complex(float(self._rng.normal(0, 0.01)), 0.0)
            return
        move = own(move, Slide)
        way = 1.0 if "toward you" in said else -1.0
        start = self.point
        if self.stock.by == "collars":
            self.point = start + way * abs(move.near_mm) * float(self._rng.normal(1, 0.02))
            return

        def put(travel: float) -> None:
            self.point = start + way * travel

        put(self.travel_to_aim(move, put, self._watched(move).ring) * float(self._rng.normal(1.0, 0.02)))

    def _watched(self, move: Move) -> Station:
        return next(s for s in self._spots() if s.id == watched(move).station_id)

    def watches(self, move: Move) -> complex:
        """See ``Body``: a place along the bar."""
        return complex(self._watched(move).x_mm)

    def controls(self) -> tuple[Control, ...]:
        """Its set-over screws, one eased as the other is tightened, and shims under its feet."""
        over = Control(
            id="over", label="Set-over screws", kind="key", more="toward you", less="away from you", step_mm=0.002, turn_deg=0.5
        )  # fmt: skip
        return (over, *self.packets.controls(("front foot", "back foot"), "Under the"))

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return self.packets.lying(control, self.feet)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """The screws, or a shim: it is lifted for that, and comes down a little beside."""
        if control == "over":
            self.point += amount * (TIGHT if self.tight else 1.0)
            self.tight = self.tight and held
            return
        feet = list(self.feet)
        self.packets.put(control, amount, feet)
        self.feet, self.tight = (feet[0], feet[1]), False
        self.point += complex(float(self._rng.normal(0, 0.01)), 0.0)

    @property
    def astray(self) -> complex:
        """Where its point stands beside the axis."""
        return complex(self.tip.real)

    def _spots(self) -> tuple[Station, ...]:
        from .procedure import PROCEDURE

        return PROCEDURE.stations(self.stock)

    def kicked(self, shift: complex) -> None:
        """Clamping draws it to a side, and a hair down."""
        self.point += complex(shift.real, 0.1 * shift.imag)

    @property
    def true_tir_mm(self) -> float:
        """Off at the side over the limit’s length."""
        return abs(self.tip.real) / self.stock.between_mm * self.stock.limit_length_mm

    @property
    def best_tir_mm(self) -> float:
        """See ``Body``."""
        return 0.0 if self.curable else math.inf

    @property
    def truths(self) -> tuple[Truth, ...]:
        """The side and, by a bar, the height."""
        height = abs(self.tip.imag - self.stock.high_mm) / self.stock.between_mm * self.stock.limit_length_mm
        return (*super().truths, *((Truth("height", height, self.plan.limit.mm),) if self.stock.by == "bar" else ()))


MICROMETER = Gauge(id="mic", name="Micrometer", kind="micrometer", graduation_mm=0.001, travel_mm=50, tip_radius_mm=0)


def example(seed: int) -> TailstockPlan:
    """A plan by a number: every orientation and option comes round."""
    collars = seed % 4 == 3
    lever = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1.0)
    kind, typed = (("over_part", "0.012"), ("over_length", "0.02"))[seed // 2 % 2]
    own: dict[str, Any] = {
        "holder": held(Centres, longest_mm=1000), "gauge": MICROMETER if collars else lever, "school": "high_spot", "view": "tailstock",
        "limit": limit_mm(typed, kind), "part": Workpiece(name="Roller", diameter=Typed(text="200", unit="mm")), "carrier": "work_turns",
    }  # fmt: skip
    return TailstockPlan(
        **usual(seed, **own),
        by="collars" if collars else "bar",
        between_mm=(300.0, 420.0)[seed % 2],
        spots_mm=((), (40.0, 160.0, 250.0))[seed // 3 % 2],
        thicker_mm=(0.0, 0.008, -0.006)[seed % 3],
        gauge_at=("front", "back")[seed // 4 % 2],
        high_mm=(0.0, 0.01)[seed // 5 % 2],
        quill_mm=(0.0, 60.0)[seed // 6 % 2],
        stock=FINE_SHIMS,
    )


def machine(plan: TailstockPlan, rng: np.random.Generator) -> SimulatedTailstock:
    """A tailstock some hundredths off, low unless somebody raised it."""
    high = plan.by == "bar" and float(rng.random()) < 0.12
    up = float(rng.uniform(0.06, 0.1)) if high else -float(rng.uniform(0.0, 0.12))
    lean = complex(float(rng.normal(0, 2e-4)), float(rng.uniform(-4e-4, 4e-4))) if plan.quill_mm else 0j
    hands = replace(random_hands(rng, plan, 0.006), gain=1.0)
    return SimulatedTailstock(
        plan, hands, rng, point=complex(float(rng.choice([-1, 1]) * rng.uniform(0.02, 0.25)), up), lean=lean,
        bow=complex(float(rng.normal(0, 0.01)), float(rng.normal(0, 0.01))), high=high,
    )  # fmt: skip


SAMPLES = (
    Sample(
        part="Impression roller, parallel", size="400 mm", limit="0.01 mm", kind="over_part", machine="bramble", holder="centres",
        gauge="lever-micron", stock="fine-shims", unit="mm", days_ago=3.4, author="Tamsin", seed=73,
        choices={"between_mm": 420.0},
    ),
)  # fmt: skip
