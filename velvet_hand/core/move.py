"""One thing to do between two passes, by what the hand does. Sentence, log, picture and lesson are made from it."""

from __future__ import annotations

from typing import Annotated, Any, Literal

from pydantic import Field

from .gauge import Sense
from .model import Model
from .quantity import Quantity
from .wording import Text

#: Where a key is turned, and where a blow falls.
KEY_OUT = "Key out before you turn the spindle."
SOFT = "Soft hammer or a block of brass, glasses on: never steel on a hardened face."
Goes = Literal["rises", "falls", "comes back", "past"]


class Needle(Model):
    """What is watched: at which spot, what it shows now, where it has to stop, and which way it goes there.

    ``deg`` is the spot's angle, ``x_mm`` its place along an edge; ``aim_mm`` is None when the needle only has to come back on the
    dial. Feelers and rules show a ``gap``.
    """

    station_id: str = ""
    label: str
    deg: float = 0.0
    x_mm: float | None = None
    now_mm: float | None
    aim_mm: float | None
    goes: Goes
    gap: bool = False

    @classmethod
    def at(cls, sense: Sense, now_mm: float, after_mm: float, *, way: int = 0, **spot: Any) -> Needle:
        """From toward values now and afterwards; nobody else says which way a needle goes.

        Parameters
        ----------
        way
            Which way the act takes the surface (+1 toward the indicator): when that leads away from the aim, the needle is past it.
        """
        now, aim = sense.needle_mm(now_mm), sense.needle_mm(after_mm)
        goes: Goes = "past" if (after_mm - now_mm) * way < 0 else "rises" if aim > now else "falls"
        return cls(now_mm=now, aim_mm=aim, goes=goes, **spot)

    @classmethod
    def back(cls, **spot: Any) -> Needle:
        """Past the end of the dial: it only has to come back."""
        return cls(now_mm=None, aim_mm=None, goes="comes back", **spot)

    @property
    def to(self) -> str:
        """Where the hand stops, behind what it does: “tighten jaw 1 down to the aim”."""
        if self.goes == "comes back":
            return "until it is back on the dial"
        if self.goes == "past":
            return "back to the aim: it is past it"
        if self.gap:
            return f"gap {'growing' if self.goes == 'rises' else 'closing'} to the aim"
        return f"{'up' if self.goes == 'rises' else 'down'} to the aim"

    @property
    def then(self) -> str:
        """``to``, behind a sentence that goes on: with a comma before an aim, without one before “until”."""
        return f", {self.to}" if self.aim_mm is not None else f" {self.to}"


class Asked(Model):
    """How far the measured thing is to go, toward ``deg`` in its own angles (along an edge 0: its far end nearer, 180: farther)."""

    mm: float
    deg: float = 0.0


class Base(Model):
    """What every move has.

    ``aims`` is what will be read at each spot when all is true; after a ``rezero`` move zero is set afresh where it was
    watched; one that ``opens`` the next stage goes on to other spots; ``spot`` is what the picture shows where no needle is
    watched; ``made`` the button's words; ``short`` the headline, where the ``sentence`` is a list. What it got ``teaches`` how the
    holder answers, unless something else moves it as well. ``care`` is what may hurt while it is made.
    """

    pass_no: int
    index: int = 1
    count: int = 1
    title: str
    sentence: Text
    reason: Text
    short: Text = ()
    log: Text = ()
    made: str = ""
    needle: Needle | None = None
    asked: Asked | None = None
    expects: Quantity | None = None
    aims: dict[str, float] = Field(default_factory=dict)
    teaches: bool = True
    rezero: bool = False
    opens: bool = False
    spot: str = ""
    care: str = ""

    @property
    def key(self) -> str:
        """What tells it from other moves of its kind in this pass."""
        return f"{self.aim_mm:+.5f}" if self.aim_mm is not None else "back" if self.needle else ""

    @property
    def id(self) -> str:
        """Its name: pass, kind and what it does."""
        do = self.do  # type: ignore[attr-defined]  # every kind has its own
        return f"p{self.pass_no}.{do}.{self.key}"[:80]

    @property
    def now_mm(self) -> float | None:
        """Where the needle stands."""
        return self.needle.now_mm if self.needle else None

    @property
    def aim_mm(self) -> float | None:
        """Where it has to stop."""
        return self.needle.aim_mm if self.needle else None

    @property
    def shown_at(self) -> tuple[float, str] | None:
        """Angle and name of what stands at the indicator in the picture."""
        return (self.needle.deg, self.needle.label) if self.needle else None


class Jaw(Model):
    """A jaw and how far it goes; ``mm`` is None when only the needle can say."""

    number: int
    at_deg: float
    mm: float | None
    key_deg: float | None


class Jaws(Base):
    """One jaw is tightened to the aim, the one across backed off first (None: nothing is)."""

    do: Literal["jaws"] = "jaws"
    care: str = KEY_OUT
    draw: Jaw
    ease: Jaw | None = None
    half_sentence: Text
    back: Text

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.draw.number}.{'off' if self.rezero else super().key}"


class Screws(Base):
    """Screws of one shift, those that loosen first; ``mm`` is minus for those."""

    do: Literal["screws"] = "screws"
    care: str = KEY_OUT
    turns: tuple[Jaw, ...]


class TapRound(Base):
    """A blow at an angle; what is struck goes the other way."""

    do: Literal["tap_round"] = "tap_round"
    care: str = SOFT
    at_deg: float
    mm: float | None

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.at_deg:.1f}.{super().key}"


class Tap(Base):
    """Taps at a place along an edge, toward the indicator or away; it turns about ``pivot_mm``, or slides as a ``whole``.

    ``slope_after`` is how it is to lie then; ``thing`` is which of two is struck, ``train`` when both swing as one.
    """

    do: Literal["tap"] = "tap"
    care: str = SOFT
    x_mm: float
    toward: bool
    mm: float | None
    pivot_mm: float | None = None
    slope_after: float = 0.0
    thing: int = 0
    whole: bool = False
    train: bool = False

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.thing}{'w' if self.whole else 't' if self.train else ''}.{super().key}"


class Packet(Model):
    """Shims under one place: its number and name, its angle where it has one, and how thick in all."""

    number: int
    name: str
    at_deg: float = 0.0
    mm: float


class Shim(Base):
    """Shims under the base of a measured thing; ``packets`` are all that lies there afterwards."""

    do: Literal["shim"] = "shim"
    measure: str
    packets: tuple[Packet, ...]

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.measure}" + "-".join(f"{p.number}:{p.mm:.4f}" for p in self.packets)

    @property
    def shown_at(self) -> tuple[float, str] | None:
        """See ``Base``."""
        return self.packets[0].at_deg, self.packets[0].name


class Clock(Base):
    """Something is put on at another of its positions, or turned to an angle."""

    do: Literal["clock"] = "clock"
    thing: Literal["chuck", "collet"]
    position: int = 0
    at_deg: float

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.position}.{self.at_deg:.0f}"


class Swap(Base):
    """Two dowels of one offset, clocked alike."""

    do: Literal["swap"] = "swap"
    mm: float
    at_deg: float

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.mm:.4f}.{self.at_deg:.1f}"


class Lean(Base):
    """The top of a head is turned away from ``at_deg``."""

    do: Literal["lean"] = "lean"
    at_deg: float
    mm: float


class Handle(Base):
    """A table's handle, turned until the needle stands at its aim; the table goes toward ``at_deg`` (``mm`` None: until it is back)."""

    do: Literal["handle"] = "handle"
    axis: Literal["X", "Y"]
    at_deg: float
    mm: float | None
    turn_deg: float | None = None

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.axis}.{super().key}"


class Slide(Base):
    """A tailstock moved by a measure: up, and toward the person (minus: down, away)."""

    do: Literal["slide"] = "slide"
    up_mm: float
    near_mm: float

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.up_mm:+.5f}.{self.near_mm:+.5f}"


class Swing(Base):
    """A base swung about its near bolt, its end toward the person or away, to the aim."""

    do: Literal["swing"] = "swing"
    care: str = SOFT
    near: bool
    mm: float


class Stage(Base):
    """What is done once before the next spots are read: a bar out, a column on."""

    do: Literal["stage"] = "stage"
    what: Literal["bar_out", "column_on", "tailstock"]

    @property
    def key(self) -> str:
        """See ``Base``."""
        return self.what


class Seat(Base):
    """How the work sits or is held is changed: struck down onto its seat, clamped again in another way (``act``)."""

    do: Literal["seat"] = "seat"
    act: str
    at_deg: float = 0.0

    @property
    def key(self) -> str:
        """See ``Base``."""
        return f"{self.act}.{super().key}"


Move = Annotated[
    Jaws | Screws | TapRound | Tap | Shim | Clock | Swap | Lean | Handle | Slide | Swing | Stage | Seat,
    Field(discriminator="do"),
]
