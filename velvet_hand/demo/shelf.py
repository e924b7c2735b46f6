"""What stands, hangs and lies in the made-up workshop: machines, holders, gauges, drawers."""

from __future__ import annotations

from collections.abc import Iterable
from datetime import date, timedelta
from typing import Any, TypeVar

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import (
    AdjustableBody,
    Centres,
    Collet,
    Column,
    DowelledHousing,
    Faceplate,
    Fixture,
    FourJaw,
    Holder,
    MillHead,
    RotaryTable,
    SurfacePlate,
    ThreeJaw,
    Vise,
    VisePair,
)  # fmt: skip
from velvet_hand.core.live.wire import Wire
from velvet_hand.core.shop import Machine, Piece, Stock
from velvet_hand.core.sums.slopes import SET_47

T = TypeVar("T", Machine, Holder, Gauge, Stock)

MACHINES = (
    Machine(id="bramble", name="Bramble lathe", kind="lathe", floor_mm=0.0025),
    Machine(id="little-owl", name="Little Owl lathe", kind="lathe", floor_mm=0.0012),
    Machine(id="wren", name="Wren lathe", kind="lathe", floor_mm=0.002),
    Machine(id="heron", name="Heron mill", kind="mill", floor_mm=0.005),
    Machine(id="slate", name="Slate plate", kind="plate", floor_mm=0.001),
)


def _chuck(item_id: str, name: str, diameter: float, lead: float | None, most: float, **more: Any) -> FourJaw:
    rings = tuple(diameter * part for part in (0.15, 0.225, 0.3, 0.375, 0.45))
    return FourJaw(
        id=item_id, name=name, diameter_mm=diameter, min_work_mm=6, max_work_mm=most, lead_mm=lead, rings_mm=rings, **more
    )  # fmt: skip


CHUCKS = (
    _chuck("four-jaw-200", "Four-jaw 200", 200, 4.0, 180),
    _chuck("four-jaw-315", "Four-jaw 315", 315, 5.0, 290, numbering="cw"),
    _chuck("four-jaw-100", "Small four-jaw 100", 100, None, 85),
)
THREE_JAW = ThreeJaw(
    id="three-jaw-160", name="Three-jaw 160", diameter_mm=160, min_work_mm=3, max_work_mm=120, jaw_width_mm=14, runout_mm=0.08
)  # fmt: skip
SCREWS = AdjustableBody(
    id="set-body-130", name="Set-body chuck 130", diameter_mm=130, min_work_mm=3, max_work_mm=120, lead_mm=1.0, clearance_mm=0.4
)  # fmt: skip
COLLET = Collet(id="collet-nose", name="Collet nose", diameter_mm=60, min_work_mm=3, max_work_mm=26)
CENTRES = Centres(id="centres", name="Centers, 1 m apart", longest_mm=1000)
FACEPLATE = Faceplate(id="faceplate-300", name="Faceplate 300", diameter_mm=300, min_work_mm=3, max_work_mm=260)
HOUSING = DowelledHousing(id="drive-housing", name="Drive housing", diameter_mm=280, min_work_mm=3, max_work_mm=200)
HEAD = MillHead(id="heron-head", name="Heron’s head", diameter_mm=300, min_work_mm=3, max_work_mm=600)
VISE = Vise(
    id="vise-160", name="Vise 160", edge_mm=160, depth_mm=110, bolts_mm=(14, 146), key_clearance_mm=0.04, key_span_mm=120,
    torque="45 Nm, in three steps",
)  # fmt: skip
PAIR = VisePair(
    id="vise-pair-125",
    name="Twin vises 125",
    edge_mm=125,
    depth_mm=90,
    bolts_mm=(12, 113),
    torque="40 Nm, in three steps",
)
PLATE = Fixture(id="fixture-plate", name="Fixture plate 320", edge_mm=320, depth_mm=160, bolts_mm=(25, 295))
ROTARY = RotaryTable(id="rotary-250", name="Rotary table 250", diameter_mm=250, min_work_mm=3, max_work_mm=250)
DATUM = SurfacePlate(id="slate-plate", name="Slate plate", edge_mm=800, depth_mm=500)
COLUMN = Column(id="column-260", name="Four-sided column 260", edge_mm=260, torque="28 Nm at the flange")
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
BLOCKS = Stock(
    id="blocks", name="Gauge blocks, 47", kind="blocks", pieces=tuple(Piece(mm=float(mm), count=1) for mm in SET_47.split())
)  # fmt: skip
STOCK = (SHIMS, DOWELS, FINE, BLOCKS)

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
MICROMETER = Gauge(
    id="micrometer-50", name="Micrometer 25 to 50", kind="micrometer", graduation_mm=0.001, travel_mm=50, tip_radius_mm=0,
    counts_turns=False,
)  # fmt: skip
LIVE = Gauge(
    id="plunger-live",
    name="Live plunger 0.001 mm",
    kind="plunger",
    graduation_mm=0.001,
    travel_mm=6.0,
    tip_radius_mm=1.5,
)
#: Where the simulated indicator is that ships with the demo; it says itself when it had to take another port.
WIRE = Wire(
    id="wire-live", name="Live plunger, simulated", kind="stream", gauge=LIVE.id, port="socket://127.0.0.1:8391"
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
        RULE, LONG, MICRON, FEELERS, MICROMETER, LIVE,
    )  # fmt: skip


def named(things: Iterable[T], item_id: str) -> T:
    """The thing of that id."""
    return next(thing for thing in things if thing.id == item_id)
