"""The causes, in words: what each is called, what it asks for, and where it can be at all."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ..causes import Cause
from ..plan.base import BasePlan

#: What is read: a turn, an edge, or single points.
Family = Literal["ring", "edge", "points"]
EVERY: tuple[Family, ...] = ("ring", "edge", "points")
#: Where that is, for words: a ring that jaws hold, one that nothing of the kind holds, a plane that is swept.
Place = Literal["jaws", "ring", "swept", "edge", "points"]


@dataclass(frozen=True, slots=True)
class Culprit:
    """A cause: its name, what mends it, where it can be; ``elsewhere`` both, where they are others. ``jaws``: only in what has jaws."""

    title: str
    mend: str
    families: tuple[Family, ...] = EVERY
    elsewhere: Mapping[Place, tuple[str, str]] = field(default_factory=dict)
    jaws: bool = False

    def told(self, place: Place) -> tuple[str, str]:
        """Its name there, and what mends it."""
        return self.elsewhere.get(place, (self.title, self.mend))


_WAYS = (
    "The table or its ways",
    "Run it one way only, lock what does not move, and see to its gibs by the machine’s manual. Until then the limit may be out of reach.",
)


CULPRITS: dict[Cause, Culprit] = {
    "none": Culprit("Nothing is wrong", "Go on: it only needs another pass."),
    "loose": Culprit(
        "The base or an arm is loose",
        "Tighten base, arms and clamp, preload half a turn, set zero afresh and read the pass again.",
    ),
    "burr": Culprit(
        "A burr or a chip",
        "Wipe or stone it away; a place that cannot be cleaned is marked bad. Then read again.",
    ),
    "form": Culprit(
        "The part is out of round",
        "Moving it does not help: put the limit on off center, true another surface, or accept it with a reason.",
        ("ring", "edge"),
        {
            "edge": (
                "The edge is not straight",
                "No tap mends that: stone its nicks, read another edge that was cut with it, or accept it with a reason.",
            ),
            "swept": (
                "What is swept is not flat",
                "Turning the head does not help: stone it, sweep a plate that is known to be flat, or accept it with a reason.",
            ),
        },
    ),
    "worn": Culprit(
        "The jaws hold at one end only",
        "Grip farther back, put a ring or soft packing in the mouth, or have the jaws trued.",
        ("ring",),
        jaws=True,
    ),
    "spindle": Culprit(
        "The spindle or a bearing",
        "Warm it up, turn it one way only, and see to the bearings by the machine’s manual. Until then the limit may be out of reach.",
        elsewhere={"edge": _WAYS, "points": _WAYS},
    ),
    "spring": Culprit(
        "The jaws spring",
        "Back off more before you tighten, grip on solid steps, and ask for smaller moves.",
        ("ring", "edge"),
        {
            "edge": (
                "It springs back from each tap",
                "Tap lighter, and go past the aim by what it springs back; see that one bolt is snug and the others are loose.",
            ),
            "ring": (
                "It springs back from each move",
                "Free what holds it a little more, go past the aim by what it springs back, and ask for smaller moves.",
            ),
            "swept": (
                "The head springs back from each move",
                "Ease its clamp bolts a little more, go past the aim by what it springs back, and ask for smaller moves.",
            ),
        },
    ),
    "lifting": Culprit(
        "It lifts or shifts when it is tightened",
        "Take it out, clean the seats, tap it down while it is half tight, and tighten evenly.",
        elsewhere={
            "swept": (
                "The head shifts when it is clamped",
                "Clean its faces, clamp it in smaller steps, crosswise, and watch the needle at the last turn.",
            )
        },
    ),
    "sign": Culprit(
        "The needle’s direction is wrong",
        "Make the press test again; no more moves before that.",
        ("ring", "edge"),
    ),
    "square": Culprit(
        "The indicator stands off square",
        "Stand it square to the surface, at the place that was planned; then zero and press test again.",
        ("ring",),
    ),
    "lost_motion": Culprit(
        "Lost motion in the screws",
        "Come to the aim by tightening only: back off well past it first.",
        ("ring",),
        jaws=True,
    ),
    "misread": Culprit("A spot was misread", "Correct that reading, or read the pass again."),
    "floor": Culprit(
        "Below what can be told here",
        "What is left is smaller than indicator and machine repeat to: a finer indicator, or a wider limit.",
    ),
}


def possible(family: Family, plan: BasePlan) -> tuple[Cause, ...]:
    """The causes that can be there at all."""
    jaws = len(plan.holder.jaws_deg) >= 2
    return tuple(c for c, told in CULPRITS.items() if family in told.families and (jaws or not told.jaws))
