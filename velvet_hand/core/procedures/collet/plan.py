"""What collet is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import AnglesOf, LengthOf
from ...holders import Collet
from ...plan.base import BasePlan


class ColletPlan(BasePlan):
    """A collet turned in its taper to ``positions_deg``; read at the nose and ``far_z_mm`` out from there."""

    procedure: Literal["collet"] = "collet"
    holder: Collet
    far_z_mm: Annotated[float, LengthOf("Far plane, out from the nose", least=2, most=1000)]
    positions_deg: Annotated[
        tuple[float, ...],
        AnglesOf("Collet turned to, degrees", "Two to four, with spaces. The bar turns with the collet.", most=360),
    ] = (0.0, 180.0)
