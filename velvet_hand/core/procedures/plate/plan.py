"""What plate is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, NumberOf, OneOf
from ...holders import SurfacePlate
from ...plan.base import BasePlan


class HeightsPlan(BasePlan):
    """A plate or block read from above on a datum, ``columns`` by ``rows`` places, or along its edges only.

    ``repeats`` close readings at the first place show the tool marks; ``inverted`` reads it turned over, left for right, on two
    blocks as well, of which the right one is ``blocks_differ_mm`` taller. The budget: what parallels, table, vise and ram can explain.
    """

    procedure: Literal["plate"] = "plate"
    holder: SurfacePlate
    depth_mm: Annotated[float, LengthOf("Depth, front to back", least=5)] = 100.0
    pattern: Annotated[
        Literal["grid", "edges"], OneOf("Read", words={"grid": "on a grid", "edges": "round the edges"})
    ] = "grid"
    columns: Annotated[int, NumberOf("Places left to right", least=2, most=12)] = 3
    rows: Annotated[int, NumberOf("Places front to back", least=2, most=12)] = 3
    repeats: Annotated[
        int, NumberOf("Close repeats at the first place", "Within a few millimeters: they show the tool marks.", most=8)
    ] = 3
    inverted: Annotated[
        Literal["no", "yes"], OneOf("Turned over on two blocks too", words={"no": "no", "yes": "yes, left for right"})
    ] = "no"
    blocks_differ_mm: Annotated[float, LengthOf("Right block is taller by", "Mic both.", least=-1, most=1)] = 0.0
    parallels_mm: Annotated[float, LengthOf("Parallels differ by", "Mic both, at the same spot.", most=5)] = 0.0
    table_mm: Annotated[
        float, LengthOf("Datum’s own tilt over it", "From sweeping it, or its certificate.", most=5)
    ] = 0.0
    vise_mm: Annotated[
        float, LengthOf("Vise or seat lifts by", "How much it lifts or rocks when it is clamped.", most=5)
    ] = 0.0
    ram_mm: Annotated[float, LengthOf("Column or ram gives by", "What it droops or gives over that way.", most=5)] = 0.0

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
