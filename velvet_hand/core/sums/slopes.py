"""Sine bars and compound angles."""

from __future__ import annotations

import math

from ..errors import BadInput
from ..fit.stack import fewest
from ..wording import Text, joined, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds, dms, sized
from .runout import POSITIVE

FAMILY, RANK = "Angles", 35
#: A usual set of 47: what stands in for the Shop's own until there is one.
SET_47 = " ".join(
    f"{mm:g}"
    for mm in (
        1.005,
        *(1 + i / 100 for i in range(1, 20)),
        *(1 + i / 10 for i in range(2, 10)),
        *range(1, 10),
        *range(10, 101, 10),
    )
)


def _height(v: Values) -> dict[str, float]:
    return {"height": v["bar"] * math.sin(math.radians(v["angle"]))}


def _angle(v: Values) -> dict[str, float]:
    if v["height"] >= v["bar"]:
        raise BadInput("field_invalid", "A stack as high as the bar is long stands upright.", "Check both.", "height")
    return {"angle": math.degrees(math.asin(v["height"] / v["bar"]))}


def _stack(v: Values) -> tuple[float, ...]:
    return fewest(v["height"], v.pieces("blocks"))


def _sine_told(v: Values) -> tuple[Text, ...]:
    stack = _stack(v)
    micron = math.degrees(0.001 / (v["bar"] * math.cos(math.radians(v["angle"])))) * 3600
    if not stack:
        return (text("No blocks in this set."),)
    off = sum(stack) - v["height"]
    if sum(stack) >= v["bar"]:
        return (text("No stack of five comes near."),)
    sets = math.degrees(math.asin(sum(stack) / v["bar"]))
    told = [
        text(
            "Fewest blocks: ",
            joined([strong(f"{mm:g}") for mm in stack], " + "),
            f" mm. That sets {dms(sets)}",
            *((", ", signed(off), " off") if abs(off) > 0.00005 else ()),
            ".",
        ),
        text(
            f"One µm in the stack is {micron:.1f} seconds of angle, ",
            length(0.001 / math.cos(math.radians(v["angle"]))),
            " over the bar. Clean rolls and plate.",
        ),
    ]
    if v["angle"] > 45:
        told.append(text("Past 45° a small error in the stack counts too much: set the other side."))
    return tuple(told)


def _sine_drawn(v: Values) -> Picture:
    sk, a = Sketch(), math.radians(v["angle"])
    c, s = math.cos(a), math.sin(a)
    r = 7.0
    sk.line((-20, 0), (125, 0), style="ground")
    up = 100 * s
    top = [(-8.0, 12.0), (108.0, 12.0), (108.0, 24.0), (-8.0, 24.0)]
    sk.line(*((x * c - (y - r) * s, r + x * s + (y - r) * c) for x, y in top), style="part", closed=True)
    level = 0.0
    for mm in _stack(v):
        high = up * mm / max(sum(_stack(v)), 1e-9)
        sk.box(100 * c - 11, level, 22, high, "holder")
        level += high
    sk.circle(0, r, r)
    sk.circle(100 * c, r + up, r)
    sk.dim((100 * c + 18, up), (100 * c + 18, 0), sized(v["height"]), style="aim")
    sk.line((0, r), (70, r), style="axis")
    sk.arc(0, r, 50, 0, max(v["angle"], 0.5))
    mid = math.radians(v["angle"] / 2)
    sk.label(50 * math.cos(mid), r + 50 * math.sin(mid), dms(v["angle"]), dx=8, anchor="start")
    sk.label(50 * c - 24 * s, r + 50 * s + 24 * c, sized(v["bar"]), " between the rolls", dy=14)
    return sk.done("A sine bar on its stack, the angle drawn as it is.")


def _compound(v: Values) -> dict[str, float]:
    a, b = math.tan(math.radians(v["in_x"])), math.tan(math.radians(v["in_y"]))
    return {"steep": math.degrees(math.atan(math.hypot(a, b))), "toward": math.degrees(math.atan2(b, a)) % 360}


def _parts(v: Values) -> dict[str, float]:
    steep, toward = math.tan(math.radians(v["steep"])), math.radians(v["toward"])
    return {
        "in_x": math.degrees(math.atan(steep * math.cos(toward))),
        "in_y": math.degrees(math.atan(steep * math.sin(toward))),
    }


def _compound_told(v: Values) -> tuple[Text, ...]:
    second = math.degrees(
        math.asin(math.sin(math.atan(math.tan(math.radians(v["in_y"])) * math.cos(math.radians(v["in_x"])))))
    )
    return (
        text("One tilt of ", strong(dms(v["steep"])), f", turned to {v['toward']:.2f}°, does the same as both."),
        text(
            f"On a compound plate: lower plate {dms(v['in_x'])}, upper plate {dms(second)}, because it leans with the lower."
        ),
    )


def _compound_drawn(v: Values) -> Picture:
    sk = Sketch()

    def flat(x: float, y: float, z: float) -> tuple[float, float]:
        return x + 0.45 * y, 0.45 * y * 0.7 + z

    a, b = math.tan(math.radians(v["in_x"])), math.tan(math.radians(v["in_y"]))
    corners = ((0.0, 0.0), (100.0, 0.0), (100.0, 80.0), (0.0, 80.0))
    sk.line(*(flat(x, y, 0) for x, y in corners), style="ghost", closed=True)
    sk.line(*(flat(x, y, a * x + b * y) for x, y in corners), style="part", closed=True)
    sk.dim(flat(100, 0, 0), flat(100, 0, a * 100 or 0.4), dms(v["in_x"]))
    sk.dim(flat(0, 80, b * 80 or 0.4), flat(0, 80, 0), dms(v["in_y"]))
    way = math.radians(v["toward"])
    end = (50 + 36 * math.cos(way), 40 + 30 * math.sin(way))
    sk.line(flat(50, 40, 50 * a + 40 * b), flat(*end, end[0] * a + end[1] * b), style="aim")
    sk.label(*flat(*end, end[0] * a + end[1] * b), dms(v["steep"]), style="aim", dy=14)
    return sk.done("A face leaning in x and in y, and its steepest way up.")


STEEP = Bounds(least=-85, most=85)

SUMS = (
    Sum(
        id="sine", title="Sine bar and its stack", about="height for an angle, blocks from the Shop",
        words="gauge block slip gage set angle sine plate stack height wring",
        formula="height = length × sin(angle)",
        holds="Good to 45°; above that a small error in the stack counts too much: use the other side.",
        figures=(
            Figure(id="bar", label="Between the rolls", kind="size", start=100.0, bounds=POSITIVE),
            Figure(id="angle", label="Angle", kind="angle", start=5.5, bounds=Bounds(least=0, most=89)),
            Figure(id="height", label="Stack height", kind="size", bounds=Bounds(least=0.0)),
            Figure(id="blocks", label="Blocks", kind="stock", stock="blocks", start=SET_47),
        ),
        ways=(
            Way(("height",), _height), Way(("angle",), _angle),
            Way(("bar",), lambda v: {"bar": _bar_for(v)}, rare=True),
        ),
        tell=_sine_told, draw=_sine_drawn,
    ),
    Sum(
        id="compound", title="Compound angle",
        about="two tilts in one",
        words="compound angle sine plate true angle resultant two tilts bevel",
        formula="tan² steep = tan² x + tan² y; toward = atan2(tan y, tan x)", holds="Tilts measured against the same level plane.",
        figures=(
            Figure(id="in_x", label="Tilt in x", kind="angle", start=5.0, bounds=STEEP),
            Figure(id="in_y", label="Tilt in y", kind="angle", start=3.0, bounds=STEEP),
            Figure(id="steep", label="Steepest", kind="angle", bounds=Bounds(least=0, most=85)),
            Figure(id="toward", label="toward", kind="angle"),
        ),
        ways=(Way(("steep", "toward"), _compound), Way(("in_x", "in_y"), _parts)), tell=_compound_told, draw=_compound_drawn,
    ),
)  # fmt: skip


def _bar_for(v: Values) -> float:
    if v["angle"] <= 0 or v["height"] <= 0:
        raise BadInput("field_invalid", "Without an angle no length follows.", "Type both above zero.", "angle")
    return v["height"] / math.sin(math.radians(v["angle"]))
