"""Readings past the end of the dial, and rings: directions, runs, zeros of their own."""

from __future__ import annotations

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from tests.core.hand import Hand, at, outside
from velvet_hand.core.angles import direction_deg, rect
from velvet_hand.core.desk import desk
from velvet_hand.core.engine.beyond import away_from, pull, run_for
from velvet_hand.core.engine.rings import judge_ring, look_ring
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.verdict import Term, judge, worst

SHORT = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=0.25)
EIGHT = tuple(45.0 * i for i in range(8))


def seen(size: float, deg: float, zero: float = 0.0, went: str = "plus") -> Hand:
    """A faceplate whose work is off by that, read with a short lever."""
    hand = Hand(outside("faceplate", gauge=SHORT, stations_deg=EIGHT), went)
    for station in desk.load(hand.events).asked():
        value = (at(size, deg) * at(1, -station.angle_deg)).real - zero
        value = round(value, 3) * (1 if went == "plus" else -1)
        text = f"{value:.6f}" if abs(value) <= 0.25 else "+off" if value > 0 else "-off"
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=Typed(text=text, unit="mm")))
    return hand


@given(st.floats(0.3, 1.5), st.floats(0, 360), st.sampled_from(["plus", "minus"]))
def test_a_direction_is_told_from_readings_that_ran_off(size: float, deg: float, went: str) -> None:
    hand = seen(size, deg, went=went)
    state = desk.load(hand.events)
    look = look_ring(state, state.passes[-1])
    assume(look.off)
    pulled = pull(state, look)
    assert pulled is not None
    assert abs((direction_deg(pulled) - deg + 180) % 360 - 180) < 25
    run = run_for(state, look, away_from(pulled))
    assert run is None or run.end_mm is None or abs(run.end_mm) == SHORT.travel_mm


def test_the_blow_lands_on_the_side_where_the_work_stands() -> None:
    move = seen(0.8, 100).solve().moves[0]
    assert move.rezero
    assert move.do == "tap_round"
    assert abs((move.at_deg - 100 + 180) % 360 - 180) < 25
    assert move.aim_mm is None or abs(move.aim_mm) <= SHORT.travel_mm


def test_with_no_run_left_zero_is_to_be_set_afresh() -> None:
    hand = Hand(outside("faceplate", gauge=SHORT))
    for index, text in enumerate(("+off", "+off", "+off", "+off"), start=1):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=f"s{index}", typed=Typed(text=text, unit="mm")))
    hand.send(ev.ReadingTaken(pass_no=1, station_id="s1", typed=Typed(text="+off", unit="mm"), closing=True))
    assert "zero_misplaced" in [c.code for c in hand.solve().caveats]
    panel = hand.panel()
    assert panel.primary is not None
    assert panel.primary.id == "zero"


def test_an_end_that_nobody_named_is_asked_for() -> None:
    hand = Hand(outside("faceplate", gauge=SHORT))
    hand.send(ev.ReadingTaken(pass_no=1, station_id="s1", typed=Typed(text="off", unit="mm")))
    assert "off_which_end" in [c.code for c in hand.solve().caveats]


def test_each_ring_has_a_zero_of_its_own() -> None:
    hand = Hand(outside("two_planes", far_gauge=None))
    for ring, zero, vector in (("near", 0.1, at(0.05, 20)), ("far", -0.4, at(0.08, 200))):
        for index in range(1, 5):
            hand._read(1, f"{ring}{index}", zero + (vector * at(1, -90.0 * (index - 1))).real)
    state = desk.load(hand.events)
    near, far = (look_ring(state, state.passes[-1], ring).center for ring in ("near", "far"))
    assert near == pytest.approx(at(0.05, 20), abs=1e-6)
    assert far == pytest.approx(at(0.08, 200), abs=1e-6)


def test_a_forecast_adds_the_kick_before_it_judges() -> None:
    hand = Hand(outside("faceplate"))
    hand.read(at(0.004, 0))
    state = desk.load(hand.events)
    look = look_ring(state, state.passes[-1])
    plain, kicked = judge_ring(state, look), judge_ring(state, look, shift=rect(0.004, 0))
    better = judge_ring(state, look, shift=rect(0.004, 180))
    assert plain is not None
    assert kicked is not None
    assert better is not None
    assert better.value_mm < plain.value_mm < kicked.value_mm
    assert kicked.value_mm == pytest.approx(0.016, abs=1e-6)


def test_the_worst_of_several_judgements_leads_and_names_its_place() -> None:
    term = (Term(name="gauge", mm=0.001),)
    good = judge("tir", 0.002, 0.01, term).model_copy(update={"where": "near"})
    bad = judge("tir", 0.02, 0.01, term).model_copy(update={"where": "far"})
    unsure = judge("tir", 0.0095, 0.01, term).model_copy(update={"where": "middle"})
    found = worst((good, bad, unsure))
    assert (found.outcome, found.where) == ("outside", "far")
    assert [v.where for v in found.beside] == ["middle", "near"]
    assert worst((good, unsure)).outcome == "cannot_tell"


def test_lost_motion_widens_the_band_and_is_named() -> None:
    lossy = Gauge(id="g", name="Worn", kind="plunger", graduation_mm=0.002, travel_mm=3, lost_motion_mm=0.02)
    hand = Hand(outside("faceplate", gauge=lossy))
    hand.read(at(0.004, 0))
    judged = hand.solve().judged
    assert judged is not None
    assert judged.limited_by == "lost_motion"
    assert judged.band_mm > 0.02
    assert "lost_motion" in [c.code for c in desk.check_plan(outside("faceplate", gauge=lossy))]
