"""What rough is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.jaws import JawPlan


class RoughPlan(JawPlan):
    """Rough work by gaps. The ``second`` plane comes from a face, read at ``face_radius_mm``, or from feelers
    behind the jaws, which grip over ``jaw_length_mm``.
    """

    procedure: Literal["rough"] = "rough"
    second: Literal["none", "face", "feelers"] = "none"
    face_radius_mm: float = 60.0
    jaw_length_mm: float = 40.0

    @property
    def arm_mm(self) -> float:
        """What a gap of the second plane is divided by to give the lean."""
        return self.face_radius_mm if self.second == "face" else self.jaw_length_mm
