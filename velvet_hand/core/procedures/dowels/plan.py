"""What dowels is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan
from ...shop import Stock


class DowelPlan(BasePlan):
    """A housing on two offset dowels, its bore swept by a gauge that the shaft carries round."""

    procedure: Literal["dowels"] = "dowels"
    stock: Stock
    sag: Literal["swept", "none"] = "swept"
    span_mm: float
    mark_from: Literal["front", "behind"] = "front"
