"""The Shop as a person fills it: what is asked of each kind of thing, what was typed made into it, and its line in the list."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import datetime
from typing import Any, Literal, get_args

from pydantic import ValidationError

from .errors import BadInput
from .fields import FieldSpec, as_typed, fields_of
from .filling import read
from .gauge import Gauge, GaugeKind
from .gauge_check import GaugeCheck
from .holders import AdjustableBody, AnyHolder, Centres, FourJaw, Holder, OnTheTable, Round
from .live.wire import Wire
from .memory import memory_words
from .model import Model
from .shop import Floor, Machine, Memory, Stock
from .wording import Bit, Text, day_word, length, size, so_many, text

ShelfId = Literal["machines", "holders", "gauges", "stock", "wires"]
Thing = Machine | Holder | Gauge | Stock | Wire


class KindForm(Model):
    """A kind of thing, and what is asked of it besides its name."""

    id: str
    word: str
    fields: tuple[FieldSpec, ...]


class ShelfForm(Model):
    """A shelf of the Shop: its heading, what one thing on it is called, and its kinds."""

    shelf: ShelfId
    title: str
    one: str
    kinds: tuple[KindForm, ...]


@dataclass(frozen=True)
class _Shelf:
    title: str
    one: str
    words: Mapping[str, str]
    models: Mapping[str, type[Thing]]


def _of_one(title: str, one: str, model: type[Thing], words: Mapping[str, str]) -> _Shelf:
    return _Shelf(title, one, words, dict.fromkeys(words, model))


_HOLDERS: dict[str, type[Holder]] = {c.model_fields["kind"].default: c for c in get_args(get_args(AnyHolder)[0])}
_SHELVES: Mapping[ShelfId, _Shelf] = {
    "machines": _of_one(
        "Machines", "Machine", Machine, {"lathe": "lathe", "mill": "mill", "plate": "surface plate"}
    ),
    "holders": _Shelf("Holders", "Chuck or other holder", {k: c.word for k, c in _HOLDERS.items()}, _HOLDERS),
    "gauges": _of_one("Indicators and rules", "Indicator or rule", Gauge, {k: k for k in get_args(GaugeKind)}),
    "stock": _of_one("Drawers", "Drawer", Stock, {"shims": "shims", "dowels": "offset dowels", "blocks": "gauge blocks"}),
    "wires": _of_one("Live indicators", "Live indicator", Wire, {"stream": "sends by itself", "request": "answers when asked"}),
}  # fmt: skip


#: What stands on each shelf.
CLASSES: Mapping[ShelfId, Any] = {
    "machines": Machine,
    "holders": Holder,
    "gauges": Gauge,
    "stock": Stock,
    "wires": Wire,
}


def shelf_of(thing: Thing) -> ShelfId:
    """The shelf that a thing stands on."""
    return next(key for key, kept in CLASSES.items() if isinstance(thing, kept))


def forms() -> tuple[ShelfForm, ...]:
    """What the Shop asks, shelf by shelf."""
    return tuple(
        ShelfForm(
            shelf=key,
            title=shelf.title,
            one=shelf.one,
            kinds=tuple(
                KindForm(id=kind, word=word, fields=fields_of(shelf.models[kind], kind))
                for kind, word in shelf.words.items()
            ),
        )
        for key, shelf in _SHELVES.items()
    )


def made(shelf: ShelfId, item_id: str, kind: str, name: str, typed: Mapping[str, str]) -> Thing:
    """A thing from what was typed; what its kind does not have is left aside. Bare lengths are in mm.

    Raises
    ------
    BadInput
        At ``kind``, ``name`` or ``typed.<field>``, in shop words.
    """
    model = _SHELVES[shelf].models.get(kind)
    if model is None:
        raise BadInput("field_invalid", "There is no such kind.", "Choose another.", "kind")
    values: dict[str, Any] = {"id": item_id, "name": name, "kind": kind}
    for spec in fields_of(model, kind):
        value = read(spec, typed.get(spec.name, ""), "mm", _by_its_id, "typed")
        if value is not None:
            values[spec.name] = value
    try:
        thing: Thing = model.model_validate(values)
        thing.check()
    except ValidationError as refused:
        where = refused.errors()[0]["loc"]
        field = str(where[0]) if where else ""
        raise BadInput(
            "field_invalid", "That cannot be kept.", "Check it.", field if field in ("name", "id") else f"typed.{field}"
        ) from refused
    except BadInput as refused:
        raise BadInput(refused.code, refused.why, refused.fix, f"typed.{refused.field}") from refused
    return thing


def _by_its_id(kind: str, item_id: str, field: str) -> str:
    """A thing that names another one keeps its id: the other may change."""
    return item_id


def following(thing: Thing, before: Thing | None, now: datetime) -> Thing:
    """A thing with what is not typed: a floor that was typed anew counts from ``now`` on, what a holder forgot stays forgotten."""
    if isinstance(thing, Holder) and isinstance(before, Holder):
        return thing.model_copy(update={"forget_before": before.forget_before, "struck": before.struck})
    if isinstance(thing, Machine):
        same = isinstance(before, Machine) and abs(before.floor_mm - thing.floor_mm) < 1e-6
        return thing.model_copy(update={"floor_at": before.floor_at if isinstance(before, Machine) and same else now})
    return thing


def typed_of(thing: Thing) -> dict[str, str]:
    """A thing as somebody would type it."""
    model = type(thing)
    found = {spec: as_typed(model, spec.name, getattr(thing, spec.name)) for spec in fields_of(model, thing.kind)}
    return {spec.name: typed.replace("mm", "") if spec.kind == "lengths" else typed for spec, typed in found.items()}


def about(thing: Thing) -> Text:
    """What stands under its name in the list."""
    word = _SHELVES[shelf_of(thing)].words[thing.kind]
    more: Callable[[Any], tuple[Bit, ...]] = _MORE[shelf_of(thing)]
    return text(word, ", ", *more(thing))


def repeats(machine: Machine) -> Text:
    """What a machine repeats to; where nothing was typed for it, nobody has measured it."""
    return (
        text("repeats to ", length(machine.floor_mm), " TIR") if machine.floor_mm else text("its repeat never measured")
    )


def _about_holder(holder: Holder) -> tuple[Bit, ...]:
    if isinstance(holder, OnTheTable):
        return size(holder.edge_mm), " long"
    if isinstance(holder, Centres):
        return "parts up to ", size(holder.longest_mm), " long"
    lead = holder.lead_mm if isinstance(holder, FourJaw | AdjustableBody) else None
    most = holder.max_work_mm if isinstance(holder, Round) else 0.0
    return ("parts to ", size(most), *((", ", size(lead), " a turn") if lead else ()))


def _about_gauge(gauge: Gauge) -> tuple[Bit, ...]:
    due = f", check due {day_word(gauge.check_due)}" if gauge.check_due else ""
    return "one graduation ", length(gauge.graduation_mm), ", counts turns" if gauge.turn_mm else "", due


def _about_stock(stock: Stock) -> tuple[Bit, ...]:
    sizes, pieces = len(stock.pieces), sum(piece.count for piece in stock.pieces)
    return (f"{so_many(sizes, 'size')}, {so_many(pieces, 'piece')}",)


_MORE: dict[ShelfId, Callable[[Any], tuple[Bit, ...]]] = {
    "machines": repeats,
    "holders": _about_holder,
    "gauges": _about_gauge,
    "stock": _about_stock,
    "wires": lambda wire: (f"at {wire.port}",),
}


def remembered(memory: Memory) -> Text:
    """What a holder remembers; nothing when it was never used, or was told to forget.

    Examples
    --------
    >>> from .wording import plain
    >>> plain(remembered(Memory(setups=2, taught={"gain_1": ((0.847, 1e-4),), "shift_1": ((0.005, 1e-9),)})), "mm", 0.001)
    'Remembers 2 set-ups: moves do 85 % of what is asked, shifts 0.005 mm on tightening'
    """
    if not memory.setups:
        return ()
    said = memory_words(memory)
    return text(f"Remembers {so_many(memory.setups, 'set-up')}", *((": ", *said) if said else ()))


def floor_told(floor: Floor) -> Text:
    """What a machine was found to hold on a day, in a line.

    Examples
    --------
    >>> from datetime import UTC, datetime
    >>> from .wording import plain
    >>> found = Floor(at=datetime(2026, 1, 5, tzinfo=UTC), floor_mm=0.004, play_mm={"X": 0.01}, backlash_mm=0.03)
    >>> plain(floor_told(found), "mm", 0.001)
    'Repeats to 0.004 mm TIR; gives 0.010 mm in X; backlash 0.030 mm'
    """
    gives = [
        ("; gives " if n == 0 else ", ", length(mm), f" in {axis}")
        for n, (axis, mm) in enumerate(floor.play_mm.items())
    ]
    more: list[Bit] = []
    if floor.backlash_mm is not None:
        more += ["; backlash ", length(floor.backlash_mm)]
    if floor.spindle_mm is not None:
        more += ["; spindle and holder ", length(floor.spindle_mm), " TIR"]
    return text("Repeats to ", length(floor.floor_mm), " TIR", *gives, *more)


def check_told(check: GaugeCheck) -> Text:
    """What an indicator was found to show on a day, in a line.

    Examples
    --------
    >>> from datetime import UTC, datetime
    >>> from .wording import plain
    >>> seen = {"over_mm": 0.5, "error_mm": 0.004, "near_mm": 0.001, "hysteresis_mm": 0.002, "repeat_mm": 0.001}
    >>> plain(check_told(GaugeCheck(gauge_id="g", at=datetime(2026, 1, 5, tzinfo=UTC), **seen)), "mm", 0.001)
    'Off by 0.004 mm over 0.500 mm; hysteresis 0.002 mm; repeats to 0.001 mm'
    """
    parts: list[Bit] = ["Off by ", length(check.error_mm), " over ", length(check.over_mm)]
    parts += ["; hysteresis ", length(check.hysteresis_mm), "; repeats to ", length(check.repeat_mm)]
    return text(*parts, f"; due {day_word(check.due)}" if check.due else "")
