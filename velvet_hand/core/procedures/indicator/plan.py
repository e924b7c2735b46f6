"""What the check of an indicator is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, NumberOf, OneOf
from ...holders import SurfacePlate
from ...plan.base import BasePlan


class IndicatorPlan(BasePlan):
    """An indicator over known steps, out and back; the part's size is the travel that is checked.

    ``against`` is what the steps are made with, known to ``known_mm``; ``again`` readings are taken of one step; it is due again after
    ``months``.
    """

    procedure: Literal["indicator"] = "indicator"
    holder: SurfacePlate
    against: Annotated[
        Literal["blocks", "head", "step"],
        OneOf(
            "Against",
            words={"blocks": "a stack of blocks", "head": "a micrometer head", "step": "known steps"},
        ),
    ] = "blocks"
    steps: Annotated[int, NumberOf("Steps over that travel", "Ten, out and back.", least=4, most=20)] = 10
    known_mm: Annotated[float, LengthOf("Steps are known to", "From the certificate of blocks or head.", most=0.05)] = (
        0.0005
    )
    again: Annotated[int, NumberOf("One step read again", "Off and on again each time.", least=4, most=20)] = 6
    months: Annotated[int, NumberOf("Next check after, months", least=1, most=60)] = 12

    @property
    def travel_mm(self) -> float:
        """How much of its travel is checked."""
        return self.part.diameter_mm

    @property
    def step_mm(self) -> float:
        """From one step to the next."""
        return self.travel_mm / self.steps
