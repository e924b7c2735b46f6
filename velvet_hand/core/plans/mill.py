"""Plans of what is indicated on the mill.

Everything is seen from above, by somebody standing at the machine: x to the right, y away. An edge lies from left to
right, or from front to back; places along it count from its left (front) end.
"""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field

from ..shop import Stock
from ..verdict import LimitKind
from .base import ANGLE_OVER_MM, BasePlan

End = Literal["left", "right", "front", "back"]
Lies = Literal["across", "along"]
Way = Literal["swing", "zero", "half"]


class TramPlan(BasePlan):
    """A head swept over a table on a circle of the part's diameter, seen from above (x right, y to the back).

    ``pivot_x_mm`` is how far to the right of the spindle the swivel's axis lies, ``pivot_y_mm`` how far
    behind it the nod's; ``quill_mm`` the travel of the quill that is checked along a square (0: not checked).
    """

    procedure: Literal["tram"] = "tram"
    pivot_x_mm: float = 0.0
    pivot_y_mm: float = 0.0
    quill_mm: float = 0.0


class EdgeBase(BasePlan):
    """An edge that is set to the table's travel, or to an angle with it.

    ``spots_mm`` are the places read; the gauge stands on the ``near`` side of the edge (in front of it, or to its right)
    or on the ``far`` side; ``hinge`` is the end whose bolt is snug (``low``: left or front, ``high``: right or
    back), ``target_deg`` the angle that is wanted, counter-clockwise from above.
    """

    spots_mm: tuple[float, ...] = (10.0, 45.0, 80.0, 115.0, 150.0)
    lies: Lies = "across"
    gauge_side: Literal["near", "far"] = "near"
    hinge: Literal["low", "high", "none"] = "low"
    way: Way = "swing"
    target_deg: float = 0.0
    over_length_mm: float = 300.0

    @property
    def measured_word(self) -> str:
        """See ``BasePlan``."""
        return "Play of the table"

    @property
    def gauge_way(self) -> complex:
        """Unit vector from the edge toward the gauge (real: right, imaginary: away)."""
        way = -1j if self.lies == "across" else 1 + 0j
        return way if self.gauge_side == "near" else -way

    @property
    def edge_way(self) -> complex:
        """Unit vector along the edge, from its first end."""
        return 1 + 0j if self.lies == "across" else 1j

    @property
    def turn_sign(self) -> int:
        """+1 when a counter-clockwise turn (from above) makes the far end come toward the gauge."""
        return round((self.edge_way * 1j * self.gauge_way.conjugate()).real)

    @property
    def target_slope(self) -> float:
        """Slope of the toward values when the edge stands as it is wanted."""
        return self.turn_sign * math.tan(math.radians(self.target_deg))

    @property
    def edge_mm(self) -> float:
        """Length of the edge; of one that was not given, what is read of it."""
        return self.holder.edge_mm or max(self.spots_mm) - min(self.spots_mm)

    @property
    def limit_length_mm(self) -> float:
        """The length that the limit is meant over."""
        lengths: dict[LimitKind, float] = {
            "over_part": self.part.diameter_mm,
            "over_length": self.over_length_mm,
            "angle": ANGLE_OVER_MM,
        }
        return lengths.get(self.limit.kind, self.edge_mm)

    def end_word(self, high: bool) -> End:
        """The name of an end."""
        names: tuple[End, End] = ("left", "right") if self.lies == "across" else ("front", "back")
        return names[high]


class VisePlan(EdgeBase):
    """A vise square by its fixed jaw, read on the jaw or over two round ``rods`` held to it.

    ``rods_differ_mm`` is how much thicker the rod farther along is; ``keys`` whether keys are fitted.
    """

    procedure: Literal["vise"] = "vise"
    read_on: Literal["jaw", "rods"] = "jaw"
    rods_differ_mm: float = 0.0
    keys: Literal["out", "in"] = "out"


class BedPlan(EdgeBase):
    """A vise whose bed is levelled by shims first, at the places (``bed_x_mm``, ``bed_y_mm``), then its jaw squared.

    x counts along the jaw, y away from its front (of a jaw from front to back: to the left of its right side); the base
    stands on its four corners. ``parallels_differ_mm`` is how much the parallel farther away (in y) is taller.
    """

    procedure: Literal["bed"] = "bed"
    bed_x_mm: tuple[float, ...] = (15.0, 145.0, 15.0, 145.0)
    bed_y_mm: tuple[float, ...] = (15.0, 15.0, 90.0, 90.0)
    parallels_differ_mm: float = 0.0
    bed_limit_mm: float = 0.01
    stock: Stock

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far")

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "bed-" else ""


class EdgePlan(EdgeBase):
    """A named edge: of an angle plate, a fixture plate, long work or soft jaws.

    With ``upright_mm`` the face is read up and down as well, over that height, and shimmed from ``stock``.
    """

    procedure: Literal["edge"] = "edge"
    thing: Literal["angle_plate", "fixture_plate", "long_work", "soft_jaws"] = "fixture_plate"
    upright_mm: float = 0.0
    base_mm: float = 100.0
    stock: Stock | None = None


class RodPlan(EdgeBase):
    """Roughing in: a gap at the far end of an edge after it touches a rod (or beside a T-slot) at the first."""

    procedure: Literal["rod"] = "rod"
    by: Literal["rod", "slot"] = "rod"


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


class HeightsPlan(BasePlan):
    """A plate or block read from above on a datum, ``columns`` by ``rows`` places, or along its edges only.

    ``repeats`` close readings at the first place show the tool marks; ``inverted`` reads it turned over, left for right, on two
    blocks as well, of which the right one is ``blocks_differ_mm`` taller. The budget: what parallels, table, vise and ram can explain.
    """

    procedure: Literal["plate"] = "plate"
    depth_mm: float = 100.0
    columns: int = Field(default=3, ge=2, le=12)
    rows: int = Field(default=3, ge=2, le=12)
    pattern: Literal["grid", "edges"] = "grid"
    repeats: int = Field(default=3, ge=0, le=8)
    inverted: Literal["no", "yes"] = "no"
    blocks_differ_mm: float = 0.0
    parallels_mm: float = 0.0
    table_mm: float = 0.0
    vise_mm: float = 0.0
    ram_mm: float = 0.0

    @property
    def width_mm(self) -> float:
        """Left to right; the part's size."""
        return self.part.diameter_mm

    @property
    def places(self) -> tuple[tuple[float, float], ...]:
        """Places in the order of reading: row by row and back again, or once round the edges from the front left."""
        x = [self.width_mm * (0.06 + 0.88 * i / (self.columns - 1)) for i in range(self.columns)]
        y = [self.depth_mm * (0.06 + 0.88 * i / (self.rows - 1)) for i in range(self.rows)]
        if self.pattern == "grid":
            return tuple((a, b) for n, b in enumerate(y) for a in (x if n % 2 == 0 else x[::-1]))
        front, right = [(a, y[0]) for a in x], [(x[-1], b) for b in y[1:]]
        back, left = [(a, y[-1]) for a in x[-2::-1]], [(x[0], b) for b in y[-2:0:-1]]
        return (*front, *right, *back, *left)


class ColumnPlan(BasePlan):
    """A column by its flange on a rotary axis, its far end ``far_z_mm`` out held by a tailstock.

    ``bar`` trues the axis first, by a bar read at ``bar_near_mm`` and ``bar_far_mm`` on top and at the side, turned half over;
    shims go between flange and table on ``bolt_radius_mm``; the tailstock’s centre is ``centre_z_mm`` out.
    """

    procedure: Literal["column"] = "column"
    far_z_mm: float = 250.0
    face_radius_mm: float = 0.0
    bolt_radius_mm: float = 45.0
    bolts: int = Field(default=3, ge=3, le=8)
    flange_limit_mm: float = 0.05
    stock: Stock
    tail: Literal["yes", "no"] = "yes"
    centre_z_mm: float = 280.0
    gives: Literal["tips", "bends", "between"] = "tips"
    sag_mm: float | None = None
    bar: Literal["yes", "no"] = "no"
    bar_near_mm: float = 30.0
    bar_far_mm: float = 230.0
    bar_diameter_mm: float = 25.0
    bar_taper_mm: float = 0.0
    foot_mm: float = 200.0

    @property
    def slots(self) -> tuple[str, ...]:
        """See ``BasePlan``."""
        return ("", "far") if self.face_radius_mm else ("",)

    def slot(self, ring: str) -> str:
        """See ``BasePlan``."""
        return "far" if ring == "face-" else ""


class CentrePlan(BasePlan):
    """The centre of a rotary table brought under the spindle: handles ``x_plus`` and ``y_plus`` move the table."""

    procedure: Literal["centre"] = "centre"
    x_clockwise: Literal["left", "right"] = "right"
    y_clockwise: Literal["toward", "away"] = "away"
    dial_mm: float = Field(default=5.0, gt=0)
