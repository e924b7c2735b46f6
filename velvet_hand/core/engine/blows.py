"""A move by tapping: bring the high side to the gauge, tap there, and stop at the aim."""

from __future__ import annotations

from ..angles import apart, direction_deg
from ..fit.circle import ray
from ..move import Act, Move, Needle
from ..setup.state import State
from ..wording import Text, length, strong, text
from .beyond import away_from, pull, run_for
from .rings import RingLook, effective_radius_mm


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
    teaches: bool = True,
) -> Move:
    """Tap ``what`` (``the far end``) until the needle stands at its aim.

    Parameters
    ----------
    need
        Displacement of the ring's centre that is wanted; the blow lands on the other side.
    asked_mm
        How far the work is to go along it, the holder's gain allowed for.
    where
        The blow's place in words.

    The aim is what the exact ray model says will be read at the blow's side afterwards.
    """
    fit, sense = look.fit, state.sense_of(next(s for s in state.stations if s.id in look.toward_mm))
    assert fit is not None
    deg = (direction_deg(need) + 180) % 360
    radius, sign = effective_radius_mm(state), sense.centre_sign
    centre = complex(fit.x_mm, fit.y_mm)
    after = centre + need / abs(need) * asked_mm
    shifted = look.drift_mm or 0.0
    now = sense.needle_mm(fit.mean_mm + float(ray(deg, centre.real, centre.imag, radius, sign)) + shifted)
    aim = sense.needle_mm(fit.mean_mm + float(ray(deg, after.real, after.imag, radius, sign)) + shifted)
    needle = "falls" if aim < now else "rises"
    near = next((s for s in state.stations if s.id in look.toward_mm and apart(s.angle_deg, deg) < 2), None)
    bring = "Carry the gauge to " if state.plan.carrier == "gauge_turns" else "Bring "
    to = "" if state.plan.carrier == "gauge_turns" else " to the gauge"
    light = "many light taps" if asked_mm > 0.03 else "the lightest taps"
    return Move(
        id=f"p{look.number}.tap.{deg:.1f}.{aim:+.5f}",
        pass_no=look.number,
        index=1,
        count=1,
        acts=(Act(do="tap", jaw=0, thing="work", at_deg=deg, mm=asked_mm, key_deg=None),),
        watch_station=near.id if near else "",
        watch_label=f"{deg:.0f}°" if not near else near.label.lower(),
        watch_deg=deg,
        now_mm=now,
        aim_mm=aim,
        needle=needle,
        direction_deg=direction_deg(need),
        asked_mm=asked_mm,
        aims={s: sense.needle_mm(fit.mean_mm + shifted) for s in look.toward_mm},
        title=title,
        teaches=teaches,
        sentence=text(
            bring, *where, f"{to}. There, ", strong(f"tap {what}"), f" inward until the needle {needle} to the aim."
        ),
        reason=text(*reason, f" Soft hammer, {light}; read the needle when it is still. "),
        half_sentence=(),
        back=(),
        log=text(f"{what.capitalize()} tapped at {deg:.0f}° (asked ", length(asked_mm), ")"),
    )


def off_tap(state: State, look: RingLook, what: str) -> Move | None:
    """A blow from readings past the end of the dial: until the needle has run to its other end, or is back."""
    pulled = pull(state, look)
    away = away_from(pulled) if pulled is not None else 0.0
    run = run_for(state, look, away) if pulled is not None else None
    if run is None:
        return None
    sense, deg = state.sense, (away + 180) % 360
    aim = None if run.end_mm is None else sense.needle_mm(run.end_mm)
    now = sense.needle_mm(look.toward_mm[run.station.id]) if aim is not None else None
    needle: Needle = "comes back"
    if aim is not None and now is not None:
        needle = "rises" if aim > now else "falls"
    stop = "is back on the dial" if aim is None else f"{needle} to the aim"
    label = run.station.label.lower()
    return Move(
        id=f"p{look.number}.tap.off.{deg:.0f}",
        pass_no=look.number,
        index=1,
        count=1,
        acts=(Act(do="tap", jaw=0, thing="work", at_deg=deg, mm=run.asked_mm, key_deg=None),),
        watch_station=run.station.id,
        watch_label=label,
        watch_deg=run.station.angle_deg,
        now_mm=now,
        aim_mm=aim,
        needle=needle,
        direction_deg=away,
        asked_mm=run.asked_mm,
        aims={},
        rezero=True,
        title="off the dial",
        sentence=text(
            f"With {label} at the gauge, ", strong(f"tap {what}"), f" at {deg:.0f}° inward until the needle {stop}."
        ),
        reason=text(
            f"The needle ran off the end, so this is only a bound: the work sits toward {deg:.0f}°. This takes out as "
            "much as the dial can follow; then set zero afresh there, needle mid-travel, and read again."
        ),
        half_sentence=(),
        back=(),
        log=text(f"{what.capitalize()} tapped at {deg:.0f}°, off the dial"),
    )
