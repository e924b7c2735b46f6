"""Work clamped to a faceplate or a fixture: tapped true, then pinched in steps."""

from __future__ import annotations

from typing import Literal

from ...angles import direction_deg
from ...engine.blows import off_tap, tap_move
from ...engine.learning import Learned
from ...engine.one_ring import OneRing
from ...errors import BadInput
from ...measure.ring import RingLook
from ...move import Move
from ...path.cautions import BALANCE
from ...path.lathe import check_limit, check_size, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...setup.state import State
from ...told import Caveat
from ...wording import strong, text
from .plan import FaceplatePlan


class Faceplate(OneRing[FaceplatePlan]):
    """Taps instead of jaws; the direction of each blow is free."""

    id = "faceplate"
    title = "Part on a faceplate or fixture, tapped true"
    rank = 120
    needs = Needs(
        holder="A faceplate or a fixture on the spindle, with clamps that can be snug.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round where it is indicated: a boss, a bore or a button.",
    )
    asks = Asks(angles="a mark on the plate, counter-clockwise seen from the tailstock", presets=presets("4 spots"))
    plan_class = FaceplatePlan
    word = ""
    mend = "tapping"
    aims_truest = True
    holder_shape: Literal["jaws", "screws", "faceplate"] = "faceplate"
    holder_name = "Faceplate"

    def check_plan(self, plan: FaceplatePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            Work that does not fit, stations that are too few, a limit the gauge cannot show.
        """
        if plan.part.diameter_mm >= plan.holder.diameter_mm:
            raise BadInput(
                "part_too_big", f"That is bigger than {plan.holder.name} itself.", "Check the size.", "part.diameter"
            )
        check_size(plan, plan.holder, "faceplate")
        check_stations(plan)
        return check_limit(plan)

    def path(self, plan: FaceplatePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(
                Caution(id="weight", text="A lopsided part: the spindle may swing by itself when it is let go."),
                chuck=False,
                where="the faceplate",
            ),
            Step(
                id="clean",
                title="Clean",
                prompt="Wipe plate and part, stone burrs; slide the part by hand to feel for a chip.",
                cautions=(
                    Caution(id="studs", text=f"All {plan.clamps} clamps: studs deep in their thread, packing level."),
                ),
            ),
            Step(
                id="rough_in",
                title="Rough in",
                prompt="Bring the part near the middle by the rings or a center. Clamps snug: it still slides when tapped.",
            ),
            set_gauge(plan),
            Step(id="read", title="Read & correct", prompt="Read at each spot, then tap to the aim."),
            Step(
                id="nip_up",
                title="Pinch up",
                headline=text(
                    "Tighten the clamps ", strong("in small steps, opposite ones in turn"), ". Watch the needle."
                ),
                prompt=f"Go round the {plan.clamps} clamps more than once. Where the needle creeps, pinch the other side first.",
                cautions=(
                    Caution(
                        id="counterweight", text="Balance it before power: a counterweight, bolted, not just clamped."
                    ),
                ),
            ),
            Step(id="prove", title="Prove", prompt="Everything is tight: read a full pass and the first spot again."),
            clear_to_run(BALANCE, tight="All clamps tight, nothing left on the plate, balanced by hand."),
        )

    def off_dial(self, state: State[FaceplatePlan], look: RingLook) -> Move | None:
        """See ``OneRing``."""
        return off_tap(state, look, "the part")

    def moves(self, state: State[FaceplatePlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """One blow's direction: from the high side through the middle, leaving room for the kick."""
        if look.center is None:
            return ()
        need = self.aim(state, look) - look.center - learned.shift
        if abs(need) < state.plan.gauge.graduation_mm / 4:
            return ()
        asked = learned.ask(abs(need))
        side = self.toward(state, direction_deg(-need))
        why = self.sits(state, look)
        return (tap_move(state, look, need, asked, what="the part", where=side, title="the high side", reason=why),)


PROCEDURE = Faceplate()
