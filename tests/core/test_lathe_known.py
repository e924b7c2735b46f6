"""Known answers of the lathe's procedures, checked against exact positions of circles and lines."""

from __future__ import annotations

import cmath
import math
from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.lathe_plans import PINS, SHIMS, common, plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.errors import BadInput
from velvet_hand.core.fit.bend import find_bend, off_line
from velvet_hand.core.fit.packing import centre_after, choose_packing, exact_shims
from velvet_hand.core.fit.parts import best_turn_deg, split_parts
from velvet_hand.core.gauge import Gauge, Sense
from velvet_hand.core.holders import AdjustableBody, FourJaw, ThreeJaw
from velvet_hand.core.memory import Lesson, remember
from velvet_hand.core.move import Jaws, Screws, Shim, Swap, TapRound
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.procedures.adjustable.plan import AdjustablePlan
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.dowels.plan import DowelPlan
from velvet_hand.core.procedures.faceplate.plan import FaceplatePlan
from velvet_hand.core.procedures.packing.plan import PackingPlan
from velvet_hand.core.procedures.rough.plan import RoughPlan
from velvet_hand.core.procedures.shaft.plan import ShaftPlan
from velvet_hand.core.procedures.throw.plan import ThrowPlan
from velvet_hand.core.procedures.throw.procedure import jaw_opening
from velvet_hand.core.procedures.two_planes.plan import TwoPlanesPlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Memory
from velvet_hand.core.sim.example import held
from velvet_hand.core.told import Solution
from velvet_hand.core.units import Typed, parse_degrees, parse_reading
from velvet_hand.core.wording import plain

THREE = (0.0, 120.0, 240.0)


def at(size: float, deg: float) -> complex:
    return cmath.rect(size, math.radians(deg))


class Hand:
    """A set-up of any procedure, worked by hand: readings from exact vectors by ring."""

    def __init__(self, plan: BasePlan, went: str = "plus") -> None:
        self.at = datetime(2026, 1, 5, 9, tzinfo=UTC)
        self.events: list[ev.Event] = [self._event(ev.Opened(plan=plan))]
        for step in desk.procedure_of(plan).path(plan):
            if step.id in ("read", "prove"):
                break
            if step.id == "set_gauge" and not plan.gauge.measures_gap:
                for slot in plan.slots:
                    self.send(ev.PressTested(went=went, gauge=slot))  # type: ignore[arg-type]
                self.send(ev.ZeroSet(station_id=desk.load(self.events).stations[0].id))
            self.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions)))

    def _event(self, body: ev.Body) -> ev.Event:
        self.at += timedelta(seconds=10)
        return ev.Event(id=uuid4(), seq=len(getattr(self, "events", [])) + 1, at=self.at, author="Ode", body=body)

    def send(self, body: ev.Body) -> None:
        self.events.append(desk.accept(self.events, self._event(body))[0])

    def read(self, high: dict[str, complex] | complex, closing: bool = True) -> None:
        """A pass in which each ring reads ``high . u``: plus where the surface stands nearest."""
        state = desk.load(self.events)
        number = state.next_pass_no
        for station, again in state.to_read(None):
            vector = high[station.ring] if isinstance(high, dict) else high
            if closing or not again:
                self._read(number, station.id, (vector * at(1, -station.angle_deg)).real, closing=again)

    def _read(self, number: int, station: str, mm: float, closing: bool = False) -> None:
        typed = Typed(text=f"{mm:.7f}", unit="mm")
        self.send(ev.ReadingTaken(pass_no=number, station_id=station, typed=typed, closing=closing))

    def solve(self) -> Solution:
        state = desk.load(self.events)
        return desk.procedure_of(state.plan).solution(state)

    def panel(self) -> Panel:
        return desk.show(self.events, "x").panels[0]

    def figure(self, name: str) -> float:
        return there(next(f.mm for f in self.solve().figures if f.id == name))

    def said(self) -> str:
        return plain(self.solve().moves[0].sentence, "mm", 0.0005)


def outside(procedure: str, **changes: Any) -> BasePlan:
    """A plan of seed 0: outside, gauge on top, four stations, numbered counter-clockwise; with changes."""
    plan = plan_of(procedure, 0)
    four = (0.0, 90.0, 180.0, 270.0)
    return plan.model_copy(update={"stations_deg": four, "school": "high_spot", **changes})


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
    got = sum(there(m.asked).mm * at(1, there(m.asked).deg) for m in moves)
    assert got == pytest.approx(-need, abs=2e-3)
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
    assert "forward, toward you" in hand.said()
    assert there(nod.needle).label == "front"  # the side farther from the axis shows more
    assert hand.panel().scene.seen.startswith("Seen from above")


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
    assert "gap at jaw 1 grows" in hand.said()
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
    memory = remember([Lesson(moves=((0.4, 0.32), (0.3, 0.24), (0.2, 0.16)), closings=(0.001, -0.001))])
    assert memory.gain == pytest.approx(0.81, abs=0.02)
    assert memory.repeat_mm == pytest.approx(0.001)
    fresh, knowing = Hand(outside("faceplate")), Hand(outside("faceplate", memory=memory))
    for hand in (fresh, knowing):
        hand.read(at(0.1, 90))
    assert there(knowing.solve().moves[0].asked).mm > there(fresh.solve().moves[0].asked).mm * 1.15
    told = [c for c in desk.check_plan(outside("faceplate", memory=memory)) if c.code == "memory"]
    assert "of a move arrives" in plain(told[0].text, "mm", 0.0005)


def test_a_kick_that_scatters_more_than_it_repeats_is_no_lesson() -> None:
    noise = remember([Lesson(kicks=((0.004, 0.0), (-0.004, 0.001), (0.0, -0.004)))])
    steady = remember([Lesson(kicks=((0.004, 0.0), (0.0042, 0.0002), (0.0039, -0.0001)))])
    assert abs(complex(noise.kick_x_mm, noise.kick_y_mm)) < 0.0005
    assert steady.kick_x_mm == pytest.approx(0.004, abs=1e-4)
    assert remember([Lesson()]) == Memory(gain_sd=remember([]).gain_sd, kick_sd_mm=0.0)


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
