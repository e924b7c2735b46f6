"""Practice: choose a drill or a machine, read and move it by hand, and hear afterwards how it went."""

from __future__ import annotations

import secrets
from datetime import UTC, datetime
from uuid import UUID

from flask import Response, current_app
from flask_openapi3 import APIBlueprint
from pydantic import BaseModel, Field

from velvet_hand.core.practice.acts import Anything
from velvet_hand.core.practice.drills import DRILLS, MACHINES, levels_of
from velvet_hand.core.practice.record import Record, record
from velvet_hand.core.practice.schools import Schools, schools
from velvet_hand.core.practice.session import Advice, Session, Shown, Told
from velvet_hand.core.practice.show import Practice, show
from velvet_hand.core.practice.what_if import NAME, past_of, what_if
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.units import Unit
from velvet_hand.store import practices, setups

from .errors import documented
from .schemas import In, Out
from .setups import _answer

bp = APIBlueprint("practice", __name__, url_prefix="/api", abp_responses=documented(422))
#: Hidden machines are numbered up to here.
MACHINES_MADE = 1_000_000


class DrillOut(Out):
    """A drill: what it is made for, and at which kind of work."""

    id: str
    title: str
    lures: str
    work: str
    timed: bool


class LevelOut(Out):
    """How hard a machine is to be."""

    id: str
    words: str


class MachineOut(Out):
    """A machine without a drill, with the levels it has."""

    id: str
    title: str
    levels: list[LevelOut]


class GoingOut(Out):
    """A practice that is not over."""

    id: UUID
    title: str


class HallOut(Out):
    """All there is to practice on, and how somebody stands at it."""

    drills: list[DrillOut]
    machines: list[MachineOut]
    record: Record
    going: GoingOut | None


class WhoQuery(BaseModel):
    """Who practices."""

    author: str = Field(default="", max_length=80)


class PastIn(In):
    """A step of a logged set-up."""

    setup_id: UUID
    seq: int = Field(ge=1, le=100_000)


class BeginIn(In):
    """A practice to begin; its id is made by the client, so that beginning it twice is safe. With a ``past`` it goes on from there, and the
    drill is "what_if".
    """

    id: UUID
    past: PastIn | None = None
    drill: str = Field(max_length=40)
    advice: Advice = "asked"
    author: str = Field(default="", max_length=80)
    unit: Unit = "thou"


class ActIn(In):
    """One thing done; its id is made by the client."""

    id: UUID
    body: Anything


class PracticePath(BaseModel):
    """A practice in a path."""

    practice_id: UUID


class NeedleQuery(BaseModel):
    """Where the stylus stands (``at``: degrees, or mm along; none: at the spot itself), what the needle showed before, and how far a
    key is turned that the hand still holds.
    """

    station: str = Field(max_length=40)
    at: float | None = Field(default=None, ge=-10_000, le=10_000)
    was: float | None = Field(default=None, ge=-1000, le=1000)
    control: str = Field(default="", max_length=20)
    amount: float = Field(default=0.0, ge=-20, le=20)


def _title(told: Told) -> str:
    if told.past is not None:
        return what_if(told.past).title
    named = next((drill.title for drill in DRILLS if drill.id == told.drill), "")
    return named or PROCEDURES[told.drill.partition(".")[0]].title


def _bench() -> practices.Bench:
    found: practices.Bench = current_app.extensions["practice"]
    return found


def _shown(practice_id: UUID, found: tuple[Session, int], status: int = 200) -> Response:
    return _answer(show(found[0], str(practice_id), found[1]), status)


@bp.get("/practice", summary="Drills, machines and somebody’s record", responses={200: HallOut})
def hall(query: WhoQuery) -> Response:
    """``record.next`` is what to practice next."""
    going = practices.going_on(query.author)
    return _answer(
        HallOut(
            drills=[
                DrillOut(id=d.id, title=d.title, lures=d.lures, work=PROCEDURES[d.procedure].title, timed=d.timed) for d in DRILLS
            ],
            machines=[
                MachineOut(
                    id=name, title=PROCEDURES[name].title,
                    levels=[LevelOut(id=level, words=words) for level, words in levels_of(name).items()],
                )
                for name in MACHINES
            ],
            record=record(practices.results_of(query.author), datetime.now(UTC)),
            going=None if going is None else GoingOut(
                id=going[0], title=_title(going[1])
            ),
        )
    )  # fmt: skip


class SchoolsQuery(BaseModel):
    """The number of the hidden machine; another one each time when it is not said."""

    seed: int | None = Field(default=None, ge=0, le=MACHINES_MADE)


@bp.get("/practice/schools", summary="Two ways of working at the same hidden machine", responses={200: Schools})
def both_schools(query: SchoolsQuery) -> Response:
    """Step by step, with how far it truly was off."""
    return _answer(schools(secrets.randbelow(MACHINES_MADE) if query.seed is None else query.seed))


@bp.post("/practices", summary="Begin to practice", responses={201: Practice, **documented(404)})
def begin(body: BeginIn) -> Response:
    """A hidden machine is made; what is hidden stays here until it is over."""
    past = None
    if body.past is not None:
        past = past_of(str(body.past.setup_id), setups.events_of(body.past.setup_id), body.past.seq)
    told = Told(
        drill=NAME if past else body.drill, seed=secrets.randbelow(MACHINES_MADE), advice=body.advice, author=body.author, unit=body.unit,
        past=past,
    )  # fmt: skip
    return _shown(body.id, _bench().begin(body.id, told), 201)


@bp.get("/practices/<practice_id>", summary="A practice as it stands", responses={200: Practice, **documented(404)})
def get_practice(path: PracticePath) -> Response:
    """Everything that may be seen of it."""
    return _shown(path.practice_id, _bench().get(path.practice_id))


@bp.get("/practices/<practice_id>/needle", summary="Look at the dial", responses={200: Shown, **documented(404)})
def needle(path: PracticePath, query: NeedleQuery) -> Response:
    """What its needle shows with the stylus there, and no finer than anybody sees."""
    session = _bench().needle_of(path.practice_id)
    return _answer(session.needle(query.station, query.at, query.was, query.control, query.amount))


@bp.post("/practices/<practice_id>/acts", summary="Do something", responses={200: Practice, **documented(404, 409)})
def act(path: PracticePath, body: ActIn) -> Response:
    """Sending the same again changes nothing."""
    return _shown(path.practice_id, _bench().act(path.practice_id, body.id, body.body))
