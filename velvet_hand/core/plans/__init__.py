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
from .mill import BedPlan, CentrePlan, ColumnPlan, EdgePlan, HeightsPlan, RodPlan, TramPlan, VisePairPlan, VisePlan

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
    | TramPlan
    | VisePlan
    | BedPlan
    | EdgePlan
    | RodPlan
    | CentrePlan
    | VisePairPlan
    | HeightsPlan
    | ColumnPlan,
    Field(discriminator="procedure"),
]

__all__ = [
    "AdjustablePlan",
    "BasePlan",
    "BedPlan",
    "CentrePlan",
    "ClockingPlan",
    "ColletPlan",
    "ColumnPlan",
    "DowelPlan",
    "EdgePlan",
    "FaceplatePlan",
    "FourJawPlan",
    "HeightsPlan",
    "Limit",
    "PackingPlan",
    "Plan",
    "ReversalPlan",
    "RodPlan",
    "RoughPlan",
    "School",
    "ShaftPlan",
    "ThrowPlan",
    "TramPlan",
    "TwoPlanesPlan",
    "VisePairPlan",
    "VisePlan",
    "Workpiece",
]
