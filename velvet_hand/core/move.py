"""One thing to do between two passes. Sentence and picture are both made from it."""

from __future__ import annotations

from typing import Literal

from .model import Model
from .wording import Text

Do = Literal["ease", "draw_in", "tap", "slacken", "tighten", "shim", "clock", "lean", "slide"]
Needle = Literal["rises", "falls", "comes back", "stays"]


class Act(Model):
    """What one jaw, screw or blow does. ``at_deg`` is its angle in the holder, ``mm`` how far.

    ``jaw`` is its number (0: it has none); ``mm`` is None when only the needle can say how far.
    """

    do: Do
    jaw: int
    thing: Literal["jaw", "screw", "work", "chuck", "collet", "dowels", "bar"] = "jaw"
    at_deg: float
    mm: float | None
    key_deg: float | None


class Move(Model):
    """A move with its aim, in the order of its acts (what loosens comes first).

    ``now_mm`` and ``aim_mm`` are needle values at chuck angle ``watch_deg``; ``aim_mm`` is None when
    the needle only has to come back on the dial. ``direction_deg`` is where the work goes,
    ``asked_mm`` how far. ``needle`` says which way it goes on the way to the aim. After a
    ``rezero`` move the dial is set to zero afresh at the watched spot.
    ``teaches`` says whether what it got counts as the holder's answer. A move without a needle to watch
    (a shim, a bolt position) ``stays``, and says what TIR (or
    other ``predicted_word``) to expect.
    A move that ``opens`` the next stage of reading goes on to other spots. ``made`` is the button's words,
    ``log`` what the log says. On an edge ``watch_x_mm`` is where along it the gauge stands, ``blow_x_mm`` where it is
    tapped, ``pivot_mm`` where it swings, and ``slope_after`` how it is to lie then; a tap at 0 degrees goes toward
    the gauge, one at 180 away from it.
    """

    id: str
    pass_no: int
    index: int
    count: int
    acts: tuple[Act, ...]
    watch_station: str
    watch_label: str
    watch_deg: float
    now_mm: float | None
    aim_mm: float | None
    needle: Needle
    direction_deg: float
    asked_mm: float | None
    aims: dict[str, float]
    rezero: bool = False
    teaches: bool = True
    made: str = ""
    log: Text = ()
    predicted_tir_mm: float | None = None
    predicted_word: str = "TIR"
    opens: bool = False
    watch_x_mm: float | None = None
    blow_x_mm: float | None = None
    pivot_mm: float | None = None
    slope_after: float = 0.0
    title: str
    sentence: Text
    reason: Text
    half_sentence: Text
    back: Text

    @property
    def eased(self) -> Act | None:
        """The jaw that is loosened first, if any."""
        return self.acts[0] if self.acts[0].do == "ease" else None

    @property
    def drawn(self) -> Act:
        """The jaw that moves the work."""
        return self.acts[-1]
