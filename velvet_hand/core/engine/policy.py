"""When to move, and when to tighten: by the odds that the next full pass holds.

Below half of a holder's least step a move is as likely to harm as to help. It is tightened straight after a move as soon as the odds
that it then holds are worth a tightening, for the pass after it is read anyway: as a proof, when it can be one, and it corrects when it
is not. Odds are compared with the best that could be had here, never with a fixed figure.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, fields, replace
from typing import Any, Generic, Self, TypeVar

import numpy as np

from ..estimate.kalman import Array, Model
from ..estimate.odds import WORTH, inside
from ..readings import Pass
from ..setup.state import State
from ..told import QuickLook
from ..verdict import Verdict
from ..wording import Text, strong, text
from .answers import Answered

A = TypeVar("A")
#: What would hold as it is, this near to the odds after another move, is not moved any more.
AS_GOOD = 0.9
#: With odds from this on another pass at the same place is read.
LOOK_WORTH = 0.1
#: After a quick look with odds below this it is corrected at once; above, the full pass is read.
PROOF_WORTH = 0.35
#: So many passes more at one place are thought of, when one alone would not settle it.
AGAIN = 3
#: So many quick looks follow a full pass; then one is read, for what no look can tell.
LOOKS = 5
#: What is said when what is left is too small to move.
SMALL = "Stop here. What is left is too small for this indicator to show."
#: What is said when nothing is left to move, and it is more than that.
HARDLY = "Stop here. Tightened again it would hardly come within the limit."
#: What is said before it is tightened once more with nothing moved.
TIGHTEN_AGAIN = "Nothing is left to move. Slack off, then tighten once more in the same way: "
#: What is said before another pass at the same place; and where something could still be moved, but is less likely to help.
LOOK_AGAIN = "Nothing is left to move. It is too near the limit to tell; another pass narrows it."
STILL = "Leave it as it is. It is too near the limit to tell; another pass narrows it."
#: What is said before both where a few passes more may show the surface to be rounder than it looks now.
TIGHTEN_ON = "Nothing is left to move, and the surface may be rounder than it looks. Slack off, then tighten once more."
LOOK_ON = "Nothing is left to move. The surface may be rounder than it looks; another pass tells."


def chance_words(odds: float) -> str:
    """How likely a full pass holds."""
    tenths = round(10 * odds)
    if not tenths:
        return "it hardly holds yet"
    return f"about {tenths} in 10 that it holds" if tenths < 10 else "it will very likely hold"


@dataclass(frozen=True, slots=True)
class Next:
    """Go on to tighten (``ready``), and why where the limit is not met (``stop``); or read the same place again (``again``). After a
    quick look ``ready`` is to tighten or to read the full pass, with these ``odds``; ``quick`` says of the next one whether it is worth
    it. With ``retighten`` it is tightened once more with nothing moved, for the reason in ``again``.
    """

    ready: bool = False
    stop: Text = ()
    again: Text = ()
    quick: QuickLook | None = None
    odds: float | None = None
    retighten: bool = False

    @property
    def told(self) -> dict[str, Any]:
        """As a solution tells it."""
        return {one.name: getattr(self, one.name) for one in fields(self)}


@dataclass(frozen=True, slots=True, eq=False)
class Odds(Generic[A]):
    """How likely the next full pass holds.

    ``noise`` is the covariance of what a pass measures, ``radius_mm`` how far off ``aim`` it may be to hold, ``tighten`` the act of
    tightening once, ``shift`` where its shift stands in the state, ``worth`` from which part of the best odds on it is tightened.
    ``again`` says the radius after so many passes more at the same place, and the covariance of how far the center still goes by them;
    ``takes`` makes an error as large as what it takes of the limit, where that is not the same in all ways; ``hope_mm`` is the radius
    that it may still turn out to be.
    """

    model: Model[A]
    known: Answered[A]
    noise: Array
    radius_mm: float
    aim: Array
    tighten: A
    shift: slice
    part: float = WORTH
    again: Callable[[int], tuple[float, Array]] | None = None
    takes: Callable[[Array], Array] | None = None
    hope_mm: Callable[[], float] | None = None

    def inside(self, mean: Array, cov: Array) -> float:
        """Chance that an error (d,) of this mean, taken from the aim, and covariance is within what holds."""
        return inside(self.takes(mean) if self.takes else mean, cov, self.radius_mm)

    def within(self, radius_mm: float) -> Self:
        """The same for another radius."""
        return replace(self, radius_mm=radius_mm)

    def looks_on(self) -> tuple[tuple[float, Array], ...]:
        """``again`` for each number of passes that somebody would still read at one place; nothing where that is not known."""
        return () if self.again is None else tuple(map(self.again, range(1, AGAIN + 1)))

    def after(self, acts: tuple[A, ...]) -> float:
        """After these acts and a tightening."""
        mean, cov = self.model.predict(self.known.belief, (*acts, self.tighten))
        return self.inside(mean - self.aim, cov + self.noise)

    def as_it_is(self) -> float:
        """With nothing done any more, read as it is."""
        d = len(self.aim)
        belief = self.known.belief
        return self.inside(belief.x[:d] - self.aim, belief.cov[:d, :d] + self.noise)

    def best(self) -> float:
        """After a move that lands perfectly."""
        rest = self.model.effect(self.known.belief.x, (self.tighten,)).rest
        return self.inside(np.zeros(len(self.aim)), self.known.belief.cov[self.shift, self.shift] + rest + self.noise)

    def looks(self) -> tuple[float, ...]:
        """That so many passes more at the same place settle what this one left open: one, two and so on."""
        off = self.known.belief.x[: len(self.aim)] - self.aim
        return tuple(self.within(radius_mm).inside(off, cov) for radius_mm, cov in self.looks_on()) or (
            self.inside(off, self.noise),
        )

    def hopeless(self) -> bool:
        """Does what nothing moves take all of the limit, however often it is read?"""
        return self.radius_mm <= 0 and all(radius_mm <= 0 for radius_mm, _ in self.looks_on())

    def worth(self) -> bool:
        """Is it worth tightening straight after what was done, without a reading between?"""
        best = self.best()
        return not self.known.lost and best > 0 and self.after(self.known.acts) >= self.part * best

    def straight_on(self) -> Text:
        """Tighten without a reading between: the pass after it tells as much, and may be the proof."""
        how = chance_words(self.after(self.known.acts)).capitalize()
        return text("Now ", strong("tighten"), f", then read. {how}; what is left the next pass corrects.")

    def better_as_it_is(self, acts: tuple[A, ...]) -> bool:
        """Would it hold as likely without these acts as with them?"""
        return self.after(()) >= AS_GOOD * self.after(acts)


def quick_next(state: State, chance: Odds[A], acts: tuple[A, ...]) -> Next:
    """What comes after a quick look: ``acts`` at once when a proof is unlikely and they make it likelier; or else to tighten, or the
    full pass where that is done.
    """
    now = chance.as_it_is() if state.tight else chance.after(())
    correct = bool(acts) and now < PROOF_WORTH and chance.after(acts) > now and not _looked_enough(state)
    return Next(ready=not correct, odds=now, quick=quick_before(state, chance, acts if correct else ()))


def _looked_enough(state: State) -> bool:
    return len(state.passes) >= LOOKS and all(one.quick for one in state.passes[-LOOKS:])


def pass_readings(state: State) -> int:
    """What a full pass reads: all spots but those that are only read when it is undecided, and the closing ones."""
    return sum(s.when != "undecided" for s in state.stations) + sum(m.closes for m in state.measures.values())


def quick_before(state: State, chance: Odds[A], acts: tuple[A, ...]) -> QuickLook | None:
    """Is a quick look worth it after what comes next: ``acts``, a tightening? None where none can be had.

    It is, when what it may save, the full pass, is more than what it costs.
    """
    spots = state.quick_spots()
    if not spots or chance.known.lost or _looked_enough(state):
        return None
    full = pass_readings(state)
    odds = chance.after((*chance.known.acts, *acts))
    return QuickLook(worth=(1 - odds) * full > len(spots), odds=odds)


def held_before(state: State, judge: Callable[[Pass], Verdict | None]) -> bool:
    """Did the full pass before this one hold too, with nothing tightened since? Then moving it did not help."""
    number = state.passes[-1].number
    one = next((p for p in reversed(state.passes[: number - 1]) if not p.quick), None)
    if one is None or any(one.number <= t < number for t in state.tightenings):
        return False
    judged = judge(one)
    return judged is not None and judged.outcome == "holds"


def next_of(
    state: State, chance: Odds[A], judged: Verdict, acts: tuple[A, ...], *, left: bool, stop: Text, small: str,
    held: bool = False,
) -> Next:  # fmt: skip
    """What comes after a complete pass or a quick look, and whether a quick look is worth it then.

    Parameters
    ----------
    acts, left
        What is still to be moved, as the estimate knows of it; is anything.
    stop, small
        Why nothing that is moved could mend it; what is said when what is left is too small to move.
    held
        Did the full pass before this one hold too? A hand that is coarser than the dial goes on to tighten then.
    """
    current = state.passes[-1]
    if current.quick and not current.moved:
        return quick_next(state, chance, acts)
    if held and left and not (state.tight or current.moved) and judged.outcome == "holds":
        return Next(True)
    quick = quick_before(state, chance, acts)

    def reach() -> float:  # looks bring a move as near as it can be brought before anything is read in full
        return chance.best() if quick is not None else chance.after(acts)

    found = _next(state.tight, bool(current.moved), chance, judged, acts, left, stop, small, reach)
    return replace(found, quick=quick)


def _next(
    tight: bool, moved: bool, chance: Odds[A], judged: Verdict, acts: tuple[A, ...], left: bool, stop: Text, small: str,
    reach: Callable[[], float],
) -> Next:  # fmt: skip
    """``next_of`` after a full pass, or after a move; read after the final grip (``tight``), or not. ``reach`` says what a pass after
    ``acts`` may come to.
    """
    if moved:
        go = not left and chance.worth()
        return Next(go, chance.straight_on() if go else ())
    if stop:
        return Next(True, stop)
    if judged.value_mm <= judged.band_mm and (chance.hopeless() or chance.best() < LOOK_WORTH):
        return Next(True, text(small))
    looks = chance.looks() if tight and judged.outcome == "cannot_tell" else ()
    again, each = max(looks, default=0.0), max((odds / passes for passes, odds in enumerate(looks, 1)), default=0.0)
    if left and again >= LOOK_WORTH and each > reach():
        return Next(again=text(STILL))
    if left:
        return Next(judged.outcome == "holds" and not tight and chance.better_as_it_is(acts))
    if judged.outcome == "holds":
        return Next(True)
    if tight:
        once_more = chance.after(())
        if max(again, once_more) >= LOOK_WORTH:
            return _on(again, once_more, text(LOOK_AGAIN), text(TIGHTEN_AGAIN, f"{chance_words(once_more)}."))
        hoped = chance.within(chance.hope_mm()) if chance.hope_mm else None
        if hoped is not None and max(again := hoped.as_it_is(), once_more := hoped.after(())) >= LOOK_WORTH:
            return _on(again, once_more, text(LOOK_ON), text(TIGHTEN_ON))
    return Next(True, text(HARDLY if tight and judged.value_mm > judged.band_mm else small))


def _on(again: float, once_more: float, look: Text, tighten: Text) -> Next:
    """Read the same place again, or tighten once more before: what is likelier to hold."""
    return Next(again=look) if again >= once_more else Next(again=tighten, retighten=True)
