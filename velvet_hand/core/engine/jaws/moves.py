"""Which jaw, which way, how far, how much key, and the aim.

With ``e`` the offset of the work, ``k`` the kick to expect and ``u`` the direction of a jaw, the
work has to go ``(e + k).u`` away from that jaw: the jaw is drawn in, the one across is eased first.
The aim at the drawn jaw is what the exact ray model says will be read there afterwards; for a plain
correction that is the mean of the pair, exactly, at any offset.
"""

from __future__ import annotations

from dataclasses import dataclass

from ...fit.circle import ray
from ...move import Asked, Jaws, Needle
from ...plan.jaws import JawPlan
from ...setup.state import State
from ...wording import Bit, Text, angle, length, signed, strong, text
from ..learning import Learned
from . import off_dial
from .acts import jaw_going, sentence
from .look import PAIRS, Look, jaw_station, unit_vector

#: In the last two thou nothing is eased any more: the high side is only drawn in.
DRAW_ONLY_MM = 2 * 0.0254


@dataclass(frozen=True, slots=True)
class _Need:
    """What a pair wants: the offset along it and the part of it that is asked for."""

    pair: tuple[int, int]
    draw: int
    offset_mm: float
    need_mm: float
    kick_mm: float


def _offset_along(state: State[JawPlan], look: Look, pair: tuple[int, int]) -> float | None:
    """Offset along a pair: from the circle of a whole pass, before that from the pair itself.

    Three spots of an unfinished pass fix a circle, but perhaps a poor one; it counts only when the
    offset is plain against its uncertainty.
    """
    ux, uy = unit_vector(state.plan.holder.jaw_deg(pair[0]))
    from_fit = look.fit.x_mm * ux + look.fit.y_mm * uy if look.fit else None
    flats = look.ring.flats
    if flats or (state.plan.gauge.measures_gap and not look.complete):
        return look.pair_mm.get(
            pair
        )  # flats have a level of their own each, and a rule is too coarse for a part of a circle
    if look.complete and from_fit is not None:
        return from_fit
    if pair in look.pair_mm:
        return look.pair_mm[pair]
    plain = look.fit is not None and from_fit is not None and abs(from_fit) > 6 * look.fit.u_mm
    return from_fit if plain else None


def _needs(state: State[JawPlan], look: Look, learned: Learned) -> list[_Need]:
    found = []
    for pair in PAIRS:
        offset = _offset_along(state, look, pair)
        if offset is None:
            continue
        ux, uy = unit_vector(state.plan.holder.jaw_deg(pair[0]))
        kick = learned.kick_mm[0] * ux + learned.kick_mm[1] * uy
        need = offset - (look.target.real * ux + look.target.imag * uy) + kick
        if need >= 0:
            found.append(_Need(pair, pair[0], offset, need, kick))
        else:
            found.append(_Need(pair, pair[1], -offset, -need, -kick))
    return found


def small_enough_mm(state: State[JawPlan], look: Look) -> float:
    """Offset along a pair below which moving it makes nothing better."""
    limit, plan = state.plan.limit, state.plan
    off_centre = limit.mm / 2 if limit.kind == "tir" else limit.mm
    if plan.sideways_mm is not None:
        off_centre = min(off_centre, plan.sideways_mm)
    u = look.fit.u_mm if look.fit else state.plan.gauge.u_read_mm
    return max(state.plan.gauge.graduation_mm / 4, u, off_centre * 0.35)


def _rank(state: State[JawPlan], look: Look, needs: list[_Need]) -> list[_Need]:
    """The moves to make, in order: by school."""
    floor = small_enough_mm(state, look)
    wanted = [n for n in needs if n.need_mm > floor]
    if not wanted and look.complete:
        largest = max(needs, key=lambda n: n.need_mm, default=None)
        if largest is not None and largest.need_mm > state.plan.gauge.graduation_mm / 4:
            wanted = [largest]
    if state.plan.school == "pairs":
        return wanted[:1]
    return sorted(wanted, key=lambda n: -n.need_mm)


def moves(state: State[JawPlan], look: Look, learned: Learned) -> tuple[Jaws, ...]:
    """Moves still to make after this pass, the next one first.

    With a reading past the gauge's travel and no circle yet, see ``off_dial``.
    """
    if not state.sense.proved:
        return ()
    done = state.passes[-1].moved if state.passes else []
    if state.passes and state.passes[-1].back:
        return ()  # a jaw was eased and drawn in again: nothing is known until it is read again
    unseen = look.fit is None or _contradicted(state, look)
    if unseen and not look.target and (beyond := off_dial.move(state, look)):
        return () if beyond.id in done else (beyond,)
    ranked = _rank(state, look, _needs(state, look, learned))
    x, y = (look.fit.x_mm, look.fit.y_mm) if look.fit else (0.0, 0.0)
    found = []
    for index, need in enumerate(ranked, start=1):
        ux, uy = unit_vector(state.plan.holder.jaw_deg(need.draw))
        if look.fit is None:
            x, y = need.offset_mm * ux, need.offset_mm * uy
        found.append(_move(state, look, learned, need, (x, y), index, len(ranked)))
        x, y = x - need.need_mm * ux, y - need.need_mm * uy
    if not look.target and any(abs(m.aim_mm or 0.0) > state.plan.gauge.travel_mm for m in found):
        # A few spots on the dial fix a circle, but its aim lies where this gauge shows nothing.
        nearer = off_dial.move(state, look)
        return (nearer,) if nearer and nearer.id not in done else ()
    return tuple(m for m in found if m.id not in done)


def _contradicted(state: State[JawPlan], look: Look) -> bool:
    """Does the circle of the other readings lie on the dial where one of them was past its end?"""
    fit, travel = look.fit, state.plan.gauge.travel_mm
    if fit is None or not look.complete:
        return False
    off = [s.angle_deg for s in look.ring.stations if s.id in look.off]
    seen = (fit.mean_mm + float(ray(deg, fit.x_mm, fit.y_mm, look.ring.radius_mm, look.ring.sign)) for deg in off)
    return any(abs(mm) < 0.9 * travel for mm in seen)


def _toward_at(state: State[JawPlan], look: Look, deg: float, center: tuple[float, float]) -> float:
    """Toward value to expect at a chuck angle with the work's center where it is now."""
    radius, sign = look.ring.radius_mm, look.ring.sign
    ring = state.stations[0].ring
    near = (s for s in state.stations if s.ring == ring and abs((s.angle_deg - deg + 180) % 360 - 180) < 0.5)
    station = next(near, None)
    moved = 0.0
    start = (look.fit.x_mm, look.fit.y_mm) if look.fit else center
    if start != center:
        moved = float(ray(deg, *center, radius, sign)) - float(ray(deg, *start, radius, sign))
    if station and station.id in look.toward_mm and station.id not in look.wild:
        return look.toward_mm[station.id] + moved
    assert look.fit is not None, "without a circle only read stations are asked for"
    return look.fit.mean_mm + float(ray(deg, *start, radius, sign)) + moved


def _move(
    state: State[JawPlan],
    look: Look,
    learned: Learned,
    need: _Need,
    center: tuple[float, float],
    index: int,
    count: int,
) -> Jaws:
    holder, sense = state.plan.holder, state.sense
    deg = holder.jaw_deg(need.draw)
    ux, uy = unit_vector(deg)
    asked = learned.gain.ask(need.need_mm)
    radius, sign = look.ring.radius_mm, look.ring.sign
    after = (center[0] - asked * ux, center[1] - asked * uy)
    now_toward = _toward_at(state, look, deg, center)
    step = float(ray(deg, *after, radius, sign)) - float(ray(deg, *center, radius, sign))
    shifted = look.drift_mm or 0.0
    station = jaw_station(state, need.draw)
    needle = Needle.at(
        sense, now_toward + shifted, now_toward + step + shifted, way=-sign, station_id=station.id if station else "",
        label=f"jaw {need.draw}", deg=deg, gap=state.plan.gauge.measures_gap,
    )  # fmt: skip
    other = holder.opposite(need.draw)
    ease = jaw_going(state, other, asked) if need.need_mm > DRAW_ONLY_MM else None
    return Jaws(
        pass_no=look.number,
        index=index,
        count=count,
        draw=jaw_going(state, need.draw, asked),
        ease=ease,
        needle=needle,
        asked=Asked(mm=asked, deg=(deg + 180) % 360),
        aims=_aims(state, look),
        title=f"jaws {need.pair[0]} and {need.pair[1]}",
        sentence=sentence(other if ease else None, need.draw, needle),
        reason=_reason(state, look, learned, need, asked),
        half_sentence=text(f"Jaw {other} is eased. Now draw ", strong(f"jaw {need.draw} in"), " to the aim."),
        back=text(
            f"Or go back: draw jaw {other} in again until jaw {need.draw} reads ", signed(needle.now_mm or 0.0), "."
        ),
    )


def _aims(state: State[JawPlan], look: Look) -> dict[str, float]:
    """What each station will read when all is true: its pair's mean, or the circle's."""
    found: dict[str, float] = {}
    ring = [s for s in state.stations if s.ring == state.stations[0].ring]
    for station in ring:
        across = next((s for s in ring if abs((s.angle_deg - station.angle_deg) % 360 - 180) < 0.5), None)
        values = [look.toward_mm.get(s.id) for s in (station, across) if s]
        pair = None
        if len(values) == 2 and values[0] is not None and values[1] is not None:
            pair = (values[0] + values[1]) / 2
        mean = look.fit.mean_mm if look.fit else None
        if pair is not None and (not look.target or look.ring.flats):
            mean = pair  # with a throw, only flats keep their pair's mean
        if mean is None:
            continue
        if look.target:
            mean += float(ray(station.angle_deg, *_xy(look.target), look.ring.radius_mm, look.ring.sign))
        found[station.id] = state.sense.needle_mm(mean + (look.drift_mm or 0.0))
    return found


def _xy(z: complex) -> tuple[float, float]:
    return z.real, z.imag


def _reason(state: State[JawPlan], look: Look, learned: Learned, need: _Need, asked: float) -> Text:
    other = state.plan.holder.opposite(need.draw)
    parts: list[Bit] = []
    ends = [jaw_station(state, j) for j in (need.draw, other)]
    values = [look.toward_mm.get(s.id) if s and s.id not in look.wild else None for s in ends]
    if values[0] is not None and values[1] is not None:
        a, b = state.sense.needle_mm(values[0]), state.sense.needle_mm(values[1])
        show = length if state.plan.gauge.measures_gap else signed
        parts += [f"Jaw {need.draw} reads ", show(a), f" and jaw {other} ", show(b), ". Half of the difference: "]
    head = "work sits " if parts else "Work sits "
    parts += [head, length(need.offset_mm), f" toward jaw {need.draw if need.offset_mm >= 0 else other}. "]
    if look.target:
        ux, uy = unit_vector(state.plan.holder.jaw_deg(need.draw))
        wanted = look.target.real * ux + look.target.imag * uy
        parts += ["Wanted there: ", length(wanted), f" toward jaw {need.draw if wanted >= 0 else other}. "]
    gain = learned.gain
    if gain.moves and abs(asked - need.need_mm) > state.plan.gauge.graduation_mm / 4:
        parts += [f"This chuck answered {gain.value:.2f} of what was asked so far, so the aim goes past the middle. "]
    if abs(need.kick_mm) > state.plan.gauge.graduation_mm / 4:
        way = f"toward jaw {need.draw if need.kick_mm > 0 else other}"
        parts += ["Tightening kicked it ", length(need.kick_mm), f" {way}; the aim leaves room for that. "]
    lead = state.plan.holder.lead_mm
    if lead:
        parts += ["The key needs about ", angle(360 * asked / lead), "; the aim decides."]
    else:
        parts += ["No lead is known for this chuck, so go by the needle alone."]
    return text(*parts)
