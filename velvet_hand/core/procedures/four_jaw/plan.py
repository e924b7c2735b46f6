"""What four jaw is planned with."""

from __future__ import annotations

from typing import Literal

from ...plan.jaws import JawPlan


class FourJawPlan(JawPlan):
    """Round work in an independent four-jaw, from jaw 1."""

    procedure: Literal["four_jaw"] = "four_jaw"
