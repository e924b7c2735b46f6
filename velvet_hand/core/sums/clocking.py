"""What turns with what: bolt positions, reversal, offset dowels."""

from __future__ import annotations

import math

from ..angles import apart, direction_deg, rect
from ..fields import Choice
from ..fit.parts import split_parts
from ..wording import Text, length, so_many, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch, Style
from .kinds import Bounds
from .runout import NOT_LESS, OUTSIDE

FAMILY, RANK = "Clocking, reversal, dowels", 25


# Clocking


def _clock(v: Values) -> dict[str, float]:
    plate, chuck, n = rect(v["plate"], v["plate_at"]), rect(v["chuck"], v["chuck_at"]), int(v["bolts"])
    left = [2 * abs(plate + chuck * rect(1, 360 * k / n)) for k in range(n)]
    best = min(range(n), key=lambda k: left[k])
    return {"turn": 360 * best / n, "left": left[best], "now": left[0]}


def _clock_told(v: Values) -> tuple[Text, ...]:
    n = int(v["bolts"])
    step = round(v["turn"] / (360 / n))
    ideal = 2 * abs(v["plate"] - v["chuck"])
    go = (
        text("Leave it where it is.")
        if not step
        else text("Turn the chuck ", strong(f"{so_many(step, 'bolt hole')}"), " counter-clockwise.")
    )
    return (
        text(go, " TIR ", length(v["now"]), " now, ", length(v["left"]), " then."),
        text("With any angle the least would be ", length(ideal), ": the two sizes taken from each other."),
    )  # fmt: skip


def _clock_drawn(v: Values) -> Picture:
    left = text(length(v["left"]), " TIR left")
    return _vectors(v, v["plate"], v["chuck"], left, "Plate and chuck as vectors", "vectors to scale with each other")


def _vectors(v: Values, plate_mm: float, chuck_mm: float, left: Text, what: str, scale: str) -> Picture:
    """Both in the ring of bolt holes, the chuck turned."""
    sk, n = Sketch(), int(v["bolts"])
    sk.circle(0, 0, 50, "holder")
    for k in range(n):
        at = rect(42, 90 + 360 * k / n)
        sk.circle(at.real, at.imag, 3, "part")
    big = max(plate_mm, chuck_mm, 1e-9)
    styles: tuple[tuple[complex, str, Style], ...] = (
        (rect(30 * plate_mm / big, v["plate_at"]), "plate", "high"),
        (rect(30 * chuck_mm / big, v["chuck_at"] + v["turn"]), "chuck", "aim"),
    )
    for end, word, style in styles:
        sk.line((0, 0), (end.real, end.imag), style=style)
        tip = end / abs(end) * 34 if abs(end) else 34 + 0j
        sk.label(tip.real, tip.imag, word, style=style, dy=10)
    sk.label(0, -50, left, dy=-16)
    return sk.done(f"{what}, the chuck turned to its best bolt holes.", scale)


def _spots(v: Values) -> dict[str, float]:
    n = int(v["bolts"])
    wanted = v["plate_at"] + 180
    best = min(range(n), key=lambda k: apart(v["chuck_at"] + 360 * k / n, wanted))
    return {"turn": 360 * best / n, "miss": apart(v["chuck_at"] + 360 * best / n, wanted)}


def _spots_told(v: Values) -> tuple[Text, ...]:
    n = int(v["bolts"])
    step = round(v["turn"] / (360 / n))
    left = 2 * math.sin(math.radians(v["miss"] / 2))
    go = "Leave it where it is" if not step else f"Turn the chuck {so_many(step, 'bolt hole')} counter-clockwise"
    return (text(strong(go), f"; the two high spots then oppose each other to {v['miss']:.0f}°."),
            text(f"Were both of one size, {100 * left / 2:.0f} % of the worst would be left."))  # fmt: skip


def _spots_drawn(v: Values) -> Picture:
    return _vectors(v, 1.0, 1.0, text("opposite to ", f"{v['miss']:.0f}°"), "The two high spots", "sizes not known")


# Reversal


def _reversal(v: Values) -> dict[str, float]:
    parts = split_parts((0.0, v["turned"]), (rect(v["first"], v["first_at"]), rect(v["second"], v["second_at"])), 0.0)
    return {
        "stays": abs(parts.fixed), "stays_at": direction_deg(parts.fixed),
        "goes": abs(parts.turned), "goes_at": direction_deg(parts.turned),
    }  # fmt: skip


def _reversal_told(v: Values) -> tuple[Text, ...]:
    if math.isclose(v["stays"], v["goes"], rel_tol=1e-6):
        return (text("Both have the same part of it.") if v["stays"] else text("Neither runs out."),)
    worse = "spindle" if v["stays"] > v["goes"] else "collet or the part"
    return (
        text(strong(f"The {worse}"), " has the larger part. Clean tapers and read again before anything is blamed."),
    )


def _reversal_drawn(v: Values) -> Picture:
    sk, big = Sketch(), max(v["stays"], v["goes"], 1e-9)
    off = rect(25 * v["stays"] / big, v["stays_at"]), rect(25 * v["goes"] / big, v["goes_at"])
    sk.circle(0, 0, 50, "holder")
    sk.line((0, 0), (off[0].real, off[0].imag), style="high")
    sk.line((off[0].real, off[0].imag), ((off[0] + off[1]).real, (off[0] + off[1]).imag), style="aim")
    sk.circle(off[0].real, off[0].imag, abs(off[1]) or 0.5, "ghost")
    sk.label(0, 50, "stays with the spindle ", length(v["stays"]), style="high", dy=14)
    sk.label(0, -50, "turns with the collet ", length(v["goes"]), style="aim", dy=-14)
    return sk.done("What stays with the spindle, and the circle on which the rest goes round.")


# Offset dowels


def _wanted(v: Values) -> complex:
    bore = v.chosen("surface") == "bore"
    high = rect(v["tir"] / 2, v["high"])
    return high - rect(v["sag"], -90) if bore else -(high - rect(v["sag"], 90))


def _dowel(v: Values) -> dict[str, float]:
    shift = _wanted(v)
    sizes = [0.0, *(mm for mm, count in v.pieces("drawer") if count >= 2)]
    pin = min(sizes, key=lambda mm: abs(abs(shift) - mm))
    return {"move": abs(shift), "toward": direction_deg(shift), "pin": pin, "left": 2 * abs(abs(shift) - pin)}


def _dowel_told(v: Values) -> tuple[Text, ...]:
    if not v["pin"]:
        return (text("No pair in the drawer comes nearer than plain dowels. Offset to buy: ", length(v["move"]), "."),)
    told = text(
        "Both dowels of ",
        length(v["pin"]),
        " offset, clocked alike to ",
        strong(f"{v['toward']:.1f}°"),
        ": ",
        length(v["left"]),
        " TIR left.",
    )
    if v["left"] > 0.25 * v["tir"]:
        return (told, text("A pair of ", length(v["move"]), " would take all of it: one to buy."))
    return (told,)


def _dowel_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.circle(0, 0, 50, "holder")
    at = rect(1, v["toward"])
    sk.circle(0, 0, 30, "part")
    sk.line((0, 0), ((at * 42).real, (at * 42).imag), style="aim")
    sk.label((at * 62).real, (at * 62).imag, length(v["move"]), style="aim")
    high, inside = rect(30, v["high"]), rect(18, v["high"] + 20)
    sk.circle(high.real, high.imag, 2, "high")
    sk.label(inside.real, inside.imag, "high", style="high")
    return sk.done("The bore, its high spot, and which way the housing goes.", "not to scale")


BOLTS = Figure(id="bolts", label="Bolt holes", kind="count", start=3.0, bounds=Bounds(least=2, most=24))

SUMS = (
    Sum(
        id="clock", title="Clock a chuck by two vectors", about="the bolt holes that oppose them best",
        words="clocking back plate register mark oppose bolt position vector chuck", formula="e = plate + chuck turned; TIR = 2 |e|",
        holds="The chuck seats alike in every position. Angles counter-clockwise, seen from the tailstock.",
        figures=(
            Figure(id="plate", label="Plate off center", kind="reading", start=0.022, bounds=NOT_LESS),
            Figure(id="plate_at", label="toward", kind="direction", start=60.0),
            Figure(id="chuck", label="Chuck off center", kind="reading", start=0.017, bounds=NOT_LESS),
            Figure(id="chuck_at", label="toward, as it is bolted now", kind="direction", start=200.0),
            BOLTS,
            Figure(id="turn", label="Turn the chuck by", kind="direction"),
            Figure(id="left", label="TIR left", kind="reading"),
            Figure(id="now", label="TIR as it is", kind="reading"),
        ),
        ways=(Way(("turn", "left", "now"), _clock),), tell=_clock_told, draw=_clock_drawn,
    ),
    Sum(
        id="clock_spots", title="Clock a chuck by two high spots", about="mark and oppose, no sizes",
        words="clocking mark oppose high spot bolt position chuck plate register", formula="chuck’s high nearest to plate’s high + 180°",
        holds="Best when both errors are of one size; read the TIR after it.",
        figures=(
            Figure(id="plate_at", label="High spot of the plate", kind="direction", start=60.0),
            Figure(id="chuck_at", label="High spot of the chuck, as it is bolted", kind="direction", start=200.0),
            BOLTS,
            Figure(id="turn", label="Turn the chuck by", kind="direction"),
            Figure(id="miss", label="From being opposite", kind="direction"),
        ),
        ways=(Way(("turn", "miss"), _spots),), tell=_spots_told, draw=_spots_drawn,
    ),
    Sum(
        id="reversal", title="Spindle or collet?", about="two readings, the collet turned between them",
        words="reversal collet taper spindle blame rotate half over runout", formula="stays = (e0 + e180)/2, turns = (e0 − e180)/2",
        holds="Both vectors in the spindle’s frame, from the same mark. A part held in the collet counts with it.",
        figures=(
            Figure(id="first", label="Off center at first", kind="reading", start=0.0098, bounds=NOT_LESS),
            Figure(id="first_at", label="toward", kind="direction", start=24.0),
            Figure(id="turned", label="Collet turned by", kind="direction", start=180.0, bounds=Bounds(least=10, most=350)),
            Figure(id="second", label="Off center then", kind="reading", start=0.0104, bounds=NOT_LESS),
            Figure(id="second_at", label="toward", kind="direction", start=106.7),
            Figure(id="stays", label="Stays with the spindle", kind="reading"),
            Figure(id="stays_at", label="toward", kind="direction"),
            Figure(id="goes", label="Turns with the collet", kind="reading"),
            Figure(id="goes_at", label="toward", kind="direction"),
        ),
        ways=(Way(("stays", "stays_at", "goes", "goes_at"), _reversal),), tell=_reversal_told, draw=_reversal_drawn,
    ),
    Sum(
        id="dowels", title="Offset dowels",
        about="which pair, clocked where",
        words="dowel pin bore housing offset transfer concentric buy",
        formula="bore: move toward the high by TIR/2; outside: away from it",
        holds="An indicator carried by the turning member; both dowels alike. Base bolts torqued as in use.",
        figures=(
            Figure(id="tir", label="TIR", kind="reading", start=0.42, bounds=NOT_LESS),
            Figure(id="high", label="High at", kind="direction", start=305.0),
            Figure(id="surface", label="Read in", kind="choice", start="bore", choices=(Choice(id="bore", word="bore"), OUTSIDE[0])),
            Figure(id="sag", label="Sag of the arm, on a level axis", kind="reading", start=0.015, bounds=NOT_LESS),
            Figure(id="drawer", label="From the drawer", kind="stock", stock="dowels", start="0.05 0.1 0.2 0.3"),
            Figure(id="move", label="The housing goes", kind="reading"),
            Figure(id="toward", label="toward", kind="direction"),
            Figure(id="pin", label="Dowels of this offset", kind="reading"),
            Figure(id="left", label="TIR left", kind="reading"),
        ),
        ways=(Way(("move", "toward", "pin", "left"), _dowel),), tell=_dowel_told, draw=_dowel_drawn,
    ),
)  # fmt: skip
