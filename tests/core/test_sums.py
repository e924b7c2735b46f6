"""Every sum: against examples worked by hand, turned round and back, in every unit, and fed with nonsense."""

from __future__ import annotations

import math
import random
from collections.abc import Mapping, Sequence
from typing import Any

import pytest

from velvet_hand.core.fit.stack import fewest
from velvet_hand.core.shop import Piece, Stock
from velvet_hand.core.sums.base import FigureOut, Sum, Worked, choose_way, work
from velvet_hand.core.sums.kinds import value_of
from velvet_hand.core.sums.registry import SUMS, lines, sum_of
from velvet_hand.core.units import Typed, Unit
from velvet_hand.core.wording import plain

UNITS: tuple[Unit, ...] = ("mm", "um", "thou", "tenth")


def given(sum_id: str, typed: Mapping[str, object], unit: Unit = "mm", drawers: tuple[Stock, ...] = ()) -> Worked:
    return typed_into(sum_of(sum_id), [(name, str(text)) for name, text in typed.items()], unit, drawers)


def typed_into(
    one: Sum, typed: Sequence[tuple[str, str]], unit: Unit = "mm", drawers: tuple[Stock, ...] = ()
) -> Worked:
    return work(one, [(name, Typed(text=text, unit=unit)) for name, text in typed], unit, drawers)


def worked(sum_id: str, unit: Unit = "mm", drawers: tuple[Stock, ...] = (), **typed: str | float) -> Worked:
    return given(sum_id, typed, unit, drawers)


def figure(found: Worked, name: str) -> FigureOut:
    return next(f for f in found.figures if f.id == name)


def value(found: Worked, name: str, unit: Unit = "mm") -> float:
    one = figure(found, name)
    assert not found.faults, found.faults
    spec = sum_of(found.id).figure(name)
    return value_of(one.kind, one.text, unit, spec.label, type(spec.bounds)(), name)


def told(found: Worked) -> str:
    return " ".join(plain(line, "mm", 0.0001) for line in found.told)


#: Worked by hand, or from the exact positions of circles, lines and rigid bodies; what was typed, and what has to follow.
KNOWN: tuple[tuple[str, dict[str, object], dict[str, float]], ...] = (
    ("tir", {"tir": 0.1}, {"off": 0.05}),
    ("tir", {"off": 0.03}, {"tir": 0.06}),
    ("circle", {}, {"off": 0.0339, "tir": 0.0679, "high": 50.7}),
    ("circle", {"read": "0 0.90904\n120 0.42996\n240 -1.48004", "diameter": 24}, {"off": 1.5, "high": 50.0}),
    ("circle", {"surface": "bore", "read": "0 0.01\n90 0\n180 -0.01\n270 0"}, {"off": 0.01, "high": 0.0}),
    ("stylus", {"reading": 0.12, "stylus": 25, "swing": 8}, {"true": 0.1077}),
    ("stylus", {"true": 0.1077, "stylus": 25, "swing": 8}, {"reading": 0.12}),
    ("dial", {"hand": 0.96, "counter": 3.05}, {"value": 2.96}),
    ("dial", {"hand": 0.02, "counter": 2.95}, {"value": 3.02}),
    ("units", {"inch": 1}, {"mm": 25.4, "thou": 1000, "tenth": 10000, "um": 25400}),
    ("units", {"tenth": 1}, {"mm": 0.00254, "thou": 0.1}),
    ("opening", {"diameter": 62, "gap": 50}, {"move": 6}),
    ("key", {"move": 0.3, "lead": 5}, {"turn": 21.6}),
    ("key", {"turn": 90, "lead": 4}, {"move": 1.0}),
    ("throw", {"width": 40}, {"jaw1": 22.819, "jaw2": 21.026, "jaw3": 17.181, "jaw4": 18.974}),
    ("throw", {"width": 0}, {"jaw1": 22.793, "jaw2": 20.826, "jaw3": 17.155, "jaw4": 18.774}),
    ("packing", {"width": 40}, {"shim": 3.75}),
    ("packing", {"width": 0}, {"shim": 3.619}),
    ("packing", {"width": 4}, {"shim": 3.749}),
    ("packing", {"width": 0, "shim": 3.619}, {"throw": 2.5}),
    ("pack_true", {"tir": 0.14, "high": 25, "width": 40}, {"under1": 0.1208, "under2": 0.0512, "under3": 0.0}),
    ("clock", {}, {"left": 0.0283, "turn": 0}),
    ("clock", {"chuck_at": 80}, {"left": 0.0283, "turn": 120, "now": 0.0768}),
    ("clock_spots", {"plate_at": 0, "chuck_at": 10, "bolts": 4}, {"turn": 180, "miss": 10}),
    ("reversal", {}, {"stays": 0.0076, "stays_at": 66.8, "goes": 0.0067, "goes_at": 333.4}),
    ("dowels", {}, {"move": 0.1979, "toward": 307.5, "pin": 0.2, "left": 0.0042}),
    ("slope", {"rise": 0.03, "over": 150, "part": 50}, {"there": 0.01}),
    ("shim", {"rise": 0.03, "over": 150, "apart": 300}, {"shim": 0.06}),
    ("aim", {"y_b": 0.63, "x_b": 150, "pivot": 30}, {"aim": 0.126}),
    ("aim", {"aim": 0.126, "y_b": 0.63, "x_b": 150}, {"pivot": 30}),
    ("planes", {}, {"move": 0.0603, "toward": 173.1, "tap": 0.1037, "tap_at": 277.1}),
    ("rods", {"one": 20.02, "other": 20}, {"rise": 0.02, "axis": 0.01}),
    ("rods", {"one": 20.02, "other": 20, "on": "vee"}, {"axis": 0.01 * 2**0.5, "rise": 0.01 * (1 + 2**0.5)}),
    ("rotate", {"rise": 5, "over": 12, "x": 13, "y": 0, "tip": 0}, {"turn": 22.6199, "new_x": 12, "new_y": 5}),
    ("dish", {"lean": 0.05, "over": 200, "cutter": 100, "cut": 80}, {"dish": 20 * 0.05 / 200}),
    ("line", {}, {"rise": 0.627, "straight": 0.01}),
    ("plane", {}, {"in_x": 0.019, "in_y": 0.0413, "flat": 0.002, "parallel": 0.052}),
    ("grid", {"read": "0.002 0.003\n0 0.001"}, {"parallel": 0.003, "flat": 0.0, "in_x": 0.002, "in_y": 0.004}),
    ("taper", {}, {"over_by": 3.0}),
    ("taper", {"over_by": 3.0, "large": 32}, {"small": 30.0}),
    ("bar", {}, {"across": -0.048, "up": -0.012, "turned": 0.08}),
    ("collars", {}, {"head": 0.004, "tail": 0.028}),
    ("droop", {}, {"droop": 0.0097}),
    ("tail", {}, {"move": -0.028}),
    ("tail", {"gives": "bends"}, {"move": -0.0594}),
    ("sine", {}, {"height": 9.585}),
    ("sine", {"height": 50}, {"angle": 30}),
    ("sine", {"angle": 30, "height": 50, "bar": ""}, {"bar": 100}),
    ("compound", {"in_x": 45, "in_y": 45}, {"steep": 54.7356, "toward": 45}),
    ("compound", {"steep": 54.7356, "toward": 45}, {"in_x": 45, "in_y": 45}),
    ("balance", {"mass": 2, "off": 10, "rpm": 600, "radius": 100}, {"force": 79.0, "weight": 0.2}),
    ("torque", {"full": 60, "arm": 300}, {"pull": 200}),
    ("torque", {"pull": 100, "arm": 400}, {"full": 40}),
    ("growth", {"size": 100, "warmer": 10}, {"growth": 0.0115}),
    ("growth", {"size": 100, "growth": 0.0234, "of": "alu"}, {"warmer": 10}),
    ("budget", {"parts": "0.03\n0.04"}, {"worst": 0.07, "likely": 0.05, "left": 0.0}),
)  # fmt: skip


@pytest.mark.parametrize(("sum_id", "typed", "wanted"), KNOWN)
def test_a_sum_gives_what_was_worked_by_hand(sum_id: str, typed: dict[str, object], wanted: dict[str, float]) -> None:
    found = given(sum_id, typed)
    for name, expected in wanted.items():
        assert value(found, name) == pytest.approx(expected, rel=2e-3, abs=1.1e-4), name


def test_a_shaft_that_was_bent_on_purpose_is_found_bent_there() -> None:
    rows = []
    for z in (0, 80, 160, 240, 320, 400):
        height = 0.05 * min(z / 200, (400 - z) / 200)
        rows.append(f"{z} {2 * height:.4f} 34")
    found = worked("bend", read="\n".join(rows))
    assert value(found, "place") == pytest.approx(200, abs=2)
    assert value(found, "height") == pytest.approx(0.05, abs=5e-4)
    assert value(found, "high") == pytest.approx(34, abs=0.2)
    assert "Bent" in told(found)
    straight = "\n".join(f"{z} 0.0004 {z}" for z in (0, 80, 160, 240, 320))
    assert "straight" in told(worked("bend", read=straight))


@pytest.mark.parametrize("one", SUMS.values(), ids=list(SUMS))
def test_every_sum_starts_whole_with_words_and_a_picture(one: Sum) -> None:
    for unit in UNITS:
        found = work(one, [], unit)
        assert not found.faults
        assert found.told
        assert found.picture is not None
        assert all(f.text or f.kind == "stock" for f in found.figures)
        assert found.formula
        assert found.holds
        for shape in found.picture.shapes:
            numbers = list(shape.points) if shape.shape == "line" else [shape.x, shape.y]
            assert all(math.isfinite(n) and -60 < n < 700 for n in numbers)
    assert one.words == one.words.lower()


@pytest.mark.parametrize("one", [s for s in SUMS.values() if len(s.ways) > 1], ids=lambda s: s.id)
def test_a_sum_turned_round_comes_back_to_what_was_typed(one: Sum) -> None:
    """Take an answer, type it as if it had been known, and what was typed follows from it."""
    rng = random.Random(one.id)
    for _ in range(6):
        first = one.ways[0]
        plain_ones = [
            f
            for f in one.figures
            if f.id not in first.gives and f.kind in ("reading", "size", "angle", "number", "mass", "torque")
        ]
        typed = []
        for f in plain_ones:
            assert isinstance(f.start, float)
            typed.append((f.id, f"{f.start * rng.uniform(0.8, 1.2):.4f}"))
        there = typed_into(one, typed)
        assert not there.faults
        for way in one.ways[1:]:
            answers = [(name, figure(there, name).text) for name in first.gives if name not in way.gives]
            answers += [(name, "") for name in way.gives if way.rare]
            turned = way.gives
            kept = [(name, text) for name, text in typed if name not in turned]
            back = typed_into(one, [*kept, *answers])
            assert choose_way(one, [*kept, *answers]) is way
            for name, text in typed:
                assert value(back, name) == pytest.approx(float(text), rel=6e-3, abs=2e-3), (way.gives, name)


@pytest.mark.parametrize("one", SUMS.values(), ids=list(SUMS))
def test_a_sum_says_the_same_in_every_unit(one: Sum) -> None:
    plain_ones = [f for f in one.figures if f.kind not in ("choice", "rows", "stock")]
    found = {unit: work(one, [], unit) for unit in UNITS}
    for f in plain_ones:
        seen = [value(found[unit], f.id, unit) for unit in UNITS]
        assert seen == pytest.approx([seen[0]] * 4, rel=1e-2, abs=2e-3 if f.kind == "size" else 2.6e-4), f.id


def test_a_bare_figure_is_in_the_unit_of_the_screen_and_one_with_a_unit_is_not() -> None:
    assert value(worked("tir", "thou", tir="4"), "off", "thou") == pytest.approx(0.0508)
    assert value(worked("tir", "thou", tir="0.1 mm"), "off", "thou") == pytest.approx(0.05, abs=2e-4)
    assert value(
        worked("taper", "thou", large='1-1/4"', small="1.2", over="4", work="12"), "over_by", "thou"
    ) == pytest.approx(1.905, abs=1e-3)
    assert value(worked("torque", full="44.25 lbf ft"), "pull") == pytest.approx(200, rel=1e-3)
    assert value(worked("sine", angle="5°30'"), "height") == pytest.approx(9.585, abs=1e-3)
    assert value(worked("growth", "thou", warmer="9"), "growth", "thou") == pytest.approx(300 * 11.5e-6 * 5, abs=2e-4)


def test_what_was_typed_in_one_unit_is_the_same_length_in_another() -> None:
    found = work(sum_of("tir"), [("tir", Typed(text="4", unit="thou"))], "mm")
    assert (figure(found, "tir").text, figure(found, "off").text) == ("0.1016", "0.0508")
    rows = [("read", Typed(text="0 1\n90 2\n180 3\n270 2", unit="thou"))]
    assert figure(work(sum_of("circle"), rows, "mm"), "read").text.splitlines()[2] == "180.0  0.0762"


def test_what_stands_there_is_kept_when_the_sum_is_turned_round() -> None:
    stands = {"bar": Typed(text="200", unit="mm"), "angle": Typed(text="10", unit="mm")}
    found = work(sum_of("sine"), [("height", Typed(text="100", unit="mm"))], "mm", stands=stands)
    assert value(found, "angle") == pytest.approx(30)  # what was typed last stays, the bar as it stood
    assert value(found, "bar") == pytest.approx(200)


def test_what_is_emptied_follows_and_a_tool_keeps_its_length() -> None:
    both = [("angle", Typed(text="30", unit="mm")), ("height", Typed(text="25", unit="mm"))]
    assert value(work(sum_of("sine"), both, "mm"), "angle") == pytest.approx(14.4775, abs=1e-3)
    found = work(sum_of("sine"), [*both, ("bar", Typed(text=" ", unit="mm"))], "mm")
    assert figure(found, "bar").follows
    assert value(found, "bar") == pytest.approx(50)
    assert work(sum_of("tir"), [("off", Typed(text="", unit="mm"))], "mm").faults == ()  # it follows anyhow


@pytest.mark.parametrize(
    ("sum_id", "typed", "field", "words"),
    [
        ("tir", {"tir": "-1"}, "tir", "at least"),
        ("tir", {"tir": "many"}, "tir", "not a length"),
        ("tir", {"tir": "1,000"}, "tir", "may be two numbers"),
        ("packing", {"throw": "20"}, "throw", "radius"),
        ("packing", {"throw": "17.9", "width": "0"}, "throw", "squeeze"),
        ("packing", {"shim": "40"}, "shim", "as thick as the part"),
        ("sine", {"height": "100"}, "height", "upright"),
        ("sine", {"angle": "91"}, "angle", "between 0.0000 and 89.0000°"),
        ("sine", {"angle": "5°61'"}, "angle", "60 minutes"),
        ("opening", {"move": "40", "diameter": "62"}, "move", "would meet"),
        ("aim", {"x_b": "0"}, "x_b", "lie apart"),
        ("clock", {"bolts": "2.5"}, "bolts", "no whole number"),
        ("circle", {"read": "0 0.1\n0 0.2\n360 0.3"}, "read", "three different"),
        ("circle", {"read": "0 0.1\n90 x\n180 0"}, "read", "line 2"),
        ("circle", {"read": "0 0.1 4\n90 1"}, "read", "line 1 has 3 figures"),
        ("plane", {"read": "0 0 1\n1 1 1\n2 2 1"}, "read", "on one line"),
        ("grid", {"read": "1 2 3\n1 2"}, "read", "not of one length"),
        ("bend", {"read": "0 0 0\n1 0 0\n2 0 0"}, "read", "5 lines at least"),
        ("budget", {"parts": "0\n0"}, "parts", "zero"),
        ("dish", {"cut": "90"}, "cut", "no wider"),
        ("taper", {"over_by": "60"}, "over_by", "comes to a point"),
        ("torque", {"full": "heavy"}, "full", "cannot be read"),
        ("stylus", {"swing": ""}, "swing", "nothing was typed"),
        ("dowels", {"drawer": "gone"}, "drawer", "not in the Shop"),
        ("circle", {"surface": "hole"}, "surface", "no such choice"),
    ],
)  # fmt: skip
def test_nonsense_is_told_at_its_figure_and_the_others_stay(
    sum_id: str, typed: dict[str, str], field: str, words: str
) -> None:
    found = given(sum_id, typed)
    assert [f.figure for f in found.faults] == [field]
    assert words in found.faults[0].why or words in found.faults[0].fix
    assert found.picture is None
    assert figure(found, field).text == typed[field]  # what was typed stands as it was typed


def test_no_figure_makes_a_sum_fall_over() -> None:
    odd = ("0", "-1", "1e9", "999999", "", "abc", "1/0", "0.0000001", "-0", "𝟙", "'; drop", "5°", "0,5", "360", "90")
    for one in SUMS.values():
        for f in one.figures:
            for text in odd:
                found = typed_into(one, [(f.id, text)])
                assert found.faults or found.told, (one.id, f.id, text)


@pytest.mark.parametrize(
    ("sum_id", "typed", "words"),
    [
        ("units", {"mm": "-38.1"}, "Nearest 64th: −1 1/2 in"),
        ("units", {"mm": "-25.4"}, "Nearest 64th: −1 in"),
        ("units", {"mm": "12.7"}, "Nearest 64th: 1/2 in"),
        ("opening", {"diameter": "50", "gap": "50"}, "They stand at its size already."),
        ("shim", {"rise": "0"}, "It is level as it stands"),
        ("reversal", {"first": "0", "second": "0"}, "Neither runs out."),
        ("budget", {"parts": "0.01\n0.01\n0.01", "limit": "0.02"}, "first; it is not alone."),
        ("budget", {"parts": "0.018\n0.004\n0.002", "limit": "0.02"}, "the others hardly count beside it."),
        (
            "reversal",
            {"first": "0.01", "first_at": "0", "second": "0.01", "second_at": "90"},
            "Both have the same part",
        ),
    ],
)
def test_words_keep_to_the_figures(sum_id: str, typed: dict[str, Any], words: str) -> None:
    assert words in told(worked(sum_id, **typed))


def test_wild_readings_are_named_and_left_out() -> None:
    eight = [0.030, 0.021, 0.0, -0.022, -0.029, -0.160, 0.001, 0.020]
    found = worked("circle", read="\n".join(f"{45 * i} {r}" for i, r in enumerate(eight)))
    assert value(found, "off") == pytest.approx(0.0295, abs=3e-4)
    assert "225° does not belong" in told(found)
    flat = [(x, y, 0.01 * x / 100) for x in (0, 50, 100) for y in (0, 40, 80)]
    rows = [f"{x} {y} {h + (0.05 if i == 4 else 0.0004 * (i % 3)):.4f}" for i, (x, y, h) in enumerate(flat)]
    found = worked("plane", read="\n".join(rows))
    assert "(50, 40) mm does not belong" in told(found)
    assert value(found, "flat") < 0.001


def test_the_shops_own_drawer_is_taken_and_can_be_chosen() -> None:
    tin = Stock(id="tin", name="Tin", kind="dowels", pieces=(Piece(mm=0.15, count=2),))
    box = Stock(id="box", name="Box", kind="dowels", pieces=(Piece(mm=0.25, count=1), Piece(mm=0.3, count=2)))
    found = worked("dowels", drawers=(tin, box))
    assert [c.word for c in figure(found, "drawer").choices] == ["Tin", "Box"]
    assert value(found, "pin") == pytest.approx(0.15)
    other = worked("dowels", drawers=(tin, box), drawer="box")
    assert value(other, "pin") == pytest.approx(0.3)  # of 0.25 there is one alone
    assert "to buy" in told(other)


def test_the_fewest_blocks_reach_a_height_and_no_stack_is_nearer() -> None:
    rng = random.Random(5)
    for _ in range(40):
        blocks = tuple((round(rng.uniform(1, 30), 2), 1) for _ in range(7))
        picked = rng.sample(blocks, rng.randint(1, 3))
        height = sum(mm for mm, _ in picked)
        found = fewest(height, blocks)
        assert sum(found) == pytest.approx(height, abs=5e-4)
        assert len(found) <= len(picked)
    assert fewest(5.0, ()) == ()
    assert fewest(7.2, ((7.0, 1), (0.5, 1))) == (7.0,)
    assert fewest(14.0, ((7.0, 2),)) == (7.0, 7.0)


def test_every_word_of_the_trade_finds_a_sum() -> None:
    listed = lines()
    asked = "runout taper shim eccentric tram counterweight torque clocking bent flatness set-over pivot cosine micron dowel rss"
    for word in (*asked.split(), "gauge block", "temperature", "tolerance", "edge finder"):
        assert any(word in one.words for one in listed), word
    assert len({one.id for one in listed}) == len(listed) >= 30
