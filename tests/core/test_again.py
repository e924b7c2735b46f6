"""The same once more: planned as it was typed, and its first pass held against how it was left."""

from __future__ import annotations

from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest

from tests.core.bench_person import Person
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.again import choices_of, left_by, off_by
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import BasePlan, Left
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.wording import plain


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_what_is_planned_again_is_the_same_plan(procedure: str) -> None:
    for seed in range(12):
        plan = example(procedure, seed)
        things = {getattr(plan, f.name).id: getattr(plan, f.name) for f in PROCEDURES[procedure].fields
                  if f.kind in ("shims", "dowels", "gauge") and getattr(plan, f.name) is not None}  # fmt: skip
        common: dict[str, Any] = {name: getattr(plan, name) for name in BasePlan.model_fields if name != "procedure"}

        def find(kind: str, item: str, field: str, things: dict[str, Any] = things) -> Any:
            return things[item]

        again = desk.plan_for(procedure, common, choices_of(PROCEDURES[procedure], plan), find)
        asked = [f.name for f in PROCEDURES[procedure].fields]
        assert {n: getattr(again, n) for n in asked} == {n: pytest.approx(getattr(plan, n)) if isinstance(getattr(plan, n), float)
                else getattr(plan, n) for n in asked}  # fmt: skip


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_how_a_set_up_was_left_is_known_in_every_procedure(procedure: str) -> None:
    rng, plan = np.random.default_rng(3), example(procedure, 3)
    operator = Operator(plan, machine(plan, rng), rng)
    operator.run()
    left = left_by(operator.state, "x")
    assert left is not None
    assert set(left.toward_mm) <= {s.id for s in operator.state.stations}


def first_pass(*values: float, before: tuple[float, ...]) -> str:
    left = Left(
        setup="x", at=datetime(2026, 11, 24, 9, tzinfo=UTC), toward_mm={f"s{n}": v for n, v in enumerate(before, 1)}
    )
    person = Person(went="minus", before=left)  # toward the indicator is minus
    person.read_all(*values, closing=values[0])
    told = [plain(one, "mm", 0.001) for one in person.panel().why]
    return next((one for one in told if "left" in one), "nothing")


def test_a_first_pass_is_held_against_how_it_was_left() -> None:
    same = first_pass(0.3, 0.31, 0.32, 0.3, before=(-0.1, -0.11, -0.12, -0.1))  # another zero
    assert same == "It stands as it was left on 24 Nov 2026."
    off = first_pass(0.3, 0.31, 0.36, 0.3, before=(-0.1, -0.11, -0.12, -0.1))
    assert off == "Since 24 Nov 2026 Jaw 3 reads −0.030 mm from where it was left, the others within 0.010 mm."


def test_only_what_was_read_both_times_is_compared() -> None:
    person = Person()
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    state = desk.load(person.events)
    assert off_by(state, {"s1": 0.2, "s2": 0.1}, {"s1": 0.0, "s3": 0.4}) == {}
    assert off_by(state, {"s1": 0.3, "s2": 0.1}, {"s1": 0.0, "s2": 0.0}) == pytest.approx({"s1": 0.1, "s2": -0.1})
