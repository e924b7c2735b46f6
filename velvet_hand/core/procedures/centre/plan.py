"""What centre is planned with."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...plan.base import BasePlan


class CentrePlan(BasePlan):
    """The centre of a rotary table brought under the spindle: handles ``x_plus`` and ``y_plus`` move the table."""

    procedure: Literal["centre"] = "centre"
    x_clockwise: Literal["left", "right"] = "right"
    y_clockwise: Literal["toward", "away"] = "away"
    dial_mm: float = Field(default=5.0, gt=0)
