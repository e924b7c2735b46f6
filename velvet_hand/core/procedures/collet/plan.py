"""What collet is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan


class ColletPlan(BasePlan):
    """A collet turned in its taper to ``positions_deg``; read at the nose and ``far_z_mm`` out from there."""

    procedure: Literal["collet"] = "collet"
    positions_deg: tuple[float, ...] = (0.0, 180.0)
    far_z_mm: float
