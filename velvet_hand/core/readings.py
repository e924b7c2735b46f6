"""What a gauge saw, and where: stations, readings, passes."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from .model import Model
from .units import Typed, Unit


class Station(Model):
    """A spot to read: its chuck angle, and its jaw when there is one just there.

    ``ring`` is the circle it lies on (work read in several planes has several); ``when`` says in which
    passes it is asked: always, only until it has been read once, only after that, whenever it was shimmed (and in proofs), in proofs
    alone, or in proofs that the other spots leave undecided. ``group`` and
    ``short`` are the two halves of its label, where a ring has a name. ``reads`` is what
    is noted there: the needle, a gap, a size across, its whole swing over a turn, or where it stood highest, in degrees.
    On an edge or a plate ``x_mm`` and ``y_mm`` say where it lies, instead of the angle.
    A ``cell`` is one of a grid, which a sheet may bring as a whole.
    Work that is read in stages has a ``stage`` for each spot (0: in all of them).
    """

    id: str
    label: str
    angle_deg: float
    jaw: int | None = None
    ring: str = ""
    group: str = ""
    short: str = ""
    when: Literal["always", "first", "later", "shimmed", "proof", "undecided"] = "always"
    reads: Literal["needle", "gap", "size", "swing", "degrees"] = "needle"
    x_mm: float = 0.0
    y_mm: float = 0.0
    stage: int = 0
    cell: bool = False


#: What a pass is read for: to correct, to prove, or to see quickly what a move and a tightening left.
Purpose = Literal["correct", "prove", "quick"]


@dataclass(frozen=True, slots=True)
class Reading:
    """One reading in a pass. ``needle_mm`` is None when the needle ran off the end (see ``off``) or
    ``lost`` the surface; ``deg`` is an angle that was noted instead. ``u_mm`` is what it is unsure by beside what every reading is;
    ``live`` when an indicator sent it."""

    event_id: str
    seq: int
    station_id: str
    typed: Typed
    needle_mm: float | None
    off: int | None
    closing: bool = False
    lost: bool = False
    deg: float | None = None
    u_mm: float = 0.0
    live: bool = False

    @property
    def known(self) -> bool:
        """Is there a number to work with?"""
        return self.needle_mm is not None


@dataclass(slots=True)
class Pass:
    """One set of readings between two moves.

    ``frames`` tells the zero of each measure it reads, ``closings`` the first spot of each read again at its end. A quick look reads only
    the ``spots`` that tell what has changed since the last full pass. ``touched``: slots of the indicators that were seen to move when
    something was pressed against them, after it was read.
    """

    number: int
    frames: dict[str, int]
    purpose: Purpose
    readings: dict[str, Reading] = field(default_factory=dict)
    closings: dict[str, Reading] = field(default_factory=dict)
    bad: set[str] = field(default_factory=set)
    closed: bool = False
    moved: list[str] = field(default_factory=list)
    back: bool = False
    spots: tuple[str, ...] = ()
    touched: set[str] = field(default_factory=set)

    @property
    def quick(self) -> bool:
        """Is it a quick look?"""
        return self.purpose == "quick"

    @property
    def ran_off(self) -> bool:
        """Did the needle run past an end of its dial at some spot?"""
        return any(reading.off for reading in self.readings.values())

    def all_readings(self) -> tuple[Reading, ...]:
        """Every reading in it, the closing ones too."""
        return (*self.readings.values(), *self.closings.values())

    def good(self) -> dict[str, Reading]:
        """Readings that carry a number and are not marked as a bad spot."""
        return {k: r for k, r in self.readings.items() if r.known and k not in self.bad}

    def closed_by(self, measure_id: str) -> tuple[float | None, float | None]:
        """Needle values of the first spot of a measure: as it was read first, and again at the end."""
        again = self.closings.get(measure_id)
        first = self.readings.get(again.station_id) if again is not None else None
        return first.needle_mm if first else None, again.needle_mm if again else None

    def answered(self, station_id: str) -> bool:
        """Has the station been read, or marked as a bad spot?"""
        return station_id in self.readings or station_id in self.bad


__all__ = ["Pass", "Purpose", "Reading", "Station", "Typed", "Unit"]
