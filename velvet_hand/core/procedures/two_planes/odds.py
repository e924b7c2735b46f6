"""How likely both planes hold: where the jaws hold the work, and how it leans, each by its own estimate."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ...engine.answers import Answered
from ...engine.policy import Odds
from ...estimate.kalman import Array
from ...estimate.one_gain import Moved, OneGain
from ...estimate.pairs import Screwed

#: Works drawn once for all: two numbers each for the grip, the lean, and what is read near and far.
DRAWN = np.random.default_rng(7).standard_normal((600, 4, 2))
#: A tap moves where the jaws hold it by this part of its own way; a jaw tips the work by this part of its.
GIVES, TIPS = 0.03, 0.05


@dataclass(frozen=True, slots=True, eq=False, kw_only=True)
class BothPlanes(Odds[Any]):
    """``Odds`` of two errors, on the chuck's axes: at the grip by the jaws (``known``), and of the lean at the far plane (``leans``).

    ``turned`` (2, 2) brings the lean onto the chuck's axes; ``near`` is the near plane as a part of the far one's reach; ``radii`` and
    ``noises`` are of the near plane and of the far one.
    """

    lean: OneGain
    leans: Answered[Moved]
    turned: Array
    near: float
    radii: tuple[float, float]
    noises: tuple[Array, Array]

    def after(self, acts: tuple[Any, ...]) -> float:
        """See ``Odds``."""
        jaws, taps = [a for a in acts if isinstance(a, Screwed)], [a for a in acts if isinstance(a, Moved)]
        grip = self.model.predict(self.known.belief, (*jaws, self.tighten))
        lean = self.lean.predict(self.leans.belief, (*taps, Moved((0.0, 0.0), 1)))
        tips = sum((TIPS * mm) ** 2 for act in jaws for mm in act.asked_mm)
        gives = sum((GIVES * mm) ** 2 for act in taps for mm in act.asked_mm)
        return self._chance((grip[0], grip[1] + gives * np.eye(2)), (lean[0], lean[1] + tips * np.eye(2)))

    def as_it_is(self) -> float:
        """See ``Odds``."""
        grip, lean = self.known.belief, self.leans.belief
        return self._chance((grip.x[:2], grip.cov[:2, :2]), (lean.x[:2], lean.cov[:2, :2]))

    def best(self) -> float:
        """See ``Odds``."""
        grip, lean = self.known.belief, self.leans.belief
        rest = self.model.effect(grip.x, (self.tighten,)).rest
        tight = self.lean.effect(lean.x, (Moved((0.0, 0.0), 1),)).rest
        return self._chance(
            (np.zeros(2), grip.cov[self.shift, self.shift] + rest), (np.zeros(2), lean.cov[3:5, 3:5] + tight)
        )

    def looks(self) -> tuple[float, ...]:
        """See ``Odds``."""
        return (self._chance((self.known.belief.x[:2], np.zeros((2, 2))), (self.leans.belief.x[:2], np.zeros((2, 2)))),)

    def _chance(self, grip: tuple[Array, Array], lean: tuple[Array, Array]) -> float:
        """Of all that are drawn, the part that holds in both planes."""
        held = grip[0] + DRAWN[:, 0] @ _root(grip[1])
        leans = (lean[0] + DRAWN[:, 1] @ _root(lean[1])) @ self.turned.T
        near = held + self.near * leans + DRAWN[:, 2] @ _root(self.noises[0])
        far = held + leans + DRAWN[:, 3] @ _root(self.noises[1])
        inside = [np.hypot(*each.T) <= radius for each, radius in zip((near, far), self.radii, strict=True)]
        return float((inside[0] & inside[1]).mean())

    def done(self) -> BothPlanes:
        """With what was done to the lean counted as well."""
        known = replace(self.known, acts=(*self.known.acts, *self.leans.acts), lost=self.known.lost or self.leans.lost)
        return replace(self, known=known)


def _root(cov: Array) -> Array:
    """A square root of a covariance (2, 2), as rows are multiplied by it."""
    values, ways = np.linalg.eigh(cov)
    return np.asarray((ways * np.sqrt(np.maximum(values, 0.0))) @ ways.T, float)
