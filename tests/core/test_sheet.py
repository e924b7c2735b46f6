"""Readings from a file land at the places they are for, or the line is named."""

from __future__ import annotations

import numpy as np
import pytest

from tests.core.at_the_mill import AtTheMill, mill
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.sheet import Reads, readings_from, sheet_of
from velvet_hand.core.errors import BadInput
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine

BASE = {"pattern": "grid", "columns": 3, "rows": 2, "repeats": 0, "inverted": "no"}


def plate(**changes: object) -> AtTheMill:
    return AtTheMill(mill("plate", **{**BASE, **changes}))


def read(hand: AtTheMill, text: str) -> list[tuple[str, bool, str]]:
    found = readings_from(text, desk.load(hand.events))
    assert not found.asks
    return [(r.station_id, r.closing, r.text) for r in found.readings]


def test_a_grid_is_taken_as_it_is_seen_from_above() -> None:
    found = read(plate(), "0.4,0.5,0.45\n0.1,0.2,0.3\n")
    # Read from the front left: right along the front, and back along the back.
    assert found == [
        ("g1", False, "0.1"),
        ("g2", False, "0.2"),
        ("g3", False, "0.3"),
        ("g4", False, "0.45"),
        ("g5", False, "0.5"),
        ("g6", False, "0.4"),
    ]
    hand = plate()
    places = {s.id: (s.x_mm, s.y_mm) for s in desk.load(hand.events).stations}
    assert places["g4"][0] > places["g5"][0]
    assert places["g4"][1] > places["g3"][1]


@pytest.mark.parametrize("between", [",", ";", "\t"])
def test_places_by_name_with_any_separator_and_a_heading(between: str) -> None:
    text = f"place{between}reading\n1{between}0.01\nPlace 3{between}-0.02\n1 again{between}0.011\n"
    assert read(plate(), text) == [("g1", False, "0.01"), ("g3", False, "-0.02"), ("g1", True, "0.011")]


def test_plain_values_go_on_where_reading_stopped() -> None:
    hand = plate()
    hand.type({"g1": 0.0, "g2": 0.01})
    assert read(hand, "0.02\n0.03\n") == [("g3", False, "0.02"), ("g4", False, "0.03")]
    assert read(hand, "0,02;0,03;0,04;0,05;0,0")[-1] == ("g1", True, "0,0")


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "nothing in it"),
        ("a,b,c", "nothing in it"),
        ("1,2\n3,4,5\n", "Line 2 has 3 cells"),
        ("9, 0.01\n8, 0.02", "“9” is no place"),
        ("\n".join(["0.1"] * 9), "9 values, but 6 places"),
        ("1" * 30000, "too long"),
        ("place;reading\n1;0.01\n2;;0.02", "Line 3 has nothing in column 2"),
        ("0.1,,0.3\n0.1,0.2,0.3\n", "Line 1 has nothing in column 2"),
        ("1; 0.01\n2; rusty", "Line 2: “rusty” is not a reading"),
        ("0.01;3,000", "Line 1: “3,000” may be two numbers"),
        ("0.01\n3,000", "Line 1 has 1 cell."),
        ("1; 40\n2; 0", "Line 1: “40” is more than"),
    ],
)
def test_what_cannot_be_read_names_the_line(text: str, words: str) -> None:
    with pytest.raises(BadInput) as told:
        read(plate(), text)
    assert words in told.value.why
    assert told.value.field == "text"


def test_a_file_when_everything_is_read_is_refused_in_words() -> None:
    hand = plate()
    hand.type(dict.fromkeys(("g1", "g2", "g3", "g4", "g5", "g6"), 0.0), closing=True)
    with pytest.raises(BadInput, match="has been read"):
        read(hand, "0.01\n")


def long(**changes: object) -> AtTheMill:
    plan = mill("plate", **{**BASE, **changes})
    lever = plan.gauge.model_copy(update={"travel_mm": 5.0})
    return AtTheMill(plan.model_copy(update={"gauge": lever}))


def asks(hand: AtTheMill, text: str) -> list[str]:
    found = readings_from(text, desk.load(hand.events))
    assert bool(found.asks) != bool(found.readings)
    return [choice.reads for choice in found.asks]


def taken(hand: AtTheMill, text: str, reads: Reads) -> list[tuple[str, float | None]]:
    found = readings_from(text, desk.load(hand.events), reads=reads)
    return [(r.label.split(" (")[0], r.needle_mm) for r in found.readings]


def test_a_comma_that_may_be_a_point_or_stand_between_is_asked_about() -> None:
    text = "1,05\n2,0\n"
    assert asks(plate(), text) == ["point", "places"]
    assert taken(long(), text, "point") == [("Place 1", 1.05), ("Place 2", 2.0)]
    assert taken(long(), "1,1\n3,0", "places") == [("Place 1", 1.0), ("Place 3", 0.0)]


def test_a_comma_that_can_only_be_a_point_is_one() -> None:
    assert [r[2] for r in read(plate(), "0,02\n0,03\n")] == ["0,02", "0,03"]
    assert taken(plate(), "0,02\n-0,03\n", "") == [("Place 1", 0.02), ("Place 2", -0.03)]
    assert taken(plate(), "0,1 0,2 0,3\n0.4 0.5 0.45", "") != []  # spaces between, either mark


def test_places_on_a_grid_as_wide_as_a_place_and_a_reading_are_asked_about() -> None:
    text = "1,0.01\n2,0.02\n3,0.03"
    hand = long(columns=2, rows=3)
    assert asks(hand, text) == ["places", "grid"]
    assert taken(hand, text, "places") == [("Place 1", 0.01), ("Place 2", 0.02), ("Place 3", 0.03)]
    assert [mm for _, mm in taken(hand, text, "grid")] == [3.0, 0.03, 0.02, 2.0, 1.0, 0.01]


def test_one_line_of_two_may_be_a_place_and_its_reading() -> None:
    assert asks(plate(), "1, 0.004") == ["places", "values"]
    assert taken(plate(), "1, 0.004", "places") == [("Place 1", 0.004)]
    assert taken(long(), "1, 0.004", "values") == [("Place 1", 1.0), ("Place 2", 0.004)]


def test_columns_that_are_empty_all_the_way_down_are_no_columns() -> None:
    assert read(plate(), ";1;;0.01;\n;2;;0.02;") == [("g1", False, "0.01"), ("g2", False, "0.02")]


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_what_goes_out_comes_in_as_it_was(procedure: str) -> None:
    """The first pass of each procedure, written out and read into the same set-up before it was read."""
    rng, plan = np.random.default_rng(2), example(procedure, 2)
    person = Operator(plan, machine(plan, rng), rng)
    while not (person.state.passes and person.state.being_read is None) and person.step():
        if person.state.open_pass and all(
            person.state.open_pass.answered(s.id) for s in person.state.asked(person.state.open_pass)
        ):
            break
    one = person.state.passes[0]
    first = next(n for n, e in enumerate(person.events) if e.body.type == "reading_taken")
    found = readings_from(sheet_of(person.state, 1), desk.load(person.events[:first]), plan.unit)
    read = {(r.station_id, r.closing): r.needle_mm if r.deg is None else None for r in one.all_readings()}
    assert {(r.station_id, r.closing): r.needle_mm for r in found.readings} == pytest.approx(read)


def test_a_pass_that_was_not_read_has_no_file() -> None:
    hand = plate()
    with pytest.raises(BadInput) as caught:
        sheet_of(desk.load(hand.events), 1)
    assert caught.value.field == "pass"
