"""What the start page asks about an edge."""

from __future__ import annotations

from ..verdict import LimitKind
from .edge import Way
from .fields import Choice, FieldSpec

WAYS: tuple[tuple[Way, str], ...] = (("swing", "swing point"), ("zero", "zero at the hinge"), ("half", "tap half"))


EDGE_LIMITS: tuple[LimitKind, ...] = ("over_jaw", "over_part", "over_length", "angle")


SPOTS = FieldSpec(
    name="spots_mm", label="Spots along the edge", kind="lengths", start="10mm 45mm 80mm 115mm 150mm", most=5000,
    hint="From its left (or front) end, a space between. Below the lip, past nicks, the same depth each time.",
)  # fmt: skip


LIES = FieldSpec(
    name="lies", label="The edge lies", kind="choice", start="across",
    choices=(Choice(id="across", word="left to right"), Choice(id="along", word="front to back")),
)  # fmt: skip


SIDE = FieldSpec(
    name="gauge_side", label="The gauge stands", kind="choice", start="near",
    choices=(Choice(id="near", word="in front of it, or to its right"), Choice(id="far", word="behind it, or to its left")),
)  # fmt: skip


HINGE = FieldSpec(
    name="hinge", label="Hinge, the snug bolt", kind="choice", start="low",
    hint="The end that touches first, or that you can reach least well. The other bolt only finger tight.",
    choices=(Choice(id="low", word="left (front)"), Choice(id="high", word="right (back)"), Choice(id="none", word="none")),
)  # fmt: skip


WAY = FieldSpec(
    name="way", label="Way of working", kind="choice", start="swing",
    choices=tuple(Choice(id=way, word=word) for way, word in WAYS),
)  # fmt: skip


ANGLE = FieldSpec(
    name="target_deg", label="Angle wanted", kind="angle", start="0", least=-45, most=45,
    hint="0: square. Else degrees, counter-clockwise seen from above.",
)  # fmt: skip


OVER = FieldSpec(
    name="over_length_mm", label="Length asked for", kind="length", start="300 mm", least=10, most=5000,
    hint="For a limit over a length of its own.",
)  # fmt: skip
