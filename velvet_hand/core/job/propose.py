"""How to hold a part and how to indicate it: every holder of the Shop that is for such work, best first, and what rules the others out."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from ..after.own import alike, own_minutes, own_words
from ..desk import desk
from ..desk.expect import likely
from ..engine.procedure import Registered
from ..errors import BadInput, VelvetHandError
from ..gauge import Gauge
from ..holders import Centres, Holder, HolderKind, OnTheTable, Round
from ..plan.base import Workpiece
from ..procedures.registry import PROCEDURES
from ..shop import Machine, Memory, Stock
from ..units import Typed
from ..wording import Bit, Text, length, size, strong, text
from .wanted import HEAVY_KG, KINDS, SURFACES, Candidate, Rating, Record, Share, Wanted

#: Longer than so many diameters it is held in two planes.
LONG = 2.5
#: A surface rougher than this part of the limit is roughed in by rule and feelers first; a graduation is at most so much of it.
ROUGH_PART, MARK_PART = 1 / 3, 1 / 4
#: What a holder of its kind repeats to, before it has told (mm, expanded).
REPEATS_MM = 0.004
#: As a rule this part of the limit may be taken, for the rest to be there for the work.
GOOD_PART = 0.7
#: A set-up that nobody can forecast takes about so long (minutes).
USUAL_MINUTES = 8.0
#: How long it takes to get a part into it and out again, as long as nobody measured it (minutes): it only decides what stands first.
HANDLING: dict[HolderKind, float] = {"collet": 1, "adjustable_body": 2, "three_jaw": 3, "four_jaw_independent": 4, "faceplate": 15,
    "vise": 2, "vise_pair": 6, "fixture": 8}  # fmt: skip
#: What of a holder is to be fetched with it.
FETCH: dict[HolderKind, tuple[str, ...]] = {
    "four_jaw_independent": ("chuck key", "brass strips, four alike"),
    "three_jaw": ("chuck key", "shims by size"),
    "adjustable_body": ("chuck key", "key of the body’s screws"),
    "collet": ("its collet", "collet wrench"),
    "faceplate": ("clamps and bolts", "counterweight", "soft hammer"),
    "vise": ("soft hammer", "wrench for the nuts"),
    "vise_pair": ("soft hammer", "straight bar", "wrench for the nuts"),
    "fixture": ("soft hammer", "clamps"),
}
#: What is left behind in it most easily.
AWAY: dict[HolderKind, tuple[str, ...]] = {
    "four_jaw_independent": ("chuck key out of the chuck", "brass strips from all four jaws"),
    "three_jaw": ("chuck key out of the chuck", "every shim out from under its jaw, counted"),
    "adjustable_body": ("chuck key and the screws’ key",),
    "collet": ("collet out, taper wiped",),
    "faceplate": ("clamps, bolts and counterweight off", "hammer off the bed"),
    "vise": ("socket and wrench off the nuts", "parallels counted"),
    "vise_pair": ("sockets off both vises: one is easily left on a hidden nut", "the straight bar"),
    "fixture": ("wrench off the clamps", "shims that were not used, back in their drawer"),
}
#: What a drawer of each kind is asked for when it is empty.
DRAWERS = {"shims": "shims, from 0.02 mm on: there are none", "dowels": "offset dowels, two of a size: there are none"}
_ROUND: dict[HolderKind, str] = {
    "four_jaw_independent": "four_jaw", "three_jaw": "packing", "adjustable_body": "adjustable", "collet": "collet",
    "faceplate": "faceplate",
}  # fmt: skip
_FLAT: dict[HolderKind, str] = {"vise": "vise", "vise_pair": "vises", "fixture": "edge"}


@dataclass(frozen=True, slots=True)
class Shop:
    """What there is: things, what holders remember, and (by holder's id and kind of set-up) what they were proved to."""

    machines: Sequence[Machine]
    holders: Sequence[Holder]
    gauges: Sequence[Gauge]
    stock: Sequence[Stock] = ()
    memories: Mapping[str, Memory] = field(default_factory=dict)
    records: Mapping[str, Record] = field(default_factory=dict)


def propose(wanted: Wanted, shop: Shop, on: date) -> tuple[Candidate, ...]:
    """Every way that this shop has, the best first; those that are ruled out come last, with the reason.

    Raises
    ------
    BadInput
        At a field of what is wanted.
    """
    if wanted.limit.kind not in KINDS[wanted.shape]:
        raise BadInput(
            "field_invalid", "That is not asked of such a part.", "Choose another kind of limit.", "limit.kind"
        )
    wanted.across_mm, wanted.long_mm, wanted.limit.mm  # noqa: B018 - each refuses what it cannot be
    rank: dict[Rating, int] = {"good": 0, "unsure": 1, "out": 2}
    found = [one for holder in shop.holders if (one := _of(wanted, holder, shop, on)) is not None]
    return tuple(
        sorted(
            found, key=lambda c: (rank[c.rating], not c.shares, (c.minutes or USUAL_MINUTES) + c.handling, -c.left_mm)
        )
    )


def _procedure(wanted: Wanted, holder: Holder) -> Registered | None:
    """How it is indicated in a holder; None when that is not for such work."""
    name = (_ROUND if wanted.shape == "round" else _FLAT).get(holder.kind)
    if name == "four_jaw" and (wanted.long_mm or 0.0) > LONG * wanted.across_mm:
        name = "two_planes"
    return PROCEDURES.get(name) if name else None


def _does_not_fit(wanted: Wanted, holder: Holder) -> Text:
    """Why it does not go in; nothing when it does."""
    across, long = wanted.across_mm, wanted.long_mm
    if isinstance(holder, Centres):
        return ()
    if isinstance(holder, Round):
        if across > holder.max_work_mm:
            return text("Takes up to ", size(holder.max_work_mm), ".")
        if across < holder.min_work_mm:
            return text("Takes from ", size(holder.min_work_mm), " on.")
    if isinstance(holder, OnTheTable) and long is not None and long > 2.5 * holder.edge_mm:
        return text("The part sticks out too far: its edge is ", size(holder.edge_mm), " long.")
    return ()


def _machine(procedure: Registered, shop: Shop) -> Machine | None:
    """The machine for it that repeats best."""
    fitting = [m for m in shop.machines if m.kind in procedure.machine_kinds]
    return min(fitting, key=lambda m: m.floor_mm, default=None)


def _coarse(gauge: Gauge, wanted: Wanted) -> bool:
    """Is a graduation of it more than its part of the limit?"""
    return gauge.graduation_mm > MARK_PART * wanted.limit.mm * (1 + 1e-9)


def _gauge(wanted: Wanted, procedure: Registered, shop: Shop, on: date) -> Gauge | None:
    """Of those with fine enough graduations the one that travels farthest, one that is not overdue before all; else the finest."""
    fitting = [g for g in shop.gauges if g.kind in procedure.asks.gauges]

    fine = [g for g in fitting if not _coarse(g, wanted)]
    if fine:
        return min(fine, key=lambda g: (g.overdue(on), -g.travel_mm))
    return min(fitting, key=lambda g: g.graduation_mm, default=None)


def _of(wanted: Wanted, holder: Holder, shop: Shop, on: date) -> Candidate | None:
    procedure = _procedure(wanted, holder)
    if procedure is None:
        return None
    machine, gauge = _machine(procedure, shop), _gauge(wanted, procedure, shop, on)
    base: dict[str, Any] = {
        "title": procedure.title, "procedure": procedure.id, "holder_id": holder.id, "holder": holder.name,
        "machine_id": machine.id if machine else "", "machine": machine.name if machine else "",
        "gauge_id": gauge.id if gauge else "", "gauge": gauge.name if gauge else "", "handling": HANDLING.get(holder.kind, 5.0),
    }  # fmt: skip
    if why := _does_not_fit(wanted, holder):
        return Candidate(rating="out", reasons=(why,), **base)
    if machine is None or gauge is None:
        what = "machine for it" if machine is None else "indicator for it"
        needs = procedure.needs.machine if machine is None else procedure.needs.gauge
        return Candidate(rating="out", reasons=(text(f"No {what} in the Shop."),), buy=(text(needs),), **base)
    shares = _shares(wanted, holder, machine, gauge, shop)
    limit = wanted.limit.mm
    likely_mm, worst_mm = math.sqrt(sum(s.mm**2 for s in shares)), sum(s.mm for s in shares)
    rating: Rating = "good" if likely_mm <= GOOD_PART * limit else "unsure" if likely_mm <= limit else "out"
    told: Text = ()
    minutes: float | None = None
    if rating != "out":
        told, minutes = _expected(wanted, procedure, holder, machine, gauge, shop)
    return Candidate(
        rating=rating, reasons=_reasons(wanted, holder, gauge, shop, shares, rating, on, procedure.title), first=_first(wanted, procedure),
        expect=told, minutes=minutes, shares=shares, likely_mm=likely_mm, worst_mm=worst_mm, left_mm=limit - likely_mm,
        fetch=_fetch(wanted, holder, gauge), buy=_buy(wanted, procedure, gauge, shop, on),
        away=(f"{gauge.name} and its base off, into their box", *AWAY.get(holder.kind, ())),
        **base,
    )  # fmt: skip


def _fetch(wanted: Wanted, holder: Holder, gauge: Gauge) -> tuple[str, ...]:
    """What is to be brought to the machine."""
    help_ = ("hoist or a second person",) if (wanted.kg or 0.0) > HEAVY_KG else ()
    return (gauge.name, "base with a stiff arm", *FETCH.get(holder.kind, ()), *help_)


def _buy(wanted: Wanted, procedure: Registered, gauge: Gauge, shop: Shop, on: date) -> tuple[Text, ...]:
    """What it wants that the Shop has not got: a finer indicator, a check of it, a drawer that is not empty."""
    found = []
    if _coarse(gauge, wanted):
        found.append(text("an indicator with graduations of ", length(MARK_PART * wanted.limit.mm), " or finer"))
    if gauge.overdue(on):
        found.append(text(f"a check of {gauge.name}, which is overdue"))
    kinds = dict.fromkeys(spec.kind for spec in procedure.fields if spec.kind in DRAWERS and not spec.optional)
    full = {drawer.kind for drawer in shop.stock if any(piece.count for piece in drawer.pieces)}
    found += [text(DRAWERS[kind]) for kind in kinds if kind not in full]
    return tuple(found)


def _shares(wanted: Wanted, holder: Holder, machine: Machine, gauge: Gauge, shop: Shop) -> tuple[Share, ...]:
    """What indicator, machine, holder and surface take, expanded, in the limit's own kind."""
    twice = 2.0 if wanted.limit.kind == "tir" else 1.0
    memory = shop.memories.get(holder.id, Memory())
    return tuple(
        sorted(
            (
                Share(word="indicator", mm=twice * 2 * gauge.u_read_mm + twice / 2 * (gauge.error_mm + gauge.lost_motion_mm)),
                Share(word="machine repeats", mm=machine.floor_mm / 2 * twice),
                Share(word="holder repeats", mm=2 * memory.repeat_mm if memory.repeat_mm is not None else REPEATS_MM),
                Share(word="surface’s own form", mm=wanted.form_mm / 2 * twice),
            ),
            key=lambda s: -s.mm,
        )
    )  # fmt: skip


_MENDS = {
    "indicator": "a finer indicator, or a wider limit",
    "machine repeats": "a machine that repeats better, or a wider limit",
    "holder repeats": "another holder, or a wider limit",
    "surface’s own form": "a better surface to read, or a wider limit: rougher than the limit nobody can tell",
}


def _reasons(
    wanted: Wanted,
    holder: Holder,
    gauge: Gauge,
    shop: Shop,
    shares: tuple[Share, ...],
    rating: Rating,
    on: date,
    title: str,
) -> tuple[Text, ...]:
    """What speaks for it and against it."""
    record, found = shop.records.get(f"{holder.id} {title}", Record()), []
    if record.proved:
        times = "once" if record.proved == 1 else f"{record.proved} times"
        held: list[Bit] = [f"Proved {times}"]
        held.append(f", held {record.held}" if record.held < record.proved else ", always held")
        if record.best_mm is not None and record.worst_mm is not None:
            held += [", each to its own limit: ", length(record.best_mm)]
            held += [" to ", length(record.worst_mm)] if record.held > 1 else []
        found.append(text(*held, "."))
    else:
        found.append(text("Not proved here yet."))
    if rating == "out":
        most = shares[0]
        found.insert(
            0, text(strong("Cannot work: "), f"{most.word} takes ", length(most.mm), f". It takes {_MENDS[most.word]}.")
        )
    elif rating == "unsure":
        most = shares[0]
        found.insert(0, text(f"Tight: {most.word} takes ", length(most.mm), f". Better with {_MENDS[most.word]}."))
    if _coarse(gauge, wanted):
        found.append(text(f"{gauge.name} is coarse for this limit: a graduation is ", length(gauge.graduation_mm), "."))
    if gauge.overdue(on):
        found.append(text(f"{gauge.name} is overdue for its check."))
    if wanted.many > 1 and holder.kind in ("three_jaw", "adjustable_body", "collet"):
        found.append(text(f"Set once, it takes all {wanted.many} quickly."))
    return tuple(found)


def _first(wanted: Wanted, procedure: Registered) -> tuple[Text, ...]:
    """What comes before it is indicated."""
    found = []
    if wanted.form_mm > ROUGH_PART * wanted.limit.mm:
        found.append(
            text(
                f"By rule and feelers first: the surface is {SURFACES[wanted.surface][0]}, rougher than a third of the limit."
            )
        )
    if wanted.kg is not None and wanted.kg > HEAVY_KG:
        found.append(text("Into the machine with support under it: it is too heavy for hands alone."))
    elif wanted.shape == "round" and wanted.across_mm < 60 and procedure.id in ("four_jaw", "adjustable"):
        found.append(text("Gripped on the bench first, the chuck lying flat: small and light parts sit better so."))
    if wanted.hardened:
        found.append(text("Hardened: brass or aluminum on every jaw, soft hammer only."))
    return tuple(found)


def _expected(
    wanted: Wanted, procedure: Registered, holder: Holder, machine: Machine, gauge: Gauge, shop: Shop
) -> tuple[Text, float | None]:
    """Passes and minutes of a usual set-up there, by what was done here before where that is enough; nothing where nobody can say."""
    own = alike(shop.records.get(f"{holder.id} {procedure.title}", Record()).done, wanted.limit.mm)
    if own:
        return own_words(own), own_minutes(own)

    def find(kind: str, item_id: str, at: str) -> Any:
        return next((s for s in shop.stock if s.kind == kind), None) or gauge

    across = Typed(text=f"{wanted.across_mm:.9g}", unit="mm")
    common = {
        "part": Workpiece(name=wanted.name or "part", diameter=across, finish=SURFACES[wanted.surface][2]),
        "machine": machine, "holder": holder, "gauge": gauge, "limit": wanted.limit, "unit": wanted.limit.typed.unit,
        "memory": shop.memories.get(holder.id, Memory()),
    }  # fmt: skip
    try:
        plan = desk.plan_for(procedure.id, common, {}, find)
        return desk.expect(plan), likely(procedure, plan)
    except VelvetHandError:
        return (), None  # what a set-up there asks besides, only its start page can ask
