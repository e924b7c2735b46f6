"""What column is planned with."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...plan.base import BasePlan
from ...shop import Stock


class ColumnPlan(BasePlan):
    """A column by its flange on a rotary axis, its far end ``far_z_mm`` out held by a tailstock.

    ``bar`` trues the axis first, by a bar read at ``bar_near_mm`` and ``bar_far_mm`` on top and at the side, turned half over;
    shims go between flange and table on ``bolt_radius_mm``; the tailstock’s centre is ``centre_z_mm`` out.
    """

    procedure: Literal["column"] = "column"
    far_z_mm: float = 250.0
    face_radius_mm: float = 0.0
    bolt_radius_mm: float = 45.0
    bolts: int = Field(default=3, ge=3, le=8)
    flange_limit_mm: float = 0.05
    stock: Stock
    tail: Literal["yes", "no"] = "yes"
    centre_z_mm: float = 280.0
    gives: Literal["tips", "bends", "between"] = "tips"
    sag_mm: float | None = None
    bar: Literal["yes", "no"] = "no"
    bar_near_mm: float = 30.0
    bar_far_mm: float = 230.0
    bar_diameter_mm: float = 25.0
    bar_taper_mm: float = 0.0
    foot_mm: float = 200.0

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.face_radius_mm else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "face-" else ""
