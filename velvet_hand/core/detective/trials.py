"""The quick tests, in words: what to do, what it may show, and what it costs."""

from __future__ import annotations

from dataclasses import dataclass

from ..causes import Trial
from ..plan.base import BasePlan
from .causes import EVERY, Family


@dataclass(frozen=True, slots=True)
class QuickTest:
    """What to do (``{spot}`` is the place to do it at) and what it may show. ``cost``: how much more it takes than one look."""

    title: str
    how: str
    answers: tuple[tuple[str, str], ...]
    cost: float = 1.0
    families: tuple[Family, ...] = EVERY
    jaws: bool = False

    def answered(self, answer: str) -> str:
        """What it showed, in words."""
        return dict(self.answers).get(answer, answer).lower()


YES, NO = "yes", "no"
BACK = ((YES, "It comes back"), (NO, "It does not"))
QUICK_TESTS: dict[Trial, QuickTest] = {
    "twice": QuickTest(
        "Lift the stylus three times",
        "At {spot}, nothing turned: lift the stylus and let it down, three times. Within a graduation each time?",
        BACK,
    ),
    "flick": QuickTest(
        "Flick the arm",
        "At {spot}: flick the arm and the base lightly with a finger. Does the needle come back?",
        BACK,
    ),
    "round": QuickTest(
        "Once round, same spot",
        "Turn once round, the same way as always, and read {spot} again. Within a graduation?",
        BACK,
        1.5,
    ),
    "again": QuickTest(
        "Read that spot again",
        "Read {spot} once more, straight in front of the dial. The same figure?",
        ((YES, "The same"), (NO, "Another figure")),
    ),
    "finger": QuickTest(
        "Wipe and feel",
        "All stopped: wipe and feel each place that is read, {spot} first, and look under the part. Anything?",
        ((YES, "Something was there"), (NO, "Clean and smooth")),
    ),
    "quarter": QuickTest(
        "A quarter round in the jaws",
        "Slack off, turn the part a quarter in the jaws, tighten, read a pass. What went round with the part?",
        ((YES, "The high places did"), ("stays", "They stayed with the chuck"), (NO, "Neither")),
        4.0,
        ("ring",),
        jaws=True,
    ),
    "other": QuickTest(
        "Read another machine surface",
        "Set the indicator on a machine surface known to be good, and go over it twice. The same both times?",
        ((YES, "The same"), (NO, "It wanders")),
        2.0,
    ),
    "push": QuickTest(
        "Push and pull",
        "Needle on the part, all stopped: push and pull the part by hand. What does the needle do?",
        ((YES, "Hardly moves"), ("gives", "Gives, and comes back"), (NO, "Stays moved")),
    ),
    "press": QuickTest(
        "Press test again",
        "Press the surface toward the indicator. Does the needle go the way it was noted?",
        ((YES, "The same way"), (NO, "The other way")),
        families=("ring", "edge"),
    ),
    "look": QuickTest(
        "Look along the stylus",
        "From above and along it: does it point at the middle, at the place that was planned?",
        ((YES, "It stands right"), (NO, "It stands off")),
        families=("ring",),
    ),
    "back_forth": QuickTest(
        "A screw back and forth",
        "Needle at a jaw: back its screw off a little, then tighten. Does the needle follow at once?",
        ((YES, "At once"), (NO, "It stands still first")),
        1.5,
        ("ring",),
        jaws=True,
    ),
    "harder": QuickTest(
        "A little tighter",
        "Needle on the part: tighten a little more, in the same order. Does the needle stand?",
        ((YES, "It stands"), (NO, "It runs away")),
        families=("ring", "edge"),
    ),
    "paper": QuickTest(
        "Paper in the jaws",
        "Grip strips of paper at the mouth and at the back of each jaw. Are all held?",
        ((YES, "All held"), (NO, "One slips out")),
        3.0,
        ("ring",),
        jaws=True,
    ),
}


def offered(family: Family, plan: BasePlan) -> tuple[Trial, ...]:
    """The quick tests that can be made here."""
    jaws = len(plan.holder.jaws_deg) >= 2
    return tuple(t for t, told in QUICK_TESTS.items() if family in told.families and (jaws or not told.jaws))
