"""Several turns of one surface, told as one: by how sure each is, and no surer than they agree."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from .captured import Captured, Spot, Wanted, judged


def together(turns: Sequence[Captured], wanted: Wanted) -> Captured:
    """What all of them say of the same spots; each has a level of its own, for an indicator may have been touched between.

    Where they differ by more than they claim, all are taken for so much less sure (R. T. Birge, "The calculation of errors by the method
    of least squares", 1932).

    Examples
    --------
    >>> one = Captured.model_validate(dict(
    ...     spots=[dict(place=90.0 * i, mm=v, u_mm=0.002) for i, v in enumerate((0.0, 0.01, 0.0, -0.01))], closing_mm=0.0, tir_mm=0.02,
    ...     tir_u_mm=0.002, once_mm=0.01, once_u_mm=0.001, high=90.0, high_u=8.0, drift_mm=0.0, form=[], left_out=[], turns=1,
    ...     counted=True, marked=True, sure=False), strict=False)
    >>> round(together([one] * 4, Wanted(0.001, 0.001)).spots[1].u_mm, 4)
    0.001
    """
    if len(turns) == 1:
        return turns[0]
    values = np.array([[s.mm for s in one.spots] for one in turns])
    u = np.array([[s.u_mm for s in one.spots] for one in turns])
    level = values.mean(axis=1, keepdims=True)
    weights = 1 / np.maximum(u, 1e-9) ** 2
    mean = ((values - level) * weights).sum(axis=0) / weights.sum(axis=0)
    apart = (((values - level - mean) / np.maximum(u, 1e-9)) ** 2).sum() / max(
        (len(turns) - 1) * (values.shape[1] - 1), 1
    )
    wider = max(1.0, float(apart) ** 0.5)
    each = wider / weights.sum(axis=0) ** 0.5
    best = min(turns, key=lambda one: max(s.u_mm for s in one.spots))
    part = float(np.mean(each)) / max(float(np.mean([s.u_mm for s in best.spots])), 1e-9)
    last = turns[-1]
    spots = tuple(
        Spot(place=s.place, mm=float(v + level[-1, 0]), u_mm=float(e)) for s, v, e in zip(last.spots, mean, each, strict=True)
    )  # fmt: skip
    return judged(
        best.model_copy(update={
            "spots": spots, "tir_u_mm": best.tir_u_mm * part, "once_u_mm": best.once_u_mm * part, "high_u": best.high_u * part,
            "closing_mm": None if last.closing_mm is None else spots[0].mm + last.drift_mm, "drift_mm": last.drift_mm,
            "left_out": tuple(x for one in turns for x in one.left_out), "turns": sum(one.turns for one in turns),
            "counted": all(one.counted for one in turns), "marked": all(one.marked for one in turns),
        }),
        wanted,
    )  # fmt: skip
