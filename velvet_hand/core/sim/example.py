"""Usual plans and things of a shop, for machines to be made from."""

from __future__ import annotations

from typing import Any, TypeVar

from ..gauge import Gauge
from ..holders import FourJaw, Holder, OnTheTable, Round
from ..plan.base import Limit, Workpiece
from ..shop import Machine, Piece, Stock
from ..units import Typed

H = TypeVar("H", bound=Holder)

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


RULE = Gauge(id="rule", name="Half-millimeter rule", kind="rule", graduation_mm=0.5, travel_mm=150, tip_radius_mm=0)


SECOND_LEVER = Gauge(id="g2", name="Second lever", kind="lever", graduation_mm=0.00254, travel_mm=3, tip_radius_mm=1)


def four_jaw_plan(**changes: Any) -> dict[str, Any]:
    """What a plan of a four-jaw has, with a fine plunger; ``surface``, ``travel_mm``, ``numbering``, ``limit_thou``, ``finish`` are
    shorthand.
    """
    surface = changes.pop("surface", "outside")
    travel = changes.pop("travel_mm", 3.0)
    numbering = changes.pop("numbering", "ccw")
    limit = changes.pop("limit_thou", "0.5")
    kind = changes.pop("limit_kind", "tir")
    lead = changes.pop("lead_mm", 4.0)
    graduation = changes.pop("graduation_mm", 0.00254)
    floor = changes.pop("floor_mm", 0.001)
    finish = changes.pop("finish", "ground")
    base: dict[str, Any] = {
        "part": Workpiece(name="drum", diameter=Typed(text="62", unit="mm"), surface=surface, finish=finish),
        "machine": Machine(id="m", name="Bramble lathe", kind="lathe", floor_mm=floor),
        "holder": FourJaw(
            id="h",
            name="Four-jaw 200",
            diameter_mm=200,
            min_work_mm=5,
            max_work_mm=180,
            lead_mm=lead,
            numbering=numbering,
            rings_mm=(30, 45),
        ),
        "gauge": Gauge(
            id="g",
            name="Plunger",
            kind="plunger",
            graduation_mm=graduation,
            travel_mm=travel,
            turn_mm=2.54,
            tip_radius_mm=1,
        ),
        "limit": Limit(kind=kind, typed=Typed(text=limit, unit="thou")),
        "unit": "thou",
    }
    return {**base, **changes}


def held(kind: type[H], **changes: Any) -> H:
    """A holder of that kind, of a usual size."""
    round_sizes = {"diameter_mm": 200, "min_work_mm": 5, "max_work_mm": 180} if issubclass(kind, Round) else {}
    return kind.model_validate({"id": "h", "name": kind.word.capitalize(), **round_sizes, **changes})


def usual(seed: int, **changes: Any) -> dict[str, Any]:
    """What every plan has; the orientation goes round with the seed."""
    base = four_jaw_plan(
        finish="turned",
        surface=("outside", "inside")[seed % 2],
        gauge_clock_deg=(90.0, 180.0, 0.0, 270.0)[(seed // 2) % 4],
        carrier=("work_turns", "gauge_turns")[(seed // 8) % 2],
        stations_deg=tuple(360.0 / n * i for n in ((4, 8)[(seed // 3) % 2],) for i in range(n)),
        numbering=("ccw", "cw")[(seed // 5) % 2],
        view=("tailstock", "operator")[(seed // 7) % 2],
        school=("high_spot", "pairs")[(seed // 11) % 2],
    )
    return {**base, **changes}


def limit_mm(text: str, kind: str = "tir") -> Limit:
    """A limit typed in mm."""
    return Limit.model_validate({"kind": kind, "typed": Typed(text=text, unit="mm")})


def part_of(seed: int, surface: str | None = None, finish: str = "turned") -> Workpiece:
    """A part of 62 mm, outside or inside by the seed."""
    side = surface or ("outside", "inside")[seed % 2]
    return Workpiece.model_validate(
        {"name": "drum", "diameter": Typed(text="62", unit="mm"), "surface": side, "finish": finish}
    )


def short_lever(seed: int, travel_mm: float) -> dict[str, Any]:
    """A lever that sees only a little, in half of the set-ups."""
    if (seed // 7) % 2 == 0:
        return {}
    return {
        "gauge": Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.00254, travel_mm=travel_mm, tip_radius_mm=1)
    }


def edge_usual(seed: int, vise: OnTheTable, **changes: Any) -> dict[str, Any]:
    """What every edge has: how it lies, where the gauge stands, which end is the hinge, square or at an angle."""
    kind, typed = (("over_jaw", "0.0127"), ("over_part", "0.01"), ("over_length", "0.02"), ("angle", "0.005"))[seed % 4]
    length = vise.edge_mm
    base = {
        "holder": vise, "view": "tailstock", "carrier": "gauge_turns", "part": part_of(0, "outside"), "school": "high_spot",
        "limit": limit_mm(typed, kind), "gauge": Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1.0),
        "machine": Machine(id="m", name="Mill", kind="mill", floor_mm=0.001),
    }  # fmt: skip
    part = Workpiece.model_validate({"name": "bar", "diameter": Typed(text="120", unit="mm")})
    own = {
        "lies": ("across", "along")[seed % 2], "gauge_side": ("near", "far")[seed // 2 % 2],
        "hinge": ("low", "high", "low", "high", "none")[seed // 4 % 5], "target_deg": (0.0, 0.0, 0.05, -0.1)[seed // 3 % 4],
        "spots_mm": tuple(round(length * (0.06 + 0.22 * i), 1) for i in range(5)), "over_length_mm": 300.0,
    }  # fmt: skip
    return {**usual(seed), **base, "part": part, **own, **changes}
