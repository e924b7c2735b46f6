"""How much one reading scatters, and how sure that is: what the residuals say, and what is known of the indicator beforehand."""

from __future__ import annotations

from functools import cache
from typing import Protocol

from scipy.stats import t as student

#: What is known beforehand counts like so many readings.
KNOWN = 3.0
#: Before anything is read, hand and dial are expected to scatter by this many reading uncertainties: half a graduation read, a quarter
#: of one lost in contact and play.
EXPECTED = 2.0


class Scattered(Protocol):
    """What a fit says of its readings: the scatter that its uncertainties rest on, and what its residuals alone say."""

    @property
    def noise_mm(self) -> float:
        """Scatter of one reading as the fit took it."""

    @property
    def rms_mm(self) -> float:
        """Scatter by the residuals alone."""

    @property
    def dof(self) -> int:
        """Degrees of freedom of the residuals."""


@cache
def _k95(dof: float) -> float:
    return float(student.ppf(0.975, dof))


def scatter95(u_read_mm: float, noise_mm: float, dof: int) -> tuple[float, float]:
    """Half width of the 95 % interval of one reading, and the part of it that the indicator alone makes (mm).

    ``v = (k s0^2 + dof s^2)/(k + dof)`` with ``s`` from the residuals and ``s0`` known beforehand, stretched by Student's t of
    ``k + dof`` degrees of freedom: few readings that happen to agree are not believed to scatter by nothing.

    Examples
    --------
    >>> [round(x, 4) for x in scatter95(0.001, 0.006, 3)]
    [0.0109, 0.0049]
    """
    known = EXPECTED * u_read_mm
    variance = (KNOWN * known**2 + dof * noise_mm**2) / (KNOWN + dof)
    wide = _k95(KNOWN + dof) * variance**0.5
    return wide, min(_k95(KNOWN + dof) * known, wide)


def widened(fit: Scattered, u_read_mm: float, surface: bool) -> tuple[float, float]:
    """Half the 95 % band for one of a fit's uncertainties, and the part of it that the indicator alone makes.

    ``surface``: the residuals are the surface itself, which is told or judged by its own; then only the indicator is left.
    """
    wide, own = scatter95(u_read_mm, fit.rms_mm, fit.dof)
    wide = own if surface else wide
    return wide / 2 / fit.noise_mm, own / wide
