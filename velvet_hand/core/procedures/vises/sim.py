"""Simulated machine of vises, and a plan for it."""

from __future__ import annotations

import cmath
import math
from collections.abc import Callable
from dataclasses import replace

import numpy as np

from ...holders import VisePair
from ...model import own
from ...move import Move, Shim, Stage, Tap
from ...sim.body import Hands, Truth, random_hands
from ...sim.by_hand import Control
from ...sim.example import FINE_SHIMS, edge_usual, held, limit_mm
from ...sim.sample import Sample
from ...sim.table import OnTheTable, Pose, said_way, stacks, touch
from ...wording import plain
from .plan import VisePairPlan


class SimulatedPair(OnTheTable):
    """Two vises (or a vise and a stop), each a rigid body; a bar through both makes them one until it is out."""

    hides = ("poses",)

    def __init__(self, plan: VisePairPlan, hands: Hands, rng: np.random.Generator, turns: tuple[float, float], step: float,
                 kicks: tuple[float, float], bed: float) -> None:  # fmt: skip
        super().__init__(plan, hands, rng)
        self.pair, self.kick_turns, self.bed = plan, kicks, bed
        square = cmath.phase(plan.edge_way) + math.radians(plan.target_deg)
        along = cmath.exp(1j * square)
        self.poses = [
            Pose(0j, square).turned(0j, turns[0]),
            Pose(plan.apart_mm * along + step * plan.gauge_way, square).turned(0j, turns[1]),
        ]
        self.under = [0.0, 0.0]
        self.square, self.bar = square, plan.bar == "through"

    def _seen(self, point: complex) -> complex:
        return complex((point / self.pair.edge_way).real, (point / self.pair.gauge_way).real)

    def nearness(self, at: complex, ring: str = "") -> float:
        """The jaw that lies at that place along the travel; or a bed from above."""
        second = at.real >= self.pair.apart_mm - 1
        if ring == "bed-":
            return (self.bed if second else 0.0) + self.under[second]
        return touch(lambda x: self._seen(self.poses[second].place(complex(x, 0.0))), at.real)

    @property
    def _names(self) -> tuple[str, str]:
        return ("left vise", "right vise") if self.pair.lies == "across" else ("front vise", "back vise")

    @property
    def _ends(self) -> tuple[str, str]:
        return ("left end", "right end") if self.pair.lies == "across" else ("front end", "back end")

    def _bolts(self) -> tuple[complex, complex]:
        """The outer bolts on the table, as they are now; the hands’ guess is some millimeters out."""
        low, high = self.pair.holder.pins_mm
        off = complex(float(self._rng.normal(0, 3)), float(self._rng.normal(-30, 5)))
        return self.poses[0].place(low + off), self.poses[1].place(high + off)

    def do(self, move: Move) -> None:
        """The bar out, shims, a tap at a named corner of a named vise, or the whole of it slid."""
        said = plain(move.sentence, "mm", 0.0005)
        told = said.lower()
        self.tight = False
        which = 1 if self._names[1] in told or "stop" in told else 0
        if "the bar out" in said:
            self.bar = False
            for i, about in enumerate(self._bolts()):
                self.poses[i] = self.poses[i].turned(about, float(self._rng.normal(0, 0.0001)))
            return
        if "whole base" in said:
            self.under = [0.0, 0.0]
            self.under[which] = sum(stacks(said))
            return
        move = own(move, Tap)
        slid = "Slide" in said
        x_mm = move.x_mm - (self.pair.apart_mm if which else 0.0)
        pushed = self._struck(which, None if slid else x_mm, said_way(move))

        def put(travel: float) -> None:
            self.poses = pushed(travel)

        self._swung(which, slid, pushed, self.travel_to_aim(move, put, most_mm=12.0))

    def _struck(self, which: int, x_mm: float | None, push: complex) -> Callable[[float], list[Pose]]:
        """Where both lie after a push at a place along one's jaw (None: it is slid as a whole); a bar through both turns both."""
        start, bolts = list(self.poses), self._bolts()
        about = bolts[0 if self.pair.hinge == "low" else 1] if self.bar else bolts[which]
        moved = (0, 1) if self.bar else (which,)
        turns = ((start[which].place(complex(x_mm or 0.0, 0.0)) - about).conjugate() * push).imag

        def pushed(travel: float) -> list[Pose]:
            by = math.copysign(travel / max(abs(turns), 5.0), turns)
            return [
                p if i not in moved else p.shifted(push * travel) if x_mm is None else p.turned(about, by)
                for i, p in enumerate(start)
            ]

        return pushed

    def _swung(self, which: int, slid: bool, pushed: Callable[[float], list[Pose]], travel: float) -> None:
        """They spring back a little; one that is slid turns a little too."""
        self.poses = pushed(travel * self.hands.gain)
        if slid:
            turned = float(self._rng.normal(0, 0.05)) * travel / self.pair.edge_mm
            self.poses[which] = self.poses[which].turned(self._bolts()[which], turned)
        self.tight = False

    def controls(self) -> tuple[Control, ...]:
        """A soft hammer at either end of each, and at its middle: that slides the whole of it."""
        ways = (("away", "away"), ("toward", "toward"))
        return tuple(
            Control(id=f"{which}.{where}.{way}", label=f"{name.capitalize()}, {part}, {words}", kind="tap")
            for which, name in enumerate(self._names)
            for where, part in (("low", self._ends[0]), ("high", self._ends[1]), ("whole", "slid whole"))
            for way, words in ways
            if not (self.bar and where == "whole")
        )

    def in_hand(self, move: Move) -> bool:
        """See ``Body``: the hammer; bar and shims as it is said."""
        return not isinstance(move, Shim | Stage)

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """One blow, toward the indicator or away from it."""
        which, where, way = control.split(".")
        n, push = int(which), self.pair.gauge_way * (1 if way == "toward" else -1)
        x_mm = None if where == "whole" else (0.06 if where == "low" else 0.94) * self.pair.edge_mm
        self._swung(n, x_mm is None, self._struck(n, x_mm, push), self.blow_mm(amount))

    @property
    def astray(self) -> complex:
        """How far the first is turned beyond what is wanted, and the second, over their jaws."""
        first, second = (math.tan(pose.turn - self.square) * self.pair.edge_mm for pose in self.poses)
        return complex(first, second)

    def kicked(self, shift: complex) -> None:
        """Pulling the nuts turns each about its bolt, and shifts both alike."""
        for i, about in enumerate(self._bolts()):
            self.poses[i] = (
                self.poses[i].turned(about, self.kick_turns[i] + float(self._rng.normal(0, 3e-6))).shifted(shift)
            )

    @property
    def true_tir_mm(self) -> float:
        """Range of both jaws' ends about the wanted line."""
        plan = self.pair
        ends = [self.poses[0].place(x) for x in (0.0, plan.edge_mm)]
        ends += [
            self.poses[1].place(x) for x in ((0.0, plan.edge_mm) if plan.second == "vise" else (plan.stop_mm / 2,))
        ]
        across = [(p * cmath.exp(-1j * self.square)).imag for p in ends]
        return max(across) - min(across)

    @property
    def truths(self) -> tuple[Truth, ...]:
        """The jaws, and what is left between the beds that a part spans."""
        left = Truth("level", abs(self.bed + self.under[1] - self.under[0]), self.pair.bed_limit_mm)
        return (*super().truths, *((left,) if self.pair.spans == "yes" else ()))


def example(seed: int) -> VisePairPlan:
    """A plan by a number: every orientation and option comes round."""
    vise = held(VisePair, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
    stop = seed % 5 == 4
    kind = {
        "limit": limit_mm("0.02", "in_line"), "spots_mm": (10.0, 80.0, 150.0), "hinge": ("low", "high")[seed // 4 % 2],
        "second": "stop" if stop else "vise", "bar": ("through", "none")[stop or seed // 3 % 2],
        "spans": ("no", "yes")[not stop and seed // 2 % 2], "apart_mm": 260.0, "hidden_nuts": seed % 3,
    }  # fmt: skip
    return VisePairPlan(**edge_usual(seed, vise, **kind), stock=FINE_SHIMS)


def machine(plan: VisePairPlan, rng: np.random.Generator) -> SimulatedPair:
    """Two vises as somebody has put them down."""
    most = 0.3 / plan.whole_mm
    turns = (float(rng.uniform(-most, most)), float(rng.uniform(-most, most)))
    kicks = (float(rng.uniform(-4e-5, 4e-5)), float(rng.uniform(-4e-5, 4e-5)))
    hands = replace(random_hands(rng, plan, 0.004), kick_scatter_mm=0.0005)
    return SimulatedPair(plan, hands, rng, turns, float(rng.uniform(-0.15, 0.15)), kicks, float(rng.uniform(-0.1, 0.1)))


SAMPLES = (
    Sample(
        part="Long feed rail", size="340 mm", limit="0.03 mm", kind="in_line", machine="heron", holder="vise-pair-125",
        gauge="lever-micron", unit="mm", days_ago=3.2, author="Ode", seed=64,
        choices={"spots_mm": (10.0, 62.0, 115.0), "apart_mm": 250.0, "hidden_nuts": 2},
    ),
)  # fmt: skip
