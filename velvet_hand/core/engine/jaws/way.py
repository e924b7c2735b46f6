"""How a four-jaw goes, for what to expect of it."""

from __future__ import annotations

from ...estimate.kalman import Belief
from ...estimate.pairs import Screwed
from ...plan.jaws import JawPlan
from ...setup.state import State
from ..answers import Answered
from ..forecast import Way, rough_mm
from ..policy import pass_readings
from ..rings import with_form
from .answers import answers, model
from .look import aims_truest, look_at
from .policy import least_mm, odds
from .solve import judge_look


def way(state: State[JawPlan]) -> Way | None:
    """Both pairs from one pass, or only the worse of them."""
    plan, one = state.plan, state.passes[-1]
    look = look_at(state, one)
    judged = judge_look(state, look)
    if judged is None or plan.gauge.measures_gap:
        return None
    start = answers(state).start(state)
    chance, least = odds(state, look, Answered(start), judged), least_mm(state)
    both = plan.school == "high_spot"

    def bring(belief: Belief, ways: tuple[int, ...]) -> tuple[tuple[Screwed, ...], tuple[int, ...]]:
        return model(state).moved(belief, chance.aim - belief.x[:2], ways, least, one=not both)

    found = Way(chance, bring, rough_mm(state), pass_readings(state), len(state.quick_spots()) if both else 0)
    return with_form(found, look, aims_truest(plan)) if plan.limit.kind == "tir" else found
