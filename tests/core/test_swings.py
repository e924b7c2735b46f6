"""Where a vise or an edge swings when that is not where it was said to, or where nobody can tell."""

from __future__ import annotations

import contextlib
import re

import numpy as np
import pytest

from tests.support import as_a
from velvet_hand.core.desk import desk
from velvet_hand.core.move import Move, Tap
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.procedures.vise.plan import VisePlan
from velvet_hand.core.sim.body import WrongWay
from velvet_hand.core.sim.table import SimulatedEdge, said_way
from velvet_hand.core.wording import plain

#: Anybody sees it turn by so much, and stops (rad): a millimeter over its length.
SEEN = 0.007


def swings_about_the_other_bolt(seed: int, part: float) -> Operator:
    """A vise whose snug bolt is not the one that was said: it swings there, that part of its length from the end of the one said. The
    hand stops when all of it turns and the needle is not at its aim.
    """
    plan, rng = example("vise", seed), np.random.default_rng([seed, 8])
    plan = plan.model_copy(update={"way": "swing", "hinge": "low" if seed % 2 else "high"})
    made = machine(plan, rng)
    assert isinstance(plan, VisePlan)
    assert isinstance(made, SimulatedEdge)
    made.swing = complex((part if plan.hinge == "low" else 1 - part) * plan.edge_mm, made.swing.imag)
    to_the_aim = made.do

    def stops(move: Move) -> None:
        before = made.pose
        with contextlib.suppress(WrongWay):
            to_the_aim(move)
            if abs(made.pose.turn - before.turn) <= SEEN:
                return
        made.pose = before
        pushed = made.struck(as_a(Tap, move).x_mm, said_way(move))
        made.swung(pushed, SEEN / abs(pushed(1.0).turn - before.turn))

    made.do = stops  # type: ignore[method-assign]
    return Operator(plan, made, rng)


@pytest.mark.parametrize("part", [0.8, 0.9])
def test_a_vise_that_swings_about_the_other_bolt_than_was_said_comes_in_as_soon(part: float) -> None:
    took = []
    for seed in range(12):
        hand = swings_about_the_other_bolt(seed, part)
        ended = hand.run(max_passes=8)
        assert ended.state.verdict is not None
        assert ended.chuck.past_limit_mm <= 0
        took.append(ended.passes)
    assert np.mean(took) <= 2.5


def test_where_a_tap_can_do_little_it_is_tapped_at_the_other_end_and_told_why() -> None:
    hand, said, struck = swings_about_the_other_bolt(1, 0.9), set(), []
    while hand.full_passes <= 4 and hand.step():
        solution = desk.procedure_of(hand.plan).solution(hand.state)
        said |= {plain(m.reason, "mm", 0.001) for m in solution.moves}
        struck += [(as_a(Tap, m).x_mm, plain(m.sentence, "mm", 0.001)) for m in solution.moves]
    plan = as_a(VisePlan, hand.plan)
    ends = re.findall(r"at its (\w+) end, where taps do little: so it is tapped at the (\w+) end", " ".join(said))
    assert set(ends) == {(plan.end_word(True), plan.end_word(False))}
    first, last = min(plan.spots_mm), max(plan.spots_mm)
    assert [x for x, _ in struck[:1] + struck[-1:]] == [last, first]  # where it should, then where it can be turned
    assert f" {plan.end_word(False)} " in struck[-1][1]


@pytest.mark.parametrize("seed", [36, 56, 59])
def test_a_gap_that_is_touched_anew_in_every_pass_tells_nothing_of_the_pivot(seed: int) -> None:
    plan, rng = example("rod", seed), np.random.default_rng(seed)
    assert Operator(plan, machine(plan, rng), rng).run(max_passes=12).passes <= 3
