"""The sample world at the mill and the surface plate: one set-up of every procedure."""

from __future__ import annotations

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.plans import TramPlan, VisePlan

from .lathe import holder_of
from .worked import Worked

HEAD = holder_of("heron-head", "Heron’s head", "mill_head", diameter_mm=300, max_work_mm=600)
VISE = holder_of(
    "vise-160", "Vise 160", "vise", diameter_mm=160, max_work_mm=200, edge_mm=160, depth_mm=110, bolts_mm=(14, 146),
    key_clearance_mm=0.04, key_span_mm=120, torque="45 Nm, in three steps",
)  # fmt: skip
HOLDERS = (HEAD, VISE)
MICRON = Gauge(
    id="lever-micron", name="Lever 0.002 mm", kind="lever", graduation_mm=0.002, travel_mm=0.6, tip_radius_mm=1.0
)
GAUGES = (MICRON,)

JOBS = (
    Worked("Head after the heavy cut", lambda c: TramPlan(**c, pivot_y_mm=260), "heron", HEAD, "lever-half", "220 mm",
           "0.06 mm", 1.2, "Ode", 41),
    Worked("Side lay rail", lambda c: VisePlan(**c), "heron", VISE, "lever-micron", "140 mm", "0.015 mm", 5.2, "Wilf",
           61, "over_jaw"),
    Worked("Gripper bar, second side", lambda c: VisePlan(**c), "heron", VISE, "lever-micron", "180 mm", "0.01 mm", 0.01,
           "Ode", 62, "over_part", stop_after=2),
)  # fmt: skip
