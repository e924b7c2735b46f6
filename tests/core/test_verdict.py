"""Three outcomes, the band, and the term that is named."""

import pytest

from velvet_hand.core.budget import budget
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.verdict import Term, judge, worst


def terms(gauge: float = 0.001, floor: float = 0.0, **more: float) -> tuple[Term, ...]:
    named = {"gauge": gauge, "floor": floor, **more}
    return tuple(Term(name=name, mm=mm) for name, mm in named.items())  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("value", "outcome"),
    [(0.010, "holds"), (0.019, "holds"), (0.0191, "cannot_tell"), (0.021, "cannot_tell"), (0.0211, "outside")],
)
def test_the_band_decides(value: float, outcome: str) -> None:
    assert judge("tir", value, 0.020, terms()).outcome == outcome


def test_the_limit_itself_passes() -> None:
    assert judge("tir", 0.020, 0.020, ()).outcome == "holds"


@pytest.mark.parametrize("name", ["gauge", "scatter", "drift", "floor"])
def test_the_largest_term_is_named_with_what_would_settle_it(name: str) -> None:
    verdict = judge("off_centre", 0.0195, 0.020, terms(**{"gauge": 0.0001, name: 0.003}))
    assert verdict.limited_by == name
    assert verdict.settle


def test_form_above_the_limit_is_what_limits_a_tir() -> None:
    verdict = judge("tir", 0.05, 0.020, terms(), form_mm=0.045)
    assert (verdict.outcome, verdict.limited_by) == ("outside", "form")
    assert verdict.settle is not None
    assert "off center" in verdict.settle


@pytest.mark.parametrize("size", [0.001, 0.02])
def test_of_several_that_end_alike_the_one_nearest_to_its_limit_leads(size: float) -> None:
    terms = (Term(name="gauge", mm=0.0001),)
    near, far = (judge("tir", value, 0.01, terms) for value in (size * 1.5, size))
    assert near.outcome == far.outcome
    for order in ((near, far), (far, near)):
        assert worst(order).value_mm == near.value_mm


def test_what_happens_at_a_spot_is_stretched_to_what_it_comes_to() -> None:
    dial = Gauge(id="g", name="Lever", kind="lever", graduation_mm=0.002, travel_mm=1, lost_motion_mm=0.004)
    once = budget(0.001, dial, floor_mm=0.003, play_mm=0.005, drift_mm=0.006, form=("form", 0.007))
    twice = budget(0.001, dial, stretch=2.0, floor_mm=0.003, play_mm=0.005, drift_mm=0.006, form=("form", 0.007))
    told = {t.name: t.mm for t in once}
    assert told == pytest.approx(
        {
            "gauge": 0.002,
            "form": 0.007,
            "floor": 0.0015,
            "play": 0.0025,
            "lost_motion": 0.002,
            "drift": 0.24 * dial.walked_mm(0.006),
        }
    )
    for term in twice:
        assert term.mm == pytest.approx(told[term.name] * (1 if term.name == "gauge" else 2)), term.name
