"""Reading, the move that follows from it, and when it is enough."""

from __future__ import annotations

from ...engine.policy import chance_words
from ...model import own
from ...move import Jaws, Swing, Tap, TapRound
from ...path.steps import Step
from ...quantity import KIND_WORDS
from ...setup import events as ev
from ...told import Solution
from ...wording import strong, text
from ..panel import Action, Panel
from .builder import aim_box, done, unread
from .quick import Quick

#: A line on when each way of working is the better, by the way's name.
WAY_WORDS = {
    "every": "Every bolt position is computed: the best there is, when sizes were read.",
    "oppose": "Mark and oppose needs no sizes, only the two high spots; the holes decide how near it comes.",
    "high_spot": "Both pairs from one pass: fewest readings.",
    "pairs": "One pair at a time: nothing to remember, and each pair can be checked before the next.",
}


class Reading(Quick):
    """Read, move, read again, until it is enough."""

    def read(self, step: Step) -> tuple[Panel, ...]:
        """Read; or the move; or go on to tighten. With the other ways of doing it behind."""
        solution = self.solution
        if self.looking() and not solution.ready:
            return (self.quick(),)
        if solution.ready:
            first = self._enough()
            return (first, *self._moves(solution, "Correct further")) if solution.moves else (first,)
        if self._went_wrong():
            return (self._pressed_again(),)
        if solution.moves and not self._mid_pass():
            ways = self.procedure.ways(self.state)
            panels = [*self._moves(solution, self._way() if ways else "move")]
            for name, state in ways:
                other = self.procedure.solution(state)
                if other.moves and other.moves[0].id != solution.moves[0].id:
                    panels += self._moves(other, name)
            return tuple(panels)
        return (self._ask_reading(step),)

    def _mid_pass(self) -> bool:
        """Is a pass begun that is read to its end before anything is moved?

        Pair by pair a pair is enough, and what is off the dial is brought back onto it first.
        """
        current = self.state.being_read
        if current is None or current.quick or self.state.plan.school == "pairs" or self.solution.moves[0].rezero:
            return False
        left = self.state.unread(current)
        return left is not None and not left[1]

    def _went_wrong(self) -> bool:
        """Did the last move go the wrong way, and was the press test not made again since?"""
        if self.state.plan.gauge.measures_gap or not any(c.code == "wrong_way" for c in self.solution.caveats):
            return False  # a gap needs no press test
        return not self.state.pressed_since_move

    def _pressed_again(self) -> Panel:
        """No more moves until it is known which way the needle goes."""
        return self._panel(
            self._still(),
            name="press",
            kicker=text(f"Pass {self.solution.pass_no} · wrong way"),
            headline=text("Wrong way. ", strong("Press it toward the indicator"), " again: which way?"),
            why=(*self._caveats(), text("Nothing was learned from that move.")),
            others=self._press_answers(""),
        )  # fmt: skip

    def _way(self) -> str:
        """The way of working that was chosen."""
        return str(getattr(self.state.plan, "way", self.state.plan.school))

    def _ask_reading(self, step: Step) -> Panel:
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
        wide = any(c.code == "gap_too_wide" for c in solution.caveats)
        nothing = begun and complete and (left is None or wide)  # all is read, and nothing follows from it
        again, there = self._from_where(number) if nothing else (self._read_again(number), ())
        if begun and not nothing:
            others = (again,)
        gauge = state.plan.gauge
        shown = f"the {gauge.noun}" if gauge.measures_gap else "what the needle shows"
        asks = (text(step.prompt), text(f"Type {shown} and press Enter."))
        beyond = self._beyond()
        if beyond is not None:
            headline = beyond[0]
        elif begun and not gauge.measures_gap:
            others = (*others, self._zero_afresh(station.id, "Z"))
        if complete or state.passes:
            others = (*others, self._go_nip_up("Tighten as it is", "N"))
        return self._panel(
            name="reading",
            kicker=text(f"Pass {number} · reading"),
            headline=headline,
            why=(*there, *self._caveats(), *(() if beyond else asks)),
            primary=beyond[1] if beyond else again.model_copy(update={"key": "Enter"}) if nothing else None,
            others=others,
        )

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
        made = done(move)
        others: list[Action] = []
        if last and solution.quick is not None and solution.quick.worth and not move.rezero:
            others.append(Action(id="full", label="Move made, full pass", key="F", events=made))
            label = "Move made, quick look"
            made = (ev.MoveDone(pass_no=move.pass_no, move_id=move.id, quick=True),)
        if isinstance(move, Jaws) and move.ease:
            eased = ev.MoveDone(pass_no=move.pass_no, move_id=move.id, phase="eased")
            others.append(Action(id="eased", label="Only backed off", key="E", events=(eased,)))
        quick = self.state.passes[move.pass_no - 1].quick
        again = self._read_again(move.pass_no)
        others += [again.model_copy(update={"label": "Full pass"}) if quick else again, *self._other_way(move)]
        if not self.state.plan.gauge.measures_gap:
            others.append(self._zero_afresh(unread(self.state), "Z"))
        care = (text(move.care),) if move.care else ()
        why = [*((move.sentence,) if move.short else ()), *care, move.reason, *self._caveats(), *self._stubborn()]
        if self.state.tight and quick:
            why.insert(0, text("A full pass would hardly hold yet, so this comes first."))
        if name in WAY_WORDS:
            why.append(text(WAY_WORDS[name]))
        if self.state.verdict is not None:
            why.insert(0, self._verdict_text())
            others.append(self._accept())
        elif name == "Correct further" or (solution.judged and solution.judged.outcome != "outside"):
            others.append(self._go_nip_up("Tighten as it is", "N"))
        tapped = isinstance(move, Tap | TapRound | Swing)
        of = f"move {move.index} of {move.count} · " if move.count > 1 else ""
        return (
            self._panel(
                solution,
                name=name,
                kicker=text(f"{'Quick look' if quick else 'Pass'} {move.pass_no} · {of}", move.title),
                headline=move.short or move.sentence,
                aim=aim_box(move),
                expect=move.expects,
                expect_word=KIND_WORDS[move.expects.kind] if move.expects else "",
                why=tuple(why),
                primary=Action(id="move", label=label, key="Enter", events=made),
                others=tuple(others),
                verdict=self.state.verdict,
                ask="taps" if tapped else "nothing",
                ask_label="Taps it took, if you counted" if tapped else "",
            ),
        )

    def half(self) -> Panel:
        """One jaw is eased and the other not drawn yet."""
        assert self.state.half is not None
        move = own(self.state.half.move, Jaws)
        back = ev.MoveDone(pass_no=move.pass_no, move_id=move.id, phase="back")
        return self._panel(
            name="half",
            kicker=text("Half done · ", move.title),
            headline=move.half_sentence,
            aim=aim_box(move),
            why=(
                move.back,
                text("Do not turn the spindle or leave the machine with a jaw backed off."),
                text(move.care),
            ),
            primary=Action(id="move", label="Tightened, read again", key="Enter", events=done(move)),
            others=(Action(id="back", label="Gone back instead", key="B", events=(back,)),),
        )

    def _enough(self) -> Panel:
        solution, current = self.solution, self.state.open_pass
        judged, stop = solution.judged, solution.stop
        moved = current is not None and bool(current.moved)  # what was judged is what was before the move
        headline = stop or text("Good. ", strong("Tighten"), " in steps, then check again.")
        quick = current is not None and current.quick and not moved
        why = [self._judged_text(judged), *self._band(judged)] if judged and not moved else []
        if quick and solution.odds is not None:
            why = [text(f"Once it is tight, {chance_words(solution.odds)}.")]
        after = "moved, not read again" if moved else "stop rule" if stop else "inside the limit, not tight yet"
        return self._panel(
            self._still(),
            name="enough",
            kicker=text(
                f"{'Quick look' if quick else 'Pass'} {solution.pass_no} · {'good enough to tighten' if quick else after}"
            ),
            headline=headline,
            why=(*why, *self._caveats()),
            primary=self._go_nip_up("Go on to tighten", "Enter"),
            others=(self._read_again(solution.pass_no),),
        )
