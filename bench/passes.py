"""Passes to the verdict on every procedure's own simulated machines, in every orientation that is offered."""

from __future__ import annotations

import numpy as np

from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine

STARTS = 100


def procedure_table() -> list[list[str]]:
    """Rows of passes and moves to the verdict, and how the verdicts fell, for every procedure."""
    rows = [["procedure", "passes, median", "p90", "moves, median", "holds", "outside", "cannot tell", "no verdict"]]
    for procedure, found in PROCEDURES.items():
        ends, passes, moves = [], [], []
        for seed in range(STARTS):
            rng, plan = np.random.default_rng(seed), example(procedure, seed)
            done = Operator(plan, machine(plan, rng), rng).run(max_passes=30)
            ends.append(done.state.verdict.outcome if done.state.verdict else "none")
            passes.append(done.passes)
            moves.append(done.moves)
        share = [f"{100 * ends.count(kind) / STARTS:.0f} %" for kind in ("holds", "outside", "cannot_tell", "none")]
        rows.append(
            [
                found.title,
                f"{np.median(passes):.0f}",
                f"{np.percentile(passes, 90):.0f}",
                f"{np.median(moves):.0f}",
                *share,
            ]
        )
    return rows
