"""Shims under the jaws of a three-jaw: to mend a runout, or for a throw."""

from __future__ import annotations

from ...angles import rect
from ...engine.face import Face
from ...engine.learning import Learned
from ...engine.one_ring import OneRing
from ...errors import BadInput
from ...fit.packing import Packing, choose_packing, exact_shims
from ...measure.ring import RingLook
from ...move import Move, Packet, Shim
from ...path.cautions import BALANCE, heavy_side
from ...path.lathe import check_limit, check_size, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...quantity import Quantity
from ...setup.state import State
from ...told import Caveat, Solution
from ...wording import Bit, Text, length, strong, text
from .plan import PackingPlan

#: Held without friction only while the jaw's edge stays inside this part of the radius.
HELD_PART = 0.5


#: A packing that leaves this part of the limit is near enough: fewer pieces count more than that.
ENOUGH_PART = 0.1


class PackingProcedure(OneRing[PackingPlan]):
    """``p_i = g_i(e) - g_i(T)``, less the least; from the drawer, the stacks that come nearest."""

    id = "packing"
    title = "Pack a three-jaw true, or for a throw"
    rank = 60
    needs = Needs(
        holder="A self-centering three-jaw; the width of its jaws decides how a shim counts.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round, gripped on its outside; its diameter in the jaws.",
    )
    asks = Asks(
        surface=False, presets=presets("4 spots"), limit_kinds=("tir", "off_centre", "throw"),
        diameter="Diameter in the jaws",
    )  # fmt: skip
    form_stays = False  # gripped anew after each packing
    plan_class = PackingPlan
    mend = "packing"
    holder_name = "Three-jaw chuck"

    def check_plan(self, plan: PackingPlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            An empty drawer, a throw that squeezes the work out of the jaws, a limit of the wrong kind.
        """
        check_size(plan, plan.holder)
        check_stations(plan)
        if plan.holder.jaws != 3:
            raise BadInput(
                "field_invalid", f"{plan.holder.name} has no three jaws.", "Choose a three-jaw.", "holder_id"
            )
        if not any(p.count for p in plan.stock.pieces):
            raise BadInput(
                "field_invalid", f"{plan.stock.name} is empty.", "Put shims into it in the Shop.", "choices.stock"
            )
        if plan.throw_mm and plan.limit.kind != "throw":
            raise BadInput(
                "field_invalid", "A throw has no TIR to be true to.", "Choose “off the wanted throw”.", "limit.kind"
            )
        if not plan.throw_mm and plan.limit.kind == "throw":
            raise BadInput("field_invalid", "No throw is wanted here.", "Choose TIR or off center.", "limit.kind")
        radius = plan.part.diameter_mm / 2
        edge = max(0.0, plan.throw_mm * 0.8660254 - plan.holder.jaw_width_mm / 2)
        if edge >= radius * HELD_PART:
            raise BadInput(
                "field_invalid",
                f"At a throw of {plan.throw_mm:.2f} mm the other two jaws would squeeze this part out.",
                "Use a four-jaw, or a split ring that is bored off center.",
                "choices.throw_mm",
            )
        if plan.gauge.travel_mm < plan.throw_mm * 1.05:
            raise BadInput(
                "limit_beyond_gauge", f"{plan.gauge.name} cannot follow that throw.", "Take a plunger.", "gauge_id"
            )
        told = list(check_limit(plan))
        if plan.throw_mm:
            first = length(self._first(plan))
            words = text("Start with ", first, f" under jaw {plan.throw_jaw}: the part goes away from it.")
            told.append(Caveat(code="first_shim", field="choices.throw_mm", text=words))
        return tuple(told)

    def _first(self, plan: PackingPlan) -> float:
        """Shim for the throw in a chuck that is true: exact for the jaws' width."""
        angles = self._angles(plan)
        shims = exact_shims(
            0j, self._target(plan), angles, (0.0,) * 3, plan.part.diameter_mm / 2, plan.holder.jaw_width_mm
        )
        return shims[plan.throw_jaw - 1]

    def _angles(self, plan: PackingPlan) -> tuple[float, ...]:
        return tuple(plan.holder.jaw_deg(j) for j in plan.holder.numbers)

    def _target(self, plan: PackingPlan) -> complex:
        return -rect(plan.throw_mm, plan.holder.jaw_deg(plan.throw_jaw)) if plan.throw_mm else 0j

    def target(self, state: State[PackingPlan]) -> complex:
        """See ``OneRing``: away from the packed jaw."""
        return self._target(state.plan)

    def path(self, plan: PackingPlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(),
            Step(
                id="clean",
                title="Clean",
                prompt="Wipe jaws, scroll and part; deburr. Number the jaws. Cut shims no wider than a jaw, flat, no burr.",
                cautions=(
                    Caution(id="strip", text="A finish wants strips at every jaw: count them as shims at all three."),
                ),
            ),
            Step(
                id="rough_in",
                title="Grip",
                prompt="Seat the part against the jaws’ step and grip it as it will be gripped for cutting.",
            ),
            set_gauge(plan),
            Step(id="read", title="Read & pack", prompt="Read at each spot, then pack the jaws that are named."),
            Step(
                id="nip_up",
                title="Tighten",
                headline=text("Tighten ", strong("at the same pinion as always"), ", to working grip."),
                prompt="A scroll repeats best when it is closed at one pinion. Check that no shim has crept out.",
                cautions=(Caution(id="shims", text="Every shim lies flat under its jaw and cannot fly out."),),
            ),
            Step(id="prove", title="Prove", prompt="Everything is tight: read a full pass and the first spot again."),
            clear_to_run(*((BALANCE,) if plan.throw_mm else heavy_side(plan))),
        )

    def present(self, state: State[PackingPlan], before: int | None = None) -> tuple[float, ...]:
        """What lies under each jaw, as the moves that were made put it there."""
        placed: dict[int, float] = {}
        for record in state.moves:
            if isinstance(record.move, Shim) and (before is None or record.move.pass_no < before):
                placed = {p.number: p.mm for p in record.move.packets}
        return tuple(placed.get(j, 0.0) for j in state.plan.holder.numbers)

    def choose(self, state: State[PackingPlan], look: RingLook) -> Packing | None:
        """The best packing from the drawer."""
        plan = state.plan
        if look.center is None:
            return None
        stock = {p.mm: p.count for p in plan.stock.pieces}
        return choose_packing(
            look.center, self.target(state), self._angles(plan), self.present(state, look.number),
            plan.part.diameter_mm / 2, plan.holder.jaw_width_mm, stock, ENOUGH_PART * plan.limit.mm,
        )  # fmt: skip

    def moves(self, state: State[PackingPlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """One packing, when it is better than what lies there now."""
        found = self.choose(state, look)
        if found is None or look.center is None or look.fit is None:
            return ()
        now, after = abs(look.center - self.target(state)), abs(found.center - self.target(state))
        if now - after <= max(look.fit.u_mm, state.plan.gauge.graduation_mm / 8):
            return ()
        return (self._move(state, look, found),)

    def _move(self, state: State[PackingPlan], look: RingLook, found: Packing) -> Move:
        plan, holder = state.plan, state.plan.holder
        assert look.center is not None
        under = {j: mm for j, mm in zip(holder.numbers, found.shims_mm, strict=True) if mm > 0}
        packets = tuple(
            Packet(number=j, name=f"jaw {j}", at_deg=holder.jaw_deg(j), mm=mm) for j, mm in (under or {1: 0.0}).items()
        )
        left = 2 * abs(found.center - self.target(state))
        parts: list[Bit] = ["Pack the jaws: "] if under else ["Open the jaws and take ", strong("all shims out")]
        for index, (j, mm) in enumerate(sorted(under.items())):
            parts += [" and " if index else "", length(mm), " under ", strong(f"jaw {j}")]
        parts += [
            " alone; grip again."
            if len(under) == 1
            else ", nothing under the others; grip again."
            if under
            else "; grip again."
        ]
        exact = exact_shims(
            look.center, self.target(state), self._angles(plan), self.present(state, look.number),
            plan.part.diameter_mm / 2, holder.jaw_width_mm,
        )  # fmt: skip
        return Shim(
            pass_no=look.number,
            measure="jaws",
            packets=packets,
            title="shims",
            made="Packed and gripped, read again",
            expects=Quantity(kind="tir", mm=left),
            short=text("Open the jaws, ", strong("pack them as below"), ", grip again.") if len(under) > 1 else (),
            sentence=text(*parts),
            reason=self._reason(exact, found, left, holder.jaw_width_mm),
            log=text(
                "Shims: ",
                *(x for j, mm in under.items() for x in (length(mm), f" under jaw {j}, ")),
                length(left),
                " TIR predicted." if not plan.throw_mm else " off the throw, twice, predicted.",
            )
            if under
            else text("All shims taken out."),
        )  # fmt: skip

    def _reason(self, exact: tuple[float, ...], found: Packing, left: float, width_mm: float) -> Text:
        parts: list[Bit] = ["Exactly it would be "]
        for index, mm in enumerate(exact, start=1):
            parts += [length(mm), f" at jaw {index}", ", " if index < len(exact) else ". "]
        for index, stack in enumerate(found.stacks, start=1):
            if stack:
                parts += [f"Jaw {index} from the drawer: "]
                for k, piece in enumerate(sorted(stack, reverse=True)):
                    parts += [" + " if k else "", length(piece)]
                parts += [". "]
        jaws = "wide jaws" if width_mm > 0 else "narrow jaws"
        parts += ["Predicted afterwards: ", length(left), f" TIR about the wanted place. Figured for {jaws}."]
        return text(*parts)

    def solve(self, state: State[PackingPlan]) -> Solution:
        """Says so when nothing in the drawer can do it."""
        found = super().solve(state)
        current = state.open_pass
        if current is None or current.moved or found.moves or found.ready:
            return found
        look = self.look(state, current)
        if not look.complete or look.fit is None:
            return found
        stop = text(
            "The shims in the drawer come no nearer. Thinner ones, another place in the jaws, or an independent "
            "four-jaw would; this chuck with these shims cannot do better."
        )  # fmt: skip
        return found.model_copy(update={"ready": True, "stop": stop})

    def face_of(self, state: State[PackingPlan]) -> Face:
        """Three jaws with what lies under them."""
        seen = super().face_of(state)
        shims = {j: mm for j, mm in zip(state.plan.holder.numbers, self.present(state), strict=True) if mm > 0}
        return Face(look=seen.look, centers=seen.centers, name=seen.name, target=seen.target, shims=shims)


PROCEDURE = PackingProcedure()
