"""An edge that is set to the table’s travel, seen from above by somebody standing at the machine: x to the right, y away.

An edge lies from left to right, or from front to back; places along it count from its left (front) end.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from typing import Annotated, Any, ClassVar, Literal

from pydantic import model_validator

from ..fields import AngleOf, LengthOf, LengthsOf, OneOf
from ..holders import OnTheTable
from ..measure.edge import Edge
from ..quantity import LimitKind
from ..readings import Station
from .base import ANGLE_OVER_MM, ROUGHNESS, BasePlan
from .places import place_word

End = Literal["left", "right", "front", "back"]
Lies = Literal["across", "along"]
Way = Literal["swing", "zero", "half"]

#: Kinds of limit that an edge may have.
EDGE_LIMITS: tuple[LimitKind, ...] = ("over_jaw", "over_part", "over_length", "angle")


class EdgeBase(BasePlan):
    """An edge that is set to the table's travel, or to an angle with it.

    ``spots_mm`` are the places read; the gauge stands on the ``near`` side of the edge (in front of it, or to its right)
    or on the ``far`` side; ``hinge`` is the end whose bolt is snug (``low``: left or front, ``high``: right or
    back), ``target_deg`` the angle that is wanted, counter-clockwise from above.
    """

    holder: OnTheTable
    spots_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "Spots along the edge",
            "From its left (or front) end, a space between; empty: spread along it. Below the lip, past nicks.",
            most=5000,
            rank=10,
        ),
    ] = ()
    lies: Annotated[
        Lies, OneOf("The edge lies", words={"across": "left to right", "along": "front to back"}, rank=11)
    ] = "across"
    gauge_side: Annotated[
        Literal["near", "far"],
        OneOf(
            "The indicator stands",
            words={"near": "in front of it, or to its right", "far": "behind it, or to its left"},
            rank=12,
        ),
    ] = "near"
    hinge: Annotated[
        Literal["low", "high", "none"],
        OneOf(
            "Hinge, the snug bolt",
            "The end that touches first, or that you can reach least well. The other bolt only finger tight.",
            words={"low": "left (front)", "high": "right (back)", "none": "none"},
            rank=13,
        ),
    ] = "low"
    way: Annotated[
        Way,
        OneOf(
            "Way of working", words={"swing": "by its pivot", "zero": "zero at the hinge", "half": "tap half"}, rank=14
        ),
    ] = "swing"
    edge_finish: Annotated[
        Literal["ground", "milled", "rough"],
        OneOf(
            "What is read is",
            "How straight it can be expected to be, until the readings tell.",
            words={"ground": "ground", "milled": "milled", "rough": "rough"},
            rank=89,
        ),
    ] = "ground"
    target_deg: Annotated[
        float,
        AngleOf(
            "Angle wanted", "0: square. Else degrees, counter-clockwise seen from above.", least=-45, most=45, rank=90
        ),
    ] = 0.0
    over_length_mm: Annotated[
        float, LengthOf("Length asked for", "For a limit over a length of its own.", least=10, most=5000, rank=91)
    ] = 300.0

    #: Where along it is read when nobody says, in parts of its length.
    spread: ClassVar[tuple[float, ...]] = (0.0625, 0.28125, 0.5, 0.71875, 0.9375)

    @model_validator(mode="before")
    @classmethod
    def _spread_along(cls, raw: Any) -> Any:
        """Spots that nobody typed fit what is held."""
        if isinstance(raw, dict) and not raw.get("spots_mm") and raw.get("holder") is not None:
            holder = raw["holder"]
            length = holder["edge_mm"] if isinstance(holder, dict) else holder.edge_mm
            return {**raw, "spots_mm": tuple(round(part * length, 1) for part in cls.spread)}
        return raw

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
    def roughness(self) -> float:
        """How far its form spreads, against a ground edge."""
        return ROUGHNESS["turned" if self.edge_finish == "milled" else self.edge_finish]

    @property
    def edge_mm(self) -> float:
        """Length of the edge."""
        return self.holder.edge_mm

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


def side_word(plan: EdgeBase, toward: bool) -> str:
    """Which way that is for somebody standing at the machine: toward the gauge, or away from it."""
    way = plan.gauge_way if toward else -plan.gauge_way
    if abs(way.imag) > abs(way.real):
        return "away from you" if way.imag > 0 else "toward you"
    return "to the right" if way.real > 0 else "to the left"


def corner_word(plan: EdgeBase, high: bool, toward: bool) -> str:
    """The corner that is struck: at that end, on the side that it is pushed from."""
    way = -plan.gauge_way if toward else plan.gauge_way
    end = plan.end_word(high)
    if abs(way.imag) > abs(way.real):
        return f"{'back' if way.imag > 0 else 'front'} {end} corner"
    return f"{end} {'right' if way.real > 0 else 'left'} corner"


def edge_stations(plan: EdgeBase, ring: str = "", group: str = "", spot: str = "Spot") -> tuple[Station, ...]:
    """The plan's places along the edge as stations."""
    return tuple(
        Station.model_validate(
            {
                "id": f"{ring or 's'}{number}",
                "label": f"{spot} at {place_word(plan, x)}" if not group else f"{group}, {place_word(plan, x)}",
                "angle_deg": 0.0,
                "x_mm": x,
                "ring": ring,
                "group": group,
                "short": place_word(plan, x),
                "reads": plan.gauge.reads,
            }
        )
        for number, x in enumerate(plan.spots_mm, start=1)
    )


def edge(plan: EdgeBase, group: str = "", spot: str = "Spot", rises: Mapping[str, float] | None = None) -> Edge:
    """The plan's places as an edge; ``rises`` is what a spot stands out by itself."""
    return Edge(
        id="",
        stations=edge_stations(plan, "", group, spot),
        gauge=plan.gauge,
        floor_mm=plan.machine.floor_mm,
        length_mm=plan.edge_mm,
        wanted=plan.target_slope,
        rises=rises or {},
        finish=plan.roughness,
    )
