"""The simulated machines of the mill are rigid bodies: exact where geometry has an answer, and blind to the procedures."""

from __future__ import annotations

import cmath
import math
from dataclasses import replace
from typing import Any, Literal

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.lathe_plans import plan_of
from velvet_hand.core.fit.beam import droop_mm, tail_ratio
from velvet_hand.core.move import Handle, Needle, Tap
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.bed.plan import BedPlan
from velvet_hand.core.procedures.bed.sim import SimulatedBed
from velvet_hand.core.procedures.centre.plan import CentrePlan
from velvet_hand.core.procedures.centre.sim import SimulatedCentre
from velvet_hand.core.procedures.column.plan import ColumnPlan
from velvet_hand.core.procedures.column.sim import SimulatedColumn
from velvet_hand.core.procedures.plate.plan import HeightsPlan
from velvet_hand.core.procedures.plate.sim import SimulatedPlate
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.procedures.vises.plan import VisePairPlan
from velvet_hand.core.procedures.vises.sim import SimulatedPair
from velvet_hand.core.readings import Station
from velvet_hand.core.sim.body import Hands, WrongWay
from velvet_hand.core.sim.table import Edge, Pose, SimulatedEdge, random_edge, said_way, touch
from velvet_hand.core.wording import text

SURE = Hands(noise_mm=0.0, stop_mm=0.0, gain=1.0)


def dice() -> np.random.Generator:
    return np.random.default_rng(7)


def edge_of(seed: int, turn: float = 0.0, swing: complex = 14 - 40j, **more: Any) -> SimulatedEdge:
    plan = plan_of("vise", seed)
    assert isinstance(plan, EdgeBase)
    plan = plan.model_copy(update={"target_deg": 0.0, "unit": "mm", "read_on": "jaw", **more})
    return SimulatedEdge(plan, SURE, dice(), swing=swing, turn=turn, edge=Edge(length_mm=160), wander_mm=0.0)


def spot(x: float, y: float = 0.0, ring: str = "", key: str = "s1") -> Station:
    return Station(id=key, label=key, angle_deg=0.0, x_mm=x, y_mm=y, ring=ring)


def blow(sentence: str, at: float, aim: float, watch: float) -> Tap:
    needle = Needle(station_id="s1", label="there", x_mm=watch, now_mm=None, aim_mm=aim, goes="rises")
    return Tap(
        pass_no=1, x_mm=at, toward=True, mm=None, needle=needle, title="", sentence=text(sentence), reason=()
    )  # fmt: skip


# -- poses and edges ---------------------------------------------------------------------------


@given(
    x=st.floats(-100, 100),
    y=st.floats(-100, 100),
    turn=st.floats(-0.2, 0.2),
    about=st.complex_numbers(max_magnitude=200),
)
def test_a_turn_keeps_its_own_point_and_every_distance(x: float, y: float, turn: float, about: complex) -> None:
    pose = Pose(3 + 4j, 0.1)
    after = pose.turned(about, turn)
    a, b = complex(x, y), complex(y, -x)
    assert abs(after.place(a) - after.place(b)) == pytest.approx(abs(a - b), abs=1e-9)
    own = (about - pose.origin) * cmath.exp(-1j * pose.turn)  # the body's point that lies at the pivot
    assert abs(after.place(own) - about) < 1e-9
    assert abs(pose.shifted(2 - 1j).place(a) - pose.place(a) - (2 - 1j)) < 1e-12


@given(turn=st.floats(-0.05, 0.05), at=st.floats(0, 150))
def test_the_gauge_touches_a_straight_turned_edge_where_its_ray_meets_it(turn: float, at: float) -> None:
    pose = Pose(0j, turn)
    assert touch(lambda x: pose.place(complex(x, 0.0)), at) == pytest.approx(at * math.tan(turn), abs=1e-9)


@pytest.mark.parametrize("lies", ["across", "along"])
@pytest.mark.parametrize("side", ["near", "far"])
def test_a_counter_clockwise_turn_brings_the_end_that_the_plan_says(lies: str, side: str) -> None:
    machine = edge_of(0, turn=0.002, lies=lies, gauge_side=side)
    rise = machine.nearness(150 + 0j) - machine.nearness(10 + 0j)
    assert rise / 140 == pytest.approx(machine.edge_plan.turn_sign * 0.002, rel=1e-3)


def test_a_bow_and_a_ripple_stand_out_toward_the_gauge_on_either_side() -> None:
    for side in ("near", "far"):
        machine = edge_of(0, gauge_side=side)
        machine.edge = Edge(bow_mm=0.02, length_mm=160)
        assert machine.nearness(80 + 0j) - machine.nearness(0j) == pytest.approx(0.02, abs=1e-6)
    assert Edge(ripple_mm=0.01, wave_mm=40).out(10) == pytest.approx(0.005 + Edge().out(10))


def test_two_rods_of_one_size_read_as_the_jaw_and_a_thicker_one_stands_out() -> None:
    machine = edge_of(0, turn=0.003, spots_mm=(14.0, 146.0))
    bare = machine.nearness(146 + 0j) - machine.nearness(14 + 0j)
    machine.rods_mm = (12.0, 12.0)
    assert machine.nearness(146 + 0j) - machine.nearness(14 + 0j) == pytest.approx(bare, abs=1e-5)
    machine.rods_mm = (12.0, 12.05)
    assert machine.nearness(146 + 0j) - machine.nearness(14 + 0j) == pytest.approx(bare + 0.05, abs=1e-5)


@pytest.mark.parametrize(
    ("lies", "way", "sign"),
    [
        ("across", "away from you", -1),
        ("across", "toward you", 1),
        ("along", "to the left", -1),
        ("along", "to the right", 1),
    ],
)
def test_a_tap_turns_it_the_way_of_its_moment_about_the_swing_point(lies: str, way: str, sign: int) -> None:
    machine = edge_of(0, lies=lies, gauge_side="near")
    far, near = machine.nearness(150 + 0j), machine.nearness(14 + 0j)
    machine.zero(spot(150))
    machine.do(blow(f"Tap the corner {way}.", 150, sign * 0.1 * machine.hands.push_reads, 150))
    assert machine.nearness(150 + 0j) - far == pytest.approx(sign * 0.1, abs=0.01)
    assert abs(machine.nearness(14 + 0j) - near) < 0.01  # it swings about the bolt there


def test_what_is_tapped_springs_back_and_what_goes_the_wrong_way_is_caught() -> None:
    machine = edge_of(0)
    machine.hands = replace(SURE, gain=0.8)
    machine.zero(spot(150))
    machine.do(blow("Tap the corner toward you.", 150, 0.1, 150))
    assert machine.nearness(150 + 0j) == pytest.approx(0.08, abs=0.01)
    with pytest.raises(WrongWay):
        edge_of(0).do(blow("Tap the corner away from you.", 150, 0.3, 150))


def test_the_way_has_to_be_said_once_and_plainly() -> None:
    assert said_way(blow("Tap it toward you.", 0, 0, 0)) == -1j
    for sentence in ("Tap it.", "Tap it toward you, no, away from you."):
        with pytest.raises(AssertionError):
            said_way(blow(sentence, 0, 0, 0))


def test_pulling_down_turns_and_shifts_it_once() -> None:
    machine = edge_of(0)
    machine.kick_turn, machine.hands = 1e-4, replace(SURE, kick=0.2 + 0.1j)
    machine.tighten()
    assert machine.pose.turn - machine.square == pytest.approx(1e-4, rel=0.8)
    before = machine.pose
    machine.tighten()
    assert machine.pose == before


def test_every_random_start_can_be_read_by_its_gauge() -> None:
    for seed in range(40):
        plan = plan_of("vise", seed)
        assert isinstance(plan, EdgeBase)
        machine = random_edge(plan, np.random.default_rng(seed))
        assert machine.true_tir_mm > plan.limit.mm
        machine.zero(spot(plan.spots_mm[0]))
        assert isinstance(machine.read(spot(plan.spots_mm[-1])), float)


# -- beds, pairs, plates, columns ----------------------------------------------------------------


def bed(tilt: tuple[float, float] = (0.0, 0.0), **more: Any) -> SimulatedBed:
    plan = plan_of("bed", 0).model_copy(update={"unit": "mm", "parallels_differ_mm": 0.0, **more})
    assert isinstance(plan, BedPlan)
    corners = ((0.0, 0.0), (160.0, 0.0), (0.0, 110.0), (160.0, 110.0))
    return SimulatedBed(plan, corners, tilt, hands=SURE, rng=dice(), swing=14 - 40j, turn=0.0, edge=Edge(length_mm=160))


def test_a_base_on_bare_corners_lies_as_it_is_made_and_shims_lift_it() -> None:
    machine = bed((0.0003, -0.0002))
    assert machine.nearness(100 + 50j, "bed-") == pytest.approx(0.03 - 0.01)
    machine.shims = [0.048, 0.0, 0.048, 0.0]  # both left corners: the rise to the right goes
    assert machine.nearness(145 + 15j, "bed-") == pytest.approx(machine.nearness(15 + 15j, "bed-"), abs=1e-9)
    level = bed((0.0, 0.0))
    assert level.off_level_mm == 0.0
    level.shims = [0.01, 0.01, 0.01, 0.01]
    assert level.off_level_mm == pytest.approx(0.0, abs=1e-9)


def test_one_thick_shim_makes_it_rock_and_only_three_carry() -> None:
    machine = bed()
    machine.shims = [0.04, 0.0, 0.0, 0.0]
    lies = machine.lies()
    heights = [float(lies @ np.array([1.0, x, y])) for x, y in machine.corners]
    gaps = [h - s for h, s in zip(heights, machine.shims, strict=True)]
    assert min(gaps) >= -1e-9
    assert sum(g < 1e-9 for g in gaps) >= 2


def test_the_taller_parallel_is_read_with_the_bed() -> None:
    machine = bed(parallels_differ_mm=0.01)
    assert machine.nearness(15 + 90j, "bed-") - machine.nearness(15 + 15j, "bed-") == pytest.approx(0.01)
    assert machine.off_level_mm == 0.0  # but the bed itself is level


def pair(**more: Any) -> SimulatedPair:
    plan = plan_of("vises", 0).model_copy(
        update={
            "unit": "mm",
            "target_deg": 0.0,
            "lies": "across",
            "gauge_side": "near",
            "second": "vise",
            "bar": "through",
            **more,
        }
    )
    assert isinstance(plan, VisePairPlan)
    return SimulatedPair(plan, SURE, dice(), (0.0005, 0.0005), 0.0, (0.0, 0.0), 0.03)


def test_a_bar_makes_one_of_two() -> None:
    machine = pair()
    apart = abs(machine.poses[1].place(0j) - machine.poses[0].place(0j))
    machine.zero(spot(410))
    machine.do(blow("Right vise: tap the corner toward you, up to the aim.", 410, 0.2 * machine.hands.push_reads, 410))
    assert abs(machine.poses[1].place(0j) - machine.poses[0].place(0j)) == pytest.approx(apart)
    assert machine.poses[0].turn == pytest.approx(machine.poses[1].turn)


def test_without_it_each_goes_by_itself_and_a_slide_keeps_the_slope() -> None:
    machine = pair(bar="none")
    left = machine.poses[0]
    machine.zero(spot(340))
    before = machine.nearness(340 + 0j)
    machine.do(blow("Slide the whole right vise toward you.", 340, 0.1 * machine.hands.push_reads, 340))
    assert machine.poses[0] == left
    assert machine.poses[1].turn == pytest.approx(left.turn, abs=1e-4)
    assert machine.nearness(340 + 0j) - before == pytest.approx(0.1, abs=0.002)


def test_the_range_over_both_is_what_is_true() -> None:
    machine = pair(bar="none")
    machine.poses = [Pose(0j, machine.square), Pose(260 + 0j, machine.square)]
    assert machine.true_tir_mm == pytest.approx(0.0, abs=1e-9)
    machine.poses[1] = machine.poses[1].shifted(0.04j)
    assert machine.true_tir_mm == pytest.approx(0.04)
    machine.poses[0] = Pose(0j, machine.square).turned(0j, 0.001)
    assert machine.true_tir_mm == pytest.approx(0.16, abs=1e-6)  # the left one's far end


def plate(**more: Any) -> SimulatedPlate:
    plan = plan_of("plate", 0).model_copy(update={"unit": "mm", "blocks_differ_mm": 0.0, **more})
    assert isinstance(plan, HeightsPlan)
    return SimulatedPlate(plan, SURE, dice(), taper=(0.02, 0.0), bow=0.0, twist=0.0, marks=0.0, seat=(0.004, 0.004))


def test_turned_over_a_taper_changes_sides_and_a_seat_does_not() -> None:
    machine = plate()
    wide = machine.face.width_mm
    up = machine.nearness(complex(wide, 0), "g-") - machine.nearness(0j, "g-")
    over = machine.nearness(complex(wide, 0), "inv-") - machine.nearness(0j, "inv-")
    assert (up, over) == pytest.approx((0.024, -0.016))
    assert (up - over) / 2 == pytest.approx(0.02)
    assert (up + over) / 2 == pytest.approx(0.004)


def test_tool_marks_are_never_the_same_twice() -> None:
    machine = plate()
    machine.marks = 0.002
    seen = {machine.nearness(5 + 5j, "g-") for _ in range(5)}
    assert len(seen) == 5
    assert machine.true_tir_mm == plate().true_tir_mm  # the truth leaves them out


def column(**more: Any) -> SimulatedColumn:
    plan = plan_of("column", 0).model_copy(update={"unit": "mm", "bolts": 3, "sag_mm": 0.0, **more})
    assert isinstance(plan, ColumnPlan)
    return SimulatedColumn(
        plan, SURE, dice(), axis=(1e-4, -2e-4), bar=(5e-5, 5e-5), offset=0.01 + 0j, own=2e-4 + 0j, seat=0j, tail=0.02 + 0.03j, softness=1.0,
    )  # fmt: skip


def test_a_shim_leans_it_away_from_the_side_that_is_lifted() -> None:
    machine = column()
    machine.shims = [0.0045, 0.0, 0.0]
    assert machine.seat.real == pytest.approx(-0.0045 / (45 * 1.5), rel=1e-6)
    assert machine.seat.imag == pytest.approx(0.0, abs=1e-12)
    assert machine.circle("far-").center.real == pytest.approx(0.01 + (2e-4 + machine.seat.real) * 250)


def test_droop_is_integrated_and_agrees_with_the_book() -> None:
    machine = column()
    for z in (60.0, 230.0):
        assert machine._droop(z) == pytest.approx(
            droop_mm(machine.column.bar_far_mm, z, machine.column.bar_diameter_mm), rel=0.02
        )


@pytest.mark.parametrize(("gives", "softness"), [("tips", 1.0), ("bends", 0.0)])
@pytest.mark.parametrize("center", [260.0, 280.0, 400.0])
def test_what_the_gauge_sees_of_a_push_is_one_over_the_ratio(gives: str, softness: float, center: float) -> None:
    machine = column(centre_z_mm=center)
    machine.softness = softness
    assert machine.influence * tail_ratio(center, machine.column.far_z_mm, gives) == pytest.approx(1.0)  # type: ignore[arg-type]


def test_the_bar_turned_half_over_leans_the_other_way() -> None:
    machine = column(bar="yes", bar_taper_mm=0.0)
    span = machine.column.bar_far_mm - machine.column.bar_near_mm
    rise = {}
    for turn in (0, 180):
        ends = []
        for where in ("near", "far"):
            at, ring = machine.spot(Station(id=f"bar-side-{where}-{turn}", label="x", angle_deg=0.0, ring="bar-"))
            ends.append(machine.nearness(at, ring))
        rise[turn] = (ends[1] - ends[0]) / span
    assert (rise[0] + rise[180]) / 2 == pytest.approx(-2e-4)
    assert (rise[0] - rise[180]) / 2 == pytest.approx(5e-5)


@pytest.mark.parametrize(("x", "y"), [("right", "away"), ("left", "away"), ("right", "toward"), ("left", "toward")])
@pytest.mark.parametrize("hand", ["clockwise", "counter-clockwise"])
def test_a_handle_moves_the_table_the_way_that_was_said_of_it(x: str, y: str, hand: str) -> None:
    plan = plan_of("centre", 0).model_copy(update={"x_clockwise": x, "y_clockwise": y})
    assert isinstance(plan, CentrePlan)
    axes: tuple[tuple[Literal["X", "Y"], bool], ...] = (("X", x == "right"), ("Y", y == "away"))
    for axis, plus in axes:
        machine = SimulatedCentre(plan, SURE, dice(), 0j)
        machine.zero(0.0 if axis == "X" else 90.0)
        goes_plus = plus == (hand == "clockwise")
        aim = 0.1 if goes_plus else -0.1
        if plan.part.surface == "inside":
            aim = -aim
        needle = Needle(label="", deg=0.0 if axis == "X" else 90.0, now_mm=0.0, aim_mm=aim, goes="rises")
        move = Handle(
            pass_no=1, axis=axis, at_deg=0.0, mm=0.1, turn_deg=0.0, needle=needle, title="", reason=(),
            sentence=text(f"Turn the {axis} handle {hand} until"),
        )  # fmt: skip
        machine.do(move)
        along = machine.center.real if axis == "X" else machine.center.imag
        assert along == pytest.approx(0.1 if goes_plus else -0.1, abs=1e-3)


@pytest.mark.parametrize("procedure", ["vise", "bed", "edge", "rod", "centre", "vises", "plate", "column"])
def test_the_same_dice_make_the_same_machine(procedure: str) -> None:
    plan = plan_of(procedure, 5)
    one, two = (machine(plan, np.random.default_rng(5)) for _ in range(2))
    assert one.true_tir_mm == two.true_tir_mm
    assert type(one) is type(two)
