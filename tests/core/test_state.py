"""The fold: what fits, what does not, and what undoing leaves."""

import random
from uuid import uuid4

import pytest

from tests.core.bench_person import CAUTIONS, Person
from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, NotFound, NotNow
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import plain

MM = Typed(text="0.1", unit="mm")


def reading(number: int, station: str = "s1", text: str = "0.1", *, closing: bool = False) -> ev.ReadingTaken:
    return ev.ReadingTaken(pass_no=number, station_id=station, typed=Typed(text=text, unit="mm"), closing=closing)


def test_the_path_begins_at_a_hold_point_that_wants_every_caution() -> None:
    person = Person(ready=False)
    assert person.panel().hold
    with pytest.raises(BadInput, match="every caution"):
        person.send(ev.StepPassed(step="make_safe", checked=CAUTIONS[:-1]))
    person.send(ev.StepPassed(step="make_safe", checked=CAUTIONS))
    assert person.view().step == "clean"


def test_a_step_may_be_skipped_with_a_reason_that_is_kept() -> None:
    person = Person(ready=False)
    person.send(ev.StepPassed(step="make_safe", checked=CAUTIONS))
    person.send(ev.StepPassed(step="clean", reason="cleaned for end B just now"))
    assert "cleaned for end B" in plain(person.log()[-1].what, "thou", 0.001)


def test_the_gauge_step_wants_press_test_and_zero() -> None:
    person = Person(ready=False)
    for step, checked in (("make_safe", CAUTIONS), ("clean", ()), ("rough_in", ())):
        person.send(ev.StepPassed(step=step, checked=checked))
    with pytest.raises(NotNow, match="direction is not known"):
        person.send(ev.StepPassed(step="set_gauge"))


@pytest.mark.parametrize("step", ["nip_up", "prove", "clear_to_run"])
def test_tightening_proof_and_clearance_cannot_be_passed_by_saying_so(step: str) -> None:
    checked = ("gauge_off", "key_out", "by_hand", "guard")
    with pytest.raises(NotNow):
        Person().send(ev.StepPassed(step=step, checked=checked))


def test_undo_takes_back_the_last_thing_a_reading_a_move_or_a_pass() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    person.do()
    assert desk.load(person.events).next_pass_no == 2
    person.undo()
    state = desk.load(person.events)
    assert (state.next_pass_no, state.moves) == (1, [])
    person.undo()
    assert len(desk.load(person.events).passes[0].readings) == 3
    assert [line.undone for line in person.log()].count(True) == 2
    assert len(person.events) == 7 + 4 + 1 + 2  # nothing is ever removed


def test_undo_of_anything_but_the_last_is_stale() -> None:
    person = Person()
    first = person.read("s1", "0.1")
    person.read("s2", "0.1")
    with pytest.raises(NotNow) as caught:
        person.send(ev.Undone(event_id=first.id))
    assert caught.value.code == "stale"


def test_the_opening_cannot_be_undone() -> None:
    person = Person(ready=False)
    with pytest.raises(NotNow, match="nothing left to undo"):
        person.send(ev.Undone(event_id=person.events[0].id))


def test_a_reading_for_another_pass_is_stale() -> None:
    with pytest.raises(NotNow, match="at pass 1"):
        Person().send(reading(2))


def test_a_station_is_read_once_in_a_pass_and_then_corrected() -> None:
    person = Person()
    first = person.read("s1", "0.1")
    with pytest.raises(NotNow, match="has been read"):
        person.send(reading(1))
    person.send(ev.ReadingCorrected(reading_id=first.id, typed=Typed(text="0.2", unit="mm")))
    assert person.view().tray.cells[0].needle_mm == pytest.approx(0.2)
    with pytest.raises(NotFound):
        person.send(ev.ReadingCorrected(reading_id=uuid4(), typed=MM))


def test_a_move_that_is_no_longer_on_offer_is_stale() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    old = person.solve().moves[0]
    person.do()
    person.read("s1", "0")
    with pytest.raises(NotNow):
        person.send(ev.MoveDone(pass_no=1, move_id=old.id))


def test_the_advice_that_was_shown_is_kept_with_the_move() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    shown = person.solve().moves[0]
    person.do()
    assert person.events[-1].shown == shown


def test_zero_set_afresh_begins_a_frame_and_never_mixes_readings() -> None:
    person = Person()
    person.read("s1", "0.1")
    person.send(ev.ZeroSet(station_id="s2", why="bumped"))
    person.read("s3", "-0.3")
    state = desk.load(person.events)
    assert [p.frames for p in state.passes] == [{"": 1}, {"": 2}]
    assert list(state.passes[1].readings) == ["s3"]
    assert person.solve().moves == ()


def test_a_proof_wants_tightening_a_full_pass_and_the_closing_reading() -> None:
    person = Person()
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    with pytest.raises(NotNow, match="after the final tightening"):
        person.send(ev.Proved(pass_no=1))
    person.send(ev.Tightened())
    person.read("s1", "0")
    person.read("s2", "0")
    with pytest.raises(NotNow) as caught:
        person.send(ev.Proved(pass_no=2))
    assert "Jaw 3, Jaw 4" in caught.value.fix
    person.read("s3", "0")
    person.read("s4", "0")
    with pytest.raises(NotNow):
        person.send(ev.Proved(pass_no=2))
    person.read("s1", "0", closing=True)
    person.send(ev.Proved(pass_no=2))
    assert person.view().verdict is not None
    assert person.view().step == "clear_to_run"


def test_whatever_touches_a_proof_takes_its_verdict_back() -> None:
    person = Person()
    person.send(ev.Tightened())
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    person.send(ev.Proved(pass_no=1))
    person.send(ev.SpotMarked(pass_no=1, station_id="s4"))
    assert person.view().verdict is None
    assert person.view().step == "prove"


def test_a_move_after_tightening_wants_tightening_and_proof_again() -> None:
    person = Person()
    person.send(ev.Tightened())
    person.read_all(0.1, 0.0, -0.1, 0.0, closing=0.1)
    person.send(ev.Proved(pass_no=1))
    assert there(person.view().verdict).outcome == "outside"
    person.do()
    assert person.view().step == "read"
    assert not desk.load(person.events).tight


def test_it_may_be_accepted_with_a_reason_and_only_with_one() -> None:
    person = Person()
    person.send(ev.Tightened())
    person.read_all(0.1, 0.0, -0.1, 0.0, closing=0.1)
    person.send(ev.Proved(pass_no=1))
    with pytest.raises(BadInput, match="No reason"):
        person.send(ev.Accepted(reason="  "))
    person.send(ev.Accepted(reason="rough turning first"))
    assert person.view().accepted == "rough turning first"
    assert person.view().step == "clear_to_run"


def test_fewer_than_three_good_stations_are_said_in_words() -> None:
    person = Person()
    person.read("s1", "0")
    person.read("s2", "0.1")
    person.send(ev.SpotMarked(pass_no=1, station_id="s3"))
    person.send(ev.SpotMarked(pass_no=1, station_id="s4"))
    assert "Only 2 good readings" in plain(person.panel().headline, "thou", 0.001)


def test_a_set_up_that_was_taken_off_takes_notes_and_nothing_else() -> None:
    person = Person()
    person.send(ev.TakenOff())
    with pytest.raises(NotNow, match="taken off"):
        person.read("s1", "0")
    person.send(ev.Noted(text="ring 2 was right"))
    assert not person.view().standing


@pytest.mark.parametrize("seed", range(6))
def test_any_order_of_events_leaves_a_state_that_can_be_shown(seed: int) -> None:
    """Whatever is accepted can be folded and shown; whatever is refused changes nothing."""
    chance = random.Random(seed)
    person = Person(ready=bool(seed % 2), travel_mm=0.5)
    for _ in range(120):
        before = list(person.events)
        try:
            person.send(_any_event(chance, person))
        except (BadInput, NotNow, NotFound):
            assert person.events == before
        assert person.view().panels


def _any_event(chance: random.Random, person: Person) -> ev.ClientBody:
    number, station = chance.randint(1, 4), f"s{chance.randint(1, 4)}"
    state = desk.load(person.events)
    moves = person.solve().moves
    move = moves[0].id if moves else "none"
    text = chance.choice(["0", "0.1", "-0.3", "+off", "-off", "off"])
    here = state.next_pass_no if chance.random() < 0.8 else number
    kinds: list[ev.ClientBody] = [
        reading(here, station, text),
        reading(here, station, text),
        reading(here, station, text, closing=True),
        ev.SpotMarked(pass_no=here, station_id=station),
        ev.MoveDone(pass_no=here, move_id=move, phase=chance.choice(["done", "eased", "back"])),
        ev.Tightened(),
        ev.Proved(pass_no=here),
        ev.ZeroSet(station_id=station),
        ev.PassClosed(pass_no=here),
        ev.PressTested(went=chance.choice(["plus", "minus"])),
        ev.StepPassed(
            step=chance.choice(["make_safe", "clean", "read", "set_gauge", "clear_to_run"]), checked=CAUTIONS
        ),
        ev.Accepted(reason=chance.choice(["", "why not"])),
        ev.Undone(event_id=state.effective[-1].id),
    ]
    return chance.choice(kinds)


def test_a_kept_reading_means_what_it_meant_when_it_was_typed() -> None:
    person = Person(graduation_mm=0.01)
    gauge = person.plan.gauge.model_copy(update={"turn_mm": 1.0, "travel_mm": 5.0})
    plan = person.plan.model_copy(update={"gauge": gauge})
    first = person.events[0].model_copy(update={"body": ev.Opened(plan=plan)})
    person.events[0] = first
    person.read("s1", "2+1")
    assert desk.load(person.events).passes[0].readings["s1"].needle_mm == pytest.approx(2.01)
    raw = person.events[-1].model_dump(mode="json", exclude={"version"})
    old = ev.Event.model_validate(raw, strict=False)
    assert old.version == 1
    state = desk.load([*person.events[:-1], old])
    assert state.passes[0].readings["s1"].needle_mm == pytest.approx(3.0)


def test_a_comma_that_may_be_two_things_is_refused_and_nothing_is_kept() -> None:
    person = Person()
    with pytest.raises(BadInput) as caught:
        person.read("s1", "1,011")
    assert (caught.value.code, caught.value.field) == ("comma_unclear", "typed.text")
    assert not desk.load(person.events).passes
