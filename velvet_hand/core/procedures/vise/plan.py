"""What vise is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.edge import EdgeBase


class VisePlan(EdgeBase):
    """A vise square by its fixed jaw, read on the jaw or over two round ``rods`` held to it.

    ``rods_differ_mm`` is how much thicker the rod farther along is; ``keys`` whether keys are fitted.
    """

    procedure: Literal["vise"] = "vise"
    read_on: Literal["jaw", "rods"] = "jaw"
    rods_differ_mm: float = 0.0
    keys: Literal["out", "in"] = "out"
