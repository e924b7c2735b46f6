"""What rod is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...fields import LengthsOf, OneOf
from ...holders import Fixture, Vise
from ...plan.edge import EdgeBase


class RodPlan(EdgeBase):
    """Roughing in: a gap at the far end of an edge after it touches a rod (or beside a T-slot) at the first."""

    procedure: Literal["rod"] = "rod"
    holder: Annotated[Vise | Fixture, Field(discriminator="kind")]
    spots_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "The two places",
            "Where it touches and where the gap is seen, from the edge’s left (front) end.",
            most=5000,
            rank=-1,
        ),
    ] = (10.0, 150.0)
    by: Annotated[
        Literal["rod", "slot"],
        OneOf("Seen by", words={"rod": "a rod in the spindle", "slot": "the edge of a slot"}, rank=0),
    ] = "rod"
