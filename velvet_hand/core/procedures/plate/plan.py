"""What plate is planned with."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ...plan.base import BasePlan


class HeightsPlan(BasePlan):
    """A plate or block read from above on a datum, ``columns`` by ``rows`` places, or along its edges only.

    ``repeats`` close readings at the first place show the tool marks; ``inverted`` reads it turned over, left for right, on two
    blocks as well, of which the right one is ``blocks_differ_mm`` taller. The budget: what parallels, table, vise and ram can explain.
    """

    procedure: Literal["plate"] = "plate"
    depth_mm: float = 100.0
    columns: int = Field(default=3, ge=2, le=12)
    rows: int = Field(default=3, ge=2, le=12)
    pattern: Literal["grid", "edges"] = "grid"
    repeats: int = Field(default=3, ge=0, le=8)
    inverted: Literal["no", "yes"] = "no"
    blocks_differ_mm: float = 0.0
    parallels_mm: float = 0.0
    table_mm: float = 0.0
    vise_mm: float = 0.0
    ram_mm: float = 0.0

    @property
    def grid(self) -> tuple[int, int] | None:
        """See ``BasePlan``."""
        return (self.columns, self.rows) if self.pattern == "grid" and self.columns > 1 else None

    @property
    def width_mm(self) -> float:
        """Left to right; the part's size."""
        return self.part.diameter_mm

    @property
    def places(self) -> tuple[tuple[float, float], ...]:
        """Places in the order of reading: row by row and back again, or once round the edges from the front left."""
        x = [self.width_mm * (0.06 + 0.88 * i / (self.columns - 1)) for i in range(self.columns)]
        y = [self.depth_mm * (0.06 + 0.88 * i / (self.rows - 1)) for i in range(self.rows)]
        if self.pattern == "grid":
            return tuple((a, b) for n, b in enumerate(y) for a in (x if n % 2 == 0 else x[::-1]))
        front, right = [(a, y[0]) for a in x], [(x[-1], b) for b in y[1:]]
        back, left = [(a, y[-1]) for a in x[-2::-1]], [(x[0], b) for b in y[-2:0:-1]]
        return (*front, *right, *back, *left)
