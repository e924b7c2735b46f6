"""Piece after piece cut in one set-up: does it drift, and when is the next to be measured?

A line by least squares over the number of the piece. With ``n`` pieces, slope ``b`` and residual ``s`` the next piece ``p`` lies, with 95 %
confidence, within ``t s sqrt(1 + 1/n + (p - mean)**2 / S)`` of the line (Draper and Smith, "Applied Regression Analysis"). The last piece
that is still sure to be within the limit is where that meets it; the next one to measure lies half way there, for nobody waits for the last
moment.
"""

from __future__ import annotations

import math
from collections.abc import Sequence

import numpy as np
from scipy.special import stdtr, stdtrit

from ..measured import What, what_words
from ..model import Model
from ..wording import Text, length, signed, so_many, strong, text
from .account import Account, PartMeasured

#: With fewer pieces nothing is said of a drift.
FEWEST = 4
#: A drift that chance alone would make so rarely is told.
RARE = 0.05
#: Never farther ahead than so many times the pieces seen.
AHEAD = 4


class RunPoint(Model):
    """A piece and what it measured, mm."""

    piece: int
    mm: float


class Run(Model):
    """The pieces of a set-up in one kind of measure; ``limit_mm`` where that has one, ``next_piece`` the one to measure next."""

    what: What
    label: str
    points: tuple[RunPoint, ...]
    limit_mm: float | None
    next_piece: int | None
    told: Text


def runs(told: Account) -> tuple[Run, ...]:
    """A run for each kind that was measured at two pieces or more."""
    kinds = dict.fromkeys(m.what for m in told.measured)
    found = (_run(told, kind, [m for m in told.measured if m.what == kind]) for kind in kinds)
    return tuple(run for run in found if len(run.points) > 1)


def _run(told: Account, what: What, measured: Sequence[PartMeasured]) -> Run:
    last = {m.piece: m.mm for m in measured}  # measured again, the last time counts
    points = tuple(RunPoint(piece=piece, mm=last[piece]) for piece in sorted(last))
    limit_mm = told.limit.mm if what == "asked" else None
    at, words = _look(np.array([p.piece for p in points], float), np.array([p.mm for p in points]), limit_mm)
    if not told.standing and len(points) > 1:
        words = text(*words, " First piece ", length(points[0].mm), ", last ", length(points[-1].mm), ".")
    label = what_words(what, told.limit.kind)
    return Run(what=what, label=label, points=points, limit_mm=limit_mm, next_piece=at, told=words)


def _look(piece: np.ndarray, mm: np.ndarray, limit_mm: float | None) -> tuple[int | None, Text]:
    n, last = len(piece), int(piece.max(initial=0))
    if limit_mm is not None and mm[-1] > limit_mm:
        return last + 1, text(strong("The last piece is outside."), " Stop, and look at the set-up before the next.")
    if n < FEWEST:
        return last + 1, text(f"{so_many(FEWEST - n, 'more piece')} and a drift can be told.")
    mean, spread = float(piece.mean()), float(((piece - piece.mean()) ** 2).sum())
    slope = float(((piece - mean) * mm).sum()) / spread
    rest = mm - mm.mean() - slope * (piece - mean)
    s = math.sqrt(float(rest @ rest) / (n - 2))
    u = s / math.sqrt(spread)
    chance = 2 * float(stdtr(n - 2, -abs(slope) / u)) if u > 0 else float(slope == 0)
    drifts = chance < RARE
    head = (
        text("It goes ", signed(slope), " a piece, ± ", length(float(stdtrit(n - 2, 0.975)) * u), ".")
        if drifts
        else text(f"No drift over {n} pieces.")
    )
    if limit_mm is None:
        return None, head
    t = float(stdtrit(n - 2, 0.975))
    ahead = np.arange(last + 1, last + 1 + AHEAD * max(last, n))
    line = mm.mean() + (slope if drifts else max(slope, 0.0)) * (ahead - mean)
    most = line + t * s * np.sqrt(1 + 1 / n + (ahead - mean) ** 2 / spread)
    sure = int(np.argmax(most > limit_mm)) if (most > limit_mm).any() else len(ahead)
    if not sure:
        return last + 1, text(*head, " ", strong("Measure every piece:"), " the next may be outside.")
    at = int(ahead[max(sure // 2 - (sure > 1), 0)])
    until = f"; it stays inside to about piece {int(ahead[sure - 1])}" if sure < len(ahead) else ""
    return at, text(*head, " Measure again at ", strong(f"piece {at}"), f"{until}.")
