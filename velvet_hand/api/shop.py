"""The Shop: machines, holders, gauges."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from velvet_hand.core.desk.found import floor_told
from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.shop import Holder, HolderKind, Machine, Piece, Stock
from velvet_hand.core.units import Typed, parse_length
from velvet_hand.store import setups as store
from velvet_hand.store import shop

from .errors import documented
from .schemas import FoundOut, GaugeIn, HolderIn, ItemPath, MachineIn, SavedOut, ShopOut, StockIn
from .setups import _answer

bp = APIBlueprint("shop", __name__, url_prefix="/api/shop", abp_responses=documented(422))


def _mm(typed: Typed, field: str, least: float, most: float, what: str, *, above: bool = False) -> float:
    """A typed length between two bounds; ``above``: more than the least.

    Raises
    ------
    BadInput
        When it is no length, or out of bounds.
    """
    mm = float(parse_length(typed.text, typed.unit, field))
    if above and mm == least == 0:
        raise BadInput("field_invalid", f"{what} is more than zero.", "Measure it and type it.", field)
    if not least <= mm <= most:
        raise BadInput(
            "field_invalid",
            f"{what} is between {least:g} and {most:g} mm; this is {mm:g} mm.",
            "Check it and its unit.",
            field,
        )
    return mm


@bp.get("", summary="Everything in the Shop", responses={200: ShopOut})
def everything() -> Response:
    """By name."""
    holders, machines = shop.all_of(Holder), [store.known(m) for m in shop.all_of(Machine)]
    return _answer(
        ShopOut(
            machines=machines,
            holders=holders,
            gauges=shop.all_of(Gauge),
            stock=shop.all_of(Stock),
            memories={h.id: store.memory_of(h) for h in holders},
            found={m.id: [FoundOut(at=f.at, told=floor_told(f)) for f in reversed(m.found)] for m in machines},
        )
    )


@bp.put("/machines/<item_id>", summary="Add or change a machine", responses={200: SavedOut})
def put_machine(path: ItemPath, body: MachineIn) -> Response:
    """The id is made by the client. A floor that is typed anew counts from now on, until it is found again."""
    floor = _mm(body.floor, "floor", 0, 1, "The floor")
    before = next((m for m in shop.all_of(Machine) if m.id == path.item_id), None)
    machine = Machine(id=path.item_id, name=body.name, kind=body.kind, floor_mm=floor, floor_at=datetime.now(UTC))
    if before is not None and abs(store.known(before).floor_mm - floor) < 1e-6:
        machine = machine.model_copy(update={"floor_mm": before.floor_mm, "floor_at": before.floor_at})
    shop.save(machine)
    return _answer(SavedOut(id=path.item_id))


#: Jaws, screws or bolts of a kind, when nobody says another number.
_JAWS: dict[HolderKind, int] = {"four_jaw_independent": 4, "three_jaw": 3, "adjustable_body": 4}


#: What lies on a table and is read along an edge.
ON_THE_TABLE = ("vise", "vise_pair", "fixture", "surface_plate", "column")


def _needed(typed: Typed | None, field: str, least: float, what: str, usual: float | None) -> float:
    """A length that has to be there, unless its kind has a usual one."""
    if typed is not None:
        return _mm(typed, field, least, 3000, what)
    if usual is None:
        raise BadInput("field_invalid", f"{what}: nothing was typed.", "Measure it and type it.", field)
    return usual


def _edge(body: HolderIn) -> dict[str, Any]:
    """What is read along an edge: its length, its bolts, its keys, and what its papers say."""
    if body.edge is None:
        raise BadInput(
            "field_invalid", "Its length along the edge: nothing was typed.", "Measure it and type it.", "edge"
        )
    edge = _mm(body.edge, "edge", 5, 3000, "Its length along the edge")
    return {
        "edge_mm": edge,
        "depth_mm": _mm(body.depth, "depth", 0, 3000, "Its depth") if body.depth else 0.0,
        "bolts_mm": tuple(_mm(b, f"bolts.{i}", 0, edge, "The place of a bolt") for i, b in enumerate(body.bolts)),
        "key_clearance_mm": _mm(body.key_clearance, "key_clearance", 0, 5, "The keys’ play") if body.key_clearance else None,
        "key_span_mm": _mm(body.key_span, "key_span", 0, 3000, "The keys’ distance") if body.key_span else 0.0,
        "torque": body.torque.strip(),
    }  # fmt: skip


@bp.put("/holders/<item_id>", summary="Add or change a holder", responses={200: SavedOut})
def put_holder(path: ItemPath, body: HolderIn) -> Response:
    """The id is made by the client. Set-ups that are open keep the holder as it was."""
    lies = body.kind in ON_THE_TABLE
    edge = _edge(body) if lies else {}
    diameter = _needed(body.diameter, "diameter", 1, "A holder’s diameter", edge.get("edge_mm"))
    most = _needed(body.max_work, "max_work", 1, "The biggest work", 3000.0 if lies else None)
    least = _needed(body.min_work, "min_work", 0.1, "The smallest work", 0.0 if lies else None)
    if least >= most:
        raise BadInput("field_invalid", "The smallest work is not smaller than the biggest.", "Check both.", "min_work")
    usual = _JAWS.get(body.kind, 0)
    jaws = usual if body.jaws is None else body.jaws
    if body.kind in ("four_jaw_independent", "three_jaw") and jaws != usual:
        raise BadInput(
            "field_invalid", f"This kind has {usual} jaws.", "Choose another kind, or leave it empty.", "jaws"
        )
    if body.kind == "adjustable_body" and jaws not in (3, 4, 6):
        raise BadInput("field_invalid", f"{jaws} adjusting screws: 3, 4 or 6.", "Count them again.", "jaws")
    before = next((h for h in shop.all_of(Holder) if h.id == path.item_id), None)
    holder = Holder(
        id=path.item_id,
        name=body.name,
        kind=body.kind,
        diameter_mm=diameter,
        min_work_mm=least,
        max_work_mm=most,
        lead_mm=_mm(body.lead, "lead", 0, 50, "The lead of a screw", above=True) if body.lead else None,
        numbering=body.numbering,
        rings_mm=tuple(
            _mm(r, f"rings.{i}", 0, diameter / 2, "The radius of a ring", above=True) for i, r in enumerate(body.rings)
        ),
        jaws=jaws,
        jaw_width_mm=_mm(body.jaw_width, "jaw_width", 0, 500, "The width of a jaw") if body.jaw_width else 0.0,
        clearance_mm=_mm(body.clearance, "clearance", 0, 10, "The body’s range", above=True)
        if body.clearance
        else None,
        follows=body.follows,
        runout_mm=_mm(body.runout, "runout", 0, 5, "The promised TIR", above=True) if body.runout else None,
        forget_before=before.forget_before if before else None,
        **edge,
    )
    shop.save(holder)
    return _answer(SavedOut(id=path.item_id))


@bp.delete("/holders/<item_id>/memory", summary="Let a holder forget", responses={200: SavedOut, **documented(404)})
def forget(path: ItemPath) -> Response:
    """After a clean-up, a repair or a bump: only set-ups from now on count."""
    holder = shop.get(Holder, path.item_id, "item_id")
    shop.save(holder.model_copy(update={"forget_before": datetime.now(UTC)}))
    return _answer(SavedOut(id=path.item_id))


@bp.put("/stock/<item_id>", summary="Add or change a drawer of shims or dowels", responses={200: SavedOut})
def put_stock(path: ItemPath, body: StockIn) -> Response:
    """The id is made by the client. A size may be there once."""
    what = "A shim" if body.kind == "shims" else "A dowel’s offset"
    pieces = tuple(
        Piece(mm=_mm(p.size, f"pieces.{i}.size", 0, 50, what, above=True), count=p.count)
        for i, p in enumerate(body.pieces)
    )
    if len({p.mm for p in pieces}) < len(pieces):
        raise BadInput("field_invalid", "A size is there twice.", "Put its pieces together in one line.", "pieces")
    shop.save(Stock(id=path.item_id, name=body.name, kind=body.kind, pieces=pieces))
    return _answer(SavedOut(id=path.item_id))


@bp.put("/gauges/<item_id>", summary="Add or change a gauge", responses={200: SavedOut})
def put_gauge(path: ItemPath, body: GaugeIn) -> Response:
    """The id is made by the client."""
    graduation = _mm(body.graduation, "graduation", 0, 1, "One mark", above=True)
    travel = _mm(body.travel, "travel", 0, 200, "The travel", above=True)
    if travel < 4 * graduation:
        raise BadInput(
            "field_invalid", "That travel is only a few marks long.", "Check both and their units.", "travel"
        )
    gauge = Gauge(
        id=path.item_id,
        name=body.name,
        kind=body.kind,
        graduation_mm=graduation,
        travel_mm=travel,
        turn_mm=_mm(body.turn, "turn", 0, 50, "The travel of one turn", above=True) if body.turn else None,
        counts_turns=body.counts_turns,
        dial=body.dial,
        lost_motion_mm=_mm(body.lost_motion, "lost_motion", 0, 1, "The lost motion") if body.lost_motion else 0.0,
        tip_radius_mm=_mm(body.tip_radius, "tip_radius", 0, 20, "The ball’s radius"),
        check_due=body.check_due,
    )
    shop.save(gauge)
    return _answer(SavedOut(id=path.item_id))
