"""The frame of procedures that read one circle in every pass and correct what it shows."""

from __future__ import annotations

from abc import ABC
from typing import Literal

import numpy as np

from ..angles import apart, direction_deg, xy
from ..estimate.kalman import Array, Belief
from ..estimate.one_gain import Moved, OneGain
from ..measure.base import Measure
from ..measure.ring import RingLook
from ..plan.ring import ring
from ..readings import Pass
from ..scene import Scene
from ..setup.state import State
from ..told import Caveat, Figure, Row, Solution
from ..verdict import Verdict
from ..wording import Text, angle, degrees, length, so_many, text
from .face import Face, centers_of, face, shown_aim
from .forecast import Way
from .frame import Corrected
from .policy import Odds
from .procedure import P
from .rings import Room, judge_ring, look_ring, next_mm, out_of_round, truest_at, truest_words, with_form
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
    surface itself is out of round; its form stays where it is unless what is done takes the part out (``form_stays``). ``aims_truest``
    says whether it can be brought to where the TIR of such a surface is least.
    """

    steers_with_few = True
    ring = ""
    word = "jaw"
    mend = "moving it"
    form_stays = True
    aims_truest = False
    holder_shape: Literal["jaws", "screws", "faceplate"] = "jaws"
    holder_name = "Chuck"

    def measures(self, plan: P) -> tuple[Measure, ...]:
        """See ``Procedure``."""
        return (ring(plan, word=self.word.capitalize(), stays=self.form_stays),)

    def look(self, state: State[P], one: Pass) -> RingLook:
        """The ring that is corrected."""
        return look_ring(state, one, self.ring)

    def target(self, state: State[P]) -> complex:
        """Where the center is wanted, and judged from."""
        return 0j

    def aim(self, state: State[P], look: RingLook) -> complex:
        """Where the center is to be brought: there, or where the TIR is least."""
        limit, target = state.plan.limit, self.target(state)
        return truest_at(look, limit.kind, limit.mm) if self.aims_truest and not target else target

    def sits(self, state: State[P], look: RingLook) -> Text:
        """Where the part sits, and where it is to be brought if that is not the middle."""
        fit, aim, finest = look.fit, self.aim(state, look), state.plan.gauge.resolution_mm
        assert fit is not None
        sits = text("Part sits ", length(fit.offset_mm), " off center, toward ", *self._toward(state, look), ".")
        if abs(aim) <= finest:
            return sits
        return text(sits, " ", truest_words(abs(aim), self.toward(state, direction_deg(aim))))

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
        aim = self.aim(state, look)
        noise = look.alone.cov if look.alone else np.eye(2) * state.plan.gauge.read_variance
        room, known = Room.of(look, judged, aim), self.answers(state)

        def takes(off: Array) -> Array:
            return xy(room.takes(complex(*off)))

        return Odds(
            known.model, known.after(state), noise, next_mm(state, room), xy(aim), Moved((0.0, 0.0), 1), slice(3, 5),
            again=room.again, takes=takes if room.truest else None, hope_mm=room.hope_mm,
        )  # fmt: skip

    def bring(
        self, state: State[P], belief: Belief, ways: tuple[int, ...]
    ) -> tuple[tuple[Moved, ...], tuple[int, ...]] | None:
        """See ``Corrected``."""
        model, aim = self.answers(state).model, self.aim(state, self.look(state, state.passes[-1]))
        if not isinstance(model, OneGain) or model.dim != 2:
            return None
        asked = model.ask(belief, xy(aim) - belief.x[:2])
        small = float(np.hypot(*asked)) < state.plan.gauge.graduation_mm / 4
        return (() if small else (Moved((float(asked[0]), float(asked[1]))),)), ways

    def way(self, state: State[P]) -> Way | None:
        """See ``Procedure``: the surface's form takes its part of a limit on TIR."""
        found, look = super().way(state), self.look(state, state.passes[-1])
        if found is None or state.plan.limit.kind != "tir" or self.target(state):
            return found
        return with_form(found, look, self.aims_truest)

    def stop_for(self, state: State[P], look: RingLook, judged: Verdict) -> Text:
        """See ``Corrected``: a surface out of round."""
        aim = self.aim(state, look)
        left = (2.0 if judged.kind == "tir" else 1.0) * abs((look.center or 0j) - aim)
        return out_of_round(look, judged, left, self.mend, self.aims_truest and aim != 0)

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
        return text(f"Only {so_many(good, 'good reading')}: a circle needs three.")

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
        look = looks[current.number] if current else None
        return Face(
            look=look,
            centers=centers_of(looks),
            holder=self.holder_shape,
            name=self.holder_name,
            target=shown_aim(state, self.aim(state, look) if look else self.target(state)),
        )
