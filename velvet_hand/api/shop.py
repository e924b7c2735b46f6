"""The Shop: machines, holders, gauges, drawers."""

from __future__ import annotations

from datetime import UTC, datetime

from flask import Response
from flask_openapi3 import APIBlueprint

from velvet_hand.core import shelves
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import Holder
from velvet_hand.core.live.wire import Wire
from velvet_hand.core.shop import Machine, Stock
from velvet_hand.store import setups as store
from velvet_hand.store import shop

from .errors import documented
from .schemas import FormsOut, FoundOut, ItemOut, ItemPath, SavedOut, ShelfPath, ShopOut, ThingIn
from .setups import _answer

bp = APIBlueprint("shop", __name__, url_prefix="/api/shop", abp_responses=documented(422))


def _item(thing: shelves.Thing, plain: shelves.Thing | None = None) -> ItemOut:
    """A thing as the lists show it, and as its page is filled: with what was typed, where checks say more (``plain``)."""
    return ItemOut(
        id=thing.id,
        name=thing.name,
        kind=thing.kind,
        about=shelves.about(thing),
        remembers=shelves.remembered(store.memory_of(thing)) if isinstance(thing, Holder) else (),
        found=_found(thing),
        typed=shelves.typed_of(plain or thing),
    )


def _found(thing: shelves.Thing) -> list[FoundOut]:
    """What set-ups found of it, the latest first."""
    if isinstance(thing, Machine):
        return [FoundOut(at=f.at, told=shelves.floor_told(f)) for f in reversed(thing.found)]
    if isinstance(thing, Gauge):
        return [FoundOut(at=c.at, told=shelves.check_told(c)) for c in reversed(thing.checks)]
    return []


@bp.get("", summary="Everything in the Shop", responses={200: ShopOut})
def everything() -> Response:
    """By name."""
    return _answer(
        ShopOut(
            machines=[_item(store.known(m)) for m in shop.all_of(Machine)],
            holders=[_item(h) for h in shop.all_of(Holder)],
            gauges=[_item(store.checked(g), g) for g in shop.all_of(Gauge)],
            stock=[_item(s) for s in shop.all_of(Stock)],
            wires=[_item(w) for w in shop.all_of(Wire)],
        )
    )


@bp.get("/forms", summary="What is asked of a thing of each kind", responses={200: FormsOut})
def forms() -> Response:
    """Shelf by shelf."""
    return _answer(FormsOut(shelves=list(shelves.forms())))


@bp.put("/<shelf>/<item_id>", summary="Add or change a thing", responses={200: SavedOut})
def put(path: ShelfPath, body: ThingIn) -> Response:
    """The id is made by the client. Set-ups that are open keep the thing as it was; what set-ups taught about it stays."""
    thing = shelves.made(path.shelf, path.item_id, body.kind, body.name, body.typed)
    before = next((t for t in shop.all_of(shelves.CLASSES[path.shelf]) if t.id == path.item_id), None)
    before = store.known(before) if isinstance(before, Machine) else before
    shop.save(shelves.following(thing, before, datetime.now(UTC)))
    return _answer(SavedOut(id=path.item_id))


@bp.delete("/holders/<item_id>/memory", summary="Let a holder forget", responses={200: SavedOut, **documented(404)})
def forget(path: ItemPath) -> Response:
    """After a clean-up, a repair or a bump: only set-ups from now on count."""
    holder = shop.get(Holder, path.item_id, "item_id")
    shop.save(holder.model_copy(update={"forget_before": datetime.now(UTC)}))
    return _answer(SavedOut(id=path.item_id))
