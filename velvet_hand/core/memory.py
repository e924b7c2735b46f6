"""What a holder remembers: lessons of its set-ups, put together for the next one.

A lesson is kept as its data say it, one value with its variance for each parameter; what many lead to expect is made of them when a
set-up is opened (``estimate.lessons``). Repeat: the root mean square of the closing readings.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from pydantic import Field

from .estimate.kalman import Prior
from .estimate.lessons import Taught, expected
from .gauge_check import GaugeCheck
from .model import Model
from .shop import Floor, Memory
from .wording import Bit, length


class Lesson(Model):
    """What one set-up taught: each parameter of its holder as (value, variance), closing errors in mm.

    ``taps`` are how many blows a move took, and how far the needle went with them. ``floor`` is of the machine, ``check`` of the indicator,
    not of the holder.
    """

    taught: dict[str, tuple[float, float]] = Field(default_factory=dict)
    closings: tuple[float, ...] = ()
    taps: tuple[tuple[int, float], ...] = ()
    floor: Floor | None = None
    check: GaugeCheck | None = None

    @property
    def empty(self) -> bool:
        """Nothing was learned."""
        return not (self.taught or self.closings or self.taps)


def remember(lessons: Iterable[Lesson]) -> Memory:
    """The memory that these lessons make, oldest first.

    Examples
    --------
    >>> remember([Lesson(taught={"gain_1": (0.8, 0.002)}), Lesson(taught={"gain_1": (0.78, 0.001)})]).taught
    {'gain_1': ((0.8, 0.002), (0.78, 0.001))}
    """
    told = [one for one in lessons if not one.empty]
    closings = [c for one in told for c in one.closings]
    taps = [t for one in told for t in one.taps]
    names = {name: None for one in told for name in one.taught}
    return Memory(
        setups=len(told),
        taught={name: tuple(one.taught[name] for one in told if name in one.taught) for name in names},
        repeat_mm=math.sqrt(sum(c * c for c in closings) / len(closings)) if closings else None,
        per_tap_mm=sum(mm for _, mm in taps) / sum(n for n, _ in taps) if taps else None,
    )


def remembered(memory: Memory, priors: Mapping[str, Prior]) -> dict[str, Prior]:
    """What a memory leads to expect of these parameters; those that it says nothing of are left out."""
    return {
        name: expected(kind, [Taught(*one) for one in memory.taught[name]])
        for name, kind in priors.items()
        if memory.taught.get(name)
    }


#: A shift that is remembered counts from here (mm).
SEEN_MM = 0.0005


def _best(lessons: tuple[tuple[float, float], ...]) -> float:
    """The mean of lessons, each by how sure it is."""
    weights = [1 / max(variance, 1e-18) for _, variance in lessons]
    return sum(w * value for w, (value, _) in zip(weights, lessons, strict=True)) / sum(weights)


def memory_words(memory: Memory) -> tuple[Bit, ...]:
    """What a memory leads to expect, in a few words: what of a move arrives, the shift on tightening, taps, repeats."""
    known = {name: _best(lessons) for name, lessons in memory.taught.items() if lessons}
    gains = [f"{100 * known[name]:.0f}" for name in ("gain_1", "gain_2", "gain") if name in known]
    parts: list[tuple[Bit, ...]] = []
    if gains:
        parts.append((f"moves do {' and '.join(dict.fromkeys(gains[:2]))} % of what is asked",))
    if "log_gain" in known:
        parts.append((f"taps do {100 * math.exp(known['log_gain']):.0f} % of what is figured",))
    shift = math.hypot(*(known.get(name, 0.0) for name in ("shift_1", "shift_2", "shift")))
    if shift >= SEEN_MM:
        parts.append(("shifts ", length(shift), " on tightening"))
    if memory.per_tap_mm:
        parts.append(("a tap moves ", length(memory.per_tap_mm)))
    if memory.repeat_mm is not None and memory.repeat_mm >= SEEN_MM / 4:
        parts.append(("repeats to ", length(memory.repeat_mm)))
    return tuple(bit for n, part in enumerate(parts) for bit in ((", ", *part) if n else part))
