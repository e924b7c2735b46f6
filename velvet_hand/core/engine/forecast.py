"""How many passes to expect, before anything is read: the holder's own model worked in numbers, many times over.

Each world draws a holder from what is believed of its kind (or remembered of it) and an error as it is left after roughing in, then goes as
the advice does: read, move, tighten when that is worth it, look quickly when that may save a pass, read again. Nothing here is a
simulated machine; the bench holds it against those.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..estimate.form import Surface
from ..estimate.kalman import Array, Belief, Model
from ..setup.state import State
from .answers import Answered
from .policy import AS_GOOD, LOOKS, PROOF_WORTH, Odds

#: So many worlds; more passes than this are not waited for.
WORLDS, MOST, SEED = 40, 12, 7
#: Half of the worlds take no more passes than the usual one.
USUAL = 0.5
#: When none of so many first worlds is done, none is waited for any more.
HOPELESS = 8
#: Seconds that a reading, a move and a tightening take a person, about.
READING_S, MOVE_S, TIGHTEN_S = 6.0, 40.0, 60.0


@dataclass(frozen=True, slots=True)
class Way:
    """How a set-up goes: what a pass measures and costs, and what brings it in.

    ``bring`` gives the acts that bring a believed error to the aim (none: too small to move) and which way each screw went;
    ``rough_mm`` is how far off roughing in leaves it, ``quick`` how many readings a quick look has (0: none can be had),
    ``before`` how many passes come first for other things, ``finish`` how rough the surface is whose form takes its part of the limit
    (times ground; 0: none does), ``u_mm`` how unsure a pass is of that part, as a radius, and ``truest`` whether it is
    brought to where its TIR is least.
    """

    chance: Odds[Any]
    bring: Callable[[Belief, tuple[int, ...]], tuple[tuple[Any, ...], tuple[int, ...]]]
    rough_mm: float
    readings: int
    quick: int
    before: int = 0
    finish: float = 0.0
    u_mm: float = 0.0
    truest: bool = False


@dataclass(frozen=True, slots=True)
class Forecast:
    """Full passes and minutes of every world, sorted; those that were not done have ``MOST`` + 1 passes."""

    passes: tuple[int, ...]
    minutes: tuple[float, ...]

    def within(self, share: float) -> int:
        """As many passes as that share of the worlds needs at most."""
        return self.passes[min(int(share * len(self.passes)), len(self.passes) - 1)]

    @property
    def usual_minutes(self) -> float:
        """Half of the worlds take no longer."""
        return self.minutes[len(self.minutes) // 2]


#: How far off roughing in leaves it by eye and rule (mm), at most what the dial follows.
ROUGH_MM = 0.3


def rough_mm(state: State) -> float:
    """How far off it is when the indicator comes to it."""
    return min(ROUGH_MM, 0.8 * state.plan.gauge.travel_mm)


def forecast(way: Way) -> Forecast:
    """Work it in many worlds."""
    return _counted(_worlds(way))


def quicker(way: Way, than: Forecast | None) -> Forecast | None:
    """Work it in many worlds, until most of them must take as many passes as the usual set-up of the other; then it is not quicker."""
    if than is None:
        return forecast(way)
    usual, found, slow = than.within(USUAL), [], 0
    for world in _worlds(way):
        found.append(world)
        slow += world[0] >= usual
        if 2 * slow >= WORLDS:
            return None
    return _counted(found) if slow < len(found) else None


def _counted(worlds: Iterable[tuple[int, float]]) -> Forecast:
    passes, minutes = zip(*worlds, strict=True)
    return Forecast(tuple(sorted(passes)), tuple(sorted(minutes)))


def _worlds(way: Way) -> Iterator[tuple[int, float]]:
    """Passes and minutes of each world; of the first ones only, where none of them is done."""
    rng, hopeless = np.random.default_rng(SEED), True
    for number in range(WORLDS):
        passes, minutes = _world(way, rng)
        yield passes, minutes
        hopeless = hopeless and passes > MOST
        if hopeless and number + 1 == HOPELESS:
            return


def _drawn(rng: np.random.Generator, mean: Array, cov: Array) -> Array:
    """One draw; ``multivariate_normal`` takes three times as long over a covariance so small."""
    values, ways = np.linalg.eigh(cov)
    return np.asarray(mean + ways @ (np.sqrt(np.maximum(values, 0.0)) * rng.standard_normal(len(values))))


class _Holder:
    """One holder, drawn: where it is and how it truly answers."""

    def __init__(self, model: Model[Any], start: Belief, rough_mm: float, rng: np.random.Generator) -> None:
        self.model, self.rng, d = model, rng, model.dim
        x = start.x.copy()
        x[d:] = _drawn(rng, start.x[d:], start.cov[d:, d:])
        way = rng.normal(size=d)
        x[:d] = way / np.linalg.norm(way) * rough_mm * rng.uniform(0.2, 1.0)
        self.x = model.clip(x)

    def do(self, acts: tuple[Any, ...]) -> None:
        effect = self.model.effect(self.x, acts)
        d = self.model.dim
        self.x[:d] += effect.moved + _drawn(self.rng, np.zeros(d), effect.missed + effect.rest)

    def seen(self, noise: Array) -> Array:
        d = self.model.dim
        return np.asarray(self.x[:d] + _drawn(self.rng, np.zeros(d), noise))


def _world(way: Way, rng: np.random.Generator) -> tuple[int, float]:
    """Full passes, the proof among them, and minutes until it holds."""
    chance, model = way.chance, way.chance.model
    surface = Surface(way.finish, rng, way.truest) if way.finish else None
    if surface is not None:
        chance = replace(chance, radius_mm=surface.room_mm(chance.radius_mm))
    start = chance.known.belief
    true, belief = _Holder(model, start, way.rough_mm, rng), start
    acts: tuple[Any, ...] = ()
    ways: tuple[int, ...] = ()
    tight, seconds = False, way.before * (way.readings * READING_S + MOVE_S)
    for number in range(1, MOST + 1):
        seconds += way.readings * READING_S
        seen = true.seen(chance.noise)
        belief = model.update(model.aged(belief) if acts else belief, acts, seen, chance.noise)
        acts = ()
        told_mm = way.chance.radius_mm + way.u_mm * rng.standard_normal()  # what this pass has of the form
        proof = chance if surface is None else replace(chance, radius_mm=surface.room_mm(told_mm))
        if tight and proof.inside(seen - chance.aim, np.eye(model.dim) * 1e-14) > 0.5:
            return way.before + number, seconds / 60
        looked = False
        for _ in range(LOOKS + 1):
            now = replace(chance, known=Answered(belief))
            moved, ways = way.bring(belief, ways)
            likely = now.as_it_is() if tight else now.after(())
            if looked and not (moved and likely < PROOF_WORTH and now.after(moved) > likely):
                moved = ()
                if tight:
                    break  # now the full pass
            elif moved and now.better_as_it_is(moved):
                moved = ()
            true.do(moved)
            acts, seconds = (*acts, *moved), seconds + MOVE_S * len(moved)
            odds = replace(chance, known=Answered(belief, acts)).after(acts)
            if not moved and tight and odds < AS_GOOD * likely:
                break  # another pass at the same place tells more
            tight = not moved or odds >= chance.part * now.best()
            if tight:
                true.do((chance.tighten,))
                acts, seconds = (*acts, chance.tighten), seconds + TIGHTEN_S
            if not way.quick or (1 - odds) * way.readings <= way.quick:
                break
            seconds += way.quick * READING_S
            belief = model.update(model.aged(belief), acts, true.seen(2 * chance.noise), 2 * chance.noise)
            acts, looked = (), True
    return MOST + 1, seconds / 60
