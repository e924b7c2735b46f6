"""Looking back: what a part measured, a set-up's account and story, what changed, and whether verdicts held."""

from __future__ import annotations

import re
from dataclasses import replace
from datetime import UTC, datetime, timedelta
from typing import Literal

import numpy as np
import pytest

from tests.core.bench_person import Person
from velvet_hand.core.after.account import Account, PartMeasured
from velvet_hand.core.after.history import Past, history
from velvet_hand.core.after.run import Run, runs
from velvet_hand.core.after.score import score
from velvet_hand.core.after.trend import trend
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import BadInput, NotNow
from velvet_hand.core.holders import ThreeJaw
from velvet_hand.core.memory import Lesson
from velvet_hand.core.quantity import Quantity
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.example import held
from velvet_hand.core.units import Typed
from velvet_hand.core.verdict import Outcome
from velvet_hand.core.wording import plain

DAY = datetime(2026, 3, 1, 8, tzinfo=UTC)


def proved() -> Person:
    person = Person()
    person.send(ev.Tightened())
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    person.send(ev.Proved(pass_no=1))
    return person


def measured(
    text: str, what: Literal["asked", "taper", "size"] = "asked", unit: str = "mm", piece: int = 1
) -> ev.MeasuredPart:
    typed = Typed.model_validate({"text": text, "unit": unit})
    return ev.MeasuredPart(what=what, typed=typed, piece=piece, by="Bore gauge")


def told(person: Person) -> list[str]:
    story = desk.record(person.events, desk.load(person.events)).story
    return [plain(one, "mm", 0.001) for one in (story.asked, story.found, story.done, *story.after)]


def test_a_set_up_tells_what_was_asked_found_done_and_measured() -> None:
    person = proved()
    person.send(ev.TakenOff())
    person.send(measured("0.4", unit="thou"))
    person.send(measured("-0.012", "size", piece=2))
    asked, stood, done, *after = told(person)
    assert (asked, stood) == ("Within 0.013 mm TIR.", "It stood at 0.000 mm TIR at first.")
    assert re.fullmatch(r"No moves in 1 pass, about 2 minutes at it: holds, 0\.000 mm ± 0\.0\d\d mm TIR\.", done), done
    assert after == [
        "Piece 1 measured 0.010 mm TIR, so it held, by Bore gauge (Ode).",
        "Piece 2 measured −0.012 mm off size, by Bore gauge (Ode).",
    ]
    assert [m.mm for m in desk.account(desk.load(person.events)).measured] == pytest.approx([0.01016, -0.012])
    assert plain(person.log()[-2].what, "mm", 0.001) == "Piece 1 measured 0.010 mm TIR, by Bore gauge."
    person.undo()
    assert told(person) == [asked, stood, done, after[0]]
    assert desk.load(person.events).taken_off


def test_a_part_is_measured_after_a_proof_or_never() -> None:
    person = Person()
    with pytest.raises(NotNow, match="Nothing can have been cut"):
        person.send(measured("0.01"))
    person.send(ev.Accepted(reason="Roughing only."))
    person.send(measured("0.2"))
    assert "so it" not in told(person)[-1]  # nothing was promised
    for text in ("-0.01", "80 mm", "1,234", "twelve"):
        with pytest.raises(BadInput) as caught:
            person.send(measured(text))
        assert caught.value.field == "typed.text"


def test_breaks_are_no_minutes() -> None:
    person = Person()
    person.send(ev.Tightened())
    person.at += timedelta(hours=5)
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    assert desk.account(desk.load(person.events)).minutes is None
    person.send(ev.Proved(pass_no=1))
    person.at += timedelta(days=2)
    person.send(ev.Noted(text="Looked at it again."))
    work = [e for e in person.events if not isinstance(e.body, ev.Opened | ev.Noted)]
    minutes = desk.account(desk.load(person.events)).minutes
    assert minutes == pytest.approx((len(work) - 2) * 10 / 60)


def test_a_change_is_found_where_it_is_and_none_where_there_is_none() -> None:
    rng = np.random.default_rng(4)
    still = [trend(list(rng.gamma(4, 0.1, 24))) for _ in range(300)]
    assert sum(one is not None and one.changed is not None for one in still) <= 6
    for _ in range(40):
        found = trend([*rng.normal(1, 0.1, 14), *rng.normal(1.6, 0.1, 10)])
        assert found is not None
        assert found.changed is not None
        assert abs(found.changed - 14) <= 1
        assert found.low < 1 < found.high
        assert found.before == pytest.approx(1, abs=0.15)
        assert found.after == pytest.approx(1.6, abs=0.2)
    wild = trend([*rng.normal(1, 0.1, 20), 9.0])
    assert wild is not None
    assert wild.changed is None
    assert wild.odd(9.0)
    assert trend([1.0] * 7) is None
    same = trend([1.0] * 20)
    assert same is not None
    assert (same.changed, same.odd(1.0)) == (None, False)


def account(mm: float, part: float | None, outcome: Outcome = "holds", limit: float = 0.02) -> Account:
    parts = () if part is None else (PartMeasured(what="asked", mm=part, piece=1, by="", author="Ode", at=DAY),)
    kind: Literal["tir"] = "tir"
    return Account(
        limit=Quantity(kind=kind, mm=limit), value=Quantity(kind=kind, mm=mm), band_mm=0.003, outcome=outcome, hand="Ode",
        minutes=12.0, passes=3, moves=2, measured=parts,
    )  # fmt: skip


def test_verdicts_are_scored_by_parts_and_an_offset_is_named() -> None:
    rng = np.random.default_rng(2)
    fair = [account(v, v + float(rng.normal(0, 0.001))) for v in rng.uniform(0.004, 0.012, 12)]
    good = score([*fair, account(0.01, 0.023), account(0.01, None), account(0.03, 0.03, "outside")])
    assert (good.promised, good.kept, len(good.parts)) == (13, 12, 14)
    assert [plain(t, "mm", 0.001) for t in good.told] == ["12 of 13 that “hold” held."]
    off = score(account(v, v + 0.004 + float(rng.normal(0, 0.001))) for v in rng.uniform(0.004, 0.012, 12))
    words = plain(off.told[1], "mm", 0.001)
    assert words.startswith("Parts measure 0.004 mm TIR more than their proof said, ± 0.001")
    assert words.endswith("how parts are measured.")
    assert ", by 12 set-ups. " in words
    assert score([]).told == ()


def test_many_parts_of_one_set_up_are_no_offset_of_all() -> None:
    """They share what its proof was off by."""
    one = account(0.005, None)
    parts = tuple(
        PartMeasured(what="asked", mm=0.011 + 0.0001 * (n % 3), piece=n, by="", author="Ode", at=DAY) for n in range(9)
    )
    fair = account(0.006, 0.0055)
    assert len(score([one.model_copy(update={"measured": parts}), fair]).told) == 1


def run_of(values: list[float], what: Literal["asked", "size"] = "asked") -> Run:
    parts = [PartMeasured(what=what, mm=v, piece=n, by="", author="", at=DAY) for n, v in enumerate(values, 1)]
    return runs(account(0.01, None).model_copy(update={"measured": tuple(parts)}))[0]


def test_pieces_that_drift_are_measured_again_before_they_are_outside() -> None:
    rng, missed, far = np.random.default_rng(6), 0, []
    for _ in range(300):
        slope, noise, n = float(rng.uniform(0, 0.0006)), float(rng.uniform(0.0002, 0.001)), int(rng.integers(4, 12))

        def make(piece: int, slope: float = slope, noise: float = noise) -> float:
            return 0.005 + slope * piece + float(rng.normal(0, noise))

        run = run_of([make(piece) for piece in range(1, n + 1)])
        assert run.next_piece is not None
        assert run.next_piece > n
        missed += make(run.next_piece) > 0.02
        far.append(run.next_piece - n)
    assert missed <= 300 * 0.03
    assert float(np.median(far)) >= 4  # nobody has to measure every piece


def test_a_run_says_what_it_does() -> None:
    def said(run: Run) -> str:
        return plain(run.told, "mm", 0.0001)

    assert said(run_of([0.006, 0.007, 0.008, 0.0091, 0.0099])).startswith(
        "It goes +0.0010 mm a piece, ± 0.0001 mm. Measure again at piece"
    )
    assert said(run_of([0.010, 0.011, 0.0105, 0.0102, 0.0101])).startswith(
        "No drift over 5 pieces. Measure again at piece"
    )
    assert said(run_of([0.006, 0.021])).startswith("The last piece is outside. Stop")
    assert said(run_of([0.006, 0.007])) == "2 more pieces and a drift can be told."
    assert said(run_of([0.018, 0.012, 0.016, 0.019, 0.011])).startswith("No drift over 5 pieces. Measure every piece")
    size = run_of([-0.01, -0.012, -0.0141, -0.0159], "size")
    assert (said(size), size.next_piece, size.limit_mm) == ("It goes −0.0020 mm a piece, ± 0.0002 mm.", None, None)
    assert said(run_of([0.01] * 6)).startswith("No drift over 6 pieces")


def past(shifts: list[float]) -> list[Past]:
    made = []
    for n, shift in enumerate(shifts):
        lesson = Lesson(
            taught={"shift_1": (shift, 1e-8), "shift_2": (0.0, 1e-8), "gain_1": (0.86, 1e-4)}, closings=(0.001,)
        )
        made.append(Past(f"s{n}", DAY + timedelta(days=7 * n), "Drum", account(0.01, None), lesson))
    return made


def test_a_holder_whose_shift_grew_says_since_when_and_what_to_do() -> None:
    rng = np.random.default_rng(1)
    rows = past([*rng.normal(0.002, 0.0004, 14), *rng.normal(0.009, 0.0006, 8)])
    chuck = Person().plan.holder.model_copy(update={"struck": ("s3",), "forget_before": DAY + timedelta(days=8)})
    told = history("holder", "Four-jaw 200", rows, chuck)
    assert told.jaws_deg == desk.load(Person().events).plan.holder.jaws_deg
    shift = next(s for s in told.series if s.id == "shift")
    assert shift.since == DAY + timedelta(days=7 * 14)
    assert plain(shift.told, "mm", 0.001).startswith(
        "Shift on tightening grew from 0.002 mm to 0.009 mm since 7 Jun 2026."
    )
    assert "Clean and grease" in plain(shift.told, "mm", 0.001)
    assert [p.odd for p in shift.points[14:]] == [True] * 8
    assert all(s.since is None for s in told.series if s.id != "shift")
    counts = {line.setup: line.counts for line in told.lessons}
    assert (counts["s0"], counts["s1"], counts["s3"], counts["s21"]) == ("forgotten", "forgotten", "struck", "counts")
    assert plain(told.lessons[-1].what, "mm", 0.001).startswith("86 ± 2 % stays, shift 0.00")
    hardly = Lesson(taught={"gain_1": (0.82, 0.03**2), "gain_2": (1.21, 0.15**2), "shift_1": (0.003, 0.002**2)})
    line = history("holder", "Four-jaw 200", [replace(rows[0], lesson=hardly)], chuck).lessons[0]
    assert plain(line.what, "mm", 0.001) == "82 ± 6 and 121 ± 30 % stays, shift 0.003 ± 0.004 mm"
    assert len(told.pushes) == 22
    assert told.pushes[0].x_mm == pytest.approx(rows[0].lesson.taught["shift_1"][0])
    assert plain(told.about, "mm", 0.001) == "22 set-ups, 22 proved."


def test_what_never_did_anything_has_no_history() -> None:
    told = history("machine", "Wren lathe", [])
    assert (told.series, told.lessons, plain(told.about, "mm", 0.001)) == ((), (), "No set-up yet.")


def test_what_a_chuck_is_proved_to_is_held_against_what_its_manual_promises() -> None:
    chuck = held(ThreeJaw, runout_mm=0.05)
    told = history("holder", chuck.name, past([0.001] * 3), chuck)
    promised = next(s for s in told.series if s.id == "promised")
    assert [p.value for p in promised.points] == [pytest.approx(20)] * 3  # 0.01 of 0.05
    unknown = history("holder", chuck.name, past([0.001] * 3), held(ThreeJaw))
    assert all(s.id != "promised" for s in unknown.series)


def test_a_batch_that_is_done_says_its_first_and_its_last_piece() -> None:
    parts = [PartMeasured(what="asked", mm=v, piece=n, by="", author="", at=DAY) for n, v in ((1, 0.006), (40, 0.009))]
    done = account(0.01, None).model_copy(update={"measured": tuple(parts), "standing": False})
    assert plain(runs(done)[0].told, "mm", 0.001).endswith("First piece 0.006 mm, last 0.009 mm.")
    assert "First piece" not in plain(runs(done.model_copy(update={"standing": True}))[0].told, "mm", 0.001)
