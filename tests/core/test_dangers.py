"""What can hurt is said at its own step, or with its move, in every procedure."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.lathe_plans import plan_of
from velvet_hand.core.desk import desk
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, machine
from velvet_hand.core.wording import plain

ALL = list(PROCEDURES)
#: What can hurt, in which procedure, at which step (or move) it is said, and words of it.
DANGERS = [
    ("four_jaw", "make_safe", "Safety glasses"),
    ("four_jaw", "make_safe", "past the chuck’s body"),
    ("four_jaw", "make_safe", "drives, jog and feeds off"),
    ("two_planes", "make_safe", "steady or center in place before a jaw is loosened"),
    ("throw", "clear_to_run", "speed by the manual and shop rules"),
    ("packing", "clear_to_run", "speed by the manual and shop rules"),
    ("rough", "clear_to_run", "speed by the manual and shop rules"),
    ("faceplate", "clear_to_run", "counterweight bolted on"),
    ("vises", "make_safe", "Hands never between the two vises"),
    ("vise", "clear_to_run", "All nuts tight"),
    ("bed", "clear_to_run", "All nuts tight"),
    ("edge", "clear_to_run", "All nuts tight"),
    ("vises", "clear_to_run", "All nuts tight"),
    ("column", "clear_to_run", "All nuts tight"),
    ("column", "make_safe", "Nobody leans on the column until its bolts are at torque"),
    ("plate", "make_safe", "on narrow ones a plate tips"),
    ("shaft", "make_safe", "Splines and keyways cut"),
    ("dowels", "make_safe", "Splines and keyways cut"),
]


@pytest.mark.parametrize(("procedure", "step", "words"), DANGERS)
def test_what_can_hurt_is_checked_where_it_matters(procedure: str, step: str, words: str) -> None:
    plans = [plan_of(procedure, seed) for seed in range(6)]
    if procedure == "rough":
        plans = [p.model_copy(update={"part": p.part.model_copy(update={"finish": "rough"})}) for p in plans]
    if procedure == "packing":
        plans = [p.model_copy(update={"throw_mm": 1.0}) for p in plans]
    for plan in plans:
        found = next(s for s in PROCEDURES[procedure].path(plan) if s.id == step)
        assert found.hold
        assert any(words in c.text for c in found.cautions)


def test_dowel_work_has_no_bed_ways() -> None:
    for step in PROCEDURES["dowels"].path(plan_of("dowels", 0)):
        assert not any(" ways" in c.text or " bed" in c.text for c in step.cautions)


@pytest.mark.parametrize("procedure", ALL)
def test_a_move_says_what_may_hurt_while_it_is_made(procedure: str) -> None:
    rng = np.random.default_rng(2)
    plan = plan_of(procedure, 2)
    hand = Operator(plan, machine(plan, rng), rng)
    for _ in range(300):
        if hand.full_passes > 4 or not hand.step():
            break
        for move in PROCEDURES[procedure].solution(hand.state).moves:
            if move.do in ("jaws", "screws"):
                assert "Key out" in move.care
            if move.do in ("tap", "tap_round", "swing"):
                assert "never steel on a hardened face" in move.care
            if move.do == "clock" and procedure == "clocking":
                assert "Lift it again" in move.care
            panel = desk.show(hand.events, "x", hand.state).panels[0]
            said = [plain(line, "mm", 0.001) for line in panel.why]
            if panel.aim and move.care and hand.state.half is None and panel.primary and panel.primary.id == "move":
                assert any(PROCEDURES[procedure].solution(hand.state).moves[0].care in line for line in said)
