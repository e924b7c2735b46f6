"""Everything of the mill and the surface plate worked on its simulated machine: 200 starts each, every orientation."""

from __future__ import annotations

import itertools

import numpy as np
import pytest

from tests.core.lathe_plans import plan_of
from tests.core.test_lathe_loops import BLOCKS, STARTS, work
from velvet_hand.core.desk import desk
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.bed.sim import SimulatedBed
from velvet_hand.core.procedures.column.sim import SimulatedColumn
from velvet_hand.core.procedures.edge.sim import SimulatedUpright
from velvet_hand.core.procedures.plate.plan import HeightsPlan
from velvet_hand.core.procedures.plate.sim import SimulatedPlate
from velvet_hand.core.procedures.registry import machine
from velvet_hand.core.procedures.vises.sim import SimulatedPair
from velvet_hand.core.sim.body import WrongWay

CORRECTED = ["vise", "bed", "edge", "rod", "centre", "vises", "column"]


def test_the_starts_go_through_every_orientation_that_is_offered() -> None:
    for procedure in ("vise", "bed", "edge", "rod"):
        plans = [plan_of(procedure, seed) for seed in range(STARTS)]
        seen = {(p.lies, p.gauge_side, p.hinge) for p in plans if isinstance(p, EdgeBase)}
        assert seen == set(itertools.product(("across", "along"), ("near", "far"), ("low", "high", "none")))
        assert {bool(p.target_deg) for p in plans if isinstance(p, EdgeBase)} == {True, False}


@pytest.mark.parametrize("block", range(BLOCKS))
@pytest.mark.parametrize("procedure", CORRECTED)
def test_every_start_ends_true_after_a_proof_that_holds(procedure: str, block: int) -> None:
    for seed in range(block * STARTS // BLOCKS, (block + 1) * STARTS // BLOCKS):
        done = work(procedure, seed)
        plan, machine = done.state.plan, done.chuck
        assert done.state.verdict is not None, f"start {seed}: no proof"
        assert done.state.verdict.outcome == "holds", f"start {seed}: {done.state.verdict}"
        room = 0.15 if procedure == "rod" else 0.002  # feelers go in steps
        assert machine.true_tir_mm <= plan.limit.mm + room, f"start {seed}"
        if isinstance(machine, SimulatedBed):
            assert machine.off_level_mm <= plan.bed_limit_mm + 0.002, f"start {seed}"  # type: ignore[union-attr]
        if isinstance(machine, SimulatedUpright):
            assert abs(machine.lean) * plan.limit_length_mm <= plan.limit.mm + 0.002  # type: ignore[union-attr]
        if isinstance(machine, SimulatedPair) and machine.pair.spans == "yes":
            left = machine.bed + machine.under[1] - machine.under[0]
            assert abs(left) <= machine.pair.bed_limit_mm + 0.002, f"start {seed}"
        if isinstance(machine, SimulatedColumn) and machine.column.tail == "yes":
            assert machine.pushed_mm <= plan.limit.mm / 2 + 0.002, f"start {seed}"


@pytest.mark.parametrize("procedure", ["vise", "bed", "edge", "rod"])
@pytest.mark.parametrize("seed", range(4))
def test_a_turned_round_edge_is_caught(procedure: str, seed: int, monkeypatch: pytest.MonkeyPatch) -> None:
    """Which way is toward the gauge decides the corner and the way: turned round, the needle runs away."""
    right = EdgeBase.gauge_way.fget  # type: ignore[attr-defined]
    from velvet_hand.core.engine import one_line

    monkeypatch.setattr(one_line, "side_word", lambda plan, toward: _word(-right(plan) if toward else right(plan)))
    with pytest.raises(WrongWay):
        work(procedure, seed)


def _word(way: complex) -> str:
    return {1j: "away from you", -1j: "toward you", 1 + 0j: "to the right", -1 + 0j: "to the left"}[way]


def true_flatness(machine: SimulatedPlate) -> float:
    """Closest pair of planes by search over tilts, not by the program that is tested."""
    points = np.array(machine.face.places)
    z = np.array([machine.thick(x, y) for x, y in points])
    best = np.inf
    ranges = [np.linspace(-0.6, 0.6, 121)] * 2
    least = np.linalg.lstsq(np.column_stack([np.ones(len(z)), points]), z, rcond=None)[0]
    for da, db in itertools.product(*ranges):
        a = least[1] + da * machine.plan.limit.mm / machine.face.width_mm
        b = least[2] + db * machine.plan.limit.mm / machine.face.depth_mm
        rest = z - a * points[:, 0] - b * points[:, 1]
        best = min(best, float(rest.max() - rest.min()))
    return best


@pytest.mark.parametrize("block", range(BLOCKS))
def test_a_plate_gets_the_verdict_that_it_deserves(block: int) -> None:
    told = {"holds": 0, "outside": 0, "cannot_tell": 0}
    for seed in range(block * STARTS // BLOCKS, (block + 1) * STARTS // BLOCKS):
        done = work("plate", seed)
        machine, plan, verdict = done.chuck, done.state.plan, done.state.verdict
        assert isinstance(machine, SimulatedPlate)
        assert isinstance(plan, HeightsPlan)
        assert verdict is not None
        told[verdict.outcome] += 1
        if plan.limit.kind == "flat" and seed % 5:
            continue  # the search is slow
        true = machine.true_tir_mm if plan.limit.kind == "parallel" else true_flatness(machine)
        # Without close repeats nobody knows the tool marks: then only what they cannot turn over is asked.
        room = 0.002 + 4 * machine.marks
        if verdict.outcome == "holds":
            assert true <= plan.limit.mm + room, f"start {seed}"
        if verdict.outcome == "outside":
            assert true > plan.limit.mm - room, f"start {seed}"
        figures = {f.id: f for f in desk.procedure_of(plan).solve(done.state).figures}
        if plan.inverted == "yes":
            own = abs(machine.taper[0])
            assert figures["taper"].mm == pytest.approx(own, abs=0.002 + 4 * machine.marks), f"start {seed}"
    assert told["holds"] > 10
    assert told["outside"] > 3


@pytest.mark.parametrize(("way", "least", "most"), [("zero", 1, 3), ("half", 4, 9)])
def test_the_plain_schools_converge_where_theory_says_so(way: str, least: int, most: int) -> None:
    """Zero at the hinge is right there but for the spring back; tap half takes half off with each move."""
    from velvet_hand.core.operator import Operator

    for seed in range(0, 40, 4):
        plan = plan_of("vise", seed).model_copy(update={"way": way, "hinge": "low"})
        rng = np.random.default_rng(seed)
        done = Operator(plan, machine(plan, rng), rng).run(max_passes=30)
        assert done.state.verdict is not None, f"start {seed}"
        assert done.state.verdict.outcome == "holds"
        assert least <= len(done.state.moves) <= most, f"start {seed}"
