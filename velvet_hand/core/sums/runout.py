"""Round parts and the needle that reads them."""

from __future__ import annotations

import math
from fractions import Fraction

from ..angles import rect
from ..errors import BadInput
from ..fields import Choice
from ..fit.circle import CircleFit, fit_circle
from ..gauge import Gauge
from ..wording import Text, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds, sized

FAMILY, RANK = "Runout, round parts", 10
POSITIVE = Bounds(least=0.0, open_least=True)
NOT_LESS = Bounds(least=0.0)


def off_centre(sk: Sketch, off: complex, radius: float = 40.0) -> None:
    """A round part off its axis, the offset drawn as it is given."""
    sk.circle(off.real, off.imag, radius)
    for x, y in ((radius * 1.25, 0.0), (0.0, radius * 1.25)):
        sk.line((-x, -y), (x, y), style="axis")
    sk.circle(0, 0, 1.2, "dim")
    sk.circle(off.real, off.imag, 1.2, "aim")


# TIR and off center


def _tir_told(v: Values) -> tuple[Text, ...]:
    return (
        text("Bring the center ", length(v["off"]), " away from the high spot: a jaw moves by that, not by the TIR."),
        text("Over two opposite jaws the readings differ by ", length(v["tir"]), "; both have to show their mean."),
    )


def _tir_drawn(v: Values) -> Picture:
    sk = Sketch()
    off_centre(sk, 12 + 0j)
    sk.line((52, -5), (52, 5), style="high")
    sk.label(52, 0, "high", anchor="start", style="high", dx=8)
    sk.label(-28, 0, "low", style="high", anchor="end", dx=-16)
    sk.dim((0, 0), (12, 0), length(v["off"]), style="aim")
    return sk.done("A round part off the spindle’s axis toward its high spot.", "not to scale")


# Stylus angle


def _lever(v: Values) -> float:
    gauge = Gauge(id="any", name="Lever", kind="lever", graduation_mm=0.001, travel_mm=1)
    return gauge.true_part(v["stylus"], v["swing"])


def _stylus_told(v: Values) -> tuple[Text, ...]:
    much = 100 * (1 / _lever(v) - 1)
    told = text(f"The dial shows {much:.1f} % too much. ", strong("Times "), strong(f"{_lever(v):.3f}"), ".")
    steep = v["stylus"] > 20
    return (told, text("Lay the stylus flatter: below 15° it is less than 3.5 %.")) if steep else (told,)


def _stylus_drawn(v: Values) -> Picture:
    sk, a = Sketch(), v["stylus"]
    sk.box(-60, -14, 160, 14, "holder")
    tip = rect(70, a)
    sk.line((0, 3), (tip.real, 3 + tip.imag), style="aim")
    sk.circle(0, 3, 3, "aim")
    sk.circle(tip.real, 3 + tip.imag, 9, "part")
    sk.line((0, 3), (80, 3), style="axis")
    sk.arc(0, 3, 45, 0, max(a, 0.5))
    sk.label(45, 3 + 45 * math.tan(math.radians(a / 2)), f"{a:.0f}°", anchor="start", dx=10)
    return sk.done(f"A lever’s stylus at {a:.0f}° to the surface.")


# A dial's dropped hundreds


def _dial(v: Values) -> dict[str, float]:
    turn = v["turn"]
    whole = round(v["counter"] - v["hand"] / turn)
    return {"value": whole * turn + v["hand"]}


def _dial_told(v: Values) -> tuple[Text, ...]:
    turn, hand = v["turn"], v["hand"]
    off = v["counter"] - v["value"] / turn
    told = [text("Whole turns: ", strong(f"{round((v['value'] - hand) / turn)}"), ".")]
    if abs(off) > 0.25:
        told.append(
            text(f"The small hand stands {abs(off):.2f} of a turn from where it should: near a half nobody can say.")
        )
    return tuple(told)


def _dial_drawn(v: Values) -> Picture:
    sk = Sketch()
    sk.circle(0, 0, 50, "holder")
    for i in range(20):
        a = math.radians(18 * i)
        sk.line((44 * math.sin(a), 44 * math.cos(a)), (50 * math.sin(a), 50 * math.cos(a)))
    part = v["hand"] / v["turn"] * 2 * math.pi
    sk.line((0, 0), (40 * math.sin(part), 40 * math.cos(part)), style="aim")
    sk.circle(0, -24, 10, "part")
    small = v["counter"] / 10 * 2 * math.pi
    sk.line((0, -24), (8 * math.sin(small), -24 + 8 * math.cos(small)), style="high")
    sk.label(0, 50, signed(v["value"]), dy=16, style="aim")
    return sk.done("A dial with its long hand and the small one that counts the turns.")


# One length in every unit


def _inch_told(v: Values) -> tuple[Text, ...]:
    nearest = Fraction(round(v["mm"] / 25.4 * 64), 64)
    off = v["mm"] - float(nearest) * 25.4
    whole, part = divmod(abs(nearest), 1)
    words = " ".join(str(p) for p in (whole if whole or not part else "", part if part else "") if p != "")
    return (text("Nearest 64th: ", strong(f"{'−' * (nearest < 0)}{words} in"), ", off by ", signed(off), "."),)


def _inch_drawn(v: Values) -> Picture:
    sk, wide = Sketch(), 100.0
    sk.box(0, 0, wide, 18, "part")
    for i in range(11):
        sk.line((10.0 * i, 18), (10.0 * i, 10 if i % 5 else 5))
    sk.dim((0, 26), (wide, 26), sized(v["mm"]))
    return sk.done("A length, in every unit.")


def _units() -> tuple[Way, ...]:
    per = {"mm": 1.0, "um": 0.001, "inch": 25.4, "thou": 0.0254, "tenth": 0.00254}

    def of(name: str) -> Way:
        others = tuple(n for n in per if n != name)
        return Way(others, lambda v: {n: v[name] * per[name] / per[n] for n in others})

    return tuple(of(name) for name in per)


# A circle through readings


def _circle(v: Values) -> dict[str, float]:
    fit = _fit(v)
    sign = 1 if v.chosen("surface") == "outside" else -1
    high = fit.toward_deg if sign > 0 else (fit.toward_deg + 180) % 360
    return {"off": fit.offset_mm, "tir": 2 * fit.offset_mm, "high": high}


def _fit(v: Values) -> CircleFit:
    rows = v.rows("read")
    if len({round(row[0] % 360, 3) for row in rows}) < 3:
        raise BadInput("field_invalid", "A circle takes three different angles.", "Read at more places.", "read")
    radius, sign = v["diameter"] / 2, 1 if v.chosen("surface") == "outside" else -1
    return fit_circle(v.column("read", 0), v.column("read", 1), radius, sign, v["mark"] / 2 / 12**0.5)


def _circle_told(v: Values) -> tuple[Text, ...]:
    fit = _fit(v)
    told = [text("Known to ± ", length(2 * 2 * fit.u_mm), " TIR. Left over: ", length(fit.form_mm), " form.")]
    for index in fit.left_out:
        angle, reading = v.rows("read")[index]
        told.append(text(strong(f"{angle:.0f}°"), " does not belong to the circle: ", signed(reading), ". Left out."))
    if fit.suspicious and not fit.left_out:
        told.append(text("One of them may be wild, and four cannot say which. Read more places."))
    return tuple(told)


def _circle_drawn(v: Values) -> Picture:
    fit, rows = _fit(v), v.rows("read")
    span = max(max(abs(r) for _, r in rows), fit.offset_mm, 1e-6)
    k = 14 / span
    sk = Sketch()
    off_centre(sk, complex(fit.x_mm, fit.y_mm) * k)
    for index, (angle, reading) in enumerate(rows):
        at = rect(40 + k * (reading - fit.mean_mm), angle)
        wild = index in fit.left_out
        sk.circle(at.real, at.imag, 1.6, "high" if wild else "aim")
        out = rect(62, angle)
        sk.label(out.real, out.imag, f"{angle:.0f}°{' ×' if wild else ''}", style="high" if wild else "dim")
    return sk.done(
        "Readings round a part, the circle through them and its center.",
        f"errors {40 / (v['diameter'] / 2) * k:.0f} times as large as the part",
    )


OUTSIDE = (Choice(id="outside", word="outside"), Choice(id="bore", word="bore"))

SUMS = (
    Sum(
        id="tir", title="TIR and off center", about="twice, or half",
        words="runout eccentricity concentric concentricity swing total indicator reading fim",
        formula="TIR = 2 × off center", holds="Exact for round parts at any offset. Form, and a stylus off the center height, come on top.",
        figures=(
            Figure(id="tir", label="TIR, highest minus lowest of a turn", kind="reading", start=0.1, bounds=NOT_LESS),
            Figure(id="off", label="Off center", kind="reading", bounds=NOT_LESS),
        ),
        ways=(
            Way(("off",), lambda v: {"off": v["tir"] / 2}),
            Way(("tir",), lambda v: {"tir": 2 * v["off"]}),
        ),
        tell=_tir_told, draw=_tir_drawn,
    ),
    Sum(
        id="circle", title="Circle through readings", about="off center, high spot, wild readings named",
        words="paste fit least squares high spot runout outlier wild eccentric lobes form ovality",
        formula="r = r0 + e cos p + √(R² − e² sin² p) − R, least squares; wild ones by studentized residuals",
        holds="Three places at least; five name one wild reading, seven two. Angles counter-clockwise, plus toward the indicator.",
        figures=(
            Figure(
                id="read", label="Angle and reading, one spot to a line", kind="rows", columns=("direction", "reading"), least_rows=3,
                start="0 0.021\n60 0.034\n120 0.012\n180 -0.022\n240 -0.033\n300 -0.012",
            ),
            Figure(id="diameter", label="Diameter", kind="size", start=40.0, bounds=POSITIVE),
            Figure(id="surface", label="Read on", kind="choice", start="outside", choices=OUTSIDE),
            Figure(id="mark", label="One graduation", kind="reading", start=0.002, bounds=POSITIVE),
            Figure(id="off", label="Off center", kind="reading"),
            Figure(id="tir", label="TIR of the circle", kind="reading"),
            Figure(id="high", label="High spot at", kind="direction"),
        ),
        ways=(Way(("off", "tir", "high"), _circle),), tell=_circle_told, draw=_circle_drawn,
    ),
    Sum(
        id="stylus", title="Stylus at an angle", about="cosine, what to take off",
        words="lever test indicator cosine error angle swing dti true",
        formula="true = reading × cos(stylus) × cos(swing)", holds="Small movements; a ball tip. Past 20° set it again instead.",
        figures=(
            Figure(id="reading", label="The dial shows", kind="reading", start=0.12),
            Figure(id="stylus", label="Stylus to the surface", kind="angle", start=25.0, bounds=Bounds(least=0, most=75)),
            Figure(id="swing", label="Swing off the way it moves", kind="angle", start=0.0, bounds=Bounds(least=0, most=75)),
            Figure(id="true", label="True movement", kind="reading"),
        ),
        ways=(
            Way(("true",), lambda v: {"true": v["reading"] * _lever(v)}),
            Way(("reading",), lambda v: {"reading": v["true"] / _lever(v)}),
        ),
        tell=_stylus_told, draw=_stylus_drawn,
    ),
    Sum(
        id="dial", title="Dropped hundreds of a dial", about="turns from the small hand",
        words="revolution counter turns tell-tale small hand hundred lost",
        formula="value = n × turn + hand, n = round(small hand − hand/turn)",
        holds="While the small hand stands less than half a turn off.",
        figures=(
            Figure(id="turn", label="Travel of one turn", kind="reading", start=1.0, bounds=POSITIVE),
            Figure(id="hand", label="Long hand", kind="reading", start=0.96),
            Figure(id="counter", label="Small hand", kind="number", start=3.05, unit="turns"),
            Figure(id="value", label="Reading", kind="reading"),
        ),
        ways=(Way(("value",), _dial),), tell=_dial_told, draw=_dial_drawn,
    ),
    Sum(
        id="units", title="Tenths, thou, mm, µm", about="one length in every unit",
        words="convert inch metric micron micrometer conversion fraction decimal 64th tenth thousandth",
        formula="1 in = 25.4 mm; 1 thou = 0.001 in; 1 tenth = 0.0001 in", holds="Exact, since 1959.",
        figures=(
            Figure(id="mm", label="Millimeters", kind="number", start=1.5, unit="mm"),
            Figure(id="um", label="Micrometers", kind="number", unit="µm"),
            Figure(id="inch", label="Inches", kind="number", unit="in"),
            Figure(id="thou", label="Thou", kind="number", unit="thou"),
            Figure(id="tenth", label="Tenths", kind="number", unit="tenths"),
        ),
        ways=_units(), tell=_inch_told, draw=_inch_drawn,
    ),
)  # fmt: skip
