"""The gauge, and the one place where its signs become geometry."""

from __future__ import annotations

import math
from datetime import date
from typing import Annotated, Any, Literal

from pydantic import Field, model_validator

from .errors import BadInput
from .estimate.scatter import expected_variance
from .fields import DateOf, LengthOf, NumberOf, OneOf, YesNo
from .gauge_check import GaugeCheck
from .model import Model

Surface = Literal["outside", "inside"]
GaugeKind = Literal["lever", "plunger", "rule", "feelers", "micrometer"]
#: What follows a surface with a hand over a dial, and what a gap is measured with.
WITH_A_HAND: tuple[GaugeKind, ...] = ("lever", "plunger")
GAPS: tuple[GaugeKind, ...] = ("rule", "feelers", "micrometer")
Carrier = Literal["work_turns", "gauge_turns"]
View = Literal["tailstock", "operator"]
#: How finely a hand reads a dial: to which part of a graduation.
ReadTo = Literal["fifth", "half", "whole"]
READ_TO: dict[ReadTo, float] = {"fifth": 0.2, "half": 0.5, "whole": 1.0}


def plain_mm(mm: float) -> str:
    """A length as it would be typed, with its unit."""
    text = f"{mm:.6f}".rstrip("0").rstrip(".")
    return f"{'0' if text == '-0' else text} mm"


class Gauge(Model):
    """An indicator, or whatever else a gap is measured with, as the computation needs it.

    ``travel_mm`` is the largest value it can show either side of zero; ``turn_mm`` the travel of
    one turn of the hand, ``counts_turns`` whether a small hand counts them; a ``continuous`` dial is
    numbered once round, a ``balanced`` one from its zero both ways; ``tip_radius_mm`` the ball's
    radius; ``read_to`` how finely the hand at it reads; ``lost_motion_mm`` what the needle stays behind when it turns back;
    ``error_mm`` what it is off by from one step to the next, by the last of its ``checks`` (those are
    kept with the set-ups that made them, not in the Shop); ``used`` in how many set-ups since that. ``rule`` and
    ``feelers`` measure a gap: bigger is farther. A ``micrometer`` measures across: a collar that is thicker where a tool stood
    still stands farther from that tool, by half of it.
    """

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: GaugeKind
    graduation_mm: Annotated[float, LengthOf("One graduation", least=0.00001, most=1, rank=10)]
    travel_mm: Annotated[float, LengthOf("Furthest it can show from zero", least=0.0001, most=200, rank=11)]
    turn_mm: Annotated[
        float | None,
        LengthOf(
            "Travel of one turn of the hand", "Empty: not known.", least=0.001, rank=12, most=50, only=WITH_A_HAND
        ),
    ] = None
    counts_turns: Annotated[bool, YesNo("A small hand counts the turns", rank=13, only=WITH_A_HAND)] = True
    dial: Annotated[
        Literal["balanced", "continuous"],
        OneOf(
            "The dial is numbered",
            "Once round, without turns counted, 98 of 100 means two graduations before zero.",
            words={"balanced": "both ways from 0", "continuous": "once round"},
            rank=14,
            only=WITH_A_HAND,
        ),
    ] = "balanced"
    number_mm: Annotated[
        float | None,
        LengthOf(
            "One number on its dial is",
            "Counts behind the turns: 1+29. Empty: 1 thou on an inch dial, 0.01 mm or 0.001 mm on a metric one.",
            least=0.00001, most=1, rank=15, only=WITH_A_HAND,
        ),
    ] = None  # fmt: skip
    lost_motion_mm: Annotated[
        float, LengthOf("Lost motion when it turns back", "0: none seen.", most=1, rank=16, only=WITH_A_HAND)
    ] = 0.0
    tip_radius_mm: Annotated[float, LengthOf("Radius of the ball", most=20, rank=17, only=WITH_A_HAND)] = 1.0
    check_due: Annotated[date | None, DateOf("Next check due", rank=20)] = None
    check_every: Annotated[
        int | None,
        NumberOf("Check after so many set-ups", "Empty: by its day alone.", least=1, most=10000, rank=21),
    ] = None
    used: int = Field(default=0, ge=0)
    read_to: ReadTo = "half"
    error_mm: float = Field(default=0.0, ge=0, le=10)
    checks: tuple[GaugeCheck, ...] = ()

    @property
    def worn_out_by(self) -> int:
        """By how many set-ups its check is overdue; 0 when it is not, or when use does not count."""
        return max(self.used - self.check_every, 0) if self.check_every else 0

    def overdue(self, on: date) -> bool:
        """Is its check overdue on that day, by the day or by use?"""
        return (self.check_due is not None and self.check_due < on) or self.worn_out_by > 0

    def knowing(self, checks: tuple[GaugeCheck, ...]) -> Gauge:
        """The indicator with what it was found to show, the oldest first: the last check says what it is off by, and when it is due.

        A proof reads within a step or so, so it is the error from one step to the next that counts.
        """
        if not checks:
            return self
        last, due = checks[-1], [d for d in (self.check_due, checks[-1].due) if d]
        changes = {
            "checks": checks, "error_mm": last.near_mm, "lost_motion_mm": max(self.lost_motion_mm, last.hysteresis_mm),
            "check_due": max(due, default=None),
        }  # fmt: skip
        return self.model_copy(update=changes)

    @property
    def bare(self) -> Gauge:
        """The indicator as if nothing were known against it: while it is itself what is checked."""
        return self.model_copy(update={"error_mm": 0.0, "lost_motion_mm": 0.0})

    @model_validator(mode="before")
    @classmethod
    def _no_hand(cls, raw: Any) -> Any:
        """A rule and feelers have neither a ball nor a hand that goes round."""
        if isinstance(raw, dict) and raw.get("kind") in GAPS:
            return {"tip_radius_mm": 0.0, "counts_turns": False, **raw}
        return raw

    def check(self) -> None:
        """Refuse what cannot be.

        Raises
        ------
        BadInput
            A travel of a few marks.
        """
        if self.travel_mm < 4 * self.graduation_mm:
            raise BadInput(
                "field_invalid",
                "That travel is only a few graduations long.",
                "Check both and their units.",
                "travel_mm",
            )

    @property
    def measures_gap(self) -> bool:
        """Does it measure a gap, instead of following the surface?"""
        return self.kind in GAPS

    def at_its_end(self, mm: float) -> bool:
        """Can it go no farther than it shows?"""
        return abs(mm) >= self.travel_mm * (1 - 1e-6)

    def typed(self, mm: float) -> str:
        """What it shows, as somebody would type it: less than anybody reads is nothing; at the end of its travel it is past the end.

        Examples
        --------
        >>> fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1)
        >>> fine.typed(-0.0126), fine.typed(0.0001), fine.typed(1.0)
        ('-0.0126 mm', '0 mm', '+off')
        """
        if self.at_its_end(mm):
            return "+off" if mm > 0 else "-off"
        return plain_mm(mm if abs(mm) >= self.resolution_mm else 0.0)

    @property
    def noun(self) -> str:
        """What is typed of it."""
        return "reading" if self.reads == "needle" else self.reads

    @property
    def reads(self) -> Literal["needle", "gap", "size"]:
        """What is read off it."""
        return "size" if self.kind == "micrometer" else "gap" if self.measures_gap else "needle"

    def true_part(self, stylus_deg: float, swing_deg: float) -> float:
        """True movement for one unit of needle: cos(stylus to surface) cos(swing to normal) of a lever.

        A lever's dial reads too much when its stylus stands steep; a plunger has no stylus angle,
        only its own lean off the normal (true = reading cos(lean)).
        """
        if self.kind == "micrometer":
            return 0.5  # across both sides
        lean = math.cos(math.radians(swing_deg))
        return lean * math.cos(math.radians(stylus_deg)) if self.kind == "lever" else lean

    @property
    def read_to_part(self) -> float:
        """To which part of a graduation whoever is at it reads it."""
        return READ_TO[self.read_to]

    @property
    def resolution_mm(self) -> float:
        """The finest step worth showing: a fifth of a mark; of a rule, half a mark and no more."""
        return self.graduation_mm / (2 if self.kind in ("rule", "feelers") else 5)

    @property
    def numbered_mm(self) -> float:
        """What one number on the dial is, as far as nobody has said: a thou where graduations are parts of one, else 0.01 or 0.001 mm."""
        if self.number_mm is not None:
            return self.number_mm
        tenths = self.graduation_mm / 0.00254
        if abs(tenths - round(tenths)) < 1e-6 and tenths >= 1:
            return 0.0254
        return 0.01 if self.graduation_mm >= 0.01 else 0.001

    def came_back(self, drift_mm: float) -> bool:
        """Is a closing error no more than one mark, or than two readings differ by in 997 of 1000 times?"""
        return bool(abs(drift_mm) <= max(1.01 * self.graduation_mm, 3 * (2 * self.read_variance) ** 0.5))

    def walked_mm(self, drift_mm: float) -> float:
        """What a closing error has beyond the scatter of its two readings: ``d (1 - 4 v/d^2)``, v that of one reading.

        Source: W. James and C. Stein, "Estimation with quadratic loss", 1961.
        """
        return drift_mm * max(0.0, 1 - 4 * self.read_variance / drift_mm**2) if drift_mm else 0.0

    @property
    def read_variance(self) -> float:
        """Variance of one reading (mm^2) before anything was read: what dial, contact and hand are good for."""
        return expected_variance(self.graduation_mm, self.graduation_mm * self.read_to_part)

    @property
    def u_read_mm(self) -> float:
        """Standard uncertainty of one reading: division/(2 sqrt 3) times the part read to."""
        return float(self.graduation_mm * self.read_to_part / 12**0.5)


class Sense(Model):
    """How a needle value turns into geometry, and a chuck angle into a place in the shop.

    Parameters
    ----------
    surface
        Is the gauge on the outside of the work or inside a bore?
    carrier
        ``work_turns``: fixed gauge, the spindle is turned by hand. ``gauge_turns``: the gauge is
        carried round work that stands still.
    push_reads
        +1 when pressing the surface toward the gauge made the needle go plus, -1 when it went
        minus, None when the press test was not made.
    gauge_clock_deg
        Where a fixed gauge touches, seen from the tailstock: 90 on top, 180 at the operator.
    scale
        True movement for one unit of needle (``Gauge.true_part``).
    """

    surface: Surface
    carrier: Carrier = "work_turns"
    push_reads: Literal[-1, 1] | None = None
    gauge_clock_deg: float = 90.0
    view: View = "tailstock"
    scale: float = Field(default=1.0, gt=0, le=1)

    @property
    def proved(self) -> bool:
        """Has the press test fixed the needle's sense?"""
        return self.push_reads is not None

    def toward_mm(self, needle_mm: float) -> float:
        """Needle value to toward value (plus = surface nearer the gauge)."""
        return needle_mm * self.scale * (self.push_reads or 1)

    def needle_mm(self, toward_mm: float) -> float:
        """Toward value to what the needle shows; the inverse of ``toward_mm``."""
        return toward_mm / self.scale * (self.push_reads or 1)

    def toward_end(self, end: int) -> int:
        """Which end of the dial it ran off, as a toward direction (0: not said)."""
        return end * (self.push_reads or 1)

    @property
    def center_sign(self) -> int:
        """+1 when the surface's center lies toward the high reading (outside), -1 in a bore."""
        return 1 if self.surface == "outside" else -1

    def turn_deg(self, station_deg: float) -> float:
        """Turn of the chuck that brings ``station_deg`` to the gauge (theta = gauge - turn)."""
        return (self.gauge_clock_deg - station_deg) % 360 if self.carrier == "work_turns" else 0.0

    def gauge_deg(self, station_deg: float) -> float:
        """Machine angle at which the gauge touches when it reads ``station_deg``."""
        return self.gauge_clock_deg if self.carrier == "work_turns" else station_deg

    @property
    def view_turn_deg(self) -> float:
        """Turn of the picture: the operator's view puts the operator's side at the bottom."""
        return 0.0 if self.view == "tailstock" else 90.0


def place_words(machine_deg: float) -> str:
    """Where a machine angle is, in words that do not depend on where the picture is seen from."""
    spots = ("at the far side", "on top", "at your side", "underneath")
    return spots[round(machine_deg / 90) % 4]
