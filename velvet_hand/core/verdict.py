"""Any value against any limit: holds, outside, or cannot tell, and what the band is made of."""

from __future__ import annotations

from typing import Literal

from .model import Model
from .quantity import LimitKind, Quantity

Outcome = Literal["holds", "outside", "cannot_tell"]
TermName = Literal[
    "gauge",
    "scatter",
    "drift",
    "floor",
    "form",
    "lost_motion",
    "repeat",
    "straightness",
    "between",
    "play",
    "unread",
    "wild",
    "preload",
    "contact",
    "error",
    "standard",
]
#: A mark coarser than this part of the limit is told of when it is planned.
GAUGE_PART = 0.25

TERM_WORDS: dict[str, str] = {
    "gauge": "the indicator’s graduation",
    "scatter": "scatter between the readings",
    "drift": "the closing reading that did not come back",
    "floor": "what the machine repeats to",
    "form": "the surface itself being out of round",
    "lost_motion": "the indicator’s lost motion",
    "repeat": "what the holder repeats to",
    "straightness": "the edge itself not being straight",
    "between": "what the edge may do between the spots",
    "play": "the play of the table",
    "unread": "a place that nobody could read",
    "wild": "a reading that does not sit with the others",
    "preload": "a needle that may have come to rest off the surface",
    "contact": "a needle that showed the same at every spot",
    "error": "the indicator’s own error, by its last check",
    "standard": "the steps that it was checked against",
}
SETTLES: dict[str, str] = {
    "gauge": "an indicator with finer graduations",
    "scatter": "a cleaner surface, or more stations",
    "drift": "a pass whose closing reading comes back: check base, joints and clamping",
    "floor": "a machine that repeats better, or a wider limit",
    "lost_motion": "an indicator without lost motion, or coming to each spot from the same side",
    "repeat": "a holder that repeats better, or a wider limit",
    "straightness": "a stoned or another jaw, or a straight bar held against it",
    "between": "more spots along it",
    "play": "gibs adjusted by the machine’s manual, the table locked, or a wider limit",
    "unread": "reading again with the needle on the dial at every spot",
    "wild": "reading that spot again, or marking it bad",
    "preload": "more preload, and reading again",
    "contact": "paper under the stylus: the needle has to move",
    "error": "an indicator that shows truer, by its check",
    "standard": "steps that are known better",
    "form": "a rounder surface, or a limit on off center instead of TIR",
}


class Term(Model):
    """One thing that widens the band, as an expanded (k = 2) amount in the limit's own kind."""

    name: TermName
    mm: float


class Verdict(Model):
    """A value with its band against a limit of the same kind, read at ``where``.

    ``beside`` are judgments of the same pass that are no worse (another plane, a direction).
    """

    outcome: Outcome
    value: Quantity
    band_mm: float
    limit: Quantity
    terms: tuple[Term, ...]
    limited_by: TermName | None
    settle: str | None
    where: str = ""
    beside: tuple[Verdict, ...] = ()

    @property
    def parts(self) -> tuple[Term, ...]:
        """What the band is made of, the largest first; what adds nothing is left out."""
        return tuple(sorted((t for t in self.terms if t.mm > 0), key=lambda t: -t.mm))

    @property
    def value_mm(self) -> float:
        """How much was found."""
        return self.value.mm

    @property
    def limit_mm(self) -> float:
        """How much is allowed."""
        return self.limit.mm

    @property
    def kind(self) -> str:
        """What is judged."""
        return self.value.kind


def worst(verdicts: tuple[Verdict, ...]) -> Verdict:
    """Several judgments as one: the worst outcome leads, by how much of its limit it uses."""
    rank = {"holds": 0, "cannot_tell": 1, "outside": 2}
    ordered = sorted(verdicts, key=lambda v: (-rank[v.outcome], -(v.value_mm + v.band_mm) / v.limit_mm))
    return ordered[0].model_copy(update={"beside": tuple(ordered[1:])})


def doubted(found: Verdict, why: TermName) -> Verdict:
    """The same judgment of a pass that proves nothing: what would hold cannot be told, and this settles it first."""
    beside = tuple(doubted(one, why) for one in found.beside)
    if found.outcome == "outside":
        return found.model_copy(update={"beside": beside})
    changes = {"outcome": "cannot_tell", "limited_by": why, "settle": SETTLES[why], "beside": beside}
    return found.model_copy(update=changes)


def judge(
    kind: LimitKind,
    value_mm: float,
    limit_mm: float,
    terms: tuple[Term, ...],
    form_mm: float = 0.0,
    least_mm: float | None = None,
) -> Verdict:
    """Decide with a guard band (the idea of ISO 14253-1).

    The band g is the root-sum-square of the terms. ``v + g <= T`` holds (the limit itself passes),
    ``v - g > T`` is outside, else nobody can tell. ``form_mm`` is what roundness alone adds to a TIR; when that is
    over the limit it is named as what limits. ``least_mm`` is how much it is at least, where that is not v - g: what lies between the
    places read makes a TIR larger, never smaller.

    Examples
    --------
    >>> judge("tir", 0.0105, 0.0127, (Term(name="gauge", mm=0.0018), Term(name="floor", mm=0.0019))).outcome
    'cannot_tell'
    """
    band = float(sum(t.mm**2 for t in terms) ** 0.5)
    slack = 1e-9
    outcome: Outcome
    if value_mm + band <= limit_mm + slack:
        outcome = "holds"
    elif (value_mm - band if least_mm is None else least_mm) > limit_mm + slack:
        outcome = "outside"
    else:
        outcome = "cannot_tell"
    largest: TermName | None = max(terms, key=lambda t: t.mm).name if terms else None
    if form_mm > limit_mm and outcome != "holds":
        largest = "form"
    settle = None if outcome == "holds" or largest is None else SETTLES[largest]
    if outcome == "outside" and largest != "form":
        settle = None
    return Verdict(
        outcome=outcome,
        value=Quantity(kind=kind, mm=value_mm),
        band_mm=band,
        limit=Quantity(kind=kind, mm=limit_mm),
        terms=terms,
        limited_by=largest,
        settle=settle,
    )
