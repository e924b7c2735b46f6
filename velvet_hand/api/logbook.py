"""The Logbook: finding set-ups, and looking back at holders, machines, indicators and hands."""

from __future__ import annotations

from dataclasses import fields
from typing import Any

from flask import Response
from flask_openapi3 import APIBlueprint

from velvet_hand.core.after.history import History, Subject, history
from velvet_hand.core.errors import NotFound
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import Holder
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.shop import Machine
from velvet_hand.store import found, past, shop
from velvet_hand.store import setups as store

from .bench import listed_out
from .errors import documented
from .schemas import ChoicesOut, HistoryPath, ItemPath, LogbookOut, LogbookQuery, SavedOut, StruckIn
from .setups import _answer

bp = APIBlueprint("logbook", __name__, url_prefix="/api", abp_responses=documented(422))
PAGE = 12
_THINGS: dict[Subject, Any] = {"holder": Holder, "machine": Machine, "gauge": Gauge}


def asked_of(query: LogbookQuery) -> found.Asked:
    """What is looked for."""
    given = {one.name: getattr(query, one.name) for one in fields(found.Asked)}
    return found.Asked(**{**given, "standing": {"yes": True, "no": False}.get(query.standing)})


@bp.get("/logbook", summary="Find set-ups", responses={200: LogbookOut})
def logbook(query: LogbookQuery) -> Response:
    """The latest first; every word has to begin one of the set-up's. ``more`` is asked for as ``after``."""
    asked = asked_of(query)
    rows, more = found.search(asked, query.after, PAGE)
    return _answer(LogbookOut(rows=[listed_out(r) for r in rows], more=more))


@bp.get("/logbook/choices", summary="What set-ups can be chosen by", responses={200: ChoicesOut})
def choices() -> Response:
    """Names of the Shop, of procedures and of hands."""
    return _answer(
        ChoicesOut(
            machines=[m.name for m in shop.all_of(Machine)],
            holders=[h.name for h in shop.all_of(Holder)],
            procedures=[p.title for p in PROCEDURES.values()],
            hands=found.hands(),
        )
    )


@bp.get(
    "/history/<subject>/<path:item_id>",
    summary="Look back at a holder, machine, indicator or hand",
    responses={200: History, **documented(404)},
)
def look_back(path: HistoryPath) -> Response:
    """What it is like, what changed since when, whether verdicts held, and what each set-up taught."""
    rows = past.of(path.subject, path.item_id)
    if path.subject == "hand":
        if not rows:
            raise NotFound("unknown_thing", "Nobody of that name has opened a set-up here.", "Look at the Logbook.")
        return _answer(history("hand", path.item_id, rows))
    thing = shop.get(_THINGS[path.subject], path.item_id, "item_id")
    return _answer(history(path.subject, thing.name, rows, thing if isinstance(thing, Holder) else None))


@bp.put(
    "/holders/<item_id>/struck",
    summary="Strike a lesson of a holder, or let it count again",
    responses={200: SavedOut, **documented(404)},
)
def strike(path: ItemPath, body: StruckIn) -> Response:
    """The set-up stays in the Logbook; only what it taught counts no more."""
    holder = shop.get(Holder, path.item_id, "item_id")
    store.read(body.setup_id)
    kept = [one for one in holder.struck if one != str(body.setup_id)]
    struck = (*kept, str(body.setup_id))[-200:] if body.struck else tuple(kept)
    shop.save(holder.model_copy(update={"struck": struck}))
    return _answer(SavedOut(id=holder.id))
