"""The causes, in words: what each is called, what it asks for, and where it can be at all."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from ..causes import Cause
from ..plan.base import BasePlan

#: What is read: a turn, an edge, or single points.
Family = Literal["ring", "edge", "points"]
EVERY: tuple[Family, ...] = ("ring", "edge", "points")


@dataclass(frozen=True, slots=True)
class Culprit:
    """A cause: its name, what mends it, where it can be; ``titles`` where it is called otherwise. ``jaws``: only in what has jaws."""

    title: str
    mend: str
    families: tuple[Family, ...] = EVERY
    titles: tuple[tuple[Family, str], ...] = ()
    jaws: bool = False

    def named(self, family: Family) -> str:
        """Its name where that is read."""
        return dict(self.titles).get(family, self.title)


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
        (("edge", "The edge is not straight"),),
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
        titles=(("edge", "The table or its ways"), ("points", "The table or its ways")),
    ),
    "spring": Culprit(
        "The jaws spring",
        "Back off more before you tighten, grip on solid steps, and ask for smaller moves.",
        ("ring", "edge"),
        (("edge", "It springs back from each tap"),),
    ),
    "lifting": Culprit(
        "It lifts or shifts when it is tightened",
        "Take it out, clean the seats, tap it down while it is half tight, and tighten evenly.",
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
