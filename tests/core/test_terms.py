"""What a band is made of, term by term: each is as large as what it stands for, wherever things lie."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, datetime
from typing import Any

import numpy as np
import pytest

from tests.core.at_the_mill import AtTheMill, along, mill
from tests.core.bench_person import Person
from tests.support import as_a, there
from velvet_hand.core.desk import desk
from velvet_hand.core.estimate.form import RoundLook
from velvet_hand.core.estimate.kalman import Prior
from velvet_hand.core.estimate.tapped import SLIDES_MM, Swung
from velvet_hand.core.fit.beam import tail_ratio
from velvet_hand.core.fit.circle import fit_circle, ray
from velvet_hand.core.fit.line import crossing, fit_line
from velvet_hand.core.fit.plane import choose_shims, fit_plane
from velvet_hand.core.measure.edge import Edge
from velvet_hand.core.measure.ring import Ring
from velvet_hand.core.procedures.bed.plan import BedPlan
from velvet_hand.core.procedures.vise.procedure import Vise
from velvet_hand.core.setup import events as ev
from velvet_hand.core.shop import Piece
from velvet_hand.core.units import Typed


def test_where_lines_cross_is_as_unsure_as_it_scatters() -> None:
    rng, spots = np.random.default_rng(5), tuple(np.linspace(0.0, 150.0, 12))
    rows = []
    for _ in range(400):
        lines = (0.003 * (x - 40.0) for x in (np.array(spots), np.full(12, 40.0)))
        before, after = (fit_line(spots, tuple(h + rng.normal(0, 0.002, 12)), 0.002) for h in lines)
        rows.append(there(crossing(before, after)))
    where, says = np.array(rows).T
    assert where.mean() == pytest.approx(40.0, abs=0.2)
    assert says.mean() == pytest.approx(where.std(), rel=0.15)


@pytest.mark.parametrize("shift", [0.02, -0.02])
def test_a_shift_to_come_is_added_with_its_sign(shift: float) -> None:
    hand = AtTheMill(mill("vise"))
    spots = hand.plan_spots
    hand.type({f"s{i + 1}": round(0.001 * x, 4) for i, x in enumerate(spots)}, closing=True)
    state: Any = desk.load(hand.events)
    procedure = as_a(Vise, desk.procedure_of(state.plan))
    look = procedure.look(state, state.passes[-1])
    now, then = (there(procedure.judge(state, look, complex(s))) for s in (0.0, shift))
    part = state.plan.limit_length_mm / as_a(Edge, state.measures[""]).length_mm
    rise = there(look.fit).mm
    assert then.value_mm == pytest.approx(abs(rise + shift) * part)
    assert then.value_mm != pytest.approx(now.value_mm)


def test_a_bed_is_as_unsure_wherever_along_the_jaw_it_is_read() -> None:
    bands = []
    for first in (5.0, 15.0, 25.0):
        x = (first, first + 110.0, first, first + 110.0)
        hand = AtTheMill(as_a(BedPlan, mill("bed", bed_x_mm=x)))
        level = dict.fromkeys(("bed-1", "bed-2", "bed-3", "bed-4"), 0.0)
        hand.type({**level, **along(0.0, 0.0, hand.plan_spots)}, closing=True)
        state = desk.load(hand.events)
        face: Any = state.measures["bed-"]
        bands.append(face.judge_level(there(face.look(state, state.passes[-1])), 0.02, "the bed").band_mm)
    assert bands == pytest.approx([bands[0]] * 3)


def test_shims_are_chosen_alike_wherever_the_origin_is() -> None:
    drawer = tuple(Piece(mm=mm, count=2) for mm in (0.02, 0.05, 0.1))
    rng = np.random.default_rng(3)
    for _ in range(40):
        corners = tuple(
            (x + rng.uniform(-8, 8), y + rng.uniform(-8, 8)) for x, y in ((0, 0), (90, 0), (90, 50), (0, 50))
        )
        a, b = rng.normal(0, 0.001, 2)
        middle = (45.0, 25.0)
        here = choose_shims(corners, a, b, middle, drawer)
        moved = tuple((x + 400.0, y - 300.0) for x, y in corners)
        away = choose_shims(moved, a, b, (middle[0] + 400.0, middle[1] - 300.0), drawer)
        assert there(here).pieces == there(away).pieces


def test_what_live_readings_are_unsure_by_is_their_mean_square() -> None:
    hand = AtTheMill(mill("vise"))
    state = desk.load(hand.events)
    at = datetime(2026, 1, 5, tzinfo=UTC)
    for i, station in enumerate(s.id for s in state.stations):
        live = ev.Live(gauge="g", raw="captured", at=at, u_mm=0.003 if i % 2 else 0.001)
        hand.send(ev.ReadingTaken(pass_no=1, station_id=station, typed=Typed(text="0.1", unit="mm"), live=live))
    state = desk.load(hand.events)
    squares = [(0.003 if i % 2 else 0.001) ** 2 for i in range(len(state.stations))]
    found = state.measures[""].seen(state, state.passes[-1])
    assert found.extra_mm2 == pytest.approx(np.mean(squares))


@pytest.mark.parametrize(("x", "y"), [(7.0, 0.0), (-7.0, 0.0), (0.2, -0.1)])
def test_a_center_far_off_is_as_unsure_as_it_scatters(x: float, y: float) -> None:
    rng, angles = np.random.default_rng(9), np.arange(0.0, 240.0, 20.0)
    exact = ray(angles, x, y, 12.0, 1)
    fits = [fit_circle(tuple(angles), tuple(exact + rng.normal(0, 0.002, 12)), 12.0, 1, 0.002) for _ in range(300)]
    worst = np.linalg.eigvalsh(np.cov([[f.x_mm for f in fits], [f.y_mm for f in fits]]))[-1] ** 0.5
    # the noise itself is never taken for less than what is read to
    says = 0.002 * np.mean([f.u_mm / f.noise_mm for f in fits])
    assert says == pytest.approx(worst, rel=0.12)


def test_the_spread_of_a_plane_is_from_the_lowest_residual_to_the_highest() -> None:
    corners = ((0.0, 0.0), (100.0, 0.0), (0.0, 60.0), (100.0, 60.0))
    assert there(fit_plane(corners, (0.0, 0.0, 0.0, 0.04), 0.0005)).spread_mm == pytest.approx(0.02)


@pytest.mark.parametrize(("floor_mm", "outcome"), [(0.0005, "outside"), (0.02, "cannot_tell")])
def test_a_runout_is_outside_only_by_more_than_the_machine_leaves_by_itself(floor_mm: float, outcome: str) -> None:
    person = Person(limit_thou="4", floor_mm=floor_mm, graduation_mm=0.001)
    person.read_all(0.0545, 0.0, -0.0545, 0.0, closing=0.0545)  # 0.109 where 0.1016 is allowed
    assert there(person.solve().judged).outcome == outcome


def round_of(*toward_mm: float) -> RoundLook:
    person = Person(graduation_mm=0.001)
    person.read_all(*toward_mm, closing=toward_mm[0])
    state = desk.load(person.events)
    ring = as_a(Ring, state.measures[""])
    return there(ring.look(state, state.passes[-1]).round)


def test_a_surface_that_is_moved_keeps_its_form() -> None:
    look = replace(round_of(0.01, 0.0, -0.01, 0.0), center=np.array([0.01, 0.0]), form=np.eye(8)[2] * 0.01)
    assert look.moved(0j).tir_mm == pytest.approx(0.04, abs=1e-4)  # a third wave high where its center lies
    assert look.moved(-0.02 + 0j).tir_mm == pytest.approx(0.0308, abs=1e-4)


def test_a_center_on_the_axis_is_as_unsure_as_one_beside_it() -> None:
    on, beside = round_of(0.0, 0.0, 0.0, 0.0), round_of(0.0005, 0.0, -0.0005, 0.0)
    assert on.offset_band_mm == pytest.approx(beside.offset_band_mm, rel=0.05)


@pytest.mark.parametrize(("gauge_mm", "bends"), [(300.0, 1 / 1.75), (200.0, 1.0), (100.0, 3.2)])
def test_a_column_that_bends_moves_more_or_less_at_the_gauge_than_at_its_center(gauge_mm: float, bends: float) -> None:
    assert tail_ratio(200.0, gauge_mm, "bends") == pytest.approx(bends)


def test_heights_away_from_the_pivot_tell_less_of_it() -> None:
    model = Swung(150.0, Prior(55.0, 32.0, 0.0), 0.00025)
    before = model.start()
    for at_mm, far in ((55.0, 0.0), (130.0, 0.5), (-20.0, -0.5)):
        rise = 0.6
        found = model.crossed(before, rise, at_mm, rise * (at_mm - 55.0) / 150.0, 1e-7, 4e-5)
        told = (150.0 / rise) ** 2 * (1e-7 + far**2 * 2 * 4e-5 + SLIDES_MM**2)
        assert found.sd(2) ** -2 == pytest.approx(32.0**-2 + 1 / told)


@pytest.mark.parametrize(("kind", "part"), [("tir", 1.0), ("off_centre", 0.5)])
def test_what_a_machine_cannot_hold_counts_once_in_a_ring(kind: Any, part: float) -> None:
    """Its floor is told as TIR: the whole of it there, half of it for how far it is off center."""
    person = Person(floor_mm=0.004)
    person.read_all(0.0, 0.01, 0.0, -0.01, closing=0.0)
    state = desk.load(person.events)
    (ring,) = (as_a(Ring, one) for one in state.measures.values())
    terms = ring.terms(ring.look(state, state.passes[-1]), kind)
    assert {t.name: t.mm for t in terms}["floor"] == pytest.approx(0.004 * part)
