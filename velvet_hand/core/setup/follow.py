"""A follow-up: something to look at again, and when."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import Field

from ..errors import BadInput
from ..model import Model

When = Literal["first_cut", "warm_up", "next_mounting", "piece", "on"]
FOLLOW_WORDS: dict[When, str] = {
    "first_cut": "after the first cut",
    "warm_up": "after it has warmed up",
    "next_mounting": "at the next mounting",
    "piece": "at a piece",
    "on": "on a day",
}


class FollowUp(Model):
    """``what`` to look at again, at a day (``on``), a piece, or a moment that comes by itself."""

    id: str = ""
    what: str = Field(default="", max_length=200)
    when: When
    on: date | None = None
    piece: int | None = Field(default=None, ge=1, le=1_000_000)

    def check(self) -> None:
        """Refuse what never comes.

        Raises
        ------
        BadInput
            At ``follow.on`` or ``follow.piece``.
        """
        if self.when == "on" and self.on is None:
            raise BadInput("field_invalid", "No day was said.", "Choose a day.", "follow.on")
        if self.when == "piece" and self.piece is None:
            raise BadInput("field_invalid", "No piece was said.", "Type its number.", "follow.piece")
