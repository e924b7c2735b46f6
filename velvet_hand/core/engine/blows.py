"""A move by tapping: bring the high side to the gauge, tap there, and stop at the aim."""

from __future__ import annotations

from typing import Any

from ..angles import apart, direction_deg
from ..fit.circle import ray
from ..measure.ring import RingLook
from ..move import Asked, Needle, TapRound
from ..setup.state import State
from ..wording import Text, degrees, length, strong, text
from .beyond import Run, away_from, pull, run_for


def tap_move(
    state: State,
    look: RingLook,
    need: complex,
    asked_mm: float,
    *,
    what: str,
    where: Text,
    title: str,
    reason: Text,
    watched: str = "",
    teaches: bool = True,
) -> TapRound:
    """Tap ``what`` (``the far end``) until the needle stands at its aim.

    Parameters
    ----------
    need
        Displacement of the ring's center that is wanted; the blow lands on the other side.
    asked_mm
        How far the work is to go along it, the holder's gain allowed for.
    where
        The blow's place in words.
    watched
        Where the indicator is, when that is not where the blow falls.

    The aim is what the exact ray model says will be read at the blow's side afterwards.
    """
    fit, sense = look.fit, state.sense_in(look.ring.slot)
    assert fit is not None
    deg = (direction_deg(need) + 180) % 360
    radius, sign = look.ring.radius_mm, look.ring.sign
    center = complex(fit.x_mm, fit.y_mm)
    after = center + need / abs(need) * asked_mm
    shifted = fit.mean_mm + look.walked_mm
    near = next((s for s in state.stations if s.id in look.toward_mm and apart(s.angle_deg, deg) < 2), None)
    needle = Needle.at(
        sense,
        shifted + float(ray(deg, center.real, center.imag, radius, sign)),
        shifted + float(ray(deg, after.real, after.imag, radius, sign)),
        station_id=near.id if near else "",
        label=near.label.lower() if near else f"{watched}, {degrees(deg)}" if watched else f"{degrees(deg)}",
        deg=deg,
    )
    at = f"needle at the {watched} " if watched else ""
    bring = "Carry the indicator there" if state.plan.carrier == "gauge_turns" else "Bring that place to the indicator"
    light = "many light taps" if asked_mm > 0.03 else "the lightest taps"
    return TapRound(
        pass_no=look.number,
        at_deg=deg,
        mm=asked_mm,
        needle=needle,
        asked=Asked(mm=asked_mm, deg=direction_deg(need)),
        aims={s: sense.needle_mm(shifted) for s in look.toward_mm},
        title=title,
        teaches=teaches,
        sentence=text("At ", *where, ": ", strong(f"tap {what}"), f" inward, {at}{needle.to}."),
        reason=text(*reason, f" {bring}. Soft hammer, {light}. "),
        log=text(f"{what.capitalize()} tapped at {degrees(deg)} (asked ", length(asked_mm), ")"),
    )


def run_needle(state: State, look: RingLook, run: Run) -> Needle:
    """The needle of a run to the end of the dial, or back onto it."""
    at: dict[str, Any] = {
        "station_id": run.station.id,
        "label": run.station.label.lower(),
        "deg": run.station.angle_deg,
    }
    if run.end_mm is None:
        return Needle.back(**at)
    return Needle.at(state.sense_in(look.ring.slot), look.toward_mm[run.station.id], run.end_mm, **at)


def off_tap(state: State, look: RingLook, what: str) -> TapRound | None:
    """A blow from readings past the end of the dial: until the needle has run to its other end, or is back."""
    pulled = pull(state, look)
    away = away_from(pulled) if pulled is not None else 0.0
    run = run_for(state, look, away) if pulled is not None else None
    if run is None:
        return None
    deg, needle = (away + 180) % 360, run_needle(state, look, run)
    return TapRound(
        pass_no=look.number,
        at_deg=deg,
        mm=run.asked_mm,
        needle=needle,
        asked=None if run.asked_mm is None else Asked(mm=run.asked_mm, deg=away),
        rezero=True,
        title="off the dial",
        sentence=text(
            f"{needle.label.capitalize()} at the indicator: ",
            strong(f"tap {what}"),
            f" at {degrees(deg)} inward, {needle.to}.",
        ),
        reason=text(
            f"The needle ran off the end, so this is only a bound: the part sits toward {degrees(deg)}. This takes out as "
            "much as the dial can follow; then set zero afresh there, needle mid-travel, and read again."
        ),
        log=text(f"{what.capitalize()} tapped at {degrees(deg)}, off the dial"),
    )
