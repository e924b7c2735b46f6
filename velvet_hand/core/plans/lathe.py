"""Plans of what is indicated on the lathe. Fields are what ``Procedure.fields`` asks for."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..gauge import Gauge
from ..shop import Stock
from .base import BasePlan


class FourJawPlan(BasePlan):
    """Round work in an independent four-jaw, from jaw 1."""

    procedure: Literal["four_jaw"] = "four_jaw"


class RoughPlan(BasePlan):
    """Rough work by gaps. The ``second`` plane comes from a face, read at ``face_radius_mm``, or from feelers
    behind the jaws, which grip over ``jaw_length_mm``.
    """

    procedure: Literal["rough"] = "rough"
    second: Literal["none", "face", "feelers"] = "none"
    face_radius_mm: float = 60.0
    jaw_length_mm: float = 40.0

    @property
    def arm_mm(self) -> float:
        """What a gap of the second plane is divided by to give the lean."""
        return self.face_radius_mm if self.second == "face" else self.jaw_length_mm


class TwoPlanesPlan(BasePlan):
    """Two planes, in mm out from the middle of the jaws' grip; ``far_gauge`` when two gauges stand at once."""

    procedure: Literal["two_planes"] = "two_planes"
    near_z_mm: float
    far_z_mm: float
    far_gauge: Gauge | None = None
    thin: Literal["solid", "tube"] = "solid"

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.far_gauge else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "far" and self.far_gauge else ""

    def gauge_in(self, slot: str) -> Gauge:
        """See ``BasePlan``."""
        return self.far_gauge if slot == "far" and self.far_gauge else self.gauge


class ThrowPlan(BasePlan):
    """Eccentric on purpose by ``throw_mm`` toward ``throw_deg`` (from jaw 1), within ``turn_limit_deg``."""

    procedure: Literal["throw"] = "throw"
    throw_mm: float
    throw_deg: float = 0.0
    turn_limit_deg: float = 2.0
    shape: Literal["round", "flats"] = "round"


class ClockingPlan(BasePlan):
    """A chuck on a register with ``bolts`` holes; ``oppose`` when only high spots are known, no sizes."""

    procedure: Literal["clocking"] = "clocking"
    bolts: int
    way: Literal["every", "oppose"] = "every"


class PackingPlan(BasePlan):
    """Shims under a three-jaw's jaws, to mend a runout or for a throw under ``throw_jaw``."""

    procedure: Literal["packing"] = "packing"
    throw_mm: float = 0.0
    throw_jaw: int = 1
    stock: Stock


class ReversalPlan(BasePlan):
    """The work chucked again, turned in the jaws to each of ``positions_deg``."""

    procedure: Literal["reversal"] = "reversal"
    positions_deg: tuple[float, ...] = (0.0, 180.0)


class AdjustablePlan(BasePlan):
    """A chuck whose body is set by screws."""

    procedure: Literal["adjustable"] = "adjustable"


class ColletPlan(BasePlan):
    """A collet turned in its taper to ``positions_deg``; read at the nose and ``far_z_mm`` out from there."""

    procedure: Literal["collet"] = "collet"
    positions_deg: tuple[float, ...] = (0.0, 180.0)
    far_z_mm: float


class ShaftPlan(BasePlan):
    """A shaft between centres, read at ``z_mm`` from the driving end; the outer two carry the line."""

    procedure: Literal["shaft"] = "shaft"
    z_mm: tuple[float, ...]
    noted: Literal["all", "high"] = "all"


class DowelPlan(BasePlan):
    """A housing on two offset dowels, its bore swept by a gauge that the shaft carries round."""

    procedure: Literal["dowels"] = "dowels"
    stock: Stock
    sag: Literal["swept", "none"] = "swept"
    span_mm: float
    mark_from: Literal["front", "behind"] = "front"


class FaceplatePlan(BasePlan):
    """Work clamped to a faceplate or fixture, tapped true."""

    procedure: Literal["faceplate"] = "faceplate"
    clamps: int = Field(default=4, ge=2, le=12)
