"""What column is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, NumberOf, OneOf, ShimsOf
from ...holders import Column
from ...plan.base import BasePlan
from ...shop import Stock


class ColumnPlan(BasePlan):
    """A column by its flange on a rotary axis, its far end ``far_z_mm`` out held by a tailstock.

    ``bar`` trues the axis first, by a bar read at ``bar_near_mm`` and ``bar_far_mm`` on top and at the side, turned half over;
    shims go between flange and table on ``bolt_radius_mm``; the tailstock’s center is ``centre_z_mm`` out.
    """

    procedure: Literal["column"] = "column"
    holder: Column
    far_z_mm: Annotated[float, LengthOf("Far end is out from the flange by", least=20)] = 250.0
    stock: Annotated[Stock, ShimsOf("Shims from")]
    bolts: Annotated[int, NumberOf("Flange bolts", "A shim lies at each; number 1 at 0°.", least=3, most=8)] = 3
    bolt_radius_mm: Annotated[float, LengthOf("Shims lie at a radius of", least=5, most=1000)] = 45.0
    flange_limit_mm: Annotated[
        float,
        LengthOf(
            "Flange near enough within, TIR",
            "Only roughly: the far end is what counts. A lean that leaves the flange farther out is shimmed.",
            least=0.005,
            most=5,
        ),
    ] = 0.05
    face_radius_mm: Annotated[
        float, LengthOf("Flange face read at radius", "0: not read. It tells a bad seat from a bent column.", most=1500)
    ] = 0.0
    tail: Annotated[Literal["yes", "no"], OneOf("Tailstock", words={"yes": "comes up", "no": "none"})] = "yes"
    centre_z_mm: Annotated[float, LengthOf("Its center is out from the flange by", least=20, most=3500)] = 280.0
    gives: Annotated[
        Literal["tips", "bends", "between"],
        OneOf(
            "Pushed at its end, the column",
            "Push by hand and watch: all of it leans, or mostly its end.",
            words={"tips": "tips on its flange", "bends": "bends", "between": "some of both"},
        ),
    ] = "tips"
    sag_mm: Annotated[
        float | None,
        LengthOf("It sags by, free, at the far end", "Empty: counted as a solid steel bar of that diameter.", most=2),
    ] = None
    bar: Annotated[
        Literal["yes", "no"], OneOf("The rotary’s axis", words={"no": "is true", "yes": "is trued by a bar first"})
    ] = "no"
    bar_near_mm: Annotated[float, LengthOf("Bar read near, at")] = 30.0
    bar_far_mm: Annotated[float, LengthOf("and far, at")] = 230.0
    bar_diameter_mm: Annotated[float, LengthOf("Bar’s diameter", least=3, most=300)] = 25.0
    bar_taper_mm: Annotated[
        float, LengthOf("Bar is thicker at the far place by", "Mic it: a taper does not turn over.", least=-1, most=1)
    ] = 0.0
    foot_mm: Annotated[float, LengthOf("Feet of the rotary stand apart by", least=20, most=2000)] = 200.0

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.face_radius_mm else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "face-" else ""
