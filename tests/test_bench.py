"""The benches run, and a small one of each is held to what they promise: from a clean clone they are the measure of success."""

from __future__ import annotations

import pytest

from bench import advice, coverage, detective, rare
from velvet_hand.core.desk.expect import _true_pass
from velvet_hand.core.detective.causes import Family
from velvet_hand.core.engine.forecast import forecast
from velvet_hand.core.procedures.registry import PROCEDURES


@pytest.mark.parametrize("physics", ["A", "B"])
@pytest.mark.parametrize("cell", advice.CELLS, ids=lambda cell: cell.words)
def test_a_few_trials_are_proved_in_few_passes_and_truly(cell: advice.Cell, physics: str) -> None:
    trials = [advice.trial(cell, advice.LIMITS[0], physics, "cold", seed) for seed in range(4)]
    assert all(one.held and not one.false for one in trials)
    assert sum(one.passes for one in trials) <= 4 * 3.5
    assert all(one.readings >= one.passes for one in trials)


@pytest.mark.parametrize("cell", advice.SCHOOLS, ids=lambda cell: cell.words)
def test_other_ways_take_longer_on_the_same_machines(cell: advice.Cell) -> None:
    ours = next(one for one in advice.CELLS if one.swings == cell.swings)
    passes = [
        sum(advice.trial(one, advice.LIMITS[0], "A", "cold", seed).passes for seed in range(8)) for one in (ours, cell)
    ]
    assert passes[0] < passes[1]


@pytest.mark.parametrize("procedure", ["four_jaw", "vise"])
def test_a_small_coverage_holds_what_it_says(procedure: str) -> None:
    found = coverage.Tally()
    for surface in ("clean", "lobed"):
        for seed in range(3):
            found.add(coverage.runs(procedure, surface, 8, "half", seed))
    assert found.passes >= 8
    assert found.inside >= 0.8 * found.passes
    assert found.false_proofs == 0
    assert len(coverage.row("all", found)) == len(coverage.HEAD)


@pytest.mark.parametrize("family", ["ring", "edge"])
def test_a_few_troubles_are_told_apart(family: Family) -> None:
    causes = detective.CAUSES[family]
    made = (case for part in range(2) for case in detective.cases(family, 1, detective.BEYOND + 10_000 * part))
    ranked = [(c.cause, detective.asked(c, 2)) for c in made]
    assert {cause for cause, _ in ranked} >= set(causes) - {"lost_motion"}
    assert sum(cause == found[0] for cause, found in ranked) >= 0.55 * len(ranked)
    assert sum(cause in found[:3] for cause, found in ranked) >= 0.8 * len(ranked)


@pytest.mark.parametrize("cell", [advice.CELLS[0], advice.CELLS[2]], ids=["four-jaw", "vise"])
def test_what_is_expected_is_about_what_it_takes(cell: advice.Cell) -> None:
    plan = cell.plan(*advice.LIMITS[0])
    procedure = PROCEDURES[plan.procedure]
    way = procedure.way(_true_pass(procedure, plan))
    assert way is not None
    taken = [advice.trial(cell, advice.LIMITS[0], "A", "cold", seed).passes for seed in range(8)]
    assert abs(sum(taken) / 8 - sum(forecast(way).passes) / len(forecast(way).passes)) < 1.0


def test_what_is_rare_counts_by_how_many_there_are_of_its_sort() -> None:
    told = rare.rate([[True] * 3 + [False], [False] * 40, [True, False]], [0.004, 0.99, 0.006])
    assert told == "0.60 ± 1.75 %"
    by_sort = rare.sorts(advice.CELLS[0], "A", drawn=40)
    assert sorted(seed for seeds in by_sort for seed in seeds) == list(range(40))
    assert len(by_sort[0]) > 30  # most parts are round enough
    plan = advice.CELLS[0].plan(*rare.FINE)
    assert max(rare.least_mm(plan, "A", seed) for seed in by_sort[0]) < 0.6 * 0.005
