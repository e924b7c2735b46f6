"""From a state to the one thing to do now. The same for every procedure."""

from __future__ import annotations

from ..engine.procedure import Registered
from ..memo import once
from ..move import Move
from ..path.steps import Step
from ..setup.state import NIP_UP, PROVE, READ, SET_GAUGE, State
from ..told import Solution
from ..wording import Text, signed, strong, text
from .advice.doubting import Doubting
from .advice.proving import Proving
from .advice.setting import Setting
from .doubt import doubted
from .panel import Panel


class Panels(Setting, Doubting, Proving):
    """Makes the panels of one state."""


def current_step(procedure: Registered, state: State) -> Step | None:
    """The first step that is not behind; None when all are."""
    return next((s for s in procedure.steps(state) if s.id not in state.steps), None)


def offered_moves(procedure: Registered, state: State) -> dict[str, Move]:
    """Every move that the screen may be showing now, by id: both schools, and a half-done one."""
    found: dict[str, Move] = {}
    for other in (state, *(s for _, s in procedure.ways(state))):
        for move in procedure.solution(other).moves:
            found.setdefault(move.id, move)
    if state.half is not None:
        found[state.half.move.id] = state.half.move
    return found


def advise(procedure: Registered, state: State, solution: Solution) -> tuple[Panel, ...]:
    """The panels to choose from; the first is what is advised."""
    step = current_step(procedure, state)
    builder = Panels(procedure, state, solution)
    if state.taken_off or step is None:
        return (builder.finished(),)
    if state.half is not None:
        return (builder.half(),)
    if step.id == SET_GAUGE:
        return (builder.set_gauge(step),)
    if step.id in (READ, PROVE) and (doubt := doubted(state)):
        return (builder.doubting(doubt),)
    if step.id == READ:
        return builder.read(step)
    if step.id == NIP_UP:
        return (builder.nip_up(step),)
    if step.id == PROVE:
        return builder.prove(step)
    return (builder.plain(step),)


def panels_of(procedure: Registered, state: State, solution: Solution) -> tuple[Panel, ...]:
    """``advise``, once for a state."""
    return once(state.memo, "panels", 0, lambda: advise(procedure, state, solution))


def waits_for(procedure: Registered, state: State, panels: tuple[Panel, ...]) -> Text:
    """What the set-up waits for, in a line for the Bench."""
    if state.taken_off or current_step(procedure, state) is None:
        return panels[0].headline
    aim = panels[0].aim
    if aim and aim.aim_mm is not None:
        return text("Waits for a ", strong("move"), ", to ", signed(aim.aim_mm), f" at {aim.label}")
    if panels[0].expect is not None:
        return text(
            "Waits for a ",
            strong("move"),
            "; expect ",
            panels[0].expect.told,
            " after it",
        )
    step = current_step(procedure, state)
    assert step is not None
    if panels[0].name in ("enough", "nip_up"):
        return text("Waits to be ", strong("tightened"))
    word = {READ: "readings", PROVE: "readings" if procedure.only_reads else "the proof"}.get(
        step.id, step.title.lower()
    )
    return text("Waits for ", strong(word))
