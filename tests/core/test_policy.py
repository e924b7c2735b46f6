"""When to read on, to move and to stop, by what each may still bring."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import pytest

from bench import advice
from velvet_hand.core.engine.answers import Answered
from velvet_hand.core.engine.learning import GAIN
from velvet_hand.core.engine.policy import (
    HARDLY,
    LOOK_AGAIN,
    LOOK_ON,
    SMALL,
    STILL,
    TIGHTEN_ON,
    Odds,
    _next,
)
from velvet_hand.core.estimate.kalman import Belief
from velvet_hand.core.estimate.one_gain import Moved, OneGain
from velvet_hand.core.verdict import Term, judge
from velvet_hand.core.wording import plain

TIGHT = Moved((0.0, 0.0), 1)


@dataclass(frozen=True, slots=True, eq=False)
class Told(Odds[Moved]):
    """Odds whose looks are said, at a place where a tightening lands within 1 µm."""

    said: tuple[float, ...] = ()

    def looks(self) -> tuple[float, ...]:
        """As they are said."""
        return self.said


def said(looks: tuple[float, ...], left: bool, reach: float = 0.0, **more: Any) -> str:
    """What comes after a tight pass of 0.0045 ± 0.0010 within 0.005, in words; nothing where it is moved."""
    x = np.array([0.001, 0.0, 1.0, 0.0, 0.0])
    known: Answered[Moved] = Answered(Belief(x, np.diag([1e-8, 1e-8, 0.01, 1e-6, 1e-6])))
    chance = Told(
        OneGain(2, 0.0, GAIN, 0.001), known, np.eye(2) * 1e-8, 0.0, np.zeros(2), TIGHT, slice(3, 5), said=looks, **more
    )
    judged = judge("tir", 0.0045, 0.005, (Term(name="gauge", mm=0.001),))
    found = _next(True, False, chance, judged, (TIGHT,), left, (), SMALL, lambda: reach)
    return plain((*found.stop, *found.again), "mm", 0.001)


@pytest.mark.parametrize(
    ("looks", "left", "reach", "words"),
    [
        ((0.5, 0.6, 0.7), True, 0.3, STILL),  # half a chance a pass against three tenths
        ((0.1, 0.3, 0.6), True, 0.3, ""),  # six tenths, but for three passes
        ((0.5, 0.6, 0.7), True, 0.6, ""),
        ((0.05, 0.06, 0.08), True, 0.0, ""),  # hardly a chance: it is moved, however little that brings
        ((0.1, 0.3, 0.6), False, 0.0, LOOK_AGAIN),  # nothing to move: it is read on, however long
        ((0.0, 0.0, 0.0), False, 0.0, HARDLY),
    ],
)
def test_it_is_read_on_where_a_pass_there_brings_more_than_one_after_a_move(
    looks: tuple[float, ...], left: bool, reach: float, words: str
) -> None:
    assert said(looks, left, reach) == words


@pytest.mark.parametrize(("hope_mm", "words"), [(0.002, LOOK_ON), (0.0008, TIGHTEN_ON), (0.0001, HARDLY)])
def test_a_surface_that_may_turn_out_rounder_is_no_reason_to_stop(hope_mm: float, words: str) -> None:
    """As it looks now it never holds: what comes depends on what a few passes more may show."""
    assert said((0.0,), False, hope_mm=lambda: hope_mm) == words


@pytest.mark.parametrize("seed", [135, 571, 760])
def test_a_form_that_eight_spots_cannot_tell_is_not_called_out_of_round(seed: int) -> None:
    """Surfaces that can be brought within the limit; after two or three passes of eight spots they look as if they could not."""
    one = advice.trial(advice.CELLS[0], advice.LIMITS[1], "A", "cold", seed)
    assert (one.held, one.false) == (True, False)
