"""A needle that shows the same at every spot of a proof: true work, or a stylus that does not touch?"""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.bench_person import Person
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advise import advise
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.told import Solution
from velvet_hand.core.verdict import Verdict
from velvet_hand.core.wording import plain

TOUCHING = [name for name in PROCEDURES if not example(name, 0).gauge.measures_gap]


@pytest.mark.parametrize("procedure", TOUCHING)
def test_a_stylus_that_has_come_off_never_proves_that_it_holds(procedure: str) -> None:
    plan, rng = example(procedure, 0), np.random.default_rng(5)
    made = machine(plan, rng)
    hand, seen = Operator(plan, made, rng), made.read
    made.read = lambda spot: 0.0 if hand.state.tight or hand.state.only_reads else seen(spot)  # type: ignore[method-assign]
    for _ in range(400):
        panel = _first(hand)
        if (panel.name == "press" and hand.state.passes) or not hand.step():
            break
    verdict = hand.state.verdict
    assert verdict is None or verdict.outcome != "holds"


def _first(hand: Operator) -> Panel:
    procedure = desk.procedure_of(hand.plan)
    return advise(procedure, hand.state, procedure.solution(hand.state))[0]


def flat(*, tight: bool = True) -> Person:
    """All spots read 0, and nobody has looked whether it touches."""
    person = Person()
    if tight:
        person.send(ev.StepPassed(step="read"))
        person.send(ev.Tightened())
    person.read_all(0, 0, 0, 0, closing=0)
    if tight:
        person.undo()  # the paper that every other test slips under it
    return person


def judged(solution: Solution) -> Verdict:
    assert solution.judged is not None
    return solution.judged


def test_a_proof_of_a_needle_that_stood_still_asks_for_paper_first() -> None:
    person = flat()
    panel, found = person.panel(), judged(person.solve())
    assert (panel.name, found.outcome, found.limited_by) == ("press", "cannot_tell", "contact")
    assert "paper under the stylus" in plain(panel.headline, "mm", 0.001)
    state = desk.load(person.events)
    assert desk.procedure_of(state.plan).row(state, state.passes[-1]).outcome == "cannot_tell"
    person.send(ev.Proved(pass_no=1))  # sent by somebody who did not look
    verdict = desk.load(person.events).verdict
    assert verdict is not None
    assert verdict.outcome == "cannot_tell"


@pytest.mark.parametrize("went", ["plus", "minus"])
def test_a_needle_that_goes_with_the_paper_touches(went: str) -> None:
    person = flat()
    person.send(next(a for a in person.panel().others if a.id == went).events[0])
    assert judged(person.solve()).outcome == "holds"
    assert person.panel().name == "prove"
    assert desk.load(person.events).push_reads == (1 if went == "plus" else -1)


def test_a_needle_that_stays_has_its_pass_read_again_from_a_fresh_zero() -> None:
    person = flat()
    person.send(next(a for a in person.panel().others if a.id == "zero").events[0])
    state = desk.load(person.events)
    assert (state.next_pass_no, state.passes[0].closed, person.panel().name) == (2, True, "prove")


def test_a_pass_that_proves_nothing_asks_for_no_paper() -> None:
    person = flat(tight=False)
    assert person.panel().name == "enough"
