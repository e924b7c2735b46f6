"""JSON Schemas (draft 2020-12) of what goes out and comes in, each with its version."""

from __future__ import annotations

from functools import cache
from typing import Annotated, Any

from pydantic import Field, TypeAdapter

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import AnyHolder
from velvet_hand.core.live.wire import Wire
from velvet_hand.core.plan.any import AnyPlan
from velvet_hand.core.setup.events import Event
from velvet_hand.core.shop import Machine, Stock

#: What is published: name, version, what it is, and its type.
PUBLISHED: dict[str, tuple[int, str, Any]] = {
    "set-up": (
        1,
        "The events of a set-up, in order: all there is to know about it",
        Annotated[list[Event], Field(min_length=1)],
    ),
    "plan": (1, "What a set-up was opened with: machine, holder, indicator and limit as they were then", AnyPlan),
    "machine": (1, "A machine of the Shop", Machine),
    "holder": (1, "A chuck, vise, fixture or another holder of the Shop", AnyHolder),
    "indicator": (1, "An indicator of the Shop", Gauge),
    "wire": (1, "A live indicator of the Shop: its port and how its lines are read", Wire),
    "stock": (1, "A drawer of the Shop: shims, dowels or blocks", Stock),
}


@cache
def schema(name: str) -> dict[str, Any]:
    """The schema of that name.

    Raises
    ------
    KeyError
        When there is none.
    """
    version, title, kind = PUBLISHED[name]
    made = TypeAdapter(kind).json_schema(mode="serialization", by_alias=True)
    head = {
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "$id": f"urn:velvet-hand:{name}:{version}",
        "title": title,
    }
    return {**head, **{key: value for key, value in made.items() if key != "title"}}
