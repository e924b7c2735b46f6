"""What an indicator sends: understood or said why not; still or not; an extreme only after it turned back."""

from __future__ import annotations

from typing import Any

import pytest
from hypothesis import given
from hypothesis import strategies as st

from velvet_hand.core.errors import BadInput
from velvet_hand.core.live.still import Peak, Stillness
from velvet_hand.core.live.wire import LONGEST, Wire, compiled, understand


def wire(**changes: Any) -> Wire:
    return Wire.model_validate(
        {"id": "w", "name": "Wire", "kind": "stream", "gauge": "g", "port": "loop://", **changes}
    )


@pytest.mark.parametrize(
    ("line", "mm"),
    [
        ("+0.0120 mm", 0.012), ("-0,250", -0.25), ("- 0.5", -0.5), ("12.5um", 0.0125), ("0.001 in", 0.0254), ('.5"', 12.7),
        ("  0.003  ", 0.003), ("-0", 0.0),
    ],
)  # fmt: skip
def test_a_plain_line_is_read_with_its_sign_and_unit(line: str, mm: float) -> None:
    assert understand(wire(), line).mm == pytest.approx(mm)


@pytest.mark.parametrize(
    "line", ["", "0.01+0.0123", "+", "mm", "1e5", "0.01 furlong", "~#", "0.1.2", "9999999", "0" * (LONGEST + 1)]
)
def test_what_is_no_reading_never_becomes_one(line: str) -> None:
    found = understand(wire(), line)
    assert found.mm is None
    assert found.why


@given(st.text(max_size=60))
def test_any_line_is_understood_or_told(line: str) -> None:
    found = understand(wire(), line)
    assert (found.mm is None) is bool(found.why)


def test_a_profile_says_name_sign_and_unit_of_a_new_indicator() -> None:
    own = wire(pattern=r"ID\d (?P<sign>[+-])(?P<value>[\d.]+) (?P<unit>in|mm)", turned=True)
    assert understand(own, "ID1 -0.00050 in").mm == pytest.approx(0.0127)
    assert understand(own, "ID1 0.00050 in").mm is None
    assert wire(ask=r"?\r\n").asks == b"?\r\n"


@pytest.mark.parametrize(
    ("field", "changes"),
    [
        ("port", {"port": "file:///etc/passwd"}), ("port", {"port": "spy:///dev/ttyS0?file=/tmp/x"}), ("port", {"port": "socket://host"}),
        ("pattern", {"pattern": "(?P<value>("}), ("pattern", {"pattern": r"\d+"}),
        ("pattern", {"pattern": "(?P<value>" + "(a{900}){900}" + ")"}),
    ],
)  # fmt: skip
def test_what_cannot_be_reached_or_read_is_refused_at_its_field(field: str, changes: dict[str, Any]) -> None:
    with pytest.raises(BadInput) as caught:
        wire(**changes).check()
    assert caught.value.field == field


def test_no_pattern_makes_a_line_slow() -> None:
    """RE2 walks a line once: what takes others exponential time is over at once. It is a promise of steps, not of seconds."""
    assert compiled(r"(?P<value>(a+)+b)").fullmatch("a" * LONGEST) is None


def settled(step_s: float, values: list[float]) -> Stillness:
    found = Stillness()
    for n, mm in enumerate(values):
        found.add(n * step_s, mm)
    return found


def test_still_is_half_a_second_within_a_fifth_of_a_graduation() -> None:
    assert settled(0.02, [0.0100, 0.0101] * 15).still(0.001)
    assert not settled(0.02, [0.0100, 0.0110] * 15).still(0.001)
    assert not settled(0.02, [0.01] * 10).still(0.001)  # not long enough
    assert settled(0.02, [5.0] * 10 + [0.01] * 30).still(0.001)  # what was before is over
    assert settled(0.02, []).sd_mm is None
    jumped = settled(0.02, [0.01] * 30)
    jumped.add(-5.0, 0.01)  # a clock that jumped back
    assert not jumped.still(0.001)


def test_an_extreme_is_kept_only_after_it_turned_back() -> None:
    over = Peak(back_mm=0.002)
    assert [over.add(mm) for mm in (0.0, 0.01, 0.02)] == [None] * 3
    assert over.both is None
    assert over.add(0.015) == 0.02
    assert over.add(0.0) is None
    assert [c for mm in (0.01, 0.0205, 0.01) if (c := over.add(mm)) is not None] == [0.0205]
    assert over.both == pytest.approx((0.02025, 0.0005))
    low = Peak(back_mm=0.002, side="low")
    assert [c for mm in (0.0, -0.01, -0.02, -0.01) if (c := low.add(mm)) is not None] == [-0.02]


@given(st.lists(st.floats(min_value=0, max_value=1, allow_nan=False), min_size=1, max_size=60))
def test_a_needle_that_only_rises_has_no_crest(values: list[float]) -> None:
    over = Peak(back_mm=0.002)
    assert all(over.add(mm) is None for mm in sorted(values))
    assert over.both is None
