"""A dial that is short for the job: it still comes in, no aim lies past its end, and nothing is asked for twice in vain."""

from __future__ import annotations

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.errors import BadInput
from velvet_hand.core.move import Lean
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev

from ..support import as_a, there
from .at_the_mill import AtTheMill, mill

#: What part of its usual travel the indicator has left, and machines by their number.
SHORT = {
    ("two_planes", 0.15): (4, 7), ("throw", 0.35): (4, 7), ("faceplate", 0.35): (2, 6), ("adjustable", 0.15): (5, 6),
    ("tram", 0.15): (1, 4), ("vise", 0.2): (7, 6), ("bed", 0.2): (6, 7), ("edge", 0.15): (3, 4), ("centre", 0.2): (1, 4),
    ("vises", 0.2): (5, 1), ("column", 0.2): (2, 3), ("clamped", 0.2): (2, 6), ("four_jaw", 0.2): (1, 5),
}  # fmt: skip


class Watching(Operator):
    """Looks whether every aim is on the dial, and whether zero is set at one spot twice with nothing done between."""

    zeroed: str | None = None

    def _follow(self, panel: Panel) -> None:
        assert panel.primary is None or panel.primary.id != "near", "somebody has to rough it in"
        super()._follow(panel)

    def _act(self, body: ev.ClientBody) -> None:
        if isinstance(body, ev.MoveDone):
            move, self.zeroed = there(desk.complete(self.state, self._event(body)).shown), None
            assert move.aim_mm is None or abs(move.aim_mm) <= self.plan.gauge.travel_mm, move.id
        elif isinstance(body, ev.ZeroSet) and self.state.passes:
            assert body.station_id != self.zeroed
            self.zeroed = body.station_id
        super()._act(body)


def short(procedure: str, seed: int, part: float) -> BasePlan:
    plan = example(procedure, seed)
    gauge = plan.gauge.model_copy(update={"travel_mm": part * plan.gauge.travel_mm})
    return plan.model_copy(update={"gauge": gauge})


@pytest.mark.parametrize(("which", "seed"), [(which, seed) for which, seeds in SHORT.items() for seed in seeds])
def test_it_comes_in_with_a_short_dial(which: tuple[str, float], seed: int) -> None:
    procedure, part = which
    plan = short(procedure, seed, part)
    PROCEDURES[procedure].check_plan(plan)
    rng = np.random.default_rng(seed)
    done = Watching(plan, machine(plan, rng), rng).run(max_passes=10)
    assert there(done.state.verdict).outcome == "holds"


def test_a_head_goes_as_far_as_the_dial_follows() -> None:
    plan = mill("tram", stations_deg=(0.0, 90.0, 180.0, 270.0), pivot_x_mm=0.0, pivot_y_mm=260.0, quill_mm=0.0)
    hand = AtTheMill(plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"travel_mm": 0.2})}))
    hand.type({f"sweep-{n}": mm for n, mm in enumerate((0.0, 0.15, 0.0, -0.15), start=1)}, closing=True)
    move = as_a(Lean, hand.solve().moves[0])
    assert move.rezero
    assert abs(there(move.aim_mm)) == pytest.approx(0.97 * 0.2)
    along = 260 / 110
    side = 1 if there(move.needle).deg == 90 else -1
    run = there(move.aim_mm) - there(move.now_mm)
    assert there(move.asked).mm == pytest.approx(
        abs(run / (side - along))
    )  # what the head turns while the needle runs so far
    assert "as much as it shows" in hand.words()
    assert [e.type for e in there(hand.panel().primary).events] == ["move_done", "zero_set"]


def test_what_no_dial_shows_is_brought_nearer_first() -> None:
    hand = AtTheMill(mill("tram", stations_deg=(0.0, 90.0, 180.0, 270.0), pivot_x_mm=0.0, pivot_y_mm=0.0, quill_mm=0.0))
    hand.type({"sweep-1": "+off", "sweep-2": 0.0, "sweep-3": "-off", "sweep-4": 0.0})
    panel = hand.panel()
    assert "Rough it in." in hand.words()
    assert "by the head’s scale or a square" in hand.words()
    assert (there(panel.primary).id, [e.type for e in there(panel.primary).events]) == ("near", ["zero_set"])


def test_an_angle_that_runs_past_the_dial_is_refused_with_its_length() -> None:
    plan = example("vises", 10)
    gauge = plan.gauge.model_copy(update={"travel_mm": 0.4})
    with pytest.raises(BadInput, match=r"runs 0\.029 in over what is read"):
        PROCEDURES["vises"].check_plan(plan.model_copy(update={"gauge": gauge}))
