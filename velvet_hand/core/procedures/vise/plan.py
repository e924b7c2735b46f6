"""What vise is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, OneOf
from ...holders import Vise
from ...plan.edge import EdgeBase


class VisePlan(EdgeBase):
    """A vise square by its fixed jaw, read on the jaw or over two round ``rods`` held to it.

    ``rods_differ_mm`` is how much thicker the rod farther along is; ``keys`` whether keys are fitted.
    """

    procedure: Literal["vise"] = "vise"
    holder: Vise
    read_on: Annotated[
        Literal["jaw", "rods"],
        OneOf("Read on", words={"jaw": "the fixed jaw", "rods": "two round rods, peak over each"}),
    ] = "jaw"
    rods_differ_mm: Annotated[
        float,
        LengthOf(
            "Second rod is thicker by", "Mic both: what they differ by would pass for out of square.", least=-1, most=1
        ),
    ] = 0.0
    keys: Annotated[Literal["out", "in"], OneOf("Keys", words={"out": "taken out", "in": "fitted"})] = "out"
