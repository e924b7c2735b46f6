"""What an indicator sent from a beginning on, with marks: kept as long as somebody turns."""

from __future__ import annotations

from array import array
from bisect import insort
from dataclasses import dataclass, field

#: No more values are kept: ten minutes of a quick indicator.
MOST = 60_000
MOST_MARKS = 200


@dataclass(slots=True)
class Recording:
    """Moments (s, of one clock), values (mm) and marks (s); ``full`` when more came than is kept."""

    began_s: float
    at_s: array[float] = field(default_factory=lambda: array("d"))
    mm: array[float] = field(default_factory=lambda: array("d"))
    marks_s: list[float] = field(default_factory=list)
    full: bool = False

    def add(self, at_s: float, mm: float) -> None:
        """One more value."""
        if len(self.at_s) >= MOST:
            self.full = True
            return
        self.at_s.append(at_s)
        self.mm.append(mm)

    def mark(self, at_s: float) -> int:
        """Something passed, or it stood at the far end, then; returns how many marks there are. One told again is one mark."""
        if len(self.marks_s) < MOST_MARKS and at_s not in self.marks_s:
            insort(self.marks_s, at_s)
        return len(self.marks_s)

    def copy(self) -> Recording:
        """As it is now."""
        return Recording(self.began_s, self.at_s[:], self.mm[:], self.marks_s[:], self.full)
