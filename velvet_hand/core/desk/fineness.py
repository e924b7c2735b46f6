"""Readings finer than their dial, or their rule: typed while another unit was chosen."""

from __future__ import annotations

from collections.abc import Sequence
from decimal import Decimal
from itertools import pairwise

from ..gauge import Gauge
from ..readings import Reading
from ..units import MM_PER, UNIT_WORD, plain_parts

#: So many tell what they were read to.
ENOUGH = 3
#: Who reads a dial reads halves, quarters, fifths or tenths of a graduation: each a number of these parts.
PART = 1 / 20
#: And nobody tells two readings apart that are nearer than this part of one.
APART = 1 / 15
#: Asked only where that decides something: within so many graduations, which is about what a limit is.
NARROW = 4.0
#: A reading is one that this hand gives when it is so near, in graduations, to what the hand reads to.
NEAR = 0.02
#: What may have been meant, from the smallest on: its word, how it is typed, one of it in mm.
UNITS: tuple[tuple[str, str, Decimal], ...] = (
    (UNIT_WORD["tenth"], "tenths", MM_PER["tenth"]),
    (UNIT_WORD["thou"], "thou", MM_PER["thou"]),
    (UNIT_WORD["mm"], "mm", MM_PER["mm"]),
    ("inches", "in", 1000 * MM_PER["thou"]),
)


def too_fine(readings: Sequence[Reading], gauge: Gauge) -> bool:
    """Do these lie within a few graduations, but not as far apart as anybody tells readings apart on it?"""
    read, finest = [], dict[float, float]()
    for reading in readings:
        typed = plain_parts(reading.typed.text, reading.typed.unit)
        if typed is None or reading.needle_mm is None:
            return False
        number, one = typed[0], float(typed[1])
        last = one * 10.0 ** int(number.as_tuple().exponent)
        finest[one] = min(last, finest.get(one, last))  # a nought at the end is not always typed
        read.append((reading.needle_mm, one))
    found = [(value, finest[one] / 2) for value, one in read]
    found.sort()
    (least, off), (most, _) = found[0], found[-1]
    if len(found) < ENOUGH or not 0 < most - least < NARROW * gauge.graduation_mm:
        return False
    part, apart = PART * gauge.graduation_mm, APART * gauge.graduation_mm
    # what was typed may have been rounded: by half of its last figure
    near = any(0.999 * (o + p) < b - a < apart for (a, o), (b, p) in pairwise(found))
    return near or any(abs(v - least - part * round((v - least) / part)) > 1.001 * (off + o) for v, o in found)


def meant(readings: Sequence[Reading], gauge: Gauge) -> tuple[str, tuple[tuple[str, str], ...]] | None:
    """The next larger unit in which all of these are what this hand reads off that dial, and each reading's id with what it would have been
    typed as. None where none is, or where somebody typed a unit.
    """
    typed = [plain_parts(r.typed.text, r.typed.unit) for r in readings]
    numbers = [number for number, _, said in filter(None, typed) if not said]
    chosen = {r.typed.unit for r in readings}
    if len(chosen) != 1 or len(numbers) < len(readings):
        return None
    small, step = MM_PER[chosen.pop()], gauge.read_to_part * gauge.graduation_mm
    for word, suffix, factor in UNITS:
        values = [float(number * factor) for number in numbers]
        off = max(abs(v - step * round(v / step)) for v in values)
        if factor > small and max(map(abs, values)) <= gauge.travel_mm and off <= NEAR * gauge.graduation_mm:
            return word, tuple((r.event_id, f"{r.typed.text.strip()} {suffix}") for r in readings)
    return None
