"""Passes to tolerance on simulated chucks: the advice against the plain half-the-difference school."""

from __future__ import annotations

import numpy as np

from tests.support import make_plan
from velvet_hand.core.move import Jaw, Jaws, Needle
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.four_jaw.plan import FourJawPlan
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.sim.jaws import SimulatedChuck, random_quirks

STARTS = 100
MOST = 24


def _chuck(seed: int, plan: FourJawPlan) -> tuple[SimulatedChuck, np.random.Generator]:
    rng = np.random.default_rng(seed)
    return SimulatedChuck(plan, random_quirks(rng, plan, form_mm=0.0015), rng), rng


def advised(seed: int, plan: FourJawPlan) -> int:
    """Passes read until a proof holds, the proofs counted."""
    chuck, rng = _chuck(seed, plan)
    done = Operator(plan, chuck, rng).run(max_passes=MOST)
    held = done.state.verdict is not None and done.state.verdict.outcome == "holds"
    return done.passes if held else MOST + 1


def half_difference(seed: int, plan: FourJawPlan) -> int:
    """One pair at a time, to the mean of the two readings; then tighten and read again.

    It has the needle's sense for nothing, and takes readings within the limit as good.
    """
    chuck, _ = _chuck(seed, plan)
    chuck.zero(0.0)
    for number in range(1, MOST + 1):
        seen = {jaw: float(chuck.read(90.0 * (jaw - 1))) * chuck.quirks.push_reads for jaw in (1, 2, 3, 4)}
        if max(seen.values()) - min(seen.values()) <= plan.limit.mm:
            if chuck.tight:
                return number
            chuck.tighten()
            continue
        a, b = max(((1, 3), (2, 4)), key=lambda p: abs(seen[p[0]] - seen[p[1]]))
        high, low = (a, b) if seen[a] > seen[b] else (b, a)
        mean = (seen[a] + seen[b]) / 2 * chuck.quirks.push_reads
        chuck.do(_plain_move(high, low, seen[high] * chuck.quirks.push_reads, mean))
    return MOST + 1


def _plain_move(high: int, low: int, now: float, aim: float) -> Jaws:
    draw, ease = (Jaw(number=n, at_deg=90.0 * (n - 1), mm=None, key_deg=None) for n in (high, low))
    needle = Needle(label="", deg=90.0 * (high - 1), now_mm=now, aim_mm=aim, goes="falls")
    return Jaws(
        pass_no=1, draw=draw, ease=ease, needle=needle, title="", sentence=(), reason=(), half_sentence=(), back=()
    )


def table() -> list[list[str]]:
    """Rows of median / 90th percentile / not done, for two limits."""
    rows = [["way of working", "limit", "median", "p90", f"not done in {MOST}"]]
    for limit, graduation in (("0.0127 mm", 0.00254), ("0.005 mm", 0.001)):
        thou = str(round(float(limit.split()[0]) / 0.0254, 6))
        for name, run, school in (
            ("advice, both pairs from one pass", advised, "high_spot"),
            ("advice, pair by pair", advised, "pairs"),
            ("plain half of the difference", half_difference, "pairs"),
        ):
            plan = make_plan(limit_thou=thou, graduation_mm=graduation, school=school, floor_mm=0.0005, travel_mm=10.0)
            counts = [run(seed, plan) for seed in range(STARTS)]
            missed = sum(c > MOST for c in counts)
            rows.append([name, limit, _n(counts, 50), _n(counts, 90), f"{100 * missed / len(counts):.0f} %"])
    return rows


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


#: A way of working a vise: words, what is changed in the plan. The plain schools take readings within the limit as good.
VISE_WAYS: tuple[tuple[str, dict[str, object]], ...] = (
    ("zero at the hinge, tap the far end to zero", {"way": "zero", "hinge": "low"}),
    ("no hinge, tap half", {"way": "half", "hinge": "none"}),
    ("two rods, one at the hinge, tap to zero", {"way": "zero", "hinge": "low", "read_on": "rods", "spots_mm": (14.0, 146.0)}),
    ("swing point, learned tap and kick", {"way": "swing", "hinge": "low"}),
    ("swing point, no hinge", {"way": "swing", "hinge": "none"}),
)  # fmt: skip


def vise_table() -> list[list[str]]:
    """Rows of median / 90th percentile / not done for each school of the vise, at two limits over the jaw."""
    rows = [["way of working", "limit over the jaw", "median", "p90", f"not done in {MOST}"]]
    for limit, mark in (("0.0127", 0.002), ("0.005", 0.0005)):
        for words, changes in VISE_WAYS:
            counts = []
            for seed in range(STARTS):
                plan = example("vise", 4 * seed)
                typed = plan.limit.typed.model_copy(update={"text": limit})
                mill = plan.machine.model_copy(update={"floor_mm": 0.0005})
                same = {
                    "limit": plan.limit.model_copy(update={"typed": typed}),
                    "target_deg": 0.0,
                    "machine": mill,
                    "gauge": plan.gauge.model_copy(update={"graduation_mm": mark}),
                    "unit": "mm",
                }
                plan = plan.model_copy(update={**same, **changes})
                rng = np.random.default_rng(seed)
                done = Operator(plan, machine(plan, rng), rng).run(max_passes=MOST)
                held = done.state.verdict is not None and done.state.verdict.outcome == "holds"
                counts.append(done.passes if held else MOST + 1)
            missed = sum(c > MOST for c in counts)
            rows.append([words, f"{limit} mm", _n(counts, 50), _n(counts, 90), f"{100 * missed / len(counts):.0f} %"])
    return rows


def _n(counts: list[int], percent: int) -> str:
    value = float(np.percentile(counts, percent))
    return f">{MOST}" if value > MOST else f"{value:.0f}"
