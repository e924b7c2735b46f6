"""A part in a vise, by hand: lift, chip, bow, unequal parallels, and the move that each of them asks for."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from velvet_hand.core.move import Move, Seat, Shim
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.clamped.plan import ClampedPlan
from velvet_hand.core.procedures.clamped.sim import SimulatedClamped, example
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.sim.body import Hands, WrongWay
from velvet_hand.core.told import Solution
from velvet_hand.core.wording import plain

SIDES = ("back", "front", "left", "right")
CLAMPED = PROCEDURES["clamped"]


def at_work(plan: ClampedPlan, **errors: Any) -> Operator:
    usual = {"lift": 0.0, "turns": 0.0, "end": 0.0, "bow": 0.0, "twist": 0.0, "parallels": 0.0, "top": (0.0, 0.0)}
    rng = np.random.default_rng(1)
    return Operator(plan, SimulatedClamped(plan, Hands(), rng, **{**usual, **errors}), rng)


def first(plan: ClampedPlan, **errors: Any) -> tuple[Operator, Solution]:
    """What is told once the first pass is read whole."""
    operator = at_work(plan, **errors)
    while operator.step():
        one = operator.state.open_pass
        if one and len(one.closings) == 2:
            break
    return operator, CLAMPED.solution(operator.state)


def rough(side: str = "back", **changes: Any) -> ClampedPlan:
    return example(0).model_copy(update={"fixed": side, "columns": 3, "top": "rough", "stock": None, **changes})


def figures(found: Solution) -> dict[str, tuple[float, str]]:
    return {f.id: (f.mm or 0.0, plain(f.note, "mm", 0.001)) for f in found.figures}


def only(found: Solution) -> Move:
    assert len(found.moves) == 1
    return found.moves[0]


@pytest.mark.parametrize("side", SIDES)
def test_a_moving_jaw_that_lifts_is_struck_down_along_it(side: str) -> None:
    _, found = first(rough(side), lift=0.05)
    across, word = figures(found)["across"]
    assert across == pytest.approx(0.05, abs=0.001)  # 0.042 over the places that are read
    assert word == "moving jaw up"
    move = only(found)
    assert isinstance(move, Seat)
    assert "along the moving jaw" in plain(move.sentence, "mm", 0.001)
    assert move.needle is not None
    assert move.needle.goes == "falls"
    assert move.needle.now_mm is not None
    assert move.needle.aim_mm is not None
    assert abs(move.needle.now_mm - move.needle.aim_mm) == pytest.approx(0.05 * 0.84, abs=0.001)


@pytest.mark.parametrize(("side", "low", "high"), [("back", "left", "right"), ("left", "front", "back")])
def test_a_chip_under_one_end_is_struck_down_there(side: str, low: str, high: str) -> None:
    for end, name in ((0.05, high), (-0.05, low)):
        _, found = first(rough(side), end=end)
        assert figures(found)["along"][1] == f"{name} end up"
        assert f"{name} end" in plain(only(found).sentence, "mm", 0.001)


def test_a_bow_is_no_lift_and_only_less_force_mends_it() -> None:
    _, found = first(rough(), bow=0.03)
    assert figures(found)["across"][0] == pytest.approx(0.0, abs=0.001)
    # Ends stand at 0.06 and 0.94 of the length: 1 - 0.88**2 of the bow.
    assert figures(found)["bent"][0] == pytest.approx(0.03 * 0.88**2, abs=0.001)
    assert "half the force" in plain(only(found).sentence, "mm", 0.001)
    assert any("springs back hollow" in plain(c.text, "mm", 0.001) for c in found.caveats)
    _, hollow = first(rough(), bow=-0.03)
    assert any("springs back crowned" in plain(c.text, "mm", 0.001) for c in hollow.caveats)


def test_a_jaw_that_turns_the_part_asks_for_a_bar_after_the_hammer() -> None:
    done = at_work(rough(), turns=0.04).run()
    assert [m.move.act for m in done.state.moves if isinstance(m.move, Seat)][:2] == ["strike", "bar"]
    assert done.state.verdict is not None
    assert done.state.verdict.outcome == "holds"


@pytest.mark.parametrize(("parallels", "jaw"), [(0.03, "fixed"), (-0.03, "moving")])
def test_the_low_parallel_is_shimmed_where_the_top_is_known(parallels: float, jaw: str) -> None:
    plan = example(4).model_copy(update={"fixed": "front"})
    operator, found = first(plan, parallels=parallels)
    move = only(found)
    assert isinstance(move, Shim)
    assert {p.name: p.mm for p in move.packets} == pytest.approx({f"parallel at the {jaw} jaw": 0.03}, abs=0.003)
    done = operator.run()
    assert done.chuck.true_tir_mm < 0.006
    assert [m.move.do for m in done.state.moves] == ["shim"]
    assert figures(CLAMPED.solution(done.state))["across"][0] < 0.003  # what the shim lifts is no lift of the vise's


def test_a_place_that_was_not_read_free_proves_nothing() -> None:
    class Off(SimulatedClamped):
        """One place of the free part is past the dial."""

        def read(self, spot: Any) -> float | str:
            """Off there."""
            return "+off" if getattr(spot, "id", "") == "free-2" else super().read(spot)

    plan, rng = rough(), np.random.default_rng(1)
    made = Off(plan, Hands(), rng, lift=0, turns=0, end=0, bow=0, twist=0, parallels=0, top=(0, 0))
    done = Operator(plan, made, rng).run(8)
    assert done.state.verdict is None or done.state.verdict.outcome != "holds"


def test_a_press_test_answered_wrongly_is_caught() -> None:
    operator = at_work(rough(), lift=0.05)
    operator.chuck.press = lambda slot="": "minus"  # type: ignore[method-assign]
    with pytest.raises(WrongWay):
        operator.run()
