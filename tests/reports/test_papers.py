"""Papers say what the set-up says: asked, found, read, checked; of every procedure, in the unit asked for, and nothing else gets in."""

from __future__ import annotations

import re
from datetime import timedelta
from functools import cache
from xml.etree import ElementTree

import numpy as np
import pytest

from tests.core.bench_person import Person
from tests.support import there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.advice.builder import OUTCOME_WORDS, verdict_text
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, example, machine
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.state import State
from velvet_hand.core.wording import plain
from velvet_hand.reports import page
from velvet_hand.reports.paper import Paper, record, sheet

ADDRESS = "http://127.0.0.1:8300/logbook/x"


@cache
def done(procedure: str) -> Operator:
    rng, plan = np.random.default_rng(3), example(procedure, 3)
    person = Operator(plan, machine(plan, rng), rng)
    person.run(max_passes=12)
    return person


def words_of(html: str) -> str:
    return re.sub(r"\s+", " ", re.sub(r"<svg.*?</svg>|<[^>]+>", " ", html, flags=re.S))


def as_page(paper: Paper) -> str:
    return words_of(page.html(paper, ADDRESS, "a4", "/paper.css"))


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_a_record_says_what_was_found_and_how(procedure: str) -> None:
    person = done(procedure)
    state = person.state
    paper = record(person.events, state)
    verdict = there(state.verdict)
    unit, res = state.plan.unit, state.plan.gauge.resolution_mm
    assert paper.outcome == OUTCOME_WORDS[verdict.outcome]
    assert paper.verdict == plain(verdict_text(verdict), unit, res)
    assert len(there(paper.passes).rows) == len(state.passes)
    assert [line.name for line in paper.facts].count("Indicator") == len(
        {state.plan.gauge_in(s).name for s in state.plan.slots}
    )
    text = as_page(paper)
    for said in (state.plan.part.name, state.plan.machine.name, state.plan.holder.name, state.plan.gauge.name, "Ode"):
        assert said.replace("'", "&#39;").replace('"', "&#34;") in text
    moves = [e for e in person.events if isinstance(e.body, ev.MoveDone)]
    assert sum(line.what != "" for line in paper.done) >= len(moves)
    heads = there(paper.readings).heads
    assert heads[0] != "Pass" or len(set(heads)) == len(heads)
    assert ADDRESS in text
    root = ElementTree.fromstring(paper.picture)  # it is whole, and carries no script
    assert {child.tag.rpartition("}")[2] for child in root.iter()} <= {"svg", "polygon", "polyline", "circle", "text"}


@pytest.mark.parametrize("procedure", PROCEDURES)
def test_a_sheet_has_every_step_with_its_cautions_and_room_for_readings(procedure: str) -> None:
    person = done(procedure)
    path = PROCEDURES[procedure].path(person.state.plan)
    begun = desk.load(person.events[:1])
    paper = sheet(person.events[:1], begun)
    assert [s.title for s in paper.steps] == [s.title for s in path]
    text = as_page(paper)
    for step in path:
        for caution in step.cautions:
            assert caution.text.replace("'", "&#39;") in text
    boxes, wanted = there(paper.readings), [s for s, _ in begun.to_read(None)]
    if boxes.heads[0] == "Pass":  # a line for each pass
        assert boxes.heads[1:-1] == tuple(s.short for s in begun.asked())
        assert not any(cell for row in boxes.rows for cell in row)
    else:
        places = [row[at] for at, head in enumerate(boxes.heads) if head == "Place" for row in boxes.rows if row[at]]
        assert len(set(places)) == len(places) == len(wanted)
        assert all(spot.label in place for spot, place in zip(wanted, places, strict=True))
    assert paper.outcome == ""


def test_readings_stand_as_they_were_read_in_the_unit_of_the_paper() -> None:
    person = Person()
    person.read_all(0.0, 0.0254, -0.0508, 0.0, closing=0.0)
    person.send(ev.SpotMarked(pass_no=1, station_id="s4"))
    state = _state(person)
    thou = there(record(person.events, state, "thou").readings)
    assert thou.heads[1:5] == ("Jaw 1", "Jaw 2", "Jaw 3", "Jaw 4")
    assert thou.rows == (("1", "0.00", "+1.00", "\u22122.00", "bad spot", "0.00"),)
    assert there(record(person.events, state, "mm").readings).rows[0][2] == "+0.025"


def test_what_was_undone_is_not_on_the_paper_and_an_acceptance_is() -> None:
    person = Person()
    person.send(ev.Noted(text="chatter at the far end"))
    person.send(ev.Noted(text="nonsense"))
    person.undo()
    person.send(ev.Accepted(reason="It goes to be ground."))
    paper = record(person.events, _state(person))
    assert paper.notes == ("chatter at the far end",)
    assert (paper.outcome, paper.accepted) == ("Accepted", "It goes to be ground.")
    assert any("safe" in s.title.lower() and len(s.cautions) == 5 for s in paper.steps)


def test_what_was_done_on_another_day_has_its_day() -> None:
    person = Person()
    person.at += timedelta(days=1)
    person.send(ev.ZeroSet(station_id="s2", why="bumped"))
    person.send(ev.ZeroSet(station_id="s1"))
    times = [line.name for line in record(person.events, _state(person)).done]
    assert [len(name) for name in times] == [5] * (len(times) - 2) + [16, 5]
    assert times[-2].startswith("2026-01-06 09:")


def _state(person: Person) -> State:
    return desk.load(person.events)


def test_nothing_typed_becomes_a_part_of_the_page() -> None:
    person = Person()
    person.send(ev.Noted(text="<script>alert(1)</script> & more"))
    html = page.html(record(person.events, _state(person)), ADDRESS, "letter", "/paper.css")
    assert "<script" not in html
    assert "&lt;script&gt;" in html
    assert 'class="letter"' in html


@pytest.mark.parametrize("size", page.SIZES)
def test_a_pdf_is_made_of_the_same_and_fetches_nothing(size: page.Size) -> None:
    person = done("vise")
    paper = record(person.events, person.state)
    made = page.pdf(paper, ADDRESS, size)
    assert made.startswith(b"%PDF-")
    assert made == page.pdf(paper, ADDRESS, size)
    width = re.search(rb"/MediaBox\s*\[\s*0\s+0\s+([\d.]+)", made)
    if width is not None:
        assert round(float(width[1])) == {"a4": 595, "letter": 612}[size]
    with pytest.raises(ValueError, match="fetches nothing"):
        page._nothing_else("http://127.0.0.1/picture.png")


@pytest.mark.parametrize(("procedure", "title"), [("indicator", "of an indicator"), ("machine", "of a machine")])
def test_a_check_is_a_certificate_with_what_was_found(procedure: str, title: str) -> None:
    person = done(procedure)
    state = person.state
    paper = record(person.events, state)
    assert paper.title == f"Check certificate {title}"
    assert paper.part == (state.plan.gauge.name if procedure == "indicator" else state.plan.machine.name)
    lines = {line.name: line.what for line in paper.figures}
    for figure in desk.procedure_of(state.plan).solution(state).figures:
        assert figure.label in lines
    check = desk.procedure_of(state.plan).lesson(state).check
    assert lines.get("To be checked again") == (f"{check.due}" if check and check.due else None)
    assert "What it was found to do" in as_page(paper)
    assert record(done("vise").events, done("vise").state).title == "Set-up record"
