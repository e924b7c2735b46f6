"""The Bench, the Logbook, procedures, health."""

from __future__ import annotations

from datetime import date
from typing import get_args

from flask import Response, current_app, request
from flask_openapi3 import APIBlueprint

from velvet_hand import __version__
from velvet_hand.core.after.follow import in_days
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import AdjustableBody, FourJaw, Holder
from velvet_hand.core.procedures.registry import PROCEDURES, holders_on
from velvet_hand.core.shop import Machine, MachineKind
from velvet_hand.store import found, past, shop
from velvet_hand.store import setups as store

from .errors import documented, problem
from .schemas import (
    BenchOut,
    Due,
    HealthOut,
    ListedOut,
    ProcedureOut,
    ProceduresOut,
    Stand,
)
from .setups import _answer
from .stream import Hub

bp = APIBlueprint("bench", __name__, url_prefix="/api", abp_responses=documented(422))
#: A gauge check this near is worth a line on the Bench.
DUE_DAYS = 14


@bp.get("/health", summary="Is it up?", responses={200: HealthOut})
def health() -> Response:
    """Asks the database, too."""
    store.latest_off("")
    return _answer(HealthOut(ok=True, version=__version__))


@bp.get("/procedures", summary="What can be indicated", responses={200: ProceduresOut})
def procedures() -> Response:
    """All procedures with what they need."""
    return _answer(
        ProceduresOut(
            procedures=[
                ProcedureOut(
                    id=p.id,
                    title=p.title,
                    machine_kinds=list(p.machine_kinds),
                    needs=p.needs,
                    holder_kinds=list(p.holder_kinds),
                    fields=list(p.fields),
                    asks=p.asks,
                )
                for p in PROCEDURES.values()
            ],
            holders_on={kind: list(holders_on(kind)) for kind in get_args(MachineKind)},
        )
    )


def listed_out(one: found.Listed) -> ListedOut:
    """A line of a list."""
    return ListedOut(id=one.id, seq=one.seq, summary=one.summary)


@bp.get("/bench", summary="What stands where", responses={200: BenchOut})
def bench() -> Response:
    """Each machine with what stands on it, and what wants a look."""
    standing = store.standing()
    stands = []
    for machine in shop.all_of(Machine):
        here = [listed_out(s) for s in standing if s.summary.machine_id == machine.id]
        last = None if here else store.latest_off(machine.id)
        stands.append(Stand(machine=machine, standing=here, last=listed_out(last) if last else None))
    return _answer(BenchOut(stands=stands, due=_due(date.today())))


def _due(today: date) -> list[Due]:
    dues = [
        Due(name=line.summary.part, what=one.what, setup_id=line.id, follow_id=one.follow_id)
        for line, one in past.wanting(today)
    ]
    checks = ((gauge, _check_words(gauge, today)) for gauge in map(store.checked, shop.all_of(Gauge)))
    dues += [Due(name=gauge.name, what=what) for gauge, what in checks if what]
    for holder in shop.all_of(Holder):
        if isinstance(holder, FourJaw | AdjustableBody) and holder.lead_mm is None:
            dues.append(Due(name=holder.name, what="jaw screw lead not measured"))
    return dues


def _check_words(gauge: Gauge, today: date) -> str:
    """What an indicator’s check wants; nothing while it is neither due by use nor soon by its day."""
    days = (gauge.check_due - today).days if gauge.check_due else DUE_DAYS + 1
    if days >= 0 and gauge.check_every and gauge.used >= gauge.check_every:
        return f"check due: {gauge.used} set-ups since the last"
    return f"check {in_days(days)}" if days <= DUE_DAYS else ""


@bp.get("/stream", summary="Hear of new events in any set-up", responses=documented(503))
def stream() -> Response:
    """Server-sent events named ``changed`` with a list of ``{id, seq}``: first all that stand on a machine, then each that changes."""
    hub: Hub = current_app.extensions["hub"]
    mine = hub.open(request.environ.get("gunicorn.socket"))
    if mine is None:
        return problem(503, "busy", "Too many pages are listening already.", "Close one of them.")
    standing = store.heads()  # what comes after these is in the queue
    current_app.extensions["database"].close()  # a stream must not sit on a pooled connection
    response = Response(hub.frames(mine, standing), content_type="text/event-stream")
    response.call_on_close(lambda: hub.close(mine))  # also when the client left before the first frame
    response.headers["Cache-Control"] = "no-store"
    response.headers["X-Accel-Buffering"] = "no"
    return response
