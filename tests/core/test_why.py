"""Why won't it come in: what is seen points at its cause, the quick test is taken in as evidence, and nothing is made up."""

from __future__ import annotations

import math
from datetime import date

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.core.hand import Hand
from tests.support import there
from velvet_hand.core.causes import Cause
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.suspects import WhyView
from velvet_hand.core.detective.causes import CULPRITS, EVERY, Family, possible
from velvet_hand.core.detective.evidence import family_of, place_of, seen
from velvet_hand.core.detective.trials import QUICK_TESTS, offered
from velvet_hand.core.detective.why import best_trial, chance_of, expected_information, learned, posterior, prior, why
from velvet_hand.core.errors import BadInput
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import words_of

EIGHT = tuple(45.0 * i for i in range(8))


def eight() -> Person:
    return Person(stations_deg=EIGHT, graduation_mm=0.001, limit_thou="0.2", floor_mm=0.001)


def told(person: Person) -> WhyView:
    return desk.suspects(desk.load(person.events))


def round_mm(offset: float, deg: float, *, spot: int = -1, stands: float = 0.0) -> list[float]:
    """Readings of a circle that is off, one of its spots standing out."""
    return [offset * math.cos(math.radians(a - deg)) + (stands if i == spot else 0.0) for i, a in enumerate(EIGHT)]


def move(person: Person) -> None:
    """What is advised, with a full pass after it."""
    panel = desk.show(person.events, "x").panels[0]
    for body in there(panel.primary).events:
        person.send(body.model_copy(update={"quick": False}) if isinstance(body, ev.MoveDone) else body)


def again(person: Person) -> None:
    person.send(ev.PassClosed(pass_no=desk.load(person.events).passes[-1].number))


def test_nothing_is_said_before_anything_was_read() -> None:
    found = told(eight())
    assert found.suspects == ()
    assert found.test is None
    assert "Read a pass first" in words_of(found.headline)


@pytest.mark.parametrize(
    ("typed", "first"),
    [(("0", "+off", "+off", "-off"), "Bring the needle onto its dial"), (("0", "2"), "Read the pass to its end")],
)
def test_nothing_is_said_of_passes_that_do_not_tell_where_it_sits(typed: tuple[str, ...], first: str) -> None:
    person = Person()
    for station, value in zip(desk.load(person.events).stations, typed, strict=False):
        person.read(station.id, value)
    found = told(person)
    assert found.suspects == ()
    assert found.test is None
    assert words_of(found.headline).startswith(first)


def test_a_spot_that_stands_out_every_time_is_a_burr() -> None:
    person = eight()
    for turn in range(3):
        person.read_all(*round_mm(0.01, 20, spot=2, stands=0.03), closing=0.01 * math.cos(math.radians(20)))
        if turn < 2:
            again(person)
    found = told(person)
    assert found.suspects[0].cause == "burr"
    assert any("stood out in 3 passes" in words_of(line) for line in found.suspects[0].because)
    assert sum(s.share for s in found.suspects) <= 1 + 1e-9


def test_an_indicator_that_does_not_come_back_is_loose_and_a_flick_tells() -> None:
    person = eight()
    for step in (0.006, -0.009, 0.007):
        values = round_mm(0.02, 100)
        person.read_all(*(v + (step if i > 3 else 0.0) for i, v in enumerate(values)), closing=values[0] + step)
        if step != 0.007:
            again(person)
    before = {s.cause: s.share for s in told(person).suspects}
    assert max(before, key=lambda c: before[c]) in ("loose", "spindle")
    person.send(ev.Tried(trial="flick", answer="no"))
    after = told(person)
    assert after.suspects[0].cause == "loose"
    assert after.suspects[0].share > max(before["loose"], 0.6)
    assert words_of(after.headline) == "Most likely: the base or an arm is loose."
    assert any(words_of(line) == "Flick the arm: it does not." for line in after.suspects[0].because)
    assert words_of(after.tried[0]) == "Flick the arm: it does not."


def test_a_move_that_went_the_other_way_is_a_sign() -> None:
    person = eight()
    person.read_all(*round_mm(0.05, 0), closing=0.05)
    while desk.load(person.events).open_pass is not None and desk.show(person.events, "x").panels[0].aim:
        move(person)
    person.read_all(*round_mm(0.1, 0), closing=0.1)
    assert told(person).suspects[0].cause == "sign"


def test_a_blow_at_the_far_end_is_no_answer_of_the_jaws() -> None:
    for seed in range(12):
        plan, rng = example("two_planes", seed), np.random.default_rng(seed)
        hand = Operator(plan, machine(plan, rng), rng)
        while hand.full_passes < 2 or hand.state.unread(hand.state.open_pass) is not None:
            hand.step()
        signs = seen(desk.procedure_of(plan), hand.state)
        assert (signs["answer"].case, signs["across"].case) == ("usual", "small")


def test_what_comes_in_as_it_should_is_left_alone() -> None:
    person = eight()
    person.read_all(*round_mm(0.05, 0), closing=0.05)
    while desk.load(person.events).open_pass is not None and desk.show(person.events, "x").panels[0].aim:
        move(person)
    person.read_all(*round_mm(0.006, 90), closing=0.0)
    found = told(person)
    assert found.suspects[0].cause == "none"
    assert words_of(found.headline).startswith("Nothing looks wrong.")


def test_a_test_counts_until_the_next_full_pass_is_begun() -> None:
    person = eight()
    person.read_all(*round_mm(0.02, 100), closing=round_mm(0.02, 100)[0])
    person.send(ev.Tried(trial="flick", answer="no"))
    assert len(told(person).tried) == 1
    again(person)
    person.read("s1", "0.001")
    assert told(person).tried == ()


def test_the_last_answer_of_a_test_counts_and_an_undone_one_does_not() -> None:
    person = eight()
    person.read_all(*round_mm(0.02, 100), closing=round_mm(0.02, 100)[0])
    plain = told(person).suspects
    person.send(ev.Tried(trial="flick", answer="no"))
    person.send(ev.Tried(trial="flick", answer="yes"))
    assert words_of(told(person).tried[0]) == "Flick the arm: it comes back."
    person.undo()
    assert words_of(told(person).tried[0]) == "Flick the arm: it does not."
    person.undo()
    assert told(person).suspects == plain


def test_an_answer_that_a_test_does_not_have_is_refused() -> None:
    person = eight()
    with pytest.raises(BadInput) as refused:
        person.send(ev.Tried(trial="flick", answer="maybe"))
    assert refused.value.field == "answer"


def test_it_is_in_the_log_and_changes_nothing_else() -> None:
    person = eight()
    person.read_all(*round_mm(0.05, 30), closing=round_mm(0.05, 30)[0])
    before = desk.show(person.events, "x")
    person.send(ev.Tried(trial="push", answer="gives"))
    after = desk.show(person.events, "x")
    assert words_of(person.log()[-1].what) == "Quick test, push and pull: gives, and comes back."
    assert (after.panels, after.figures, after.passes) == (before.panels, before.figures, before.passes)


def test_the_test_that_is_asked_for_tells_most_for_what_it_costs() -> None:
    person = eight()
    person.read_all(*round_mm(0.05, 30), closing=0.09)
    state = desk.load(person.events)
    procedure = desk.procedure_of(state.plan)
    known = learned()["ring"]
    before = prior(state, possible("ring", state.plan), date(2026, 1, 5))
    chances = posterior(known, before, seen(procedure, state), {})
    left = offered("ring", state.plan)
    worth = {t: expected_information(known, chances, t) / QUICK_TESTS[t].cost ** 0.5 for t in left}
    assert all(v >= -1e-12 for v in worth.values())
    assert best_trial(known, chances, left) == max(worth, key=lambda t: worth[t])
    assert best_trial(known, {"none": 1.0}, left) is None


def test_a_clear_answer_makes_the_next_test_another_one() -> None:
    person = eight()
    person.read_all(*round_mm(0.02, 100), closing=round_mm(0.02, 100)[0])
    asked = []
    for _ in range(4):
        test = told(person).test
        if test is None:
            break
        body = test.answers[0].events[0]
        assert isinstance(body, ev.Tried)
        asked.append(body.trial)
        person.send(body)
    assert len(set(asked)) == len(asked) > 1


@pytest.mark.parametrize("family", EVERY)
def test_the_simulators_told_of_every_cause_and_every_answer(family: Family) -> None:
    known = learned()[family]
    causes = [c for c, culprit in CULPRITS.items() if family in culprit.families]
    for cause in causes:
        assert sum(by.get(cause, 0) for by in known.signs["closing"].values()) >= 100, cause
    for trial, test in QUICK_TESTS.items():
        if family in test.families:
            assert set(known.trials[trial]) <= {answer for answer, _ in test.answers}
            shares = [chance_of(known.trials, trial, answer, "none") for answer, _ in test.answers]
            assert sum(shares) <= 1 + 1e-9
    assert 0.3 <= known.tempered <= 1


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_no_cause_speaks_of_what_is_not_there(procedure: str) -> None:
    """Jaws of a mill's head, a part that is out of round where a table is swept, off center along an edge."""
    state = desk.load(Hand(example(procedure, 4)).events)
    place, family = place_of(state), family_of(state)
    for cause in possible(family, state.plan):
        said = " ".join(CULPRITS[cause].told(place)).lower()
        assert place == "jaws" or "jaw" not in said
        assert place in ("jaws", "ring") or ("round" not in said and "off center" not in said)
    assert (place == "swept") == (procedure == "tram")


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_every_procedure_can_be_asked(procedure: str) -> None:
    hand = Hand(example(procedure, 4))
    first = desk.suspects(desk.load(hand.events))
    assert first.suspects == ()
    state = desk.load(hand.events)
    station, closing = there(state.unread(None))
    text = "0" if station.reads != "degrees" else "10"
    hand.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=Typed(text=text, unit="mm"), closing=closing))
    state = desk.load(hand.events)
    found = why(desk.procedure_of(state.plan), state)
    assert sum(s.chance for s in found.suspects) == pytest.approx(1.0)
    causes: set[Cause] = {s.cause for s in found.suspects}
    assert causes == set(possible(found.family, state.plan))
