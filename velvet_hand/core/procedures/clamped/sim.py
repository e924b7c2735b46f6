"""A part that a vise lifts, bends and twists as it closes, and a plan for it."""

from __future__ import annotations

import re

import numpy as np

from ...gauge import Gauge
from ...holders import Vise
from ...model import own
from ...move import Move, Seat, Shim
from ...plan.base import Workpiece
from ...shop import Machine
from ...sim.body import Hands, WrongWay, pushed, watched
from ...sim.by_hand import Control, Option, Packets, nearest
from ...sim.example import FINE_SHIMS, held, limit_mm, usual
from ...sim.sample import Sample
from ...sim.table import OnTheTable
from ...units import Typed
from ...wording import plain
from .plan import ClampedPlan

#: What is left of a lift after the hammer, and of one that a round bar takes the turning from.
STRUCK, BARRED = 0.12, 0.06

#: How hard a vise is closed by hand.
FORCES = ((1.0, "as hard as it goes"), (0.5, "half as hard"), (0.25, "a quarter"), (0.125, "just held"))


class SimulatedClamped(OnTheTable):
    """Two parallels, a moving jaw that lifts what it presses, and a part that bends: ``lift`` and ``bend`` at full force.

    ``turns``: the lift that comes back under the hammer, for the jaw turns the part; ``end`` lifts at one end, as on a chip.
    """

    hides = ("lift", "bow", "twist")

    def __init__(
        self, plan: ClampedPlan, hands: Hands, rng: np.random.Generator, *, lift: float, turns: float, end: float, bow: float,
        twist: float, parallels: float, top: tuple[float, float],
    ) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.clamped, self.lift, self.turns, self.end, self.bow, self.twist = plan, lift, turns, end, bow, twist
        self.parallels, self.top, self.packets = parallels, top, Packets(plan.stock)
        self.force, self.bar, self.up, self.shims = 1.0, False, 1.0, [0.0, 0.0]

    def free(self, u: float, v: float) -> float:
        """Height of the top as it lies on its parallels."""
        part = v / self.clamped.depth_mm
        return (
            self.parallels * part
            + self.shims[0] * (1 - part)
            + self.shims[1] * part
            + self.top[0] * u
            + self.top[1] * v
        )

    def change(self, u: float, v: float) -> float:
        """What the vise does to it there."""
        x, y = u / self.clamped.length_mm, v / self.clamped.depth_mm
        turned = self.turns * (BARRED if self.bar else 1.0)
        chip = abs(self.end) * self.up * (x if self.end > 0 else 1 - x)
        lifted = (self.lift * self.up + turned) * y + chip
        bent = self.bow * (1 - (2 * x - 1) ** 2) + self.twist * (2 * x - 1) * (2 * y - 1) / 2
        return self.force * (lifted + bent)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The gauge looks down on its top."""
        return self.free(at.real, at.imag) + (self.change(at.real, at.imag) if ring == "held-" else 0.0)

    def do(self, move: Move) -> None:
        """What the sentence says, in the hand that hears it."""
        said = plain(move.sentence, "mm", 0.0005)
        if isinstance(move, Shim):
            thick = re.search(r"Put ([\d.]+) mm under the parallel at the (fixed|moving) jaw", said)
            assert thick is not None, said
            self.shims = [0.0, 0.0]
            self.shims[thick[2] == "moving"] = float(thick[1])
            self.up = 1.0
            return
        move = own(move, Seat)
        if "round bar" in said or "half the force" in said:
            self.bar, self.force = self.bar or "round bar" in said, self.force / (2 if "half the force" in said else 1)
            self.up = STRUCK
            return
        assert "soft hammer" in said, said
        needle = watched(move)
        u, v = next(p for p in self.clamped.places if self.clamped.place_name(*p) == needle.label)
        assert needle.label.split(",")[0] in said, said
        before, up = self.needle(complex(u, v), "held-"), self.up
        self.up = STRUCK
        if (
            abs(self.needle(complex(u, v), "held-") - (needle.aim_mm or 0.0))
            > abs(before - (needle.aim_mm or 0.0)) + 1e-9
        ):
            self.up = up
            if abs(before - (needle.aim_mm or 0.0)) > 4 * self.plan.gauge.graduation_mm:
                raise WrongWay(f"{move.id}: the hammer takes the needle away from its aim")

    def controls(self) -> tuple[Control, ...]:
        """How hard it is clamped, a round bar, the soft hammer, and shims under the parallels."""
        force = tuple(Option(id=f"{part:g}", words=words) for part, words in FORCES)
        bar = (Option(id="none", words="none"), Option(id="bar", words="between moving jaw and part"))
        parallels = ("parallel at the fixed jaw", "parallel at the moving jaw")
        return (
            Control(id="hammer", label="Part, along the moving jaw", kind="tap"),
            Control(id="force", label="Vise", kind="pick", choices=force),
            Control(id="bar", label="Round bar", kind="pick", choices=bar),
            *self.packets.controls(parallels, "Under the"),
        )

    def lying(self, control: str) -> int:
        """See ``Body``."""
        if control == "force":
            return nearest(tuple(part for part, _ in FORCES), self.force)
        if control == "bar":
            return int(self.bar)
        return self.packets.lying(control, self.shims)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A blow brings it down by half and more; who clamps it again strikes it down as before."""
        if control == "hammer":
            self.up = max(STRUCK, self.up * (0.15 if amount > 1 else 0.4))
            return
        self.tight = False
        if control == "force":
            self.force = FORCES[int(amount)][0]
        elif control == "bar":
            self.bar = bool(amount)
        else:
            self.packets.put(control, amount, self.shims)

    @property
    def astray(self) -> complex:
        """What the top comes out."""
        return complex(self.true_tir_mm)

    def tighten(self) -> None:
        """Clamped for the cut the way it was found, and struck down."""
        self.up, self.tight = STRUCK, True

    @property
    def true_tir_mm(self) -> float:
        """What the top comes out, over the places."""
        known = self.clamped.top == "true"
        z = [self.change(u, v) + (self.free(u, v) if known else 0.0) for u, v in self.clamped.places]
        return max(z) - min(z)


def example(seed: int) -> ClampedPlan:
    """A plan by a number: every side of the fixed jaw, both kinds of top, two to four places an edge."""
    gauge = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.5)
    true = seed // 4 % 2 == 1
    return ClampedPlan(
        **usual(
            seed, holder=held(Vise, edge_mm=160, depth_mm=110), carrier="gauge_turns", view="tailstock", school="high_spot",
            limit=limit_mm("0.02", "parallel"), gauge=gauge,
            part=Workpiece(name="plate", diameter=Typed(text="140", unit="mm")),
            machine=Machine(id="m", name="Mill", kind="mill", floor_mm=0.002),
        ),
        depth_mm=70, fixed=("back", "front", "left", "right")[seed % 4], columns=(3, 2, 4)[seed // 8 % 3],
        top="true" if true else "rough", stock=FINE_SHIMS if true else None,
    )  # fmt: skip


def machine(plan: ClampedPlan, rng: np.random.Generator) -> SimulatedClamped:
    """Lifted by a tired jaw, bent a little, on parallels that differ where that can be seen."""
    size = plan.limit.mm
    true = plan.top == "true"
    hands = pushed(Hands(noise_mm=plan.gauge.graduation_mm * 0.1), rng)
    return SimulatedClamped(
        plan, hands, rng, lift=float(rng.uniform(0, 2.5)) * size, turns=float(rng.choice([0, 0, 1.2])) * size,
        end=float(rng.choice([0, 1, -1])) * float(rng.uniform(0, 1)) * size, bow=float(rng.uniform(-0.45, 0.45)) * size,
        twist=float(rng.uniform(-0.3, 0.3)) * size, parallels=float(rng.uniform(-1.5, 1.5)) * size if true else 0.0,
        top=(0.0, 0.0) if true else (float(rng.normal(0, 4e-4)), float(rng.normal(0, 4e-4))),
    )  # fmt: skip


SAMPLES = (
    Sample(
        part="Frisket hinge plate", size="150 mm", limit="0.02 mm", kind="parallel", machine="heron", holder="vise-160",
        gauge="lever-micron", unit="mm", days_ago=2.8, author="Tamsin", seed=80, choices={"depth_mm": 70.0, "columns": 3},
    ),
)  # fmt: skip
