"""Round work in an independent four-jaw chuck, on its outside or in a bore."""

from __future__ import annotations

from dataclasses import replace

from ...memory import Lesson
from ...plans import BasePlan, FourJawPlan, Plan, ThrowPlan
from ...readings import Pass, Station
from ...scene import Scene
from ...setup.state import State
from ...wording import Text
from ..base import Asks, Caveat, Choice, Needs, PassFigures, Solution, Step
from ..common import Common, presets
from ..face import Face, face
from ..learning import lesson_of
from . import path as _path
from . import plan as _plan
from . import solve as _solve
from .look import along, look_at


class FourJaw(Common):
    """The procedure's door; the work is done in the modules beside it."""

    id: str = "four_jaw"
    title: str = "Round work true in an independent four-jaw"
    needs = Needs(
        holder="An independent four-jaw chuck; the lead of its jaw screws gives the turn of the key.",
        gauge="A lever or plunger gauge with marks no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round where it is indicated; its diameter there.",
    )

    asks = Asks(
        presets=presets(),
        schools=(
            Choice(id="high_spot", word="both pairs at once"),
            Choice(id="pairs", word="pair by pair"),
        ),
    )
    plan_class: type[BasePlan] = FourJawPlan

    def ways(self, state: State) -> tuple[tuple[str, State], ...]:
        """Pairs and high spot, whichever was not chosen."""
        school = "pairs" if state.plan.school == "high_spot" else "high_spot"
        return ((school, replace(state, plan=state.plan.model_copy(update={"school": school}))),)

    def check_plan(self, plan: Plan) -> tuple[Caveat, ...]:
        """See ``Procedure``."""
        return _plan.check_plan(plan)

    def path(self, plan: Plan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return _path.path(plan)

    def stations(self, plan: Plan) -> tuple[Station, ...]:
        """See ``Procedure``."""
        return _plan.stations(plan)

    def solve(self, state: State) -> Solution:
        """See ``Procedure``."""
        return _solve.solve(state)

    def figures(self, state: State, one: Pass) -> PassFigures:
        """See ``Procedure``."""
        return _solve.pass_figures(state, one)

    def lesson(self, state: State) -> Lesson:
        """See ``Procedure``."""
        return lesson_of(state, {one.number: look_at(state, one) for one in state.passes}, along)

    def scene(self, state: State, solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        current = state.open_pass
        looks = [(p.number, look_at(state, p)) for p in state.passes]
        shown = look_at(state, current) if current else None
        flats = getattr(state.plan, "shape", "round") == "flats"
        centres = [(n, look.centre) for n, look in looks if look.centre is not None]
        target = shown.target if shown and isinstance(state.plan, ThrowPlan) else None
        return face(state, solution, station_id, Face(shown, centres, target=target, flats=flats))

    def rough_in(self, state: State) -> Text:
        """See ``Procedure``."""
        return _plan.rough_in(state)


FOUR_JAW = FourJaw()
