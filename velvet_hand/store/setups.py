"""The event log of each set-up, and the projection that lists and search are served from."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.view import Summary
from velvet_hand.core.errors import NotFound, NotNow
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.gauge_check import GaugeCheck
from velvet_hand.core.holders import Holder
from velvet_hand.core.memory import Lesson, remember
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.fold import carried
from velvet_hand.core.setup.state import State
from velvet_hand.core.shop import Floor, Machine, Memory

from . import notify
from .database import proxy
from .found import Listed, listed, words_of
from .tables import PROJECTION, EventRow, Setup

_EVENT = TypeAdapter(ev.Event)
#: Events read before and the state they leave, by database and set-up; a prefix of the truth, never more.
_READ: dict[tuple[str, UUID], Read] = {}
_READ_MOST = 200
#: A holder is judged by its last set-ups; wear and dirt make older ones worthless.
REMEMBERED = 20


@dataclass(frozen=True, slots=True)
class Read:
    """Events and the state that they leave; neither is ever changed."""

    events: list[ev.Event]
    state: State


@dataclass(frozen=True, slots=True)
class Kept:
    """A set-up after an event: all of its events, the state, and whether anything was added."""

    events: Sequence[ev.Event]
    state: State
    added: bool


def event_of(row: Any) -> ev.Event:
    """An event as it is kept in a row."""
    return _EVENT.validate_python(
        {
            "id": row["id"],
            "seq": row["seq"],
            "at": row["at"],
            "author": row["author"],
            "body": row["body"],
            **row["extra"],
        },
        strict=False,
    )


def events_of(setup_id: UUID) -> list[ev.Event]:
    """All events of a set-up, in order.

    Raises
    ------
    NotFound
        ``unknown_set_up``.
    """
    return read(setup_id).events


def read(setup_id: UUID) -> Read:
    """All events of a set-up and the state that they leave. What was read before is carried on, not folded again.

    Raises
    ------
    NotFound
        ``unknown_set_up``.
    """
    known = _READ.get(_key(setup_id))
    seq = len(known.events) if known else 0
    rows = EventRow.select().where((EventRow.setup == setup_id) & (EventRow.seq > seq)).order_by(EventRow.seq)
    fresh = [event_of(row) for row in rows.dicts()]
    if known and not fresh:
        return known
    events = [*(known.events if known else []), *fresh]
    if not events:
        raise NotFound(
            "unknown_set_up", "There is no such set-up here.", "Look for it in the Logbook, or start one on the Bench."
        )
    found = Read(events, _state(known, fresh) or desk.load(events))
    _remember(setup_id, found)
    return found


def _state(known: Read | None, fresh: list[ev.Event]) -> State | None:
    """The known state carried on by these events; None when it has to be folded."""
    if known is None or any(isinstance(e.body, ev.Undone) for e in fresh):
        return None
    state = known.state
    for event in fresh:
        state = carried(state, event)
    return state


def _key(setup_id: UUID) -> tuple[str, UUID]:
    return str(proxy.database), setup_id


def _remember(setup_id: UUID, found: Read) -> None:
    """Keep what was read. Events never change, so only newer ones are ever fetched again.

    Nothing uncommitted gets in: it is kept when it was read, or when its transaction has ended.
    """
    _READ[_key(setup_id)] = found
    while len(_READ) > _READ_MOST:
        _READ.pop(next(iter(_READ)), None)


def open_setup(setup_id: UUID, event: ev.Event) -> Kept:
    """Begin a set-up with its opening event. The same opening again changes nothing.

    Raises
    ------
    NotNow
        ``repeated_differently`` when the id is another set-up's.
    """
    state = desk.load([event])
    with Setup._meta.database.atomic():
        new = Setup.insert(id=setup_id, **_projection(state)).on_conflict_ignore().execute()
        if not new:
            kept = read(setup_id)
            if kept.events[0].id != event.id or not _opens_alike(kept.events[0].body, event.body):
                raise _differs()
            return Kept(kept.events, kept.state, added=False)
        _insert(setup_id, event)
        notify.tell(setup_id, 1)
    return Kept([event], state, added=True)


def append(setup_id: UUID, event_id: UUID, at: datetime, author: str, body: ev.ClientBody) -> Kept:
    """Add one event, if it fits. The row of the set-up is locked, so events come one by one.

    Raises
    ------
    NotFound, NotNow, BadInput
        No such set-up; the event is stale or its id was used for something else; its content
        cannot be used. Nothing is kept then.
    """
    with Setup._meta.database.atomic():
        row = Setup.select(Setup.seq).where(Setup.id == setup_id).for_update().first()
        kept = read(setup_id)
        events = kept.events
        assert row is not None
        same = EventRow.select(EventRow.setup, EventRow.seq).where(EventRow.id == event_id).tuples().first()
        if same is not None:
            if same[0] != setup_id or events[same[1] - 1].body != body:
                raise _differs()
            return Kept(events, kept.state, added=False)
        fresh = ev.Event(id=event_id, seq=row.seq + 1, at=at, author=author, body=body)
        whole, state = desk.accept(events, fresh, kept.state)
        _insert(setup_id, whole)
        Setup.update(**_projection(state)).where(Setup.id == setup_id).execute()
        notify.tell(setup_id, whole.seq)
    after = [*events, whole]
    _remember(setup_id, Read(after, state))
    return Kept(after, state, added=True)


def restore(setup_id: UUID, rows: Sequence[dict[str, Any]], state: State) -> None:
    """Put a set-up back whose events are whole; ``state`` is what they leave."""
    Setup.insert(id=setup_id, **_projection(state)).execute()
    for row in rows:
        EventRow.insert(setup=setup_id, **row).execute()


def keep_whole(setup_id: UUID, events: Sequence[ev.Event]) -> None:
    """Keep a set-up that was worked elsewhere, by the same core, in one go."""
    with Setup._meta.database.atomic():
        Setup.insert(id=setup_id, **_projection(desk.load(events))).execute()
        EventRow.insert_many([_row(setup_id, event) for event in events]).execute()


def _opens_alike(kept: ev.Body, again: ev.Body) -> bool:
    """Do both ask for the same? What the Shop says of the same things, and what they remember, may have changed since."""
    if not isinstance(kept, ev.Opened) or not isinstance(again, ev.Opened):
        return False
    now: dict[str, Any] = {"memory": kept.plan.memory, "before": kept.plan.before}
    for thing in ("machine", "holder", "gauge"):
        was = getattr(kept.plan, thing)
        if getattr(again.plan, thing).id == was.id:
            now[thing] = was
    return kept == again.model_copy(update={"plan": again.plan.model_copy(update=now)})


def _differs() -> NotNow:
    return NotNow(
        "repeated_differently", "This event came before, with another content.", "Reload the page and do it again."
    )


def _insert(setup_id: UUID, event: ev.Event) -> None:
    EventRow.insert(**_row(setup_id, event)).execute()


def _row(setup_id: UUID, event: ev.Event) -> dict[str, Any]:
    data = event.model_dump(mode="json")
    return {
        "setup": setup_id,
        "seq": event.seq,
        "id": event.id,
        "at": event.at,
        "received_at": datetime.now(UTC),
        "author": event.author,
        "body": data["body"],
        "extra": {"shown": data["shown"], "verdict": data["verdict"], "version": data["version"]},
    }


def _projection(state: State) -> dict[str, Any]:
    line, lesson = desk.summarize(state), desk.lesson(state)
    taught = (
        not lesson.empty or lesson.floor is not None or lesson.check is not None
    )  # what taught nothing takes no place among the last that did
    return {
        "seq": state.seq,
        "standing": line.standing,
        "machine_id": line.machine_id,
        "machine": line.machine,
        "holder": line.holder,
        "holder_id": state.plan.holder.id,
        "gauge_id": state.plan.gauge.id,
        "hand": state.effective[0].author,
        "procedure": line.procedure,
        "account": desk.account(state).model_dump(mode="json"),
        "lesson": lesson.model_dump(mode="json") if taught else None,
        "outcome": line.outcome,
        "search": " ".join(words_of(_told_of(state, line))),
        "summary": line.model_dump(mode="json"),
        "opened_at": line.opened_at,
        "changed_at": line.changed_at,
        "projected": PROJECTION,
    }


def _told_of(state: State, line: Summary) -> Iterator[str]:
    """Everything that somebody could look for."""
    yield from (line.part, line.machine, line.holder, line.gauge, line.procedure)
    yield from state.people
    yield from (*state.notes, state.accepted or "")
    yield from (said for one in state.measured for said in (one.by, one.note))


def rebuild() -> int:
    """Make projections of an older form anew from their events; how many there were."""
    stale = [row.id for row in Setup.select(Setup.id).where(Setup.projected < PROJECTION)]
    for setup_id in stale:
        with Setup._meta.database.atomic():
            Setup.select(Setup.seq).where(Setup.id == setup_id).for_update().first()
            changes = _projection(read(setup_id).state)
            Setup.update(**changes).where(Setup.id == setup_id).execute()
    return len(stale)


def standing() -> list[Listed]:
    """Set-ups that stand on a machine, the latest first."""
    return [listed(r) for r in Setup.select().where(Setup.standing).order_by(Setup.changed_at.desc())]


def heads() -> list[tuple[UUID, int]]:
    """Set-ups that stand on a machine, each with its last event."""
    return [(row.id, row.seq) for row in Setup.select(Setup.id, Setup.seq).where(Setup.standing)]


def latest_off(machine_id: str) -> Listed | None:
    """The last set-up that was taken off a machine."""
    query = Setup.select().where((Setup.machine_id == machine_id) & ~Setup.standing)
    row = query.order_by(Setup.changed_at.desc()).first()
    return listed(row) if row else None


def last_in(holder_id: str, title: str) -> UUID | None:
    """The last set-up of the procedure of that title in a holder."""
    query = Setup.select(Setup.id).where((Setup.holder_id == holder_id) & (Setup.procedure == title))
    row = query.order_by(Setup.opened_at.desc()).first()
    return row.id if row else None


def memory_of(holder: Holder) -> Memory:
    """What a holder answered in its last set-ups, those since it was told to forget."""
    query = Setup.select(Setup.lesson).where((Setup.holder_id == holder.id) & Setup.lesson.is_null(False))
    if holder.struck:
        query = query.where(Setup.id.not_in(holder.struck))
    if holder.forget_before is not None:
        query = query.where(Setup.opened_at > holder.forget_before)
    rows = list(query.order_by(Setup.opened_at.desc()).limit(REMEMBERED))
    return remember(Lesson.model_validate(row.lesson, strict=False) for row in reversed(rows))


def known(machine: Machine) -> Machine:
    """The machine with what its set-ups found it to hold."""
    query = Setup.select(Setup.lesson).where((Setup.machine_id == machine.id) & Setup.lesson["floor"].is_null(False))
    rows = reversed(list(query.order_by(Setup.opened_at.desc()).limit(REMEMBERED)))
    return machine.knowing(tuple(Floor.model_validate(row.lesson["floor"], strict=False) for row in rows))


def checked(gauge: Gauge) -> Gauge:
    """The indicator with what its checks found it to show, and in how many set-ups it has been since."""
    query = Setup.select(Setup.lesson).where(Setup.lesson["check"]["gauge_id"] == gauge.id)
    rows = reversed(list(query.order_by(Setup.opened_at.desc()).limit(REMEMBERED)))
    known = gauge.knowing(tuple(GaugeCheck.model_validate(row.lesson["check"], strict=False) for row in rows))
    if gauge.check_every is None:
        return known
    since = Setup.select().where(Setup.gauge_id == gauge.id)
    if known.checks:
        since = since.where(Setup.opened_at > known.checks[-1].at)
    return known.model_copy(update={"used": since.count()})
