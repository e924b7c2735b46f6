"""Work that is moved by four independent jaws."""

from __future__ import annotations

from ..holders import FourJaw
from .base import BasePlan


class JawPlan(BasePlan):
    """What the jaws are to do: bring the work true, or to a place of its own; in one plane, or in two."""

    holder: FourJaw

    @property
    def target(self) -> complex:
        """Where the work's center is wanted, in the chuck's angles."""
        return 0j

    @property
    def sideways_mm(self) -> float | None:
        """How far the center may be off to the side of the wanted direction (None: no direction is wanted)."""
        return None

    @property
    def planes_mm(self) -> tuple[float, float] | None:
        """Near and far plane, out from the jaws (None: there is one)."""
        return None
