"""What the passes of a set-up show that may tell a cause: each as one of a few cases, with words for those that point somewhere."""

from __future__ import annotations

import math
from collections import Counter
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

import numpy as np

from ..angles import rect
from ..engine.procedure import Registered
from ..estimate.scatter import KNOWN
from ..measure.edge import Edge, LineLook
from ..measure.ring import Ring, RingLook
from ..move import Jaws
from ..readings import Pass
from ..setup.state import State
from ..wording import Text, length, text
from .causes import Family, Place

#: So many full passes back are looked at.
WINDOW = 4
#: A move of fewer graduations says nothing of how it was answered.
LEAST_MARKS = 4.0


@dataclass(frozen=True, slots=True)
class Sign:
    """One thing that was seen: which case of it, and its words (none where it points nowhere)."""

    case: str
    words: Text = ()


Evidence = dict[str, Sign]


def family_of(state: State) -> Family:
    """What is read here."""
    kinds = [type(m) for m in state.measures.values()]
    return "ring" if Ring in kinds else "edge" if Edge in kinds else "points"


def place_of(state: State) -> Place:
    """What is read and held here, as it is spoken of."""
    family = family_of(state)
    rings = [m for m in state.measures.values() if isinstance(m, Ring)]
    if family == "ring" and all(math.isinf(m.radius_mm) and not m.flats for m in rings):
        return "swept"
    return "jaws" if family == "ring" and len(state.plan.holder.jaws_deg) >= 2 else family


def seen(procedure: Registered, state: State) -> Evidence:
    """Everything that the passes so far show."""
    full = [p for p in state.passes if not p.quick and p.readings][-WINDOW:]
    return {
        "closing": _closing(state, full),
        "odd": _odd(state, full),
        "form": _form(state, full),
        "scatter": _scatter(state, full),
        "repeats": _repeats(state, full),
        **_answers(state),
        "shift": _shift(state),
        "left": _left(procedure, state),
        "fine": _fine(state),
        "passes": Sign("few" if len(full) <= 2 else "some" if len(full) <= 3 else "many"),
    }


def _looks(state: State, one: Pass) -> Iterator[tuple[Ring | Edge, RingLook | LineLook]]:
    """The rings and edges that a pass reads, and how they look in it."""
    for measure in state.measures.values():
        if isinstance(measure, Ring | Edge) and measure.mine(state, one):
            yield measure, measure.look(state, one)


def odd_spot(state: State) -> str:
    """The spot to look at: one that stands out, or else the one read first; "" before anything is read."""
    for one in reversed(state.passes):
        for _, look in _looks(state, one):
            if look.wild:
                return look.wild[0]
    read = [r for p in state.passes for r in p.readings.values()]
    return min(read, key=lambda r: r.seq).station_id if read else ""


def _closing(state: State, full: list[Pass]) -> Sign:
    worst, times = 0.0, 0
    for one in full:
        for measure in state.measures.values():
            drift = measure.seen(state, one).drift_mm if measure.mine(state, one) else None
            marks = abs(drift or 0.0) / measure.gauge.graduation_mm
            worst, times = max(worst, marks), times + (marks > 1.5)
    if not full:
        return Sign("none")
    told = text(f"A closing reading was {worst:.0f} graduations off.")
    if times > 1:
        return Sign(
            "often", text(f"The closing reading did not come back in {times} passes, by {worst:.0f} graduations.")
        )
    return Sign("far", told) if worst > 3 else Sign("little", told) if worst > 1.5 else Sign("back")


def _odd(state: State, full: list[Pass]) -> Sign:
    """Spots that do not sit with the others: one and the same, or another each time."""
    found: Counter[str] = Counter()
    for one in full:
        for _, look in _looks(state, one):
            found.update(look.wild)
    if not found:
        return Sign("none")
    spot, times = found.most_common(1)[0]
    label = state.station(spot).label
    if times > 1:
        return Sign("same", text(f"{label} stood out in {times} passes."))
    if len(found) > 1:
        return Sign("changing", text(f"{len(found)} spots stood out, each only once."))
    return Sign("once", text(f"{label} stood out, once."))


def _form(state: State, full: list[Pass]) -> Sign:
    """How much the surface itself takes of the limit."""
    limit, most = state.plan.limit.mm, -1.0
    for one in full[-2:]:
        for _, look in _looks(state, one):
            if isinstance(look, RingLook) and look.round is not None:
                most = max(most, look.round.form_mm)
            elif isinstance(look, LineLook) and look.line is not None:
                most = max(most, look.line.zone_mm)
    if most < 0:
        return Sign("none")
    part = most / limit
    if part < 0.35:
        return Sign("small")
    words = text("The surface alone makes ", length(most), " of a limit of ", length(limit), ".")
    return Sign("large" if part >= 0.8 else "some", words)


def _scatter(state: State, full: list[Pass]) -> Sign:
    """How much more readings scatter from pass to pass than the indicator does."""
    most = 0.0
    for one in full[-1:]:
        for measure, look in _looks(state, one):
            known = sum(g.count - 1 for g in look.groups.values()) > 0 or (
                isinstance(look, LineLook) and look.freedom > KNOWN
            )
            if known:
                most = max(most, math.sqrt(look.variance / measure.gauge.read_variance))
    if not most:
        return Sign("none")
    words = text(f"Readings scatter {most:.1f} times what this indicator should.")
    return Sign("usual") if most < 1.5 else Sign("more", words) if most < 2.5 else Sign("much", words)


#: Two passes do not repeat where a spot is off by more than so many times what two readings differ by.
APART = 4.0
#: One spot alone is off where the others are off by no more than this part of it.
ALONE = 0.45


def _repeats(state: State, full: list[Pass]) -> Sign:
    """Spots of two passes against each other, with what moved as a whole taken off: all alike, one apart, or none alike."""
    found, most = Sign("none"), 0.0
    for one, after in pairwise(full):
        for measure, look in _looks(state, one):
            if measure.gauge.measures_gap:
                continue
            before, now = look.toward_mm, measure.look(state, after).toward_mm
            spots = [s for s in measure.stations if s.id in before and s.id in now]
            if len(spots) < 4:
                continue
            apart = np.array([now[s.id] - before[s.id] for s in spots])
            theta = np.radians([s.angle_deg for s in spots])
            x = np.array([s.y_mm if isinstance(measure, Edge) and measure.upright else s.x_mm for s in spots])
            plain = np.column_stack(
                [np.ones(len(spots)), x]
                if isinstance(measure, Edge)
                else [np.ones(len(spots)), np.cos(theta), np.sin(theta)]
            )
            left = np.abs(apart - plain @ np.linalg.lstsq(plain, apart, rcond=None)[0])
            worst = int(left.argmax())
            size = float(left[worst]) / math.sqrt(2 * measure.gauge.read_variance)
            if found.case == "none":
                found = Sign("alike")
            if size < APART or size <= most:
                continue
            most = size
            # what one spot is off pulls the others a little: told by fitting again without it
            rest = np.delete(np.arange(len(spots)), worst)
            fitted = plain @ np.linalg.lstsq(plain[rest], apart[rest], rcond=None)[0]
            off, whole = float(np.abs(apart - fitted)[rest].max()), float(abs(apart[worst] - fitted[worst]))
            if len(spots) > plain.shape[1] + 1 and off < ALONE * whole:
                found = Sign("one", text(f"{spots[worst].label} changed by ", length(whole), ", the others did not."))
            else:
                found = Sign("all", text("Two passes do not repeat, by ", length(float(left[worst])), "."))
    return found


def _place(state: State, one: Pass) -> complex | None:
    """The error that a pass shows, by the first ring or edge that is corrected."""
    for _, look in _looks(state, one):
        alone = look.alone if isinstance(look, RingLook) else None
        found = look.center if alone is None else complex(*alone.center)
        if found is not None:
            return found
    return None


def tells(state: State, one: Pass) -> bool:
    """Does a pass say how far off it is? One that is mostly off the dial does not."""
    return _place(state, one) is not None or not any(True for _ in _looks(state, one))


def _answers(state: State) -> Evidence:
    """What moves got of what was asked, across it, and on reversing."""
    shares: list[float] = []
    back: list[float] = []
    across: list[float] = []
    way: dict[int, int] = {}
    for one, after in pairwise(state.passes):
        moves = [m for m in state.moved_in(one.number) if m.teaches]
        here, there = _place(state, one), _place(state, after)
        asked = sum((rect(m.asked.mm, m.asked.deg) for m in moves if m.asked is not None), 0j)
        least = LEAST_MARKS * state.plan.gauge.graduation_mm
        turned = False
        for move in moves:
            if isinstance(move, Jaws):
                pair, sign = move.draw.number % 2, 1 if move.draw.number <= 2 else -1
                turned = turned or way.get(pair, sign) != sign
                way[pair] = sign
        if here is None or there is None or any(m.asked is None or m.rezero for m in moves) or abs(asked) < least:
            continue
        got = (there - here) * asked.conjugate() / abs(asked) ** 2
        (back if turned else shares).append(got.real)
        if abs(asked) >= 2 * least and after.number - 1 not in state.tightenings:
            across.append(abs(got.imag))
    return {
        "answer": _answer(shares),
        "steady": _steady(shares),
        "reversed": _reversed(shares, back),
        "across": _across(across),
    }


def _answer(shares: list[float]) -> Sign:
    if not shares:
        return Sign("none")
    least, most = min(shares), max(shares)
    told = text(f"A move got {100 * least:.0f} % of what was asked.")
    if least < -0.3:
        return Sign("wrong", text("A move took the part the other way."))
    if sorted(shares)[len(shares) // 2] < 0.6:
        return Sign("little", told)
    return Sign("much", text(f"A move got {100 * most:.0f} % of what was asked.")) if most > 1.35 else Sign("usual")


def _steady(shares: list[float]) -> Sign:
    if len(shares) < 2:
        return Sign("none")
    apart = max(shares) - min(shares)
    words = text(f"Moves got between {100 * min(shares):.0f} and {100 * max(shares):.0f} % of what was asked.")
    return Sign("no", words) if apart > 0.6 else Sign("yes")


def _reversed(shares: list[float], back: list[float]) -> Sign:
    if not back:
        return Sign("none")
    usual = sorted(shares)[len(shares) // 2] if shares else 0.85
    least = min(back)
    if least < 0.55 * usual:
        return Sign("loses", text(f"A screw that turned back got {100 * least:.0f} % of what was asked."))
    return Sign("same")


def _across(across: list[float]) -> Sign:
    if not across:
        return Sign("none")
    most = max(across)
    words = text(f"A move went sideways too, by {100 * most:.0f} % of what was asked.")
    return Sign("small") if most < 0.22 else Sign("some", words) if most < 0.4 else Sign("large", words)


def _shift(state: State) -> Sign:
    """What tightening with nothing moved did, against the limit."""
    shifts: list[complex] = []
    for one, after in pairwise(state.passes):
        here, there = _place(state, one), _place(state, after)
        if (
            here is not None
            and there is not None
            and one.number in state.tightenings
            and not state.moved_in(one.number)
        ):
            shifts.append(there - here)
    if not shifts:
        return Sign("none")
    most = max(abs(s) for s in shifts)
    if most < 0.4 * state.plan.limit.mm:
        return Sign("small")
    words = text("Tightening moved it by ", length(most), ".")
    if len(shifts) > 1:
        mean = sum(shifts, 0j) / len(shifts)
        apart = max(abs(s - mean) for s in shifts)
        return (
            Sign("same", words) if apart < 0.4 * abs(mean) else Sign("differs", text(words, " Not the same each time."))
        )
    return Sign("large", words)


def _left(procedure: Registered, state: State) -> Sign:
    """What is left, against what can be told."""
    judged = procedure.solution(state).judged
    if judged is None or judged.outcome == "holds":
        return Sign("none" if judged is None else "inside")
    part = judged.value_mm / max(judged.band_mm, 1e-9)
    if part < 1:
        return Sign("hidden", text("What is left, ", length(judged.value_mm), ", is less than its own ±."))
    return Sign("little" if part < 3 else "much")


def _fine(state: State) -> Sign:
    """How fine the limit is for the indicator and the machine."""
    plan = state.plan
    repeats = max([plan.machine.floor_mm, *(m.gauge.graduation_mm for m in state.measures.values())])
    part = plan.limit.mm / repeats
    words = text("The limit is ", length(plan.limit.mm), "; indicator and machine repeat to ", length(repeats), ".")
    return Sign("below", words) if part < 1.7 else Sign("near", words) if part < 4 else Sign("coarse")
