"""What a sum is, and how it is worked: figures that are typed, the others following from them."""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Any

from pydantic import Field

from ..errors import BadInput, NotFound, VelvetHandError
from ..fields import Choice
from ..model import Model
from ..shop import Stock
from ..units import Typed, Unit
from ..wording import Text
from .drawing import Picture
from .kinds import Bounds, Kind, beside, rows_of, value_of, word_of, written


class Figure(Model):
    """A figure of a sum.

    ``start`` is what stands there before anything is typed: in mm, degrees, newtons and so on; lines of ``rows`` and sizes of ``stock``
    as text in mm. ``columns`` are the kinds of a row's cells (one kind alone: a grid), ``stock`` is which drawer of the Shop.
    """

    id: str
    label: str
    kind: Kind
    start: float | str = ""
    hint: str = ""
    unit: str = ""
    bounds: Bounds = Bounds()
    choices: tuple[Choice, ...] = ()
    columns: tuple[Kind, ...] = ()
    least_rows: int = 1
    stock: str = ""


class Values:
    """The figures of a sum while it is worked."""

    def __init__(self, known: Mapping[str, Any]) -> None:
        self._known = dict(known)

    def __getitem__(self, name: str) -> float:
        return float(self._known[name])

    def rows(self, name: str) -> tuple[tuple[float, ...], ...]:
        """Pasted lines."""
        found: tuple[tuple[float, ...], ...] = self._known[name]
        return found

    def column(self, name: str, index: int) -> tuple[float, ...]:
        """One column of pasted lines."""
        return tuple(row[index] for row in self.rows(name))

    def chosen(self, name: str) -> str:
        """Which answer was chosen."""
        return str(self._known[name])

    def pieces(self, name: str) -> tuple[tuple[float, int], ...]:
        """Sizes in a drawer, and how many of each."""
        found: tuple[tuple[float, int], ...] = self._known[name]
        return found

    def with_(self, more: Mapping[str, float]) -> Values:
        """These and those that follow from them."""
        return Values({**self._known, **more})


Given = Callable[[Values], Mapping[str, float]]


@dataclass(frozen=True, slots=True)
class Way:
    """Which figures follow from all the others, and how. ``by`` raises ``BadInput`` at a figure where nothing follows.

    A ``rare`` one gives what is seldom asked for, such as the length of a tool: it is taken when that figure is emptied.
    """

    gives: tuple[str, ...]
    by: Given
    rare: bool = False


@dataclass(frozen=True, slots=True)
class Sum:
    """A sum. ``words`` are what somebody may type to find it; ``holds`` says where it ends to be true."""

    id: str
    title: str
    about: str
    words: str
    formula: str
    holds: str
    figures: tuple[Figure, ...]
    ways: tuple[Way, ...]
    tell: Callable[[Values], tuple[Text, ...]]
    draw: Callable[[Values], Picture]
    family: str = field(default="")

    def figure(self, name: str) -> Figure:
        """The figure of that id."""
        return next(f for f in self.figures if f.id == name)


class FigureOut(Model):
    """A figure as the page shows it: ``text`` stands in its field, ``unit`` behind it; ``beside`` is the same in the other system."""

    id: str
    label: str
    kind: Kind
    text: str
    beside: str
    unit: str
    follows: bool
    hint: str
    choices: tuple[Choice, ...]


class Fault(Model):
    """What is wrong with a figure."""

    figure: str
    why: str
    fix: str


class Worked(Model):
    """A sum with its figures filled in; without a picture and words while one of them cannot be used."""

    id: str
    title: str
    about: str
    formula: str
    holds: str
    figures: tuple[FigureOut, ...]
    told: tuple[Text, ...] = ()
    picture: Picture | None = None
    faults: tuple[Fault, ...] = ()


class SumLine(Model):
    """A sum in the list."""

    id: str
    family: str
    title: str
    about: str
    words: str = Field(repr=False)


def choose_way(one: Sum, typed: Sequence[tuple[str, str]]) -> Way:
    """The way whose answers were typed longest ago: whoever types an answer wants the others to follow. A figure that was emptied follows.

    ``typed`` are the figures and what was typed, the oldest first.
    """
    emptied = {name for name, text in typed if not text.strip()}
    for way in one.ways:
        if emptied & set(way.gives):
            return way
    age = {name: rank for rank, (name, _) in enumerate(typed, start=1)}
    return min((w for w in one.ways if not w.rare), key=lambda way: max(age.get(name, 0) for name in way.gives))


def work(
    one: Sum,
    typed: Sequence[tuple[str, Typed]],
    unit: Unit,
    drawers: Sequence[Stock] = (),
    stands: Mapping[str, Typed] | None = None,
) -> Worked:
    """Fill in a sum.

    Parameters
    ----------
    typed
        Figures and what was typed into them, the oldest first; the others stand as they start, or follow.
    unit
        Of the screen: what was typed in another one is written in it.
    drawers
        The Shop's, to choose from; the first of a kind is taken before one is chosen.
    stands
        What stood in the fields that nobody typed into: worth as much, but it gives way first.
    """
    ids = {f.id for f in one.figures}
    way = choose_way(one, [(name, text.text) for name, text in typed if name in ids])
    texts = {name: text for name, text in (*(stands or {}).items(), *typed) if name in ids}
    known: dict[str, Any] = {}
    faults: list[Fault] = []
    for figure in one.figures:
        if figure.id in way.gives:
            continue
        try:
            if figure.id in one.ways[0].gives and figure.id not in texts:
                known[figure.id] = _before(one, texts, unit, drawers)[figure.id]
            else:
                known[figure.id] = _value(figure, texts.get(figure.id), unit, drawers)
        except VelvetHandError as bad:
            faults.append(Fault(figure=figure.id, why=bad.why, fix=bad.fix))
    values = Values(known)
    told: tuple[Text, ...] = ()
    picture: Picture | None = None
    if not faults:
        try:
            values = values.with_(way.by(values))
            told, picture = one.tell(values), one.draw(values)
        except VelvetHandError as bad:
            own = bad.field if any(f.id == bad.field for f in one.figures) else ""
            faults.append(Fault(figure=own, why=bad.why, fix=bad.fix))
        except (ArithmeticError, ValueError):
            faults.append(Fault(figure="", why="Nothing follows from these figures.", fix="Check each of them."))
    figures = tuple(
        _shown(f, texts, f.id in way.gives, values if not faults else None, known, unit, drawers) for f in one.figures
    )
    return Worked(
        id=one.id, title=one.title, about=one.about, formula=one.formula, holds=one.holds, figures=figures,
        told=told if not faults else (), picture=picture, faults=tuple(faults),
    )  # fmt: skip


def _before(one: Sum, texts: Mapping[str, Typed], unit: Unit, drawers: Sequence[Stock]) -> Mapping[str, float]:
    """What stood there before the sum was turned round: an answer that is known now, and was not typed."""
    first = one.ways[0]
    told = {name: typed for name, typed in texts.items() if typed.text.strip()}
    known = {f.id: _value(f, told.get(f.id), unit, drawers) for f in one.figures if f.id not in first.gives}
    return first.by(Values(known))


def _value(figure: Figure, typed: Typed | None, unit: Unit, drawers: Sequence[Stock]) -> Any:
    if figure.kind == "stock":
        return _pieces(figure, typed.text if typed else "", drawers)
    if figure.kind == "choice":
        chosen = typed.text if typed else str(figure.start)
        if chosen not in [c.id for c in figure.choices]:
            raise BadInput("field_invalid", f"{figure.label}: there is no such choice.", "Choose again.", figure.id)
        return chosen
    if figure.kind == "rows":
        lines = typed or Typed(text=str(figure.start), unit="mm")
        return rows_of(figure.columns, lines.text, lines.unit, figure.label, figure.id, figure.least_rows)
    if typed is None:
        return float(figure.start)
    return value_of(figure.kind, typed.text, typed.unit, figure.label, figure.bounds, figure.id)


def _pieces(figure: Figure, typed: str, drawers: Sequence[Stock]) -> tuple[tuple[float, int], ...]:
    """A drawer of the Shop; where there is none the sizes that the sum starts with."""
    mine = [one for one in drawers if one.kind == figure.stock]
    if typed:
        mine = [one for one in mine if one.id == typed]
        if not mine:
            raise NotFound("unknown_thing", "That drawer is not in the Shop.", "Choose another.", figure.id)
    if mine:
        return tuple((piece.mm, piece.count) for piece in mine[0].pieces if piece.count > 0)
    return tuple((float(size), 1 if figure.stock == "blocks" else 4) for size in str(figure.start).split())


def _shown(
    figure: Figure,
    texts: Mapping[str, Typed],
    follows: bool,
    values: Values | None,
    known: Mapping[str, Any],
    unit: Unit,
    drawers: Sequence[Stock],
) -> FigureOut:
    typed = None if follows else texts.get(figure.id)
    mine = [one for one in drawers if one.kind == figure.stock]
    value: float | None = None
    if figure.kind not in ("choice", "rows", "stock"):
        value = known.get(figure.id) if not follows else values[figure.id] if values else None
    if typed and (typed.unit == unit or figure.id not in known or figure.kind in ("choice", "stock")):
        text = typed.text
    elif figure.kind == "rows":
        text = _in_unit(figure, known.get(figure.id, ()), unit)
    elif figure.kind == "stock":
        text = mine[0].id if mine else ""
    elif figure.kind == "choice":
        text = str(figure.start)
    else:
        text = "" if value is None else written(figure.kind, value, unit)
    return FigureOut(
        id=figure.id,
        label=figure.label,
        kind=figure.kind,
        text=text,
        beside="" if value is None else beside(figure.kind, value, unit),
        unit=word_of(figure.kind, unit, figure.unit),
        follows=follows,
        hint=figure.hint,
        choices=tuple(Choice(id=one.id, word=one.name) for one in mine) or figure.choices,
    )


def _in_unit(figure: Figure, rows: Sequence[Sequence[float]], unit: Unit) -> str:
    """Lines written in the unit of the screen."""
    widest = max((len(row) for row in rows), default=0)
    kinds = figure.columns * widest if len(figure.columns) == 1 else figure.columns
    return "\n".join("  ".join(written(k, v, unit) for k, v in zip(kinds, row, strict=False)) for row in rows)
