"""What throw is planned with."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from ...angles import rect
from ...fields import AngleOf, LengthOf, OneOf
from ...plan.jaws import JawPlan


class ThrowPlan(JawPlan):
    """Eccentric on purpose by ``throw_mm`` toward ``throw_deg`` (from jaw 1), within ``turn_limit_deg``."""

    procedure: Literal["throw"] = "throw"
    throw_mm: Annotated[
        float, LengthOf("Throw wanted", "Center to axis: half of what the needle swings. 0 on flats: true.", most=200)
    ]
    throw_deg: Annotated[
        float, AngleOf("Toward, degrees from jaw 1", "Counter-clockwise seen from the tailstock.", most=360)
    ] = 0.0
    turn_limit_deg: Annotated[float, AngleOf("Direction within, degrees", least=0.05, most=45)] = 2.0
    shape: Annotated[
        Literal["round", "flats"],
        OneOf(
            "The part is",
            "On flats: rock the part and read each flat at its lowest, at its dead point.",
            words={"round": "round", "flats": "on flats"},
        ),
    ] = "round"

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
