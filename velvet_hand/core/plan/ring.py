"""Spots of one turn."""

from __future__ import annotations

from ..angles import SAME_SPOT_DEG, apart
from ..readings import Station
from .base import BasePlan


def turn_stations(
    plan: BasePlan, ring: str = "", name: str = "", word: str = "Jaw", when: str = "always"
) -> tuple[Station, ...]:
    """The plan's angles as stations of one ring; one at a jaw or screw is called by its number."""
    found = []
    for number, stop in enumerate(plan.stations_deg, start=1):
        at = stop % 360
        jaw = next((j for j in plan.holder.numbers if word and apart(plan.holder.jaw_deg(j), at) < SAME_SPOT_DEG), None)
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
                    "reads": "gap" if plan.gauge.measures_gap else "needle",
                }
            )
        )
    return tuple(found)
