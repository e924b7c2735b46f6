"""What widens a band: the one sum of terms, for whatever is judged.

Each term is an expanded (k = 2) amount in the judged quantity's own kind. ``u_mm`` is that quantity's standard uncertainty
from its fit; what happens at one spot comes to ``stretch`` times as much in it: 2 for a TIR, length over span for a rise over a
length, 1 for a height.
"""

from __future__ import annotations

from .gauge import Gauge
from .verdict import Term, TermName

#: Part of a closing error that is still in the result after spreading it evenly over the pass.
DRIFT_LEFT = 0.12


def budget(
    u_mm: float,
    gauge: Gauge,
    *,
    stretch: float = 1.0,
    floor_mm: float,
    share: float = 1.0,
    scatter_mm: float | None = None,
    form: tuple[TermName, float] | None = None,
    play_mm: float = 0.0,
    drift_mm: float | None = None,
    drift_part: float = 2 * DRIFT_LEFT,
    repeat_mm: float = 0.0,
    unread_mm: float = 0.0,
) -> tuple[Term, ...]:
    """The terms of a band, those that are nothing left out.

    Parameters
    ----------
    share
        Part of ``u_mm`` that the indicator alone makes; the rest of it is scatter, unless ``scatter_mm`` says how much that is.
    form
        What the surface adds by itself, at one spot.
    floor_mm, play_mm, drift_mm, unread_mm
        TIR that the machine repeats to; play of its table; closing error; what a place that was not read may add.

    Examples
    --------
    >>> fine = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1)
    >>> [(t.name, round(t.mm, 4)) for t in budget(0.001, fine, stretch=2, floor_mm=0.002, drift_mm=-0.003)]
    [('gauge', 0.002), ('floor', 0.002), ('drift', 0.0012)]
    """
    rest = 2 * u_mm * (1 - share**2) ** 0.5 if scatter_mm is None else scatter_mm
    found: list[tuple[TermName, float]] = [
        ("gauge", 2 * u_mm * share),
        ("scatter", rest),
        *([(form[0], form[1] * stretch)] if form else []),
        ("floor", floor_mm / 2 * stretch),
        ("play", play_mm / 2 * stretch),
        ("error", gauge.error_mm / 2 * stretch),
        ("lost_motion", gauge.lost_motion_mm / 2 * stretch),
        ("drift", drift_part * abs(gauge.walked_mm(drift_mm or 0.0)) * stretch),
        ("repeat", repeat_mm),
        ("unread", unread_mm),
    ]
    return tuple(Term(name=name, mm=mm) for name, mm in found if mm or name in ("gauge", "floor"))
