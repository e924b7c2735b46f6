"""One person's practice over time: their bests, and what to practice next."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime, timedelta

from ..model import Model
from .drills import DRILLS

#: Days until a drill is due again after so many clean ones in a row; what went wrong is due at once.
AGAIN_DAYS = (1, 3, 7, 16, 35)
#: So many of one's own best times stand on the board.
BOARD = 5


class Result(Model):
    """How one practice ended."""

    drill: str
    ended_at: datetime
    good: bool
    passes: int
    seconds: int
    wrong_ways: int
    asks: int

    @property
    def clean(self) -> bool:
        """Good, nothing the wrong way, and nobody asked for the answer."""
        return self.good and not self.wrong_ways and self.asks < 2


class Standing(Model):
    """How somebody stands at a drill: how often, the best time of those that were good, when it is due again, and why."""

    drill: str
    tries: int
    good: int
    best_seconds: int | None
    best_passes: int | None
    last_at: datetime | None
    due_at: datetime | None
    due: bool
    why: str


class Record(Model):
    """Every drill, and the one to do next; ``board`` are the best times of the timed ones."""

    standings: tuple[Standing, ...]
    next: str
    board: tuple[Result, ...]


def record(results: Sequence[Result], now: datetime) -> Record:
    """What these results, oldest first, say."""
    standings = tuple(_standing(drill.id, [r for r in results if r.drill == drill.id], now) for drill in DRILLS)
    timed = {drill.id for drill in DRILLS if drill.timed}
    board = sorted((r for r in results if r.drill in timed and r.good), key=lambda r: r.seconds)[:BOARD]
    return Record(standings=standings, next=min(standings, key=_turn).drill, board=tuple(board))


def _turn(one: Standing) -> tuple[bool, bool, float]:
    """What is due comes first, the longest ago first; then what was never tried, in the order of the list; then what is due soonest."""
    return not one.due, one.tries > 0, one.due_at.timestamp() if one.due_at else 0.0


def _standing(drill: str, results: Sequence[Result], now: datetime) -> Standing:
    good = [r for r in results if r.good]
    last = results[-1] if results else None
    streak = 0
    for one in reversed(results):
        if not one.clean:
            break
        streak += 1
    wait = timedelta(days=AGAIN_DAYS[min(streak, len(AGAIN_DAYS)) - 1] if streak else 0)
    due_at = last.ended_at + wait if last else None
    due = due_at is not None and due_at <= now
    return Standing(
        drill=drill, tries=len(results), good=len(good), best_seconds=min((r.seconds for r in good), default=None),
        best_passes=min((r.passes for r in good), default=None), last_at=last.ended_at if last else None, due_at=due_at, due=due,
        why=_why(last, streak) if due else "",
    )  # fmt: skip


def _why(last: Result | None, streak: int) -> str:
    if last is None:
        return ""
    if not last.good:
        return "it did not come out last time"
    if last.wrong_ways:
        return (
            f"{last.wrong_ways} went the wrong way last time" if last.wrong_ways > 1 else "once the wrong way last time"
        )
    return "you asked for the answer last time" if not streak else "to keep it"
