"""The frame of procedures that say by themselves what a pass shows: several circles, places, positions."""

from __future__ import annotations

from abc import ABC
from collections.abc import Sequence

from ..measure.ring import RingLook
from ..readings import Pass
from ..setup.state import State
from ..told import Solution
from ..wording import Text, strong, text
from .look import Look
from .procedure import P, Procedure
from .rings import look_ring
from .telling import drift_caveat, off_caveats, wild_caveats


class Measured(Procedure[P], ABC):
    """Fills ``Procedure`` from ``solved``; looks at rings, wherever they were read last, and says what to do before one can be read."""

    def solve(self, state: State[P]) -> Solution:
        """See ``Procedure``."""
        one = state.open_pass
        if one is None:
            return Solution(pass_no=state.next_pass_no, need_reading=self.need_reading(state, None))
        return self.solved(state, one)

    def solved(self, state: State[P], one: Pass) -> Solution:
        """What this pass shows with those before it, and what follows."""
        return Solution(pass_no=one.number, need_reading=self.need_reading(state, one))

    def doubted(
        self, state: State[P], one: Pass, found: Solution, looks: Sequence[Look], at: complex | None = None
    ) -> Solution:
        """What was ``found``, with what the readings of these ``looks`` say against themselves, and what to read next; ``at`` is where it
        stands off the middle.
        """
        wild = tuple(key for look in looks for key in look.wild)
        against = (
            *off_caveats(state, tuple(looks)),
            *wild_caveats(state, wild),
            *drift_caveat(state, one),
        )
        changes = {"wild": wild, "caveats": (*against, *found.caveats)}
        place = {"x_mm": at.real, "y_mm": at.imag} if at is not None else {}
        return found.model_copy(
            update={**changes, **place, "need_reading": found.need_reading or self.need_reading(state, one)}
        )

    def newest(self, state: State[P], ring: str) -> RingLook | None:
        """The ring as it was read last, whole."""
        for one in reversed(state.passes):
            look = look_ring(state, one, ring)
            if look.complete and look.fit is not None:
                return look
        return None

    def remount(self, state: State[P], ring: str) -> Text:
        """What has to be done by hand before a ring can be read; empty for nothing."""
        return ()

    def need_reading(self, state: State[P], one: Pass | None) -> Text:
        """What to read next; on a new ring first what to do for it."""
        asked = state.asked(one)
        left = [s for s in asked if one is None or not one.answered(s.id)]
        if not left:
            return ()
        ring = left[0].ring
        first = all(one is None or not one.answered(s.id) for s in asked if s.ring == ring)
        todo = self.remount(state, ring) if first else ()
        return (*todo, *text(" Then read " if todo else "Read ", strong(left[0].label.lower()), "."))
