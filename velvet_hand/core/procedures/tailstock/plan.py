"""What a tailstock is set true with."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import model_validator

from ...fields import LengthOf, LengthsOf, OneOf, ShimsOf
from ...holders import Centres
from ...plan.base import BasePlan
from ...shop import Stock

#: Where a bar is read when nobody says, in parts of what is between the centers: alike at both ends, so that its sag cancels.
SPREAD = (0.1, 0.9)


class TailstockPlan(BasePlan):
    """A bar between centers, read at ``spots_mm`` from the headstock’s center on top and at the side ``gauge_at``, then turned half
    over; or two collars cut alike and measured across.

    ``thicker_mm`` is how much thicker the bar is at its last spot, ``high_mm`` how high the tailstock is wanted. Over ``quill_mm`` its
    quill is read as well; ``out_mm`` is from its front foot to the center’s point, ``base_mm`` from foot to foot: shims from ``stock``.
    """

    procedure: Literal["tailstock"] = "tailstock"
    holder: Centres
    by: Annotated[
        Literal["bar", "collars"],
        OneOf(
            "True by",
            "Collars are cut between centers in one setting of the cross slide; they know nothing of the height.",
            words={"bar": "a bar between centers, top and side", "collars": "two collars cut alike"},
            rank=0,
        ),
    ] = "bar"
    between_mm: Annotated[float, LengthOf("Between the centers", least=50, most=20000, rank=1)] = 300.0
    spots_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "Places read, from the headstock’s center",
            "Two or more; empty: near both ends. Collars: the middle of each.",
            most=20000,
            rank=2,
        ),
    ] = ()
    bar_mm: Annotated[
        float, LengthOf("Bar’s diameter", "For its sag, which is taken off on top.", least=5, most=500, rank=3)
    ] = 30.0
    thicker_mm: Annotated[
        float,
        LengthOf("Bar is thicker at the last place by", "Mic both: turning it half over leaves this in.", least=-1, most=1, rank=4),
    ] = 0.0  # fmt: skip
    gauge_at: Annotated[
        Literal["front", "back"],
        OneOf("Indicator or tool stands", words={"front": "on your side", "back": "on the far side"}, rank=5),
    ] = "front"
    high_mm: Annotated[
        float, LengthOf("Center wanted high by", "Some leave it a hair high for wear. 0: level.", most=1, rank=6)
    ] = 0.0
    quill_mm: Annotated[
        float, LengthOf("Quill read over", "How far out it is, less a little. 0: not read.", most=500, rank=7)
    ] = 0.0
    out_mm: Annotated[float, LengthOf("From its front foot to the center’s point", least=5, most=2000, rank=8)] = 120.0
    base_mm: Annotated[
        float, LengthOf("From front foot to back foot", "Along the bed, where shims lie.", least=20, most=2000, rank=9)
    ] = 150.0
    stock: Annotated[Stock | None, ShimsOf("Shims from")] = None
    over_length_mm: Annotated[
        float, LengthOf("Length asked for", "For a limit over a length of its own.", least=10, most=5000, rank=91)
    ] = 300.0

    @model_validator(mode="before")
    @classmethod
    def _spread_along(cls, raw: Any) -> Any:
        """Places that nobody typed fit what is between the centers."""
        if isinstance(raw, dict) and not raw.get("spots_mm"):
            length = raw.get("between_mm", 300.0)
            return {**raw, "spots_mm": tuple(round(part * length, 1) for part in SPREAD)}
        return raw

    @property
    def limit_length_mm(self) -> float:
        """The length that the limit is meant over."""
        return self.part.diameter_mm if self.limit.kind == "over_part" else self.over_length_mm

    @property
    def near_sign(self) -> int:
        """+1 where what comes nearer to the indicator (or tool) comes toward the person."""
        return 1 if self.gauge_at == "front" else -1
