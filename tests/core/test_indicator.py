"""The check of an indicator, by hand: errors out and back, what of it goes into every band, and when it is due again."""

from __future__ import annotations

from datetime import UTC, date, datetime

import numpy as np
import pytest

from tests.support import there
from velvet_hand.core.budget import budget
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.gauge_check import GaugeCheck
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.indicator.plan import IndicatorPlan
from velvet_hand.core.procedures.indicator.sim import SimulatedIndicator, example
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.setup.state import State
from velvet_hand.core.sim.body import Hands
from velvet_hand.core.wording import plain


def checked(push: int = 1, seed: int = 0, lifts: float = 0.0, **errors: float) -> State:
    plan = example(seed)
    scale, swing, hangs = (errors.get(name, 0.0) for name in ("scale", "swing", "hangs"))
    hands = Hands(push_reads=push, reads_to=0.01)
    made = SimulatedIndicator(
        plan,
        hands,
        np.random.default_rng(1),
        scale=scale,
        swing_mm=swing,
        turn_mm=1.0,
        phase=0.0,
        hangs_mm=hangs,
        lifts_mm=lifts,
    )
    return Operator(plan, made, np.random.default_rng(1)).run().state


def figures(state: State) -> dict[str, float]:
    return {f.id: there(f.mm) for f in PROCEDURES["indicator"].solve(state).figures}


def caveats(state: State) -> set[str]:
    return {c.code for c in PROCEDURES["indicator"].solve(state).caveats}


@pytest.mark.parametrize("push", [1, -1])
def test_a_dial_that_shows_too_much_and_hangs_is_told_apart(push: int) -> None:
    found = figures(checked(push, scale=0.01, hangs=0.002))  # over 0.5 mm in ten steps
    assert found["error"] == pytest.approx(0.005 + 0.002 * 0.5, abs=0.0012)  # at 0.45 mm it comes back at 0.0065
    assert found["hysteresis"] == pytest.approx(0.002, abs=2e-5)
    assert found["near"] == pytest.approx(0.0005, abs=0.0006)


def test_range_of_the_errors_is_exact_where_nothing_scatters() -> None:
    state = checked(scale=0.01)
    assert figures(state)["error"] == pytest.approx(0.005, abs=2e-5)
    assert figures(state)["hysteresis"] == pytest.approx(0.0, abs=2e-5)
    assert "scale" in caveats(state)
    assert "hysteresis" not in caveats(state)
    hung = checked(hangs=0.003)
    assert figures(hung)["error"] == pytest.approx(0.003, abs=2e-5)
    assert "hysteresis" in caveats(hung)


def test_it_is_judged_with_what_the_steps_are_known_to_and_teaches_the_indicator() -> None:
    state = checked(scale=0.004, hangs=0.001)
    verdict = there(state.verdict)
    assert (verdict.kind, verdict.outcome) == ("shows", "holds")
    assert "standard" in {t.name for t in verdict.terms}
    told = there(desk.lesson(state).check)
    assert (told.gauge_id, told.over_mm) == (state.plan.gauge.id, 0.5)
    assert told.hysteresis_mm == pytest.approx(0.001, abs=2e-5)
    assert told.due == date(2027, 1, 5)


def test_what_it_showed_widens_every_band_from_then_on() -> None:
    gauge = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=0.8, check_due=date(2026, 3, 1))
    last = GaugeCheck(
        gauge_id="g", over_mm=0.5, error_mm=0.006, near_mm=0.002, repeat_mm=0.001, at=datetime(2026, 1, 5, tzinfo=UTC), hysteresis_mm=0.003,
        due=date(2027, 1, 5),
    )  # fmt: skip
    first = last.model_copy(update={"hysteresis_mm": 0.009, "due": date(2026, 1, 5), "near_mm": 0.01})
    known = gauge.knowing((first, last))
    assert (known.error_mm, known.lost_motion_mm, known.check_due) == (0.002, 0.003, date(2027, 1, 5))
    terms = {t.name: t.mm for t in budget(0.001, known, stretch=2, floor_mm=0.0)}
    assert terms["error"] == pytest.approx(0.002)  # a TIR is the difference of two readings
    assert terms["lost_motion"] == pytest.approx(0.003)
    assert "error" not in {t.name for t in budget(0.001, known.bare, stretch=2, floor_mm=0.0)}
    assert gauge.knowing(()) == gauge


def test_a_reading_past_the_end_teaches_nothing() -> None:
    plan = example(0)
    short = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"travel_mm": 0.45})})
    with pytest.raises(BadInput, match="does not travel"):
        desk.check_plan(short)
    made = SimulatedIndicator(
        short, Hands(), np.random.default_rng(1), scale=0, swing_mm=0, turn_mm=1, phase=0, hangs_mm=0, lifts_mm=0
    )
    person = Operator(short, made, np.random.default_rng(1))
    for _ in range(60):
        if person.state.verdict or (not person._mid_pass() and person.state.passes):
            break
        person.step()
    assert desk.lesson(person.state).check is None


def test_steps_finer_than_a_graduation_or_worse_known_than_the_limit_are_told() -> None:
    plan = example(1)  # a plunger of hundredths
    fine = IndicatorPlan.model_validate(
        {**plan.model_dump(), "part": {"name": "steps", "diameter": {"text": "0.05", "unit": "mm"}}}
    )
    with pytest.raises(BadInput, match="less than one graduation"):
        desk.check_plan(fine)
    rough = plan.model_copy(update={"known_mm": 0.02})
    words = [plain(c.text, "mm", 0.001) for c in desk.check_plan(rough)]
    assert any("more than a quarter of the limit" in w for w in words)
