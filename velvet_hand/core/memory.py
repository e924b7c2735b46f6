"""What a holder remembers: lessons of its set-ups, put together for the next one.

Gain: Bayesian regression over every move that was asked and read again (``response.Gain``). Kick: the
mean shift on tightening, shrunk by its scatter, in the holder's own angles. Repeat: the root mean square of the
closing readings.
"""

from __future__ import annotations

import math
from collections.abc import Iterable

from .model import Model
from .response import Gain
from .shop import Floor, Memory

#: Standard uncertainty of what a remembered move got.
U_MM = 0.001


class Lesson(Model):
    """What one set-up taught: (asked, got) of its moves, shifts on tightening, closing errors, all mm.

    ``taps`` are how many blows a move took, and how far the needle went with them. ``floor`` is of the machine, not the holder.
    """

    moves: tuple[tuple[float, float], ...] = ()
    kicks: tuple[tuple[float, float], ...] = ()
    closings: tuple[float, ...] = ()
    taps: tuple[tuple[int, float], ...] = ()
    floor: Floor | None = None

    @property
    def empty(self) -> bool:
        """Nothing was learned."""
        return not (self.moves or self.kicks or self.closings or self.taps)


def remember(lessons: Iterable[Lesson]) -> Memory:
    """The memory that these lessons make, oldest first.

    Examples
    --------
    >>> round(remember([Lesson(kicks=((0.004, 0.0), (0.005, 0.0), (0.006, 0.0)))]).kick_x_mm, 4)
    0.005
    """
    told = [one for one in lessons if not one.empty]
    moves = [m for one in told for m in one.moves]
    kicks = [complex(*k) for one in told for k in one.kicks]
    closings = [c for one in told for c in one.closings]
    taps = [t for one in told for t in one.taps]
    gain = Gain()
    for asked, got in moves:
        gain = gain.learn(asked, got, U_MM)
    mean = sum(kicks) / len(kicks) if kicks else 0j
    scatter = (
        math.sqrt(sum(abs(k - mean) ** 2 for k in kicks) / (2 * (len(kicks) - 1))) if len(kicks) > 1 else abs(mean)
    )
    # What scatters more than it repeats is no lesson: the mean shrinks by the doubt about it.
    doubt = scatter**2 / max(len(kicks), 1)
    mean *= max(0.0, 1 - doubt / abs(mean) ** 2) if len(kicks) > 1 and mean else 0.5
    return Memory(
        setups=len(told),
        moves=len(moves),
        gain=gain.value if moves else 1.0,
        gain_sd=math.sqrt(gain.variance),
        kicks=len(kicks),
        kick_x_mm=mean.real,
        kick_y_mm=mean.imag,
        kick_sd_mm=scatter,
        repeat_mm=math.sqrt(sum(c * c for c in closings) / len(closings)) if closings else None,
        per_tap_mm=sum(mm for _, mm in taps) / sum(n for n, _ in taps) if taps else None,
    )
