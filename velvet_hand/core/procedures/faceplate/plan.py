"""What faceplate is planned with."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...plan.base import BasePlan


class FaceplatePlan(BasePlan):
    """Work clamped to a faceplate or fixture, tapped true."""

    procedure: Literal["faceplate"] = "faceplate"
    clamps: int = Field(default=4, ge=2, le=12)
