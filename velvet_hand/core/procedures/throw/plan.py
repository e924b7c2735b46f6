"""What throw is planned with."""

from __future__ import annotations

import math
from typing import Literal

from ...angles import rect
from ...plan.jaws import JawPlan


class ThrowPlan(JawPlan):
    """Eccentric on purpose by ``throw_mm`` toward ``throw_deg`` (from jaw 1), within ``turn_limit_deg``."""

    procedure: Literal["throw"] = "throw"
    throw_mm: float
    throw_deg: float = 0.0
    turn_limit_deg: float = 2.0
    shape: Literal["round", "flats"] = "round"

    @property
    def flats(self) -> bool:
        """See ``BasePlan``."""
        return self.shape == "flats"

    @property
    def target(self) -> complex:
        """See ``JawPlan``."""
        return rect(self.throw_mm, self.throw_deg)

    @property
    def sideways_mm(self) -> float | None:
        """See ``JawPlan``: what the allowed angle comes to at the throw; true on flats has no direction."""
        return self.throw_mm * math.sin(math.radians(self.turn_limit_deg)) if self.throw_mm else None
