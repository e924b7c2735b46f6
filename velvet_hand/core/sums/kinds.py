"""What a figure of a sum may be: how it is typed, and how it is written in either system of units."""

from __future__ import annotations

import math
import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from ..errors import BadInput
from ..filling import size_unit
from ..model import Model
from ..units import UNIT_WORD, Unit, check_comma, format_length, parse_length
from ..wording import Length, size

Kind = Literal[
    "reading", "size", "angle", "direction", "number", "count", "force", "mass", "torque", "warmth", "choice", "rows", "stock"
]  # fmt: skip
#: A reading is written to this (mm), a size to that.
FINE_MM, SIZE_MM = 0.0001, 0.001
#: More lines than this are no readings.
MOST_ROWS = 400
_ANGLE = re.compile(
    r"([+-]?)(?:(\d{1,3}(?:\.\d+)?)\s*(?:°|d|deg)?\s*)?(?:(\d{1,2}(?:\.\d+)?)\s*['′m]\s*)?(?:(\d{1,2}(?:\.\d+)?)\s*[\"″s]\s*)?"
)


@dataclass(frozen=True, slots=True)
class Dual:
    """A quantity with a metric and an inch unit: ``base = metric``, ``inch = base / per``."""

    metric: str
    inch: str
    per: float
    decimals: int


#: Newtons, kilograms, newton meters, degrees of warming.
DUAL: dict[str, Dual] = {
    "force": Dual("N", "lbf", 4.4482216152605, 1),
    "mass": Dual("kg", "lb", 0.45359237, 3),
    "torque": Dual("N·m", "lbf·ft", 1.3558179483314, 1),
    "warmth": Dual("°C", "°F", 5 / 9, 1),
}
_OF_DUAL: dict[str, dict[str, float]] = {
    "force": {"n": 1.0, "kn": 1000.0, "lbf": DUAL["force"].per, "lb": DUAL["force"].per},
    "mass": {
        "kg": 1.0,
        "g": 0.001,
        "lb": DUAL["mass"].per,
        "oz": DUAL["mass"].per / 16,
    },
    "torque": {
        "nm": 1.0,
        "lbfft": DUAL["torque"].per,
        "lbft": DUAL["torque"].per,
        "ftlb": DUAL["torque"].per,
        "lbfin": DUAL["torque"].per / 12,
    },
    "warmth": {"c": 1.0, "k": 1.0, "f": 5 / 9},
}


def is_inch(unit: Unit) -> bool:
    """Does the shop work in inches?"""
    return unit in ("thou", "tenth")


def word_of(kind: Kind, unit: Unit, own: str = "") -> str:
    """What stands behind a figure of that kind."""
    if kind == "reading":
        return UNIT_WORD[unit]
    if kind == "size":
        return "in" if is_inch(unit) else "mm"
    if kind in ("angle", "direction"):
        return "°"
    if kind in DUAL:
        return DUAL[kind].inch if is_inch(unit) else DUAL[kind].metric
    return own


def written(kind: Kind, value: float, unit: Unit) -> str:
    """A figure as it is typed into a field in that unit, with a plain minus sign."""
    if kind == "reading":
        found = format_length(value, unit, FINE_MM, bare=True)
    elif kind == "size":
        found = f"{value / 25.4:.4f}" if is_inch(unit) else f"{value:.3f}"
    elif kind == "angle":
        found = f"{value:.4f}"
    elif kind == "direction":
        found = f"{value % 360:.1f}".replace("360.0", "0.0")
    elif kind in DUAL:
        found = f"{value / (DUAL[kind].per if is_inch(unit) else 1):.{DUAL[kind].decimals}f}"
    elif kind == "count":
        found = f"{value:.0f}"
    else:
        found = f"{value:.5g}" if abs(value) < 1e5 else f"{value:.0f}"
    found = found.replace("\u2212", "-")
    return found.removeprefix("-") if re.fullmatch(r"-[0.]+", found) else found


def beside(kind: Kind, value: float, unit: Unit) -> str:
    """The same figure in the other system, with its unit; nothing where there is only one."""
    if kind == "reading":
        other: Unit = "mm" if is_inch(unit) else "thou"
        return format_length(value, other, FINE_MM)
    if kind == "size":
        return f"{value:.3f} mm" if is_inch(unit) else f"{value / 25.4:.4f} in"
    if kind == "angle":
        return dms(value)
    if kind in DUAL:
        dual = DUAL[kind]
        if is_inch(unit):
            return f"{value:.{dual.decimals}f} {dual.metric}"
        return f"{value / dual.per:.{dual.decimals}f} {dual.inch}"
    return ""


def sized(mm: float) -> Length:
    """A size as sums write it: to a micrometer, or a tenth of a thou."""
    return size(mm, exact=True)


def dms(deg: float) -> str:
    """Degrees, minutes and seconds.

    Examples
    --------
    >>> print(dms(5.5), dms(-0.01), dms(29.99999))
    5°30'0.0" −0°0'36.0" 30°0'0.0"
    """
    tenths = math.floor(abs(deg) * 36000 + 0.5 - 1e-9)
    minutes, tenth = divmod(tenths, 600)
    whole, minute = divmod(minutes, 60)
    return f"{'−' if deg < 0 and tenths else ''}{whole}°{minute}'{tenth / 10:.1f}\""


class Bounds(Model):
    """Between which values a figure makes sense."""

    least: float = -1e9
    most: float = 1e9
    open_least: bool = False


def refused(label: str, why: str, fix: str, field: str) -> BadInput:
    """Something typed cannot be used; said with the figure's name."""
    return BadInput("field_invalid", f"{label}: {why}", fix, field)


def value_of(kind: Kind, typed: str, unit: Unit, label: str, bounds: Bounds, field: str) -> float:
    """What was typed, in mm, degrees, newtons, kilograms, newton meters, or as a number.

    Raises
    ------
    BadInput
        At ``field``.
    """
    if not typed.strip():
        raise refused(label, "nothing was typed.", "Type a figure.", field)
    value = _READERS.get(kind, _number)(typed, unit, label, field)
    if kind == "count" and value != int(value):
        raise refused(label, f"“{typed[:20]}” is no whole number.", "Type a whole number.", field)
    low = value <= bounds.least if bounds.open_least else value < bounds.least
    if low or value > bounds.most:
        shown = [written(kind, b, unit) for b in (bounds.least, bounds.most)]
        word = word_of(kind, unit)
        tail = f" {word}" if word and word != "°" else word
        if bounds.most >= 1e9:
            raise refused(
                label,
                f"it is {'more than' if bounds.open_least else 'at least'} {shown[0]}{tail}.",
                "Check it and its unit.",
                field,
            )
        raise refused(label, f"it is between {shown[0]} and {shown[1]}{tail}.", "Check it and its unit.", field)
    return value


def _reading(typed: str, unit: Unit, label: str, field: str) -> float:
    check_comma(typed, field)
    return float(parse_length(typed, unit, field))


def _size(typed: str, unit: Unit, label: str, field: str) -> float:
    check_comma(typed, field)
    return float(parse_length(*size_unit(typed, unit), field))


def _angle(typed: str, unit: Unit, label: str, field: str) -> float:
    tidy = typed.strip().lower().replace("\u2212", "-").replace(",", ".").replace("’", "'").replace("”", '"')
    found = _ANGLE.fullmatch(tidy)
    if found is None or not any(found.groups()[1:]):
        raise refused(label, f"“{typed[:20]}” is no angle.", "Type degrees, 5.5, or 5°30'.", field)
    minutes, seconds = float(found[3] or 0), float(found[4] or 0)
    if minutes >= 60 or seconds >= 60:
        raise refused(label, "there are 60 minutes in a degree.", "Type 5°30', or 5.5.", field)
    value = float(found[2] or 0) + minutes / 60 + seconds / 3600
    return -value if found[1] == "-" else value


def _number(typed: str, unit: Unit, label: str, field: str) -> float:
    check_comma(typed, field)
    try:
        value = float(typed.strip().replace("\u2212", "-").replace(",", "."))
    except ValueError:
        value = math.nan
    if not abs(value) < 1e12:
        raise refused(label, f"“{typed[:20]}” is no number.", "Type a number.", field)
    return value


def _dual(kind: str) -> Callable[[str, Unit, str, str], float]:
    def read(typed: str, unit: Unit, label: str, field: str) -> float:
        found = re.fullmatch(r"\s*([+\-\u2212]?[\d.,]+)\s*([a-z°·.\s]*)", typed.lower())
        suffix = re.sub(r"[°·.\s]", "", found[2]) if found else ""
        factor = _OF_DUAL[kind].get(suffix) if suffix else DUAL[kind].per if is_inch(unit) else 1.0
        if found is None or factor is None:
            dual = DUAL[kind]
            raise refused(
                label, f"“{typed[:20]}” cannot be read.", f"Type 40, 40 {dual.metric} or 40 {dual.inch}.", field
            )
        return _number(found[1], unit, label, field) * factor

    return read


_READERS: dict[str, Callable[[str, Unit, str, str], float]] = {
    "reading": _reading,
    "size": _size,
    "angle": _angle,
    "direction": _angle,
    **{kind: _dual(kind) for kind in DUAL},
}


def rows_of(
    columns: tuple[Kind, ...], typed: str, unit: Unit, label: str, field: str, least: int
) -> tuple[tuple[float, ...], ...]:
    """Pasted lines as numbers: so many columns in each, with tab, semicolon or spaces between (a comma is a point where there is one).

    ``columns`` of a single kind and an unknown number, as a grid has, are given as one kind.

    Raises
    ------
    BadInput
        At ``field``, with the line.
    """
    lines = [(n, line) for n, line in enumerate(typed.splitlines(), start=1) if line.strip()]
    if lines and not any(ch.isdigit() for ch in lines[0][1]):
        lines = lines[1:]
    if len(lines) > MOST_ROWS:
        raise refused(label, "these are more lines than anybody reads.", f"At most {MOST_ROWS}.", field)
    found = []
    for number, line in lines:
        found.append(_row(columns, line, number, unit, label, field))
    if len(found) < least:
        raise refused(label, f"it takes {least} lines at least; here are {len(found)}.", "One spot to a line.", field)
    return tuple(found)


def _row(columns: tuple[Kind, ...], line: str, number: int, unit: Unit, label: str, field: str) -> tuple[float, ...]:
    between = r"[;\t]" if re.search(r"[;\t]", line) else r",\s+|\s+" if re.search(r"\s", line.strip()) else ","
    cells = [cell.strip() for cell in re.split(between, line.strip()) if cell.strip()]
    grid = len(columns) == 1
    kinds = columns * len(cells) if grid else columns
    if len(cells) != len(kinds):
        raise refused(label, f"line {number} has {len(cells)} figures, not {len(kinds)}.", "One spot to a line.", field)
    try:
        return tuple(
            value_of(kind, cell, unit, label, Bounds(), field) for kind, cell in zip(kinds, cells, strict=True)
        )
    except BadInput as bad:
        raise refused(label, f"line {number}: {bad.why}", bad.fix, field) from bad
