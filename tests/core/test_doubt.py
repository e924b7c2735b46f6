"""A reading that cannot be right is asked about before anything is moved or judged by it; one that can is not."""

from __future__ import annotations

import math

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advise import current_step
from velvet_hand.core.desk.doubt import Doubt, doubted
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed, Unit, format_length
from velvet_hand.core.wording import plain

TURN = 2.54  # a dial of 100 thou


def asked(person: Person) -> Doubt:
    return there(doubted(desk.load(person.events)))


def press(person: Person, key: str) -> None:
    action = next(a for a in person.panel().others if a.key == key)
    for event in action.events:
        person.send(event)


def long_travel() -> Person:
    gauge = Gauge(id="g", name="Long plunger", kind="plunger", graduation_mm=0.0254, travel_mm=5.08, turn_mm=TURN)
    return Person(gauge=gauge)


@pytest.mark.parametrize("spot", range(4))
@pytest.mark.parametrize("turns", [1, -1])
def test_dropped_hundreds_are_offered_and_one_key_takes_them(spot: int, turns: int) -> None:
    person, true = long_travel(), [104.0 * turns, 102.0 * turns, 103.0 * turns, 105.0 * turns]
    typed = [v - 100 * turns * (i == spot) for i, v in enumerate(true)]
    for index, value in enumerate(typed, start=1):
        person.read(f"s{index}", f"{value:g}", unit="thou")
    found = asked(person)
    assert (found.why, found.station.id) == ("turn", f"s{spot + 1}")
    panel = person.panel()
    assert panel.name == "doubt"
    assert panel.aim is None
    assert f"{true[spot]:+.1f}".replace("-", "\u2212") in plain(panel.headline, "thou", 0.00254)
    press(person, "M")
    assert doubted(desk.load(person.events)) is None
    needle = desk.load(person.events).passes[0].readings[f"s{spot + 1}"].needle_mm
    assert needle == pytest.approx(true[spot] * 0.0254)
    assert person.panel().name != "doubt"


def test_a_reading_that_is_right_is_kept_by_one_key_until_it_is_typed_anew() -> None:
    person = long_travel()
    for index, value in enumerate((104, 102, 2, 105), start=1):
        person.read(f"s{index}", str(value), unit="thou")
    press(person, "K")
    assert doubted(desk.load(person.events)) is None
    assert "Reading kept as it is" in plain(person.log()[-1].what, "thou", 0.001)
    person.undo()
    assert asked(person).why == "turn"


def test_large_runout_that_is_no_slip_is_not_asked_about() -> None:
    for high in np.linspace(0, 350, 15):
        for off in (0.5, 0.9, 1.27, 2.0, 2.54):
            person = long_travel()
            for index in range(4):
                person.read(f"s{index + 1}", f"{off * math.cos(math.radians(90 * index - high)):.4f}")
            assert doubted(desk.load(person.events)) is None, (high, off)


def test_a_needle_at_its_stop_is_no_reading() -> None:
    person = Person(travel_mm=0.25)
    person.read_all(0.0, 0.1, 0.25)
    assert asked(person).why == "end"
    press(person, "E")
    reading = desk.load(person.events).passes[0].readings["s3"]
    assert (reading.needle_mm, reading.off) == (None, 1)


def test_the_first_spot_again_a_turn_off_is_asked_about() -> None:
    person = long_travel()
    person.read_all(2.60, 2.62, 2.61, 2.63)
    person.read("s1", "0.06", closing=True)
    found = asked(person)
    assert (found.why, found.reading.closing) == ("turn", True)
    assert found.meant_mm == pytest.approx(2.60)


def test_a_jump_that_the_move_does_not_explain_is_asked_about_and_one_it_does_is_not() -> None:
    person = Person(travel_mm=5.0)
    person.read_all(0.0, 0.10, 0.20, 0.10, closing=0.0)
    while person.solve().moves:
        person.do()
        if desk.load(person.events).next_pass_no == 2:
            break
    aims = desk.load(person.events).moves[-1].move.aims
    person.read("s1", f"{aims['s1'] + 0.2:.4f}")  # it got far more than was asked, as jaws do
    assert doubted(desk.load(person.events)) is None
    person.read("s2", f"{aims['s2'] - 1.0:.4f}")
    found = asked(person)
    assert (found.why, found.station.id) == ("jump", "s2")
    assert found.off_mm == pytest.approx(-1.0, abs=1e-3)


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_an_honest_machine_is_never_asked_about(procedure: str) -> None:
    rng, plan = np.random.default_rng(500), example(procedure, 500)
    person = Operator(plan, machine(plan, rng), rng)
    person.run(max_passes=8)
    assert not person.state.kept


def hundredths() -> Person:
    """A dial of 0.01 mm, of which halves are read; the screen is in thou."""
    gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.01, travel_mm=5.0, read_to="half")
    return Person(gauge=gauge, unit="thou")


def test_readings_finer_than_the_dial_are_asked_about_and_one_key_puts_them_in_their_unit() -> None:
    person = hundredths()
    for index, typed in enumerate(("0.20", "0.215", "0.21"), start=1):
        person.read(f"s{index}", typed, unit="thou")
    found = asked(person)
    assert (found.why, found.unit, found.station.id) == ("fine", "mm", "s3")
    panel = person.panel()
    assert plain(panel.headline, "thou", 0.001) == "Is that in thou? It is finer than the dial."
    assert [a.label for a in panel.others] == ["They are in mm", "It is right"]
    press(person, "M")
    read = desk.load(person.events).passes[0].readings
    assert [read[s].needle_mm for s in ("s1", "s2", "s3")] == pytest.approx([0.2, 0.215, 0.21])
    assert doubted(desk.load(person.events)) is None


def test_a_comma_is_read_as_everywhere_and_inches_have_their_word() -> None:
    gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=0.0254, travel_mm=5.0, read_to="half")
    person = Person(gauge=gauge, unit="mm")
    for index, typed in enumerate(("0,008", "0.0085", "0,0075"), start=1):
        person.read(f"s{index}", typed, unit="mm")
    assert (asked(person).why, asked(person).unit) == ("fine", "inches")
    assert person.panel().others[0].label == "They are in inches"
    press(person, "M")
    read = desk.load(person.events).passes[0].readings
    assert [read[s].needle_mm for s in ("s1", "s2", "s3")] == pytest.approx([0.2032, 0.2159, 0.1905])


def test_readings_that_are_said_to_be_that_fine_are_not_asked_about_again() -> None:
    person = hundredths()
    for index, typed in enumerate(("0.20", "0.21", "0.22"), start=1):
        person.read(f"s{index}", typed, unit="thou")
    press(person, "K")
    person.read("s4", "0.23", unit="thou")
    assert doubted(desk.load(person.events)) is None


@pytest.mark.parametrize("typed", [("0.213", "0.217", "0.214"), ("0.22 thou", "0.21 thou", "0.24 thou")])
def test_where_no_unit_fits_or_one_was_typed_none_is_offered(typed: tuple[str, ...]) -> None:
    person = hundredths()
    for index, text in enumerate(typed, start=1):
        person.read(f"s{index}", text, unit="thou")
    assert (asked(person).why, asked(person).instead) == ("fine", ())
    assert [a.key for a in person.panel().others] == ["K"]


def test_what_an_indicator_sends_may_be_as_fine_as_it_likes() -> None:
    person = hundredths()
    for index, text in enumerate(("0.2004 mm", "0.2007 mm", "0.2001 mm", "0.2002 mm"), start=1):
        live = ev.Live(gauge="g", raw=text, at=person.at)
        typed = Typed(text=text, unit="thou")
        person.send(ev.ReadingTaken(pass_no=1, station_id=f"s{index}", typed=typed, live=live))
    assert doubted(desk.load(person.events)) is None


@pytest.mark.parametrize("part", [0.1, 0.2, 0.25, 0.5, 1.0])
@pytest.mark.parametrize("unit", ["thou", "mm", "tenth", "um"])
def test_what_a_hand_reads_is_never_too_fine_whatever_it_is_typed_in(part: float, unit: Unit) -> None:
    rng = np.random.default_rng(3)
    for graduation in (0.001, 0.002, 0.01, 0.00254, 0.0127, 0.0254):
        gauge = Gauge(id="g", name="Plunger", kind="plunger", graduation_mm=graduation, travel_mm=5.0)
        for _ in range(20):
            person = Person(gauge=gauge)
            for index, count in enumerate(rng.integers(0, 7, 4), start=1):
                text = format_length((1 + count * part) * graduation, unit, graduation / 10, bare=True).replace(
                    "\u2212", "-"
                )
                person.read(f"s{index}", text, unit=unit)
                assert doubted(desk.load(person.events)) is None, (graduation, text)


def test_the_same_reading_typed_in_two_units_is_no_finer_for_it() -> None:
    person = Person(gauge=Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=0.2))
    for index, text in enumerate(("0.01100 mm", "0.4331 thou", "0.01200 mm", "0.4724 thou"), start=1):
        person.read(f"s{index}", text, unit="mm")
        assert doubted(desk.load(person.events)) is None


def test_gaps_typed_in_another_unit_are_asked_about_too() -> None:
    """By a rule, 25 times too small, they would all be within the limit."""
    plan = example("rough", 4).model_copy(update={"unit": "thou"})
    rng = np.random.default_rng(4)
    work = machine(plan, rng)
    person = Operator(plan, work, rng)
    while there(current_step(desk.procedure_of(plan), person.state)).id != "read":
        person.step()
    for text in ("31.5", "32.25", "30"):
        station, _ = there(person.state.unread(person.state.being_read))
        typed = Typed(text=text, unit="thou")
        person.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=typed))
    found = there(doubted(person.state))
    assert (found.why, found.unit) == ("fine", "mm")
    panel = desk.show(person.events, "x").panels[0]
    assert plain(panel.headline, "thou", 0.001).endswith("It is finer than the rule.")
