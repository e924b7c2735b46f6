"""Round work in an independent four-jaw chuck, on its outside or in a bore."""

from __future__ import annotations

from ...engine.jaws.jaws import Jaws
from ...plan.asks import Needs
from .plan import FourJawPlan


class FourJaw(Jaws[FourJawPlan]):
    """Both pairs from one pass, or pair by pair."""

    id = "four_jaw"
    title = "Round part true in an independent four-jaw"
    rank = 10
    needs = Needs(
        holder="An independent four-jaw chuck; the lead of its jaw screws gives the turn of the key.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round where it is indicated; its diameter there.",
    )
    plan_class = FourJawPlan


PROCEDURE = FourJaw()
