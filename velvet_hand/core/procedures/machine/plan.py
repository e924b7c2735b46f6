"""What the measuring of a machine is planned with."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from ...fields import NumberOf, OneOf
from ...holders import AdjustableBody, Collet, FourJaw, MillHead, ThreeJaw
from ...plan.base import BasePlan

Axis = Literal["X", "Y", "Z"]


class MachinePlan(BasePlan):
    """A machine pushed and pulled along ``axes``, brought back to a spot ``along`` one of them, and a bar turned in its spindle."""

    procedure: Literal["machine"] = "machine"
    holder: Annotated[MillHead | Collet | ThreeJaw | FourJaw | AdjustableBody, Field(discriminator="kind")]
    axes: Annotated[
        Literal["XYZ", "XZ"], OneOf("Pushed and pulled along", words={"XYZ": "X, Y and Z", "XZ": "X and Z"})
    ] = "XYZ"
    along: Annotated[
        Axis,
        OneOf("Brought back to a spot along", "The way you come to your marks.", words={"X": "X", "Y": "Y", "Z": "Z"}),
    ] = "X"
    returns: Annotated[
        int, NumberOf("Returns from each side", "Ten tell how it repeats to a fifth.", least=4, most=20)
    ] = 10
    flicks: Annotated[int, NumberOf("Flicks of the arm", "With a finger; it has to come back.", least=3, most=10)] = 5
