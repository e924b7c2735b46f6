"""What holds the work: each kind with what its computation uses, and the words that the Shop asks for it with."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated, ClassVar, Literal

from pydantic import Field

from .errors import BadInput
from .fields import LengthOf, LengthsOf, NumberOf, OneOf, WordsOf
from .model import Model

HolderKind = Literal[
    "four_jaw_independent",
    "three_jaw",
    "adjustable_body",
    "collet",
    "centres",
    "faceplate",
    "dowelled_housing",
    "mill_head",
    "vise",
    "vise_pair",
    "fixture",
    "rotary_table",
    "surface_plate",
    "column",
]


class Holder(Model):
    """Any holder; ``word`` is its kind as the Shop says it. What it answered before ``forget_before`` no longer counts, nor in
    the set-ups that are ``struck``."""

    word: ClassVar[str]

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: HolderKind
    forget_before: datetime | None = None
    struck: tuple[str, ...] = Field(default=(), max_length=200)

    @property
    def jaws_deg(self) -> dict[int, float]:
        """Its jaws or screws by their numbers, if it has any: where each stands, counter-clockwise from number 1."""
        return {}

    @property
    def rings(self) -> tuple[float, ...]:
        """Radii of the rings on its face, in mm."""
        return ()

    @property
    def across_mm(self) -> float:
        """How wide its face is drawn (0: as the work asks for)."""
        return 0.0

    def check(self) -> None:
        """Refuse what cannot be.

        Raises
        ------
        BadInput
            At the field.
        """


class Round(Holder):
    """What turns, or is gripped by its diameter; ``rings_mm`` are radii of the rings on its face."""

    diameter_mm: Annotated[float, LengthOf("Its own diameter", least=1, rank=10)]
    min_work_mm: Annotated[float, LengthOf("Smallest part", rank=11)]
    max_work_mm: Annotated[float, LengthOf("Biggest part", least=1, rank=12)]
    rings_mm: tuple[float, ...] = ()

    @property
    def across_mm(self) -> float:
        """See ``Holder``."""
        return self.diameter_mm

    @property
    def rings(self) -> tuple[float, ...]:
        """See ``Holder``."""
        return self.rings_mm

    def check(self) -> None:
        """See ``Holder``."""
        if self.min_work_mm >= self.max_work_mm:
            raise BadInput(
                "field_invalid", "The smallest part is not smaller than the biggest.", "Check both.", "min_work_mm"
            )
        if any(ring > self.diameter_mm / 2 for ring in self.rings_mm):
            why = f"A ring is wider than its face: its radius is at most {self.diameter_mm / 2:g} mm."
            raise BadInput("field_invalid", why, "Type radii, not diameters.", "rings_mm")


class Jawed(Round):
    """What has jaws or screws with numbers, which run as ``numbering`` says, seen from the tailstock."""

    jaws: int
    numbering: Annotated[
        Literal["ccw", "cw"],
        OneOf(
            "Numbers run, seen from the tailstock", words={"ccw": "counter-clockwise", "cw": "clockwise"}, rank=60
        ),
    ] = "ccw"  # fmt: skip

    def jaw_deg(self, jaw: int) -> float:
        """Angle of a jaw or screw, counted from number 1 and counter-clockwise, as chucks are seen from the tailstock."""
        return ((jaw - 1) * (360.0 / self.jaws) * (1 if self.numbering == "ccw" else -1)) % 360

    @property
    def jaws_deg(self) -> dict[int, float]:
        """See ``Holder``."""
        return {jaw: self.jaw_deg(jaw) for jaw in self.numbers}

    @property
    def numbers(self) -> tuple[int, ...]:
        """The numbers of its jaws or screws."""
        return tuple(range(1, self.jaws + 1))

    def opposite(self, jaw: int) -> int:
        """The jaw across from ``jaw``, where their number is even."""
        return (jaw - 1 + self.jaws // 2) % self.jaws + 1


Lead = Annotated[
    float | None,
    LengthOf(
        "Travel for one turn of the key",
        "Ten turns, divided by ten. Empty: not measured.",
        least=0.05,
        most=50,
        rank=20,
    ),
]
Rings = Annotated[
    tuple[float, ...],
    LengthsOf("Rings on its face, radii", "With spaces between: 30 45 60. Empty: none.", least=0.1, most=1500, rank=61),
]
JawWidth = Annotated[float, LengthOf("Width of a jaw’s face", "0: narrow.", most=500, rank=50)]
Runout = Annotated[
    float | None, LengthOf("TIR its manual promises", "Empty: not known.", least=0.0001, most=5, rank=51)
]


class FourJaw(Jawed):
    """Four jaws, each with a screw of ``lead_mm`` for one turn of the key (None: not measured yet)."""

    word = "independent four-jaw"
    kind: Literal["four_jaw_independent"] = "four_jaw_independent"
    jaws: Literal[4] = 4
    lead_mm: Lead = None
    jaw_width_mm: JawWidth = 0.0
    rings_mm: Rings = ()


class ThreeJaw(Jawed):
    """Three jaws on a scroll; ``jaw_width_mm`` is how wide a jaw’s flat is."""

    word = "three-jaw"
    kind: Literal["three_jaw"] = "three_jaw"
    jaws: Literal[3] = 3
    jaw_width_mm: JawWidth = 0.0
    runout_mm: Runout = None
    rings_mm: Rings = ()


class AdjustableBody(Jawed):
    """A chuck whose body is moved on its backplate by screws, as far as ``clearance_mm`` from its middle.

    It goes away from a drawn screw (screws in a ring press on it), or toward it (screws in the body press on a boss).
    """

    word = "adjustable body"
    kind: Literal["adjustable_body"] = "adjustable_body"
    lead_mm: Lead = None
    jaws: Annotated[int, NumberOf("Adjusting screws", "3, 4 or 6.", least=3, most=6, rank=30)] = 4
    clearance_mm: Annotated[
        float | None,
        LengthOf(
            "The body can go from its middle",
            "From its manual, or measured end to end and halved. Empty: not known.",
            least=0.001,
            most=10,
            rank=40,
        ),
    ] = None
    follows: Annotated[
        Literal["toward", "away"],
        OneOf(
            "When a screw is drawn, the body goes",
            "Tighten one screw and look. Screws in the body go toward, screws in a ring away.",
            words={"toward": "toward it", "away": "away from it"},
            rank=41,
        ),
    ] = "toward"
    runout_mm: Runout = None

    def check(self) -> None:
        """See ``Holder``."""
        super().check()
        if self.jaws not in (3, 4, 6):
            raise BadInput("field_invalid", f"{self.jaws} adjusting screws: 3, 4 or 6.", "Count them again.", "jaws")


class Collet(Round):
    """A collet, or the nose it sits in."""

    word = "collet"
    kind: Literal["collet"] = "collet"
    runout_mm: Runout = None


class Centres(Holder):
    """A pair of centers."""

    word = "centers"
    kind: Literal["centres"] = "centres"
    longest_mm: Annotated[float, LengthOf("Longest part between them", least=10, most=20000, rank=10)]


class Faceplate(Round):
    """A plate that work is clamped to."""

    word = "faceplate"
    kind: Literal["faceplate"] = "faceplate"
    rings_mm: Rings = ()


class DowelledHousing(Round):
    """A housing whose place two dowels give."""

    word = "housing on dowels"
    kind: Literal["dowelled_housing"] = "dowelled_housing"


class MillHead(Round):
    """The head of a mill, swept over its table."""

    word = "mill head"
    kind: Literal["mill_head"] = "mill_head"


class RotaryTable(Round):
    """A table that turns under the spindle."""

    word = "rotary table"
    kind: Literal["rotary_table"] = "rotary_table"


class OnTheTable(Holder):
    """What lies on a table and is read along an edge of ``edge_mm``; it reaches ``depth_mm`` the other way.

    ``bolts_mm`` are where its hold-down bolts sit along the edge, from its left end; ``torque`` is what its own manual says.
    """

    edge_mm: Annotated[float, LengthOf("Length of its jaw or edge", least=5, most=5000, rank=10)]
    depth_mm: Annotated[
        float, LengthOf("How deep it is, the other way", "For the picture; 0: not known.", most=5000, rank=11)
    ] = 0.0
    bolts_mm: tuple[float, ...] = ()
    torque: Annotated[
        str, WordsOf("Tighten to", "As its own manual says, in its words. Empty: not known.", rank=40)
    ] = Field(default="", max_length=80)

    @property
    def deep_mm(self) -> float:
        """How deep it is drawn."""
        return self.depth_mm or 0.7 * self.edge_mm

    @property
    def pins_mm(self) -> tuple[float, float]:
        """The outermost bolts along its edge; near its ends where nobody measured them."""
        bolts = sorted(self.bolts_mm) or [0.12 * self.edge_mm, 0.88 * self.edge_mm]
        return bolts[0], bolts[-1]

    def check(self) -> None:
        """See ``Holder``."""
        if any(bolt > self.edge_mm for bolt in self.bolts_mm):
            why = f"A bolt sits beyond the end of its edge: at most {self.edge_mm:g} mm."
            raise BadInput("field_invalid", why, "Count from the left end of the edge.", "bolts_mm")


Bolts = Annotated[
    tuple[float, ...],
    LengthsOf(
        "Its bolts, from the left end of the edge",
        "With a space between: 14 146. It pivots on one of them. Empty: not measured.",
        most=5000,
        rank=20,
    ),
]


class Vise(OnTheTable):
    """A vise; its keys have a play of ``key_clearance_mm`` in the slot (None: it has none) and stand ``key_span_mm`` apart."""

    word = "vise"
    kind: Literal["vise"] = "vise"
    bolts_mm: Bolts = Field(default=(), max_length=12)
    key_clearance_mm: Annotated[
        float | None, LengthOf("Play of its keys in the slot", "Empty: it has no keys.", most=5, rank=30)
    ] = None
    key_span_mm: Annotated[float, LengthOf("Keys stand apart by", "0: not known.", most=5000, rank=31)] = 0.0


class VisePair(OnTheTable):
    """Two vises of one kind."""

    word = "two vises in line"
    kind: Literal["vise_pair"] = "vise_pair"
    bolts_mm: Bolts = Field(default=(), max_length=12)


class Fixture(OnTheTable):
    """A plate, an angle plate, or long work by itself."""

    word = "plate, angle plate or long part"
    kind: Literal["fixture"] = "fixture"
    bolts_mm: Bolts = Field(default=(), max_length=12)


class SurfacePlate(OnTheTable):
    """A surface plate, or a table to measure on."""

    word = "surface plate"
    kind: Literal["surface_plate"] = "surface_plate"


class Column(OnTheTable):
    """A column on a rotary axis; ``edge_mm`` runs from its flange to its end."""

    word = "column on a rotary axis"
    kind: Literal["column"] = "column"
    edge_mm: Annotated[float, LengthOf("From flange to end", least=5, most=5000, rank=10)]


AnyHolder = Annotated[
    FourJaw | ThreeJaw | AdjustableBody | Collet | Centres | Faceplate | DowelledHousing | MillHead
    | Vise | VisePair | Fixture | RotaryTable | Column | SurfacePlate,
    Field(discriminator="kind"),
]  # fmt: skip
