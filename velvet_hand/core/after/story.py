"""A set-up in a few sentences, for who opens its page."""

from __future__ import annotations

from ..measured import what_words
from ..model import Model
from ..quantity import KIND_WORDS, Quantity
from ..setup.follow import FollowUp
from ..setup.state import State
from ..wording import Text, length, signed, so_many, strong, text
from .account import Account, PartMeasured, account_of, kept_word
from .run import Run, runs

ENDED: dict[str, str] = {"holds": "holds", "outside": "outside", "cannot_tell": "not proven"}


class Story(Model):
    """What was asked, what was found, what was done about it and how it ended, and what the part measured: a sentence each; and whose
    history it is part of (ids, a name of the hand).
    """

    holder: str
    machine: str
    gauge: str
    hand: str
    asked: Text
    found: Text
    done: Text
    after: tuple[Text, ...]
    runs: tuple[Run, ...]
    follow_ups: tuple[FollowUp, ...]


def story(state: State, first: Quantity | None) -> Story:
    """The set-up in four sentences; ``first`` is what its first full pass said."""
    plan, told = state.plan, account_of(state)
    asked = text("Within ", length(plan.limit.mm), f" {KIND_WORDS[plan.limit.kind]}.")
    found = text("It stood at ", *first.told, " at first.") if first else text("Not read yet.")
    return Story(
        holder=plan.holder.id, machine=plan.machine.id, gauge=plan.gauge.id, hand=told.hand, asked=asked, found=found,
        done=_done(state, told), after=tuple(_after(told, m) for m in told.measured), runs=runs(told),
        follow_ups=told.follow_ups,
    )  # fmt: skip


def _done(state: State, told: Account) -> Text:
    moves = so_many(told.moves, "move") if told.moves else "No moves"
    passes = so_many(told.passes, "pass")
    about = max(1, round(told.minutes or 0))
    minutes = "" if told.minutes is None else f", about {so_many(about, 'minute')} at it"
    head = f"{moves} in {passes}{minutes}" if not state.only_reads else f"{passes}{minutes}"
    if told.accepted:
        return text(f"{head}: ", strong("accepted"), f", {(state.accepted or '').rstrip('. ')}.")
    if told.value is None or told.outcome is None:
        return text(f"{head}; no proof yet.")
    return text(
        f"{head}: ", strong(ENDED[told.outcome]), ", ", length(told.value.mm), " ± ", length(told.band_mm or 0.0),
        f" {KIND_WORDS[told.value.kind]}.",
    )  # fmt: skip


def _after(told: Account, one: PartMeasured) -> Text:
    kind = what_words(one.what, told.limit.kind)
    held = kept_word(told, one)
    word = {True: ", so it held", False: ", so it did not hold", None: ""}[held]
    by = (f", by {one.by}" if one.by else "") + (f" ({one.author})" if one.author else "")
    return text(
        f"Piece {one.piece} measured ",
        signed(one.mm) if one.mm < 0 else length(one.mm),
        f" {kind}{word}{by}.",
    )
