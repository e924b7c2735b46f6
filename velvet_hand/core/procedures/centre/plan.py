"""What center is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, OneOf
from ...holders import RotaryTable
from ...plan.base import BasePlan


class CentrePlan(BasePlan):
    """The center of a rotary table brought under the spindle: handles ``x_plus`` and ``y_plus`` move the table."""

    procedure: Literal["centre"] = "centre"
    holder: RotaryTable
    x_clockwise: Annotated[
        Literal["left", "right"],
        OneOf("X handle clockwise: the table goes", "Turn it and look.", words={"right": "right", "left": "left"}),
    ] = "right"
    y_clockwise: Annotated[
        Literal["toward", "away"],
        OneOf(
            "Y handle clockwise: the table goes",
            "Turn it and look.",
            words={"away": "away from you", "toward": "toward you"},
        ),
    ] = "away"
    dial_mm: Annotated[float, LengthOf("One turn of a handle", least=0.5, most=50)] = 5.0
