"""Work that is read on one or more circles: what each circle says, and how sure it is.

A ring is a circle of stations read by one gauge in one place. Its readings are turned into
geometry here, by ``Sense``, and nowhere else; a ring has a zero of its own, so readings of different
rings are only ever compared as offsets.
"""

from __future__ import annotations

from dataclasses import dataclass

from ..budget import budget
from ..fit.circle import CircleFit, fit_circle
from ..quantity import LimitKind
from ..readings import Pass, Reading, Station
from ..setup.state import State
from ..verdict import Term, Verdict, judge
from ..wording import Text, length, text

#: A flat, as a circle.
FLAT_MM = 1e7


@dataclass(frozen=True, slots=True)
class RingLook:
    """One ring of one pass as geometry.

    ``toward_mm`` holds the good readings, drift taken out, by station id; ``off`` the end (+1 toward,
    -1 away, 0 not said) of readings past the gauge's travel; ``fit`` is None until three good
    readings fix a circle.
    """

    number: int
    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    fit: CircleFit | None
    wild: tuple[str, ...]
    complete: bool

    @property
    def range_mm(self) -> float:
        """Highest minus lowest of the readings that were used."""
        used = [v for k, v in self.toward_mm.items() if k not in self.wild]
        return max(used) - min(used) if used else 0.0

    @property
    def centre(self) -> complex | None:
        """Offset of the ring's centre, as a complex number."""
        return complex(self.fit.x_mm, self.fit.y_mm) if self.fit else None


def effective_radius_mm(state: State) -> float:
    """Radius of the circle that the ball's centre follows: R + tip outside, R - tip in a bore."""
    radius = state.plan.part.diameter_mm / 2
    return radius + state.sense.centre_sign * state.plan.gauge.tip_radius_mm


def model_radius_mm(state: State) -> float:
    """Radius of the ray model: on flats, read at their dead point, ``r = e . n`` exactly."""
    return FLAT_MM if state.plan.flats else effective_radius_mm(state)


def _drift(state: State, one: Pass, ids: set[str]) -> tuple[float | None, list[Reading]]:
    """Closing error (toward value) and the ring's readings in the order they were taken."""
    order = sorted((r for k, r in one.good().items() if k in ids), key=lambda r: r.seq)
    closing = one.closing
    if closing is None or closing.needle_mm is None or closing.station_id not in ids:
        return None, order
    first = one.readings.get(closing.station_id)
    if first is None or first.needle_mm is None:
        return None, order
    sense = state.sense_of(state.station(closing.station_id))
    return sense.toward_mm(closing.needle_mm) - sense.toward_mm(first.needle_mm), order


def look_ring(state: State, one: Pass, ring: str = "", radius_mm: float | None = None, flats: bool = False) -> RingLook:
    """Turn the readings of a ring into geometry.

    A closing error d is spread over the ring in the order of reading: ``r_i - d i/N``. On ``flats``
    each opposed pair has a size of its own, so only the half differences count and the model is
    ``r = e . n``, exactly.
    """
    key = (f"ring {ring} {radius_mm} {flats}", one.number)
    if key not in state.memo:
        state.memo[key] = _look_ring(state, one, ring, radius_mm, flats)
    found: RingLook = state.memo[key]
    return found


def heights(state: State, one: Pass, stations: list[Station]) -> tuple[dict[str, float], dict[str, int], float | None]:
    """Toward values of the good readings with the drift taken out, the ends run off, and the closing error."""
    drift, order = _drift(state, one, {s.id for s in stations})
    by_id = {s.id: s for s in stations}
    toward = {
        r.station_id: state.sense_of(by_id[r.station_id]).toward_mm(r.needle_mm or 0.0)
        - (drift or 0.0) * i / len(order)
        for i, r in enumerate(order)
    }
    off = {
        r.station_id: -1 if r.lost else state.sense_of(by_id[r.station_id]).toward_end(r.off or 0)
        for r in one.readings.values()
        if r.station_id in by_id and not r.known and r.deg is None and r.station_id not in one.bad
    }
    return toward, off, drift


def _look_ring(state: State, one: Pass, ring: str, radius_mm: float | None, flats: bool) -> RingLook:
    stations = [s for s in state.asked(one) if s.ring == ring]
    by_id = {s.id: s for s in stations}
    toward, off, drift = heights(state, one, stations)
    model = _about_pairs(stations, toward) if flats else toward
    ids = [s.id for s in stations if s.id in model]
    fit: CircleFit | None = None
    proved = bool(stations) and state.sense_of(stations[0]).proved
    if len(ids) >= 3 and proved:
        gauge = state.plan.gauge_in(state.plan.slot(ring))
        found = fit_circle(
            tuple(by_id[i].angle_deg for i in ids),
            tuple(model[i] for i in ids),
            FLAT_MM if flats else radius_mm or effective_radius_mm(state),
            state.sense.centre_sign,
            gauge.u_read_mm,
        )
        fit = found if found.determined else None
    return RingLook(
        number=one.number,
        toward_mm=toward,
        off=off,
        drift_mm=drift,
        fit=fit,
        wild=tuple(ids[i] for i in fit.left_out) if fit else (),
        complete=bool(stations) and all(one.answered(s.id) for s in stations),
    )


def _about_pairs(stations: list[Station], toward: dict[str, float]) -> dict[str, float]:
    """Each reading less the mean of its opposed pair; flats without their opposite say nothing."""
    found = {}
    for station in stations:
        across = next((s for s in stations if abs((s.angle_deg - station.angle_deg) % 360 - 180) < 0.5), None)
        if across and station.id in toward and across.id in toward:
            found[station.id] = (toward[station.id] - toward[across.id]) / 2
    return found


def form_counts(look: RingLook, u_read_mm: float) -> bool:
    """Is what is left over more than the dial could make up?"""
    return look.fit is not None and look.fit.form_mm > 4 * u_read_mm


def tir_mm(look: RingLook, u_read_mm: float) -> float:
    """TIR of a ring: twice the offset, or the whole range when the surface adds to it."""
    assert look.fit is not None
    twice = 2 * look.fit.offset_mm
    return max(twice, look.range_mm) if form_counts(look, u_read_mm) else twice


def terms_of(state: State, look: RingLook, factor: float, form_in_value: bool = False) -> tuple[Term, ...]:
    """What widens the band of a ring's offset times ``factor`` (2 for a TIR), expanded (k = 2)."""
    fit, plan = look.fit, state.plan
    assert fit is not None
    share = min(plan.gauge.u_read_mm / fit.noise_mm, 1.0)
    return budget(
        factor * fit.u_mm, plan.gauge, stretch=factor, floor_mm=plan.machine.floor_mm, share=share,
        scatter_mm=0.0 if form_in_value else None, drift_mm=look.drift_mm,
    )  # fmt: skip


def judge_ring(
    state: State,
    look: RingLook,
    *,
    shift: complex = 0j,
    target: complex = 0j,
    kind: LimitKind | None = None,
    limit_mm: float | None = None,
    where: str = "",
) -> Verdict | None:
    """A ring against the limit; ``shift`` is added to the offset first (a forecast), ``target`` taken off."""
    fit, plan = look.fit, state.plan
    if fit is None:
        return None
    kind = kind or plan.limit.kind
    factor = 2.0 if kind == "tir" else 1.0
    u_read = plan.gauge.u_read_mm
    # Form that counts is in the TIR itself; it must not widen the band a second time.
    in_value = kind == "tir" and not target and form_counts(look, u_read)
    offset = abs(complex(fit.x_mm, fit.y_mm) - target)
    value = max(tir_mm(look, u_read), 2 * offset) if in_value else factor * offset
    value += factor * (abs(complex(fit.x_mm, fit.y_mm) + shift - target) - offset)
    found = judge(
        kind,
        max(value, 0.0),
        plan.limit.mm if limit_mm is None else limit_mm,
        terms_of(state, look, factor, in_value),
        plan.gauge.graduation_mm,
        fit.form_mm if in_value else 0.0,
    )
    return found.model_copy(update={"where": where}) if where else found


def ready(
    state: State,
    look: RingLook,
    judged: Verdict | None,
    forecast: Verdict | None,
    shift: complex,
    mend: str,
) -> tuple[bool, Text]:
    """Is nothing better to be had by correcting? And why, when it is not because the limit is met.

    Parameters
    ----------
    forecast
        The judgement to expect after tightening.
    shift
        The kick to expect, less the wanted offset.
    mend
        What does not mend a surface out of round: "moving jaws".
    """
    fit = look.fit
    if fit is None or judged is None:
        return False, ()
    if judged.outcome == "holds" and forecast is not None and forecast.outcome == "holds":
        return True, ()
    left_mm = abs(complex(fit.x_mm, fit.y_mm) + shift)
    left = (2.0 if judged.kind == "tir" else 1.0) * left_mm
    if judged.limited_by == "form" and left <= judged.limit_mm / 2:
        return True, text(
            "Stop here: the surface is out of round by ",
            length(fit.form_mm),
            f", more than the limit. {mend.capitalize()} cannot mend that; only ",
            length(fit.offset_mm),
            " of it is off centre.",
        )
    if left <= judged.band_mm or left_mm <= state.plan.gauge.graduation_mm / 4:
        return True, text(
            "Stop here: what is left, ",
            length(left_mm),
            " off, is no more than gauge and machine can tell.",
        )
    return False, ()
