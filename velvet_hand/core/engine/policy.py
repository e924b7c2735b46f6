"""When to move, and when to tighten: by the odds that the next full pass holds.

Below half of a holder's least step a move is as likely to harm as to help. It is tightened straight after a move as soon as the odds
that it then holds are worth a tightening, for the pass after it is read anyway: as a proof, when it can be one, and it corrects when it
is not. Odds are compared with the best that could be had here, never with a fixed figure.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Generic, TypeVar

import numpy as np

from ..estimate.kalman import Array, Model
from ..estimate.odds import WORTH, inside
from ..verdict import Verdict
from ..wording import Text, strong, text
from .answers import Answered

A = TypeVar("A")
#: What would hold as it is, this near to the odds after another move, is not moved any more.
AS_GOOD = 0.9
#: With odds from this on another pass at the same place is read.
LOOK_WORTH = 0.1
#: What is said when what is left is too small to move.
SMALL = "Stop here: what is left is no more than gauge and machine can tell."
#: What is said before another pass at the same place.
LOOK_AGAIN = "Nothing is left to move. It is too near the limit to tell; another pass narrows it."


@dataclass(frozen=True, slots=True)
class Next:
    """Go on to tighten (``ready``), and why where the limit is not met (``stop``); or read the same place again (``again``)."""

    ready: bool = False
    stop: Text = ()
    again: Text = ()


@dataclass(frozen=True, slots=True, eq=False)
class Odds(Generic[A]):
    """How likely the next full pass holds.

    ``noise`` is the covariance of what a pass measures, ``radius_mm`` how far off ``aim`` it may be to hold, ``tighten`` the act of
    tightening once, ``shift`` where its shift stands in the state, ``worth`` from which part of the best odds on it is tightened.
    """

    model: Model[A]
    known: Answered[A]
    noise: Array
    radius_mm: float
    aim: Array
    tighten: A
    shift: slice
    part: float = WORTH

    def after(self, acts: tuple[A, ...]) -> float:
        """After these acts and a tightening."""
        mean, cov = self.model.predict(self.known.belief, (*acts, self.tighten))
        return inside(mean - self.aim, cov + self.noise, self.radius_mm)

    def best(self) -> float:
        """After a move that lands perfectly."""
        rest = self.model.effect(self.known.belief.x, (self.tighten,)).rest
        return inside(
            np.zeros(len(self.aim)), self.known.belief.cov[self.shift, self.shift] + rest + self.noise, self.radius_mm
        )

    def another_look(self) -> bool:
        """Is another pass at the same place worth reading, because it may settle what this one left open?"""
        d = len(self.aim)
        return inside(self.known.belief.x[:d] - self.aim, self.noise, self.radius_mm) >= LOOK_WORTH

    def worth(self) -> bool:
        """Is it worth tightening straight after what was done, without a reading between?"""
        best = self.best()
        return not self.known.lost and best > 0 and self.after(self.known.acts) >= self.part * best

    def straight_on(self) -> Text:
        """Tighten without a reading between: the pass after it tells as much, and may be the proof."""
        tenths = round(10 * self.after(self.known.acts))
        how = f"about {tenths} in 10 that it holds" if tenths else "hardly that it holds yet"
        return text("Now ", strong("tighten"), f", then read: {how}, and what is left the next pass corrects.")

    def better_as_it_is(self, acts: tuple[A, ...]) -> bool:
        """Would it hold as likely without these acts as with them?"""
        return self.after(()) >= AS_GOOD * self.after(acts)


def next_of(
    chance: Odds[A], judged: Verdict, acts: tuple[A, ...], *, left: bool, tight: bool, moved: bool, straight: bool, stop: Text, small: str
) -> Next:  # fmt: skip
    """What comes after a complete pass.

    Parameters
    ----------
    acts, left
        What is still to be moved, as the estimate knows of it; is anything.
    tight, moved
        Was the pass read after the final grip; was anything moved since.
    straight
        May it be tightened straight after a move?
    stop, small
        Why nothing that is moved could mend it; what is said when what is left is too small to move.
    """
    if moved:
        go = straight and not left and chance.worth()
        return Next(go, chance.straight_on() if go else ())
    if stop:
        return Next(True, stop)
    if chance.radius_mm <= 0 and judged.value_mm <= judged.band_mm:
        return Next(True, text(small))
    if left:
        return Next(judged.outcome == "holds" and not tight and chance.better_as_it_is(acts))
    if judged.outcome == "holds":
        return Next(True)
    if tight and judged.outcome == "cannot_tell" and chance.another_look():
        return Next(again=text(LOOK_AGAIN))
    return Next(True, text(small))
