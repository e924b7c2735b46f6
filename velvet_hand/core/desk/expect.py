"""What to expect of a plan: passes and minutes, with the odds; by what the holder answered before, or by its kind."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import UTC, datetime
from uuid import UUID

from pydantic.main import IncEx

from ..after.own import Done, alike, own_words
from ..engine.forecast import MOST, USUAL, Forecast, forecast, quicker
from ..engine.procedure import Registered
from ..plan.base import BasePlan
from ..setup import events as ev
from ..setup.fold import fold
from ..setup.state import State
from ..units import Typed
from ..wording import Text, so_many, strong, text

#: Parts of the set-ups that take no more passes than are said, and no more but for a rare one.
MANY, NEARLY_ALL = 0.8, 0.95
#: Forecasts that were made, in words and minutes, by procedure and plan; so many are kept.
_MADE: dict[tuple[str, str], tuple[Text, str, float | None]] = {}
_KEPT = 64
#: What a thing is called and how the same was left changes nothing.
_CALLED: IncEx = {"id", "name"}
NAMES: IncEx = {"part": {"name"}, "machine": _CALLED, "holder": _CALLED, "gauge": _CALLED, "before": True}
#: The ways of working, as they are spoken of.
SCHOOLS = {
    "high_spot": "both pairs at once", "pairs": "pair by pair", "swing": "by its pivot", "zero": "zero at the hinge", "half": "half of it",
}  # fmt: skip
_THEN = datetime(2026, 1, 5, tzinfo=UTC)


def expected(procedure: Registered, plan: BasePlan, done: Sequence[Done] = ()) -> Text:
    """How many full passes, the proof among them, and how long: by set-ups alike that were ``done`` here, where they are enough, else by
    the simulated machine; nothing where nobody can say. A quicker way of working is named.
    """
    own = alike(done, plan.limit.mm)
    told, better, _ = _made(procedure, plan)
    told = own_words(own) if own else told
    return text(told, better) if better else told


def likely(procedure: Registered, plan: BasePlan) -> float | None:
    """How many minutes a set-up of that plan usually takes; None where nobody can say."""
    return _made(procedure, plan)[2]


def _made(procedure: Registered, plan: BasePlan) -> tuple[Text, str, float | None]:
    key = (procedure.id, plan.model_dump_json(exclude=NAMES))
    if key not in _MADE:
        while len(_MADE) >= _KEPT:
            _MADE.pop(next(iter(_MADE)), None)
        _MADE[key] = _expected(procedure, plan)
    return _MADE[key]


def _expected(procedure: Registered, plan: BasePlan) -> tuple[Text, str, float | None]:
    if procedure.usual_passes is not None:
        return counted(*procedure.usual_passes), "", None
    if procedure.only_reads or plan.gauge.measures_gap:
        return (), "", None
    state = _true_pass(procedure, plan)
    mine = procedure.way(state)
    found = forecast(mine) if mine else None
    others = [
        (name, other)
        for name, there in procedure.ways(state)
        if (way := procedure.way(there)) and (other := quicker(way, found))
    ]
    best = min(others, key=lambda one: one[1].within(USUAL), default=None)
    told, minutes = words(found, bool(plan.memory.taught)) if found else (), found.usual_minutes if found else None
    return told, f" Quicker here: {SCHOOLS.get(best[0], best[0])}, {_count(best[1])}." if best else "", minutes


def _true_pass(procedure: Registered, plan: BasePlan) -> State:
    """The state after a proof in which everything read nothing: what such a pass can tell, the plan alone decides."""
    events: list[ev.Event] = []

    def add(body: ev.Body) -> None:
        events.append(ev.Event(id=UUID(int=len(events) + 1), seq=len(events) + 1, at=_THEN, author="", body=body))

    add(ev.Opened(plan=plan))
    for slot in plan.slots:
        add(ev.PressTested(went="plus", gauge="far" if slot else ""))
    state = fold(events, procedure.measures(plan), {}, tight=True)
    for station, closing in state.to_read(None):
        add(ev.ReadingTaken(pass_no=1, station_id=station.id, typed=Typed(text="0", unit="mm"), closing=closing))
    return fold(events, procedure.measures(plan), {}, tight=True)


def _count(found: Forecast) -> str:
    few, many = (found.within(share) for share in (USUAL, MANY))
    if many > MOST:
        return f"{so_many(few, 'pass')} or more"
    return so_many(few, "pass") if few == many else f"{few} to {many} passes"


def counted(half: int, most: int) -> Text:
    """By what its simulated machines took, where no estimate can say it.

    >>> from ..wording import words_of
    >>> words_of(counted(5, 7))
    '5 to 7 passes, the proof among them: half of all simulated set-ups took no more than 5, 9 in 10 no more than 7.'
    """
    if half == most:
        return text(strong(f"{half} passes"), ", the proof among them, in 9 of 10 simulated set-ups.")
    return text(
        strong(f"{half} to {most} passes"),
        f", the proof among them: half of all simulated set-ups took no more than {half}, 9 in 10 no more than {most}.",
    )


def words(found: Forecast, remembered: bool) -> Text:
    """“2 to 3 passes, about 6 minutes; 1 in 20 needs more than 4.”"""
    many = found.within(MANY)
    rare = found.within(NEARLY_ALL)
    by = "by what this holder did before" if remembered else "for one of its kind"
    if found.within(USUAL) > MOST:
        return text(strong("This may never hold: "), f"in half of all set-ups {MOST} passes are not enough, {by}.")
    more = "" if rare > MOST or rare <= many else f" 1 in 20 needs more than {rare}."
    if rare > MOST:
        more = (
            f" 1 in {max(round(len(found.passes) / sum(p > MOST for p in found.passes)), 2)} is not done after {MOST}."
        )
    return text(
        strong(f"{_count(found)}, about {so_many(max(round(found.usual_minutes), 1), 'minute')}"),
        f", the proof among them, {by}.{more}",
    )
