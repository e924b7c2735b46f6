"""What is known of a part before it is held, and what the drawing wants."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from ..after.own import Done
from ..errors import BadInput
from ..filling import size_unit
from ..model import Model
from ..plan.base import Finish, Limit
from ..quantity import LimitKind
from ..sums.kinds import Bounds, value_of
from ..units import Typed, check_comma, parse_length
from ..wording import Text

Shape = Literal["round", "flat"]
Surface = Literal["ground", "turned", "marks", "sawn", "rusty", "cast"]
#: About how far form and roughness of a surface make a needle go by themselves (peak to valley, mm), and what finish that is in a plan.
SURFACES: dict[Surface, tuple[str, float, Finish]] = {
    "ground": ("ground", 0.002, "ground"),
    "turned": ("turned or milled", 0.006, "turned"),
    "marks": ("tool marks", 0.015, "turned"),
    "sawn": ("sawn", 0.15, "rough"),
    "rusty": ("rusty", 0.25, "rough"),
    "cast": ("cast", 0.5, "rough"),
}
#: What may be wanted of a shape.
KINDS: dict[Shape, tuple[LimitKind, ...]] = {"round": ("tir", "off_centre"), "flat": ("over_part", "over_jaw")}
#: Heavier than this is held in the machine, with support; lighter small parts are gripped on the bench first (kg).
HEAVY_KG = 12.0


class Wanted(Model):
    """A part: sizes and limit as they were typed."""

    name: str = Field(default="", max_length=120)
    shape: Shape = "round"
    across: Typed
    long: Typed | None = None
    surface: Surface = "turned"
    hardened: bool = False
    kg: float | None = Field(default=None, ge=0, le=5000)
    many: int = Field(default=1, ge=1, le=100_000)
    limit: Limit

    @property
    def across_mm(self) -> float:
        """Diameter, or width.

        Raises
        ------
        BadInput
            At ``across``.
        """
        return _size(self.across, "across")

    @property
    def long_mm(self) -> float | None:
        """How long it is, when that was said.

        Raises
        ------
        BadInput
            At ``long``.
        """
        return _size(self.long, "long") if self.long is not None and self.long.text.strip() else None

    @property
    def form_mm(self) -> float:
        """How far its surface makes a needle go by itself."""
        return SURFACES[self.surface][1]


def _size(typed: Typed, field: str) -> float:
    check_comma(typed.text, field)
    mm = float(parse_length(*size_unit(typed.text, typed.unit), field))
    if not 0 < mm <= 20_000:
        raise BadInput("part_size_missing", "A part has a size above zero.", "Measure it and type it.", field)
    return mm


def mass_kg(typed: Typed | None) -> float | None:
    """How heavy it is, typed in kilograms or pounds (by itself: as the shop's lengths are); None when nothing was typed.

    Raises
    ------
    BadInput
        At ``mass``.
    """
    if typed is None or not typed.text.strip():
        return None
    return value_of("mass", typed.text, typed.unit, "Mass", Bounds(least=0, most=5000), "mass")


def pieces(typed: str) -> int:
    """How many there are of it; one when nothing was typed.

    Raises
    ------
    BadInput
        At ``many``.
    """
    return int(value_of("count", typed.strip() or "1", "mm", "How many", Bounds(least=1, most=100_000), "many"))


class Share(Model):
    """What something takes of the limit, in its own kind."""

    word: str
    mm: float


class Record(Model):
    """What a holder has done before: how often it was proved, how often that held, and the best and worst proof that did, each to a limit
    of its own; what set-ups took, the latest first.
    """

    proved: int = 0
    held: int = 0
    best_mm: float | None = None
    worst_mm: float | None = None
    done: tuple[Done, ...] = ()


Rating = Literal["good", "unsure", "out"]


class Candidate(Model):
    """One way to hold and indicate it, with everything that a set-up starts with; one that is ``out`` says why.

    ``likely_mm`` is what is taken of the limit as a rule, ``worst_mm`` at the worst; ``first`` says what comes before it; ``fetch``
    what is brought to it, ``buy`` what of that the Shop has not got, ``away`` what is looked for at the end.
    """

    rating: Rating
    title: str
    procedure: str
    machine_id: str
    machine: str
    holder_id: str
    holder: str
    gauge_id: str = ""
    gauge: str = ""
    reasons: tuple[Text, ...] = ()
    first: tuple[Text, ...] = ()
    expect: Text = ()
    minutes: float | None = None
    handling: float = Field(default=0.0, exclude=True)
    shares: tuple[Share, ...] = ()
    likely_mm: float = 0.0
    worst_mm: float = 0.0
    left_mm: float = 0.0
    fetch: tuple[str, ...] = ()
    buy: tuple[Text, ...] = ()
    away: tuple[str, ...] = ()
