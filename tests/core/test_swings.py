"""Where a vise or an edge swings when that is not where it was said to, or where nobody can tell."""

from __future__ import annotations

import re
from collections.abc import Callable

import numpy as np
import pytest

from tests.support import as_a
from velvet_hand.core.desk import desk
from velvet_hand.core.move import Move
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.procedures.vise.plan import VisePlan
from velvet_hand.core.sim.body import WrongWay
from velvet_hand.core.sim.table import SimulatedEdge
from velvet_hand.core.wording import plain


def swings_about_the_other_bolt(seed: int, part: float) -> Operator:
    """A vise whose snug bolt is not the one that was said: it swings there, that part of its length from the end of the one said. The
    hand gives a tap up that does not do what it should.
    """
    plan, rng = example("vise", seed), np.random.default_rng([seed, 8])
    plan = plan.model_copy(update={"way": "swing", "hinge": "low" if seed % 2 else "high"})
    made = machine(plan, rng)
    assert isinstance(plan, VisePlan)
    assert isinstance(made, SimulatedEdge)
    made.swing = complex((part if plan.hinge == "low" else 1 - part) * plan.edge_mm, made.swing.imag)
    usual = made.travel_to_aim

    def gives_up(move: Move, needle: Callable[[float], float], most_mm: float = 5.0) -> float:
        try:
            return usual(move, needle, 0.25)
        except WrongWay:
            return 0.1

    made.travel_to_aim = gives_up  # type: ignore[method-assign]
    return Operator(plan, made, rng)


def test_a_vise_that_swings_about_the_other_bolt_than_was_said_comes_in_as_soon() -> None:
    took = []
    for seed in range(8):
        hand = swings_about_the_other_bolt(seed, 0.8)
        ended = hand.run(max_passes=8)
        assert ended.state.verdict is not None
        assert ended.chuck.past_limit_mm <= 0
        took.append(ended.passes)
    assert np.mean(took) <= 3


def test_where_a_tap_can_do_little_it_is_told_which_bolt_to_let_go() -> None:
    hand, said = swings_about_the_other_bolt(1, 0.8), set()
    while hand.full_passes <= 4 and hand.step():
        solution = desk.procedure_of(hand.plan).solution(hand.state)
        said |= {plain(m.reason, "mm", 0.001) for m in solution.moves}
    ends = re.findall(r"leave the bolt at the (\w+) end finger tight, the one at the (\w+) end snug", " ".join(said))
    plan = as_a(VisePlan, hand.plan)
    assert set(ends) == {(plan.end_word(True), plan.end_word(False))}


@pytest.mark.parametrize("seed", [36, 56, 59])
def test_a_gap_that_is_touched_anew_in_every_pass_tells_nothing_of_the_pivot(seed: int) -> None:
    plan, rng = example("rod", seed), np.random.default_rng(seed)
    assert Operator(plan, machine(plan, rng), rng).run(max_passes=12).passes <= 3
