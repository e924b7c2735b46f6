"""A proof that proves nothing is not taken for one: places past the dial, a needle that did not come back."""

from __future__ import annotations

import pytest

from tests.core.bench_person import Person
from tests.core.test_lathe_known import Hand, outside
from velvet_hand.core.desk import desk
from velvet_hand.core.errors import NotNow
from velvet_hand.core.setup import events as ev
from velvet_hand.core.units import Typed

RINGS = ["clocking", "collet", "reversal", "shaft", "throw", "two_planes"]


def proof(*needle: str, closing: str) -> Person:
    """A four-jaw that is tight; its proof reads that."""
    person = Person(limit_thou="0.5", travel_mm=0.8)
    person.send(ev.StepPassed(step="read"))
    person.send(ev.Tightened())
    for index, said in enumerate(needle, start=1):
        person.read(f"s{index}", said)
    person.read("s1", closing, closing=True)
    return person


@pytest.mark.parametrize(
    ("needle", "closing", "limited_by"),
    [
        (("0", "0", "0", "0"), "0", None),
        (("+off", "0", "0", "0"), "0", "unread"),
        (("0", "lost", "0", "0"), "0", "unread"),
        (("0", "0", "0", "0"), "+off", "drift"),
        (("0", "0", "0", "0"), "lost", "drift"),
        (("0.001", "0", "0", "0.003"), "0.005", "drift"),
    ],
)
def test_off_lost_or_not_come_back_is_no_proof(needle: tuple[str, ...], closing: str, limited_by: str | None) -> None:
    person = proof(*needle, closing=closing)
    judged, panel = person.solve().judged, person.panel()
    if judged is None:
        assert limited_by == "unread"
        assert panel.primary is not None
        assert panel.primary.id == "again"
        return
    if limited_by is None:
        assert (judged.outcome, panel.primary.id) == ("holds", "prove")  # type: ignore[union-attr]
        return
    assert (judged.outcome, judged.limited_by) == ("cannot_tell", limited_by)
    assert judged.settle
    assert panel.primary is not None
    assert (panel.primary.id, panel.primary.key) == ("again", "Enter")
    assert [a.key for a in panel.others if a.id == "prove"] == ["T"]
    assert person.view().passes[-1].outcome == "cannot_tell"
    person.send(ev.Proved(pass_no=1))
    verdict = desk.load(person.events).verdict
    assert verdict is not None
    assert verdict.outcome == "cannot_tell"


def test_read_again_it_is_a_proof() -> None:
    person = proof("0", "0", "0", "0", closing="0.006")
    for event in person.panel().primary.events:  # type: ignore[union-attr]
        person.send(event)
    person.read_all(0.0, 0.0, 0.0, 0.0, closing=0.0)
    assert person.panel().primary.id == "prove"  # type: ignore[union-attr]
    judged = person.solve().judged
    assert judged is not None
    assert judged.outcome == "holds"


@pytest.mark.parametrize(("off", "spot"), [("+off", "s3"), ("-off", "s2")])
def test_a_place_past_the_dial_is_read_again_from_a_zero_nearer_to_it(off: str, spot: str) -> None:
    person = proof(off, "0.1", "0.5", "0.3", closing=off)
    primary = person.panel().primary
    assert primary is not None
    assert [(e.type, getattr(e, "station_id", "")) for e in primary.events] == [("zero_set", spot)]
    person.send(primary.events[0])
    view = person.view()
    assert (view.tray.pass_no, {c.state for c in view.tray.cells}) == (2, {"open"})


def test_a_proof_that_cannot_be_judged_is_not_taken() -> None:
    person = proof("+off", "+off", "0", "0", closing="+off")
    assert person.solve().judged is None
    assert [a.id for a in person.panel().others] == []
    with pytest.raises(NotNow, match="cannot be judged"):
        person.send(ev.Proved(pass_no=1))


@pytest.mark.parametrize("said", ["+off", "lost"])
@pytest.mark.parametrize("procedure", RINGS)
def test_no_ring_with_a_place_off_the_dial_holds(procedure: str, said: str) -> None:
    hand = Hand(outside(procedure, **({"noted": "all"} if procedure == "shaft" else {})))
    asked = desk.load(hand.events).to_read(None)
    for spot in {station.ring: station.id for station, again in asked if not again}.values():
        hand = Hand(outside(procedure, **({"noted": "all"} if procedure == "shaft" else {})))
        for station, again in asked:
            if station.id == spot and not again:
                typed = Typed(text=said, unit="mm")
                hand.send(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=typed, closing=False))
            else:
                hand._read(1, station.id, 0.0, closing=again)
        judged = hand.solve().judged
        assert judged is None or (judged.outcome != "holds" and all(v.outcome != "holds" for v in judged.beside)), spot
