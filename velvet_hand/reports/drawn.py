"""The picture on a paper: from the numbers, in black and white."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from xml.sax.saxutils import escape

from velvet_hand.core.setup.state import State
from velvet_hand.core.sums.drawing import Picture, PictureCircle, PictureLabel, Sketch, Style
from velvet_hand.core.told import Row
from velvet_hand.core.units import Unit
from velvet_hand.core.wording import Length, length, plain

#: Stroke, width and fill of each style on paper.
INK: dict[Style, tuple[str, float, str]] = {
    "part": ("#000", 1.4, "#fff"),
    "holder": ("#000", 1.0, "#ddd"),
    "ghost": ("#666", 1.0, "none"),
    "axis": ("#666", 0.8, "none"),
    "edge": ("#000", 1.6, "none"),
    "aim": ("#000", 2.2, "none"),
    "dim": ("#333", 1.0, "none"),
    "high": ("#000", 2.2, "#000"),
    "ground": ("#000", 2.4, "none"),
}
#: Size of the letters in a picture of 640 by 470, and about how wide one is.
FONT, LETTER = 24, 13.5
DASHES: dict[str, str] = {"ghost": "5 4", "axis": "10 4 2 4"}


@dataclass(frozen=True, slots=True)
class Drawn:
    """A picture and what it shows."""

    picture: Picture

    @property
    def about(self) -> str:
        """What it shows, in words."""
        return self.picture.about

    def svg(self, unit: Unit, resolution_mm: float) -> str:
        """As SVG, without styles or scripts."""
        wide, high = self.picture.wide, self.picture.high
        found = [f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {wide:g} {high:g}" role="img">']
        for shape in self.picture.shapes:
            stroke, width, fill = INK[shape.style]
            ink = f'stroke="{stroke}" stroke-width="{width}" stroke-linejoin="round"'
            if shape.style in DASHES:
                ink += f' stroke-dasharray="{DASHES[shape.style]}"'
            if isinstance(shape, PictureLabel):
                words = escape(plain(shape.what, unit, resolution_mm))
                found.append(
                    f'<text x="{shape.x:g}" y="{shape.y + 8:g}" text-anchor="{shape.anchor}" font-size="{FONT}">{words}</text>'
                )
            elif isinstance(shape, PictureCircle):
                found.append(f'<circle cx="{shape.x:g}" cy="{shape.y:g}" r="{shape.r:g}" fill="{fill}" {ink}/>')
            else:
                kind, inside = ("polygon", fill) if shape.closed else ("polyline", "none")
                points = " ".join(f"{p:g}" for p in shape.points)
                found.append(f'<{kind} points="{points}" fill="{inside}" {ink}/>')
        return "".join([*found, "</svg>"])


def picture_of(state: State, rows: Sequence[Row]) -> Drawn | None:
    """Where the center went from pass to pass where there is one; else the value of each pass against the limit; None without a pass."""
    track = [(r.number, r.track_x_mm, r.track_y_mm) for r in rows]
    spots = [(n, x, y) for n, x, y in track if x is not None and y is not None]
    if spots:
        return Drawn(_track(state, spots))
    values = [(r.number, r.main.mm) for r in rows if r.main is not None]
    return Drawn(_chart(state, values)) if values else None


def _track(state: State, spots: Sequence[tuple[int, float, float]]) -> Picture:
    radius = state.plan.limit.off_centre_mm
    sk = Sketch(LETTER)
    far = max(max(abs(x), abs(y)) for _, x, y in spots)
    shown = [s for s in spots if max(abs(s[1]), abs(s[2])) <= 12 * radius] if far > 12 * radius else list(spots)
    reach = 1.15 * max([radius, *(max(abs(x), abs(y)) for _, x, y in shown)])
    sk.line((-reach, 0), (reach, 0), style="axis")
    sk.line((0, -reach), (0, reach), style="axis")
    sk.circle(0, 0, radius, "ghost")
    sk.label(0, -radius, "limit", dy=-16)
    if len(shown) > 1:
        sk.line(*((x, y) for _, x, y in shown), style="dim")
    for number, x, y in shown:
        sk.circle(x, y, reach * 0.018, "high")
        sk.label(x, y, f"{number}", dx=14, dy=14, anchor="start")
    left = "" if len(shown) == len(spots) else ", the first ones far outside of it left out"
    return sk.done(f"Where the center stood in each pass, and the limit{left}.")


def _chart(state: State, values: Sequence[tuple[int, float]]) -> Picture:
    limit = state.plan.limit.mm
    top = max([abs(v) for _, v in values] + [limit])
    sk = Sketch(LETTER)
    sk.line((0, 0), (100, 0), style="edge")
    sk.line((0, 60 * limit / top), (100, 60 * limit / top), style="ghost")
    sk.label(100, 60 * limit / top, "limit ", length(limit), dx=6, anchor="start")
    step = 100 / (len(values) + 1)
    for index, (number, value) in enumerate(values, start=1):
        high = 60 * abs(value) / top
        sk.box(step * index - 3, 0, 6, max(high, 0.3), "holder")
        sk.label(step * index, 0, f"{number}", dy=-20)
        sk.label(step * index, high, Length(mm=value, bare=True), dy=16)
    return sk.done("What each pass found, and the limit.")
