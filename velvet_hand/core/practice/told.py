"""A practice without the screen: what was done goes in as JSON, and what may be seen then comes out."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID

from pydantic import TypeAdapter, ValidationError

from ..errors import BadInput
from ..units import Unit
from ..wording import Text, plain
from .acts import Act, Anything
from .drills import DRILLS, MACHINES, levels_of
from .session import Advice, Told, replay
from .show import show

_DONE = TypeAdapter(list[Anything])
#: Nobody times this: each thing done is taken to last so long (s).
EACH_S = 10
BEGAN = datetime(2026, 1, 1, tzinfo=UTC)


def listed() -> dict[str, Any]:
    """The drills, and the machines with their levels."""
    return {
        "drills": [{"drill": drill.id, "title": drill.title, "lures": drill.lures} for drill in DRILLS],
        "machines": [f"{name}.{level}" for name in MACHINES for level in levels_of(name)],
    }


def at_the_bench(drill: str, seed: int, advice: Advice, unit: Unit, done: bytes) -> dict[str, Any]:
    """What may be seen of a hidden machine after what was ``done``.

    Raises
    ------
    NotFound
        There is no such drill.
    BadInput, NotNow
        What was done is none of what can be done there.
    """
    try:
        bodies = _DONE.validate_json(done, strict=False)
    except ValidationError as bad:
        where = ".".join(str(part) for part in bad.errors()[0]["loc"]) or "the list"
        raise BadInput("field_invalid", f"That cannot be done: {where}.", "See /api for what can be.", "file") from bad
    acts = [
        Act(id=UUID(int=n + 1), at=BEGAN + timedelta(seconds=EACH_S * (n + 1)), body=body)
        for n, body in enumerate(bodies)
    ]
    session = replay(Told(drill=drill, seed=seed, advice=advice, unit=unit), BEGAN, acts)
    shown = show(session, "", len(acts))

    def words(parts: Text) -> str:
        return plain(parts, unit, shown.view.resolution_mm)

    told: dict[str, Any] = {
        "title": shown.title, "about": words(shown.about), "grip": shown.grip, "pass_no": shown.view.tray.pass_no,
        "hands": [hand.model_dump(mode="json") for hand in shown.hands],
        "asked": words(shown.asked) or None, "advice": words(shown.advice.headline) if shown.advice else None,
    }  # fmt: skip
    if shown.ended is None:
        cells = [(cell.station_id, cell.closing, cell.typed) for cell in shown.view.tray.cells]
        told["spots"] = [
            {"station_id": spot, "closing": closing, "typed": typed, "needle_mm": session.needle(spot, None).needle_mm}
            for spot, closing, typed in cells
        ]
    else:
        ended = shown.ended
        told["ended"] = ended.model_dump(mode="json", exclude={"headline", "why", "truth", "steps"}) | {
            "headline": words(ended.headline), "why": words(ended.why), "truth": words(ended.truth),
            "steps": [step.model_dump(mode="json", exclude={"advice"}) | {"advice": words(step.advice)} for step in ended.steps],
        }  # fmt: skip
    return told
