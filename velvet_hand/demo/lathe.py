"""More of the sample world: one set-up of every other procedure of the lathe."""

from __future__ import annotations

from typing import Any

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.procedures.adjustable.plan import AdjustablePlan
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.collet.plan import ColletPlan
from velvet_hand.core.procedures.dowels.plan import DowelPlan
from velvet_hand.core.procedures.faceplate.plan import FaceplatePlan
from velvet_hand.core.procedures.packing.plan import PackingPlan
from velvet_hand.core.procedures.reversal.plan import ReversalPlan
from velvet_hand.core.procedures.rough.plan import RoughPlan
from velvet_hand.core.procedures.shaft.plan import ShaftPlan
from velvet_hand.core.procedures.throw.plan import ThrowPlan
from velvet_hand.core.procedures.two_planes.plan import TwoPlanesPlan
from velvet_hand.core.shop import Holder, Machine, Piece, Stock

from .worked import Worked

WREN = Machine(id="wren", name="Wren lathe", kind="lathe", floor_mm=0.002)


def holder_of(item_id: str, name: str, kind: str, **more: Any) -> Holder:
    """A holder of the sample world; what does not matter for its kind is left at something usual."""
    base = {"diameter_mm": 160, "min_work_mm": 3, "max_work_mm": 120, "jaws": 0}
    return Holder.model_validate({"id": item_id, "name": name, "kind": kind, **base, **more})


THREE_JAW = holder_of("three-jaw-160", "Three-jaw 160", "three_jaw", jaws=3, jaw_width_mm=14, runout_mm=0.08)
SCREWS = holder_of(
    "set-body-130", "Set-body chuck 130", "adjustable_body", jaws=4, lead_mm=1.0, clearance_mm=0.4, diameter_mm=130
)
COLLET = holder_of("collet-nose", "Collet nose", "collet", diameter_mm=60, max_work_mm=26)
CENTRES = holder_of("centres", "Centers, 1 m apart", "centres", max_work_mm=1000)
FACEPLATE = holder_of("faceplate-300", "Faceplate 300", "faceplate", diameter_mm=300, max_work_mm=260)
HOUSING = holder_of("drive-housing", "Drive housing", "dowelled_housing", diameter_mm=280, max_work_mm=200)
HOLDERS = (THREE_JAW, SCREWS, COLLET, CENTRES, FACEPLATE, HOUSING)

SHIMS = Stock(
    id="shim-tin", name="Shim tin", kind="shims",
    pieces=tuple(Piece(mm=mm, count=6) for mm in (0.0125, 0.025, 0.05, 0.075, 0.1, 0.15, 0.2, 0.3, 0.5, 1.0, 2.0)),
)  # fmt: skip
DOWELS = Stock(
    id="offset-dowels", name="Offset dowels", kind="dowels",
    pieces=tuple(Piece(mm=mm, count=2) for mm in (0.05, 0.1, 0.15, 0.2, 0.25, 0.3)),
)  # fmt: skip
STOCK = (SHIMS, DOWELS)
RULE = Gauge(
    id="rule", name="Steel rule", kind="rule", graduation_mm=0.5, travel_mm=150, tip_radius_mm=0, counts_turns=False
)
LONG = Gauge(
    id="plunger-fine", name="Plunger 0.0005\"", kind="plunger", graduation_mm=0.0127, travel_mm=12.7, turn_mm=1.27,
    tip_radius_mm=1.5,
)  # fmt: skip
GAUGES = (RULE, LONG)


def _spread(n: int) -> tuple[float, ...]:
    return tuple(360.0 / n * i for i in range(n))


JOBS = (
    Worked(
        "Flywheel casting", lambda c: RoughPlan(**c, second="face", face_radius_mm=70), "bramble",
        holder_of("four-jaw-315", "Four-jaw 315", "four_jaw_independent", diameter_mm=315, jaws=4, lead_mm=5.0,
                max_work_mm=290, numbering="cw", rings_mm=(47, 71, 95, 118, 142)),
        "rule", "210 mm", "2.5 mm", 12, "Wilf", 21,
    ),
    Worked(
        "Inking drum shaft", lambda c: TwoPlanesPlan(**c, near_z_mm=30, far_z_mm=170), "little-owl",
        holder_of("four-jaw-200", "Four-jaw 200", "four_jaw_independent", diameter_mm=200, jaws=4, lead_mm=4.0,
                min_work_mm=6, max_work_mm=180, rings_mm=(30, 45, 60, 75, 90)),
        "plunger-fine", "42 mm", "0.06 mm", 11, "Tamsin", 22,
    ),
    Worked(
        "Throw-off cam", lambda c: ThrowPlan(**c, throw_mm=3.0, throw_deg=90), "bramble",
        holder_of("four-jaw-200", "Four-jaw 200", "four_jaw_independent", diameter_mm=200, jaws=4, lead_mm=4.0,
                min_work_mm=6, max_work_mm=180, rings_mm=(30, 45, 60, 75, 90)),
        "plunger-fine", "40 mm", "0.06 mm", 10, "Ode", 23, "throw",
    ),
    Worked("Register of the three-jaw", lambda c: ClockingPlan(**c, bolts=6), "wren", THREE_JAW, "lever-fine",
             "25 mm", "0.02 mm", 7, "Wilf", 50),
    Worked("Ink key spindle", lambda c: PackingPlan(**c, stock=SHIMS), "bramble", THREE_JAW, "lever-fine",
             "36 mm", "0.025 mm", 7.5, "Ode", 25),
    Worked("Roller end, twice chucked", lambda c: ReversalPlan(**c, positions_deg=(0.0, 120.0, 240.0)), "bramble",
             THREE_JAW, "lever-fine", "30 mm", "0.08 mm", 6.5, "Tamsin", 26),
    Worked("Platen screw", lambda c: AdjustablePlan(**c), "little-owl", SCREWS, "lever-fine",
             "28 mm", "0.0127 mm", 4.5, "Tamsin", 27),
    Worked("Gripper pin", lambda c: ColletPlan(**c, far_z_mm=60), "little-owl", COLLET, "lever-fine", "12 mm",
             "0.02 mm", 4, "Ode", 46),
    Worked("Delivery shaft", lambda c: ShaftPlan(**c, z_mm=(12, 130, 240, 330, 450, 560)), "wren", CENTRES,
             "lever-fine", "32 mm", "0.03 mm", 3.5, "Wilf", 51, more=(("stations_deg", _spread(8)),),
             reason="Bent, as found. It is not run; it goes to be straightened or replaced."),
    Worked("Drive housing bore", lambda c: DowelPlan(**c, stock=DOWELS, span_mm=190), "wren", HOUSING, "lever-fine",
             "80 mm", "0.06 mm", 2.5, "Tamsin", 30),
    Worked("Rocker bearing", lambda c: FaceplatePlan(**c, clamps=3), "bramble", FACEPLATE, "lever-half", "68 mm",
             "0.06 mm", 1.5, "Wilf", 44),
    Worked("Chuck moved to the Wren", lambda c: ClockingPlan(**c, bolts=3), "wren", THREE_JAW, "lever-fine",
             "25 mm", "0.03 mm", 0.05, "Wilf", 55, stop_after=1),
)  # fmt: skip
