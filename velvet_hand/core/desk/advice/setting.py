"""Steps without readings: safety, cleaning, the press test, the zero."""

from __future__ import annotations

from typing import Literal

from ...path.steps import Step
from ...setup import events as ev
from ...setup.state import CLEAR
from ...wording import Text, length, size, strong, text
from ..panel import Action, Check, Panel
from .builder import Builder


class Setting(Builder):
    """Before anything is read."""

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
            why=(*done, *self._measured(step), text(step.prompt)),
            cautions=tuple(Check(id=c.id, text=c.text) for c in step.cautions),
            hold=step.hold,
            ask=step.ask,
            ask_label=step.ask_label if step.ask != "nothing" else "",
            taken_mm=self.state.gap_mm if step.ask != "nothing" else None,
            primary=Action(id="pass", label=label, key="Enter", events=(passed,)),
            others=(*(() if step.hold else (skip,)), *self._acceptance(step)),
        )

    def _measured(self, step: Step) -> tuple[Text, ...]:
        """What was typed at this step has been taken."""
        mm = self.state.gap_mm
        if step.ask == "nothing" or mm is None:
            return ()
        shown = size(mm) if step.ask == "opening" else length(mm)
        return (text(f"{self.state.plan.measured_word}: ", shown, ". It is taken; type over it to change it."),)

    def _acceptance(self, step: Step) -> tuple[Action, ...]:
        """A finding that does not hold may be accepted, beside being found."""
        verdict = self.state.verdict
        if step.id != CLEAR or self.state.accepted or verdict is None or verdict.outcome == "holds":
            return ()
        return (self._accept(),)

    def set_gauge(self, step: Step) -> Panel:
        """Press test, then zero."""
        state, first = self.state, self.state.asked()[0]
        if state.plan.gauge.measures_gap:
            return self.plain(step)
        where = (
            "Press the part toward the indicator"
            if self.state.plan.part.surface == "outside"
            else "Push the stylus the way the bore would"
        )
        slot = next((s for s in state.plan.slots if not state.sense_in(s).proved), None)
        if slot is not None:
            far: Literal["", "far"] = "" if slot == "" else "far"
            if far:
                where = f"Far end: {where[0].lower()}{where[1:]}"
            return self._panel(
                self._still(),
                name="press",
                kicker=text("Set indicator · press test"),
                headline=(step.far_headline if far else step.headline)
                or text(strong(where), ". Which way does it go?"),
                why=(
                    text(step.prompt),
                    text("Nothing is assumed about this indicator: the press test fixes every sign after it."),
                ),
                others=self._press_answers(far),
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
            kicker=text(f"Set indicator · pressed toward the indicator, the needle goes {went}"),
            headline=text(strong(first.label), " at the indicator. Set zero."),
            why=(text("Needle mid-travel. Zero here is only a start: a true part need not read zero anywhere."),),
            primary=Action(id="zero", label="Zero is set", key="Enter", events=zero),
            others=(again,),
        )
