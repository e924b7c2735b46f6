"""Every procedure worked on its simulated machine: read, follow the advice, get the verdict it deserves.

From starts that stand in every orientation that is offered (tests below), and at least ``VELVET_STARTS`` of them, 24 when nothing is said.
"""

from __future__ import annotations

import itertools
import os
from collections.abc import Callable
from functools import cache

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.gauge import Sense
from velvet_hand.core.operator import Operator, Outcome
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.clocking.sim import SimulatedClocking
from velvet_hand.core.procedures.collet.sim import SimulatedCollet
from velvet_hand.core.procedures.four_jaw.sim import example as four_jaw
from velvet_hand.core.procedures.plate.plan import HeightsPlan
from velvet_hand.core.procedures.plate.sim import SimulatedPlate
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.procedures.reversal.sim import SimulatedReversal
from velvet_hand.core.procedures.shaft.sim import SimulatedShaft
from velvet_hand.core.sim.body import WrongWay
from velvet_hand.core.sim.jaws import Quirks, SimulatedChuck
from velvet_hand.core.told import Solution

LEAST, BLOCKS = int(os.environ.get("VELVET_STARTS", "24")), 4
#: Starts that are looked at for orientations.
LOOKED_AT = 100
#: What says how something stands, and how it is looked at.
STANDS = ("gauge_clock_deg", "gauge_at", "gauge_side", "carrier", "view", "lies", "hinge", "along", "axes", "gives", "tail", "bar", "top",
          "y_clockwise", "inverted")  # fmt: skip


def standing(plan: BasePlan) -> tuple[object, ...]:
    """How a plan stands."""
    return plan.part.surface, *(getattr(plan, name, None) for name in STANDS)


@cache
def starts(procedure: str) -> tuple[int, ...]:
    """The first start of every way to stand, and the first ones besides."""
    first: dict[tuple[object, ...], int] = {}
    for seed in range(LOOKED_AT):
        first.setdefault(standing(example(procedure, seed)), seed)
    chosen = set(first.values())
    more = (seed for seed in itertools.count() if seed not in chosen)
    return tuple(sorted(chosen | set(itertools.islice(more, max(LEAST - len(chosen), 0)))))


def work(procedure: str, seed: int, max_passes: int = 40) -> Outcome:
    rng, plan = np.random.default_rng(seed), example(procedure, seed)
    return Operator(plan, machine(plan, rng), rng).run(max_passes=max_passes)


@pytest.mark.parametrize("block", range(BLOCKS))
@pytest.mark.parametrize("procedure", PROCEDURES)
def test_every_start_gets_the_verdict_it_deserves(procedure: str, block: int) -> None:
    for seed in starts(procedure)[block::BLOCKS]:
        done = work(procedure, seed)
        made, verdict = done.chuck, done.state.verdict
        assert verdict is not None, f"start {seed}: no proof"
        if made.curable and not PROCEDURES[procedure].only_reads:
            assert verdict.outcome == "holds", f"start {seed}: {verdict}"
        past, room = made.past_limit_mm, 0.002 + made.blind_mm
        if verdict.outcome == "holds":
            assert past <= room, f"start {seed}"
        elif verdict.outcome == "outside":
            assert past > -room, f"start {seed}"
        else:
            assert abs(past) <= 2 * verdict.band_mm + room, f"start {seed}"
        if procedure in MORE:
            MORE[procedure](done, f"start {seed}")


def solution_of(done: Outcome) -> Solution:
    return desk.procedure_of(done.state.plan).solve(done.state)


def figure(done: Outcome, key: str) -> float | None:
    return {f.id: f.mm for f in solution_of(done).figures}.get(key)


def clocked(done: Outcome, start: str) -> None:
    """To the best position there is."""
    chuck, plan = done.chuck, done.state.plan
    assert isinstance(chuck, SimulatedClocking)
    assert isinstance(plan, ClockingPlan)
    assert plan.way != "every" or chuck.true_tir_mm <= chuck.best_tir_mm + 0.004, start
    assert len(done.state.moves) <= 2  # two holes may be as good as each other


def opposed(done: Outcome, start: str) -> None:
    """Turned to where spindle and collet oppose."""
    collet, verdict = done.chuck, done.state.verdict
    assert isinstance(collet, SimulatedCollet)
    assert verdict is not None
    best = min(collet.at(deg) for deg in range(360))
    assert verdict.outcome == "holds" or collet.true_tir_mm <= best + done.state.plan.limit.mm * 0.35, start


def bent(done: Outcome, start: str) -> None:
    """A bend is found where it is, and a straight shaft is called straight."""
    shaft = done.chuck
    assert isinstance(shaft, SimulatedShaft)
    told = "".join(p.text for p in solution_of(done).told if p.kind == "words")
    if not abs(shaft.bend):
        assert "Bent" not in told, f"{start}: {told}"
        return
    assert "Bent" in told or "Bowed" in told, f"{start}: {told}"
    size = figure(done, "bend")
    if size is not None and "Bent" in told:
        assert size == pytest.approx(2 * abs(shaft.bend), abs=0.012), start
        high = np.degrees(np.angle(shaft.bend)) % 360
        said = float(told.rsplit("high at ", 1)[1].split("°")[0])
        assert abs((said - high + 180) % 360 - 180) < 8, f"{start}: {said} for {high}"


def told_apart(done: Outcome, start: str) -> None:
    """Chuck from work."""
    made = done.chuck
    assert isinstance(made, SimulatedReversal)
    for key, true in (("chuck", 2 * abs(made.chuck)), ("work", 2 * abs(made.work))):
        assert figure(done, key) == pytest.approx(true, abs=0.008), f"{start}: {key}"


def tapered(done: Outcome, start: str) -> None:
    """Turned over, the plate's own taper is known apart from its seat's."""
    made, plan = done.chuck, done.state.plan
    assert isinstance(made, SimulatedPlate)
    assert isinstance(plan, HeightsPlan)
    if plan.inverted == "yes":
        assert figure(done, "taper") == pytest.approx(abs(made.taper[0]), abs=0.002 + 4 * made.marks), start


#: What some have to find besides their verdict.
MORE: dict[str, Callable[[Outcome, str], None]] = {
    "clocking": clocked,
    "collet": opposed,
    "shaft": bent,
    "reversal": told_apart,
    "plate": tapered,
}


def test_only_reading_ends_in_every_verdict() -> None:
    ends = {work("plate", seed).state.verdict for seed in range(40)}
    assert {v.outcome for v in ends if v is not None} >= {"holds", "outside"}


@pytest.mark.parametrize("procedure", ["four_jaw", "faceplate", "adjustable"])
def test_the_starts_on_a_lathe_go_through_every_gauge_position(procedure: str) -> None:
    plans = [example(procedure, seed) for seed in starts(procedure)]
    assert len({(p.part.surface, p.gauge_clock_deg, p.carrier) for p in plans}) == 16


def test_the_starts_of_a_four_jaw_go_through_every_count_of_spots() -> None:
    assert {len(four_jaw(seed).stations_deg) for seed in starts("four_jaw")} == {4, 6, 8, 12}


@pytest.mark.parametrize("procedure", ["vise", "bed", "edge", "rod"])
def test_the_starts_of_an_edge_go_through_every_orientation_that_is_offered(procedure: str) -> None:
    plans = [example(procedure, seed) for seed in starts(procedure)]
    seen = {(p.lies, p.gauge_side, p.hinge) for p in plans if isinstance(p, EdgeBase)}
    assert seen == set(itertools.product(("across", "along"), ("near", "far"), ("low", "high", "none")))
    assert {bool(p.target_deg) for p in plans if isinstance(p, EdgeBase)} == {True, False}


@pytest.fixture
def turned_round(monkeypatch: pytest.MonkeyPatch) -> None:
    """Every center on the other side."""
    right = Sense.center_sign.fget  # type: ignore[attr-defined]
    monkeypatch.setattr(Sense, "center_sign", property(lambda self: -right(self)))


@pytest.mark.usefixtures("turned_round")
@pytest.mark.parametrize("procedure", ["four_jaw", "two_planes", "throw", "faceplate", "adjustable", "tram"])
@pytest.mark.parametrize("seed", range(6))
def test_a_wrong_sign_is_caught(procedure: str, seed: int) -> None:
    with pytest.raises(WrongWay):
        work(procedure, seed)


@pytest.mark.usefixtures("turned_round")
@pytest.mark.parametrize("procedure", ["dowels", "packing"])
def test_a_wrong_sign_never_ends_true_where_no_needle_is_watched(procedure: str) -> None:
    verdicts = [work(procedure, seed, 12).state.verdict for seed in range(10)]
    assert sum(v is not None and v.outcome == "holds" for v in verdicts) <= 3  # some start true


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


@pytest.mark.parametrize(("way", "least", "most"), [("zero", 1, 3), ("half", 4, 13)])
def test_the_plain_schools_converge_where_theory_says_so(way: str, least: int, most: int) -> None:
    """Zero at the hinge is right there but for the spring back; tap half takes half off with each move."""
    for seed in range(0, 40, 4):
        plan = example("vise", seed).model_copy(update={"way": way, "hinge": "low"})
        rng = np.random.default_rng(seed)
        done = Operator(plan, machine(plan, rng), rng).run(max_passes=30)
        assert done.state.verdict is not None, f"start {seed}"
        assert done.state.verdict.outcome == "holds"
        assert least <= len(done.state.moves) <= most, f"start {seed}"


def test_a_press_test_answered_wrongly_is_caught() -> None:
    plan = four_jaw(0)
    rng = np.random.default_rng(1)
    chuck = SimulatedChuck(plan, Quirks(offset_mm=0.4, offset_deg=30, push_reads=1), rng)
    chuck.press = lambda slot="": "minus"  # type: ignore[method-assign]
    with pytest.raises(WrongWay):
        Operator(plan, chuck, rng).run()


def test_a_surface_out_of_round_beyond_the_limit_is_never_signed_off() -> None:
    quirks = Quirks(offset_mm=0.5, offset_deg=200, form_mm=0.03, lobes=2, noise_mm=0.0003, stop_mm=0.001)
    rng, plan = np.random.default_rng(1), four_jaw(1)
    done = Operator(plan, SimulatedChuck(plan, quirks, rng), rng).run()
    assert done.state.verdict is not None
    assert done.state.verdict.outcome == "outside"
    assert done.state.verdict.limited_by == "form"
    assert done.passes < 12
