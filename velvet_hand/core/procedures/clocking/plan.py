"""What clocking is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan


class ClockingPlan(BasePlan):
    """A chuck on a register with ``bolts`` holes; ``oppose`` when only high spots are known, no sizes."""

    procedure: Literal["clocking"] = "clocking"
    bolts: int
    way: Literal["every", "oppose"] = "every"
