"""What tram is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.base import BasePlan


class TramPlan(BasePlan):
    """A head swept over a table on a circle of the part's diameter, seen from above (x right, y to the back).

    ``pivot_x_mm`` is how far to the right of the spindle the swivel's axis lies, ``pivot_y_mm`` how far
    behind it the nod's; ``quill_mm`` the travel of the quill that is checked along a square (0: not checked).
    """

    procedure: Literal["tram"] = "tram"
    pivot_x_mm: float = 0.0
    pivot_y_mm: float = 0.0
    quill_mm: float = 0.0
