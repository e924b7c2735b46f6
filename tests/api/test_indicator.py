"""A check that was worked is known to the Shop, to the Bench and to every plan after it; what was typed in the Shop stays typed."""

from __future__ import annotations

from datetime import UTC, datetime, timedelta
from typing import Any
from uuid import UUID, uuid4

import numpy as np

from tests.api.test_bad_input import opened
from velvet_hand.core.desk import desk
from velvet_hand.core.gauge import Gauge
from velvet_hand.core.operator import Operator
from velvet_hand.core.procedures.registry import example, machine
from velvet_hand.store import database as db
from velvet_hand.store import setups, shop


def test_a_check_goes_into_every_plan_after_it(client: Any, database_url: str) -> None:
    connected = db.connect(database_url)
    with connected.connection_context():
        before = next(g for g in client.get("/api/shop").json["gauges"] if g["id"] == "lever-fine")
        rng, plan = np.random.default_rng(4), example("indicator", 4)
        mine = shop.get(Gauge, "lever-fine", "gauge_id")
        own = plan.model_copy(update={"gauge": plan.gauge.model_copy(update={"id": mine.id, "name": mine.name})})
        person = Operator(own, machine(own, rng), rng)
        person.at = datetime.now(UTC) - timedelta(hours=2)
        person.events[0] = person.events[0].model_copy(update={"at": person.at})
        person.state = desk.load(person.events)
        person.run()
        setup_id = uuid4()
        setups.open_setup(setup_id, person.events[0].model_copy(update={"id": uuid4()}))
        for event in person.events[1:]:
            setups.append(setup_id, uuid4(), event.at, "Ode", event.body)  # type: ignore[arg-type]
        check = desk.lesson(person.state).check
        assert check is not None
        after = next(g for g in client.get("/api/shop").json["gauges"] if g["id"] == "lever-fine")
        assert len(after["found"]) == len(before["found"]) + 1
        assert after["typed"] == before["typed"]
        kept = setups.read(UUID(opened(client))).state.plan.gauge
        assert (kept.error_mm, kept.checks[-1].error_mm) == (check.near_mm, check.error_mm)
        assert kept.lost_motion_mm == max(mine.lost_motion_mm, check.hysteresis_mm)
    connected.close_all()
