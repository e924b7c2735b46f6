"""What was computed of a set-up, kept beside its state: a name and the pass it is of (0: the state, -1: the whole set-up)."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any, TypeVar

Memo = dict[tuple[str, int], Any]
T = TypeVar("T")


def once(memo: Memo, name: str, number: int, make: Callable[[], T]) -> T:
    """What ``make`` gives, made the first time it is asked for."""
    key = (name, number)
    if key not in memo:
        memo[key] = make()
    found: T = memo[key]
    return found
