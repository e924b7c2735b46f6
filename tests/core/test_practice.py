"""Practice: every drill can be done by hand from the dial alone, what was hidden stays hidden, and what is told afterwards is true."""

from __future__ import annotations

import cmath
import math
from datetime import timedelta
from typing import Any

import numpy as np
import pytest

from tests.core.by_hand import BEGAN, Trainee
from tests.support import there
from velvet_hand.core.errors import BadInput, NotFound, NotNow
from velvet_hand.core.practice import acts
from velvet_hand.core.practice.debrief import best_passes, debrief
from velvet_hand.core.practice.drills import DRILLS, LEVELS, MACHINES
from velvet_hand.core.practice.faults import FAULTS
from velvet_hand.core.practice.record import Result, record
from velvet_hand.core.practice.schools import schools
from velvet_hand.core.practice.session import Session, Told, replay
from velvet_hand.core.practice.show import show
from velvet_hand.core.procedures.throw.plan import ThrowPlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.jaws import SimulatedChuck
from velvet_hand.core.units import Typed, Unit

NAMED = {"floor", "oval", "square", "loose", "burr", "chip", "shaft"}
MADE = [drill.id for drill in DRILLS if drill.id not in NAMED]
FREE = [f"{name}.{level}" for name, causes in MACHINES.items() for level in LEVELS if causes or level != "hard"]


#: A machine that is chosen has its easy level in one unit and its usual one in the other.
UNITS: dict[str, Unit] = {"easy": "thou", "usual": "mm"}
BY_HAND = [
    *((drill, unit) for drill in MADE for unit in UNITS.values()),
    *((name, UNITS[name.rpartition(".")[2]]) for name in FREE if not name.endswith("hard")),
]


@pytest.mark.parametrize(("drill", "unit"), BY_HAND)
def test_who_does_as_the_advice_says_gets_there_by_hand(drill: str, unit: Unit) -> None:
    """With the needle alone, keys turned by half degrees, taps no two alike."""
    person = Trainee(drill, 5, unit=unit)
    person.do(acts.Look(square=True))
    person.work()
    told = debrief(person.session)
    assert told.good, (told.headline, told.steps)
    assert told.wrong_ways <= 1, told.steps
    assert told.end_mm <= told.limit_mm
    assert told.passes == person.session.person.full_passes


@pytest.mark.parametrize(
    ("drill", "seed"),
    [("centre.usual", 0), ("centre.usual", 7), ("two_planes.usual", 3), ("column.usual", 4), ("throw.usual", 1)],
)
def test_a_hand_that_is_coarser_than_the_dial_does_not_chase_it_for_ever(drill: str, seed: int) -> None:
    person = Trainee(drill, seed, unit="mm")
    person.work()
    assert debrief(person.session).good
    assert person.session.passes <= 9


def test_a_blow_that_falls_where_the_stylus_stands_needs_a_place() -> None:
    person = Trainee("faceplate.easy", 3)
    before = person.session.body.astray
    with pytest.raises(BadInput, match="Where does the blow fall"):
        person.do(acts.Hand(control="tap", amount=1))
    person.do(acts.Hand(control="tap", amount=2, at=90.0))
    went = person.session.body.astray - before
    assert abs(went.real) < 0.2 * abs(went.imag)
    assert went.imag < 0


def test_a_screw_pushes_a_body_only_as_far_as_the_others_let_it() -> None:
    person = Trainee("adjustable.easy", 3)
    body, plan = person.session.body, person.session.person.plan
    before = body.astray
    person.do(acts.Hand(control="screw1", amount=0.05))
    assert abs(body.astray - before) < 1e-6  # nothing was slackened: it squeezes
    others = [c.id for c in person.session.controls if c.id != "screw1"]
    for name in others:
        person.do(acts.Hand(control=name, amount=-0.05))
    assert abs(body.astray - before) < 1e-6  # what is slackened moves nothing by itself
    person.do(acts.Hand(control="screw1", amount=0.03))
    went = body.astray - before
    toward = 1 if getattr(plan.holder, "follows", "") == "toward" else -1
    assert went.real * toward == pytest.approx(0.03, abs=0.004)  # screw 1 is at 0°
    person.do(acts.Hand(control="screw1", amount=300.0))
    assert abs(body.astray - before) < 0.2


@pytest.mark.parametrize("drill", sorted(NAMED))
@pytest.mark.parametrize("seed", range(4))
def test_what_cannot_be_made_good_has_to_be_called_by_its_name(drill: str, seed: int) -> None:
    def end(fault: Any) -> bool:
        person = Trainee(drill, seed)
        person.do(acts.Good(fault=fault))
        return debrief(person.session).good

    right = there(Trainee(drill, seed).session.drill.fault(Trainee(drill, seed).session.body))
    assert end(right)
    assert not end(None)
    assert not end(next(name for name in FAULTS if name != right))


@pytest.mark.parametrize("drill", [*(drill.id for drill in DRILLS), *FREE])
def test_nothing_that_is_hidden_is_shown_before_the_end(drill: str) -> None:
    """Another machine behind the same plan is shown no otherwise."""
    session = Session(Told(drill=drill, seed=5, advice="off"), BEGAN)
    before = show(session, "x", 0)
    assert (before.ended, before.advice, before.view.panels) == (None, None, ())
    session.body = session.drill.body(session.person.plan, np.random.default_rng(99))
    assert show(session, "x", 0) == before


def turned(person: Trainee, jaw: int, mm: float) -> None:
    person.do(acts.Hand(control=f"jaw{jaw}", amount=mm))


@pytest.mark.parametrize(
    "drill", ["throw.usual", "bed.usual", "edge.usual", "column.usual", "tailstock.usual", "centre.usual"]
)
def test_where_it_stands_is_told_against_the_limit_that_it_is_held_to(drill: str) -> None:
    """Of several things the worst; off its throw, not twice as much, and not from the middle."""
    limits = set()
    for seed in range(6):
        person = Trainee(drill, seed, advice="off")
        body = person.session.body
        person.do(acts.Good())
        told = debrief(person.session)
        assert (told.end_mm > told.limit_mm) == (body.past_limit_mm > 0)
        assert told.end_mm - told.limit_mm == pytest.approx(body.past_limit_mm)
        assert any((told.end_mm, told.limit_mm) == (one.mm, one.limit_mm) for one in body.truths)
        limits |= {told.limit_mm}
    assert limits >= {person.session.person.plan.limit.mm} or drill in ("bed.usual", "tailstock.usual", "column.usual")


def test_a_throw_is_off_by_its_size_and_by_what_lies_sideways() -> None:
    person = Trainee("throw.usual", 3, advice="off")
    plan, body = person.session.person.plan, person.session.body
    assert isinstance(plan, ThrowPlan)
    assert isinstance(body, SimulatedChuck)
    body.center = cmath.rect(plan.throw_mm + 0.2, math.radians(plan.throw_deg))
    assert [one.mm for one in body.truths] == pytest.approx([0.2, 0.0])
    body.center = cmath.rect(plan.throw_mm, math.radians(plan.throw_deg + 10))
    assert [one.mm for one in body.truths] == pytest.approx([0.0, plan.throw_mm * math.sin(math.radians(10))])


def off(person: Trainee) -> tuple[int, float]:
    """The jaw that the work stands nearest to, and how far it is off."""
    center = person.session.body.astray
    jaws = {n: there(person.control(f"jaw{n}").at_deg) for n in (1, 2, 3, 4)}
    along = {n: (center * cmath.rect(1, -math.radians(deg))).real for n, deg in jaws.items()}
    nearest = max(along, key=lambda n: along[n])
    return nearest, along[nearest]


@pytest.mark.parametrize("drill", ["half", "throw.usual"])
def test_wrong_way_past_it_and_nothing_are_told_from_each_other(drill: str) -> None:
    for travel, away, judged in ((0.5, False, "right way"), (2.6, False, "went past"), (0.6, True, "wrong way")):
        person = Trainee(drill, 3, advice="off")
        near, mm = off(person)
        across = (near + 1) % 4 + 1
        drawn, eased = (across, near) if away else (near, across)
        turned(person, eased, -3.0)
        turned(person, drawn, mm * travel)
        person.do(acts.Good())
        told = debrief(person.session)
        assert [step.judged for step in told.steps] == [judged]
        assert not told.good
        assert (told.wrong_ways, told.past) == (int(judged == "wrong way"), int(judged == "went past"))
    person = Trainee("half", 3, advice="off")
    turned(person, 1, 0.005)  # against a jaw that was not backed off: it squeezes
    person.do(acts.Good())
    assert [step.judged for step in debrief(person.session).steps] == ["nothing moved"]


def test_a_hard_blow_carries_farther_and_counts_when_near() -> None:
    far = {}
    for amount in (1, 2):
        person = Trainee("hard", 2, advice="off")
        before = person.session.body.astray
        person.do(acts.Hand(control="high.away", amount=amount))
        far[amount] = abs(person.session.body.astray - before)
    assert far[2] > 4 * far[1] > 0


def test_it_is_replayed_from_its_acts() -> None:
    person = Trainee("wrong_sign", 7)
    person.work(3)
    again = replay(person.session.told, BEGAN, person.acts)
    assert again.body.astray == person.session.body.astray
    assert show(again, "x", 1) == show(person.session, "x", 1)


def test_a_key_that_is_held_moves_the_needle_and_springs_back_when_let_go() -> None:
    person = Trainee("half", 1)
    spot = person.session.person.state.stations[0].id
    near, _ = off(person)
    turned(person, (near + 1) % 4 + 1, -2.0)
    before, held = person.needle(spot), person.needle(spot, f"jaw{near}", 0.08)
    assert person.needle(spot) == before  # nobody let go yet
    turned(person, near, 0.08)
    after = person.needle(spot)
    assert 0 < abs(after - before) < abs(held - before)


def test_the_needle_sticks_stops_and_is_no_finer_than_seen() -> None:
    person = Trainee("travel", 4)
    session, gauge = person.session, person.session.person.plan.gauge
    values = {s.id: session.needle(s.id, None) for s in session.person.state.stations}
    assert any(v.at_stop and abs(v.needle_mm) == gauge.travel_mm for v in values.values())
    spot, here = next((k, v.needle_mm) for k, v in values.items() if not v.at_stop)
    mark = gauge.graduation_mm
    assert session.needle(spot, None, here + 0.1 * mark).needle_mm == pytest.approx(
        here + 0.1 * mark, abs=0.03 * mark
    )  # it sticks
    assert session.needle(spot, None, here + 0.4 * mark).needle_mm == here
    assert here / mark * 20 == pytest.approx(round(here / mark * 20), abs=1e-6)  # no finer than anybody sees


def test_aslant_the_needle_stands_over_another_mark() -> None:
    person = Trainee("parallax", 2)
    spots = [s.id for s in person.session.person.state.stations]
    aslant = [person.needle(s) for s in spots]
    person.do(acts.Look(square=True))
    square = [person.needle(s) for s in spots]
    apart = [a - b for a, b in zip(aslant, square, strict=True)]
    assert max(apart) - min(apart) > person.session.person.plan.gauge.graduation_mm
    person.do(acts.Look(square=False))
    assert [person.needle(s) for s in spots] == aslant


def test_advice_comes_when_it_is_asked_for_and_a_question_first() -> None:
    person = Trainee("oval", 3, advice="asked")
    assert show(person.session, "x", 0).advice is None
    person.do(acts.Ask())
    shown = show(person.session, "x", 1)
    assert (shown.advice, shown.asks) == (None, 1)
    assert person.session.drill.question in str(shown.asked)
    person.do(acts.Ask())
    assert show(person.session, "x", 2).advice == person.session.panel
    person.read()  # what was answered is of then
    assert show(person.session, "x", 3).advice is None
    silent = Trainee("oval", 3, advice="off")
    with pytest.raises(NotNow):
        silent.do(acts.Ask())


def test_good_needs_a_proof_and_a_reading_beside_the_spot_is_told() -> None:
    person = Trainee("four_jaw.easy", 3)
    person.work()
    assert debrief(person.session).good
    again = Trainee("four_jaw.easy", 3)
    for act in person.acts[:-1]:
        again.do(act.body)
    turned(again, 1, 0.0001)  # touched again after the last reading
    again.do(acts.Good())
    assert not debrief(again.session).good
    beside = Trainee("half", 2)
    spot = beside.session.person.state.stations[0]
    typed = Typed(text="0", unit="mm")
    beside.tell(ev.ReadingTaken(pass_no=1, station_id=spot.id, typed=typed), at=spot.angle_deg + 30)
    beside.do(acts.Good())
    assert debrief(beside.session).beside == (spot.label,)


@pytest.mark.parametrize(
    ("drill", "body"),
    [
        ("half", acts.Hand(control="jaw9", amount=1.0)),
        ("hard", acts.Hand(control="low.away", amount=3.0)),
        ("packing", acts.Hand(control="jaw1", amount=99.0)),
        ("half", acts.Done(body=ev.TakenOff())),
        ("half", acts.Done(body=ev.ZeroSet(station_id="nowhere"))),
    ],
)
def test_nonsense_is_refused_and_changes_nothing(drill: str, body: acts.Anything) -> None:
    person = Trainee(drill, 1)
    before = show(person.session, "x", 0)
    with pytest.raises(BadInput):
        person.do(body)
    assert show(person.session, "x", 0) == before


def test_what_is_tightened_again_is_slacked_off_first() -> None:
    person = Trainee("shift", 1)
    while not person.session.person.state.tight:
        panel = person.session.panel
        if person.session.person.state.unread(person.session.person.state.being_read) is not None:
            person.read()
        else:
            for event in there(panel.primary).events:
                person._act(event)
    before, times = person.session.body.astray, len(person.session.person.state.tightenings)
    person.tell(ev.Tightened())
    assert len(person.session.person.state.tightenings) == times + 1
    assert abs(person.session.body.astray - before) > 0.001
    assert person.session.strokes[-1].what == "everything tight"


def test_after_the_end_nothing_more_is_done() -> None:
    person = Trainee("half", 1)
    person.do(acts.Good())
    with pytest.raises(NotNow):
        person.do(acts.Grip(way="tighten"))
    with pytest.raises(NotFound):
        Session(Told(drill="four_jaw.nowhere", seed=1), BEGAN)


def test_the_best_that_could_be_done_is_the_advice_at_the_same_machine() -> None:
    assert best_passes(Told(drill="two_minutes", seed=4, advice="full"), BEGAN) in (2, 3)
    assert best_passes(Told(drill="oval", seed=4, advice="full"), BEGAN) is None


@pytest.mark.parametrize("seed", range(6))
def test_both_schools_work_the_same_hidden_machine_and_the_quicker_one_is_named(seed: int) -> None:
    told = schools(seed)
    assert told == schools(seed)
    first = [one.steps[0] for one in told.played]
    assert first[0].off_mm == pytest.approx(first[1].off_mm)  # where it was found
    for one in told.played:
        assert one.proved
        assert one.steps[-1].off_mm <= told.limit_mm
        seconds = [step.seconds for step in one.steps]
        assert seconds == sorted(seconds)
        assert all(step.off_mm == pytest.approx(2 * abs(complex(step.x_mm, step.y_mm))) for step in one.steps)
    quick = min(told.played, key=lambda one: one.steps[-1].seconds)
    assert quick.words in str(told.told)


def result(drill: str, day: float, **more: Any) -> Result:
    usual = {"good": True, "passes": 3, "seconds": 100, "wrong_ways": 0, "asks": 0}
    return Result.model_validate({"drill": drill, "ended_at": BEGAN + timedelta(days=day), **usual, **more})


def test_what_went_wrong_comes_back_first_and_what_goes_well_ever_later() -> None:
    now = BEGAN + timedelta(days=10)
    first = record([], now)
    assert first.next == DRILLS[0].id
    results = [
        result("half", 1),
        result("oval", 2, good=False),
        result("half", 3, seconds=80),
        result("hard", 4, wrong_ways=2),
    ]
    told = record(results, now)
    by = {one.drill: one for one in told.standings}
    assert told.next == "oval"  # wrong the longest ago
    assert (by["half"].tries, by["half"].best_seconds, by["half"].due) == (2, 80, True)  # two clean ones: three days
    assert by["half"].due_at == results[2].ended_at + timedelta(days=3)
    assert by["oval"].why == "it did not come out last time"
    assert by["hard"].why == "2 went the wrong way last time"
    later = record([*results, result("oval", 9.5), result("hard", 9.5), result("half", 9.5)], now)
    assert not any(one.due for one in later.standings)
    assert later.next == DRILLS[0].id  # nothing is due: something new


def test_only_times_of_those_that_were_good_stand_on_the_board() -> None:
    tries = [
        result("two_minutes", day, seconds=s, good=s > 50) for day, s in enumerate((140, 90, 45, 200, 110, 170, 95))
    ]
    assert [one.seconds for one in record(tries, BEGAN + timedelta(days=9)).board] == [90, 95, 110, 140, 170]


def test_zero_is_set_where_the_stylus_stands() -> None:
    person = Trainee("half", 3)
    spot = person.session.person.state.stations[0]
    person.tell(ev.ZeroSet(station_id=spot.id), at=spot.angle_deg + 77)
    assert person.session.needle(spot.id, spot.angle_deg + 77).needle_mm == pytest.approx(0, abs=1e-9)
    assert person.needle(spot.id) != 0
