"""A chuck's face, drawn from the same state and the same move that the sentence is made from."""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Literal

from ..gauge import place_words
from ..measure.ring import RingLook
from ..move import Handle, Jaws, Lean, Move, Screws, Shim, TapRound
from ..readings import Station
from ..scene import ChuckScene, Do, SceneDot, SceneGauge, SceneJaw, SceneSpot, SceneTap
from ..setup.state import State
from ..told import Solution
from ..wording import Text, length, text
from .look import L, Looks

#: The largest offset is drawn as this part of the work's radius (at most of the chuck's, for big work).
SHOWN_PART = 0.24
#: From the side, it is drawn by this part of the length instead.
SIDE_PART = 0.7
#: So many passes of the center are drawn.
TRACK = 40
SEEN = {"tailstock": "Seen from the tailstock", "operator": "Seen from the tailstock, you at the bottom"}


@dataclass(frozen=True, slots=True)
class Face:
    """What a face needs besides the state: the ring's look in the open pass and its centers pass by pass."""

    look: RingLook | None
    centers: list[tuple[int, complex]]
    holder: Literal["jaws", "screws", "faceplate"] = "jaws"
    name: str = "Four-jaw chuck"
    target: complex | None = None
    shims: dict[int, float] = field(default_factory=dict)
    flats: bool = False
    seen: str = ""
    lean: bool = True


def centers_of(looks: Looks[L]) -> list[tuple[int, complex]]:
    """The center pass by pass, as far back as it is drawn."""
    found = ((number, looks[number].center) for number in list(looks)[-TRACK:])
    return [(number, center) for number, center in found if center is not None]


def shown_aim(state: State, aim: complex) -> complex | None:
    """Where the center is to be brought; None where the dial cannot show it off the middle: no sentence speaks of it."""
    return aim if abs(aim) > state.plan.gauge.resolution_mm else None


def face(state: State, solution: Solution, station_id: str, seen: Face) -> ChuckScene:
    """The chuck turned so that ``station_id`` (or what the move watches) is at the gauge."""
    move = shown_move(state, solution)
    station = next((s for s in state.stations if s.id == station_id), state.asked()[0])
    shown = move.shown_at if move else None
    at_spot = move is None or move.needle is None or station_id == (move.needle.station_id or station_id)
    watched = shown[0] if shown and at_spot else station.angle_deg
    turn = state.sense.turn_deg(watched)
    known = solution.x_mm is not None and solution.y_mm is not None
    center = _turned(complex(solution.x_mm or 0.0, solution.y_mm or 0.0), turn)
    track = tuple(SceneDot.of(_turned(z - (seen.target or 0j), turn), number) for number, z in seen.centers)
    wanted = seen.target if seen.target else None
    largest = max([abs(center), abs(wanted or 0), *(abs(complex(d.x_mm, d.y_mm)) for d in track[-1:])], default=0.0)
    work = state.plan.part.diameter_mm / 2
    limit = state.plan.limit.off_centre_mm
    ring = [s for s in state.asked() if s.ring == station.ring]
    return ChuckScene(
        holder=seen.holder,
        seen=seen.seen or SEEN[state.plan.view],
        view_turn_deg=0.0 if seen.seen else state.sense.view_turn_deg,
        chuck_radius_mm=(state.plan.holder.across_mm or 1.8 * state.plan.part.diameter_mm) / 2,
        rings_mm=state.plan.holder.rings,
        work_radius_mm=work,
        surface=state.plan.part.surface,
        known=known,
        x_mm=center.real,
        y_mm=center.imag,
        magnification=magnification(largest, work, state.plan.gauge.graduation_mm),
        high_deg=_high_deg(state, solution, seen.look, turn),
        turns=state.plan.carrier == "work_turns",
        limit_radius_mm=limit,
        jaws=tuple(_jaw(state, move, jaw, deg + turn, seen) for jaw, deg in state.plan.holder.jaws_deg.items()),
        spots=tuple(spot(state, solution, s, station_id, turn) for s in ring),
        gauge=gauge(state, move, station, turn),
        track=track,
        tap=_tap(move, turn),
        wanted=None if wanted is None else SceneDot.of(_turned(wanted, turn)),
        flats=seen.flats,
        lean=bool(seen.seen) and seen.lean,
        describe=_describe(state, move, seen),
    )


def shown_move(state: State, solution: Solution) -> Move | None:
    """The move that the picture shows: the half-done one, or the first on offer."""
    if state.half is not None:
        return state.half.move
    return solution.moves[0] if solution.moves else None


def _turned(z: complex, turn_deg: float) -> complex:
    return z * complex(0, 1) ** (turn_deg / 90)


def magnification(offset_mm: float, work_mm: float, graduation_mm: float) -> float:
    """A round factor (1, 2, 5 steps) at which the offset is plainly seen."""
    wish = SHOWN_PART * work_mm / max(offset_mm, graduation_mm)
    factor = 1.0
    for step in (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000):
        if step <= wish:
            factor = float(step)
    return factor


def _high_deg(state: State, solution: Solution, look: RingLook | None, turn: float) -> float | None:
    fit = look.fit if look and solution.x_mm is not None else None
    if fit is None or fit.offset_mm <= 2 * fit.u_mm:
        return None
    side = 0.0 if state.sense.center_sign > 0 else 180.0
    return (fit.toward_deg + side + turn) % 360


def _jaw(state: State, move: Move | None, jaw: int, deg: float, seen: Face) -> SceneJaw:
    at = {"jaw": jaw, "at_deg": deg % 360, "shim_mm": seen.shims.get(jaw)}
    for order, (number, do, label) in enumerate(_acts(move), start=1):
        if number == jaw:
            eased = state.half is not None and do == "ease"
            return SceneJaw.model_validate(
                {**at, "do": do, "order": order, "label": text("backed off") if eased else label}
            )
    return SceneJaw.model_validate({**at, "do": None, "order": None, "label": ()})


def _acts(move: Move | None) -> list[tuple[int, Do, Text]]:
    """What each jaw or screw does, in order, with its words in the picture."""
    if isinstance(move, Jaws):
        head = "then tighten" if move.ease else "just tighten"
        drawn: tuple[int, Do, Text] = (move.draw.number, "draw_in", _sized(head, move.draw.mm))
        return [(move.ease.number, "ease", text("back off first")), drawn] if move.ease else [drawn]
    if isinstance(move, Screws):
        return [
            (s.number, "slacken", _sized("slacken", -(s.mm or 0.0)))
            if (s.mm or 0.0) < 0
            else (s.number, "tighten", _sized("tighten", s.mm))
            for s in move.turns
        ]
    if isinstance(move, Shim):
        return [(p.number, "shim", _sized("shim", p.mm)) for p in move.packets]
    return []


def _sized(word: str, mm: float | None) -> Text:
    return text(word) if mm is None else text(word + " ", length(mm))


def _tap(move: Move | None, turn: float) -> SceneTap | None:
    match move:
        case TapRound():
            return SceneTap(at_deg=(move.at_deg + turn) % 360, label=_sized("tap", move.mm))
        case Lean():
            return SceneTap(at_deg=(move.at_deg + turn) % 360, label=text("top this way"))
        case Handle():
            return SceneTap(at_deg=(move.at_deg + 180 + turn) % 360, label=_sized("table", move.mm))
        case _:
            return None


def spot(state: State, solution: Solution, station: Station, now_id: str, turn: float) -> SceneSpot:
    """A station as the picture has it."""
    current = state.being_read
    reading = current.readings.get(station.id) if current else None
    looks: Literal["open", "now", "read", "bad", "wild", "off"] = "open"
    if current and station.id in current.bad:
        looks = "bad"
    elif station.id in solution.wild:
        looks = "wild"
    elif reading is not None:
        looks = "read" if reading.known or reading.deg is not None else "off"
    elif station.id == now_id:
        looks = "now"
    return SceneSpot(
        station_id=station.id,
        label=station.label,
        at_deg=(station.angle_deg + turn) % 360,
        state=looks,
    )


def gauge(state: State, move: Move | None, station: Station, turn: float) -> SceneGauge:
    """The gauge, at what the move watches or at the station."""
    signed = not state.plan.gauge.measures_gap
    if move is not None:
        deg, label = move.shown_at or (0.0, "")
        return SceneGauge(at_deg=(deg + turn) % 360, station_label=label, needle_mm=move.now_mm, signed=signed)
    current = state.being_read
    reading = current.readings.get(station.id) if current else None
    return SceneGauge(
        at_deg=(station.angle_deg + turn) % 360,
        station_label=station.label,
        needle_mm=reading.needle_mm if reading else None,
        signed=signed,
    )


_DONE = {"ease": "backed off", "draw_in": "tightened", "slacken": "slackened", "tighten": "tightened", "shim": "packed"}


def _describe(state: State, move: Move | None, face_seen: Face) -> str:
    """The picture in words, for those who cannot see it."""
    deg, label = (move.shown_at if move else None) or (0.0, "")
    where = place_words(state.sense.gauge_deg(deg))
    name, seen = face_seen.name, (face_seen.seen or SEEN[state.plan.view]).lower()
    if face_seen.seen:
        what = f"; {label} under the indicator, the top is pushed over." if move else "."
        return f"{name}, {seen}{what}"
    if move is None:
        return f"{name}, {seen}; the indicator is {where}."
    thing = "screw" if isinstance(move, Screws) else "jaw"
    acts = ", ".join(f"{thing} {n} {_DONE[do]}" for n, do, _ in _acts(move)) or "tapped"
    return f"{name}, {seen}; {label} at the indicator, {where}: {acts}."
