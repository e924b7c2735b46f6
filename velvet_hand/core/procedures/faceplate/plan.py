"""What faceplate is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...plan.base import BasePlan
from ...plan.fields import NumberOf


class FaceplatePlan(BasePlan):
    """Work clamped to a faceplate or fixture, tapped true."""

    procedure: Literal["faceplate"] = "faceplate"
    clamps: Annotated[int, NumberOf("Clamps", "Opposed ones are pinched in turn.", least=2, most=12)] = 4
