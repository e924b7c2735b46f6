"""Known answers by hand: two vises, columns, plates, a rotary center."""

from __future__ import annotations

import math
from typing import Any

import pytest

from tests.core.at_the_mill import AtTheMill, along, column, mill, ring
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.fit.plane import fit_plane
from velvet_hand.core.move import Handle, Shim, TapRound
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.procedures.vises.procedure import Vises
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.verdict import judge
from velvet_hand.core.wording import plain


def test_squareness_of_each_says_nothing_about_the_step() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="no", hinge="low", second="vise"))
    hand.type({"a1": 0, "a2": 0, "a3": 0, "b1": 0.08, "b2": 0.08, "b3": 0.08}, closing=True)
    move = hand.solve().moves[0]
    assert "Slide the whole right vise away from you" in hand.words()
    assert move.aim_mm == pytest.approx(0.0, abs=1e-6)
    assert hand.figure("step") == pytest.approx(0.08)
    assert there(hand.solve().judged).outcome == "outside"


def test_two_vises_are_as_unsure_as_the_ends_of_their_lines() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="no", hinge="low", second="vise"))
    hand.type({"a1": 0, "a2": 0, "a3": 0, "b1": 0.08, "b2": 0.08, "b3": 0.08}, closing=True)
    state: Any = desk.load(hand.events)
    look: Any = as_a(Vises, PROCEDURES["vises"]).look(state, state.passes[-1])
    line, half, unsure = look.lines[0], state.plan.edge_mm / 2, look.jaws[0].unsure
    assert look.fit.u_mm == pytest.approx(2**0.5 * unsure * math.hypot(line.u_level_mm, half * line.u_slope))
    assert line.u_level_mm > 0.3 * half * line.u_slope
    assert unsure > 1  # one pass at three spots says little of what a reading scatters by


def test_a_reading_left_out_of_a_jaw_is_no_proof_until_somebody_calls_it_bad() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="no", second="vise", spots_mm=(10.0, 45.0, 80.0, 115.0, 150.0)))
    hand.send(ev.StepPassed(step="read"))
    hand.send(ev.Tightened())
    jaw = {f"{letter}{n}": 0.001 * (n % 2) for letter in "ab" for n in range(1, 6)}
    hand.type(jaw | {"b3": 0.05}, closing=True)
    judged = there(hand.solve().judged)
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", "wild")
    hand.send(ev.SpotMarked(pass_no=1, station_id="b3", bad=True))
    assert there(hand.solve().judged).outcome == "holds"


def test_the_bar_comes_out_before_each_is_squared() -> None:
    hand = AtTheMill(mill("vises", bar="through", spans="no", hinge="low", second="vise"))
    hand.type({"a1": 0.0, "a2": 0.07, "a3": 0.14, "b1": 0.26, "b2": 0.33, "b3": 0.40}, closing=True)
    assert "Both turn as one" in hand.words()
    hand.done()
    hand.type({"a1": 0.0, "a2": -0.01, "a3": -0.02, "b1": 0.0, "b2": 0.01, "b3": 0.02}, closing=True)
    assert "Take the bar out" in hand.words()
    hand.done()
    hand.type({"a1": 0.0, "a2": -0.01, "a3": -0.02, "b1": 0.0, "b2": 0.01, "b3": 0.02}, closing=True)
    assert "Left vise: tap" in hand.words()  # the one that keeps its place first
    hand.done()
    assert "Right vise: tap" in hand.words()


def test_sockets_left_on_hidden_nuts_are_listed_until_they_are_off() -> None:
    plan = mill("vises", hidden_nuts=2)
    last = desk.procedure_of(plan).path(plan)[-1]
    assert sum("hidden nut" in c.text for c in last.cautions) == 2


def test_a_loop_that_does_not_close_is_read_again() -> None:
    plan = mill("plate", pattern="edges", columns=3, rows=3, repeats=0, inverted="no")
    hand = AtTheMill(plan)
    places = {s.id: 0.001 * n for n, s in enumerate(desk.load(hand.events).stations)}
    hand.type(places)
    hand.send(ev.ReadingTaken(pass_no=1, station_id="g1", typed=Typed(text="0.02", unit="mm"), closing=True))
    solution = hand.solve()
    assert "Read this pass again" in " ".join(plain(c.text, "mm", 0.001) for c in solution.caveats)
    assert solution.judged is not None
    assert solution.judged.limited_by == "drift"


def test_the_error_budget_says_what_is_left_over_and_what_to_check() -> None:
    plan = mill(
        "plate", pattern="grid", columns=2, rows=2, repeats=0, inverted="no", parallels_mm=0.004, table_mm=0.003
    )
    hand = AtTheMill(plan)
    hand.type({"g1": 0.0, "g2": 0.03, "g3": 0.03, "g4": 0.0}, closing=True)
    assert "rises to the" in plain(hand.solve().told, "mm", 0.0001)
    assert "left over" in plain(hand.solve().caveats[-1].text, "mm", 0.0001)
    small = AtTheMill(plan)
    small.type({"g1": 0.0, "g2": 0.006, "g3": 0.006, "g4": 0.0}, closing=True)
    assert "check the parallels" in plain(small.solve().caveats[-1].text, "mm", 0.0001)


def test_turned_over_the_plates_own_taper_changes_its_sign() -> None:
    plan = mill("plate", pattern="grid", columns=2, rows=2, repeats=0, inverted="yes", blocks_differ_mm=0.0)
    hand = AtTheMill(plan)
    # Its own taper rises 0.010 over the places that are read; it sits 0.004 high at the right, both ways.
    turned = {"inv-1": 0.0, "inv-2": -0.006, "inv-3": -0.006, "inv-4": 0.0}
    hand.type({**turned, "g1": 0.0, "g2": 0.014, "g3": 0.014, "g4": 0.0}, closing=True)
    assert hand.figure("taper") == pytest.approx(0.010 / 0.88, abs=1e-4)
    assert hand.figure("seat") == pytest.approx(0.004 / 0.88, abs=1e-4)


def test_a_lean_is_shimmed_thickest_where_the_column_leans_to() -> None:
    hand = column(face_radius_mm=0.0)
    hand.type({**ring("flange-", 0.01, 0.0), **ring("far-", -0.05, 0.09)}, closing=True)
    move = hand.solve().moves[0]
    tilt = complex(-0.06, 0.09) / 250
    exact = [45 * (tilt * complex(math.cos(math.radians(-d)), math.sin(math.radians(-d)))).real for d in (0, 120, 240)]
    exact = [p - min(exact) for p in exact]
    for packet, want in zip(as_a(Shim, move).packets, exact, strict=True):
        assert packet.mm == pytest.approx(want, abs=0.005)


def test_shims_and_the_slide_follow_from_one_pass() -> None:
    hand = column(face_radius_mm=0.0, tail="yes")
    hand.type({**ring("flange-", 0.03, 0.0), **ring("far-", -0.05, 0.09)}, closing=True)
    shim, slide = hand.solve().moves
    assert shim.do == "shim"
    # With the lean out the far end stands where the flange stands now: over there it is bumped.
    far = 2 * there(slide.asked).mm
    assert math.cos(math.radians(as_a(TapRound, slide).at_deg)) > 0.9
    assert far == pytest.approx(0.06, abs=0.025)
    hand.done()
    assert [m.do for m in hand.solve().moves] == ["tap_round"]  # the same, whatever lies there by now
    assert hand.solve().moves[0].aim_mm == pytest.approx(there(slide.aim_mm))
    hand.done()
    assert not hand.solve().moves  # what a shim shifts is read before the tailstock comes
    hand.type({**ring("flange-", 0.0005, 0.0), **ring("far-", 0.0, 0.0005)}, closing=True)
    assert [m.do for m in hand.solve().moves] == ["stage"]


def test_a_small_slide_needs_no_reading_before_the_next_stage() -> None:
    hand = column(face_radius_mm=0.0, tail="yes")
    hand.type({**ring("flange-", 0.006, 0.0), **ring("far-", 0.006, 0.0)}, closing=True)
    assert [m.do for m in hand.solve().moves] == ["tap_round", "stage"]
    far = column(face_radius_mm=0.0, tail="yes")
    far.type({**ring("flange-", 0.2, 0.0), **ring("far-", 0.2, 0.0)}, closing=True)
    assert [m.do for m in far.solve().moves] == ["tap_round"]


def test_what_tightening_the_flange_did_to_the_far_end_is_put_right_before_the_tailstock() -> None:
    hand = column(face_radius_mm=0.0, tail="yes", sag_mm=0.0)
    hand.type({**ring("flange-", 0.0, 0.0), **ring("far-", 0.0, 0.0)}, closing=True)
    hand.done()
    tail = {"tail-top-free": 0.0, "tail-top-on": 0.03, "tail-side-free": 0.0, "tail-side-on": 0.0}
    moved = {f"{name}h": mm for name, mm in ring("far-", 0.0, 0.03).items()}
    hand.type({**moved, **tail}, closing=True)
    assert [m.do for m in hand.solve().moves] == ["tap_round"]
    assert as_a(TapRound, hand.solve().moves[0]).at_deg == pytest.approx(90.0, abs=2.0)


def test_a_bad_seat_is_told_from_a_bent_column() -> None:
    hand = column(face_radius_mm=60.0)
    seat = complex(0.0002 * math.cos(math.radians(120)), 0.0002 * math.sin(math.radians(120)))
    face = -seat * 60
    hand.send(ev.PressTested(went="plus", gauge="far"))
    hand.type(
        {
            **ring("flange-", 0.0, 0.0),
            **ring("face-", face.real, face.imag),
            **ring("far-", seat.real * 250, seat.imag * 250),
        },
        closing=True,
    )
    assert hand.figure("lean") == pytest.approx(0.05, abs=1e-4)
    assert hand.figure("own") == pytest.approx(0.0, abs=1e-4)


def test_sag_that_the_centre_takes_up_is_no_high_tailstock() -> None:
    hand = column(face_radius_mm=0.0, tail="yes", sag_mm=0.012, gives="tips", centre_z_mm=280.0)
    hand.type({**ring("flange-", 0.0, 0.0), **ring("far-", 0.0, 0.0)}, closing=True)
    assert "tailstock" in hand.words()
    hand.done()
    far = ring("far-", 0.0, 0.0, "h")
    hand.type(
        {**far, "tail-top-free": 0.0, "tail-top-on": 0.012, "tail-side-free": 0.0, "tail-side-on": 0.0},
        closing=True,
    )
    assert there(hand.solve().judged).outcome == "holds"
    assert hand.figure("push_top") == pytest.approx(0.0)
    hand.send(ev.PassClosed(pass_no=2))
    hand.type(
        {**far, "tail-top-free": 0.0, "tail-top-on": 0.032, "tail-side-free": 0.0, "tail-side-on": -0.01},
        closing=True,
    )
    words = hand.words()
    assert f"down by {0.02 * 280 / 250:.3f} mm" in words
    assert f"toward you by {0.01 * 280 / 250:.3f} mm" in words


def test_which_handle_and_which_way_round() -> None:
    plan = mill("centre", x_clockwise="left", y_clockwise="away", stations_deg=(0.0, 90.0, 180.0, 270.0))
    hand = AtTheMill(plan.model_copy(update={"part": plan.part.model_copy(update={"surface": "outside"})}))
    hand.type({"s1": 0.1, "s2": -0.05, "s3": -0.1, "s4": 0.05}, closing=True)
    moves = hand.solve().moves
    assert [m.title for m in moves] == ["X", "Y"]
    assert "X handle clockwise" in hand.words()  # it sits to the right; clockwise takes the table left
    hand.done()
    assert "Y handle clockwise" in hand.words()  # it sits toward you; clockwise takes the table away
    assert as_a(Handle, moves[0]).turn_deg == pytest.approx(0.1 / 5.0 * 360, rel=0.02)


def test_a_limit_of_a_length_carries_its_length() -> None:
    found = judge("over_jaw", 0.01, 0.02, ())
    assert found.outcome == "holds"
    plan = as_a(EdgeBase, mill("vise"))
    assert plan.limit_length_mm == 160
    for kind, length in (("over_part", 120.0), ("over_length", 300.0), ("angle", 100.0)):
        other = plan.model_copy(update={"limit": plan.limit.model_copy(update={"kind": kind})})
        assert other.limit_length_mm == length


CORNERS = [("front left", -1, -1), ("front right", 1, -1), ("back left", -1, 1), ("back right", 1, 1)]


@pytest.mark.parametrize(("word", "right", "back"), CORNERS)
def test_the_plate_rises_to_the_corner_that_is_said(word: str, right: int, back: int) -> None:
    hand = AtTheMill(mill("plate", pattern="grid", columns=2, rows=2, repeats=0, inverted="no"))
    spots = desk.load(hand.events).stations
    hand.type({s.id: 1e-4 * (right * s.x_mm + back * s.y_mm) for s in spots}, closing=True)
    assert f"rises to the {word}." in plain(hand.solve().told, "mm", 0.0001)


@pytest.mark.parametrize(("word", "right", "back"), CORNERS)
def test_the_corner_that_is_low_is_the_one_that_is_shimmed(word: str, right: int, back: int) -> None:
    hand = AtTheMill(mill("bed", parallels_differ_mm=0.0))
    spots = [s for s in desk.load(hand.events).stations if s.id.startswith("bed-")]
    bed = {s.id: -4e-4 * (right * s.x_mm + back * s.y_mm) for s in spots}
    hand.type({**bed, **along(0.002, 0.0, hand.plan_spots)}, closing=True)
    move = hand.solve().moves[0]
    assert move.do == "shim"
    thickest = max(move.packets, key=lambda p: p.mm)
    assert thickest.name == word
    assert f"mm under the {word}" in hand.words()


def test_a_corner_that_is_marked_bad_is_carried_by_the_plane_of_the_others() -> None:
    plan = mill("plate", repeats=0, inverted="no", columns=3, rows=3, pattern="grid")
    hand = AtTheMill(plan)
    places = plan.places  # type: ignore[attr-defined]  # 3 x 3, each way 0.06 to 0.94 of the size
    rise = {
        f"g{n}": round(0.012 * (x / plan.part.diameter_mm + y / 160), 4) for n, (x, y) in enumerate(places, start=1)
    }
    high = max(rise, key=lambda key: rise[key])
    hand.type({k: v for k, v in rise.items() if k != high})
    hand.send(ev.SpotMarked(pass_no=1, station_id=high))
    hand.close(1, rise)
    judged = hand.solve().judged
    assert judged is not None
    assert judged.value_mm == pytest.approx(0.012 * 2 * 0.88, abs=2e-4)  # 0.0158 without that corner
    assert judged.outcome == "outside"
    assert any(t.name == "unread" and t.mm > 0 for t in judged.terms)
    assert any(c.code == "unread" for c in hand.solve().caveats)
    whole = AtTheMill(plan)
    whole.type(rise, closing=True)
    known = whole.solve().judged
    assert known is not None
    assert judged.band_mm > known.band_mm


def test_a_place_that_was_not_read_is_as_sure_as_the_plane_and_one_reading() -> None:
    nine = tuple((50.0 * i, 50.0 * j) for i in range(3) for j in range(3))
    plane = fit_plane(nine, tuple(0.0001 * x for x, _ in nine), 0.001)
    assert plane is not None
    assert plane.u_at(50.0, 50.0) == pytest.approx(0.001 * (1 + 1 / 9) ** 0.5)
    # At a corner both tilts reach 50 mm out: 1/9 + 50**2/15000 + 50**2/15000 of a reading squared, and one more.
    assert plane.u_at(100.0, 100.0) == pytest.approx(0.001 * (1 + 1 / 9 + 1 / 6 + 1 / 6) ** 0.5)


@pytest.mark.parametrize(("hinge", "bolt"), [("low", 150.0), ("high", 5.0)])
def test_a_tap_at_the_snug_bolt_is_refused(hinge: str, bolt: float) -> None:
    plan = mill("vise", spots_mm=(0.0, 150.0), hinge=hinge)
    plan = plan.model_copy(update={"holder": plan.holder.model_copy(update={"bolts_mm": (bolt,)})})
    with pytest.raises(BadInput, match="turns nothing") as caught:
        desk.check_plan(plan)
    assert caught.value.field == "choices.hinge"
