"""What rough is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from ...fields import LengthOf, OneOf
from ...plan.jaws import JawPlan


class RoughPlan(JawPlan):
    """Rough work by gaps. The ``second`` plane comes from a face, read at ``face_radius_mm``, or from feelers
    behind the jaws, which grip over ``jaw_length_mm``.
    """

    procedure: Literal["rough"] = "rough"
    second: Annotated[
        Literal["none", "face", "feelers"],
        OneOf(
            "Second plane",
            "For the lean: gaps to a face at the same spots, or behind each jaw at its inner end.",
            words={"none": "none", "face": "a trued face", "feelers": "feelers behind the jaws"},
        ),
    ] = "none"
    face_radius_mm: Annotated[float, LengthOf("Face read at radius", least=5, most=1500)] = 60.0
    jaw_length_mm: Annotated[float, LengthOf("Length of the jaws’ grip", least=2, most=300)] = 40.0

    @property
    def arm_mm(self) -> float:
        """What a gap of the second plane is divided by to give the lean."""
        return self.face_radius_mm if self.second == "face" else self.jaw_length_mm
