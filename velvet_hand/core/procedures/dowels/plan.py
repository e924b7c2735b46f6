"""What dowels is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import DowelsOf, LengthOf, OneOf
from ...holders import DowelledHousing
from ...plan.base import BasePlan
from ...shop import Stock


class DowelPlan(BasePlan):
    """A housing on two offset dowels, its bore swept by a gauge that the shaft carries round."""

    procedure: Literal["dowels"] = "dowels"
    holder: DowelledHousing
    stock: Annotated[Stock, DowelsOf("Offset dowels from")]
    span_mm: Annotated[float, LengthOf("Between the dowels", least=5, most=5000)]
    sag: Annotated[
        Literal["swept", "none"],
        OneOf(
            "Sag of the indicator’s arm",
            "The same arm on a stiff true bar: its once-a-turn part is taken off.",
            words={"swept": "swept on a true bar", "none": "stiff, not swept"},
        ),
    ] = "swept"
    mark_from: Annotated[
        Literal["front", "behind"],
        OneOf(
            "Dowels are clocked from",
            "From behind, clockwise and counter-clockwise change places.",
            words={"front": "the front", "behind": "behind"},
        ),
    ] = "front"
