"""The sums: whatever module here names a ``FAMILY`` and its ``SUMS``."""

from __future__ import annotations

from dataclasses import replace
from importlib import import_module
from pathlib import Path

from ..errors import NotFound
from .base import Sum, SumLine


def _found() -> dict[str, Sum]:
    modules = [import_module(f"{__package__}.{path.stem}") for path in sorted(Path(__file__).parent.glob("*.py"))]
    families = sorted((m for m in modules if hasattr(m, "SUMS")), key=lambda m: m.RANK)
    return {one.id: replace(one, family=m.FAMILY) for m in families for one in m.SUMS}


SUMS: dict[str, Sum] = _found()


def sum_of(sum_id: str) -> Sum:
    """The sum of that id.

    Raises
    ------
    NotFound
        There is none.
    """
    found = SUMS.get(sum_id)
    if found is None:
        raise NotFound("unknown_thing", "There is no such sum.", "Choose one from the list.", "sum_id")
    return found


def lines() -> tuple[SumLine, ...]:
    """All sums, family by family, with the words that find them."""
    return tuple(
        SumLine(id=s.id, family=s.family, title=s.title, about=s.about, words=f"{s.title} {s.about} {s.words}".lower())
        for s in SUMS.values()
    )
