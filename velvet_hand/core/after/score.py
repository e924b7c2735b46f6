"""Did what was said to hold hold? Verdicts are judged by what parts measured afterwards."""

from __future__ import annotations

import math
from collections.abc import Iterable

import numpy as np
from scipy.special import stdtr, stdtrit

from ..model import Model
from ..quantity import KIND_WORDS
from ..wording import Text, length, strong, text
from .account import Account, kept_word

#: An offset is named when chance alone would make it so rarely, by so many set-ups, and when it is no less of the limit.
RARE, FEWEST, WORTH = 0.01, 5, 0.1


class Scored(Model):
    """A part against the limit and the proof that it was cut by; ``share`` is what it measured, as a part of the limit."""

    share: float
    held: bool | None


class Score(Model):
    """How verdicts were borne out: a dot a part, how many promised and kept, and what is off in the same way again and again."""

    parts: tuple[Scored, ...]
    promised: int
    kept: int
    told: tuple[Text, ...]


def score(accounts: Iterable[Account]) -> Score:
    """The score of set-ups, of those parts that were measured in the kind that was asked."""
    accounts = tuple(accounts)
    pairs = [(one, part) for one in accounts for part in one.measured if part.what == "asked"]
    parts = tuple(Scored(share=part.mm / one.limit.mm, held=kept_word(one, part)) for one, part in pairs)
    words = [part.held for part in parts if part.held is not None]
    told = [text(strong(f"{sum(words)} of {len(words)}"), " that “hold” held.")] if words else []
    return Score(parts=parts, promised=len(words), kept=sum(words), told=(*told, *_offset(accounts)))


def _offset(accounts: tuple[Account, ...]) -> list[Text]:
    """Parts measure more (or less) than their proof said, again and again; parts of one set-up share its proof, and count as one."""
    each = [
        (one, [part.mm - one.value.mm for part in one.measured if part.what == "asked"])
        for one in accounts
        if one.value is not None and one.value.kind == one.limit.kind
    ]
    same = [(one, float(np.mean(off))) for one, off in each if off]
    off = np.array([mean for _, mean in same])
    if len(off) < FEWEST or len({one.limit.kind for one, _ in same}) > 1:
        return []
    mean, u = float(off.mean()), float(off.std(ddof=1)) / math.sqrt(len(off))
    usual = float(np.median([one.limit.mm for one, _ in same]))
    chance = 2 * float(stdtr(len(off) - 1, -abs(mean) / u)) if u > 0 else 0.0
    if chance > RARE or abs(mean) < WORTH * usual:
        return []
    kind, way = KIND_WORDS[same[0][0].limit.kind], "more" if mean > 0 else "less"
    why = (
        "Look for what a cut does that the hand does not: spring, heat, a loose gib, how parts are measured."
        if mean > 0
        else "The proofs leave room that is not needed, or parts are measured where they are best."
    )
    band = float(stdtrit(len(off) - 1, 0.975)) * u
    head = "Parts measure ", length(abs(mean)), f" {kind} {way} than their proof said, ± ", length(band)
    return [text(*head, f", by {len(off)} set-ups. {why}")]
