"""Jaws, keys, packing, bolt positions and pins."""

from __future__ import annotations

import math

from ..angles import rect
from ..errors import BadInput
from ..fit.packing import centre_after, choose_packing, exact_shims, reach_mm
from ..wording import Text, joined, length, strong, text, turn_words
from .base import Figure, Sum, Values, Way
from .drawing import Anchor, Picture, Sketch
from .kinds import sized
from .runout import NOT_LESS, POSITIVE

FAMILY, RANK = "Jaws, keys, packing", 20
THREE, FOUR = (0.0, 120.0, 240.0), (0.0, 90.0, 180.0, 270.0)


def _jaw(sk: Sketch, deg: float, from_mm: float, wide: float, long: float) -> None:
    """A jaw that touches at ``from_mm`` from the axis."""
    out, across = rect(1, deg), rect(1, deg + 90)
    corners = [
        out * r + across * s * wide / 2
        for r, s in ((from_mm, -1), (from_mm + long, -1), (from_mm + long, 1), (from_mm, 1))
    ]
    sk.line(*((p.real, p.imag) for p in corners), style="holder", closed=True)


def _face(angles: tuple[float, ...], radius: float, at: complex, reach: list[float], words: list[Text]) -> Sketch:
    """Round work at ``at`` in jaws that reach to it."""
    sk = Sketch()
    for number, (deg, r, word) in enumerate(zip(angles, reach, words, strict=True), start=1):
        _jaw(sk, deg, r, radius * 0.45, radius * 0.6)
        away = rect(r + radius * 0.3, deg)
        sk.label(away.real, away.imag, f"{number}")
        out, side = rect(r + radius * 0.65, deg), math.cos(math.radians(deg))
        anchor: Anchor = "middle" if abs(side) < 0.3 else "start" if side > 0 else "end"
        sk.label(out.real, out.imag, word, style="aim", anchor=anchor, dx=6 * side, dy=14 * math.sin(math.radians(deg)))
    sk.circle(at.real, at.imag, radius)
    for x, y in ((radius * 1.2, 0.0), (0.0, radius * 1.2)):
        sk.line((-x, -y), (x, y), style="axis")
    sk.circle(at.real, at.imag, radius * 0.03, "aim")
    return sk


# Opening


def _opening_told(v: Values) -> tuple[Text, ...]:
    if not v["move"]:
        return (text("They stand at its size already."),)
    way = "out" if v["move"] > 0 else "in"
    return (
        text("Each jaw goes ", sized(abs(v["move"])), f" {way}. Set one, count its ring, and set the others alike."),
    )


def _opening_drawn(v: Values) -> Picture:
    r = v["diameter"] / 2
    sk = _face(FOUR, r, 0j, [v["gap"] / 2] * 4, [text()] * 4)
    sk.dim((-v["gap"] / 2, -r * 0.35), (v["gap"] / 2, -r * 0.35), "now ", sized(v["gap"]))
    sk.dim((-r, r * 0.35), (r, r * 0.35), "part ", sized(v["diameter"]), style="aim")
    return sk.done("Four jaws as they stand now, and the part that goes between them.")


# Turn of the key


def _key_told(v: Values) -> tuple[Text, ...]:
    told = text("Turn the key ", strong(turn_words(abs(v["turn"]))), ". Watch the needle: it counts, not the key.")
    return (
        (told,)
        if abs(v["turn"]) >= 1
        else (told, text("That is less than a hand can turn on purpose: lean on it only."))
    )


def _key_drawn(v: Values) -> Picture:
    sk, turn = Sketch(), min(max(v["turn"], -359.0), 359.0)
    sk.circle(0, 0, 20, "holder")
    sk.circle(0, 0, 6)
    for at, style in ((90.0, "axis"), (90.0 - turn, "aim")):
        end = rect(60, at)
        sk.line((0, 0), (end.real, end.imag), style="axis" if style == "axis" else "aim")
    sk.arc(0, 0, 48, 90, 90 - turn, "aim")
    mid = rect(48, 90 - turn / 2)
    sk.label(mid.real, mid.imag, f"{v['turn']:.0f}°", dx=18 if turn < 180 else -18, style="aim")
    return sk.done("A chuck key and how far it is turned.")


# Openings for a throw


def _throw(v: Values) -> dict[str, float]:
    r = v["diameter"] / 2
    if v["throw"] >= r:
        raise BadInput(
            "part_too_small", "A throw of more than the radius does not turn about the part.", "Check both.", "throw"
        )
    at = rect(v["throw"], v["toward"])
    return {f"jaw{n}": reach_mm(at, deg, r, v["width"]) for n, deg in enumerate(FOUR, start=1)}


def _throw_told(v: Values) -> tuple[Text, ...]:
    return (
        text("Opposite jaws differ by up to ", sized(2 * v["throw"]), ", twice the throw: that is the TIR a plunger reads."),
        text("Out of balance: start slow, and take the speed limit from the machine’s manual and the shop’s rules."),
    )  # fmt: skip


def _throw_drawn(v: Values) -> Picture:
    reach = [v[f"jaw{n}"] for n in range(1, 5)]
    sk = _face(FOUR, v["diameter"] / 2, rect(v["throw"], v["toward"]), reach, [text(sized(r)) for r in reach])
    return sk.done("Four jaws and the part off center by the throw.")


# Packing for a throw


def _checked(v: Values) -> None:
    e, r, w = v["throw"], v["diameter"] / 2, v["width"]
    beside = max(0.0, e * math.sin(math.radians(60)) - w / 2)
    if e >= r:
        raise BadInput("part_too_small", "A throw of more than the radius cannot be packed.", "Check both.", "throw")
    if beside >= r / 2:
        raise BadInput(
            "part_too_small", "Two jaws would squeeze the part out: it lies too far beside them.",
            "Less throw, wider jaws, or a four-jaw.", "throw",
        )  # fmt: skip


def _shim_for(v: Values) -> dict[str, float]:
    _checked(v)
    return {"shim": exact_shims(0j, -v["throw"] + 0j, THREE, (0.0,) * 3, v["diameter"] / 2, v["width"])[0]}


def _throw_of(v: Values) -> dict[str, float]:
    if v["shim"] >= 0.9 * v["diameter"]:
        raise BadInput("part_too_small", "Packing as thick as the part itself cannot be held.", "Check both.", "shim")
    at = centre_after(0j, (0.0,) * 3, (v["shim"], 0.0, 0.0), THREE, v["diameter"] / 2, v["width"])
    found = {"throw": abs(at)}
    _checked(v.with_(found))
    return found


def _packing_told(v: Values) -> tuple[Text, ...]:
    return (
        text(
            *("Put ", length(v["shim"]), " under one jaw: the part goes "),
            *(length(v["throw"]), " away from it, ", length(2 * v["throw"]), " TIR."),
        ),
        text(f"That is {v['shim'] / v['throw']:.3f} times the throw.") if v["throw"] else text("Nothing under it, no throw."),
    )  # fmt: skip


def _packing_drawn(v: Values) -> Picture:
    r, e = v["diameter"] / 2, v["throw"]
    at = complex(-e, 0)
    reach = [reach_mm(at, deg, r, v["width"]) for deg in THREE]
    sk = _face(THREE, r, at, reach, [text(), text(), text()])
    sk.line((reach[0], -r * 0.3), (reach[0] + max(v["shim"], r * 0.02), -r * 0.3), (reach[0] + max(v["shim"], r * 0.02), r * 0.3),
            (reach[0], r * 0.3), style="aim", closed=True)  # fmt: skip
    sk.label(reach[0], r * 0.3, "packing ", length(v["shim"]), dy=14, anchor="start", style="aim")
    sk.dim((-e, 0), (0, 0), length(e), style="dim")
    return sk.done("A three-jaw with packing under jaw 1, the part thrown away from it.")


# Packing against runout


def _against(v: Values) -> dict[str, float]:
    now = rect(v["tir"] / 2, v["high"])
    shims = exact_shims(now, 0j, THREE, (0.0,) * 3, v["diameter"] / 2, v["width"])
    return {f"under{n}": s for n, s in enumerate(shims, start=1)}


def _against_told(v: Values) -> tuple[Text, ...]:
    stock = {mm: count for mm, count in v.pieces("drawer") if mm <= v["diameter"]}
    best = choose_packing(rect(v["tir"] / 2, v["high"]), 0j, THREE, (0.0,) * 3, v["diameter"] / 2, v["width"], stock)
    parts: list[Text] = []
    for number, stack in enumerate(best.stacks, start=1):
        if stack:
            parts.append(text(strong(f"jaw {number}: "), joined([length(mm) for mm in stack], " + "), "; "))
    if not parts:
        return (text("No piece in this drawer makes it better."),)
    return (text("From the drawer, under ", *parts, "leaves ", length(2 * abs(best.center)), " TIR."),)


def _against_drawn(v: Values) -> Picture:
    r = v["diameter"] / 2
    at = rect(r * 0.12 if v["tir"] else 0, v["high"])
    reach = [reach_mm(at, deg, r, v["width"]) for deg in THREE]
    words = [text(length(v[f"under{n}"])) for n in (1, 2, 3)]
    sk = _face(THREE, r, at, reach, words)
    high = rect(r * 1.08, v["high"])
    sk.label((at + high).real, (at + high).imag, "high", style="high")
    return sk.done("A three-jaw, the high spot, and what goes under each jaw.", "offset not to scale")


NARROW = Figure(
    id="width",
    label="Width where a jaw touches",
    kind="size",
    start=10.0,
    bounds=NOT_LESS,
    hint="0: an edge. Wide and flat: more than 1.7 throws.",
)
DIAMETER = Figure(id="diameter", label="Diameter", kind="size", start=36.0, bounds=POSITIVE)

SUMS = (
    Sum(
        id="opening", title="Jaw opening", about="how far each jaw goes for a part",
        words="gap four jaw rings rough in chuck set jaws", formula="each jaw = (part − opening now)/2",
        holds="Jaws that stand alike. Set them to the chuck’s rings first.",
        figures=(
            Figure(id="diameter", label="Part, across", kind="size", start=62.0, bounds=POSITIVE),
            Figure(id="gap", label="Opening now, jaw to jaw", kind="size", start=50.0, bounds=POSITIVE),
            Figure(id="move", label="Each jaw out (−: in)", kind="size"),
        ),
        ways=(
            Way(("move",), lambda v: {"move": (v["diameter"] - v["gap"]) / 2}),
            Way(("gap",), lambda v: {"gap": _gap(v)}),
            Way(("diameter",), lambda v: {"diameter": v["gap"] + 2 * v["move"]}, rare=True),
        ),
        tell=_opening_told, draw=_opening_drawn,
    ),
    Sum(
        id="key", title="Turn of the key", about="for a move of a jaw", words="screw lead pitch jaw degrees move how much",
        formula="turn = 360° × move / lead", holds="A screw without play. Going back, take up the lost motion first.",
        figures=(
            Figure(id="move", label="Jaw moves by", kind="reading", start=0.1),
            Figure(id="lead", label="Lead of the screw", kind="size", start=4.0, bounds=POSITIVE),
            Figure(id="turn", label="Key turns by", kind="number", unit="°"),
        ),
        ways=(
            Way(("turn",), lambda v: {"turn": 360 * v["move"] / v["lead"]}),
            Way(("move",), lambda v: {"move": v["turn"] * v["lead"] / 360}),
            Way(("lead",), lambda v: {"lead": _lead(v)}, rare=True),
        ),
        tell=_key_told, draw=_key_drawn,
    ),
    Sum(
        id="throw", title="Jaw openings for a throw", about="an eccentric in four jaws",
        words="eccentric offset cam throw four-jaw openings crank", formula="jaw = c·u + √(R² − max(0, |c×u| − w/2)²)",
        holds="Exact for a rigid part and jaws of that width. Prove it with a plunger: TIR is twice the throw.",
        figures=(
            Figure(id="diameter", label="Diameter", kind="size", start=40.0, bounds=POSITIVE),
            Figure(id="throw", label="Throw", kind="size", start=3.0, bounds=NOT_LESS),
            Figure(id="toward", label="Toward, from jaw 1", kind="direction", start=20.0),
            NARROW.model_copy(update={"start": 40.0}),
            *(Figure(id=f"jaw{n}", label=f"Axis to jaw {n}", kind="size") for n in range(1, 5)),
        ),
        ways=(Way(("jaw1", "jaw2", "jaw3", "jaw4"), _throw),), tell=_throw_told, draw=_throw_drawn,
    ),
    Sum(
        id="packing", title="Packing for a throw", about="three-jaw, one shim",
        words="eccentric shim three jaw scroll throw offset cam packing",
        formula="shim = 1.5 e + √(R² − d²) − R, d = max(0, e sin 60° − w/2)",
        holds="A true scroll and a rigid part; past d = R/2 two jaws squeeze it out.",
        figures=(
            DIAMETER,
            Figure(id="throw", label="Throw", kind="reading", start=2.5, bounds=NOT_LESS),
            NARROW,
            Figure(id="shim", label="Packing under one jaw", kind="reading", bounds=NOT_LESS),
        ),
        ways=(Way(("shim",), _shim_for), Way(("throw",), _throw_of)), tell=_packing_told, draw=_packing_drawn,
    ),
    Sum(
        id="pack_true", title="Packing against runout", about="three-jaw, shims that bring it true",
        words="shim three jaw runout correct packing tir brass paper scroll", formula="under each jaw: surface over it less the lowest",
        holds="A true scroll and a rigid part. Jaw 1 at 0°, counter-clockwise.",
        figures=(
            Figure(id="tir", label="TIR", kind="reading", start=0.14, bounds=NOT_LESS),
            Figure(id="high", label="High spot, from jaw 1", kind="direction", start=25.0),
            DIAMETER, NARROW,
            Figure(id="drawer", label="From the drawer", kind="stock", stock="shims", start="0.025 0.05 0.1"),
            *(Figure(id=f"under{n}", label=f"Under jaw {n}", kind="reading") for n in range(1, 4)),
        ),
        ways=(Way(("under1", "under2", "under3"), _against),), tell=_against_told, draw=_against_drawn,
    ),
)  # fmt: skip


def _gap(v: Values) -> float:
    gap = v["diameter"] - 2 * v["move"]
    if gap <= 0:
        raise BadInput("field_invalid", "The jaws would meet before that.", "Check both.", "move")
    return gap


def _lead(v: Values) -> float:
    if not v["turn"] or v["move"] / v["turn"] <= 0:
        raise BadInput("field_invalid", "Without a turn no lead follows.", "Type a turn above zero.", "turn")
    return 360 * v["move"] / v["turn"]
