"""What rod is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.edge import EdgeBase


class RodPlan(EdgeBase):
    """Roughing in: a gap at the far end of an edge after it touches a rod (or beside a T-slot) at the first."""

    procedure: Literal["rod"] = "rod"
    by: Literal["rod", "slot"] = "rod"
