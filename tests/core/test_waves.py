"""What an edge does between its spots: waves that few spots take for a slope are in the band."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.at_the_mill import AtTheMill, along, mill
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.estimate.scatter import Repeats
from velvet_hand.core.estimate.waves import ALL, GROUND_MM, LONG_MM, ORDERS, unseen_rise_mm
from velvet_hand.core.measure.edge import Edge
from velvet_hand.core.plan.base import ROUGHNESS
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.units import Typed


def rise(x: np.ndarray, mm: np.ndarray) -> float:
    return float(np.polyfit(x, mm, 1)[0]) * LONG_MM


@pytest.mark.parametrize("finish", [1.0, 4.0])
@pytest.mark.parametrize("spots", [3, 4, 5, 8, 12])
def test_a_wave_that_is_taken_for_a_slope_is_within_what_is_said(spots: int, finish: float) -> None:
    """Surfaces by chance, each read in two passes: the error is within the band at least as often as it says, and no tenth of it."""
    rng, x, every = np.random.default_rng(spots), np.linspace(8.0, LONG_MM - 8.0, spots), np.linspace(0, LONG_MM, ALL)
    inside, errors, bands = 0, [], []
    for _ in range(300):
        size = rng.normal(0, np.repeat(np.array(GROUND_MM) * finish, 2))
        at = [
            np.column_stack([f(2 * np.pi * n * v / LONG_MM) for n in ORDERS for f in (np.cos, np.sin)]) @ size
            for v in (x, every)
        ]
        groups: dict[tuple[float, ...], Repeats] = {}
        for _ in range(2):
            left = at[0] + rng.normal(0, 1e-4, spots)
            left -= np.polyval(np.polyfit(x, left, 1), x)
            groups[tuple(x)] = groups.get(tuple(x), Repeats()).add(left)
        bands.append(unseen_rise_mm(tuple(x), (0.0, LONG_MM), groups, 1e-8, finish))
        errors.append(rise(x, at[0]) - rise(every, at[1]))
        inside += abs(errors[-1]) <= bands[-1]
    assert inside >= 0.94 * 300
    assert np.mean(bands) < 10 * np.std(errors)


def band_by_its_finish(procedure: str, finish: str) -> dict[str, float]:
    hand = AtTheMill(mill(procedure, edge_finish=finish))
    state = desk.load(hand.events)
    hand.type({s.id: 0.0 for s in state.stations if s.when == "always"}, closing=True)
    return {t.name: t.mm for t in there(hand.solve().judged).terms}


@pytest.mark.parametrize("procedure", ["vise", "vises"])
def test_a_milled_edge_is_told_of_less_surely_than_a_ground_one(procedure: str) -> None:
    ground, milled = band_by_its_finish(procedure, "ground"), band_by_its_finish(procedure, "milled")
    assert milled.pop("between") == pytest.approx(ROUGHNESS["turned"] * ground.pop("between"), rel=0.02)
    assert milled == ground


def test_more_spots_along_it_narrow_the_band() -> None:
    """Which is what the screen says would settle it."""
    found = []
    limit = mill("vise").limit.model_copy(update={"typed": Typed(text="0.001 mm", unit="mm")})
    for spots in ((10.0, 80.0, 150.0), tuple(float(v) for v in np.linspace(10, 150, 12))):
        hand = AtTheMill(mill("vise", spots_mm=spots, limit=limit, edge_finish="milled"))
        hand.type(along(0.0, 0.0, spots), closing=True)
        found.append(there(hand.solve().judged))
    few, many = ({t.name: t.mm for t in judged.terms}["between"] for judged in found)
    assert many < few / 3
    assert (found[0].limited_by, found[0].settle) == ("between", "more spots along it")


def test_an_edge_named_rough_says_so_to_its_measure() -> None:
    plan = as_a(EdgeBase, mill("edge", edge_finish="rough"))
    edges = [m for m in desk.load(AtTheMill(plan).events).measures.values() if isinstance(m, Edge)]
    assert edges
    assert {m.finish for m in edges} == {plan.roughness}
