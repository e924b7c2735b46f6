"""Practices: begun, gone on with, ended; a person's results. What is hidden is made anew from the acts, and kept in mind meanwhile."""

from __future__ import annotations

import threading
from collections import OrderedDict
from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from velvet_hand.core.errors import NotFound
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.debrief import debrief
from velvet_hand.core.practice.record import Result
from velvet_hand.core.practice.session import Session, Told, replay

from .tables import PracticeActRow, PracticeRow

#: So many practices are kept in mind; any other is replayed.
MOST = 32
#: What anybody has done counts for so many practices back.
REMEMBERED = 400


class Bench:
    """The practices that are going on, each with how many acts it has."""

    def __init__(self) -> None:
        self._known: OrderedDict[UUID, tuple[int, Session]] = OrderedDict()
        self._lock = threading.RLock()

    def begin(self, practice_id: UUID, told: Told) -> tuple[Session, int]:
        """Begin one; beginning it again changes nothing."""
        with self._lock:
            row = PracticeRow.get_or_none(PracticeRow.id == practice_id)
            if row is not None:
                return self.get(practice_id)
            now = datetime.now(UTC)
            session = Session(told, now)
            PracticeRow.insert(
                id=practice_id, author=told.author, told=told.model_dump(mode="json"), began_at=now
            ).execute()
            self._keep(practice_id, 0, session)
            return session, 0

    def get(self, practice_id: UUID) -> tuple[Session, int]:
        """A practice and how many acts it has.

        Raises
        ------
        NotFound
            ``unknown_thing``.
        """
        with self._lock:
            count = PracticeActRow.select().where(PracticeActRow.practice == practice_id).count()
            known = self._known.get(practice_id)
            if known is None or known[0] != count:
                row = PracticeRow.get_or_none(PracticeRow.id == practice_id)
                if row is None:
                    raise NotFound("unknown_thing", "There is no such practice here.", "Begin another.")
                known = count, replay(Told.model_validate(row.told, strict=False), row.began_at, _acts(practice_id))
                self._keep(practice_id, *known)
            self._known.move_to_end(practice_id)
            return known[1], known[0]

    def act(self, practice_id: UUID, act_id: UUID, body: acts.Anything) -> tuple[Session, int]:
        """Do something, once however often it is sent.

        Raises
        ------
        VelvetHandError
            When it does not fit; nothing is changed then.
        """
        with self._lock, PracticeRow._meta.database.atomic():
            PracticeRow.select(PracticeRow.id).where(PracticeRow.id == practice_id).for_update().first()
            session, count = self.get(practice_id)
            if PracticeActRow.select().where(PracticeActRow.id == act_id).exists():
                return session, count
            act = acts.Act(id=act_id, at=datetime.now(UTC), body=body)
            del self._known[practice_id]  # what is refused half way is made anew
            session.act(act)
            count += 1
            kept = act.model_dump(mode="json")
            PracticeActRow.insert(practice=practice_id, seq=count, id=act_id, act=kept).execute()
            if session.ended is not None:
                ended = {
                    PracticeRow.ended_at: session.ended,
                    PracticeRow.result: result_of(session).model_dump(mode="json"),
                }
                PracticeRow.update(ended).where(PracticeRow.id == practice_id).execute()
            self._keep(practice_id, count, session)
            return session, count

    def needle_of(self, practice_id: UUID) -> Session:
        """The practice as it stands, for a look at its needle."""
        with self._lock:
            known = self._known.get(practice_id)
        return known[1] if known is not None else self.get(practice_id)[0]

    def _keep(self, practice_id: UUID, count: int, session: Session) -> None:
        self._known[practice_id] = count, session
        while len(self._known) > MOST:
            self._known.popitem(last=False)


def _acts(practice_id: UUID) -> list[acts.Act]:
    rows = PracticeActRow.select().where(PracticeActRow.practice == practice_id).order_by(PracticeActRow.seq)
    return [acts.Act.model_validate(row.act, strict=False) for row in rows]


def result_of(session: Session) -> Result:
    """How it ended, in a line."""
    told = debrief(session)
    assert session.ended is not None
    return Result(
        drill=session.told.drill, ended_at=session.ended, good=told.good, passes=told.passes, seconds=told.seconds,
        wrong_ways=told.wrong_ways, asks=told.asks,
    )  # fmt: skip


def results_of(author: str) -> Sequence[Result]:
    """What somebody has done, oldest first."""
    ended = PracticeRow.select(PracticeRow.result).where(
        PracticeRow.author == author, PracticeRow.ended_at.is_null(False)
    )
    rows = ended.order_by(PracticeRow.began_at.desc()).limit(REMEMBERED)
    return [Result.model_validate(row.result, strict=False) for row in rows][::-1]


def going_on(author: str) -> tuple[UUID, Told] | None:
    """The practice that somebody began last, when it is not over."""
    row = PracticeRow.select().where(PracticeRow.author == author).order_by(PracticeRow.began_at.desc()).first()
    if row is None or row.ended_at is not None:
        return None
    return row.id, Told.model_validate(row.told, strict=False)
