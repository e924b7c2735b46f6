"""What is rare, measured where it happens: ``./velvet bench rare [trials]``.

How often a chuck is not proved in twelve passes, or holds though it should not, hangs on how near the part itself comes to the limit where
it sits best; most parts never fail. So chucks are drawn first, and sorted by that; of each sort as many are worked, and each sort counts
by how many of all there are. (Stratified sampling: W. G. Cochran, "Sampling Techniques", 1977.)
"""

from __future__ import annotations

from bisect import bisect
from concurrent.futures import ProcessPoolExecutor
from functools import partial

import numpy as np

from bench.advice import CELLS, LIMITS, Cell, Trial, trial
from bench.physics import Chuck, screws
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.plan.jaws import JawPlan

#: So many chucks are drawn.
DRAWN = 6000
#: Sorts of parts: the least TIR that they come to, as shares of the limit.
SHARES = (0.6, 0.64, 0.7, 0.74, 0.78, 0.84)
FINE = LIMITS[1]
#: Of the roundest, of which there are most, so many times as many are worked.
ROUNDEST = 10


def least_mm(plan: BasePlan, physics: str, seed: int) -> float:
    """The least TIR that the part of a trial comes to, wherever it sits."""
    assert isinstance(plan, JawPlan)
    rng = np.random.default_rng(seed)
    return Chuck(plan, rng, screws(rng, physics), physics).least_mm


def sorts(cell: Cell, physics: str, drawn: int = DRAWN) -> list[list[int]]:
    """Seeds of the trials by sort."""
    plan, found = cell.plan(*FINE), [list[int]() for _ in range(len(SHARES) + 1)]
    for seed in range(drawn):
        found[bisect(SHARES, least_mm(plan, physics, seed) / FINE[0])].append(seed)
    return found


def rate(kept: list[list[bool]], weights: list[float]) -> str:
    """How often it came in percent of all, with its standard error: one that never came in n trials is taken for one half of n."""
    parts, errors = [], []
    for came, weight in zip(kept, weights, strict=True):
        share, n = float(np.mean(came)), len(came)
        usual = max(share, 0.5 / n)
        parts.append(weight * share)
        errors.append(weight**2 * usual * (1 - usual) / n)
    return f"{100 * sum(parts):.2f} ± {100 * sum(errors) ** 0.5:.2f} %"


def table(trials: int, physics: str = "A", memories: tuple[str, ...] = ("cold", "warm", "anew")) -> list[list[str]]:
    """A row for each way of working a four-jaw and memory, at the finer limit; ``trials`` of each sort of part, or as many as there are."""
    rows = [["way of working", "memory", "not done in 12 passes", "false, of all", "passes", "trials"]]
    with ProcessPoolExecutor() as pool:
        for cell in CELLS[:2]:
            by_sort = [seeds for seeds in sorts(cell, physics) if seeds]
            weights = [len(seeds) / DRAWN for seeds in by_sort]
            for memory in memories:
                run = partial(trial, cell, FINE, physics, memory)
                many = [trials * ROUNDEST, *[trials] * len(by_sort[1:])]
                ends: list[list[Trial]] = [
                    list(pool.map(run, seeds[:n], chunksize=4)) for seeds, n in zip(by_sort, many, strict=True)
                ]
                passes = sum(
                    w * float(np.mean([t.passes for t in some])) for w, some in zip(weights, ends, strict=True)
                )
                rows.append([
                    cell.words, memory, rate([[not t.held for t in some] for some in ends], weights),
                    rate([[t.false for t in some] for some in ends], weights), f"{passes:.2f}", str(sum(map(len, ends))),
                ])  # fmt: skip
    return rows
