"""What a holder answers: learned gain of a move, learned kick of tightening.

Gain: ``a = g c`` with prior ``g0 +- sqrt(P)`` and Gaussian noise; the update is Bayesian
regression, ``K = P c / (c^2 P + R)``. Kick: mean of a repeatable shift, ``K = P / (P + R)``.
"""

from __future__ import annotations

from dataclasses import dataclass

#: A move stopped at the aim ends where it was asked to, give or take the screws' spring.
GAIN_PRIOR = 0.95
GAIN_PRIOR_SD = 0.15
#: Part of a move that is missed at random.
MOVE_SCATTER = 0.05
KICK_PRIOR_SD_MM = 0.006


@dataclass(frozen=True, slots=True)
class Gain:
    """Part of an asked move that arrives, with its variance and the moves it rests on; never beyond its bounds."""

    value: float = GAIN_PRIOR
    variance: float = GAIN_PRIOR_SD**2
    moves: int = 0
    least: float = 0.4
    most: float = 1.4

    def learn(self, asked_mm: float, got_mm: float, u_mm: float) -> Gain:
        """Take in one move.

        Examples
        --------
        >>> g = Gain(0.85, 0.15**2).learn(-1.20, -0.88, 0.0)
        >>> round(g.value, 3), round(g.variance ** 0.5, 3)
        (0.742, 0.041)
        """
        noise = 2 * u_mm**2 + (MOVE_SCATTER * self.value * asked_mm) ** 2 + 1e-12
        k = self.variance * asked_mm / (asked_mm**2 * self.variance + noise)
        value = self.value + k * (got_mm - self.value * asked_mm)
        bounded = min(max(value, self.least), self.most)
        return Gain(bounded, self.variance * (1 - k * asked_mm), self.moves + 1, self.least, self.most)

    def ask(self, need_mm: float) -> float:
        """The move to ask for so that ``need_mm`` is most likely to arrive.

        Before the first move is known it asks for the plain need, so that the first aim is the
        pair's mean, as everybody expects.
        """
        return need_mm if not self.moves else need_mm * self.value / (self.value**2 + self.variance)


@dataclass(frozen=True, slots=True)
class Kick:
    """Shift on final tightening along one axis: mean and variance of the repeatable part."""

    mean_mm: float = 0.0
    variance: float = KICK_PRIOR_SD_MM**2
    times: int = 0

    def learn(self, seen_mm: float, u_mm: float, scatter_mm: float = 0.002) -> Kick:
        """Take in one tightening.

        Examples
        --------
        >>> round(Kick().learn(0.007, 0.0004).mean_mm, 4)
        0.0063
        """
        k = self.variance / (self.variance + scatter_mm**2 + 2 * u_mm**2)
        return Kick(self.mean_mm + k * (seen_mm - self.mean_mm), self.variance * (1 - k), self.times + 1)
