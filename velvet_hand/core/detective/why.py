"""How likely each cause is, and which quick test tells most: Bayes over evidence and answers, with likelihoods from the simulators.

Signs are taken as independent given the cause, all of them tempered by one exponent that was fitted with them (they are not quite).
The test is the one with the most expected information for its cost. Sources: D. J. Spiegelhalter et al., "Bayesian analysis in expert
systems", 1993; D. V. Lindley, "On a measure of the information provided by an experiment", 1956.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from pathlib import Path

from ..causes import Cause, Trial
from ..engine.procedure import Registered
from ..path.lathe import overdue
from ..setup.state import State
from ..wording import Text, text
from .causes import Family, possible
from .evidence import Evidence, family_of, odd_spot, seen
from .trials import QUICK_TESTS, offered

#: How likely it is, before anything was seen, that nothing is wrong; the rest is shared by the causes.
NOTHING = 0.17
#: A sign speaks for a cause when it is this much likelier with it than at large.
SPEAKS = 1.6
#: What may be said for a cause; other signs count, but would not be understood.
SAID: Mapping[Cause, tuple[str, ...]] = {
    "loose": ("closing", "repeats", "scatter", "steady"),
    "burr": ("odd", "repeats"),
    "form": ("form",),
    "worn": ("shift",),
    "spindle": ("scatter", "repeats", "closing"),
    "spring": ("answer", "shift"),
    "lifting": ("shift", "steady"),
    "sign": ("answer",),
    "square": ("across",),
    "lost_motion": ("reversed",),
    "misread": ("odd", "repeats", "closing"),
    "floor": ("fine", "left"),
}
#: Signs that a cause has nothing to do with: there it is as likely as with nothing wrong, whatever the simulators made of being far off.
APART_FROM: Mapping[Cause, tuple[str, ...]] = {"sign": ("form", "scatter", "repeats", "closing", "odd", "passes")}
#: A case that was never seen with a cause is still taken to be possible: so many added to each count.
ADDED = 0.5
#: Cases by sign or test, how often each was seen, by cause.
Counts = Mapping[str, Mapping[str, Mapping[str, int]]]


@dataclass(frozen=True, slots=True)
class Suspect:
    """A cause, how likely it is, and what speaks for it."""

    cause: Cause
    chance: float
    because: tuple[Text, ...]


@dataclass(frozen=True, slots=True)
class Why:
    """The causes, the likeliest first; the test that tells most (None: no test is worth its time), and where to make it."""

    family: Family
    suspects: tuple[Suspect, ...]
    trial: Trial | None
    spot: str
    evidence: Evidence


@dataclass(frozen=True, slots=True)
class Learned:
    """What the simulators showed: counts by sign, and by test, and the exponent that signs are tempered with."""

    signs: Counts
    trials: Counts
    tempered: float


@lru_cache(maxsize=1)
def learned() -> Mapping[Family, Learned]:
    """Written by ``./velvet bench detective learn``."""
    raw = json.loads((Path(__file__).parent / "likelihoods.json").read_text())
    return {family: Learned(**each) for family, each in raw.items()}


def chance_of(counts: Counts, name: str, case: str, cause: str) -> float:
    """How likely this case of a sign or a test is with a cause, none of them counted as impossible."""
    by_case = counts.get(name, {})
    cases = len(by_case) + (case not in by_case)
    seen = by_case[case].get(cause, 0) if case in by_case else 0
    return (seen + ADDED) / (sum(by_cause.get(cause, 0) for by_cause in by_case.values()) + ADDED * cases)


def _normal(scores: dict[Cause, float]) -> dict[Cause, float]:
    most = max(scores.values())
    weights = {cause: math.exp(score - most) for cause, score in scores.items()}
    total = sum(weights.values())
    return {cause: weight / total for cause, weight in weights.items()}


def prior(state: State, causes: tuple[Cause, ...], on: date) -> dict[Cause, float]:
    """Before anything was read here: what is known of indicator, machine, part and holder beforehand."""
    plan = state.plan
    weight: dict[Cause, float] = dict.fromkeys(causes, 1.0)
    if overdue(plan, on):
        weight["loose"] *= 1.5
    repeat = plan.memory.repeat_mm
    if repeat is not None and repeat > 1.5 * plan.gauge.graduation_mm:
        weight["loose"] *= 2.0
    if plan.machine.floor_mm > plan.limit.mm / 3:
        weight["spindle"] *= 2.0
    if plan.part.finish == "rough" and "form" in weight:
        weight["form"] *= 2.0
    weight["none"] = 0.0
    share = (1 - NOTHING) / sum(weight.values())
    return {cause: NOTHING if cause == "none" else w * share for cause, w in weight.items()}


def posterior(
    known: Learned, before: Mapping[Cause, float], evidence: Evidence, tried: Mapping[Trial, str]
) -> dict[Cause, float]:
    """How likely each cause is after these signs and these answers of tests."""
    scores = {}
    for cause, p in before.items():
        apart = APART_FROM.get(cause, ())
        signs = sum(
            math.log(chance_of(known.signs, name, sign.case, "none" if name in apart else cause))
            for name, sign in evidence.items()
        )
        tests = sum(math.log(chance_of(known.trials, name, answer, cause)) for name, answer in tried.items())
        scores[cause] = math.log(p) + known.tempered * signs + tests
    return _normal(scores)


def _entropy(chances: Mapping[Cause, float]) -> float:
    return -sum(p * math.log(p) for p in chances.values() if p > 0)


def expected_information(known: Learned, chances: Mapping[Cause, float], trial: Trial) -> float:
    """By how much the answer of a test is expected to narrow the causes (nats)."""
    after = 0.0
    for answer, _ in QUICK_TESTS[trial].answers:
        joint = {c: p * chance_of(known.trials, trial, answer, c) for c, p in chances.items()}
        share = sum(joint.values())
        after += share * _entropy({c: p / share for c, p in joint.items()})
    return _entropy(chances) - after


#: A test that is expected to tell less than this (nats) is not worth its time.
LEAST_TOLD = 0.02


def best_trial(known: Learned, chances: Mapping[Cause, float], left: tuple[Trial, ...]) -> Trial | None:
    """The quick test that tells most for what it costs."""
    told = {trial: expected_information(known, chances, trial) for trial in left}
    worth = [trial for trial in left if told[trial] >= LEAST_TOLD]
    return max(worth, key=lambda t: told[t] / QUICK_TESTS[t].cost ** 0.5, default=None)


def tried_here(state: State) -> dict[Trial, str]:
    """The answers of the quick tests that were made since the last full pass was begun."""
    full = max((p.number for p in state.passes if not p.quick), default=0)
    return {t.trial: t.answer for t in state.tried if t.pass_no >= full}


def why(procedure: Registered, state: State, on: date | None = None) -> Why:
    """What could explain what was seen in this set-up.

    Parameters
    ----------
    on
        The day that it is asked on; None: the day the set-up was opened.
    """
    family = family_of(state)
    known, evidence, tried = learned()[family], seen(procedure, state), tried_here(state)
    before = prior(state, possible(family, state.plan), on or state.opened_at.date())
    chances = posterior(known, before, evidence, tried)
    left = tuple(t for t in offered(family, state.plan) if t not in tried)
    at_large = {name: _at_large(known.signs, name, sign.case, before) for name, sign in evidence.items()}

    def because(cause: Cause) -> tuple[Text, ...]:
        ratio = {
            name: chance_of(known.signs, name, evidence[name].case, cause) / at_large[name]
            for name in SAID.get(cause, ())
            if evidence[name].words
        }
        speaks = sorted((name for name in ratio if ratio[name] >= SPEAKS), key=lambda name: -ratio[name])
        tests = tuple(
            text(f"{QUICK_TESTS[trial].title}: {QUICK_TESTS[trial].answered(answer)}.")
            for trial, answer in tried.items()
            if chance_of(known.trials, trial, answer, cause) >= SPEAKS * _at_large(known.trials, trial, answer, before)
        )
        return (*tests, *(evidence[name].words for name in speaks[:2]))

    ranked = sorted(chances, key=lambda c: -chances[c])
    suspects = tuple(Suspect(cause, chances[cause], because(cause)) for cause in ranked)
    return Why(family, suspects, best_trial(known, chances, left), odd_spot(state), evidence)


def _at_large(counts: Counts, name: str, case: str, before: Mapping[Cause, float]) -> float:
    return sum(p * chance_of(counts, name, case, cause) for cause, p in before.items())
