"""Passes to a proof, cold, warm and with a holder that answers anew, on two physics, beside what else is done by hand on the same
machines: ``./velvet bench advice [trials]``.

Everything is counted: all full passes, the proof too; readings; tightenings; what was not proved in 12 passes; and proofs that hold
though the truth is past the limit. Seeds are the trial's number; what is remembered is shared by a few trials.
"""

from __future__ import annotations

from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from functools import lru_cache, partial

import numpy as np

from bench import plain
from bench.physics import Bolts, Chuck, Screws, Swings, Vise, bolts, screws
from tests.support import make_plan
from velvet_hand.core.desk import desk
from velvet_hand.core.memory import Lesson, remember
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.procedures.registry import example
from velvet_hand.core.shop import Memory
from velvet_hand.core.sim.body import WrongWay

MOST = 12
LESSONS = 4
#: So many trials begin with the memory of the same set-ups before.
SHARED = 4
#: Limit and one mark of the indicator that goes with it (mm).
LIMITS = ((0.0127, 0.00254), (0.005, 0.001))


@dataclass(frozen=True, slots=True)
class Trial:
    """How one ended."""

    passes: int
    readings: int
    tightenings: int
    held: bool
    false: bool


def four_jaw(limit: float, mark: float, spots: int) -> BasePlan:
    """A part of 50 mm in a four-jaw."""
    plan = make_plan(
        limit_thou=str(round(limit / 0.0254, 6)), graduation_mm=mark, floor_mm=0.0, travel_mm=10.0,
        stations_deg=tuple(360.0 / spots * i for i in range(spots)), between=True,
    )  # fmt: skip
    part = plan.part.model_copy(
        update={"diameter": plan.part.diameter.model_copy(update={"text": "50"}), "finish": "ground"}
    )
    return plan.model_copy(update={"part": part})


def vise(limit: float, mark: float, hinge: str) -> BasePlan:
    """A vise of 150 mm, its limit over the jaw."""
    plan = example("vise", 0)
    typed = plan.limit.typed.model_copy(update={"text": str(limit), "unit": "mm"})
    return plan.model_copy(
        update={
            "limit": plan.limit.model_copy(update={"kind": "over_jaw", "typed": typed}),
            "target_deg": 0.0,
            "unit": "mm",
            "machine": plan.machine.model_copy(update={"floor_mm": 0.0}),
            "hinge": hinge,
            "way": "swing",
            "gauge": plan.gauge.model_copy(update={"graduation_mm": mark, "travel_mm": 3.0}),
            "holder": plan.holder.model_copy(update={"edge_mm": 150.0, "bolts_mm": (10.0, 140.0)}),
            "keys": "out",
            "spots_mm": (10.0, 45.0, 80.0, 115.0, 145.0),
            "lies": "across",
            "gauge_side": "near",
        }
    )


def as_edge(plan: BasePlan) -> EdgeBase:
    """The plan of a vise."""
    assert isinstance(plan, EdgeBase)
    return plan


@dataclass(frozen=True, slots=True)
class Cell:
    """A way of working and the machines it meets: a chuck, or a vise that swings so. ``plain`` works one without the program: how many
    passes, and whether it was called good; without it the program is followed.
    """

    words: str
    plan: Callable[[float, float], BasePlan]
    swings: Swings | None = None
    plain: Callable[..., tuple[int, bool]] | None = None


CELLS = (
    Cell("four-jaw, 8 spots", partial(four_jaw, spots=8)),
    Cell("four-jaw, 4 + 4 spots", partial(four_jaw, spots=4)),
    Cell("vise, one bolt snug", partial(vise, hinge="low"), "low"),
    Cell("vise, pivot unknown", partial(vise, hinge="none"), "unknown"),
    Cell("vise, both bolts light", partial(vise, hinge="none"), "light"),
)
#: What else is done, on the same machines.
SCHOOLS = (
    Cell(
        "four-jaw, half the difference, both pairs in one pass",
        partial(four_jaw, spots=4),
        plain=partial(plain.half, both=True),
    ),
    Cell(
        "four-jaw, half the difference, the worse pair",
        partial(four_jaw, spots=4),
        plain=partial(plain.half, both=False),
    ),
    Cell(
        "vise, one bolt snug: the far end to what the near shows",
        partial(vise, hinge="low"),
        "low",
        partial(plain.tap, whole=True),
    ),
    Cell("vise, one bolt snug: tap half", partial(vise, hinge="low"), "low", partial(plain.tap, whole=False)),
    Cell("vise, pivot unknown: tap half", partial(vise, hinge="none"), "unknown", partial(plain.tap, whole=False)),
    Cell("vise, both bolts light: tap half", partial(vise, hinge="none"), "light", partial(plain.tap, whole=False)),
)


def _run(
    cell: Cell, plan: BasePlan, physics: str, rng: np.random.Generator, holder: Screws | Bolts
) -> tuple[Trial, Lesson]:
    if isinstance(holder, Screws):
        assert isinstance(plan, JawPlan)
        chuck: Chuck | Vise = Chuck(plan, rng, holder, physics)
    else:
        chuck = Vise(as_edge(plan), rng, holder, physics)
    if cell.plain is not None:
        (passes, held), lesson = cell.plain(chuck, plan, most=MOST), Lesson()
    else:
        try:
            done = Operator(plan, chuck, rng).run(max_passes=MOST)
        except WrongWay:  # once in some thousand, of a blow that carries fifty times too far: it never came in
            return Trial(MOST + 1, chuck.readings, chuck.tightenings, False, False), Lesson()
        verdict, passes, lesson = done.state.verdict, done.passes, desk.lesson(done.state)
        held = verdict is not None and verdict.outcome == "holds" and passes <= MOST
    false = held and chuck.true_tir_mm > plan.limit.mm
    return Trial(passes if held else MOST + 1, chuck.readings, chuck.tightenings, held, false), lesson


def trial(cell: Cell, limits: tuple[float, float], physics: str, memory: str, seed: int) -> Trial:
    """One set-up; ``memory`` cold, warm (set-ups of the same holder before) or anew (of another one)."""
    rng, plan = np.random.default_rng(seed), cell.plan(*limits)
    holder = _holder(cell, plan, physics, rng)
    if memory != "cold":
        before, lessons = _history(cell, limits, physics, seed // SHARED)
        plan = plan.model_copy(update={"memory": lessons})
        holder = before if memory == "warm" else holder
    return _run(cell, plan, physics, rng, holder)[0]


def _holder(cell: Cell, plan: BasePlan, physics: str, rng: np.random.Generator) -> Screws | Bolts:
    return bolts(rng, physics, as_edge(plan), cell.swings) if cell.swings else screws(rng, physics)


@lru_cache(maxsize=2)
def _history(cell: Cell, limits: tuple[float, float], physics: str, seed: int) -> tuple[Screws | Bolts, Memory]:
    """A holder, and what is remembered of it after some set-ups."""
    rng, plan = np.random.default_rng((seed, LESSONS)), cell.plan(*limits)
    holder = _holder(cell, plan, physics, rng)
    return holder, remember([_run(cell, plan, physics, rng, holder)[1] for _ in range(LESSONS)])


def told(trials: list[Trial]) -> str:
    """Median / 90th percentile / not done in percent, the mean in brackets, and false holds in percent of those that held."""
    counts = [t.passes for t in trials]
    held = [t for t in trials if t.held]
    middle, most = np.percentile(counts, 50), np.percentile(counts, 90)
    missed, false = 100 * (1 - len(held) / len(trials)), 100 * sum(t.false for t in held) / max(len(held), 1)
    readings, tight = np.mean([t.readings for t in trials]), np.mean([t.tightenings for t in trials])
    counted = f"{_n(middle)} / {_n(most)} / {missed:.1f} ({np.mean(counts):.1f})"
    return f"{counted}; {readings:.0f} read, {tight:.1f} tight, {false:.1f} % false"


def _n(value: float) -> str:
    return f">{MOST}" if value > MOST else f"{value:.0f}"


def table(
    trials: int, physics: str, memories: tuple[str, ...] = ("cold", "warm", "anew"), cells: tuple[Cell, ...] = CELLS
) -> list[list[str]]:
    """A row a cell and limit."""
    rows = [["way of working", "limit", *memories]]
    with ProcessPoolExecutor() as pool:
        for cell in cells:
            for limits in LIMITS:
                runs = [partial(trial, cell, limits, physics, memory) for memory in memories]
                ends = [told(list(pool.map(run, range(trials), chunksize=2 * SHARED))) for run in runs]
                rows.append([cell.words, f"{limits[0]} mm", *ends])
    return rows
