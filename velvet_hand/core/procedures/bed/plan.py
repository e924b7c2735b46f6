"""What bed is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.edge import EdgeBase
from ...shop import Stock


class BedPlan(EdgeBase):
    """A vise whose bed is levelled by shims first, at the places (``bed_x_mm``, ``bed_y_mm``), then its jaw squared.

    x counts along the jaw, y away from its front (of a jaw from front to back: to the left of its right side); the base
    stands on its four corners. ``parallels_differ_mm`` is how much the parallel farther away (in y) is taller.
    """

    procedure: Literal["bed"] = "bed"
    bed_x_mm: tuple[float, ...] = (15.0, 145.0, 15.0, 145.0)
    bed_y_mm: tuple[float, ...] = (15.0, 15.0, 90.0, 90.0)
    parallels_differ_mm: float = 0.0
    bed_limit_mm: float = 0.01
    stock: Stock

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far")

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "bed-" else ""
