"""What edge is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.edge import EdgeBase
from ...shop import Stock


class EdgePlan(EdgeBase):
    """A named edge: of an angle plate, a fixture plate, long work or soft jaws.

    With ``upright_mm`` the face is read up and down as well, over that height, and shimmed from ``stock``.
    """

    procedure: Literal["edge"] = "edge"
    thing: Literal["angle_plate", "fixture_plate", "long_work", "soft_jaws"] = "fixture_plate"
    upright_mm: float = 0.0
    base_mm: float = 100.0
    stock: Stock | None = None
