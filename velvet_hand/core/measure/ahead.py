"""What a ring will say when it has been read more often: its form is known better then, and where nothing moved, its center too."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from ..estimate.form import see
from ..estimate.scatter import KNOWN, Repeats, pooled
from .ring import Mean, RingLook


def narrowed(look: RingLook, passes: int, *, same: bool) -> RingLook:
    """A look as it will be after so many passes more of the same spots, when they read what this one does.

    Parameters
    ----------
    same
        With nothing moved between them, so that all of them tell the center; or one pass elsewhere, which the form alone goes along to.
    """
    mean = look.mean
    if mean is None or mean.spots not in look.groups:
        return look
    times = mean.times + passes if same else 1
    return _seen(look, Mean(mean.spots, mean.now, times), look.groups[mean.spots].repeated(passes))


def read_closely(look: RingLook, passes: int) -> RingLook:
    """A look of a true surface as it will be after so many passes elsewhere, the spots between read too, where there are any."""
    angles = tuple(s.angle_deg for s in look.ring.stations)
    if look.round is None or look.mean is None or len(angles) == len(look.mean.spots):
        return narrowed(look, passes, same=False)
    still = np.zeros(len(angles))
    return _seen(look, Mean(angles, still, 1), look.groups.get(angles, Repeats(1, still, 0.0)).repeated(passes))


def _seen(look: RingLook, mean: Mean, read: Repeats) -> RingLook:
    """The look when that has been read at its spots, and that mean tells the center."""
    groups = {**look.groups, mean.spots: read}
    freedom = pooled(groups.values(), 3, look.variance, KNOWN)[1]
    seen = see(mean.spots, mean.now, groups, look.variance, freedom, look.ring.finish, mean.times)
    return replace(look, groups=groups, round=seen)
