"""A head whose axes lie elsewhere than was said: where they are is read from the height of the table, pass by pass."""

from __future__ import annotations

from dataclasses import replace
from typing import Any

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.estimate.kalman import Prior
from velvet_hand.core.estimate.leaning import Leaning, Leant
from velvet_hand.core.estimate.one_gain import Moved
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.procedures.tram.plan import TramPlan
from velvet_hand.core.procedures.tram.procedure import Tram
from velvet_hand.core.procedures.tram.sim import SimulatedHead
from velvet_hand.core.setup.state import State
from velvet_hand.core.wording import plain

from ..support import as_a, there

RADIUS = 110.0


def model(x_mm: float = 0.0, y_mm: float = 260.0) -> Leaning:
    return Leaning(RADIUS, (Prior(x_mm, 10.0), Prior(y_mm, 90.0)), 0.0005, Prior(0.9, 0.15), 0.001)


def test_a_turn_does_what_its_needle_says() -> None:
    head = model()
    x = head.start().x
    x[2] = 1.0
    level, tilt = 0.05, np.array([0.2, -0.15])  # toward values at the ends of both tilts, over the radius
    # what a level table at each axis reads everywhere along the tilt, by hand
    first = -0.2 * (1 - 0.0 / RADIUS)
    swivel = Leant(axis=0, side=1, run_mm=first)
    nod = Leant(axis=1, side=-1, run_mm=0.15 * (-1 - 260 / RADIUS))
    assert head.effect(x, [swivel, nod]).moved == pytest.approx(-tilt)
    at_axis = level + tilt[1] * 260 / RADIUS
    assert level - tilt[1] + nod.run_mm == pytest.approx(at_axis)
    # an axis beside the spindle: the swivel lifts the whole sweep, and the nod's needle has that much less to run
    x[5] = 55.0
    both = head.effect(x, [Leant(axis=0, side=1, run_mm=-0.1), nod]).moved
    assert both == pytest.approx((-0.2, 0.15 + 0.1 / (1 + 260 / RADIUS)))
    # an axis nearer than was thought: the same run turns it too far
    x[6] = 100.0
    assert head.effect(x, [nod]).moved[1] == pytest.approx(0.15 * (1 + 260 / RADIUS) / (1 + 100 / RADIUS))
    x[3:5] = 0.01, 0.02
    assert head.effect(x, [Moved((0.0, 0.0), 1)]).moved == pytest.approx((0.01, 0.02))


def test_the_height_of_the_table_tells_the_axis() -> None:
    head = model(y_mm=400.0)
    told = head.lifted(head.start(), np.array([0.0, -0.12]), 0.12 * 200 / RADIUS, 1e-6)
    assert told.x[6] == pytest.approx(200, abs=8)
    assert told.sd(6) < 10
    assert told.x[5] == 0.0  # nothing turned about the other
    assert head.lifted(head.start(), np.array([0.0, 0.004]), 0.3, 1e-6).x[6] == 400.0  # too little to tell


@pytest.mark.parametrize(("said", "really"), [(400.0, 200.0), (200.0, 400.0), (400.0, 100.0), (-300.0, -150.0)])
@pytest.mark.parametrize("seed", [0, 4])
def test_an_axis_in_another_place_is_found(said: float, really: float, seed: int) -> None:
    plan = as_a(TramPlan, example("tram", seed)).model_copy(
        update={"pivot_x_mm": 0.0, "pivot_y_mm": said, "quill_mm": 0.0}
    )
    rng = np.random.default_rng(seed)
    head = as_a(SimulatedHead, machine(plan, rng))
    head.pivot = complex(0, really)
    person = Operator(plan, head, rng)
    words = ""
    while person.full_passes <= 5 and person.step():
        moves = desk.procedure_of(plan).solve(person.state).moves
        words += "".join(plain(move.reason, "mm", 0.001) for move in moves)
    assert there(person.state.verdict).outcome == "holds"
    state: State[Any] = person.state
    learned = as_a(Tram, PROCEDURES["tram"]).answers(state).after(state)
    assert learned.belief.x[6] == pytest.approx(really, abs=20)
    side = "behind" if really > 0 else "in front of"
    assert f"{side} the spindle" in words


def test_an_axis_where_it_was_said_is_not_spoken_of() -> None:
    plan = as_a(TramPlan, example("tram", 1))
    rng = np.random.default_rng(1)
    person = Operator(plan, machine(plan, rng), rng)
    while person.step():
        moves = desk.procedure_of(plan).solve(person.state).moves
        assert not any("as its turns have shown" in plain(move.reason, "mm", 0.001).lower() for move in moves)
    assert person.full_passes <= 4


@pytest.mark.parametrize(("procedure", "most"), [("tram", 6), ("centre", 3)])
@pytest.mark.parametrize("seed", range(1, 5))
def test_what_locking_it_shifts_is_learned_as_what_repeats(procedure: str, most: int, seed: int) -> None:
    plan = example(procedure, seed)
    rng = np.random.default_rng(seed)
    body = machine(plan, rng)
    body.hands = replace(body.hands, kick=3 * body.hands.kick)
    done = Operator(plan, body, rng).run(max_passes=most)
    assert there(done.state.verdict).outcome == "holds"
    assert done.passes <= most
