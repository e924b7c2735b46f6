"""Named spots that one indicator reads with one zero: the one place where needle values become geometry."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Protocol, TypeVar

from ..gauge import Gauge, Sense
from ..memo import Memo
from ..readings import Pass, Reading, Station
from ..verdict import TermName


class Record(Protocol):
    """What a measure needs of a set-up."""

    memo: Memo
    gap_mm: float | None
    passes: list[Pass]

    def sense_in(self, slot: str) -> Sense:
        """How the needle values of an indicator become geometry."""

    def asked(self, one: Pass | None = None) -> tuple[Station, ...]:
        """The spots of a pass."""

    def untouched_before(self, one: Pass) -> bool:
        """Was nothing moved or tightened between the pass before and this one, so that both see the same?"""


@dataclass(frozen=True, slots=True)
class Seen:
    """One pass of a measure: toward values of its good readings with the drift taken out, the ends (+1 toward, -1 away, 0
    not said) of those past the travel or at its very end, the closing error, whether every spot is answered, and what forbids
    that it proves anything. ``extra_mm2`` is what those readings are unsure by (variance) beside what every reading is.
    """

    toward_mm: dict[str, float]
    off: dict[str, int]
    drift_mm: float | None
    complete: bool
    doubt: TermName | None
    extra_mm2: float = 0.0


#: How a measure looked in a pass is kept under this and its name: it depends on readings alone.
LOOKED = "looked "


@dataclass(frozen=True, kw_only=True)
class Measure:
    """Spots of one name (``id``), the indicator that reads them, and the machine's floor there.

    Where it ``closes``, the spot that was read first is read again at its end: what did not come back is drift.
    """

    id: str
    stations: tuple[Station, ...]
    gauge: Gauge
    slot: str = ""
    floor_mm: float = 0.0
    closes: bool = True

    @property
    def looked(self) -> str:
        """What its look at a pass is kept by."""
        return LOOKED + self.id

    @property
    def along_travel(self) -> bool:
        """Do its spots lie along the table's travel, so that they stand in a picture of it from above?"""
        return False

    def mine(self, record: Record, one: Pass | None) -> tuple[Station, ...]:
        """Its spots as they are asked in a pass."""
        return tuple(s for s in record.asked(one) if s.ring == self.id)

    def undecided(self, record: Record, one: Pass) -> bool:
        """Do its spots, all read, leave open whether it holds, so that those between them are to be read as well?"""
        return False

    def quick_spots(self, record: Record, full: Pass) -> tuple[Station, ...]:
        """The few spots that tell what has changed since a full pass; none where that cannot be told by them."""
        return ()

    def proved(self, record: Record) -> bool:
        """Has the press test fixed its needle's sense?"""
        return record.sense_in(self.slot).proved

    def seen(self, record: Record, one: Pass, spots: Sequence[Station] | None = None) -> Seen:
        """Its readings as geometry. What has walked since the first of them (``Gauge.walked_mm``) is spread over them in the order of
        reading: ``r_i - d i/N``.
        """
        mine = self.mine(record, one) if spots is None else spots
        ids, sense = {s.id for s in mine}, record.sense_in(self.slot)
        drift, doubt = self._closed(one, sense, ids)
        known = [r for k, r in one.good().items() if k in ids]
        ended = {r.station_id: -1 if (r.needle_mm or 0.0) < 0 else 1 for r in known if self._at_the_end(r)}
        order = sorted((r for r in known if r.station_id not in ended), key=lambda r: r.seq)
        walked = self.gauge.walked_mm(drift or 0.0)
        toward = {
            r.station_id: sense.toward_mm(r.needle_mm or 0.0) - walked * i / len(order) for i, r in enumerate(order)
        }
        off = {
            r.station_id: -1 if r.lost else sense.toward_end(r.off or 0)
            for r in one.readings.values()
            if r.station_id in ids and not r.known and r.deg is None and r.station_id not in one.bad
        }
        off |= {key: sense.toward_end(end) for key, end in ended.items()}
        whole = bool(mine) and all(one.answered(s.id) for s in mine)
        extra = sum(r.u_mm**2 for r in known) / len(known) if known else 0.0
        if off:
            doubt = "unread"
        elif doubt is None and whole and self._stood_still(one, known):
            doubt = "contact"
        return Seen(toward, off, drift, whole, doubt, extra * abs(sense.toward_mm(1.0)) ** 2)

    def doubt(self, record: Record, one: Pass) -> TermName | None:
        """What forbids that this pass proves anything about it."""
        return self.seen(record, one).doubt

    def _at_the_end(self, reading: Reading) -> bool:
        """Does the needle stand at the end of its travel, where it can go no farther?"""
        return not self.gauge.measures_gap and abs(reading.needle_mm or 0.0) >= self.gauge.travel_mm * (1 - 1e-9)

    def _stood_still(self, one: Pass, known: Sequence[Reading]) -> bool:
        """Did the needle of a proof show the same at every spot, and nobody saw it move since? No contact is not zero."""
        if one.purpose != "prove" or not self.closes or self.gauge.measures_gap or self.slot in one.touched:
            return False
        shown = [r.needle_mm for r in known if r.needle_mm is not None]
        return len(shown) > 1 and len(set(shown)) == 1

    def _closed(self, one: Pass, sense: Sense, ids: set[str]) -> tuple[float | None, TermName | None]:
        """The closing error, and "drift" when it is more than a mark: a step may have shifted half of the pass."""
        first, again = one.closed_by(self.id)
        if first is None or one.closings[self.id].station_id not in ids:
            return None, None
        if again is None:
            return None, "drift"
        drift = sense.toward_mm(again) - sense.toward_mm(first)
        return drift, None if self.gauge.came_back(drift) else "drift"


L = TypeVar("L")


def full_before(record: Record, one: Pass) -> Pass:
    """The last full pass up to this one."""
    return next(p for p in reversed(record.passes[: one.number]) if not p.quick)


def before(record: Record, one: Pass, name: str, look: Callable[[Record, Pass], L]) -> L | None:
    """How a measure looked in the pass before, and so in every one before that; each is kept in the memo by ``name``."""
    first = one.number
    while first > 1 and name not in record.memo.get(first - 1, {}):
        first -= 1
    for earlier in record.passes[first - 1 : one.number - 1]:
        look(record, earlier)
    return record.memo[one.number - 1][name] if one.number > 1 else None
