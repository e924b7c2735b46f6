"""What reversal is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...plan.base import BasePlan
from ...plan.fields import AnglesOf


class ReversalPlan(BasePlan):
    """The work chucked again, turned in the jaws to each of ``positions_deg``."""

    procedure: Literal["reversal"] = "reversal"
    positions_deg: Annotated[
        tuple[float, ...],
        AnglesOf("Turned in the jaws to, degrees", "Two to four, with spaces: 0 180, or 0 90 180 270.", most=360),
    ] = (0.0, 180.0)
