"""What edges share, whether they are tapped or shimmed first: bolts, figures, when it is enough, the other ways of working."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any, TypeVar, get_args

from ..measure.edge import Edge, LineLook
from ..model import own
from ..move import Needle, Tap
from ..plan.edge import EdgeBase, Way, corner_word, side_word
from ..quantity import Quantity
from ..readings import Pass, Station
from ..scene import SceneBolt
from ..setup.state import State
from ..told import Caveat, Row
from ..verdict import TermName, Verdict
from ..wording import Text, length, strong, text
from .beyond import AS_FAR, DIAL_PART, ONLY_THE_WAY
from .learning import Learned

E = TypeVar("E", bound=EdgeBase)
#: A spot that goes less than this part of what the tapped end goes is not watched instead of it.
LEAST_PART = 0.3
#: A tap about the first reading that swings back by more than this part of what was there does not pivot there.
SWUNG_BACK = 0.5
#: A swing point within this part of the length from the end that is tapped is about that end.
NEAR_PART = 0.35


@dataclass(frozen=True, slots=True)
class Swing:
    """Where an edge swings: place along it and standard uncertainty; ``seen`` when taps have shown it."""

    x_mm: float
    u_mm: float
    seen: bool


def edge_of(state: State[EdgeBase]) -> Edge:
    """The edge that is tapped."""
    return own(state.measures[""], Edge)


def beside_word(plan: EdgeBase, beside_mm: float) -> str:
    """On which side of a spot something lies."""
    return {"left": "to the left of", "right": "to the right of", "front": "in front of", "back": "behind"}[
        plan.end_word(beside_mm > 0)
    ]


def ran_off(edge: Edge) -> Text:
    """What to do when too much of an edge is past what is read with."""
    if edge.gauge.measures_gap:
        return text("No feeler fills that gap: bring the end near by eye, then measure again.")
    return text("The needle ran off at too many spots: rough it in by a rod or the slot, then read again.")


def tap_off_dial(state: State[E], look: LineLook, station: Station, high: bool) -> Tap | None:
    """With spots past the end of the dial: the end that is tapped is brought back onto it, or run after them as far as it shows."""
    plan, end = state.plan, look.off.get(station.id, 0)
    spot: dict[str, Any] = {"station_id": station.id, "label": station.label.lower(), "x_mm": station.x_mm}
    if end:
        needle, toward = Needle.back(**spot), end < 0
        told = ONLY_THE_WAY + " Or rough it in first by a rod."
    elif len(set(look.off.values())) == 1 and station.id in look.toward_mm and not plan.gauge.measures_gap:
        end = next(iter(look.off.values()))
        sense, read = state.sense_of(station), look.toward_mm[station.id]
        needle, toward = Needle.at(sense, read, end * DIAL_PART * plan.gauge.travel_mm * sense.scale, **spot), end > 0
        told = "Its other end is past the end of the dial." + AS_FAR
    else:
        return None
    corner, way = corner_word(plan, high, toward), side_word(plan, toward)
    return Tap(
        pass_no=look.number, x_mm=station.x_mm, toward=toward, mm=None, needle=needle, rezero=needle.aim_mm is not None,
        title="off the dial",
        sentence=text("Tap the ", strong(corner), f" {way}{needle.then}."),
        reason=text(told),
        log=text(f"{corner[0].upper()}{corner[1:]} tapped {way}, off the dial"),
    )  # fmt: skip


def hinge_bolts(plan: EdgeBase, tight: bool) -> tuple[SceneBolt, ...]:
    """Bolts of a thing with a hinge."""
    places = sorted(plan.holder.bolts_mm)
    hinge = {"low": 0, "high": len(places) - 1}.get(plan.hinge, -1)
    return tuple(
        SceneBolt(
            at_mm=x,
            state="tight" if tight else "hinge" if i == hinge else "loose",
            label="tight" if tight else "hinge, snug" if i == hinge else "finger tight",
        )
        for i, x in enumerate(places)
    )


def other_ways(state: State[E]) -> tuple[tuple[str, State[E]], ...]:
    """The same set-up worked by each other school."""
    plan = state.plan
    return tuple(
        (way, state.with_plan(plan.model_copy(update={"way": way}))) for way in get_args(Way) if way != plan.way
    )


def uneven_stop(look: LineLook, judged: Verdict, edge: str, mend: str) -> Text:
    """The edge itself is past the limit: no tap mends that."""
    if (
        judged.outcome == "holds"
        or judged.limited_by != "straightness"
        or judged.value_mm > judged.limit_mm / 2
        or look.line is None
    ):
        return ()
    return text(
        f"Stop here. The {edge} is not straight by ",
        length(look.line.zone_mm),
        f", and tapping cannot mend that. {mend}",
    )


def line_figures(
    state: State[EdgeBase],
    one: Pass,
    look: LineLook,
    judged: Verdict | None,
    asked_mm: float | None,
    got_mm: float | None,
    swung: Text,
) -> Row:
    """A line of the table of passes: rise over the limit's length, straightness, where it swung."""
    plan = state.plan
    line = look.line
    return Row(
        number=one.number,
        purpose=one.purpose,
        main=rise_of(state, look).over(plan.limit_length_mm) if look.fit else None,
        beside=(Quantity(kind="straight", mm=line.zone_mm),) if line and len(look.toward_mm) > 2 else (),
        toward=swung,
        asked_mm=asked_mm,
        got_mm=got_mm,
        outcome=judged.outcome if judged else None,
    )


def rise_of(state: State[EdgeBase], look: LineLook) -> Quantity:
    """How much the edge rises over its whole length, as the limit is meant."""
    assert look.fit is not None
    return Quantity(
        kind=state.plan.limit.kind,
        mm=abs(look.fit.mm),
        u_mm=look.edge.band_mm(state, look, look.edge_mm) / 2,
        over_mm=look.edge_mm,
    )


def watched(
    state: State[EdgeBase], look: LineLook, station: Station, first: Station, run: float, swing_mm: float
) -> tuple[Station, float]:
    """The spot to watch while ``station`` is tapped, and how far it goes: the next good one where that has a burr or is bad.

    ``first`` is the spot at the hinge's end.
    """
    if station.id in look.off or (station.id in look.toward_mm and station.id not in look.wild):
        return station, run
    about = {"swing": swing_mm, "zero": first.x_mm, "half": (first.x_mm + station.x_mm) / 2}[state.plan.way]
    good = [s for s in state.stations if s.id in look.toward_mm and s.id not in look.wild]
    arms = {s.id: (s.x_mm - about) / (station.x_mm - about) for s in good}
    near = max(good, key=lambda s: arms[s.id], default=station)
    return (near, run * arms[near.id]) if arms.get(near.id, 0.0) > LEAST_PART else (station, run)


def swung_back(state: State[EdgeBase], before: LineLook | None, look: LineLook) -> tuple[Caveat, ...]:
    """All of it was tapped out about the first reading, and most of it is there again on the other side."""
    if state.plan.way != "zero" or before is None or before.fit is None or look.fit is None:
        return ()
    if not state.moved_in(before.number) or look.fit.mm * before.fit.mm > -SWUNG_BACK * before.fit.mm**2:
        return ()
    words = text(
        "It swings back: it does not pivot at your first reading. Press ",
        strong("D"),
        " to go by the pivot that was learned.",
    )
    return (Caveat(code="swings_back", text=words),)


def end_of(stations: Sequence[Station], *, high: bool) -> Station:
    """The spot of the edge at one of its ends."""
    found: Station = (max if high else min)((s for s in stations if s.ring == ""), key=lambda s: s.x_mm)
    return found


def taps_high(plan: EdgeBase, swing: Swing, stations: Sequence[Station]) -> bool:
    """Is it tapped at its second end? The one far from the hinge; where taps have shown that it swings there, the other."""
    high = plan.hinge != "high"
    here, there = (abs(end_of(stations, high=end).x_mm - swing.x_mm) for end in (high, not high))
    return high is not (plan.way == "swing" and swing.seen and here < min(there, NEAR_PART * plan.edge_mm))


def swings_there(plan: EdgeBase, high: bool) -> Text:
    """It is tapped at the other end than was planned."""
    if high is (plan.hinge != "high"):
        return ()
    tapped, other = plan.end_word(high), plan.end_word(not high)
    return text(f" That is at its {other} end, where taps do little: so it is tapped at the {tapped} end.")


def shifts_much(plan: EdgeBase, learned: Learned) -> tuple[Caveat, ...]:
    """What tightening does, when it does much."""
    shift, part = abs(learned.shift.real), plan.limit_length_mm / plan.edge_mm
    if shift * part <= plan.limit.mm / 2 or shift < learned.known.belief.sd(3):
        return ()
    words = text(
        "Pulling it down shifts it by ", length(shift * part), f" {'' if part == 1 else 'over that length '}each time. A clamp "
        "across each end while the nuts are pulled stops that; take it off and read again.",
    )  # fmt: skip
    return (Caveat(code="shift", text=words),)


#: What of a band no tapping and no reading again makes less.
OWN: frozenset[TermName] = frozenset({"floor", "play", "error", "lost_motion"})


def out_of_reach(state: State[Any], look: LineLook) -> tuple[Caveat, ...]:
    """The machine's own terms alone are more than the limit: lying true, it could still not be shown."""
    plan = state.plan
    if look.line is None:
        return ()
    terms = [t for t in look.edge.terms(state, look, plan.limit_length_mm) if t.name in OWN]
    own = float(sum(t.mm**2 for t in terms) ** 0.5)
    if own < plan.limit.mm:
        return ()
    most = max(terms, key=lambda t: t.mm).name
    mend = {
        "play": "Snug the gibs, lock what is not run, and push and pull again",
        "floor": "Take a machine that repeats better",
    }
    words = text(
        "Lying true, it could still not be shown: machine and indicator alone leave ", length(own), ", the limit is ",
        length(plan.limit.mm), f". {mend.get(most, 'Take a better indicator')}, or ask for less.",
    )  # fmt: skip
    return (Caveat(code="out_of_reach", text=words),)


def line_caveats(state: State[Any], before: LineLook | None, look: LineLook, learned: Learned) -> tuple[Caveat, ...]:
    """What an edge has to be told besides its readings."""
    return (*swung_back(state, before, look), *shifts_much(state.plan, learned), *out_of_reach(state, look))
