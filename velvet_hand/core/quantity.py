"""Anything that is told or judged: a figure that knows what it is."""

from __future__ import annotations

from typing import Literal, get_args

from .model import Model
from .wording import Text, length, text

#: What a limit may be set on.
LimitKind = Literal[
    "tir",
    "off_centre",
    "throw",
    "sideways",
    "over_jaw",
    "over_part",
    "over_length",
    "angle",
    "parallel",
    "flat",
    "in_line",
    "shows",
]
Kind = Literal[
    LimitKind,
    "straight",
    "step",
    "level",
    "height",
    "lean",
    "half_tir",
    "over_bar",
    "lean_tir",
    "pushed",
    "chuck_tir",
    "run_out",
    "hysteresis",
]
#: After a figure, in a sentence.
KIND_WORDS: dict[Kind, str] = {
    "tir": "TIR",
    "off_centre": "off center",
    "throw": "off the throw",
    "sideways": "off its direction, sideways",
    "over_jaw": "over the jaw",
    "over_part": "over the part",
    "over_length": "over the length asked for",
    "angle": "off its angle",
    "parallel": "out of parallel",
    "flat": "out of flat",
    "in_line": "over both jaws",
    "shows": "off along its travel",
    "hysteresis": "of hysteresis",
    "straight": "not straight",
    "step": "of step",
    "level": "off level",
    "height": "off in height",
    "lean": "of lean over the limit’s length",
    "half_tir": "half of the TIR",
    "over_bar": "over the bar",
    "lean_tir": "TIR of lean at the far end",
    "pushed": "when the center is tightened",
    "chuck_tir": "TIR of the chuck’s own",
    "run_out": "TIR",
}
#: Over a column of a table.
HEADS: dict[Kind, str] = {
    "tir": "TIR",
    "off_centre": "Off center",
    "throw": "Off the throw",
    "sideways": "Off its direction",
    "over_jaw": "Over the jaw",
    "over_part": "Over the part",
    "over_length": "Over the length",
    "angle": "Off its angle",
    "parallel": "Parallel",
    "flat": "Flat",
    "in_line": "Out of line",
    "shows": "Off by",
    "hysteresis": "Hysteresis",
    "straight": "Not straight",
    "step": "Step",
    "level": "Off level",
    "height": "Height",
    "half_tir": "Half of it",
    "chuck_tir": "Chuck, TIR",
    "run_out": "Far end, TIR",
}


class Quantity(Model):
    """``mm`` of a kind, with its standard uncertainty; a rise may be told ``over_mm`` of length."""

    kind: Kind
    mm: float
    u_mm: float | None = None
    over_mm: float | None = None

    def over(self, length_mm: float) -> Quantity:
        """The same slope over another length.

        Examples
        --------
        >>> Quantity(kind="over_jaw", mm=0.01, u_mm=0.002, over_mm=100).over(300).mm
        0.03
        """
        part = length_mm / self.over_mm if self.over_mm else 1.0
        u = None if self.u_mm is None else self.u_mm * part
        return self.model_copy(update={"mm": self.mm * part, "u_mm": u, "over_mm": length_mm})

    @property
    def told(self) -> Text:
        """The figure and what it is."""
        return text(length(self.mm), f" {KIND_WORDS[self.kind]}")


assert set(KIND_WORDS) == {kind for part in get_args(Kind) for kind in (get_args(part) or (part,))}
