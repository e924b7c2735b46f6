"""A reading that may be wrong: nothing is moved or judged by it before somebody said what it is."""

from __future__ import annotations

from uuid import UUID

from ...gauge import Gauge
from ...setup import events as ev
from ...units import UNIT_WORD, Typed, format_length
from ...wording import Text, length, signed, strong, text
from ..doubt import Doubt
from ..panel import Action, Panel
from .builder import Builder


class Doubting(Builder):
    """Asks about a reading."""

    def doubting(self, doubt: Doubt) -> Panel:
        """Was it read rightly? One key keeps it, one takes what was meant."""
        reading, label = doubt.reading, doubt.station.label.lower()
        now = reading.needle_mm or 0.0
        keep = Action(
            id="keep", label="It is right", key="K", events=(ev.ReadingKept(reading_id=UUID(reading.event_id)),)
        )  # fmt: skip
        others: tuple[Action, ...] = (keep,)
        why: Text
        if doubt.why == "turn" and doubt.meant_mm is not None:
            headline = text(strong(label[0].upper() + label[1:]), ": ", signed(doubt.meant_mm), "?")
            turn = self._gauge(doubt).turn_mm or 0.0
            more = doubt.meant_mm > now
            why = text(
                "It was typed as ",
                signed(now),
                f". With one turn of the hand {'more' if more else 'less'} (",
                length(turn),
                ") it fits what else was read.",
            )
            others = (
                self._correct("meant", f"One turn {'more' if more else 'less'}", "M", doubt, doubt.meant_mm),
                keep,
            )
        elif doubt.why == "end":
            headline = text(strong(label[0].upper() + label[1:]), ": is the needle at its stop?")
            why = text("That is the end of the indicator’s travel. A needle at its stop measures nothing.")
            end = "+off" if now > 0 else "-off"
            others = (self._typed("stop", "At its stop", "E", doubt, end), keep)
        elif doubt.why == "fine":
            gauge = self._gauge(doubt)
            by = gauge.kind if gauge.measures_gap else "dial"
            headline = text("Is that in ", strong(UNIT_WORD[reading.typed.unit]), f"? It is finer than the {by}.")
            why = text(
                "The readings differ by less than anybody reads on it: one graduation is ",
                length(gauge.graduation_mm),
                ". Type them again, or keep them.",
            )
            others = (*self._all_in(doubt), keep)
        else:
            headline = text("Look at ", strong(label), " again: ", signed(now), "?")
            why = text(
                length(abs(doubt.off_mm)),
                " from where the last pass and what was done since leave it. Type it again, or keep it.",
            )
        return self._panel(
            self._still(),
            doubt.station.id,
            name="doubt",
            kicker=text(f"Pass {self.state.next_pass_no} · is that right?"),
            headline=headline,
            why=(why,),
            others=others,
        )  # fmt: skip

    def _gauge(self, doubt: Doubt) -> Gauge:
        """What it was read on."""
        return self.state.plan.gauge_in(self.state.plan.slot(doubt.station.ring))

    def _all_in(self, doubt: Doubt) -> tuple[Action, ...]:
        """All of them as they were meant, where one unit fits."""
        if not doubt.instead:
            return ()
        unit = doubt.reading.typed.unit
        events = tuple(
            ev.ReadingCorrected(reading_id=UUID(key), typed=Typed(text=typed, unit=unit))
            for key, typed in doubt.instead
        )
        return (Action(id="meant", label=f"They are in {doubt.unit}", key="M", events=events),)

    def _correct(self, name: str, label: str, key: str, doubt: Doubt, mm: float) -> Action:
        unit = self.state.plan.unit
        resolution = self._gauge(doubt).resolution_mm
        typed = format_length(mm, unit, min(resolution, 0.0001), signed=True, bare=True).replace("\u2212", "-")
        return self._typed(name, label, key, doubt, typed)

    def _typed(self, name: str, label: str, key: str, doubt: Doubt, typed: str) -> Action:
        event = ev.ReadingCorrected(
            reading_id=UUID(doubt.reading.event_id), typed=Typed(text=typed, unit=self.state.plan.unit)
        )  # fmt: skip
        return Action(id=name, label=label, key=key, events=(event,))
