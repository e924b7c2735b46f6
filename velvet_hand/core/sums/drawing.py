"""The picture of a sum: a few shapes in the sum's own measure, fitted into a frame when it is done."""

from __future__ import annotations

import math
from typing import Annotated, Literal

from pydantic import Field

from ..model import Model
from ..wording import Bit, Text, plain, text

#: The frame that every picture is fitted into, and what is left free around it for words.
WIDE, HIGH, ROOM = 640.0, 470.0, 60.0
#: Words stay so far from the frame's edge; so wide is a letter, and so long half a tick.
MARGIN, LETTER, TICK = 10.0, 9.6, 6.0
Style = Literal["part", "holder", "ghost", "axis", "edge", "aim", "dim", "high", "ground"]
Anchor = Literal["start", "middle", "end"]


class PictureLine(Model):
    """A line through points, x and y in turn; ``closed`` ones are filled."""

    shape: Literal["line"] = "line"
    points: tuple[float, ...]
    style: Style
    closed: bool = False


class PictureCircle(Model):
    """A circle."""

    shape: Literal["circle"] = "circle"
    x: float
    y: float
    r: float
    style: Style


class PictureLabel(Model):
    """Words at a place; lengths in them follow the unit of the screen."""

    shape: Literal["label"] = "label"
    x: float
    y: float
    what: Text
    anchor: Anchor = "middle"
    style: Style = "edge"


Shape = Annotated[PictureLine | PictureCircle | PictureLabel, Field(discriminator="shape")]


class Picture(Model):
    """A picture in its frame, y downwards; ``about`` says it in words, ``scale`` how much larger an error is drawn."""

    wide: float = WIDE
    high: float = HIGH
    shapes: tuple[Shape, ...]
    about: str
    scale: str = ""


class Sketch:
    """Draws in any measure, y upwards; ``letter`` is how wide one is in the frame."""

    def __init__(self, letter: float = LETTER) -> None:
        self._letter = letter
        self._lines: list[tuple[list[tuple[float, float]], Style, bool]] = []
        self._dims: list[tuple[tuple[float, float], tuple[float, float], Style]] = []
        self._circles: list[tuple[float, float, float, Style]] = []
        self._labels: list[tuple[float, float, Text, Anchor, Style, float, float]] = []

    def line(self, *points: tuple[float, float], style: Style = "edge", closed: bool = False) -> None:
        """A line, or a filled outline."""
        self._lines.append((list(points), style, closed))

    def box(self, x: float, y: float, wide: float, high: float, style: Style = "part", turn_deg: float = 0.0) -> None:
        """A rectangle from its lower left corner, turned about it."""
        c, s = math.cos(math.radians(turn_deg)), math.sin(math.radians(turn_deg))
        corners = [(0.0, 0.0), (wide, 0.0), (wide, high), (0.0, high)]
        self._lines.append(([(x + a * c - b * s, y + a * s + b * c) for a, b in corners], style, True))

    def circle(self, x: float, y: float, r: float, style: Style = "part") -> None:
        """A circle."""
        self._circles.append((x, y, r, style))

    def arc(self, x: float, y: float, r: float, start_deg: float, end_deg: float, style: Style = "dim") -> None:
        """A part of a circle."""
        turns = [math.radians(start_deg + (end_deg - start_deg) * i / 24) for i in range(25)]
        self._lines.append(([(x + r * math.cos(t), y + r * math.sin(t)) for t in turns], style, False))

    def label(
        self, x: float, y: float, *what: Bit, anchor: Anchor = "middle", style: Style = "edge", dx: float = 0.0, dy: float = 0.0
    ) -> None:  # fmt: skip
        """Words at a place, ``dx`` and ``dy`` away from it in the frame (up is plus)."""
        self._labels.append((x, y, text(*what), anchor, style, dx, dy))

    def dim(self, start: tuple[float, float], end: tuple[float, float], *what: Bit, style: Style = "dim") -> None:
        """A measure between two places, its words at the middle, to the left of the way from start to end."""
        self._dims.append((start, end, style))
        across = math.atan2(end[1] - start[1], end[0] - start[0]) + math.pi / 2
        away = (16 * math.cos(across), 16 * math.sin(across))
        anchor: Anchor = "middle" if abs(away[0]) < 8 else "start" if away[0] > 0 else "end"
        middle = ((start[0] + end[0]) / 2, (start[1] + end[1]) / 2)
        self._labels.append((*middle, text(*what), anchor, style, *away))

    def _spots(self) -> list[tuple[float, float]]:
        """Every place that has to be in the frame."""
        found = [p for points, _, _ in self._lines for p in points] + [p for dim in self._dims for p in dim[:2]]
        found += [(x + s * r, y + s * r) for x, y, r, _ in self._circles for s in (-1, 1)]
        return found + [(x, y) for x, y, *_ in self._labels]

    def _room(self, k: float, x0: float) -> tuple[float, float]:
        """How far words reach out of the frame at the left and at the right."""
        left = right = 0.0
        for x, _, what, anchor, _, dx, _ in self._labels:
            wide = self._letter * len(plain(what, "mm", 0.0001))
            start = WIDE / 2 + k * (x - x0) + dx - {"start": 0.0, "middle": wide / 2, "end": wide}[anchor]
            left, right = max(left, MARGIN - start), max(right, start + wide - (WIDE - MARGIN))
        return left, right

    def done(self, about: str, scale: str = "") -> Picture:
        """The picture, fitted into its frame, its words too."""
        xs, ys = zip(*self._spots(), strict=True)
        wide, high = max(max(xs) - min(xs), 1e-9), max(max(ys) - min(ys), 1e-9)
        y0 = (max(ys) + min(ys)) / 2
        low, top = ROOM, WIDE - ROOM
        for _ in range(3):  # words do not shrink with the picture: what they need is taken from it
            k = min((top - low) / wide, (HIGH - 2 * ROOM) / high)
            x0 = (max(xs) + min(xs)) / 2 - ((top + low) / 2 - WIDE / 2) / k
            left, right = self._room(k, x0)
            low, top = low + left, top - right

        def at(x: float, y: float) -> tuple[float, float]:
            return round(WIDE / 2 + k * (x - x0), 2), round(HIGH / 2 - k * (y - y0), 2)

        for start, end, style in self._dims:
            across = math.atan2(end[1] - start[1], end[0] - start[0]) + math.pi / 2
            dx, dy = TICK / k * math.cos(across), TICK / k * math.sin(across)
            self._lines.append(([start, end], style, False))
            self._lines += [([(x - dx, y - dy), (x + dx, y + dy)], style, False) for x, y in (start, end)]
        shapes: list[PictureLine | PictureCircle | PictureLabel] = [
            PictureLine(points=tuple(c for p in points for c in at(*p)), style=style, closed=closed)
            for points, style, closed in self._lines
            if closed
        ]
        shapes += [
            PictureCircle(x=at(x, y)[0], y=at(x, y)[1], r=round(k * r, 2), style=s) for x, y, r, s in self._circles
        ]
        shapes += [
            PictureLine(points=tuple(c for p in ps for c in at(*p)), style=s)
            for ps, s, closed in self._lines
            if not closed
        ]
        for x, y, what, anchor, style, dx, dy in self._labels:
            px, py = at(x, y)
            shapes.append(PictureLabel(x=px + dx, y=py - dy, what=what, anchor=anchor, style=style))
        return Picture(shapes=tuple(shapes), about=about, scale=scale)
