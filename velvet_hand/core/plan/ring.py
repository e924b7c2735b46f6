"""Spots of one turn."""

from __future__ import annotations

import math

from ..angles import SAME_SPOT_DEG, apart
from ..measure.base import Measure
from ..measure.ring import Ring
from ..readings import Station
from .base import BasePlan

#: So few spots do not show a lobed part: a proof reads those between as well.
FEW = 5


def turn_stations(
    plan: BasePlan, ring: str = "", name: str = "", word: str = "Jaw", when: str = "always"
) -> tuple[Station, ...]:
    """The plan's angles as stations of one ring; one at a jaw or screw is called by its number."""
    found = []
    stops = [(str(n), deg, when) for n, deg in enumerate(plan.stations_deg, start=1)]
    if plan.between and when == "always":
        if len(stops) <= FEW:
            # those of a proof are read on the way round
            halfway = [(f"{n}b", _halfway(stop_deg, plan.stations_deg), "proof") for n, stop_deg, _ in stops]
            stops = [s for two in zip(stops, halfway, strict=True) for s in two]
        round_deg = tuple(deg for _, deg, _ in stops)
        # those that settle what is undecided come when the others are read
        stops += [(f"{n}c", _halfway(deg, round_deg), "undecided") for n, deg, _ in stops]
    for number, stop, when in stops:
        at = stop % 360
        jaw = next((j for j, deg in plan.holder.jaws_deg.items() if word and apart(deg, at) < SAME_SPOT_DEG), None)
        label = f"{word} {jaw}" if jaw else f"{at:g}°"
        short, label = label, f"{name} {label.lower()}" if name else label
        found.append(
            Station.model_validate(
                {
                    "id": f"{ring or 's'}{number}",
                    "label": label,
                    "angle_deg": at,
                    "jaw": jaw,
                    "ring": ring,
                    "when": when,
                    "group": name.rstrip(",:"),
                    "short": short,
                    "reads": plan.gauge.reads,
                }
            )
        )
    return tuple(found)


def _halfway(deg: float, round_deg: tuple[float, ...]) -> float:
    """Halfway from a spot to the next one round."""
    return deg + min((other - deg) % 360 or 360.0 for other in round_deg) / 2


def ring(
    plan: BasePlan, key: str = "", name: str = "", word: str = "Jaw", when: str = "always", *, flat: bool = False,
    spots: tuple[Station, ...] | None = None, stays: bool = True, level_stays: bool = True,
) -> Ring:  # fmt: skip
    """The plan's angles as a ring that its own indicator reads; ``flat`` where the readings are an exact sinusoid."""
    gauge, sign = plan.gauge_in(plan.slot(key)), plan.sense(None).center_sign
    return Ring(
        id=key,
        stations=turn_stations(plan, key, name, word, when) if spots is None else spots,
        gauge=gauge,
        slot=plan.slot(key),
        floor_mm=plan.machine.floor_mm,
        radius_mm=math.inf if flat or plan.flats else plan.part.diameter_mm / 2 + sign * gauge.tip_radius_mm,
        sign=sign,
        flats=plan.flats,
        finish=plan.part.roughness,
        form_stays=stays,
        level_stays=level_stays,
        settle_mm=plan.limit.mm if plan.limit.kind in ("tir", "off_centre") else None,
        settle_kind=plan.limit.kind,
    )


def spots(plan: BasePlan, key: str, stations: tuple[Station, ...], closes: bool = True) -> Measure:
    """Named spots that are only compared with each other."""
    slot = plan.slot(key)
    return Measure(
        id=key, stations=stations, gauge=plan.gauge_in(slot), slot=slot, floor_mm=plan.machine.floor_mm, closes=closes
    )
