"""What two planes is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import GaugeOf, LengthOf, OneOf
from ...gauge import Gauge
from ...plan.jaws import JawPlan


class TwoPlanesPlan(JawPlan):
    """Two planes, in mm out from the middle of the jaws' grip; ``far_gauge`` when two gauges stand at once."""

    procedure: Literal["two_planes"] = "two_planes"
    near_z_mm: Annotated[float, LengthOf("Near plane, out from the jaws’ middle")]
    far_z_mm: Annotated[float, LengthOf("Far plane, out from the jaws’ middle", most=5000)]
    far_gauge: Annotated[
        Gauge | None,
        GaugeOf("Second indicator, at the far plane", "Empty: one indicator, moved along between the planes."),
    ] = None
    thin: Annotated[
        Literal["solid", "tube"],
        OneOf(
            "The part is",
            "A tube must not be squeezed: its form is compared before and after tightening.",
            words={"solid": "solid", "tube": "a thin tube"},
        ),
    ] = "solid"

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.far_gauge else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "far" and self.far_gauge else ""

    def gauge_in(self, slot: str) -> Gauge:
        """See ``BasePlan``."""
        return self.far_gauge if slot == "far" and self.far_gauge else self.gauge

    @property
    def planes_mm(self) -> tuple[float, float] | None:
        """See ``JawPlan``."""
        return self.near_z_mm, self.far_z_mm
