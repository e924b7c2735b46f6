"""The quick look: a few spots after a move or the last grip, that tell what has changed and prove nothing."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from tests.core.bench_person import Person
from tests.core.test_view import words
from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import NotNow
from velvet_hand.core.fit.circle import moved_by, ray
from velvet_hand.core.measure.edge import Edge
from velvet_hand.core.measure.ring import Ring
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.units import Typed

EIGHT = tuple(45.0 * i for i in range(8))


def off(person: Person, x: float, y: float) -> list[float]:
    """What the needle reads at each spot with the center there, plus being toward, outside."""
    seen = (float(ray(s.angle_deg, x, y, 32.0, 1)) for s in desk.load(person.events).stations)
    return [0.0 if abs(mm) < 0.0005 else mm for mm in seen]


def tightened(quick: bool = True, first: tuple[float, float] = (0.020, 0.005)) -> Person:
    """A full pass read, a move made, and all tight."""
    person = Person(stations_deg=EIGHT)
    values = off(person, *first)
    person.read_all(*values, closing=values[0])
    person.do(0)
    person.do(0)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened(quick=quick))
    return person


def state_of(person: Person) -> State:
    return desk.load(person.events)


@given(
    st.floats(-0.4, 0.4), st.floats(-0.4, 0.4), st.floats(-0.4, 0.4), st.floats(-0.4, 0.4),
    st.sampled_from([1, -1]), st.floats(35, 145),
)  # fmt: skip
def test_two_changes_say_where_the_center_went(
    x: float, y: float, to_x: float, to_y: float, sign: int, turn: float
) -> None:
    at = (10.0, 10.0 + turn)
    changed = [float(ray(t, to_x, to_y, 20.0, sign) - ray(t, x, y, 20.0, sign)) for t in at]
    by, spread = moved_by(at, changed, (x, y), 20.0, sign)
    assert by == pytest.approx((to_x - x, to_y - y), abs=1e-9)
    assert np.trace(spread) == pytest.approx(2 / math.sin(math.radians(turn)) ** 2)


def test_two_spots_stand_for_a_full_pass_with_the_same_zero() -> None:
    person = tightened()
    asked = person.view().tray.cells
    assert [c.label for c in asked] == ["Jaw 1", "Jaw 2"]
    there_now = off(person, 0.004, -0.003)
    person.read("s1", f"{there_now[0]:.6f}")
    person.read("s3", f"{there_now[2]:.6f}")
    state = state_of(person)
    solution = person.solve()
    assert (solution.x_mm, solution.y_mm) == pytest.approx((0.004, -0.003), abs=2e-5)
    assert solution.judged is None  # it says where the part lies, and proves nothing
    assert state.passes[-1].quick
    assert person.view().passes[-1].outcome is None
    figures = {f.id: f for f in solution.figures}
    before = state.passes[0]
    ring = state.measures[""]
    assert isinstance(ring, Ring)
    assert there(figures["tir"].u_mm) > ring.look(state, before).tir_u_mm  # two spots know less than eight


def test_one_reading_that_scattered_does_not_mislead_the_look_after_it() -> None:
    """A look is held against the surface as all readings have it, an oval one here, not against one reading of the pass before."""
    person = Person(stations_deg=EIGHT)
    oval = [0.003 * math.cos(2 * math.radians(deg)) for deg in EIGHT]
    values = [a + b for a, b in zip(off(person, 0.020, 0.005), oval, strict=True)]
    for number in (1, 2):
        scattered = [values[0] + 0.004 * (number == 2), *values[1:]]
        person.read_all(*scattered, closing=scattered[0])
        if number == 1:
            person.send(ev.PassClosed(pass_no=1))
    person.do(0)
    person.send(ev.MoveDone(pass_no=2, move_id=person.solve().moves[0].id, quick=True))
    now = [a + b for a, b in zip(off(person, 0.004, -0.003), oval, strict=True)]
    person.read("s1", f"{now[0]:.6f}")
    person.read("s3", f"{now[2]:.6f}")
    solution = person.solve()
    assert (
        abs(complex(there(solution.x_mm), there(solution.y_mm)) - (0.004 - 0.003j)) < 0.0025
    )  # 0.004 by the reading alone


def test_a_quick_look_is_never_taken_for_the_proof() -> None:
    person = tightened()
    for spot in ("s1", "s3"):
        person.read(spot, "0")
    with pytest.raises(NotNow):
        person.send(ev.Proved(pass_no=2))
    assert words(person.panel().headline) == "Now the full pass. Read jaw 1."
    assert state_of(person).next_pass_no == 3
    person.read_all(*[0.0] * 8, closing=0.0)
    person.send(ev.Proved(pass_no=3))
    assert there(state_of(person).verdict).outcome == "holds"


def test_what_a_quick_look_shows_is_corrected_at_once() -> None:
    person = tightened()
    values = off(person, 0.015, 0.0)
    person.read("s1", f"{values[0]:.6f}")
    person.read("s3", f"{values[2]:.6f}")
    panel = person.panel()
    assert words(panel.headline).startswith("Just tighten jaw 1 down")
    assert there(there(panel.aim).now_mm) == pytest.approx(values[0], abs=1e-6)
    assert [a.label for a in panel.others][-2:] == ["Wrong way", "Indicator bumped"]
    person.do(0)
    assert not state_of(person).tight


@pytest.mark.parametrize("closing", [0.020, 0.026])
def test_without_the_same_zero_there_is_none(closing: float) -> None:
    """The zero set afresh, the indicator bumped in the pass before, or a spot past the dial."""
    person = tightened()
    person.send(ev.ZeroSet(station_id="s1", why="bumped"))
    assert not state_of(person).quick
    assert len(state_of(person).asked()) == 8
    moved = Person(stations_deg=EIGHT)
    values = off(moved, 0.020, 0.005)
    moved.read_all(*values, closing=values[0] + closing - 0.020)
    moved.do(0)
    allowed = closing == 0.020
    if allowed:
        moved.send(ev.Tightened(quick=True))
        moved.read("s1", "+off")
        moved.read("s3", "0")
        assert moved.solve().x_mm is None
        assert words(moved.panel().headline) == "Now the full pass. Read jaw 1."
    else:
        with pytest.raises(NotNow):
            moved.send(ev.Tightened(quick=True))


@pytest.mark.parametrize("tight", [True, False])
def test_a_look_that_runs_off_the_dial_says_to_read_the_full_pass_and_nothing_else(tight: bool) -> None:
    person = tightened() if tight else Person(stations_deg=EIGHT)
    if not tight:
        values = off(person, 0.020, 0.005)
        person.read_all(*values, closing=values[0])
        move = person.solve().moves[-1]
        person.send(ev.MoveDone(pass_no=1, move_id=move.id, quick=True))
    person.read("s1", "+off")
    person.read("s3", "0")
    panel = person.panel()
    assert ("Read jaw 1" if tight else "zero afresh at jaw 1") in words(panel.headline)
    assert panel.primary is None or [e.type for e in panel.primary.events] == [
        "zero_set"
    ]  # nothing that goes on to tighten
    assert len(state_of(person).asked()) == 8


@pytest.mark.parametrize("quick", [True, False])
def test_after_a_tightening_too_a_wrong_way_leads_to_the_press_test_and_to_no_move(quick: bool) -> None:
    person = tightened(quick=quick)
    worse = off(person, 0.045, 0.012)
    if quick:
        person.read("s1", f"{worse[0]:.6f}")
        person.read("s3", f"{worse[2]:.6f}")
    else:
        person.read_all(*worse, closing=worse[0])
        person.send(ev.Proved(pass_no=2))
    panel = person.panel()
    assert panel.name == "press"
    assert [e.type for a in panel.others for e in a.events] == ["press_tested", "press_tested"]
    person.send(ev.PressTested(went="minus"))
    assert person.panel().name != "press"


def test_the_full_pass_may_be_read_instead_before_and_in_the_middle_of_it() -> None:
    for begun in (False, True):
        person = tightened()
        if begun:
            person.read("s1", "0")
        with pytest.raises(NotNow):  # no spot is read again in it
            person.read("s1", "0", closing=True)
        person.send(ev.PassClosed(pass_no=2))
        assert len(state_of(person).asked()) == 8
        person.read_all(*[0.0] * 8, closing=0.0)
        assert state_of(person).passes[-1].purpose == "prove"


def test_after_five_of_them_a_full_pass_is_due() -> None:
    person = tightened()
    for _ in range(5):
        values = off(person, 0.015, 0.0)
        person.read("s1", f"{values[0]:.6f}")
        person.read("s3", f"{values[2]:.6f}")
        person.do(0)
        if state_of(person).quick_spots():
            person.send(ev.Tightened(quick=True))
    assert state_of(person).quick_spots() == ()
    with pytest.raises(NotNow):
        person.send(ev.Tightened(quick=True))


def test_it_is_said_when_it_would_not_pay() -> None:
    person = Person(stations_deg=EIGHT, limit_thou="20")
    person.read_all(*[0.0] * 8, closing=0.0)
    person.send(ev.StepPassed(step="read"))
    panel = person.panel()
    assert there(panel.primary).events == (ev.Tightened(),)
    assert "A quick look would not pay: it will very likely hold." in [words(w) for w in panel.why]


@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_a_look_agrees_with_the_full_pass_that_could_have_been_read(procedure: str) -> None:
    """On every simulated machine that offers one: what two spots say is what all of them say, within both bands."""
    seen = 0
    for seed in range(6):
        rng = np.random.default_rng(seed)
        plan = example(procedure, seed)
        hand = Operator(plan, machine(plan, rng), rng)
        for _ in range(400):
            state, current = hand.state, hand.state.open_pass
            if current is not None and current.quick and state.next_pass_no > current.number and not current.moved:
                seen += _agrees(hand)
            if not hand.step():
                break
    assert seen or procedure not in {"four_jaw", "vise", "throw", "centre", "edge"}


def _agrees(hand: Operator) -> int:
    state = hand.state
    one = state.passes[-1]
    for measure in state.measures.values():
        if not isinstance(measure, Ring | Edge):
            continue
        quick = measure.look(state, one)
        full = Operator.__new__(Operator)
        full.plan, full.chuck, full._rng, full.at, full.events = (
            hand.plan,
            hand.chuck,
            hand._rng,
            hand.at,
            list(hand.events),
        )
        full.state = state
        for station in measure.stations:
            if station.when in ("always", "later"):
                value = full.chuck.read(station)
                assert not isinstance(value, str)
                typed = Typed(text=f"{value:.6f}", unit="mm")
                full.send(ev.ReadingTaken(pass_no=one.number + 1, station_id=station.id, typed=typed))
        whole = measure.look(full.state, full.state.passes[-1])
        if quick.center is None or whole.center is None or quick.fit is None or whole.fit is None:
            continue
        u = math.hypot(_u(quick), _u(whole))
        assert abs(quick.center - whole.center) < 4 * u, (quick.center, whole.center, u)
        return 1
    return 0


def _u(look: object) -> float:
    cov = getattr(getattr(look, "round", None), "cov", None)
    return float(np.trace(cov) ** 0.5) if cov is not None else look.fit.u_mm  # type: ignore[attr-defined]
