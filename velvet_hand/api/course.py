"""A spindle turned slowly, or a table run along, while a live indicator streams: begun, marked, and told as readings."""

from __future__ import annotations

import math
import threading
from collections import OrderedDict
from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import UTC, datetime
from typing import Annotated, Literal
from uuid import UUID

from flask import Response, current_app
from flask_openapi3 import APIBlueprint
from pydantic import Field

from velvet_hand.core.capture.captured import Captured
from velvet_hand.core.desk.course import CourseFound, course_of, read_course
from velvet_hand.core.errors import NotNow
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.live.recording import MOST_MARKS, Recording
from velvet_hand.core.live.wire import Wire
from velvet_hand.core.setup.events import Live
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import so_many
from velvet_hand.instruments.link import Link
from velvet_hand.store import setups as store
from velvet_hand.store import shop

from .errors import documented
from .live import shown_by
from .schemas import In, Out, SetupPath
from .setups import _answer

bp = APIBlueprint("course", __name__, url_prefix="/api", abp_responses=documented(422))
#: So many courses are kept in mind.
MOST = 32
Act = Literal["begin", "more", "look", "mark", "end", "drop"]
Ran = Annotated[float, Field(ge=0, le=3600)]


class CourseIn(In):
    """What is done: begin standing at the first spot; once more, to be told together with what was turned before; look how long it has
    run; a mark; it is back; or leave it. At the end ``turns`` may say how often it went round.

    ``marks_s`` are the marks not told yet, each when the key went down: seconds after it was begun, however late they are heard. A mark
    without them is one now.
    """

    act: Act
    turns: int | None = Field(default=None, ge=1, le=8)
    marks_s: tuple[Ran, ...] = Field(default=(), max_length=MOST_MARKS)


class CourseReadingOut(Out):
    """A reading to send."""

    station_id: str
    closing: bool
    typed: Typed
    live: Live


class CourseOut(Out):
    """Is it running, how many marks there are, and how long it has run (s); and at the end what it said, as readings to send."""

    running: bool
    marks: int
    ran_s: float = 0.0
    found: CourseFound | None = None
    pass_no: int = 0
    readings: tuple[CourseReadingOut, ...] = ()


@dataclass(slots=True)
class _Known:
    """What was turned of these spots before, and what was recorded last."""

    earlier: list[Captured] = field(default_factory=list)
    ended: Recording | None = None
    last: Captured | None = None


class Courses:
    """The courses of set-ups, by set-up, pass and spots."""

    def __init__(self) -> None:
        self._known: OrderedDict[tuple[UUID, int, str], _Known] = OrderedDict()
        self._lock = threading.Lock()

    def of(self, key: tuple[UUID, int, str], afresh: bool = False) -> _Known:
        """What is known of one."""
        with self._lock:
            found = self._known.setdefault(key, _Known())
            if afresh:
                found = self._known[key] = _Known()
            self._known.move_to_end(key)
            while len(self._known) > MOST:
                self._known.popitem(last=False)
            return found


@bp.post(
    "/setups/<setup_id>/course",
    summary="Turn or run along while it streams",
    responses={200: CourseOut, **documented(404, 409)},
)
def course(path: SetupPath, body: CourseIn) -> Response:
    """Nothing is kept in the set-up before its readings are sent, like typed ones."""
    state = store.read(path.setup_id).state
    here = course_of(state)
    if here is None:
        raise NotNow("stale", "Those spots have been read meanwhile.", "Look at the tray.")
    gauge = state.plan.gauge_in(here.slot)
    link = _link(gauge)
    known = _courses().of((path.setup_id, state.next_pass_no, here.ring), afresh=body.act == "begin")
    if body.act in ("begin", "more"):
        shown_by(link, "read it spot by spot", "act")
        if body.act == "more" and known.last is not None:
            known.earlier.append(known.last)
        known.ended, known.last = None, None
        link.record()
        return _answer(CourseOut(running=True, marks=0, ran_s=link.ran_s))
    if body.act == "drop":
        link.forget()
        return _answer(CourseOut(running=False, marks=0))
    now = (math.inf,) if body.act == "mark" and not body.marks_s else ()
    marks = link.mark(*body.marks_s, *now)
    if body.act in ("look", "mark"):
        if marks is None:
            raise _not_begun()
        return _answer(CourseOut(running=True, marks=marks, ran_s=link.ran_s))
    recorded = link.recorded() or known.ended
    if recorded is None:
        raise _not_begun()
    link.forget()
    known.ended = recorded
    found = read_course(state, recorded, known.earlier, body.turns)
    known.last = found.captured
    return _answer(_out(found, gauge, state.next_pass_no, len(recorded.marks_s)))


def _out(found: CourseFound, gauge: Gauge, pass_no: int, marks: int) -> CourseOut:
    now, turns = datetime.now(UTC), found.captured.turns
    raw = f"captured: {so_many(turns, 'turn')}, {so_many(marks, 'mark')}"
    readings = tuple(
        CourseReadingOut(
            station_id=r.station_id, closing=r.closing, typed=Typed(text=gauge.typed(r.needle_mm), unit="mm"),
            live=Live(gauge=gauge.id, raw=raw, at=now, u_mm=r.u_mm),
        )
        for r in found.readings
    )  # fmt: skip
    return CourseOut(running=False, marks=marks, found=found, pass_no=pass_no, readings=readings)


def _not_begun() -> NotNow:
    return NotNow("not_now", "Nothing is recorded.", "Stand at the first spot and begin.", "act")


def _link(gauge: Gauge) -> Link:
    wires: Mapping[str, Wire] = {w.gauge: w for w in shop.all_of(Wire)}
    if gauge.id not in wires:
        raise NotNow(
            "not_live", f"{gauge.name} is not a live indicator.", "Bind it in the Shop; or read it spot by spot.", "act"
        )
    link: Link = current_app.extensions["wires"].link(wires[gauge.id])
    return link


def _courses() -> Courses:
    found: Courses = current_app.extensions["courses"]
    return found
