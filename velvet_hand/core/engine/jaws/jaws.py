"""Round work in an independent four-jaw chuck, on its outside or in a bore."""

from __future__ import annotations

from typing import TypeVar

from ...fields import Choice
from ...measure.base import Measure
from ...memory import Lesson
from ...path.lathe import presets
from ...path.steps import Step
from ...plan.asks import Asks
from ...plan.jaws import JawPlan
from ...plan.ring import ring
from ...readings import Pass
from ...scene import Scene
from ...setup.state import State
from ...told import Caveat, Row, Solution
from ...wording import Text
from ..face import Face, centers_of, face, shown_aim
from ..forecast import Way
from ..procedure import Procedure
from . import path as _path
from . import plan as _plan
from . import solve as _solve
from .answers import answers
from .look import aims_truest, look_at, looks_of
from .way import way as _way

J = TypeVar("J", bound=JawPlan)


class Jaws(Procedure[J]):
    """The procedure's door; the work is done in the modules beside it."""

    steers_with_few = True
    asks = Asks(
        presets=presets(),
        schools=(
            Choice(id="high_spot", word="both pairs at once"),
            Choice(id="pairs", word="pair by pair"),
        ),
    )

    def ways(self, state: State[J]) -> tuple[tuple[str, State[J]], ...]:
        """Pairs and high spot, whichever was not chosen."""
        school = "pairs" if state.plan.school == "high_spot" else "high_spot"
        return ((school, state.with_plan(state.plan.model_copy(update={"school": school}))),)

    def check_plan(self, plan: J) -> tuple[Caveat, ...]:
        """See ``Procedure``."""
        return _plan.check_plan(plan)

    def path(self, plan: J) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return _path.path(plan)

    def measures(self, plan: J) -> tuple[Measure, ...]:
        """See ``Procedure``."""
        return (ring(plan, spots=_plan.stations(plan)),)

    def solve(self, state: State[J]) -> Solution:
        """See ``Procedure``."""
        return _solve.solve(state)

    def figures(self, state: State[J], one: Pass) -> Row:
        """See ``Procedure``."""
        return _solve.pass_figures(state, one)

    def way(self, state: State[J]) -> Way | None:
        """See ``Procedure``."""
        return _way(state)

    def lesson(self, state: State[J]) -> Lesson:
        """See ``Procedure``."""
        return answers(state).lesson(state)

    def scene(self, state: State[J], solution: Solution, station_id: str) -> Scene:
        """See ``Procedure``."""
        current = state.open_pass
        shown = look_at(state, current) if current else None
        flats = state.plan.flats
        centers = centers_of(looks_of(state))
        told = shown is not None and (state.plan.limit.kind == "throw" or aims_truest(state.plan))
        target = shown_aim(state, shown.target) if shown and told else None
        return face(state, solution, station_id, Face(shown, centers, target=target, flats=flats))

    def rough_in(self, state: State[J]) -> Text:
        """See ``Procedure``."""
        return _plan.rough_in(state)
