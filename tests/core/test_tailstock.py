"""A tailstock by hand: what a bar and two collars say, shims and screws, and what is refused."""

from __future__ import annotations

from typing import Any

import numpy as np
import pytest

from tests.core.at_the_mill import AtTheMill
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import Sense
from velvet_hand.core.move import Shim, Slide
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.procedures.tailstock.plan import TailstockPlan
from velvet_hand.core.procedures.tailstock.sim import MICROMETER, SimulatedTailstock
from velvet_hand.core.sim.body import WrongWay


def tailstock(**changes: Any) -> TailstockPlan:
    plan = as_a(TailstockPlan, plan_of("tailstock", 0))
    spots = {
        "between_mm": 300.0,
        "spots_mm": (30.0, 270.0),
        "thicker_mm": 0.0,
        "gauge_at": "front",
        "high_mm": 0.0,
        "quill_mm": 0.0,
    }
    return plan.model_copy(update={"unit": "mm", **spots, **changes})


def read(hand: AtTheMill, **rises: float) -> None:
    """Each line by how much its last place reads more than its first."""
    keys = {"side": "side-", "top": "top-", "side_over": "side-over", "top_over": "top-over"}
    hand.type({f"{keys[k]}{n}": mm for k, rise in rises.items() for n, mm in ((1, 0.0), (2, rise))}, closing=True)


def test_the_bar_turned_half_over_is_known_apart_from_the_tailstock() -> None:
    hand = AtTheMill(tailstock())
    read(hand, side=0.05, top=0.0, side_over=0.03, top_over=0.0)
    assert hand.figure("side") == pytest.approx(0.04 / 240 * 300)  # carried from 240 mm read to 300 between
    assert hand.figure("bar") == pytest.approx(0.01 / 240 * 300)
    assert hand.figure("taper") == pytest.approx(2 * 0.04 / 240 * 200)  # over a part of 200


def test_it_goes_away_from_the_indicator_by_what_its_last_place_shows() -> None:
    hand = AtTheMill(tailstock())
    read(hand, side=0.05, top=0.0, side_over=0.03, top_over=0.0)
    move = as_a(Slide, hand.solve().moves[0])
    assert move.near_mm == pytest.approx(-0.05)
    assert move.needle is not None
    assert move.needle.station_id == "side-over2"
    assert there(move.aim_mm) - 0.03 == pytest.approx(-0.05 * 270 / 300)
    assert "away from you" in hand.words()


def test_behind_the_work_toward_the_indicator_is_away_from_you() -> None:
    hand = AtTheMill(tailstock(gauge_at="back"))
    read(hand, side=0.05, top=0.0, side_over=0.03, top_over=0.0)
    assert as_a(Slide, hand.solve().moves[0]).near_mm == pytest.approx(0.05)


def test_height_comes_first_by_shims_under_both_feet() -> None:
    hand = AtTheMill(tailstock())
    read(hand, side=0.05, top=-0.04, side_over=0.05, top_over=-0.04)
    move = as_a(Shim, hand.solve().moves[0])
    assert [p.mm for p in move.packets] == pytest.approx([0.05, 0.05])


def test_a_thicker_end_of_the_bar_is_no_offset() -> None:
    hand = AtTheMill(tailstock(thicker_mm=0.02))
    read(hand, side=0.01, top=0.01, side_over=0.01, top_over=0.01)
    assert hand.figure("side") == pytest.approx(0.0, abs=1e-9)
    assert hand.figure("height") == pytest.approx(0.0, abs=2e-5)  # the sag cancels at like places


def test_collars_count_half_and_the_thicker_one_stands_farther() -> None:
    hand = AtTheMill(tailstock(by="collars", gauge=MICROMETER))
    assert {s.reads for s in desk.load(hand.events).stations} == {"size"}  # what is asked for is no gap
    hand.type({"side-1": 40.0, "side-2": 40.048}, closing=True)
    assert hand.figure("side") == pytest.approx(0.024 / 240 * 300)
    move = as_a(Slide, hand.solve().moves[0])
    assert move.near_mm == pytest.approx(0.03)
    assert "toward you" in hand.words()


def test_one_that_stands_high_is_said_so_and_not_held() -> None:
    hand = AtTheMill(tailstock())
    read(hand, side=0.0, top=0.05, side_over=0.0, top_over=0.05)
    found = hand.solve()
    assert not found.moves
    assert "high" in "".join(p.text for p in found.stop if p.kind == "words")
    assert there(found.judged).outcome == "outside"


@pytest.mark.parametrize(
    ("field", "changes"),
    [
        ("choices.spots_mm", {"spots_mm": (30.0,)}),
        ("choices.spots_mm", {"spots_mm": (30.0, 310.0)}),
        ("choices.spots_mm", {"spots_mm": (30.0, 60.0)}),
        ("choices.between_mm", {"between_mm": 4000.0, "spots_mm": (30.0, 3900.0)}),
        ("gauge_id", {"by": "collars"}),
        ("gauge_id", {"gauge": MICROMETER}),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(field: str, changes: dict[str, Any]) -> None:
    plan = tailstock(**changes)
    with pytest.raises(BadInput) as caught:
        desk.procedure_of(plan).check_plan(plan)
    assert caught.value.field == field


@pytest.mark.parametrize("seed", range(4))
def test_a_wrong_sign_is_caught(seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Which side the indicator stands on decides the screw: turned round, the needle runs away."""
    right = TailstockPlan.near_sign.fget  # type: ignore[attr-defined]
    monkeypatch.setattr(TailstockPlan, "near_sign", property(lambda self: -right(self)))
    plan = tailstock(gauge_at=("front", "back")[seed % 2])
    rng = np.random.default_rng(seed)
    made = as_a(SimulatedTailstock, machine(plan, rng))
    made.point = complex(made.point.real, 0.0)
    with pytest.raises(WrongWay):
        Operator(plan, made, rng).run()


def test_a_press_test_answered_wrongly_is_caught() -> None:
    rng, plan = np.random.default_rng(5), tailstock()
    made = as_a(SimulatedTailstock, machine(plan, rng))
    made.point = complex(0.2, 0.0)
    asked = made.press()
    made.press = lambda slot="": "minus" if asked == "plus" else "plus"  # type: ignore[method-assign]
    with pytest.raises(WrongWay):
        Operator(plan, made, rng).run()
    assert Sense(surface="outside", push_reads=1).toward_mm(1.0) == 1.0
