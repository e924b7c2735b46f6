"""Rings of a set-up, and when a ring is good enough."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import Any

import numpy as np

from ..estimate.form import RoundLook
from ..estimate.kalman import Array
from ..measure.ahead import narrowed, read_closely
from ..measure.ring import Ring, RingLook
from ..memo import once
from ..model import own
from ..quantity import LimitKind
from ..readings import Pass
from ..setup.state import State
from ..verdict import Verdict
from ..wording import Text, length, text
from .forecast import Way
from .policy import AGAIN


def ring_of(state: State, key: str = "") -> Ring:
    """A ring of the set-up by its name."""
    return own(state.measures[key], Ring)


def look_ring(state: State, one: Pass, key: str = "") -> RingLook:
    """A ring as one pass shows it."""
    return ring_of(state, key).look(state, one)


def judge_ring(state: State, look: RingLook, **more: Any) -> Verdict | None:
    """A ring against the plan's limit; see ``Ring.judge``."""
    return look.ring.judge(look, state.plan.limit.kind, state.plan.limit.mm, **more)


#: So many limits off, or nearer, it is brought to where its TIR is least; farther off that makes no difference.
NEAR = 4.0


def truest_at(look: RingLook, kind: str, limit_mm: float) -> complex:
    """Where the center is wanted for a limit on TIR, when enough spots tell the form and it is near: where the TIR is least."""
    fit, seen = look.fit, look.round
    if kind != "tir" or fit is None or seen is None or not (look.complete and look.tells_form):
        return 0j
    return complex(*seen.truest[0]) if fit.offset_mm < NEAR * limit_mm else 0j


def truest_words(off_mm: float, toward: Text) -> Text:
    """Why it is brought so far off its middle, in that direction."""
    return text("The part is out of round: its TIR is least with it ", length(off_mm), " toward ", *toward, ".")


#: A surface is called out of round when that is likelier than forty to one (standard deviations, one side).
SURE = 2.0


def kind_of(judged: Verdict) -> LimitKind:
    """What a ring is judged by."""
    return "tir" if judged.kind == "tir" else "off_centre"


@dataclass(frozen=True, slots=True)
class Room:
    """What a ring leaves of a limit for its offset: of ``limit_mm`` for ``kind``, with ``form_mm`` in it that nothing moves.

    ``truest``: it is aimed at where its TIR is least; or else a TIR is taken for twice the offset and the form.
    """

    look: RingLook
    kind: LimitKind
    limit_mm: float
    form_mm: float
    truest: bool = False

    @classmethod
    def of(cls, look: RingLook, judged: Verdict, aim: complex = 0j) -> Room:
        """What it leaves by this verdict: what is not the offset from ``aim`` is form."""
        kind = kind_of(judged)
        if aim and aim == truest_at(look, kind, judged.limit_mm) and look.round is not None:
            return cls(look, kind, judged.limit_mm, look.round.truest[1], True)
        offset_mm = (2.0 if kind == "tir" else 1.0) * abs((look.center or 0j) - aim)
        return cls(look, kind, judged.limit_mm, max(judged.value_mm - offset_mm, 0.0))

    def radius_mm(self, band_mm: float, seen: RoundLook | None = None) -> float:
        """How far off it may be, with that band, where the surface is as it is ``seen``."""
        seen = seen or self.look.round
        if self.truest and seen is not None:
            return seen.room_mm(self.limit_mm - band_mm - seen.truest[1])
        return (self.limit_mm - band_mm - self.form_mm) / (2.0 if self.kind == "tir" else 1.0)

    def takes(self, off: complex) -> complex:
        """An offset from the aim, as large as what it takes of the limit is on the mean of all ways."""
        seen = self.look.round
        if not self.truest or seen is None or not off:
            return off
        more_mm = seen.at(complex(*seen.truest[0]) + off).tir_mm - self.form_mm
        return off * seen.room_mm(more_mm) / abs(off)

    def next_mm(self) -> float:
        """How far off the next full pass may find it after a move; what is undecided by then is read closely."""
        found = narrowed(self.look, 1, same=False)
        closely = read_closely(self.look, 1).band_mm(self.kind)
        return max(self.radius_mm(found.band_mm(self.kind), found.round), self.radius_mm(closely))

    def hope_mm(self) -> float:
        """The same after a few passes more, where the surface turns out as round as it may still be."""
        band = min(
            one.band_mm(self.kind) for one in (narrowed(self.look, AGAIN, same=False), read_closely(self.look, AGAIN))
        )
        form = sum(t.mm for t in self.look.ring.terms(self.look, self.kind) if t.name == "form")
        return self.radius_mm(band - SURE * form / 2)

    def again(self, passes: int) -> tuple[float, Array]:
        """See ``Odds.again``."""
        one, mean = self.look.alone, self.look.mean
        if one is None or mean is None:
            return self.radius_mm(self.look.band_mm(self.kind)), np.zeros((2, 2))
        found = narrowed(self.look, passes, same=True)
        return self.radius_mm(found.band_mm(self.kind), found.round), one.cov * passes / (
            mean.times * (mean.times + passes)
        )


def next_mm(state: State, room: Room) -> float:
    """``Room.next_mm``, once for as long as nothing touches the pass."""
    return once(state.memo, "next", room.look.number, room.next_mm)


def with_form(way: Way, look: RingLook, truest: bool = False) -> Way:
    """The same way to go for a limit on TIR: the surface's form, which nobody knows yet, takes its part of it; ``truest`` where it is
    brought to where its TIR is least.

    By the band of a few passes on: what will be undecided is read closely then.
    """
    band = read_closely(look, AGAIN).band_mm("tir")
    told = min(found.band_mm("tir") for found in (read_closely(look, 1), narrowed(look, 1, same=False)))
    chance = replace(way.chance, radius_mm=way.chance.radius_mm + (told - band) / 2, takes=None)
    return replace(way, chance=chance, finish=look.ring.finish, u_mm=band / 4, truest=truest)


def out_of_round(look: RingLook, judged: Verdict, left_mm: float, mend: str, truest: bool = False) -> Text:
    """The surface itself leaves no room within the limit, and no more than half of the limit, ``left_mm``, is the offset's: nothing
    mends that; ``truest`` where it is brought to where its TIR is least.
    """
    if judged.outcome == "holds" or left_mm > judged.limit_mm / 2 or look.round is None:
        return ()
    form, band = look.round.truest[1] if truest else look.round.form_mm, judged.band_mm
    room = judged.limit_mm - form + SURE * sum(t.mm for t in judged.terms if t.name == "form") / 2
    if band <= room:
        return ()
    later = narrowed(look, AGAIN, same=True), read_closely(look, AGAIN)
    band = min(band, *(one.band_mm(kind_of(judged)) for one in later))
    if band <= room:
        return ()
    more = (
        text("more than the limit")
        if form > judged.limit_mm
        else text("and ± ", length(band), " on that leaves no room")
    )
    return text(
        "Stop here. The surface is out of round by ",
        length(form),
        ", ",
        *more,
        f". {mend.capitalize()} cannot mend that; only ",
        length(abs(complex(*look.round.center))),
        " of it is off center.",
    )
