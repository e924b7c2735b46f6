"""The frame of procedures that read one thing in every pass (a circle, a line) and correct what it shows."""

from __future__ import annotations

from abc import abstractmethod
from dataclasses import replace
from functools import partial
from typing import Any, Generic

from ..estimate.kalman import Belief
from ..measure.base import full_before
from ..memo import once
from ..memory import Lesson
from ..move import Move
from ..readings import Pass
from ..setup.state import State
from ..told import Caveat, Figure, Row, Solution
from ..verdict import Verdict
from ..wording import Text
from . import learning
from .answers import Answered, Answers
from .beyond import one_zero, zero_first
from .forecast import Way, rough_mm
from .learning import Learned
from .look import L, Looks
from .policy import SMALL, Next, Odds, held_before, next_of, pass_readings
from .procedure import P, Procedure
from .telling import drift_caveat, odd_caveat, off_caveats, wild_caveats, zero_caveat


class Corrected(Procedure[P], Generic[P, L]):
    """Fills ``Procedure`` from a look at each pass: learn, judge, move, and stop when it is enough.

    ``kick_repeats`` says whether tightening shifts it by the holder's own angles, ``dim`` how many ways it can be off, ``near_by`` how
    it is brought nearer where no dial follows.
    """

    near_by = "by rule"
    wrong_way = ""
    kick_repeats = False
    dim = 2

    @abstractmethod
    def look(self, state: State[P], one: Pass) -> L:
        """What is corrected, as this pass shows it."""

    def looks(self, state: State[P]) -> Looks[L]:
        """The look of every pass."""
        return Looks(state.passes, partial(self.look, state))

    def learned(self, state: State[P]) -> Learned:
        """What the holder has answered so far."""
        return once(state.memo, "learned", 0, lambda: learning.learned(state, self.answers(state), self.dim))

    def answers(self, state: State[P]) -> Answers[Any]:
        """How the holder's answers are estimated."""
        return learning.one_gain(state, self.looks(state), self.dim, self.kick_repeats)

    def lesson(self, state: State[P]) -> Lesson:
        """See ``Procedure``. A shift that does not repeat is no lesson."""
        found = self.answers(state).lesson(state, learning.taps_of(state))
        kept = {name: one for name, one in found.taught.items() if self.kick_repeats or not name.startswith("shift")}
        return found.model_copy(update={"taught": kept})

    @abstractmethod
    def moves(self, state: State[P], look: L, learned: Learned) -> tuple[Move, ...]:
        """What to do after a complete pass, the next thing first."""

    @abstractmethod
    def judge(self, state: State[P], look: L, shift: complex = 0j) -> Verdict | None:
        """The pass against the limit, shifted by ``shift`` (a forecast)."""

    small_words = SMALL

    def odds(self, state: State[P], look: L, judged: Verdict) -> Odds[Any] | None:
        """How likely the next full pass holds; None where nobody can say."""
        return None

    def bring(
        self, state: State[P], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Any, ...], tuple[int, ...]] | None:
        """What brings a believed error in (see ``Way``); None where nobody can say."""
        return None

    def way(self, state: State[P]) -> Way | None:
        """See ``Procedure``."""
        one = state.passes[-1]
        look = self.look(state, one)
        judged = self.judge(state, look)
        chance = self.odds(state, look, judged) if judged is not None else None
        start = self.answers(state).start(state)
        if chance is None or self.bring(state, start, ()) is None:
            return None
        return Way(
            replace(chance, known=Answered(start)), lambda belief, ways: self.bring(state, belief, ways) or ((), ways),
            rough_mm(state), pass_readings(state), len(state.quick_spots()),
        )  # fmt: skip

    def acts_of(self, state: State[P], moves: tuple[Move, ...]) -> tuple[Any, ...]:
        """Moves as what the estimate knows of them."""
        return learning.as_moved(moves, self.dim)

    def stop_for(self, state: State[P], look: L, judged: Verdict) -> Text:
        """Why nothing that is moved could mend it."""
        return ()

    def then(self, state: State[P], look: L, judged: Verdict | None, to_make: tuple[Move, ...]) -> Next:
        """What comes after a complete pass: move, tighten, or stop."""
        current, known = state.passes[-1], self.answers(state).after(state)
        if judged is None or known.lost or current.back or not state.proved or look.fit is None:
            return Next(ready=current.quick and state.tight)
        chance = self.odds(state, self.look(state, full_before(state, current)), judged)
        if chance is None:
            return Next()
        return next_of(
            state, chance, judged, self.acts_of(state, to_make), left=bool(to_make),
            stop=self.stop_for(state, look, judged), small=self.small_words,
            held=held_before(state, lambda one: self.judge(state, self.look(state, one))),
        )  # fmt: skip

    @abstractmethod
    def told_figures(self, state: State[P], look: L) -> tuple[Figure, ...]:
        """The figures of a pass."""

    @abstractmethod
    def toward(self, state: State[P], deg: float) -> Text:
        """A direction in words."""

    @abstractmethod
    def what_to_read(self, look: L) -> Text:
        """What to read when a complete pass gives nothing."""

    def off_dial(self, state: State[P], look: L) -> Move | None:
        """What readings past the end of the dial allow, when what is moved can be watched all the way."""
        return None

    def form_caveats(self, state: State[P], look: L) -> tuple[Caveat, ...]:
        """What the readings say against themselves."""
        return ()

    def more_caveats(self, state: State[P], look: L) -> tuple[Caveat, ...]:
        """Caveats of the procedure's own."""
        return ()

    def told(self, state: State[P], look: L) -> Text:
        """A finding in a sentence, when there is nothing to move."""
        return ()

    def reaches(self, state: State[P], look: L, found: tuple[Move, ...]) -> bool:
        """Can the dial show every aim, with what is off it?"""
        travel = state.plan.gauge.travel_mm
        return not (look.off and (look.fit is None or any(abs(m.aim_mm or 0.0) > travel for m in found)))

    def solve(self, state: State[P]) -> Solution:
        """See ``Procedure``."""
        current = state.open_pass
        if current is None:
            return Solution(pass_no=state.next_pass_no)
        look, learned = self.look(state, current), self.learned(state)
        full = self.look(state, full_before(state, current))  # what a full pass can prove, it says by itself
        judged = self.judge(state, full) if full.complete else None
        made = set(current.moved)
        found: tuple[Move, ...] = ()
        if look.complete and state.proved and not current.back:
            found = self.moves(state, look, learned)
            if not self.reaches(state, look, found):
                beyond = self.off_dial(state, look)
                found = (beyond,) if beyond else ()
        short = zero_first(state, current, found)
        found = () if short else one_zero(found)
        to_make = tuple(m for m in found if m.id not in made)
        then = Next(ready=current.quick and state.tight)
        if look.complete and not look.off and not short:
            then = self.then(state, look, judged, to_make)
        lost = bool(look.complete and (look.off or short) and not found and not made)
        center = look.center
        return Solution(
            pass_no=current.number,
            figures=self.told_figures(state, look),
            moves=to_make,
            judged=judged,
            **then.told,
            caveats=(
                *off_caveats(state, (look,)),
                *(zero_caveat(state, self.near_by) if lost else ()),
                *wild_caveats(state, look.wild),
                *self.form_caveats(state, look),
                *drift_caveat(state, current),
                *learning.wrong_way_caveat(state, current, self.looks(state), learning.along_fit, self.wrong_way),
                *odd_caveat(learned.known.odd and not current.moved),
                *self.more_caveats(state, look),
            ),
            wild=look.wild,
            x_mm=center.real if center is not None else None,
            y_mm=center.imag if center is not None else None,
            need_reading=self.what_to_read(look),
            told=self.told(state, look),
        )

    def figures(self, state: State[P], one: Pass) -> Row:
        """See ``Procedure``."""
        look = self.look(state, one)
        got = learning.got_mm(state, one.number, self.looks(state), learning.along_fit)
        mine = [m.asked.mm for m in state.moved_in(one.number) if m.asked]
        judged = self.judge(state, look) if look.complete else None
        return self.line(state, one, look, judged, max(mine, default=None), max(got)[1] if got else None)

    @abstractmethod
    def line(
        self, state: State[P], one: Pass, look: L, judged: Verdict | None, asked_mm: float | None, got_mm: float | None
    ) -> Row:
        """The line of a pass in the table of passes."""
