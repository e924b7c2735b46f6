"""What comes in and goes out over HTTP, where it is not a core model as it stands."""

from __future__ import annotations

import json
from datetime import UTC, date, datetime, timedelta
from typing import Annotated, Any, Literal, Self
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field

from velvet_hand.core.after.history import Subject
from velvet_hand.core.desk.sheet import Reads, SheetChoice, SheetReading
from velvet_hand.core.desk.view import SetupView, Summary
from velvet_hand.core.fields import FieldSpec
from velvet_hand.core.gauge import Carrier, ReadTo, Surface, View
from velvet_hand.core.plan.asks import Asks, Needs
from velvet_hand.core.plan.base import Finish, School
from velvet_hand.core.quantity import LimitKind
from velvet_hand.core.setup.events import ClientBody, LogLine
from velvet_hand.core.shelves import ShelfForm, ShelfId
from velvet_hand.core.shop import Machine
from velvet_hand.core.told import Caveat
from velvet_hand.core.units import Typed, Unit
from velvet_hand.core.wording import Text
from velvet_hand.store.found import Outcome

#: A tablet’s clock may run ahead by so much.
AHEAD = timedelta(days=1)


def _in_living_memory(at: datetime) -> datetime:
    """A clock that is wrong by centuries is no clock; one that runs days ahead is not believed: it is now."""
    if not 2000 <= at.year <= 2200:
        raise ValueError("This clock is wrong. Set the date of the tablet.")
    now = datetime.now(UTC)
    return now if at > now + AHEAD else at


def _near_a_lifetime(day: date) -> date:
    """Nobody looks for a day that no clock of a shop has shown."""
    if not 1900 <= day.year <= 2200:
        raise ValueError("There is no such day here. Choose one between 1900 and 2200.")
    return day


Day = Annotated[date, AfterValidator(_near_a_lifetime)]
Moment = Annotated[AwareDatetime, AfterValidator(_in_living_memory)]


class In(BaseModel):
    """Something a client sends: read as JSON and strictly, so that a number is a number and true is not 1."""

    model_config = ConfigDict(extra="forbid", strict=True, allow_inf_nan=False, str_strip_whitespace=True)

    @classmethod
    def model_validate(cls, obj: Any, **more: Any) -> Self:
        """A body as flask_openapi3 hands it over, already parsed."""
        return cls.model_validate_json(json.dumps(obj), **more)


class Out(BaseModel):
    """Something the server answers."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=True)


class PartIn(In):
    """The part, with its diameter as typed."""

    name: str = Field(min_length=1, max_length=120)
    diameter: Typed
    surface: Surface = "outside"
    finish: Finish = "turned"


class LimitIn(In):
    """The limit as typed, and which kind it is."""

    kind: LimitKind
    typed: Typed


class PlanIn(In):
    """A plan as the start page has it: machine, holder and gauge by id.

    ``choices`` are the procedure's own fields (``FieldSpec``), as typed.
    """

    procedure: str = Field(default="four_jaw", max_length=40)
    part: PartIn
    machine_id: str = Field(min_length=1, max_length=80)
    holder_id: str = Field(min_length=1, max_length=80)
    gauge_id: str = Field(min_length=1, max_length=80)
    limit: LimitIn
    unit: Unit
    stations_deg: list[Annotated[float, Field(ge=-360, le=360)]] = Field(default=[0, 90, 180, 270], max_length=100)
    school: School = "high_spot"
    carrier: Carrier = "work_turns"
    gauge_clock_deg: float = Field(default=90, ge=0, lt=360)
    view: View = "tailstock"
    stylus_deg: float = Field(default=0, ge=0, le=80)
    swing_deg: float = Field(default=0, ge=0, le=80)
    read_to: ReadTo = "half"
    choices: dict[str, Annotated[str, Field(max_length=200)]] = Field(default={}, max_length=20)


class OperationAt(In):
    """Which operation of which job a set-up is."""

    job: UUID
    operation: str = Field(max_length=40)


class OpenIn(In):
    """A new set-up; ``id`` and ``event_id`` are made by the client, so that asking twice is safe. ``again``: the set-up that it repeats."""

    id: UUID
    event_id: UUID
    at: Moment
    author: str = Field(default="", max_length=80)
    plan: PlanIn
    again: UUID | None = None
    operation: OperationAt | None = None


class EventIn(In):
    """One event; ``id`` is made by the client, so that sending twice is safe."""

    id: UUID
    at: Moment
    author: str = Field(default="", max_length=80)
    body: ClientBody


class ThingIn(In):
    """A thing of the Shop as typed: ``typed`` by the fields of its kind (``ShelfForm``); bare lengths are in mm."""

    kind: str = Field(max_length=40)
    name: str = Field(min_length=1, max_length=80)
    typed: dict[str, Annotated[str, Field(max_length=400)]] = Field(default={}, max_length=30)


class SheetIn(In):
    """A file of readings, as text."""

    text: str = Field(max_length=40_000)
    unit: Unit = "mm"
    reads: Reads = ""


class SheetOut(Out):
    """What it says, to be sent as readings; or what to ask first."""

    pass_no: int
    readings: tuple[SheetReading, ...]
    asks: tuple[SheetChoice, ...]


class SetupPath(BaseModel):
    """A set-up in a path."""

    setup_id: UUID


class HolderPath(BaseModel):
    """A holder of the Shop in a path."""

    holder_id: str = Field(max_length=80)


class LastQuery(BaseModel):
    """Which procedure is asked about."""

    procedure: str = Field(max_length=40)


class LastOut(Out):
    """How a holder was worked the last time, and in which set-up; all of it null where it was not."""

    setup: str | None = None
    at: datetime | None = None
    plan: PlanIn | None = None


class ThenPath(SetupPath):
    """A set-up after its first so many events."""

    seq: int = Field(ge=1, le=100_000)


class ReplayOut(Out):
    """A set-up as it stood after an event of its ``total``: what was ``done`` then, what came ``next``, and whether anything could have
    been done otherwise (``what_if``).
    """

    view: SetupView
    total: int
    opened_at: datetime
    at: datetime
    done: LogLine
    next: LogLine | None
    next_at: datetime | None
    what_if: bool


class ItemPath(BaseModel):
    """A thing of the Shop in a path."""

    item_id: str = Field(min_length=1, max_length=80)


class ShelfPath(ItemPath):
    """A thing on a shelf of the Shop in a path."""

    shelf: ShelfId


class LogbookQuery(BaseModel):
    """What to look for in the Logbook; nothing given means any. ``after`` is the ``more`` of the page before."""

    words: str = Field(default="", max_length=200)
    machine: str = Field(default="", max_length=80)
    holder: str = Field(default="", max_length=80)
    procedure: str = Field(default="", max_length=80)
    hand: str = Field(default="", max_length=80)
    outcome: Outcome = ""
    standing: Literal["", "yes", "no"] = ""
    since: Day | None = None
    until: Day | None = None
    after: str = Field(default="", max_length=120)


class HistoryPath(BaseModel):
    """A holder, machine or indicator by its id, or a hand by its name."""

    subject: Subject
    item_id: str = Field(min_length=1, max_length=80)


class StruckIn(In):
    """Does the lesson of this set-up count no more?"""

    setup_id: UUID
    struck: bool = True


class ListedOut(Out):
    """A set-up as lists show it."""

    id: UUID
    seq: int
    summary: Summary


class Stand(Out):
    """A machine, what stands on it, and what was taken off it last."""

    machine: Machine
    standing: list[ListedOut]
    last: ListedOut | None


class Due(Out):
    """Something that wants a look; of which set-up, and which of its follow-ups, when it is of one."""

    name: str
    what: str
    setup_id: UUID | None = None
    follow_id: str = ""


class BenchOut(Out):
    """The Bench."""

    stands: list[Stand]
    due: list[Due]


class FoundOut(Out):
    """What a machine was found to hold on a day."""

    at: datetime
    told: Text


class ItemOut(Out):
    """A thing of the Shop: its line in the list, and its page as somebody would fill it.

    ``remembers`` is what set-ups taught about a holder, ``found`` what they found a machine to hold, the latest first.
    """

    id: str
    name: str
    kind: str
    about: Text
    remembers: Text
    found: list[FoundOut]
    typed: dict[str, str]


class ShopOut(Out):
    """Everything in the Shop."""

    machines: list[ItemOut]
    holders: list[ItemOut]
    gauges: list[ItemOut]
    stock: list[ItemOut]
    wires: list[ItemOut]


class FormsOut(Out):
    """What the Shop asks, shelf by shelf."""

    shelves: list[ShelfForm]


class LogbookOut(Out):
    """A page of the Logbook; ``more`` asks for the next one, and is empty when there is none."""

    rows: list[ListedOut]
    more: str


class ChoicesOut(Out):
    """What the Logbook can be chosen by."""

    machines: list[str]
    holders: list[str]
    procedures: list[str]
    hands: list[str]


class PlanOut(Out):
    """What is to be told at the start, and how many passes and minutes to expect (empty where nobody can say)."""

    told: list[Caveat]
    expect: Text = ()


class EventOut(Out):
    """A set-up after an event; ``added`` is False when the event was here already."""

    added: bool
    view: SetupView


class ProcedureOut(Out):
    """A procedure that can be chosen."""

    id: str
    title: str
    machine_kinds: list[str]
    needs: Needs
    holder_kinds: list[str]
    fields: list[FieldSpec]
    asks: Asks


class ProceduresOut(Out):
    """All procedures, and which kinds of holders go on which kind of machine."""

    procedures: list[ProcedureOut]
    holders_on: dict[str, list[str]]


class SavedOut(Out):
    """The id of what was saved."""

    id: str


class HealthOut(Out):
    """Is the server up, and does it reach its database?"""

    ok: bool
    version: str
