"""The frame of procedures that read one circle in every pass and correct what it shows."""

from __future__ import annotations

from abc import ABC, abstractmethod

from ..memory import Lesson
from ..move import Move
from ..plans import Plan
from ..readings import Pass, Station
from ..scene import Scene
from ..setup.state import State
from ..verdict import Verdict
from ..wording import Text, angle, text
from . import learning
from .base import Caveat, Figure, PassFigures, Solution
from .common import (
    Common,
    apart,
    clipped_caveat,
    drift_caveat,
    empty,
    off_caveats,
    pass_line,
    ring_figures,
    turn_stations,
    wild_caveats,
    zero_caveat,
)
from .face import Face, face
from .learning import Learned
from .rings import RingLook, judge_ring, look_ring, ready


def between_words(state: State, deg: float, word: str) -> Text:
    """A direction by the jaws or screws it lies at or between; a plain angle where there are none."""
    holder = state.plan.holder
    if not word or holder.jaws < 2:
        return text(f"{deg % 360:.0f}°")
    gaps = {j: apart(deg, holder.jaw_deg(j)) for j in holder.numbers}
    near = sorted(gaps, key=lambda j: gaps[j])
    if gaps[near[0]] < 8:
        return text(f"{word} {near[0]}")
    return text(f"{word} {near[0]}, ", angle(gaps[near[0]]), f" to {near[1]}")


class OneRing(Common, ABC):
    """Fills ``Procedure`` but for ``check_plan``, ``path`` and what to do: ``moves``.

    ``word`` is what the numbered things of the holder are called, ``mend`` what does not help when the
    surface itself is out of round, ``kick_repeats`` whether tightening shifts it by the holder's angles.
    """

    ring = ""
    word = "jaw"
    mend = "moving it"
    wrong_way = ""
    kick_repeats = False
    holder_shape = "jaws"
    holder_name = "Chuck"

    def stations(self, plan: Plan) -> tuple[Station, ...]:
        """See ``Procedure``."""
        return turn_stations(plan, word=self.word.capitalize())

    def look(self, state: State, one: Pass) -> RingLook:
        """The ring that is corrected."""
        return look_ring(state, one, self.ring)

    def looks(self, state: State) -> dict[int, RingLook]:
        """The ring in every pass."""
        return {one.number: self.look(state, one) for one in state.passes}

    def learned(self, state: State) -> Learned:
        """What the holder has answered so far."""
        if ("learned", 0) not in state.memo:
            state.memo[("learned", 0)] = learning.learn(state, self.looks(state), learning.along_fit)
        found: Learned = state.memo[("learned", 0)]
        return found

    def lesson(self, state: State) -> Lesson:
        """See ``Procedure``."""
        return learning.lesson_of(state, self.looks(state), learning.along_fit, self.kick_repeats)

    def target(self, state: State) -> complex:
        """Where the centre is wanted."""
        return 0j

    @abstractmethod
    def moves(self, state: State, look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """What to do after a complete pass, the next thing first."""

    def off_dial(self, state: State, look: RingLook) -> Move | None:
        """What readings past the end of the dial allow, when what is moved can be watched all the way."""
        return None

    def judge(self, state: State, look: RingLook, shift: complex = 0j) -> Verdict | None:
        """The pass against the limit."""
        return judge_ring(state, look, shift=shift, target=self.target(state))

    def more_caveats(self, state: State, look: RingLook) -> tuple[Caveat, ...]:
        """Caveats of the procedure's own."""
        return ()

    def more_figures(self, state: State, look: RingLook) -> tuple[Figure, ...]:
        """Figures of the procedure's own."""
        return ()

    def toward(self, state: State, deg: float) -> Text:
        """A direction in words."""
        return between_words(state, deg, self.word)

    def solve(self, state: State) -> Solution:
        """See ``Procedure``."""
        current = state.open_pass
        if current is None:
            return empty(state)
        look, learned = self.look(state, current), self.learned(state)
        judged = self.judge(state, look) if look.complete else None
        kick = complex(*learned.kick_mm)
        fresh = look.complete and not current.moved
        done, stop = False, text()
        if fresh:
            done, stop = ready(
                state, look, judged, self.judge(state, look, kick), kick - self.target(state), self.mend
            )  # fmt: skip
        made = set(current.moved)
        found: tuple[Move, ...] = ()
        if look.complete and state.proved and "back" not in made:
            found = self.moves(state, look, learned)
            travel = state.plan.gauge.travel_mm
            if look.off and (look.fit is None or any(abs(m.aim_mm or 0.0) > travel for m in found)):
                beyond = self.off_dial(state, look)
                found = (beyond,) if beyond else ()
        lost = bool(look.complete and look.off and not found and not made and not done)
        toward = self.toward(state, look.fit.toward_deg) if look.fit else ()
        return Solution(
            pass_no=current.number,
            figures=(*ring_figures(state, look, toward), *self.more_figures(state, look)),
            moves=tuple(m for m in found if m.id not in made),
            judged=judged,
            ready=done,
            stop=stop,
            caveats=(
                *off_caveats(state, (look,)),
                *(zero_caveat() if lost else ()),
                *wild_caveats(state, look.wild),
                *clipped_caveat(state, look),
                *drift_caveat(state, look.drift_mm),
                *self._wrong_way(state, current),
                *self.more_caveats(state, look),
            ),
            wild=look.wild,
            x_mm=look.fit.x_mm if look.fit else None,
            y_mm=look.fit.y_mm if look.fit else None,
            need_reading=self._need_reading(look),
        )

    def _wrong_way(self, state: State, current: Pass) -> tuple[Caveat, ...]:
        """The last move took the work the other way: a sign is wrong, and the next move would be worse."""
        got = learning.answers(state, self.looks(state), learning.along_fit).get(current.number - 1, [])
        if not any(seen < -0.3 * asked and asked > 4 * state.plan.gauge.graduation_mm for asked, seen in got):
            return ()
        words = f"The last move took the work the other way. Make the press test again{self.wrong_way}."
        return (Caveat(code="wrong_way", text=text(words)),)

    def _need_reading(self, look: RingLook) -> Text:
        if not look.complete or look.fit is not None:
            return ()
        if look.off:
            return text("The needle ran off at some spots: set zero mid-travel, or rough in nearer; then read again.")
        good = len(look.toward_mm)
        return text(f"Only {good} good reading{'s' if good != 1 else ''}: a circle needs three.")

    def figures(self, state: State, one: Pass) -> PassFigures:
        """See ``Procedure``."""
        look = self.look(state, one)
        looks = self.looks(state)
        got = learning.got_mm(state, one.number, looks, learning.along_fit)
        mine = [r.move.asked_mm for r in state.moves if r.move.pass_no == one.number and r.move.asked_mm is not None]
        toward = self.toward(state, look.fit.toward_deg) if look.fit else ()
        judged = self.judge(state, look) if look.complete else None
        return pass_line(state, one, look, toward, judged, max(mine, default=None), max(got)[1] if got else None)

    def scene(self, state: State, solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        return face(state, solution, station_id, self.face_of(state))

    def face_of(self, state: State) -> Face:
        """The chuck's face as this procedure has it."""
        looks = self.looks(state)
        current = state.open_pass
        return Face(
            look=looks[current.number] if current else None,
            centres=[(n, look.centre) for n, look in looks.items() if look.centre is not None],
            holder=self.holder_shape,  # type: ignore[arg-type]
            name=self.holder_name,
            target=self.target(state),
        )
