"""The frame of an edge whose base is shimmed first: shimming moves the edge, so it comes before the taps."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Iterator

from ..measure.edge import LineLook
from ..move import Move, Packet, Shim
from ..path.cautions import FINGERS
from ..quantity import Quantity
from ..readings import Pass
from ..setup.state import State
from ..told import Figure, Solution
from ..verdict import Verdict, worst
from ..wording import Bit, Text, bare, length, strong, text
from .line_parts import E
from .one_line import OneLine


class ShimmedLine(OneLine[E], ABC):
    """An edge with a base: ``base_verdict`` says how that stands, ``shim`` what mends it."""

    def has_base(self, state: State[E]) -> bool:
        """Is a base read in this set-up?"""
        return any(s.when == "shimmed" for s in state.stations)

    @abstractmethod
    def base_verdict(self, state: State[E]) -> Verdict | None:
        """The base as it was read last, whole, against its own limit."""

    @abstractmethod
    def shim(self, state: State[E]) -> Move | None:
        """What to put under it, when that makes it better."""

    @abstractmethod
    def base_figures(self, state: State[E]) -> tuple[Figure, ...]:
        """Figures of the base."""

    @abstractmethod
    def base_read(self, state: State[E], one: Pass) -> bool:
        """Was the base read in this pass, whole?"""

    def told_figures(self, state: State[E], look: LineLook) -> tuple[Figure, ...]:
        """See ``Corrected``."""
        return (*self.base_figures(state), *super().told_figures(state, look))

    def solve(self, state: State[E]) -> Solution:
        """See ``Procedure``: shims first, then taps; both judged together."""
        found, current = super().solve(state), state.open_pass
        if current is None:
            return found
        base = self.base_verdict(state)
        whole = all(current.answered(s.id) for s in state.asked(current))
        judged = worst(tuple(v for v in (found.judged, base) if v is not None)) if found.judged and base else None
        if not self.has_base(state):
            return found
        changes: dict[str, object] = {"judged": judged if whole else None}
        if found.ready and not found.stop and self.has_base(state) and (base is None or base.outcome != "holds"):
            changes["stop"] = text("The edge is true. Its base is as level as the drawer’s shims allow.")
        shimmed = any(isinstance(m, Shim) for m in state.moved_in(current.number))
        if self.base_read(state, current) and base is not None and base.outcome != "holds" and not current.moved:
            move = self.shim(state)
            if move is not None:
                changes |= {"moves": (move,), "ready": False, "stop": ()}
        if shimmed:
            changes["moves"] = ()
        return found.model_copy(update=changes)


def since_shimmed(state: State) -> Iterator[Pass]:
    """Passes that say how it stands now, the latest first: what was read before the last shim went in says nothing any more."""
    for one in reversed(state.passes):
        yield one
        if any(isinstance(m, Shim) for m in state.moved_in(one.number)):
            return


def shim_move(
    number: int,
    measure: str,
    packets: tuple[Packet, ...],
    what: Text,
    where: Text,
    reason: Text,
    left: Quantity,
    spot: str,
) -> Shim:
    """Shims under a base: no needle to watch, but what to expect."""
    return Shim(
        pass_no=number,
        measure=measure,
        packets=packets,
        spot=spot,
        teaches=False,
        care=FINGERS,
        title="shims",
        made="Shimmed, read again",
        short=text("Put in ", strong("the shims below"), ".") if len(packets) > 1 else (),
        sentence=text("Put ", *what, *where),
        reason=(
            *reason,
            *text(" Wipe shim and base; snug it down again. Shimming moves the edge: it is squared after this."),
        ),
        log=text("Shimmed: ", *what),
        expects=left,
    )


def pieces_words(pieces: tuple[float, ...]) -> Text:
    """A stack in words."""
    parts: list[Bit] = []
    for index, mm in enumerate(pieces, start=1):
        parts += [" + " if parts else "", length(mm) if index == len(pieces) else bare(mm)]
    return text(*parts)
