"""The registry of procedures: one line for each."""

from __future__ import annotations

from .adjustable import ADJUSTABLE
from .base import Procedure
from .bed import BED
from .centre import CENTRE
from .clocking import CLOCKING
from .collet import COLLET
from .column import COLUMN_ON_AXIS
from .dowels import DOWELS
from .edge import EDGE
from .faceplate import FACEPLATE
from .four_jaw import FOUR_JAW
from .packing import PACKING
from .plate import PLATE
from .reversal import REVERSAL
from .rod import ROD
from .rough import ROUGH
from .shaft import SHAFT
from .throw import THROW
from .tram import TRAM
from .two_planes import TWO_PLANES
from .vise import VISE
from .vises import VISES

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
        VISE,
        BED,
        EDGE,
        ROD,
        CENTRE,
        VISES,
        PLATE,
        COLUMN_ON_AXIS,
    )
}
