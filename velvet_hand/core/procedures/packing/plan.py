"""What packing is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan
from ...shop import Stock


class PackingPlan(BasePlan):
    """Shims under a three-jaw's jaws, to mend a runout or for a throw under ``throw_jaw``."""

    procedure: Literal["packing"] = "packing"
    throw_mm: float = 0.0
    throw_jaw: int = 1
    stock: Stock
