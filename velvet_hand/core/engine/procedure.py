"""What every procedure is. See CONTRIBUTING.md for how to add one."""

from __future__ import annotations

from abc import ABC, abstractmethod
from typing import Any, Generic, Literal, TypeVar, get_args

from ..fields import FieldSpec, fields_of
from ..gauge import Carrier, Surface
from ..holders import Holder, HolderKind
from ..measure.base import Measure
from ..memo import once
from ..memory import Lesson
from ..path.lathe import presets
from ..path.steps import Step
from ..plan.asks import Asks, Needs
from ..plan.base import BasePlan
from ..quantity import HEADS, Kind
from ..readings import Pass, Station
from ..scene import Scene
from ..setup.state import State
from ..shop import MachineKind
from ..told import Caveat, Row, Solution
from ..verdict import SETTLES, TERM_WORDS, TermName, doubted
from ..wording import Text, text
from .forecast import Way
from .telling import closings

P = TypeVar("P", bound=BasePlan)
#: A proof by so many spots or fewer reads those between them as well, when few or when they leave it undecided.
BETWEEN_MOST = 8


class Procedure(ABC, Generic[P]):
    """One way of indicating something true. Stateless; every method is pure.

    What it ``certifies`` its record vouches for. ``only_reads`` means that nothing is moved or tightened: each pass may be judged as
    it is. Where it ``steers_with_few`` spots, a proof of a TIR reads those between them as well. ``fixed_surface`` and
    ``fixed_carrier`` are not asked, for there is only one way.
    ``rank`` is its place in the list. What is learned by no estimate says by ``usual_passes`` how many half and how many nine in ten of
    its simulated set-ups take, the proof among them (``./velvet bench passes``).
    """

    id: str
    title: str
    rank: int
    needs: Needs
    plan_class: type[P]
    machine_kinds: tuple[MachineKind, ...] = ("lathe",)
    asks: Asks = Asks(presets=presets())
    only_reads = False
    certifies: Literal["", "gauge", "machine"] = ""
    steers_with_few = False
    usual_passes: tuple[int, int] | None = None
    fixed_surface: Surface | None = None
    fixed_carrier: Carrier | None = None

    @property
    def fields(self) -> tuple[FieldSpec, ...]:
        """What the start page asks for it: the annotated fields of its plan."""
        return fields_of(self.plan_class)

    @property
    def holder_kinds(self) -> tuple[HolderKind, ...]:
        """What it can be held in: what its plan says."""
        held = self.plan_class.model_fields["holder"].annotation
        classes: tuple[type[Holder], ...] = get_args(held) or (held,)
        return tuple(c.model_fields["kind"].default for c in classes)

    def ways(self, state: State[P]) -> tuple[tuple[str, State[P]], ...]:
        """The same set-up worked by each other school, by its name."""
        return ()

    @abstractmethod
    def check_plan(self, plan: P) -> tuple[Caveat, ...]:
        """Refuse what cannot work (``BadInput``) and return what is to be told at the start."""

    def looking_between(self, plan: P) -> P:
        """The plan with a proof that reads the spots between: always where they are few, for an oval or three lobes hide from four, and
        from five nearly so; of more, where they leave it undecided.
        """
        few = len(plan.stations_deg) <= BETWEEN_MOST and not plan.flats and not plan.gauge.measures_gap
        if not (self.steers_with_few and few and plan.limit.kind in ("tir", "off_centre")):
            return plan
        return plan.model_copy(update={"between": True})

    @abstractmethod
    def path(self, plan: P) -> tuple[Step, ...]:
        """The steps in trade order, with cautions and hold points."""

    @abstractmethod
    def measures(self, plan: P) -> tuple[Measure, ...]:
        """What is read in a pass, in the order of reading."""

    def stations(self, plan: P) -> tuple[Station, ...]:
        """The spots of all its measures."""
        return tuple(s for m in self.measures(plan) for s in m.stations)

    @abstractmethod
    def solve(self, state: State[P]) -> Solution:
        """Figures, moves and judgment from the readings so far."""

    def solution(self, state: State[P]) -> Solution:
        """``solve``, once for a state."""
        return once(state.memo, "solution", 0, lambda: self._solution(state))

    def _solution(self, state: State[P]) -> Solution:
        found, one = self.solve(state), state.open_pass
        if one is not None and one.quick:
            return found.model_copy(update={"judged": None})  # it says what has changed, and proves nothing
        if one is None or (why := self.doubt(state, one)) is None:
            return found
        changes: dict[str, Any] = {"judged": doubted(found.judged, why)} if found.judged else {}
        stuck = found.judged is None and not (found.moves or found.need_reading) and state.unread(one) is None
        if why != "drift" and (found.judged or stuck):  # what was not seen is not true enough either
            told = Caveat(code="doubt", text=text(f"There is {TERM_WORDS[why]}. What settles it: {SETTLES[why]}."))
            changes |= {"ready": False, "caveats": (*found.caveats, told)}
        return found.model_copy(update=changes)

    def doubt(self, state: State[P], one: Pass) -> TermName | None:
        """What forbids that a pass proves anything: a place past the dial, a needle that did not come back."""
        doubts = [measure.doubt(state, one) for measure in state.measures.values() if measure.mine(state, one)]
        return next((why for why in doubts if why is not None), None)

    def stood_still(self, state: State[P], one: Pass) -> Measure | None:
        """What was read with a needle that showed the same at every spot, and was not seen to move since."""
        mine = (m for m in state.measures.values() if m.mine(state, one))
        return next((m for m in mine if m.doubt(state, one) == "contact"), None)

    def steps(self, state: State[P]) -> tuple[Step, ...]:
        """``path``, once for a set-up."""
        return once(state.memo, "path", -1, lambda: self.path(state.plan))

    def row(self, state: State[P], one: Pass) -> Row:
        """``figures``, once for as long as nothing touches the pass, its move or what came after."""
        return once(state.memo, "row", one.number, lambda: self._row(state, one))

    def _row(self, state: State[P], one: Pass) -> Row:
        found = self.figures(state, one)
        if one.quick:
            return found.model_copy(update={"outcome": None})
        if found.outcome == "holds" and self.doubt(state, one) is not None:
            return found.model_copy(update={"outcome": "cannot_tell"})
        return found

    def way(self, state: State[P]) -> Way | None:
        """How a set-up goes, for what to expect of it; ``state`` has read a pass that is true. None where nobody can say."""
        return None

    @abstractmethod
    def figures(self, state: State[P], one: Pass) -> Row:
        """The line of one pass in the table of passes."""

    @abstractmethod
    def scene(self, state: State[P], solution: Solution, station_id: str) -> Scene:
        """The picture, with ``station_id`` under the gauge."""

    def heads(self, plan: P) -> tuple[str, str, str]:
        """What the columns of the table of passes are called: what the limit is on, what is told with it, which way."""
        kind: Kind = plan.limit.kind
        beside = {"tir": HEADS["off_centre"], "off_centre": HEADS["tir"]}
        return HEADS[kind], beside.get(kind, ""), "Toward"

    def lesson(self, state: State[P]) -> Lesson:
        """What this set-up teaches about its holder; of what only measures, how far its spots came back."""
        return Lesson(closings=closings(state))

    def rough_in(self, state: State[P]) -> Text:
        """What to do while roughing in, as far as it can be computed."""
        return ()


#: What the registry holds: each procedure is only ever asked with a set-up of its own.
Registered = Procedure[Any]
