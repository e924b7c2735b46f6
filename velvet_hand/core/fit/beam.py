"""How a bar or column gives: sag of a round steel bar, and how far a gauge sees what a tailstock does."""

from __future__ import annotations

from typing import Literal

STEEL_E_MPA, STEEL_KG_M3, GRAVITY = 206_000.0, 7850.0, 9.81
Gives = Literal["tips", "bends", "between"]


def droop_mm(length_mm: float, at_mm: float, diameter_mm: float) -> float:
    """Droop of a round steel bar held at one end, ``q x^2 (6 L^2 - 4 L x + x^2)/(24 E I)``, ``q/I = 16 rho g/D^2``.

    Examples
    --------
    >>> round(droop_mm(300, 300, 25) * 1000, 1)
    9.7
    """
    x, full = min(at_mm, length_mm), length_mm
    load = STEEL_KG_M3 * 1e-9 * GRAVITY * 16 / diameter_mm**2  # N per mm of length and mm^4
    return load * x**2 * (6 * full**2 - 4 * full * x + x**2) / (24 * STEEL_E_MPA)


def tail_ratio(centre_mm: float, gauge_mm: float, gives: Gives) -> float:
    """How far the tailstock has to go for a millimeter seen at the gauge.

    A rigid column that tips on its flange: ``Lt/Li``. One that bends: ``2 Lt^3/(Li^2 (3 Lt - Li))``, and beyond the center
    ``1/(1 + 1.5 (Li - Lt)/Lt)``. The two differ by 2 and more low down: read near the center.

    Examples
    --------
    >>> round(tail_ratio(280, 100, "tips"), 1), round(tail_ratio(280, 100, "bends"), 1)
    (2.8, 5.9)
    """
    tips = centre_mm / gauge_mm
    if gauge_mm <= centre_mm:
        bends = 2 * centre_mm**3 / (gauge_mm**2 * (3 * centre_mm - gauge_mm))
    else:
        bends = 1 / (1 + 1.5 * (gauge_mm - centre_mm) / centre_mm)
    return float({"tips": tips, "bends": bends, "between": (tips * bends) ** 0.5}[gives])


def sag_mm(length_mm: float, at_mm: float, diameter_mm: float) -> float:
    """Sag of a round steel bar between two centers, ``q x (L^3 - 2 L x^2 + x^3)/(24 E I)``.

    Examples
    --------
    >>> round(sag_mm(300, 150, 25) * 1000, 2), sag_mm(300, 0, 25)
    (1.01, 0.0)
    """
    x, full = at_mm, length_mm
    load = STEEL_KG_M3 * 1e-9 * GRAVITY * 16 / diameter_mm**2
    return load * x * (full**3 - 2 * full * x**2 + x**3) / (24 * STEEL_E_MPA)
