"""What faceplate is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import NumberOf
from ...holders import Faceplate
from ...plan.base import BasePlan


class FaceplatePlan(BasePlan):
    """Work clamped to a faceplate or fixture, tapped true."""

    procedure: Literal["faceplate"] = "faceplate"
    holder: Faceplate
    clamps: Annotated[int, NumberOf("Clamps", "Opposed ones are pinched in turn.", least=2, most=12)] = 4
