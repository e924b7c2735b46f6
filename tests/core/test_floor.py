"""What a machine was found to hold: the last finding counts, until somebody types another."""

from __future__ import annotations

from datetime import UTC, datetime

from velvet_hand.core.shop import Floor, Machine

MONDAY, FRIDAY = datetime(2026, 3, 2, tzinfo=UTC), datetime(2026, 3, 6, tzinfo=UTC)


def mill(floor_at: datetime | None = None) -> Machine:
    return Machine(id="m", name="Mill", kind="mill", floor_mm=0.01, floor_at=floor_at)


def test_the_last_finding_counts_and_the_old_ones_stay() -> None:
    found = (Floor(at=MONDAY, floor_mm=0.004), Floor(at=FRIDAY, floor_mm=0.006))
    known = mill().knowing(found)
    assert known.floor_mm == 0.006
    assert known.found == found


def test_what_is_typed_after_it_counts_again() -> None:
    found = (Floor(at=MONDAY, floor_mm=0.004),)
    assert mill(FRIDAY).knowing(found).floor_mm == 0.01
    assert mill(MONDAY).knowing((Floor(at=FRIDAY, floor_mm=0.004),)).floor_mm == 0.004


def test_a_machine_that_was_never_measured_keeps_what_was_typed() -> None:
    assert mill().knowing(()).floor_mm == 0.01
