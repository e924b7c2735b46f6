"""What a person can do with their hands at a simulated machine, step by step and without a sentence to follow."""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from ..model import Model
from ..shop import Stock

#: A light tap moves what is struck by about so many graduations; a hard one by so many times as much.
LIGHT_MARKS, HARD = 1.5, 9.0
#: What is tight gives so little of a blow or a key.
TIGHT = 0.04
#: Part of a key's turn that goes into a jaw whose partner was not backed off.
SQUEEZED = 0.08


class Option(Model):
    """One of the things that can be put there."""

    id: str
    words: str


class Control(Model):
    """What a hand takes hold of.

    A ``key`` is turned: a notch is ``step_mm`` of travel, ``turn_deg`` of the key, ``more`` and ``less`` its two ways. A ``tap`` is
    struck, light or hard; ``here``: where the stylus stands, whose angle then follows its id. A ``pick`` has something put in or set: one
    of its ``choices``.
    """

    id: str
    label: str
    kind: Literal["key", "tap", "pick"]
    at_deg: float | None = None
    step_mm: float = 0.0
    turn_deg: float = 0.0
    more: str = ""
    less: str = ""
    choices: tuple[Option, ...] = ()
    here: bool = False


def blows(where: str) -> Control:
    """A soft hammer anywhere round what is struck: where the stylus stands."""
    return Control(id="tap", label=f"{where}, at the indicator", kind="tap", here=True)


def struck_deg(control: str) -> float:
    """Where such a blow falls.

    Examples
    --------
    >>> struck_deg("tap.137.5")
    137.5
    """
    return float(control.removeprefix("tap."))


def thick(sizes: Iterable[float]) -> tuple[Option, ...]:
    """Each of these thicknesses, to be put somewhere."""
    return tuple(Option(id=f"{mm:g}", words=f"{mm:g} mm" if mm else "none") for mm in sizes)


def dial(name: str, label: str, more: str, less: str) -> Control:
    """Something that is turned by whole degrees and stays there: its “mm” are degrees."""
    return Control(id=name, label=label, kind="key", step_mm=1.0, turn_deg=1.0, more=more, less=less)


def drawer(stock: Stock | None, most_mm: float) -> tuple[float, ...]:
    """What one or two pieces of a drawer make, nothing first; nothing at all without a drawer."""
    each = sorted({piece.mm for piece in stock.pieces}) if stock else []
    sums = {round(a + b, 6) for a in (0.0, *each) for b in (0.0, *each)}
    return tuple(sorted(mm for mm in sums if mm <= most_mm))


def nearest(sizes: tuple[float, ...], mm: float) -> int:
    """Which of the stacks is nearest to a thickness.

    Examples
    --------
    >>> nearest((0.0, 0.05, 0.1), 0.06)
    1
    """
    return min(range(len(sizes)), key=lambda i: abs(sizes[i] - mm))


@dataclass(frozen=True, slots=True)
class Packets:
    """What a drawer lets lie under each place of a machine, to ``most_mm``; ``shim.0`` is the first place.

    Examples
    --------
    >>> from velvet_hand.core.shop import Piece
    >>> tin = Stock(id="s", name="Tin", kind="shims", pieces=(Piece(mm=0.05, count=2),))
    >>> lying, packets = [0.0, 0.0], Packets(tin)
    >>> packets.put("shim.1", 2, lying), lying, packets.lying("shim.1", lying), packets.put("tap", 1, lying)
    (True, [0.0, 0.1], 2, False)
    """

    stock: Stock | None
    most_mm: float = 0.2

    @property
    def sizes(self) -> tuple[float, ...]:
        """How thick each of them is, nothing first."""
        return drawer(self.stock, self.most_mm)

    def controls(self, places: Iterable[str], what: str = "Shim") -> tuple[Control, ...]:
        """One for each place; none without a drawer."""
        choices = thick(self.sizes) if self.stock else ()
        named = enumerate(places if choices else ())
        return tuple(Control(id=f"shim.{i}", label=f"{what} {name}", kind="pick", choices=choices) for i, name in named)

    def lying(self, control: str, now_mm: Sequence[float]) -> int:
        """Which of them lies there now; the first where it is something else that is taken hold of."""
        which = control.removeprefix("shim.")
        return nearest(self.sizes, now_mm[int(which)]) if which != control else 0

    def put(self, control: str, number: float, now_mm: list[float]) -> bool:
        """Put one there, if that is what is taken hold of."""
        which = control.removeprefix("shim.")
        if which == control:
            return False
        now_mm[int(which)] = self.sizes[int(number)]
        return True
