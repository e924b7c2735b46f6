"""The sample world: a made-up workshop that restores letterpress and proofing presses.

Its set-ups are worked by the simulated chuck through the same door as a person's, so nothing in
them is drawn by hand.
"""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, date, datetime, timedelta
from uuid import UUID, uuid4, uuid5

import numpy as np

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.operator import Operator
from velvet_hand.core.plan.base import Limit, School, Workpiece
from velvet_hand.core.procedures.four_jaw.plan import FourJawPlan
from velvet_hand.core.procedures.registry import PROCEDURES, samples
from velvet_hand.core.setup import events as ev
from velvet_hand.core.setup.follow import FollowUp
from velvet_hand.core.sim.jaws import Quirks, SimulatedChuck
from velvet_hand.core.sim.sample import Sample
from velvet_hand.core.units import Typed, Unit
from velvet_hand.store import setups, shop

from . import shelf, worked

_NAMESPACE = UUID("6f0a2a64-52a1-4f0e-9d43-0e5b6d1f7a11")
FOUR = (0.0, 90.0, 180.0, 270.0)
EIGHT = tuple(45.0 * i for i in range(8))


@dataclass(frozen=True, slots=True)
class Job:
    """One set-up of the sample world; with ``stop_in_pass`` it is left standing there. ``measured``: what the part was afterwards, as a
    part of its limit.
    """

    part: str
    machine: int
    holder: int
    gauge: int
    diameter: str
    limit: str
    days_ago: float
    author: str
    seed: int
    unit: Unit = "thou"
    surface: str = "outside"
    stations: tuple[float, ...] = FOUR
    school: School = "high_spot"
    limit_kind: str = "tir"
    off_mm: float = 0.21
    form_mm: float = 0.002
    stop_in_pass: int = 0
    take_off: bool = True
    kick_mm: float = 0.003
    measured: float | None = None
    follow: str = ""


JOBS = (
    Job("Gripper bar pivot", 0, 0, 2, "32", "8", 9, "Ode", 3),
    Job("Impression cylinder journal", 1, 0, 0, "48", "1", 8, "Tamsin", 4, stations=EIGHT),
    Job("Bearing housing, bore", 0, 1, 3, "72", "0.06", 6, "Wilf", 5, unit="mm", surface="inside", stations=EIGHT),
    Job("Cam blank", 0, 0, 1, "55", "2", 5, "Ode", 6, school="pairs"),
    Job("Ink roller stock, bore", 1, 0, 3, "38", "0.06", 3, "Tamsin", 7, unit="mm", surface="inside", limit_kind="off_centre"),
    Job("Inking drum core, end B", 0, 1, 1, "96", "2", 2, "Ode", 8, form_mm=0.09, stations=EIGHT),
    Job("Side lay spindle", 1, 0, 0, "26", "1", 1, "Wilf", 9, follow="Stone the face of jaw 2"),
    Job("Impression cylinder journal, second", 1, 0, 0, "48", "1", 0.08, "Tamsin", 10, stations=EIGHT, take_off=False),
    Job("Inking drum core, end A", 0, 0, 0, "62", "1", 0.02, "Ode", 12, off_mm=0.2, stop_in_pass=2),
)  # fmt: skip

#: What waits on the third lathe for its first reading, with the live indicator.
LIVE = Job("Cam follower, live needle", 2, 2, -1, "40", "0.03", 0.001, "Ode", 44, unit="mm")


#: What the first four-jaw has seen since spring: in autumn its tightening began to push, always toward the same jaw.
LATELY_MM = 0.0092
PARTS = ("Side lay shaft", "Fly bracket pin", "Ratchet blank", "Drum bearer", "Delivery roller stub", "Tympan pin")


def history() -> tuple[Job, ...]:
    """A set-up every week or two, and what its part measured."""
    rng = np.random.default_rng(38)
    found = []
    for n in range(20):
        kick_mm = 0.0022 + max(0, n - 12) / 7 * (LATELY_MM - 0.0022)
        share = float(np.clip(rng.normal(0.45, 0.13), 0.15, 0.95)) if n != 17 else 1.06
        found.append(
            Job(
                f"{PARTS[n % len(PARTS)]} {n + 1}", 0, 0, 0, str(20 + 2 * n), "1.2", 12 + 11.0 * (19 - n), ("Ode", "Tamsin")[n % 2],
                100 + n, off_mm=float(rng.uniform(0.1, 0.4)), kick_mm=kick_mm, measured=share if n % 5 else None,
            )
        )  # fmt: skip
    return tuple(found)


def _plan(job: Job, gauges: tuple[Gauge, ...]) -> FourJawPlan:
    size_unit: Unit = "mm"
    plan = FourJawPlan.model_validate(
        {
            "part": Workpiece.model_validate(
                {"name": job.part, "diameter": Typed(text=job.diameter, unit=size_unit), "surface": job.surface}
            ),
            "machine": shelf.MACHINES[job.machine],
            "holder": shelf.CHUCKS[job.holder],
            "gauge": gauges[job.gauge],
            "limit": Limit.model_validate({"kind": job.limit_kind, "typed": Typed(text=job.limit, unit=job.unit)}),
            "unit": job.unit,
            "stations_deg": job.stations,
            "school": job.school,
        }
    )
    between: FourJawPlan = PROCEDURES["four_jaw"].looking_between(plan)
    return between


def _quirks(job: Job, mark_mm: float) -> Quirks:
    rng = np.random.default_rng(job.seed)
    return Quirks(
        offset_mm=job.off_mm,
        offset_deg=float(rng.uniform(0, 360)),
        form_mm=job.form_mm,
        lobes=2,
        form_deg=float(rng.uniform(0, 360)),
        gain=(0.83, 0.87),
        backlash_mm=0.002,
        noise_mm=mark_mm * 0.1,
        stop_mm=mark_mm * 0.4,
        kick_mm=job.kick_mm if job.holder or job.seed >= 100 else LATELY_MM,
        kick_deg=float(rng.uniform(0, 360)) if job.holder else 180.0 + float(rng.normal(0, 9)),
        push_reads=1 if job.seed % 3 else -1,
    )


def _work(job: Job, plan: FourJawPlan, now: datetime) -> list[ev.Event]:
    """The events of one job, by the simulated chuck and its operator."""
    rng = np.random.default_rng(job.seed)
    chuck = SimulatedChuck(plan, _quirks(job, plan.gauge.graduation_mm), rng)
    operator = Operator(plan, chuck, rng)
    operator.run(max_passes=14) if not job.stop_in_pass else _until(operator, job.stop_in_pass)
    if job.take_off and not job.stop_in_pass:
        if operator.state.verdict is None or operator.state.verdict.outcome != "holds":
            operator.send(ev.Accepted(reason="Rough turning first; it is indicated again before the finish cut."))
        operator.send(ev.TakenOff())
    if job.measured is not None:
        typed = Typed(text=f"{job.measured * plan.limit.mm / 0.0254:.2f}", unit="thou")
        operator.send(ev.MeasuredPart(what="asked", typed=typed, by="Bench centers, tenths dial"))
    if job.follow:
        operator.send(ev.FollowUpSet(follow=FollowUp(what=job.follow, when="next_mounting")))
    return _dated(job.part, job.author, now - timedelta(days=job.days_ago), operator.events)


def _dated(part: str, author: str, start: datetime, events: list[ev.Event]) -> list[ev.Event]:
    """The events as they happened then, by that person."""
    return [
        e.model_copy(
            update={"id": uuid5(_NAMESPACE, f"{part} {e.seq}"), "author": author, "at": start + (e.at - events[0].at)}
        )
        for e in events
    ]


def _worked(procedure: str, sample: Sample, now: datetime) -> list[ev.Event]:
    """The events of a set-up that a simulator tells of."""
    operator = worked.work(sample, worked.plan_of(procedure, sample, now.date()))
    if not sample.stop_after:
        if operator.state.verdict is None or operator.state.verdict.outcome != "holds":
            operator.send(ev.Accepted(reason=sample.reason))
        operator.send(ev.TakenOff())
    return _dated(sample.part, sample.author, now - timedelta(days=sample.days_ago), operator.events)


def _until(operator: Operator, passes: int) -> None:
    """Work on until that pass has been read whole."""
    while True:
        operator.step()
        current = operator.state.open_pass
        if current and current.number == passes and len(current.readings) == len(operator.state.asked(current)):
            return


def stock_the_shop(today: date) -> None:
    """Put everything into the Shop that the workshop has."""
    for things in (shelf.MACHINES, shelf.HOLDERS, shelf.gauges(today), shelf.STOCK):
        for thing in things:
            shop.save(thing)
    shop.save(shelf.WIRE)


def load() -> None:
    """Fill an empty store with the sample world."""
    now = datetime.now(UTC).replace(microsecond=0)
    stock_the_shop(now.date())
    gauges = shelf.gauges(now.date())
    made = [(job.days_ago, job.part, _work(job, _plan(job, gauges), now)) for job in (*JOBS, *history())]
    made += [(sample.days_ago, sample.part, _worked(procedure, sample, now)) for procedure, sample in samples()]
    first = ev.Event(id=uuid4(), seq=1, at=now, author=LIVE.author, body=ev.Opened(plan=_plan(LIVE, gauges)))
    made.append(
        (LIVE.days_ago, LIVE.part, _dated(LIVE.part, LIVE.author, now - timedelta(days=LIVE.days_ago), [first]))
    )
    for _, part, events in sorted(made, key=lambda m: -m[0]):
        setups.keep_whole(uuid5(_NAMESPACE, part), events)
