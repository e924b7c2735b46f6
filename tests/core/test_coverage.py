"""A band is a promise: over many passes it contains the truth as often as it says, on calm surfaces and on rough ones."""

from __future__ import annotations

import numpy as np
import pytest

from tests.support import make_plan, there
from velvet_hand.core.fit.circle import fit_circle
from velvet_hand.core.fit.line import fit_line
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.measure.edge import Edge, LineLook
from velvet_hand.core.measure.ring import RingLook
from velvet_hand.core.plan.ring import ring
from velvet_hand.core.readings import Station

MARK = 0.002
LEVER = Gauge(id="g", name="Lever", kind="lever", graduation_mm=MARK, travel_mm=1)
TIMES = 150
#: So many of them at least, where 95 % are meant.
LEAST = 0.87


class _Calm:
    """A set-up in which nothing was measured by the way."""

    gap_mm = None


def _read(rng: np.random.Generator, exact: np.ndarray, scatter: float, part: float) -> tuple[float, ...]:
    """Readings by somebody who reads to a part of a graduation."""
    step = MARK * part
    zero = float(rng.uniform(-5, 5)) * MARK  # nobody sets a zero at the middle of what is to come
    seen = exact + zero + rng.normal(0, scatter * MARK, len(exact))
    return tuple(float(v) for v in np.round(seen / step) * step)


def _ring(rng: np.random.Generator, spots: int, scatter: float, part: float) -> bool:
    plan = make_plan(stations_deg=tuple(360 / spots * i for i in range(spots)), floor_mm=0.0)
    measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True)
    angles = np.array([s.angle_deg for s in measure.stations])
    at, way = float(rng.uniform(0, 0.02)), float(rng.uniform(0, 360))
    read = _read(rng, at * np.cos(np.radians(angles - way)), scatter, part)
    fit = fit_circle(tuple(angles), read, measure.radius_mm, measure.sign, LEVER.u_read_mm)
    toward = {s.id: v for s, v in zip(measure.stations, read, strict=True)}
    wild = tuple(measure.stations[i].id for i in fit.left_out)
    look = RingLook(measure, 1, toward, {}, 0.0, fit, wild, True)
    found = there(measure.judge(look, "off_centre", 0.01))
    return abs(found.value_mm - at) <= found.band_mm


def _edge(rng: np.random.Generator, spots: int, scatter: float, part: float) -> bool:
    x = np.linspace(0, 150, spots)
    stations = tuple(
        Station(id=f"s{n}", label="", angle_deg=0.0, x_mm=float(at), ring="") for n, at in enumerate(x, start=1)
    )
    measure = Edge(id="", stations=stations, gauge=LEVER, floor_mm=0.0, length_mm=150.0)
    rise = float(rng.uniform(0.0, 0.05))
    read = _read(rng, rise * x / 150, scatter, part)
    line = fit_line(tuple(x), read, LEVER.u_read_mm)
    keys = [s.id for s in stations]
    look = LineLook(
        measure, 1, dict(zip(keys, x, strict=True)), dict(zip(keys, read, strict=True)), {}, 0.0, line, (), True
    )
    found = there(measure.judge(_Calm(), look, "over_jaw", 0.01, 150.0))  # type: ignore[arg-type]  # only its play is asked
    return abs(found.value_mm - rise) <= found.band_mm


@pytest.mark.parametrize("part", [0.5, 1.0], ids=["half a graduation", "whole graduations"])
@pytest.mark.parametrize("scatter", [0.05, 0.25, 0.43], ids=["calm", "usual", "rough"])
@pytest.mark.parametrize("spots", [4, 8])
def test_the_band_of_a_ring_contains_the_truth(spots: int, scatter: float, part: float) -> None:
    rng = np.random.default_rng(spots)
    assert sum(_ring(rng, spots, scatter, part) for _ in range(TIMES)) >= LEAST * TIMES


@pytest.mark.parametrize("part", [0.5, 1.0], ids=["half a graduation", "whole graduations"])
@pytest.mark.parametrize("scatter", [0.05, 0.25, 0.43], ids=["calm", "usual", "rough"])
@pytest.mark.parametrize("spots", [3, 7])
def test_the_band_of_an_edge_contains_the_truth(spots: int, scatter: float, part: float) -> None:
    rng = np.random.default_rng(spots)
    assert sum(_edge(rng, spots, scatter, part) for _ in range(TIMES)) >= LEAST * TIMES
