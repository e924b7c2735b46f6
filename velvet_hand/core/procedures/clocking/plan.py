"""What clocking is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...fields import NumberOf, OneOf
from ...holders import AdjustableBody, FourJaw, ThreeJaw
from ...plan.base import BasePlan


class ClockingPlan(BasePlan):
    """A chuck on a register with ``bolts`` holes; ``oppose`` when only high spots are known, no sizes."""

    procedure: Literal["clocking"] = "clocking"
    holder: Annotated[ThreeJaw | FourJaw | AdjustableBody, Field(discriminator="kind")]
    bolts: Annotated[
        int, NumberOf("Bolt positions", "How many ways it can be bolted on, evenly spaced.", least=2, most=24)
    ] = 3
    way: Annotated[
        Literal["every", "oppose"],
        OneOf(
            "Way of working",
            "Computing is best; mark and oppose sets high spot against high spot, sizes aside.",
            words={"every": "compute every position", "oppose": "mark and oppose"},
        ),
    ] = "every"
