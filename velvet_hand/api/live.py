"""Live indicators: what they show now, a stream of it, and a reading taken from one."""

from __future__ import annotations

import json
import time
from collections.abc import Iterator, Mapping, Sequence
from datetime import datetime
from typing import Any

from flask import Response, current_app
from flask_openapi3 import APIBlueprint
from pydantic import Base64Bytes, BaseModel, Field

from velvet_hand.core.errors import NotNow
from velvet_hand.core.gauge import Gauge, plain_mm
from velvet_hand.core.live.still import Side, is_still
from velvet_hand.core.live.wire import FARTHEST_MM, Wire
from velvet_hand.core.setup.events import Live
from velvet_hand.core.units import Typed
from velvet_hand.instruments.hub import Wires
from velvet_hand.instruments.link import Fed, Link, Now, State
from velvet_hand.store import shop

from .errors import documented, problem
from .schemas import In, ItemPath, Out, SavedOut
from .setups import _answer

bp = APIBlueprint("live", __name__, url_prefix="/api/live", abp_responses=documented(422))
#: So many frames a second, and at least one in so many though nothing changed.
RATE_HZ, IDLE = 25, 6
#: A needle that came back by so many graduations has turned.
BACK = 2
#: One graduation where nobody knows it.
USUAL_MM = 0.001


class BothOut(Out):
    """An extreme by both ways over it, and how far those are apart."""

    mm: float
    apart_mm: float


class NowOut(Out):
    """What a live indicator shows: ``state`` says whether ``mm`` is of now; ``still`` when it did not move for half a second; an
    extreme counts when it was passed by ``both`` ways; how many ``marks`` there are while it is recorded (none: it is not).
    """

    id: str
    name: str
    gauge: str
    state: State
    why: str
    mm: float | None
    still: bool
    age_s: float | None
    side: Side | None
    crests: list[float]
    both: BothOut | None
    marks: int | None
    tablet: TabletOut | None


class TabletOut(Out):
    """How a browser has to read one that hangs on its tablet: speed of the port, what asks it (empty: it sends by itself), how often."""

    baud: int
    ask: str
    every_ms: int


class LiveOut(Out):
    """Every live indicator of the shop."""

    wires: list[NowOut]


class LineOut(Out):
    """A line as it came, and what it was taken for."""

    number: int
    at: datetime
    raw: str
    mm: float | None
    why: str


class LinesOut(Out):
    """The last lines, the latest first, and what it shows."""

    now: NowOut
    lines: list[LineOut]


class TakeIn(In):
    """What the needle shows now; or, while an extreme is looked for, that."""


class PeakIn(In):
    """Which extreme is looked for; none: what the needle shows."""

    side: Side | None


class FeedIn(In):
    """What came at a tablet, byte for byte (base64); or ``gone``, why nothing comes any more. ``by``: which browser."""

    by: str = Field(min_length=1, max_length=80)
    data: Base64Bytes = Field(default=b"", max_length=20_000)
    gone: str = Field(default="", max_length=120)


class LiveReadingOut(Out):
    """A reading to send: what is typed, and where it came from."""

    typed: Typed
    live: Live


class WiresQuery(BaseModel):
    """Which live indicators, with commas between."""

    ids: str = Field(max_length=400)


def _wires() -> Wires:
    found: Wires = current_app.extensions["wires"]
    return found


def _link(wire_id: str) -> Link:
    return _wires().link(shop.get(Wire, wire_id, "item_id"))


def shown_by(link: Link, instead: str, field: str) -> tuple[Now, float, datetime]:
    """What an indicator shows now: its value, and when that came.

    Raises
    ------
    NotNow
        ``not_live``: nothing comes from it; what can be done ``instead``.
    """
    now = link.now()
    if now.state != "live" or now.mm is None or now.at is None:
        why = f"{link.wire.name}: {now.why or 'nothing has come yet'}."
        raise NotNow("not_live", why, f"Look at its cable and switch; or {instead}.", field)
    return now, now.mm, now.at


def _gauges() -> dict[str, Gauge]:
    return {g.id: g for g in shop.all_of(Gauge)}


def _graduation(wire: Wire, gauges: Mapping[str, Gauge]) -> float:
    """One graduation of the indicator that it is; of one that is not in the Shop any more a usual one."""
    return gauges[wire.gauge].graduation_mm if wire.gauge in gauges else USUAL_MM


def _now(wire: Wire, now: Now, gauges: Mapping[str, Gauge]) -> NowOut:
    return NowOut(
        id=wire.id, name=wire.name, gauge=wire.gauge, state=now.state, why=now.why, mm=now.mm,
        still=is_still(now.sd_mm, _graduation(wire, gauges)), age_s=now.age_s, side=now.side, crests=list(now.crests),
        both=BothOut(mm=now.both[0], apart_mm=now.both[1]) if now.both else None, marks=now.marks, tablet=_tablet(wire),
    )  # fmt: skip


def _tablet(wire: Wire) -> TabletOut | None:
    if not wire.on_a_tablet:
        return None
    ask = wire.asks.decode("ascii") if wire.kind == "request" else ""
    return TabletOut(baud=wire.baud, ask=ask, every_ms=wire.every_ms)


@bp.get("", summary="Every live indicator and what it shows", responses={200: LiveOut})
def everything() -> Response:
    """Of those that no screen looks at nothing is known; their ports stay shut."""
    gauges = _gauges()
    found = [_now(wire, _wires().now(wire), gauges) for wire in shop.all_of(Wire)]
    return _answer(LiveOut(wires=found))


@bp.get("/<item_id>/lines", summary="Its last lines as they came", responses={200: LinesOut, **documented(404)})
def lines(path: ItemPath) -> Response:
    """Beside what each was taken for."""
    link = _link(path.item_id)
    rows = [LineOut(number=r.number, at=r.at, raw=r.raw, mm=r.mm, why=r.why) for r in link.lines()]
    return _answer(LinesOut(now=_now(link.wire, link.now(), _gauges()), lines=rows))


@bp.post("/<item_id>/peak", summary="Look for an extreme", responses={200: LinesOut, **documented(404)})
def peak(path: ItemPath, body: PeakIn) -> Response:
    """Over a rod or a ball: the highest (or lowest), kept only after the needle turned back by two graduations; once from each side."""
    link = _link(path.item_id)
    gauges = _gauges()
    link.look_for(body.side, BACK * _graduation(link.wire, gauges))
    return _answer(LinesOut(now=_now(link.wire, link.now(), gauges), lines=[]))


@bp.post("/<item_id>/feed", summary="Send on what a tablet reads", responses={200: SavedOut, **documented(404, 409)})
def feed(path: ItemPath, body: FeedIn) -> Response:
    """One browser at a time; what it sends is read like what comes at a port."""
    link = _link(path.item_id)
    if not isinstance(link, Fed):
        raise NotNow(
            "not_live", f"{link.wire.name} does not hang on a tablet.", "Say so in the Shop: tablet:", "item_id"
        )
    if body.gone:
        link.unplugged(body.by, body.gone)
    elif not link.fed(body.by, body.data):
        raise NotNow("not_live", "Another tablet sends for it.", "Unplug it there first.", "by")
    return _answer(SavedOut(id=path.item_id))


@bp.post("/<item_id>/take", summary="Take a reading", responses={200: LiveReadingOut, **documented(404, 409)})
def take(path: ItemPath, body: TakeIn) -> Response:
    """What it shows now, to be sent as a reading; refused when nothing comes from it."""
    link = _link(path.item_id)
    now, mm, at = shown_by(link, "type what the needle shows", "item_id")
    apart, gauges = now.sd_mm, _gauges()
    if now.side is not None:
        if now.both is None:
            passed = "only once" if now.crests else "not yet"
            raise NotNow(
                "not_live",
                f"It has turned back {passed}.",
                "Run over it and back: the extreme counts from both sides.",
                "item_id",
            )
        mm, apart = now.both
        link.look_for(now.side, BACK * _graduation(link.wire, gauges))
    live = Live(gauge=link.wire.gauge, raw=now.raw, at=at, still_mm=apart)
    return _answer(LiveReadingOut(typed=Typed(text=_typed(mm, gauges.get(link.wire.gauge)), unit="mm"), live=live))


def _typed(mm: float, gauge: Gauge | None) -> str:
    """A value as somebody would type it; of an indicator that is not in the Shop any more only the farthest is no number."""
    if gauge is not None:
        return gauge.typed(mm)
    return plain_mm(mm) if abs(mm) < FARTHEST_MM else "+off" if mm > 0 else "-off"


@bp.delete("/<item_id>", summary="Take a live indicator away", responses={200: SavedOut, **documented(404)})
def remove(path: ItemPath) -> Response:
    """Its readings stay."""
    shop.get(Wire, path.item_id, "item_id")
    shop.remove_wire(path.item_id)
    _wires().drop(path.item_id)
    return _answer(SavedOut(id=path.item_id))


@bp.get("/stream", summary="Follow needles", responses=documented(404, 503))
def stream(query: WiresQuery) -> Response:
    """Server-sent events named ``needles``: what each shows, at least twenty times a second while it moves."""
    wires, gauges = _wires(), _gauges()
    links = [_link(one) for one in query.ids.split(",") if one.strip()][:8]
    if not wires.watch():
        return problem(503, "busy", "Too many screens follow needles.", "Close one, or type what the needle shows.")
    current_app.extensions["database"].close()  # a stream must not sit on a pooled connection
    response = Response(_frames(links, gauges), content_type="text/event-stream")
    response.call_on_close(wires.leave)
    response.headers["Cache-Control"] = "no-store"
    return response


def _frames(links: Sequence[Link], gauges: Mapping[str, Gauge]) -> Iterator[str]:
    sent: list[tuple[Any, ...]] = []
    idle, due = IDLE, time.monotonic()
    while True:
        shown = [_now(link.wire, link.now(), gauges) for link in links]
        looks = [(n.state, n.mm, n.still, n.side, len(n.crests), n.marks) for n in shown]
        idle += 1
        if looks != sent or idle >= IDLE:
            sent, idle = looks, 0
            yield f"event: needles\ndata: {json.dumps([n.model_dump() for n in shown])}\n\n"
        due = max(due + 1 / RATE_HZ, time.monotonic() - 1 / RATE_HZ)
        time.sleep(max(due - time.monotonic(), 0.0))
