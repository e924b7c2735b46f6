"""A move from readings past the gauge's travel.

Such a reading is a bound, not a number. With one end of a pair known (toward value v) and the other
off (so at least the travel T away on the other side), half of their difference is at least
``(T + |v|)/2``: moving until the known end has run to the end of its dial, ``T + |v|``, can never
make it worse, and is the most that this gauge can show in one go. Zero is then set afresh.
With both ends off to opposite sides, the high end is brought back on the dial.
"""

from __future__ import annotations

from typing import Any

from ...angles import rect
from ...move import Asked, Jaws, Needle
from ...plan.jaws import JawPlan
from ...readings import Station
from ...setup.state import State
from ...wording import Text, signed, strong, text
from ..beyond import LEAST_RUN, pull, run_for
from .acts import jaw_going, sentence
from .look import PAIRS, Look, jaw_station


def high_jaw(state: State[JawPlan], look: Look, pair: tuple[int, int]) -> int | None:
    """The jaw of a pair at which the surface is nearer the gauge, when an end is off the dial."""
    score = []
    for jaw in pair:
        station = jaw_station(state, jaw)
        if station is None:
            return None
        if look.off.get(station.id):
            score.append(look.off[station.id] * float("inf"))
        elif station.id in look.toward_mm:
            score.append(look.toward_mm[station.id])
        else:
            return None
    if all(abs(s) != float("inf") for s in score) or score[0] == score[1]:
        return None
    return pair[0] if score[0] > score[1] else pair[1]


def move(state: State[JawPlan], look: Look) -> Jaws | None:
    """The move that readings off the dial allow, if a direction can be told from them."""
    for pair in PAIRS:
        high = high_jaw(state, look, pair)
        if high is not None and (found := _from_pair(state, look, high)):
            return found
    return _from_all(state, look) if look.complete and look.off else None


def _from_pair(state: State[JawPlan], look: Look, high: int) -> Jaws | None:
    """From one pair of jaws, the end at ``high`` being nearer the gauge."""
    holder, sense = state.plan.holder, state.sense
    low = holder.opposite(high)
    draw = high if sense.center_sign > 0 else low
    travel = state.plan.gauge.travel_mm
    for jaw, end in ((high, -travel), (low, travel)):
        station = jaw_station(state, jaw)
        if station and station.id in look.toward_mm:
            run = abs(end - look.toward_mm[station.id])
            return _make(state, look, draw, station, end, run) if run >= LEAST_RUN * travel else None
    return _make(state, look, draw, jaw_station(state, high), None, None)


def _from_all(state: State[JawPlan], look: Look) -> Jaws | None:
    """From a whole pass whose stations are not at the jaws, or too few of them on the dial."""
    pulled = pull(state, look)
    if pulled is None:
        return None
    holder = state.plan.holder
    draw = max((1, 2, 3, 4), key=lambda j: (pulled * rect(1, -holder.jaw_deg(j))).real)
    run = run_for(state, look, holder.jaw_deg(draw) + 180)
    return _make(state, look, draw, run.station, run.end_mm, run.asked_mm) if run else None


def _make(
    state: State[JawPlan], look: Look, draw: int, station: Station | None, end_mm: float | None, asked_mm: float | None
) -> Jaws:
    """Draw ``draw`` in until the needle at ``station`` stands at the end of its dial, or comes back on it."""
    holder = state.plan.holder
    other, deg = holder.opposite(draw), holder.jaw_deg(draw)
    at: dict[str, Any] = {
        "station_id": station.id if station else "",
        "label": station.label.lower() if station else f"jaw {draw}",
    }
    at_deg = station.angle_deg if station else deg
    if station and end_mm is not None:
        needle = Needle.at(state.sense, look.toward_mm[station.id], end_mm, deg=at_deg, **at)
    else:
        needle = Needle.back(deg=at_deg, **at)
    return Jaws(
        pass_no=look.number,
        draw=jaw_going(state, draw, asked_mm),
        ease=jaw_going(state, other, asked_mm),
        needle=needle,
        asked=None if asked_mm is None else Asked(mm=asked_mm, deg=(deg + 180) % 360),
        rezero=True,
        title=f"jaws {min(draw, other)} and {max(draw, other)}",
        sentence=sentence(other, draw, needle),
        reason=text(
            f"The needle ran off the end, so this is only a bound: the part sits toward jaw {draw} by more than "
            "the indicator can show. This takes out as much as the dial can follow; then set zero afresh at "
            f"{needle.label}, needle mid-travel, and read again. Roughing in by rule is quicker if it is far out."
        ),
        half_sentence=text(f"Jaw {other} is backed off. Now tighten ", strong(f"jaw {draw}"), " to the aim."),
        back=_back(other, needle.label, needle.now_mm),
    )


def _back(eased: int, watch: str, now: float | None) -> Text:
    if now is None:
        return text(f"Or go back: tighten jaw {eased} again to where it was.")
    return text(f"Or go back: tighten jaw {eased} again until {watch} reads ", signed(now), ".")
