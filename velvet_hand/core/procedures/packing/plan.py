"""What packing is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, NumberOf, ShimsOf
from ...holders import ThreeJaw
from ...plan.base import BasePlan
from ...shop import Stock


class PackingPlan(BasePlan):
    """Shims under a three-jaw's jaws, to mend a runout or for a throw under ``throw_jaw``."""

    procedure: Literal["packing"] = "packing"
    holder: ThreeJaw
    stock: Annotated[Stock, ShimsOf("Shims from")]
    throw_mm: Annotated[
        float, LengthOf("Throw wanted", "0: mend a runout. The part goes away from the packed jaw.", most=100)
    ] = 0.0
    throw_jaw: Annotated[int, NumberOf("Packed jaw, for a throw", least=1, most=3)] = 1
