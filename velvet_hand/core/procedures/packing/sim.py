"""Simulated machine of packing, and a plan for it."""

from __future__ import annotations

import numpy as np
from scipy.optimize import least_squares

from ...holders import ThreeJaw
from ...model import own
from ...move import Move, Shim
from ...sim.body import Body, Circle, Hands, at_deg, part_circle, pushed
from ...sim.by_hand import Control, drawer, nearest, thick
from ...sim.example import SHIMS, held, limit_mm, part_of, usual
from ...sim.sample import Sample
from .plan import PackingPlan


class SimulatedPacking(Body):
    """Three jaws on one scroll, each a flat of some width with an error of its own, that close on round work."""

    hides = ("errors",)

    plan: PackingPlan

    def __init__(self, plan: PackingPlan, hands: Hands, rng: np.random.Generator, errors: tuple[float, ...]) -> None:
        super().__init__(plan, hands, rng)
        self.errors, self.shims = errors, dict.fromkeys(plan.holder.numbers, 0.0)
        self.wanted = -at_deg(plan.holder.jaw_deg(plan.throw_jaw)) * plan.throw_mm
        self.center = self._closed()

    def _touch(self, center: complex, angle_deg: float) -> float:
        """How far out a flat jaw stops: the farthest that any point of its face meets the circle."""
        radius, width = self.plan.part.diameter_mm / 2, self.plan.holder.jaw_width_mm
        c = center * at_deg(-angle_deg)
        face = np.clip(np.linspace(-width / 2, width / 2, 401) - c.imag, -radius, radius)
        return float((c.real + np.sqrt(radius**2 - face**2)).max())

    def _closed(self) -> complex:
        """The center at which all three jaws touch at one setting of the scroll."""
        numbers = self.plan.holder.numbers
        sign = -1 if self.plan.holder.numbering == "cw" else 1
        angles = [sign * (j - 1) * 120.0 for j in numbers]
        built = [self.errors[i] + self.shims[j] for i, j in enumerate(numbers)]

        def miss(p: np.ndarray) -> list[float]:
            center = complex(p[0], p[1])
            return [b + self._touch(center, a) - p[2] for a, b in zip(angles, built, strict=True)]

        found = least_squares(miss, [0.0, 0.0, self.plan.part.diameter_mm / 2], xtol=1e-12, ftol=1e-12, gtol=1e-12)
        return complex(found.x[0], found.x[1])

    def circle(self, ring: str) -> Circle:
        """The work."""
        return part_circle(self.plan, self.center)

    def do(self, move: Move) -> None:
        """Open, put the shims in, grip again: it repeats as a scroll does."""
        self.shims = dict.fromkeys(self.plan.holder.numbers, 0.0)
        move = own(move, Shim)
        self.shims |= {p.number: p.mm for p in move.packets}
        self._gripped()

    def _gripped(self) -> None:
        """It comes back to nearly the same place."""
        s = self.hands.kick_scatter_mm
        self.center = self._closed() + complex(self._rng.normal(0, s), self._rng.normal(0, s))
        self.tight = False

    def posed(self) -> None:
        """See ``Body``."""
        self.center = self._closed()

    def lying(self, control: str) -> int:
        """See ``Body``."""
        return nearest(self._pieces(), self.shims[int(control.removeprefix("jaw"))])

    def _pieces(self) -> tuple[float, ...]:
        return drawer(self.plan.stock, 0.6)

    def controls(self) -> tuple[Control, ...]:
        """One shim of the drawer under each jaw."""
        choices = thick(self._pieces())
        return tuple(
            Control(
                id=f"jaw{n}", label=f"Shim at jaw {n}", kind="pick", at_deg=self.plan.holder.jaw_deg(n), choices=choices
            )
            for n in self.plan.holder.numbers
        )

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """Open, change what lies there, grip again."""
        self.shims[int(control.removeprefix("jaw"))] = self._pieces()[int(amount)]
        self._gripped()

    @property
    def astray(self) -> complex:
        """How far off the wanted place."""
        return self.center - self.wanted


def example(seed: int) -> PackingPlan:
    """A plan by a number: every orientation and option comes round."""
    outside = {"part": part_of(seed, "outside")}
    numbering = ("ccw", "cw")[(seed // 5) % 2]
    wide = (0.0, 12.0, 40.0)[seed % 3]
    three = held(ThreeJaw, numbering=numbering, jaw_width_mm=wide)
    throw = (0.0, 0.0, 2.0)[(seed // 3) % 3]
    limit = limit_mm("0.02") if not throw else limit_mm("0.015", "throw")
    return PackingPlan(
        **usual(seed, **outside, holder=three, limit=limit),
        stock=SHIMS,
        throw_mm=throw,
        throw_jaw=seed % 3 + 1,
    )


def machine(plan: PackingPlan, rng: np.random.Generator) -> SimulatedPacking:
    """Jaws that are not alike."""
    hands = Hands(noise_mm=plan.gauge.graduation_mm * 0.15, kick_scatter_mm=0.0005)
    errors = tuple(float(e) for e in rng.uniform(0, 0.12, 3))
    return SimulatedPacking(plan, pushed(hands, rng), rng, errors)


SAMPLES = (
    Sample(
        part="Ink key spindle", size="36 mm", limit="0.025 mm", machine="bramble", holder="three-jaw-160", gauge="lever-fine",
        stock="shim-tin", days_ago=7.5, author="Ode", seed=25,
    ),
)  # fmt: skip
