"""Which jaw, which way, how far, how much key, and the aim.

With ``e`` the offset of the work, ``s`` the shift to expect and ``u`` the direction of a jaw, the
work has to go ``(e + s).u`` away from that jaw: the jaw is drawn in, the one across is eased first. How far
it is asked to go for that is what the chuck has answered so far (``policy``).
The aim at the drawn jaw is what the exact ray model says will be read there afterwards; for a first
correction that is the mean of the pair, exactly, at any offset.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from ...angles import apart
from ...estimate.pairs import GAIN, Screwed
from ...fit.circle import ray
from ...memo import once
from ...move import Asked, Jaws, Needle
from ...plan.jaws import JawPlan
from ...readings import Station
from ...setup.state import State
from ...wording import Bit, Text, length, signed, strong, text, turn_words
from ..answers import Answered
from ..rings import truest_words
from . import off_dial
from .acts import jaw_going, sentence
from .answers import on_axes
from .look import PAIRS, PLAIN, Look, aims_truest, jaw_station, unit_vector
from .policy import asks, least_mm, on_the_dial, shift_of, shift_seen

#: A long move may fall short by this part, and the curve of the work then shifts what the other pair reads; it may also drag the work
#: sideways by this part. A small move of the other pair is lost in that and waits for the next pass.
SHORT, SIDEWAYS = 0.4, 0.1
#: In the last two thou nothing is eased any more: the high side is only drawn in.
DRAW_ONLY_MM = 2 * 0.0254


@dataclass(frozen=True, slots=True)
class _Need:
    """What a pair wants: the offset along it, how far the work has to go, how far that is asked for, and the shift allowed for."""

    pair: tuple[int, int]
    draw: int
    offset_mm: float
    need_mm: float
    asked_mm: float
    shift_mm: float


def _offset_along(state: State[JawPlan], look: Look, pair: tuple[int, int]) -> float | None:
    """Offset along a pair: from the circle of a whole pass, before that from the pair itself.

    Three spots of an unfinished pass fix a circle, but perhaps a poor one; it counts only when the
    offset is plain against its uncertainty.
    """
    ux, uy = unit_vector(state.plan.holder.jaw_deg(pair[0]))
    from_fit = look.fit.x_mm * ux + look.fit.y_mm * uy if look.fit else None
    if look.ring.flats:  # each has a level of its own; where none lies at a jaw, all of them together tell
        return look.pair_mm.get(pair, from_fit if look.complete else None)
    if state.plan.gauge.measures_gap and not look.complete:
        return look.pair_mm.get(pair)  # a rule is too coarse for a part of a circle
    if look.complete and from_fit is not None:
        return from_fit
    if pair in look.pair_mm:
        return look.pair_mm[pair]
    plain = look.fit is not None and from_fit is not None and abs(from_fit) > PLAIN * look.fit.u_mm
    return from_fit if plain else None


def _needs(state: State[JawPlan], look: Look, known: Answered[Screwed]) -> list[_Need]:
    offsets = [_offset_along(state, look, pair) for pair in PAIRS]
    shift = shift_of(known)
    at = on_axes(state, look.target)
    needs = [at[i] - (offset or 0.0) - shift[i] for i, offset in enumerate(offsets)]
    asked = asks(state, known, np.array([0.0 if offset is None else needs[i] for i, offset in enumerate(offsets)]))
    found = []
    for i, (pair, offset) in enumerate(zip(PAIRS, offsets, strict=True)):
        if offset is None:
            continue
        sign = -1.0 if needs[i] > 0 else 1.0  # work that has to go toward jaw 1 is pushed by the one across
        found.append(
            _Need(
                pair,
                pair[0] if sign > 0 else pair[1],
                sign * offset,
                abs(needs[i]),
                max(-sign * asked[i], 0.0),
                sign * shift[i],
            )
        )
    return found


def small_enough_mm(state: State[JawPlan], look: Look) -> float:
    """Offset along a pair, before the pass is whole, below which moving it makes nothing better."""
    limit, plan = state.plan.limit, state.plan
    off_centre = limit.off_centre_mm
    if plan.sideways_mm is not None:
        off_centre = min(off_centre, plan.sideways_mm)
    u = look.fit.u_mm if look.fit else state.plan.gauge.u_read_mm
    return max(state.plan.gauge.graduation_mm / 4, u, off_centre * 0.35)


def _rank(state: State[JawPlan], look: Look, needs: list[_Need]) -> list[_Need]:
    """The moves to make, in order: by school."""
    floor = least_mm(state) if look.complete else small_enough_mm(state, look)
    longest = max((n.need_mm for n in needs), default=0.0)
    lost = max((SHORT * longest) ** 2 / (2 * look.ring.radius_mm), SIDEWAYS * longest)
    wanted = [n for n in needs if n.need_mm > floor and n.asked_mm > 0 and n.need_mm >= lost]
    wanted = wanted if state.plan.school == "pairs" else sorted(wanted, key=lambda n: -n.need_mm)
    return wanted[:1] if state.plan.school == "pairs" else wanted


def moves(state: State[JawPlan], look: Look, known: Answered[Screwed]) -> tuple[Jaws, ...]:
    """Moves still to make after this pass, the next one first.

    With a reading past the gauge's travel and no circle yet, see ``off_dial``.
    """
    if not state.sense.proved:
        return ()
    done = state.passes[-1].moved if state.passes else []
    if state.passes and state.passes[-1].back:
        return ()  # a jaw was eased and drawn in again: nothing is known until it is read again
    if one_flat(state, look):
        return ()
    unseen, middle = look.fit is None or _contradicted(state, look), _to_the_middle(state, look)
    if unseen and middle and (beyond := off_dial.move(state, look)):
        return () if beyond.id in done else (beyond,)
    ranked = _rank(state, look, _needs(state, look, known))
    x, y = (look.fit.x_mm, look.fit.y_mm) if look.fit else (0.0, 0.0)
    found = []
    for index, need in enumerate(ranked, start=1):
        ux, uy = unit_vector(state.plan.holder.jaw_deg(need.draw))
        if look.fit is None:
            x, y = need.offset_mm * ux, need.offset_mm * uy
        found.append(_move(state, look, known, need, (x, y), index, len(ranked)))
        x, y = x - need.need_mm * ux, y - need.need_mm * uy
    if middle and any(abs(m.aim_mm or 0.0) > state.plan.gauge.travel_mm for m in found):
        # A few spots on the dial fix a circle, but its aim lies where this gauge shows nothing.
        nearer = off_dial.move(state, look)
        return (nearer,) if nearer and nearer.id not in done else ()
    return tuple(m for m in found if m.id not in done)


def one_flat(state: State[JawPlan], look: Look) -> str | None:
    """The spot that is marked bad on flats, where its pair tells nothing without it; None where a circle is known."""
    if not look.complete or not look.ring.flats or look.fit is not None:
        return None
    return next((s.label for s in look.ring.stations if s.id in state.passes[-1].bad), None)


def _to_the_middle(state: State[JawPlan], look: Look) -> bool:
    """Is it to go so near the middle that what is past the dial is on its way there?"""
    return abs(look.target) <= state.plan.gauge.travel_mm / 4


def wanted(state: State[JawPlan], look: Look, known: Answered[Screwed]) -> bool:
    """Is anything to be moved, whether the dial can show its aim or not?"""
    return bool(_rank(state, look, _needs(state, look, known)))


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


def _surface_at(look: Look, deg: float, center: tuple[float, float]) -> float | None:
    """Toward value there by all readings of the pass and what is known of the form: one reading alone scatters more than that."""
    fit = look.fit
    return look.surface_mm(deg, complex(*center) - complex(fit.x_mm, fit.y_mm)) if fit else None


def _watched(state: State[JawPlan], look: Look, jaw: int) -> tuple[Station | None, float]:
    """Where the needle is watched while a jaw is tightened: there, or at the nearest flat where none was read at the jaw (each pair of
    flats has a size of its own, so nobody can say what another one reads).
    """
    deg, station = state.plan.holder.jaw_deg(jaw), jaw_station(state, jaw)
    if not look.ring.flats or (station is not None and station.id in look.toward_mm):
        return station, deg
    read = [s for s in look.ring.stations if s.id in look.toward_mm]
    near = min(read, key=lambda s: apart(s.angle_deg, deg), default=None)
    return (near, near.angle_deg) if near is not None else (None, deg)


def _move(
    state: State[JawPlan],
    look: Look,
    known: Answered[Screwed],
    need: _Need,
    center: tuple[float, float],
    index: int,
    count: int,
) -> Jaws:
    holder, sense = state.plan.holder, state.sense
    deg = holder.jaw_deg(need.draw)
    ux, uy = unit_vector(deg)
    radius, sign = look.ring.radius_mm, look.ring.sign
    station, at_deg = _watched(state, look, need.draw)
    now_toward, shifted = _toward_at(state, look, at_deg, center), look.walked_mm

    def step_of(mm: float) -> float:
        """What the reading there changes by, when the work goes so far."""
        after = (center[0] - mm * ux, center[1] - mm * uy)
        return float(ray(at_deg, *after, radius, sign) - ray(at_deg, *center, radius, sign))

    here = _surface_at(look, at_deg, center) if known.moves else None
    here = now_toward if here is None else here
    asked = on_the_dial(state, need.asked_mm, lambda mm: here + step_of(mm) + shifted)
    aim = here + step_of(asked)
    now_toward = here if (aim - now_toward) * sign > 0 else now_toward  # within what one reading scatters by
    label = f"jaw {need.draw}" if at_deg == deg or station is None else station.label.lower()
    needle = Needle.at(
        sense, now_toward + shifted, aim + shifted, way=-sign, station_id=station.id if station else "",
        label=label, deg=at_deg, gap=state.plan.gauge.measures_gap,
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
        aims=once(state.memo, "aims", look.number, lambda: _aims(state, look)),
        title=f"jaws {need.pair[0]} and {need.pair[1]}",
        sentence=sentence(other if ease else None, need.draw, needle),
        reason=text(
            *_reason(state, look, known, need, asked), *(_by_then(need.draw, other) if index > 1 and ease else ())
        ),
        half_sentence=text(f"Jaw {other} is backed off. Now tighten ", strong(f"jaw {need.draw}"), " to the aim."),
        back=text(
            f"Or go back: tighten jaw {other} again until jaw {need.draw} reads ", signed(needle.now_mm or 0.0), "."
        ),
    )


def _by_then(draw: int, other: int) -> Text:
    """The pair before may have taken the needle past the aim of this one: then this one comes from the other side."""
    return text(f" Past the aim by then? Back off jaw {draw} and tighten jaw {other} back to it.")


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
        if pair is not None and (not look.target or look.ring.flats or aims_truest(state.plan)):
            mean = pair  # with a throw, only flats keep their pair's mean
        if mean is None:
            continue
        if look.target:
            mean += float(ray(station.angle_deg, *_xy(look.target), look.ring.radius_mm, look.ring.sign))
        found[station.id] = state.sense.needle_mm(mean + look.walked_mm)
    return found


def _xy(z: complex) -> tuple[float, float]:
    return z.real, z.imag


def _reason(state: State[JawPlan], look: Look, known: Answered[Screwed], need: _Need, asked: float) -> Text:
    other = state.plan.holder.opposite(need.draw)
    parts: list[Bit] = []
    ends = [jaw_station(state, j) for j in (need.draw, other)]
    values = [look.toward_mm.get(s.id) if s and s.id not in look.wild else None for s in ends]
    if state.passes[look.number - 1].quick:
        parts.append("As two spots have it, the ")
    elif values[0] is not None and values[1] is not None:
        a, b = state.sense.needle_mm(values[0]), state.sense.needle_mm(values[1])
        show = length if state.plan.gauge.measures_gap else signed
        parts += [f"Jaw {need.draw} reads ", show(a), f" and jaw {other} ", show(b), ". Half of the difference: "]
    head = "part sits " if parts else "Part sits "
    toward = f" toward jaw {need.draw if need.offset_mm >= 0 else other}. "
    sits = (
        [length(need.offset_mm), toward]
        if abs(need.offset_mm) > state.plan.gauge.resolution_mm / 2
        else ["true along them. "]
    )
    parts += [head, *sits]
    if look.target:
        ux, uy = unit_vector(state.plan.holder.jaw_deg(need.draw))
        wanted = look.target.real * ux + look.target.imag * uy
        if abs(wanted) > state.plan.gauge.resolution_mm:
            jaw = f"jaw {need.draw if wanted >= 0 else other}"
            why = (
                truest_words(wanted, text(jaw))
                if aims_truest(state.plan)
                else text("Wanted there: ", length(wanted), f" toward {jaw}.")
            )
            parts += [why, " "]
    gain = known.belief.x[GAIN][PAIRS.index(need.pair)]
    if asked < need.asked_mm:
        parts += ["The dial shows no farther; what is left comes after it. "]
    elif abs(asked - need.need_mm) > state.plan.gauge.graduation_mm / 4:
        where = "past the middle" if asked > need.need_mm else "short of the middle"
        far = round(100 * abs(1 - gain))
        comes = (
            f"Moves of these jaws come up {far} % {'short' if gain < 1 else 'long'}"
            if far
            else "These jaws lose a little on turning back"
        )
        parts += [f"{comes}, so the aim lies {where}. "]
    seen = shift_seen(known, PAIRS.index(need.pair))
    if seen and abs(need.shift_mm) > state.plan.gauge.graduation_mm / 4:
        way = f"toward jaw {need.draw if need.shift_mm > 0 else other}"
        parts += ["Tightening shifts it ", length(need.shift_mm), f" {way}; the aim leaves room for that. "]
    lead = state.plan.holder.lead_mm
    if lead:
        parts += [f"The key needs about {turn_words(360 * asked / lead)}; the aim decides."]
    else:
        parts += ["No lead is in the Shop for this chuck, so go by the needle."]
    return text(*parts)
