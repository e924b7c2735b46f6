"""Cautions that several paths have, each said in one way; every one stands at the step where it matters."""

from __future__ import annotations

from ..plan.base import BasePlan
from .steps import Caution

#: Behind a sentence with an angle in it.
ROUND = "Counter-clockwise, seen from the tailstock."
EYES = Caution(id="eyes", text="Safety glasses on: stoning, blows and chips.")
BODY = Caution(id="body", text="No jaw out past the chuck’s body farther than its manual allows.")
DRIVES = "drives, jog and feeds off."
NUTS = Caution(id="nuts", text="All nuts tight: each one tried with the wrench.")
BALANCE = Caution(
    id="balance", text="Out of balance: counterweight bolted on, speed by the manual and shop rules, started low."
)
STEADY = Caution(id="steady", text="A long part: steady or center in place before a jaw is loosened.")
SPLINES = Caution(id="splines", text="Splines and keyways cut: fingers off them when the shaft is turned.")
RELIFT = "Lift it again for it, with hoist or second person: every time it is unbolted."
FINGERS = "Fingers out from under it while it is lifted and let down."


def heavy_side(plan: BasePlan) -> tuple[Caution, ...]:
    """What belongs to work that is rough or stands off center, before power."""
    return (BALANCE,) if plan.part.finish == "rough" else ()
