"""What edge is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, OneOf, ShimsOf
from ...holders import Fixture
from ...plan.edge import EdgeBase
from ...shop import Stock


class EdgePlan(EdgeBase):
    """A named edge: of an angle plate, a fixture plate, long work or soft jaws.

    With ``upright_mm`` the face is read up and down as well, over that height, and shimmed from ``stock``.
    """

    procedure: Literal["edge"] = "edge"
    holder: Fixture
    thing: Annotated[
        Literal["angle_plate", "fixture_plate", "long_work", "soft_jaws"],
        OneOf(
            "What it is",
            words={
                "fixture_plate": "fixture plate",
                "angle_plate": "angle plate",
                "long_work": "long part",
                "soft_jaws": "soft jaws",
            },
            rank=0,
        ),
    ] = "fixture_plate"
    upright_mm: Annotated[
        float, LengthOf("Face read up over", "An angle plate’s upright direction. 0: not read.", most=2000)
    ] = 0.0
    base_mm: Annotated[float, LengthOf("Base from front to back", "Where shims lie apart, for the lean.", least=10)] = (
        100.0
    )
    stock: Annotated[Stock | None, ShimsOf("Shims from")] = None
