"""Rods, turned coordinates, and what a leaning cutter leaves."""

from __future__ import annotations

import math

from ..angles import rect
from ..errors import BadInput
from ..fields import Choice
from ..wording import Text, length, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds, dms, sized
from .runout import NOT_LESS, POSITIVE
from .vise import OVER

FAMILY, RANK = "Rods, coordinates, cutters", 37


# Rods


def _rods(v: Values) -> dict[str, float]:
    half = (v["one"] - v["other"]) / 2
    seat = half * (1 / math.sin(math.radians(v["vee"] / 2)) if v.chosen("on") == "vee" else 1.0)
    rise = seat + half  # its axis stands higher by its seat, its top by its own radius more
    return {"rise": rise, "axis": seat, "tilt": math.degrees(math.atan(rise / v["apart"]))}


def _rods_told(v: Values) -> tuple[Text, ...]:
    return (
        text(
            "What lies on them is ",
            length(abs(v["rise"])),
            " out over ",
            sized(v["apart"]),
            ": take it off, or turn the rods end for end and take the mean.",
        ),
    )


def _rods_drawn(v: Values) -> Picture:
    sk, vee = Sketch(), v.chosen("on") == "vee"
    big, small = (12.0, 9.0) if v["one"] >= v["other"] else (9.0, 12.0)
    for x, r in ((0.0, big), (90.0, small)):
        if vee:
            half = math.radians(v["vee"] / 2)
            y = r / math.sin(half)
            sk.line(
                (x - 22, 22 / math.tan(half)),
                (x, 0),
                (x + 22, 22 / math.tan(half)),
                (x + 26, -6),
                (x - 26, -6),
                style="holder",
                closed=True,
            )
            sk.circle(x, y, r)
        else:
            sk.circle(x, r, r)
    if not vee:
        sk.line((-26, 0), (116, 0), style="ground")
    sk.label(0, -6, sized(v["one"]), dy=-16)
    sk.label(90, -6, sized(v["other"]), dy=-16)
    return sk.done(
        "Two rods of unequal size, " + ("each in a vee" if vee else "on a face") + ".", "difference not to scale"
    )


# Rotated coordinates


def _rotate(v: Values) -> dict[str, float]:
    turn = math.atan2(v["rise"], v["over"])
    x, y = v["x"], v["y"]
    return {
        "turn": math.degrees(turn), "new_x": x * math.cos(turn) - y * math.sin(turn), "new_y": x * math.sin(turn) + y * math.cos(turn),
        "edge": v["tip"] / 2 * (1 / math.cos(turn) - 1), "left": math.hypot(x, y) * math.radians(v["step"]) / 2,
    }  # fmt: skip


def _rotate_told(v: Values) -> tuple[Text, ...]:
    told = [text("Type ", strong(dms(v["turn"])), " as the turn of the part, or go to the coordinates below.")]
    told.append(
        text(
            "A bore’s center is as it was found. An edge found with this tip stands ",
            length(v["edge"]),
            " farther in than half the tip says.",
        )
    )
    if v["left"] > 0.005:
        told.append(
            text("The control’s step alone leaves ", length(v["left"]), " at that corner: tap it nearer first.")
        )
    return tuple(told)


def _rotate_drawn(v: Values) -> Picture:
    sk, turn = Sketch(), 10.0 if v["rise"] > 0 else -10.0 if v["rise"] < 0 else 0.0
    sk.box(0, 0, 100, 60, "ghost")
    sk.box(0, 0, 100, 60, "part", turn)
    far = rect(math.hypot(80, 44), turn + math.degrees(math.atan2(44, 80)))
    sk.circle(80, 44, 2, "dim")
    sk.circle(far.real, far.imag, 2, "aim")
    sk.label(far.real, far.imag, sized(v["new_x"]), ", ", sized(v["new_y"]), style="aim", dy=16)
    sk.arc(0, 0, 108, 0, turn or 0.3)
    sk.label(112, 8 if turn >= 0 else -8, dms(v["turn"]), anchor="start", dx=4)
    return sk.done("The part as it lies, the drawing’s axes, and the feature in the machine’s.", "turn not to scale")


# Dish of a face cut by a leaning cutter


def _dish(v: Values) -> dict[str, float]:
    if v["cut"] > v["cutter"]:
        raise BadInput("field_invalid", "A cut is no wider than its cutter.", "Check both.", "cut")
    depth = (v["cutter"] - math.sqrt(v["cutter"] ** 2 - v["cut"] ** 2)) / 2
    return {"dish": depth * math.sin(math.atan(v["lean"] / v["over"]))}


def _lean_for(v: Values) -> dict[str, float]:
    depth = (v["cutter"] - math.sqrt(max(v["cutter"] ** 2 - v["cut"] ** 2, 0.0))) / 2
    if depth <= 0 or not 0 <= v["dish"] < depth:
        raise BadInput("field_invalid", "No lean of the head cuts that dish.", "A wider cut, or less dish.", "dish")
    return {"lean": v["over"] * math.tan(math.asin(v["dish"] / depth))}


def _dish_told(v: Values) -> tuple[Text, ...]:
    side = v["lean"] / v["over"] * v["cut"]
    return (
        text("Leaning along the feed: hollow by ", length(v["dish"]), " in the middle of the cut."),
        text("Leaning across the feed it would step ", length(side), " from one pass to the next instead."),
    )


def _dish_drawn(v: Values) -> Picture:
    sk = Sketch()
    points = [(x, -9 + 9 * (1 - math.sqrt(max(1 - (x / 62) ** 2, 0)))) for x in range(-50, 51, 5)]
    sk.line((-50, -34), *points, (50, -34), style="part", closed=True)
    sk.line((-50, points[0][1]), (50, points[0][1]), style="axis")
    sk.dim((0, -9), (0, points[0][1]), length(v["dish"]), style="aim")
    sk.dim((-50, -44), (50, -44), "cut ", sized(v["cut"]))
    sk.line((-62, 14), (62, 14), style="edge")
    sk.label(0, 14, "cutter ", sized(v["cutter"]), dy=14)
    return sk.done("A face from the end of the cut: hollow where the cutter leans along the feed.", "dish not to scale")


ON = (Choice(id="face", word="on a flat face"), Choice(id="vee", word="in a vee"))

SUMS = (
    Sum(
        id="rods", title="Rods of unequal size",
        about="in a vee or on a face",
        words="rod pin dowel parallel vee block roll tilt unequal diameter",
        formula="axis: half the difference (in a vee over sin(vee/2)); top: half the difference more",
        holds="Round rods, side by side; the difference small beside their size.",
        figures=(
            Figure(id="one", label="One rod", kind="size", start=20.01, bounds=POSITIVE),
            Figure(id="other", label="The other", kind="size", start=20.0, bounds=POSITIVE),
            Figure(id="on", label="They lie", kind="choice", start="face", choices=ON),
            Figure(id="vee", label="Angle of the vee", kind="angle", start=90.0, bounds=Bounds(least=20, most=160)),
            Figure(id="apart", label="Apart", kind="size", start=100.0, bounds=POSITIVE),
            Figure(id="rise", label="Tops differ by", kind="reading"),
            Figure(id="axis", label="Axes differ by", kind="reading"),
            Figure(id="tilt", label="Tilt", kind="angle"),
        ),
        ways=(Way(("rise", "axis", "tilt"), _rods),), tell=_rods_told, draw=_rods_drawn,
    ),
    Sum(
        id="rotate", title="Turn the coordinates instead of tapping", about="new places of a bore or an edge",
        words="rotate work coordinate control dro skew bore edge finder tip radius corner angle compensate",
        formula="x' = x cos a − y sin a; y' = x sin a + y cos a; edge: tip/2 × (1/cos a − 1)",
        holds="Cuts along the machine’s axes stay askew on the part: this helps for holes, not for faces.",
        figures=(
            Figure(id="rise", label="Edge rises in y", kind="reading", start=0.15), OVER.model_copy(update={"start": 100.0}),
            Figure(id="x", label="Feature in x, from the corner", kind="size", start=80.0),
            Figure(id="y", label="Feature in y", kind="size", start=44.0),
            Figure(id="tip", label="Tip of the edge finder", kind="size", start=10.0, bounds=NOT_LESS),
            Figure(id="step", label="Finest angle of the control", kind="angle", start=0.001, bounds=NOT_LESS),
            Figure(id="turn", label="Turn", kind="angle"),
            Figure(id="new_x", label="Go to x", kind="size"),
            Figure(id="new_y", label="Go to y", kind="size"),
            Figure(id="edge", label="Edge stands farther in by", kind="reading"),
            Figure(id="left", label="Left at that corner", kind="reading"),
        ),
        ways=(Way(("turn", "new_x", "new_y", "edge", "left"), _rotate),), tell=_rotate_told, draw=_rotate_drawn,
    ),
    Sum(
        id="dish", title="Dish of a leaning cutter",
        about="a head out of tram, a hollow face",
        words="tram mill head face cutter hollow concave flat lean nod fly",
        formula="dish = (D − √(D² − w²))/2 × sin(lean)",
        holds="One pass of a face cutter, leaning along the feed; only its leading edge cuts.",
        figures=(
            Figure(id="lean", label="Head leans", kind="reading", start=0.05, bounds=NOT_LESS), OVER.model_copy(update={"start": 200.0}),
            Figure(id="cutter", label="Cutter’s diameter", kind="size", start=80.0, bounds=POSITIVE),
            Figure(id="cut", label="Width of the cut", kind="size", start=60.0, bounds=POSITIVE),
            Figure(id="dish", label="Hollow by", kind="reading"),
        ),
        ways=(Way(("dish",), _dish), Way(("lean",), _lean_for)), tell=_dish_told, draw=_dish_drawn,
    ),
)  # fmt: skip
