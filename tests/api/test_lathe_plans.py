"""Plans of the lathe's procedures over HTTP: what cannot work is refused at its field; what works opens."""

from __future__ import annotations

from typing import Any
from uuid import uuid4

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from velvet_hand.core.procedures.registry import PROCEDURES, samples
from velvet_hand.core.setup import events as ev

from .test_bad_input import AT, is_problem, opened, plan, put_thing, send

HOLDER = {
    "clocking": "three-jaw-160", "packing": "three-jaw-160", "reversal": "three-jaw-160", "adjustable": "set-body-130",
    "collet": "collet-nose", "shaft": "centres", "dowels": "drive-housing", "faceplate": "faceplate-300", "tram": "heron-head",
    "vise": "vise-160", "bed": "vise-160", "rod": "vise-160", "edge": "fixture-plate", "vises": "vise-pair-125", "centre": "rotary-250",
    "plate": "slate-plate", "column": "column-260",
}  # fmt: skip
GAUGE = {"throw": "plunger-fine", "rough": "rule", "rod": "feelers"}
ON_AN_EDGE = ("vise", "bed", "rod", "edge")
FIELDS: dict[str, dict[str, str]] = {
    "two_planes": {"near_z_mm": "30 mm", "far_z_mm": "150 mm"},
    "throw": {"throw_mm": "2 mm", "throw_deg": "40"},
    "clocking": {"bolts": "3"},
    "packing": {"stock": "shim-tin"},
    "collet": {"far_z_mm": "60 mm"},
    "shaft": {"z_mm": "10mm 120mm 230mm 340mm 450mm"},
    "dowels": {"stock": "offset-dowels", "span_mm": "190 mm"},
    "bed": {"stock": "fine-shims"},
    "column": {"stock": "fine-shims"},
    "vises": {"spots_mm": "10mm 60mm 115mm"},
}
#: What is not said here is as in the sample workshop.
FIRST = dict(reversed(samples()))
LIMIT = {"rough": "100", "throw": "2", "rod": "12"}
KIND = {"throw": "throw", "vises": "in_line", "plate": "parallel"} | dict.fromkeys(ON_AN_EDGE, "over_jaw")


def lathe(procedure: str, choices: dict[str, str] | None = None, **changes: Any) -> dict[str, Any]:
    """A plan that works, with changes."""
    diameter = {"collet": "12", "tram": "220", "indicator": "0.2"}.get(procedure, "40")
    base = {
        "procedure": procedure,
        "part": {"name": "Rocker", "diameter": {"text": diameter, "unit": "mm"}},
        "holder_id": HOLDER.get(procedure) or FIRST[procedure].holder if procedure in FIRST else "four-jaw-200",
        "gauge_id": GAUGE.get(procedure, "lever-fine"),
        "limit": {
            "kind": KIND.get(procedure) or (FIRST[procedure].kind if procedure in FIRST else "tir"),
            "typed": {"text": LIMIT.get(procedure, "1"), "unit": "thou"},
        },
        "choices": {**FIELDS.get(procedure, {}), **(choices or {})},
    }
    return plan(**{**base, **changes})


def check(client: Any, body: dict[str, Any]) -> Any:
    return client.post("/api/plans/check", json=body)


def open_plan(client: Any, body: dict[str, Any]) -> Any:
    opening = {"id": str(uuid4()), "event_id": str(uuid4()), "at": AT, "author": "Ode", "plan": body}
    return client.post("/api/setups", json=opening)


@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_every_procedure_opens_and_waits_at_its_first_hold_point(client: Any, procedure: str) -> None:
    answer = open_plan(client, lathe(procedure))
    assert answer.status_code == 201, answer.json
    view = answer.json
    assert view["step"] == "make_safe"
    assert view["panels"][0]["hold"]
    assert view["panels"][0]["scene"]["describe"]
    assert client.get(f"/api/setups/{view['id']}").json["step"] == "make_safe"


@pytest.mark.parametrize(
    ("procedure", "choices", "field"),
    [
        ("two_planes", {"far_z_mm": "20 mm"}, "choices.far_z_mm"),
        ("two_planes", {"far_z_mm": ""}, "choices.far_z_mm"),
        ("two_planes", {"far_gauge": "lever-fine"}, "choices.far_gauge"),
        ("two_planes", {"far_gauge": "rule"}, "choices.far_gauge"),
        ("two_planes", {"thin": "paper"}, "choices.thin"),
        ("throw", {"throw_mm": "150 mm"}, "choices.throw_mm"),
        ("throw", {"throw_mm": "0"}, "choices.throw_mm"),
        ("throw", {"throw_mm": "a bit"}, "choices.throw_mm"),
        ("throw", {"throw_deg": "north"}, "choices.throw_deg"),
        ("throw", {"turn_limit_deg": "0"}, "choices.turn_limit_deg"),
        ("clocking", {"bolts": "0"}, "choices.bolts"),
        ("clocking", {"bolts": "2.5"}, "choices.bolts"),
        ("clocking", {"bolts": "many"}, "choices.bolts"),
        ("packing", {"stock": "offset-dowels"}, "choices.stock"),
        ("packing", {"throw_jaw": "4"}, "choices.throw_jaw"),
        ("packing", {"throw_mm": "5 mm"}, "limit.kind"),
        ("reversal", {"positions_deg": "0"}, "choices.positions_deg"),
        ("reversal", {"positions_deg": "0 5"}, "choices.positions_deg"),
        ("reversal", {"positions_deg": "0 x"}, "choices.positions_deg"),
        ("collet", {"far_z_mm": "3 mm"}, "choices.far_z_mm"),
        ("collet", {"positions_deg": "0 60 120 180 240"}, "choices.positions_deg"),
        ("shaft", {"z_mm": "10mm 450mm"}, "choices.z_mm"),
        ("shaft", {"z_mm": "10mm 450mm 120mm"}, "choices.z_mm"),
        ("shaft", {"z_mm": "10mm 120mm 2000mm"}, "choices.z_mm"),
        ("dowels", {"span_mm": "0"}, "choices.span_mm"),
        ("dowels", {"stock": "shim-tin"}, "choices.stock"),
        ("faceplate", {"clamps": "1"}, "choices.clamps"),
        ("rough", {"second": "face", "face_radius_mm": "1 mm"}, "choices.face_radius_mm"),
    ],
)
def test_what_cannot_work_is_refused_at_its_field(
    client: Any, procedure: str, choices: dict[str, str], field: str
) -> None:
    answer = check(client, lathe(procedure, choices))
    assert answer.status_code == 422, answer.json
    assert [e["field"] for e in answer.json["errors"]] == [field]
    assert answer.json["detail"]
    assert "Traceback" not in answer.text


@pytest.mark.parametrize(
    ("body", "field"),
    [
        (lathe("throw", gauge_id="lever-fine"), "gauge_id"),
        (lathe("throw", {"shape": "flats"}, stations_deg=[0, 90, 180]), "stations_deg"),
        (lathe("rough", gauge_id="lever-fine"), "gauge_id"),
        (lathe("faceplate", holder_id="four-jaw-200"), "holder_id"),
        (lathe("four_jaw", gauge_id="rule"), "gauge_id"),
        (lathe("clocking", stations_deg=[0, 90]), "stations_deg"),
    ],
)
def test_a_holder_or_gauge_that_is_not_for_it_is_refused(client: Any, body: dict[str, Any], field: str) -> None:
    answer = check(client, body)
    assert answer.status_code == 422, answer.json
    assert [e["field"] for e in answer.json["errors"]] == [field]


def test_unknown_procedures_and_drawers_are_told(client: Any) -> None:
    is_problem(check(client, plan(procedure="levitation")), 422, "field_invalid", "procedure")
    is_problem(check(client, lathe("packing", {"stock": "nowhere"})), 404, "unknown_thing", "choices.stock")
    is_problem(check(client, lathe("two_planes", {"far_gauge": "nowhere"})), 404, "unknown_thing", "choices.far_gauge")


def test_an_empty_drawer_is_told(client: Any) -> None:
    assert put_thing(client, "stock", "empty-tin", "Empty tin", pieces="").status_code == 200
    answer = check(client, lathe("packing", {"stock": "empty-tin"}))
    assert "empty" in answer.json["detail"].lower()
    assert put_thing(client, "stock", "odd-pins", "Odd pins", "dowels", pieces="0.1").status_code == 200
    assert "two dowels alike" in check(client, lathe("dowels", {"stock": "odd-pins"})).json["detail"]


@settings(max_examples=80, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    procedure=st.sampled_from(list(PROCEDURES)),
    text=st.one_of(
        st.text(max_size=12), st.floats(-1e6, 1e6).map(str), st.sampled_from(["nan", "inf", "1e99", "0 0 0", "-1"])
    ),
    which=st.integers(0, 5),
)
def test_nonsense_in_any_field_is_never_a_fault_of_the_server(
    client: Any, procedure: str, text: str, which: int
) -> None:
    fields = PROCEDURES[procedure].fields
    choices = {fields[which % len(fields)].name: text} if fields else {"what": text}
    answer = check(client, lathe(procedure, choices))
    assert answer.status_code < 500, (choices, answer.text)


@pytest.mark.parametrize(
    ("kind", "typed", "field"),
    [
        ("adjustable_body", {"jaws": "5"}, "jaws"),
        ("adjustable_body", {"jaws": "7"}, "jaws"),
        ("adjustable_body", {"jaws": "4", "clearance_mm": "0"}, "clearance_mm"),
        ("four_jaw_independent", {"max_work_mm": ""}, "max_work_mm"),
    ],
)
def test_a_holder_that_cannot_be_is_refused(client: Any, kind: str, typed: dict[str, str], field: str) -> None:
    size = {"diameter_mm": "100", "min_work_mm": "5", "max_work_mm": "80"}
    answer = put_thing(client, "holders", "new-one", "New one", kind, **{**size, **typed})
    is_problem(answer, 422, "field_invalid", f"typed.{field}")


def remembered(client: Any, holder_id: str) -> str:
    """What the Shop says that a holder remembers."""
    item = next(h for h in client.get("/api/shop").json["holders"] if h["id"] == holder_id)
    return "".join(p.get("text", "…") for p in item["remembers"])


def test_a_holder_remembers_and_can_be_made_to_forget(client: Any) -> None:
    from tests.core.bench_person import Person
    from velvet_hand.core.holders import Holder
    from velvet_hand.store import setups, shop

    client.get("/api/health")
    with client.application.extensions["database"].connection_context():
        chuck = shop.get(Holder, "four-jaw-315", "holder_id")
        person = Person(holder=chuck)
        person.read_all(0.2, 0.0, -0.2, 0.0, closing=0.001)
        person.do()
        person.read_all(0.04, 0.0, -0.04, 0.0, closing=0.04)
        person.do()
        person.send(ev.Tightened())
        person.read_all(-0.002, 0.0, 0.002, 0.0, closing=-0.002)
        person.send(ev.Proved(pass_no=3))
        setup_id = uuid4()
        setups.open_setup(setup_id, person.events[0])
        for event in person.events[1:]:
            setups.append(setup_id, event.id, event.at, event.author, event.body)  # type: ignore[arg-type]
    memory = setups.memory_of(chuck)
    assert memory.setups == 1
    assert 0.7 < memory.taught["gain_1"][0][0] < 1.2
    assert "% of what is asked" in remembered(client, "four-jaw-315")
    told = check(client, lathe("four_jaw", holder_id="four-jaw-315")).json["told"]
    assert "memory" in [c["code"] for c in told]
    view = open_plan(client, lathe("four_jaw", holder_id="four-jaw-315")).json
    assert any("remembers" in p["text"] for t in view["told"] for p in t if p["kind"] == "words")
    assert client.delete("/api/shop/holders/four-jaw-315/memory").status_code == 200
    assert remembered(client, "four-jaw-315") == ""
    assert client.delete("/api/shop/holders/nobody/memory").status_code == 404


def test_a_swing_below_nothing_and_an_angle_beyond_a_turn_are_told(client: Any) -> None:
    setup_id = open_plan(client, lathe("shaft", {"noted": "high"})).json["id"]
    for step, checked in (
        ("make_safe", ["stopped", "board", "sleeves", "carry", "splines"]),
        ("centres", ["turned", "holes"]),
        ("clean", []),
    ):
        assert send(client, setup_id, {"type": "step_passed", "step": step, "checked": checked}).status_code == 200
    typed = {"type": "reading_taken", "pass_no": 1, "closing": False}
    low = {**typed, "station_id": "z0-swing", "typed": {"text": "-1", "unit": "thou"}}
    is_problem(send(client, setup_id, low), 422, "reading_nonsense", "typed.text")
    wide = {**typed, "station_id": "z0-high", "typed": {"text": "400", "unit": "thou"}}
    is_problem(send(client, setup_id, wide), 422, "reading_nonsense", "typed.text")


def test_a_second_gauge_wants_its_own_press_test(client: Any) -> None:
    body = lathe("two_planes", {"far_gauge": "plunger-fine"})
    setup_id = open_plan(client, body).json["id"]
    send(client, setup_id, {"type": "press_tested", "went": "plus", "gauge": ""})
    early = send(client, setup_id, {"type": "step_passed", "step": "set_gauge", "checked": []})
    assert early.status_code == 409
    assert send(client, setup_id, {"type": "press_tested", "went": "minus", "gauge": "far"}).status_code == 200
    other = opened(client)
    assert send(client, other, {"type": "press_tested", "went": "plus", "gauge": "far"}).status_code == 422


def at_the_plate(client: Any) -> str:
    """A plate of three by two, opened and ready to be read."""
    grid = {"columns": "3", "rows": "2", "repeats": "0"}
    setup_id = str(open_plan(client, lathe("plate", grid)).json["id"])
    for body in (
        {"type": "step_passed", "step": "make_safe", "checked": ["lift", "edge", "tips", "eyes"]},
        {"type": "step_passed", "step": "clean", "checked": []},
        {"type": "press_tested", "went": "plus", "gauge": ""},
        {"type": "zero_set", "station_id": "g1"},
        {"type": "step_passed", "step": "set_gauge", "checked": []},
    ):
        assert send(client, setup_id, body).status_code == 200
    return setup_id


def test_readings_from_a_file_are_read_and_kept_like_typed_ones(client: Any) -> None:
    setup_id = at_the_plate(client)
    answer = client.post(f"/api/setups/{setup_id}/sheet", json={"text": "0.4,0.5,0.6\n0.1,0.2,0.3\n", "unit": "thou"})
    assert answer.status_code == 200, answer.json
    assert [r["text"] for r in answer.json["readings"]] == ["0.1", "0.2", "0.3", "0.6", "0.5", "0.4"]
    for one in answer.json["readings"]:
        typed = {"text": one["text"], "unit": "thou"}
        spot = {"station_id": one["station_id"], "closing": one["closing"]}
        body = {"type": "reading_taken", "pass_no": answer.json["pass_no"], "typed": typed, **spot}
        assert send(client, setup_id, body).status_code == 200
    view = client.get(f"/api/setups/{setup_id}").json
    assert {f["id"] for f in view["figures"]} >= {"parallel", "flat", "tilt_x", "twist"}
    is_problem(client.post(f"/api/setups/{setup_id}/sheet", json={"text": "nothing"}), 422, "field_invalid", "text")
    assert client.post(f"/api/setups/{uuid4()}/sheet", json={"text": "1"}).status_code == 404


def test_a_vise_is_kept_with_its_bolts_and_refused_without_its_jaw(client: Any) -> None:
    def put(**changes: str) -> Any:
        size = {"edge_mm": "150", "depth_mm": "100", "key_clearance_mm": "0.03", "key_span_mm": "110"}
        typed = {**size, "bolts_mm": "12 138", "torque": " 40 Nm ", **changes}
        return put_thing(client, "holders", "vise-150", "Vise 150", "vise", **typed)

    assert put().status_code == 200
    kept = next(h for h in client.get("/api/shop").json["holders"] if h["id"] == "vise-150")
    assert (kept["typed"]["edge_mm"], kept["typed"]["bolts_mm"]) == ("150 mm", "12 138")
    assert kept["typed"]["torque"] == "40 Nm"
    is_problem(put(edge_mm=""), 422, "field_invalid", "typed.edge_mm")
    is_problem(put(bolts_mm="400"), 422, "field_invalid", "typed.bolts_mm")
    is_problem(put(key_clearance_mm="9"), 422, "field_invalid", "typed.key_clearance_mm")
    told = check(client, lathe("vise", {"spots_mm": "10mm 140mm"}, holder_id="vise-150", gauge_id="lever-micron"))
    assert told.status_code == 200, told.json


@pytest.mark.parametrize("taps", [0, -3, 501, "many", "3", True])
def test_taps_are_a_whole_number(client: Any, taps: Any) -> None:
    setup_id = open_plan(client, lathe("vise")).json["id"]
    assert send(client, setup_id, {"type": "move_done", "pass_no": 1, "move_id": "p1", "taps": taps}).status_code == 422
