"""The pure fold: events in, state out. Also the judge of whether a new event fits.

``apply`` raises when an event does not fit the state it meets, so the same function guards the
door (before an event is kept) and rebuilds the state (afterwards, when it cannot fail).
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from typing import Generic, Literal

from typing_extensions import TypeVar

from ..causes import Trial
from ..errors import BadInput
from ..gauge import Sense
from ..measure.base import Measure, full_before
from ..measured import Measured
from ..memo import Memo, once, without
from ..move import Move
from ..plan.base import BasePlan
from ..readings import Pass, Station
from ..verdict import Verdict
from . import events as ev
from .follow import FollowUp

#: Steps that every procedure has, and that moves and tightening reach into.
SET_GAUGE, READ, NIP_UP, PROVE, CLEAR = "set_gauge", "read", "nip_up", "prove", "clear_to_run"


@dataclass(slots=True)
class MoveRecord:
    """A move that was made, as it was shown then."""

    event_id: str
    move: Move
    at: datetime
    taps: int | None = None


@dataclass(frozen=True, slots=True)
class TrialRecord:
    """A quick test that was made, in which pass, and what it showed."""

    pass_no: int
    trial: Trial
    answer: str


#: What was computed of a pass and the one after it, with the moves between them.
BY_MOVES = ("row", "got", "learned", "lean")
#: What depends on the way of working too.
BY_WAY = ("row",)
#: So many passes are looked back to at most by what another way of working would do now; earlier ones are worked out anew if they are.
LATE = 24
#: So many quick looks may follow a full pass.
QUICK_MOST = 5
P_co = TypeVar("P_co", bound=BasePlan, default=BasePlan, covariant=True)


@dataclass(slots=True)
class State(Generic[P_co]):
    """A set-up as its events leave it; ``State`` alone is that of any plan."""

    plan: P_co
    measures: dict[str, Measure]
    stations: tuple[Station, ...]
    hold_cautions: dict[str, tuple[str, ...]]
    opened_at: datetime
    changed_at: datetime
    seq: int = 1
    push_reads: Literal[-1, 1] | None = None
    push_far: Literal[-1, 1] | None = None
    gap_mm: float | None = None
    steps: dict[str, ev.StepPassed] = field(default_factory=dict)
    frames: dict[str, int] = field(default_factory=dict)
    zero_station: str | None = None
    passes: list[Pass] = field(default_factory=list)
    moves: list[MoveRecord] = field(default_factory=list)
    half: MoveRecord | None = None
    tightenings: list[int] = field(default_factory=list)
    watched: dict[int, ev.Watched] = field(default_factory=dict)
    tight: bool = False
    only_reads: bool = False
    quick: bool = False
    verdict: Verdict | None = None
    accepted: str | None = None
    notes: list[str] = field(default_factory=list)
    measured: list[Measured] = field(default_factory=list)
    follow_ups: dict[str, FollowUp] = field(default_factory=dict)
    tried: list[TrialRecord] = field(default_factory=list)
    kept: set[str] = field(default_factory=set)
    taken_off: bool = False
    effective: list[ev.Event] = field(default_factory=list)
    people: tuple[str, ...] = ()
    #: What was computed from this state, by name and pass: 0 for the whole state, -1 for what the plan alone decides. A state
    #: that is shown is not changed any more; ``carried`` makes the next one.
    memo: Memo = field(default_factory=dict, compare=False)

    def with_plan(self, plan: P_co) -> State[P_co]:  # type: ignore[misc]  # it goes in as it comes out
        """The same set-up worked by another way of its plan; what was read looks the same, what follows from it does not."""
        late = max(len(self.passes) - LATE, 0)  # what follows now goes no farther back, in a set-up of any length
        looks = {number: without(kept, BY_WAY) for number, kept in self.memo.copy().items() if number > late}
        return replace(self, plan=plan, memo=looks)

    @property
    def shift_mm(self) -> float | None:
        """By how much the needle went while all was tightened the last time; None where nobody watched it, or a pass was read since."""
        last = self.tightenings[-1] if self.tightenings else -1
        seen = self.watched.get(last)
        return seen.after_mm - seen.before_mm if seen is not None and last == len(self.passes) else None

    @property
    def full_passes(self) -> int:
        """Passes begun so far, quick looks left out."""
        return sum(not one.quick for one in self.passes)

    @property
    def sense(self) -> Sense:
        """How needle values become geometry, as far as the press test has settled it."""
        return self.sense_in("")

    def sense_of(self, station: Station) -> Sense:
        """The sense of the gauge that reads this station."""
        return self.sense_in(self.measures[station.ring].slot)

    def pushed(self, slot: str) -> Literal[-1, 1] | None:
        """Which way the needle of one of the gauges went in its press test; None: not pressed yet."""
        return self.push_far if slot == "far" else self.push_reads

    @property
    def pressed_since_move(self) -> bool:
        """Was the press test made after the last move?"""
        told = (e.body for e in reversed(self.effective) if isinstance(e.body, ev.PressTested | ev.MoveDone))
        return isinstance(next(told, None), ev.PressTested)

    def sense_in(self, slot: str) -> Sense:
        """The sense of one of the gauges."""
        pushed = self.pushed(slot)
        return once(self.memo, f"sense {slot} {pushed}", -1, lambda: self.plan.sense(pushed, slot))

    @property
    def proved(self) -> bool:
        """Is the direction of every needle known?"""
        return all(self.sense_in(slot).proved for slot in self.plan.slots)

    def asked(self, one: Pass | None = None) -> tuple[Station, ...]:
        """The stations of a pass (None: of the pass that is open or comes next)."""
        if one.quick if one else self.quick:
            ids = one.spots if one else tuple(s.id for s in self.quick_spots())
            return tuple(s for s in self.stations if s.id in ids)
        whens, staged = once(self.memo, "whens", -1, self._whens)
        if not staged and whens == {"always"}:
            return self.stations
        before = self.passes[: one.number - 1] if one else self.passes[: self.next_pass_no - 1]
        proof = one.purpose == "prove" if one else self.tight
        skip: set[str] = set()
        if "first" in whens:
            first = [s.id for s in self.stations if s.when == "first"]
            skip.add("first" if any(all(p.answered(i) for i in first) for p in before) else "later")
        if not proof:
            skip.add("proof")
        undecided = "undecided" in whens and proof and one is not None
        if not (undecided and one and any(m.undecided(self, one) for m in self.measures.values())):
            skip.add("undecided")
        if "shimmed" in whens and not proof:
            shimmed = [s.id for s in self.stations if s.when == "shimmed"]
            last = max((r.move.pass_no for r in self.moves if r.move.do == "shim"), default=0)
            if any(p.number > last and all(p.answered(i) for i in shimmed) for p in before):
                skip.add("shimmed")
        stage = self.stage(len(before)) if staged else 0
        kept = (s for s in self.stations if s.when not in skip and s.stage in (0, stage))
        return once(self.memo, f"asked {sorted(skip)} {stage}", -1, lambda: tuple(kept))

    def untouched_before(self, one: Pass) -> bool:
        """Was nothing moved or tightened between the pass before and this one, so that both see the same?"""
        if one.number < 2 or one.quick:
            return False
        before = self.passes[one.number - 2]
        return not (before.quick or before.moved or before.back or before.number in self.tightenings)

    def quick_spots(self) -> tuple[Station, ...]:
        """The spots that tell what has changed since the last full pass; none where that cannot be told by them."""
        full = full_before(self, self.passes[-1]) if self.passes else None
        if (
            full is None
            or full.frames != self.frames
            or len(self.passes) - full.number >= QUICK_MOST
            or not self.proved
        ):
            return ()
        found = [measure.quick_spots(self, full) for measure in self.measures.values()]
        return tuple(s for spots in found for s in spots) if all(found) else ()

    def _whens(self) -> tuple[set[str], bool]:
        """In which passes spots may be asked, and whether they are read in stages."""
        return {s.when for s in self.stations}, any(s.stage for s in self.stations)

    def moved_in(self, number: int) -> tuple[Move, ...]:
        """The moves that were made in a pass."""
        return tuple(r.move for r in self.records_in(number))

    def records_in(self, number: int) -> list[MoveRecord]:
        """The records of the moves that were made in a pass."""
        found: list[MoveRecord] = []
        for record in reversed(self.moves):  # they lie in the order of the passes
            if record.move.pass_no < number:
                break
            if record.move.pass_no == number:
                found.insert(0, record)
        return found

    def stage(self, passes_before: int) -> int:
        """Which stage of reading comes after so many passes: the first there is, and one on for each move that opens the next."""
        first = min((s.stage for s in self.stations if s.stage), default=0)
        if not first:
            return 0
        return first + sum(r.move.opens for r in self.moves if r.move.pass_no <= passes_before)

    def to_read(self, one: Pass | None) -> tuple[tuple[Station, bool], ...]:
        """Spots of a pass in the order of reading, and whether it is the closing reading: each measure's own at its end."""
        asked, found = self.asked(one), []
        for index, station in enumerate(asked):
            found.append((station, False))
            last = index + 1 == len(asked) or asked[index + 1].ring != station.ring
            if last and not (one.quick if one else self.quick) and self.measures[station.ring].closes:
                found.append((self._closing_of(one, [s for s in asked if s.ring == station.ring]), True))
        return tuple(found)

    def _closing_of(self, one: Pass | None, mine: Sequence[Station]) -> Station:
        """The one of a measure's spots to read again at its end: that which was read first."""
        read = [one.readings[s.id] for s in mine if s.id in one.readings] if one else []
        return self.station(min(read, key=lambda r: r.seq).station_id) if read else mine[0]

    def unread(self, one: Pass | None) -> tuple[Station, bool] | None:
        """The next spot to read in a pass, and whether it closes a measure; None when all is read."""
        for station, closing in self.to_read(one):
            if one is None or not (station.ring in one.closings if closing else one.answered(station.id)):
                return station, closing
        return None

    @property
    def open_pass(self) -> Pass | None:
        """The pass that is being read or acted on."""
        return self.passes[-1] if self.passes and not self.passes[-1].closed else None

    @property
    def being_read(self) -> Pass | None:
        """The pass that the next reading belongs to, when it is begun."""
        current = self.open_pass
        return current if current is not None and current.number == self.next_pass_no else None

    @property
    def next_pass_no(self) -> int:
        """The pass that the next reading belongs to."""
        current = self.open_pass
        if current is None or current.moved or (current.quick and all(current.answered(i) for i in current.spots)):
            return len(self.passes) + 1
        return current.number

    def station(self, station_id: str, field_name: str = "station_id") -> Station:
        """The station of that id.

        Raises
        ------
        BadInput
            ``unknown_station``.
        """
        for station in self.stations:
            if station.id == station_id:
                return station
        raise BadInput(
            "unknown_station",
            f"This set-up has no station “{station_id[:40]}”.",
            "Stations: " + ", ".join(s.label for s in self.stations) + ".",
            field_name,
        )
