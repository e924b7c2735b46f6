"""Figures and caveats that circles share, in words."""

from __future__ import annotations

from ..measure.ring import RingLook
from ..quantity import Quantity
from ..readings import Pass
from ..setup.state import State
from ..told import Caveat, Figure, Row
from ..verdict import Verdict
from ..wording import Text, listed, signed, text
from .beyond import past_any_dial
from .look import Look

#: So many of its last passes are a set-up’s lesson.
TAUGHT = 60


def closings(state: State) -> tuple[float, ...]:
    """Closing errors of the last passes."""
    found = []
    for one in state.passes[-TAUGHT:]:
        for ring in one.closings:
            first, again = one.closed_by(ring)
            if first is not None and again is not None:
                scale = state.sense_in(state.measures[ring].slot).scale
                found.append((again - first) * scale)
    return tuple(found)


def ring_figures(state: State, look: RingLook, toward: Text, name: str = "", key: str = "") -> tuple[Figure, ...]:
    """TIR, off center, form and closing error of a ring; ``name`` is put before each."""
    fit = look.fit
    if fit is None:
        return ()
    head = f"{name}: " if name else ""
    plain = fit.offset_mm > 2 * fit.u_mm
    note = (*text("toward "), *toward) if plain and toward else () if plain else text("no direction to speak of")
    found = [
        Figure(id=f"{key}tir", label=f"{head}TIR", mm=look.tir_mm, u_mm=look.tir_u_mm),
        Figure(id=f"{key}off_centre", label=f"{head}Off center", mm=fit.offset_mm, u_mm=look.offset_u_mm, note=note),
    ]
    if look.drift_mm is not None:
        found.append(Figure(id=f"{key}drift", label=f"{head}Closing error", mm=look.drift_mm))
    return tuple(found)


def worst_drift(state: State, one: Pass) -> float | None:
    """The closing error of the pass that is largest, of whatever was read in it."""
    drifts = [measure.seen(state, one).drift_mm for measure in state.measures.values()]
    return max((mm for mm in drifts if mm is not None), key=abs, default=None)


def drift_caveat(state: State, one: Pass) -> tuple[Caveat, ...]:
    """A first spot did not come back, by its own indicator; of several the one that is farthest off."""
    closed = ((m, m.seen(state, one).drift_mm) for m in state.measures.values())
    off = [(m, mm) for m, mm in closed if mm is not None and not m.gauge.came_back(mm)]
    if not off:
        return ()
    measure, mm = max(off, key=lambda two: abs(two[1]))
    first = "The first spot" if len(state.measures) == 1 else (measure.mine(state, one) or measure.stations)[0].label
    words = ". Something moved: base, joints, preload or the part. It is spread over the pass; better read again."
    told = text(f"{first} did not come back: ", signed(state.sense_in(measure.slot).needle_mm(mm)), words)
    return (Caveat(code="drift", text=told),)


def wild_caveats(state: State, wild: tuple[str, ...]) -> tuple[Caveat, ...]:
    """Readings that do not sit with the others."""
    labels = {s.id: s.label for s in state.stations}
    return tuple(
        Caveat(
            code="wild_reading",
            text=text(
                f"{labels[one]} does not sit with the others and is left out. Look: a nick, "
                "a keyway? Mark it bad, or correct it if it was mistyped."
            ),
        )
        for one in wild
    )


def clipped_caveat(state: State, look: RingLook) -> tuple[Caveat, ...]:
    """Too little preload: the low side of the swing is cut off flat, and the TIR shows too small."""
    flat = look.flat_low
    if not flat:
        return ()
    return (
        Caveat(
            code="preload",
            text=text(
                f"{flat} spots share the lowest reading: the stylus may have left the surface there, and the TIR "
                "shows too small. More preload, then read again."
            ),
        ),
    )


def zero_caveat(state: State, near_by: str) -> tuple[Caveat, ...]:
    """No run is left on the dial, or no zero brings onto it what is past its end, or no gauge fills the gap; ``near_by`` says how
    it is brought nearer then.
    """
    if state.plan.gauge.measures_gap:
        words = "A gap is wider than can be measured."
        return (Caveat(code="gap_too_wide", text=text(words)),)
    one = state.passes[-1]
    if not one.quick and past_any_dial(state, one):
        words = f"Bring it nearer {near_by}, or take an indicator with more travel: no zero has all of it on the dial. Then read again."
        return (Caveat(code="too_far_out", text=text(words)),)
    words = "The dial’s zero sits too near one end: set it afresh with the needle mid-travel, then read again."
    return (Caveat(code="zero_misplaced", text=text(words)),)


def too_few(one: Pass, spot: str) -> Text:
    """What to do when a whole pass says nothing."""
    if one.ran_off:
        return text(
            f"The needle ran off at too many {spot}s: bring it nearer, or set zero so that they are on the dial. Then read again."
        )
    return text(f"Too few good readings: mark no more than one {spot} bad, and read again.")


def off_caveats(state: State, looks: tuple[Look, ...]) -> tuple[Caveat, ...]:
    """Readings past the end of the dial, where nobody said which end."""
    labels = {s.id: s.label for s in state.stations}
    unsaid = [labels[k] for look in looks for k, end in look.off.items() if end == 0]
    if not unsaid:
        return ()
    words = f"{listed(unsaid)} ran off: past which end? Correct it to +off or -off."
    return (Caveat(code="off_which_end", text=text(words)),)


def pass_line(
    state: State,
    one: Pass,
    look: RingLook,
    toward: Text,
    judged: Verdict | None,
    asked_mm: float | None = None,
    got_mm: float | None = None,
) -> Row:
    """A line of the table of passes, by one ring."""
    fit, kind = look.fit, state.plan.limit.kind
    if fit is None:
        found: tuple[Quantity, ...] = ()
    else:
        found = (
            Quantity(kind="tir", mm=look.tir_mm, u_mm=look.tir_u_mm),
            Quantity(kind="off_centre", mm=fit.offset_mm, u_mm=look.offset_u_mm),
        )
    main = next((q for q in found if q.kind == kind), None)
    if main is None and judged is not None:  # a throw: what is judged says it
        main, found = judged.value, (judged.value, *(v.value for v in judged.beside))
    return Row(
        number=one.number,
        purpose=one.purpose,
        main=main,
        beside=tuple(q for q in found if q is not main) if main else (),
        toward=toward if fit and fit.offset_mm > 2 * fit.u_mm else (),
        asked_mm=asked_mm,
        got_mm=got_mm,
        outcome=judged.outcome if judged else None,
        track_x_mm=fit.x_mm if fit else None,
        track_y_mm=fit.y_mm if fit else None,
    )


def odd_caveat(odd: bool) -> tuple[Caveat, ...]:
    """The last move was a surprise."""
    words = "That move did not do what moves did before. Something slipped, or was bumped or mistyped; little is learned from it."
    return (Caveat(code="odd_move", text=text(words)),) if odd else ()
