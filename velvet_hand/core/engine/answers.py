"""What a holder has answered in a set-up: the estimate carried through its passes, over whatever was done between two of them."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from typing import Generic, TypeVar

from ..estimate.kalman import Array, Belief, Model
from ..estimate.lessons import lesson, met
from ..memo import once
from ..memory import Lesson, remembered
from ..setup.state import State
from .telling import closings

A = TypeVar("A")


@dataclass(frozen=True, slots=True)
class Answered(Generic[A]):
    """After a pass: the belief at the last pass that measured, what was done since, and which way each screw went last.

    ``moves``: how many passes showed what moves got; ``lost``: something was done that nobody can say the effect of; ``wrong``: the
    last move went the other way, and taught nothing.
    """

    belief: Belief
    acts: tuple[A, ...] = ()
    ways: tuple[int, ...] = ()
    moves: int = 0
    lost: bool = False
    wrong: bool = False

    @property
    def odd(self) -> bool:
        """Did the last move that was measured do what moves never did before?"""
        return self.belief.odd


@dataclass(frozen=True, slots=True)
class Done(Generic[A]):
    """What was done after a pass, in order; None when nobody can say what it does."""

    acts: tuple[A, ...] | None
    ways: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class Answers(Generic[A]):
    """How a procedure reads its holder: the model, what a pass measured, what was done after it, and whether that went wrong.

    ``seen`` gives the error with its covariance, in the holder's own frame; ``heights``, where there is one, what a pass says beside
    the error, before it is learned from.
    """

    model: Model[A]
    seen: Callable[[int], tuple[Array, Array] | None]
    done: Callable[[int, tuple[int, ...]], Done[A]]
    wrong: Callable[[int], bool]
    heights: Callable[[Belief, int], Belief] | None = None
    name: str = "learned"

    def start(self, state: State) -> Belief:
        """What is expected before anything was read: the kind's, and what the holder taught before."""
        return self.after(state, 0).belief

    def after(self, state: State, number: int | None = None) -> Answered[A]:
        """What is known after a pass and what was done in it; None: after the last one.

        What the holder taught before is believed as long as it foresees what is read: beside it goes what follows if it answers anew.
        """
        anew, *kept = self._chains(state, len(state.passes) if number is None else number)
        return replace(anew, belief=met(kept[0].belief, anew.belief)) if kept else anew

    def _chains(self, state: State, last: int) -> tuple[Answered[A], ...]:
        """As if it answered anew, and from its memory on, where there is one."""
        so_far = next((n for n in range(last, 0, -1) if self.name in state.memo.get(n, {})), 0)
        found: tuple[Answered[A], ...] = state.memo[so_far][self.name] if so_far else self._starts(state)
        for n in range(so_far + 1, last + 1):
            found = once(state.memo, self.name, n, partial(self._next, found, n))
        return found

    def _starts(self, state: State) -> tuple[Answered[A], ...]:
        def made() -> tuple[Answered[A], ...]:
            taught = remembered(state.plan.memory, self.model.priors)
            return tuple(Answered(self.model.start(known)) for known in (({}, taught) if taught else ({},)))

        return once(state.memo, f"{self.name} start", -1, made)

    def _next(self, chains: tuple[Answered[A], ...], number: int) -> tuple[Answered[A], ...]:
        """One pass on, and what was done in it."""
        measured, done = self.seen(number), self.done(number, chains[0].ways)
        found = chains if measured is None else (self._measured(known, number, *measured) for known in chains)
        if done.acts is None:
            return tuple(replace(known, lost=True, ways=done.ways) for known in found)
        return tuple(replace(known, acts=(*known.acts, *done.acts), ways=done.ways) for known in found)

    def _measured(self, known: Answered[A], number: int, seen: Array, noise: Array) -> Answered[A]:
        belief, model = known.belief, self.model
        wrong = bool(known.acts) and self.wrong(number - 1)
        if known.acts:
            belief = model.aged(belief)
        if self.heights is not None and known.acts and not known.lost:
            belief = self.heights(belief, number)  # true whichever way the needle goes
        acts = known.acts
        if known.lost or wrong:
            belief, acts = model.lost(belief), ()
        belief = model.update(belief, acts, seen, noise)
        moved = bool(known.acts) and known.belief.updates > 0 and bool(model.effect(belief.x, known.acts).missed.any())
        taught = known.moves + (moved and not (known.lost or wrong or belief.odd))
        return Answered(belief, (), known.ways, taught, wrong=wrong)

    def lesson(self, state: State, taps: tuple[tuple[int, float], ...] = ()) -> Lesson:
        """What the set-up taught; only what was proved to hold teaches."""
        if state.verdict is None or state.verdict.outcome != "holds" or state.plan.gauge.measures_gap:
            return Lesson()
        told = self._chains(state, len(state.passes))[0]
        found = lesson(self.model, self.model.start(), told.belief)
        taught = {name: (one.value, one.variance) for name, one in found.items()}
        return Lesson(taught=taught, closings=closings(state), taps=taps)
