"""The four-jaw: which jaw, which way, how far, the aim, and when to stop."""

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.core.bench_person import Person
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.memory import Lesson, remember
from velvet_hand.core.move import Jaws, Move
from velvet_hand.core.scene import ChuckScene
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Memory
from velvet_hand.core.wording import plain


def said(move: Move) -> str:
    return plain(move.sentence, "thou", 0.0005)


def jaws(move: Move) -> list[tuple[str, int]]:
    assert move.do == "jaws"
    ease = [("ease", move.ease.number)] if move.ease else []
    return [*ease, ("draw_in", move.draw.number)]


def test_the_worked_example_of_four_readings() -> None:
    # 0.46, 0.31, -0.14, 0.05 over jaws 1..4, lead 5: offset (0.30, 0.13)
    person = Person(lead_mm=5.0, travel_mm=1.0)
    person.read_all(0.46, 0.31, -0.14, 0.05)
    first, second = person.solve().moves
    assert jaws(first) == [("ease", 3), ("draw_in", 1)]
    assert jaws(second) == [("ease", 4), ("draw_in", 2)]
    assert as_a(Jaws, first).draw.key_deg == pytest.approx(21.6, abs=0.01)
    assert as_a(Jaws, second).draw.key_deg == pytest.approx(9.4, abs=0.05)
    assert first.aim_mm == pytest.approx(0.16, abs=1e-9)  # the pair's mean, exactly
    assert there(first.needle).label == "jaw 1"
    assert said(first) == "Back off jaw 3, then tighten jaw 1 down to the aim."
    # the first pair may drag the second past its aim
    by_then = "Past the aim by then? Back off jaw 2 and tighten jaw 4 back to it."
    assert by_then in plain(second.reason, "mm", 0.01)
    assert "by then" not in plain(first.reason, "mm", 0.01)


@pytest.mark.parametrize("surface", ["outside", "inside"])
@pytest.mark.parametrize("went", ["plus", "minus"])
def test_the_high_side_is_drawn_in_outside_and_the_low_side_in_a_bore(surface: str, went: str) -> None:
    sign = 1 if went == "plus" else -1
    person = Person(surface=surface, went=went)
    person.read_all(0.0, 0.0, -0.2 * sign, 0.0)  # the surface is nearer the gauge at jaw 1
    move = person.solve().moves[0]
    assert as_a(Jaws, move).draw.number == (1 if surface == "outside" else 3)
    assert as_a(Jaws, move).ease is not None
    assert there(as_a(Jaws, move).ease).number == (3 if surface == "outside" else 1)
    assert move.aim_mm == pytest.approx(-0.1 * sign, abs=1e-9)
    rising = (surface == "inside") == (went == "plus")
    assert there(move.needle).goes == ("rises" if rising else "falls")


def test_a_pass_is_read_to_its_end_before_anything_is_moved() -> None:
    person = Person(stations_deg=tuple(45.0 * i for i in range(8)))
    values = [0.03 * math.cos(math.radians(45 * i)) for i in range(8)]
    for n, value in enumerate(values, start=1):
        assert person.panel().name == "reading"
        person.read(f"s{n}", f"{value:.6f}")
    assert person.panel().name == "high_spot"  # so far off that the closing reading says nothing new


def test_without_a_press_test_nothing_is_advised() -> None:
    person = Person(ready=False)
    person.read_all(0.2, 0.0, -0.2, 0.0)
    assert person.solve().moves == ()
    assert person.solve().figures == ()


def test_one_opposed_pair_is_enough_for_a_move() -> None:
    person = Person(school="pairs")
    assert [s.jaw for s in desk.load(person.events).stations] == [1, 3, 2, 4]
    person.read("s1", "0")
    assert person.solve().moves == ()
    person.read("s2", "-0.3")
    move = person.solve().moves[0]
    assert jaws(move) == [("ease", 3), ("draw_in", 1)]
    assert move.aim_mm == pytest.approx(-0.15, abs=1e-9)


def test_a_good_pair_sends_to_the_other_pair() -> None:
    person = Person(school="pairs")
    person.read("s1", "0")
    person.read("s2", "0.002")
    assert person.solve().moves == ()
    assert "jaws 2 and 4" in plain(person.panel().headline, "thou", 0.0005)


def test_in_the_last_two_thou_a_jaw_is_only_drawn_in() -> None:
    person = Person()
    person.read_all(0.05, 0.0, -0.05, 0.0)
    move = person.solve().moves[0]
    assert jaws(move) == [("draw_in", 1)]
    assert said(move).startswith("Just tighten jaw 1 down")
    person = Person()
    person.read_all(0.06, 0.0, -0.06, 0.0)
    assert jaws(person.solve().moves[0])[0] == ("ease", 3)


def test_jaw_numbers_that_run_clockwise_are_followed() -> None:
    person = Person(numbering="cw")
    labels = [s.label for s in desk.load(person.events).stations]
    assert labels == ["Jaw 1", "Jaw 4", "Jaw 3", "Jaw 2"]
    person.read_all(0.0, 0.2, 0.0, -0.2)  # high at 90 degrees, where jaw 4 is
    assert as_a(Jaws, person.solve().moves[0]).draw.number == 4


def test_a_half_done_move_has_its_state_and_a_way_back() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    person.do(phase="eased")
    panel = person.panel()
    assert panel.name == "half"
    assert plain(panel.headline, "thou", 0.0005) == "Jaw 3 is backed off. Now tighten jaw 1 to the aim."
    assert "reads +7.87 thou" in plain(panel.why[0], "thou", 0.0005)
    with pytest.raises(Exception, match="half done"):
        person.read("s1", "0")
    person.do(phase="back")
    assert person.panel().name == "reading"
    assert desk.load(person.events).next_pass_no == 2


def test_what_was_asked_is_set_against_what_was_got_and_learned_from() -> None:
    person = Person()
    person.read_all(0.5, 0.0, -0.5, 0.0)
    person.do()
    person.read_all(0.1, 0.0, -0.1, 0.0)
    line = person.view().passes[0]
    assert (line.asked_mm, line.got_mm) == pytest.approx((0.5, 0.4), abs=1e-3)
    move = person.solve().moves[0]
    assert there(move.asked).mm is not None
    assert there(move.asked).mm > 0.11  # it answered 0.8, so the aim goes past the middle
    assert "Moves of these jaws come up 1" in plain(move.reason, "thou", 0.0005)


def test_the_kick_of_tightening_is_shown_and_left_room_for() -> None:
    person = Person()
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    person.read_all(0.010, 0.0, -0.010, 0.0, closing=0.010)
    kick = next(f for f in person.solve().figures if f.id == "kick")
    assert kick.mm == pytest.approx(0.010, abs=1e-4)
    assert "jaw 1" in plain(kick.note, "thou", 0.0005)
    person.send(ev.Proved(pass_no=2))
    move = person.solve().moves[0]
    assert as_a(Jaws, move).draw.number == 1
    assert there(move.asked).mm == pytest.approx(0.0187, abs=1e-3)  # 0.010 to the middle, 0.0087 against the next kick
    assert "Tightening shifts it" in plain(move.reason, "thou", 0.0005)


def test_drift_is_taken_out_and_told() -> None:
    person = Person()
    person.read_all(0.0, 0.002, 0.004, 0.006, closing=0.008)
    solution = person.solve()
    assert solution.x_mm == pytest.approx(0.0, abs=1e-4)  # but for what the scatter of two readings may be of it
    assert solution.y_mm == pytest.approx(0.0, abs=1e-4)
    assert [c.code for c in solution.caveats] == ["drift"]


def test_a_surface_rougher_than_the_limit_stops_the_chase() -> None:
    values = [0.02 * math.cos(math.radians(2 * a)) for a in range(0, 360, 45)]
    person = Person(stations_deg=tuple(45.0 * i for i in range(8)))
    person.read_all(*values)
    solution = person.solve()
    assert solution.ready
    assert "out of round" in plain(solution.stop, "thou", 0.0005)
    form = next(f for f in solution.figures if f.id == "form")
    assert form.mm == pytest.approx(0.04, abs=1e-6)
    assert plain(form.note, "thou", 0.0005) == "oval"


def test_what_gauge_and_floor_cannot_tell_stops_the_chase() -> None:
    person = Person(floor_mm=0.02)
    person.read_all(0.004, 0.0, -0.004, 0.0)
    assert person.solve().ready
    assert "too small for this indicator to show" in plain(person.solve().stop, "thou", 0.0005)


def test_after_a_move_it_is_tightened_straight_when_that_is_worth_it() -> None:
    known = Lesson(
        taught={"gain_1": (0.9, 1e-5), "gain_2": (0.9, 1e-5), "shift_1": (0.0, 1e-8), "shift_2": (0.0, 1e-8)}
    )
    for memory, off, straight in ((Memory(), 1.0, False), (Memory(), 0.15, True), (remember([known] * 12), 0.15, True)):
        person = Person(memory=memory, limit_thou="1")
        person.read_all(off, 0.0, -off, 0.0, closing=off)
        person.do()
        panel = person.panel()
        assert (panel.name == "enough") is straight
        if straight:
            assert plain(panel.headline, "thou", 0.0005).startswith("Now tighten, then read.")
            assert plain(panel.kicker, "thou", 0.0005) == "Pass 1 · moved, not read again"
            assert ["in 10 that it holds" in plain(why, "thou", 0.0005) for why in panel.why] == [
                True
            ]  # nothing of before the move is judged


@pytest.mark.parametrize(("surface", "draw"), [("outside", 1), ("inside", 3)])
def test_off_the_end_still_says_which_way(surface: str, draw: int) -> None:
    person = Person(travel_mm=0.25, surface=surface)
    person.read("s1", "0")
    person.read("s3", "-off")
    move = person.solve().moves[0]
    assert as_a(Jaws, move).draw.number == draw
    assert (there(move.needle).label, move.aim_mm, move.rezero) == ("jaw 1", -0.25, True)
    assert [b.type for b in there(person.panel().primary).events] == ["move_done", "zero_set"]


def test_off_at_both_ends_the_same_way_asks_for_another_zero() -> None:
    person = Person(travel_mm=0.25)
    person.read("s1", "+off")
    person.read("s3", "+off")
    assert person.solve().moves == ()
    panel = person.panel()
    assert panel.primary is not None
    assert [b.type for b in panel.primary.events] == ["zero_set"]


def test_off_without_a_side_asks_which_end() -> None:
    person = Person(travel_mm=0.25)
    person.read("s1", "0")
    person.read("s3", "off")
    assert [c.code for c in person.solve().caveats] == ["off_which_end"]


def test_the_other_school_is_offered_beside() -> None:
    person = Person(school="pairs")
    person.read("s1", "0.1")
    person.read("s2", "-0.1")
    person.read("s3", "0.4")
    person.read("s4", "-0.4")
    names = [p.name for p in person.view().panels]
    assert names == ["pairs", "high_spot"]
    person.send(ev.MoveDone(pass_no=1, move_id=_first(person, "high_spot")))
    assert as_a(Jaws, desk.load(person.events).moves[0].move).draw.number == 2


def _first(person: Person, name: str) -> str:
    panel = next(p for p in person.view().panels if p.name == name)
    assert panel.primary is not None
    body = panel.primary.events[0]
    assert isinstance(body, ev.MoveDone)
    return body.move_id


@given(
    st.floats(0.06, 4), st.floats(0, 360), st.sampled_from(["outside", "inside"]), st.sampled_from(["plus", "minus"]),
    st.sampled_from(["ccw", "cw"]), st.sampled_from([4, 8]),
)  # fmt: skip
@settings(max_examples=40, deadline=None)
def test_the_advised_moves_bring_exact_geometry_to_zero(
    e_mm: float, deg: float, surface: str, went: str, numbering: str, count: int
) -> None:
    person = Person(
        surface=surface, went=went, numbering=numbering, travel_mm=20.0, graduation_mm=1e-5, stations_deg=_round(count)
    )
    x, y = e_mm * math.cos(math.radians(deg)), e_mm * math.sin(math.radians(deg))
    person.read_all(*_seen(person, x, y))
    for _ in range(len(person.solve().moves)):
        move = person.solve().moves[0]
        person.do()
        t = math.radians(there(move.asked).deg)
        assert there(move.asked).mm is not None
        x, y = x + there(move.asked).mm * math.cos(t), y + there(move.asked).mm * math.sin(t)
        # the aim is what the gauge then shows, with the other pair as it is by now
        assert move.aim_mm == pytest.approx(_needle(person, there(move.needle).deg, x, y), abs=2e-6)
    assert math.hypot(x, y) < max(
        0.35 * 0.00635 * 1.5, 0.1 * e_mm
    )  # a small move beside a long one waits for the next pass


def _round(count: int) -> tuple[float, ...]:
    return tuple(360.0 / count * i for i in range(count))


def _needle(person: Person, deg: float, x: float, y: float) -> float:
    """Needle value by plane geometry: the ball's center on its ray, at the ball's distance from the circle."""
    plan = person.plan
    bore = plan.part.surface == "inside"
    reach = 31.0 + (-1.0 if bore else 1.0)
    t = math.radians(deg)
    b = x * math.cos(t) + y * math.sin(t)
    s = b + math.sqrt(b * b - x * x - y * y + reach * reach)
    near = -(s - reach) if bore else s - reach
    return near if desk.load(person.events).push_reads == 1 else -near


def _seen(person: Person, x: float, y: float) -> list[float]:
    stations = desk.load(person.events).stations
    return [_needle(person, s.angle_deg, x, y) for s in stations]


@given(st.lists(st.integers(-200, 200), min_size=4, max_size=4))
@settings(max_examples=30, deadline=None)
def test_thou_and_millimeters_agree(tenths: list[int]) -> None:
    inch, metric = Person(), Person()
    for index, value in enumerate(tenths, start=1):
        inch.read(f"s{index}", str(value), unit="tenth")
        metric.read(f"s{index}", f"{value * 0.00254:.5f}", unit="mm")
    mine, theirs = inch.solve(), metric.solve()
    assert [m.id for m in mine.moves] == [m.id for m in theirs.moves]
    assert mine.judged == theirs.judged


@pytest.mark.parametrize("clock", [0.0, 90.0, 180.0, 270.0])
@pytest.mark.parametrize("carrier", ["work_turns", "gauge_turns"])
@pytest.mark.parametrize("view", ["tailstock", "operator"])
def test_picture_and_sentence_name_the_same_jaw_at_the_same_place(clock: float, carrier: str, view: str) -> None:
    person = Person(gauge_clock_deg=clock, carrier=carrier, view=view)
    person.read_all(0.0, 0.3, 0.0, -0.3)
    panel = person.panel()
    move, scene = person.solve().moves[0], panel.scene
    acting = {j.jaw: j.do for j in as_a(ChuckScene, scene).jaws if j.do}
    assert acting == {number: do for do, number in jaws(move)}
    drawn = next(j for j in as_a(ChuckScene, scene).jaws if j.do == "draw_in")
    assert f"ighten jaw {drawn.jaw} " in plain(panel.headline, "thou", 0.0005)
    assert drawn.at_deg == pytest.approx(as_a(ChuckScene, scene).gauge.at_deg)
    assert as_a(ChuckScene, scene).gauge.at_deg == pytest.approx(clock if carrier == "work_turns" else 90.0)
    assert as_a(ChuckScene, scene).gauge.needle_mm == there(panel.aim).now_mm
    # the work is drawn off toward the jaw that is drawn in
    at = math.radians(drawn.at_deg)
    assert as_a(ChuckScene, scene).x_mm * math.cos(at) + as_a(ChuckScene, scene).y_mm * math.sin(at) == pytest.approx(
        0.3, abs=1e-6
    )
    assert as_a(ChuckScene, scene).view_turn_deg == (90.0 if view == "operator" else 0.0)
    assert panel.aim is not None
    assert (panel.aim.station_id, panel.aim.aim_mm) == (there(move.needle).station_id, move.aim_mm)
    assert (panel.aim.label, panel.aim.now_mm) == (f"jaw {drawn.jaw}", 0.3)
