"""How often a band contains the truth, and how often a verdict is false: ``./velvet bench coverage [set-ups]``.

Every procedure is worked on its simulated machine, on surfaces that it was not tuned on and by hands that read more or less finely. At
each full pass the value and its band are held against the truth, which is taken from the machine without marks and noise; the same pass is
judged against limits between 0.6 and 1.4 of the truth as well, so that most of them are near. Where a set-up's verdict is not that of
one ring or edge (several are judged, or a throw), only its proofs are held against the truth.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass, field, replace
from functools import partial

import numpy as np

from velvet_hand.core.desk import desk
from velvet_hand.core.gauge import ReadTo
from velvet_hand.core.measure.edge import Edge
from velvet_hand.core.measure.ring import Ring
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.plan.edge import EdgeBase
from velvet_hand.core.plan.jaws import JawPlan
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.quantity import LimitKind
from velvet_hand.core.sim.body import Body
from velvet_hand.core.verdict import Verdict, judge

#: Size of each wave of form (mm), scatter of a reading in graduations, and the finish that is said at the plan.
SURFACES: dict[str, tuple[float, float, str]] = {
    "clean": (0.0, 0.15, "ground"),
    "0.5 µm form": (0.0005, 0.15, "ground"),
    "1 µm form": (0.001, 0.15, "turned"),
    "lobed": (0.0, 0.15, "turned"),
    "tool marks": (0.0, 0.15, "turned"),
    "three times the scatter": (0.0, 0.45, "ground"),
}
LOBES_MM, MARKS_MM = 0.003, 0.0015
#: How finely the hand reads, in graduations, and what is said of it at the plan.
HABITS: dict[str, tuple[float, ReadTo]] = {
    "half": (0.5, "half"), "whole": (1.0, "whole"), "whole, half is said": (1.0, "half"),
}  # fmt: skip
SPOTS = (3, 4, 8, 12)
#: Limits that a pass is judged against, in parts of the truth.
LIMITS = (0.6, 0.8, 0.9, 1.1, 1.25, 1.4)
MOST = 8


@dataclass(slots=True)
class Tally:
    """Passes judged, bands that held the truth, and verdicts near a limit (within two bands of it) by how they were wrong."""

    passes: int = 0
    inside: int = 0
    false_holds: int = 0
    false_outside: int = 0
    open: int = 0
    judged: int = 0
    proofs: int = 0
    false_proofs: int = 0

    def add(self, other: Tally) -> None:
        """Another one's counts on top."""
        for name in self.__slots__:
            setattr(self, name, getattr(self, name) + getattr(other, name))


@dataclass(slots=True)
class Surface:
    """What is added to an exact machine: waves round a turn or along an edge, lobes, marks that every place has its own of."""

    kind: str
    rng: np.random.Generator
    length_mm: float
    waves: list[tuple[float, float]] = field(init=False)
    lobes: tuple[float, float, int] = field(init=False)
    marks: dict[tuple[float, float, str], float] = field(default_factory=dict)

    def __post_init__(self) -> None:
        size = SURFACES[self.kind][0]
        self.waves = [(float(self.rng.normal(0, size)), float(self.rng.normal(0, size))) for _ in range(4)]
        self.lobes = (LOBES_MM / 2, float(self.rng.uniform(0, 360)), int(self.rng.choice([2, 3])))

    def at(self, place: complex, ring: str, turns: bool) -> float:
        """How far it stands out there."""
        t = math.radians(place.real) if turns else 2 * math.pi * (place.real + 0.7 * place.imag) / self.length_mm
        orders = (2, 3, 4, 5) if turns else (1, 2, 3, 4)
        found = sum(c * math.cos(n * t) + s * math.sin(n * t) for n, (c, s) in zip(orders, self.waves, strict=True))
        if self.kind == "lobed":
            size, way, order = self.lobes
            found += size * math.cos(order * t - math.radians(way))
        if self.kind == "tool marks":
            key = (round(place.real, 1), round(place.imag, 1), ring)
            found += self.marks.setdefault(key, float(self.rng.uniform(-MARKS_MM, MARKS_MM)))
        return found


def _planned(procedure: str, seed: int, surface: str, spots: int) -> BasePlan:
    plan = example(procedure, seed)
    finish = SURFACES[surface][2]
    changes: dict[str, object] = {"part": plan.part.model_copy(update={"finish": finish})}
    if isinstance(plan, EdgeBase):
        changes["edge_finish"] = "milled" if finish == "turned" else finish
    if spots and isinstance(plan, EdgeBase):
        low, high = min(plan.spots_mm), max(plan.spots_mm)
        changes["spots_mm"] = tuple(float(v) for v in np.linspace(low, high, spots))
    elif spots:
        changes["stations_deg"] = tuple(360.0 / spots * i for i in range(spots))
        changes["between"] = False
    plan = plan.model_copy(update=changes)
    return PROCEDURES[procedure].looking_between(plan) if spots else plan


def _judged_on(plan: BasePlan) -> tuple[str, str] | None:
    """The one ring or edge whose verdict is the set-up's, when there is only one."""
    if plan.limit.kind == "throw":
        return None
    measures = [m for m in PROCEDURES[plan.procedure].measures(plan) if isinstance(m, Ring | Edge)]
    if len(measures) != 1:
        return None
    return ("ring" if isinstance(measures[0], Ring) else "edge"), measures[0].id


def _truth(made: Body, plan: BasePlan) -> float:
    """What is judged, without marks and noise."""
    kind, on = plan.limit.kind, _judged_on(plan)
    if on and on[0] == "ring" and kind == "tir":
        return float(np.ptp([made.nearness(complex(deg), on[1]) for deg in np.arange(0.0, 360.0, 2.0)]))
    if on and on[0] == "edge" and isinstance(plan, EdgeBase):
        x = np.linspace(min(plan.spots_mm), max(plan.spots_mm), 61)
        slope = float(np.polyfit(x, [made.nearness(complex(v), on[1]) for v in x], 1)[0])
        wanted = PROCEDURES[plan.procedure].measures(plan)
        target = next(m.wanted for m in wanted if isinstance(m, Edge))
        return abs(slope - target) * plan.limit_length_mm
    return made.past_limit_mm + plan.limit.mm


def runs(procedure: str, surface: str, spots: int, habit: str, seed: int) -> Tally:
    """One set-up, worked to its end."""
    rng = np.random.default_rng([seed, 77])
    plan, found = _planned(procedure, seed, surface, spots), Tally()
    reads_to, said = HABITS[habit]
    plan = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"read_to": said})})
    made = machine(plan, rng)
    noise = SURFACES[surface][1] * plan.gauge.graduation_mm
    made.hands = replace(made.hands, noise_mm=noise, reads_to=reads_to)
    rough = Surface(surface, rng, getattr(plan, "edge_mm", 200.0))
    turns = any(isinstance(m, Ring) for m in PROCEDURES[procedure].measures(plan))
    exact: Callable[..., float] = made.nearness
    made.nearness = lambda at, ring="": exact(at, ring) + rough.at(complex(at), ring, turns)  # type: ignore[method-assign]
    hand, seen = Operator(plan, made, rng), 0
    while hand.full_passes <= MOST:
        before = hand.state.verdict
        if not hand.step():
            break
        state = hand.state
        current = state.passes[-1] if state.passes else None
        if current is None or current.quick:
            continue
        solution = desk.procedure_of(plan).solution(state)
        whole = current.number > seen and not current.moved and state.unread(current) is None and not current.closed
        if whole and solution.judged is not None and _judged_on(plan):
            seen = current.number
            _count(found, solution.judged, plan.limit.kind, _truth(made, plan))
        if state.verdict is not None and before is None:
            found.proofs += state.verdict.outcome == "holds"
            found.false_proofs += state.verdict.outcome == "holds" and _truth(made, plan) > plan.limit.mm
    return found


def _count(found: Tally, said: Verdict, kind: LimitKind, truth: float) -> None:
    found.passes += 1
    found.inside += abs(said.value_mm - truth) <= said.band_mm
    for part in LIMITS:
        limit = truth * part
        if abs(limit - truth) > 2 * said.band_mm or limit <= 0:
            continue
        again = judge(kind, said.value_mm, limit, said.terms)
        found.judged += 1
        found.open += again.outcome == "cannot_tell"
        found.false_holds += again.outcome == "holds" and truth > limit
        found.false_outside += again.outcome == "outside" and truth <= limit


def _cells() -> Iterator[tuple[str, int]]:
    """Every procedure, with the spots that it can be given."""
    for name, procedure in PROCEDURES.items():
        plan = example(name, 0)
        free = (isinstance(plan, JawPlan | EdgeBase) and not plan.gauge.measures_gap) or procedure.steers_with_few
        for spots in SPOTS if free and name not in ("rod", "rough") else (0,):
            yield name, spots


def _cell(setups: int, job: tuple[str, int, str, str]) -> tuple[tuple[str, int, str, str], Tally]:
    name, spots, surface, habit = job
    found = Tally()
    for seed in range(setups):
        found.add(runs(name, surface, spots, habit, seed))
    return job, found


def tally(setups: int, only: str = "") -> dict[tuple[str, int, str, str], Tally]:
    """What was counted, by procedure, spots, surface and habit."""
    jobs = [(n, s, kind, habit) for n, s in _cells() if n.startswith(only) for kind in SURFACES for habit in HABITS]
    with ProcessPoolExecutor() as pool:
        return dict(pool.map(partial(_cell, setups), jobs))


HEAD = ["", "passes", "truth in the band", "false holds", "false outside", "open", "proofs", "false proofs"]


def row(word: str, one: Tally) -> list[str]:
    """A line of the table, in percent."""

    def part(some: int, of: int) -> str:
        return f"{100 * some / of:.1f} %" if of else "–"

    return [
        word, str(one.passes), part(one.inside, one.passes), part(one.false_holds, one.judged), part(one.false_outside, one.judged),
        part(one.open, one.judged), str(one.proofs), part(one.false_proofs, one.proofs),
    ]  # fmt: skip


def tables(setups: int, only: str = "") -> list[tuple[str, list[list[str]]]]:
    """By procedure, by surface, by spots, by habit; a cell of each is summed over the others."""
    counted = tally(setups, only)
    found = []
    for title, index in (("procedure", 0), ("spots", 1), ("surface", 2), ("read to", 3)):
        sums: dict[str, Tally] = {}
        for key, one in counted.items():
            sums.setdefault(str(key[index] or "its own"), Tally()).add(one)
        found.append((title, [[title, *HEAD[1:]], *(row(word, one) for word, one in sums.items())]))
    return found
