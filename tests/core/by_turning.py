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
from velvet_hand.core.sim.winding import Steadiness, pressed, wound
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
        spots, places, turns = here
        start, ring = self.chuck.spot(spots[0])
        rng = self._rng
        if turns:
            at_s, place = wound(rng, self.hand, 360.0, 45.0)
            way = 1.0 if (spots[1].angle_deg - spots[0].angle_deg) % 360 <= 180 else -1.0
            passed = [p for p, s in zip(places[1:], spots[1:], strict=True) if s.jaw is not None]
            marks = pressed(rng, at_s, place, np.array(passed)) if spots[0].jaw is not None else []
        else:
            at_s, place = wound(rng, self.hand, places[-1], places[-1] / 6)
            back_s, back = wound(rng, self.hand, places[-1], places[-1] / 6)
            marks = [float(at_s[-1]) + 0.1]
            at_s = np.concatenate([at_s, at_s[-1] + 0.2 + back_s])
            place = np.concatenate([place, places[-1] - back])
            way = 1.0 if (complex(self.chuck.spot(spots[-1])[0]) - complex(start)).real >= 0 else -1.0
        recording, mark = Recording(0.0), self.chuck.gauge_of(ring).graduation_mm
        for s, p in zip(at_s, place, strict=True):
            needle = self.chuck.needle(complex(start) + way * float(p), ring) + float(rng.normal(0, 0.2 * mark))
            recording.add(float(s), round(needle / mark) * mark)
        recording.marks_s = marks
        return recording
