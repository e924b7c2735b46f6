"""What a frame and the learning need to know of one pass, whether a circle or a line was read."""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from typing import Protocol, TypeVar

from ..readings import Pass


class Fitted(Protocol):
    """What was fitted: ``u_mm`` is the standard uncertainty of the error along its worst direction."""

    @property
    def u_mm(self) -> float:
        """Standard uncertainty."""


class Look(Protocol):
    """One pass as geometry: what was read, and the error that it shows as a vector (``center``)."""

    @property
    def number(self) -> int:
        """The pass."""

    @property
    def toward_mm(self) -> dict[str, float]:
        """Good readings as toward values, by station."""

    @property
    def off(self) -> dict[str, int]:
        """Readings past the gauge's travel, and at which end."""

    @property
    def drift_mm(self) -> float | None:
        """Closing error."""

    @property
    def wild(self) -> tuple[str, ...]:
        """Stations whose reading does not belong to the rest."""

    @property
    def complete(self) -> bool:
        """Is every station answered?"""

    @property
    def fit(self) -> Fitted | None:
        """None until there is enough to fit."""

    @property
    def center(self) -> complex | None:
        """The error as a vector."""


L = TypeVar("L", bound=Look)


class Looks(Mapping[int, L]):
    """The look of each pass by its number, made when it is asked for."""

    def __init__(self, passes: Sequence[Pass], look: Callable[[Pass], L]) -> None:
        self._passes, self._look = passes, look

    def __getitem__(self, number: int) -> L:
        if not 1 <= number <= len(self._passes):
            raise KeyError(number)
        return self._look(self._passes[number - 1])

    def __iter__(self) -> Iterator[int]:
        return iter(range(1, len(self._passes) + 1))

    def __len__(self) -> int:
        return len(self._passes)

    def newest_first(self) -> Iterator[L]:
        """The looks from the last pass backward."""
        return map(self._look, reversed(self._passes))
