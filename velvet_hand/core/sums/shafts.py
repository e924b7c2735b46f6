"""Shafts, tapers, tailstocks and bars."""

from __future__ import annotations

import math

from ..angles import rect
from ..errors import BadInput
from ..fields import Choice
from ..fit.beam import Gives, droop_mm, tail_ratio
from ..fit.bend import Bend, find_bend, off_line
from ..wording import Text, bare, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds, dms, sized
from .runout import NOT_LESS, POSITIVE

FAMILY, RANK = "Shafts, centers, taper", 50

# A bend


def _bent(v: Values) -> tuple[tuple[float, ...], tuple[complex, ...], Bend]:
    rows = sorted(v.rows("read"))
    z = tuple(r[0] for r in rows)
    if len(set(z)) < len(z):
        raise BadInput("field_invalid", "A place is there twice.", "One line for each place.", "read")
    centers = tuple(rect(tir / 2, high) for _, tir, high in rows)
    found = find_bend(z, centers, v["mark"] / 2 / 12**0.5)
    assert found is not None, "there are five lines"
    return z, centers, found


def _bend(v: Values) -> dict[str, float]:
    z, centers, found = _bent(v)
    return {
        "place": found.place_mm, "height": found.height_mm, "high": found.high_deg,
        "worst": 2 * max(abs(c) for c in off_line(z, centers)),
    }  # fmt: skip


def _bend_told(v: Values) -> tuple[Text, ...]:
    _, centers, found = _bent(v)
    ends = 2 * max(abs(centers[0]), abs(centers[-1]))
    told = []
    if found.sure:
        told.append(
            text(
                strong("Bent"),
                " at ",
                sized(found.place_mm),
                " ± ",
                sized(2 * found.u_place_mm),
                ": ",
                length(found.height_mm),
                " high, TIR ",
                length(2 * found.height_mm),
                " there.",
            )
        )
    else:
        told.append(
            text("No bend that stands out of the scatter: ", strong("straight"), " as far as these readings tell.")
        )
    if ends > 0.25 * max(2 * found.height_mm, 1e-9):
        told.append(text("The ends themselves run ", length(ends), " TIR: that is the centers’, and it is taken out."))
    return tuple(told)


def _bend_drawn(v: Values) -> Picture:
    z, centers, found = _bent(v)
    off = off_line(z, centers)
    way = rect(1, found.high_deg)
    k = 26 / max(max(abs(c) for c in off), 1e-9)
    sk, low, wide = Sketch(), z[0], z[-1] - z[0]
    sk.line((-8, 0), (108, 0), style="axis")
    points = [
        (100 * (at - low) / wide, k * (c.real * way.real + c.imag * way.imag)) for at, c in zip(z, off, strict=True)
    ]
    sk.line(*points, style="edge")
    for (x, y), c in zip(points, off, strict=True):
        sk.circle(x, y, 1.4, "aim")
        sk.label(x, y, bare(2 * abs(c)), dy=14)
    x = 100 * (found.place_mm - low) / wide
    sk.line((x, -10), (x, 34), style="high")
    sk.label(x, -10, f"high at {found.high_deg:.0f}°", dy=-14, style="high")
    return sk.done("The shaft’s axis from the side, the line through its ends taken out.", "bend not to scale")


# Taper and set-over


def _taper_told(v: Values) -> tuple[Text, ...]:
    half = math.degrees(math.atan((v["large"] - v["small"]) / 2 / v["over"]))
    return (
        text(
            "Half angle ",
            strong(dms(half)),
            ", on the diameter ",
            length(100 * (v["large"] - v["small"]) / v["over"]),
            " over 100 mm.",
        ),
        text("Set it with an indicator against the tailstock’s barrel: the reading is the set-over."),
    )


def _taper_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.line((20, -9), (80, -16), (80, 16), (20, 9), style="part", closed=True)
    sk.line((-5, 0), (105, 0), style="axis")
    sk.line((0, 0), (-8, -5), (-8, 5), style="holder", closed=True)
    sk.line((100, 0), (108, -5), (108, 5), style="holder", closed=True)
    sk.dim((20, -26), (80, -26), sized(v["over"]))
    sk.dim((0, -40), (100, -40), "between centers ", sized(v["work"]))
    sk.label(104, 5, "over by ", length(abs(v["over_by"])), style="aim", dy=14)
    return sk.done("A taper between centers, the tailstock set over.", "taper not to scale")


# Bar between centers


def _bar(v: Values) -> dict[str, float]:
    k = v["work"] / v["over"]
    return {"up": -v["top"] * k, "across": -v["side"] * k, "turned": 2 * v["side"]}


def _bar_told(v: Values) -> tuple[Text, ...]:
    side = "toward you" if v["across"] > 0 else "away from you"
    return (
        text(
            "Move the tailstock ",
            length(abs(v["across"])),
            strong(f" {side}"),
            "; it stands ",
            length(abs(v["up"])),
            f" too {'low' if v['up'] > 0 else 'high'}.",
        ),
        text("As it is it turns ", length(abs(v["turned"])), " of taper on the diameter over that length."),
    )


def _bar_drawn(v: Values) -> Picture:
    sk, lean = Sketch(), 8.0 if v["side"] >= 0 else -8.0
    sk.line((0, -4), (100, -4 + lean), (100, 4 + lean), (0, 4), style="part", closed=True)
    sk.line((-10, 0), (112, 0), style="axis")
    sk.line((-1, 0), (-9, -5), (-9, 5), style="holder", closed=True)
    sk.line((101, lean), (109, lean - 5), (109, lean + 5), style="holder", closed=True)
    sk.dim((20, -18), (80, -18), "read over ", sized(v["over"]))
    sk.label(105, lean, signed(v["across"]), style="aim", dx=14, anchor="start")
    return sk.done("A bar between centers from above, the tailstock off to a side.", "offset not to scale")


# Two collars


def _collars(v: Values) -> dict[str, float]:
    head = (v["chuck_far"] - v["chuck_near"]) / 2 / v["apart"]
    both = (v["centers_far"] - v["centers_near"]) / 2 / v["apart"]
    return {"head": 100 * head, "tail": (both - head) * v["work"], "lean": math.degrees(math.atan(head))}


def _collars_told(v: Values) -> tuple[Text, ...]:
    def way(value: float) -> str:
        return "away from the tool" if value > 0 else "toward the tool"

    head = text(
        "Headstock: its axis runs ",
        length(abs(v["head"])),
        f" over 100 mm {way(v['head'])}. Level the bed before it is touched.",
    )
    tail = text("Tailstock: ", length(abs(v["tail"])), strong(f" {way(v['tail'])}"), ", seen from the spindle’s axis.")
    return (head, tail)


def _collars_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.box(-14, -22, 14, 44, "holder")
    sk.box(0, -5, 110, 10, "ghost")
    for x, key in ((14.0, "near"), (86.0, "far")):
        sk.box(x, -12, 14, 24, "part")
        sk.label(x + 7, 12, sized(v[f"chuck_{key}"]), dy=14)
        sk.label(x + 7, -12, sized(v[f"centers_{key}"]), dy=-16, style="aim")
    sk.dim((21, -34), (93, -34), sized(v["apart"]))
    sk.label(-14, 22, "in the chuck", dy=14, anchor="start")
    sk.label(-14, -22, "between centers", dy=-16, style="aim", anchor="start")
    return sk.done("A bar with two collars, cut in one setting: in the chuck, and between centers.")


# Droop and tailstock


def _droop_told(v: Values) -> tuple[Text, ...]:
    return (text("Turned half over it droops the same way: a reversal does not show it. Take it off readings on top."),)


def _droop_drawn(v: Values) -> Picture:
    sk, full = Sketch(), v["out"]
    sk.box(-14, -20, 14, 40, "holder")
    drops = [
        (100 * x / 20, -18 * droop_mm(full, full * x / 20, v["bar"]) / max(droop_mm(full, full, v["bar"]), 1e-12))
        for x in range(21)
    ]
    sk.line(*((x, y + 4) for x, y in drops), *((x, y - 4) for x, y in reversed(drops)), style="part", closed=True)
    sk.line((0, 0), (108, 0), style="axis")
    at = 100 * min(v["at"] / full, 1)
    down = -18 * droop_mm(full, v["at"], v["bar"]) / max(droop_mm(full, full, v["bar"]), 1e-12)
    sk.dim((at, 0), (at, down), length(v["droop"]), style="aim")
    return sk.done("A bar held at one end, drooping.", "droop not to scale")


def _tail_told(v: Values) -> tuple[Text, ...]:
    tips, bends = tail_ratio(v["centre"], v["gauge"], "tips"), tail_ratio(v["centre"], v["gauge"], "bends")
    return (text(f"If it tips the ratio is {tips:.1f}, if it bends {bends:.1f}: read near the center and they agree."),)


def _tail_drawn(v: Values) -> Picture:
    sk, top = Sketch(), 100.0
    sk.box(-12, 0, 24, top, "part")
    sk.line((-40, 0), (40, 0), style="ground")
    at = top * v["gauge"] / v["centre"]
    sk.line((12, min(at, 120)), (40, min(at, 120)), style="aim")
    sk.label(40, min(at, 120), "pushed ", signed(v["pushed"]), anchor="start", dx=6, style="aim")
    sk.line((-34, top), (-12, top), style="high")
    sk.label(-34, top, "center", anchor="end", dx=-6, style="high")
    return sk.done("A column, the indicator on it and the tailstock’s center at its end.")


def _shift(v: Values) -> dict[str, float]:
    ways: dict[str, Gives] = {"tips": "tips", "bends": "bends"}
    return {"move": -v["pushed"] * tail_ratio(v["centre"], v["gauge"], ways[v.chosen("gives")])}


def _small(v: Values) -> float:
    small = v["large"] - 2 * v["over_by"] * v["over"] / v["work"]
    if small <= 0:
        raise BadInput("field_invalid", "That taper comes to a point before its end.", "Check both.", "over_by")
    return small


MARK = Figure(id="mark", label="One graduation", kind="reading", start=0.001, bounds=POSITIVE)
WORK = Figure(id="work", label="Between the centers", kind="size", start=300.0, bounds=POSITIVE)
GIVES = (Choice(id="tips", word="tips on its flange"), Choice(id="bends", word="bends"))

SUMS = (
    Sum(
        id="bend", title="Bend from TIRs",
        about="where, how high, which side",
        words="shaft bent straight runout journal centers straighten paste",
        formula="axis = A + B z + K max(0, z − zk), the ends’ line taken out",
        holds="Five places at least, two on each side of the bend. A long bow fits only roughly.",
        figures=(
            Figure(
                id="read", label="Place, TIR and where it is high", kind="rows", columns=("size", "reading", "direction"), least_rows=5,
                start="0 0.002 10\n80 0.032 90\n160 0.070 88\n240 0.068 92\n320 0.034 90\n400 0.002 200",
            ),
            MARK,
            Figure(id="place", label="Bend at", kind="size"),
            Figure(id="height", label="Height", kind="reading"),
            Figure(id="high", label="High side", kind="direction"),
            Figure(id="worst", label="Worst TIR off the ends’ line", kind="reading"),
        ),
        ways=(Way(("place", "height", "high", "worst"), _bend),), tell=_bend_told, draw=_bend_drawn,
    ),
    Sum(
        id="taper", title="Tailstock set-over for a taper",
        about="between centers",
        words="taper turning offset tailstock angle diameter half included",
        formula="set-over = (D − d)/2 × work/taper’s length",
        holds="Slow tapers: the centers tilt in their holes. Use ball centers past 3°.",
        figures=(
            Figure(id="large", label="Large diameter", kind="size", start=32.0, bounds=POSITIVE),
            Figure(id="small", label="Small diameter", kind="size", start=30.0, bounds=POSITIVE),
            Figure(id="over", label="Length of the taper", kind="size", start=100.0, bounds=POSITIVE),
            WORK,
            Figure(id="over_by", label="Set over by", kind="reading"),
        ),
        ways=(
            Way(("over_by",), lambda v: {"over_by": (v["large"] - v["small"]) / 2 * v["work"] / v["over"]}),
            Way(("small",), lambda v: {"small": _small(v)}),
            Way(("large",), lambda v: {"large": v["small"] + 2 * v["over_by"] * v["over"] / v["work"]}, rare=True),
        ),
        tell=_taper_told, draw=_taper_drawn,
    ),
    Sum(
        id="bar", title="Tailstock from a bar between centers",
        about="read on top and at the side",
        words="tailstock true bar test side top height offset align",
        formula="tailstock = −(far − near) × between centers / over",
        holds="A bar that is straight and of one size: turn it end for end, take the mean.",
        figures=(
            Figure(id="side", label="Side, far minus near (plus: toward you)", kind="reading", start=0.04),
            Figure(id="top", label="Top, far minus near (plus: up)", kind="reading", start=0.01),
            Figure(id="over", label="Read over", kind="size", start=250.0, bounds=POSITIVE), WORK,
            Figure(id="across", label="Tailstock to go toward you", kind="reading"),
            Figure(id="up", label="Tailstock to go up", kind="reading"),
            Figure(id="turned", label="Taper it turns over that length", kind="reading"),
        ),
        ways=(Way(("across", "up", "turned"), _bar),), tell=_bar_told, draw=_bar_drawn,
    ),
    Sum(
        id="collars", title="Two-collar cut",
        about="head not parallel, or tailstock off",
        words="headstock parallel align lathe collar test cut taper tailstock level",
        formula="head = (far − near)/(2 apart); tailstock = (between centers − head) × length",
        holds="One light cut on both collars with one tool, nothing touched between; a stiff bar in the chuck.",
        figures=(
            Figure(id="chuck_near", label="In the chuck: near collar", kind="size", start=40.0, bounds=POSITIVE),
            Figure(id="chuck_far", label="far collar", kind="size", start=40.012, bounds=POSITIVE),
            Figure(id="centers_near", label="Between centers: near collar", kind="size", start=39.5, bounds=POSITIVE),
            Figure(id="centers_far", label="far collar", kind="size", start=39.54, bounds=POSITIVE),
            Figure(id="apart", label="Collars apart", kind="size", start=150.0, bounds=POSITIVE), WORK,
            Figure(id="head", label="Head runs off over 100 mm", kind="reading"),
            Figure(id="tail", label="Tailstock off the spindle’s axis", kind="reading"),
            Figure(id="lean", label="Head’s angle", kind="angle"),
        ),
        ways=(Way(("head", "tail", "lean"), _collars),), tell=_collars_told, draw=_collars_drawn,
    ),
    Sum(
        id="droop", title="Droop of a bar", about="steel, held at one end", words="sag overhang gravity bend weight arm test bar",
        formula="q x²(6L² − 4Lx + x²)/(24EI), q/I = 16ρg/D²", holds="Round steel, held stiffly; nothing hangs on it.",
        figures=(
            Figure(id="bar", label="Diameter", kind="size", start=25.0, bounds=POSITIVE),
            Figure(id="out", label="Sticks out", kind="size", start=300.0, bounds=Bounds(least=0, most=5000, open_least=True)),
            Figure(id="at", label="Read at", kind="size", start=300.0, bounds=NOT_LESS),
            Figure(id="droop", label="Droop", kind="reading"),
        ),
        ways=(Way(("droop",), lambda v: {"droop": droop_mm(v["out"], v["at"], v["bar"])}),), tell=_droop_told, draw=_droop_drawn,
    ),
    Sum(
        id="tail", title="Tailstock at a column’s end",
        about="from what it pushed at the indicator",
        words="column tower rotary tailstock center push shift ratio",
        formula="tips: Lt/Li; bends: 2Lt³/(Li²(3Lt − Li)); tailstock = −pushed × ratio",
        holds="The column true by itself before the center comes in.",
        figures=(
            Figure(id="pushed", label="Needle went by", kind="reading", start=0.01),
            Figure(id="gauge", label="Indicator above the flange", kind="size", start=100.0, bounds=POSITIVE),
            Figure(id="centre", label="Center above the flange", kind="size", start=280.0, bounds=POSITIVE),
            Figure(id="gives", label="The column", kind="choice", start="tips", choices=GIVES),
            Figure(id="move", label="Tailstock goes", kind="reading"),
        ),
        ways=(Way(("move",), _shift), Way(("pushed",), lambda v: {"pushed": v["move"] / _shift(v.with_({"pushed": 1.0}))["move"]})),
        tell=_tail_told, draw=_tail_drawn,
    ),
)  # fmt: skip
