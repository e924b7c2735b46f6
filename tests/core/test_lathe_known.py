"""Known answers of the lathe's procedures, checked against exact positions of circles and lines."""

from __future__ import annotations

import cmath
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.hand import THREE, Hand, at, outside
from tests.core.lathe_plans import SHIMS, common, plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.fit.packing import centre_after, choose_packing, exact_shims
from velvet_hand.core.holders import AdjustableBody, FourJaw, ThreeJaw
from velvet_hand.core.move import Screws, Shim
from velvet_hand.core.procedures.adjustable.plan import AdjustablePlan
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.throw.plan import ThrowPlan
from velvet_hand.core.procedures.throw.procedure import jaw_opening
from velvet_hand.core.procedures.two_planes.plan import TwoPlanesPlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.example import held
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain


def test_jaw_openings_of_a_throw_for_wide_and_for_narrow_jaws() -> None:
    part = plan_of("throw", 0).part.model_copy(update={"diameter": Typed(text="40", unit="mm")})
    wide = ThrowPlan(**common(0, part=part, holder=held(FourJaw, jaw_width_mm=20)), throw_mm=3, throw_deg=20)
    narrow = wide.model_copy(update={"holder": held(FourJaw)})
    assert [round(jaw_opening(wide, j), 3) for j in (1, 2, 3, 4)] == [22.819, 21.026, 17.181, 18.974]
    assert [round(jaw_opening(narrow, j), 3) for j in (1, 2, 3, 4)] == [22.793, 20.826, 17.155, 18.774]


def test_a_square_is_read_on_its_flats_whatever_their_sizes() -> None:
    plan = plan_of("throw", 2).model_copy(update={"throw_mm": 0.0, "stations_deg": (0.0, 90.0, 180.0, 270.0)})
    hand = Hand(plan)
    for station, mm in (("s1", 0.18), ("s2", -0.05), ("s3", -0.04), ("s4", 0.11)):
        hand._read(1, station, mm)
    solution = hand.solve()
    assert (solution.x_mm, solution.y_mm) == pytest.approx((0.11, -0.08))


def test_a_throw_that_is_right_needs_no_move_and_its_direction_is_judged_sideways() -> None:
    hand = Hand(outside("throw", throw_mm=3.0, throw_deg=20.0))
    hand.read(at(3.0, 20.0))
    assert (hand.solve().moves, hand.solve().ready) == ((), True)
    assert hand.figure("throw") == pytest.approx(3.0, abs=0.06)  # small readings of a linear gauge on a round part
    turned = Hand(outside("throw", throw_mm=1.0, throw_deg=20.0, shape="flats"))
    turned.read(at(1.0, 25.0))
    judged = turned.solve().judged
    assert judged is not None
    assert (judged.kind, judged.outcome) == ("sideways", "outside")
    assert judged.value_mm == pytest.approx(math.sin(math.radians(5)), abs=1e-3)


def test_two_planes_give_tilt_jaw_move_and_tap() -> None:
    plan = outside("two_planes", near_z_mm=35.0, far_z_mm=135.0, far_gauge=None)
    assert isinstance(plan, TwoPlanesPlan)
    e1, e2 = at(0.060, 20), at(0.110, 65)
    hand = Hand(plan)
    hand.read({"near": e1, "far": e2})
    tilt = (e2 - e1) / 100
    need = e1 - tilt * 35
    moves = hand.solve().moves
    assert [m.do for m in moves] == ["tap_round", "jaws", "jaws"]  # all from one pass, the lean first
    got = sum(there(m.asked).mm * at(1, there(m.asked).deg) for m in moves[1:])
    assert got == pytest.approx(-need, abs=2e-3)
    assert abs(there(moves[0].asked).mm) == pytest.approx(abs(tilt) * 135, rel=1e-3)
    assert abs(need) == pytest.approx(0.0603, abs=2e-4)
    level = Hand(plan)
    level.read({"near": tilt * 35, "far": tilt * 135})
    tap = level.solve().moves[0]
    assert tap.do == "tap_round"
    assert there(tap.asked).mm == pytest.approx(abs(tilt) * 135, rel=1e-3)
    assert (there(tap.asked).deg - math.degrees(cmath.phase(-tilt)) + 180) % 360 - 180 == pytest.approx(0, abs=0.5)
    assert level.panel().scene.kind == "shaft_axis"


def test_a_tube_that_tightening_squeezes_is_told() -> None:
    plan = outside("two_planes", thin="tube", stations_deg=tuple(45.0 * i for i in range(8)), far_gauge=None)
    hand = Hand(plan)
    hand.read({"near": 0j, "far": 0j})
    hand.send(ev.StepPassed(step="read"))
    hand.send(ev.Tightened())
    for station in desk.load(hand.events).asked():
        oval = 0.01 * math.cos(math.radians(2 * station.angle_deg)) if station.ring == "near" else 0.0
        hand._read(2, station.id, oval)
    assert "squeezed" in [c.code for c in hand.solve().caveats]


def test_screws_of_an_adjustable_body_go_the_way_its_body_follows() -> None:
    chuck = held(AdjustableBody, jaws=3, lead_mm=1.0, clearance_mm=0.4)
    plan = outside("adjustable", holder=chuck)
    assert isinstance(plan, AdjustablePlan)
    hand = Hand(plan)
    hand.read(at(0.040, -15))  # 75 degrees seen from a chuck whose screw 1 stands at 90
    acts = {t.number: (t.mm, t.key_deg) for t in as_a(Screws, hand.solve().moves[0]).turns}
    assert acts[1][0] == pytest.approx(-0.0386, abs=1e-4)
    assert acts[2][0] == pytest.approx(0.0283, abs=1e-4)
    assert acts[3][0] == pytest.approx(0.0104, abs=1e-4)
    assert acts[1][1] == pytest.approx(13.9, abs=0.1)
    assert (as_a(Screws, hand.solve().moves[0]).turns[0].mm or 0.0) < 0  # what loosens comes first
    away = Hand(outside("adjustable", holder=chuck.model_copy(update={"follows": "away"})))
    away.read(at(0.040, -15))
    assert {t.number: there(t.mm) > 0 for t in as_a(Screws, away.solve().moves[0]).turns}[1]


def test_beyond_the_bodys_range_it_goes_to_the_limit_and_says_what_is_left() -> None:
    chuck = held(AdjustableBody, jaws=4, lead_mm=1.0, clearance_mm=0.3)
    hand = Hand(outside("adjustable", holder=chuck))
    hand.read(at(0.5, 0))
    assert there(hand.solve().moves[0].asked).mm == pytest.approx(0.3, abs=1e-3)
    told = next(c for c in hand.solve().caveats if c.code == "range")
    assert "0.400 mm" in plain(told.text, "mm", 0.0005)


def test_clocking_predicts_every_position_and_names_the_best() -> None:
    plan = outside("clocking", bolts=3, way="every")
    assert isinstance(plan, ClockingPlan)
    hand = Hand(plan)
    plate, chuck = at(0.022, 60), at(0.017, 200)
    hand.read({"plate": plate, "whole": plate + chuck})
    scene = hand.panel().scene
    assert scene.kind == "clock_wheel"
    assert [round(p.tir_mm, 4) for p in scene.positions] == [0.0283, 0.0507, 0.0768]
    assert hand.solve().moves == ()  # it stands at its best already
    worse = Hand(plan)
    worse.read({"plate": plate, "whole": plate + chuck * at(1, 120)})
    assert "position 3" in worse.said()
    assert there(worse.solve().moves[0].expects).mm == pytest.approx(0.0283, abs=2e-4)
    assert worse.panel().expect == worse.solve().moves[0].expects


def test_in_the_second_pass_the_register_is_not_asked_for_again() -> None:
    hand = Hand(outside("clocking", bolts=3))
    plate, chuck = at(0.022, 60), at(0.017, 320)
    hand.read({"plate": plate, "whole": plate + chuck})
    move = hand.solve().moves[0]
    hand.send(ev.MoveDone(pass_no=1, move_id=move.id))
    assert {s.ring for s in desk.load(hand.events).asked()} == {"whole"}


def test_shims_for_runout_and_for_a_throw_are_exact_for_the_width_of_the_jaws() -> None:
    def first(radius: float, throw: float, width: float) -> float:
        return round(exact_shims(0j, -throw + 0j, THREE, (0, 0, 0), radius, width)[0], 3)

    assert first(18, 2.5, 40) == 3.75
    assert first(18, 2.5, 0.0) == 3.619
    assert first(18, 2.5, 4.0) == 3.749


def test_from_the_drawer_the_two_shims_that_come_nearest() -> None:
    found = choose_packing(at(0.070, 25), 0j, THREE, (0, 0, 0), 18, 40, {0.025: 2, 0.05: 2, 0.1: 2})
    assert [round(s, 4) for s in found.shims_mm] == [0.125, 0.05, 0]
    assert 2 * abs(found.center) == pytest.approx(0.0066, abs=2e-4)


@given(st.floats(0, 0.2), st.floats(0, 360), st.sampled_from([0.0, 6.0, 40.0]), st.floats(10, 40))
def test_exact_shims_bring_the_centre_where_it_is_wanted(e: float, deg: float, width: float, radius: float) -> None:
    shims = exact_shims(at(e, deg), 0j, THREE, (0, 0, 0), radius, width)
    assert min(shims) == 0
    assert abs(centre_after(at(e, deg), (0, 0, 0), shims, THREE, radius, width)) < 1e-6


def test_packing_names_the_jaw_where_the_surface_stands_high() -> None:
    hand = Hand(outside("packing", holder=held(ThreeJaw, jaw_width_mm=40), stock=SHIMS, throw_mm=0.0))
    hand.read(at(0.05, 0))
    move = hand.solve().moves[0]
    assert [p.number for p in as_a(Shim, move).packets] == [1]
    assert as_a(Shim, move).packets[0].mm == pytest.approx(0.075)
    scene = hand.panel().scene
    assert scene.kind == "chuck_face"
    assert [j.jaw for j in scene.jaws if j.do == "shim"] == [1]
