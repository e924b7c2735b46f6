"""What stands, hangs and lies in the made-up workshop: machines, holders, gauges, drawers."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any, TypeVar

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.shop import Holder, Machine, Piece, Stock

T = TypeVar("T", Machine, Holder, Gauge, Stock)

MACHINES = (
    Machine(id="bramble", name="Bramble lathe", kind="lathe", floor_mm=0.0025),
    Machine(id="little-owl", name="Little Owl lathe", kind="lathe", floor_mm=0.0012),
    Machine(id="wren", name="Wren lathe", kind="lathe", floor_mm=0.002),
    Machine(id="heron", name="Heron mill", kind="mill", floor_mm=0.005),
    Machine(id="slate", name="Slate plate", kind="plate", floor_mm=0.001),
)


def holder_of(item_id: str, name: str, kind: str, **more: Any) -> Holder:
    """A holder of the sample world; what does not matter for its kind is left at something usual."""
    base = {"diameter_mm": 160, "min_work_mm": 3, "max_work_mm": 120, "jaws": 0}
    return Holder.model_validate({"id": item_id, "name": name, "kind": kind, **base, **more})


def _chuck(item_id: str, name: str, diameter: float, lead: float | None, most: float, numbering: str = "ccw") -> Holder:
    return Holder.model_validate(
        {
            "id": item_id, "name": name, "kind": "four_jaw_independent", "diameter_mm": diameter,
            "min_work_mm": 6, "max_work_mm": most, "lead_mm": lead, "numbering": numbering,
            "rings_mm": [diameter * part for part in (0.15, 0.225, 0.3, 0.375, 0.45)],
        }
    )  # fmt: skip


CHUCKS = (
    _chuck("four-jaw-200", "Four-jaw 200", 200, 4.0, 180),
    _chuck("four-jaw-315", "Four-jaw 315", 315, 5.0, 290, "cw"),
    _chuck("four-jaw-100", "Small four-jaw 100", 100, None, 85),
)
THREE_JAW = holder_of("three-jaw-160", "Three-jaw 160", "three_jaw", jaws=3, jaw_width_mm=14, runout_mm=0.08)
SCREWS = holder_of(
    "set-body-130", "Set-body chuck 130", "adjustable_body", jaws=4, lead_mm=1.0, clearance_mm=0.4, diameter_mm=130
)
COLLET = holder_of("collet-nose", "Collet nose", "collet", diameter_mm=60, max_work_mm=26)
CENTRES = holder_of("centres", "Centers, 1 m apart", "centres", max_work_mm=1000)
FACEPLATE = holder_of("faceplate-300", "Faceplate 300", "faceplate", diameter_mm=300, max_work_mm=260)
HOUSING = holder_of("drive-housing", "Drive housing", "dowelled_housing", diameter_mm=280, max_work_mm=200)
HEAD = holder_of("heron-head", "Heron’s head", "mill_head", diameter_mm=300, max_work_mm=600)
VISE = holder_of(
    "vise-160", "Vise 160", "vise", diameter_mm=160, max_work_mm=200, edge_mm=160, depth_mm=110, bolts_mm=(14, 146),
    key_clearance_mm=0.04, key_span_mm=120, torque="45 Nm, in three steps",
)  # fmt: skip
PAIR = holder_of(
    "vise-pair-125", "Twin vises 125", "vise_pair", diameter_mm=125, edge_mm=125, depth_mm=90, bolts_mm=(12, 113),
    torque="40 Nm, in three steps",
)  # fmt: skip
PLATE = holder_of(
    "fixture-plate", "Fixture plate 320", "fixture", diameter_mm=320, edge_mm=320, depth_mm=160, bolts_mm=(25, 295)
)
ROTARY = holder_of("rotary-250", "Rotary table 250", "rotary_table", diameter_mm=250, max_work_mm=250)
DATUM = holder_of("slate-plate", "Slate plate", "surface_plate", diameter_mm=800, edge_mm=800, depth_mm=500)
COLUMN = holder_of(
    "column-260", "Four-sided column 260", "column", diameter_mm=110, edge_mm=260, torque="28 Nm at the flange"
)
HOLDERS = (
    *CHUCKS, THREE_JAW, SCREWS, COLLET, CENTRES, FACEPLATE, HOUSING,
    HEAD, VISE, PAIR, PLATE, ROTARY, DATUM, COLUMN,
)  # fmt: skip

SHIMS = Stock(
    id="shim-tin", name="Shim tin", kind="shims",
    pieces=tuple(Piece(mm=mm, count=6) for mm in (0.0125, 0.025, 0.05, 0.075, 0.1, 0.15, 0.2, 0.3, 0.5, 1.0, 2.0)),
)  # fmt: skip
DOWELS = Stock(
    id="offset-dowels", name="Offset dowels", kind="dowels",
    pieces=tuple(Piece(mm=mm, count=2) for mm in (0.05, 0.1, 0.15, 0.2, 0.25, 0.3)),
)  # fmt: skip
FINE = Stock(
    id="fine-shims", name="Fine shim box", kind="shims",
    pieces=tuple(Piece(mm=mm, count=6) for mm in (0.005, 0.01, 0.02, 0.03, 0.05, 0.08, 0.1, 0.2)),
)  # fmt: skip
STOCK = (SHIMS, DOWELS, FINE)

RULE = Gauge(
    id="rule", name="Steel rule", kind="rule", graduation_mm=0.5, travel_mm=150, tip_radius_mm=0, counts_turns=False
)
LONG = Gauge(
    id="plunger-fine", name="Plunger 0.0005\"", kind="plunger", graduation_mm=0.0127, travel_mm=12.7, turn_mm=1.27,
    tip_radius_mm=1.5,
)  # fmt: skip
MICRON = Gauge(
    id="lever-micron", name="Lever 0.002 mm", kind="lever", graduation_mm=0.002, travel_mm=0.6, tip_radius_mm=1.0
)
FEELERS = Gauge(
    id="feelers", name="Feelers", kind="feelers", graduation_mm=0.05, travel_mm=5, tip_radius_mm=0, counts_turns=False
)


def gauges(today: date) -> tuple[Gauge, ...]:
    """The gauges of the shop, one due for its check soon and one overdue."""
    return (
        Gauge(
            id="lever-fine", name='Lever 0.0001"', kind="lever", graduation_mm=0.00254, travel_mm=0.25, tip_radius_mm=1.0
        ),
        Gauge(
            id="lever-half", name='Lever 0.0005"', kind="lever", graduation_mm=0.0127, travel_mm=0.76, tip_radius_mm=1.0,
            check_due=today + timedelta(days=3),
        ),
        Gauge(
            id="plunger-thou", name='Plunger 0.001"', kind="plunger", graduation_mm=0.0254, travel_mm=25.4,
            turn_mm=2.54, tip_radius_mm=1.5, check_due=today + timedelta(days=120),
        ),
        Gauge(
            id="plunger-hundredth", name="Plunger 0.01 mm", kind="plunger", graduation_mm=0.01, travel_mm=10,
            turn_mm=1.0, tip_radius_mm=1.5, check_due=today - timedelta(days=6),
        ),
        RULE, LONG, MICRON, FEELERS,
    )  # fmt: skip


def named(things: Iterable[T], item_id: str) -> T:
    """The thing of that id."""
    return next(thing for thing in things if thing.id == item_id)
