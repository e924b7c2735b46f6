"""From a state to the one thing to do now. The same for every procedure."""

from __future__ import annotations

from typing import Any

from ..engine.procedure import Registered
from ..memo import once
from ..move import Jaws, Move, Swing, Tap, TapRound
from ..path.steps import Step
from ..quantity import KIND_WORDS
from ..readings import Pass
from ..setup import events as ev
from ..setup.state import CLEAR, NIP_UP, PROVE, READ, SET_GAUGE, State
from ..told import Solution
from ..verdict import TERM_WORDS, Verdict
from ..wording import Length, Text, length, signed, strong, text
from .panel import Action, AimBox, Check, Panel

#: A line on when each way of working is the better, by the way's name.
WAY_WORDS = {
    "every": "Every bolt position is computed: the best there is, when sizes were read.",
    "oppose": "Mark and oppose needs no sizes, only the two high spots; the holes decide how near it comes.",
    "high_spot": "Both pairs from one pass: fewest readings.",
    "pairs": "One pair at a time: nothing to remember, and each pair can be checked before the next.",
}
_PROOF_WHY = "A full pass and the first spot again. Only this pass can sign it off."
OUTCOME_WORDS = {"holds": "Holds", "outside": "Outside", "cannot_tell": "Cannot tell"}


def current_step(procedure: Registered, state: State) -> Step | None:
    """The first step that is not behind; None when all are."""
    return next((s for s in procedure.steps(state) if s.id not in state.steps), None)


def offered_moves(procedure: Registered, state: State) -> dict[str, Move]:
    """Every move that the screen may be showing now, by id: both schools, and a half-done one."""
    found: dict[str, Move] = {}
    for other in (state, *(s for _, s in procedure.ways(state))):
        for move in procedure.solution(other).moves:
            found.setdefault(move.id, move)
    if state.half is not None:
        found[state.half.move.id] = state.half.move
    return found


def unread(state: State) -> str:
    """Id of the spot to read next; the first one when the pass is complete or not begun."""
    current = state.open_pass
    if current is None or current.number != state.next_pass_no:
        return state.asked()[0].id
    left = state.unread(current)
    return left[0].id if left else state.asked()[0].id


def advise(procedure: Registered, state: State, solution: Solution) -> tuple[Panel, ...]:
    """The panels to choose from; the first is what is advised."""
    step = current_step(procedure, state)
    builder = _Builder(procedure, state, solution)
    if state.taken_off or step is None:
        return (builder.finished(),)
    if state.half is not None:
        return (builder.half(),)
    if step.id == SET_GAUGE:
        return (builder.set_gauge(step),)
    if step.id == READ:
        return builder.read()
    if step.id == NIP_UP:
        return (builder.nip_up(step),)
    if step.id == PROVE:
        return builder.prove()
    return (builder.plain(step),)


def panels_of(procedure: Registered, state: State, solution: Solution) -> tuple[Panel, ...]:
    """``advise``, once for a state."""
    return once(state.memo, "panels", 0, lambda: advise(procedure, state, solution))


class _Builder:
    """Makes panels of one state; every panel gets the picture of its own solution."""

    def __init__(self, procedure: Registered, state: State, solution: Solution) -> None:
        self.procedure, self.state, self.solution = procedure, state, solution

    def _panel(self, solution: Solution | None = None, station_id: str = "", **fields: Any) -> Panel:
        shown = solution or self.solution
        scene = self.procedure.scene(self.state, shown, station_id or self._watched(shown))
        return Panel(scene=scene, **fields)

    def _watched(self, solution: Solution) -> str:
        move = self.state.half.move if self.state.half else solution.moves[0] if solution.moves else None
        return (move and (move.needle.station_id if move.needle else move.spot)) or unread(self.state)

    def _still(self) -> Solution:
        return self.solution.model_copy(update={"moves": ()})

    # -- steps without readings -------------------------------------------------------------

    def plain(self, step: Step) -> Panel:
        """A step that is read, checked off and passed."""
        rough = self.procedure.rough_in(self.state) if step.id == "rough_in" else ()
        checked = tuple(c.id for c in step.cautions) if step.hold else ()
        passed = ev.StepPassed(step=step.id, checked=checked)
        label = "All checked" if step.hold else "Done"
        skip = Action(
            id="skip", label="Skip, with a reason", key="K", events=(ev.StepPassed(step=step.id),), needs_reason=True
        )
        done: tuple[Text, ...] = ()
        if step.id == CLEAR:
            done = (self._verdict_text(),)
        return self._panel(
            self._still(),
            name=step.id,
            kicker=text("Hold point" if step.hold else "Step"),
            headline=rough or step.headline or text(strong(step.title)),
            why=(*done, text(step.prompt)),
            cautions=tuple(Check(id=c.id, text=c.text) for c in step.cautions),
            hold=step.hold,
            ask=step.ask,
            ask_label=step.ask_label if step.ask == "gap" else "",
            primary=Action(id="pass", label=label, key="Enter", events=(passed,)),
            others=() if step.hold else (skip,),
        )

    def set_gauge(self, step: Step) -> Panel:
        """Press test, then zero."""
        state, first = self.state, self.state.asked()[0]
        if state.plan.gauge.measures_gap:
            return self.plain(step)
        where = (
            "toward the gauge"
            if self.state.plan.part.surface == "outside"
            else "so that the bore comes toward the gauge"
        )
        slot = next((s for s in state.plan.slots if not state.sense_in(s).proved), None)
        if slot is not None:
            far = "" if slot == "" else "far"
            plus = Action(
                id="plus", label="Needle goes plus", key="+", events=(ev.PressTested(went="plus", gauge=far),)
            )
            minus = Action(
                id="minus", label="Needle goes minus", key="-", events=(ev.PressTested(went="minus", gauge=far),)
            )
            if far:
                where += ", out at the far end,"
            return self._panel(
                self._still(),
                name="press",
                kicker=text("Set gauge · press test"),
                headline=(step.far_headline if far else step.headline)
                or text("Press the work ", strong(where), " by hand. Which way does the needle go?"),
                why=(
                    text(step.prompt),
                    text("Nothing is assumed about this gauge: the press test fixes every sign after it."),
                ),
                others=(plus, minus),
            )
        zero = (ev.ZeroSet(station_id=first.id), ev.StepPassed(step=step.id))
        went = "plus" if (state.push_reads or 1) > 0 else "minus"
        again = Action(
            id="press", label="Press test again", key="P",
            events=(ev.PressTested(went="minus" if went == "plus" else "plus"),),
        )  # fmt: skip
        again = again.model_copy(update={"label": f"No, it goes {'minus' if went == 'plus' else 'plus'}"})
        return self._panel(
            self._still(),
            name="zero",
            kicker=text(f"Set gauge · pressed toward the gauge, the needle goes {went}"),
            headline=text(
                "Bring ", strong(first.label.lower()), " to the gauge and set the dial to zero, needle mid-travel."
            ),
            why=(text("Zero here is only a start: a true part need not read zero anywhere."),),
            primary=Action(id="zero", label="Zero is set", key="Enter", events=zero),
            others=(again,),
        )

    # -- reading and correcting ---------------------------------------------------------------

    def read(self) -> tuple[Panel, ...]:
        """Read; or the move; or go on to nip up. With the other ways of doing it behind."""
        solution = self.solution
        if solution.ready:
            first = self._enough()
            return (first, *self._moves(solution, "Correct further")) if solution.moves else (first,)
        if solution.moves:
            ways = self.procedure.ways(self.state)
            panels = [*self._moves(solution, self._way() if ways else "move")]
            for name, state in ways:
                other = self.procedure.solution(state)
                if other.moves and other.moves[0].id != solution.moves[0].id:
                    panels += self._moves(other, name)
            return tuple(panels)
        return (self._ask_reading(),)

    def _way(self) -> str:
        """The way of working that was chosen."""
        return str(getattr(self.state.plan, "way", self.state.plan.school))

    def _progress(self) -> tuple[bool, bool, bool]:
        """Is the next pass begun, are all its stations answered, is the closing reading in?"""
        current = self.state.open_pass
        if current is None or current.number != self.state.next_pass_no:
            return False, False, False
        complete = all(current.answered(s.id) for s in self.state.asked())
        return True, complete, state_closed(self.state, current)

    def _ask_reading(self) -> Panel:
        state, solution = self.state, self.solution
        station = state.station(unread(state))
        number = state.next_pass_no
        begun, complete, _ = self._progress()
        headline = solution.need_reading if begun and solution.need_reading else ()
        left = state.unread(state.open_pass) if begun else None
        if not complete and left is not None and left[1]:
            headline = text("Read ", strong(f"{left[0].label.lower()} again"), ": does it come back?")
        if not headline and not complete:
            tail = "" if begun else ", then each station in turn"
            headline = text("Read ", strong(station.label.lower()), f"{tail}.")
        elif not headline:
            headline = text("Read this pass again: it gives no move.")
        others: tuple[Action, ...] = ()
        if begun:
            others = (self._read_again(number),)
        misplaced = any(c.code == "zero_misplaced" for c in solution.caveats)
        if misplaced:
            headline = text(
                "Set the dial to ", strong(f"zero afresh at {station.label.lower()}"), ", needle mid-travel."
            )
        afresh: Action | None = self._zero_afresh(station.id, "Enter" if misplaced else "Z")
        if self.state.plan.gauge.measures_gap:
            afresh = None
        if afresh and not misplaced and begun:
            others = (*others, afresh)
        if complete or state.passes:
            others = (*others, self._go_nip_up("Nip up as it is", "N"))
        return self._panel(
            name="reading",
            kicker=text(f"Pass {number} · reading"),
            headline=headline,
            why=(
                *self._caveats(),
                text(
                    "Type the gap and press Enter."
                    if state.plan.gauge.measures_gap
                    else "Type what the needle shows and press Enter."
                ),
            ),
            primary=afresh if misplaced else None,
            others=others,
        )

    def _zero_afresh(self, station_id: str, key: str) -> Action:
        zero = ev.ZeroSet(station_id=station_id, why="zero" if key == "Enter" else "bumped")
        label = "Zero is set afresh" if key == "Enter" else "Gauge bumped"
        return Action(id="zero", label=label, key=key, events=(zero,))

    def _zero_there(self, station_id: str | None) -> tuple[Text, ...]:
        if station_id is None:
            return ()
        where = self.state.station(station_id).label.lower()
        return (
            text(
                "A place went past the end of the dial. ",
                strong(f"Set the zero at {where}"),
                ", so that all of them are on it.",
            ),
        )

    def _caveats(self) -> tuple[Text, ...]:
        return tuple(c.text for c in self.solution.caveats)

    def _read_again(self, number: int) -> Action:
        return Action(id="again", label="Read again", key="R", events=(ev.PassClosed(pass_no=number),))

    def _go_nip_up(self, label: str, key: str) -> Action:
        return Action(id="nip_up", label=label, key=key, events=(ev.StepPassed(step=READ),))

    def _moves(self, solution: Solution, name: str) -> tuple[Panel, ...]:
        move = solution.moves[0]
        last = len(solution.moves) == 1
        label = (
            move.made
            if move.made
            else "Made, zero set afresh"
            if move.rezero
            else "Move made, read again"
            if last
            else f"Move made, on to {solution.moves[1].title}"
        )
        done = _done(move)
        others = []
        if isinstance(move, Jaws) and move.ease:
            eased = ev.MoveDone(pass_no=move.pass_no, move_id=move.id, phase="eased")
            others.append(Action(id="eased", label="Only eased", key="E", events=(eased,)))
        others.append(self._read_again(move.pass_no))
        if not self.state.plan.gauge.measures_gap:
            others.append(self._zero_afresh(unread(self.state), "Z"))
        why = [move.reason, *(c.text for c in solution.caveats)]
        if name in WAY_WORDS:
            why.append(text(WAY_WORDS[name]))
        if self.state.verdict is not None:
            why.insert(0, self._verdict_text())
            others.append(
                Action(
                    id="accept",
                    label="Accept with a reason",
                    key="A",
                    events=(ev.Accepted(reason=""),),
                    needs_reason=True,
                )
            )
        elif name == "Correct further" or (solution.judged and solution.judged.outcome != "outside"):
            others.append(self._go_nip_up("Nip up as it is", "N"))
        tapped = isinstance(move, Tap | TapRound | Swing)
        of = f"move {move.index} of {move.count} · " if move.count > 1 else ""
        return (
            self._panel(
                solution,
                name=name,
                kicker=text(f"Pass {move.pass_no} · {of}", move.title),
                headline=move.sentence,
                aim=aim_box(move),
                expect=move.expects,
                expect_word=KIND_WORDS[move.expects.kind] if move.expects else "",
                why=tuple(why),
                primary=Action(id="move", label=label, key="Enter", events=done),
                others=tuple(others),
                verdict=self.state.verdict,
                ask="taps" if tapped else "nothing",
                ask_label="Taps it took, if you counted" if tapped else "",
            ),
        )

    def half(self) -> Panel:
        """One jaw is eased and the other not drawn yet."""
        assert self.state.half is not None
        move = self.state.half.move
        assert isinstance(move, Jaws)
        back = ev.MoveDone(pass_no=move.pass_no, move_id=move.id, phase="back")
        return self._panel(
            name="half",
            kicker=text("Half done · ", move.title),
            headline=move.half_sentence,
            aim=aim_box(move),
            why=(move.back, text("Do not turn the spindle or leave the machine with a jaw eased.")),
            primary=Action(id="move", label="Drawn in, read again", key="Enter", events=_done(move)),
            others=(Action(id="back", label="Gone back instead", key="B", events=(back,)),),
        )

    def _enough(self) -> Panel:
        solution = self.solution
        judged = solution.judged
        stop = solution.stop
        headline = stop or text("True enough. ", strong("Nip up"), " in steps, then prove it.")
        why = [self._judged_text(judged), *self._band(judged)] if judged else []
        return self._panel(
            self._still(),
            name="enough",
            kicker=text(f"Pass {solution.pass_no} · " + ("stop rule" if stop else "inside the limit, not tight yet")),
            headline=headline,
            why=(*why, *self._caveats()),
            primary=self._go_nip_up("Go on to nip up", "Enter"),
            others=(self._read_again(solution.pass_no),),
        )

    # -- tightening and proving -----------------------------------------------------------------

    def nip_up(self, step: Step) -> Panel:
        """Tighten in steps."""
        prove = Action(id="tight", label="All tight, prove it", key="Enter", events=(ev.Tightened(),))
        return self._panel(
            self._still(),
            name="nip_up",
            kicker=text("Nip up"),
            headline=step.headline
            or text("Tighten ", strong("in steps, opposite sides in turn"), ", watching the needle."),
            why=(
                text(step.prompt),
                text("Readings from before the final grip cannot sign it off: a full pass follows."),
            ),
            cautions=tuple(Check(id=c.id, text=c.text) for c in step.cautions),
            primary=prove,
            others=(),
        )

    def prove(self) -> tuple[Panel, ...]:
        """Read the proof, judge it, and what follows from it."""
        state, solution = self.state, self.solution
        number = state.next_pass_no
        begun, complete, closed = self._progress()
        if state.verdict is not None:
            return self._not_held()
        measures = self.procedure.only_reads
        if complete and closed:
            word = "finding" if measures else "proof"
            judge = Action(
                id="prove", label=f"Take this as the {word}", key="Enter", events=(ev.Proved(pass_no=number),)
            )
            judged = solution.judged
            again = self._read_again(number)
            proves = judged is not None and self.procedure.doubt(state, state.passes[number - 1]) is None
            zero = None if proves else self.procedure.zero_at(state, state.passes[number - 1])
            if zero is not None:
                again = again.model_copy(
                    update={"label": "Zero set there, read again", "events": (ev.ZeroSet(station_id=zero),)}
                )
            if not proves:
                again, judge = (a.model_copy(update={"key": key}) for a, key in ((again, "Enter"), (judge, "T")))
            return (
                self._panel(
                    self._still(),
                    name="prove",
                    kicker=text(f"{word.capitalize()} · pass {number} is complete"),
                    headline=solution.told
                    or (self._judged_text(judged) if judged else text("This pass cannot be judged.")),
                    why=(
                        *((self._judged_text(judged),) if solution.told and judged else ()),
                        *self._caveats(),
                        *self._band(judged),
                        *self._zero_there(zero),
                    ),
                    verdict=judged,
                    primary=judge if proves else again,
                    others=(again,) if proves else (judge,) if judged else (),
                ),
            )
        left = state.unread(state.open_pass if begun else None)
        start = "Read " if measures else "Everything is tight. Read "
        head = solution.need_reading or text(start, strong(state.station(unread(state)).label.lower()), ".")
        if left is not None and left[1]:
            head = text("Read ", strong(f"{left[0].label.lower()} again"), ": does it come back?")
        closes = left is None or state.measures[left[0].ring].closes
        why = "Every spot, and the first one again." if closes else "Every one of them, as it falls."
        return (
            self._panel(
                self._still(),
                name="prove",
                kicker=text(f"Reading · pass {number}" if measures else f"Proof · pass {number}"),
                headline=head,
                why=(
                    *self._caveats(),
                    text(why if measures else _PROOF_WHY),
                ),
                others=(self._read_again(number),) if begun else (),
            ),
        )

    def _not_held(self) -> tuple[Panel, ...]:
        """The proof does not hold: correct it, or accept it with a reason."""
        accept = Action(
            id="accept", label="Accept with a reason", key="A", events=(ev.Accepted(reason=""),), needs_reason=True
        )
        again = self._read_again(self.solution.pass_no)
        panel = self._panel(
            self._still(),
            name="verdict",
            kicker=text(f"Proof · pass {self.solution.pass_no}"),
            headline=self.solution.told or self._verdict_text(),
            why=(*((self._verdict_text(),) if self.solution.told else ()), *self._limited()),
            others=(accept, again),
            verdict=self.state.verdict,
        )
        if not self.solution.moves or self.solution.stop:
            return (panel,)
        return (*self._moves(self.solution, "correct"), panel)

    def finished(self) -> Panel:
        """All steps are behind."""
        off = Action(id="off", label="Part done, take it off", key="T", events=(ev.TakenOff(),))
        return self._panel(
            self._still(),
            name="finished",
            kicker=text("Taken off" if self.state.taken_off else "Clear to run"),
            headline=self._verdict_text(),
            why=(
                *((self.solution.told,) if self.solution.told else ()),
                *self._band(self.state.verdict),
                text("It is in the Logbook."),
            ),
            primary=None if self.state.taken_off else off.model_copy(update={"key": "Enter"}),
            others=(),
            verdict=self.state.verdict,
        )

    # -- words ------------------------------------------------------------------------------------

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

    def _band(self, verdict: Verdict | None) -> tuple[Text, ...]:
        """What the band is made of, the largest part first."""
        parts = sorted((t for t in verdict.terms if t.mm > 0), key=lambda t: -t.mm) if verdict else []
        if verdict is None or not parts:
            return ()
        words: list[str | Length] = ["The band of ± ", length(verdict.band_mm), " is made of "]
        for index, term in enumerate(parts):
            words += [", " if index else "", f"{TERM_WORDS[term.name]} ", length(term.mm)]
        return (text(*words, "."),)


def state_closed(state: State, one: Pass) -> bool:
    """Has every measure of the pass been closed?"""
    return all(station.ring in one.closings for station, closing in state.to_read(one) if closing)


def _done(move: Move) -> tuple[ev.ClientBody, ...]:
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


def verdict_text(verdict: Verdict) -> Text:
    """Holds: 0.4 ± 0.2 thou TIR where 1 thou is allowed."""
    return text(
        strong(OUTCOME_WORDS[verdict.outcome]),
        f"{', ' + verdict.where if verdict.where else ''}: ",
        length(verdict.value_mm),
        " ± ",
        length(verdict.band_mm),
        f" {KIND_WORDS[verdict.value.kind]} where ",
        length(verdict.limit_mm),
        " is allowed.",
        *(part for v in verdict.beside for part in (" ", *verdict_text(v))),
    )


def waits_for(procedure: Registered, state: State, panels: tuple[Panel, ...]) -> Text:
    """What the set-up waits for, in a line for the Bench."""
    if state.taken_off or current_step(procedure, state) is None:
        return panels[0].headline
    aim = panels[0].aim
    if aim and aim.aim_mm is not None:
        return text("Waits for a ", strong("move"), ", to ", signed(aim.aim_mm), f" at {aim.label}")
    if panels[0].expect is not None:
        return text(
            "Waits for a ",
            strong("move"),
            "; expect ",
            panels[0].expect.told,
            " after it",
        )
    step = current_step(procedure, state)
    assert step is not None
    if panels[0].name in ("enough", "nip_up"):
        return text("Waits to be ", strong("nipped up"))
    word = {READ: "readings", PROVE: "readings" if procedure.only_reads else "the proof"}.get(
        step.id, step.title.lower()
    )
    return text("Waits for ", strong(word))
