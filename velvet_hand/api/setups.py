"""Set-ups: start, look, add an event, hear of changes, take the log away."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from datetime import UTC, date, datetime
from functools import partial
from typing import Any
from uuid import UUID, uuid4

from flask import Response, current_app, json
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.again import left_by
from velvet_hand.core.desk.sheet import readings_from, sheet_of
from velvet_hand.core.desk.suspects import WhyView
from velvet_hand.core.desk.view import FullRecord, SetupView
from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import Gauge, ReadTo
from velvet_hand.core.holders import Holder
from velvet_hand.core.plan.base import BasePlan, Left, Limit, Workpiece
from velvet_hand.core.practice.what_if import moves
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.shop import Machine, Stock
from velvet_hand.core.wording import plain
from velvet_hand.store import jobs, past, shop
from velvet_hand.store import setups as store

from .errors import documented
from .schemas import (
    EventIn,
    EventOut,
    HolderPath,
    LastOut,
    LastQuery,
    LimitIn,
    OpenIn,
    PartIn,
    PlanIn,
    PlanOut,
    ReplayOut,
    SetupPath,
    SheetIn,
    SheetOut,
    ThenPath,
)

bp = APIBlueprint("setups", __name__, url_prefix="/api", abp_responses=documented(422))


def _answer(model: Any, status: int = 200) -> Response:
    return Response(model.model_dump_json(), status=status, content_type="application/json")


def _plan(asked: PlanIn) -> BasePlan:
    holder = shop.get(Holder, asked.holder_id, "holder_id")
    common = {
        "part": Workpiece(
            name=asked.part.name,
            diameter=asked.part.diameter,
            surface=asked.part.surface,
            finish=asked.part.finish,
        ),
        "machine": store.known(shop.get(Machine, asked.machine_id, "machine_id")),
        "holder": holder,
        "gauge": _at_it(store.checked(shop.get(Gauge, asked.gauge_id, "gauge_id")), asked.read_to),
        "limit": Limit(kind=asked.limit.kind, typed=asked.limit.typed),
        "unit": asked.unit,
        "stations_deg": tuple(asked.stations_deg),
        "school": asked.school,
        "carrier": asked.carrier,
        "gauge_clock_deg": asked.gauge_clock_deg,
        "view": asked.view,
        "stylus_deg": asked.stylus_deg,
        "swing_deg": asked.swing_deg,
        "memory": store.memory_of(holder),
    }
    return desk.plan_for(asked.procedure, common, asked.choices, partial(_find, asked.read_to))


def _at_it(gauge: Gauge, read_to: ReadTo) -> Gauge:
    """The indicator as this hand reads it."""
    return gauge.model_copy(update={"read_to": read_to})


def _find(read_to: ReadTo, kind: str, item_id: str, field: str) -> Gauge | Stock:
    """A second gauge, or a drawer of the right kind."""
    if kind == "gauge":
        return _at_it(store.checked(shop.get(Gauge, item_id, field)), read_to)
    stock = shop.get(Stock, item_id, field)
    if stock.kind != kind:
        raise BadInput("field_invalid", f"{stock.name} holds no {kind}.", "Choose another drawer.", field)
    return stock


@bp.post(
    "/plans/check", summary="Can this plan work, and what is to be told?", responses={200: PlanOut, **documented(404)}
)
def check_plan(body: PlanIn) -> Response:
    """Nothing is kept."""
    plan = _plan(body)
    told = list(desk.check_plan(plan, date.today()))
    return _answer(PlanOut(told=told, expect=desk.expect(plan, past.done_before(plan))))


def opened(body: PlanIn) -> State:
    """A set-up as it would be opened, without keeping anything.

    Raises
    ------
    BadInput
        At a field of the plan that cannot work.
    """
    plan = _plan(body)
    desk.check_plan(plan, date.today())
    first = ev.Event(id=uuid4(), seq=1, at=datetime.now(UTC), author="", body=ev.Opened(plan=plan))
    return desk.load([first])


def _left(setup_id: UUID, plan: BasePlan) -> Left | None:
    """How that set-up was left, when it was the same: the same way of indicating, in the same holder."""
    state = store.read(setup_id).state
    same = (state.plan.procedure, state.plan.holder.id) == (plan.procedure, plan.holder.id)
    return left_by(state, str(setup_id)) if same else None


@bp.post("/setups", summary="Open a set-up", responses={200: SetupView, 201: SetupView, **documented(404, 409)})
def open_setup(body: OpenIn) -> Response:
    """Opening the same set-up again changes nothing and answers 200."""
    plan = _plan(body.plan)
    if body.again is not None:
        plan = plan.model_copy(update={"before": _left(body.again, plan)})
    desk.check_plan(plan, date.today())
    event = ev.Event(id=body.event_id, seq=1, at=body.at, author=body.author, body=ev.Opened(plan=plan))
    with current_app.extensions["database"].atomic():
        kept = store.open_setup(body.id, event)
        if body.operation is not None:
            jobs.begin(body.operation.job, body.operation.operation, body.id)
    return _answer(desk.show(kept.events, str(body.id), kept.state), 201 if kept.added else 200)


@bp.get("/setups/<setup_id>", summary="A set-up as its screen shows it", responses={200: SetupView, **documented(404)})
def get_setup(path: SetupPath) -> Response:
    """Everything in one answer."""
    kept = store.read(path.setup_id)
    return _answer(desk.show(kept.events, str(path.setup_id), kept.state))


@bp.get(
    "/setups/<setup_id>/record", summary="All passes and the whole log", responses={200: FullRecord, **documented(404)}
)
def get_record(path: SetupPath) -> Response:
    """What the view of a long set-up leaves out."""
    kept = store.read(path.setup_id)
    return _answer(desk.record(kept.events, kept.state))


@bp.get(
    "/setups/<setup_id>/at/<int:seq>",
    summary="A set-up as it stood then",
    responses={200: ReplayOut, **documented(404)},
)
def get_at(path: ThenPath) -> Response:
    """After its first ``seq`` events, with what was done last and what was done next."""
    events = store.events_of(path.setup_id)
    then = events[: min(path.seq, len(events))]
    state = desk.load(events)
    log = desk.log_of(events, state)
    return _answer(
        ReplayOut(
            view=desk.show(then, str(path.setup_id)), total=len(events), at=then[-1].at, opened_at=events[0].at,
            done=log[len(then) - 1], next=log[len(then)] if len(then) < len(events) else None,
            next_at=events[len(then)].at if len(then) < len(events) else None, what_if=moves(state.plan),
        )
    )  # fmt: skip


@bp.get(
    "/setups/<setup_id>/again",
    summary="What the same once more is planned with",
    responses={200: PlanIn, **documented(404)},
)
def get_again(path: SetupPath) -> Response:
    """As it was typed. Send it with ``again`` set to this set-up: its first pass is then held against how this was left."""
    return _answer(_as_typed(store.read(path.setup_id).state.plan))


@bp.get(
    "/holders/<holder_id>/last",
    summary="How a holder was worked the last time",
    responses={200: LastOut},
)
def get_last(path: HolderPath, query: LastQuery) -> Response:
    """What its last set-up of that procedure was planned with; nothing where there was none."""
    known = PROCEDURES.get(query.procedure)
    found = store.last_in(path.holder_id, known.title) if known else None
    if found is None:
        return _answer(LastOut())
    state = store.read(found).state
    return _answer(LastOut(setup=str(found), at=state.opened_at, plan=_as_typed(state.plan)))


def _as_typed(plan: BasePlan) -> PlanIn:
    """A plan as somebody would type it."""
    part = plan.part
    return PlanIn(
        procedure=plan.procedure,
        part=PartIn(name=part.name, diameter=part.diameter, surface=part.surface, finish=part.finish),
        machine_id=plan.machine.id, holder_id=plan.holder.id, gauge_id=plan.gauge.id,
        limit=LimitIn(kind=plan.limit.kind, typed=plan.limit.typed), unit=plan.unit,
        stations_deg=list(plan.stations_deg), school=plan.school, carrier=plan.carrier,
        gauge_clock_deg=plan.gauge_clock_deg, view=plan.view, stylus_deg=plan.stylus_deg, swing_deg=plan.swing_deg,
        read_to=plan.gauge.read_to, choices=desk.choices_again(plan),
    )  # fmt: skip


@bp.get("/setups/<setup_id>/why", summary="Why won’t it come in?", responses={200: WhyView, **documented(404)})
def get_why(path: SetupPath) -> Response:
    """What could explain what was seen, and the quick test that tells most; its answer is sent as an event."""
    return _answer(desk.suspects(store.read(path.setup_id).state, date.today()))


@bp.post("/setups/<setup_id>/events", summary="Add an event", responses={200: EventOut, **documented(404, 409)})
def add_event(path: SetupPath, body: EventIn) -> Response:
    """Sending the same event again changes nothing. Answers with the set-up as it is then."""
    kept = store.append(path.setup_id, body.id, body.at, body.author, body.body)
    return _answer(EventOut(added=kept.added, view=desk.show(kept.events, str(path.setup_id), kept.state)))


@bp.post("/setups/<setup_id>/sheet", summary="Read a file of readings", responses={200: SheetOut, **documented(404)})
def read_sheet(path: SetupPath, body: SheetIn) -> Response:
    """Nothing is kept: the readings are sent as events, like typed ones."""
    state = store.read(path.setup_id).state
    found = readings_from(body.text, state, body.unit, body.reads)
    return _answer(SheetOut(pass_no=state.next_pass_no, readings=found.readings, asks=found.asks))


_CSV: dict[str | int, Any] = {
    "200": {"description": "The log as CSV", "content": {"text/csv": {"schema": {"type": "string"}}}}
}
_JSON: dict[str | int, Any] = {
    "200": {
        "description": "Every event as JSON",
        "content": {"application/json": {"schema": {"type": "array", "items": {"type": "object"}}}},
    }
}


@bp.get("/setups/<setup_id>/log.csv", summary="Readings as CSV", responses={**_CSV, **documented(404)})
def log_csv(path: SetupPath) -> Response:
    """One line for each reading and each move, in the set-up's own unit, lengths in mm beside it."""
    events = store.events_of(path.setup_id)
    return _download(_csv(events), "text/csv; charset=utf-8", f"set-up-{path.setup_id}.csv")


class PassQuery(BaseModel):
    """Which pass; the last when it is not said."""

    number: int | None = Field(default=None, alias="pass", ge=1)


@bp.get("/setups/<setup_id>/readings.csv", summary="One pass as CSV", responses={**_CSV, **documented(404)})
def readings_csv(path: SetupPath, query: PassQuery) -> Response:
    """As a set-up takes them back: a line for each place, with its unit."""
    state = desk.load(store.events_of(path.setup_id))
    number = query.number or max(len(state.passes), 1)
    return _download(sheet_of(state, number), "text/csv; charset=utf-8", f"pass-{number}-{path.setup_id}.csv")


@bp.get("/setups/<setup_id>/events.json", summary="Every event as JSON", responses={**_JSON, **documented(404)})
def events_json(path: SetupPath) -> Response:
    """The whole set-up: these events are all there is to know about it."""
    events = [e.model_dump(mode="json") for e in store.events_of(path.setup_id)]
    return _download(json.dumps(events, indent=1), "application/json", f"set-up-{path.setup_id}.json")


def _download(text: str, content_type: str, name: str) -> Response:
    return Response(text, content_type=content_type, headers={"Content-Disposition": f'attachment; filename="{name}"'})


def _csv(events: Sequence[ev.Event]) -> str:
    state = desk.load(events)
    log, unit, resolution_mm = desk.log_of(events, state), state.plan.unit, state.plan.gauge.resolution_mm
    values = {r.event_id: r.needle_mm for one in state.passes for r in one.all_readings()}
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(["seq", "at", "author", "undone", "event", "typed", "unit", "needle_mm", "words"])
    for event, line in zip(events, log, strict=True):
        typed = getattr(event.body, "typed", None)
        mm = values.get(str(event.id))
        writer.writerow(
            [
                event.seq,
                event.at.isoformat(),
                _no_formula(event.author),
                "yes" if line.undone else "",
                event.body.type,
                _no_formula(typed.text) if typed else "",
                typed.unit if typed else "",
                "" if mm is None else repr(mm),
                _no_formula(plain(line.what, unit, resolution_mm)),
            ]
        )
    return out.getvalue()


#: What may stand behind a sign without being a formula: a reading, or past the end of the dial.
_READING = re.compile(r"[-+](\d+([.,]\d+)?|[.,]\d+|off)(\s?(mm|thou|tenths?|µm|um|in|\"))?", re.IGNORECASE)


def _no_formula(text: str) -> str:
    """A spreadsheet takes what begins with = @ + - for a formula; a reading may keep its sign."""
    return "'" + text if text[:1] in ("=", "@", "+", "-", "\t", "\r") and not _READING.fullmatch(text) else text
