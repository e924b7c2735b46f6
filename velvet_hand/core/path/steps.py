"""A step of the path, and what is checked off at it."""

from __future__ import annotations

from typing import Literal

from ..model import Model
from ..wording import Text


class Caution(Model):
    """Something to check with one's own eyes before going on."""

    id: str
    text: str


class Step(Model):
    """A step of the path. A hold point stops until every caution is checked.

    ``far_headline`` asks for the press test of a second gauge.
    """

    id: str
    title: str
    prompt: str
    hold: bool = False
    cautions: tuple[Caution, ...] = ()
    ask: Literal["nothing", "gap"] = "nothing"
    ask_label: str = "Gap between opposite jaws now, if you want the turns of the key"
    headline: Text = ()
    far_headline: Text = ()
