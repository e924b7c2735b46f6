"""Balance, torque, warmth and tolerance."""

from __future__ import annotations

import math

from ..errors import BadInput
from ..fields import Choice
from ..wording import Text, joined, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds, beside, written
from .runout import NOT_LESS, POSITIVE, off_centre

FAMILY, RANK = "Balance, torque, warmth, tolerance", 60
GRAVITY = 9.80665

# Out of balance


def _balance(v: Values) -> dict[str, float]:
    omega = v["rpm"] * math.pi / 30
    return {"force": v["mass"] * v["off"] / 1000 * omega**2, "weight": v["mass"] * v["off"] / v["radius"]}


def _balance_told(v: Values) -> tuple[Text, ...]:
    ratio = v["force"] / (v["mass"] * GRAVITY)
    told = [
        text(
            "Put ",
            strong(f"{written('mass', v['weight'], 'mm')} kg"),
            f" ({beside('mass', v['weight'], 'mm')}) opposite, in the same plane, bolted: never glued or clamped.",
        ),
        text(
            f"The force goes round with the spindle, {ratio:.1f} times the part’s own weight. Twice the speed is four times the force."
        ),
    ]
    if ratio > 0.3:
        told.append(
            text(
                strong("Balance it before it runs."),
                " The limit is in the machine’s manual and the shop’s rules, not here.",
            )
        )
    return tuple(told)


def _balance_drawn(v: Values) -> Picture:
    sk = Sketch()
    off_centre(sk, 14 + 0j, 32)
    sk.circle(0, 0, 52, "ghost")
    sk.box(-58, -7, 12, 14, "holder")
    sk.label(-52, 7, "counterweight", dy=14)
    sk.line((14, 0), (60, 0), style="high")
    sk.label(60, 0, f"{v['force']:.0f} N", anchor="start", dx=6, style="high")
    sk.dim((0, 0), (14, 0), length(v["off"]), style="aim")
    return sk.done("A part off the axis, the force outward and the counterweight across.", "not to scale")


# Torque


def _torque_told(v: Values) -> tuple[Text, ...]:
    stages = int(v["stages"])
    steps = [v["full"] * (i + 1) / stages for i in range(stages)]
    return (
        text(
            "In stages, crosswise: ",
            joined(
                [text(strong(f"{written('torque', s, 'mm')} N·m"), f" ({beside('torque', s, 'mm')})") for s in steps],
                ", ",
            ),
            ".",
        ),
        text(
            "Pulling square to the wrench at its end: ",
            strong(f"{written('force', v['pull'], 'mm')} N"),
            f" ({beside('force', v['pull'], 'mm')}).",
        ),
        text("The maker’s figure counts; dry and oiled threads differ by a third."),
    )


def _torque_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.line(
        *((10 * math.cos(math.radians(60 * i)), 10 * math.sin(math.radians(60 * i))) for i in range(6)),
        style="holder",
        closed=True,
    )
    sk.box(8, -3, 92, 6, "part")
    sk.line((96, 0), (96, 34), style="aim")
    sk.label(96, 34, f"{v['pull']:.0f} N", style="aim", dy=14)
    sk.dim((96, -10), (0, -10), length(v["arm"]))
    return sk.done("A wrench on a bolt, pulled square to it.")


# Growth


def _rate(v: Values) -> float:
    return {"steel": 11.5e-6, "iron": 10.5e-6, "alu": 23.4e-6, "brass": 19.0e-6, "granite": 6.5e-6}[v.chosen("of")]


def _grow_told(v: Values) -> tuple[Text, ...]:
    steel = v["size"] * 11.5e-6 * v["warmer"]
    told = [text("Let part, machine and what measures them come to one temperature.")]
    if v.chosen("of") != "steel":
        told.append(
            text("Measured with steel as warm as the part the difference is ", signed(v["growth"] - steel), ".")
        )
    return tuple(told)


def _grow_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.box(0, 0, 100, 20, "part")
    sk.box(100, 0, 8 if v["growth"] >= 0 else -8, 20, "ghost")
    sk.label(104, 20, signed(v["growth"]), dy=14, style="aim")
    sk.label(0, 0, f"{v['warmer']:+.1f} °C", dy=-18, anchor="start")
    return sk.done("A length and what it grows.", "growth not to scale")


# Tolerance budget


def _parts(v: Values) -> list[float]:
    found = [abs(x) for row in v.rows("parts") for x in row]
    if not any(found):
        raise BadInput("field_invalid", "All of them are zero.", "Type what each may take.", "parts")
    return found


def _budget(v: Values) -> dict[str, float]:
    parts = _parts(v)
    return {
        "worst": sum(parts),
        "likely": math.sqrt(sum(x * x for x in parts)),
        "left": v["limit"] - math.sqrt(sum(x * x for x in parts)),
    }


def _budget_told(v: Values) -> tuple[Text, ...]:
    if v["worst"] <= v["limit"]:
        return (text(strong("It fits even at the worst."), " ", length(v["limit"] - v["worst"]), " to spare."),)
    biggest = max(_parts(v))
    alone = biggest > v["likely"] / 2**0.5  # more than half of the sum of squares
    if v["likely"] <= v["limit"]:
        return (
            text(
                strong("It fits as a rule"),
                ", not at the worst: that is ",
                length(v["worst"] - v["limit"]),
                " too much.",
            ),
            text(
                "The largest, ",
                length(biggest),
                ", is the one to make smaller",
                ": the others hardly count beside it." if alone else " first; it is not alone.",
            ),
        )
    return (
        text(
            strong("It does not fit."),
            " Even as a rule it takes ",
            length(v["likely"] - v["limit"]),
            " more than there is.",
        ),
    )


def _budget_drawn(v: Values) -> Picture:
    sk, parts = Sketch(), _parts(v)
    k = 100 / max(v["worst"], v["limit"])
    level = 0.0
    for n, one in enumerate(sorted(parts, reverse=True)):
        sk.box(0, level, 26, one * k, "part" if n % 2 else "holder")
        if one * k > 7:
            sk.label(13, level + one * k / 2 - 2, length(one))
        level += one * k
    sk.box(44, 0, 26, v["likely"] * k, "part")
    sk.label(13, 0, "worst", dy=-18)
    sk.label(57, 0, "as a rule", dy=-18)
    sk.label(13, level, length(v["worst"]), dy=12)
    sk.label(57, v["likely"] * k, length(v["likely"]), dy=12)
    sk.line((-8, v["limit"] * k), (84, v["limit"] * k), style="high" if v["likely"] > v["limit"] else "aim")
    sk.label(
        84,
        v["limit"] * k,
        "limit ",
        length(v["limit"]),
        anchor="start",
        dx=6,
        style="high" if v["likely"] > v["limit"] else "aim",
    )
    return sk.done("What each part of the tolerance takes: stacked up, and by root of squares.")


OF = (
    Choice(id="steel", word="steel"), Choice(id="iron", word="cast iron"), Choice(id="alu", word="aluminum"),
    Choice(id="brass", word="brass"), Choice(id="granite", word="granite"),
)  # fmt: skip

SUMS = (
    Sum(
        id="balance", title="Out of balance",
        about="force, and the weight across",
        words="counterweight balance force speed rpm faceplate throw eccentric unbalance centrifugal",
        formula="force = mass × off center × (2π rpm/60)²; weight = mass × off center / radius",
        holds="Weight and part in one plane. Safety is with the machine’s manual, the shop’s rules and a qualified person.",
        figures=(
            Figure(id="mass", label="Mass of the part", kind="mass", start=4.0, bounds=POSITIVE),
            Figure(id="off", label="Its center off the axis", kind="size", start=3.0, bounds=NOT_LESS),
            Figure(id="rpm", label="Speed", kind="number", unit="rpm", start=200.0, bounds=Bounds(least=0, most=20000)),
            Figure(id="radius", label="Counterweight sits at", kind="size", start=80.0, bounds=POSITIVE),
            Figure(id="force", label="Force", kind="force"),
            Figure(id="weight", label="Counterweight", kind="mass"),
        ),
        ways=(Way(("force", "weight"), _balance),), tell=_balance_told, draw=_balance_drawn,
    ),
    Sum(
        id="torque", title="Torque in stages",
        about="newton meters, pound feet, pull at the wrench",
        words="tighten bolt nut wrench crosswise nm lbf ft stages pull",
        formula="pull = torque / length of the wrench", holds="Pulled square, at the end of the wrench.",
        figures=(
            Figure(id="full", label="Full torque", kind="torque", start=60.0, bounds=POSITIVE),
            Figure(id="stages", label="Stages", kind="count", start=3.0, bounds=Bounds(least=1, most=6)),
            Figure(id="arm", label="Length of the wrench", kind="size", start=300.0, bounds=POSITIVE),
            Figure(id="pull", label="Pull", kind="force", bounds=POSITIVE),
        ),
        ways=(
            Way(("pull",), lambda v: {"pull": v["full"] / v["arm"] * 1000}),
            Way(("full",), lambda v: {"full": v["pull"] * v["arm"] / 1000}),
        ),
        tell=_torque_told, draw=_torque_drawn,
    ),
    Sum(
        id="growth", title="Growth by warmth", about="of a length", words="temperature thermal expansion heat warm cold celsius fahrenheit",
        formula="growth = length × rate × warming",
        holds="Rates per °C: steel 11.5, cast iron 10.5, aluminum 23.4, brass 19, granite 6.5 millionths. Alloys differ by a tenth.",
        figures=(
            Figure(id="size", label="Length", kind="size", start=300.0, bounds=POSITIVE),
            Figure(id="of", label="Of", kind="choice", start="steel", choices=OF),
            Figure(id="warmer", label="Warmer by", kind="warmth", start=5.0, bounds=Bounds(least=-300, most=1500)),
            Figure(id="growth", label="Grows by", kind="reading"),
        ),
        ways=(
            Way(("growth",), lambda v: {"growth": v["size"] * _rate(v) * v["warmer"]}),
            Way(("warmer",), lambda v: {"warmer": v["growth"] / _rate(v) / v["size"]}),
        ),
        tell=_grow_told, draw=_grow_drawn,
    ),
    Sum(
        id="budget", title="Tolerance budget",
        about="what each part may take",
        words="tolerance stack worst case root sum square rss uncertainty add up limit",
        formula="worst = sum; as a rule = √(sum of squares)", holds="As a rule: parts that know nothing of each other.",
        figures=(
            Figure(id="limit", label="Limit", kind="reading", start=0.05, bounds=POSITIVE),
            Figure(id="parts", label="What each takes, one to a line", kind="rows", columns=("reading",),
                start="0.012\n0.02\n0.008\n0.015"),
            Figure(id="worst", label="At the worst", kind="reading"),
            Figure(id="likely", label="As a rule", kind="reading"),
            Figure(id="left", label="Left, as a rule", kind="reading"),
        ),
        ways=(Way(("worst", "likely", "left"), _budget),), tell=_budget_told, draw=_budget_drawn,
    ),
)  # fmt: skip
