"""Why won't it come in? What could explain it, in words, and the quick test to make with its answers as buttons."""

from __future__ import annotations

from datetime import date

from ..causes import Cause
from ..detective.causes import CULPRITS, Place
from ..detective.evidence import place_of, tells
from ..detective.trials import QUICK_TESTS
from ..detective.why import Suspect, tried_here, why
from ..engine.procedure import Registered
from ..model import Model
from ..setup import events as ev
from ..setup.state import State
from ..wording import Text, strong, text
from .panel import Action

#: So many causes are told of, and none that is less likely than this.
MOST, LEAST = 5, 0.03
#: From here on one cause is called the likely one.
LIKELY = 0.5


class Explained(Model):
    """A cause: how likely (0 to 1, and in words), what speaks for it, and what mends it."""

    cause: Cause
    title: str
    share: float
    chance: str
    because: tuple[Text, ...]
    mend: str


class QuickTestShown(Model):
    """The quick test that tells most: what to do, and a button for each thing it may show."""

    title: str
    how: str
    answers: tuple[Action, ...]


class WhyView(Model):
    """What could explain what was seen, the likeliest first; ``test`` is None when none is worth its time, or nothing was read."""

    headline: Text
    suspects: tuple[Explained, ...]
    test: QuickTestShown | None
    tried: tuple[Text, ...]


def chance_words(share: float) -> str:
    """How likely, in tenths."""
    tenths = round(10 * share)
    return "hardly" if tenths < 1 else "nearly certain" if tenths > 9 else f"about {tenths} in 10"


def _before_it_tells(state: State) -> str:
    """What to do before anything can be told; "" when it can be."""
    if any(one.readings and tells(state, one) for one in state.passes):
        return ""
    read = [r for one in state.passes for r in one.readings.values()]
    if not read:
        return "Read a pass first: nothing was seen yet."
    gone = any(r.needle_mm is None for r in read)
    return f"{'Bring the needle onto its dial' if gone else 'Read the pass to its end'} first: nothing can be told yet."


def explain(procedure: Registered, state: State, on: date | None = None) -> WhyView:
    """What could explain what was seen; see ``why``."""
    if before := _before_it_tells(state):
        return WhyView(headline=text(before), suspects=(), test=None, tried=())
    found = why(procedure, state, on)
    told = [s for s in found.suspects[:MOST] if s.chance >= LEAST]
    tried = tuple(
        text(f"{QUICK_TESTS[trial].title}: {QUICK_TESTS[trial].answered(answer)}.")
        for trial, answer in tried_here(state).items()
    )
    test = None
    if found.trial is not None:
        asked, spot = QUICK_TESTS[found.trial], state.station(found.spot).label
        answers = tuple(
            Action(id=answer, label=label, key=str(number), events=(ev.Tried(trial=found.trial, answer=answer),))
            for number, (answer, label) in enumerate(asked.answers, 1)
        )
        test = QuickTestShown(title=asked.title, how=asked.how.format(spot=spot.lower()), answers=answers)
    place = place_of(state)
    return WhyView(
        headline=_headline(told, place),
        suspects=tuple(_explained(s, place) for s in told),
        test=test,
        tried=tried,
    )


def _explained(suspect: Suspect, place: Place) -> Explained:
    title, mend = CULPRITS[suspect.cause].told(place)
    return Explained(
        cause=suspect.cause,
        title=title,
        share=suspect.chance,
        chance=chance_words(suspect.chance),
        because=suspect.because,
        mend=mend,
    )


def _headline(told: list[Suspect], place: Place) -> Text:
    first = told[0]
    title, _ = CULPRITS[first.cause].told(place)
    if first.cause == "none":
        return text(
            "Nothing looks wrong. ", strong("Go on.") if first.chance >= LIKELY else "One quick test to be sure."
        )
    if first.chance >= LIKELY:
        return text("Most likely: ", strong(title.lower()), ".")
    return text("Not clear yet. ", strong("One quick test"), " first.")
