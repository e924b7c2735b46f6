"""A spot with a burr or a keyway, marked bad in every pass: the rest is enough, and every needle goes where it is told."""

from __future__ import annotations

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.core.setup import events as ev

from ..support import misread, there

#: Each way of correcting, with a machine's number and the spot that is bad.
BAD = [
    ("four_jaw", 0, "s2"), ("four_jaw", 3, "s7"), ("two_planes", 4, "far5"), ("adjustable", 3, "s7"), ("faceplate", 6, "s4"),
    ("tram", 1, "sweep-3"), ("vise", 4, "s1"), ("vise", 1, "s5"), ("bed", 2, "s1"), ("edge", 3, "s3"), ("centre", 0, "s2"),
    ("vises", 4, "a2"), ("column", 5, "flange-1"),
    *(("throw", 3, f"s{n}") for n in (1, 2, 3, 5, 7)),
]  # fmt: skip


class Marks(Operator):
    """Marks that spot instead of reading it."""

    spot = ""

    def _read(self, station_id: str, closing: bool) -> None:
        if station_id != self.spot or closing:
            super()._read(station_id, closing)
        else:
            self.send(ev.SpotMarked(pass_no=self.state.next_pass_no, station_id=station_id))


@pytest.mark.parametrize(("procedure", "seed", "spot"), BAD)
def test_what_is_marked_bad_is_left_out_all_the_way(procedure: str, seed: int, spot: str) -> None:
    plan, rng = example(procedure, seed), np.random.default_rng(seed)
    body = machine(plan, rng)
    person = Marks(plan, body, rng)
    person.spot = spot
    done = person.run(max_passes=9)
    assert there(done.state.verdict).outcome == "holds"
    assert body.past_limit_mm <= 0.0


@pytest.mark.parametrize("procedure", ["clocking", "collet", "reversal", "shaft", "machine", "column"])
def test_a_reading_that_does_not_sit_with_the_others_is_told_wherever_circles_are_read(procedure: str) -> None:
    """One of twelve mistyped by 0.3 mm: left out, and nobody is left to guess."""
    rng = np.random.default_rng(1)
    twelve = {"stations_deg": tuple(30.0 * i for i in range(12)), **({"noted": "all"} if procedure == "shaft" else {})}
    plan = example(procedure, 1).model_copy(update=twelve)
    work = machine(plan, rng)
    misread(work, lambda value, number: value + 0.3 if number % 13 == 7 else value)
    person = Operator(plan, work, rng)
    while not (person.state.passes and person.state.unread(person.state.passes[0]) is None):
        assert person.step()
    solution = desk.procedure_of(plan).solution(person.state)
    told = [c for c in solution.caveats if c.code == "wild_reading"]
    assert len(told) == len(solution.wild) > 0
