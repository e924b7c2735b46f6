"""Readings past the gauge's travel give a direction and a safe run, wherever the stations are."""

from __future__ import annotations

import math
import re

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.support import as_a, misread
from velvet_hand.core.desk import desk
from velvet_hand.core.move import Jaws
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.wording import plain

TRAVEL = 0.25
TWELVE = tuple(15.0 + 30.0 * i for i in range(12))


def seen(person: Person, e_mm: float, deg: float) -> list[str]:
    """What the dial shows at each station, zero set at the first, for work off by ``e_mm`` toward ``deg``."""
    state = desk.load(person.events)
    sign = state.sense.center_sign * (state.push_reads or 1)
    rise = [sign * e_mm * math.cos(math.radians(s.angle_deg - deg)) for s in state.stations]
    values = [r - rise[0] for r in rise]
    return [f"{v:.4f}" if abs(v) <= TRAVEL else "+off" if v > 0 else "-off" for v in values]


def read(person: Person, values: list[str]) -> None:
    for index, value in enumerate(values, start=1):
        person.read(f"s{index}", value)


@pytest.mark.parametrize("surface", ["outside", "inside"])
@pytest.mark.parametrize("went", ["plus", "minus"])
@pytest.mark.parametrize("numbering", ["ccw", "cw"])
@pytest.mark.parametrize("deg", [10.0, 80.0, 170.0, 260.0, 350.0])
@pytest.mark.parametrize("stations", [TWELVE, (0.0, 60.0, 120.0, 180.0, 240.0, 300.0)])
def test_the_jaw_that_the_work_sits_toward_is_drawn_in(
    surface: str, went: str, numbering: str, deg: float, stations: tuple[float, ...]
) -> None:
    person = Person(surface=surface, went=went, numbering=numbering, travel_mm=TRAVEL, stations_deg=stations)
    read(person, seen(person, 1.2, deg))
    moves = person.solve().moves
    assert moves
    drawn = as_a(Jaws, moves[0]).draw
    away = abs((drawn.at_deg - deg + 180) % 360 - 180)
    assert away < 85, f"jaw {drawn.number} at {drawn.at_deg}, work toward {deg}"  # it sits on that jaw's side
    assert abs(moves[0].aim_mm or 0.0) <= TRAVEL  # an aim that the dial can show
    if moves[0].asked is not None:
        assert moves[0].asked.mm <= 2 * 1.2  # never so far that it comes out worse on the other side


def test_the_aim_is_the_end_of_the_dial_in_the_needles_own_sign() -> None:
    for went, aim in (("plus", -TRAVEL), ("minus", TRAVEL)):
        person = Person(went=went, travel_mm=TRAVEL)
        read(person, seen(person, 1.0, 0.0)[:3])
        assert person.solve().moves[0].aim_mm == pytest.approx(aim)


def test_an_end_that_just_ran_off_is_no_reason_for_a_move_when_zero_sits_at_the_edge() -> None:
    person = Person(travel_mm=TRAVEL)
    person.read("s1", "-0.24")
    person.read("s3", "-off")
    assert person.solve().moves == ()
    assert "zero_misplaced" in [c.code for c in person.solve().caveats]


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_a_pass_that_gives_nothing_for_want_of_a_place_says_so(procedure: str) -> None:
    """Every fifth needle is past its dial; what cannot be judged or moved by the others is no dead end."""
    rng, plan = np.random.default_rng(1), example(procedure, 1)
    work = machine(plan, rng)
    misread(work, lambda value, number: "+off" if number % 5 == 1 else value)
    person = Operator(plan, work, rng)
    while not (person.state.passes and person.state.unread(person.state.passes[0]) is None):
        assert person.step()
    solution = desk.procedure_of(plan).solution(person.state)
    panel = desk.show(person.events, "x").panels[0]
    said = " ".join(plain(words, "mm", 0.001) for words in (panel.headline, *panel.why))
    assert (
        solution.moves
        or plan.gauge.measures_gap
        or re.search("could read|past the end|Set the zero|zero sits|ran off", said)
    )
