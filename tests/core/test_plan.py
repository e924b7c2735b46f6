"""What is refused and what is told before a set-up is opened."""

from typing import Any

import pytest

from tests.core.bench_person import CAUTIONS, Person
from tests.support import as_a, make_plan
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput
from velvet_hand.core.gauge import place_words
from velvet_hand.core.move import Jaws
from velvet_hand.core.plan.base import Workpiece
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain


def part(text: str, surface: str = "outside") -> Workpiece:
    return Workpiece(name="x", diameter=Typed(text=text, unit="mm"), surface=surface)  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("changes", "code", "field"),
    [
        ({"part": part("181")}, "part_too_big", "part.diameter"),
        ({"part": part("4")}, "part_too_small", "part.diameter"),
        ({"part": part("0")}, "part_size_missing", "part.diameter"),
        ({"part": part("wide")}, "length_nonsense", "part.diameter"),
        ({"stations_deg": (0.0, 180.0)}, "stations_too_few", "stations_deg"),
        ({"stations_deg": (0.0, 10.0, 20.0)}, "stations_too_few", "stations_deg"),
        ({"stations_deg": (0.0, 90.0, 360.0, 200.0)}, "stations_repeated", "stations_deg"),
        ({"stations_deg": tuple(range(0, 360, 5))}, "field_invalid", "stations_deg"),
        ({"limit_thou": "0"}, "limit_zero", "limit.typed"),
        ({"limit_thou": "-1"}, "limit_zero", "limit.typed"),
        ({"limit_thou": "4000"}, "limit_beyond_gauge", "limit.typed"),
    ],
)
def test_a_plan_refuses_what_cannot_work(changes: dict[str, Any], code: str, field: str) -> None:
    with pytest.raises(BadInput) as caught:
        desk.check_plan(make_plan(**changes))
    assert (caught.value.code, caught.value.field) == (code, field)
    assert caught.value.fix


@pytest.mark.parametrize(
    ("changes", "code", "field"),
    [
        ({"lead_mm": None}, "holder_without_lead", "holder_id"),
        ({"floor_mm": 0.02}, "limit_below_floor", "limit.typed"),
        ({"floor_mm": 0.0}, "floor_unknown", "machine_id"),
        ({"graduation_mm": 0.0127}, "gauge_coarse", "gauge_id"),
        ({"limit_thou": "0.05"}, "gauge_coarse", "gauge_id"),
        ({}, "few_stations", "stations_deg"),
    ],
)
def test_what_limits_a_plan_is_told_at_its_field(changes: dict[str, Any], code: str, field: str) -> None:
    told = {c.code: c.field for c in desk.check_plan(make_plan(**changes))}
    assert told[code] == field


def test_an_off_centre_limit_is_half_a_tir() -> None:
    codes = {c.code for c in desk.check_plan(make_plan(limit_kind="off_centre", limit_thou="0.3", floor_mm=0.014))}
    assert "limit_below_floor" not in codes
    codes = {c.code for c in desk.check_plan(make_plan(limit_kind="tir", limit_thou="0.3", floor_mm=0.014))}
    assert "limit_below_floor" in codes


def test_roughing_in_gives_ring_opening_and_turns_of_the_key() -> None:
    person = Person()
    person.send(ev.GapMeasured(typed=Typed(text="50", unit="mm")))
    state = desk.load(person.events)
    words = plain(desk.procedure_of(state.plan).rough_in(state), "mm", 0.01)
    assert "Set each jaw 31.00 mm from the middle." in words
    assert "Ring 30.00 mm" in words
    assert "edge falls 1.00 mm outside it" in words
    assert "Open each jaw 6.00 mm: 1 turn of the key and 180°." in words


def test_what_is_measured_by_the_way_is_shown_as_it_was_taken() -> None:
    person = Person(ready=False)
    person.send(ev.StepPassed(step="make_safe", checked=CAUTIONS))
    person.send(ev.StepPassed(step="clean"))
    before = person.view().panels[0]
    assert (before.ask, before.ask_label[:20]) == ("opening", "Gap between opposite")
    person.send(ev.GapMeasured(typed=Typed(text="1.97 in", unit="mm")))
    told = [plain(line, "thou", 0.0005) for line in person.view().panels[0].why]
    assert "Open each jaw 0.235 in" in told[0]
    assert told[1] == "Gap between jaws: 1.970 in. It is taken; type over it to change it."
    assert len(told) == len(before.why) + 1


def test_without_a_lead_the_aim_stands_and_no_turn_is_made_up() -> None:
    person = Person(lead_mm=None)
    person.read_all(0.2, 0.0, -0.2, 0.0)
    move = person.solve().moves[0]
    assert move.aim_mm == pytest.approx(0.0, abs=1e-9)
    assert as_a(Jaws, move).draw.key_deg is None
    assert "go by the needle." in plain(move.reason, "thou", 0.0005)


@pytest.mark.parametrize(
    ("deg", "words"), [(90, "on top"), (180, "at your side"), (0, "at the far side"), (270, "underneath")]
)
def test_places_are_named_without_a_view(deg: float, words: str) -> None:
    assert place_words(deg) == words
