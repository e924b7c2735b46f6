"""Somebody at the mill or the plate: typed readings, closed passes, what is said and shown."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from tests.core.hand import Hand
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain


def mill(procedure: str, **changes: Any) -> BasePlan:
    """A plan of seed 0 in millimeters: from left to right, gauge in front, hinge on the left, square."""
    return plan_of(procedure, 0).model_copy(update={"unit": "mm", "target_deg": 0.0, **changes})


class AtTheMill(Hand):
    """Typed readings by station."""

    def type(self, values: Mapping[str, float | str], closing: bool = False) -> None:
        number = desk.load(self.events).next_pass_no
        for station, value in values.items():
            self.send(ev.ReadingTaken(pass_no=number, station_id=station, typed=_typed(value)))
        if closing:
            self.close(number, values)

    def close(self, number: int, values: Mapping[str, float | str]) -> None:
        """The first spot of each measure again, as it was."""
        state = desk.load(self.events)
        for station, again in state.to_read(state.passes[-1]):
            if again and station.id in values:
                typed = _typed(values[station.id])
                self.send(ev.ReadingTaken(pass_no=number, station_id=station.id, typed=typed, closing=True))

    def done(self, taps: int | None = None) -> None:
        state = desk.load(self.events)
        move = self.solve().moves[0]
        self.send(ev.MoveDone(pass_no=len(state.passes), move_id=move.id, taps=taps))

    @property
    def plan_spots(self) -> tuple[float, ...]:
        return as_a(EdgeBase, desk.load(self.events).plan).spots_mm

    def panels(self) -> tuple[Panel, ...]:
        return desk.show(self.events, "x").panels

    def words(self) -> str:
        """The headline, and what stands below it first."""
        panel = self.panel()
        return " ".join(plain(said, "mm", 0.0005) for said in (panel.headline, *panel.why[:2]))

    def figure(self, key: str) -> float:
        return there(next(f.mm for f in self.solve().figures if f.id == key))


def _typed(value: float | str) -> Typed:
    return Typed(text=value if isinstance(value, str) else f"{value:.6f}", unit="mm")


def along(slope: float, level: float, spots: tuple[float, ...], first: str = "s") -> dict[str, float | str]:
    return {f"{first}{n}": round(level + slope * x, 6) for n, x in enumerate(spots, start=1)}


def column(**changes: Any) -> AtTheMill:
    plan = mill(
        "column",
        bar="no",
        stations_deg=(0.0, 90.0, 180.0, 270.0),
        far_z_mm=250.0,
        bolts=3,
        bolt_radius_mm=45.0,
        **changes,
    )
    return AtTheMill(plan)


def ring(name: str, x: float, y: float, tail: str = "") -> dict[str, float | str]:
    return {f"{name}{n}{tail}": v for n, v in enumerate((x, y, -x, -y), start=1)}
