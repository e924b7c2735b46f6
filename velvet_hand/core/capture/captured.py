"""What was captured: what the needle would have read at each spot, what is left out, and how sure it is."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import Literal

import numpy as np

from ..model import Model
from .stream import Array, Pieces, Tidy
from .warp import Mark, Settled, Shape, settle

#: How far a ground surface is from round or straight by its second order, at least (mm; graduations), and what is left over beside that.
FORM_MM, FORM_MARKS, REST = 0.002, 2.0, 2.0
#: Rougher than expected by so much: it is settled again with what it is.
ROUGHER = 1.25
#: A circle off its middle is no cosine, as soon as it shows this part of the form besides one.
BENDS = 0.25
#: So much too sure is the model (``./velvet bench capture``): with marks; by the signal alone; run along and back.
MARKED, UNMARKED, BACK = 1.1, 1.5, 1.15
#: Pieces of time for a turn or a way, and at most.
PIECES, MOST_PIECES = 110, 260
#: A spot is sure when its reading is known to so much (95 %): graduations, part of the limit, part of the TIR; for a proof.
SURE_MARKS, SURE_LIMIT, SURE_TIR = 2.0, 0.25, 0.15
PROOF_MARKS, PROOF_LIMIT = 1.0, 0.12


class Spot(Model):
    """What the needle reads at a ``place`` (degrees from the first spot the way it was turned, or mm from it): its standard uncertainty
    is ``u_mm``.
    """

    place: float
    mm: float
    u_mm: float


class LeftOut(Model):
    """A nick that was run over, or a silence: from where, and how wide (degrees or mm)."""

    kind: Literal["nick", "silence"]
    at: float
    wide: float


class Wave(Model):
    """Waves of an order: amplitude, mm."""

    order: int
    mm: float


class Captured(Model):
    """What was captured.

    ``spots`` are in the order asked, the first read again at the end is ``closing_mm`` (None: it did not come back there). ``once_mm`` is
    the eccentricity, ``high`` where it stands highest (degrees from the first spot), both with standard uncertainties; of a line
    ``once_mm`` is its rise over what was read, and ``high`` which end is higher (mm). ``turns`` is how often round (of a line: 1 there,
    2 there and back), ``counted`` whether that is plain, ``marked`` whether marks told where it was. ``sure``: well enough known to go
    on with.
    """

    spots: tuple[Spot, ...]
    closing_mm: float | None
    tir_mm: float
    tir_u_mm: float
    once_mm: float
    once_u_mm: float
    high: float
    high_u: float
    drift_mm: float
    form: tuple[Wave, ...]
    left_out: tuple[LeftOut, ...]
    turns: int
    counted: bool
    marked: bool
    sure: bool


@dataclass(frozen=True, slots=True)
class Wanted:
    """What has to be known: the graduation, the limit it is held against (mm), and whether it is to prove that; of a circle its radius as
    the needle shows it (``shapes.Waves``).
    """

    graduation_mm: float
    limit_mm: float
    proof: bool = False
    radius_mm: float = math.inf

    @property
    def form_mm(self) -> float:
        """How far from round or straight it may well be."""
        return max(FORM_MM, FORM_MARKS * self.graduation_mm)


@dataclass(frozen=True, slots=True, eq=False)
class Course:
    """A stream settled: its pieces, one time round or along (``way``), the shape that it was settled with, and what came of it."""

    found: Tidy
    pieces: Pieces
    way: float
    shape: Shape
    settled: Settled
    cov: Array
    walked_mm: float | None
    marked: bool

    def told(self, spots: Sequence[float], graduation_mm: float, waves: Sequence[float]) -> Captured:
        """What the needle reads at these places; ``waves`` are the amplitudes from the second order on."""
        place = np.asarray(spots, float)
        terms, walked = self.shape.at(place)[0], self.walked_mm or 0.0
        # what walked is told as if the spots had been read one after the other, evenly: so it is taken out again
        values = self._height(place, terms) + walked * place / self.way
        values[place == 0.0] = self.found.stood_mm[0]  # it stood there
        each = np.sqrt(np.maximum(np.einsum("ij,jk,ik->i", terms, self.cov, terms), 0.0))
        least = self.together(terms)
        whole = np.linspace(0, self.way, 361)
        curve = self.shape.at(whole)[0]
        height = self._height(whole, curve)
        ends = curve[int(height.argmax())] - curve[int(height.argmin())]
        return Captured(
            spots=tuple(
                Spot(place=float(p), mm=float(v), u_mm=float(max(u, least))) for p, v, u in zip(place, values, each, strict=True)
            ),
            closing_mm=None if self.walked_mm is None else self.found.stood_mm[0] + walked,
            tir_mm=float(height.max() - height.min()), tir_u_mm=float(max(ends @ self.cov @ ends, 0.0) ** 0.5),
            once_mm=0.0, once_u_mm=0.0, high=0.0, high_u=0.0, drift_mm=walked,
            form=tuple(Wave(order=i, mm=float(v)) for i, v in enumerate(waves, 2) if v > graduation_mm / 2),
            left_out=self._left_out(), turns=max(round(float(self.settled.place[-1]) / self.way), 1), counted=True, marked=self.marked,
            sure=False,
        )  # fmt: skip

    def _height(self, place: Array, terms: Array) -> Array:
        """What the needle shows at these places (n,), whose terms are (n, p)."""
        shape = self.settled.shape
        return np.asarray(terms @ shape + self.shape.bend(place, shape))

    def together(self, terms: Array) -> float:
        """Least uncertainty of a reading that makes no center or slope of the readings (n, p) look surer than it is.

        The errors of where it was go together all round; who fits the readings takes them as independent.
        """
        first = list(self.shape.first)
        if len(terms) < len(first):
            return 0.0
        plain = np.linalg.pinv(terms[:, first])
        true = np.einsum("ij,jk,ik->i", plain @ terms, self.cov, plain @ terms)
        alone = np.einsum("ij,ij->i", plain, plain)
        return float(np.sqrt(np.max(true[1:] / alone[1:])))

    def _left_out(self) -> tuple[LeftOut, ...]:
        def where(at_s: float) -> float:
            return float(np.interp(at_s, self.pieces.mid_s, self.settled.place))

        def told(kind: Literal["nick", "silence"], found: Sequence[tuple[float, float]]) -> list[LeftOut]:
            return [LeftOut(kind=kind, at=where(a) % self.way, wide=max(where(b) - where(a), 0.0)) for a, b in found]

        return (*told("nick", self.found.spikes), *told("silence", self.found.gaps))


def course(
    found: Tidy, pieces: Pieces, total: float, way: float, shape: Callable[[float], Shape], marks: Sequence[Mark], start: Array,
    wanted: Wanted, *, back: bool, marked: bool, doubt: float = MARKED,
) -> Course:  # fmt: skip
    """Settle a stream; again, less what a circle off its middle shows besides a cosine, as soon as it is known how far off; and again,
    with what it is, when it is rougher than expected. Where it came ``back``, the difference has walked.
    """
    form, flat = wanted.form_mm, pieces
    settled = settle(pieces, total, shape(form), marks, start, REST * form)
    bend = shape(form).bend(settled.place, settled.shape)
    if np.ptp(bend) > BENDS * form:
        flat = replace(pieces, mm=pieces.mm - bend)
        settled = settle(flat, total, shape(form), marks, settled.place, REST * form)
    if settled.off > ROUGHER:
        form *= 1.1 * settled.off
        settled = settle(flat, total, shape(form), marks, start, REST * form)
    walked = found.walked_mm if back else None
    return Course(found, pieces, way, shape(form), settled, settled.cov * doubt**2, walked, marked)


def judged(told: Captured, wanted: Wanted) -> Captured:
    """Is it well enough known?"""
    worst = max((2 * spot.u_mm for spot in told.spots), default=0.0)
    enough = (
        max(PROOF_MARKS * wanted.graduation_mm, PROOF_LIMIT * wanted.limit_mm)
        if wanted.proof
        else max(SURE_MARKS * wanted.graduation_mm, SURE_LIMIT * wanted.limit_mm, SURE_TIR * told.tir_mm)
    )
    return told.model_copy(update={"sure": told.counted and worst <= enough})


def between(pieces: Pieces, marks: Sequence[Mark], total: float) -> Array:
    """Where it was (M,), evenly from mark to mark."""
    at = [0.0, *(m.at_s for m in marks), pieces.long_s]
    return np.interp(pieces.mid_s, at, [0.0, *(m.place for m in marks), total])
