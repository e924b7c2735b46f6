"""Machines, holders and stock, with the fields that the computation uses."""

from __future__ import annotations

from datetime import datetime
from typing import Literal

from pydantic import Field

from .model import Model

HolderKind = Literal[
    "four_jaw_independent",
    "three_jaw",
    "adjustable_body",
    "collet",
    "centres",
    "faceplate",
    "dowelled_housing",
    "mill_head",
    "vise",
    "vise_pair",
    "fixture",
    "rotary_table",
    "surface_plate",
    "column",
]


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
    floor_mm: float = Field(ge=0, le=1)
    floor_at: datetime | None = None
    found: tuple[Floor, ...] = ()

    def knowing(self, found: tuple[Floor, ...]) -> Machine:
        """The machine with what was found; the last finding is its floor, unless another was typed after it."""
        if not found:
            return self
        newer = self.floor_at is None or self.floor_at < found[-1].at
        floor_mm = found[-1].floor_mm if newer else self.floor_mm
        return self.model_copy(update={"found": found, "floor_mm": floor_mm})


class Memory(Model):
    """What a holder answered in earlier set-ups; all zero when nothing is known.

    ``gain`` is the part of an asked move that arrived, over ``moves`` moves; ``kick_x_mm`` and
    ``kick_y_mm`` the mean shift on tightening (holder's angles) over ``kicks`` tightenings, with
    ``kick_sd_mm`` its scatter; ``repeat_mm`` how far readings of one spot came back; ``per_tap_mm`` what one
    tap moved, where taps were counted.
    """

    setups: int = 0
    moves: int = 0
    gain: float = 1.0
    gain_sd: float = 0.15
    kicks: int = 0
    kick_x_mm: float = 0.0
    kick_y_mm: float = 0.0
    kick_sd_mm: float = 0.0
    repeat_mm: float | None = None
    per_tap_mm: float | None = None


class Holder(Model):
    """What holds the work. Which fields matter depends on ``kind``.

    Of a vise, a fixture or a long part ``edge_mm`` is the length of the jaw or edge that is read, ``depth_mm`` how
    far it reaches the other way, ``bolts_mm`` where its hold-down bolts sit along the edge, from its left end;
    ``key_clearance_mm`` the play of its keys in the slot (None: it has none), ``key_span_mm`` how far apart they
    are; ``torque`` what its own papers say, in their words.

    ``jaws`` is the number of jaws, screws or bolts; ``lead_mm`` a jaw screw's or adjusting screw's
    travel for one turn of the key (None: not measured yet); ``numbering`` the way the numbers run,
    seen from the tailstock; ``rings_mm`` radii of the rings on its face; ``jaw_width_mm`` how wide a
    jaw's flat is (0: narrow); ``clearance_mm`` how far an adjustable body can go from its middle;
    ``follows`` which way that body goes: away from a drawn screw (screws in a ring press on it) or
    toward it (screws in the body press on a boss); ``runout_mm`` the TIR its papers promise.
    """

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: HolderKind
    diameter_mm: float = Field(gt=0, le=3000)
    min_work_mm: float = Field(ge=0, le=3000)
    max_work_mm: float = Field(gt=0, le=3000)
    lead_mm: float | None = Field(default=None, gt=0, le=50)
    numbering: Literal["ccw", "cw"] = "ccw"
    rings_mm: tuple[float, ...] = ()
    jaws: int = Field(default=4, ge=0, le=24)
    jaw_width_mm: float = Field(default=0.0, ge=0, le=500)
    clearance_mm: float | None = Field(default=None, gt=0, le=10)
    follows: Literal["away", "toward"] = "toward"
    runout_mm: float | None = Field(default=None, gt=0, le=5)
    edge_mm: float = Field(default=0.0, ge=0, le=5000)
    depth_mm: float = Field(default=0.0, ge=0, le=5000)
    bolts_mm: tuple[float, ...] = Field(default=(), max_length=12)
    key_clearance_mm: float | None = Field(default=None, ge=0, le=5)
    key_span_mm: float = Field(default=0.0, ge=0, le=5000)
    torque: str = Field(default="", max_length=80)
    forget_before: datetime | None = None

    def jaw_deg(self, jaw: int) -> float:
        """Angle of a jaw or screw, counted from number 1 and counter-clockwise."""
        return ((jaw - 1) * (360.0 / max(self.jaws, 1)) * (1 if self.numbering == "ccw" else -1)) % 360

    @property
    def numbers(self) -> tuple[int, ...]:
        """The numbers of its jaws or screws."""
        return tuple(range(1, self.jaws + 1))

    def opposite(self, jaw: int) -> int:
        """The jaw across from ``jaw``, in a holder with an even number of them."""
        return (jaw - 1 + self.jaws // 2) % self.jaws + 1


class Piece(Model):
    """A size in the drawer, and how many of it there are."""

    mm: float = Field(gt=0, le=50)
    count: int = Field(ge=0, le=1000)


class Stock(Model):
    """Shims, or offset dowels (the offset of their two halves), as they lie in the drawer."""

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: Literal["shims", "dowels"]
    pieces: tuple[Piece, ...]
