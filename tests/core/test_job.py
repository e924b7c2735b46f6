"""Before a part is touched: what works stands first, what cannot says why, and the figures beside it add up."""

from __future__ import annotations

import math
from datetime import date
from typing import Any

import pytest

from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.holders import Collet, Fixture, FourJaw, ThreeJaw, Vise
from velvet_hand.core.job.propose import Shop, propose
from velvet_hand.core.job.wanted import SURFACES, Candidate, Record, Wanted
from velvet_hand.core.plan.base import Limit
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.shop import Machine, Memory
from velvet_hand.core.sim.example import SHIMS, held
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

TODAY = date(2026, 1, 5)
FINE = Gauge(id="fine", name="Fine lever", kind="lever", graduation_mm=0.002, travel_mm=0.6)
COARSE = Gauge(id="coarse", name="Plunger", kind="plunger", graduation_mm=0.02, travel_mm=10)
LATHE = Machine(id="lathe", name="Lathe", kind="lathe", floor_mm=0.002)
MILL = Machine(id="mill", name="Mill", kind="mill", floor_mm=0.002)
CHUCK = held(FourJaw).model_copy(update={"id": "four", "name": "Four-jaw"})
SMALL = held(Collet, max_work_mm=26, min_work_mm=2).model_copy(update={"id": "collet", "name": "Collet"})
THREE = held(ThreeJaw).model_copy(update={"id": "three", "name": "Three-jaw"})
VISE = held(Vise, edge_mm=160).model_copy(update={"id": "vise", "name": "Vise"})
PLATE = held(Fixture, edge_mm=320).model_copy(update={"id": "plate", "name": "Fixture"})
SHOP = Shop(machines=(LATHE, MILL), holders=(SMALL, THREE, CHUCK, VISE, PLATE), gauges=(COARSE, FINE), stock=(SHIMS,))


def wanted(across: str = "62", limit: str = "0.025", kind: str = "tir", **more: Any) -> Wanted:
    told = Limit.model_validate({"kind": kind, "typed": Typed(text=limit, unit="mm")})
    return Wanted(across=Typed(text=across, unit="mm"), limit=told, **more)


def ways(asked: Wanted, shop: Shop = SHOP) -> dict[str, Candidate]:
    return {one.holder: one for one in propose(asked, shop, TODAY)}


def said(one: Candidate) -> str:
    return " ".join(plain(t, "mm", 0.001) for t in (*one.reasons, *one.first))


def test_what_holds_such_a_part_is_proposed_and_what_does_not_says_why() -> None:
    found = ways(wanted())
    assert list(found)[-1] == "Collet"
    assert (found["Collet"].rating, "Takes up to 26.00 mm" in said(found["Collet"])) == ("out", True)
    assert {"Four-jaw", "Three-jaw"} <= set(found)
    assert not {"Vise", "Fixture"} & set(found)
    assert {one.procedure for one in found.values()} <= set(PROCEDURES)
    flat = ways(wanted(kind="over_part", shape="flat", long=Typed(text="200", unit="mm")))
    assert set(flat) == {"Vise", "Fixture"}
    assert "sticks out" in said(ways(wanted(kind="over_part", shape="flat", long=Typed(text="500", unit="mm")))["Vise"])


def test_long_round_work_is_held_in_two_planes() -> None:
    assert ways(wanted(long=Typed(text="100", unit="mm")))["Four-jaw"].procedure == "four_jaw"
    assert ways(wanted(long=Typed(text="200", unit="mm")))["Four-jaw"].procedure == "two_planes"


def test_the_figures_of_the_budget_add_up_and_decide() -> None:
    for limit in ("0.1", "0.02", "0.012", "0.008", "0.004"):
        one = ways(wanted(limit=limit))["Four-jaw"]
        mm = [share.mm for share in one.shares]
        assert one.worst_mm == pytest.approx(sum(mm))
        assert one.likely_mm == pytest.approx(math.sqrt(sum(m * m for m in mm)))
        assert one.left_mm == pytest.approx(float(limit) - one.likely_mm)
        assert mm == sorted(mm, reverse=True)
        expected = (
            "good" if one.likely_mm <= 0.7 * float(limit) else "unsure" if one.likely_mm <= float(limit) else "out"
        )
        assert one.rating == expected
        assert ("Cannot work" in said(one)) == (one.rating == "out")
    assert ways(wanted(limit="0.1"))["Four-jaw"].rating == "good"
    assert ways(wanted(limit="0.004"))["Four-jaw"].rating == "out"


def test_the_indicator_is_fine_enough_and_travels_or_is_told() -> None:
    assert ways(wanted(limit="0.025"))["Four-jaw"].gauge == "Fine lever"
    assert ways(wanted(limit="0.1"))["Four-jaw"].gauge == "Plunger"  # fine enough, and it travels
    late = COARSE.model_copy(update={"check_due": date(2025, 1, 1)})
    shop = Shop(SHOP.machines, SHOP.holders, (late, FINE), SHOP.stock)
    assert ways(wanted(limit="0.1"), shop)["Four-jaw"].gauge == "Fine lever"
    worn = COARSE.model_copy(update={"check_every": 10, "used": 11})  # by use as well as by its day
    shop = Shop(SHOP.machines, SHOP.holders, (worn, FINE), SHOP.stock)
    assert ways(wanted(limit="0.1"), shop)["Four-jaw"].gauge == "Fine lever"
    alone = Shop(SHOP.machines, SHOP.holders, (late,), SHOP.stock)
    told = said(ways(wanted(limit="0.05"), alone)["Four-jaw"])
    assert "is coarse for this limit" in told
    assert "overdue" in told


@pytest.mark.parametrize("surface", SURFACES)
def test_a_surface_rougher_than_a_third_of_the_limit_is_roughed_in_first(surface: Any) -> None:
    one = ways(wanted(limit="0.4", surface=surface))["Four-jaw"]
    assert ("By rule and feelers first" in said(one)) == (SURFACES[surface][1] > 0.4 / 3)


def test_heavy_hard_and_small_parts_are_held_with_care() -> None:
    heavy = ways(wanted(kg=40.0))["Four-jaw"]
    assert "support under it" in said(heavy)
    assert "hoist or a second person" in heavy.fetch
    assert "on the bench first" in said(ways(wanted(across="40", kg=1.0))["Four-jaw"])
    assert "soft hammer only" in said(ways(wanted(hardened=True))["Four-jaw"])


def test_what_a_holder_did_before_is_told_and_counts() -> None:
    title = PROCEDURES["four_jaw"].title
    records = {f"four {title}": Record(proved=14, held=13, best_mm=0.002, worst_mm=0.01)}
    known = Shop(SHOP.machines, SHOP.holders, SHOP.gauges, SHOP.stock, {"four": Memory(repeat_mm=0.02)}, records)
    one = ways(wanted(), known)["Four-jaw"]
    assert "Proved 14 times, held 13, each to its own limit: 0.002 mm to 0.010 mm." in said(one)
    assert one.shares[0].word == "holder repeats"
    assert one.rating == "out"
    assert "Not proved here yet" in said(ways(wanted())["Four-jaw"])


def test_the_quicker_one_of_two_that_work_stands_first() -> None:
    found = propose(wanted(), SHOP, TODAY)
    good = [one for one in found if one.rating == "good"]
    assert good
    assert [one.rating for one in found] == sorted((one.rating for one in found), key=["good", "unsure", "out"].index)
    assert any(one.expect for one in good)


def test_an_empty_shop_proposes_nothing_and_one_without_indicators_says_so() -> None:
    assert propose(wanted(), Shop((), (), ()), TODAY) == ()
    bare = ways(wanted(), Shop((LATHE,), (CHUCK,), ()))
    assert "No indicator for it" in said(bare["Four-jaw"])
    assert "No machine for it" in said(ways(wanted(), Shop((MILL,), (CHUCK,), (FINE,)))["Four-jaw"])


@pytest.mark.parametrize(
    ("changes", "field"),
    [
        ({"across": "0"}, "across"),
        ({"across": "wide"}, "across"),
        ({"across": "1,000"}, "across"),
        ({"limit": "0"}, "limit"),
        ({"limit": "true"}, "limit"),
        ({"kind": "flat"}, "limit.kind"),
        ({"long": Typed(text="-4", unit="mm")}, "long"),
    ],
)
def test_what_cannot_be_is_told_at_its_field(changes: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as told:
        propose(wanted(**changes), SHOP, TODAY)
    assert told.value.field.startswith(field)


def test_what_the_shop_has_not_got_is_a_list_to_buy() -> None:
    bare = Shop(machines=(LATHE, MILL), holders=(THREE,), gauges=(COARSE,), stock=())
    found = ways(wanted(limit="0.06"), bare)["Three-jaw"]
    listed = [plain(t, "mm", 0.001) for t in found.buy]
    assert any("graduations of 0.015 mm or finer" in line for line in listed)
    assert any("shims" in line for line in listed)
    assert not ways(wanted(limit="0.06"))["Three-jaw"].buy
    nobody = Shop(machines=(), holders=(CHUCK,), gauges=(FINE,))
    assert [plain(t, "mm", 0.001) for t in ways(wanted(), nobody)["Four-jaw"].buy] == [
        PROCEDURES["four_jaw"].needs.machine
    ]


def test_what_is_left_behind_most_easily_is_looked_for_at_the_end() -> None:
    assert "chuck key out of the chuck" in ways(wanted())["Four-jaw"].away
