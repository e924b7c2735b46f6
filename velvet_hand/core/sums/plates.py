"""Pasted readings of edges and plates."""

from __future__ import annotations

import math

import numpy as np
from scipy.special import stdtrit

from ..errors import BadInput
from ..fit.line import LineFit, fit_line
from ..fit.plane import PlaneFit, fit_plane
from ..wording import Length, Text, length, signed, strong, text
from .base import Figure, Sum, Values, Way
from .drawing import Picture, Sketch
from .kinds import Bounds
from .runout import POSITIVE

FAMILY, RANK = "Plates, flat and parallel", 40
#: Chance of calling a good height bad, shared by all of them.
WILD_CHANCE = 0.01


def _u(v: Values) -> float:
    return v["mark"] / 2 / 12**0.5


# A line


def _line_fit(v: Values) -> LineFit:
    x, h = v.column("read", 0), v.column("read", 1)
    if max(x) - min(x) < 1e-6:
        raise BadInput("field_invalid", "All of them lie at one place.", "Read along the edge.", "read")
    return fit_line(x, h, _u(v))


def _line(v: Values) -> dict[str, float]:
    fit = _line_fit(v)
    return {"rise": fit.slope * fit.span_mm, "straight": fit.zone_mm, "lean": math.degrees(math.atan(fit.slope))}


def _line_told(v: Values) -> tuple[Text, ...]:
    fit = _line_fit(v)
    told = [
        text(
            "The rise is known to ± ",
            length(2 * fit.u_slope * fit.span_mm),
            "; by least squares it is straight to ",
            length(fit.spread_mm),
            ".",
        )
    ]
    told += [_named(v, i, "x") for i in fit.left_out]
    return tuple(told)


def _named(v: Values, index: int, by: str) -> Text:
    row = v.rows("read")[index]
    where = f"{row[0]:g} mm" if by == "x" else f"({row[0]:g}, {row[1]:g}) mm"
    return text(strong(where), " does not belong to the others: ", signed(row[-1]), ". Left out.")


def _line_drawn(v: Values) -> Picture:
    fit, sk = _line_fit(v), Sketch()
    x, h = v.column("read", 0), v.column("read", 1)
    low, wide = min(x), max(x) - min(x)
    k = 40 / max(max(h) - min(h), 1e-6)
    sk.line((-6, 0), (106, 0), style="axis")
    ends = [(100 * (at - low) / wide, k * (fit.at(at) - fit.at(low))) for at in (low, max(x))]
    sk.line(*ends, style="aim")
    for index, (at, height) in enumerate(zip(x, h, strict=True)):
        place = (100 * (at - low) / wide, k * (height - fit.at(low)))
        wild = index in fit.left_out
        sk.circle(*place, 1.4, "high" if wild else "dim")
        sk.label(
            *place,
            Length(mm=height, signed=True, bare=True),
            dy=14 if index % 2 else -16,
            style="high" if wild else "dim",
        )
    return sk.done("Readings along an edge and the line through them.", "heights not to scale")


# A plane


def _wild(v: Values) -> tuple[int, ...]:
    """The one height that does not belong to the plane of the others, if there is one (studentized residual, Bonferroni)."""
    rows = v.rows("read")
    n = len(rows)
    if n < 6:
        return ()
    at = np.array([[1.0, x, y] for x, y, _ in rows])
    z = np.array([h for *_, h in rows])
    free = 1 - np.diag(at @ np.linalg.pinv(at))
    left = z - at @ np.linalg.lstsq(at, z, rcond=None)[0]
    total = float(left @ left)
    rest = np.maximum((total - left**2 / np.maximum(free, 1e-12)) / (n - 4), _u(v) ** 2)
    t = np.abs(left) / np.sqrt(rest * np.maximum(free, 1e-12))
    worst = int(t.argmax())
    return (worst,) if t[worst] > stdtrit(n - 4, 1 - WILD_CHANCE / n / 2) else ()


def _plane_fit(v: Values) -> PlaneFit:
    rows, out = v.rows("read"), _wild(v)
    kept = [r for i, r in enumerate(rows) if i not in out]
    found = fit_plane(tuple((x, y) for x, y, _ in kept), tuple(h for *_, h in kept), _u(v))
    if found is None:
        raise BadInput(
            "field_invalid", "All of them lie on one line.", "A plane takes three places that do not.", "read"
        )
    return found


def _flatness(fit: PlaneFit, heights: list[float]) -> dict[str, float]:
    """Parallel, flat, and the rise each way over 100 mm."""
    return {"parallel": max(heights) - min(heights), "flat": fit.zone_mm, "in_x": 100 * fit.a, "in_y": 100 * fit.b}


def _plane(v: Values) -> dict[str, float]:
    out = _wild(v)
    return _flatness(_plane_fit(v), [h for i, (*_, h) in enumerate(v.rows("read")) if i not in out])


def _plane_told(v: Values) -> tuple[Text, ...]:
    fit = _plane_fit(v)
    steep = math.degrees(math.atan2(fit.b, fit.a)) % 360
    told = [
        text(
            "Highest toward ",
            strong(f"{steep:.0f}°"),
            " (0° is x). By least squares it is flat to ",
            length(fit.spread_mm),
            ".",
        ),
        text("Parallel is judged against what it stands on, flat against the closest two planes."),
    ]
    return (*told, *(_named(v, i, "xy") for i in _wild(v)))


def _heights_drawn(spots: list[tuple[float, float, float]], wild: tuple[int, ...]) -> Picture:
    sk = Sketch()
    xs, ys = [s[0] for s in spots], [s[1] for s in spots]
    wide, deep = max(max(xs) - min(xs), 1e-6), max(max(ys) - min(ys), 1e-6)
    k = 100 / max(wide, deep)
    sk.box(-8, -8, wide * k + 16, deep * k + 16, "part")
    heights = [h for i, (*_, h) in enumerate(spots) if i not in wild]
    low, span = min(heights), max(max(heights) - min(heights), 1e-9)
    for index, (x, y, h) in enumerate(spots):
        at = ((x - min(xs)) * k, (y - min(ys)) * k)
        bad = index in wild
        sk.circle(*at, 1.0 + 2.2 * min(max((h - low) / span, 0), 1), "high" if bad else "aim")
        if len(spots) <= 30:
            sk.label(*at, Length(mm=h, signed=True, bare=True), dy=-17, style="high" if bad else "edge")
    return sk.done("Heights from above; the larger the spot, the higher.", "")


def _plane_drawn(v: Values) -> Picture:
    return _heights_drawn([(x, y, h) for x, y, h in v.rows("read")], _wild(v))


# A grid


def _grid_spots(v: Values) -> list[tuple[float, float, float]]:
    rows = v.rows("read")
    if len({len(r) for r in rows}) > 1:
        raise BadInput("field_invalid", "The lines are not of one length.", "A grid has as many in each.", "read")
    if len(rows[0]) < 2:
        raise BadInput("field_invalid", "A grid has two columns at least.", "Spaces or tabs between them.", "read")
    return [
        (c * v["step_x"], (len(rows) - 1 - r) * v["step_y"], h) for r, row in enumerate(rows) for c, h in enumerate(row)
    ]


def _grid_fit(v: Values) -> PlaneFit:
    spots = _grid_spots(v)
    found = fit_plane(tuple((x, y) for x, y, _ in spots), tuple(h for *_, h in spots), _u(v))
    if found is None:
        raise BadInput(
            "field_invalid", "These places lie on one line.", "Columns and rows stand farther apart.", "step_x"
        )
    return found


def _grid(v: Values) -> dict[str, float]:
    return _flatness(_grid_fit(v), [h for *_, h in _grid_spots(v)])


def _grid_told(v: Values) -> tuple[Text, ...]:
    spots = _grid_spots(v)
    high, low = max(spots, key=lambda s: s[2]), min(spots, key=lambda s: s[2])
    return (
        text(
            "Highest at ",
            strong(f"({high[0]:g}, {high[1]:g}) mm"),
            ", lowest at ",
            strong(f"({low[0]:g}, {low[1]:g}) mm"),
            " from the front left.",
        ),
    )


def _grid_drawn(v: Values) -> Picture:
    return _heights_drawn(_grid_spots(v), ())


MARK = Figure(id="mark", label="One graduation", kind="reading", start=0.001, bounds=POSITIVE)
FLATNESS = (
    Figure(id="parallel", label="Parallel to", kind="reading"),
    Figure(id="flat", label="Flat to", kind="reading"),
    Figure(id="in_x", label="Rise in x over 100 mm", kind="reading"),
    Figure(id="in_y", label="Rise in y over 100 mm", kind="reading"),
)

SUMS = (
    Sum(
        id="line", title="Line through readings",
        about="rise, straightness, wild readings named",
        words="paste straight edge slope least squares minimum zone outlier jaw",
        formula="least squares; straightness as the least zone of two lines", holds="Two places at least; five name a wild one.",
        figures=(
            Figure(id="read", label="Place and reading, one spot to a line", kind="rows", columns=("size", "reading"), least_rows=2,
                start="0 0\n50 0.21\n100 0.41\n150 0.63"),
            MARK,
            Figure(id="rise", label="Rise over all", kind="reading"),
            Figure(id="straight", label="Straight to", kind="reading"),
            Figure(id="lean", label="Lean", kind="angle"),
        ),
        ways=(Way(("rise", "straight", "lean"), _line),), tell=_line_told, draw=_line_drawn,
    ),
    Sum(
        id="plane", title="Plane through readings",
        about="flat, parallel, wild readings named",
        words="paste flatness parallelism surface plate least squares minimum zone outlier x y",
        formula="z = c + a x + b y; flatness as the least zone of two planes", holds="Three places at least; six name a wild one.",
        figures=(
            Figure(
                id="read", label="x, y and reading, one spot to a line", kind="rows", columns=("size", "size", "reading"), least_rows=3,
                start="0 0 0\n100 0 0.020\n100 80 0.052\n0 80 0.034\n50 40 0.025",
            ),
            MARK, *FLATNESS,
        ),
        ways=(Way(("parallel", "flat", "in_x", "in_y"), _plane),), tell=_plane_told, draw=_plane_drawn,
    ),
    Sum(
        id="grid", title="Grid of readings",
        about="flatness and parallelism of a pasted grid",
        words="paste flatness parallelism spreadsheet table surface plate grid",
        formula="as the plane through readings, the back row first",
        holds="Read against the plate it stands on; its own flatness comes on top.",
        figures=(
            Figure(id="read", label="Readings, the back row first", kind="rows", columns=("reading",), least_rows=2,
                start="0.012 0.010 0.011\n0.006 0.004 0.007\n0 0.002 0.003"),
            Figure(id="step_x", label="Between columns", kind="size", start=50.0, bounds=POSITIVE),
            Figure(id="step_y", label="Between rows", kind="size", start=50.0, bounds=POSITIVE),
            MARK.model_copy(update={"bounds": Bounds(least=0.0, open_least=True)}), *FLATNESS,
        ),
        ways=(Way(("parallel", "flat", "in_x", "in_y"), _grid),), tell=_grid_told, draw=_grid_drawn,
    ),
)  # fmt: skip
