"""Two ways of working at the same hidden machine, side by side and step by step, to see why one is quicker."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..desk.expect import SCHOOLS
from ..engine.forecast import MOVE_S, READING_S, TIGHTEN_S
from ..model import Model
from ..operator import Operator
from ..plan.base import School
from ..setup import events as ev
from ..sim.jaws import SimulatedChuck, random_quirks
from ..wording import Text, text
from .drills import chuck_plan

#: Those that are shown.
SHOWN: tuple[School, ...] = ("high_spot", "pairs")
MOST_PASSES = 12


class SchoolStep(Model):
    """One step of a school: what it did, how far it was truly off then (TIR), and what it has cost so far.

    ``x_mm`` and ``y_mm`` are where the work's center stood, in the chuck.
    """

    what: Text
    off_mm: float
    x_mm: float
    y_mm: float
    readings: int
    seconds: int


class Played(Model):
    """A school at work, from the first reading to its verdict."""

    school: School
    words: str
    steps: tuple[SchoolStep, ...]
    passes: int
    proved: bool


class Schools(Model):
    """Both, at the machine of that number; ``told`` says which was quicker and by what."""

    seed: int
    limit_mm: float
    resolution_mm: float
    played: tuple[Played, ...]
    told: Text


def schools(seed: int) -> Schools:
    """Both schools at the hidden four-jaw of that number."""
    plan = chuck_plan(seed)
    each = tuple(_play(seed, school) for school in SHOWN)
    return Schools(
        seed=seed, limit_mm=plan.limit.mm, resolution_mm=plan.gauge.resolution_mm, played=each, told=_told(each)
    )


def _play(seed: int, school: School) -> Played:
    plan = chuck_plan(seed, school=school)
    quirks = replace(random_quirks(np.random.default_rng(seed), plan, max_offset_mm=0.13), form_mm=0.002)
    body = SimulatedChuck(plan, quirks, np.random.default_rng(seed + 1))
    person = Operator(plan, body, np.random.default_rng(seed + 2))
    steps: list[SchoolStep] = []
    readings, waiting, seconds, center = 0, 0, 0.0, body.center

    def add(what: Text, at: complex) -> None:
        steps.append(
            SchoolStep(
                what=what, off_mm=2 * abs(at), x_mm=at.real, y_mm=at.imag, readings=readings, seconds=round(seconds)
            )
        )

    def read() -> None:
        nonlocal waiting
        if waiting:
            add(text(f"Reads {waiting} {'spot' if waiting == 1 else 'spots'}."), center)
        waiting = 0

    seen = len(person.events)
    while person.full_passes <= MOST_PASSES and person.step():
        for event in person.events[seen:]:
            if isinstance(event.body, ev.ReadingTaken):
                readings, waiting, seconds = readings + 1, waiting + 1, seconds + READING_S
            elif isinstance(event.body, ev.MoveDone) and event.body.phase == "done" and event.shown is not None:
                read()
                seconds += MOVE_S
                add(event.shown.short or event.shown.sentence, body.center)
            elif isinstance(event.body, ev.Tightened):
                read()
                seconds += TIGHTEN_S
                add(text("Tightens everything."), body.center)
            elif isinstance(event.body, ev.Proved) and event.verdict is not None:
                read()
                add(text("Proved: it holds." if event.verdict.outcome == "holds" else "Not proved yet."), body.center)
        seen, center = len(person.events), body.center
    verdict = person.state.verdict
    return Played(
        school=school, words=SCHOOLS[school], steps=tuple(steps), passes=person.full_passes,
        proved=verdict is not None and verdict.outcome == "holds",
    )  # fmt: skip


def _told(each: tuple[Played, ...]) -> Text:
    first, second = sorted(each, key=lambda one: one.steps[-1].seconds)
    if first.steps[-1].seconds == second.steps[-1].seconds:
        return text("Here both take as long.")
    minutes = (second.steps[-1].seconds - first.steps[-1].seconds) / 60
    return text(
        f"Here “{first.words}” is quicker, by {minutes:.1f} minutes: {first.steps[-1].readings} readings and "
        f"{first.passes} full passes against {second.steps[-1].readings} and {second.passes}."
    )
