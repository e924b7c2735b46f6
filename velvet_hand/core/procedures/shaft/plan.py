"""What shaft is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthsOf, OneOf
from ...holders import Centres
from ...plan.base import BasePlan


class ShaftPlan(BasePlan):
    """A shaft between centers, read at ``z_mm`` from the driving end; the outer two carry the line."""

    procedure: Literal["shaft"] = "shaft"
    holder: Centres
    z_mm: Annotated[
        tuple[float, ...],
        LengthsOf(
            "Places, from the driving end",
            "Three or more, in order, with spaces. The first and last carry the line; five find a bend.",
            most=10000,
        ),
    ]
    noted: Annotated[
        Literal["all", "high"],
        OneOf(
            "Noted at each place",
            "All round shows form as well; TIR and high spot is two numbers a place.",
            words={"all": "the needle all round", "high": "TIR and where it is high"},
        ),
    ] = "all"
