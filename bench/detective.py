"""Why won't it come in? What the detective is worth: ``./velvet bench detective [troubles]``, and ``detective learn``.

A trouble is one cause, switched on in a simulated machine that is worked by the advice until somebody would ask. ``learn`` works many of
them and writes how often each sign and each answer of a quick test came with each cause, for the core to read; the table is made with
other machines.
"""

from __future__ import annotations

import json
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np

from velvet_hand.core import detective
from velvet_hand.core.causes import Cause, Trial
from velvet_hand.core.desk import desk
from velvet_hand.core.detective import why as reason
from velvet_hand.core.detective.causes import EVERY, Family, possible
from velvet_hand.core.detective.evidence import family_of, seen, tells
from velvet_hand.core.detective.trials import offered
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.setup.state import State
from velvet_hand.core.sim.afflict import afflict
from velvet_hand.core.sim.body import Body, Jammed, WrongWay
from velvet_hand.core.sim.trouble import Trouble, unfit

#: What it is learned from and measured on.
WORKED: dict[Family, tuple[str, ...]] = {
    "ring": ("four_jaw", "four_jaw", "two_planes", "throw", "adjustable", "faceplate", "centre"),
    "edge": ("vise", "vise", "edge", "rod"),
    "points": ("vises", "clamped"),
}
LEARNED = Path(detective.__file__).parent / "likelihoods.json"
#: Set-ups that a cause is learned from in a family; those that are measured have seeds beyond.
LEARN, BEYOND = 240, 1_000_000


@dataclass(frozen=True, slots=True)
class Case:
    """A set-up that does not come in, the cause of it, and the machine to try quick tests on."""

    state: State
    cause: Cause
    trouble: Trouble
    made: Body

    def shows(self, trial: Trial) -> str:
        """What a quick test shows here."""
        return self.trouble.shows(trial, self.made.hands.noise_mm)


def _causes(family: Family, procedure: str) -> tuple[Cause, ...]:
    return possible(family, example(procedure, 1))


def worked(procedure: str, cause: Cause, seed: int) -> Case | None:
    """A set-up with that cause, worked until somebody asks; None when it came in all the same, or the cause has done
    nothing yet.
    """
    rng = np.random.default_rng([seed, len(cause), ord(cause[0]), ord(cause[-1])])
    plan = example(procedure, seed)
    if plan.gauge.measures_gap:
        return None
    if cause == "floor":
        plan = unfit(plan, rng)
    made = machine(plan, rng)
    hand = Operator(plan, made, rng)
    trouble = afflict(made, cause, rng, hand.state.stations)
    # nobody goes on after a move or two the wrong way
    asked_after, steps = 2 if cause == "sign" else int(rng.integers(2, 5)), 0
    early = cause == "none"
    while steps < 400:
        steps += 1
        before = hand.state
        try:
            more = hand.step()
        except (WrongWay, Jammed, AssertionError):
            break
        held = hand.state.verdict is not None and hand.state.verdict.outcome == "holds"
        if held and early:
            hand.state = before
            break
        if held:
            return None
        whole = hand.state.unread(hand.state.open_pass) is None
        # while the needle is brought onto its dial nobody wonders yet, unless it leaves it again
        told = sum(tells(hand.state, p) for p in hand.state.passes if not p.quick)
        if told and cause == "sign":
            told = hand.full_passes
        if not more or (whole and (told >= asked_after or hand.full_passes >= 3 * asked_after)):
            break
    asked = trouble.acted and any(tells(hand.state, p) for p in hand.state.passes if p.readings)
    return Case(hand.state, cause, trouble, made) if asked else None


def cases(family: Family, count: int, start: int) -> Iterator[Case]:
    """So many set-ups of every cause that can be, as different as the examples are."""
    for cause in CAUSES[family]:
        found, seed = 0, start
        while found < count and seed < start + 6 * count + 60:
            procedure = WORKED[family][seed % len(WORKED[family])]
            seed += 1
            if cause not in _causes(family, procedure):
                continue
            case = worked(procedure, cause, seed)
            if case is not None:
                found += 1
                yield case


CAUSES: dict[Family, tuple[Cause, ...]] = {
    family: tuple(dict.fromkeys(c for p in WORKED[family] for c in _causes(family, p))) for family in EVERY
}


def _told(job: tuple[Family, int, int]) -> list[tuple[str, dict[str, str], dict[str, str]]]:
    """Cause, signs and what every quick test shows, of each case."""
    family, count, start = job
    found = []
    for case in cases(family, count, start):
        procedure = desk.procedure_of(case.state.plan)
        signs = {name: sign.case for name, sign in seen(procedure, case.state).items()}
        tests: dict[str, str] = {trial: case.shows(trial) for trial in offered(family, case.state.plan)}
        found.append((str(case.cause), signs, tests))
    return found


def learn(count: int = LEARN) -> None:
    """Write how often each sign and answer came with each cause."""
    parts = 8
    jobs = [(family, count // parts, 10_000 * part) for family in EVERY for part in range(parts)]
    with ProcessPoolExecutor() as pool:
        told = list(pool.map(_told, jobs))
    written = {}
    for family in EVERY:
        rows = [row for job, each in zip(jobs, told, strict=True) if job[0] == family for row in each]
        signs = counted((cause, seen) for cause, seen, _ in rows)
        trials = counted((cause, tests) for cause, _, tests in rows)
        written[family] = {"signs": signs, "trials": trials, "tempered": tempered(family, rows, signs)}
    LEARNED.write_text(_compact(written))
    reason.learned.cache_clear()


def _compact(written: Mapping[Family, Mapping[str, Any]]) -> str:
    """JSON with a line for each sign and test."""
    families = []
    for family, each in written.items():
        parts = [f'"tempered": {each["tempered"]}']
        for kind in ("signs", "trials"):
            lines = [
                f"{json.dumps(name)}: {json.dumps(each[kind][name], sort_keys=True)}" for name in sorted(each[kind])
            ]
            parts.append(f'"{kind}": {{\n' + ",\n".join(lines) + "\n}")
        families.append(f'"{family}": {{\n' + ",\n".join(parts) + "\n}")
    return "{\n" + ",\n".join(families) + "\n}\n"


def counted(rows: Iterator[tuple[str, dict[str, str]]]) -> dict[str, dict[str, dict[str, int]]]:
    """How often each case was seen, by sign and cause."""
    found: dict[str, dict[str, dict[str, int]]] = defaultdict(lambda: defaultdict(lambda: defaultdict(int)))
    for cause, cases in rows:
        for name, case in cases.items():
            found[name][case][cause] += 1
    return {name: {case: dict(causes) for case, causes in by.items()} for name, by in found.items()}


def tempered(family: Family, rows: Sequence[tuple[str, dict[str, str], dict[str, str]]], signs: Any) -> float:
    """The exponent that makes the true causes likeliest, all together."""
    best = (-1e18, 1.0)
    names = CAUSES[family]
    logs = {
        (name, case, cause): np.log(reason.chance_of(signs, name, case, cause))
        for name, by in signs.items()
        for case in by
        for cause in names
    }
    table = np.array([[sum(logs[n, c, cause] for n, c in seen.items()) for cause in names] for _, seen, _ in rows])
    true = np.array([list(map(str, names)).index(cause) for cause, _, _ in rows])
    for part in np.arange(0.3, 1.01, 0.05):
        scaled = table * part
        top = scaled.max(axis=1)
        score = float(
            (scaled[np.arange(len(true)), true] - top - np.log(np.exp(scaled - top[:, None]).sum(axis=1))).sum()
        )
        best = max(best, (score, float(round(part, 2))))
    return best[1]


def asked(case: Case, tests: int) -> list[Cause]:
    """The causes as the detective ranks them, after so many of the quick tests that it asks for."""
    procedure, state = desk.procedure_of(case.state.plan), case.state
    known = reason.learned()[family_of(state)]
    before = reason.prior(state, possible(family_of(state), state.plan), state.opened_at.date())
    evidence = seen(procedure, state)
    tried: dict[Trial, str] = {}
    for _ in range(tests):
        chances = reason.posterior(known, before, evidence, tried)
        left = tuple(t for t in offered(family_of(state), state.plan) if t not in tried)
        trial = reason.best_trial(known, chances, left)
        if trial is None:
            break
        tried[trial] = case.shows(trial)
    chances = reason.posterior(known, before, evidence, tried)
    return sorted(chances, key=lambda cause: -chances[cause])


def _ranked(job: tuple[Family, int, int]) -> list[tuple[str, int, int, int]]:
    family, count, start = job
    found = []
    for case in cases(family, count, start):
        places = [asked(case, tests).index(case.cause) for tests in (0, 1, 2)]
        found.append((str(case.cause), places[0], places[1], places[2]))
    return found


def table(troubles: int = 500) -> list[list[str]]:
    """How often the true cause is first, and among the first three, before any test and after one and two."""
    parts = 4
    rows = [
        ["what is read", "cause", "asked", "first, no test", "first, 1 test", "first, 2 tests", "in three, 2 tests"]
    ]
    total = sum(len(CAUSES[f]) - 1 for f in EVERY)
    each = max(1, -(-troubles // total))
    jobs = [(family, max(1, -(-each // parts)), BEYOND + 10_000 * part) for family in EVERY for part in range(parts)]
    with ProcessPoolExecutor() as pool:
        told = list(pool.map(_ranked, jobs))
    every: dict[str, list[tuple[str, int, int, int]]] = {"troubles": [], "none": []}
    for family in EVERY:
        mine = [row for job, found in zip(jobs, told, strict=True) if job[0] == family for row in found]
        for cause in CAUSES[family]:
            rows.append(_row(family, cause, [row for row in mine if row[0] == cause]))
        every["none"] += [row for row in mine if row[0] == "none"]
        every["troubles"] += [row for row in mine if row[0] != "none"]
    rows.append(_row("all", "any trouble", every["troubles"]))
    rows.append(_row("all", "none", every["none"]))
    return rows


def _row(family: str, cause: str, found: list[tuple[str, int, int, int]]) -> list[str]:
    places = np.array([row[1:] for row in found]).reshape(-1, 3)

    def part(tests: int, within: int) -> str:
        return f"{100 * float((places[:, tests] <= within).mean()):.0f} %" if len(places) else ""

    return [family, cause, str(len(found)), part(0, 0), part(1, 0), part(2, 0), part(2, 2)]
