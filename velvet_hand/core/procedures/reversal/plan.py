"""What reversal is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan


class ReversalPlan(BasePlan):
    """The work chucked again, turned in the jaws to each of ``positions_deg``."""

    procedure: Literal["reversal"] = "reversal"
    positions_deg: tuple[float, ...] = (0.0, 180.0)
