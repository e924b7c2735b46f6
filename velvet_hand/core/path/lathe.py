"""Steps, cautions and checks of a plan that procedures with circles share."""

from __future__ import annotations

import math
from datetime import date

from ..angles import SAME_SPOT_DEG, apart
from ..errors import BadInput
from ..holders import Round
from ..memory import memory_words
from ..plan.asks import Preset
from ..plan.base import BasePlan
from ..told import Caveat
from ..verdict import GAUGE_PART
from ..wording import Bit, day_word, length, so_many, text
from .cautions import BODY, DRIVES
from .steps import Caution, Step

GENERAL = "The machine’s manual, your shop’s rules and a qualified person come before anything said here."


#: A lever's stylus steeper than this is corrected for; steeper than the second, it is warned of.
STYLUS_ASK_DEG, STYLUS_WARN_DEG = 12.0, 30.0


def spread(n: int, first: float = 0.0) -> tuple[float, ...]:
    """``n`` angles all round."""
    return tuple(first + 360.0 / n * i for i in range(n))


def presets(fours: str = "4 jaws") -> tuple[Preset, ...]:
    """The usual ways round."""
    return (
        Preset(id="4", word=fours, hint="Quickest.", stations_deg=spread(4)),
        Preset(id="8", word="8 spots", hint="Shows form, and names a bad spot.", stations_deg=spread(8)),
        Preset(id="12", word="12", hint="For rough or lobed parts.", stations_deg=spread(12)),
    )


def check_stations(plan: BasePlan, least: int = 3, opposed: bool = False) -> None:
    """Refuse stations that are too few, repeated, all on one side, or without their opposite.

    Raises
    ------
    BadInput
        At ``stations_deg``.
    """
    stops = sorted(a % 360 for a in plan.stations_deg)
    if len(stops) < least:
        raise BadInput(
            "stations_too_few",
            f"{so_many(len(stops), 'station')}: a circle needs at least three.",
            "Take the four jaws, or 8 or 12 all round.",
            "stations_deg",
        )
    if len(stops) > 36:
        raise BadInput("field_invalid", "More than 36 stations.", "Eight show form well enough.", "stations_deg")
    gaps = [(b - a) for a, b in zip(stops, [*stops[1:], stops[0] + 360], strict=True)]
    if min(gaps) < SAME_SPOT_DEG:
        twice = stops[gaps.index(min(gaps))]
        raise BadInput(
            "stations_repeated", f"The station at {twice:g}° is there twice.", "Take one out.", "stations_deg"
        )
    if max(gaps) > 200:
        raise BadInput(
            "stations_too_few",
            f"The stations leave {max(gaps):.0f}° unread in one stretch.",
            "Spread them round the part.",
            "stations_deg",
        )
    alone = [a for a in stops if not any(apart(a + 180, b) < SAME_SPOT_DEG for b in stops)]
    if opposed and alone:
        raise BadInput(
            "stations_too_few",
            f"The station at {alone[0]:g}° has none across from it.",
            "On flats each needs its opposite.",
            "stations_deg",
        )


def check_limit(plan: BasePlan) -> tuple[Caveat, ...]:
    """Refuse a limit that the gauge cannot show; tell when it cannot prove it.

    Raises
    ------
    BadInput
        At ``limit.typed``.
    """
    return (*check_limit_mm(plan, plan.limit.tir_mm, plan.limit.mm), *tell_gauge(plan), *tell_memory(plan))


def check_limit_mm(plan: BasePlan, limit_tir: float, limit: float | None = None) -> tuple[Caveat, ...]:
    """Refuse a limit (``limit_tir`` on the dial) that no needle travels; tell when it can hardly be proved.

    Raises
    ------
    BadInput
        At ``limit.typed``.
    """
    gauge, limit = plan.gauge, limit or limit_tir
    if limit_tir > gauge.travel_mm:
        raise BadInput(
            "limit_beyond_gauge",
            f"The limit is more than {gauge.name} can travel.",
            "Check the limit’s unit, or take an indicator with more travel.",
            "limit.typed",
        )
    told = []
    knows = math.hypot(2 * math.sqrt(2) * gauge.u_read_mm, plan.machine.floor_mm)  # two readings apart, k = 2
    if gauge.graduation_mm > limit * GAUGE_PART * (1 + 1e-9):
        head = f"One graduation of {gauge.name} is more than a quarter of the limit"
        room = (limit_tir - knows) * limit / limit_tir
        words = text(f"{head}: what it proves has to come within ", length(room), ".")
        if room <= 0:
            words = text(f"{head}, and two readings of it differ by as much: it can correct, but hardly prove.")
        told.append(Caveat(code="gauge_coarse", field="gauge_id", text=words))
    floor = plan.machine.floor_mm
    if not floor:
        do = "Type it in the Shop." if plan.machine.kind == "plate" else "Measure once what it can hold."
        lacks = f"What {plan.machine.name} repeats to was never measured: every ± leaves it out. {do}"
        told.append(Caveat(code="floor_unknown", field="machine_id", text=text(lacks)))
    if limit_tir < floor * (1 + 1e-9):
        told.append(
            Caveat(
                code="limit_below_floor",
                field="limit.typed",
                text=text(
                    f"{plan.machine.name} only repeats to ",
                    length(floor),
                    " TIR. A limit below that cannot be proved here, however long you chase it.",
                ),
            )
        )
    return tuple(told)


def check_ball(plan: BasePlan) -> None:
    """Refuse a ball that does not go into the bore.

    Raises
    ------
    BadInput
        At ``part.diameter``.
    """
    if plan.part.surface == "inside" and plan.gauge.tip_radius_mm >= plan.part.diameter_mm / 2:
        raise BadInput(
            "part_too_small",
            "The indicator’s ball does not go into this bore.",
            "Check the bore’s diameter and its unit, or use an indicator with a smaller ball.",
            "part.diameter",
        )


def overdue(plan: BasePlan, on: date) -> tuple[Caveat, ...]:
    """Each indicator whose check was due before that day, or after fewer set-ups than it has been in."""
    found = []
    for gauge in {g.name: g for g in (plan.gauge_in(slot) for slot in plan.slots)}.values():
        due = gauge.check_due
        if due and due < on:
            found.append(f"{gauge.name} was due for its check on {day_word(due)}")
        elif gauge.worn_out_by:
            found.append(
                f"{gauge.name} was due for its check after {gauge.check_every} set-ups and has been in {gauge.used}"
            )
    return tuple(
        Caveat(code="check_overdue", field="gauge_id", text=text(f"{late}: nobody vouches for what it shows."))
        for late in found
    )


def tell_gauge(plan: BasePlan) -> tuple[Caveat, ...]:
    """What the gauge's own build costs: a steep stylus, lost motion, a dial that repeats itself."""
    gauge, told = plan.gauge, []

    def tell(code: str, *words: Bit, field: str = "gauge_id") -> None:
        told.append(Caveat(code=code, field=field, text=text(*words)))

    if gauge.kind == "lever" and plan.stylus_deg > STYLUS_ASK_DEG:
        percent = (1 / gauge.true_part(plan.stylus_deg, plan.swing_deg) - 1) * 100
        words = f"At {plan.stylus_deg:g}° the dial reads {percent:.0f} % too much; that is taken out of every figure."
        if plan.stylus_deg > STYLUS_WARN_DEG:
            words += " So steep a stylus may slip or jam: lay it nearer to the surface if you can."
        tell("stylus_steep", words, field="stylus_deg")
    if gauge.lost_motion_mm:
        tell(
            "lost_motion", "This indicator loses ", length(gauge.lost_motion_mm), " when the needle turns back. Come to "
            "every spot from the same side; the band is wider by it.",
        )  # fmt: skip
    if gauge.turn_mm and not gauge.counts_turns and gauge.travel_mm > gauge.turn_mm / 2:
        tell(
            "turns_not_counted", "No small hand counts this dial’s turns: watch how often the needle goes round, or "
            "rough in until it stays within half a turn.",
        )  # fmt: skip
    return tuple(told)


def tell_memory(plan: BasePlan) -> tuple[Caveat, ...]:
    """What the holder answered before, when it did."""
    memory = plan.memory
    if not memory.setups:
        return ()
    said = memory_words(memory)
    head = f"{plan.holder.name} remembers {so_many(memory.setups, 'set-up')}"
    words: tuple[Bit, ...] = (head, ": ", *said) if said else (head,)
    return (Caveat(code="memory", field="holder_id", text=text(*words, ". The aims use it.")),)


def check_size(plan: BasePlan, holder: Round, what: str = "chuck") -> None:
    """Refuse work that the holder cannot take.

    Raises
    ------
    BadInput
        At ``part.diameter``.
    """
    diameter = plan.part.diameter_mm
    if diameter > holder.max_work_mm:
        raise BadInput(
            "part_too_big",
            f"{diameter:.1f} mm is bigger than {holder.name} takes ({holder.max_work_mm:.0f} mm).",
            f"Check the size and its unit, or use a bigger {what}.",
            "part.diameter",
        )
    if diameter < holder.min_work_mm:
        raise BadInput(
            "part_too_small",
            f"{diameter:.1f} mm is smaller than {holder.name} closes on ({holder.min_work_mm:.0f} mm).",
            f"Check the size and its unit, or use a smaller {what} or a collet.",
            "part.diameter",
        )
    check_ball(plan)


def check_positions(positions: tuple[float, ...], least_apart_deg: float = 20.0) -> None:
    """Refuse positions that are too few, too many or too close together.

    Raises
    ------
    BadInput
        At ``choices.positions_deg``.
    """
    where = "choices.positions_deg"
    if not 2 <= len(positions) <= 4:
        raise BadInput("field_invalid", f"{len(positions)} positions: two to four are read.", "Take 0 and 180.", where)
    for i, a in enumerate(positions):
        for b in positions[i + 1 :]:
            if apart(a, b) < least_apart_deg:
                raise BadInput(
                    "field_invalid",
                    f"{a:g}° and {b:g}° are too close together to tell apart.",
                    "Spread them out.",
                    where,
                )


def make_safe(*more: Caution, chuck: bool = True, board: bool = True, where: str = "the chuck") -> Step:
    """The first hold point of anything on a lathe; without a chuck, or without bed ways to put a ``board`` over."""
    key = (Caution(id="key", text="No chuck key left in the chuck."), BODY) if chuck else ()
    lift = "eavy parts by a hoist or two people."
    return Step(
        id="make_safe",
        title="Make safe",
        hold=True,
        prompt=f"Make it safe before hands go near {where}. {GENERAL}",
        cautions=(
            Caution(id="stopped", text=f"Spindle cannot start: neutral or locked; {DRIVES}"),
            *key,
            Caution(id="board", text=f"Board over the ways; h{lift}" if board else f"H{lift}"),
            Caution(id="sleeves", text="Safety glasses on; no sleeves, gloves, rings or rags near what turns."),
            *more,
        ),
    )


def set_gauge(plan: BasePlan, more: str = "") -> Step:
    """Set the gauge; press test and zero belong to it."""
    turning = (
        "Turn the spindle by hand, one full turn, without reading: nothing hits, the needle stays on the dial."
        if plan.carrier == "work_turns"
        else "Carry the indicator round by hand, one full turn, without reading: nothing hits, the needle stays on."
    )
    bore = "stylus in the bore, " if plan.part.surface == "inside" else ""
    preload = (
        "The dial stops at its ends: preload to mid-travel, more than half of the swing to come. "
        if plan.gauge.travel_mm < 1
        else "Preload by more than half of the swing to come. "
    )
    return Step(
        id="set_gauge",
        title="Set indicator",
        prompt=(
            f"Base solid, joints locked, {bore}stylus on center height, square to the surface and trailing the "
            f"turn. {preload}{turning}{' ' + more if more else ''}"
        ),
    )


def clear_to_run(
    *more: Caution,
    tight: str = "Chuck key out. All jaws tight.",
    title: str = "Clear to run",
    clears: str = "bed, carriage or guard",
) -> Step:
    """The last hold point; what it ``clears`` is what a turn may hit."""
    return Step(
        id="clear_to_run",
        title=title,
        hold=True,
        prompt=f"Last look before power. {GENERAL}",
        cautions=(
            Caution(id="gauge_off", text="Indicator and base taken off, arm swung clear."),
            Caution(id="key_out", text=tight),
            Caution(id="by_hand", text=f"One full turn by hand: nothing hits {clears}."),
            *more,
            Caution(id="guard", text="Guard shut. Start slow, stand aside."),
        ),
    )
