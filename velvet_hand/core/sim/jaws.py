"""A simulated four-jaw chuck: jaws that answer badly, for one plane or two, true or with a throw."""

from __future__ import annotations

import cmath
import math
from dataclasses import dataclass

import numpy as np

from ..model import own
from ..move import Jaws, Move, TapRound
from ..plan.base import BasePlan
from ..plan.jaws import JawPlan
from .body import Body, Circle, Hands, Jammed, part_circle
from .by_hand import SQUEEZED, TIGHT, Control

#: Where a pointer stands off, so that every gap is more than nothing.
POINTER_MM = 40.0


@dataclass(frozen=True, slots=True)
class Quirks:
    """What a chuck hides.

    ``offset_mm``/``offset_deg`` where the work starts; ``form_mm`` peak to valley of ``lobes``;
    ``gain`` part of a move that stays when both jaws are snug (one for each pair);
    ``backlash_mm`` lost when a pair reverses; ``noise_mm`` of a reading; ``stop_mm`` how well a
    person stops at the aim; ``kick_mm``/``kick_deg`` repeatable shift on tightening and
    ``kick_scatter_mm`` its random part; ``push_reads`` the needle's sense (``push_far`` a second
    gauge's); ``tilt`` how the work leans, per mm out; ``face`` the axial runout of a face at its radius;
    ``size_mm`` how much bigger each opposed pair of flats is.
    """

    offset_mm: float
    offset_deg: float
    form_mm: float = 0.0
    lobes: int = 3
    form_deg: float = 0.0
    gain: tuple[float, float] = (1.0, 1.0)
    backlash_mm: float = 0.0
    noise_mm: float = 0.0
    stop_mm: float = 0.0
    kick_mm: float = 0.0
    kick_deg: float = 0.0
    kick_scatter_mm: float = 0.0
    push_reads: int = 1
    push_far: int = 1
    tilt: complex = 0j
    face: complex = 0j
    size_mm: tuple[float, float] = (0.0, 0.0)

    @property
    def hands(self) -> Hands:
        """The person's part of it."""
        kick = cmath.rect(self.kick_mm, math.radians(self.kick_deg))
        return Hands(self.noise_mm, self.stop_mm, 1.0, kick, self.kick_scatter_mm, self.push_reads, self.push_far)


def random_quirks(
    rng: np.random.Generator, plan: BasePlan, max_offset_mm: float = 1.5, form_mm: float = 0.003
) -> Quirks:
    """A chuck as a shop may have it."""
    mark = plan.gauge.graduation_mm
    return Quirks(
        offset_mm=float(rng.uniform(0.1, max_offset_mm)),
        offset_deg=float(rng.uniform(0, 360)),
        form_mm=float(rng.uniform(0, form_mm)),
        lobes=int(rng.choice([2, 3, 5])),
        form_deg=float(rng.uniform(0, 360)),
        gain=(float(rng.uniform(0.72, 1.02)), float(rng.uniform(0.72, 1.02))),
        backlash_mm=float(rng.uniform(0, 0.006)),
        noise_mm=mark * 0.15,
        stop_mm=mark * 0.5,
        kick_mm=float(rng.uniform(0, 0.006)),
        kick_deg=float(rng.uniform(0, 360)),
        kick_scatter_mm=0.0008,
        push_reads=int(rng.choice([-1, 1])),
    )


class SimulatedChuck(Body):
    """A rigid part in four jaws: its axis goes through ``center`` at the jaws and leans by ``tilt``.

    ``jaw_ring`` is where the needle is watched while a jaw is drawn in, ``tap_ring`` while it is tapped.
    """

    hides = ("center", "tilt", "face")

    most_mm = 5.0
    jaw_ring = tap_ring = ""

    plan: JawPlan

    def __init__(self, plan: JawPlan, quirks: Quirks, rng: np.random.Generator) -> None:
        super().__init__(plan, quirks.hands, rng)
        self.quirks = quirks
        self.center = cmath.rect(quirks.offset_mm, math.radians(quirks.offset_deg))
        self.tilt, self.face = quirks.tilt, quirks.face
        self.planes_mm: dict[str, float] = {"": 0.0}
        self.reach_mm = 1.0
        self._last_way: dict[int, float] = {}
        self.backed: dict[int, float] = {}

    def circle(self, ring: str) -> Circle:
        """The work's surface, so far out."""
        q = self.quirks
        at = self.center + self.tilt * self.planes_mm[ring]
        return part_circle(self.plan, at, form_mm=q.form_mm, lobes=q.lobes, form_deg=q.form_deg)

    def needle(self, at: complex, ring: str = "") -> float:
        """A rule shows the gap itself."""
        return -self.nearness(at, ring) if self.plan.gauge.measures_gap else super().needle(at, ring)

    def do(self, move: Move) -> None:
        """Follow a move: draw the named jaw in, or tap, watching the needle at the named spot to the aim.

        Raises
        ------
        WrongWay
            When that takes the needle away from the aim.
        Jammed
            When more than two thou is drawn in against a jaw that was not eased.
        """
        if isinstance(move, TapRound):
            self._tap(move)
            return
        move = own(move, Jaws)
        push, travel = self.pushed(move)
        drawn = move.draw.number
        if move.ease is None and travel > max(0.08, 2 * self.plan.gauge.graduation_mm):
            raise Jammed(f"jaw {drawn} drawn in {travel:.3f} mm with nothing eased")
        self.drawn_in(push * self._stays(drawn, travel))
        self.tight = False

    def _stays(self, drawn: int, travel: float) -> float:
        """What is left of a jaw's way in when the hand lets go."""
        pair = (drawn - 1) % 2
        stays = travel * self.quirks.gain[pair]
        way = 1.0 if drawn <= 2 else -1.0
        if self._last_way.get(pair, way) != way:
            stays = max(stays - self.quirks.backlash_mm, 0.0)
            if self.trouble is not None:
                self.trouble.acted = True
        self._last_way[pair] = way
        return stays

    def controls(self) -> tuple[Control, ...]:
        """Four jaws, each with its key."""
        lead = getattr(self.plan.holder, "lead_mm", None) or 4.0
        return tuple(
            Control(
                id=f"jaw{n}", label=f"Jaw {n}", kind="key", at_deg=self._jaw_deg(n) % 360, more="tighter", less="looser",
                step_mm=lead / 720, turn_deg=0.5,
            )
            for n in (1, 2, 3, 4)
        )  # fmt: skip

    def by_hand(self, control: str, amount: float, *, held: bool = False) -> None:
        """A jaw pushes the work as far as the one across has been backed off; against one that was not, it only squeezes."""
        jaw = int(control.removeprefix("jaw"))
        across = (jaw + 1) % 4 + 1
        if amount < 0:
            self.backed[jaw] = self.backed.get(jaw, 0.0) - amount
            self.tight = False
            return
        closes = min(amount, self.backed.get(jaw, 0.0))
        self.backed[jaw] = self.backed.get(jaw, 0.0) - closes
        goes = min(amount - closes, self.backed.get(across, 0.0))
        self.backed[across] = self.backed.get(across, 0.0) - goes
        squeezed = (amount - closes - goes) * (TIGHT if self.tight else SQUEEZED)
        push = -cmath.rect(1.0, math.radians(self._jaw_deg(jaw)))
        self.drawn_in(push * ((goes if held or not goes else self._stays(jaw, goes)) + squeezed))

    def in_hand(self, move: Move) -> bool:
        """See ``Body``: keys alone."""
        return isinstance(move, Jaws)

    @property
    def astray(self) -> complex:
        """Where the work's center stands."""
        return self.center

    def tighten(self) -> None:
        """See ``Body``; what was backed off is closed."""
        self.backed.clear()
        super().tighten()

    def pushed(self, move: Jaws) -> tuple[complex, float]:
        """Which way the named jaw pushes, and how far it goes until the needle stands at the aim."""
        push, start = -cmath.rect(1.0, math.radians(self._jaw_deg(move.draw.number))), self.center

        def put(travel: float) -> None:
            self.center = start + push * travel

        return push, self.travel_to_aim(move, put, self.jaw_ring, self.most_mm)

    def drawn_in(self, shift: complex) -> None:
        """What stays of a jaw's push."""
        self.center += shift

    def tapped(self, blow: complex, travel: float) -> None:
        """A blow out at the end turns the work about the jaws."""
        self.tilt -= blow * travel / self.reach_mm

    def _tap(self, move: TapRound) -> None:
        blow = cmath.rect(1.0, math.radians(move.at_deg))
        tilt, face = self.tilt, self.face

        def put(travel: float) -> None:
            self.tilt, self.face = tilt, face
            self.tapped(blow, travel)

        self.struck(blow, self.travel_to_aim(move, put, self.tap_ring, 30.0))

    def struck(self, blow: complex, travel: float) -> None:
        """It springs back when the blows are over."""
        self.tapped(blow, travel * min(self.quirks.gain))
        self.center += -self.side_of(blow) * travel * 0.03  # the grip gives a little
        self.tight = False

    def side_of(self, blow: complex) -> complex:
        """From which side the blow comes."""
        return blow

    def _jaw_deg(self, jaw: int) -> float:
        """Where the jaw is, counted in the chuck's own numbering."""
        return (jaw - 1) * (90.0 if self.plan.holder.numbering == "ccw" else -90.0)

    def kicked(self, shift: complex) -> None:
        """The work shifts in the jaws."""
        self.center += shift

    @property
    def blind_mm(self) -> float:
        """Few stations cannot see as many lobes: they may pass for an offset of half the form."""
        few = len(self.plan.stations_deg) <= 6 and not self.plan.between
        return self.quirks.form_mm if few else 0.0

    @property
    def true_tir_mm(self) -> float:
        """TIR of the work's center, in its worse plane."""
        return 2 * max(abs(self.center + self.tilt * z) for z in self.planes_mm.values())
