"""What a set-up teaches about its holder: the gain of its moves and the kick of its tightening."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from functools import partial
from typing import Any

from ..angles import rect
from ..memo import once
from ..memory import Lesson
from ..readings import Pass
from ..response import Gain, Kick
from ..setup.state import State
from ..told import Caveat
from ..wording import text
from .look import L, Look
from .telling import TAUGHT, closings

#: What was learned in another set-up counts, but not as if it had been seen just now.
REMEMBERED_SD = 0.05
#: Offset along a direction, from a look; None when the look does not tell.
Along = Callable[[State[Any], L, float], float | None]


@dataclass(frozen=True, slots=True)
class Learned:
    """What this holder has answered: gain of its moves, kick of its tightening."""

    gain: Gain
    kick_x: Kick
    kick_y: Kick

    @property
    def kick_mm(self) -> tuple[float, float]:
        """Shift to expect when everything is pulled tight."""
        return self.kick_x.mean_mm, self.kick_y.mean_mm


def lesson_of(state: State, looks: Mapping[int, L], along: Along[L], kick_repeats: bool = True) -> Lesson:
    """What a set-up taught: moves that were read again, tightenings, closing errors.

    A kick only repeats in a holder whose own angles decide it (jaws, screws).
    """
    if state.plan.gauge.measures_gap:
        return Lesson()  # a rule teaches nothing about hundredths
    numbers = sorted(looks)[-TAUGHT:]
    moves = [pair for number in numbers for pair in _answer(state, looks, along, number)]
    shifts = [_kick(state, looks, number) for number in numbers] if kick_repeats else []
    kicks = [(k.real, k.imag) for k in shifts if k is not None]
    return Lesson(moves=tuple(moves), kicks=tuple(kicks), closings=closings(state), taps=taps_of(state))


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


def start(state: State) -> Learned:
    """What the holder's memory says before anything was done in this set-up."""
    memory = state.plan.memory
    gain, kicks = Gain(), (Kick(), Kick())
    if memory.moves:
        gain = Gain(memory.gain, memory.gain_sd**2 + REMEMBERED_SD**2, memory.moves)
    if memory.kicks:
        variance = memory.kick_sd_mm**2 / memory.kicks + 0.001**2
        kicks = (Kick(memory.kick_x_mm, variance, memory.kicks), Kick(memory.kick_y_mm, variance, memory.kicks))
    return Learned(gain, *kicks)


def learn(state: State, looks: Mapping[int, L], along: Along[L], known: Learned | None = None) -> Learned:
    """Go through the passes and learn from each move and each tightening; ``known`` is what it starts from.

    What was learned up to a pass is kept for as long as nothing touches the passes up to the next one.
    """
    numbers = sorted(looks)
    so_far = next((n for n in reversed(numbers) if "learned" in state.memo.get(n, {})), 0)
    learned: Learned = state.memo[so_far]["learned"] if so_far else known or start(state)
    for number in numbers:
        if number > so_far:
            learned = once(state.memo, "learned", number, partial(_taught, state, number, looks, along, learned))
    return learned


def _taught(state: State, number: int, looks: Mapping[int, L], along: Along[L], known: Learned) -> Learned:
    """What is known after a pass: its moves, or its tightening, as the next pass shows them."""
    after = looks.get(number + 1)
    if after is None:
        return known
    gain, kick_x, kick_y = known.gain, known.kick_x, known.kick_y
    u = after.fit.u_mm if after.fit else state.plan.gauge.u_read_mm / 2**0.5
    for asked, seen in _answer(state, looks, along, number):
        gain = gain.learn(asked, seen, u)
    shift = _kick(state, looks, number)
    if shift is not None:
        kick_x, kick_y = kick_x.learn(shift.real, u), kick_y.learn(shift.imag, u)
    return Learned(gain, kick_x, kick_y)


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
    if number not in looks or number in state.tightenings or not went_wrong(state, _got(state, looks, along, number)):
        return ()
    words = f"The last move took the work the other way. Make the press test again{more}."
    return (Caveat(code="wrong_way", text=text(words)),)


def _got(state: State, looks: Mapping[int, L], along: Along[L], number: int) -> list[tuple[float, float]]:
    """``got_mm``, once for as long as nothing touches the two passes."""
    return once(state.memo, "got", number, partial(got_mm, state, number, looks, along))


def _answer(state: State, looks: Mapping[int, L], along: Along[L], number: int) -> list[tuple[float, float]]:
    """(asked, got) of a pass after which nothing but moves was done; a move that went the wrong way teaches nothing."""
    if number + 1 not in looks or number in state.tightenings or not state.records_in(number):
        return []
    pairs = _got(state, looks, along, number)
    return [] if went_wrong(state, pairs) else pairs


def _kick(state: State, looks: Mapping[int, L], number: int) -> complex | None:
    """Shift of the center after a pass after which nothing but tightening was done."""
    before, after = looks[number], looks.get(number + 1)
    if after is None or number not in state.tightenings or state.records_in(number):
        return None
    return None if before.center is None or after.center is None else after.center - before.center
