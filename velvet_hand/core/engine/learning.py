"""What a set-up teaches about its holder: the gain of its moves and the shift of its tightening, where one gain is all there is."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any

import numpy as np

from ..angles import rect, xy
from ..estimate.kalman import Array, Prior
from ..estimate.one_gain import Moved, OneGain
from ..memo import once
from ..move import Move
from ..readings import Pass
from ..setup.state import State
from ..told import Caveat
from ..wording import text
from .answers import Answered, Answers, Done
from .look import L, Look

#: Offset along a direction, from a look; None when the look does not tell.
Along = Callable[[State[Any], L, float], float | None]
#: A hand stops at the aim to about a quarter of a mark.
STOPS_TO = 0.25
#: Part of a move that stays, as a kind; and how far tightening shifts, about (mm).
GAIN, SHIFT_MM = Prior(0.9, 0.15, 0.01), 0.004


@dataclass(frozen=True, slots=True)
class Learned:
    """What the holder has answered, as a procedure asks for it: ``gain`` of a move, ``shift`` to expect of tightening; ``told`` when there
    is anything to go by.
    """

    known: Answered[Any]
    gain: float
    shift: complex
    told: bool

    def ask(self, need_mm: float) -> float:
        """The move to ask for so that ``need_mm`` arrives; the first move is asked plainly, as everybody expects."""
        return need_mm / self.gain if self.told else need_mm


def taps_of(state: State) -> tuple[tuple[int, float], ...]:
    """How many blows each move took, where they were counted, and how far the needle went."""
    return tuple(
        (r.taps, abs(r.move.aim_mm - r.move.now_mm) * state.sense.scale)
        for r in state.moves
        if r.taps and r.move.aim_mm is not None and r.move.now_mm is not None
    )


def per_tap_mm(state: State) -> float | None:
    """What one tap moves: from this set-up, or else from the holder's memory."""
    seen = taps_of(state)
    return sum(mm for _, mm in seen) / sum(n for n, _ in seen) if seen else state.plan.memory.per_tap_mm


def along_fit(state: State, look: Look, deg: float) -> float | None:
    """The offset along a direction, from the circle."""
    return None if look.center is None else (look.center * rect(1, -deg)).real


def got_mm(state: State, number: int, looks: Mapping[int, L], along: Along[L]) -> list[tuple[float, float]]:
    """(asked, got) for each move made in pass ``number``, from the next pass that was read."""
    before, after = looks.get(number), looks.get(number + 1)
    found = []
    for move in state.moved_in(number):
        if move.asked is None or before is None or after is None or move.rezero or not move.teaches:
            continue
        here, there = along(state, before, move.asked.deg), along(state, after, move.asked.deg)
        if here is not None and there is not None:
            found.append((move.asked.mm, there - here))
    return found


def as_moved(moves: Iterable[Move], dim: int = 2) -> tuple[Moved, ...]:
    """Moves as acts of one gain, on the first ``dim`` axes; those that nobody can say the effect of are left out."""
    ways = (rect(m.asked.mm, m.asked.deg) for m in moves if m.asked is not None)
    return tuple(Moved((way.real, way.imag)[:dim]) for way in ways)


def one_gain(state: State, looks: Mapping[int, L], dim: int, shifts: bool) -> Answers[Moved]:
    """One gain for every direction; ``shifts``: tightening shifts it by the holder's own angles."""
    model = OneGain(dim, STOPS_TO * state.plan.gauge.graduation_mm, GAIN, SHIFT_MM if shifts else SHIFT_MM / 4)
    return moved_by(state, looks, model, lambda moves: as_moved(moves, dim))


def moved_by(
    state: State, looks: Mapping[int, L], model: OneGain, acts_of: Callable[[tuple[Move, ...]], tuple[Moved, ...]]
) -> Answers[Moved]:
    """A model on a set-up's passes; ``acts_of`` are the moves as it knows them."""
    dim = model.dim

    def seen(number: int) -> tuple[Array, Array] | None:
        look = looks[number]
        if look.center is None or look.fit is None or not look.complete:
            return None
        return xy(look.center)[:dim], np.eye(dim) * look.fit.u_mm**2

    def done(number: int, ways: tuple[int, ...]) -> Done[Moved]:
        moves = state.moved_in(number)
        acts = [*acts_of(tuple(m for m in moves if m.teaches))]
        whole = len(acts) == len(moves) and not state.passes[number - 1].back
        if times := state.tightenings.count(number):
            acts.append(Moved((0.0,) * dim, times))
        return Done(tuple(acts) if whole else None)

    return Answers(model, seen, done, lambda number: went_wrong(state, _got(state, looks, along_fit, number)))


def learned(state: State, answers: Answers[Any], index: int) -> Learned:
    """What they have answered; ``index`` is where the gain stands in the state, the shift right behind it."""
    known = answers.after(state)
    x = known.belief.x
    shifts = [float(v) for v in x[index + 1 :]]
    told = bool(known.moves or state.plan.memory.taught)
    return Learned(known, float(answers.model.clip(x)[index]), complex(*shifts[:2]), told)


#: A move that got this part of what was asked, or less, went the wrong way.
WRONG_WAY = -0.3


def went_wrong(state: State, pairs: list[tuple[float, float]]) -> bool:
    """Did a move of these (asked, got) take it the other way, by more than a dial can make up?"""
    least = 4 * state.plan.gauge.graduation_mm
    return any(seen < WRONG_WAY * asked and asked > least for asked, seen in pairs)


def wrong_way_caveat(
    state: State, current: Pass, looks: Mapping[int, L], along: Along[L], more: str = ""
) -> tuple[Caveat, ...]:
    """A sign is wrong, and the next move would be worse."""
    number = current.number - 1
    if number not in looks or not went_wrong(state, _got(state, looks, along, number)):
        return ()
    if state.plan.gauge.measures_gap:
        again = "Measure again: was a gap mistyped?"
    elif state.pressed_since_move:
        again = "The needle was pressed and is right: move slowly, and watch it go to its aim."
    else:
        again = f"Make the press test again{more}."
    words = f"The last move took the part the other way. {again}"
    return (Caveat(code="wrong_way", text=text(words)),)


def _got(state: State, looks: Mapping[int, L], along: Along[L], number: int) -> list[tuple[float, float]]:
    """``got_mm``, once for as long as nothing touches the two passes."""
    return once(state.memo, "got", number, partial(got_mm, state, number, looks, along))
