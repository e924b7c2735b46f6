"""The frame of procedures that read one circle in every pass and correct what it shows."""

from __future__ import annotations

from abc import ABC
from typing import Literal

import numpy as np

from ..angles import apart
from ..estimate.kalman import Belief
from ..estimate.one_gain import Moved, OneGain
from ..measure.base import Measure
from ..measure.ring import RingLook
from ..plan.ring import ring
from ..readings import Pass
from ..scene import Scene
from ..setup.state import State
from ..told import Caveat, Figure, Row, Solution
from ..verdict import Verdict
from ..wording import Text, angle, degrees, text
from .face import Face, centers_of, face
from .forecast import Way
from .frame import Corrected
from .policy import Odds
from .procedure import P
from .rings import Room, judge_ring, look_ring, out_of_round, with_form
from .telling import clipped_caveat, pass_line, ring_figures


def between_words(state: State, deg: float, word: str) -> Text:
    """A direction by the jaws or screws it lies at or between; a plain angle where there are none."""
    jaws = state.plan.holder.jaws_deg
    if not word or len(jaws) < 2:
        return text(f"{degrees(deg)}")
    gaps = {jaw: apart(deg, at) for jaw, at in jaws.items()}
    near = sorted(gaps, key=lambda j: gaps[j])
    if gaps[near[0]] < 8:
        return text(f"{word} {near[0]}")
    return text(f"{word} {near[0]}, ", angle(gaps[near[0]]), f" to {near[1]}")


class OneRing(Corrected[P, RingLook], ABC):
    """What procedures of one circle share; each of them adds ``check_plan``, ``path`` and what to do (``moves``).

    ``word`` is what the numbered things of the holder are called, ``mend`` what does not help when the
    surface itself is out of round; its form stays where it is unless what is done takes the part out (``form_stays``).
    """

    steers_with_few = True
    ring = ""
    word = "jaw"
    mend = "moving it"
    form_stays = True
    holder_shape: Literal["jaws", "screws", "faceplate"] = "jaws"
    holder_name = "Chuck"

    def measures(self, plan: P) -> tuple[Measure, ...]:
        """See ``Procedure``."""
        return (ring(plan, word=self.word.capitalize(), stays=self.form_stays),)

    def look(self, state: State[P], one: Pass) -> RingLook:
        """The ring that is corrected."""
        return look_ring(state, one, self.ring)

    def target(self, state: State[P]) -> complex:
        """Where the center is wanted."""
        return 0j

    def judge(self, state: State[P], look: RingLook, shift: complex = 0j) -> Verdict | None:
        """The pass against the limit."""
        return judge_ring(state, look, shift=shift, target=self.target(state))

    def more_figures(self, state: State[P], look: RingLook) -> tuple[Figure, ...]:
        """Figures of the procedure's own."""
        return ()

    def toward(self, state: State[P], deg: float) -> Text:
        """A direction in words."""
        return between_words(state, deg, self.word)

    def odds(self, state: State[P], look: RingLook, judged: Verdict) -> Odds[Moved]:
        """See ``Corrected``."""
        target = self.target(state)
        noise = look.alone.cov if look.alone else np.eye(2) * state.plan.gauge.read_variance
        room, known, aim = Room.of(look, judged, target), self.answers(state), np.array([target.real, target.imag])
        return Odds(
            known.model, known.after(state), noise, room.next_mm(), aim, Moved((0.0, 0.0), 1), slice(3, 5),
            again=room.again, hope_mm=room.hope_mm,
        )  # fmt: skip

    def bring(
        self, state: State[P], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Moved, ...], tuple[int, ...]] | None:
        """See ``Corrected``."""
        model, target = self.answers(state).model, self.target(state)
        if not isinstance(model, OneGain) or model.dim != 2:
            return None
        asked = model.ask(belief, np.array([target.real, target.imag]) - belief.x[:2])
        small = float(np.hypot(*asked)) < state.plan.gauge.graduation_mm / 4
        return (() if small else (Moved((float(asked[0]), float(asked[1]))),)), ways

    def way(self, state: State[P]) -> Way | None:
        """See ``Procedure``: the surface's form takes its part of a limit on TIR."""
        found, look = super().way(state), self.look(state, state.passes[-1])
        if found is None or state.plan.limit.kind != "tir" or self.target(state):
            return found
        return with_form(found, look)

    def stop_for(self, state: State[P], look: RingLook, judged: Verdict) -> Text:
        """See ``Corrected``: a surface out of round."""
        left = (2.0 if judged.kind == "tir" else 1.0) * abs((look.center or 0j) - self.target(state))
        return out_of_round(look, judged, left, self.mend)

    def told_figures(self, state: State[P], look: RingLook) -> tuple[Figure, ...]:
        """See ``Corrected``."""
        return (*ring_figures(state, look, self._toward(state, look)), *self.more_figures(state, look))

    def _toward(self, state: State[P], look: RingLook) -> Text:
        return self.toward(state, look.fit.toward_deg) if look.fit else ()

    def form_caveats(self, state: State[P], look: RingLook) -> tuple[Caveat, ...]:
        """See ``Corrected``."""
        return clipped_caveat(state, look)

    def what_to_read(self, look: RingLook) -> Text:
        """See ``Corrected``."""
        if not look.complete or look.fit is not None:
            return ()
        if look.off:
            return text("The needle ran off at some spots: set zero mid-travel, or rough in nearer; then read again.")
        good = len(look.toward_mm)
        return text(f"Only {good} good reading{'s' if good != 1 else ''}: a circle needs three.")

    def line(
        self, state: State[P], one: Pass, look: RingLook, judged: Verdict | None, asked_mm: float | None,
        got_mm: float | None,
    ) -> Row:  # fmt: skip
        """See ``Corrected``."""
        return pass_line(state, one, look, self._toward(state, look), judged, asked_mm, got_mm)

    def scene(self, state: State[P], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        return face(state, solution, station_id, self.face_of(state))

    def face_of(self, state: State[P]) -> Face:
        """The chuck's face as this procedure has it."""
        looks = self.looks(state)
        current = state.open_pass
        return Face(
            look=looks[current.number] if current else None,
            centers=centers_of(looks),
            holder=self.holder_shape,
            name=self.holder_name,
            target=self.target(state),
        )
