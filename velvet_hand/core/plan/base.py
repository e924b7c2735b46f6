"""What every plan has, whatever the procedure."""

from __future__ import annotations

import math
from datetime import datetime
from typing import Literal

from pydantic import Field

from ..errors import BadInput
from ..gauge import Carrier, Gauge, Sense, Surface, View
from ..holders import Holder
from ..model import Model
from ..quantity import LimitKind
from ..shop import Machine, Memory
from ..units import Typed, Unit, parse_length, parse_number

School = Literal["high_spot", "pairs"]
#: An angle as a limit is judged as what it comes to over this length.
ANGLE_OVER_MM = 100.0


Finish = Literal["ground", "turned", "rough"]
#: How far form spreads on a finish, against a ground one.
ROUGHNESS: dict[Finish, float] = {"ground": 1.0, "turned": 3.0, "rough": 10.0}


class Workpiece(Model):
    """The part as far as the computation needs it; ``finish`` says what form to expect of its surface."""

    name: str = Field(min_length=1, max_length=120)
    diameter: Typed
    surface: Surface = "outside"
    finish: Finish = "turned"

    @property
    def roughness(self) -> float:
        """How far its form spreads, against a ground surface."""
        return ROUGHNESS[self.finish]

    @property
    def diameter_mm(self) -> float:
        """Diameter at the place that is indicated.

        Raises
        ------
        BadInput
            When it is no length above zero.
        """
        mm = parse_length(self.diameter.text, self.diameter.unit, "part.diameter")
        if mm <= 0:
            raise BadInput(
                "part_size_missing", "A part has a diameter above zero.", "Measure it and type it.", "part.diameter"
            )
        return float(mm)


class Limit(Model):
    """How true it has to be; ``kind`` says whether TIR or off center was meant."""

    kind: LimitKind
    typed: Typed

    @property
    def mm(self) -> float:
        """The limit in its own kind; an angle as what it comes to over 100 mm.

        Raises
        ------
        BadInput
            ``limit_zero`` when it is not above zero.
        """
        if self.kind == "angle":
            deg = parse_number(self.typed.text, "limit.typed")
            mm = ANGLE_OVER_MM * math.tan(math.radians(deg)) if 0 <= deg <= 45 else 0.0
        else:
            mm = float(parse_length(self.typed.text, self.typed.unit, "limit.typed"))
        if mm <= 0:
            raise BadInput(
                "limit_zero",
                "Nothing can be true to zero.",
                "Type the largest error that does no harm, for example 1 thou TIR.",
                "limit.typed",
            )
        return float(mm)

    @property
    def off_centre_mm(self) -> float:
        """How far off center it allows: half of a TIR; any other limit as it is."""
        return self.mm / 2 if self.kind == "tir" else self.mm

    @property
    def tir_mm(self) -> float:
        """What it allows as a TIR: twice off center."""
        return 2 * self.off_centre_mm


class Left(Model):
    """How an earlier set-up of the same was left: what its last whole pass read at each spot, mm toward the indicator."""

    setup: str
    at: datetime
    toward_mm: dict[str, float] = Field(max_length=400)


class BasePlan(Model):
    """What a set-up was opened with; machine, holder and gauge as they were then.

    ``stations_deg`` are angles of one turn, counted in the holder (in a four-jaw from jaw 1);
    ``stylus_deg`` and ``swing_deg`` how far a lever's stylus stands off the surface, and its swing
    off the normal; ``memory`` what the holder answered in earlier set-ups; ``between``: a proof reads the spots between them too, for so
    few do not show a lobed part. ``before``: how the same was left the last time.
    """

    procedure: str
    part: Workpiece
    machine: Machine
    holder: Holder
    gauge: Gauge
    limit: Limit
    unit: Unit
    stations_deg: tuple[float, ...] = (0.0, 90.0, 180.0, 270.0)
    school: School = "high_spot"
    carrier: Carrier = "work_turns"
    gauge_clock_deg: float = Field(default=90.0, ge=0, lt=360)
    view: View = "tailstock"
    stylus_deg: float = Field(default=0.0, ge=0, le=80)
    swing_deg: float = Field(default=0.0, ge=0, le=80)
    memory: Memory = Memory()
    between: bool = False
    before: Left | None = None

    @property
    def measured_word(self) -> str:
        """What is measured by the way, at a step that asks for it."""
        return "Gap between jaws"

    @property
    def flats(self) -> bool:
        """Is it read on flats, each at its dead point?"""
        return False

    @property
    def grid(self) -> tuple[int, int] | None:
        """Columns and rows of places, where a sheet of readings may come as a grid."""
        return None

    @property
    def slots(self) -> tuple[str, ...]:
        """Names of the gauges that stand at once; "" is the first."""
        return ("",)

    def slot(self, ring: str) -> str:
        """The gauge that reads a ring."""
        return ""

    def gauge_in(self, slot: str) -> Gauge:
        """The gauge of that name."""
        return self.gauge

    def sense(self, push_reads: Literal[-1, 1] | None, slot: str = "") -> Sense:
        """How needle values become geometry in this set-up.

        A rule or a feeler measures a gap: bigger is farther, and there is nothing to test.
        """
        gauge = self.gauge_in(slot)
        return Sense(
            surface=self.part.surface,
            carrier=self.carrier,
            push_reads=-1 if gauge.measures_gap else push_reads,
            gauge_clock_deg=self.gauge_clock_deg,
            view=self.view,
            scale=gauge.true_part(self.stylus_deg, self.swing_deg),
        )
