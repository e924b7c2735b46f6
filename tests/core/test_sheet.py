"""Readings from a file land at the places they are for, or the line is named."""

from __future__ import annotations

import pytest

from tests.core.at_the_mill import AtTheMill, mill
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.sheet import readings_from
from velvet_hand.core.errors import BadInput


def plate(**changes: object) -> AtTheMill:
    base = {"pattern": "grid", "columns": 3, "rows": 2, "repeats": 0, "inverted": "no"}
    return AtTheMill(mill("plate", **{**base, **changes}))


def read(hand: AtTheMill, text: str) -> list[tuple[str, bool, str]]:
    return [(r.station_id, r.closing, r.text) for r in readings_from(text, desk.load(hand.events))]


def test_a_grid_is_taken_as_it_is_seen_from_above() -> None:
    found = read(plate(), "0.4,0.5,0.6\n0.1,0.2,0.3\n")
    # Read from the front left: right along the front, and back along the back.
    assert found == [
        ("g1", False, "0.1"),
        ("g2", False, "0.2"),
        ("g3", False, "0.3"),
        ("g4", False, "0.6"),
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
