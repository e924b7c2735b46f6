"""No piece that is not needed, and spots that fit what is held."""

from __future__ import annotations

import pytest

from tests.core.at_the_mill import mill
from tests.support import as_a
from velvet_hand.core.fit.packing import choose_packing
from velvet_hand.core.fit.plane import choose_shims
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.shop import Piece

CORNERS = ((0.0, 0.0), (100.0, 0.0), (100.0, 60.0), (0.0, 60.0))
DRAWER = tuple(Piece(mm=mm, count=6) for mm in (0.0125, 0.025, 0.05, 0.1))


@pytest.mark.parametrize(("slope", "high"), [(0.0005, (0, 3)), (-0.0005, (1, 2))])
def test_what_would_lift_all_corners_alike_is_left_out(slope: float, high: tuple[int, int]) -> None:
    found = choose_shims(CORNERS, slope, 0.0, (50.0, 30.0), DRAWER)
    assert found is not None
    assert [sum(stack) for stack in found.pieces] == pytest.approx([0.05 if i in high else 0.0 for i in range(4)])
    assert sum(len(stack) for stack in found.pieces) == 2


def test_a_packing_that_is_near_enough_has_the_fewest_pieces() -> None:
    stock = {0.005: 4, 0.01: 4, 0.02: 4, 0.05: 4, 0.1: 4, 0.2: 4}
    jaws, now = (0.0, 120.0, 240.0), complex(0.151, 0.0)
    exact = choose_packing(now, 0j, jaws, (0.0, 0.0, 0.0), 31.0, 0.0, stock)
    coarse = choose_packing(now, 0j, jaws, (0.0, 0.0, 0.0), 31.0, 0.0, stock, enough_mm=0.02)
    assert sum(map(len, coarse.stacks)) < sum(map(len, exact.stacks))
    assert abs(exact.center) < abs(coarse.center) <= 0.02


@pytest.mark.parametrize("procedure", ["vise", "bed", "edge", "vises"])
@pytest.mark.parametrize("length_mm", [60.0, 125.0, 400.0])
def test_spots_that_nobody_typed_fit_what_is_held(procedure: str, length_mm: float) -> None:
    plan = as_a(EdgeBase, mill(procedure))
    holder = plan.holder.model_copy(update={"edge_mm": length_mm, "bolts_mm": (0.1 * length_mm, 0.9 * length_mm)})
    raw = {name: getattr(plan, name) for name in type(plan).model_fields}
    apart = {"apart_mm": 2 * length_mm} if procedure == "vises" else {}
    fresh = type(plan)(**{**raw, "holder": holder, "spots_mm": (), **apart})
    assert 0 < min(fresh.spots_mm) < max(fresh.spots_mm) < length_mm
    assert len(fresh.spots_mm) == (3 if procedure == "vises" else 5)
    PROCEDURES[procedure].check_plan(fresh)


def test_spots_that_were_typed_stay() -> None:
    plan = mill("vise", spots_mm=(5.0, 50.0))
    assert as_a(EdgeBase, plan).spots_mm == (5.0, 50.0)
