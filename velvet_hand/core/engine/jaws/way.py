"""How a four-jaw goes, for what to expect of it."""

from __future__ import annotations

import numpy as np

from ...estimate.kalman import Belief
from ...estimate.pairs import Screwed, reverses
from ...plan.jaws import JawPlan
from ...setup.state import State
from ..answers import Answered
from ..forecast import Way, rough_mm
from ..policy import pass_readings
from ..rings import with_form
from .answers import answers, model
from .look import look_at
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
        last = ways or (0, 0)
        asked = model(state).ask(belief, chance.aim - belief.x[:2], (last[0], last[1]))
        if not both:
            asked[int(np.abs(asked).argmin())] = 0.0
        asked = np.where(np.abs(asked) < least, 0.0, asked)
        if not asked.any():
            return (), last
        sign = np.sign(asked).astype(int)
        back = tuple(reverses(int(s), w) if s else 0.0 for s, w in zip(sign, last, strict=True))
        act = Screwed((float(asked[0]), float(asked[1])), (back[0], back[1]))
        return (act,), tuple(int(s) or w for s, w in zip(sign, last, strict=True))

    found = Way(chance, bring, rough_mm(state), pass_readings(state), len(state.quick_spots()) if both else 0)
    return with_form(found, look) if plan.limit.kind == "tir" else found
