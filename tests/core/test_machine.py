"""What a machine can hold, by hand: returns, flicks, play, backlash and a bar that is gripped half over."""

from __future__ import annotations

import math

import numpy as np
import pytest

from velvet_hand.core.desk import desk
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.machine.plan import MachinePlan
from velvet_hand.core.procedures.machine.sim import SimulatedMachine, example
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.readings import Station
from velvet_hand.core.setup.state import State
from velvet_hand.core.sim.body import Hands

LOW = (0.001, -0.001, 0.001, -0.001, 0.001, -0.001)
HIGH = (0.021, 0.019, 0.021, 0.019, 0.021, 0.019)
FLICKS = (0.0, 0.002, -0.002, 0.0, 0.0)


class Told(SimulatedMachine):
    """Comes back exactly to what the lists above say."""

    def read(self, spot: Station | float) -> float | str:
        """The reading of that name; the bar from its circles."""
        assert isinstance(spot, Station)
        number = int("".join(c for c in spot.id if c.isdigit()) or 1) - 1
        listed = {"low-": LOW, "high-": HIGH, "flick": FLICKS}
        found = next((values for key, values in listed.items() if spot.id.startswith(key)), None)
        return found[number] if found else super().read(spot)


def measured(read: type[SimulatedMachine] = Told) -> State:
    plan = example(1).model_copy(update={"returns": 6})
    made = read(
        plan, Hands(), np.random.default_rng(1), play=(0.006, 0.0, 0.02), returns=0.0, arm=0.0, backlash=0.02,
        spindle=0.004 + 0j, bar=0.002j,
    )  # fmt: skip
    return Operator(plan, made, np.random.default_rng(1)).run().state


def figures(state: State) -> dict[str, float]:
    return {f.id: f.mm or 0.0 for f in PROCEDURES["machine"].solve(state).figures}


def test_each_part_is_told_apart() -> None:
    found = figures(measured())
    # Deviations of 0.001 about either mean: sqrt(12 * 0.001**2 / 10); flicks: sqrt(2 * 0.002**2 / 4).
    s_return, s_arm = math.sqrt(12e-6 / 10), math.sqrt(2e-6)
    assert found["returns"] == pytest.approx(2 * s_return, abs=5e-6)
    assert found["arm"] == pytest.approx(2 * s_arm, abs=5e-6)
    dof = (s_return**2 + s_arm**2) ** 2 / (s_return**4 / 10 + s_arm**4 / 4)
    assert dof == pytest.approx(8.951, abs=0.01)
    assert found["floor"] == pytest.approx(
        2 * 2.264 * math.hypot(s_return, s_arm), rel=3e-3
    )  # t of 8.95, between those of 8 and 9 in a table
    assert found["backlash"] == pytest.approx(0.02, abs=1e-5)
    assert (found["playX"], found["playZ"]) == pytest.approx((0.006, 0.02), abs=1e-5)
    assert (found["spindle"], found["bar"]) == pytest.approx((0.008, 0.004), abs=3e-4)


def test_the_finding_is_the_machines_floor_and_its_day() -> None:
    state = measured()
    floor = desk.lesson(state).floor
    assert floor is not None
    assert 0 <= floor.floor_mm - figures(state)["floor"] < 1e-4
    assert floor.play_mm == pytest.approx({"X": 0.006, "Z": 0.02}, abs=1e-5)
    assert floor.backlash_mm == pytest.approx(0.02, abs=1e-5)
    assert state.opened_at <= floor.at <= state.changed_at


def test_nothing_is_taken_finer_than_the_dial_is_read() -> None:
    class Still(SimulatedMachine):
        """Never moves."""

    found = figures(measured(Still))
    assert found["returns"] == found["arm"] == pytest.approx(2 * example(1).gauge.u_read_mm)


def test_a_return_past_the_dial_proves_nothing_and_teaches_nothing() -> None:
    class Off(Told):
        """One return runs off."""

        def read(self, spot: Station | float) -> float | str:
            """Past the end once."""
            return "+off" if isinstance(spot, Station) and spot.id == "low-3" else super().read(spot)

    state, plain = measured(Off), measured()
    machine = PROCEDURES["machine"]
    assert machine.row(plain, plain.passes[0]).outcome == "holds"
    assert {machine.row(state, one).outcome for one in state.passes[:-1]} == {"cannot_tell"}
    assert state.verdict is None
    assert desk.lesson(state).floor is None


def test_the_axis_of_the_returns_is_one_that_is_pushed() -> None:
    plan = example(1)
    assert isinstance(plan, MachinePlan)
    with pytest.raises(Exception, match="Y is not among"):
        desk.check_plan(plan.model_copy(update={"along": "Y"}))
