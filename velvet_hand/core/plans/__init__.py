"""Plans: what a set-up was opened with. Each procedure has its own; ``Plan`` is any of them."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from .base import BasePlan, Limit, School, Workpiece
from .lathe import (
    AdjustablePlan,
    ClockingPlan,
    ColletPlan,
    DowelPlan,
    FaceplatePlan,
    FourJawPlan,
    PackingPlan,
    ReversalPlan,
    RoughPlan,
    ShaftPlan,
    ThrowPlan,
    TwoPlanesPlan,
)
from .mill import TramPlan

Plan = Annotated[
    FourJawPlan
    | RoughPlan
    | TwoPlanesPlan
    | ThrowPlan
    | ClockingPlan
    | PackingPlan
    | ReversalPlan
    | AdjustablePlan
    | ColletPlan
    | ShaftPlan
    | DowelPlan
    | FaceplatePlan
    | TramPlan,
    Field(discriminator="procedure"),
]

__all__ = [
    "AdjustablePlan",
    "BasePlan",
    "ClockingPlan",
    "ColletPlan",
    "DowelPlan",
    "FaceplatePlan",
    "FourJawPlan",
    "Limit",
    "PackingPlan",
    "Plan",
    "ReversalPlan",
    "RoughPlan",
    "School",
    "ShaftPlan",
    "ThrowPlan",
    "TramPlan",
    "TwoPlanesPlan",
    "Workpiece",
]
