"""What the screens are given: panels, tray, table, log, summary; always one thing to do."""

from __future__ import annotations

from datetime import UTC, datetime
from uuid import UUID

import numpy as np
import pytest

from tests.core.bench_person import CAUTIONS, Person
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.view import summary
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.scene import ChuckScene
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed
from velvet_hand.core.wording import Text, plain


def words(parts: Text) -> str:
    return plain(parts, "thou", 0.0005)


def to_the_proof(person: Person, *values: float) -> None:
    person.send(ev.Tightened())
    person.read_all(*values, closing=values[0])
    number = len(desk.load(person.events).passes)
    person.send(ev.Proved(pass_no=number))


def test_following_the_first_panel_leads_from_opening_to_taken_off() -> None:
    person = Person(ready=False)
    seen = []
    for _ in range(40):
        view = person.view()
        panel = view.panels[0]
        seen.append(panel.name)
        if not view.standing:
            break
        if panel.name == "press":
            person.send(panel.others[0].events[0])
        elif panel.name == "reading":
            person.read_all(0.0, 0.0, 0.0, 0.0)
        elif panel.name == "prove" and panel.primary is None:
            person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
        elif panel.name == "quick":
            person.read_all(0.0, 0.0)
        else:
            assert panel.primary is not None, panel.name
            for body in panel.primary.events:
                person.send(body)
    assert seen == [
        "make_safe", "clean", "rough_in", "press", "zero", "reading", "enough", "nip_up", "quick", "prove",
        "prove", "clear_to_run", "finished", "finished",
    ]  # fmt: skip


@pytest.mark.parametrize(
    ("step", "now"),
    [(0, "make_safe"), (1, "clean"), (2, "rough_in"), (3, "set_gauge"), (6, "read")],
)
def test_the_path_shows_what_is_behind_and_what_is_now(step: int, now: str) -> None:
    whole = Person()
    view = desk.show(whole.events[: step + 1], "x")
    stops = {s.id: s.status for s in view.path}
    assert stops[now] == "now"
    order = [s.id for s in view.path]
    assert {stops[i] for i in order[: order.index(now)]} <= {"done"}
    assert {stops[i] for i in order[order.index(now) + 1 :]} == {"ahead"}
    assert [s.id for s in view.path if s.hold] == ["make_safe", "clear_to_run"]


def test_the_press_test_can_be_corrected_before_zero_is_set() -> None:
    person = Person(ready=False)
    person.send(ev.StepPassed(step="make_safe", checked=CAUTIONS))
    person.send(ev.StepPassed(step="clean"))
    person.send(ev.StepPassed(step="rough_in"))
    person.send(ev.PressTested(went="plus"))
    panel = person.panel()
    assert "the needle goes plus" in words(panel.kicker)
    person.send(panel.others[0].events[0])
    assert desk.load(person.events).push_reads == -1


def test_the_tray_shows_aim_and_what_is_true_and_the_spot_to_close_on() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    tray = person.view().tray
    assert there(person.panel().aim).station_id == tray.cells[0].station_id
    assert tray.cells[2].true_mm == pytest.approx(0.0, abs=1e-9)
    assert (tray.cells[4].closing, tray.cells[4].label) == (True, "Jaw 1 again")
    assert tray.active


def test_the_closing_reading_is_asked_for_where_the_pass_began() -> None:
    person = Person()
    person.read("s3", "0.1")
    person.read("s1", "0")
    assert person.view().tray.cells[-1].station_id == "s3"


def test_a_new_pass_shows_empty_cells_with_what_will_be_true() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    person.do()
    tray = person.view().tray
    assert tray.pass_no == 2
    assert [c.state for c in tray.cells] == ["open"] * 5
    assert tray.cells[0].true_mm == pytest.approx(0.0, abs=1e-9)


@pytest.mark.parametrize(("text", "state"), [("+off", "off"), ("0.01", "read")])
def test_cells_say_what_kind_of_reading_they_hold(text: str, state: str) -> None:
    person = Person(travel_mm=0.25)
    person.read("s1", text)
    cell = person.view().tray.cells[0]
    assert (cell.state, cell.typed) == (state, text)


def test_a_reading_off_the_circle_is_shown_as_such_and_told() -> None:
    person = Person(stations_deg=tuple(45.0 * i for i in range(8)))
    person.read_all(0.030, 0.021, 0, -0.022, -0.029, -0.160, 0.001, 0.020)
    view = person.view()
    assert [c.label for c in view.tray.cells if c.state == "wild"] == ["225°"]
    assert any("does not sit with the others" in words(line) for line in view.panels[0].why)
    spots = {s.label: s.state for s in as_a(ChuckScene, view.panels[0].scene).spots}
    assert spots["225°"] == "wild"


def test_tray_is_closed_while_a_jaw_is_eased() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    person.do(phase="eased")
    view = person.view()
    assert not view.tray.active
    jaws = {j.jaw: words(j.label) for j in as_a(ChuckScene, view.panels[0].scene).jaws if j.do}
    assert jaws == {3: "backed off", 1: "then tighten 7.87 thou"}


def test_two_moves_of_one_pass_come_one_after_the_other() -> None:
    person = Person()
    person.read_all(0.3, 0.2, -0.3, -0.2)
    assert words(person.panel().kicker) == "Pass 1 · move 1 of 2 · jaws 1 and 3"
    assert there(person.panel().primary).label == "Move made, on to jaws 2 and 4"
    person.do()
    assert words(person.panel().kicker) == "Pass 1 · move 2 of 2 · jaws 2 and 4"
    person.do()
    assert person.panel().name == "reading"
    assert "Read jaw 1" in words(person.panel().headline)


def test_what_does_not_hold_is_corrected_or_accepted() -> None:
    person = Person()
    to_the_proof(person, 0.1, 0.0, -0.1, 0.0)
    panels = person.view().panels
    assert [p.name for p in panels] == ["correct", "verdict"]
    assert words(panels[1].headline).startswith("Outside: 7.87")
    assert [a.id for a in panels[1].others] == ["accept", "again"]
    assert panels[1].others[0].needs_reason


def test_cannot_tell_says_what_limits_it_and_what_would_settle_it() -> None:
    person = Person(graduation_mm=0.0127, limit_thou="0.2", floor_mm=0.0)
    to_the_proof(person, 0.0, 0.0, 0.0, 0.0)
    panel = person.view().panels[0]
    assert words(panel.headline).startswith("Not proven: 0.0")
    why = [words(one) for one in panel.why]
    assert why[0] == "Stop here. What is left is too small for this indicator to show."  # why there is nothing to do
    assert why[1] == "What limits it: the indicator’s graduation."
    assert why[2] == "What would settle it: an indicator with finer graduations."
    assert why[3].startswith("The ±0.")
    assert "comes from the indicator’s graduation 0." in why[3]
    assert [one.label for one in panel.others] == ["Accept with a reason", "Read again", "Take it off"]


def test_told_at_the_start_stays_in_the_view() -> None:
    assert any("no jaw screw lead" in words(t) for t in Person(lead_mm=None).view().told)


@pytest.mark.parametrize(
    ("body", "line"),
    [
        (ev.GapMeasured(typed=Typed(text="50", unit="mm")), "Gap between jaws: 50 mm."),
        (ev.GapMeasured(typed=Typed(text="50 mm", unit="thou")), "Gap between jaws: 50 mm."),
        (ev.GapMeasured(typed=Typed(text=' 1.97" ', unit="mm")), 'Gap between jaws: 1.97".'),
        (ev.GapMeasured(typed=Typed(text="1970", unit="thou")), "Gap between jaws: 1970 thou."),
        (ev.ZeroSet(station_id="s2", why="bumped"), "Indicator bumped or moved; zero set afresh at Jaw 2."),
        (ev.ReadingTaken(pass_no=1, station_id="s1", typed=Typed(text="4", unit="thou")), "Pass 1, Jaw 1: +4.00 thou"),
        (ev.ReadingTaken(pass_no=1, station_id="s1", typed=Typed(text="+off", unit="mm")), "Pass 1, Jaw 1: +off"),
        (ev.SpotMarked(pass_no=1, station_id="s4"), "Pass 1, Jaw 4: bad spot."),
        (ev.Tightened(), "Everything tight."),
        (ev.Noted(text="ring 2"), "Note: ring 2"),
        (ev.TakenOff(), "Part taken off."),
        (ev.Accepted(reason="rough cut first"), "Accepted: rough cut first"),
    ],
)
def test_every_event_is_a_line_of_the_log(body: ev.ClientBody, line: str) -> None:
    person = Person()
    person.send(body)
    assert words(person.log()[-1].what) == line


def test_the_log_tells_moves_proofs_and_corrections() -> None:
    person = Person()
    first = person.read("s1", "0.3")
    person.send(ev.ReadingCorrected(reading_id=first.id, typed=Typed(text="0.2", unit="mm")))
    for station, value in (("s2", "0"), ("s3", "-0.2"), ("s4", "0")):
        person.read(station, value)
    person.do()
    to_the_proof(person, 0.0, 0.0, 0.0, 0.0)
    lines = [words(line.what) for line in person.log()]
    assert "Reading corrected, Jaw 1: +7.87 thou" in lines
    assert "Jaw 3 backed off, jaw 1 tightened, aim 0.00 thou (asked 7.87 thou)." in lines
    assert any(line.startswith("Proof, pass 2: holds, 0.0") for line in lines)


@pytest.mark.parametrize(
    ("bodies", "waits"),
    [
        ([], "Waits for readings"),
        ([ev.StepPassed(step="read")], "Waits to be tightened"),
        ([ev.Tightened()], "Waits for the proof"),
    ],
)
def test_the_bench_says_what_a_set_up_waits_for(bodies: list[ev.ClientBody], waits: str) -> None:
    person = Person()
    for body in bodies:
        person.send(body)
    assert words(desk.summarize(desk.load(person.events)).waits) == waits


def test_the_bench_gives_the_aim_of_a_move_and_where_it_stands() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.1, 0.0)
    line = desk.summarize(desk.load(person.events))
    assert words(line.waits) == "Waits for a move, to +1.97 thou at jaw 1"
    assert words(line.detail) == "Pass 1 · 11.81 thou TIR, wants 0.50 thou"
    assert len(line.track) == 1
    assert line.limit_radius_mm == pytest.approx(0.00635)
    assert line.outcome is None


def test_figures_carry_kind_and_uncertainty() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0, closing=0.2)
    figures = {f.id: f for f in person.view().figures}
    assert figures["tir"].mm == pytest.approx(2 * there(figures["off_centre"].mm))
    assert there(figures["tir"].u_mm) > there(figures["off_centre"].u_mm)
    assert words(figures["off_centre"].note) == "toward jaw 1"
    assert figures["drift"].mm == pytest.approx(0.0)


def test_an_off_centre_limit_is_judged_as_off_centre() -> None:
    person = Person(limit_kind="off_centre", limit_thou="0.5")
    to_the_proof(person, 0.008, 0.0, -0.008, 0.0)
    verdict = person.view().verdict
    assert verdict is not None
    assert (verdict.kind, verdict.outcome) == ("off_centre", "holds")
    assert verdict.value_mm == pytest.approx(0.008, abs=1e-6)
    same = Person(limit_kind="tir", limit_thou="0.5")
    to_the_proof(same, 0.011, 0.0, -0.011, 0.0)
    assert there(same.view().verdict).outcome == "outside"


def test_a_repeated_pass_without_a_move_is_a_pass_of_its_own() -> None:
    person = Person()
    person.read_all(0.2, 0.0, -0.2, 0.0)
    person.send(ev.PassClosed(pass_no=1))
    assert person.view().tray.pass_no == 2
    person.read_all(0.2, 0.0, -0.2, 0.0)
    assert [p.number for p in person.view().passes] == [1, 2]
    assert person.view().passes[0].asked_mm is None


def test_where_an_indicator_or_a_machine_is_checked_no_part_is_cut() -> None:
    """The Logbook asks what the part measured only where there is one."""
    checks = {}
    for procedure in PROCEDURES:
        opened = ev.Opened(plan=example(procedure, 0))
        event = ev.Event(id=UUID(int=1), seq=1, at=datetime(2026, 1, 5, tzinfo=UTC), author="", body=opened)
        checks[procedure] = desk.show([event], "x").certifies
    assert {name for name, what in checks.items() if what} == {"indicator", "machine"}


@pytest.mark.parametrize("name", ["vise", "tailstock", "clamped", "vises"])
def test_what_has_no_center_is_told_in_parts_of_its_limit(name: str) -> None:
    plan, rng = example(name, 1), np.random.default_rng(1)
    hand = Operator(plan, machine(plan, rng), rng)
    hand.run(max_passes=12)
    told = summary(desk.procedure_of(plan), hand.state)
    assert told.outcome == "holds"
    assert told.track == ()
    assert told.main is not None
    assert told.of_limit[0] > 1 >= told.of_limit[-1]
    assert told.of_limit[-1] * plan.limit.mm == pytest.approx(told.main.mm)
