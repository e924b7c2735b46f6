"""Only what goes on a machine is offered for it."""

from __future__ import annotations

from velvet_hand.core.procedures.registry import PROCEDURES, holders_on


def test_what_goes_on_a_lathe_does_not_go_on_a_mill() -> None:
    lathe, mill, plate = (set(holders_on(kind)) for kind in ("lathe", "mill", "plate"))
    assert {"four_jaw_independent", "three_jaw", "collet", "centres", "faceplate"} <= lathe
    assert {"vise", "vise_pair", "mill_head", "rotary_table", "column", "fixture"} <= mill
    assert plate == {"surface_plate"}
    assert not lathe & mill & plate
    assert "mill_head" not in lathe
    assert "vise" not in lathe
    assert lathe | mill | plate == {kind for p in PROCEDURES.values() for kind in p.holder_kinds}
