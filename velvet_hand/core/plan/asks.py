"""What a procedure needs and which of the common questions it puts, in words for the start page."""

from __future__ import annotations

from ..fields import Choice
from ..model import Model
from ..quantity import LimitKind


class Needs(Model):
    """What a procedure needs, in words for the start page."""

    holder: str
    gauge: str
    machine: str
    part: str


class Preset(Model):
    """A set of stations to choose, by name."""

    id: str
    word: str
    hint: str
    stations_deg: tuple[float, ...]


class Asks(Model):
    """Which of the common questions the start page puts for this procedure; ``angles`` says what they are counted from,
    ``part`` what the name is of.
    """

    surface: bool = True
    place: bool = True
    view: bool = True
    diameter: str = "Diameter where it is read"
    limit_kinds: tuple[LimitKind, ...] = ("tir", "off_centre")
    gauges: tuple[str, ...] = ("lever", "plunger")
    presets: tuple[Preset, ...] = ()
    schools: tuple[Choice, ...] = ()
    angles: str = "number 1, counter-clockwise seen from the tailstock"
    part: str = "Part"
