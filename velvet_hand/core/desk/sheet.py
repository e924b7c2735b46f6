"""Readings from a file: a line for each place, plain numbers in the order of reading, or a grid as it is seen from above."""

from __future__ import annotations

import csv
import io
import re
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ..errors import BadInput
from ..model import Model
from ..readings import Station
from ..setup.apply import value_at
from ..setup.state import State
from ..units import Typed, Unit, check_comma

#: More than this is no list of readings.
MOST = 20_000
#: How a file is to be taken, where it can be taken in two ways: is a comma a decimal point, and what stands in the lines?
Reads = Literal["", "point", "places", "values", "grid"]
_NUMBER = r"[+\-\u2212]?(?:\d+(?:\.\d*|,\d+)?|[.,]\d+)"
_COMMA = re.compile(r"\s*[+\-\u2212]?\d*,\d+\s*")
_SPACED = re.compile(rf"\s*{_NUMBER}(?:\s+{_NUMBER})+\s*")


class SheetReading(Model):
    """One reading as it is to be sent, and what it is taken for: ``needle_mm`` None where it is no length."""

    station_id: str
    closing: bool
    text: str
    label: str
    needle_mm: float | None


class SheetChoice(Model):
    """One way to take a file that can be taken in two."""

    reads: Reads
    label: str


class Sheet(Model):
    """What a file says; or, where that is not clear, what to ask first."""

    readings: tuple[SheetReading, ...] = ()
    asks: tuple[SheetChoice, ...] = ()


@dataclass(frozen=True, slots=True)
class _Row:
    """A line of a file that is not empty, by its number in the file."""

    line: int
    cells: tuple[str, ...]


def readings_from(text: str, state: State, unit: Unit = "mm", reads: Reads = "") -> Sheet:
    """What a file says, for the stations of the pass that is open or comes next.

    Understood: ``place, value`` (the place by its number, its label or its short name; ``again`` with it for the
    closing reading), one value to a line in the order of reading, or as many lines and columns as a plate's grid has, the back row
    first. Comma, semicolon, tab or spaces between; with any but a comma, a decimal comma is one. Stations that have been
    read are passed over when only values are given. A file that can be taken in two ways is asked about, unless ``reads`` says it.

    Raises
    ------
    BadInput
        At ``text``, with the line: nothing there, an empty cell, a place that is not asked, more values than places, no reading.
    """
    if len(text) > MOST:
        raise _refusal("That file is too long for one pass of readings.", "Take out what is not readings.")
    asked = state.asked(state.being_read)
    plan, point = state.plan, _one_number_a_line(text)
    if point and not reads and all(_place(row.cells[0], asked) for row in _rows(text, False)):
        first = _rows(text, False)[0].cells
        return _ask(
            ("point", f"A comma is a decimal point: {first[0]}.{first[1]}"), ("places", f"Place {first[0]} reads {first[1]}")
        )  # fmt: skip
    rows = _rows(text, point and reads != "places")
    if not rows:
        raise _refusal("There is nothing in it.", "A line for each place: 1, 0.004")
    named = all(len(r.cells) == 2 and _place(r.cells[0], asked) for r in rows)
    as_grid = plan.grid is not None and [len(r.cells) for r in rows] == [plan.grid[0]] * plan.grid[1]
    in_a_row = len(rows) == 1 or all(len(r.cells) == 1 for r in rows)
    if named and not reads and (as_grid or in_a_row):
        place, value = rows[0].cells
        plain: tuple[Reads, str] = ("grid", "A grid, the back row first") if as_grid else ("values", "Two readings")
        return _ask(("places", f"Place {place} reads {value}"), plain)
    if as_grid and reads != "places":
        spots = [(s, False) for s in asked if s.cell]
        values = _grid(rows)
    elif in_a_row and reads != "places":
        values = [(row.line, cell) for row in rows for cell in row.cells]
        spots = _left(state, len(values))
    else:
        found = [_named(row, asked) for row in rows]
        spots, values = [spot for spot, _ in found], [value for _, value in found]
    return Sheet(
        readings=tuple(
            _taken(state, spot, closing, line, value, unit)
            for (spot, closing), (line, value) in zip(spots, values, strict=False)
        )
    )


def sheet_of(state: State, number: int) -> str:
    """One pass as a file that ``readings_from`` takes: a line for each place that was read, in the order of reading; a reading that was
    noted without a unit gets the one that it was typed in.

    Raises
    ------
    BadInput
        At ``pass``: there is no such pass.
    """
    if not 1 <= number <= len(state.passes):
        raise BadInput("field_invalid", f"There is no pass {number}.", f"It has {len(state.passes)}.", "pass")
    one, out = state.passes[number - 1], io.StringIO()
    lines = csv.writer(out, lineterminator="\r\n")
    lines.writerow(["place", "reading"])
    for reading in sorted(one.all_readings(), key=lambda r: r.seq):
        bare = reading.needle_mm is not None and re.fullmatch(_NUMBER, reading.typed.text.strip())
        value = f"{reading.typed.text.strip()} {reading.typed.unit}" if bare else reading.typed.text
        lines.writerow([f"{reading.station_id}{' again' if reading.closing else ''}", value])
    return out.getvalue()


def _refusal(why: str, fix: str) -> BadInput:
    return BadInput("field_invalid", why, fix, "text")


def _ask(*choices: tuple[Reads, str]) -> Sheet:
    return Sheet(asks=tuple(SheetChoice(reads=reads, label=label) for reads, label in choices))


def _one_number_a_line(text: str) -> bool:
    """May every line be one number with a decimal comma?"""
    lines = [line for line in text.splitlines() if line.strip()]
    if lines and not any(ch.isdigit() for ch in lines[0]):
        lines = lines[1:]
    return bool(lines) and all(_COMMA.fullmatch(line) for line in lines)


def _rows(text: str, point: bool) -> list[_Row]:
    """Lines that are not empty, without a heading and without columns that are empty all the way down.

    Raises
    ------
    BadInput
        A cell is empty between others: nobody can say what was to stand there.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    if point or (lines and all(_SPACED.fullmatch(line) for line in lines)):
        split = [line.split() for line in text.splitlines()]
    else:
        between = ";" if ";" in text else "\t" if "\t" in text else ","
        split = [[c.strip() for c in row] for row in csv.reader(io.StringIO(text), delimiter=between)]
    table = [_Row(n, tuple(cells)) for n, cells in enumerate(split, start=1) if any(cells)]
    if table and not any(ch.isdigit() for ch in "".join(table[0].cells)):
        table = table[1:]
    width = max((len(row.cells) for row in table), default=0)
    used = [i for i in range(width) if any(i < len(row.cells) and row.cells[i] for row in table)]
    found = []
    for row in table:
        cells = [row.cells[i] if i < len(row.cells) else "" for i in used]
        while not cells[-1]:
            cells.pop()
        if "" in cells:
            raise _refusal(
                f"Line {row.line} has nothing in column {cells.index('') + 1}.", "Fill it, or take the line out."
            )
        found.append(_Row(row.line, tuple(cells)))
    return found


def _grid(rows: Sequence[_Row]) -> list[tuple[int, str]]:
    """The back row is the first line; read from the front, row by row and back again."""
    flat: list[tuple[int, str]] = []
    for n, row in enumerate(reversed(rows)):
        cells = [(row.line, cell) for cell in row.cells]
        flat += cells if n % 2 == 0 else cells[::-1]
    return flat


def _left(state: State, count: int) -> list[tuple[Station, bool]]:
    """The spots that so many values are for."""
    one = state.being_read
    left = [
        (s, closing)
        for s, closing in state.to_read(one)
        if one is None or not (s.ring in one.closings if closing else one.answered(s.id))
    ]
    plain = [spot for spot in left if not spot[1]]
    if not left:
        raise _refusal("Every place of this pass has been read.", "Correct a reading in the tray.")
    if count > len(left):
        raise _refusal(
            f"{count} values, but {len(plain)} places are left to read.", "One for each place, and the first again."
        )
    # As many values as places: the closing readings are left for later; else they stand where they are read.
    return plain if count <= len(plain) else left


def _place(name: str, asked: tuple[Station, ...]) -> tuple[Station, bool] | None:
    """The spot that a name stands for, and whether it is read again."""
    said = name.lower()
    closing = said.endswith("again")
    bare = said.removesuffix("again").strip()
    for station in asked:
        label = station.label.lower()
        if bare in (station.id.lower(), label, station.short.lower(), label.split(" (")[0]):
            return station, closing
    return None


def _named(row: _Row, asked: tuple[Station, ...]) -> tuple[tuple[Station, bool], tuple[int, str]]:
    if len(row.cells) != 2:
        cells = "1 cell" if len(row.cells) == 1 else f"{len(row.cells)} cells"
        raise _refusal(f"Line {row.line} has {cells}.", "A place and its reading: 1, 0.004")
    spot = _place(row.cells[0], asked)
    if spot is None:
        raise _refusal(
            f"Line {row.line}: “{row.cells[0][:40]}” is no place of this pass.", "Use the names in the tray."
        )
    return spot, (row.line, row.cells[1])


def _taken(state: State, spot: Station, closing: bool, line: int, value: str, unit: Unit) -> SheetReading:
    """A reading that the set-up would take.

    Raises
    ------
    BadInput
        With the line, when it would not.
    """
    try:
        check_comma(value, "text")
        found = value_at(state, spot, Typed(text=value, unit=unit))
    except BadInput as bad:
        raise BadInput(bad.code, f"Line {line}: {bad.why}", bad.fix, "text") from bad
    return SheetReading(
        station_id=spot.id, closing=closing, text=value, label=spot.label, needle_mm=found.mm if found.deg is None else None
    )  # fmt: skip
