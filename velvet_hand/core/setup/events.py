"""Every event a set-up can be made of. Append-only: nothing here is ever changed or removed."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import ConfigDict, Field, model_validator

from ..causes import Trial
from ..measured import What
from ..model import Model
from ..move import Move
from ..plan.any import AnyPlan
from ..units import Typed
from ..verdict import Verdict
from ..wording import Text
from .follow import FollowUp
from .upgrade import VERSIONS, upgraded

ShortText = Annotated[str, Field(max_length=1000)]


def _type_is_required(schema: dict[str, Any]) -> None:
    """``type`` has a default for us, but whoever sends an event has to say it."""
    schema.setdefault("required", []).insert(0, "type")


class _Body(Model):
    """What happened. Has one JSON schema, whether it goes in or out."""

    model_config = ConfigDict(json_schema_serialization_defaults_required=False, json_schema_extra=_type_is_required)


class Opened(_Body):
    """The set-up was opened with this plan (machine, holder and gauge as they were then)."""

    type: Literal["opened"] = "opened"
    plan: AnyPlan


class PressTested(_Body):
    """The surface was pressed toward the gauge; the needle ``went`` plus or minus."""

    type: Literal["press_tested"] = "press_tested"
    went: Literal["plus", "minus"]
    gauge: Literal["", "far"] = ""


class GapMeasured(_Body):
    """The gap between opposed jaws while roughing in."""

    type: Literal["gap_measured"] = "gap_measured"
    typed: Typed


class StepPassed(_Body):
    """A step of the path is behind; ``checked`` are its cautions, ``reason`` why it was skipped."""

    type: Literal["step_passed"] = "step_passed"
    step: str = Field(max_length=40)
    checked: tuple[str, ...] = ()
    reason: ShortText = ""


class ZeroSet(_Body):
    """The dial was set to zero, or the gauge was bumped or moved: a new frame begins."""

    type: Literal["zero_set"] = "zero_set"
    station_id: str = Field(max_length=40)
    why: Literal["zero", "bumped"] = "zero"


class Live(Model):
    """Where a reading came from that nobody typed: which indicator, its line as it came, when, and how still the needle was.

    One of a turn that was captured has ``u_mm``, the standard uncertainty of where it was when.
    """

    gauge: str = Field(max_length=80)
    raw: str = Field(max_length=240)
    at: datetime
    still_mm: float | None = Field(default=None, ge=0)
    u_mm: float | None = Field(default=None, ge=0, le=100)


class ReadingTaken(_Body):
    """A needle value at a station; ``closing`` when the first spot is read again at the end; ``live`` when an indicator sent it."""

    type: Literal["reading_taken"] = "reading_taken"
    pass_no: int = Field(ge=1, le=10000)
    station_id: str = Field(max_length=40)
    typed: Typed
    closing: bool = False
    live: Live | None = None


class ReadingCorrected(_Body):
    """A mistyped reading gets another value."""

    type: Literal["reading_corrected"] = "reading_corrected"
    reading_id: UUID
    typed: Typed
    live: Live | None = None


class ReadingKept(_Body):
    """A reading that was asked about is right as it is."""

    type: Literal["reading_kept"] = "reading_kept"
    reading_id: UUID


class SpotMarked(_Body):
    """A spot is bad (or good again): a keyway, rust, a nick."""

    type: Literal["spot_marked"] = "spot_marked"
    pass_no: int = Field(ge=1, le=10000)
    station_id: str = Field(max_length=40)
    bad: bool = True


class PassClosed(_Body):
    """This pass is finished; the next reading begins another. Of a quick look that is not begun: the full pass is read instead."""

    type: Literal["pass_closed"] = "pass_closed"
    pass_no: int = Field(ge=1, le=10000)


class MoveDone(_Body):
    """A move was begun (``eased``), finished (``done``) or taken back (``back``); ``taps`` if they were counted. With ``quick`` a few
    spots are read next, to see what it did.
    """

    type: Literal["move_done"] = "move_done"
    pass_no: int = Field(ge=1, le=10000)
    move_id: str = Field(max_length=80)
    phase: Literal["eased", "done", "back"] = "done"
    taps: int | None = Field(default=None, ge=1, le=500)
    quick: bool = False


class Watched(Model):
    """What a live needle showed at one spot that it never left: before, and when all was tight."""

    gauge: str = Field(max_length=80)
    before_mm: float = Field(ge=-1000, le=1000)
    after_mm: float = Field(ge=-1000, le=1000)


class Tightened(_Body):
    """Everything has its final grip; with ``quick`` a few spots are read next, to see what it left, before the full pass. ``watched``:
    what the needle did meanwhile.
    """

    type: Literal["tightened"] = "tightened"
    quick: bool = False
    watched: Watched | None = None


class Proved(_Body):
    """The pass read after the final tightening is to be judged."""

    type: Literal["proved"] = "proved"
    pass_no: int = Field(ge=1, le=10000)


class Tried(_Body):
    """A quick test was made, to find out why it does not come in; ``answer`` is what it showed."""

    type: Literal["tried"] = "tried"
    trial: Trial
    answer: str = Field(max_length=20)


class Accepted(_Body):
    """Accepted as it is, for this reason."""

    type: Literal["accepted"] = "accepted"
    reason: ShortText


class Noted(_Body):
    """A note for the log."""

    type: Literal["noted"] = "noted"
    text: ShortText


class MeasuredPart(_Body):
    """What a piece measured that was cut in this set-up, ``by`` which instrument."""

    type: Literal["measured_part"] = "measured_part"
    what: What
    typed: Typed
    piece: int = Field(default=1, ge=1, le=1_000_000)
    by: str = Field(default="", max_length=80)
    note: ShortText = ""


class FollowUpSet(_Body):
    """Something is to be looked at again."""

    type: Literal["follow_up_set"] = "follow_up_set"
    follow: FollowUp


class FollowUpDone(_Body):
    """It was looked at: the follow-up that this event set is done."""

    type: Literal["follow_up_done"] = "follow_up_done"
    follow_id: UUID


class Undone(_Body):
    """The last thing done is taken back; it stays in the log."""

    type: Literal["undone"] = "undone"
    event_id: UUID


class TakenOff(_Body):
    """The part has left the machine; the set-up stands no longer."""

    type: Literal["taken_off"] = "taken_off"


ClientBody = Annotated[
    PressTested
    | GapMeasured
    | StepPassed
    | ZeroSet
    | ReadingTaken
    | ReadingCorrected
    | ReadingKept
    | SpotMarked
    | PassClosed
    | MoveDone
    | Tightened
    | Proved
    | Tried
    | Accepted
    | Noted
    | MeasuredPart
    | FollowUpSet
    | FollowUpDone
    | Undone
    | TakenOff,
    Field(discriminator="type"),
]


Body = Annotated[Opened | ClientBody, Field(discriminator="type")]


class Event(Model):
    """One thing that happened. ``id`` is made by the client, ``seq`` by the store (1, 2, 3 ...).

    ``shown`` is the advice as it stood when a move was made, ``verdict`` the judgment of a proof;
    both are filled in by the core before the event is kept. ``version`` is the form that its kind is kept in.
    """

    id: UUID
    seq: int = Field(ge=1)
    at: datetime
    author: str = Field(max_length=80)
    body: Body
    shown: Move | None = None
    verdict: Verdict | None = None
    version: int = 1

    @model_validator(mode="before")
    @classmethod
    def _of_today(cls, raw: Any) -> Any:
        """What was kept long ago is read as it would be kept now; what is new says in which form it is."""
        if not isinstance(raw, dict):
            return raw
        body = raw.get("body")
        if isinstance(body, _Body):
            return {"version": VERSIONS.get(getattr(body, "type", ""), 1), **raw}
        return upgraded(raw)


class LogLine(Model):
    """An event as the log shows it."""

    seq: int
    at: datetime
    author: str
    what: Text
    undone: bool
