"""Looking back over set-ups: what holders were proved to, what set-ups took, histories, and what is to be looked at again."""

from __future__ import annotations

from datetime import date
from typing import Any
from uuid import UUID

from peewee import SQL, ModelSelect

from velvet_hand.core.after.account import Account
from velvet_hand.core.after.follow import Due, due
from velvet_hand.core.after.history import Past, Subject
from velvet_hand.core.after.own import Done
from velvet_hand.core.after.run import runs
from velvet_hand.core.desk import desk
from velvet_hand.core.job.wanted import Record
from velvet_hand.core.memory import Lesson
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.setup.follow import FollowUp

from .found import Listed, listed
from .tables import Setup

#: What holders were proved to is told of so many of the latest set-ups.
JUDGED_BY = 2000


def records() -> dict[str, Record]:
    """What each holder was proved to in each kind of set-up, by id and title: of the latest that have a verdict."""
    rows = _judged().order_by(Setup.changed_at.desc()).limit(JUDGED_BY)
    found: dict[str, Record] = {}
    for row in rows:
        key, held, done = f"{row.holder_id} {row.procedure}", row.outcome == "holds", _done(row.account)
        was = found.get(key, Record())
        value = row.account["value"] if held else None
        marks = [mm for mm in (was.best_mm, was.worst_mm, value and value["mm"]) if mm is not None]
        found[key] = Record(
            proved=was.proved + 1,
            held=was.held + held,
            best_mm=min(marks, default=None),
            worst_mm=max(marks, default=None),
            done=(*was.done, done),
        )
    return found


def done_before(plan: BasePlan) -> list[Done]:
    """What set-ups of this kind took in this holder, the latest first."""
    procedure = desk.procedure_of(plan).title
    rows = _judged().where((Setup.holder_id == plan.holder.id) & (Setup.procedure == procedure))
    return [_done(row.account) for row in rows.order_by(Setup.opened_at.desc()).limit(PAST)]


def _judged() -> ModelSelect[Setup]:
    found: ModelSelect[Setup] = Setup.select(Setup.holder_id, Setup.procedure, Setup.outcome, Setup.account)
    return found.where(Setup.outcome.is_null(False) & Setup.account.is_null(False))


def _done(account: dict[str, Any]) -> Done:
    return Done(limit_mm=account["limit"]["mm"], passes=account["passes"], minutes=account["minutes"])


#: A history goes back so many set-ups.
PAST = 400


def of(subject: Subject, item: str) -> list[Past]:
    """The set-ups of a holder, machine, indicator (by id) or hand (by name), oldest first."""
    column = {"holder": Setup.holder_id, "machine": Setup.machine_id, "gauge": Setup.gauge_id, "hand": Setup.hand}[
        subject
    ]
    rows = Setup.select(Setup.id, Setup.opened_at, Setup.summary["part"].alias("part"), Setup.account, Setup.lesson)
    found = rows.where((column == item) & Setup.account.is_null(False)).order_by(Setup.opened_at.desc()).limit(PAST)
    rows_of: Any = found.dicts()
    return [
        Past(
            id=str(row["id"]), at=row["opened_at"], part=str(row["part"]),
            account=Account.model_validate(row["account"], strict=False),
            lesson=Lesson.model_validate(row["lesson"] or {}, strict=False),
        )
        for row in reversed(list(rows_of))
    ]  # fmt: skip


_FOLLOWS = SQL("jsonb_array_length(account -> 'follow_ups') > 0")


def follow_ups() -> list[tuple[UUID, str, FollowUp]]:
    """Everything that is to be looked at again: set-up, part, follow-up."""
    rows = Setup.select(Setup.id, Setup.summary, Setup.account).where(_FOLLOWS).order_by(Setup.changed_at)
    return [
        (row.id, str(row.summary["part"]), FollowUp.model_validate(one, strict=False))
        for row in rows
        for one in row.account["follow_ups"]
    ]


#: So many lines of what wants a look are enough for a morning.
WANTED = 30


def wanting(today: date) -> list[tuple[Listed, Due]]:
    """What of all set-ups wants a look: follow-ups that are due, and pieces to measure of those that stand."""
    rows = Setup.select().where(Setup.standing | _FOLLOWS).order_by(Setup.changed_at.desc()).limit(10 * WANTED)
    found: list[tuple[Listed, Due]] = []
    for row in rows:
        if row.account is not None:
            told = Account.model_validate(row.account, strict=False)
            pieces = tuple(run.next_piece for run in runs(told) if run.next_piece is not None)
            found += [(listed(row), one) for one in due(told, pieces, today)]
    return found[:WANTED]
