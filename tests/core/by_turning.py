"""A person who turns the part, or runs the table along, while a live indicator is recorded, instead of reading spot by spot."""

from __future__ import annotations

from datetime import UTC, datetime

import numpy as np

from velvet_hand.core.desk.course import CourseFound, read_course, route
from velvet_hand.core.errors import NotNow
from velvet_hand.core.live.recording import Recording
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.body import Body
from velvet_hand.core.sim.winding import LATE_S, SCATTER_S, Steadiness, way_over
from velvet_hand.core.units import Typed


class Turner(Operator):
    """Does what the first panel says, and reads whole circles and edges in one go where the screen offers it."""

    def __init__(self, plan: BasePlan, chuck: Body, rng: np.random.Generator, hand: Steadiness = "usual") -> None:
        super().__init__(plan, chuck, rng)
        self.hand, self.captured = hand, list[CourseFound]()

    def _read(self, station_id: str, closing: bool) -> None:
        found = self._course()
        if found is None:
            super()._read(station_id, closing)
            return
        self.captured.append(found)
        number = self.state.next_pass_no
        for one in found.readings:
            typed = Typed(text=self.plan.gauge.typed(one.needle_mm), unit="mm")
            live = ev.Live(gauge="g", raw="captured", at=datetime(2026, 1, 5, tzinfo=UTC), u_mm=one.u_mm)
            self.send(ev.ReadingTaken(
                pass_no=number, station_id=one.station_id, typed=typed, closing=one.closing, live=live
            ))  # fmt: skip

    def _course(self) -> CourseFound | None:
        """Turned once, and once more when that does not tell enough; None where there is nothing like it, or it is no proof."""
        here = route(self.state)
        if here is None:
            return None
        try:
            first = read_course(self.state, self.recorded(), ())
        except NotNow:  # the needle ran off on the way
            return None
        if first.sure:
            return first
        again = read_course(self.state, self.recorded(), (first.captured,))
        return again if again.sure or not self.state.tight else None

    def recorded(self) -> Recording:
        """What the indicator sent meanwhile, at 50 Hz."""
        here = route(self.state)
        assert here is not None
        way = way_over(self.chuck, *here, self._rng, self.hand, 8.0)
        recording, mark = Recording(0.0), self.chuck.gauge_of(way.ring).graduation_mm
        for s in way.at_s:
            needle = self.chuck.needle(way.at(float(s)), way.ring) + float(self._rng.normal(0, 0.2 * mark))
            recording.add(float(s), round(needle / mark) * mark)
        late = self._rng.normal(LATE_S, SCATTER_S, len(way.marks_s)) if here[2] else np.zeros(len(way.marks_s))
        recording.marks_s = sorted(float(s) for s in way.marks_s + late)
        return recording
