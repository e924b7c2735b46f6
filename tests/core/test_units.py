"""Typed as people type, exact in store, shown in the unit chosen."""

import json
from decimal import Decimal
from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.support import make_plan
from velvet_hand.core.errors import BadInput
from velvet_hand.core.units import MM_PER, check_comma, format_length, parse_length, parse_reading

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
        ("1+29", "mm", "3.2766"),
        ("-1+29", "thou", "-1.8034"),
        ("0+0.5 mm", "thou", "0.5"),
        ("0", "thou", "0"),
    ],
)
def test_a_reading_is_what_was_typed(text: str, unit: str, mm: str) -> None:
    gauge = GAUGE.model_copy(update={"travel_mm": 10.0})
    assert parse_reading(text, unit, gauge).mm == pytest.approx(float(mm), abs=1e-12)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "mark", "turn", "number", "mm"),
    [
        ("1+29", 0.01, 1.0, None, 1.29),
        ("2+1", 0.01, 1.0, None, 2.01),
        ("2+01", 0.01, 1.0, None, 2.01),
        ("-1+29", 0.01, 1.0, None, -0.71),
        ("1+29", 0.0127, 2.54, None, 2.54 + 29 * 0.0254),
        ("1+2.5", 0.01, 1.0, None, 1.025),
        ("0+15", 0.002, 0.2, None, 0.015),
        ("1+3", 0.002, 0.2, 0.01, 0.23),
        ("1+0.3 mm", 0.01, 1.0, None, 1.3),
    ],
)
def test_behind_the_turns_it_counts_as_the_dial_is_numbered(
    text: str, mark: float, turn: float, number: float | None, mm: float
) -> None:
    gauge = GAUGE.model_copy(update={"graduation_mm": mark, "turn_mm": turn, "number_mm": number, "travel_mm": 10.0})
    for unit in ("mm", "thou"):
        assert parse_reading(text, unit, gauge).mm == pytest.approx(mm)


def test_a_log_of_before_keeps_what_it_meant_behind_the_turns() -> None:
    gauge = GAUGE.model_copy(update={"graduation_mm": 0.01, "turn_mm": 1.0, "travel_mm": 10.0})
    assert parse_reading("2+1", "mm", gauge, by_number=False).mm == pytest.approx(3.0)


@pytest.mark.parametrize(
    ("text", "mm"), [('5/8"', 15.875), ("1-1/8", 28.575), ("1 1/8 in", 28.575), ("3/64", 1.190625), ('-1/2"', -12.7)]
)
@pytest.mark.parametrize("unit", ["thou", "mm"])
def test_a_fraction_is_of_an_inch(text: str, mm: float, unit: str) -> None:
    assert float(parse_length(text, unit, "x")) == pytest.approx(mm)  # type: ignore[arg-type]


def test_a_fraction_over_nothing_is_no_length() -> None:
    with pytest.raises(BadInput):
        parse_length("1/0", "thou", "x")


@pytest.mark.parametrize("text", ["1,011", "3,000", "-12,500 mm"])
def test_a_comma_that_may_part_thousands_is_asked_about(text: str) -> None:
    with pytest.raises(BadInput) as caught:
        check_comma(text, "x")
    assert caught.value.code == "comma_unclear"
    assert text.replace(",", ".") in caught.value.fix


@pytest.mark.parametrize("text", ["1,5", "0,125", "0,06 mm", "12,25", "1.011", "1011"])
def test_a_comma_that_can_only_be_a_point_is_one(text: str) -> None:
    check_comma(text, "x")


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
