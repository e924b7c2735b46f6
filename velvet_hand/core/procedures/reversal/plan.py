"""What reversal is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...fields import AnglesOf
from ...holders import AdjustableBody, Collet, FourJaw, ThreeJaw
from ...plan.base import BasePlan


class ReversalPlan(BasePlan):
    """The work chucked again, turned in the jaws to each of ``positions_deg``."""

    procedure: Literal["reversal"] = "reversal"
    holder: Annotated[ThreeJaw | Collet | AdjustableBody | FourJaw, Field(discriminator="kind")]
    positions_deg: Annotated[
        tuple[float, ...],
        AnglesOf("Turned in the jaws to, degrees", "Two to four, with spaces: 0 180, or 0 90 180 270.", most=360),
    ] = (0.0, 180.0)
