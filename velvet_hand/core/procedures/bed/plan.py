"""What bed is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, LengthsOf, ShimsOf
from ...holders import Vise
from ...plan.edge import EdgeBase
from ...shop import Stock


class BedPlan(EdgeBase):
    """A vise whose bed is leveled by shims first, at the places (``bed_x_mm``, ``bed_y_mm``), then its jaw squared.

    x counts along the jaw, y away from its front (of a jaw from front to back: to the left of its right side); the base
    stands on its four corners. ``parallels_differ_mm`` is how much the parallel farther away (in y) is taller.
    """

    procedure: Literal["bed"] = "bed"
    holder: Vise
    bed_x_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "Bed read at, along the jaw", "Three or more places; from the jaw’s left (front) end.", most=5000, rank=0
        ),
    ] = (15.0, 145.0, 15.0, 145.0)
    bed_y_mm: Annotated[
        tuple[float, ...],
        LengthsOf("and away from the front of the base", "One for each, in the same order.", most=5000, rank=0),
    ] = (15.0, 15.0, 90.0, 90.0)
    bed_limit_mm: Annotated[
        float, LengthOf("Bed level within", "Over all that is read of it.", least=0.001, most=2, rank=0)
    ] = 0.02
    parallels_differ_mm: Annotated[
        float,
        LengthOf("Farther parallel is taller by", "Mic both. 0 when the ways are read.", least=-1, most=1, rank=0),
    ] = 0.0
    stock: Annotated[Stock, ShimsOf("Shims from", rank=0)]

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far")

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "bed-" else ""
