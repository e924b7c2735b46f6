"""The registry of procedures: one line for each."""

from __future__ import annotations

from .adjustable import ADJUSTABLE
from .base import Procedure
from .clocking import CLOCKING
from .collet import COLLET
from .dowels import DOWELS
from .faceplate import FACEPLATE
from .four_jaw import FOUR_JAW
from .packing import PACKING
from .reversal import REVERSAL
from .rough import ROUGH
from .shaft import SHAFT
from .throw import THROW
from .tram import TRAM
from .two_planes import TWO_PLANES

PROCEDURES: dict[str, Procedure] = {
    p.id: p
    for p in (
        FOUR_JAW,
        ROUGH,
        TWO_PLANES,
        THROW,
        CLOCKING,
        PACKING,
        REVERSAL,
        ADJUSTABLE,
        COLLET,
        SHAFT,
        DOWELS,
        FACEPLATE,
        TRAM,
    )
}
