"""Readings from a file: a line for each place, plain numbers in the order of reading, or a grid as it is seen from above."""

from __future__ import annotations

import csv
import io

from ..errors import BadInput
from ..model import Model
from ..readings import Station
from ..setup.state import State

#: More than this is no list of readings.
MOST = 20_000


class SheetReading(Model):
    """One reading as it is to be sent."""

    station_id: str
    closing: bool
    text: str


def readings_from(text: str, state: State) -> tuple[SheetReading, ...]:
    """What a file says, for the stations of the pass that is open or comes next.

    Understood: ``place, value`` (the place by its number, its label or its short name; ``again`` with it for the
    closing reading), one value to a line in the order of reading, or as many lines and columns as a plate's grid has, the back row
    first. Comma, semicolon or tab between; with a semicolon or tab a decimal comma is one. Stations that have been
    read are passed over when only values are given.

    Raises
    ------
    BadInput
        At ``text``, with the line: nothing there, a place that is not asked, more values than places.
    """
    if len(text) > MOST:
        raise BadInput(
            "field_invalid", "That file is too long for one pass of readings.", "Take out what is not readings.", "text"
        )
    rows = _rows(text)
    if not rows:
        raise BadInput("field_invalid", "There is nothing in it.", "A line for each place: 1, 0.004", "text")
    open_pass = state.being_read
    asked = state.asked(open_pass)
    plan = state.plan
    if plan.grid and [len(r) for r in rows] == [plan.grid[0]] * plan.grid[1]:
        flat = _grid(rows)
        grid = [s for s in asked if s.cell]
        return tuple(SheetReading(station_id=s.id, closing=False, text=v) for s, v in zip(grid, flat, strict=True))
    if all(len(r) == 1 for r in rows) or len(rows) == 1:
        values = [cell for row in rows for cell in row]
        left = [
            (s, closing)
            for s, closing in state.to_read(open_pass)
            if open_pass is None or not (s.ring in open_pass.closings if closing else open_pass.answered(s.id))
        ]
        plain = [one for one in left if not one[1]]
        if not left:
            raise BadInput(
                "field_invalid", "Every place of this pass has been read.", "Correct a reading in the tray.", "text"
            )
        if len(values) > len(left):
            raise BadInput(
                "field_invalid",
                f"{len(values)} values, but {len(plain)} places are left to read.",
                "One for each place, and the first again.",
                "text",
            )
        # As many values as places: the closing readings are left for later; else they stand where they are read.
        order = plain if len(values) <= len(plain) else left
        return tuple(
            SheetReading(station_id=s.id, closing=closing, text=v)
            for (s, closing), v in zip(order, values, strict=False)
        )
    return tuple(_named(n, row, asked) for n, row in enumerate(rows, start=1))


def _rows(text: str) -> list[list[str]]:
    """Cells that are not empty; a first line without a digit is a heading."""
    comma = ";" not in text and "\t" not in text
    between = "," if comma else ";" if ";" in text else "\t"
    rows = [[cell.strip() for cell in row if cell.strip()] for row in csv.reader(io.StringIO(text), delimiter=between)]
    rows = [row for row in rows if row]
    if rows and not any(ch.isdigit() for ch in "".join(rows[0])):
        rows = rows[1:]
    return rows


def _grid(rows: list[list[str]]) -> list[str]:
    """The back row is the first line; read from the front, row by row and back again."""
    flat: list[str] = []
    for n, row in enumerate(reversed(rows)):
        flat += row if n % 2 == 0 else row[::-1]
    return flat


def _named(line: int, row: list[str], asked: tuple[Station, ...]) -> SheetReading:
    if len(row) != 2:
        raise BadInput(
            "field_invalid", f"Line {line} has {len(row)} cells.", "A place and its reading: 1, 0.004", "text"
        )
    name = row[0].lower()
    closing = name.endswith("again")
    bare = name.removesuffix("again").strip()
    for station in asked:
        if bare in (
            station.id.lower(),
            station.label.lower(),
            station.short.lower(),
            station.label.lower().split(" (")[0],
        ):
            return SheetReading(station_id=station.id, closing=closing, text=row[1])
    raise BadInput(
        "field_invalid", f"Line {line}: “{row[0][:40]}” is no place of this pass.", "Use the names in the tray.", "text"
    )
