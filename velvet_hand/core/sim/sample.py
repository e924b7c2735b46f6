"""A set-up of the sample workshop: told by a procedure's simulator, planned with the things that the workshop has."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from ..quantity import LimitKind
from ..units import Unit


@dataclass(frozen=True, slots=True, kw_only=True)
class Sample:
    """What is planned, with which machine, holder, gauge and drawer (their ids), and who did it when.

    ``choices`` are fields of the plan that are not at their defaults. With ``stop_after`` it is left standing after that pass;
    ``picture`` names the picture of its first move (of the kind ``shown``), or finding, in docs/screenshots.
    """

    part: str
    size: str
    limit: str
    kind: LimitKind = "tir"
    machine: str
    holder: str
    gauge: str
    stock: str = ""
    unit: Unit = "thou"
    days_ago: float
    author: str
    seed: int
    choices: Mapping[str, Any] = field(default_factory=dict)
    stop_after: int = 0
    reason: str = "Known now, and good enough for roughing; noted for the next overhaul."
    picture: str = ""
    shown: str | None = None
