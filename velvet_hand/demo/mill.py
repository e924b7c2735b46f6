"""The sample world at the mill and the surface plate: one set-up of every procedure."""

from __future__ import annotations

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.procedures.bed.plan import BedPlan
from velvet_hand.core.procedures.centre.plan import CentrePlan
from velvet_hand.core.procedures.column.plan import ColumnPlan
from velvet_hand.core.procedures.edge.plan import EdgePlan
from velvet_hand.core.procedures.plate.plan import HeightsPlan
from velvet_hand.core.procedures.rod.plan import RodPlan
from velvet_hand.core.procedures.tram.plan import TramPlan
from velvet_hand.core.procedures.vise.plan import VisePlan
from velvet_hand.core.procedures.vises.plan import VisePairPlan
from velvet_hand.core.shop import Piece, Stock

from .lathe import holder_of
from .worked import Worked

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
HOLDERS = (HEAD, VISE, PAIR, PLATE, ROTARY, DATUM, COLUMN)
MICRON = Gauge(
    id="lever-micron", name="Lever 0.002 mm", kind="lever", graduation_mm=0.002, travel_mm=0.6, tip_radius_mm=1.0
)
FEELERS = Gauge(
    id="feelers", name="Feelers", kind="feelers", graduation_mm=0.05, travel_mm=5, tip_radius_mm=0, counts_turns=False
)
GAUGES = (MICRON, FEELERS)
FINE = Stock(
    id="fine-shims", name="Fine shim box", kind="shims",
    pieces=tuple(Piece(mm=mm, count=6) for mm in (0.005, 0.01, 0.02, 0.03, 0.05, 0.08, 0.1, 0.2)),
)  # fmt: skip
STOCK = (FINE,)

JOBS = (
    Worked("Head after the heavy cut", lambda c: TramPlan(**c, pivot_y_mm=260), "heron", HEAD, "lever-half", "220 mm",
           "0.06 mm", 1.2, "Ode", 41),
    Worked("Forme bed clamp, roughed in", lambda c: RodPlan(**c, spots_mm=(10, 150)), "heron", VISE, "feelers", "140 mm",
           "0.3 mm", 5.3, "Wilf", 60, "over_jaw"),
    Worked("Side lay rail", lambda c: VisePlan(**c), "heron", VISE, "lever-micron", "140 mm", "0.015 mm", 5.2, "Wilf",
           61, "over_jaw"),
    Worked("Ink duct end plate", lambda c: BedPlan(**c, stock=FINE, bed_limit_mm=0.02), "heron", VISE, "lever-micron",
           "120 mm", "0.015 mm", 4.2, "Tamsin", 63, "over_jaw"),
    Worked("Long feed rail", lambda c: VisePairPlan(**c, spots_mm=(10, 62, 115), apart_mm=250, hidden_nuts=2), "heron",
           PAIR, "lever-micron", "340 mm", "0.03 mm", 3.2, "Ode", 64, "in_line"),
    Worked("Platen jig", lambda c: EdgePlan(**c, spots_mm=(20, 90, 160, 230, 300)), "heron", PLATE, "lever-micron",
           "300 mm", "0.02 mm", 2.2, "Wilf", 65, "over_jaw"),
    Worked("Index ring", lambda c: CentrePlan(**c), "heron", ROTARY, "lever-half", "60 mm", "0.06 mm", 1.8, "Tamsin", 66),
    Worked("Chase face", lambda c: HeightsPlan(**c, depth_mm=150, columns=4, rows=3, table_mm=0.002, parallels_mm=0.003), "slate",
           DATUM, "lever-micron", "240 mm", "0.02 mm", 1.6, "Ode", 67, "parallel",
           reason="Read only; it goes to be scraped."),
    Worked("Gripper column", lambda c: ColumnPlan(**c, stock=FINE, far_z_mm=250, face_radius_mm=50), "heron", COLUMN,
           "lever-micron", "60 mm", "0.03 mm", 0.9, "Tamsin", 68),
    Worked("Gripper bar, second side", lambda c: VisePlan(**c), "heron", VISE, "lever-micron", "180 mm", "0.01 mm", 0.01,
           "Ode", 62, "over_part", stop_after=2),
)  # fmt: skip
