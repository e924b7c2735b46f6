"""What vises is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.edge import EdgeBase
from ...shop import Stock


class VisePairPlan(EdgeBase):
    """Two vises of one kind in line, or a vise and a stop: ``spots_mm`` count in each from its own first end.

    The second’s first end lies ``apart_mm`` from the first’s; ``hinge`` says which outer bolt the train swings about, and so
    which of the two keeps its place. With ``spans`` a part lies over both, and their beds are compared as well.
    """

    procedure: Literal["vises"] = "vises"
    apart_mm: float = 260.0
    second: Literal["vise", "stop"] = "vise"
    bar: Literal["through", "none"] = "through"
    spans: Literal["yes", "no"] = "no"
    bed_limit_mm: float = 0.02
    hidden_nuts: int = 0
    stock: Stock | None = None

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.spans == "yes" else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "bed-" else ""

    @property
    def whole_mm(self) -> float:
        """From the first end of the first to the far end of the second."""
        return self.apart_mm + (self.edge_mm if self.second == "vise" else self.stop_mm)

    @property
    def stop_mm(self) -> float:
        """A stop’s face is drawn this long."""
        return self.edge_mm / 5

    @property
    def limit_length_mm(self) -> float:
        """See ``EdgeBase``; the verdict is over both."""
        return self.whole_mm
