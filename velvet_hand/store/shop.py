"""Machines, holders and gauges."""

from __future__ import annotations

import logging
from datetime import UTC, datetime
from typing import Any, Literal, TypeVar

from peewee import IntegrityError
from pydantic import TypeAdapter, ValidationError

from velvet_hand.core.errors import BadInput, NotFound
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import AnyHolder, Holder
from velvet_hand.core.live.wire import Wire
from velvet_hand.core.shop import Machine, Stock

from .tables import ShopItem

LOG = logging.getLogger(__name__)
Kind = Literal["machine", "holder", "gauge", "stock", "wire"]
Thing = TypeVar("Thing", Machine, Holder, Gauge, Stock, Wire)
_KINDS: dict[type, Kind] = {Machine: "machine", Holder: "holder", Gauge: "gauge", Stock: "stock", Wire: "wire"}
_READERS: dict[type, TypeAdapter[Any]] = {m: TypeAdapter(AnyHolder if m is Holder else m) for m in _KINDS}


def all_of(model: type[Thing]) -> list[Thing]:
    """Everything of one kind, by name. A row that cannot be read is told in the log and left out; it hides no other."""
    found: list[Thing] = []
    for row in ShopItem.select().where(ShopItem.kind == _KINDS[model]).order_by(ShopItem.name):
        try:
            found.append(_READERS[model].validate_python(row.body, strict=False))
        except ValidationError:
            LOG.exception("%s %r of the Shop cannot be read; the others are shown", row.kind, row.id)
    return found


def read_as(kind: str, body: Any) -> Any:
    """A thing of that kind from how it is kept.

    Raises
    ------
    ValueError
        It is none.
    """
    for model, name in _KINDS.items():
        if name == kind:
            return _READERS[model].validate_python(body, strict=False)
    raise ValueError(f"nothing is a {kind[:20]}")


def get(model: type[Thing], item_id: str, field: str) -> Thing:
    """One machine, holder or gauge.

    Raises
    ------
    NotFound
        When there is none of that id; ``field`` names the choice that asked for it.
    """
    row = ShopItem.get_or_none((ShopItem.id == item_id) & (ShopItem.kind == _KINDS[model]))
    if row is None:
        kind = _KINDS[model]
        word = {"stock": "drawer", "wire": "live indicator"}.get(kind, kind)
        raise NotFound("unknown_thing", f"There is no such {word} in the Shop.", f"Choose a {word}.", field)
    found: Thing = _READERS[model].validate_python(row.body, strict=False)
    return found


def save(thing: Machine | Holder | Gauge | Stock | Wire) -> None:
    """Add or replace.

    Raises
    ------
    BadInput
        ``name_taken`` when another of its kind has the name, or its id is that of something of another kind.
    """
    kind = next(kind for model, kind in _KINDS.items() if isinstance(thing, model))
    body = thing.model_dump(mode="json")
    now = datetime.now(UTC)
    try:
        with ShopItem._meta.database.atomic():
            if ShopItem.select().where((ShopItem.id == thing.id) & (ShopItem.kind != kind)).exists():
                raise BadInput(
                    "name_taken", "Something of another kind is kept under that id.", "Add it as a new one.", "id"
                )
            ShopItem.insert(id=thing.id, kind=kind, name=thing.name, body=body, changed_at=now).on_conflict(
                conflict_target=[ShopItem.id],
                update={ShopItem.name: thing.name, ShopItem.body: body, ShopItem.changed_at: now},
            ).execute()
    except IntegrityError as taken:
        raise BadInput(
            "name_taken", f"Another {kind} is called {thing.name}.", "Give it a name of its own.", "name"
        ) from taken


def remove_wire(item_id: str) -> bool:
    """Take a live indicator away; was there one? Its readings keep what they were read from."""
    found: int = ShopItem.delete().where((ShopItem.id == item_id) & (ShopItem.kind == "wire")).execute()
    return found > 0
