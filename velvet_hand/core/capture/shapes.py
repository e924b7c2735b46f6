"""What may lie round a spindle or along a table: a few free terms, and waves that are the smaller the shorter they are."""

from __future__ import annotations

import math
from dataclasses import dataclass, field

import numpy as np
from numpy.polynomial import legendre

from ..fit.circle import sagitta
from .stream import Array

#: Waves a turn that are told apart; highest order of the bow of a line.
WAVES, BOWS = 14, 8


@dataclass(frozen=True, slots=True)
class Waves:
    """Mean, once a turn (free), and shorter waves that are smaller: of order k about ``form_mm (2/k)^1.2``.

    A circle off its middle is no cosine: it falls away beside its high spot by its sagitta. ``radius_mm`` is its radius as the needle
    shows it, negative where it rises instead (a bore, or a needle that goes the other way).
    """

    form_mm: float
    radius_mm: float = math.inf
    first: tuple[int, ...] = (0, 1, WAVES + 1)
    expected_mm: Array = field(init=False)

    def __post_init__(self) -> None:
        each = self.form_mm * (2 / np.arange(2, WAVES + 1)) ** 1.2
        object.__setattr__(self, "expected_mm", np.concatenate([[np.inf, np.inf], each, [np.inf], each]))

    def at(self, place: Array) -> tuple[Array, Array]:
        """See ``Shape``; places in degrees."""
        order = np.arange(1, WAVES + 1)
        angle = np.outer(np.radians(place), order)
        cos, sin = np.cos(angle), np.sin(angle)
        flat = np.zeros((len(place), 1))
        return np.hstack([flat + 1, cos, sin]), np.hstack([flat, -sin * order, cos * order]) * math.pi / 180

    def bend(self, place: Array, shape: Array) -> Array:
        """What a circle so far off its middle shows at these places (n,) besides the cosine."""
        angle = np.radians(place)
        across = shape[WAVES + 1] * np.cos(angle) - shape[1] * np.sin(angle)
        return -math.copysign(1.0, self.radius_mm) * sagitta(across, abs(self.radius_mm))


@dataclass(frozen=True, slots=True)
class Line:
    """Level, rise (both free) and Legendre polynomials over ``length_mm``, of order k about ``form_mm (2/k)^1.2``; places beyond the length
    are on the way back.
    """

    length_mm: float
    form_mm: float
    first: tuple[int, ...] = (0, 1)
    expected_mm: Array = field(init=False)

    def __post_init__(self) -> None:
        each = self.form_mm * (2 / np.arange(2, BOWS + 1)) ** 1.2
        object.__setattr__(self, "expected_mm", np.concatenate([[np.inf, np.inf], each]))

    def at(self, place: Array) -> tuple[Array, Array]:
        """See ``Shape``; places in mm."""
        back = place > self.length_mm
        x = np.where(back, 2 * self.length_mm - place, place) * 2 / self.length_mm - 1
        x = np.clip(x, -1.0, 1.0)
        values = np.asarray(legendre.legvander(x, BOWS), float)
        slopes = np.column_stack([legendre.legval(x, legendre.legder(row)) for row in np.eye(BOWS + 1)])
        return values, slopes * (np.where(back, -2.0, 2.0) / self.length_mm)[:, None]

    def bend(self, place: Array, shape: Array) -> Array:
        """An edge has none."""
        return 0.0 * place
