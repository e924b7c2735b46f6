"""The Logbook as a workbook (XLSX): a line a set-up, figures as figures, in the unit asked for."""

from __future__ import annotations

from collections.abc import Iterable
from typing import IO, Any
from uuid import UUID

from openpyxl import Workbook
from openpyxl.cell import WriteOnlyCell
from openpyxl.styles import Font
from openpyxl.utils import get_column_letter

from velvet_hand.core.after.account import Account
from velvet_hand.core.after.story import ENDED
from velvet_hand.core.desk.view import Summary
from velvet_hand.core.measured import what_words
from velvet_hand.core.quantity import KIND_WORDS
from velvet_hand.core.units import MM_PER, UNIT_WORD, Unit

#: How each set-up ended, in a cell; without a verdict nothing is proved yet.
HOW = {**ENDED, "accepted": "accepted"}
HEADS = (
    "Opened", "Changed", "Part", "Job", "Machine", "Holder", "Indicator", "By", "Wanted", "Of what", "Proved", "±", "Verdict", "Passes",
    "Moves", "Minutes", "Piece", "It measured", "Measured what", "Standing", "Id",
)  # fmt: skip
WIDE = {"Part": 34, "Job": 38, "Id": 38, "Machine": 18, "Holder": 22, "Indicator": 20, "Opened": 18, "Changed": 18}


def write(target: IO[bytes], lines: Iterable[tuple[UUID, Summary, Account | None]], unit: Unit) -> int:
    """Write a workbook; how many set-ups are in it. Moments are in UTC, for a workbook knows no zones."""
    book = Workbook(write_only=True)
    sheet = book.create_sheet("Logbook")
    for number, head in enumerate(HEADS, start=1):
        sheet.column_dimensions[get_column_letter(number)].width = WIDE.get(head, 12)
    sheet.freeze_panes = "A2"
    lengths = {"Wanted", "Proved", "±", "It measured"}
    sheet.append(_bold(sheet, [f"{h}, {UNIT_WORD[unit]}" if h in lengths else h for h in HEADS]))
    count = 0
    for setup_id, line, told in lines:
        sheet.append([_cell(sheet, value) for value in _line(setup_id, line, told, float(MM_PER[unit]))])
        count += 1
    book.save(target)
    return count


def _bold(sheet: Any, heads: list[str]) -> list[Any]:
    cells = [WriteOnlyCell(sheet, value=head) for head in heads]
    for cell in cells:
        cell.font = Font(bold=True)
    return cells


def _cell(sheet: Any, value: Any) -> Any:
    """What somebody typed stays a text, also when it looks like a formula; letters that no sheet can hold are left out."""
    if not isinstance(value, str):
        return value
    cell = WriteOnlyCell(sheet, value="")
    cell.value = "".join(c for c in value if c >= " " or c in "\t\n")
    cell.data_type = "s"
    return cell


def _line(setup_id: UUID, line: Summary, told: Account | None, mm_per: float) -> tuple[Any, ...]:
    """The cells of a set-up, in the order of ``HEADS``."""
    last = told.measured[-1] if told and told.measured else None
    limit, value, band = (told.limit, told.value, told.band_mm) if told else (None, None, None)
    return (
        line.opened_at.replace(tzinfo=None), line.changed_at.replace(tzinfo=None), line.part, line.procedure, line.machine, line.holder,
        line.gauge, told.hand if told else "", limit and limit.mm / mm_per, KIND_WORDS[limit.kind] if limit else "",
        value and value.mm / mm_per, band and band / mm_per, HOW.get(line.outcome or "", "no proof yet"), line.passes, told and told.moves,
        told.minutes and round(told.minutes, 1) if told else None, last and last.piece, last and last.mm / mm_per,
        "" if last is None or limit is None else what_words(last.what, limit.kind),
        "yes" if line.standing else "no", str(setup_id),
    )  # fmt: skip
