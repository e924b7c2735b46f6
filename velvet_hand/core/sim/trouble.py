"""What may be wrong with a simulated machine, a part or a hand: one cause, switched on, and what each quick test then shows.

Sizes are drawn against the limit and the indicator of the plan, so that what is wrong really keeps the part from coming in.
"""

from __future__ import annotations

import math

import numpy as np

from ..causes import Cause, Trial
from ..plan.base import BasePlan
from ..units import Typed

#: A person at a quick test sees wrong once in so many times.
SLIPS = 1 / 30
#: How often a test of a thing, felt or seen, shows what it is there for; every other cause shows it once in SLIPS.
SHOWS: dict[Trial, dict[Cause, float]] = {
    "finger": {"burr": 0.85, "lifting": 0.3},
    "look": {"square": 0.9},
    "back_forth": {"lost_motion": 0.9, "spring": 0.2},
    "harder": {"spring": 0.75, "lifting": 0.65, "worn": 0.5, "loose": 0.2},
    "paper": {"worn": 0.85, "lifting": 0.35},
}
#: Which answer says that it is there.
THERE: dict[Trial, str] = {"finger": "yes", "look": "no", "back_forth": "no", "harder": "no", "paper": "no"}


def unfit(plan: BasePlan, rng: np.random.Generator) -> BasePlan:
    """The same plan with a limit that indicator and machine cannot tell: the cause ``floor``."""
    repeats = max([plan.machine.floor_mm, *(plan.gauge_in(slot).graduation_mm for slot in plan.slots)])
    text = f"{repeats * float(rng.uniform(0.6, 1.4)):.5f}"
    kind = "over_length" if plan.limit.kind == "angle" else plan.limit.kind
    limit = plan.limit.model_copy(update={"kind": kind, "typed": Typed(text=text, unit="mm")})
    return plan.model_copy(update={"limit": limit})


class Trouble:
    """One cause at work in a machine: the machine asks it at every reading and tightening."""

    def __init__(self, cause: Cause, plan: BasePlan, rng: np.random.Generator) -> None:
        self.cause, self.plan, self._rng = cause, plan, rng
        self.mark_mm, self.limit_mm = plan.gauge.graduation_mm, plan.limit.mm
        draw = rng.uniform
        size = max(self.limit_mm, 4 * self.mark_mm)
        self.walked = 0.0
        #: Has it done anything yet? What comes only now and then may not have.
        self.acted = cause not in ("loose", "misread", "lost_motion")
        self.last_shift = 0j
        self.step_mm = self.mark_mm * float(draw(3, 20))
        self.burr_mm = size * float(draw(1.0, 3.0))
        self.form_mm, self.lobes, self.form_deg = (
            self.limit_mm * float(draw(0.9, 2.5)),
            int(rng.choice([2, 3])),
            float(draw(0, 360)),
        )
        self.wanders_mm = max(self.mark_mm * float(draw(3, 8)), 0.35 * self.limit_mm)
        self.shift_mm = size * float(draw(0.7, 2.0))
        self.shift_deg = float(draw(0, 360))
        self.off_deg = float(draw(20, 40)) * float(rng.choice([-1, 1]))
        self.keeps, self.lost_mm = float(draw(0.3, 0.55)), float(draw(0.03, 0.08))
        self.burr_at: complex | None = None
        self.length_mm = float(getattr(plan, "edge_mm", 0.0))

    # -- what the machine asks -------------------------------------------------------------------

    def seen_at(self, at: complex) -> complex:
        """Where the stylus really stands when a spot is read."""
        return at + self.off_deg if self.cause == "square" else at

    def stands_out(self, at: complex) -> float:
        """How far the surface stands out there."""
        if self.cause == "form" and self.length_mm:
            t = 2 * at.real / self.length_mm - 1
            return self.form_mm * (1 - t * t)
        if self.cause == "form":
            return self.form_mm / 2 * math.cos(math.radians(self.lobes * (at.real - self.form_deg)))
        if self.cause == "burr" and self.burr_at is not None:
            return self.burr_mm if abs(at - self.burr_at) < 1e-6 else 0.0
        return 0.0

    def misses(self) -> float:
        """What a reading is wrong by."""
        if self.cause == "loose" and self._rng.random() < 0.12:
            self.acted = True
            self.walked += self.step_mm * float(self._rng.choice([-1, 1])) * float(self._rng.uniform(0.4, 1))
        if self.cause == "spindle":
            return float(self._rng.normal(0, self.wanders_mm))
        if self.cause == "misread" and self._rng.random() < 0.12:
            self.acted = True
            return float(self._rng.choice([-1, 1])) * float(self._rng.choice([5, 10, 20])) * self.mark_mm
        return self.walked

    def shift(self) -> complex:
        """What tightening shifts on top of what it always does."""
        if self.cause == "spring":
            size, deg = 0.6 * self.shift_mm, self.shift_deg
        elif self.cause == "lifting":
            size, deg = (
                self.shift_mm * float(self._rng.uniform(0.3, 1.7)),
                self.shift_deg + float(self._rng.normal(0, 20)),
            )
        elif self.cause == "worn":
            size, deg = self.shift_mm * float(self._rng.uniform(0.3, 1.2)), float(self._rng.uniform(0, 360))
        else:
            size, deg = 0.0, 0.0
        self.last_shift = size * complex(math.cos(math.radians(deg)), math.sin(math.radians(deg)))
        return self.last_shift

    def unwatched(self, needle_mm: float) -> float:
        """How far is moved by somebody who goes by the key and not by the needle."""
        return abs(needle_mm) * float(self._rng.uniform(0.7, 1.1))

    # -- the quick tests -------------------------------------------------------------------------

    def shows(self, trial: Trial, noise_mm: float) -> str:
        """What a quick test shows, made on this machine."""
        if trial in SHOWS:
            there = self._rng.random() < SHOWS[trial].get(self.cause, SLIPS)
            return THERE[trial] if there else ("no" if THERE[trial] == "yes" else "yes")
        found = {
            "twice": self._twice, "flick": self._flick, "round": self._round, "again": self._again, "other": self._other,
        }.get(trial)  # fmt: skip
        if found is not None:
            return self._slipped(found(noise_mm), ("yes", "no"))
        if trial == "press":
            return self._slipped("no" if self.cause == "sign" else "yes", ("yes", "no"))
        if trial == "push":
            return self._slipped(self._push(), ("yes", "gives", "no"))
        with_part: dict[Cause, str] = {"form": "yes", "burr": "yes", "worn": "stays", "lifting": "stays"}
        return self._slipped(with_part.get(self.cause, "no"), ("yes", "stays", "no"), 0.15)

    def _slipped(self, answer: str, answers: tuple[str, ...], part: float = SLIPS) -> str:
        return str(self._rng.choice(answers)) if self._rng.random() < part else answer

    def _push(self) -> str:
        if self.cause == "lifting":
            return "gives" if self._rng.random() < 0.75 else "no"
        if self.cause == "spindle":
            return "gives" if self._rng.random() < 0.5 else "yes"
        if self.cause == "loose":
            return "no" if self._rng.random() < 0.4 else "yes"
        if self.cause in ("spring", "worn"):
            return "gives" if self._rng.random() < 0.3 else "yes"
        return "yes"

    def _noise(self, noise_mm: float) -> float:
        return float(self._rng.normal(0, noise_mm))

    def _agrees(self, apart_mm: float, marks: float = 1.01) -> str:
        return "yes" if abs(apart_mm) <= marks * self.mark_mm else "no"

    def _twice(self, noise_mm: float) -> str:
        """The stylus is lifted three times, nothing turns."""
        steps = self.step_mm * (self._rng.random(3) < 0.4) if self.cause == "loose" else np.zeros(3)
        values = [self._noise(noise_mm) + float(step) for step in steps]
        return self._agrees(max(values) - min(values))

    def _flick(self, noise_mm: float) -> str:
        step = self.step_mm * float(self._rng.uniform(0.3, 1)) if self.cause == "loose" else 0.0
        return self._agrees(step + self._noise(noise_mm))

    def _round(self, noise_mm: float) -> str:
        """A turn with nothing else done: what wanders with the turn shows."""
        first = self._wandered()
        for _ in range(6):
            self._wandered()
        return self._agrees(first - self._wandered() + self._noise(noise_mm), 1.5)

    def _wandered(self) -> float:
        """What a reading is wrong by when nobody misreads it."""
        return 0.0 if self.cause == "misread" else self.misses()

    def _again(self, noise_mm: float) -> str:
        """The spot that stood out, read once more."""
        if self.cause == "misread":
            return "no"
        before = self.walked
        return self._agrees(self.misses() - before + self._noise(noise_mm))

    def _other(self, noise_mm: float) -> str:
        """A machine surface, gone over twice."""
        apart = self._wandered() - self._wandered() if self.cause in ("spindle", "loose") else 0.0
        return self._agrees(apart + self._noise(noise_mm), 1.5)
