"""A proof that proves nothing is not taken for one: places past the dial, a needle that did not come back."""

from __future__ import annotations

import math
from datetime import date

import pytest

from tests.core.bench_person import Person
from tests.core.hand import Hand, outside
from tests.support import make_plan, there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import NotNow
from velvet_hand.core.move import Jaws
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

RINGS = ["clocking", "collet", "reversal", "shaft", "throw", "two_planes"]


def proof(*needle: str, closing: str) -> Person:
    """A four-jaw that is tight; its proof reads that."""
    person = Person(limit_thou="0.5", travel_mm=0.8)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    for index, said in enumerate(needle, start=1):
        person.read(f"s{index}", said)
    person.read("s1", closing, closing=True)
    return person


@pytest.mark.parametrize(
    ("needle", "closing", "limited_by"),
    [
        (("0", "0", "0", "0"), "0", None),
        (("+off", "0", "0", "0"), "0", "unread"),
        (("0", "lost", "0", "0"), "0", "unread"),
        (("0", "0", "0", "0"), "+off", "drift"),
        (("0", "0", "0", "0"), "lost", "drift"),
        (("0.001", "0", "0", "0.003"), "0.005", "drift"),
    ],
)
def test_off_lost_or_not_come_back_is_no_proof(needle: tuple[str, ...], closing: str, limited_by: str | None) -> None:
    person = proof(*needle, closing=closing)
    judged, panel = person.solve().judged, person.panel()
    if judged is None:
        assert limited_by == "unread"
        assert panel.primary is not None
        assert panel.primary.id == "again"
        return
    if limited_by is None:
        assert (judged.outcome, there(panel.primary).id) == ("holds", "prove")
        return
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", limited_by)
    assert judged.settle
    assert panel.primary is not None
    assert (panel.primary.id, panel.primary.key) == ("again", "Enter")
    assert [a.key for a in panel.others if a.id == "prove"] == ["T"]
    assert person.view().passes[-1].outcome == "cannot_tell"
    person.send(ev.Proved(pass_no=1))
    verdict = desk.load(person.events).verdict
    assert verdict is not None
    assert verdict.outcome == "cannot_tell"


def test_read_again_it_is_a_proof() -> None:
    person = proof("0", "0", "0", "0", closing="0.006")
    for event in there(person.panel().primary).events:
        person.send(event)
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    assert there(person.panel().primary).id == "prove"
    judged = person.solve().judged
    assert judged is not None
    assert judged.outcome == "holds"


def test_a_place_past_the_dial_is_read_again_from_a_zero_nearer_to_it() -> None:
    person = proof("+off", "0.1", "0.5", "0.3", closing="+off")
    primary = person.panel().primary
    assert primary is not None
    assert [(e.type, getattr(e, "station_id", "")) for e in primary.events] == [("zero_set", "s3")]
    person.send(primary.events[0])
    view = person.view()
    assert (view.tray.pass_no, {c.state for c in view.tray.cells}) == (2, {"open"})


def test_what_is_past_the_dial_wherever_zero_is_set_is_outside_and_corrected() -> None:
    person = proof("-off", "0.1", "0.5", "0.3", closing="-off")
    primary = person.panel().primary
    assert primary is not None
    assert primary.id == "prove"
    person.send(primary.events[0])
    assert there(desk.load(person.events).verdict).outcome == "outside"
    assert there(person.panel().primary).events[0].type == "move_done"


def test_a_proof_that_cannot_be_judged_is_not_taken() -> None:
    person = proof("+off", "+off", "0", "0", closing="+off")
    assert person.solve().judged is None
    assert [a.id for a in person.panel().others] == []
    with pytest.raises(NotNow, match="cannot be judged"):
        person.send(ev.Proved(pass_no=1))


@pytest.mark.parametrize("off", ["+off", "-off"])
def test_a_proof_that_is_past_the_dial_all_round_is_read_again_from_a_fresh_zero(off: str) -> None:
    person = proof(off, off, off, off, closing=off)
    panel = person.panel()
    assert there(panel.primary).events == (ev.ZeroSet(station_id="s1"),)
    assert any("Set the zero at jaw 1" in plain(line, "thou", 0.01) for line in panel.why)
    person.send(there(panel.primary).events[0])
    person.read_all(0.002, 0, 0, 0.002, closing=0.002)
    assert there(person.solve().judged).outcome == "holds"


@pytest.mark.parametrize("said", ["+off", "lost"])
@pytest.mark.parametrize("procedure", RINGS)
def test_no_ring_with_a_place_off_the_dial_holds(procedure: str, said: str) -> None:
    hand = Hand(outside(procedure, **({"noted": "all"} if procedure == "shaft" else {})))
    asked = desk.load(hand.events).to_read(None)
    for spot in {station.ring: station.id for station, again in asked if not again}.values():
        hand = Hand(outside(procedure, **({"noted": "all"} if procedure == "shaft" else {})))
        for station, again in asked:
            if station.id == spot and not again:
                typed = Typed(text=said, unit="mm")
                hand.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=typed, closing=False))
            else:
                hand._read(1, station.id, 0.0, closing=again)
        judged = hand.solve().judged
        assert judged is None or (judged.outcome != "holds" and all(v.outcome != "holds" for v in judged.beside)), spot


EIGHT = tuple(45.0 * i for i in range(8))


def eight(*needle: str, bad: tuple[int, ...] = (), limit_thou: str = "0.5") -> Person:
    """The proof of a four-jaw read at eight spots, some of them marked bad."""
    person = Person(limit_thou=limit_thou, travel_mm=0.8, stations_deg=EIGHT)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    for index, said in enumerate(needle, start=1):
        if index in bad:
            person.send(ev.SpotMarked(pass_no=1, station_id=f"s{index}"))
        else:
            person.read(f"s{index}", said)
    person.read("s1", needle[0], closing=True)
    return person


def test_spots_on_one_side_prove_nothing_of_the_other() -> None:
    person = eight(*["0"] * 8, bad=(4, 5, 6, 7, 8), limit_thou="2")  # 0, 45 and 90 degrees are left
    judged = person.solve().judged
    assert judged is not None
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", "unread")
    half = eight(*["0"] * 8, bad=(2, 4, 6)).solve().judged  # those that are left go round
    assert half is not None
    assert half.outcome == "holds"


def test_a_reading_left_out_unasked_is_no_proof_until_somebody_calls_it_bad() -> None:
    readings = ["0", "0.05", "0", "0.001", "0", "0", "0.001", "0"]
    judged = eight(*readings).solve().judged
    assert judged is not None
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", "wild")
    marked = eight(*readings, bad=(2,)).solve().judged
    assert marked is not None
    assert marked.outcome == "holds"


@pytest.mark.parametrize("readings", [("0.010", "0", "0", "0"), ("0", "0", "0.010", "0")])
def test_a_low_side_cut_off_flat_is_no_proof(readings: tuple[str, ...]) -> None:
    person = Person(limit_thou="0.5", travel_mm=0.8, graduation_mm=0.001)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    for index, said in enumerate(readings, start=1):
        person.read(f"s{index}", f"{said} mm")
    person.read("s1", f"{readings[0]} mm", closing=True)
    judged = person.solve().judged
    assert judged is not None
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", "preload")
    assert any("More preload" in "".join(getattr(p, "text", "") for p in c.text) for c in person.solve().caveats)


@pytest.mark.parametrize(("travel_mm", "outcome"), [(0.010, "cannot_tell"), (0.8, "holds")])
def test_a_reading_at_the_very_end_of_the_travel_is_past_it(travel_mm: float, outcome: str) -> None:
    person = Person(limit_thou="0.5", travel_mm=travel_mm, graduation_mm=0.001)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    person.read_all(0.010, 0.0065, 0.004, 0.0075, closing=0.010)  # 0.006 TIR, if the needle had not been stopped
    judged = person.solve().judged
    assert judged is not None
    assert judged.outcome == outcome


def test_the_band_alone_decides_with_coarse_marks_too() -> None:
    person = Person(limit_thou="1", graduation_mm=0.0127, floor_mm=0.0)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    person.read_all(0.005, 0.0, 0.0, 0.0, closing=0.005)
    judged = person.solve().judged
    assert judged is not None
    assert judged.outcome == "holds"
    assert judged.value_mm + judged.band_mm < 0.0254


def between(*needle_mm: float) -> Person:
    """A four-jaw planned with four spots as the start page plans it, tight, its proof read at all that are asked."""
    plan = make_plan(limit_thou="0.5", travel_mm=0.8)
    asked = PROCEDURES["four_jaw"].looking_between(plan)
    person = Person(limit_thou="0.5", travel_mm=0.8, between=asked.between)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    spots = [s.id for s, again in desk.load(person.events).to_read(None) if not again]
    assert [s.angle_deg for s, again in desk.load(person.events).to_read(None) if not again] == list(EIGHT)
    assert spots == ["s1", "s1b", "s2", "s2b", "s3", "s3b", "s4", "s4b"]
    for spot, value in zip(spots, needle_mm, strict=True):
        person.read(spot, f"{value:.3f}")
    person.read("s1", f"{needle_mm[0]:.3f}", closing=True)
    return person


def test_an_oval_that_four_spots_cannot_see_is_seen_by_the_proof() -> None:
    oval = between(*[0.01 * math.sin(math.radians(2 * 45 * i)) for i in range(8)])  # axes at 45 degrees to the jaws
    judged = oval.solve().judged
    assert judged is not None
    assert judged.outcome == "outside"
    assert judged.value_mm == pytest.approx(0.02, abs=0.001)
    round_one = between(*[0.0] * 8).solve().judged
    assert round_one is not None
    assert round_one.outcome == "holds"


def test_only_proofs_read_between_and_eight_only_what_they_leave_undecided() -> None:
    four_jaw = PROCEDURES["four_jaw"]
    assert four_jaw.looking_between(make_plan(limit_kind="off_centre")).between
    assert not PROCEDURES["reversal"].looking_between(make_plan()).between
    steering = Person(between=True)
    assert [s.id for s, again in desk.load(steering.events).to_read(None) if not again] == ["s1", "s2", "s3", "s4"]


def undecided(*values: float) -> Person:
    """Eight spots of a proof, read, of a plan that reads between when they leave it open."""
    person = Person(stations_deg=EIGHT, between=True, graduation_mm=0.001, floor_mm=0.0)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    person.read_all(*values)
    return person


def test_spots_between_are_asked_for_when_eight_leave_it_open_and_stay_asked_for() -> None:
    turn = [math.cos(math.radians(deg)) for deg in EIGHT]
    decided = desk.load(undecided(*(0.0005 * c for c in turn)).events)
    assert len(decided.asked(decided.open_pass)) == 8
    open_ = undecided(*(0.0060 * c for c in turn))
    state = desk.load(open_.events)
    assert len(state.asked(state.open_pass)) == 16
    assert "Close to the limit" in plain_words(open_)
    for n, deg in enumerate(EIGHT, start=1):
        open_.read(f"s{n}c", f"{0.0060 * math.cos(math.radians(deg + 22.5)):.6f}")
    open_.read("s1", "0.0060", closing=True)
    state = desk.load(open_.events)
    assert len(state.asked(state.open_pass)) == 16
    more, less = there(open_.solve().judged), there(undecided(*(0.0060 * c for c in turn)).solve().judged)
    assert more.band_mm < less.band_mm


@pytest.mark.parametrize(("offset_mm", "asked"), [(0.0022, 8), (0.0042, 8), (0.0046, 16), (0.0050, 16), (0.0080, 8)])
def test_where_four_steer_a_proof_that_nearly_fails_is_read_closely_too(offset_mm: float, asked: int) -> None:
    four = between(*(offset_mm * math.cos(math.radians(deg)) for deg in EIGHT))
    state, judged = desk.load(four.events), there(four.solve().judged)
    assert len(state.asked(state.open_pass)) == asked
    used = (judged.value_mm + judged.band_mm) / judged.limit_mm
    assert (asked == 16) == (judged.value_mm <= judged.limit_mm and used > 0.9), used


def open_proof() -> Person:
    """A proof of sixteen that is not proven, a little more than a pass away from it."""
    person = undecided(*(0.0060 * math.cos(math.radians(deg)) for deg in EIGHT))
    for n, deg in enumerate(EIGHT, start=1):
        person.read(f"s{n}c", f"{0.0060 * math.cos(math.radians(deg + 22.5)):.6f}")
    person.read("s1", "0.0060", closing=True)
    return person


def test_a_proof_that_is_not_proven_asks_for_its_readings_again_and_for_all_of_them() -> None:
    person = open_proof()
    person.send(ev.Proved(pass_no=1))
    assert there(desk.load(person.events).verdict).outcome == "cannot_tell"
    person.send(ev.PassClosed(pass_no=1))
    state = desk.load(person.events)
    assert state.verdict is None
    assert plain_words(person) == "Everything is tight. Read jaw 1."
    person.read("s1", "0.0060")
    state = desk.load(person.events)
    assert len(state.asked(state.open_pass)) == 16


def plain_words(person: Person) -> str:
    return plain(person.panel().headline, "mm", 0.001)


def test_a_spot_past_the_dial_is_moved_for_first_whatever_the_others_say() -> None:
    person = Person(travel_mm=0.8)
    for spot, said in (("s1", "+off"), ("s2", "0.003"), ("s3", "0"), ("s4", "0")):
        person.read(spot, said)
    person.read("s1", "+off", closing=True)
    solution = person.solve()
    assert not solution.ready
    move = solution.moves[0]
    assert isinstance(move, Jaws)
    assert move.draw.number == 1  # outside: where it stands nearest it is drawn in


def test_wrong_press_test_is_found_by_the_first_move_and_mended_by_one_key() -> None:
    for went, right in (("plus", "minus"), ("minus", "plus")):
        person = Person(went=went)
        sign = 1 if right == "plus" else -1
        person.read_all(*(sign * v for v in (0.2, 0.0, -0.2, 0.0)), closing=sign * 0.2)
        assert [a.key for a in person.panel().others if a.id == "turned"] == ["W"]
        person.do()  # it takes the wrong jaw in: what was 0.2 off is 0.4 off
        person.read_all(*(sign * v for v in (0.4, 0.0, -0.4, 0.0)), closing=sign * 0.4)
        panel = person.panel()
        assert panel.name == "press"
        assert panel.primary is None
        assert desk.lesson(desk.load(person.events)).taught == {}
        asked = next(a for a in panel.others if a.id == right)
        person.send(asked.events[0])
        move = person.solve().moves[0]
        assert isinstance(move, Jaws)
        assert move.draw.number == 1
        assert move.asked is not None
        assert 0.35 < move.asked.mm < 0.6


def test_a_press_test_that_was_right_goes_on_after_it_was_made_again() -> None:
    person = Person(went="plus")
    person.read_all(0.2, 0.0, -0.2, 0.0, closing=0.2)
    person.do()
    person.read_all(0.4, 0.0, -0.4, 0.0, closing=0.4)  # a wrong jaw was turned
    person.send(ev.PressTested(went="plus"))
    assert person.panel().primary is not None
    assert desk.lesson(desk.load(person.events)).taught == {}


def test_an_indicator_overdue_for_its_check_is_told_at_the_plan_the_proof_and_the_log() -> None:
    person = Person()
    late = person.plan.gauge.model_copy(update={"check_due": date(2025, 12, 31)})
    plan = person.plan.model_copy(update={"gauge": late})
    person.events[0] = person.events[0].model_copy(update={"body": ev.Opened(plan=plan)})
    words = "was due for its check on 31 Dec 2025"
    assert any(words in plain(one.text, "mm", 0.001) for one in desk.check_plan(plan, date(2026, 1, 5)))
    assert desk.check_plan(plan, date(2025, 12, 31)) == desk.check_plan(person.plan, date(2026, 1, 5))
    person.send(ev.Tightened())
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    assert any(words in plain(why, "mm", 0.001) for why in person.panel().why)
    person.send(ev.Proved(pass_no=1))
    view = person.view()
    assert any(words in plain(one, "mm", 0.001) for one in view.told)
    assert words in plain(person.log()[-1].what, "mm", 0.001)


def test_an_indicator_that_was_in_too_many_set_ups_is_told_as_well() -> None:
    plan = make_plan()
    worn = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"check_every": 10, "used": 12})})
    told = [plain(c.text, "mm", 0.001) for c in desk.check_plan(worn, date(2026, 1, 5))]
    assert any("was due for its check after 10 set-ups and has been in 12: nobody vouches" in one for one in told), told
    fresh = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"check_every": 10, "used": 10})})
    assert not [c for c in desk.check_plan(fresh, date(2026, 1, 5)) if c.code == "check_overdue"]
