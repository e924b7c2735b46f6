"""The simulated machines are right by themselves: rigid bodies, contacts, screws, blows, sagging arms."""

from __future__ import annotations

import cmath
import math

import numpy as np
import pytest
from pydantic import TypeAdapter

from tests.core.hand import at
from tests.core.lathe_plans import plan_of
from velvet_hand.core.move import Move
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.procedures.adjustable.plan import AdjustablePlan
from velvet_hand.core.procedures.adjustable.sim import SimulatedAdjustable
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.clocking.sim import SimulatedClocking
from velvet_hand.core.procedures.collet.plan import ColletPlan
from velvet_hand.core.procedures.collet.sim import SimulatedCollet
from velvet_hand.core.procedures.dowels.plan import DowelPlan
from velvet_hand.core.procedures.dowels.sim import SimulatedDowels
from velvet_hand.core.procedures.faceplate.plan import FaceplatePlan
from velvet_hand.core.procedures.faceplate.sim import SimulatedFaceplate
from velvet_hand.core.procedures.packing.plan import PackingPlan
from velvet_hand.core.procedures.packing.sim import SimulatedPacking
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.procedures.shaft.plan import ShaftPlan
from velvet_hand.core.procedures.shaft.sim import SimulatedShaft
from velvet_hand.core.procedures.two_planes.plan import TwoPlanesPlan
from velvet_hand.core.procedures.two_planes.sim import LongWork
from velvet_hand.core.sim.body import Hands, WrongWay
from velvet_hand.core.sim.jaws import Quirks

STILL = Hands()


def rng() -> np.random.Generator:
    return np.random.default_rng(1)


MOVES: TypeAdapter[Move] = TypeAdapter(Move)


def move(do: str, watch: float = 0.0, aim: float | None = None, **own: object) -> Move:
    """A move with nothing in it but what is done, and its aim."""
    needle = {"label": "", "deg": watch, "now_mm": 0.0, "aim_mm": aim, "goes": "falls"}
    nothing = {"pass_no": 1, "title": "", "sentence": (), "reason": (), "needle": needle}
    return MOVES.validate_python({**nothing, "do": do, **own}, strict=False)


def screw(number: int, deg: float, mm: float) -> dict[str, object]:
    return {"number": number, "at_deg": deg, "mm": mm, "key_deg": None}


def plan(procedure: str, **changes: object) -> BasePlan:
    return plan_of(procedure, 0).model_copy(update={"carrier": "work_turns", **changes})


def test_a_blow_moves_the_work_away_and_the_needle_stops_at_the_aim() -> None:
    made = plan("faceplate")
    assert isinstance(made, FaceplatePlan)
    work = SimulatedFaceplate(made, STILL, rng(), at(0.2, 90))
    work.zero(90.0)
    work.do(move("tap_round", at_deg=90, mm=None, watch=90, aim=-0.2))
    assert abs(work.center) < 0.01
    with pytest.raises(WrongWay):
        work.do(move("tap_round", at_deg=90, mm=None, watch=90, aim=0.5))


def test_tightening_kicks_once() -> None:
    made = plan("faceplate")
    work = SimulatedFaceplate(made, Hands(kick=at(0.01, 0)), rng(), 0j)
    work.tighten()
    work.tighten()
    assert work.center == pytest.approx(at(0.01, 0))
    assert work.true_tir_mm == pytest.approx(0.02)


@pytest.mark.parametrize(("follows", "way"), [("toward", 1), ("away", -1)])
def test_a_body_goes_to_or_from_its_screw_and_stops_at_its_range(follows: str, way: int) -> None:
    chuck = plan("adjustable").holder.model_copy(update={"jaws": 4, "follows": follows, "clearance_mm": 0.1})
    made = plan("adjustable", holder=chuck)
    assert isinstance(made, AdjustablePlan)
    body = SimulatedAdjustable(made, STILL, rng(), 0j)
    body.zero(0.0)
    body.do(move("screws", turns=[screw(3, 180, -0.05), screw(1, 0, 0.05)], watch=0, aim=0.05 * way))
    assert body.center.real == pytest.approx(0.05 * way, abs=1e-3)
    body.do(move("screws", turns=[screw(3, 180, -0.5), screw(1, 0, 0.5)], watch=0, aim=0.5 * way))
    assert abs(body.went) == pytest.approx(0.1)


def test_bolted_a_third_on_the_chuck_turns_a_third() -> None:
    made = plan("clocking", bolts=3)
    assert isinstance(made, ClockingPlan)
    chuck = SimulatedClocking(made, STILL, rng(), at(0.02, 0), at(0.02, 60))
    assert chuck.best_tir_mm == pytest.approx(0.0, abs=1e-9)
    chuck.do(move("clock", thing="chuck", position=2, at_deg=120))
    assert chuck.astray == pytest.approx(at(0.02, 0) + at(0.02, 180))


@pytest.mark.parametrize("width", [0.0, 12.0, 60.0])
def test_three_jaws_close_where_all_of_them_touch(width: float) -> None:
    three = plan("packing").holder.model_copy(update={"jaw_width_mm": width, "numbering": "ccw"})
    made = plan("packing", holder=three, throw_mm=0.0)
    assert isinstance(made, PackingPlan)
    true = SimulatedPacking(made, STILL, rng(), (0.0, 0.0, 0.0))
    assert abs(true.center) < 1e-6
    true.do(move("shim", measure="jaws", packets=[{"number": 1, "name": "jaw 1", "mm": 0.3}]))
    assert true.center.real == pytest.approx(-0.2, abs=2e-3)  # two thirds of the shim, away from it
    assert abs(true.center.imag) < 1e-6
    true.do(move("shim", measure="jaws", packets=[{"number": 1, "name": "jaw 1", "mm": 0.0}]))
    assert abs(true.center) < 1e-6


def test_a_collet_turns_its_part_with_it_in_both_planes() -> None:
    made = plan("collet", positions_deg=(0.0, 180.0))
    assert isinstance(made, ColletPlan)
    nose = SimulatedCollet(made, STILL, rng(), (at(0.01, 0), at(0.02, 0)), (at(0.01, 0), at(0.02, 0)))
    assert nose.circle("n0-").center == pytest.approx(at(0.02, 0))
    assert nose.circle("f1-").center == pytest.approx(0j, abs=1e-12)
    assert nose.at(180) == pytest.approx(0, abs=1e-12)
    assert nose.true_tir_mm == pytest.approx(0, abs=1e-12)


def test_a_bent_shaft_stands_off_the_line_through_its_ends() -> None:
    made = plan("shaft")
    assert isinstance(made, ShaftPlan)
    ends = (at(0.01, 0), at(0.01, 180))
    shaft = SimulatedShaft(made, STILL, rng(), at(0.05, 90), 200.0, ends, {})
    assert shaft.off(0) == shaft.off(len(shaft.z) - 1) == 0
    assert shaft.off(2) == pytest.approx(at(0.05, 90))
    assert shaft.circle("z0-").center == pytest.approx(ends[0])
    assert shaft.true_tir_mm == pytest.approx(0.1)


def test_a_turn_read_as_a_swing_is_twice_the_offset_at_its_high_spot() -> None:
    made = plan("shaft", noted="high")
    assert isinstance(made, ShaftPlan)
    shaft = SimulatedShaft(made, STILL, rng(), at(0.05, 90), 200.0, (0j, 0j), {})
    from velvet_hand.core.procedures.shaft.procedure import PROCEDURE as SHAFT

    by_id = {s.id: s for s in SHAFT.stations(made)}
    assert shaft.read(by_id["z2-swing"]) == pytest.approx(0.1, abs=0.002)
    high = float(str(shaft.read(by_id["z2-high"])))
    assert abs(high - 90) < 8


def test_an_arm_that_sags_sees_the_bar_and_the_bore_too_high() -> None:
    made = plan("dowels", sag="swept", carrier="gauge_turns")
    assert isinstance(made, DowelPlan)
    housing = SimulatedDowels(made, STILL, rng(), 0j, 0.02)
    assert housing.needle(90, "bar-") - housing.needle(270, "bar-") == pytest.approx(0.04, abs=1e-4)
    assert housing.needle(90, "bore-") - housing.needle(270, "bore-") == pytest.approx(-0.04, abs=1e-4)
    housing.do(move("swap", mm=0.1, at_deg=30))
    assert housing.true_tir_mm == pytest.approx(0.2)
    assert abs(math.degrees(cmath.phase(housing.center)) - 30) < 2


def test_a_lean_shows_more_the_farther_out_it_is_read() -> None:
    made = plan("two_planes", near_z_mm=20.0, far_z_mm=120.0, far_gauge=None)
    assert isinstance(made, TwoPlanesPlan)
    work = LongWork(made, Quirks(offset_mm=0, offset_deg=0, tilt=at(0.001, 0)), rng())
    assert work.circle("near").center == pytest.approx(at(0.02, 0))
    assert work.circle("far").center == pytest.approx(at(0.12, 0))
    work.zero(0.0)
    work._zero["far"] = work.needle(0.0, "far")
    work.do(move("tap_round", at_deg=0, mm=None, watch=0, aim=-0.12))
    assert abs(work.circle("far").center) < 0.01


def test_a_steep_lever_shows_too_much() -> None:
    lever = plan("faceplate").gauge.model_copy(update={"kind": "lever"})
    made = plan("faceplate", gauge=lever, stylus_deg=60.0, gauge_clock_deg=0.0)
    work = SimulatedFaceplate(made, STILL, rng(), at(0.1, 0))
    assert work.needle(0.0) - work.needle(180.0) == pytest.approx(0.4, rel=1e-3)


@pytest.mark.parametrize(
    "procedure", ["rough", "two_planes", "throw", "clocking", "packing", "shaft", "dowels", "collet"]
)
def test_the_same_number_makes_the_same_machine(procedure: str) -> None:
    made = plan_of(procedure, 3)
    one, two = (machine(made, np.random.default_rng(3)) for _ in range(2))
    assert one.true_tir_mm == two.true_tir_mm
    assert machine(made, np.random.default_rng(4)).true_tir_mm != one.true_tir_mm
