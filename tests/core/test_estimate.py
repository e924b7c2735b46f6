"""The estimate of a holder against answers worked out beforehand, to the last digit that was given."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from velvet_hand.core.estimate.kalman import Belief, Prior
from velvet_hand.core.estimate.lessons import Taught, expected, lesson, met
from velvet_hand.core.estimate.odds import inside
from velvet_hand.core.estimate.one_gain import Moved, OneGain
from velvet_hand.core.estimate.pairs import Pairs, Screwed, reverses
from velvet_hand.core.estimate.scatter import Repeats, expected_variance, pooled
from velvet_hand.core.estimate.tapped import Swung, Tapped

R = np.eye(2) * 6.25e-8
UNKNOWN, SAME = (0.5, 0.5), (0.0, 0.0)


def after_one_move() -> tuple[Pairs, Belief]:
    model = Pairs(0.00025)
    belief = model.update(model.start(), (), np.array([1.2, -0.5]), R)
    acts = (Screwed((-1.4, 0.6), UNKNOWN, 1),)
    return model, model.update(model.aged(belief), acts, np.array([0.130, -0.045]), R)


def test_two_pairs_after_a_move_and_a_tightening() -> None:
    model, found = after_one_move()
    told = (0.130000, -0.045000, 0.777380, 0.787988, 0.001763, 0.008025, 0.010044, 0.010089, 0.000015, -0.000029)
    assert found.x == pytest.approx(told, abs=6e-7)
    spread = (0.052727, 0.078559, 0.039858, 0.036406, 0.006999, 0.006998, 0.002502, 0.002501)
    assert [found.sd(i) for i in range(2, 10)] == pytest.approx(spread, abs=6e-7)
    assert model.ask(found, -found.x[:2], (-1, 1)) == pytest.approx((-0.167352, 0.058469), abs=6e-7)


def test_two_pairs_after_a_second_move() -> None:
    model, before = after_one_move()
    found = model.update(model.aged(before), (Screwed((-0.165, 0.060), SAME, 1),), np.array([0.0065, -0.0030]), R)
    told = (0.006498, -0.002991, 0.764454, 0.772810, 0.001718, 0.013816, 0.009989, 0.009819, 0.000184, -0.000875)
    assert found.x == pytest.approx(told, abs=6e-7)
    assert model.ask(found, -found.x[:2], (-1, 1)) == pytest.approx((-0.008749, 0.005122), abs=6e-7)


def test_something_slipped_and_the_holder_is_not_spoiled() -> None:
    model, before = after_one_move()
    found = model.update(model.aged(before), (Screwed((-0.165, 0.060), SAME, 1),), np.array([0.0665, -0.0030]), R)
    assert found.odd
    assert found.x[2:4] == pytest.approx((0.757307, 0.785700), abs=6e-7)
    assert found.sd(2) == pytest.approx(0.064115, abs=6e-7)
    assert found.x[8:10] == pytest.approx((0.000265, -0.000093), abs=6e-7)


@pytest.mark.parametrize(("times", "at_least", "at_most"), [(0.3, 1.0, 1.0), (1.0, 1.0, 1.8), (5.0, 6.0, 30.0)])
def test_a_hand_that_misses_its_aims_by_more_than_its_kind_is_known_for_it(
    times: float, at_least: float, at_most: float
) -> None:
    """What is expected after another move is as wide as what came; nobody is taken for better than their kind."""
    model, rng = OneGain(2, 0.002, Prior(1.0, 0.02, 0.0), 0.0001), np.random.default_rng(11)
    belief = model.update(model.start(), (), np.array([0.05, 0.0]), R)
    for _ in range(12):
        acts = (Moved((-float(belief.x[0]), -float(belief.x[1]))),)
        seen = belief.x[:2] + acts[0].asked_mm + rng.normal(0, 0.002 * times, 2)
        belief = model.update(model.aged(belief), acts, seen, R)
    assert at_least <= belief.rough <= at_most
    before, after = (model.predict(b, (Moved((0.002, 0.0)),))[1] for b in (replace(belief, rough=1.0), belief))
    assert bool(after[0, 0] > 2 * before[0, 0]) is (times == 5.0)


def test_one_number_far_off_pulls_as_three_sigma_would_at_that_distance() -> None:
    model = Pairs(0.00025)
    belief, row = model.start(), np.eye(10)[model.at("gain_1")]
    before, spread = float(row @ belief.x), 0.15**2 + 0.05**2
    for sigma, pulled in ((2.0, 2.0), (3.0, 3.0), (6.0, 9.0 / 6.0), (30.0, 9.0 / 30.0)):
        found = model.scalar(belief, row, before + sigma * spread**0.5, 0.05**2)
        assert float(row @ found.x) - before == pytest.approx(pulled * 0.15**2 / spread**0.5)
        assert 0 < found.sd(model.at("gain_1")) < 0.15


def test_a_holder_is_never_taken_for_what_none_can_be() -> None:
    model = Pairs(0.00025)
    beyond = np.array([0.0, 0.0, 9.0, -9.0, 0.1, 0.1, 9.0, -9.0, 0.0, 0.0])
    assert model.clip(beyond)[2:] == pytest.approx([1.8, 0.25, 0.1, 0.1, 0.06, 0.0, 0.0, 0.0])
    one = OneGain(2, 0.002, Prior(1.0, 0.2, 0.0), 0.001)
    assert [float(one.clip(np.array([0.0, 0.0, gain, 0.0, 0.0]))[2]) for gain in (-9.0, 9.0)] == [0.2, 3.0]
    swung = Swung(150.0, Prior(14.0, 12.0, 1.0), 0.00025)
    assert swung.clip(np.array([0.0, 9.0, 900.0, 0.0])) == pytest.approx([0.0, 0.6, 210.0, 0.0])
    assert swung.clip(np.array([0.0, -9.0, -900.0, 0.0])) == pytest.approx([0.0, -1.4, -60.0, 0.0])
    # either end is tapped, never nearer to the pivot than a part of the length, and on its own side of it
    assert [swung.arm(np.array([0.0, 0.0, 140.0, 0.0]), at) for at in (0.0, 135.0, 150.0)] == [-140.0, -12.0, 12.0]


def test_a_vise_whose_pivot_nobody_knows() -> None:
    model, noise = Swung(150.0, Prior(55.0, 32.0, 1.0), 0.00025), np.array([[1e-7]])
    belief = model.update(model.start(), (), np.array([0.8]), noise)
    assert model.ask(belief, -0.8, 150.0) == pytest.approx(-0.562963, abs=6e-7)
    belief = model.crossed(model.aged(belief), -0.680, 0.0, 0.272, 1e-7, 1e-7)
    belief = model.update(belief, (Tapped(-0.450, 150.0, 1),), np.array([0.120]), noise)
    assert (belief.x[2], belief.sd(2)) == pytest.approx((59.997803, 0.884427), abs=1e-6)
    assert (belief.x[1], belief.sd(1)) == pytest.approx((-0.101138, 0.098750), abs=1e-6)
    assert model.ask(belief, -0.120, 150.0) == pytest.approx(-0.079653, abs=1e-6)
    belief = model.crossed(model.aged(belief), -0.111, 0.0, 0.0445, 1e-7, 1e-7)
    belief = model.update(belief, (Tapped(-0.079, 150.0, 1),), np.array([0.009]), noise)
    assert belief.x[1:] == pytest.approx((-0.121710, 59.975204, 0.001068), abs=3e-6)
    assert (belief.sd(1), belief.sd(3)) == pytest.approx((0.083989, 0.007481), abs=3e-6)


def test_a_tap_that_carried_much_too_far_does_not_throw_the_pivot_past_where_it_fell() -> None:
    model, noise = Swung(150.0, Prior(75.0, 22.5, 1.0), 0.0025), np.array([[1e-6]])
    belief = model.update(model.start(), (), np.array([-0.944]), noise)
    tap = (Tapped(0.44, 145.0),)
    belief = model.update(model.aged(belief), tap, np.array([1.122]), noise)
    assert 85 < belief.x[2] < 130
    assert model.effect(belief.x, tap).moved[0] == pytest.approx(2.066, rel=0.25)


def test_scatter_is_what_differs_from_pass_to_pass() -> None:
    variance, freedom = pooled([Repeats(3, np.zeros(8), 7.2e-6)], 3, expected_variance(0.001, 0.0005), 6.0)
    assert (1e6 * variance, freedom) == pytest.approx((0.551562, 16.0), abs=6e-7)
    lobed = Repeats()
    for sign in (1.0, 1.0, 1.0):
        lobed = lobed.add(sign * 0.002 * np.array([1, -1, 1, -1, 1, -1, 1, -1]))
    assert pooled([lobed], 3, 1e-8, 3.0)[0] < 1e-8  # what repeats is the part itself


def test_memory_of_a_steady_and_of_a_changing_holder() -> None:
    kind = Prior(0.85, 0.15)
    steady = expected(kind, [Taught(g, 0.04**2) for g in (0.72, 0.75, 0.70, 0.74)])
    anew = expected(kind, [Taught(g, 0.04**2) for g in (0.62, 1.02, 0.80, 0.95)])
    assert (steady.mean, steady.sd) == pytest.approx((0.733539, 0.050302), abs=6e-7)
    assert (anew.mean, anew.sd) == pytest.approx((0.849180, 0.140179), abs=6e-7)
    assert expected(kind, []) == kind


def remembered_and_met(gain: float, slips_mm: float = 0.0) -> tuple[Belief, Belief, Belief]:
    """A chuck remembered for 0.72, two moves on with a gain of its own: by its memory, as if it answered anew, and as it is met."""
    model, ends = Pairs(0.00025), []
    for known in ({"gain_1": Prior(0.72, 0.05), "gain_2": Prior(0.72, 0.05)}, {}):
        at = np.array([1.2, -0.5])
        belief = model.update(model.start(known), (), at, R)
        for asked, slips in (((-1.4, 0.6), 0.0), ((-0.15, 0.1), slips_mm)):
            at = at + gain * np.array(asked) + np.array([slips, 0.0])
            belief = model.update(model.aged(belief), (Screwed(asked, SAME),), at, R)
        ends.append(belief)
    return ends[0], ends[1], met(*ends)


def test_a_memory_is_believed_while_it_foresees_what_is_read() -> None:
    kept, anew, found = remembered_and_met(0.72)
    assert found.x[2:4] == pytest.approx(kept.x[2:4], abs=0.01)
    assert kept.sd(2) < found.sd(2) < 0.9 * anew.sd(2)


@pytest.mark.parametrize("gain", [1.05, 1.3])
def test_a_holder_that_answers_anew_is_met_as_one_that_nobody_knows(gain: float) -> None:
    kept, anew, found = remembered_and_met(gain)
    assert abs(anew.x[2] - gain) < abs(kept.x[2] - gain)
    assert found.x[2:4] == pytest.approx(anew.x[2:4], abs=0.02)
    assert found.sd(2) > 0.9 * anew.sd(2)


def test_one_slip_is_no_other_holder() -> None:
    kept, _, found = remembered_and_met(0.72, slips_mm=0.06)
    assert found.odd
    assert found.x[2:4] == pytest.approx(kept.x[2:4], abs=0.02)


@given(st.floats(0.6, 1.1), st.floats(0.6, 1.1))
def test_a_lesson_is_the_data_alone(one: float, two: float) -> None:
    """Learned from another prior, the same moves teach the same."""
    model, taught = Pairs(0.00025), []
    for prior in (0.85, 0.95):
        start = model.start({"gain_1": Prior(prior, 0.3, 0.01), "gain_2": Prior(prior, 0.3, 0.01)})
        belief = model.update(start, (), np.array([1.0, 1.0]), R)
        acts = (Screwed((-1.0, -1.0), SAME),)
        belief = model.update(model.aged(belief), acts, np.array([1.0 - one, 1.0 - two]), R)
        taught.append(lesson(model, start, belief)["gain_1"].value)
    assert taught[0] == pytest.approx(taught[1], abs=0.01)
    assert taught[0] == pytest.approx(one, abs=0.05)


def test_another_bolt_teaches_nothing_of_the_one_that_was_said() -> None:
    model = Swung(150.0, Prior(14.0, 12.0, 1.0), 0.00025, "pivot_low")
    told = []
    for pivot in (20.0, 120.0):
        end = model.crossed(model.start(), 0.6, 0.0, -0.6 * pivot / 150.0, 1e-7, 1e-7)
        assert float(end.x[2]) == pytest.approx(pivot, abs=1.0)
        told.append(set(lesson(model, model.start(), end)))
    assert told == [{"pivot_low"}, set()]


@pytest.mark.parametrize("turned", [0.12, 0.3, -0.6])
def test_one_tap_unlearns_where_it_swung_in_earlier_set_ups(turned: float) -> None:
    """A thing slips by hundredths of a millimeter: what heights say beyond that is another pivot, after a small tap as well."""
    model = Swung(150.0, Prior(104.0, 5.0, 1.0), 0.00025, "pivot_none")
    start = model.start()
    assert float(model.crossed(start, turned, 10.0, 0.0, 1e-6, 1e-6).x[2]) == pytest.approx(10.0, abs=12.0)
    slipped = turned * (10.0 - 104.0) / 150.0 + 0.015
    assert float(model.crossed(start, turned, 10.0, slipped, 1e-6, 1e-6).x[2]) == pytest.approx(104.0, abs=16.0)


def test_nothing_learned_is_no_lesson() -> None:
    model = Pairs(0.00025)
    belief = model.update(model.start(), (), np.array([0.1, 0.1]), R)
    assert lesson(model, model.start(), belief) == {}


def test_odds_of_a_proof() -> None:
    assert inside(np.zeros(2), np.eye(2) * 2.7**2, 1.6) == pytest.approx(1 - math.exp(-(1.6**2) / 2 / 2.7**2), abs=1e-9)
    assert inside(np.zeros(1), np.eye(1), 1.96) == pytest.approx(0.95, abs=1e-3)
    assert inside(np.array([5.0, 0.0]), np.eye(2) * 0.01, 1.0) < 1e-9
    assert inside(np.zeros(2), np.eye(2), -0.1) == 0.0


@pytest.mark.parametrize(("way", "last", "told"), [(1, 0, 0.5), (1, 1, 0.0), (1, -1, 1.0), (-1, 1, 1.0), (0, 1, 0.0)])
def test_a_screw_that_turns_back_loses_its_play(way: int, last: int, told: float) -> None:
    assert reverses(way, last) == told


@given(st.floats(-1, 1), st.floats(-1, 1), st.floats(0.5, 1.2), st.floats(-0.005, 0.005))
def test_what_is_asked_lands_where_it_is_wanted(x: float, y: float, gain: float, shift: float) -> None:
    """The model's own prediction of its own move ends at nothing."""
    model = OneGain(2, 0.0005, Prior(gain, 0.1), 0.004)
    belief = model.update(model.start(), (), np.array([x, y]), R)
    belief.x[3:5] = shift
    asked = model.ask(belief, -belief.x[:2])
    mean, cov = model.predict(belief, (Moved((float(asked[0]), float(asked[1])), 1),))
    assert mean == pytest.approx((0.0, 0.0), abs=1e-9)
    assert np.linalg.eigvalsh(cov).min() > 0
