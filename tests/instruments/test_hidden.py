"""The machine behind a live needle does what the set-up's events say."""

from __future__ import annotations

import numpy as np

from tests.core.bench_person import Person
from velvet_hand.core.setup import events as ev
from velvet_hand.instruments.simulated import Hidden


def test_what_is_tightened_again_shifts_again() -> None:
    person = Person(travel_mm=2.0)
    person.read_all(0.02, 0.0, -0.02, 0.0, closing=0.02)
    person.send(ev.StepPassed(step="read"))
    begun = len(person.events)
    for _ in range(3):
        person.send(ev.Tightened())
    hidden = Hidden(person.events[:begun], seed=3)
    places = [hidden.body.astray]
    for known in range(begun + 1, begun + 4):
        assert hidden.follow(person.events[:known], 0.0)
        places.append(hidden.body.astray)
    assert all(abs(step) > 1e-6 for step in np.diff(places))
    at_once = Hidden(person.events[:begun], seed=3)
    assert at_once.follow(person.events, 0.0)
    assert at_once.body.astray == places[-1]
