"""The indicators of the bench, each with a dial in inches and one in millimeters: whoever thinks in one reads that one."""

from __future__ import annotations

from ..gauge import Gauge
from ..units import Unit


def _lever(name: str, mark_mm: float, marks: int) -> Gauge:
    """A lever with so many marks to either side."""
    return Gauge(
        id=name, name=name, kind="lever", graduation_mm=mark_mm, travel_mm=round(mark_mm * marks, 6), tip_radius_mm=1
    )


def _plunger(name: str, mark_mm: float, turns: int) -> Gauge:
    """A plunger of a hundred marks a turn, numbered both ways."""
    turn = round(100 * mark_mm, 6)
    return Gauge(
        id=name, name=name, kind="plunger", graduation_mm=mark_mm, travel_mm=turns * turn, turn_mm=turn, tip_radius_mm=1
    )


#: A lever read from a step away, and one for a vise; a plunger, and a fine one.
LEVER = _lever("Lever, half a thou", 0.0127, 30)
TENTHS = _lever("Lever, one tenth", 0.00254, 40)
PLUNGER = _plunger("Plunger, half a thou", 0.0127, 3)
FINE = _plunger("Plunger, one tenth", 0.00254, 5)
#: The same for those who think in millimeters.
METRIC: dict[str, Gauge] = {
    LEVER.id: _lever("Lever, 0.01 mm", 0.01, 40),
    TENTHS.id: _lever("Lever, 0.002 mm", 0.002, 50),
    PLUNGER.id: _plunger("Plunger, 0.01 mm", 0.01, 4),
    FINE.id: _plunger("Plunger, 0.002 mm", 0.002, 6),
}


def in_unit(gauge: Gauge, unit: Unit) -> Gauge:
    """The one of its kind whose dial is in that unit; its travel cut short stays so."""
    if unit in ("thou", "tenths") or gauge.id not in METRIC:
        return gauge
    found = METRIC[gauge.id]
    usual = next(one for one in (LEVER, TENTHS, PLUNGER, FINE) if one.id == gauge.id)
    marks = round(found.travel_mm / found.graduation_mm * gauge.travel_mm / usual.travel_mm)
    return found.model_copy(update={"travel_mm": round(marks * found.graduation_mm, 6)})
