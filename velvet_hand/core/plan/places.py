"""Places along a part or an edge, in the shop's unit of size."""

from __future__ import annotations

from ..units import format_size
from .base import BasePlan


def place_word(plan: BasePlan, x_mm: float) -> str:
    """A place along an edge, in the shop's size unit."""
    return f"{x_mm:g} mm" if plan.unit in ("mm", "um") else format_size(x_mm, plan.unit)


def about_word(plan: BasePlan, x_mm: float) -> str:
    """A place that is only known roughly: to a millimeter, or to a twentieth of an inch."""
    return f"{x_mm:.0f} mm" if plan.unit in ("mm", "um") else f"{round(x_mm / 1.27) * 0.05:.2f} in"
