"""What shaft is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan


class ShaftPlan(BasePlan):
    """A shaft between centres, read at ``z_mm`` from the driving end; the outer two carry the line."""

    procedure: Literal["shaft"] = "shaft"
    z_mm: tuple[float, ...]
    noted: Literal["all", "high"] = "all"
