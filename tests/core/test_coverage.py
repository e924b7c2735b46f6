"""A band is a promise: over many passes it contains the truth as often as it says, on calm surfaces and on rough ones."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

import numpy as np
import pytest

from tests.support import make_plan, there
from velvet_hand.core.gauge import Gauge, Sense
from velvet_hand.core.measure.ahead import narrowed
from velvet_hand.core.measure.base import Measure
from velvet_hand.core.measure.edge import Edge
from velvet_hand.core.memo import Memo
from velvet_hand.core.plan.ring import ring
from velvet_hand.core.readings import Pass, Reading, Station
from velvet_hand.core.units import Typed

MARK = 0.002
LEVER = Gauge(id="g", name="Lever", kind="lever", graduation_mm=MARK, travel_mm=1)
TIMES = 150
#: So many of them at least, where 95 % are meant.
LEAST = 0.87
#: Passes of a set-up; the last one is judged.
PASSES = 3


class Read:
    """What a measure needs of a set-up: passes of readings."""

    gap_mm: float | None = None
    still = False

    def __init__(self, measure: Measure, passes: Sequence[Sequence[float]]) -> None:
        self.memo: Memo = {}
        self.stations = measure.stations
        self.passes = [self._pass(n, needles) for n, needles in enumerate(passes, start=1)]

    def _pass(self, number: int, needles: Sequence[float]) -> Pass:
        typed = Typed(text="0", unit="mm")
        readings = {
            s.id: Reading(s.id, n, s.id, typed, needle, None)
            for n, (s, needle) in enumerate(zip(self.stations, needles, strict=True))
        }
        return Pass(number, {}, "prove", readings)

    def sense_in(self, slot: str) -> Sense:
        return Sense(surface="outside", push_reads=1)

    def asked(self, one: Pass | None = None) -> tuple[Station, ...]:
        return self.stations

    def untouched_before(self, one: Pass) -> bool:
        return self.still and one.number > 1


def _read(rng: np.random.Generator, exact: np.ndarray, scatter: float, part: float) -> list[float]:
    """Readings by somebody who reads to a part of a graduation."""
    step = MARK * part
    zero = float(rng.uniform(-5, 5)) * MARK  # nobody sets a zero at the middle of what is to come
    seen = exact + zero + rng.normal(0, scatter * MARK, len(exact))
    return [float(v) for v in np.round(seen / step) * step]


def _ring(
    rng: np.random.Generator, spots: int, scatter: float, part: float, form_mm: float = 0.0, kind: Any = "off_centre",
    marks_mm: float = 0.0, finish: str = "ground",
) -> bool:  # fmt: skip
    plan = make_plan(stations_deg=tuple(360 / spots * i for i in range(spots)), floor_mm=0.0, finish=finish)
    measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True)
    angles, round_deg = np.array([s.angle_deg for s in measure.stations]), np.arange(0.0, 360.0, 1.0)
    waves, marks = rng.normal(0, form_mm, (4, 2)), rng.normal(0, marks_mm, 360)

    def surface(deg: np.ndarray, at: float, way: float) -> np.ndarray:
        theta = np.radians(deg)
        form = sum(c * np.cos(n * theta) + s * np.sin(n * theta) for n, (c, s) in zip((2, 3, 4, 5), waves, strict=True))
        return np.asarray(at * np.cos(theta - np.radians(way)) + form + marks[np.round(deg).astype(int) % 360])

    places = [(float(rng.uniform(0, 0.02)), float(rng.uniform(0, 360))) for _ in range(PASSES)]
    record = Read(measure, [_read(rng, surface(angles, *place), scatter, part) for place in places])
    found = there(measure.judge(measure.look(record, record.passes[-1]), kind, 0.01))
    truth = float(np.ptp(surface(round_deg, *places[-1]))) if kind == "tir" else places[-1][0]
    return abs(found.value_mm - truth) <= found.band_mm


def _edge(rng: np.random.Generator, spots: int, scatter: float, part: float) -> bool:
    x = np.linspace(0, 150, spots)
    stations = tuple(
        Station(id=f"s{n}", label="", angle_deg=0.0, x_mm=float(at), ring="") for n, at in enumerate(x, start=1)
    )
    measure = Edge(id="", stations=stations, gauge=LEVER, floor_mm=0.0, length_mm=150.0)
    rises = [float(rng.uniform(0.0, 0.05)) for _ in range(PASSES)]
    record = Read(measure, [_read(rng, rise * x / 150, scatter, part) for rise in rises])
    found = there(measure.judge(record, measure.look(record, record.passes[-1]), "over_jaw", 0.01, 150.0))
    return abs(found.value_mm - rises[-1]) <= found.band_mm


@pytest.mark.parametrize("part", [0.5, 1.0], ids=["half a graduation", "whole graduations"])
@pytest.mark.parametrize("scatter", [0.05, 0.25, 0.43], ids=["calm", "usual", "rough"])
@pytest.mark.parametrize("spots", [4, 8])
def test_the_band_of_a_ring_contains_the_truth(spots: int, scatter: float, part: float) -> None:
    rng = np.random.default_rng(spots)
    assert sum(_ring(rng, spots, scatter, part) for _ in range(TIMES)) >= LEAST * TIMES


@pytest.mark.parametrize("kind", ["tir", "off_centre"])
@pytest.mark.parametrize("spots", [4, 8, 16])
def test_the_band_of_a_ring_that_is_not_round_contains_the_truth(spots: int, kind: str) -> None:
    """A ground surface: 0.3 µm in each wave of orders 2 to 5."""
    rng = np.random.default_rng(spots)
    assert sum(_ring(rng, spots, 0.25, 0.5, 0.0003, kind) for _ in range(TIMES)) >= LEAST * TIMES


@pytest.mark.parametrize("kind", ["tir", "off_centre"])
@pytest.mark.parametrize("spots", [12, 24])
def test_the_band_of_a_turned_ring_contains_marks_that_no_spot_shows(spots: int, kind: str) -> None:
    """Every place has a mark of its own, 0.4 µm, and there are 360 of them: readings that all agree say nothing of the others."""
    rng = np.random.default_rng(spots)
    assert sum(_ring(rng, spots, 0.1, 0.5, 0.0003, kind, 0.0004, "turned") for _ in range(TIMES)) >= LEAST * TIMES


def _read_again(rng: np.random.Generator, still: bool) -> tuple[bool, float]:
    """Three passes at one place, with something done between them or not: does the last contain the truth, and half its band."""
    plan = make_plan(stations_deg=tuple(45.0 * i for i in range(8)), floor_mm=0.0)
    measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True)
    theta = np.radians([s.angle_deg for s in measure.stations])
    at, way = float(rng.uniform(0, 0.02)), float(rng.uniform(0, 6.28))
    record = Read(measure, [_read(rng, at * np.cos(theta - way), 0.25, 0.5) for _ in range(PASSES)])
    record.still = still
    found = there(measure.judge(measure.look(record, record.passes[-1]), "off_centre", 0.01))
    return abs(found.value_mm - at) <= found.band_mm, found.band_mm


def test_passes_that_see_the_same_are_judged_together_not_until_one_is_lucky() -> None:
    rng = np.random.default_rng(3)
    together, apart = ([_read_again(rng, still) for _ in range(TIMES)] for still in (True, False))
    assert sum(inside for inside, _ in together) >= LEAST * TIMES
    assert np.median([band for _, band in together]) < 0.8 * np.median([band for _, band in apart])


@pytest.mark.parametrize("still", [True, False], ids=["nothing moved", "moved"])
def test_what_another_pass_will_say_of_its_band_is_what_it_says(still: bool) -> None:
    """Readings of the same surface again, no two alike: the band is as narrow as was foretold, and no narrower."""
    rng, plan = np.random.default_rng(5), make_plan(stations_deg=tuple(45.0 * i for i in range(8)), floor_mm=0.0)
    measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True)
    now, told, came = [], [], []
    for _ in range(60):
        record = Read(measure, [list(rng.normal(0, LEVER.u_read_mm, 8)) for _ in range(2)])
        first = measure.look(record, record.passes[0])
        record.still = still
        now.append(first.band_mm("tir"))
        told.append(narrowed(first, 1, same=still).band_mm("tir"))
        came.append(measure.look(record, record.passes[1]).band_mm("tir"))
    assert np.median(told) == pytest.approx(np.median(came), rel=0.15)
    assert np.median(told) < 0.85 * np.median(now)


@pytest.mark.parametrize("first", [0.0, 0.05])
def test_a_pass_that_sees_something_else_is_never_averaged_with_the_one_before(first: float) -> None:
    """Bumped between two passes, and nobody said so: half of the way would be a lie."""
    plan = make_plan(stations_deg=tuple(45.0 * i for i in range(8)), floor_mm=0.0)
    measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True)
    theta = np.radians([s.angle_deg for s in measure.stations])
    record = Read(measure, [list(at * np.cos(theta)) for at in (first, 0.05 - first)])
    record.still = True
    found = there(measure.judge(measure.look(record, record.passes[-1]), "off_centre", 0.03))
    assert found.value_mm == pytest.approx(0.05 - first, abs=1e-9)
    assert found.outcome == ("outside" if first == 0.0 else "holds")


@pytest.mark.parametrize("part", [0.5, 1.0], ids=["half a graduation", "whole graduations"])
@pytest.mark.parametrize("scatter", [0.05, 0.25, 0.43], ids=["calm", "usual", "rough"])
@pytest.mark.parametrize("spots", [3, 7])
def test_the_band_of_an_edge_contains_the_truth(spots: int, scatter: float, part: float) -> None:
    rng = np.random.default_rng(spots)
    assert sum(_edge(rng, spots, scatter, part) for _ in range(TIMES)) >= LEAST * TIMES


def test_a_part_that_is_gripped_anew_takes_no_form_from_the_pass_before() -> None:
    """An oval of 0.02 mm, the part turned a quarter in between: what repeats in the holder's angles is not the part's."""
    oval = [0.01, 0.0, -0.01, 0.0] * 2
    for stays, teach in ((True, 2), (False, 1)):
        plan = make_plan(stations_deg=tuple(45.0 * i for i in range(8)), floor_mm=0.0)
        measure = ring(plan.model_copy(update={"gauge": LEVER}), flat=True, stays=stays)
        record = Read(measure, [oval, [-v for v in oval]])
        look = measure.look(record, record.passes[-1])
        assert sum(group.count for group in look.groups.values()) == teach
        assert (there(look.round).form_mm < 0.004) is stays
