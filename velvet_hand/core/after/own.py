"""What to expect by what was done here before: passes and minutes of set-ups alike."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from ..model import Model
from ..wording import Text, so_many, strong, text

#: So many set-ups alike are enough to go by, and so many of the latest count.
ENOUGH, LATEST = 6, 40
#: A set-up is alike when its limit is no more than so many times wider or narrower.
ALIKE = 2.0


class Done(Model):
    """A set-up that came to a verdict: its limit, full passes, and minutes at it."""

    limit_mm: float
    passes: int
    minutes: float | None


def alike(done: Sequence[Done], limit_mm: float) -> tuple[Done, ...]:
    """Those alike, the latest first as they come; nothing when they are too few to go by."""
    found = [d for d in done if 1 / ALIKE <= d.limit_mm / limit_mm <= ALIKE][:LATEST]
    return tuple(found) if len(found) >= ENOUGH else ()


def own_minutes(done: Sequence[Done]) -> float | None:
    """What they usually took; None where nobody noted it."""
    minutes = [d.minutes for d in done if d.minutes is not None]
    return float(np.median(minutes)) if minutes else None


def own_words(done: Sequence[Done]) -> Text:
    """“3 to 4 passes, about 11 minutes, by the last 12 like it here. 1 in 12 needed more than 5.”

    Examples
    --------
    >>> from ..wording import words_of
    >>> words_of(own_words([Done(limit_mm=0.02, passes=p, minutes=10.0) for p in (2, 3, 3, 3, 4, 4, 7)]))
    '3 to 4 passes, about 10 minutes, by the last 7 like it here. 1 in 7 needed more than 4.'
    """
    passes = sorted(d.passes for d in done)
    few, many = (int(np.quantile(passes, share, method="inverted_cdf")) for share in (0.5, 0.8))
    minutes = own_minutes(done)
    count = so_many(few, "pass") if few == many else f"{few} to {many} passes"
    took = "" if minutes is None else f", about {so_many(max(round(minutes), 1), 'minute')}"
    over = sum(p > many for p in passes)
    rare = f" 1 in {round(len(passes) / over)} needed more than {many}." if over else ""
    return text(strong(f"{count}{took}"), f", by the last {len(passes)} like it here.{rare}")
