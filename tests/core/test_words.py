"""Every sentence, label and refusal as a person at the machine would read it: walked through, procedure by procedure."""

from __future__ import annotations

import re
from collections.abc import Iterator

import numpy as np
import pytest
from pydantic import BaseModel

from velvet_hand.core.desk import desk
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.wording import HEADLINE, Angle, Length, Words, degrees, headlined, plain, strong, text, turn_words

#: What nobody says, by why.
NEVER = {
    "a doubled space": r"  ",
    "a space before a stop": r" [.,;:](?!\d)",
    "a plural of one": r"\b1 (moves|taps|passes|spots|turns|readings|stations)\b",
    "360 degrees": r"\b360°",
    "an unfilled place": r"[{}]|\bNone\b|\bnan\b",
    "millimeters in an inch shop": r"\d ?(mm|µm)\b",
    "nothing, toward something": r"\b0\.0+ (thou )?toward",
    "gauge, for what is an indicator": r"(?<!feeler )(?<!surface )(?<!height )\b[Gg]auges?\b(?! block)",
    "work, for the part": r"(?<!dangerous )\b[Ww]ork\b(?! area| against)",
    "mark, for a graduation": r"\b(finer|one|few) marks?\b",
    "band of, for what ± comes from": r"\b[Tt]he band of\b",
    "other words for tighten": r"\b(nip|bolt|pinch)\w* up\b|\bpulled down\b",
    "slant, for out of square": r"\bslants?\b",
    "swing, for a pivot": r"\bswings? (about|point)",
    "an empty minus": r"−0(\.0+)?\b(?!\.)",
}
SEEDS = (1, 4)


def sentences(part: object, where: str = "") -> Iterator[tuple[str, str]]:
    """Every text in a view as a shop in thou reads it, with where it stands."""
    if isinstance(part, tuple | list):
        if part and isinstance(part[0], Words | Length | Angle):
            yield where, plain(tuple(part), "thou", 0.0005)
        else:
            for one in part:
                yield from sentences(one, where)
    elif isinstance(part, BaseModel):
        for name in type(part).model_fields:
            yield from sentences(getattr(part, name), f"{where}.{name}")
    elif isinstance(part, str) and " " in part:
        yield where, part


def walked(procedure: str, seed: int) -> Iterator[tuple[str, str]]:
    plan = example(procedure, seed).model_copy(update={"unit": "thou"})
    rng = np.random.default_rng(seed)
    hand = Operator(plan, machine(plan, rng), rng)
    seen: set[str] = set()
    for _ in range(400):
        shown = [desk.show(hand.events, "x", hand.state), desk.suspects(hand.state)]
        line = desk.log_of(hand.events, hand.state)[-1].what
        for where, said in (pair for one in [*shown, line] for pair in sentences(one)):
            if said not in seen:
                seen.add(said)
                yield where, said
        if hand.full_passes > 8 or not hand.step():
            return


@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_every_sentence_reads_as_a_person_would_say_it(procedure: str) -> None:
    for seed in SEEDS:
        for where, said in walked(procedure, seed):
            wrong = [why for why, pattern in NEVER.items() if re.search(pattern, said)]
            assert not wrong, f"{wrong} at {where}: {said}"
            if where.endswith("panels.headline"):
                assert len(said) <= HEADLINE, f"{len(said)} letters: {said}"


def test_a_headline_that_is_too_long_keeps_its_first_sentence() -> None:
    long = text(
        "Take ", strong("the bar out"), ". In each vise the outer bolt snug, the other finger tight, and so on."
    )
    head, rest = headlined(long, "mm", 0.001)
    assert plain(head, "mm", 0.001) == "Take the bar out."
    assert plain(rest, "mm", 0.001).startswith("In each vise")
    short = text("Tap it. ", "Then read.")
    assert headlined(short, "mm", 0.001) == (short, ())
    apart = text(strong("Turn it over."), " Then read the place at the front left of what lies on the two blocks now.")
    assert plain(headlined(apart, "mm", 0.001)[0], "mm", 0.001) == "Turn it over."


@pytest.mark.parametrize(
    ("deg", "words"),
    [(225, "5/8 turn (225°)"), (720, "2 turns (720°)"), (405, "1 1/8 turns (405°)"), (3, "3°"), (350, "1 turn (350°)")],
)
def test_a_key_is_turned_as_a_machinist_says_it(deg: float, words: str) -> None:
    assert turn_words(deg) == words


def test_a_direction_is_never_a_whole_turn() -> None:
    assert [degrees(d) for d in (359.6, 0.2, -0.2, 720, 180.4)] == ["0°", "0°", "0°", "0°", "180°"]
