"""What a picture is drawn from: where everything is, in mm and degrees, and nothing about looks.

Machine angles, seen from the tailstock, at the present turn of the chuck; the front end turns the
whole by ``view_turn_deg`` for the operator's view. Offsets are true; ``magnification`` says how
many times larger than life they are to be drawn.
"""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from .gauge import Surface
from .model import Model
from .wording import Text

Do = Literal["ease", "draw_in", "slacken", "tighten", "shim"]


class SceneJaw(Model):
    """A jaw or screw, what it is to do (None: nothing), in which order, and the shim under it."""

    jaw: int
    at_deg: float
    do: Do | None
    order: int | None
    label: Text
    shim_mm: float | None = None


class SceneTap(Model):
    """A blow: where it lands (machine angle), and which way the work goes."""

    at_deg: float
    label: Text


class SceneSpot(Model):
    """A station on the work."""

    station_id: str
    label: str
    at_deg: float
    state: Literal["open", "now", "read", "bad", "wild", "off"]


class SceneGauge(Model):
    """The gauge: where it touches and which station is under it; a gap is not ``signed``."""

    at_deg: float
    station_label: str
    needle_mm: float | None
    signed: bool = True


class SceneDot(Model):
    """Where the center was in a pass."""

    pass_no: int
    x_mm: float
    y_mm: float

    @classmethod
    def of(cls, z: complex, pass_no: int = 0) -> SceneDot:
        """A vector as a dot; ``pass_no`` 0 when it belongs to no pass."""
        return cls(pass_no=pass_no, x_mm=z.real, y_mm=z.imag)


class ChuckScene(Model):
    """A chuck seen on its face. ``x_mm``/``y_mm`` is the work's center off the axis, as displayed.

    With ``lean`` it is a table under a head, and the offset stands for the way the head's top leans.
    """

    kind: Literal["chuck_face"] = "chuck_face"
    holder: Literal["jaws", "screws", "faceplate"]
    seen: str
    view_turn_deg: float
    chuck_radius_mm: float
    rings_mm: tuple[float, ...]
    work_radius_mm: float
    surface: Surface
    known: bool
    x_mm: float
    y_mm: float
    magnification: float
    high_deg: float | None
    turns: bool
    limit_radius_mm: float
    jaws: tuple[SceneJaw, ...]
    spots: tuple[SceneSpot, ...]
    gauge: SceneGauge
    track: tuple[SceneDot, ...]
    tap: SceneTap | None = None
    wanted: SceneDot | None = None
    flats: bool = False
    lean: bool = False
    describe: str


class ScenePosition(Model):
    """A way to bolt or turn something on: its number, angle, predicted TIR and place in the order."""

    number: int
    at_deg: float
    tir_mm: float
    rank: int
    now: bool


class ClockScene(Model):
    """All positions round a register, best first; vectors are high spots, machine angles, true sizes."""

    kind: Literal["clock_wheel"] = "clock_wheel"
    seen: str
    view_turn_deg: float
    what: str
    positions: tuple[ScenePosition, ...]
    fixed: SceneDot | None
    turned: SceneDot | None
    fixed_word: str
    turned_word: str
    limit_mm: float
    reading: str
    describe: str


class SceneStop(Model):
    """A place along an axis: how far out, how high the axis stands there in the plane drawn."""

    label: str
    z_mm: float
    height_mm: float | None
    tir_mm: float | None
    over: bool
    state: Literal["open", "now", "read"]


class SceneLine(Model):
    """A straight line from one place along the axis to another."""

    z1_mm: float
    h1_mm: float
    z2_mm: float
    h2_mm: float


class AxisScene(Model):
    """An axis from the side, in the plane where it is worst; ``line`` is what is straight or true.

    ``toward_deg`` is where up in the picture is round the work. ``tap_z_mm`` is where a blow lands, or
    where it bends.
    """

    kind: Literal["shaft_axis"] = "shaft_axis"
    seen: str
    held: Literal["centres", "jaws", "collet", "flange"]
    length_mm: float
    stops: tuple[SceneStop, ...]
    line: SceneLine | None
    known: bool
    magnification: float
    up: Text
    mark_z_mm: float | None
    mark: Text
    limit_mm: float
    reading: str
    tail_z_mm: float | None = None
    describe: str


class DowelScene(Model):
    """A housing from the front: its bore, both dowels, which way it has to go, and how the dowels are clocked."""

    kind: Literal["dowel_view"] = "dowel_view"
    seen: str
    view_turn_deg: float
    bore_radius_mm: float
    span_mm: float
    known: bool
    x_mm: float
    y_mm: float
    magnification: float
    shift_deg: float | None
    shift_mm: float | None
    clock_deg: float | None
    dowel_mm: float | None
    limit_radius_mm: float
    spots: tuple[SceneSpot, ...]
    gauge: SceneGauge
    track: tuple[SceneDot, ...]
    describe: str


class SceneBolt(Model):
    """A hold-down bolt, along the edge: the snug one that it turns about, a loose one, or one pulled tight."""

    at_mm: float
    state: Literal["hinge", "loose", "tight"]
    label: str


class SceneBody(Model):
    """A thing on the table with an edge that is read, from ``from_mm`` on, turned by ``slope`` about ``pivot_mm``.

    It reaches ``ahead_mm`` toward the gauge from that edge and ``behind_mm`` the other way; ``shift_mm`` is
    how far its edge stands toward the gauge at the pivot.
    """

    name: str
    shape: Literal["vise", "plate", "stop"]
    from_mm: float
    length_mm: float
    ahead_mm: float
    behind_mm: float
    slope: float
    shift_mm: float
    pivot_mm: float | None
    bolts: tuple[SceneBolt, ...] = ()
    moving: bool = False


class SceneBlow(Model):
    """Light taps on a body at a place along its edge: toward the gauge (+1), or away from it (-1)."""

    at_mm: float
    toward: Literal[-1, 1]
    label: Text


class SceneHeight(Model):
    """A spot along the edge: how far it stands toward the gauge (None: not read)."""

    station_id: str
    label: str
    x_mm: float
    h_mm: float | None
    state: Literal["open", "now", "read", "bad", "wild", "off"]


class TableScene(Model):
    """A table from above, the operator at the bottom, and the edge as it was read.

    Unit vectors ``u_x``/``u_y`` along the edge and ``n_x``/``n_y`` from it toward the gauge (x right, y away);
    ``lines`` are the fitted edges, ``aims`` where they are to lie.
    """

    kind: Literal["table_top"] = "table_top"
    seen: str
    u_x: float
    u_y: float
    n_x: float
    n_y: float
    magnification: float
    bodies: tuple[SceneBody, ...]
    blow: SceneBlow | None
    gauge_mm: float
    gauge: SceneGauge
    spots: tuple[SceneHeight, ...]
    lines: tuple[SceneLine, ...]
    aims: tuple[SceneLine, ...]
    edge_word: str
    limit_mm: float
    describe: str


class SceneSpotHeight(Model):
    """A place on a plate or a bed: its height (None: not read), and whether it is the highest or lowest."""

    station_id: str
    label: str
    x_mm: float
    y_mm: float
    h_mm: float | None
    state: Literal["open", "now", "read", "bad", "wild", "off"]


class SceneShim(Model):
    """What lies or is to lie under a corner; ``mm`` 0: bare."""

    label: str
    x_mm: float
    y_mm: float
    mm: float


class HeightScene(Model):
    """Heights over a plate from above, the operator at the bottom; ``down_x``/``down_y`` the way it falls (unit, 0: level)."""

    kind: Literal["height_map"] = "height_map"
    seen: str
    width_mm: float
    depth_mm: float
    spots: tuple[SceneSpotHeight, ...]
    shims: tuple[SceneShim, ...]
    zero_word: str
    down_x: float
    down_y: float
    fall_mm: float | None
    limit_mm: float
    reading: str
    describe: str


class SceneSpread(Model):
    """Readings of one thing, as they fell: where each stands from the middle of its row, and what the row comes to (None: not yet)."""

    label: str
    at_mm: tuple[float, ...]
    figure_mm: float | None
    now: bool


class SpreadScene(Model):
    """Rows of readings on one scale, so that what scatters or gives most is seen at once."""

    kind: Literal["spread"] = "spread"
    seen: str
    rows: tuple[SceneSpread, ...]
    limit_mm: float
    reading: str
    describe: str


Scene = Annotated[
    ChuckScene | ClockScene | AxisScene | DowelScene | TableScene | HeightScene | SpreadScene,
    Field(discriminator="kind"),
]
