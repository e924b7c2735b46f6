"""Edges that are read at places along them: what each line says, and how sure it is.

Heights are toward values: plus is nearer to the gauge. An edge is true when its slope is the wanted one; a common
shift of all readings says nothing about that. Readings are turned into geometry by ``Sense``, in ``rings.heights``.
"""

from __future__ import annotations

from dataclasses import dataclass, field

from ..budget import budget
from ..fit.line import LineFit, fit_line
from ..readings import Pass, Station
from ..setup.state import State
from ..verdict import Term, Verdict, judge
from .rings import heights

#: Unevenness below this many reading uncertainties is no more than the gauge can tell.
CALM = 6.0


@dataclass(frozen=True, slots=True)
class Rise:
    """How much an edge rises over its length beyond what is wanted; standard uncertainty."""

    mm: float
    u_mm: float


@dataclass(frozen=True, slots=True)
class LineLook:
    """One edge in one pass. ``edge_mm`` is its length, ``target`` the slope that is wanted."""

    number: int
    x_mm: dict[str, float]
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    line: LineFit | None
    wild: tuple[str, ...]
    complete: bool
    edge_mm: float
    target: float
    rises: dict[str, float] = field(default_factory=dict)

    @property
    def fit(self) -> Rise | None:
        """The rise over the whole edge beyond the wanted one."""
        if self.line is None:
            return None
        return Rise((self.line.slope - self.target) * self.edge_mm, self.line.u_slope * self.edge_mm)

    @property
    def centre(self) -> complex | None:
        """The rise, as a vector along the edge."""
        return None if self.fit is None else complex(self.fit.mm, 0.0)


def look_line(
    state: State,
    one: Pass,
    stations: tuple[Station, ...],
    edge_mm: float,
    target: float = 0.0,
    rises: dict[str, float] | None = None,
) -> LineLook:
    """Turn the readings along an edge into a line.

    Parameters
    ----------
    rises
        What a station's surface stands out by itself (a thicker rod), taken off its reading.
    """
    ring = stations[0].ring
    key = (f"line {ring}", one.number)
    if key not in state.memo:
        mine = [s for s in state.asked(one) if s.ring == ring]
        toward, off, drift = heights(state, one, mine)
        toward = {k: v - (rises or {}).get(k, 0.0) for k, v in toward.items()}
        x = {s.id: s.x_mm for s in mine}
        ids = [s.id for s in mine if s.id in toward]
        line: LineFit | None = None
        if len(ids) >= 2 and state.sense_of(mine[0]).proved:
            u = state.plan.gauge_in(state.plan.slot(ring)).u_read_mm
            line = fit_line(tuple(x[i] for i in ids), tuple(toward[i] for i in ids), u)
        state.memo[key] = LineLook(
            number=one.number,
            x_mm=x,
            toward_mm=toward,
            off=off,
            drift_mm=drift,
            line=line,
            wild=tuple(ids[i] for i in line.left_out) if line else (),
            complete=bool(mine) and all(one.answered(s.id) for s in mine),
            edge_mm=edge_mm,
            target=target,
            rises=rises or {},
        )
    found: LineLook = state.memo[key]
    return found


def uneven_mm(state: State, look: LineLook) -> float:
    """Width of the edge's minimum zone, when it is more than readings scatter by."""
    assert look.line is not None
    return look.line.zone_mm if look.line.zone_mm > CALM * state.plan.gauge.u_read_mm else 0.0


def terms_of_line(state: State, look: LineLook, length_mm: float) -> tuple[Term, ...]:
    """What widens the band of a rise over ``length_mm``, expanded (k = 2); by similar triangles over what was read."""
    line, plan = look.line, state.plan
    assert line is not None
    stretch = length_mm / line.span_mm
    share = min(plan.gauge.u_read_mm / line.noise_mm, 1.0)
    uneven = uneven_mm(state, look)
    return budget(
        line.u_slope * length_mm, plan.gauge, stretch=stretch, floor_mm=plan.machine.floor_mm, share=share,
        scatter_mm=0.0 if uneven else None, form=("straightness", uneven / 2), play_mm=state.gap_mm or 0.0,
        drift_mm=look.drift_mm,
    )  # fmt: skip


def judge_line(
    state: State, look: LineLook, length_mm: float, shift_mm: float = 0.0, where: str = ""
) -> Verdict | None:
    """The rise over ``length_mm`` against the limit; ``shift_mm`` (over the edge) is added first."""
    if look.fit is None:
        return None
    value = abs(look.fit.mm + shift_mm) / look.edge_mm * length_mm
    plan = state.plan
    assert look.line is not None
    marks = plan.gauge.graduation_mm * length_mm / look.line.span_mm  # what one mark comes to over that length
    found = judge(plan.limit.kind, value, plan.limit.mm, terms_of_line(state, look, length_mm), marks)
    return found.model_copy(update={"where": where})
