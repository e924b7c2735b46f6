"""A plan for every procedure of the lathe, in every orientation that it offers, by a number."""

from __future__ import annotations

from typing import Any

from tests.support import make_plan
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.plans import (
    AdjustablePlan,
    BedPlan,
    CentrePlan,
    ClockingPlan,
    ColletPlan,
    ColumnPlan,
    DowelPlan,
    EdgePlan,
    FaceplatePlan,
    HeightsPlan,
    Limit,
    PackingPlan,
    Plan,
    ReversalPlan,
    RodPlan,
    RoughPlan,
    ShaftPlan,
    ThrowPlan,
    TramPlan,
    TwoPlanesPlan,
    VisePairPlan,
    VisePlan,
    Workpiece,
)
from velvet_hand.core.shop import Holder, Machine, Piece, Stock
from velvet_hand.core.units import Typed

SHIMS = Stock(
    id="shims", name="Shim box", kind="shims",
    pieces=tuple(Piece(mm=mm, count=4) for mm in (0.0125, 0.025, 0.05, 0.075, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1.0, 2.0)),
)  # fmt: skip
FINE_SHIMS = Stock(
    id="fine",
    name="Fine shims",
    kind="shims",
    pieces=tuple(Piece(mm=mm, count=6) for mm in (0.005, 0.01, 0.02, 0.03, 0.05, 0.08, 0.1)),
)
FEELERS = Gauge(id="feelers", name="Feelers", kind="feelers", graduation_mm=0.05, travel_mm=20, tip_radius_mm=0)
PINS = Stock(
    id="pins", name="Offset dowels", kind="dowels",
    pieces=tuple(Piece(mm=mm, count=2) for mm in (0.025, 0.05, 0.075, 0.1, 0.15, 0.2, 0.25, 0.3)),
)  # fmt: skip
RULE = Gauge(id="rule", name="Half-millimetre rule", kind="rule", graduation_mm=0.5, travel_mm=150, tip_radius_mm=0)
TEST_GAUGE = Gauge(id="g2", name="Second lever", kind="lever", graduation_mm=0.00254, travel_mm=3, tip_radius_mm=1)


def holder(kind: str, **changes: Any) -> Holder:
    base = {
        "id": "h", "name": kind.replace("_", " ").capitalize(), "kind": kind, "diameter_mm": 200, "min_work_mm": 5,
        "max_work_mm": 180, "lead_mm": 4.0,
    }  # fmt: skip
    return Holder.model_validate({**base, **changes})


def common(seed: int, **changes: Any) -> dict[str, Any]:
    """What every plan has; the orientation goes round with the seed."""
    base = make_plan(
        surface=("outside", "inside")[seed % 2],
        gauge_clock_deg=(90.0, 180.0, 0.0, 270.0)[(seed // 2) % 4],
        carrier=("work_turns", "gauge_turns")[(seed // 8) % 2],
        stations_deg=tuple(360.0 / n * i for n in ((4, 8)[(seed // 3) % 2],) for i in range(n)),
        numbering=("ccw", "cw")[(seed // 5) % 2],
        view=("tailstock", "operator")[(seed // 7) % 2],
        school=("high_spot", "pairs")[(seed // 11) % 2],
    )
    found = {name: getattr(base, name) for name in type(base).model_fields if name != "procedure"}
    return {**found, **changes}


def _limit(text: str, kind: str = "tir") -> Limit:
    return Limit.model_validate({"kind": kind, "typed": Typed(text=text, unit="mm")})


def _part(seed: int, surface: str | None = None) -> Workpiece:
    side = surface or ("outside", "inside")[seed % 2]
    return Workpiece.model_validate({"name": "drum", "diameter": Typed(text="62", unit="mm"), "surface": side})


def _short(seed: int, travel_mm: float) -> dict[str, Any]:
    """A lever that sees only a little, in half of the set-ups."""
    if (seed // 7) % 2 == 0:
        return {}
    return {
        "gauge": Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.00254, travel_mm=travel_mm, tip_radius_mm=1)
    }


def edge_plan(seed: int, held: Holder, **changes: Any) -> dict[str, Any]:
    """What every edge has: how it lies, where the gauge stands, which end is the hinge, square or at an angle."""
    kind, typed = (("over_jaw", "0.0127"), ("over_part", "0.01"), ("over_length", "0.02"), ("angle", "0.005"))[seed % 4]
    length = held.edge_mm or 150.0
    base = {
        "holder": held, "view": "tailstock", "carrier": "gauge_turns", "part": _part(0, "outside"), "school": "high_spot",
        "limit": _limit(typed, kind), "gauge": Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1.0),
        "machine": Machine(id="m", name="Mill", kind="mill", floor_mm=0.001),
    }  # fmt: skip
    part = Workpiece.model_validate({"name": "bar", "diameter": Typed(text="120", unit="mm")})
    own = {
        "lies": ("across", "along")[seed % 2], "gauge_side": ("near", "far")[seed // 2 % 2],
        "hinge": ("low", "high", "low", "high", "none")[seed // 4 % 5], "target_deg": (0.0, 0.0, 0.05, -0.1)[seed // 3 % 4],
        "spots_mm": tuple(round(length * (0.06 + 0.22 * i), 1) for i in range(5)), "over_length_mm": 300.0,
    }  # fmt: skip
    return {**common(seed), **base, "part": part, **own, **changes}


def plan_of(procedure: str, seed: int) -> Plan:
    """The plan of a procedure, orientation and options by the seed."""
    numbering = ("ccw", "cw")[(seed // 5) % 2]
    outside = {"part": _part(seed, "outside")}
    match procedure:
        case "four_jaw":
            return make_plan()
        case "rough":
            kind = {"carrier": "work_turns", "gauge": RULE, "limit": _limit("2.5"), **outside}
            return RoughPlan(**common(seed, **kind), second=("face", "none", "feelers")[seed % 3])
        case "two_planes":
            far = TEST_GAUGE if seed % 3 == 0 else None
            return TwoPlanesPlan(
                **common(seed, **outside, school="high_spot"), near_z_mm=25, far_z_mm=(90, 160)[seed % 2], far_gauge=far
            )
        case "throw":
            shape = ("round", "flats")[(seed // 2) % 2]
            gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.00254, travel_mm=12, turn_mm=2.54)
            plan = common(seed, gauge=gauge, limit=_limit("0.0254", "throw"))
            if shape == "flats":
                plan |= outside
            return ThrowPlan(**plan, throw_mm=(1.0, 3.0, 0.4)[seed % 3], throw_deg=float(seed * 37 % 360), shape=shape)
        case "clocking":
            three = holder("three_jaw", jaws=3, numbering=numbering)
            plan = common(seed, **outside, holder=three, limit=_limit("0.02"))
            return ClockingPlan(**plan, bolts=(3, 4, 6)[seed % 3], way=("every", "oppose")[(seed // 4) % 2])
        case "packing":
            wide = (0.0, 12.0, 40.0)[seed % 3]
            three = holder("three_jaw", jaws=3, numbering=numbering, jaw_width_mm=wide)
            throw = (0.0, 0.0, 2.0)[(seed // 3) % 3]
            limit = _limit("0.02") if not throw else _limit("0.015", "throw")
            return PackingPlan(
                **common(seed, **outside, holder=three, limit=limit),
                stock=SHIMS,
                throw_mm=throw,
                throw_jaw=seed % 3 + 1,
            )
        case "reversal":
            three = holder("three_jaw", jaws=3, numbering=numbering)
            turns = ((0.0, 180.0), (0.0, 120.0, 240.0), (0.0, 90.0, 180.0, 270.0))[seed % 3]
            return ReversalPlan(**common(seed, **outside, holder=three, limit=_limit("0.03")), positions_deg=turns)
        case "adjustable":
            screws = holder(
                "adjustable_body", jaws=(3, 4, 6)[seed % 3], numbering=numbering, lead_mm=1.0, clearance_mm=0.4,
                follows=("toward", "away")[(seed // 3) % 2],
            )  # fmt: skip
            return AdjustablePlan(**common(seed, holder=screws, **_short(seed, 0.2)))
        case "collet":
            nose = holder("collet", jaws=0, max_work_mm=80)
            turns = ((0.0, 180.0), (0.0, 120.0, 240.0))[seed % 2]
            plan = common(seed, **outside, holder=nose, limit=_limit("0.018"), stations_deg=(0.0, 90.0, 180.0, 270.0))
            return ColletPlan(**plan, far_z_mm=80, positions_deg=turns)
        case "shaft":
            centres = holder("centres", jaws=0, max_work_mm=1500)
            plan = common(seed, **outside, holder=centres, limit=_limit("0.03"))
            return ShaftPlan(**plan, z_mm=(10, 110, 200, 290, 390, 480), noted=("all", "high")[(seed // 4) % 2])
        case "dowels":
            body = holder("dowelled_housing", jaws=0, diameter_mm=300)
            plan = common(seed, holder=body, carrier="gauge_turns", part=_part(seed, "inside"), limit=_limit("0.06"))
            return DowelPlan(
                **plan,
                stock=PINS,
                span_mm=240,
                sag=("swept", "none")[seed % 2],
                mark_from=("front", "behind")[seed // 2 % 2],
            )
        case "tram":
            head = holder("mill_head", jaws=0, diameter_mm=400)
            sweep = Workpiece.model_validate({"name": "table", "diameter": Typed(text="220", unit="mm")})
            plan = common(seed, holder=head, carrier="gauge_turns", view="tailstock", part=sweep)
            pivots = ((0.0, 0.0), (60.0, 260.0), (-80.0, 0.0))[seed % 3]
            return TramPlan(**plan, pivot_x_mm=pivots[0], pivot_y_mm=pivots[1], quill_mm=(0.0, 100.0)[seed % 2])
        case "bed":
            differ = (0.0, 0.006)[seed // 7 % 2]
            held = holder("vise", jaws=0, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
            return BedPlan(**edge_plan(seed, held), stock=FINE_SHIMS, bed_limit_mm=0.014, parallels_differ_mm=differ)
        case "edge":
            held = holder("fixture", jaws=0, edge_mm=240, depth_mm=140, bolts_mm=(20.0, 220.0))
            up = (
                {"thing": "angle_plate", "upright_mm": 90.0, "base_mm": 120.0}
                if seed // 3 % 2
                else {"thing": ("fixture_plate", "long_work", "soft_jaws")[seed % 3]}
            )
            fine = Gauge(id="g", name="Fine lever", kind="lever", graduation_mm=0.0005, travel_mm=1.0)
            more = {"gauge": fine} if "upright_mm" in up else {}
            return EdgePlan(**edge_plan(seed, held, **more), stock=FINE_SHIMS, **up)
        case "rod":
            held = holder("vise", jaws=0, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
            seen = {"gauge": FEELERS, "limit": _limit("0.3", "over_jaw"), "spots_mm": (10.0, 150.0)}
            return RodPlan(**edge_plan(seed, held, **seen), by=("rod", "slot")[seed // 2 % 2])
        case "centre":
            table = holder("rotary_table", jaws=0, diameter_mm=300)
            swept = {"carrier": "gauge_turns", "view": "tailstock", "school": "high_spot", "limit": _limit("0.02")}
            ways = {"x_clockwise": ("right", "left")[seed // 2 % 2], "y_clockwise": ("away", "toward")[seed // 5 % 2]}
            return CentrePlan(**common(seed, holder=table, **swept), **ways)
        case "vises":
            held = holder("vise_pair", jaws=0, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
            stop = seed % 5 == 4
            kind = {
                "limit": _limit("0.02", "in_line"), "spots_mm": (10.0, 80.0, 150.0), "hinge": ("low", "high")[seed // 4 % 2],
                "second": "stop" if stop else "vise", "bar": ("through", "none")[stop or seed // 3 % 2],
                "spans": ("no", "yes")[not stop and seed // 2 % 2], "apart_mm": 260.0, "hidden_nuts": seed % 3,
            }  # fmt: skip
            return VisePairPlan(**edge_plan(seed, held, **kind), stock=FINE_SHIMS)
        case "column":
            held = holder("column", jaws=0, edge_mm=260, diameter_mm=120)
            lever = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.8)
            kind = {
                "holder": held,
                "limit": _limit("0.02"),
                "gauge": lever,
                "school": "high_spot",
                "gauge_clock_deg": 90.0,
            }
            more = {
                "face_radius_mm": (0.0, 55.0)[seed // 3 % 2],
                "tail": ("yes", "no")[seed % 5 == 4],
                "bar": ("no", "yes")[seed // 2 % 2],
            }
            return ColumnPlan(
                **common(seed, **{**outside, **kind, "carrier": "work_turns", "view": "tailstock"}),
                stock=FINE_SHIMS,
                far_z_mm=(250.0, 230.0)[seed % 2],
                gives=("tips", "bends", "between")[seed % 3],
                sag_mm=(0.0, 0.012)[seed // 4 % 2],
                bolts=(3, 4)[seed // 5 % 2],
                bar_taper_mm=(0.0, 0.006)[seed // 6 % 2],
                **more,
            )
        case "plate":
            datum = holder("surface_plate", jaws=0, edge_mm=600, depth_mm=400)
            shape = (("grid", 3, 3), ("edges", 4, 3), ("grid", 4, 2))[seed % 3]
            wide = Workpiece.model_validate({"name": "bed plate", "diameter": Typed(text="240", unit="mm")})
            fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.5)
            kind = {"limit": _limit("0.02", ("parallel", "flat")[seed // 2 % 2]), "gauge": fine, "part": wide}
            turned = {"inverted": ("no", "yes")[seed // 4 % 2], "blocks_differ_mm": (0.0, 0.008)[seed // 8 % 2]}
            return HeightsPlan(
                **common(seed, holder=datum, carrier="gauge_turns", view="tailstock", school="high_spot", **kind),
                depth_mm=160, pattern=shape[0], columns=shape[1], rows=shape[2], repeats=(3, 0)[seed // 3 % 2],
                parallels_mm=(0.0, 0.004)[seed % 2], table_mm=(0.002, 0.0)[seed // 5 % 2], **turned,
            )  # fmt: skip
        case "vise":
            return VisePlan(
                **edge_plan(seed, holder("vise", jaws=0, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0)))
            )
        case "faceplate":
            plate = holder("faceplate", jaws=0, diameter_mm=300)
            return FaceplatePlan(**common(seed, holder=plate, **_short(seed, 0.4)))
        case _:
            raise AssertionError(procedure)
