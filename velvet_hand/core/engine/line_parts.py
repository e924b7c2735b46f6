"""What edges share, whether they are tapped or shimmed first: bolts, figures, when it is enough, the other ways of working."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeVar, get_args

from ..measure.edge import Edge, LineLook
from ..plan.edge import EdgeBase, Way
from ..quantity import Quantity
from ..readings import Pass
from ..scene import SceneBolt
from ..setup.state import State
from ..told import Row
from ..verdict import Verdict
from ..wording import Text, length, text

E = TypeVar("E", bound=EdgeBase)


@dataclass(frozen=True, slots=True)
class Swing:
    """Where an edge swings: place along it and standard uncertainty; ``seen`` when taps have shown it."""

    x_mm: float
    u_mm: float
    seen: bool


def edge_of(state: State[EdgeBase]) -> Edge:
    """The edge that is tapped."""
    found = state.measures[""]
    assert isinstance(found, Edge)
    return found


def hinge_bolts(plan: EdgeBase, tight: bool) -> tuple[SceneBolt, ...]:
    """Bolts of a thing with a hinge."""
    places = sorted(plan.holder.bolts_mm)
    hinge = {"low": 0, "high": len(places) - 1}.get(plan.hinge, -1)
    return tuple(
        SceneBolt(
            at_mm=x,
            state="tight" if tight else "hinge" if i == hinge else "loose",
            label="tight" if tight else "hinge, snug" if i == hinge else "finger tight",
        )
        for i, x in enumerate(places)
    )


def other_ways(state: State[E]) -> tuple[tuple[str, State[E]], ...]:
    """The same set-up worked by each other school."""
    plan = state.plan
    return tuple(
        (way, state.with_plan(plan.model_copy(update={"way": way}))) for way in get_args(Way) if way != plan.way
    )


def uneven_stop(look: LineLook, judged: Verdict, edge: str, mend: str) -> Text:
    """The edge itself is past the limit: no tap mends that."""
    if (
        judged.outcome == "holds"
        or judged.limited_by != "straightness"
        or judged.value_mm > judged.limit_mm / 2
        or look.line is None
    ):
        return ()
    return text(
        f"Stop here. The {edge} is not straight by ",
        length(look.line.zone_mm),
        f", and tapping cannot mend that. {mend}",
    )


def line_figures(
    state: State[EdgeBase],
    one: Pass,
    look: LineLook,
    judged: Verdict | None,
    asked_mm: float | None,
    got_mm: float | None,
    swung: Text,
) -> Row:
    """A line of the table of passes: rise over the limit's length, straightness, where it swung."""
    plan = state.plan
    line = look.line
    return Row(
        number=one.number,
        purpose=one.purpose,
        main=rise_of(state, look).over(plan.limit_length_mm) if look.fit else None,
        beside=(Quantity(kind="straight", mm=line.zone_mm),) if line and len(look.toward_mm) > 2 else (),
        toward=swung,
        asked_mm=asked_mm,
        got_mm=got_mm,
        outcome=judged.outcome if judged else None,
    )


def rise_of(state: State[EdgeBase], look: LineLook) -> Quantity:
    """How much the edge rises over its whole length, as the limit is meant."""
    assert look.fit is not None
    return Quantity(
        kind=state.plan.limit.kind,
        mm=abs(look.fit.mm),
        u_mm=look.edge.band_mm(state, look, look.edge_mm) / 2,
        over_mm=look.edge_mm,
    )
