"""How a digital indicator is reached, and how its lines are read: all of it typed by a person, none of it code."""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import Annotated, Any, Literal

import re2
from pydantic import Field

from ..errors import BadInput
from ..fields import GaugeOf, NumberOf, OneOf, WordsOf, YesNo
from ..model import Model

Kind = Literal["stream", "request"]
#: What a number is in.
LineUnit = Literal["mm", "in", "um", "thou"]
MM_OF: dict[str, float] = {"mm": 1.0, "in": 25.4, '"': 25.4, "inch": 25.4, "um": 0.001, "µm": 0.001, "thou": 0.0254}
#: A sign, digits with a point or a comma; then perhaps a unit.
PLAIN = r"\s*(?P<value>[-+]?\s*(?:\d+(?:[.,]\d*)?|[.,]\d+))\s*(?P<unit>mm|inch|in|\"|um)?\s*"
#: What may be reached: a serial port of this machine, or one over the network; never a file or a program.
PORT = re.compile(r"(/dev/[\w./-]{1,80}|COM\d{1,3}|(socket|rfc2217)://[\w.\-]{1,120}:\d{1,5}|loop://|tablet:)")
#: It hangs on a tablet, whose browser reads it and sends on what comes.
TABLET = "tablet:"
#: A line longer than this is none; a pattern that needs more memory than this is refused.
LONGEST, PATTERN_BYTES = 200, 1 << 18
#: No indicator shows more (mm).
FARTHEST_MM = 1000.0


class Wire(Model):
    """A live indicator: which one of the Shop it is, its ``port`` and how its lines are read.

    The ``pattern`` (regular expression of RE2, which no line can make slow) has a group ``value``, perhaps groups ``sign`` and ``unit``;
    ``unit`` counts where a line says none. One that answers when ``ask``ed is asked every ``every_ms``. ``turned``: it counts away from
    the surface.
    """

    id: str
    name: str = Field(min_length=1, max_length=80)
    kind: Kind
    gauge: Annotated[str, GaugeOf("Indicator that it is", rank=1)] = Field(min_length=1, max_length=80)
    port: Annotated[
        str,
        WordsOf(
            "Where it is",
            "/dev/ttyUSB0, COM3, socket://192.168.1.20:4001, rfc2217://…, or tablet: where a browser reads it.",
            rank=2,
        ),
    ] = Field(max_length=200)
    pattern: Annotated[
        str,
        WordsOf("How a line is read", "A regular expression with a group (?P<value>…), perhaps (?P<sign>…) and (?P<unit>…).", rank=3),
    ] = Field(default=PLAIN, max_length=400)  # fmt: skip
    unit: Annotated[
        LineUnit,
        OneOf("Unit, where the line says none", words={"mm": "mm", "in": "inch", "um": "µm", "thou": "thou"}, rank=4),
    ] = "mm"
    turned: Annotated[
        bool, YesNo("Its sign is turned round", "Yes: what it shows as plus is taken as minus.", rank=5)
    ] = False
    baud: Annotated[int, NumberOf("Speed of the port, baud", "", least=300, most=921600, rank=6)] = 9600
    ask: Annotated[str, WordsOf("What is sent to ask it", r"\r for a return: ?\r", rank=7, only=("request",))] = Field(
        default="?\\r", max_length=40
    )
    every_ms: Annotated[int, NumberOf("Asked every, ms", "", least=10, most=5000, rank=8, only=("request",))] = 50

    def check(self) -> None:
        """Refuse what cannot be.

        Raises
        ------
        BadInput
            A port that is none, a pattern that is none or has no value in it.
        """
        if not PORT.fullmatch(self.port):
            raise BadInput(
                "field_invalid",
                "That is no port.",
                "Type /dev/ttyUSB0, COM3, socket://address:number, or tablet:",
                "port",
            )
        compiled(self.pattern)

    @property
    def on_a_tablet(self) -> bool:
        """Does a browser read it?"""
        return self.port == TABLET

    @property
    def asks(self) -> bytes:
        """What is sent to have an answer."""
        return self.ask.replace("\\r", "\r").replace("\\n", "\n").encode("ascii", "replace")


@lru_cache(maxsize=64)
def compiled(pattern: str) -> Any:
    """A pattern, ready.

    Raises
    ------
    BadInput
        At ``pattern``: it is none, is too large, or names no value.
    """
    options = re2.Options()
    options.max_mem, options.log_errors = PATTERN_BYTES, False
    try:
        made = re2.compile(pattern, options)
    except re2.error as bad:
        said = str(bad)[:80]
        raise BadInput(
            "field_invalid", f"That is no pattern: {said}", "Brackets in pairs; look at the hint.", "pattern"
        ) from bad
    if "value" not in made.groupindex:
        raise BadInput("field_invalid", "The pattern has no (?P<value>…).", "Put it round the number.", "pattern")
    return made


class Understood(Model):
    """What a line was taken for: ``mm``, or ``why`` it says nothing."""

    mm: float | None = None
    why: str = ""


def understand(wire: Wire, line: str) -> Understood:
    """One line as the wire reads it: the pattern has to fit all of it, so that half a line, or two in one, is no reading.

    Examples
    --------
    >>> read = Wire(id="w", name="W", kind="stream", gauge="g", port="loop://")
    >>> understand(read, "+00.0120 mm").mm, understand(read, "-.5 in").mm, understand(read, "0.01+0.012").why
    (0.012, -12.7, 'not understood')
    """
    if len(line) > LONGEST:
        return Understood(why="too long for a reading")
    found = compiled(wire.pattern).fullmatch(line)
    if found is None:
        return Understood(why="not understood" if line.strip() else "empty")
    groups = found.groupdict()
    number = (groups.get("value") or "").replace(" ", "").replace(",", ".")
    try:
        value = float((groups.get("sign") or "").strip() + number)
    except ValueError:
        return Understood(why="no number in it")
    unit = (groups.get("unit") or "").strip().lower() or wire.unit
    if unit not in MM_OF:
        return Understood(why=f"no unit that is known: {unit[:12]}")
    mm = value * MM_OF[unit] * (-1.0 if wire.turned else 1.0)
    if not math.isfinite(mm) or abs(mm) > FARTHEST_MM:
        return Understood(why="farther than any indicator shows")
    return Understood(mm=mm)
