"""The last grip, the proof, and what follows from it."""

from __future__ import annotations

from ...engine.beyond import past_any_dial
from ...engine.policy import chance_words
from ...measure.base import Measure
from ...path.steps import Step
from ...setup import events as ev
from ...wording import Text, strong, text
from ..panel import Action, Check, Panel
from .builder import unread, verdict_text
from .reading import Reading

PROOF_WHY = "A full pass and the first spot again. Only this pass can sign it off."


class Proving(Reading):
    """A pass that can sign it off, or not."""

    def nip_up(self, step: Step) -> Panel:
        """Tighten in steps; then the full pass, or first a quick look where that is likely to save one."""
        quick, spots = self.solution.quick, self.state.quick_spots()
        prove = Action(id="tight", label="All tight, prove it", key="Enter", events=(ev.Tightened(),))
        others: tuple[Action, ...] = ()
        told: tuple[Text, ...] = (text("Readings from before the final grip cannot sign it off: a full pass follows."),)
        if quick is not None and spots:
            look = Action(id="quick", label="All tight, quick look", key="Q", events=(ev.Tightened(quick=True),))
            two = " and ".join(s.label.lower() for s in spots)
            if quick.worth:
                look, prove = (a.model_copy(update={"key": key}) for a, key in ((look, "Enter"), (prove, "F")))
                told = (
                    text("Then a quick look: read ", strong(two), f" alone. As it is, {chance_words(quick.odds)}."),
                )
            else:
                told = (*told, text(f"A quick look would not pay: {chance_words(quick.odds)}."))
            prove, others = (look, (prove,)) if quick.worth else (prove, (look,))
        return self._panel(
            self._still(),
            name="nip_up",
            kicker=text(step.title),
            headline=step.headline
            or text("Tighten ", strong("in steps, opposite sides in turn"), ", watching the needle."),
            why=(text(step.prompt), *told),
            cautions=tuple(Check(id=c.id, text=c.text) for c in step.cautions),
            primary=prove,
            others=others,
        )

    def _after_quick(self, step: Step) -> tuple[Panel, ...]:
        """All is tight and a quick look is read: correct at once, or read the full pass."""
        solution = self.solution
        if self._went_wrong():
            return (self._pressed_again(),)
        panel = self._panel(
            self._still(),
            name="prove",
            kicker=text(f"Quick look · {solution.pass_no} is read"),
            headline=text(
                "Now the full pass. Read ", strong(self.state.station(unread(self.state)).label.lower()), "."
            ),
            why=(
                *((text(f"{chance_words(solution.odds).capitalize()}."),) if solution.odds is not None else ()),
                *self._caveats(),
                text(step.prompt),
                text(PROOF_WHY),
            ),
        )
        if not solution.moves:
            return (panel,)
        moves = self._moves(solution, "Correct further" if solution.ready else "correct")
        return (panel, *moves) if solution.ready else (*moves, panel)

    def prove(self, step: Step) -> tuple[Panel, ...]:
        """Read the proof, judge it, and what follows from it."""
        state, solution = self.state, self.solution
        number = state.next_pass_no
        begun, complete, closed = self._progress()
        if self.looking():
            return (self.quick(),)
        if state.open_pass is not None and state.open_pass.quick:
            return self._after_quick(step)
        if state.verdict is not None:
            return self._not_held()
        measures = self.procedure.only_reads
        if complete and closed:
            still = self.procedure.stood_still(state, state.passes[number - 1])
            if still is not None:
                return (self._touching(still),)
            word = "finding" if measures else "proof"
            judge = Action(
                id="prove", label=f"Take this as the {word}", key="Enter", events=(ev.Proved(pass_no=number),)
            )
            judged = solution.judged
            again = self._read_again(number)
            doubt = self.procedure.doubt(state, state.passes[number - 1])
            # neither a needle that did not come back nor one past its dial leaves a doubt of what is far outside
            past = doubt == "unread" and past_any_dial(state, state.passes[number - 1])
            proves = judged is not None and (
                doubt is None or ((doubt == "drift" or past) and judged.outcome == "outside")
            )
            told: tuple[Text, ...] = ()
            if not proves:
                again, told = self._from_where(number)
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
                        *self._late(),
                        *told,
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
        elif left is not None and left[0].when == "undecided":
            head = text("Close to the limit. Read the spots between, next ", strong(left[0].label.lower()), ".")
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
                    *self._tightening(),
                    text(step.prompt),
                    text(why if measures else PROOF_WHY),
                ),
                others=(self._read_again(number),) if begun else (),
            ),
        )

    def _touching(self, still: Measure) -> Panel:
        """A needle that never moved: true work, or a stylus that does not touch? Paper tells."""
        first, far = still.mine(self.state, self.state.being_read)[0], still.slot == "far"
        where = "paper under the far stylus" if far else "paper under the stylus"
        return self._panel(
            self._still(),
            first.id,
            name="press",
            kicker=text(f"Proof · pass {self.state.next_pass_no} shows the same at every spot"),
            headline=text("The needle never moved. Slip ", strong(where), ": which way?"),
            why=(
                text(
                    "A true part and a stylus that does not touch read alike. Paper tells them apart; then take it out."
                ),
                text("If it stays: bring the stylus on with preload and set zero afresh. The pass is read again."),
            ),
            others=(
                *self._press_answers("far" if far else ""),
                self._zero_afresh(first.id, "Z").model_copy(update={"label": "It stays: zero set afresh"}),
            ),
        )

    def _not_held(self) -> tuple[Panel, ...]:
        """The proof does not hold: correct it, accept it with a reason, or end it where nothing is left to do."""
        if self._went_wrong():
            return (self._pressed_again(),)
        accept = self._accept()
        again = self._read_again(self.solution.pass_no)
        settles = self.solution.again
        if self.solution.retighten:
            again = Action(id="tight", label="Tightened again", key="Enter", events=(ev.Tightened(),))
        elif settles:
            again = again.model_copy(update={"key": "Enter"})
        elif (beyond := self._beyond()) is not None:
            again, settles = beyond[1], self._caveats()[0]
        panel = self._panel(
            self._still(),
            name="verdict",
            kicker=text(f"Proof · pass {self.solution.pass_no}"),
            headline=self.solution.told or self._verdict_text(),
            why=(
                *((self._verdict_text(),) if self.solution.told else ()),
                *((settles,) if settles else ()),
                *((self.solution.stop,) if self.solution.stop else ()),
                *self._limited(),
                *self._stubborn(),
            ),
            primary=again if settles else None,
            others=(accept,) if settles else (accept, again, *((self._off(),) if self.solution.stop else ())),
            verdict=self.state.verdict,
        )
        if not self.solution.moves or self.solution.stop:
            return (panel,)
        moves = self._moves(self.solution, "correct")
        return (panel, *moves) if self.solution.again else (*moves, panel)

    def _off(self, label: str = "Take it off") -> Action:
        return Action(id="off", label=label, key="T", events=(ev.TakenOff(),))

    def finished(self) -> Panel:
        """All steps are behind."""
        off = self._off("Part done, take it off")
        return self._panel(
            self._still(),
            name="finished",
            kicker=text("Taken off" if self.state.taken_off else "Clear to run"),
            headline=self._verdict_text(),
            why=(
                *((self.solution.told,) if self.solution.told else ()),
                *((verdict_text(found),) if self.state.accepted and (found := self.state.verdict) else ()),
                *self._band(self.state.verdict),
                *self._late(),
                text("It is in the Logbook."),
            ),
            primary=None if self.state.taken_off else off.model_copy(update={"key": "Enter"}),
            others=(),
            verdict=self.state.verdict,
        )
