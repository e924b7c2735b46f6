"""Sentence, picture, tray and log of every procedure tell the same, in every orientation."""

from __future__ import annotations

import itertools
import re
from collections.abc import Iterator
from functools import cache

import numpy as np
import pytest

from tests.core.lathe_plans import plan_of
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.desk.panel import Panel
from velvet_hand.core.desk.view import SetupView
from velvet_hand.core.move import Clock, Move, Swap
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import PROCEDURES, machine
from velvet_hand.core.scene import TableScene
from velvet_hand.core.sim.table import WAYS
from velvet_hand.core.wording import Text, plain

ALL = list(PROCEDURES)
MOVED = [p for p in ALL if not PROCEDURES[p].only_reads]
SEEDS = (0, 3, 5, 8, 14, 18, 23)


def operator(procedure: str, seed: int) -> Operator:
    rng, plan = np.random.default_rng(seed), plan_of(procedure, seed)
    return Operator(plan, machine(plan, rng), rng)


def said(text: Text) -> str:
    return plain(text, "mm", 0.0005)


def views(procedure: str, seed: int, most: int = 400) -> Iterator[SetupView]:
    """The view whenever something other than a reading is to be done."""
    work = operator(procedure, seed)
    for _ in range(most):
        view = desk.show(work.events, "x", work.state)
        if view.panels[0].primary is not None:
            yield view
        if not work.step():
            return


@cache
def with_moves(procedure: str, seed: int) -> list[tuple[SetupView, Panel, Move]]:
    """Views in which a move is shown, with the move."""
    work, found = operator(procedure, seed), []
    for _ in range(400):
        state = work.state
        solution = PROCEDURES[procedure].solve(state)
        if solution.moves and state.half is None:
            view = desk.show(work.events, "x", state)
            panel = view.panels[0]
            if panel.primary and panel.primary.id == "move":
                found.append((view, panel, solution.moves[0]))
        if len(found) >= 3 or not work.step():
            break
    return found


def numbers(move: Move) -> dict[int, str]:
    """What the numbered jaws or screws do."""
    match move.do:
        case "jaws":
            ease = {move.ease.number: "ease"} if move.ease else {}
            return {**ease, move.draw.number: "draw_in"}
        case "screws":
            return {t.number: "tighten" if there(t.mm) > 0 else "slacken" for t in move.turns}
        case "shim" if move.measure == "jaws":
            return {p.number: "shim" for p in move.packets if p.mm}
    return {}


def assert_table(scene: TableScene, move: Move, sentence: str) -> None:
    """The arrow lands at the corner that is named, on the side that it is pushed from, and points the way that is said."""
    assert (scene.blow is not None) == (move.do == "tap")
    if scene.blow is None:
        return
    way = next(w for words, w in WAYS.items() if words in sentence)
    push = scene.blow.toward * complex(scene.n_x, scene.n_y)
    assert push == way
    body = next(
        b for b in scene.bodies if b.from_mm - 1 <= scene.blow.at_mm <= b.from_mm + b.length_mm + 1 and b.moving
    )
    if "corner" in sentence:
        ends = ("left", "right") if scene.u_x else ("front", "back")
        end = ends[scene.blow.at_mm > body.from_mm + body.length_mm / 2]
        from_side = {1j: "front", -1j: "back", 1 + 0j: "left", -1 + 0j: "right"}[push]
        words = f"{from_side} {end}" if scene.u_x else f"{end} {from_side}"
        assert f"{words} corner" in sentence
    assert scene.gauge_mm == there(move.needle).x_mm
    if move.aim_mm is not None:
        rises = scene.blow.toward > 0
        before = next(s.h_mm for s in scene.spots if s.station_id == there(move.needle).station_id)
        after = (
            next(a.h1_mm + (a.h2_mm - a.h1_mm) * (scene.gauge_mm - a.z1_mm) / (a.z2_mm - a.z1_mm) for a in scene.aims)
            if scene.aims
            else None
        )
        if before is not None and after is not None and abs(after - before) > 0.005:
            assert (after > before) == rises


@pytest.mark.parametrize("procedure", MOVED)
@pytest.mark.parametrize("seed", SEEDS)
def test_what_the_sentence_names_acts_in_the_picture(procedure: str, seed: int) -> None:
    for _view, panel, move in with_moves(procedure, seed):
        sentence, scene = said(move.sentence), panel.scene
        assert said(panel.headline) in said(move.short or move.sentence)
        numbered = numbers(move)
        for number in numbered:
            named = {int(n) for n in re.findall(r"\d+", sentence)} if move.do == "screws" else set()
            assert number in named or f"jaw {number}" in sentence
        if scene.kind == "chuck_face":
            acting = {j.jaw: j.do for j in scene.jaws if j.do and (j.do != "shim" or (j.shim_mm or 0) >= 0)}
            assert set(numbered) <= set(acting)
            assert all(acting[n] == do for n, do in numbered.items())
            assert (scene.tap is not None) == (move.do in ("tap_round", "lean", "handle"))
        if scene.kind == "clock_wheel":
            best = next(p for p in scene.positions if p.rank == 1)
            assert f"position {best.number}" in sentence
            assert best.number == as_a(Clock, move).position
        if scene.kind == "dowel_view" and scene.dowel_mm:
            assert scene.clock_deg == as_a(Swap, move).at_deg
            assert "both dowels" in sentence
        if scene.kind == "shaft_axis" and move.do in ("tap_round", "swing"):
            assert scene.mark_z_mm is not None
            assert "far end" in sentence or "far place" in sentence
        if scene.kind == "table_top":
            assert_table(scene, move, sentence)
        if scene.kind == "height_map" and move.do == "shim":
            for shim, packet in zip(scene.shims, move.packets, strict=True):
                assert shim.mm == packet.mm
                assert shim.label in sentence or "no shim" in sentence


@pytest.mark.parametrize("procedure", MOVED)
@pytest.mark.parametrize("seed", SEEDS)
def test_the_aim_box_the_move_and_the_tray_agree(procedure: str, seed: int) -> None:
    for view, panel, move in with_moves(procedure, seed):
        assert panel.expect == move.expects
        assert (panel.aim is None) == (move.needle is None)
        if panel.aim is None or move.needle is None:
            continue
        assert panel.aim.aim_mm == move.aim_mm
        assert (move.aim_mm is None) == (move.needle.goes == "comes back")
        if move.aim_mm is not None and move.now_mm is not None:
            assert move.needle.goes == ("rises" if move.aim_mm > move.now_mm else "falls")
            up = ("up to", "growing to") if move.needle.goes == "rises" else ("down to", "closing to")
            assert any(f"{word} the aim" in said(panel.headline) for word in up)
        if panel.aim.station_id:
            assert panel.aim.station_id in [c.station_id for c in view.tray.cells] or view.tray.pass_no > move.pass_no


@pytest.mark.parametrize("procedure", MOVED)
def test_the_gauge_of_the_picture_stands_where_it_was_planned(procedure: str) -> None:
    for seed in SEEDS:
        plan = plan_of(procedure, seed)
        for _view, panel, move in with_moves(procedure, seed):
            if panel.scene.kind != "chuck_face" or plan.carrier != "work_turns":
                continue
            assert panel.scene.gauge.at_deg == pytest.approx(plan.gauge_clock_deg)
            if panel.scene.tap is not None and procedure == "faceplate" and not move.rezero:
                assert panel.scene.tap.at_deg == pytest.approx(plan.gauge_clock_deg)
            assert panel.scene.view_turn_deg == (90.0 if plan.view == "operator" else 0.0)


@pytest.mark.parametrize("procedure", ALL)
@pytest.mark.parametrize("seed", [0, 9])
def test_every_view_is_whole_from_the_first_step_to_the_last(procedure: str, seed: int) -> None:
    steps = [s.id for s in PROCEDURES[procedure].path(plan_of(procedure, seed))]
    reached: list[str | None] = []
    for view in views(procedure, seed):
        panel = view.panels[0]
        assert said(panel.headline)
        assert panel.scene.describe
        assert [s.id for s in view.path] == steps
        assert sum(s.status == "now" for s in view.path) == (0 if view.step is None else 1)
        assert panel.hold == (view.step in ("make_safe", "centres", "clear_to_run"))
        assert all(c.text.endswith((".", "?")) for c in panel.cautions)
        asked = [c for c in view.tray.cells if not c.closing]
        assert len({c.station_id for c in asked}) == len(asked)
        for before, cell in itertools.pairwise(view.tray.cells):
            assert not cell.closing or before.ring == cell.ring  # each measure is closed where it ends
        if view.step not in reached:
            reached.append(view.step)
    ended = {s for s in reached if s} | {"clear_to_run"}
    assert ended >= {"make_safe", "clean", "set_gauge", "prove"}
    assert reached[0] == "make_safe"


@pytest.mark.parametrize("procedure", ALL)
def test_every_line_of_the_log_is_words_for_a_person(procedure: str) -> None:
    work = operator(procedure, 3)
    work.run(max_passes=20)
    lines = desk.record(work.events, desk.load(work.events)).log
    assert len(lines) == len(work.events)
    for line in lines:
        words = said(line.what)
        assert words
        assert "None" not in words
        assert "_" not in words
    assert "Set-up opened" in said(lines[0].what)


@pytest.mark.parametrize("procedure", ALL)
def test_the_line_for_the_bench_says_what_it_waits_for(procedure: str) -> None:
    work = operator(procedure, 4)
    seen = set()
    for _ in range(400):
        line = desk.summarize(work.state)
        seen.add(said(line.waits).split(";")[0])
        assert line.procedure == PROCEDURES[procedure].title
        if not work.step():
            break
    assert any("readings" in s for s in seen)
    assert desk.summarize(work.state).outcome in ("holds", "outside", "cannot_tell")


@pytest.mark.parametrize("procedure", ALL)
def test_undoing_everything_leads_back_to_the_start_and_the_same_way_forward(procedure: str) -> None:
    work = operator(procedure, 1)
    for _ in range(14):
        work.step()
    events = list(work.events)
    before = desk.show(events, "x")
    last = desk.load(events).effective[-1]
    from velvet_hand.core.setup import events as ev

    undone = work._event(ev.Undone(event_id=last.id))
    events.append(desk.accept(events, undone)[0])
    again = last.model_copy(update={"id": undone.id.__class__(int=undone.id.int ^ 1), "seq": len(events) + 1})
    events.append(desk.accept(events, again)[0])
    after = desk.show(events, "x")
    assert after.tray == before.tray.model_copy(
        update={"cells": tuple(
            c.model_copy(update={"reading_id": a.reading_id}) for c, a in zip(before.tray.cells, after.tray.cells, strict=True)
        )}
    )  # fmt: skip
    assert [p.headline for p in after.panels] == [p.headline for p in before.panels]


@pytest.mark.parametrize("procedure", MOVED)
def test_these_starts_do_show_moves(procedure: str) -> None:
    assert sum(len(with_moves(procedure, seed)) for seed in SEEDS) >= len(SEEDS) / 3
