"""How many passes to expect: it follows limit, memory and way of working, and is said in plain words."""

from __future__ import annotations

import re
from typing import Any

import numpy as np
import pytest

from tests.core.at_the_mill import mill
from tests.support import make_plan, there
from velvet_hand.core.after.own import Done
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.expect import _true_pass, words
from velvet_hand.core.engine.forecast import MOST, USUAL, Forecast, forecast, quicker
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.wording import words_of


def of(plan: BasePlan) -> Forecast:
    procedure = PROCEDURES[plan.procedure]
    return forecast(there(procedure.way(_true_pass(procedure, plan))))


def jaws(limit_thou: str = "0.5", **more: Any) -> BasePlan:
    plan = make_plan(limit_thou=limit_thou, graduation_mm=0.001, floor_mm=0.0005, **more)
    found: BasePlan = PROCEDURES["four_jaw"].looking_between(plan)
    return found


def test_a_finer_limit_takes_more_passes_and_an_impossible_one_is_said_to_be() -> None:
    means = [float(np.mean(of(jaws(limit)).passes)) for limit in ("2", "0.5", "0.2", "0.08")]
    assert means == sorted(means)
    assert means[0] <= 2.2
    assert "This may never hold" in words_of(desk.expect(jaws("0.03")))


def finished(finish: str, kind: str = "tir") -> BasePlan:
    plan = jaws("0.2", limit_kind=kind)
    return plan.model_copy(update={"part": plan.part.model_copy(update={"finish": finish})})


def test_the_form_of_a_surface_takes_its_part_of_a_limit_on_tir_and_none_of_one_off_center() -> None:
    ground, turned = of(finished("ground")), of(finished("turned"))
    off_center = [float(np.mean(of(finished(finish, "off_centre")).passes)) for finish in ("ground", "turned")]
    assert np.mean(ground.passes) > off_center[0] + 0.5
    assert turned.within(0.5) > MOST
    assert off_center[1] < 4.0


COUNTED = [name for name, procedure in PROCEDURES.items() if procedure.usual_passes is not None]


@pytest.mark.parametrize("name", COUNTED)
def test_what_no_estimate_can_say_is_what_its_simulated_machines_take(name: str) -> None:
    half, most = there(PROCEDURES[name].usual_passes)
    took = []
    for seed in range(10):
        plan, rng = example(name, seed), np.random.default_rng(seed)
        took.append(Operator(plan, machine(plan, rng), rng).run().passes)
    assert abs(np.median(took) - half) <= 1
    assert np.mean(np.array(took) <= most) >= 0.75
    assert f"{half}" in words_of(desk.expect(example(name, 0)))


def test_everything_that_is_corrected_says_how_many_passes_to_expect() -> None:
    for name, procedure in PROCEDURES.items():
        plan = example(name, 0)
        told = procedure.usual_passes or procedure.way(_true_pass(procedure, plan))
        assert (told is not None) is not procedure.only_reads, name


def test_two_planes_are_expected_about_as_they_go() -> None:
    """Both planes as one state: what the jaws and what the taps leave to do is drawn together."""
    plan = example("two_planes", 0)
    plan = plan.model_copy(update={"part": plan.part.model_copy(update={"finish": "ground"})})
    taken = []
    for seed in range(6):
        rng = np.random.default_rng(seed)
        taken.append(Operator(plan, machine(plan, rng), rng).run().passes)
    assert abs(float(np.mean(of(plan).passes)) - float(np.mean(taken))) < 1.6
    assert "passes" in words_of(desk.expect(plan))


def test_a_holder_that_is_known_takes_no_longer() -> None:
    plan = jaws("0.2")
    known = {"gain_1": 0.8, "gain_2": 0.78, "lost_1": 0.008, "lost_2": 0.008, "shift_1": 0.001, "shift_2": -0.001}
    memory = plan.memory.model_copy(
        update={"setups": 6, "taught": {k: tuple((v, 1e-7) for _ in range(6)) for k, v in known.items()}}
    )
    taught = plan.model_copy(update={"memory": memory})
    assert np.mean(of(taught).passes) <= np.mean(of(plan).passes)
    assert "by what this holder did before" in words_of(desk.expect(taught))


def test_pair_by_pair_is_slower_and_the_quicker_way_is_named() -> None:
    both, single = jaws("0.5"), jaws("0.5", school="pairs")
    assert np.mean(of(single).passes) > np.mean(of(both).passes) + 0.5
    assert "Quicker here: both pairs at once" in words_of(desk.expect(single))
    assert "Quicker" not in words_of(desk.expect(both))


@pytest.mark.parametrize("name", ["four_jaw", "throw", "vise", "edge"])
def test_a_way_is_given_up_only_where_it_is_not_quicker(name: str) -> None:
    procedure = PROCEDURES[name]
    state = _true_pass(procedure, example(name, 1))
    found = [forecast(way) for one in (state, *(s for _, s in procedure.ways(state))) if (way := procedure.way(one))]
    ways = [there(procedure.way(s)) for _, s in procedure.ways(state) if procedure.way(s)]
    usual = [one.within(USUAL) for one in found]
    for than in (*found, Forecast((MOST + 1,) * 40, (60.0,) * 40)):
        for way, whole in zip(ways, found[1:], strict=True):
            better = quicker(way, than)
            assert better == (whole if whole.within(USUAL) < than.within(USUAL) else None), (name, usual)


def test_a_name_changes_nothing_and_costs_nothing(monkeypatch: pytest.MonkeyPatch) -> None:
    plan = jaws("0.7")
    told = desk.expect(plan)
    monkeypatch.setattr("velvet_hand.core.desk.expect.forecast", None)
    renamed = plan.model_copy(update={"part": plan.part.model_copy(update={"name": "Crosshead pin"})})
    assert desk.expect(renamed) == told
    with pytest.raises(TypeError):
        desk.expect(jaws("0.71"))


def done(passes: tuple[int, ...], minutes: float | None = 12.0, limit_mm: float = 0.0254) -> list[Done]:
    return [Done(limit_mm=limit_mm, passes=n, minutes=minutes) for n in passes]


def test_what_was_done_here_goes_before_what_a_simulator_says() -> None:
    plan = jaws("1")
    assert words_of(desk.expect(plan, done((3, 3, 3, 4, 3, 9)))) == (
        "3 to 4 passes, about 12 minutes, by the last 6 like it here. 1 in 6 needed more than 4."
    )
    assert words_of(desk.expect(plan, done((2,) * 8, None))) == "2 passes, by the last 8 like it here."
    simulated = words_of(desk.expect(plan))
    for unlike in (done((3,) * 5), done((3,) * 20, limit_mm=0.2), done((3,) * 20, limit_mm=0.005)):
        assert words_of(desk.expect(plan, unlike)) == simulated
    assert "Quicker here: both pairs at once" in words_of(
        desk.expect(jaws("0.5", school="pairs"), done((5,) * 6, 30.0, 0.0127))
    )


def test_of_a_school_that_nobody_can_say_the_quicker_one_is_named_alone() -> None:
    assert "Quicker here: by its pivot" in words_of(desk.expect(mill("vise", way="zero")))


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_every_procedure_says_something_sensible_or_nothing(procedure: str) -> None:
    said = words_of(desk.expect(example(procedure, 5)))
    assert said == "" or "pass" in said
    assert "  " not in said
    assert not re.search(r"\b1 passes", said)
    if PROCEDURES[procedure].only_reads:
        assert said == ""


def test_the_words() -> None:
    even = Forecast((2,) * 40, (6.0,) * 40)
    assert words_of(words(even, False)) == "2 passes, about 6 minutes, the proof among them, for one of its kind."
    wide = Forecast((2,) * 24 + (3,) * 13 + (6,) * 3, (5.0,) * 20 + (9.0,) * 20)
    assert words_of(words(wide, True)) == (
        "2 to 3 passes, about 9 minutes, the proof among them, by what this holder did before. 1 in 20 needs more than 6."
    )
    never = Forecast((3,) * 35 + (MOST + 1,) * 5, (9.0,) * 40)
    assert "1 in 8 is not done after 12." in words_of(words(never, False))
    perhaps = Forecast((4,) * 24 + (MOST + 1,) * 16, (20.0,) * 40)  # one more than the most is no number of passes
    assert words_of(words(perhaps, False)) == (
        "4 passes or more, about 20 minutes, the proof among them, for one of its kind. 1 in 2 is not done after 12."
    )
