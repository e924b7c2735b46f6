"""Spindles turned and tables run along by simulated hands, against the same surfaces read spot by spot: does it agree as it says?"""

from __future__ import annotations

import time
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from velvet_hand.core.capture.captured import Wanted
from velvet_hand.core.capture.sweep import sweep
from velvet_hand.core.capture.turn import turn
from velvet_hand.core.fit.circle import ray
from velvet_hand.core.sim.winding import STEADINESS, Steadiness, pressed, wound

Array = NDArray[np.float64]
MARK_MM, LIMIT_MM = 0.001, 0.02
#: Seeds begin here; those of the constants that were chosen are others.
FIRST = 7000
#: Agrees within what it claims: chi-square of two values, and normal of one, at 95 %.
TWO, ONE = 5.991, 1.96
#: What typed readings scatter by, mm.
TYPED_MM = 0.0004


@dataclass(frozen=True, slots=True)
class Row:
    """One surface captured: within what it claims, its error and what it claims (mm), was it sure, and milliseconds."""

    agrees: bool
    error_mm: float
    claimed_mm: float
    sure: bool
    ms: float
    count_right: bool


def _form(rng: np.random.Generator, orders: Sequence[int]) -> Callable[[Array], Array]:
    """Waves of a surface: a few that matter, and a ground finish. Places in turns (or lengths)."""
    size = [abs(rng.normal()) * rng.choice([0.0002, 0.0008, 0.002]) * 2 / k for k in orders]
    size += [abs(rng.normal()) * 0.00015 for _ in range(30)]
    phase = rng.uniform(0, 2 * np.pi, len(size))
    waves = [*orders, *range(max(orders) + 1, max(orders) + 31)]
    return lambda at: sum(
        (a * np.cos(2 * np.pi * k * at + p) for a, k, p in zip(size, waves, phase, strict=True)), np.zeros_like(at)
    )


def _needle(rng: np.random.Generator, true: Array) -> Array:
    """What the needle shows: it trembles, walks, and has graduations."""
    walks = rng.normal() * 0.001 * np.arange(len(true)) / len(true)
    return np.round((true + walks + rng.normal(0, 0.0003, len(true))) / MARK_MM) * MARK_MM


def one_turn(
    seed: int, steadiness: Steadiness, turns: int, marked: bool, mean: float | None = None, *, off_mm: float | None = None,
    radius_mm: float = np.inf, sign: int = 1,
) -> Row:  # fmt: skip
    """A spindle turned (``mean`` degrees a second): eccentricity and where it is high against eight readings, typed.

    ``off_mm`` is how far off its middle it is, where that is not drawn; ``sign`` is -1 in a bore.
    """
    rng = np.random.default_rng([FIRST + seed, STEADINESS.index(steadiness), turns, marked])
    center, form = 10 ** rng.uniform(-2.7, -0.9) * np.exp(2j * np.pi * rng.uniform()), _form(rng, range(2, 6))
    center *= 1.0 if off_mm is None else off_mm / abs(center)

    def surface(deg: Array) -> Array:
        return ray(deg, center.real, center.imag, radius_mm, sign) + form(deg / 360)

    at_s, deg = wound(rng, steadiness, 360.0 * turns, mean or rng.uniform(17, 70))
    spots = np.linspace(0, 315, 8)
    jaws = np.linspace(0, 270, 4)
    marks = pressed(rng, at_s, deg, np.linspace(90, 360 * turns - 90, 4 * turns - 1)) if marked else []
    began = time.perf_counter()
    wanted = Wanted(MARK_MM, LIMIT_MM, radius_mm=sign * radius_mm)
    found = turn(
        list(at_s), list(_needle(rng, surface(deg))), wanted, spots=list(spots), marks_s=marks, jaws=list(jaws),
        turns=None if marked else turns,
    )  # fmt: skip
    ms = 1000 * (time.perf_counter() - began)
    typed = surface(spots) + rng.normal(0, TYPED_MM, 8)
    plain = np.linalg.pinv(np.column_stack([np.ones(8), np.cos(np.radians(spots)), np.sin(np.radians(spots))]))[1:]
    read = plain @ np.array([s.mm for s in found.spots])
    u = np.array([s.u_mm for s in found.spots])
    cov = plain @ np.diag(u**2 + TYPED_MM**2) @ plain.T
    apart = read - plain @ typed
    agrees = float(apart @ np.linalg.solve(cov, apart)) <= TWO
    return Row(agrees, float(np.hypot(*apart)), float(np.trace(cov) ** 0.5), found.sure, ms, found.turns == turns)


def one_sweep(seed: int, steadiness: Steadiness, back: bool) -> Row:
    """A table run along: the rise against five readings, typed."""
    rng = np.random.default_rng([FIRST + seed, STEADINESS.index(steadiness), back, 3])
    length, rise, form = rng.uniform(60, 250), rng.normal() * 0.05, _form(rng, range(1, 4))

    def surface(x: Array) -> Array:
        return np.asarray(rise * x / length + form(x / length / 2))

    mean = rng.uniform(5, 25)
    at_s, x = wound(rng, steadiness, length, mean)
    marks: list[float] = []
    if back:
        marks = [float(at_s[-1])]
        again_s, again = wound(rng, steadiness, length, mean)
        at_s, x = np.concatenate([at_s, at_s[-1] + 0.02 + again_s]), np.concatenate([x, length - again])
    spots = np.linspace(0, length, 5)
    began = time.perf_counter()
    found = sweep(
        list(at_s), list(_needle(rng, surface(x))), length, Wanted(MARK_MM, LIMIT_MM), spots=list(spots), marks_s=marks
    )
    ms = 1000 * (time.perf_counter() - began)
    plain = np.linalg.pinv(np.column_stack([np.ones(5), spots / length]))[1]
    apart = float(plain @ (np.array([s.mm for s in found.spots]) - surface(spots) - rng.normal(0, TYPED_MM, 5)))
    walked = 0.0 if back else 0.001  # what nobody sees who does not come back: the closing reading tells
    u = float(np.sqrt(plain**2 @ (np.array([s.u_mm for s in found.spots]) ** 2 + TYPED_MM**2)) + walked)
    return Row(abs(apart) <= ONE * u, abs(apart), u, found.sure, ms, True)


def line(name: str, rows: Sequence[Row]) -> list[str]:
    """A row of the table."""
    error, claimed = (1000 * float(np.median([getattr(r, what) for r in rows])) for what in ("error_mm", "claimed_mm"))
    ms = sorted(r.ms for r in rows)
    return [
        name, str(len(rows)), f"{100 * np.mean([r.agrees for r in rows]):.1f}", f"{error:.1f}", f"{claimed:.1f}",
        f"{100 * np.mean([r.sure for r in rows]):.0f}", f"{np.median(ms):.0f}", f"{np.quantile(ms, 0.95):.0f}",
    ]  # fmt: skip


def table(trials: int = 25) -> list[list[str]]:
    """Hands x turns or ways x marks; then turns that take a minute."""
    rows = [["Hand", "n", "agrees, %", "off, µm", "says, µm", "sure, %", "ms p50", "ms p95"]]
    every, ran = list[Row](), list[Row]()
    for marked in (True, False):
        for turns in (1, 2):
            for hand in STEADINESS:
                found = [one_turn(seed, hand, turns, marked) for seed in range(trials)]
                every += found
                rows.append(
                    line(f"{hand}, {turns} turn{'s' * (turns > 1)}, {'marks' if marked else 'no marks'}", found)
                )
    rows.append(line("all turns", every))
    for off_mm in (0.5, 1.5):
        far = [one_turn(seed, hand, 1, True, off_mm=off_mm, radius_mm=20.0, sign=sign)
               for seed in range(trials) for hand in STEADINESS[:2] for sign in (1, -1)]  # fmt: skip
        rows.append(line(f"{off_mm} mm off its middle, radius 20 mm, marks", far))
    for back in (False, True):
        for hand in STEADINESS:
            found = [one_sweep(seed, hand, back) for seed in range(trials)]
            ran += found
            rows.append(line(f"{hand}, along{' and back' * back}", found))
    rows.append(line("all along", ran))
    rows.append(
        line("a minute at 50 Hz, one turn, marks", [one_turn(seed, "usual", 1, True, 6.0) for seed in range(trials)])
    )
    rows.append(
        line(
            "a minute at 50 Hz, two turns, no marks",
            [one_turn(seed, "usual", 2, False, 12.0) for seed in range(trials)],
        )
    )
    return rows
