"""What the reading of a clamped part is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, NumberOf, OneOf, ShimsOf
from ...holders import Vise
from ...plan.base import BasePlan
from ...shop import Stock

FixedAt = Literal["back", "front", "left", "right"]


class ClampedPlan(BasePlan):
    """A part on parallels in a vise, its top read free and clamped, along the edge at either jaw.

    Places are counted in the vise: ``u`` along the jaws from the left (or front) end, ``v`` from the fixed jaw to the moving one.
    """

    procedure: Literal["clamped"] = "clamped"
    holder: Vise
    depth_mm: Annotated[float, LengthOf("Width, from jaw to jaw", least=5)] = 60.0
    fixed: Annotated[
        FixedAt,
        OneOf("Fixed jaw is at the", words={"back": "back", "front": "front", "left": "left", "right": "right"}),
    ] = "back"
    columns: Annotated[
        int, NumberOf("Places along each edge", "Two are the corners; three and more show a bow.", least=2, most=7)
    ] = 3
    top: Annotated[
        Literal["rough", "true"],
        OneOf("Its top is", words={"rough": "rough, or not known", "true": "parallel to its bottom"}),
    ] = "rough"
    stock: Annotated[Stock | None, ShimsOf("Shims from", "For parallels that differ; leave it empty for none.")] = None

    @property
    def length_mm(self) -> float:
        """Along the jaws."""
        return self.part.diameter_mm

    @property
    def places(self) -> tuple[tuple[float, float], ...]:
        """(u, v) in the order of reading: along the fixed jaw, and back along the moving one."""
        along = [self.length_mm * (0.06 + 0.88 * i / (self.columns - 1)) for i in range(self.columns)]
        v = 0.08 * self.depth_mm, 0.92 * self.depth_mm
        return (*((u, v[0]) for u in along), *((u, v[1]) for u in reversed(along)))

    def place_name(self, u: float, v: float) -> str:
        """Which jaw, and where along it."""
        low, high = ("left", "right") if self.fixed in ("back", "front") else ("front", "back")
        part = (u / self.length_mm - 0.06) / 0.88
        names = ((0.0, f"{low} end"), (0.5, "middle"), (1.0, f"{high} end"))
        where = next((name for at, name in names if abs(part - at) < 0.01), f"{part:.0%} along")
        return f"{'fixed' if v < self.depth_mm / 2 else 'moving'} jaw, {where}"

    def short_name(self, u: float, v: float) -> str:
        """The same, where there is little room."""
        return self.place_name(u, v).replace(" jaw", "").replace(" end", "")

    def seen(self, u: float, v: float) -> tuple[float, float]:
        """A place from above, the operator at the bottom."""
        return {
            "back": (u, self.depth_mm - v), "front": (u, v), "left": (v, u), "right": (self.depth_mm - v, u),
        }[self.fixed]  # fmt: skip
