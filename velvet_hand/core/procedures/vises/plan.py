"""What vises is planned with."""

from __future__ import annotations

from typing import Annotated, ClassVar, Literal

from ...fields import LengthOf, LengthsOf, NumberOf, OneOf, ShimsOf
from ...holders import VisePair
from ...plan.edge import EdgeBase, Way
from ...shop import Stock


class VisePairPlan(EdgeBase):
    """Two vises of one kind in line, or a vise and a stop: ``spots_mm`` count in each from its own first end.

    The second’s first end lies ``apart_mm`` from the first’s; ``hinge`` says which outer bolt the train swings about, and so
    which of the two keeps its place. With ``spans`` a part lies over both, and their beds are compared as well.
    """

    procedure: Literal["vises"] = "vises"
    spread: ClassVar[tuple[float, ...]] = (0.0625, 0.5, 0.9375)
    holder: VisePair
    apart_mm: Annotated[float, LengthOf("First end of the one to first end of the other", least=10, rank=0)] = 260.0
    second: Annotated[
        Literal["vise", "stop"],
        OneOf("The second is", words={"vise": "a vise", "stop": "a stop beside the jaw"}, rank=0),
    ] = "vise"
    bar: Annotated[
        Literal["through", "none"],
        OneOf(
            "A bar through both",
            "It moves both as one; take it out before each is squared by itself.",
            words={"through": "clamped through both first", "none": "none"},
            rank=0,
        ),
    ] = "through"
    spots_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "Spots along each jaw",
            "From its left (or front) end, a space between; empty: spread along it. Below the lip, past nicks.",
            most=5000,
            rank=10,
        ),
    ] = ()
    hinge: Annotated[
        Literal["low", "high"],
        OneOf(
            "Outer hinge",
            "The vise with the hinge keeps its place; the other comes to it.",
            words={"low": "left (front)", "high": "right (back)"},
            rank=13,
        ),
    ] = "low"
    spans: Annotated[
        Literal["yes", "no"], OneOf("A part lies over both", words={"no": "no", "yes": "yes: compare the beds too"})
    ] = "no"
    bed_limit_mm: Annotated[float, LengthOf("Beds level within", least=0.001, most=2)] = 0.02
    stock: Annotated[Stock | None, ShimsOf("Shims from")] = None
    hidden_nuts: Annotated[int, NumberOf("Sockets left on hidden nuts", "Each is asked for before power.", most=8)] = 0
    way: Way = "swing"
    over_length_mm: float = 300.0

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
