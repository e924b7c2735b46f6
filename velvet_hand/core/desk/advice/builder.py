"""What every panel is made with: picture, words of a verdict, buttons that stand in many."""

from __future__ import annotations

from typing import Any, Literal

from ...engine.beyond import zero_at
from ...engine.procedure import Registered
from ...move import Move
from ...path.lathe import overdue
from ...quantity import KIND_WORDS
from ...readings import Pass
from ...setup import events as ev
from ...setup.state import READ, State
from ...told import Solution
from ...verdict import TERM_WORDS, Verdict
from ...wording import Length, Text, Words, bare, headlined, length, signed, strong, text
from ..again import against
from ..panel import Action, AimBox, Panel

OUTCOME_WORDS = {"holds": "Holds", "outside": "Outside", "cannot_tell": "Not proven"}

#: From so many full passes on it is said that somebody may ask why.
STUBBORN = 5


class Builder:
    """Makes panels of one state; every panel gets the picture of its own solution."""

    def __init__(self, procedure: Registered, state: State, solution: Solution) -> None:
        self.procedure, self.state, self.solution = procedure, state, solution

    def _panel(self, solution: Solution | None = None, station_id: str = "", **fields: Any) -> Panel:
        shown = solution or self.solution
        fields["headline"], rest = headlined(
            fields["headline"], self.state.plan.unit, self.state.plan.gauge.resolution_mm
        )
        fields["why"] = (*((rest,) if rest else ()), *fields.get("why", ()))
        scene = self.procedure.scene(self.state, shown, station_id or self._watched(shown))
        return Panel(scene=scene, **fields)

    def _watched(self, solution: Solution) -> str:
        move = self.state.half.move if self.state.half else solution.moves[0] if solution.moves else None
        return (move and (move.needle.station_id if move.needle else move.spot)) or unread(self.state)

    def _still(self) -> Solution:
        return self.solution.model_copy(update={"moves": ()})

    def _progress(self) -> tuple[bool, bool, bool]:
        """Is the next pass begun, are all its stations answered, is the closing reading in?"""
        current = self.state.being_read
        if current is None:
            return False, False, False
        complete = all(current.answered(s.id) for s in self.state.asked(current))
        return True, complete, state_closed(self.state, current)

    def _zero_afresh(self, station_id: str, key: str) -> Action:
        zero = ev.ZeroSet(station_id=station_id, why="zero" if key == "Enter" else "bumped")
        label = "Zero is set afresh" if key == "Enter" else "Indicator bumped"
        return Action(id="zero", label=label, key=key, events=(zero,))

    def _beyond(self) -> tuple[Text, Action] | None:
        """Headline and button where the dial cannot show what is to be done: a zero nearer to it, or bring it nearer."""
        codes = {c.code for c in self.solution.caveats}
        if "zero_misplaced" in codes:
            at = zero_at(self.state, self.state.passes[self.solution.pass_no - 1]) or unread(self.state)
            where = strong(f"zero afresh at {self.state.station(at).label.lower()}")
            return text("Set the dial to ", where, ", needle mid-travel."), self._zero_afresh(at, "Enter")
        if "too_far_out" in codes:
            afresh = self._zero_afresh(unread(self.state), "Enter")
            near = afresh.model_copy(update={"id": "near", "label": "Nearer now, zero set afresh"})
            return text("It is out by more than the dial shows. ", strong("Rough it in"), "."), near
        return None

    def _from_where(self, number: int) -> tuple[Action, tuple[Text, ...]]:
        """Read pass ``number`` again; with a place past the dial from a zero nearer to that end, and words for it."""
        again, station_id = self._read_again(number), zero_at(self.state, self.state.passes[number - 1])
        if station_id is None:
            return again, ()
        changes = {"label": "Zero set there, read again", "events": (ev.ZeroSet(station_id=station_id),)}
        return again.model_copy(update=changes), self._zero_there(station_id)

    def _zero_there(self, station_id: str) -> tuple[Text, ...]:
        where = self.state.station(station_id).label.lower()
        return (
            text(
                "A place went past the end of the dial. ",
                strong(f"Set the zero at {where}"),
                ", so that all of them are on it.",
            ),
        )

    def _tightening(self) -> tuple[Text, ...]:
        """What a needle did that was watched while all was tightened; the pass after it tells what of that is a turn."""
        shift = self.state.shift_mm
        return () if shift is None else (text("While it was tightened the needle went ", signed(shift), "."),)

    def _caveats(self) -> tuple[Text, ...]:
        stands = against(self.state)
        return (*((stands,) if stands else ()), *(c.text for c in self.solution.caveats))

    def _press_answers(self, slot: Literal["", "far"]) -> tuple[Action, ...]:
        """Which way the needle went when it was pressed."""
        plus, minus = ev.PressTested(went="plus", gauge=slot), ev.PressTested(went="minus", gauge=slot)
        return (
            Action(id="plus", label="Needle goes plus", key="+", events=(plus,)),
            Action(id="minus", label="Needle goes minus", key="-", events=(minus,)),
        )

    def _other_way(self, move: Move) -> tuple[Action, ...]:
        """The press test was answered wrongly: the needle of this move goes the other way."""
        if move.needle is None or self.state.plan.gauge.measures_gap:
            return ()
        slot = (
            self.state.measures[self.state.station(move.needle.station_id).ring].slot if move.needle.station_id else ""
        )
        event = ev.PressTested(went="plus" if self.state.pushed(slot) == -1 else "minus", gauge="far" if slot else "")
        return (Action(id="turned", label="Wrong way", key="W", events=(event,)),)

    def _accept(self) -> Action:
        """Good enough as it is, for a reason."""
        accepted = ev.Accepted(reason="")
        return Action(id="accept", label="Accept with a reason", key="A", events=(accepted,), needs_reason=True)

    def _read_again(self, number: int) -> Action:
        return Action(id="again", label="Read again", key="R", events=(ev.PassClosed(pass_no=number),))

    def _go_nip_up(self, label: str, key: str) -> Action:
        return Action(id="nip_up", label=label, key=key, events=(ev.StepPassed(step=READ),))

    def _verdict_text(self) -> Text:
        state = self.state
        if state.accepted:
            return text("Accepted: ", strong(state.accepted))
        if state.verdict is None:
            return text("Not proved.")
        return self._judged_text(state.verdict)

    def _judged_text(self, verdict: Verdict) -> Text:
        return verdict_text(verdict)

    def _limited(self) -> tuple[Text, ...]:
        verdict = self.state.verdict
        if verdict is None or verdict.limited_by is None:
            return self._band(verdict)
        found = [text(f"What limits it: {TERM_WORDS[verdict.limited_by]}.")]
        if verdict.settle:
            found.append(text(f"What would settle it: {verdict.settle}."))
        return (*found, *self._band(verdict))

    def _stubborn(self) -> tuple[Text, ...]:
        """After so many passes it is time to ask what is wrong."""
        full = self.state.full_passes
        return (
            (text(f"{full} passes by now. Press ", strong("Y"), ": why won’t it come in?"),) if full >= STUBBORN else ()
        )

    def _late(self) -> tuple[Text, ...]:
        """An indicator that is overdue for its check."""
        return tuple(one.text for one in overdue(self.state.plan, self.state.changed_at.date()))

    def _band(self, verdict: Verdict | None) -> tuple[Text, ...]:
        """What the band is made of, the largest part first."""
        parts = verdict.parts if verdict else ()
        if verdict is None or not parts:
            return ()
        words: list[str | Length] = ["The ±", length(verdict.band_mm), " comes from "]
        for index, term in enumerate(parts):
            words += [", " if index else "", f"{TERM_WORDS[term.name]} ", length(term.mm)]
        return (text(*words, "."),)


def unread(state: State) -> str:
    """Id of the spot to read next; the first one when the pass is complete or not begun."""
    left = state.unread(state.being_read)
    return left[0].id if left else state.asked()[0].id


def state_closed(state: State, one: Pass) -> bool:
    """Has every measure of the pass been closed?"""
    return all(station.ring in one.closings for station, closing in state.to_read(one) if closing)


def done(move: Move) -> tuple[ev.ClientBody, ...]:
    """The events of a finished move; a move past the dial's end is followed by a fresh zero."""
    done = ev.MoveDone(pass_no=move.pass_no, move_id=move.id)
    return (done, ev.ZeroSet(station_id=move.needle.station_id)) if move.rezero and move.needle else (done,)


def aim_box(move: Move) -> AimBox | None:
    """The aim of a move, where a needle is watched."""
    if move.needle is None:
        return None
    return AimBox(
        station_id=move.needle.station_id,
        label=move.needle.label,
        now_mm=move.needle.now_mm,
        aim_mm=move.needle.aim_mm,
        goes=move.needle.goes,
        what="gap" if move.needle.gap else "needle",
    )


def verdict_text(verdict: Verdict, end: str = ".") -> Text:
    """Holds: 0.4 ± 0.2 thou TIR, limit 1 thou."""
    return text(
        strong(OUTCOME_WORDS[verdict.outcome]),
        f"{', ' + verdict.where if verdict.where else ''}: ",
        bare(verdict.value_mm),
        " ± ",
        length(verdict.band_mm),
        f" {KIND_WORDS[verdict.value.kind]}, limit ",
        length(verdict.limit_mm),
        *(part for v in verdict.beside for part in (Words(text=". "), *verdict_text(v, ""))),
        end,
    )
