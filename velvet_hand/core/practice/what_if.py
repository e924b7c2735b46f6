"""What if something else had been done? A logged set-up goes on from any of its steps, at a machine fitted to its log.

Of the procedure’s simulated machines that one is taken which answers what was done as the log says that it was answered; at each pass it
is brought to where that pass read it, and what is left over at a spot stays as the form of the part.
"""

from __future__ import annotations

import copy
from collections.abc import Callable, Iterator, Sequence
from dataclasses import replace
from functools import lru_cache
from typing import Any
from uuid import UUID

import numpy as np
from numpy.typing import NDArray

from ..desk import desk
from ..errors import NotNow
from ..model import Model, own
from ..plan.base import BasePlan
from ..procedures.registry import example, machine
from ..readings import Pass
from ..setup import events as ev
from ..setup.state import State
from ..sim.body import Body
from ..wording import so_many
from .drills import Drill

Array = NDArray[np.float64]
#: Machines that are tried, and steps to bring one where it was read.
MACHINES, STEPS = 12, 4
#: Passes before and after the step that the machine is brought to, beside the first.
NEAR = 3
#: So many fitted machines are kept in mind.
KEPT = 16
#: A log that is longer is not gone on from.
LONGEST = 2000
NAME = "what_if"


class Past(Model):
    """A log and the step that it goes on from (the whole of it is there to fit a machine to); what came after took so many passes and
    minutes, and held or not.
    """

    setup_id: str
    seq: int
    events: tuple[ev.Event, ...]
    passes_then: int
    minutes_then: int
    held: bool | None

    @property
    def before(self) -> list[ev.Event]:
        """What had been done by then and not taken back, numbered anew."""
        kept = desk.load(self.events[: self.seq]).effective
        return [event.model_copy(update={"seq": i}) for i, event in enumerate(kept, 1)]


def past_of(setup_id: str, events: Sequence[ev.Event], seq: int) -> Past:
    """The past of a set-up at one of its steps.

    Raises
    ------
    NotNow
        Nothing is moved in this procedure, the log is too long, or a move is half done there.
    """
    seq = min(seq, len(events))
    then, whole = desk.load(events[:seq]), desk.load(events)
    if not moves(whole.plan):
        raise NotNow("not_now", "Nothing is moved in this job.", "Another one can be gone on from.", "seq")
    if len(events) > LONGEST:
        raise NotNow("not_now", "Its log is too long for that.", "Go on from a shorter one.", "seq")
    if then.half is not None:
        raise NotNow("not_now", "A move is half done at this step.", "Take the step before or after it.", "seq")
    minutes = round((whole.changed_at - then.changed_at).total_seconds() / 60)
    held = None if whole.verdict is None else whole.verdict.outcome == "holds"
    passes = whole.full_passes - then.full_passes
    return Past(
        setup_id=setup_id, seq=seq, events=tuple(events), passes_then=passes, minutes_then=minutes, held=held
    )  # fmt: skip


def what_if(past: Past) -> Drill:
    """A practice of it."""
    first = own(past.events[0].body, ev.Opened)
    ended = "" if past.held is None else ", and it held" if past.held else ", and it did not hold"
    went = f"{so_many(past.passes_then, 'more pass')} and {past.minutes_then} min{ended}"
    return Drill(
        id=NAME, title=f"What if: {first.plan.part.name}", procedure=first.plan.procedure, lures=f"As it was: {went}.",
        habit="What you did here stands in no log: try it at the machine.", question="What would you have done instead?",
        plan=lambda seed: first.plan, body=lambda plan, rng: fitted(past),
    )  # fmt: skip


def moves(plan: BasePlan) -> bool:
    """Is anything moved in it that could be done otherwise?"""
    return _moves(plan.procedure)


@lru_cache(maxsize=64)
def _moves(procedure: str) -> bool:
    return bool(machine(example(procedure, 0), np.random.default_rng(0)).hides)


def fitted(past: Past) -> Body:
    """The machine behind a log, as it stood after ``past.seq`` events; the same one each time, untouched."""
    key = (past.events[-1].id, past.seq)
    if key not in _known:
        whole, then = desk.load(past.events), desk.load(past.events[: past.seq])
        spread = _spread(whole)
        tries = [_followed(whole, then, np.random.default_rng(number), spread) for number in range(MACHINES)]
        _known[key] = min(tries, key=lambda one: one[0])[1]
        while len(_known) > KEPT:
            _known.pop(next(iter(_known)), None)
    return _copied(_known[key])


_known: dict[tuple[UUID, int], Body] = {}


def _copied(body: Body) -> Body:
    return copy.deepcopy(body, {id(body.plan): body.plan})


def _followed(whole: State, then: State, rng: np.random.Generator, spread: Array) -> tuple[float, Body]:
    """How badly a machine answers as the log says, and the machine as it was then."""
    body = machine(whole.plan, rng)
    _senses(body, whole)
    missed, count, stood = 0.0, 0, None
    now = max(len(then.passes), 1)
    for one in whole.passes[: now + NEAR]:
        near = one.number == 1 or one.number > now - NEAR
        left = _left(body, whole, one) if near else np.zeros(0)
        if one.number > 1 and len(left):
            mark = body.plan.gauge.graduation_mm
            missed += float(np.minimum((left - left.mean()) ** 2, (200 * mark) ** 2).sum())
            count += len(left)
        if near:
            _brought(body, whole, one, spread)
        if one.number == now:
            stood = _copied(body)
            _keep_form(stood, whole, one)
        missed += (200 * body.plan.gauge.graduation_mm) ** 2 * _done(body, whole, one)
    if stood is None:
        stood = body
    if then.passes:
        _done(stood, then, then.passes[-1])
    return missed / max(count, 1), stood


def _done(body: Body, state: State, one: Pass) -> int:
    """Do what was done after a pass; how often this machine would not."""
    refused, records = 0, state.records_in(one.number)
    for record in records:
        try:
            body.do(record.move)
        except AssertionError:  # the needle goes the other way here, or it jams: not the machine that it was
            refused += 1
    if one.number in state.tightenings:
        body.grip(not records)
    return refused


def _senses(body: Body, state: State) -> None:
    body.hands = replace(
        body.hands, push_reads=state.push_reads or body.hands.push_reads, push_far=state.push_far or body.hands.push_far, stop_mm=0.0
    )  # fmt: skip


def _apart(body: Body, state: State, one: Pass) -> dict[str, list[tuple[float, float]]]:
    """Of each ring the places whose needle was read in a pass, and what was read less what this machine shows."""
    rings: dict[str, list[tuple[float, float]]] = {}
    for station_id, reading in one.good().items():
        station = state.station(station_id)
        if station.reads == "needle" and reading.needle_mm is not None:
            at, ring = body.spot(station)
            apart = reading.needle_mm - body.needle(complex(at), ring)
            rings.setdefault(ring, []).append((complex(at).real, apart))
    return rings


def _left(body: Body, state: State, one: Pass) -> Array:
    """What is apart (n,), each ring by itself less its mean: its zero is anywhere."""
    each = (np.array([mm for _, mm in ring]) for ring in _apart(body, state, one).values())
    return np.concatenate([np.zeros(0), *(mm - mm.mean() for mm in each)])


def _brought(body: Body, state: State, one: Pass, spread: Array) -> None:
    """Bring what is hidden to where the pass read it, as near as that can be told (Gauss-Newton, held by how machines differ)."""
    names = body.hides
    start = _numbers(body, names)
    now, mark = start.copy(), body.plan.gauge.graduation_mm / 2
    for _ in range(STEPS):
        left = _left(body, state, one)
        if not len(left):
            return
        step = 1e-3 * np.maximum(spread, 1e-9)
        slopes = np.empty((len(left), len(now)))
        for i in range(len(now)):
            moved = now.copy()
            moved[i] += step[i]
            _set(body, names, moved)
            slopes[:, i] = (left - _left(body, state, one)) / step[i]
        model = np.vstack([slopes / mark, np.diag(1 / spread)])
        wanted = np.concatenate([left / mark, (start - now) / spread])
        by = np.linalg.lstsq(model, wanted, rcond=None)[0]
        now = now + by
        _set(body, names, now)
        if (np.abs(by) < step).all():
            break
    for ring, each in _apart(body, state, one).items():
        body.shift_zero(ring, -float(np.mean([mm for _, mm in each])))


def _keep_form(body: Body, state: State, one: Pass) -> None:
    """What is left over at the spots belongs to the part, and to the places between them by degrees."""
    rings = _apart(body, state, one)
    turns = all(s.x_mm == 0.0 for s in state.stations)
    body.left_over = {
        ring: _between(each, turns) for ring, each in rings.items() if len({x for x, _ in each}) == len(each)
    }


def _between(each: Sequence[tuple[float, float]], turns: bool) -> Callable[[float], float]:
    x, mm = (np.array(v) for v in zip(*sorted(each), strict=True))
    period = 360.0 if turns else None
    return lambda at: float(np.interp(at, x, mm, period=period))


def _spread(state: State) -> Array:
    """How much each hidden number differs from machine to machine."""
    bodies = [machine(state.plan, np.random.default_rng(1000 + i)) for i in range(MACHINES)]
    each = np.array([_numbers(body, body.hides) for body in bodies])
    return np.asarray(np.maximum(each.std(axis=0) * 2, 1e-7), float)


def _numbers(body: Body, names: Sequence[str]) -> Array:
    return np.array([x for name in names for x in _flat(getattr(body, name))])


def _set(body: Body, names: Sequence[str], values: Array) -> None:
    rest = iter(values.tolist())
    for name in names:
        setattr(body, name, _like(getattr(body, name), rest))
    body.posed()


def _flat(value: Any) -> list[float]:
    """The numbers that a value is made of."""
    if isinstance(value, complex):
        return [value.real, value.imag]
    if isinstance(value, int | float):
        return [float(value)]
    if isinstance(value, dict):
        return [x for each in value.values() for x in _flat(each)]
    if isinstance(value, list | tuple):
        return [x for each in value for x in _flat(each)]
    return [x for name in value.__dataclass_fields__ for x in _flat(getattr(value, name))]


def _like(value: Any, numbers: Iterator[float]) -> Any:
    """A value of the same make of other numbers."""
    if isinstance(value, complex):
        return complex(next(numbers), next(numbers))
    if isinstance(value, int | float):
        return next(numbers)
    if isinstance(value, dict):
        return {key: _like(each, numbers) for key, each in value.items()}
    if isinstance(value, list | tuple):
        return type(value)([_like(each, numbers) for each in value])
    return type(value)(**{name: _like(getattr(value, name), numbers) for name in value.__dataclass_fields__})
