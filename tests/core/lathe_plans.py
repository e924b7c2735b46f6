"""A plan for every procedure, in every orientation that it offers, by a number."""

from __future__ import annotations

from velvet_hand.core.procedures.registry import example as plan_of
from velvet_hand.core.sim.example import FINE_SHIMS, PINS, RULE, SHIMS
from velvet_hand.core.sim.example import usual as common

__all__ = ["FINE_SHIMS", "PINS", "RULE", "SHIMS", "common", "plan_of"]
