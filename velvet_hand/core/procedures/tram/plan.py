"""What tram is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf
from ...holders import MillHead
from ...plan.base import BasePlan


class TramPlan(BasePlan):
    """A head swept over a table on a circle of the part's diameter, seen from above (x right, y to the back).

    ``pivot_x_mm`` is how far to the right of the spindle the swivel's axis lies, ``pivot_y_mm`` how far
    behind it the nod's; ``quill_mm`` the travel of the quill that is checked along a square (0: not checked).
    """

    procedure: Literal["tram"] = "tram"
    holder: MillHead
    pivot_x_mm: Annotated[
        float,
        LengthOf(
            "Swivel’s axis, right of the spindle",
            "0 when the head swivels about the spindle; minus to the left.",
            least=-2000,
            most=2000,
        ),
    ] = 0.0
    pivot_y_mm: Annotated[float, LengthOf("Nod’s axis, behind the spindle", "0 when it does not nod.", least=-2000)] = (
        0.0
    )
    quill_mm: Annotated[
        float, LengthOf("Quill’s travel to check", "Along a square, in x and in y. 0: not checked.", most=1000)
    ] = 0.0
