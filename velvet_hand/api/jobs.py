"""Plan a job: how to hold a part and how to indicate it, before it is touched."""

from __future__ import annotations

from datetime import date, datetime
from uuid import UUID

from flask import Response
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.core.fields import Choice
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import Holder
from velvet_hand.core.job.order import MOST, JobOrder, Operation, OperationView, in_order
from velvet_hand.core.job.propose import Shop, propose
from velvet_hand.core.job.wanted import KINDS, SURFACES, Candidate, Shape, Surface, Wanted, mass_kg, pieces
from velvet_hand.core.plan.base import Limit
from velvet_hand.core.quantity import LimitKind
from velvet_hand.core.shop import Machine, Stock
from velvet_hand.core.units import Typed
from velvet_hand.store import jobs, past, shop
from velvet_hand.store import setups as store

from .errors import documented
from .schemas import In, LimitIn, Out
from .setups import _answer

bp = APIBlueprint("jobs", __name__, url_prefix="/api/jobs", abp_responses=documented(422))


class JobIn(In):
    """A part and what the drawing wants of it."""

    name: str = Field(default="", max_length=120)
    shape: Shape = "round"
    across: Typed
    long: Typed | None = None
    surface: Surface = "turned"
    hardened: bool = False
    mass: Typed | None = None
    many: str = Field(default="1", max_length=40)
    limit: LimitIn


class JobAsks(Out):
    """What may be said of a part."""

    surfaces: tuple[Choice, ...]
    kinds: dict[Shape, tuple[LimitKind, ...]]


class JobOut(Out):
    """Ways to hold and indicate it, the best first."""

    candidates: tuple[Candidate, ...]


@bp.get("/asks", summary="What is asked of a part", responses={200: JobAsks})
def asks() -> Response:
    """Surfaces, and kinds of limit by shape."""
    surfaces = tuple(Choice(id=name, word=word) for name, (word, *_) in SURFACES.items())
    return _answer(JobAsks(surfaces=surfaces, kinds=KINDS))


@bp.post("/propose", summary="How to hold it, best first", responses={200: JobOut})
def proposed(body: JobIn) -> Response:
    """Nothing is kept; each way starts a set-up from what is said here."""
    limit = Limit(kind=body.limit.kind, typed=body.limit.typed)
    told = body.model_dump(exclude={"limit", "mass", "many"})
    wanted = Wanted(**told, kg=mass_kg(body.mass), many=pieces(body.many), limit=limit)
    holders = shop.all_of(Holder)
    things = Shop(
        machines=[store.known(m) for m in shop.all_of(Machine)],
        holders=holders,
        gauges=[store.checked(g) for g in shop.all_of(Gauge)],
        stock=shop.all_of(Stock),
        memories={h.id: store.memory_of(h) for h in holders},
        records=past.records(),
    )
    return _answer(JobOut(candidates=propose(wanted, things, date.today())))


class OrderPath(BaseModel):
    """A job in a path."""

    job_id: UUID


class OrderIn(In):
    """A part and its operations, first to last."""

    name: str = Field(min_length=1, max_length=120)
    operations: list[Operation] = Field(default=[], max_length=MOST)


class OrderLine(Out):
    """A job in a list."""

    id: UUID
    name: str
    changed_at: datetime


class OrdersOut(Out):
    """The jobs that were worked on last."""

    jobs: list[OrderLine]


class OrderOut(Out):
    """A job: its operations as they stand."""

    name: str
    operations: tuple[OperationView, ...]


@bp.get("/orders", summary="Parts with their operations", responses={200: OrdersOut})
def orders() -> Response:
    """Those that were worked on last."""
    return _answer(OrdersOut(jobs=[OrderLine(id=i, name=name, changed_at=at) for i, name, at in jobs.latest()]))


@bp.get("/orders/<job_id>", summary="A part with its operations", responses={200: OrderOut, **documented(404)})
def order(path: OrderPath) -> Response:
    """Which are done, which wait, which are to be done again and why; what each is handed."""
    return _as_it_stands(path.job_id)


def _as_it_stands(job_id: UUID) -> Response:
    job = jobs.get(job_id)
    return _answer(OrderOut(name=job.name, operations=in_order(job, jobs.accounts(job))))


@bp.put("/orders/<job_id>", summary="Keep a part with its operations", responses={200: OrderOut})
def keep_order(path: OrderPath, body: OrderIn) -> Response:
    """As it is now, in this order. Set-ups of operations stay; one is begun by opening a set-up with ``operation``."""
    job = JobOrder(name=body.name, operations=tuple(body.operations))
    job.check()
    jobs.save(path.job_id, job)
    return _as_it_stands(path.job_id)
