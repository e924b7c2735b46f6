"""The path of the four-jaw: steps in trade order, cautions where they matter."""

from __future__ import annotations

from ...path.cautions import BALANCE, STEADY, heavy_side
from ...path.lathe import clear_to_run, make_safe, set_gauge
from ...path.steps import Caution, Step
from ...plan.jaws import JawPlan


def path(plan: JawPlan, long: bool = False, eccentric: bool = False) -> tuple[Step, ...]:
    """Eight steps; Make safe and Clear to run are hold points. Of ``long`` work and of a throw they say more."""
    return (
        make_safe(*((STEADY,) if long else ())),
        Step(
            id="clean",
            title="Clean",
            prompt="Wipe jaws and part. Stone off burrs where the indicator will run. Number the jaws with a marker.",
            cautions=(
                Caution(id="support", text="Never loosen a jaw under a heavy part without something to carry it."),
                Caution(id="strip", text="Paper or brass on a finished surface: the same at all four jaws."),
            ),
        ),
        Step(
            id="rough_in",
            title="Rough in",
            prompt="Bring the part near the middle by rings, rule or eye. All four jaws touching, snug.",
            ask="opening" if plan.part.surface == "outside" else "nothing",
            ask_label="Gap between opposite jaws now, if you want the turns of the key",
        ),
        set_gauge(plan),
        Step(id="read", title="Read & correct", prompt="Read at each station, then make the move to its aim."),
        Step(
            id="nip_up",
            title="Tighten",
            prompt="Tighten in steps, opposite jaws in turn, and watch the needle; the high side takes the last bit.",
            cautions=(
                Caution(id="thin", text="A thin part goes out of round under full grip: no tighter than it needs."),
            ),
        ),
        Step(id="prove", title="Prove", prompt="Everything is tight: read a full pass and the first spot again."),
        clear_to_run(*((BALANCE,) if eccentric else heavy_side(plan)), tight="Chuck key out. All four jaws tight."),
    )
