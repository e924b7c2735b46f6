"""Known answers by hand: what positions of a chuck tell apart, bent shafts, housings, heads, faceplates, memory."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.hand import THREE, Hand, at, outside
from tests.core.lathe_plans import PINS, plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.estimate.kalman import Prior
from velvet_hand.core.fit.bend import find_bend, off_line
from velvet_hand.core.fit.parts import best_turn_deg, split_parts
from velvet_hand.core.gauge import Gauge, Sense
from velvet_hand.core.memory import Lesson, remember, remembered
from velvet_hand.core.move import Jaws, Swap, TapRound
from velvet_hand.core.procedures.dowels.plan import DowelPlan
from velvet_hand.core.procedures.faceplate.plan import FaceplatePlan
from velvet_hand.core.procedures.packing.plan import PackingPlan
from velvet_hand.core.procedures.rough.plan import RoughPlan
from velvet_hand.core.procedures.shaft.plan import ShaftPlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Memory
from velvet_hand.core.units import Typed, parse_degrees, parse_reading
from velvet_hand.core.wording import plain


@given(
    st.floats(0, 0.1),
    st.floats(0, 360),
    st.floats(0, 0.1),
    st.floats(0, 360),
    st.sampled_from([(0, 180), (0, 90, 180), THREE]),
)
def test_positions_split_into_what_stays_and_what_turns(
    s: float, s_deg: float, c: float, c_deg: float, turns: tuple[float, ...]
) -> None:
    fixed, turned = at(s, s_deg), at(c, c_deg)
    found = split_parts(turns, tuple(fixed + turned * at(1, t) for t in turns), 0.001)
    assert abs(found.fixed - fixed) < 1e-9
    assert abs(found.turned - turned) < 1e-9
    _, left = best_turn_deg((fixed,), (turned,))
    assert left <= abs(abs(fixed) - abs(turned)) + max(c, s) * 0.02 + 1e-12


def test_a_bend_is_found_with_its_place_size_and_high_side() -> None:
    z = (20.0, 110.0, 180.0, 260.0, 350.0, 420.0)
    k, zk = at(0.00052, 34 + 180), 199.5
    line = [at(0.01, 200) + at(0.00004, 80) * a for a in z]
    seen = tuple(b + k * max(0.0, a - zk) for a, b in zip(z, line, strict=True))
    found = find_bend(z, seen, 0.0005)
    assert found is not None
    assert found.sure
    assert found.place_mm == pytest.approx(199.5, abs=1)
    assert found.high_deg == pytest.approx(34, abs=1)
    assert abs(found.angle_rad) == pytest.approx(0.00052, rel=0.01)
    assert off_line(z, seen)[0] == off_line(z, seen)[-1] == 0


def test_centers_that_scatter_more_than_was_thought_are_no_bend() -> None:
    rng, z = np.random.default_rng(5), tuple(80.0 * i for i in range(7))
    found = [
        find_bend(z, tuple(complex(*rng.normal(0, 0.0025, 2)) for _ in z), 0.0005) for _ in range(100)
    ]  # five times as far as is said
    assert sum(one is not None and one.sure for one in found) <= 8


def test_journals_turned_eccentric_are_not_called_bent() -> None:
    plan = outside("shaft", noted="high")
    assert isinstance(plan, ShaftPlan)
    hand = Hand(plan)
    for i, (swing, high) in {
        0: (0, 0),
        5: (0, 0),
        1: (0.06, 10),
        2: (0.06, 130),
        3: (0.06, 250),
        4: (0.06, 70),
    }.items():
        hand._read(1, f"z{i}-swing", swing)
        hand.send(
            ev.ReadingTaken(pass_no=1, station_id=f"z{i}-high", typed=Typed(text=str(high), unit="mm"), closing=False)
        )
    assert "different directions" in plain(hand.solve().told, "mm", 0.0005)
    assert parse_degrees("37°").deg == 37
    with pytest.raises(BadInput):
        parse_degrees("370")


def test_the_housing_goes_toward_the_high_reading_less_the_sag() -> None:
    plan = plan_of("dowels", 1).model_copy(
        update={"stations_deg": tuple(45.0 * i for i in range(8)), "stock": PINS, "mark_from": "front", "sag": "swept"}
    )
    assert isinstance(plan, DowelPlan)
    hand = Hand(plan)
    # A bore whose wall reads highest at 305, by an arm that droops 0.015 on a level axis.
    hand.read({"bar-": at(0.015, 90), "bore-": at(0.21, 305)})
    move = hand.solve().moves[0]
    assert there(move.asked).mm == pytest.approx(0.1979, abs=1e-3)
    assert as_a(Swap, move).at_deg == pytest.approx(307.5, abs=0.6)
    assert as_a(Swap, move).mm == pytest.approx(0.2)
    assert "both dowels" in hand.said()
    clock = f"{(90 - as_a(Swap, move).at_deg) % 360:.1f}°"
    assert clock in hand.said()
    behind = Hand(plan.model_copy(update={"mark_from": "behind"}))
    behind.read({"bar-": at(0.015, 90), "bore-": at(0.21, 305)})
    assert f"{(as_a(Swap, move).at_deg - 90) % 360:.1f}°" in behind.said()


def test_a_head_is_turned_to_the_tables_height_at_its_pivot() -> None:
    plan = plan_of("tram", 0).model_copy(
        update={"stations_deg": (0.0, 90.0, 180.0, 270.0), "pivot_x_mm": 0.0, "pivot_y_mm": 260.0, "quill_mm": 0.0}
    )
    hand = Hand(plan)
    for station, mm in (("sweep-1", 0.0), ("sweep-2", 0.035), ("sweep-3", 0.062), ("sweep-4", 0.021)):
        hand._read(1, station, mm)
    swivel = hand.solve().moves[0]
    assert swivel.aim_mm == pytest.approx(0.0295)  # about the spindle: the mean
    assert "top to the right" in hand.said()  # it leans to the left, where it reads high
    assert hand.figure("off_centre") / 110 == pytest.approx(math.tan(math.radians(0.0166)), rel=0.02)
    hand.send(ev.MoveDone(pass_no=1, move_id=swivel.id))
    for station, mm in (("sweep-1", 0.0295), ("sweep-2", 0.0365), ("sweep-3", 0.0295), ("sweep-4", 0.0225)):
        hand._read(2, station, mm)
    nod = hand.solve().moves[0]
    assert nod.aim_mm == pytest.approx(0.0295 + 0.007 * 260 / 110, abs=1e-3)  # the table's height at the nod's axis
    assert "toward you" in hand.said()
    assert there(nod.needle).label == "front"  # the side farther from the axis shows more
    assert hand.panel().scene.seen.startswith("Seen from above")


@pytest.mark.parametrize(
    ("pivots", "moved"), [((0.0, 0.0), "xy"), ((0.0, 260.0), "xy"), ((150.0, 0.0), "yx"), ((150.0, 260.0), "x")]
)
def test_both_tilts_are_turned_in_one_pass_unless_the_first_lifts_the_sweep_too_far(
    pivots: tuple[float, float], moved: str
) -> None:
    plan = plan_of("tram", 0).model_copy(
        update={
            "stations_deg": (0.0, 90.0, 180.0, 270.0),
            "pivot_x_mm": pivots[0],
            "pivot_y_mm": pivots[1],
            "quill_mm": 0.0,
        }
    )
    hand = Hand(plan)
    right, back, radius = -0.2, 0.15, 110.0  # toward values at the ends of the two tilts
    for name, mm in (("sweep-1", right), ("sweep-2", back), ("sweep-3", -right), ("sweep-4", -back)):
        hand._read(1, name, mm)
    moves = hand.solve().moves
    assert "".join("x" if there(m.needle).deg % 180 == 0 else "y" for m in moves) == moved
    # the table's height at the axis of a turn stays what it is: level there, it is that height everywhere along the tilt
    level, left = 0.0, {"x": (right, pivots[0]), "y": (back, pivots[1])}
    for move, axis in zip(moves, moved, strict=True):
        tilt, pivot = left[axis]
        gain = there(move.asked).mm / abs(tilt)
        side = 1 if there(move.needle).deg < 180 else -1
        before, level = level + side * tilt, level + gain * tilt * pivot / radius
        assert there(move.needle).now_mm == pytest.approx(before)
        assert move.aim_mm == pytest.approx(level + side * (1 - gain) * tilt, abs=1e-9)


def test_the_quill_is_checked_along_a_square_once() -> None:
    hand = Hand(plan_of("tram", 1).model_copy(update={"stations_deg": (0.0, 90.0, 180.0, 270.0)}))
    for key, mm in (("x-up", 0.0), ("x-down", 0.012), ("y-up", 0.0), ("y-down", -0.004)):
        hand._read(1, f"quill-{key}", mm)
    for index in range(1, 5):
        hand._read(1, f"sweep-{index}", 0.0)
    assert hand.figure("quill_x") == pytest.approx(0.012)
    assert hand.figure("quill_y") == pytest.approx(0.004)
    hand.send(ev.PassClosed(pass_no=1))
    assert {s.ring for s in desk.load(hand.events).asked()} == {"sweep-"}


def test_a_faceplate_is_tapped_at_its_high_side_at_the_gauge() -> None:
    plan = outside("faceplate")
    assert isinstance(plan, FaceplatePlan)
    hand = Hand(plan)
    hand.read(at(0.1, 90))
    move = hand.solve().moves[0]
    assert as_a(TapRound, move).at_deg == pytest.approx(90, abs=0.2)
    assert there(move.asked).deg == pytest.approx(270, abs=0.2)
    assert move.now_mm is not None
    assert move.aim_mm is not None
    assert move.aim_mm < move.now_mm
    scene = hand.panel().scene
    assert scene.kind == "chuck_face"
    assert scene.tap is not None
    assert scene.tap.at_deg == pytest.approx(scene.gauge.at_deg, abs=0.2)


def test_a_gap_is_bigger_where_the_surface_is_farther() -> None:
    plan = outside("rough", second="none")
    assert isinstance(plan, RoughPlan)
    hand = Hand(plan)
    for station, gap in (("s1", "14"), ("s2", "17"), ("s3", "20"), ("s4", "17")):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text=gap, unit="mm")))
    move = hand.solve().moves[0]
    assert as_a(Jaws, move).draw.number == 1  # the smallest gap is the high side
    assert move.aim_mm == pytest.approx(17, abs=0.01)
    assert "jaw 1, its gap growing" in hand.said()
    aim = hand.panel().aim
    assert aim is not None
    assert aim.what == "gap"


def test_a_steep_stylus_is_taken_out_of_readings_and_put_into_aims() -> None:
    gauge = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1)
    assert 0.120 * gauge.true_part(25, 8) == pytest.approx(0.1077, abs=1e-4)
    sense = Sense(surface="outside", push_reads=-1, scale=gauge.true_part(25, 8))
    assert sense.needle_mm(sense.toward_mm(0.3)) == pytest.approx(0.3)
    steep = Hand(outside("faceplate", gauge=gauge.model_copy(update={"travel_mm": 3}), stylus_deg=25.0))
    steep.read(at(0.1, 90))
    assert steep.figure("off_centre") == pytest.approx(0.1 * math.cos(math.radians(25)), rel=1e-3)
    codes = {c.code for c in desk.check_plan(outside("faceplate", gauge=gauge, stylus_deg=35.0))}
    assert "stylus_steep" in codes


def test_dials_counted_or_not_balanced_or_once_round() -> None:
    once = Gauge(
        id="g", name="Once round", kind="plunger", graduation_mm=0.01, travel_mm=5, turn_mm=1.0, counts_turns=False,
        dial="continuous",
    )  # fmt: skip
    assert parse_reading("0.98", "mm", once).mm == pytest.approx(-0.02)
    assert parse_reading("0.02", "mm", once).mm == pytest.approx(0.02)
    both = once.model_copy(update={"dial": "balanced"})
    assert parse_reading("0.98", "mm", both).mm == pytest.approx(0.98)
    lost = parse_reading("lost", "mm", once)
    assert lost.mm is None
    assert lost.lost


def test_no_contact_is_a_direction_away_whatever_the_needles_sign() -> None:
    for went in ("plus", "minus"):
        plan = outside("faceplate")
        hand = Hand(plan, went)
        for station, value in (("s1", "0.2"), ("s2", "0"), ("s3", "lost"), ("s4", "0")):
            sign = "" if went == "plus" or value in ("0", "lost") else "-"
            hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text=sign + value, unit="mm")))
        assert as_a(TapRound, hand.solve().moves[0]).at_deg == pytest.approx(0, abs=1)


def test_what_a_holder_answered_is_in_the_next_aim_and_said() -> None:
    memory = remember([Lesson(taught={"gain": (0.8, 1e-4)}, closings=(0.001, -0.001))] * 6)
    assert memory.repeat_mm == pytest.approx(0.001)
    fresh, knowing = Hand(outside("faceplate")), Hand(outside("faceplate", memory=memory))
    for hand in (fresh, knowing):
        hand.read(at(0.1, 90))
    assert there(knowing.solve().moves[0].asked).mm > there(fresh.solve().moves[0].asked).mm * 1.15
    told = [c for c in desk.check_plan(outside("faceplate", memory=memory)) if c.code == "memory"]
    assert "moves do 80 % of what is asked" in plain(told[0].text, "mm", 0.0005)


def test_a_shift_that_scatters_more_than_it_repeats_is_hardly_believed() -> None:
    kind = Prior(0.0, 0.0025)
    noise = remember([Lesson(taught={"shift_1": (mm, 1e-8)}) for mm in (0.004, -0.004, 0.0)])
    steady = remember([Lesson(taught={"shift_1": (mm, 1e-8)}) for mm in (0.004, 0.0042, 0.0039)])
    known = [remembered(memory, {"shift_1": kind})["shift_1"] for memory in (noise, steady)]
    assert abs(known[0].mean) < 0.0005
    assert known[0].sd > 0.9 * kind.sd
    assert known[1].mean == pytest.approx(0.004, abs=2e-4)
    assert known[1].sd < 0.5 * kind.sd  # but for the one in six that was changed since
    assert remember([Lesson()]) == Memory()


def test_a_packing_plan_needs_its_three_jaws() -> None:
    plan = plan_of("packing", 0)
    assert isinstance(plan, PackingPlan)
    assert plan.holder.numbers == (1, 2, 3)
    assert plan.holder.jaw_deg(2) == pytest.approx(120)


@pytest.mark.parametrize(("procedure", "rings"), [("reversal", ("p0-", "p1-")), ("collet", ("n0-", "n1-"))])
def test_what_is_split_from_several_rings_is_as_sure_as_the_roughest_of_them(
    procedure: str, rings: tuple[str, str]
) -> None:
    def unsure(rough: str) -> float:
        hand = Hand(outside(procedure, stations_deg=tuple(45.0 * i for i in range(8)), positions_deg=(0.0, 180.0)))
        for station, again in desk.load(hand.events).to_read(None):
            marks = (
                0.01 * (1, -1, -1, 1)[round(station.angle_deg / 45) % 4] if station.ring == rough and not again else 0.0
            )
            hand._read(1, station.id, marks, closing=again)
        return next(f.u_mm or 0.0 for f in hand.solve().figures if f.id in ("chuck", "spindle"))

    first, second = (unsure(ring) for ring in rings)
    assert first == pytest.approx(second)
    assert first > 2 * unsure("none")


def test_a_journals_band_is_that_of_its_own_center_and_of_both_ends() -> None:
    hand = Hand(outside("shaft", noted="all", z_mm=(0.0, 100.0, 200.0)))
    hand.read(0j)
    judged, state = hand.solve().judged, desk.load(hand.events)
    assert judged is not None
    u_read = state.plan.gauge.u_read_mm
    # Four readings give a coordinate of a center to u / sqrt 2; halfway the ends add half of that again; a TIR is twice it, k = 2.
    assert {t.name: t.mm for t in judged.terms}["gauge"] == pytest.approx(4 * u_read / 2**0.5 * 1.5**0.5)


@pytest.mark.parametrize("seed", range(3))
def test_screws_whose_share_is_below_a_turn_still_give_a_picture(seed: int) -> None:
    plan = plan_of("adjustable", seed)
    fine = plan.gauge.model_copy(update={"graduation_mm": 0.001})
    floor = plan.machine.model_copy(update={"floor_mm": 0.0})
    limit = plan.limit.model_copy(update={"typed": Typed(text="0.001", unit="mm")})
    hand = Hand(plan.model_copy(update={"gauge": fine, "machine": floor, "limit": limit}))
    spots = [s.id for s, again in desk.load(hand.events).to_read(None) if not again]
    for index, spot in enumerate(spots):
        hand._read(1, spot, 0.0005 if index < len(spots) // 2 else -0.0005)
    hand._read(1, spots[0], 0.0005, closing=True)
    view = desk.show(hand.events, "x")
    assert view.panels[0].scene.describe
