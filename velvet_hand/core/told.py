"""What is told of a set-up: caveats, figures, lines of the table of passes, and a solution that has them all."""

from __future__ import annotations

from .model import Model
from .move import Move
from .quantity import Quantity
from .readings import Purpose
from .verdict import Outcome, Verdict
from .wording import Text


class Caveat(Model):
    """Something to know: at the start (``field`` says which choice), or about a pass."""

    code: str
    text: Text
    field: str = ""


class Figure(Model):
    """A figure with its standard uncertainty; without ``mm`` the note says it. ``label`` says what it is and of which kind."""

    id: str
    label: str
    mm: float | None
    u_mm: float | None = None
    note: Text = ()


class Row(Model):
    """A line of the table of passes.

    ``main`` is what the limit is set on, ``beside`` what is told with it; ``asked`` and ``got`` are of the move after it. ``track_x``
    and ``track_y`` say where a center stood, where the passes make a track.
    """

    number: int
    purpose: Purpose
    main: Quantity | None = None
    beside: tuple[Quantity, ...] = ()
    toward: Text = ()
    asked_mm: float | None = None
    got_mm: float | None = None
    outcome: Outcome | None = None
    track_x_mm: float | None = None
    track_y_mm: float | None = None


class QuickLook(Model):
    """A few spots read after a move or the last grip, before the full pass: is it ``worth`` that, and the ``odds`` that a full pass,
    read after tightening, holds.
    """

    worth: bool
    odds: float


class Solution(Model):
    """What the readings so far say.

    ``ready`` means: nothing better can be had by correcting, go on to tighten; ``stop`` says why
    when that is not because the limit is met. ``judged`` is the pass as it stands, tight or not;
    ``told`` is a finding in a sentence, when there is nothing to move; ``again`` why the same place is to be read once more, or with
    ``retighten`` tightened first. ``quick`` is
    None where no quick look can be had next; ``odds`` are those that a full pass holds, as a quick look has it.
    """

    pass_no: int
    figures: tuple[Figure, ...] = ()
    moves: tuple[Move, ...] = ()
    judged: Verdict | None = None
    ready: bool = False
    stop: Text = ()
    caveats: tuple[Caveat, ...] = ()
    wild: tuple[str, ...] = ()
    x_mm: float | None = None
    y_mm: float | None = None
    need_reading: Text = ()
    told: Text = ()
    again: Text = ()
    quick: QuickLook | None = None
    odds: float | None = None
    retighten: bool = False
