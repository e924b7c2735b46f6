"""The hand at the simulated machine: it goes on past a mark only once that has been counted, however late that is."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.by_turning import Turner
from velvet_hand.core.desk.course import CourseFound, route
from velvet_hand.core.live.recording import Recording
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.sim.winding import way_over
from velvet_hand.instruments.winding import BEGINS_S, Winding


class LateServer(Turner):
    """Turns as the simulated hand does, at a server that counts every mark late; what it is told is held against its machine."""

    late_s = 0.0

    def recorded(self) -> Recording:
        here = route(self.state)
        assert here is not None
        way = way_over(self.chuck, *here, self._rng, "usual", 4.0)
        hand, sent, asked_s, now_s = Winding(BEGINS_S, way, list(way.marks_s)), Recording(0.0), 0.0, 0.0
        while now_s < hand.began_s + way.at_s[-1]:
            sent.add(now_s, round(self.chuck.needle(hand.place_at(now_s), way.ring), 4))
            asked_s = asked_s or (now_s if hand.is_due(now_s) else 0.0)
            if asked_s and now_s >= asked_s + self.late_s:
                sent.mark(now_s)
                hand.counted(now_s)
                asked_s = 0.0
            now_s += 0.02
        assert len(sent.marks_s) == len(way.marks_s)
        return sent

    def _course(self) -> CourseFound | None:
        found = super()._course()
        for one in found.readings if found else ():
            at, ring = self.chuck.spot(self.state.station(one.station_id))
            assert abs(one.needle_mm - self.chuck.needle(at, ring)) < max(4 * one.u_mm, 0.005)
        return found


@pytest.mark.parametrize("late_s", [0.02, 0.8])
@pytest.mark.parametrize("name", ["four_jaw", "vise"])
@pytest.mark.parametrize("seed", range(3))
def test_marks_that_are_counted_late_still_say_where_it_was(name: str, late_s: float, seed: int) -> None:
    plan = example(name, seed)
    person = LateServer(plan, machine(plan, np.random.default_rng(seed)), np.random.default_rng(seed + 1))
    person.late_s = late_s
    out = person.run()
    assert person.captured
    assert out.state.verdict is not None
    assert out.state.verdict.outcome == "holds"
