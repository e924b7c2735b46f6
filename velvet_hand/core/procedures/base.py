"""The protocol that every procedure fills. See CONTRIBUTING.md for how to add one."""

from __future__ import annotations

from typing import Literal, Protocol

from ..gauge import Carrier, Surface
from ..memory import Lesson
from ..model import Model
from ..move import Move
from ..plans import BasePlan, Plan
from ..readings import Pass, Station
from ..scene import Scene
from ..setup.state import State
from ..shop import HolderKind
from ..verdict import LimitKind, Outcome, Verdict
from ..wording import Text


class Caution(Model):
    """Something to check with one's own eyes before going on."""

    id: str
    text: str


class Step(Model):
    """A step of the path. A hold point stops until every caution is checked.

    ``far_headline`` asks for the press test of a second gauge.
    """

    id: str
    title: str
    prompt: str
    hold: bool = False
    cautions: tuple[Caution, ...] = ()
    ask: Literal["nothing", "gap"] = "nothing"
    ask_label: str = "Gap between opposite jaws now, if you want the turns of the key"
    headline: Text = ()
    far_headline: Text = ()


class Caveat(Model):
    """Something to know: at the start (``field`` says which choice), or about a pass."""

    code: str
    text: Text
    field: str = ""


class Figure(Model):
    """A figure with its standard uncertainty; without ``mm`` the note says it. ``label`` says what it is and of which kind."""

    id: str
    label: str
    mm: float | None
    u_mm: float | None = None
    note: Text = ()


class PassFigures(Model):
    """A line of the table of passes."""

    number: int
    purpose: Literal["correct", "prove"]
    tir_mm: float | None
    off_centre_mm: float | None
    toward: Text
    toward_deg: float | None
    x_mm: float | None
    y_mm: float | None
    asked_mm: float | None
    got_mm: float | None
    outcome: Outcome | None


class Solution(Model):
    """What the readings so far say.

    ``ready`` means: nothing better can be had by correcting, go on to nip up; ``stop`` says why
    when that is not because the limit is met. ``judged`` is the pass as it stands, tight or not;
    ``told`` is a finding in a sentence, when there is nothing to move.
    """

    pass_no: int
    figures: tuple[Figure, ...]
    moves: tuple[Move, ...]
    judged: Verdict | None
    ready: bool
    stop: Text
    caveats: tuple[Caveat, ...]
    wild: tuple[str, ...]
    x_mm: float | None
    y_mm: float | None
    need_reading: Text
    told: Text = ()


class Needs(Model):
    """What a procedure needs, in words for the start page."""

    holder: str
    gauge: str
    machine: str
    part: str


class Choice(Model):
    """One of the answers to a field."""

    id: str
    word: str


class FieldSpec(Model):
    """Something that the start page asks for this procedure; parsed by ``fields.read``.

    ``kind``: a length (in the shop's size unit), an angle in degrees, a whole number, a choice, a
    list of lengths or of angles, a drawer of the Shop (``shims`` or ``dowels``), a second gauge.
    ``least``/``most`` bound it, in mm or degrees; ``start`` is what stands there at first.
    """

    name: str
    label: str
    kind: Literal["length", "angle", "number", "choice", "lengths", "angles", "shims", "dowels", "gauge"]
    hint: str = ""
    start: str = ""
    choices: tuple[Choice, ...] = ()
    optional: bool = False
    least: float = 0.0
    most: float = 3000.0


class Preset(Model):
    """A set of stations to choose, by name."""

    id: str
    word: str
    hint: str
    stations_deg: tuple[float, ...]


class Asks(Model):
    """Which of the common questions the start page puts for this procedure."""

    surface: bool = True
    place: bool = True
    view: bool = True
    diameter: str = "Diameter where it is read"
    limit_kinds: tuple[LimitKind, ...] = ("tir", "off_centre")
    gauges: tuple[str, ...] = ("lever", "plunger")
    presets: tuple[Preset, ...] = ()
    schools: tuple[Choice, ...] = ()


class Procedure(Protocol):
    """One way of indicating something true. Stateless; every method is pure.

    ``measures`` means that nothing is moved or tightened: each pass may be judged as it is.
    ``fixed_surface`` and ``fixed_carrier`` are not asked, for there is only one way.
    """

    id: str
    title: str
    group: str
    needs: Needs
    holder_kinds: tuple[HolderKind, ...]
    fields: tuple[FieldSpec, ...]
    asks: Asks
    measures: bool
    fixed_surface: Surface | None
    fixed_carrier: Carrier | None
    plan_class: type[BasePlan]

    def ways(self, state: State) -> tuple[tuple[str, State], ...]:
        """The same set-up worked by each other school, by its name."""

    def check_plan(self, plan: Plan) -> tuple[Caveat, ...]:
        """Refuse what cannot work (``BadInput``) and return what is to be told at the start."""

    def path(self, plan: Plan) -> tuple[Step, ...]:
        """The steps in trade order, with cautions and hold points."""

    def stations(self, plan: Plan) -> tuple[Station, ...]:
        """The spots of one pass, in the order of reading."""

    def solve(self, state: State) -> Solution:
        """Figures, moves and judgement from the readings so far."""

    def figures(self, state: State, one: Pass) -> PassFigures:
        """The line of one pass in the table of passes."""

    def heads(self, plan: Plan) -> tuple[str, str, str]:
        """What the columns of the table of passes are called: size, second figure, toward."""

    def scene(self, state: State, solution: Solution, station_id: str) -> Scene:
        """The picture, with ``station_id`` under the gauge."""

    def lesson(self, state: State) -> Lesson:
        """What this set-up teaches about its holder."""

    def rough_in(self, state: State) -> Text:
        """What to do while roughing in, as far as it can be computed."""
