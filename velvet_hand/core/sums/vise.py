"""Edges, slopes, shims, and what they do to the part."""

from __future__ import annotations

import math

from ..angles import direction_deg, rect
from ..errors import BadInput
from ..wording import Text, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import dms, sized
from .runout import NOT_LESS, POSITIVE

FAMILY, RANK = "Vise, slope, shims", 30


def _leaning(sk: Sketch, lean: float, wide: float = 100.0) -> None:
    """A jaw seen from above, leaning by so much (drawn) over its length."""
    turn = math.degrees(math.atan2(lean, wide))
    sk.line((-8, 0), (wide + 12, 0), style="axis")
    sk.box(0, 0, wide, 14, "holder", turn)


def _sign(value: float, drawn: float) -> float:
    return drawn if value > 0 else -drawn if value < 0 else 0.0


# Slope over a length


def _slope_told(v: Values) -> tuple[Text, ...]:
    slope = v["rise"] / v["over"]
    return (
        text(
            "That is ",
            signed(100 * slope),
            " over 100 mm, or ",
            strong(dms(math.degrees(math.atan(slope)))),
            ".",
        ),
        text(
            "Turned over against the same jaw and cut again: ",
            length(2 * v["there"]),
            " out of parallel over the part.",
        ),
        text("A wall cut along it is ", length(abs(v["there"])), " thicker at one end than at the other."),
    )


def _slope_drawn(v: Values) -> Picture:
    sk, up = Sketch(), _sign(v["rise"], 14)
    _leaning(sk, up)
    part = 100 * min(v["part"], v["over"]) / max(v["part"], v["over"])
    sk.dim((100, 0), (100, up or 0.5), signed(v["rise"]), style="aim")
    sk.dim((0, -14), (100 if v["over"] >= v["part"] else part, -14), sized(v["over"]))
    sk.dim((0, -34), (part if v["over"] >= v["part"] else 100, -34), "part ", sized(v["part"]))
    return sk.done("An edge that leans over its length, seen from above.", "lean not to scale")


# Shim at a distance


def _shim_told(v: Values) -> tuple[Text, ...]:
    if not v["shim"]:
        return (text("It is level as it stands: nothing goes under it."),)
    low = "at the far support" if v["rise"] < 0 else "at the near support"
    return (
        text(
            "Put ",
            length(abs(v["shim"])),
            f" under the low side, {low}. Then read again: a shim settles when it is bolted.",
        ),
    )


def _shim_drawn(v: Values) -> Picture:
    sk, up = Sketch(), _sign(v["rise"], 12)
    base = max(-up, 0.0)
    sk.line((-10, -24), (120, -24), style="ground")
    for x in (12.0, 88.0):
        sk.box(x - 6, -24, 12, 8 + base + up * x / 100, "holder")
    sk.line((0, -16 + base), (100, -16 + base + up), (100, 2 + base + up), (0, 2 + base), style="part", closed=True)
    low_x, high_x = (12.0, 88.0) if up > 0 else (88.0, 12.0)
    level, low = -16 + base + up * high_x / 100, -16 + base + up * low_x / 100
    sk.line((0, level), (100, level), style="ghost")
    sk.box(low_x - 6, low, 12, max(level - low, 0.3), "aim")
    sk.label(low_x, -24, "shim ", length(abs(v["shim"])), style="aim", dy=-18)
    sk.dim((12, 26), (88, 26), "supports ", sized(v["apart"]))
    sk.dim((0, 42), (100, 42), "read over ", sized(v["over"]))
    return sk.done(
        "A face that rises over the length it was read on, and the two places it stands on.", "rise not to scale"
    )


# Aim at a vise with its pivot


def _aim(v: Values) -> dict[str, float]:
    span = v["x_b"] - v["x_a"]
    if abs(span) < 1e-6:
        raise BadInput("field_invalid", "Two places to read must lie apart.", "Read farther along the jaw.", "x_b")
    slope = (v["y_b"] - v["y_a"]) / span
    return {"aim": v["y_a"] + slope * (v["pivot"] - v["x_a"])}


def _aim_told(v: Values) -> tuple[Text, ...]:
    f = (v["pivot"] - v["x_a"]) / (v["x_b"] - v["x_a"])
    told = [
        text("Tap at B until it shows ", signed(v["aim"]), ": the pivot stands there already, and it does not move.")
    ]
    if abs(1 - f) < 0.05:
        return (*told, text("The pivot lies under B: a tap there moves nothing. Tap at A."))
    half, full = 100 * (1 - 2 * f) / (2 * (1 - f)), -100 * f / (1 - f)
    told.append(
        text(
            f"Half the difference would leave {half:.0f} % of the slope, all of it with A at zero {full:.0f} %.".replace(
                "-", "\u2212"
            )
        )
    )
    return tuple(told)


def _aim_drawn(v: Values) -> Picture:
    sk, span = Sketch(), v["x_b"] - v["x_a"]
    up = _sign((v["y_b"] - v["y_a"]) * span, 16)
    _leaning(sk, up)
    at = 100 * (v["pivot"] - v["x_a"]) / span
    shown = min(max(at, -30.0), 130.0)
    sk.circle(shown, -14 + up * shown / 100, 3, "part")
    sk.label(shown, -14 + up * shown / 100, "pivot", dy=-26)
    sk.line((-8, up * shown / 100), (112, up * shown / 100), style="aim")
    sk.label(0, 0, "A ", signed(v["y_a"]), dx=-10, anchor="end")
    sk.label(100, up, "B ", signed(v["y_b"]), dx=14, dy=12, anchor="start")
    sk.label(100, up * shown / 100, "aim ", signed(v["aim"]), dx=34, dy=-14, anchor="start", style="aim")
    return sk.done("The jaw from above, its pivot, and the line that it has to come to.", "lean not to scale")


# Two planes


def _planes(v: Values) -> dict[str, float]:
    if abs(v["far_z"] - v["near_z"]) < 1e-6:
        raise BadInput("field_invalid", "The two planes must lie apart.", "Read farther out.", "far_z")
    near, far = rect(v["near"], v["near_at"]), rect(v["far"], v["far_at"])
    tilt = (far - near) / (v["far_z"] - v["near_z"])
    at_jaws = near + tilt * (v["jaws_z"] - v["near_z"])
    tap = -tilt * (v["tap_z"] - v["jaws_z"])
    return {
        "move": abs(at_jaws), "toward": direction_deg(-at_jaws), "lean": math.degrees(math.atan(abs(tilt))),
        "tap": abs(tap), "tap_at": direction_deg(tap),
    }  # fmt: skip


def _planes_told(v: Values) -> tuple[Text, ...]:
    return (
        text(
            "First the jaws: the part goes ",
            length(v["move"]),
            f" toward {v['toward']:.0f}°. TIR at the tap is then ",
            length(2 * v["tap"]),
            ".",
        ),
        text(
            "Then tap out there until it has gone ",
            length(v["tap"]),
            f" toward {v['tap_at']:.0f}°, and read near again.",
        ),
    )


def _planes_drawn(v: Values) -> Picture:
    sk = Sketch()
    z = [v["jaws_z"], v["near_z"], v["far_z"], v["tap_z"]]
    low, high = min(z), max(z)
    k = 100 / max(high - low, 1e-6)
    sk.box(-18, -30, 14, 60, "holder")
    sk.line((0, -6), (104, 6), (100, 26), (-4, 14), style="part", closed=True)
    sk.line((-20, 4), (112, 4), style="axis")
    for at, name, y in zip(z, ("jaws", "near", "far", "tap"), (-22, -34, -34, -22), strict=True):
        x = (at - low) * k
        sk.line((x, 2), (x, y), style="aim" if name in ("jaws", "tap") else "dim")
        sk.label(x, y, name, dy=-12, style="aim" if name in ("jaws", "tap") else "dim")
    return sk.done("A long part from the side: where it is read, held and tapped.", "lean not to scale")


OVER = Figure(id="over", label="Over", kind="size", start=150.0, bounds=POSITIVE)

SUMS = (
    Sum(
        id="slope", title="Slope over a length", about="what it does to the part",
        words="parallel square taper angle per inch mm lean jaw turned over wall left right out of square depth",
        formula="over the part = rise × part / over", holds="A straight edge: between the readings it may bow.",
        figures=(
            Figure(id="rise", label="Rise", kind="reading", start=0.03), OVER,
            Figure(id="part", label="Length (or depth) of the part", kind="size", start=80.0, bounds=POSITIVE),
            Figure(id="there", label="Over the part", kind="reading"),
        ),
        ways=(
            Way(("there",), lambda v: {"there": v["rise"] * v["part"] / v["over"]}),
            Way(("rise",), lambda v: {"rise": v["there"] * v["over"] / v["part"]}),
        ),
        tell=_slope_told, draw=_slope_drawn,
    ),
    Sum(
        id="shim", title="Shim at a distance", about="from a rise to what goes under", words="level shim lean packing feet parallel height",
        formula="shim = rise × supports / over", holds="A rigid base that stands on these two places.",
        figures=(
            Figure(id="rise", label="Rise (−: falls)", kind="reading", start=0.03), OVER,
            Figure(id="apart", label="Supports apart", kind="size", start=240.0, bounds=POSITIVE),
            Figure(id="shim", label="Shim", kind="reading"),
        ),
        ways=(
            Way(("shim",), lambda v: {"shim": v["rise"] * v["apart"] / v["over"]}),
            Way(("rise",), lambda v: {"rise": v["shim"] * v["over"] / v["apart"]}),
        ),
        tell=_shim_told, draw=_shim_drawn,
    ),
    Sum(
        id="aim", title="Aim at a vise with its pivot",
        about="where to stop tapping",
        words="vise hinge pivot bolt tap school half full swing square jaw",
        formula="aim = A + (B − A) × (pivot − A’s place)/(B’s place − A’s place)",
        holds="The pivot stays where it is while the other end is tapped.",
        figures=(
            Figure(id="y_a", label="Reading at A", kind="reading", start=0.0),
            Figure(id="y_b", label="Reading at B", kind="reading", start=0.2),
            Figure(id="x_a", label="A’s place along the jaw", kind="size", start=0.0),
            Figure(id="x_b", label="B’s place", kind="size", start=100.0),
            Figure(id="pivot", label="Pivot’s place", kind="size", start=20.0),
            Figure(id="aim", label="Aim at B", kind="reading"),
        ),
        ways=(Way(("aim",), _aim), Way(("pivot",), lambda v: {"pivot": _pivot(v)})), tell=_aim_told, draw=_aim_drawn,
    ),
    Sum(
        id="planes", title="Two planes: lean and offset",
        about="jaws first, then the tap",
        words="long work far end near tilt lean chuck tap two planes axis",
        formula="lean = (far − near)/distance; jaws −(near + lean × way to the jaws); tap −lean × way out",
        holds="The part swings about the jaws when it is tapped.",
        figures=(
            Figure(id="near", label="Near plane off center", kind="reading", start=0.06, bounds=NOT_LESS),
            Figure(id="near_at", label="toward", kind="direction", start=20.0),
            Figure(id="near_z", label="Near plane out", kind="size", start=25.0),
            Figure(id="far", label="Far plane off center", kind="reading", start=0.11, bounds=NOT_LESS),
            Figure(id="far_at", label="toward", kind="direction", start=65.0),
            Figure(id="far_z", label="Far plane out", kind="size", start=125.0),
            Figure(id="jaws_z", label="Jaws at", kind="size", start=-10.0),
            Figure(id="tap_z", label="Tapped at", kind="size", start=120.0),
            Figure(id="move", label="Jaws move it", kind="reading"),
            Figure(id="toward", label="toward", kind="direction"),
            Figure(id="lean", label="Lean", kind="angle"),
            Figure(id="tap", label="Tap moves it", kind="reading"),
            Figure(id="tap_at", label="toward", kind="direction"),
        ),
        ways=(Way(("move", "toward", "lean", "tap", "tap_at"), _planes),), tell=_planes_told, draw=_planes_drawn,
    ),
)  # fmt: skip


def _pivot(v: Values) -> float:
    slope = v["y_b"] - v["y_a"]
    if not slope:
        raise BadInput("field_invalid", "A and B read the same: the jaw is square already.", "Nothing to tap.", "y_b")
    return v["x_a"] + (v["aim"] - v["y_a"]) / slope * (v["x_b"] - v["x_a"])
