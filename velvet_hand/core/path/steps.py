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

    ``far_headline`` asks for the press test of a second gauge. What a step asks to measure by the way is a small ``gap``, read like a
    needle, or an ``opening``, which is a size.
    """

    id: str
    title: str
    prompt: str
    hold: bool = False
    cautions: tuple[Caution, ...] = ()
    ask: Literal["nothing", "gap", "opening"] = "nothing"
    ask_label: str = ""
    headline: Text = ()
    far_headline: Text = ()
