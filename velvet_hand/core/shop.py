"""Machines, holders and stock, with the fields that the computation uses."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal

from pydantic import Field

from .errors import BadInput
from .fields import LengthOf, PiecesOf
from .model import Model

MachineKind = Literal["lathe", "mill", "plate"]


class Floor(Model):
    """What a machine was found to hold on a day: the TIR it cannot repeat below, and what that comes from, each in mm.

    ``play_mm`` is how far it gives, pushed and pulled, along each axis; ``spindle_mm`` the TIR of the spindle with what holds the bar.
    """

    at: datetime
    floor_mm: float = Field(ge=0, le=1)
    play_mm: dict[Literal["X", "Y", "Z"], float] = Field(default_factory=dict)
    backlash_mm: float | None = None
    spindle_mm: float | None = None


class Machine(Model):
    """A machine. ``floor_mm`` is the TIR it cannot repeat below (spindle, play), as typed at ``floor_at`` or as found last.

    ``found`` is what set-ups found it to hold, oldest first; the Shop does not keep it, the set-ups do.
    """

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: MachineKind
    floor_mm: Annotated[
        float, LengthOf("Repeats to, TIR", "The floor: what it cannot do better. Read a true bar twice.", most=1)
    ]
    floor_at: datetime | None = None
    found: tuple[Floor, ...] = ()

    def knowing(self, found: tuple[Floor, ...]) -> Machine:
        """The machine with what was found; the last finding is its floor, unless another was typed after it."""
        if not found:
            return self
        newer = self.floor_at is None or self.floor_at < found[-1].at
        floor_mm = found[-1].floor_mm if newer else self.floor_mm
        return self.model_copy(update={"found": found, "floor_mm": floor_mm})

    def check(self) -> None:
        """Nothing of a machine forbids another."""


class Memory(Model):
    """What a holder answered in earlier set-ups, as each of them taught it; nothing when nothing is known.

    ``taught`` is (value, variance) of each parameter, the oldest lesson first; ``repeat_mm`` how far readings of one spot came back;
    ``per_tap_mm`` what one tap moved, where taps were counted.
    """

    setups: int = 0
    taught: dict[str, tuple[tuple[float, float], ...]] = Field(default_factory=dict)
    repeat_mm: float | None = None
    per_tap_mm: float | None = None


class Piece(Model):
    """A size in the drawer, and how many of it there are."""

    mm: float = Field(gt=0, le=500)
    count: int = Field(ge=0, le=1000)


class Stock(Model):
    """Shims, offset dowels (the offset of their two halves) or gauge blocks, as they lie in the drawer."""

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: Literal["shims", "dowels", "blocks"]
    pieces: Annotated[
        tuple[Piece, ...],
        PiecesOf(
            "Sizes, and how many of each",
            'Size x count, with spaces between: 0.05x4 0.1x4 .002"x6. Dowels: their offset, two of a size. Blocks: 1.005 1.01 1.02.',
        ),
    ] = Field(default=(), max_length=130)

    def check(self) -> None:
        """Refuse what cannot be.

        Raises
        ------
        BadInput
            A size that is there twice.
        """
        if len({piece.mm for piece in self.pieces}) < len(self.pieces):
            raise BadInput("field_invalid", "A size is there twice.", "Put its pieces together in one line.", "pieces")
