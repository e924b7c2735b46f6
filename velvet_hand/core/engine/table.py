"""The table from above, drawn from the same state and the same move that the sentence is made from."""

from __future__ import annotations

from ..fit.line import LineFit
from ..measure.edge import LineLook
from ..move import Move, Tap
from ..plan.edge import EdgeBase
from ..readings import Pass, Station
from ..scene import SceneBlow, SceneBody, SceneGauge, SceneHeight, SceneLine, TableScene
from ..setup.state import State
from ..told import Solution
from ..wording import Text, plain, text
from .face import shown_move

#: The steepest edge is drawn with about this slope.
SHOWN_SLOPE = 0.075
STEPS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000)


def slant_factor(slopes: list[float], shifts: list[float], edge_mm: float) -> float:
    """A round factor at which the slant is plainly seen, and stays in the picture."""
    steep = max([abs(s) for s in slopes] + [abs(h) / edge_mm for h in shifts] + [2e-6])
    return float(max((s for s in STEPS if s * steep <= SHOWN_SLOPE), default=1))


def spot_state(state: State, solution: Solution, one: Pass | None, station: Station, now: str) -> str:
    """How a spot looks: the one under the gauge, read, bad, wild, off, or open."""
    if station.id == now:
        return "now"
    if one is None or not one.answered(station.id):
        return "open"
    if station.id in one.bad:
        return "bad"
    if not one.readings[station.id].known:
        return "off"
    return "wild" if station.id in solution.wild else "read"


def table_scene(
    state: State[EdgeBase],
    solution: Solution,
    station_id: str,
    *,
    looks: tuple[tuple[LineLook | None, float, float], ...],
    bodies: tuple[SceneBody, ...],
    edge_word: str,
    limit_mm: float,
    low_high: tuple[float, float],
) -> TableScene:
    """The picture with ``station_id`` under the gauge.

    Parameters
    ----------
    looks
        For each edge: its look, and from where to where it is drawn along the table.
    low_high
        From where to where the lines are drawn, along the table.
    """
    plan = state.plan
    move = shown_move(state, solution)
    station = next((s for s in state.stations if s.id == station_id), state.asked()[0])
    current = state.passes[-1] if state.passes else None
    lines, aims, spots = [], [], []
    for look, low_mm, high_mm in looks:
        if look is not None and look.line is not None:
            lines.append(_line(look.line, low_mm, high_mm))
    for s in state.asked(current):
        if s.reads not in ("needle", "gap", "size") or not state.measures[s.ring].along_travel:
            continue
        look = next((k for k, _, _ in looks if k is not None and s.id in k.x_mm), None)
        h = look.toward_mm.get(s.id) if look else None
        spots.append(
            SceneHeight.model_validate(
                {
                    "station_id": s.id, "label": s.short, "x_mm": s.x_mm, "h_mm": h,
                    "state": spot_state(state, solution, current, s, station.id),
                }
            )
        )  # fmt: skip
    watched = move.needle.x_mm if move and move.needle else None
    if isinstance(move, Tap) and move.aim_mm is not None and move.pivot_mm is not None:
        level = state.sense.toward_mm(move.aim_mm)
        low, high = low_high
        ends = (level + move.slope_after * (x - (watched or 0.0)) for x in low_high)
        aims.append(SceneLine(z1_mm=low, h1_mm=next(ends), z2_mm=high, h2_mm=next(ends)))
    needle = _needle(state, state.being_read, station)
    return TableScene(
        seen="Seen from above, you at the bottom",
        u_x=plan.edge_way.real,
        u_y=plan.edge_way.imag,
        n_x=plan.gauge_way.real,
        n_y=plan.gauge_way.imag,
        magnification=slant_factor([b.slope for b in bodies], [b.shift_mm for b in bodies], max(b.length_mm for b in bodies)),
        bodies=bodies,
        blow=_blow(move),
        gauge_mm=station.x_mm if watched is None else watched,
        gauge=SceneGauge(at_deg=0.0, station_label=station.label, needle_mm=needle, signed=not plan.gauge.measures_gap),
        spots=tuple(spots),
        lines=tuple(lines),
        aims=tuple(aims),
        edge_word=edge_word,
        limit_mm=limit_mm,
        describe=_describe(plan, move, edge_word),
    )  # fmt: skip


def _line(line: LineFit, low_mm: float, high_mm: float) -> SceneLine:
    return SceneLine(z1_mm=low_mm, h1_mm=line.at(low_mm), z2_mm=high_mm, h2_mm=line.at(high_mm))


def _needle(state: State, one: Pass | None, station: Station) -> float | None:
    reading = one.readings.get(station.id) if one else None
    return reading.needle_mm if reading else None


def _blow(move: Move | None) -> SceneBlow | None:
    if not isinstance(move, Tap):
        return None
    label: Text = text("tap here")
    return SceneBlow(at_mm=move.x_mm, toward=1 if move.toward else -1, label=label)


def _describe(plan: EdgeBase, move: Move | None, edge_word: str) -> str:
    if move is None:
        return f"The table from above, and {edge_word} as it was read."
    return f"The table from above. {plain(move.sentence, plan.unit, plan.gauge.resolution_mm)}"
