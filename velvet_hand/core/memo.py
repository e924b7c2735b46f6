"""What was computed of a set-up, kept beside its state: by the pass it is of (0: the state, -1: the whole set-up) and a name."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

Memo = dict[int, dict[str, Any]]
T = TypeVar("T")


def once(memo: Memo, name: str, number: int, make: Callable[[], T]) -> T:
    """What ``make`` gives, made the first time it is asked for."""
    kept = memo.setdefault(number, {})
    if name not in kept:
        kept[name] = make()
    found: T = kept[name]
    return found


def without(kept: dict[str, Any], names: tuple[str, ...]) -> dict[str, Any]:
    """What is kept of a pass, but for some of it."""
    return {name: found for name, found in kept.items() if name not in names}
