"""Paths, hold points, and what each procedure refuses at the wrong moment."""

from __future__ import annotations

from datetime import UTC, datetime

import pytest

from tests.core.bench_person import Person
from tests.core.hand import Hand, at, outside
from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, NotNow
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.move import Jaws, TapRound
from velvet_hand.core.plan.base import Limit
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.readings import Pass
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

ALL = list(PROCEDURES)
INCH = Typed(text="0.05", unit="mm")
MEASURED = [p for p in ALL if PROCEDURES[p].only_reads]


@pytest.mark.parametrize("procedure", ALL)
def test_the_path_begins_and_ends_at_a_hold_point_that_defers_to_the_manual(procedure: str) -> None:
    steps = PROCEDURES[procedure].path(plan_of(procedure, 0))
    assert (steps[0].id, steps[-1].id) == ("make_safe", "clear_to_run")
    for step in steps:
        assert step.title
        assert step.prompt
        assert not step.hold or (len(step.cautions) >= 2 and "manual" in step.prompt)
        assert len({c.id for c in step.cautions}) == len(step.cautions)
    assert any("cannot start" in c.text for c in steps[0].cautions) or PROCEDURES[procedure].machine_kinds == ("plate",)
    assert any("Indicator and base" in c.text for c in steps[-1].cautions)
    ids = [s.id for s in steps]
    assert ids.index("clean") < ids.index("set_gauge") < ids.index("prove")
    assert ("nip_up" in ids) == (not PROCEDURES[procedure].only_reads)


@pytest.mark.parametrize("procedure", ALL)
def test_a_hold_point_is_not_passed_with_a_caution_unchecked(procedure: str) -> None:
    plan = plan_of(procedure, 0)
    hand = Hand.__new__(Hand)
    hand.at = datetime(2026, 1, 5, 9, tzinfo=UTC)
    hand.events = [hand._event(ev.Opened(plan=plan))]
    for step in PROCEDURES[procedure].path(plan):
        if step.id in ("set_gauge", "read", "prove"):
            break
        if step.hold:
            with pytest.raises(BadInput, match="every caution"):
                hand.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions[1:])))
        hand.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions)))


def test_no_step_is_passed_and_nothing_tightened_before_what_comes_first() -> None:
    person = Person(ready=False)
    for body in (ev.StepPassed(step="clean"), ev.StepPassed(step="read"), ev.Tightened()):
        with pytest.raises(NotNow, match="“make safe” comes before that"):
            person.send(body)


def test_a_half_done_move_is_finished_or_taken_back_before_anything_else() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0, closing=0.2)
    person.do(phase="eased")
    for body in (
        ev.ZeroSet(station_id="s1", why="bumped"),
        ev.PassClosed(pass_no=1),
        ev.SpotMarked(pass_no=1, station_id="s2"),
        ev.Tightened(),
    ):
        with pytest.raises(NotNow, match="half done"):
            person.send(body)
    person.do(phase="back")
    person.send(ev.PassClosed(pass_no=1))


@pytest.mark.parametrize("procedure", MEASURED)
def test_what_only_measures_may_be_judged_without_tightening(procedure: str) -> None:
    hand = Hand(outside(procedure))
    rings = {s.ring for s in desk.load(hand.events).stations}
    if procedure == "shaft":
        hand = Hand(outside("shaft", noted="all"))
        rings = {s.ring for s in desk.load(hand.events).stations}
    hand.read(dict.fromkeys(rings, at(0.02, 30)))
    assert hand.panel().verdict is not None
    assert hand.panel().primary is not None
    assert "finding" in there(hand.panel().primary).label
    hand.send(ev.Proved(pass_no=1))
    assert desk.load(hand.events).verdict is not None


@pytest.mark.parametrize(
    "procedure", ["faceplate", "adjustable", "packing", "clocking", "dowels", "throw", "two_planes"]
)
def test_nothing_is_signed_off_before_the_final_tightening(procedure: str) -> None:
    hand = Hand(outside(procedure))
    rings = {s.ring for s in desk.load(hand.events).asked()}
    hand.read(dict.fromkeys(rings, 0j))
    with pytest.raises(NotNow, match="final tightening"):
        hand.send(ev.Proved(pass_no=1))


def test_between_rings_it_says_what_has_to_be_done_by_hand() -> None:
    hand = Hand(outside("clocking", bolts=3))
    for index in range(1, 5):
        assert "register" in plain(hand.panel().headline, "mm", 0.001).lower()
        hand._read(1, f"plate{index}", 0.0)
    assert "register 0° again" in plain(hand.panel().headline, "mm", 0.001)
    hand._read(1, "plate1", 0.0, closing=True)
    words = plain(hand.panel().headline, "mm", 0.001)
    assert "Bolt the chuck on at position 1" in words
    hand._read(1, "whole1", 0.0)
    assert "Bolt" not in plain(hand.panel().headline, "mm", 0.001)


def test_the_reversal_says_how_far_to_turn_the_work() -> None:
    hand = Hand(outside("reversal", positions_deg=(0.0, 90.0)))
    for index in range(1, 5):
        hand._read(1, f"p0-{index}", 0.0)
    hand._read(1, "p0-1", 0.0, closing=True)
    assert "its mark to 90°" in plain(hand.panel().headline, "mm", 0.001)


def test_each_ring_has_a_closing_reading_of_its_own_and_is_proved_by_it() -> None:
    hand = Hand(outside("two_planes", far_gauge=None, between=False))
    hand.send(ev.Tightened())
    for ring in ("near", "far"):
        for index in range(1, 5):
            hand._read(1, f"{ring}{index}", 0.0)
    hand._read(1, "far1", 0.02, closing=True)
    figures = {f.id: f.mm for f in hand.solve().figures}
    assert figures["drift"] == pytest.approx(0.02)
    assert "near_drift" not in figures
    with pytest.raises(NotNow, match="Still to read: Near, jaw 1 again"):
        hand.send(ev.Proved(pass_no=1))
    hand._read(1, "near1", 0.03, closing=True)
    figures = {f.id: f.mm for f in hand.solve().figures}
    assert figures["near_drift"] == pytest.approx(0.03)
    assert there(hand.solve().judged).outcome != "holds"


@pytest.mark.parametrize("procedure", ["shaft", "reversal", "two_planes"])
def test_a_drift_of_any_ring_is_in_the_band(procedure: str) -> None:
    plan = outside(procedure, **({"noted": "all"} if procedure == "shaft" else {}))
    rings = list(desk.load(Hand(plan).events).measures)
    assert len(rings) >= 2
    for drifting in rings:
        hand = Hand(plan)
        for station, again in desk.load(hand.events).to_read(None):
            hand._read(1, station.id, 0.03 if again and station.ring == drifting else 0.0, closing=again)
        judged = hand.solve().judged
        assert judged is not None
        assert [t.mm for t in judged.terms if t.name == "drift"] == [
            pytest.approx(0.24 * plan.gauge.walked_mm(0.03) * 2)
        ], drifting
        assert "drift" in {c.code for c in hand.solve().caveats}, drifting


def test_each_ring_is_read_by_its_own_indicator() -> None:
    """A fine lever near, standing steep, and a coarse plunger far: scale, uncertainty and marks are each one's own."""
    coarse = Gauge(id="g2", name="Plunger", kind="plunger", graduation_mm=0.01, travel_mm=3, tip_radius_mm=2)
    fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=3, tip_radius_mm=1)
    hand = Hand(
        outside("two_planes", gauge=fine, far_gauge=coarse, stylus_deg=60.0, limit=Limit(kind="tir", typed=INCH))
    )
    hand.read({"near": at(0.01, 0), "far": at(0.01, 0)})
    near, far = (desk.load(hand.events).measures[k].look(*_record(hand)) for k in ("near", "far"))  # type: ignore[attr-defined]
    assert near.fit.offset_mm == pytest.approx(0.005, abs=1e-6)  # half of what a lever at 60 degrees shows
    assert far.fit.offset_mm == pytest.approx(0.01, abs=1e-6)
    assert (near.ring.radius_mm, far.ring.radius_mm) == (32.0, 33.0)
    assert near.round.scatter_mm < 0.3 * far.round.scatter_mm


def test_a_new_zero_in_one_measure_lets_the_other_stand() -> None:
    hand = Hand(outside("two_planes", far_gauge=None))
    for index in range(1, 5):
        hand._read(1, f"near{index}", 0.0)
    hand.send(ev.ZeroSet(station_id="far1"))
    hand._read(1, "far1", 0.0)
    assert desk.load(hand.events).passes[0].frames == {"near": 1, "far": 1}
    hand.send(ev.ZeroSet(station_id="far1", why="bumped"))  # in the middle of its own readings: they are lost
    hand._read(2, "near1", 0.0)
    assert len(desk.load(hand.events).passes) == 2


def test_the_last_ring_drifts_by_itself() -> None:
    hand = Hand(outside("two_planes", far_gauge=None))
    for ring in ("near", "far"):
        for index in range(1, 5):
            hand._read(1, f"{ring}{index}", 0.0)
    hand._read(1, "far1", 0.02, closing=True)
    figures = {f.id: f.mm for f in hand.solve().figures}
    assert figures["near_off_centre"] == pytest.approx(0.0)


def test_what_did_not_come_back_is_named_as_its_own_needle_shows_it() -> None:
    """A coarse far indicator of the other sense: a mark of its own is no drift, and three are told with its sign."""
    coarse = Gauge(id="g2", name="Plunger", kind="plunger", graduation_mm=0.01, travel_mm=3, tip_radius_mm=2)
    for closing, told in ((0.01, False), (0.03, True)):
        hand = Hand(outside("two_planes", far_gauge=coarse))
        hand.send(ev.PressTested(went="minus", gauge="far"))
        for station, again in desk.load(hand.events).to_read(None):
            hand._read(1, station.id, closing if again and station.ring == "far" else 0.0, closing=again)
        drifts = [plain(c.text, "mm", 0.001) for c in hand.solve().caveats if c.code == "drift"]
        assert len(drifts) == told
        assert not told or drifts[0].startswith("Far, jaw 1 did not come back: +0.030 mm.")


def test_a_station_of_another_stage_is_refused() -> None:
    hand = Hand(outside("clocking", bolts=3))
    hand.read({"plate": at(0.022, 60), "whole": at(0.03, 10)})
    move = hand.solve().moves[0]
    hand.send(ev.MoveDone(pass_no=1, move_id=move.id))
    with pytest.raises(NotNow, match="not read in this pass"):
        hand.send(ev.ReadingTaken(pass_no=2, station_id="plate1", typed=Typed(text="0", unit="mm")))


def test_a_register_that_was_not_read_whole_is_asked_for_again() -> None:
    hand = Hand(outside("clocking", bolts=3))
    hand._read(1, "plate1", 0.0)
    hand.send(ev.PassClosed(pass_no=1))
    assert "plate1" in [s.id for s in desk.load(hand.events).asked()]


def test_each_of_two_gauges_has_a_press_test_of_its_own() -> None:
    plan = plan_of("two_planes", 0)
    assert plan.slots == ("", "far")
    hand = Hand(plan)
    state = desk.load(hand.events)
    near, far = (next(s for s in state.stations if s.ring == r) for r in ("near", "far"))
    hand.send(ev.PressTested(went="minus", gauge="far"))
    state = desk.load(hand.events)
    assert state.sense_of(near).push_reads == 1
    assert state.sense_of(far).push_reads == -1
    assert state.sense_of(far).toward_mm(0.1) == -state.sense_of(near).toward_mm(0.1)


def test_a_move_that_went_the_wrong_way_is_told_before_the_next_one() -> None:
    hand = Hand(outside("faceplate"))
    hand.read(at(0.1, 90))
    move = hand.solve().moves[0]
    hand.send(ev.MoveDone(pass_no=1, move_id=move.id))
    hand.read(at(0.19, 90))
    told = plain(next(c.text for c in hand.solve().caveats if c.code == "wrong_way"), "mm", 0.01)
    assert told.endswith("Make the press test again.")
    hand.send(ev.PressTested(went="plus"))
    told = plain(next(c.text for c in hand.solve().caveats if c.code == "wrong_way"), "mm", 0.01)
    assert told.endswith("The needle was pressed and is right: move slowly, and watch it go to its aim.")


def test_too_little_preload_shows_as_a_flat_low_side() -> None:
    plan = outside("faceplate", stations_deg=tuple(30.0 * i for i in range(12)))
    hand = Hand(plan)
    for index, station in enumerate(s for s in desk.load(hand.events).stations if s.when == "always"):
        hand._read(1, station.id, max((at(0.2, 0) * at(1, -30.0 * index)).real, -0.05))
    assert "preload" in [c.code for c in hand.solve().caveats]


def test_a_flat_that_was_not_read_across_says_nothing() -> None:
    hand = Hand(outside("throw", shape="flats", throw_mm=0.0))
    hand._read(1, "s1", 0.2)
    hand._read(1, "s2", 0.1)
    assert hand.solve().moves == ()
    hand._read(1, "s3", -0.2)
    assert as_a(Jaws, hand.solve().moves[0]).draw.number == 1


def test_a_flat_that_is_marked_bad_is_asked_for_beside_it_and_nothing_is_moved() -> None:
    hand = Hand(outside("throw", shape="flats", throw_mm=0.0))
    for spot, mm in (("s1", 0.2), ("s2", 0.1), ("s3", -0.2)):
        hand._read(1, spot, mm)
    hand.send(ev.SpotMarked(pass_no=1, station_id="s4"))
    assert hand.solve().moves == ()
    assert "read jaw 4 beside what is bad" in plain(hand.panel().headline, "mm", 0.001)


def test_a_face_that_leans_is_tapped_where_its_gap_is_smallest() -> None:
    hand = Hand(outside("rough", second="face", face_radius_mm=60.0))
    for station, gap in (("s1", "20"), ("s2", "20"), ("s3", "20"), ("s4", "20")):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text=gap, unit="mm")))
    for station, gap in (("face1", "8"), ("face2", "10"), ("face3", "12"), ("face4", "10")):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text=gap, unit="mm")))
    move = hand.solve().moves[0]
    assert there(move.needle).label == "face, jaw 1"
    assert move.aim_mm == pytest.approx(10)
    reason = plain(move.reason, "mm", 0.25)
    assert "outer end of jaw 3" in reason
    figures = {f.id: f for f in hand.solve().figures}
    assert figures["tilt"].mm == pytest.approx(4.0)


def test_feelers_behind_the_jaws_tell_the_lean_and_which_way_to_tap() -> None:
    hand = Hand(outside("rough", second="feelers", jaw_length_mm=40.0))
    for station in ("s1", "s2", "s3", "s4"):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text="20", unit="mm")))
    for station, gap in (("face1", "0"), ("face2", "1"), ("face3", "2"), ("face4", "1")):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text=gap, unit="mm")))
    move = hand.solve().moves[0]  # the gap is at jaw 3: the outer end leans toward it, and is tapped from there
    assert as_a(TapRound, move).at_deg == pytest.approx(180)
    assert "from the side of jaw 3" in hand.said()
    assert "behind jaw 1" in hand.said()
    assert "outer end of jaw 3 by 1.00 mm" in plain(move.reason, "mm", 0.01)


def test_the_rule_says_when_a_gauge_becomes_worth_it() -> None:
    hand = Hand(outside("rough", second="none"))
    for station in ("s1", "s2", "s3", "s4"):
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text="20", unit="mm")))
    assert "gauge_worth" in [c.code for c in hand.solve().caveats]


def test_the_collet_that_cannot_do_it_says_what_is_left_to_do() -> None:
    plan = outside("collet", positions_deg=(0.0, 180.0))
    hand = Hand(plan)
    spindle = at(0.06, 40)
    hand.read(dict.fromkeys(("n0-", "f0-", "n1-", "f1-"), spindle))
    words = plain(hand.solve().stop, "mm", 0.001)
    assert "spindle’s taper" in words
    worn = Hand(plan)
    worn.read({"n0-": at(0.06, 0), "f0-": at(0.06, 0), "n1-": at(0.06, 180), "f1-": at(0.06, 180)})
    assert "replace this collet" in plain(worn.solve().stop, "mm", 0.001)


def test_dirt_in_a_taper_shows_as_an_angle() -> None:
    hand = Hand(outside("collet", positions_deg=(0.0, 180.0)))
    hand.read({"n0-": at(0.002, 0), "f0-": at(0.03, 0), "n1-": at(0.002, 0), "f1-": at(0.03, 0)})
    assert "angle_spindle" in [c.code for c in hand.solve().caveats]


def test_the_housing_is_never_shifted_when_plain_dowels_are_best() -> None:
    hand = Hand(plan_of("dowels", 0).model_copy(update={"sag": "none"}))
    hand.read(at(0.008, 30))
    assert hand.solve().moves == ()
    assert hand.solve().ready


def test_ends_that_run_out_are_the_centres_not_the_shaft() -> None:
    hand = Hand(outside("shaft", noted="all"))
    rings = sorted({s.ring for s in desk.load(hand.events).stations})
    hand.read(dict.fromkeys(rings, at(0.03, 70)))
    solution = hand.solve()
    assert "ends" in [c.code for c in solution.caveats]
    assert "Straight" in plain(solution.told, "mm", 0.001)
    assert solution.judged is not None
    assert solution.judged.outcome == "holds"


def test_a_journal_out_of_round_is_told_apart_from_a_bend() -> None:
    plan = outside("shaft", noted="all", stations_deg=tuple(45.0 * i for i in range(8)))
    hand = Hand(plan)
    import math

    for station in desk.load(hand.events).asked():
        worn = 0.02 * math.cos(math.radians(2 * station.angle_deg)) if station.ring == "z2-" else 0.0
        hand._read(1, station.id, worn)
    solution = hand.solve()
    assert "worn" in [c.code for c in solution.caveats]
    assert "Bent" not in plain(solution.told, "mm", 0.001)


def test_a_job_that_only_measures_ends_with_its_finding_and_may_be_accepted_beside_it() -> None:
    hand = Hand(outside("shaft", noted="all"))
    rings = sorted({s.ring for s in desk.load(hand.events).stations})
    hand.read({ring: at(0.0 if ring == rings[0] else 0.15, 70) for ring in rings})
    hand.send(ev.Proved(pass_no=1))
    state = desk.load(hand.events)
    assert there(state.verdict).outcome == "outside"
    panel = hand.panel()
    step = desk.procedure_of(state.plan).path(state.plan)[-1]
    assert panel.name == step.id == "clear_to_run"  # the way goes on without an excuse
    assert [a.id for a in panel.others] == ["accept"]
    hand.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions)))
    hand.send(ev.Accepted(reason="for roughing"))
    hand.send(ev.StepPassed(step=step.id, checked=tuple(c.id for c in step.cautions)))
    said = [plain(words, "mm", 0.001) for words in (hand.panel().headline, *hand.panel().why)]
    assert said[0] == "Accepted: for roughing"
    assert any(one.startswith("Outside") for one in said[1:])


def _record(hand: Hand) -> tuple[State, Pass]:
    state = desk.load(hand.events)
    return state, state.passes[-1]
