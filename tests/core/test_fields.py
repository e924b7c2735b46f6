"""What the start page asks for a procedure: typed text becomes a value, or a message at its field."""

from __future__ import annotations

from typing import Annotated, Any, Literal

import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import BaseModel, ValidationError

from tests.core.lathe_plans import PINS, RULE, SHIMS, common
from tests.support import as_a
from velvet_hand.core.desk.planning import make_plan
from velvet_hand.core.errors import BadInput, NotFound, VelvetHandError
from velvet_hand.core.fields import Choice, FieldSpec, LengthOf, LengthsOf, OneOf, fields_of
from velvet_hand.core.filling import read, size_unit
from velvet_hand.core.holders import DowelledHousing, ThreeJaw
from velvet_hand.core.procedures.clocking.plan import ClockingPlan
from velvet_hand.core.procedures.registry import PROCEDURES
from velvet_hand.core.sim.example import held


def spec(kind: str, **more: Any) -> FieldSpec:
    return FieldSpec.model_validate({"name": "x", "label": "Throw wanted", "kind": kind, **more})


def nothing(kind: str, item_id: str, field: str) -> Any:
    raise NotFound("unknown_thing", f"There is no such {kind}.", "Choose one.", field)


def found(kind: str, item_id: str, field: str) -> Any:
    return {"shims": SHIMS, "dowels": PINS, "gauge": RULE}[kind]


@pytest.mark.parametrize(
    ("field", "typed", "value"),
    [
        (spec("length"), "12.5", 12.5),
        (spec("length"), '0.5"', 12.7),
        (spec("lengths"), "10 20  30", (10.0, 20.0, 30.0)),
        (spec("lengths"), '1" 2"', (25.4, 50.8)),
        (spec("angle", most=360), "40°", 40.0),
        (spec("angle", most=360), "12,5", 12.5),
        (spec("angles", most=360), "0 90; 180", (0.0, 90.0, 180.0)),
        (spec("number", most=24), "6", 6),
        (spec("choice", choices=(Choice(id="a", word="A"),)), "a", "a"),
        (spec("length", optional=True), "  ", None),
        (spec("shims"), "tin", SHIMS),
        (spec("dowels"), "box", PINS),
    ],
)
def test_typed_text_becomes_a_value(field: FieldSpec, typed: str, value: Any) -> None:
    got = read(field, typed, "mm", found)
    assert got == (pytest.approx(value) if isinstance(value, float) else value)


@pytest.mark.parametrize(
    ("field", "typed", "words"),
    [
        (spec("length"), "", "nothing was typed"),
        (spec("length"), "wide", "not a length"),
        (spec("length", least=5), "4", "between 5 and 3000 mm"),
        (spec("length"), "-1", "between 0"),
        (spec("angle", most=360), "north", "no number"),
        (spec("angle", most=360), "nan", "no number"),
        (spec("angle", most=360), "400", "between 0 and 360"),
        (spec("number", least=2, most=24), "2.5", "whole number"),
        (spec("number", least=2, most=24), "0", "between 2 and 24"),
        (spec("number", most=24), "inf", "no number"),
        (spec("choice", choices=(Choice(id="a", word="A"),)), "b", "no such choice"),
        (spec("lengths"), "10 x", "not a length"),
    ],
)
def test_what_cannot_be_used_names_its_field_in_shop_words(field: FieldSpec, typed: str, words: str) -> None:
    with pytest.raises(BadInput, match=words) as told:
        read(field, typed, "mm", found)
    assert told.value.field == "choices.x"
    assert told.value.fix or told.value.why


def test_a_bare_size_is_in_inches_where_the_shop_works_in_thou() -> None:
    assert read(spec("length"), "0.5", "thou", found) == pytest.approx(12.7)
    assert read(spec("length"), "0.5 mm", "thou", found) == pytest.approx(0.5)
    assert read(spec("lengths"), "1 2", "tenth", found) == pytest.approx((25.4, 50.8))
    assert size_unit("12", "mm") == ("12", "mm")
    assert size_unit("12", "um") == ("12", "mm")


@given(
    st.text(max_size=30),
    st.sampled_from(["length", "angle", "number", "choice", "lengths", "angles", "shims", "gauge"]),
)
def test_no_text_at_all_breaks_a_field(typed: str, kind: str) -> None:
    told: VelvetHandError | None = None
    try:
        read(spec(kind, most=100), typed, "mm", nothing)
    except VelvetHandError as error:
        told = error
    assert told is None or told.field == "choices.x"


def test_a_plan_is_made_of_the_common_part_and_the_procedures_own_fields() -> None:
    three = held(ThreeJaw)
    plan = as_a(ClockingPlan, make_plan(PROCEDURES["clocking"], common(0, holder=three), {"bolts": "6"}, found))
    assert plan.procedure == "clocking"
    assert plan.bolts == 6
    assert plan.way == "every"
    again = as_a(ClockingPlan, make_plan(PROCEDURES["clocking"], common(0, holder=three), {}, found))
    assert again.bolts == 3


def test_what_there_is_only_one_way_to_do_is_not_asked() -> None:
    housing = held(DowelledHousing)
    plan = make_plan(PROCEDURES["dowels"], common(0, holder=housing), {"stock": "box", "span_mm": "200 mm"}, found)
    assert plan.part.surface == "inside"
    assert plan.carrier == "gauge_turns"


@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_every_field_starts_with_something_that_can_be_read_or_has_to_be_filled(procedure: str) -> None:
    for field in PROCEDURES[procedure].fields:
        assert field.label
        assert field.least <= field.most
        if field.kind == "choice":
            assert field.start in [c.id for c in field.choices]
        if field.start:
            read(field, field.start, "mm", found)
        needs_shop = field.kind in ("shims", "dowels", "gauge")
        assert field.start or field.optional or needs_shop or field.kind in ("length", "lengths")


@pytest.mark.parametrize("procedure", list(PROCEDURES))
def test_the_questions_of_a_procedure_belong_to_its_plan(procedure: str) -> None:
    one = PROCEDURES[procedure]
    assert {f.name for f in one.fields} <= set(one.plan_class.model_fields)
    assert one.asks.limit_kinds
    assert one.asks.gauges
    places = any(f.kind == "lengths" or f.name in ("columns", "steps") for f in one.fields)
    assert one.asks.presets or places
    assert one.holder_kinds
    assert one.title[0].isupper()
    assert all((one.needs.holder, one.needs.gauge, one.needs.machine, one.needs.part))


def test_a_choice_and_its_words_cannot_part() -> None:
    class Odd(BaseModel):
        way: Annotated[Literal["a", "b"], OneOf("Way", words={"a": "first"})] = "a"

    with pytest.raises(TypeError, match="are not the choices"):
        fields_of(Odd)


def test_a_plan_keeps_the_bounds_of_its_fields() -> None:
    class Short(BaseModel):
        spots_mm: Annotated[tuple[float, ...], LengthsOf("Spots", least=1, most=50)] = (10.0, 20.0)
        sag_mm: Annotated[float | None, LengthOf("Sag", most=2)] = None

    one, two = fields_of(Short)
    assert (one.start, one.least, one.most, one.optional) == ("10mm 20mm", 1, 50, False)
    assert (two.start, two.optional) == ("", True)
    with pytest.raises(ValidationError, match="Spots is between 1 and 50"):
        Short(spots_mm=(10, 60))
    with pytest.raises(ValidationError, match="Sag is between 0 and 2"):
        Short(sag_mm=2.5)
