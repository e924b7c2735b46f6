"""Typed text to exact millimeters, and back to text.

Four units are understood: thou (0.001 in), tenth (0.0001 in), mm and um (0.001 mm). What was typed
is kept as it was typed; the exact length is recomputed from it, so nothing is lost to rounding.
"""

from __future__ import annotations

import math
import re
from decimal import Decimal
from functools import lru_cache
from typing import TYPE_CHECKING, Literal

from .errors import BadInput
from .model import Model

if TYPE_CHECKING:
    from .gauge import Gauge

Unit = Literal["thou", "tenth", "mm", "um"]
MM_PER: dict[str, Decimal] = {
    "thou": Decimal("0.0254"),
    "tenth": Decimal("0.00254"),
    "mm": Decimal("1"),
    "um": Decimal("0.001"),
}
UNIT_WORD: dict[str, str] = {"thou": "thou", "tenth": "tenths", "mm": "mm", "um": "µm"}
_SUFFIX: dict[str, Decimal] = {
    '"': Decimal("25.4"),
    "in": Decimal("25.4"),
    "inch": Decimal("25.4"),
    "thou": MM_PER["thou"],
    "tenth": MM_PER["tenth"],
    "tenths": MM_PER["tenth"],
    "mm": Decimal("1"),
    "um": MM_PER["um"],
    "µm": MM_PER["um"],
}
_NUMBER = r"(?:\d{1,6}(?:\.\d{0,9})?|\.\d{1,9})"
_PLAIN = re.compile(rf"([+-]?)({_NUMBER})\s*([a-zµ\"]*)")
_TURNS = re.compile(rf"([+-]?)(\d{{1,3}})\s*([+-])\s*({_NUMBER})\s*([a-zµ\"]*)")
_FRACTION = re.compile(r"([+-]?)(?:(\d{1,3})[ -])?(\d{1,3})/(\d{1,3})\s*(\"|in|inch|)")
#: Nobody can say whether a comma like that parts thousands or is a point.
_THOUSANDS = re.compile(r"[+-]?[1-9]\d{0,2},\d{3}(?:\s*[a-zµ\"]*)")
_LOST = ("lost", "no", "none", "no contact", "nc")
_OFF = re.compile(r"([+-]?)\s*off")


class Typed(Model):
    """A length as somebody typed it: the text, and the unit that was chosen then."""

    text: str
    unit: Unit


class ReadingValue(Model):
    """What a typed reading means.

    ``mm`` is None when the needle ran off the end; ``off`` is then +1, -1, or 0 when the end was
    not said; ``lost`` means no contact: the surface is farther than the gauge can follow. The value
    is the needle's, in the gauge's own sign.
    """

    mm: float | None
    off: Literal[-1, 0, 1] | None = None
    lost: bool = False
    deg: float | None = None


def _tidy(text: str) -> str:
    text = text.strip().lower()
    for odd, plain in (("\u2212", "-"), ("\u2013", "-"), ("μ", "µ"), ("''", '"'), ("\u201d", '"'), ("\u2033", '"')):
        text = text.replace(odd, plain)
    return text.replace(",", ".") if text.count(",") == 1 and "." not in text else text


def check_comma(text: str, field: str) -> None:
    """A comma that may be a point or part thousands is asked about, never guessed.

    Raises
    ------
    BadInput
        ``comma_unclear``.
    """
    if _THOUSANDS.fullmatch(text.strip().lower()):
        point, whole = text.strip().replace(",", "."), text.strip().replace(",", "")
        raise BadInput(
            "comma_unclear",
            f"“{text.strip()[:40]}” may be two numbers.",
            f"Type {point} or {whole}, whichever it is.",
            field,
        )


def _fraction(tidy: str) -> Decimal | None:
    """Inches as a fraction: 5/8", 1-1/8."""
    found = _FRACTION.fullmatch(tidy)
    if found is None or not int(found[4]):
        return None
    inches = Decimal(found[2] or 0) + Decimal(found[3]) / Decimal(found[4])
    return (-inches if found[1] == "-" else inches) * _SUFFIX["in"]


def _scale(suffix: str, unit: Unit) -> Decimal | None:
    return MM_PER[unit] if not suffix else _SUFFIX.get(suffix)


def _signed(sign: str, number: str) -> Decimal:
    value = Decimal(number if number[0] != "." else "0" + number)
    return -value if sign == "-" else value


def parse_length(text: str, unit: Unit, field: str) -> Decimal:
    """Exact millimeters of a plain typed length.

    Raises
    ------
    BadInput
        ``length_nonsense`` when it is no number with an optional unit.

    Examples
    --------
    >>> parse_length('.0025"', "thou", "x"), parse_length("4", "thou", "x")
    (Decimal('0.06350'), Decimal('0.1016'))
    >>> parse_length('1-1/8"', "mm", "x"), parse_length("5/8", "thou", "x")
    (Decimal('28.5750'), Decimal('15.8750'))
    """
    return _length(text, unit, field)


@lru_cache(maxsize=4096)
def _length(text: str, unit: Unit, field: str) -> Decimal:
    if (inches := _fraction(_tidy(text))) is not None:
        return inches
    if (found := plain_parts(text, unit)) is None:
        raise BadInput(
            "length_nonsense",
            f"“{text[:40]}” is not a length." if text.strip() else "Nothing was typed here.",
            'Type a number, best with its unit: 40 mm, 1.5", 2.5 thou.',
            field,
        )
    return found[0] * found[1]


def plain_parts(text: str, unit: Unit) -> tuple[Decimal, Decimal, bool] | None:
    """A number as it was typed, to its last figure; one of its unit in mm; was that unit typed with it? None of what is no plain number."""
    match = _PLAIN.fullmatch(_tidy(text))
    scale = _scale(match[3], unit) if match else None
    return None if match is None or scale is None else (_signed(match[1], match[2]), scale, bool(match[3]))


def parse_reading(text: str, unit: Unit, gauge: Gauge, field: str = "text", *, by_number: bool = True) -> ReadingValue:
    """What a typed reading means on this gauge, in the needle's own sign.

    Understood: ``4``, ``-2.5``, ``.0025"``, ``0.06 mm``, ``1+29`` (one turn of the hand, and 29 as its dial is numbered, on
    a gauge that counts turns), ``off``, ``+off``, ``-off``. Once (not ``by_number``) what stands behind the turns was in the unit
    chosen, and in marks of the dial where that was more than a turn.

    Raises
    ------
    BadInput
        When it is no reading, lies beyond the gauge's travel, or is finer than its marks can show
        (which is nearly always a mistaken unit).
    """
    tidy = _tidy(text)
    if off := _OFF.fullmatch(tidy):
        end: Literal[-1, 0, 1] = 1 if off[1] == "+" else -1 if off[1] == "-" else 0
        return ReadingValue(mm=None, off=end)
    if tidy in _LOST:
        return ReadingValue(mm=None, off=0, lost=True)
    if turns := _TURNS.fullmatch(tidy):
        mm = _parse_turns(turns, unit, gauge, field, by_number)
    else:
        plain = _PLAIN.fullmatch(tidy)
        scale = _scale(plain[3], unit) if plain else None
        if plain is None or scale is None:
            raise _nonsense(text, field)
        mm = _round_the_dial(_signed(plain[1], plain[2]) * scale, plain[1], gauge)
    if gauge.measures_gap and mm < 0:
        raise BadInput(
            "reading_nonsense", f"A {gauge.noun} is never less than nothing.", "Type its size, 0 if it touches.", field
        )
    _check_plausible(mm, text, unit, gauge, field)
    return ReadingValue(mm=float(mm))


def _round_the_dial(mm: Decimal, sign: str, gauge: Gauge) -> Decimal:
    """On a dial that is numbered once round and counts no turns, 98 of 100 is two marks before zero."""
    if gauge.dial != "continuous" or gauge.counts_turns or not gauge.turn_mm or sign == "-":
        return mm
    turn = Decimal(str(gauge.turn_mm))
    return mm - turn if turn / 2 < mm <= turn else mm


def parse_degrees(text: str, field: str = "text") -> ReadingValue:
    """Where the needle stood highest, 0 to 360 degrees.

    Raises
    ------
    BadInput
        When it is no angle.
    """
    plain = _PLAIN.fullmatch(_tidy(text).removesuffix("°").strip())
    if plain is None or plain[3] or plain[1] == "-" or float(plain[2]) > 360:
        raise BadInput(
            "reading_nonsense",
            f"“{text[:40]}” is no angle.",
            "Type degrees from the mark, 0 to 360, counter-clockwise.",
            field,
        )
    return ReadingValue(mm=None, deg=float(plain[2]) % 360)


def parse_number(text: str, field: str = "text") -> float:
    """A plain number, such as an angle in degrees; a comma is a point.

    Raises
    ------
    BadInput
        When it is none.
    """
    try:
        value = float(_tidy(text).removesuffix("°").strip().replace(",", "."))
    except ValueError:
        value = float("nan")
    if not abs(value) < 1e9:
        raise BadInput("field_invalid", f"“{text[:40]}” is no number.", "Type degrees, such as 0.02.", field)
    return value


def _nonsense(text: str, field: str) -> BadInput:
    return BadInput(
        "reading_nonsense",
        f"“{text[:40]}” is not a reading." if text.strip() else "No reading was typed.",
        'Type what the needle shows: 4, -2.5, .0025", 0.06 mm, 1+29 for one turn and 29, +off or -off, lost.',
        field,
    )


def _parse_turns(match: re.Match[str], unit: Unit, gauge: Gauge, field: str, by_number: bool) -> Decimal:
    if not gauge.turn_mm or not gauge.counts_turns:
        raise BadInput(
            "reading_no_turns",
            f"{gauge.name} does not count turns.",
            "Type the reading as one number, or give the indicator its travel per turn in the Shop.",
            field,
        )
    scale = _scale(match[5], unit)
    if scale is None:
        raise _nonsense(match[0], field)
    turn = Decimal(str(gauge.turn_mm))
    hand = _signed("+", match[4]) * scale
    if by_number and not match[5]:
        hand = _signed("+", match[4]) * Decimal(str(gauge.numbered_mm))
    elif hand > turn:
        hand = _signed("+", match[4]) * Decimal(str(gauge.graduation_mm))
    if hand > turn:
        raise BadInput(
            "reading_nonsense", f"{match[4]} is more than one turn of the hand.", "Read hand and turns again.", field
        )
    return _signed(match[1], match[2]) * turn + (hand if match[3] == "+" else -hand)


def _check_plausible(mm: Decimal, text: str, unit: Unit, gauge: Gauge, field: str) -> None:
    size = abs(float(mm))
    if size > gauge.travel_mm + gauge.resolution_mm / 2:  # the very end, rounded in another unit, is no more than it
        travel = format_length(gauge.travel_mm, unit, gauge.resolution_mm)
        raise BadInput(
            "reading_beyond_travel",
            f"“{text.strip()[:40]}” is more than {gauge.name} can travel ({travel}).",
            "Check the unit, or type +off or -off if the needle ran off the end.",
            field,
        )
    if 0 < size < gauge.resolution_mm * 0.99:
        mark = format_length(gauge.graduation_mm, unit, gauge.resolution_mm)
        raise BadInput(
            "reading_too_fine",
            f"“{text.strip()[:40]}” is finer than anybody can read on {gauge.name} (one graduation is {mark}).",
            "Was another unit meant? Type it after the number: 0.06 mm, .002 in.",
            field,
        )


def decimals(unit: Unit, resolution_mm: float) -> int:
    """Decimals that show steps of ``resolution_mm`` and no finer."""
    return max(0, round(-math.log10(resolution_mm / float(MM_PER[unit]))))


def format_length(mm: float, unit: Unit, resolution_mm: float, signed: bool = False, bare: bool = False) -> str:
    """The length as text in ``unit``, rounded half up, with a real minus sign.

    ``web/src/shared/format.ts`` does the same sums; tests/cases/format.json holds both to it.
    """
    places = decimals(unit, resolution_mm)
    tens: int = 10**places
    steps = math.floor(abs(mm) / float(MM_PER[unit]) * tens + 0.5 + 1e-9)
    digits = f"{steps / tens:.{places}f}"
    sign = "" if steps == 0 else "\u2212" if mm < 0 else "+" if signed else ""
    return sign + digits + ("" if bare else f" {UNIT_WORD[unit]}")


def format_size(mm: float, unit: Unit, exact: bool = False) -> str:
    """A part's or chuck's size: millimeters, or inches when the shop works in thou; ``exact`` to a micrometer, or a tenth."""
    return f"{mm / 25.4:.{4 if exact else 3}f} in" if unit in ("thou", "tenth") else f"{mm:.{3 if exact else 2}f} mm"
