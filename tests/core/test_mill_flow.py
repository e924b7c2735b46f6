"""Stages, shims, stops and memory: what is asked next at the mill, what it is called, and what a holder keeps of it."""

from __future__ import annotations

import itertools
import math
from typing import Any, cast

import pytest

from tests.core.at_the_mill import AtTheMill, along, column, mill, ring
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.engine.learning import per_tap_mm
from velvet_hand.core.errors import BadInput, NotNow
from velvet_hand.core.memory import Lesson, remember
from velvet_hand.core.move import Shim
from velvet_hand.core.plan.base import Limit
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.procedures.vise.plan import VisePlan
from velvet_hand.core.procedures.vise.procedure import Vise
from velvet_hand.core.quantity import KIND_WORDS
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.units import Typed, parse_number
from velvet_hand.core.verdict import SETTLES, TERM_WORDS
from velvet_hand.core.wording import plain

MILL = [p for p in PROCEDURES if {"mill", "plate"} & set(PROCEDURES[p].machine_kinds)]


def state_of(hand: AtTheMill) -> State:
    return desk.load(hand.events)


def asked(hand: AtTheMill) -> list[str]:
    return [s.id for s in state_of(hand).asked()]


# -- stages -----------------------------------------------------------------------------------------


def test_each_stage_of_a_column_asks_its_own_spots() -> None:
    hand = column(face_radius_mm=0.0, tail="yes", sag_mm=0.0)
    assert {s.split("-")[0] for s in asked(hand)} == {"flange", "far"}
    hand.type({**ring("flange-", 0.0, 0.0), **ring("far-", 0.0, 0.0)}, closing=True)
    move = hand.solve().moves[0]
    assert move.opens
    assert not hand.solve().ready  # without its tailstock it is not done
    hand.done()
    assert {s.split("-")[0] for s in asked(hand)} == {"far", "tail"}
    with pytest.raises(NotNow, match="not read in this pass"):
        hand.type({"flange-1": 0.0})


def test_undoing_the_move_that_opened_a_stage_goes_back_to_it() -> None:
    hand = column(face_radius_mm=0.0, tail="yes", sag_mm=0.0)
    hand.type({**ring("flange-", 0.0, 0.0), **ring("far-", 0.0, 0.0)}, closing=True)
    hand.done()
    hand.send(ev.Undone(event_id=state_of(hand).effective[-1].id))
    assert "tailstock" in hand.words()
    assert state_of(hand).stage(1) == 2


def test_without_a_tailstock_the_far_end_is_the_verdict() -> None:
    hand = column(face_radius_mm=0.0, tail="no")
    hand.type({**ring("flange-", 0.0, 0.0), **ring("far-", 0.001, 0.0)}, closing=True)
    solution = hand.solve()
    assert solution.ready
    assert solution.judged is not None
    assert solution.judged.where == "at the far end"


def axis_hand(**more: Any) -> AtTheMill:
    base = {
        "bar": "yes",
        "bar_near_mm": 30.0,
        "bar_far_mm": 230.0,
        "bar_taper_mm": 0.0,
        "bar_diameter_mm": 250.0,
        "foot_mm": 200.0,
    }
    return AtTheMill(mill("column", stations_deg=(0.0, 90.0, 180.0, 270.0), face_radius_mm=0.0, **{**base, **more}))


def bar(top: float, side: float, own: float = 0.0) -> dict[str, float | str]:
    """What a bar shows: the axis's rise over it, with its own error at 0 and the other way at 180."""
    return {
        f"bar-{which}-{where}-{turn}": (rise + own * (1 if turn == 0 else -1)) * (where == "far")
        for turn in (0, 180)
        for which, rise in (("top", top), ("side", side))
        for where in ("near", "far")
    }


def test_the_bars_own_error_is_turned_out_of_the_axis() -> None:
    hand = axis_hand()
    hand.type(bar(0.03, 0.0, own=0.02))
    figures = {f.id: f.mm for f in hand.solve().figures}
    assert figures["axis_up"] == pytest.approx(0.03, abs=1e-4)  # so thick a bar does not droop
    assert "back of the rotary" in hand.words()
    assert as_a(Shim, hand.solve().moves[0]).packets[0].mm == pytest.approx(0.03, abs=0.006)
    falls = axis_hand()
    falls.type(bar(-0.03, 0.0))
    assert "front of the rotary" in falls.words()


def test_a_taper_does_not_turn_over_and_a_thin_bar_droops() -> None:
    tapered = axis_hand(bar_taper_mm=0.02)
    tapered.type(bar(0.01, 0.01))
    assert {f.id: f.mm for f in tapered.solve().figures}["axis_up"] == pytest.approx(0.0, abs=1e-4)
    thin = axis_hand(bar_diameter_mm=20.0)
    thin.type(bar(0.0, 0.0))
    assert there({f.id: f.mm for f in thin.solve().figures}["axis_up"]) > 0.002  # it hangs, so what looks level rises


def test_the_base_is_swung_by_the_needle_at_the_far_place() -> None:
    hand = axis_hand()
    hand.type(bar(0.0, 0.04))
    move = hand.solve().moves[0]
    assert (there(move.needle).station_id, there(move.needle).goes) == ("bar-side-far-180", "falls")
    assert move.aim_mm == pytest.approx(0.0, abs=1e-6)
    assert "away from you" in hand.words()
    hand.done()
    hand.type(bar(0.0, 0.0))
    assert "Bar out, column on" in hand.words()
    hand.done()
    assert asked(hand)[0] == "flange-1"


# -- shims and what is read again --------------------------------------------------------------------


def test_the_beds_of_two_vises_are_compared_and_the_lower_is_lifted() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="yes", hinge="low", second="vise", bed_limit_mm=0.01))
    level = {"a1": 0, "a2": 0, "a3": 0, "b1": 0, "b2": 0, "b3": 0}
    hand.type({"bed-0": 0.0, "bed-1": 0.05, **level}, closing=True)
    assert "the whole base of the left vise" in hand.words()
    assert as_a(Shim, hand.solve().moves[0]).packets[0].mm == pytest.approx(0.05)
    hand.done()
    hand.type({"bed-0": 0.0, "bed-1": -0.02, **level}, closing=True)  # too much: less in all
    assert as_a(Shim, hand.solve().moves[0]).packets[0].mm == pytest.approx(0.03)
    hand.done()
    hand.type({"bed-0": 0.0, "bed-1": 0.0, **level}, closing=True)
    solution = hand.solve()
    assert solution.ready
    assert solution.judged is not None
    assert "the beds" in [v.where for v in (solution.judged, *solution.judged.beside)]


def test_a_base_that_shims_cannot_make_better_is_told() -> None:
    hand = AtTheMill(mill("bed", bed_limit_mm=0.002))
    bed = {"bed-1": 0.0, "bed-2": 0.003, "bed-3": 0.0, "bed-4": 0.003}
    hand.type({**bed, **along(0.0, 0.0, hand.plan_spots)}, closing=True)
    solution = hand.solve()
    assert solution.ready
    assert "as level as the drawer" in plain(solution.stop, "mm", 0.001)


def test_what_a_parallel_is_taller_by_is_no_tilt() -> None:
    hand = AtTheMill(mill("bed", parallels_differ_mm=0.03))
    bed = {"bed-1": 0.0, "bed-2": 0.0, "bed-3": 0.03, "bed-4": 0.03}
    hand.type({**bed, **along(0.0, 0.0, hand.plan_spots)}, closing=True)
    assert hand.figure("bed") == pytest.approx(0.0, abs=1e-6)


# -- stops, kicks, schools -----------------------------------------------------------------------------


@pytest.mark.parametrize("way", ["swing", "zero", "half"])
def test_no_school_is_ever_left_without_a_thing_to_do(way: str) -> None:
    hand = AtTheMill(mill("vise", way=way))
    for slope in (0.002, 0.0003, 0.0, 0.00002):
        hand.type(along(slope, 0.0, hand.plan_spots), closing=True)
        panel = hand.panel()
        assert panel.primary is not None
        if panel.primary.id != "move":
            break
        hand.done()
    assert hand.solve().ready


def test_a_stop_has_no_slope_but_a_step() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="no", second="stop", hinge="low"))
    assert asked(hand) == ["a1", "a2", "a3", "b1"]
    hand.type({"a1": 0, "a2": 0, "a3": 0, "b1": -0.05}, closing=True)
    assert "Slide the whole stop toward you" in hand.words()
    assert hand.solve().moves[0].aim_mm == pytest.approx(0.0, abs=1e-6)


def test_what_pulling_down_did_to_two_vises_is_aimed_against() -> None:
    hand = AtTheMill(mill("vises", bar="none", spans="no", second="vise", hinge="low"))
    level = {"a1": 0, "a2": 0, "a3": 0, "b1": 0, "b2": 0, "b3": 0}
    hand.type(level, closing=True)
    hand.send(ev.StepPassed(step="read"))
    hand.send(ev.Tightened())
    hand.type({**level, "b1": 0.04, "b2": 0.04, "b3": 0.04}, closing=True)
    hand.send(ev.Proved(pass_no=2))
    move = hand.solve().moves[0]
    assert "Slide the whole right vise away from you" in plain(move.sentence, "mm", 0.001)
    assert move.aim_mm == pytest.approx(-0.036, abs=0.002)  # beyond flush, by most of the shift


def test_one_end_off_the_dial_still_gives_an_aim_when_the_line_is_known() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type({"s1": 0.0, "s2": 0.3, "s3": 0.6, "s4": 0.9, "s5": "+off"})
    move = hand.solve().moves[0]
    assert move.now_mm is None
    assert move.aim_mm is not None
    assert abs(move.aim_mm) < 0.1


def test_a_zero_in_the_wrong_place_is_told() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type({"s1": "-off", "s2": "-off", "s3": -0.75, "s4": -0.7, "s5": -0.65})
    assert "zero_misplaced" in [c.code for c in hand.solve().caveats]
    assert "Set the dial to zero afresh at spot at" in hand.words()


# -- what is remembered ------------------------------------------------------------------------------------


def test_a_gap_that_nothing_fills_is_measured_again_and_no_dial_is_spoken_of() -> None:
    hand = AtTheMill(mill("rod"))
    hand.type({"s1": "+off", "s2": 0.0})
    panel = hand.panel()
    assert there(panel.primary).id == "again"
    assert "bring the end near by eye" in hand.words()
    assert "zero" not in hand.words()


def test_a_gap_that_went_the_other_way_is_measured_again_without_a_press_test() -> None:
    hand = AtTheMill(mill("rod"))
    hand.type({"s1": 2.0, "s2": 0.0})
    hand.done()
    hand.type({"s1": 3.5, "s2": 0.0})
    assert hand.panel().name != "press"
    assert "wrong_way" in [c.code for c in hand.solve().caveats]
    assert "was a gap mistyped" in "".join(plain(w, "mm", 0.01) for w in hand.panel().why)


def test_counted_taps_become_so_much_a_tap_and_are_remembered() -> None:
    hand = AtTheMill(mill("vise"))
    hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    run = abs(there(hand.solve().moves[0].aim_mm) - there(hand.solve().moves[0].now_mm))
    hand.done(taps=10)
    state = state_of(hand)
    assert per_tap_mm(state) == pytest.approx(run / 10)
    hand.type(along(0.0002, 0.02, hand.plan_spots), closing=True)
    hand.send(ev.Tightened())
    hand.type(along(0.0, 0.02, hand.plan_spots), closing=True)
    assert desk.lesson(state_of(hand)).empty  # nothing is proved yet
    hand.send(ev.Proved(pass_no=3))
    lesson = desk.lesson(state_of(hand))
    assert lesson.taps[0][0] == 10
    kept = remember([lesson])
    assert kept.per_tap_mm == pytest.approx(run / 10)
    assert set(kept.taught) == {"log_gain", "pivot_low", "shift"}
    told = desk.check_plan(mill("vise", memory=kept))
    words = next(plain(c.text, "mm", 0.001) for c in told if c.code == "memory")
    assert "a tap moves" in words
    fresh = AtTheMill(mill("vise", memory=kept))
    fresh.type(along(0.002, 0.0, fresh.plan_spots), closing=True)
    assert "light tap" in plain(fresh.solve().moves[0].reason, "mm", 0.001)


def test_taps_alone_are_a_lesson() -> None:
    assert Lesson().empty
    assert not Lesson(taps=((4, 0.02),)).empty
    assert remember([Lesson(taps=((4, 0.02), (6, 0.04)))]).per_tap_mm == pytest.approx(0.006)
    assert remember([]).per_tap_mm is None


def test_a_remembered_vise_aims_with_what_it_answered_and_how_it_shifts() -> None:
    lesson = Lesson(taught={"log_gain": (math.log(0.8), 1e-6), "shift": (0.004, 1e-9)})
    known = remember([lesson] * 20)
    plain_hand, wise = AtTheMill(mill("vise")), AtTheMill(mill("vise", memory=known))
    for hand in (plain_hand, wise):
        hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    first, second = (h.solve().moves[0] for h in (plain_hand, wise))
    run = [abs(there(m.now_mm) - there(m.aim_mm)) for m in (first, second)]
    sign = (
        -1 if as_a(EdgeBase, state_of(wise).plan).turn_sign > 0 else 1
    )  # the shift is the vise's own, whatever side the indicator stands on
    assert run[1] / run[0] == pytest.approx(1 / 0.8 * (0.32 - sign * 0.004) / 0.32, rel=0.02)


def test_what_a_vise_taught_is_the_same_seen_from_the_other_side() -> None:
    """Indicator in front or behind, the jaw along or across: the vise's own answer is one and the same."""
    beliefs = []
    for side, lies in itertools.product(("near", "far"), ("across", "along")):
        plan = mill("vise", gauge_side=side, lies=lies)
        sign, hand = as_a(EdgeBase, plan).turn_sign, AtTheMill(plan)
        for slope, level in ((0.002, 0.0), (0.0004, 0.024), (0.00005, 0.03)):
            hand.type(along(sign * slope, sign * level, hand.plan_spots), closing=True)
            if slope > 0.0001:
                hand.done()
        state = state_of(hand)
        procedure = as_a(Vise, desk.procedure_of(plan))
        beliefs.append(procedure.answers(cast("State[VisePlan]", state)).after(state).belief)
    for other in beliefs[1:]:
        assert other.x == pytest.approx(beliefs[0].x, abs=1e-9)
        assert other.cov == pytest.approx(beliefs[0].cov, abs=1e-9)


# -- words ---------------------------------------------------------------------------------------------------


@pytest.mark.parametrize("procedure", MILL)
def test_every_word_that_a_verdict_needs_is_there(procedure: str) -> None:
    one = PROCEDURES[procedure]
    for kind in one.asks.limit_kinds:
        assert KIND_WORDS[kind]
    heads = one.heads(plan_of(procedure, 0))
    assert len(set(heads)) == 3
    assert all(heads)


def test_every_part_of_a_band_has_words_and_a_way_to_settle_it() -> None:
    assert set(TERM_WORDS) == set(SETTLES)


@pytest.mark.parametrize("procedure", MILL)
def test_starts_of_lengths_carry_their_unit(procedure: str) -> None:
    """In a shop that works in thou a bare 10 would be ten inches."""
    for field in PROCEDURES[procedure].fields:
        if field.kind in ("length", "lengths") and field.start:
            assert all(part == "0" or "mm" in part for part in field.start.replace(" mm", "mm").split()), field.name


@pytest.mark.parametrize(("typed", "value"), [("0.02", 0.02), ("0,02°", 0.02), (" -1.5 ", -1.5)])
def test_an_angle_is_a_plain_number(typed: str, value: float) -> None:
    assert parse_number(typed) == pytest.approx(value)


@pytest.mark.parametrize("typed", ["", "steep", "nan", "1e12", "0.01 mm"])
def test_what_is_no_angle_is_told(typed: str) -> None:
    with pytest.raises(BadInput) as told:
        Limit.model_validate({"kind": "angle", "typed": Typed(text=typed, unit="mm")}).mm  # noqa: B018
    assert told.value.field == "limit.typed"


@pytest.mark.parametrize("typed", ["0", "-0.1", "60"])
def test_an_angle_that_cannot_be_a_limit_is_told(typed: str) -> None:
    with pytest.raises(BadInput, match="true to zero"):
        Limit.model_validate({"kind": "angle", "typed": Typed(text=typed, unit="mm")}).mm  # noqa: B018


def test_a_short_edge_for_a_long_limit_is_told_at_the_start() -> None:
    kind = {"kind": "over_length", "typed": Typed(text="0.05", unit="mm")}
    told = desk.check_plan(mill("vise", limit=Limit.model_validate(kind), over_length_mm=600.0))
    words = next(plain(c.text, "mm", 0.001) for c in told if c.code == "short_edge")
    assert "counts 4" in words


def test_the_log_of_a_vise_reads_like_a_persons() -> None:
    hand = AtTheMill(mill("vise"))
    hand.send(ev.GapMeasured(typed=Typed(text="0.004", unit="mm")))
    hand.type(along(0.002, 0.0, hand.plan_spots), closing=True)
    hand.done(taps=8)
    lines = [plain(line.what, "mm", 0.001) for line in desk.log_of(hand.events, desk.load(hand.events))]
    assert "Play of the table: 0.004 mm." in lines
    assert any(line.startswith("Front right corner tapped away from you, aim") for line in lines)
