"""What somebody does at the bench to practice on, one after the other; a practice is replayed from these alone."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from ..model import Model
from ..setup import events as ev
from .faults import Fault


class Hand(Model):
    """A key turned by so many mm, a blow (1 light, 2 hard), or the choice of that number put in; ``at`` is where the stylus stood, for a
    blow that falls there.
    """

    type: Literal["hand"] = "hand"
    control: str = Field(max_length=20)
    amount: float = Field(ge=-360, le=360)
    at: float | None = Field(default=None, ge=-10_000, le=10_000)


class Grip(Model):
    """Everything tightened one step, by feel: snug, firm, tight; or loosened again."""

    type: Literal["grip"] = "grip"
    way: Literal["tighten", "loosen"]


class Look(Model):
    """How one stands to the dial."""

    type: Literal["look"] = "look"
    square: bool


class Ask(Model):
    """What would you do? A question comes first, the answer when it is asked again."""

    type: Literal["ask"] = "ask"


class Done(Model):
    """What is told to the set-up: a reading, a move made, read the spots again; ``at`` is where the stylus stood."""

    type: Literal["done"] = "done"
    body: ev.ClientBody
    at: float | None = Field(default=None, ge=-10_000, le=10_000)


class Good(Model):
    """It is good as it stands; or it cannot be made good, and this is why."""

    type: Literal["good"] = "good"
    fault: Fault | None = None


Anything = Annotated[Hand | Grip | Look | Ask | Done | Good, Field(discriminator="type")]


class Act(Model):
    """One thing done, when; its id is made by whoever did it, so that it counts once however often it is sent."""

    id: UUID
    at: datetime
    body: Anything
