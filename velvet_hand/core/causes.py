"""What may keep a part from coming in, and the quick tests that tell one cause from another: their names, nothing more."""

from __future__ import annotations

from typing import Literal

#: ``none``: nothing is wrong, it only needs another pass.
Cause = Literal[
    "none",
    "loose",
    "burr",
    "form",
    "worn",
    "spindle",
    "spring",
    "lifting",
    "sign",
    "square",
    "lost_motion",
    "misread",
    "floor",
]
Trial = Literal[
    "twice", "flick", "round", "again", "finger", "quarter", "other", "push", "press", "look", "back_forth", "harder", "paper"
]  # fmt: skip
