"""A chuck whose body is moved by 3, 4 or 6 screws."""

from __future__ import annotations

from typing import Literal

from ...angles import direction_deg, rect
from ...engine.blows import off_tap
from ...engine.learning import Learned
from ...engine.one_ring import OneRing
from ...errors import BadInput
from ...fit.circle import ray
from ...holders import AdjustableBody
from ...measure.ring import RingLook
from ...move import Asked, Jaw, Move, Needle, Screws
from ...path.cautions import heavy_side
from ...path.lathe import check_limit, check_size, check_stations, clear_to_run, make_safe, presets, set_gauge
from ...path.steps import Caution, Step
from ...plan.asks import Asks, Needs
from ...setup.state import State
from ...told import Caveat
from ...wording import Bit, Text, length, listed, strong, text, turn_words
from .plan import AdjustablePlan

#: A screw that would turn less than this is left alone.
LEAST_MM = 0.0005


class Adjustable(OneRing[AdjustablePlan]):
    """The body must move by minus the offset. Screws in the body press on a fixed boss: advance
    ``= d . u``, tightened at the low side (the body follows toward the drawn screw). Screws in a fixed
    ring press on the body: advance ``= -d . u``. What loosens comes first.
    """

    id = "adjustable"
    title = "True in a chuck with an adjustable body"
    rank = 80
    needs = Needs(
        holder="A chuck whose body is set by 3, 4 or 6 screws; which way the body follows belongs to it.",
        gauge="A lever or plunger indicator with graduations no coarser than a quarter of the limit.",
        machine="A lathe whose spindle can be turned by hand.",
        part="Round where it is indicated, seated deep; its diameter there.",
    )
    asks = Asks(presets=presets("4 spots"))
    plan_class = AdjustablePlan
    word = "screw"
    mend = "turning screws"
    aims_truest = True
    kick_repeats = True
    wrong_way = ", and look in the Shop which way this body follows its screws"
    holder_shape: Literal["jaws", "screws", "faceplate"] = "screws"
    holder_name = "Chuck with adjusting screws"

    def check_plan(self, plan: AdjustablePlan) -> tuple[Caveat, ...]:
        """See ``Procedure``.

        Raises
        ------
        BadInput
            A chuck without screws or range, work that does not fit, a limit the gauge cannot show.
        """
        holder = plan.holder
        if holder.clearance_mm is None:
            raise BadInput(
                "field_invalid",
                f"How far the body of {holder.name} can go from its middle is not known.",
                "Measure it, or take it from its manual, and put it in the Shop.",
                "holder_id",
            )
        check_size(plan, plan.holder)
        check_stations(plan)
        told = list(check_limit(plan))
        if holder.runout_mm and plan.limit.kind == "tir" and plan.limit.mm < holder.runout_mm / 4:
            told.append(
                Caveat(
                    code="finish_limit",
                    field="limit.typed",
                    text=text(
                        "Much finer than the ", length(holder.runout_mm), " its manual promises: seating decides."
                    ),
                )
            )
        return tuple(told)

    def path(self, plan: AdjustablePlan) -> tuple[Step, ...]:
        """See ``Procedure``."""
        return (
            make_safe(),
            Step(
                id="clean",
                title="Clean & seat",
                prompt="Clean jaws and part. Seat it deep and square, close the jaws to working grip first.",
                cautions=(
                    Caution(id="deep", text="Seated deep: a short grip tilts, and tilt is not cured by the screws."),
                    Caution(
                        id="strip",
                        text="Paper or brass on a finish, the same at every jaw. A thin tube likes six jaws.",
                    ),
                ),
            ),
            Step(
                id="rough_in",
                title="Free the body",
                prompt=(
                    "Back off the body’s clamp bolts to snug. Bring all adjusting screws to touch, none pressing. Find out which "
                    f"way the body follows: tighten screw 1 a little. It should go {plan.holder.follows} "
                    f"{'from ' if plan.holder.follows == 'away' else ''}the screw; if not, correct it in the Shop."
                ),
            ),
            set_gauge(plan),
            Step(id="read", title="Read & correct", prompt="Read at each spot, then turn the screws to the aim."),
            Step(
                id="nip_up",
                title="Lock",
                headline=text(
                    "Bring the loose screws to touch. ", strong("Lock the body in steps"), ", watching the needle."
                ),
                prompt="Clamp bolts in turn, crosswise, in steps. Every screw touches at the end; none is left loose.",
                cautions=(Caution(id="lock", text="No screw left half turned: a loose one lets the body creep."),),
            ),
            Step(id="prove", title="Prove", prompt="Everything is locked: read a full pass and the first spot again."),
            clear_to_run(*heavy_side(plan), tight="Keys out. Body locked, all screws touching, jaws tight."),
        )

    def already(self, state: State[AdjustablePlan]) -> complex:
        """How far the body has been moved from where it stood, by the moves that arrived."""
        looks = self.looks(state)
        centers = [look.center for look in looks.values() if look.center is not None]
        return centers[-1] - centers[0] if len(centers) > 1 else 0j

    def moves(self, state: State[AdjustablePlan], look: RingLook, learned: Learned) -> tuple[Move, ...]:
        """All screws of one shift, as one move; the last screw drawn is watched to the aim."""
        if look.center is None:
            return ()
        need = self.aim(state, look) - look.center - learned.shift
        if abs(need) < state.plan.gauge.graduation_mm / 4:
            return ()
        asked, left = _within_range(learned.ask(abs(need)) * need / abs(need), self.already(state), state.plan.holder)
        if abs(asked) < LEAST_MM:
            return ()
        return (self._move(state, look, asked, left),)

    def _screws(self, state: State[AdjustablePlan], d: complex) -> tuple[Jaw, ...]:
        """Each screw for a shift ``d`` of the body, what loosens first; the one that does most, where none is worth a turn."""
        holder = state.plan.holder
        sign = 1 if holder.follows == "toward" else -1
        advance = {j: sign * (d * rect(1, -holder.jaw_deg(j))).real for j in holder.numbers}
        worth = min(LEAST_MM, max(advance.values()))
        return tuple(
            Jaw(
                number=j, at_deg=holder.jaw_deg(j), mm=mm, key_deg=360 * abs(mm) / holder.lead_mm if holder.lead_mm else None
            )
            for j, mm in sorted(advance.items(), key=lambda item: item[1])
            if abs(mm) >= worth
        )  # fmt: skip

    def off_dial(self, state: State[AdjustablePlan], look: RingLook) -> Move | None:
        """As far as the dial can follow, by the screws of that shift."""
        found = off_tap(state, look, "the body")
        if found is None or found.needle is None or found.aim_mm is None or found.asked is None:
            return None
        turns = self._screws(state, rect(found.asked.mm, found.asked.deg))
        needle = found.needle
        return Screws(
            pass_no=look.number,
            turns=turns,
            needle=needle,
            asked=found.asked,
            rezero=True,
            title=found.title,
            sentence=self._sentence(turns, f"{needle.to}."),
            reason=found.reason,
            log=text(f"Screws turned, off the dial: {', '.join(f'screw {t.number}' for t in turns)}"),
        )

    def _sentence(self, turns: tuple[Jaw, ...], end: str) -> Text:
        ease = _screws([t.number for t in turns if (t.mm or 0.0) < 0])
        draw = _screws([t.number for t in turns if (t.mm or 0.0) > 0])
        return text(
            *(("Slacken ", strong(ease), ", then tighten ") if ease else ("Tighten ",)),
            strong(draw.removeprefix("screws ") if ease else draw),
            f" {end}",
        )

    def _move(self, state: State[AdjustablePlan], look: RingLook, d: complex, left_mm: float) -> Move:
        sense, fit = state.sense, look.fit
        assert fit is not None
        turns = self._screws(state, d)
        main = turns[-1].number
        deg = state.plan.holder.jaw_deg(main)
        radius, side = look.ring.radius_mm, look.ring.sign
        after = complex(fit.x_mm, fit.y_mm) + d
        shifted = fit.mean_mm + look.walked_mm
        station = next((s for s in state.stations if s.jaw == main), None)
        needle = Needle.at(
            sense,
            shifted + float(ray(deg, fit.x_mm, fit.y_mm, radius, side)),
            shifted + float(ray(deg, after.real, after.imag, radius, side)),
            station_id=station.id if station else "",
            label=f"screw {main}",
            deg=deg,
        )
        return Screws(
            pass_no=look.number,
            turns=turns,
            needle=needle,
            asked=Asked(mm=abs(d), deg=direction_deg(d)),
            aims={s: sense.needle_mm(shifted) for s in look.toward_mm},
            title="the screws",
            sentence=self._sentence(turns, f"{needle.to}."),
            reason=self._reason(state, look, {t.number: t.mm or 0.0 for t in turns}, left_mm),
            log=text(f"Screws turned: {', '.join(f'screw {t.number}' for t in turns)} (asked ", length(abs(d)), ")"),
        )

    def _reason(self, state: State[AdjustablePlan], look: RingLook, turned: dict[int, float], left_mm: float) -> Text:
        holder = state.plan.holder
        parts: list[Bit] = [
            *self.sits(state, look),
            f" In this chuck the body goes {holder.follows} {'from ' if holder.follows == 'away' else ''}a drawn screw. ",
        ]  # fmt: skip
        for j, mm in sorted(turned.items()):
            parts += [f"Screw {j} {'in' if mm > 0 else 'out'} ", length(abs(mm))]
            parts += [f", {turn_words(360 * abs(mm) / holder.lead_mm)} of the key. "] if holder.lead_mm else [". "]
        if left_mm > 0:
            parts += [
                "The body cannot go all the way: TIR left ", length(2 * left_mm), ". Chuck the part again, or use an "
                "independent four-jaw.",
            ]  # fmt: skip
        else:
            parts += ["Range left ", length(_room(holder, self.already(state))), "."]
        return text(*parts)

    def more_caveats(self, state: State[AdjustablePlan], look: RingLook) -> tuple[Caveat, ...]:
        """The range of the body, before it is used up."""
        if look.center is None:
            return ()
        _, left = _within_range(self.aim(state, look) - look.center, self.already(state), state.plan.holder)
        if left <= 0:
            return ()
        return (
            Caveat(
                code="range",
                text=text(
                    "Beyond the body’s range: at best ", length(2 * left), " TIR are left. Chuck it again in another "
                    "place, shim the part, or send it to the independent chuck.",
                ),
            ),
        )  # fmt: skip


def _screws(numbers: list[int]) -> str:
    """Screws by their numbers: screw 2; screws 1, 3 and 5."""
    return f"screw{'s' if len(numbers) > 1 else ''} {listed([*map(str, numbers)])}" if numbers else ""


def _room(holder: AdjustableBody, already: complex) -> float:
    return max((holder.clearance_mm or 0.0) - abs(already), 0.0)


def _within_range(d: complex, already: complex, holder: AdjustableBody) -> tuple[complex, float]:
    """The part of ``d`` that the body can do, and how far from true that leaves it.

    ``|already + d| > clearance``: the most that can be done is the point of the limiting circle
    toward the goal; off center left ``|already + d| - clearance``.
    """
    clearance, goal = holder.clearance_mm or 0.0, already + d
    if abs(goal) <= clearance:
        return d, 0.0
    return goal / abs(goal) * clearance - already, abs(goal) - clearance


PROCEDURE = Adjustable()
