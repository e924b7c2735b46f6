"""Both planes together: where the jaws hold the work and how it leans as one state, and how likely both ends hold.

Each is learned by its own estimate; here they are laid side by side, for what comes next decides over both.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

import numpy as np

from ...engine.answers import Answered
from ...engine.forecast import Way
from ...engine.policy import Odds
from ...estimate.kalman import Array, Belief, Effect, Model
from ...estimate.one_gain import Moved, OneGain
from ...estimate.pairs import Pairs, Screwed

#: Works drawn once for all: the grip (2) and the lean (2).
DRAWN = np.random.default_rng(7).standard_normal((600, 4))
#: A tap moves where the jaws hold it by this part of its own way; a jaw tips the work by this part of its.
GIVES, TIPS = 0.03, 0.05
#: Both are tightened at once.
TIGHTEN = (Screwed(tightened=1), Moved((0.0, 0.0), 1))
#: Where the grip's state and the lean's stand in that of both: errors first, then what moves answer, then the shifts.
GRIP, LEAN, SHIFTS = np.array([0, 1, 4, 5, 6, 7, 8, 9, 11, 12]), np.array([2, 3, 10, 13, 14]), slice(11, 15)


class Joined(Model[Any]):
    """Grip and lean (at the far plane) in one state; an act is ``Screwed``, ``Moved``, or one of each. ``rough`` says by how much a hand
    misses its aims at either, as each estimate has it.
    """

    dim = 4

    def __init__(self, grip: Pairs, lean: OneGain, rough: tuple[float, float] = (1.0, 1.0)) -> None:
        self.grip, self.lean, self.rough = grip, lean, rough
        names = {int(at): f"grip_{name}" for at, name in zip(GRIP[2:], grip.names, strict=True)}
        names |= {int(at): f"lean_{name}" for at, name in zip(LEAN[2:], lean.names, strict=True)}
        priors = {f"grip_{name}": one for name, one in grip.priors.items()}
        priors |= {f"lean_{name}": one for name, one in lean.priors.items()}
        self.priors = {names[at]: priors[names[at]] for at in sorted(names)}

    def of(self, grip: Belief, lean: Belief) -> Belief:
        """What is believed of either, as a belief of both."""
        x, cov = np.zeros(15), np.zeros((15, 15))
        for at, one in ((GRIP, grip), (LEAN, lean)):
            x[at], cov[np.ix_(at, at)] = one.x, one.cov
        return Belief(x, cov, updates=min(grip.updates, lean.updates))

    def apart(self, belief: Belief) -> tuple[Belief, Belief]:
        """Either of them alone."""
        grip, lean = (Belief(belief.x[at], belief.cov[np.ix_(at, at)], updates=belief.updates) for at in (GRIP, LEAN))
        return grip, lean

    def clip(self, x: Array) -> Array:
        """See ``Model``."""
        found = x.copy()
        for at, model in ((GRIP, self.grip), (LEAN, self.lean)):
            found[at] = model.clip(x[at])
        return found

    def effect(self, x: Array, acts: Sequence[Any]) -> Effect:
        """See ``Model``: each by its own acts, and a little by the other's."""
        each = [one for act in acts for one in (act if isinstance(act, tuple) else (act,))]
        jaws, taps = [a for a in each if isinstance(a, Screwed)], [a for a in each if isinstance(a, Moved)]
        effects = self.grip.effect(x[GRIP], jaws), self.lean.effect(x[LEAN], taps)
        moved, slopes = np.concatenate([one.moved for one in effects]), np.zeros((4, 15))
        missed, rest = np.zeros((4, 4)), np.zeros((4, 4))
        for i, (at, one) in enumerate(zip((GRIP, LEAN), effects, strict=True)):
            rows = slice(2 * i, 2 * i + 2)
            slopes[rows, at] = one.slopes
            missed[rows, rows], rest[rows, rows] = one.missed * self.rough[i], one.rest
        missed[2:, 2:] += sum((TIPS * mm) ** 2 for act in jaws for mm in act.asked_mm) * np.eye(2)
        missed[:2, :2] += sum((GIVES * mm) ** 2 for act in taps for mm in act.asked_mm) * np.eye(2)
        return Effect(moved, slopes, missed, rest)


@dataclass(frozen=True, slots=True, eq=False, kw_only=True)
class BothPlanes(Odds[Any]):
    """``Odds`` of grip and lean, the grip on the chuck's axes.

    ``turned`` (2, 2) brings the lean onto them; ``near`` is the near plane as a part of the far one's reach, which may be off by
    ``wider_mm`` more than the near one (``radius_mm``).
    """

    model: Joined
    turned: Array
    near: float
    wider_mm: float

    def inside(self, mean: Array, cov: Array) -> float:
        """Of all that are drawn, the part that holds in both planes."""
        values, ways = np.linalg.eigh(cov)
        drawn = mean + DRAWN @ (ways * np.sqrt(np.maximum(values, 0.0))).T
        held, leans = drawn[:, :2], drawn[:, 2:] @ self.turned.T
        near, far = (np.hypot(*(held + part * leans).T) for part in (self.near, 1.0))
        return float(((near <= self.radius_mm) & (far <= self.radius_mm + self.wider_mm)).mean())


def way_of(chance: BothPlanes, least_mm: float, rough_mm: float, readings: int) -> Way:
    """How both go: jaws and a tap from one pass, none of them below ``least_mm``."""
    model = chance.model

    def bring(belief: Belief, ways: tuple[int, ...]) -> tuple[tuple[Any, ...], tuple[int, ...]]:
        grip, lean = model.apart(belief)
        act, ways = model.grip.moved(grip, -grip.x[:2], ways, least_mm)
        tap = model.lean.ask(lean, -lean.x[:2])
        struck = (Moved((float(tap[0]), float(tap[1]))),) if float(np.hypot(*tap)) >= least_mm else ()
        return (*act, *struck), ways

    return Way(chance, bring, rough_mm, readings, quick=0)


def both(
    grip: tuple[Pairs, Answered[Screwed]], lean: tuple[OneGain, Answered[Moved]], turned: Array, near: float,
    radii: tuple[float, float], noises: tuple[Array, Array],
) -> BothPlanes:  # fmt: skip
    """Odds by either's model and what is known of it; ``radii`` and ``noises`` are of the near plane and of the far one."""
    held, leans = grip[1], lean[1]
    model = Joined(grip[0], lean[0], (held.belief.rough, leans.belief.rough))
    back = np.linalg.inv(turned)
    parts = np.block([[np.eye(2), -near * np.eye(2)], [-back, back]]) / (1 - near)  # of what is read near and far
    seen = np.zeros((4, 4))
    seen[:2, :2], seen[2:, 2:] = noises
    known = Answered(
        model.of(held.belief, leans.belief), (*held.acts, *leans.acts), held.ways, lost=held.lost or leans.lost
    )
    return BothPlanes(
        model=model, known=known, noise=parts @ seen @ parts.T, radius_mm=radii[0], aim=np.zeros(4), tighten=TIGHTEN, shift=SHIFTS,
        turned=turned, near=near, wider_mm=radii[1] - radii[0],
    )  # fmt: skip
