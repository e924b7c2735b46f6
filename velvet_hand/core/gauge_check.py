"""What an indicator was found to show, on a day."""

from __future__ import annotations

from datetime import date, datetime

from pydantic import Field

from .model import Model


class GaugeCheck(Model):
    """A check against known steps over ``over_mm`` of its travel: off by ``error_mm`` in all and ``near_mm`` from one step to the next,
    otherwise by ``hysteresis_mm`` coming back, a reading repeating to ``repeat_mm``; checked again when it is ``due``.
    """

    gauge_id: str
    at: datetime
    over_mm: float = Field(gt=0)
    error_mm: float = Field(ge=0, le=10)
    near_mm: float = Field(ge=0, le=10)
    hysteresis_mm: float = Field(ge=0, le=10)
    repeat_mm: float = Field(ge=0, le=10)
    due: date | None = None
