"""Which part of a runout turns with what: ``e_k = s + c rot(phi_k)``, complex least squares.

Vectors are in the spindle's frame. Source: the reversal of a holder or of the work in it; with two
positions half apart it is ``s = (e0 + e180)/2``, ``c = (e0 - e180)/2``.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np


@dataclass(frozen=True, slots=True)
class Parts:
    """``fixed`` stays with the spindle, ``turned`` turns with what was turned; standard uncertainties.

    ``misfit_mm`` is what the positions do not agree by (None with two positions: nothing is left over).
    """

    fixed: complex
    turned: complex
    u_fixed_mm: float
    u_turned_mm: float
    misfit_mm: float | None


def split_parts(angles_deg: tuple[float, ...], seen: tuple[complex, ...], u_mm: float) -> Parts:
    """Split the offsets seen at K >= 2 positions.

    Parameters
    ----------
    angles_deg, seen
        (K,) turn of the part counter-clockwise, and the offset that was seen there.
    u_mm
        Standard uncertainty of one offset; the misfit counts when it is larger.

    Raises
    ------
    ValueError
        Fewer than two different positions.

    Examples
    --------
    >>> p = split_parts((0, 180), (0.009 + 0.004j, -0.003 + 0.010j), 0.001)
    >>> complex(round(p.fixed.real, 4), round(p.fixed.imag, 4)), complex(round(p.turned.real, 4), round(p.turned.imag, 4))
    ((0.003+0.007j), (0.006-0.003j))
    """
    turn = np.exp(1j * np.radians(np.asarray(angles_deg, float)))
    if len(turn) < 2 or np.abs(turn - turn[0]).max() < 0.01:
        raise ValueError("at least two different positions are needed")
    model = np.column_stack([np.ones_like(turn), turn])
    e = np.asarray(seen, complex)
    answer = np.linalg.lstsq(model, e, rcond=None)[0]
    rest = e - model @ answer
    misfit = float(np.abs(rest).max()) if len(turn) > 2 else None
    dof = len(turn) - 2
    spread = float(np.sqrt((np.abs(rest) ** 2).sum() / (2 * dof))) if dof else 0.0
    cov = np.linalg.inv(model.conj().T @ model).real * max(u_mm, spread) ** 2
    return Parts(complex(answer[0]), complex(answer[1]), float(np.sqrt(cov[0, 0])), float(np.sqrt(cov[1, 1])), misfit)


def best_turn_deg(
    fixed: tuple[complex, ...], turned: tuple[complex, ...], step_deg: float = 1.0
) -> tuple[float, float]:
    """The turn at which the worst plane runs least, and its offset.

    Returns
    -------
    (angle, offset)
        Of ``max_k |fixed_k + turned_k rot(angle)|`` on a grid of ``step_deg``.
    """
    angles = np.arange(0.0, 360.0, step_deg)
    rot = np.exp(1j * np.radians(angles))
    worst = np.abs(np.asarray(fixed)[:, None] + np.asarray(turned)[:, None] * rot[None, :]).max(axis=0)
    best = int(worst.argmin())
    return float(angles[best]), float(worst[best])
