"""What is to be looked at again: when it is due, and how that is said."""

from __future__ import annotations

from datetime import date

from ..model import Model
from ..setup.follow import FOLLOW_WORDS, FollowUp
from .account import Account

#: A day this near is worth a line.
SOON_DAYS = 3


class Due(Model):
    """Something that wants a look, in words; ``follow_id`` where it can be said to be done."""

    what: str
    follow_id: str = ""


def due(told: Account, next_pieces: tuple[int, ...], today: date) -> tuple[Due, ...]:
    """What of a set-up wants a look on that day: follow-ups that are due, and while it stands the piece to measure next."""
    found = [Due(what=words, follow_id=one.id) for one in told.follow_ups if (words := _words(told, one, today))]
    measured = max((m.piece for m in told.measured), default=0)
    if told.standing and next_pieces and min(next_pieces) > measured:
        found.append(Due(what=f"measure piece {min(next_pieces)}"))
    return tuple(found)


def _words(told: Account, one: FollowUp, today: date) -> str:
    """The line it wants; nothing while it is not due."""
    what = one.what.strip() or "look at it again"
    if one.when == "on" and one.on is not None:
        days = (one.on - today).days
        return f"{what}: {in_days(days)}" if days <= SOON_DAYS else ""
    if one.when == "piece" and one.piece is not None:
        measured = max((m.piece for m in told.measured), default=0)
        return f"{what}: from piece {one.piece}" if told.standing and measured < one.piece else ""
    if one.when == "next_mounting":
        return f"{what}: at the next mounting"
    return f"{what}: {FOLLOW_WORDS[one.when]}" if told.cleared else ""


def in_days(days: int) -> str:
    """How far a day is.

    Examples
    --------
    >>> [in_days(d) for d in (3, 1, 0, -1, -12)]
    ['in 3 days', 'tomorrow', 'today', 'overdue since yesterday', 'overdue by 12 days']
    """
    near = {1: "tomorrow", 0: "today", -1: "overdue since yesterday"}
    return near.get(days) or (f"in {days} days" if days > 0 else f"overdue by {-days} days")
