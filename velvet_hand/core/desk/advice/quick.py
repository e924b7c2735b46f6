"""A quick look: a few spots read after a move or the last grip, to correct at once what a full pass would only find later."""

from __future__ import annotations

from ...setup import events as ev
from ...wording import strong, text
from ..panel import Action, Panel
from .builder import Builder

QUICK_WHY = (
    "Key out, hands off, the dial not touched since the last full pass. This tells what has changed; it proves nothing."
)


class Quick(Builder):
    """Reading the spots of a quick look."""

    def looking(self) -> bool:
        """Is a quick look the next to be read, or being read?"""
        reading = self.state.being_read
        return self.state.quick or (reading is not None and reading.quick)

    def quick(self) -> Panel:
        """Read its spots, or the full pass instead."""
        state = self.state
        begun = None if state.quick else state.open_pass
        left = state.unread(begun)
        assert left is not None, "a quick look that is read is over"
        full = ev.PassClosed(pass_no=state.next_pass_no)
        both = " and ".join(s.label.lower() for s in state.asked(begun))
        return self._panel(
            self._still(),
            name="quick",
            kicker=text(f"Quick look · {state.next_pass_no}"),
            headline=text("Quick look. Read ", strong(left[0].label.lower()), "."),
            why=(*self._caveats(), *self._tightening(), text(f"Only {both}. {QUICK_WHY}")),
            others=(
                Action(id="again", label="Full pass", key="F", events=(full,)),
                self._zero_afresh(left[0].id, "Z"),
            ),
        )
