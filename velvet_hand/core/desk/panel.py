"""What a panel of advice is: one thing to do, with everything that belongs to it."""

from __future__ import annotations

from typing import Literal

from ..model import Model
from ..move import Goes
from ..quantity import Quantity
from ..scene import Scene
from ..setup.events import ClientBody
from ..verdict import Verdict
from ..wording import Text


class Check(Model):
    """A caution as the screen shows it."""

    id: str
    text: str


class Action(Model):
    """A button: its words, its key, and the events it sends, in order.

    With ``needs_reason`` the person says why first, and the last event carries it as ``reason``.
    """

    id: str
    label: str
    key: str
    events: tuple[ClientBody, ...]
    needs_reason: bool = False


class AimBox(Model):
    """Needle now, and where it has to end, at a named station (``station_id`` "" when none is there)."""

    station_id: str
    label: str
    now_mm: float | None
    aim_mm: float | None
    goes: Goes
    what: Literal["needle", "gap"] = "needle"


class Panel(Model):
    """One piece of advice. ``name`` tells it from the other ways of doing the same.

    ``expect`` is what to expect after a move that no needle is watched in; ``taken_mm`` what it asked to measure, once that is told.
    """

    name: str
    kicker: Text
    headline: Text
    aim: AimBox | None = None
    why: tuple[Text, ...] = ()
    cautions: tuple[Check, ...] = ()
    hold: bool = False
    ask: Literal["nothing", "gap", "opening", "taps"] = "nothing"
    ask_label: str = ""
    taken_mm: float | None = None
    primary: Action | None = None
    others: tuple[Action, ...] = ()
    verdict: Verdict | None = None
    expect: Quantity | None = None
    expect_word: str = ""
    scene: Scene
