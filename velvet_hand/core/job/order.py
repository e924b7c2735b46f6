"""The operations of one part in their order: what each hands over, and which are to be done again when an earlier one was."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Literal
from uuid import UUID

from pydantic import Field

from ..after.account import Account
from ..after.story import ENDED
from ..errors import BadInput
from ..model import Model
from ..quantity import KIND_WORDS
from ..wording import Text, length, strong, text

#: A part has no more operations.
MOST = 20
Short = Annotated[str, Field(max_length=120)]


class Operation(Model):
    """A set-up of a part: what its start page is filled with (``plan``), what it ``leaves`` for the next, and its ``setup`` once begun."""

    id: str = Field(min_length=1, max_length=40)
    name: str = Field(min_length=1, max_length=80)
    title: str = Field(default="", max_length=120)
    holder: str = Field(default="", max_length=80)
    plan: dict[Annotated[str, Field(max_length=40)], Short] = Field(default_factory=dict, max_length=20)
    leaves: str = Field(default="", max_length=400)
    setup: str | None = Field(default=None, max_length=40)


class JobOrder(Model):
    """A part and its operations, first to last."""

    name: str = Field(min_length=1, max_length=120)
    operations: tuple[Operation, ...] = Field(default=(), max_length=MOST)

    def check(self) -> None:
        """Refuse what is no order.

        Raises
        ------
        BadInput
            An operation that is there twice, or a set-up that is none.
        """
        for number, one in enumerate(self.operations):
            at = f"operations.{number}"
            if one.id in {other.id for other in self.operations[:number]}:
                raise BadInput("field_invalid", "An operation is there twice.", "Leave one of them out.", f"{at}.id")
            if one.setup is not None and not _is_id(one.setup):
                raise BadInput("field_invalid", "That is no set-up.", "Leave it out.", f"{at}.setup")


def _is_id(told: str) -> bool:
    try:
        UUID(told)
    except ValueError:
        return False
    return True


Stage = Literal["waits", "to_do", "at_it", "done", "again"]


class OperationView(Model):
    """An operation as it stands: ``why`` it waits or is to be done again, ``told`` what the ones before hand over to it."""

    operation: Operation
    stage: Stage
    why: str
    told: tuple[Text, ...]


def in_order(job: JobOrder, known: Mapping[str, Account]) -> tuple[OperationView, ...]:
    """Every operation as it stands, by the accounts of its set-ups."""
    found: list[OperationView] = []
    for number, one in enumerate(job.operations):
        before = job.operations[:number]
        redo = next((view.operation.name for view in found if view.stage == "again"), "")
        stage, why = _stage(one, before, known, redo)
        told = tuple(line for other in before for line in _handed(other, known))
        found.append(OperationView(operation=one, stage=stage, why=why, told=told))
    return tuple(found)


def _account(one: Operation, known: Mapping[str, Account]) -> Account | None:
    return known.get(one.setup) if one.setup else None


def _ended(one: Operation, known: Mapping[str, Account]) -> Account | None:
    """Its account, once it is proved or accepted."""
    told = _account(one, known)
    good = told is not None and told.ended_at is not None and (told.accepted or told.outcome == "holds")
    return told if good else None


def _stage(one: Operation, before: Sequence[Operation], known: Mapping[str, Account], redo: str) -> tuple[Stage, str]:
    """How it stands, and why; ``redo`` is the first before it that is to be done again."""
    open_before = next((other for other in before if _ended(other, known) is None), None)
    mine = _ended(one, known)
    if _account(one, known) is None:
        first = open_before.name if open_before else redo
        return ("waits", f"“{first}” comes before it.") if first else ("to_do", "")
    if mine is None or mine.ended_at is None:
        return "at_it", ""
    if open_before is not None:
        return "again", f"“{open_before.name}” is not proved any more."
    if redo:
        return "again", f"“{redo}” is to be done again before it."
    for other in before:
        earlier = _ended(other, known)
        if earlier is not None and earlier.ended_at is not None and earlier.ended_at > mine.ended_at:
            return "again", f"“{other.name}” was done again after it: what it left is another."
    return "done", ""


def _handed(one: Operation, known: Mapping[str, Account]) -> tuple[Text, ...]:
    """What an operation hands over to those after it."""
    told, lines = _ended(one, known), []
    if told is not None and told.value is not None and told.outcome is not None:
        how = "accepted" if told.accepted else ENDED[told.outcome]
        lines.append(
            text(f"{one.name}: ", strong(how), ", ", length(told.value.mm), f" {KIND_WORDS[told.value.kind]} left")
        )
    elif told is not None:
        lines.append(text(f"{one.name}: ", strong("accepted")))
    if one.leaves.strip():
        lines.append(text(f"{one.name} leaves: {one.leaves.strip()}"))
    return tuple(lines)
