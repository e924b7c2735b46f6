"""Figures, judgment and stop rules of a pass."""

from __future__ import annotations

from ...angles import direction_deg
from ...estimate.pairs import Screwed
from ...measure.base import full_before
from ...move import Move
from ...plan.jaws import JawPlan
from ...readings import Pass
from ...setup.state import State
from ...told import Caveat, Figure, Row, Solution
from ...verdict import Verdict
from ...wording import Text, angle, length, so_many, strong, text
from ..answers import Answered
from ..learning import got_mm, wrong_way_caveat
from ..policy import SMALL, Next, held_before, next_of
from ..rings import judge_ring, out_of_round
from ..telling import clipped_caveat, drift_caveat, odd_caveat, off_caveats, pass_line, wild_caveats, zero_caveat
from . import off_dial
from .answers import acts_of, answered
from .look import PAIRS, Look, aims_truest, along, jaw_station, look_at
from .moves import moves, one_flat, small_enough_mm, wanted
from .policy import odds
from .throw import judge_throw

_LOBES = {2: "oval", 3: "three-lobed", 4: "four-lobed", 5: "five-lobed"}


def toward_words(state: State[JawPlan], deg: float) -> Text:
    """A direction by the jaws it lies at or between."""
    holder = state.plan.holder
    gaps = {j: (deg - holder.jaw_deg(j) + 180) % 360 - 180 for j in (1, 2, 3, 4)}
    near = sorted(gaps, key=lambda j: abs(gaps[j]))
    if abs(gaps[near[0]]) < 8:
        return text(f"jaw {near[0]}")
    return text(f"jaw {near[0]}, ", angle(abs(gaps[near[0]])), f" to {near[1]}")


def judge_look(state: State[JawPlan], look: Look) -> Verdict | None:
    """The pass against the limit."""
    if state.plan.limit.kind == "throw":
        return judge_throw(state, look)
    return judge_ring(state, look)


def solve(state: State[JawPlan], *, decides: bool = True) -> Solution:
    """Everything that the open pass says, and the moves that follow from it; ``decides``: what comes after it as well."""
    current = state.open_pass
    if current is None:
        return Solution(
            pass_no=state.next_pass_no,
            figures=(),
            moves=(),
            judged=None,
            ready=False,
            stop=(),
            caveats=(),
            wild=(),
            x_mm=None,
            y_mm=None,
            need_reading=(),
        )
    look, known = look_at(state, current), answered(state)
    full = look_at(state, full_before(state, current))  # what a full pass can prove, it says by itself
    judged = judge_look(state, full) if decides else None
    to_make = moves(state, look, known)
    then = _next(state, look, full, known, judged, to_make) if decides and look.complete else Next()
    return Solution(
        pass_no=current.number,
        figures=_figures(state, look),
        moves=to_make,
        judged=judged,
        **then.told,
        caveats=_caveats(state, current, look, bool(to_make)),
        wild=look.wild,
        x_mm=look.fit.x_mm if look.fit else None,
        y_mm=look.fit.y_mm if look.fit else None,
        need_reading=_need_reading(state, current, look),
    )


def _next(
    state: State[JawPlan], look: Look, full: Look, known: Answered[Screwed], judged: Verdict | None, to_make: tuple[Move, ...]
) -> Next:  # fmt: skip
    """What comes after this pass; ``full`` is the last full one, and ``judged``."""
    current = state.passes[-1]
    if judged is None or known.lost or current.back or look.round is None:
        return Next(ready=current.quick and state.tight)
    if not to_make and not current.moved and wanted(state, look, known):
        return Next()  # the dial cannot show its aim: zero first
    left = 2 * abs(complex(*look.round.center) - look.target)
    acts = acts_of(to_make, known.ways or (0, 0))
    return next_of(
        state,
        odds(state, full, known, judged),
        judged,
        acts,
        left=bool(to_make),
        stop=out_of_round(look, judged, left, "moving jaws", aims_truest(state.plan) and look.target != 0),
        small=SMALL,
        held=held_before(state, lambda one: judge_look(state, look_at(state, one))),
    )


def _figures(state: State[JawPlan], look: Look) -> tuple[Figure, ...]:
    fit, plan = look.fit, state.plan
    if fit is None:
        along = [
            Figure(
                id=f"pair_{a}{b}", label=f"Off center along jaws {a} and {b}", mm=abs(look.pair_mm[(a, b)]),
                u_mm=plan.gauge.u_read_mm / 2**0.5,
                note=text(f"toward jaw {a if look.pair_mm[(a, b)] >= 0 else b}"),
            )
            for a, b in PAIRS
            if (a, b) in look.pair_mm
        ]  # fmt: skip
        return tuple(along)
    spread = 57.3 * fit.u_mm / fit.offset_mm if fit.offset_mm > 2 * fit.u_mm else None
    toward = (*text("toward "), *toward_words(state, fit.toward_deg)) if spread else text("no direction to speak of")
    found = [
        Figure(id="tir", label="TIR", mm=look.tir_mm, u_mm=look.tir_u_mm),
        Figure(id="off_centre", label="Off center", mm=fit.offset_mm, u_mm=look.offset_u_mm, note=toward),
    ]
    lobes = text(_LOBES.get(fit.lobe, f"{fit.lobe} lobes")) if fit.lobe else ()
    if len(look.toward_mm) > 3:
        found.append(Figure(id="form", label="Form left over", mm=fit.form_mm, note=lobes))
    if look.drift_mm is not None:
        found.append(Figure(id="drift", label="Closing error", mm=look.drift_mm))
    kick = kick_of(state, look)
    if kick is not None:
        found.append(
            Figure(
                id="kick", label="Shift on tightening", mm=kick[0],
                note=(*text("toward "), *toward_words(state, kick[1])) if kick[0] > 2 * fit.u_mm else (),
            )
        )  # fmt: skip
    return tuple(found)


def kick_of(state: State[JawPlan], look: Look) -> tuple[float, float] | None:
    """Size and direction of the shift between the last pass before tightening and this one."""
    before = look.number - 1
    if look.fit is None or before not in state.tightenings or not 1 <= before <= len(state.passes):
        return None
    if any(r.move.pass_no == before for r in state.moves):
        return None
    earlier = look_at(state, state.passes[before - 1]).fit
    if earlier is None:
        return None
    shift = complex(look.fit.x_mm - earlier.x_mm, look.fit.y_mm - earlier.y_mm)
    return abs(shift), direction_deg(shift)


def _caveats(state: State[JawPlan], current: Pass, look: Look, movable: bool) -> tuple[Caveat, ...]:
    found: list[Caveat] = []
    found += off_caveats(state, (look,))
    if not movable and not current.moved and _zero_misplaced(state, look):
        found += zero_caveat(state, "by rule")
    found += wild_caveats(state, look.wild)
    fit = look.fit
    if fit and fit.suspicious and not look.wild:
        found.append(
            Caveat(
                code="out_of_round_or_wild",
                text=text(
                    "The two pairs do not agree by ",
                    length(fit.form_mm),
                    ": out of round, or one reading is wrong. With four readings nobody can say which.",
                ),
            )
        )
    found += [*clipped_caveat(state, look), *drift_caveat(state, current)]
    if current.number > 1:
        both = {n: look_at(state, state.passes[n - 1]) for n in (current.number - 1, current.number)}
        found += wrong_way_caveat(state, current, both, along)
        found += odd_caveat(answered(state).odd and not current.moved)
    return tuple(found)


def _zero_misplaced(state: State[JawPlan], look: Look) -> bool:
    """Both ends of a pair off the same end, or no run left on the dial to move by."""
    for a, b in PAIRS:
        ends = [look.off.get(s.id) for s in (jaw_station(state, a), jaw_station(state, b)) if s]
        if len(ends) == 2 and ends[0] and ends[0] == ends[1]:
            return True
        if off_dial.high_jaw(state, look, (a, b)) is not None and off_dial.move(state, look) is None:
            return True
    if look.complete and not look.off and state.sense.proved and one_flat(state, look) is None:
        return wanted(state, look, answered(state))
    return bool(look.complete and look.off and off_dial.move(state, look) is None)


def _need_reading(state: State[JawPlan], current: Pass, look: Look) -> Text:
    """What to read next, in words, when the pass is not complete."""
    left = [s for s in state.asked(current) if not current.answered(s.id)]
    flat = one_flat(state, look)
    if flat is not None:
        return text("Both flats of a pair count: read ", strong(flat.lower()), " beside what is bad.")
    if not left:
        good = len(current.good())
        if good < 3:
            return text(
                f"Only {so_many(good, 'good reading')}: a circle needs three. "
                "Correct a reading, or take a bad mark off."
            )
        return ()
    done = [p for p in PAIRS if p in look.pair_mm and abs(look.pair_mm[p]) <= small_enough_mm(state, look)]
    if len(look.toward_mm) == 2 and done:
        a, b = done[0]
        c, d = next(p for p in PAIRS if p != (a, b))
        return text(f"Jaws {a} and {b} agree. Now read ", strong(f"jaws {c} and {d}"), ".")
    return ()


def pass_figures(state: State[JawPlan], one: Pass) -> Row:
    """A line of the table of passes."""
    look = look_at(state, one)
    fit = look.fit
    after = {one.number: look}
    if one.number < len(state.passes):
        after[one.number + 1] = look_at(state, state.passes[one.number])
    pairs = got_mm(state, one.number, after, along)
    mine = [m.asked.mm for m in state.moved_in(one.number) if m.asked]
    judged = judge_look(state, look) if look.complete else None
    toward = toward_words(state, fit.toward_deg) if fit else ()
    got = _got_of_largest(pairs) if sum(a for a, _ in pairs) else None
    return pass_line(state, one, look, toward, judged, max(mine, default=None), got)


def _got_of_largest(pairs: list[tuple[float, float]]) -> float:
    return max(pairs, key=lambda p: p[0])[1]
