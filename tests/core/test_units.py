"""Typed as people type, exact in store, shown in the unit chosen."""

import json
from decimal import Decimal
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support import make_plan
from velvet_hand.core.errors import BadInput
from velvet_hand.core.units import MM_PER, format_length, parse_length, parse_reading

GAUGE = make_plan().gauge  # marks of 0.0001 in, one turn 0.1 in
CASES = json.loads((Path(__file__).parent.parent / "cases" / "format.json").read_text())


@pytest.mark.parametrize(
    ("text", "unit", "mm"),
    [
        ("4", "thou", "0.1016"),
        ("-2.5", "thou", "-0.0635"),
        ("\u22122.5", "thou", "-0.0635"),
        ('.0025"', "mm", "0.0635"),
        (".0025 in", "mm", "0.0635"),
        ("0.06 mm", "thou", "0.06"),
        ("0,06", "mm", "0.06"),
        ("12um", "thou", "0.012"),
        ("12 µm", "thou", "0.012"),
        ("3", "tenth", "0.00762"),
        ("+7", "um", "0.007"),
        ("1+29", "thou", "3.2766"),
        ("-1+29", "thou", "-1.8034"),
        ("0+0.5 mm", "thou", "0.5"),
        ("0", "thou", "0"),
    ],
)
def test_a_reading_is_what_was_typed(text: str, unit: str, mm: str) -> None:
    gauge = GAUGE.model_copy(update={"travel_mm": 10.0})
    assert parse_reading(text, unit, gauge).mm == pytest.approx(float(mm), abs=1e-12)  # type: ignore[arg-type]


def test_marks_of_the_dial_complete_a_turn_in_millimetres() -> None:
    gauge = GAUGE.model_copy(update={"graduation_mm": 0.01, "turn_mm": 1.0, "travel_mm": 10.0})
    assert parse_reading("1+29", "mm", gauge).mm == pytest.approx(1.29)


@pytest.mark.parametrize(("text", "off"), [("off", 0), ("+off", 1), ("-off", -1), (" + OFF ", 1)])
def test_off_the_end_is_a_reading_and_no_number(text: str, off: int) -> None:
    value = parse_reading(text, "thou", GAUGE)
    assert (value.mm, value.off) == (None, off)


@pytest.mark.parametrize(
    ("text", "code"),
    [
        ("", "reading_nonsense"),
        ("four", "reading_nonsense"),
        ("1..2", "reading_nonsense"),
        ("4 feet", "reading_nonsense"),
        ("1e5", "reading_nonsense"),
        ("nan", "reading_nonsense"),
        ("9" * 40, "reading_nonsense"),
        ("4000", "reading_beyond_travel"),
        ("0.004", "reading_too_fine"),
        ("1+290000", "reading_nonsense"),
    ],
)
def test_a_reading_refuses_what_cannot_be_meant(text: str, code: str) -> None:
    with pytest.raises(BadInput) as caught:
        parse_reading(text, "thou", GAUGE)
    assert caught.value.code == code
    assert caught.value.fix


def test_turns_refuse_a_gauge_that_does_not_count_them() -> None:
    with pytest.raises(BadInput, match="does not count turns"):
        parse_reading("1+29", "thou", GAUGE.model_copy(update={"turn_mm": None}))


@given(st.decimals(-60, 60, places=4, allow_nan=False), st.sampled_from(sorted(MM_PER)))
def test_a_length_is_exact(value: Decimal, unit: str) -> None:
    assert parse_length(f"{value:f}", unit, "x") == value * MM_PER[unit]  # type: ignore[arg-type]


@pytest.mark.parametrize("case", CASES, ids=lambda c: f"{c['mm']} {c['unit']}")
def test_figures_are_rounded_as_the_web_does(case: dict[str, object]) -> None:
    shown = format_length(case["mm"], case["unit"], case["resolution_mm"], case["signed"])  # type: ignore[arg-type]
    assert shown == case["text"]
