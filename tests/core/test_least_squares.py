"""What is found by a formula instead of by trying everything is what trying everything finds."""

from __future__ import annotations

from itertools import combinations

import numpy as np
import pytest
from scipy.optimize import linprog

from velvet_hand.core.fit._lsq import best_without
from velvet_hand.core.fit.circle import fit_circle, ray
from velvet_hand.core.fit.line import fit_line, zone


def _left(model: np.ndarray, seen: np.ndarray, out: tuple[int, ...]) -> float:
    """Sum of squares of a fit made again without these."""
    keep = [i for i in range(len(seen)) if i not in out]
    rest = seen[keep] - model[keep] @ np.linalg.lstsq(model[keep], seen[keep], rcond=None)[0]
    return float(rest @ rest)


@pytest.mark.parametrize("count", [1, 2])
@pytest.mark.parametrize("seed", range(8))
def test_leaving_out_by_leverage_is_leaving_out_by_trying(seed: int, count: int) -> None:
    rng = np.random.default_rng(seed)
    spots = int(rng.integers(6, 13))
    theta = np.sort(rng.uniform(0, 2 * np.pi, spots))
    model = np.column_stack([np.ones(spots), np.cos(theta), np.sin(theta)])
    seen = model @ rng.normal(0, 1, 3) + rng.normal(0, 0.1, spots)
    seen[rng.integers(spots)] += 2.0
    rest = seen - model @ np.linalg.lstsq(model, seen, rcond=None)[0]
    found, left = best_without(model, rest, count)
    tried = {out: _left(model, seen, out) for out in combinations(range(spots), count)}
    assert left == pytest.approx(min(tried.values()), abs=1e-9)
    assert tried[found] == pytest.approx(left, abs=1e-9)


@pytest.mark.parametrize("seed", range(8))
def test_the_narrowest_band_is_the_one_of_a_linear_program(seed: int) -> None:
    rng = np.random.default_rng(seed)
    x, h = np.sort(rng.uniform(0, 150, 9)), rng.normal(0, 0.01, 9) + 0.0003 * rng.uniform(-50, 50)
    one = np.ones_like(x)
    answer = linprog(
        [0, 0, 2.0],
        A_ub=np.vstack([np.column_stack([one, x, -one]), np.column_stack([-one, -x, -one])]),
        b_ub=np.concatenate([h, -h]),
        bounds=[(None, None), (None, None), (0, None)],
    )
    assert zone(x, h) == pytest.approx(answer.fun, abs=1e-9)


@pytest.mark.parametrize(("spots", "wild"), [(8, 1), (12, 1), (24, 1), (8, 2), (12, 2)])
def test_what_is_wild_is_named_and_what_is_left_says_the_rest(spots: int, wild: int) -> None:
    rng = np.random.default_rng(spots + wild)
    angles = tuple(360.0 / spots * i for i in range(spots))
    for _ in range(10):
        x, y = rng.normal(0, 0.05, 2)
        seen = np.array([float(ray(deg, x, y, 25.0, 1)) for deg in angles]) + rng.normal(0, 0.0005, spots)
        off = rng.choice(spots, wild, replace=False)
        seen[off] += 0.05
        fit = fit_circle(angles, tuple(seen.tolist()), 25.0, 1, 0.0005)
        assert set(fit.left_out) == set(off.tolist())
        assert (fit.x_mm, fit.y_mm) == pytest.approx((x, y), abs=0.0015)


def test_a_burr_on_an_edge_is_named_among_nine_spots() -> None:
    x = tuple(float(v) for v in np.linspace(0, 160, 9))
    h = [0.001 * v for v in x]
    h[6] += 0.08
    fit = fit_line(x, tuple(h), 0.0005)
    assert fit.left_out == (6,)
    assert fit.slope == pytest.approx(0.001, abs=1e-9)
