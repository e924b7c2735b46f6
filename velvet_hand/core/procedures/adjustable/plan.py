"""What adjustable is planned with."""

from __future__ import annotations

from typing import Literal

from ...holders import AdjustableBody
from ...plan.base import BasePlan


class AdjustablePlan(BasePlan):
    """A chuck whose body is set by screws."""

    procedure: Literal["adjustable"] = "adjustable"
    holder: AdjustableBody
