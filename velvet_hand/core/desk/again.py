"""The same set-up once more: what its plan was, as it is typed; how it was left, and how it stands now against that."""

from __future__ import annotations

import math
from collections.abc import Mapping

from ..engine.procedure import Registered
from ..fields import as_typed
from ..memo import once
from ..plan.base import BasePlan, Left
from ..readings import Pass
from ..setup.state import State
from ..wording import Text, day_word, length, signed, strong, text


def choices_of(procedure: Registered, plan: BasePlan) -> dict[str, str]:
    """The procedure's own choices as somebody would type them; a thing of the Shop by its id."""
    found = {}
    for spec in procedure.fields:
        value = getattr(plan, spec.name)
        thing = spec.kind in ("shims", "dowels", "gauge")
        found[spec.name] = ("" if value is None else value.id) if thing else as_typed(type(plan), spec.name, value)
    return found


def left_by(state: State, setup_id: str) -> Left | None:
    """How a set-up was left: what its last whole pass read, toward the indicator; None when there is none."""
    for one in reversed(state.passes):
        found = {} if one.quick else _toward(state, one)
        if found:
            return Left(setup=setup_id, at=state.changed_at, toward_mm=found)
    return None


def _toward(state: State, one: Pass) -> dict[str, float]:
    seen = [measure.seen(state, one) for measure in state.measures.values() if state.proved]
    whole = all(s.complete for s in seen if s.toward_mm)
    return {key: mm for s in seen for key, mm in s.toward_mm.items()} if whole else {}


def against(state: State) -> Text:
    """How the first pass stands against how it was left; nothing when there is no such pass, or nothing to hold it against.

    Zero was set afresh, so only differences between the spots of one ring, edge or face count: the mean of each is taken off.
    """
    return once(state.memo, "against", 1, lambda: _against(state))


def _against(state: State) -> Text:
    left = state.plan.before
    if left is None or len(state.passes) != 1:
        return ()
    off = off_by(state, _toward(state, state.passes[0]), left.toward_mm)
    if not off:
        return ()
    day = day_word(left.at)
    where, worst = max(off.items(), key=lambda pair: abs(pair[1]))
    rest = max((abs(mm) for key, mm in off.items() if key != where), default=0.0)
    if abs(worst) <= 2 * math.sqrt(2) * state.plan.gauge.u_read_mm:
        return text(f"It stands as it was left on {day}.")
    label = state.station(where).label
    return text(
        f"Since {day} ",
        strong(label),
        " reads ",
        signed(worst),
        " from where it was left, the others within ",
        length(rest),
        ".",
    )


def off_by(state: State, now: Mapping[str, float], then: Mapping[str, float]) -> dict[str, float]:
    """How far each spot is from where it was left, mm toward the indicator."""
    found: dict[str, float] = {}
    for ring in state.measures:
        mine = [s.id for s in state.stations if s.ring == ring and s.id in now and s.id in then]
        if len(mine) > 1:
            mean = sum(now[i] - then[i] for i in mine) / len(mine)
            found |= {i: now[i] - then[i] - mean for i in mine}
    return found
