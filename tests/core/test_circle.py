"""The circle fit against worked examples, exact circles, and what must not change it."""

import cmath
import math

import numpy as np
import pytest
from hypothesis import assume, given, settings
from hypothesis import strategies as st

from velvet_hand.core.fit.circle import fit_circle, ray

EIGHT = tuple(45.0 * i for i in range(8))
offsets = st.floats(0, 8), st.floats(0, 360)


def seen(
    angles: tuple[float, ...], e_mm: float, deg: float, radius: float, sign: int = 1, r0: float = 0.2
) -> tuple[float, ...]:
    """Toward values of an exact circle: where the ray first meets it, by the law of cosines."""
    found = []
    for angle in angles:
        between = math.radians(angle - deg)
        s = e_mm * math.cos(between) + math.sqrt(radius**2 - (e_mm * math.sin(between)) ** 2)
        found.append(r0 + sign * (s - radius))
    return tuple(found)


def test_fit_of_six_worked_readings() -> None:
    fit = fit_circle(tuple(60.0 * i for i in range(6)), (0.021, 0.034, 0.012, -0.022, -0.033, -0.012), 1e6, 1, 0.001)
    assert fit.x_mm == pytest.approx(0.0215, abs=5e-5)
    assert fit.y_mm == pytest.approx(0.0263, abs=5e-5)
    assert fit.u_mm == pytest.approx(0.0006, abs=5e-5)
    assert fit.toward_deg == pytest.approx(50.7, abs=0.05)


def test_a_large_offset_is_exact_where_the_small_model_is_not() -> None:
    fit = fit_circle((0.0, 120.0, 240.0), (0.90904, 0.42996, -1.48004), 12, 1, 0.001)
    assert fit.offset_mm == pytest.approx(1.5, abs=1e-4)
    assert fit.toward_deg == pytest.approx(50, abs=0.01)
    flat = fit_circle((0.0, 120.0, 240.0), (0.90904, 0.42996, -1.48004), 1e9, 1, 0.001)
    assert flat.offset_mm == pytest.approx(1.4595, abs=1e-3)


def test_a_center_that_is_nearly_a_radius_off_is_found() -> None:
    deg, radius = (0.0, 70.0, 160.0, 200.0, 310.0), 5.0
    for e_mm, way in ((4.8, 30.0), (4.9, 130.0), (4.7, 250.0)):
        x, y = e_mm * math.cos(math.radians(way)), e_mm * math.sin(math.radians(way))
        fit = fit_circle(deg, seen(deg, e_mm, way, radius), radius, 1, 0.001)
        assert (fit.x_mm, fit.y_mm) == pytest.approx((x, y), abs=1e-6)


def test_a_wild_reading_is_found_and_left_out() -> None:
    fit = fit_circle(EIGHT, (0.030, 0.021, 0, -0.022, -0.029, -0.160, 0.001, 0.020), 1e6, 1, 0.001)
    assert fit.left_out == (5,)
    assert fit.offset_mm == pytest.approx(0.0295, abs=1e-3)


@pytest.mark.parametrize("lobes", [2, 3])
def test_a_lobed_part_is_form_and_not_wild_readings(lobes: int) -> None:
    values = tuple(0.02 * math.cos(math.radians(a)) + 0.01 * math.cos(math.radians(lobes * a + 20)) for a in EIGHT)
    fit = fit_circle(EIGHT, values, 1e6, 1, 0.0005)
    assert fit.left_out == ()
    assert fit.lobe == lobes
    assert fit.offset_mm == pytest.approx(0.02, abs=1e-6)


def test_with_four_readings_a_wild_one_shows_but_is_not_named() -> None:
    fit = fit_circle((0.0, 90.0, 180.0, 270.0), (0.02, 0.2, -0.02, 0.0), 1e6, 1, 0.0005)
    assert fit.left_out == ()
    assert fit.suspicious


def test_two_opposite_stations_and_a_third_close_by_do_not_fix_a_circle() -> None:
    assert not fit_circle((0.0, 0.01, 180.0), (0.1, 0.1, 0.0), 30, 1, 0.001).determined


@given(*offsets, st.sampled_from([1, -1]), st.floats(10, 200))
@settings(max_examples=60)
def test_any_exact_circle_is_recovered(e_mm: float, deg: float, sign: int, radius: float) -> None:
    assume(e_mm < radius * 0.6)
    fit = fit_circle(EIGHT, seen(EIGHT, e_mm, deg, radius, sign), radius, sign, 0.001)
    assert abs(complex(fit.x_mm, fit.y_mm) - cmath.rect(e_mm, math.radians(deg))) < 1e-6


@given(st.floats(0.01, 3), st.floats(0, 360), st.floats(0, 360))
@settings(max_examples=40)
def test_turning_all_stations_turns_the_answer(e_mm: float, deg: float, by: float) -> None:
    values = seen(EIGHT, e_mm, deg, 30)
    turned = fit_circle(tuple((a + by) % 360 for a in EIGHT), values, 30, 1, 0.001)
    assert (turned.toward_deg - deg - by + 180) % 360 == pytest.approx(180, abs=1e-3)


@given(st.floats(0.01, 3), st.floats(0, 360), st.floats(-5, 5))
@settings(max_examples=40)
def test_adding_a_constant_changes_nothing_but_the_mean(e_mm: float, deg: float, constant: float) -> None:
    values = seen(EIGHT, e_mm, deg, 30)
    plain = fit_circle(EIGHT, values, 30, 1, 0.001)
    moved = fit_circle(EIGHT, tuple(v + constant for v in values), 30, 1, 0.001)
    assert (moved.x_mm, moved.y_mm) == pytest.approx((plain.x_mm, plain.y_mm), abs=1e-9)
    assert moved.mean_mm - plain.mean_mm == pytest.approx(constant, abs=1e-9)


def test_the_stated_uncertainty_is_the_scatter_of_many_fits() -> None:
    rng, sigma = np.random.default_rng(3), 0.002
    base = np.array(seen(EIGHT, 0.05, 40, 30))
    found = [fit_circle(EIGHT, tuple(base + rng.normal(0, sigma, 8)), 30, 1, sigma) for _ in range(400)]
    spread = float(np.std([f.x_mm for f in found]))
    # sigma * sqrt(2/N); 400 fits give it to about 4 %
    assert spread == pytest.approx(sigma * math.sqrt(2 / 8), rel=0.12)
    assert float(np.median([f.u_mm for f in found])) == pytest.approx(spread, rel=0.2)


def test_opposite_readings_differ_by_twice_the_offset_at_any_offset() -> None:
    for sign in (1, -1):
        high, low = float(ray(0.0, 4.0, 3.0, 12.0, sign)), float(ray(180.0, 4.0, 3.0, 12.0, sign))
        assert sign * (high - low) / 2 == pytest.approx(4.0, abs=1e-12)


@pytest.mark.parametrize(("spots", "named"), [(7, 1), (8, 2), (10, 2)])
def test_two_wild_readings_are_named_where_enough_are_left_to_say_so(spots: int, named: int) -> None:
    angles = tuple(360.0 / spots * i for i in range(spots))
    values = [0.01 * math.cos(math.radians(a)) for a in angles]
    values[1] += 0.08
    values[2] += 0.05
    found = fit_circle(angles, tuple(values), 20.0, 1, 0.0005).left_out
    assert len(found) <= named
    assert (found == (1, 2)) is (named == 2)
