"""Known answers of the mill's procedures: lines, swing points, shims, steps, plates and columns, worked out by hand."""

from __future__ import annotations

import math
from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.at_the_mill import AtTheMill, along, mill
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.fit.beam import droop_mm, tail_ratio
from velvet_hand.core.fit.line import crossing, fit_line
from velvet_hand.core.fit.plane import choose_shims, exact_shims, fit_plane, rest_on
from velvet_hand.core.move import Shim
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.procedures.vise.procedure import Vise
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Piece
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain


@given(
    slope=st.floats(-0.01, 0.01), level=st.floats(-1, 1), bad=st.integers(0, 5), off=st.sampled_from([-0.2, 0.15, 0.3])
)
def test_one_bad_spot_on_an_edge_is_named_and_left_out(slope: float, level: float, bad: int, off: float) -> None:
    x = (0.0, 25.0, 60.0, 90.0, 120.0, 150.0)
    h = tuple(level + slope * a + (off if i == bad else 0.0) + 0.0004 * (-1) ** i for i, a in enumerate(x))
    found = fit_line(x, h, 0.0005)
    assert found.left_out == (bad,)
    assert found.slope == pytest.approx(slope, abs=2e-5)


def test_a_bent_edge_is_not_called_a_bad_spot() -> None:
    x = tuple(float(i) for i in range(0, 160, 20))
    bowed = fit_line(x, tuple(0.02 * (1 - (2 * a / 140 - 1) ** 2) for a in x), 0.0005)
    assert bowed.left_out == ()
    assert bowed.zone_mm == pytest.approx(0.02, abs=0.002)


@given(x=st.floats(-50, 200), turn=st.floats(0.0005, 0.01), level=st.floats(-0.5, 0.5))
def test_two_lines_of_one_edge_cross_where_it_swung(x: float, turn: float, level: float) -> None:
    spots = (0.0, 50.0, 100.0, 150.0)
    before = fit_line(spots, tuple(level + 0.004 * a for a in spots), 0.0005)
    after = fit_line(spots, tuple(level + 0.004 * a - turn * (a - x) for a in spots), 0.0005)
    found = crossing(before, after)
    if found is not None:
        assert found[0] == pytest.approx(x, abs=0.01)
        assert found[1] > 0
    assert crossing(before, before) is None


def test_three_supports_get_exact_shims_and_four_do_not_rock() -> None:
    three = ((0.0, 0.0), (100.0, 0.0), (50.0, 80.0))
    assert [round(p, 4) for p in exact_shims(three, 0.00019, 0.0004125)] == [0.0425, 0.0235, 0.0]
    stock = tuple(Piece(mm=mm, count=4) for mm in (0.01, 0.02, 0.05))
    found = choose_shims(three, 0.00019, 0.0004125, (50.0, 27.0), stock)
    assert found is not None
    lies = [found.a * x + found.b * y for x, y in three]
    assert max(lies) - min(lies) <= 0.005
    four = ((0.0, 0.0), (100.0, 0.0), (0.0, 80.0), (100.0, 80.0))
    square = choose_shims(four, 0.0002, -0.0003, (50.0, 40.0), stock)
    assert square is not None
    assert square.gap_mm < 0.006
    assert choose_shims(four, 0.001, 0.0, (50.0, 40.0), ()) is None


@given(h=st.lists(st.floats(0, 0.2), min_size=4, max_size=4))
def test_a_base_rests_on_three_and_nothing_sticks_through(h: list[float]) -> None:
    four = ((0.0, 0.0), (100.0, 0.0), (0.0, 80.0), (100.0, 80.0))
    found = rest_on(four, h, (52.0, 41.0))
    assert found is not None
    a, b, gap = found
    plane = [a * x + b * y for x, y in four]
    lift = max(z - p for z, p in zip(h, plane, strict=True))
    gaps = sorted(lift + p - z for z, p in zip(h, plane, strict=True))
    assert gaps[0] >= -1e-9
    assert gaps[2] == pytest.approx(0.0, abs=1e-5)
    assert gaps[3] == pytest.approx(gap, abs=1e-5)


def test_places_on_one_line_make_no_plane() -> None:
    assert fit_plane(((0.0, 0.0), (50.0, 0.0), (100.0, 0.0)), (0.0, 0.0, 0.0), 0.001) is None


def test_a_low_gauge_needs_the_right_ratio() -> None:
    assert tail_ratio(280, 280, "tips") == tail_ratio(280, 280, "bends") == pytest.approx(1.0)
    assert tail_ratio(280, 100, "bends") / tail_ratio(280, 100, "tips") > 2
    assert tail_ratio(280, 100, "tips") < tail_ratio(280, 100, "between") < tail_ratio(280, 100, "bends")
    assert droop_mm(300, 150, 25) < droop_mm(300, 300, 25)


# -- vise ------------------------------------------------------------------------------------------


def test_the_first_aim_is_the_height_of_the_jaw_at_its_hinge_bolt() -> None:
    plan = mill("vise", spots_mm=(0.0, 50.0, 100.0, 150.0))
    hand = AtTheMill(plan)
    hand.type({"s1": 0, "s2": 0.21, "s3": 0.41, "s4": 0.63})
    move = hand.solve().moves[0]
    bolt = as_a(EdgeBase, plan).holder.bolts_mm[0]
    assert move.aim_mm == pytest.approx(-0.001 + 0.00418 * bolt, abs=2e-4)
    assert "front right corner away from you" in hand.words()  # the right end stands nearer the gauge in front


@pytest.mark.parametrize(
    ("lies", "side", "hinge", "words"),
    [
        ("across", "near", "low", "front right corner away from you"),
        ("across", "far", "low", "back right corner toward you"),
        ("across", "near", "high", "front left corner away from you"),
        ("across", "far", "high", "back left corner toward you"),
        ("along", "near", "low", "back right corner to the left"),
        ("along", "far", "low", "back left corner to the right"),
        ("along", "near", "high", "front right corner to the left"),
        ("along", "far", "high", "front left corner to the right"),
    ],
)
def test_which_corner_and_which_way_in_every_orientation(lies: str, side: str, hinge: str, words: str) -> None:
    hand = AtTheMill(mill("vise", lies=lies, gauge_side=side, hinge=hinge))
    slope = 0.002 if hinge == "low" else -0.002  # the tapped end stands nearer the gauge
    hand.type(along(slope, 0.0, hand.plan_spots))
    assert words in hand.words()


def test_what_the_taps_showed_moves_the_aim_and_is_told() -> None:
    hand = AtTheMill(mill("vise"))
    spots = hand.plan_spots
    hand.type(along(0.002, 0.0, spots), closing=True)
    hand.done(taps=12)
    about = 40.0  # it really swung here
    hand.type(along(0.0004, 0.002 * about - 0.0004 * about, spots), closing=True)
    note = plain(next(f.note for f in hand.solve().figures if f.id == "swing"), "mm", 0.001)
    assert 30 <= float(note.split(" mm")[0]) <= 45
    said = plain(hand.solve().moves[0].reason, "mm", 0.001)
    assert "as the taps have shown" in said
    assert "light tap" in said
    assert "12" not in said


def test_readings_of_two_frames_are_never_crossed() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    hand.done()
    hand.send(ev.ZeroSet(station_id="s1", why="bumped"))
    hand.type(along(0.0004, 0.3, hand.plan_spots), closing=True)
    swing = next(plain(f.note, "mm", 0.001) for f in hand.solve().figures if f.id == "swing")
    assert 5 < float(swing.split()[0]) < 40  # by what the tap did to the rise alone: heights of two zeros tell nothing
    assert hand.figure("rise") == pytest.approx(0.0004 * 160)


@pytest.mark.parametrize("walked_mm", [0.0, 0.006])
@pytest.mark.parametrize("slope", [0.0004, 0.0036], ids=["as it should", "wrong way"])
def test_the_swing_point_is_seen_though_the_needle_walked_or_the_tap_went_wrong(walked_mm: float, slope: float) -> None:
    hand = AtTheMill(mill("vise", hinge="none"))
    first = along(0.002, 0.0, hand.plan_spots)
    hand.type(first)
    hand.close(1, {"s1": float(first["s1"]) + walked_mm})
    hand.done()
    hand.type(along(slope, (0.002 - slope) * 100.0, hand.plan_spots), closing=True)
    state: Any = desk.load(hand.events)
    belief = as_a(Vise, PROCEDURES["vise"]).answers(state).after(state).belief
    assert belief.x[2] == pytest.approx(100.0, abs=6.0)
    assert belief.sd(2) < 12


def test_a_common_shift_is_no_fault_and_a_kick_is_allowed_for() -> None:
    hand = AtTheMill(mill("vise", limit=plan_of("vise", 0).limit))
    hand.type(along(0.0, 0.0, hand.plan_spots), closing=True)
    hand.send(ev.StepPassed(step="read"))
    hand.send(ev.Tightened())
    hand.type(along(0.0, 0.4, hand.plan_spots), closing=True)
    assert there(hand.solve().judged).outcome == "holds"
    kicked = AtTheMill(mill("vise"))
    kicked.type(along(0.0, 0.0, kicked.plan_spots), closing=True)
    kicked.send(ev.StepPassed(step="read"))
    kicked.send(ev.Tightened())
    kicked.type(along(0.0002, 0.0, kicked.plan_spots), closing=True)
    kicked.send(ev.Proved(pass_no=2))
    solution = kicked.solve()
    assert "shift" in [c.code for c in solution.caveats]
    assert "Pulling it down shifts it" in plain(solution.moves[0].reason, "mm", 0.001)
    straight = there(solution.moves[0].now_mm) - 0.0002 * (kicked.plan_spots[-1] - 14.0)
    assert there(solution.moves[0].aim_mm) < straight  # it aims beyond square, by what pulling down will add


def test_the_schools_differ_as_they_should() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    aims = {p.name: p.aim.aim_mm for p in hand.panels() if p.aim}
    first, last = hand.plan_spots[0], hand.plan_spots[-1]
    assert aims["zero"] == pytest.approx(0.002 * first)
    assert aims["half"] == pytest.approx(0.002 * (first + last) / 2)
    assert aims["swing"] == pytest.approx(0.002 * 14.0, abs=1e-4)


def test_a_worn_jaw_limits_the_verdict_and_stops_the_tapping() -> None:
    hand = AtTheMill(mill("vise"))
    spots = hand.plan_spots
    bow = {
        f"s{n}": round(0.03 * (1 - (2 * (x - spots[0]) / (spots[-1] - spots[0]) - 1) ** 2), 6)
        for n, x in enumerate(spots, 1)
    }
    hand.type(bow, closing=True)
    solution = hand.solve()
    assert solution.judged is not None
    assert solution.judged.limited_by == "straightness"
    assert "not straight" in plain(solution.stop, "mm", 0.001)
    assert hand.figure("straight") == pytest.approx(0.03, abs=0.002)


def test_the_play_of_the_table_is_the_floor() -> None:
    hand = AtTheMill(mill("vise"))
    hand.send(ev.GapMeasured(typed=Typed(text="0.04", unit="mm")))
    hand.type(along(0.0, 0.0, hand.plan_spots), closing=True)
    judged = hand.solve().judged
    assert judged is not None
    assert judged.limited_by == "play"
    assert judged.outcome == "cannot_tell"


@pytest.mark.parametrize(("play", "told"), [("0.04", True), ("0.004", False)])
def test_what_no_tapping_can_show_is_said_at_once(play: str, told: bool) -> None:
    hand = AtTheMill(mill("vise"))
    hand.send(ev.GapMeasured(typed=Typed(text=play, unit="mm")))
    hand.type(along(0.0005, 0.0, hand.plan_spots), closing=True)
    found = [c for c in hand.solve().caveats if c.code == "out_of_reach"]
    assert len(found) == told
    assert all("Snug the gibs" in plain(c.text, "mm", 0.001) for c in found)


def test_an_angle_is_a_target_as_well_as_a_limit() -> None:
    plan = mill("vise", target_deg=0.05)
    slope = as_a(EdgeBase, plan).turn_sign * math.tan(math.radians(0.05))
    hand = AtTheMill(plan)
    hand.type(along(slope, 0.0, hand.plan_spots), closing=True)
    assert hand.figure("rise") == pytest.approx(0.0, abs=1e-5)
    assert hand.solve().ready
    deg = plan_of("vise", 3)
    assert deg.limit.kind == "angle"
    assert deg.limit.mm == pytest.approx(100 * math.tan(math.radians(0.005)))


def test_a_thicker_rod_is_no_slant() -> None:
    plan = mill("vise", read_on="rods", rods_differ_mm=0.03, spots_mm=(14.0, 146.0))
    hand = AtTheMill(plan)
    hand.type({"s1": 0.0, "s2": 0.03}, closing=True)
    assert hand.figure("rise") == pytest.approx(0.0, abs=1e-6)
    hand = AtTheMill(plan)
    hand.type({"s1": 0.0, "s2": 0.13}, closing=True)
    assert hand.solve().moves[0].aim_mm == pytest.approx(0.03)  # one correction, the rod's own size left in the needle


def test_off_the_dial_only_the_way_is_known() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type({"s1": 0.0, "s2": "+off", "s3": "+off", "s4": "+off", "s5": "+off"})
    move = hand.solve().moves[0]
    assert (move.aim_mm, there(move.needle).goes, move.asked) == (None, "comes back", None)
    assert "front right corner away from you" in hand.words()


@pytest.mark.parametrize(
    ("procedure", "changes", "field"),
    [
        ("vise", {"spots_mm": (10.0,)}, "choices.spots_mm"),
        ("vise", {"spots_mm": (10.0, 10.4, 90.0)}, "choices.spots_mm"),
        ("vise", {"spots_mm": (10.0, 500.0)}, "choices.spots_mm"),
        ("vise", {"read_on": "rods"}, "choices.spots_mm"),
        ("vise", {"rods_differ_mm": 0.01}, "choices.rods_differ_mm"),
        ("vise", {"target_deg": 30.0}, "choices.target_deg"),
        ("bed", {"bed_y_mm": (15.0, 15.0)}, "choices.bed_y_mm"),
        ("bed", {"bed_y_mm": (15.0, 15.0, 15.0, 15.0)}, "choices.bed_x_mm"),
        ("edge", {"upright_mm": 50.0, "thing": "long_work"}, "choices.upright_mm"),
        ("rod", {"spots_mm": (10.0, 80.0, 150.0)}, "choices.spots_mm"),
        ("vises", {"apart_mm": 100.0}, "choices.apart_mm"),
        ("vises", {"second": "stop", "bar": "through"}, "choices.bar"),
        ("vises", {"second": "stop", "bar": "none", "spans": "yes"}, "choices.spans"),
        ("column", {"centre_z_mm": 40.0, "tail": "yes"}, "choices.centre_z_mm"),
        ("column", {"bar": "yes", "bar_far_mm": 35.0}, "choices.bar_far_mm"),
        ("centre", {"stations_deg": (45.0, 135.0, 225.0, 315.0)}, "stations_deg"),
    ],
)
def test_what_cannot_work_is_told_at_its_field(procedure: str, changes: dict[str, Any], field: str) -> None:
    with pytest.raises(BadInput) as told:
        desk.check_plan(mill(procedure, **changes))
    assert told.value.field == field


def test_keys_say_what_their_play_can_cost() -> None:
    plan = mill("vise", keys="in")
    held = plan.holder.model_copy(update={"key_clearance_mm": 0.04, "key_span_mm": 100.0})
    told = {c.code: plain(c.text, "mm", 0.001) for c in desk.check_plan(plan.model_copy(update={"holder": held}))}
    assert "0.064 mm" in told["keys"]  # 0.04 over 100, over the jaw's 160
    hand = AtTheMill(plan.model_copy(update={"holder": held}))
    hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    assert "keys_stop" in [c.code for c in hand.solve().caveats]


def test_torque_is_never_made_up() -> None:
    plan = mill("vise")
    step = next(s for s in desk.procedure_of(plan).path(plan) if s.id == "nip_up")
    assert "none is in the Shop" in step.prompt
    told = plan.model_copy(update={"holder": plan.holder.model_copy(update={"torque": "45 Nm"})})
    assert "45 Nm" in next(s for s in desk.procedure_of(told).path(told) if s.id == "nip_up").prompt


# -- bed, edge, vises, plate, column ---------------------------------------------------------------


def test_the_bed_is_shimmed_before_the_jaw_is_tapped_and_both_are_proved() -> None:
    hand = AtTheMill(mill("bed", parallels_differ_mm=0.0))
    bed = {"bed-1": 0.0, "bed-2": 0.05, "bed-3": 0.0, "bed-4": 0.05}  # the right end is high
    hand.type({**bed, **along(0.002, 0.0, hand.plan_spots)}, closing=True)
    move = hand.solve().moves[0]
    assert move.do == "shim"
    under = {p.number: p.mm for p in move.packets}
    assert under[1] == pytest.approx(0.05 / 130 * 160, abs=0.006)  # front left, over the whole base
    assert under[2] == 0.0
    assert "front left" in hand.words()
    assert there(move.expects).kind == "level"
    hand.done()
    hand.type(
        {"bed-1": 0.0, "bed-2": 0.0, "bed-3": 0.0, "bed-4": 0.0, **along(0.002, 0.0, hand.plan_spots)}, closing=True
    )
    assert hand.solve().moves[0].do == "tap"
    hand.done()
    assert [s.id for s in desk.load(hand.events).asked()] == [f"s{n}" for n in range(1, 6)]  # the bed stays as it is
    hand.type(along(0.0, 0.0, hand.plan_spots), closing=True)
    hand.send(ev.StepPassed(step="read"))
    hand.send(ev.Tightened())
    assert desk.load(hand.events).asked()[0].id == "bed-1"  # both are proved together


def test_a_face_that_leans_is_lifted_on_the_side_it_leans_to() -> None:
    plan = plan_of("edge", 4).model_copy(
        update={"unit": "mm", "lies": "across", "gauge_side": "near", "target_deg": 0.0}
    )
    hand = AtTheMill(plan)
    hand.type({"up-low": 0.0, "up-high": 0.06, **along(0.0, 0.0, hand.plan_spots)}, closing=True)
    move = hand.solve().moves[0]
    assert "front side" in hand.words()
    assert as_a(Shim, move).packets[0].mm == pytest.approx(0.08)  # 0.06 over 90 up, 120 of base
    assert "top leans toward you" in plain(move.reason, "mm", 0.001)
