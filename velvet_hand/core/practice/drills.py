"""The drills: each a hidden machine that lures into one mistake, and the habit that keeps out of it.

One more drill is one more entry of ``DRILLS``.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from typing import Any

import numpy as np

from ..causes import Cause
from ..gauge import Gauge
from ..holders import Vise
from ..plan.base import BasePlan
from ..procedures.four_jaw.plan import FourJawPlan
from ..procedures.registry import PROCEDURES, example, machine
from ..procedures.vise.plan import VisePlan
from ..sim.afflict import afflict
from ..sim.body import Body
from ..sim.example import edge_usual, four_jaw_plan, held, limit_mm
from ..sim.jaws import Quirks, SimulatedChuck
from ..sim.trouble import unfit
from .dials import FINE, LEVER, PLUNGER, TENTHS
from .faults import Fault, as_cause

Rng = np.random.Generator


@dataclass(frozen=True, slots=True, kw_only=True)
class Drill:
    """One thing to practice.

    ``lures`` is what goes wrong, ``habit`` what keeps out of it, ``question`` what is asked before an answer is given; ``fault``
    says what has to be named in the end (None: it has to be made good). ``aslant``: the dial is read from the side at first.
    """

    id: str
    title: str
    procedure: str
    lures: str
    habit: str
    question: str
    plan: Callable[[int], BasePlan]
    body: Callable[[BasePlan, Rng], Body]
    fault: Callable[[Body], Fault | None] = lambda body: None
    aslant: bool = False
    timed: bool = False


# -- plans ---------------------------------------------------------------------------------------


def chuck_plan(seed: int, **changes: Any) -> FourJawPlan:
    """Round work in a four-jaw, eight spots, within a thou and a half of TIR."""
    usual: dict[str, Any] = {
        "gauge": LEVER, "limit_thou": "1.5", "finish": "ground", "floor_mm": 0.002, "carrier": "work_turns", "view": "tailstock",
        "gauge_clock_deg": (90.0, 0.0, 180.0)[seed % 3], "numbering": ("ccw", "cw")[seed // 3 % 2],
        "stations_deg": tuple(45.0 * i for i in range(8)),
    }  # fmt: skip
    return FourJawPlan(**four_jaw_plan(**{**usual, **changes}))


def vise_plan(seed: int, **changes: Any) -> VisePlan:
    """A vise to be tapped square, one bolt snug at either end or both loose."""
    vise = held(Vise, edge_mm=160, depth_mm=110, bolts_mm=(14.0, 146.0))
    fixed = {"gauge": TENTHS, "target_deg": 0.0, "limit": limit_mm("0.015", "over_jaw"), "over_length_mm": 300.0}
    return VisePlan(**{**edge_usual(seed, vise), **fixed, **changes})


def plan_of(procedure: str, seed: int, gauge: Gauge = FINE) -> BasePlan:
    """The procedure’s own example, with an indicator that can be read off a drawn dial."""
    number = {
        "packing": 9 * (seed // 3) + seed % 3,  # packed true, not to a throw
        "tailstock": 4 * (seed // 3) + seed % 3,  # by a bar, not by collars that are turned
    }
    return example(procedure, number.get(procedure, seed)).model_copy(update={"gauge": gauge})


# -- machines ------------------------------------------------------------------------------------


def chuck(**quirks: Any) -> Callable[[BasePlan, Rng], Body]:
    """A four-jaw that answers well, but for what is said."""

    def made(plan: Any, rng: Rng) -> Body:
        usual: dict[str, Any] = {
            "offset_mm": float(rng.uniform(0.06, 0.14)), "offset_deg": float(rng.uniform(0, 360)),
            "gain": (float(rng.uniform(0.85, 1.0)), float(rng.uniform(0.85, 1.0))), "form_mm": 0.002, "lobes": 2,
            "form_deg": float(rng.uniform(0, 360)), "push_reads": int(rng.choice([-1, 1])), "kick_mm": 0.003,
            "kick_deg": float(rng.uniform(0, 360)), "kick_scatter_mm": 0.0005,
        }  # fmt: skip
        return SimulatedChuck(plan, Quirks(**{**usual, **quirks}), rng)

    return made


def as_found(plan: BasePlan, rng: Rng) -> Body:
    """The procedure’s own simulated machine."""
    return machine(plan, rng)


def troubled(cause: Cause, make: Callable[[BasePlan, Rng], Body] = as_found) -> Callable[[BasePlan, Rng], Body]:
    """The same with one cause switched on."""

    def made(plan: BasePlan, rng: Rng) -> Body:
        body = make(plan, rng)
        afflict(body, cause, rng, PROCEDURES[plan.procedure].stations(plan))
        return body

    return made


def chip_below(plan: BasePlan, rng: Rng) -> Body:
    """A good plate, but for what lies under one spot."""
    body = troubled("burr")(plan, rng)
    if body.trouble is not None:
        body.trouble.burr_mm = plan.limit.mm * 2
    return body


def bent_or_eccentric(plan: BasePlan, rng: Rng) -> Body:
    """A shaft that has one of the two."""
    while True:
        body = machine(plan, rng)
        if shaft_fault(body) is not None:
            return body


def to_be_mended(plan: BasePlan, rng: Rng) -> Body:
    """A machine that is past its limit, and that what is moved there can bring within it."""
    while True:
        body = machine(plan, rng)
        if body.past_limit_mm > 0 > body.best_tir_mm - 0.8 * plan.limit.mm:
            return body


def shaft_fault(body: Body) -> Fault | None:
    """What is the matter with a shaft."""
    if abs(getattr(body, "bend", 0j)) > 0:
        return "bent"
    return "eccentric" if getattr(body, "own", {}) else None


def named(fault: Fault) -> Callable[[Body], Fault | None]:
    """Always that."""
    return lambda body: fault


def a_chuck(id: str, title: str, lures: str, habit: str, question: str, cause: Fault) -> Drill:
    """A drill at a four-jaw with one hidden cause, which has to be named."""
    body = troubled(as_cause(cause), chuck(offset_mm=0.02))
    return Drill(
        id=id, title=title, procedure="four_jaw", lures=lures, habit=habit, question=question, plan=chuck_plan, body=body,
        fault=named(cause),
    )  # fmt: skip


def below_floor(seed: int) -> BasePlan:
    """A limit that nobody can tell there."""
    return unfit(chuck_plan(seed), np.random.default_rng(seed))


DRILLS: tuple[Drill, ...] = (
    Drill(
        id="wrong_sign", title="Wrong sign", procedure="four_jaw", plan=chuck_plan, body=chuck(push_reads=-1),
        lures="Plus on the dial is taken for “toward the indicator”; here the part comes nearer and the needle falls.",
        habit="Press the part toward the indicator and look, before the first move.",
        question="You press the part toward the indicator. Which way does the needle go?",
    ),
    Drill(
        id="half", title="Full instead of half", procedure="four_jaw", plan=chuck_plan,
        body=chuck(offset_mm=0.12, gain=(0.97, 0.97)),
        lures="The jaw is driven in until the far side reads what this side read: twice as far as it needs.",
        habit="High less low of a pair, and half of it: that is how far the needle goes.",
        question="High reads so much more than the spot across. How much of that does the center have to go?",
    ),
    Drill(
        id="pivot", title="Full or half at the vise", procedure="vise", plan=vise_plan, body=as_found,
        lures="Snug at one end the whole difference goes at the other; swinging on both bolts half of it goes at each end.",
        habit="Ask which bolt holds before you ask how much; zero at the end that stays.",
        question="Which end stays where it is when you tap the other?",
    ),
    Drill(
        id="hard", title="Hitting hard", procedure="vise", plan=lambda seed: vise_plan(seed, hinge="low"), body=as_found,
        lures="One hard blow carries past the aim, the next one back past it again.",
        habit="Light taps, the needle watched; a hard one only while it is far off.",
        question="How far is it still, and how far does one light tap carry?",
    ),
    Drill(
        id="floor", title="Chasing below the floor", procedure="four_jaw", plan=below_floor, body=chuck(offset_mm=0.01),
        lures="The limit is finer than indicator and machine repeat to; every pass moves what is not there.",
        habit="Read one pass twice without touching anything: what differs then is not the part.",
        question="You read the same spots twice and moved nothing. Do they agree better than the limit?",
        fault=named("floor"),
    ),
    a_chuck(
        "oval", "Chasing an oval part", "Opposite spots read alike and the others do not: no jaw mends that.",
        "Look at opposite spots first: what is alike on both sides is form, not place.",
        "Opposite spots read alike. What does moving a jaw do to a part like that?", "form",
    ),
    Drill(
        id="square", title="Indicator off square", procedure="four_jaw", plan=chuck_plan,
        body=troubled("square", chuck()),
        lures="The stylus stands tens of degrees round from where it was planned: each move comes out beside the aim.",
        habit="Look along the stylus: square to the surface, on the center line, where the plan has it.",
        question="After your move, did the spots you did not aim at change as you thought?", fault=named("square"),
    ),
    a_chuck(
        "loose", "Loose base or arm", "The first spot does not come back after a turn, and never by the same.",
        "Read the first spot again at the end of every pass; flick the base when it does not come back.",
        "The first spot, read again at the end of the pass: what did it say?", "loose",
    ),
    a_chuck(
        "burr", "A burr", "One spot stands out alone; the whole part is moved away from it.",
        "One spot alone is no place of a center: feel for it, stone it, or mark it bad.",
        "Do the spots beside the highest one follow it?", "burr",
    ),
    Drill(
        id="hundreds", title="Dropped hundreds", procedure="four_jaw",
        plan=lambda seed: chuck_plan(seed, gauge=PLUNGER, limit_thou="1.2"),
        body=chuck(offset_mm=0.42),
        lures="The hand goes round more than once, and only what stands on the dial is read.",
        habit="Watch the hand all the way round, or count its small hand; type 1+20 when it has been round once.",
        question="How many times did the hand go past zero on the way to this spot?",
    ),
    Drill(
        id="travel", title="Off the end of its travel", procedure="four_jaw",
        plan=lambda seed: chuck_plan(seed, gauge=LEVER.model_copy(update={"travel_mm": 0.1905})),
        body=chuck(offset_mm=0.22),
        lures="The needle stands at its stop and is read as if it meant something.",
        habit="At the stop type +off or -off, bring it back on the dial first, then zero and read.",
        question="Does the needle still move there when you turn a little farther?",
    ),
    Drill(
        id="parallax", title="Parallax", procedure="four_jaw",
        plan=lambda seed: chuck_plan(seed, limit_thou="1.2"), body=chuck(offset_mm=0.03), aslant=True,
        lures="Read from the side the needle stands over another mark, and over yet another from the next side.",
        habit="Stand square to the dial before every reading.",
        question="Do you look at the dial from straight in front?",
    ),
    Drill(
        id="shift", title="Shift on tightening", procedure="four_jaw", plan=chuck_plan,
        body=chuck(kick_mm=0.025, kick_scatter_mm=0.0005),
        lures="True while snug, out when tight: and it was not read again.",
        habit="Tighten, read the whole pass again, and aim off by what tightening does next time.",
        question="You tightened it. What did you read since?",
    ),
    Drill(
        id="tir", title="TIR for off center", procedure="four_jaw",
        plan=lambda seed: chuck_plan(seed, limit_kind="off_centre", limit_thou="0.8"), body=chuck(offset_mm=0.05),
        lures="The limit is on off center; whoever holds the needle’s whole swing against it chases twice too far.",
        habit="Say aloud what the limit is on before you judge: off center is half of the TIR.",
        question="Is the limit on what the needle swings, or on half of that?",
    ),
    Drill(
        id="packing", title="Packing the wrong jaw", procedure="packing", plan=lambda seed: plan_of("packing", seed),
        body=as_found,
        lures="The shim goes under the jaw on the high side’s far end, and it runs out twice as much.",
        habit="A shim pushes the part away from its jaw: put it under the jaw on the high side.",
        question="A shim under a jaw: which way does the part go?",
    ),
    Drill(
        id="clocking", title="Clocking the wrong way", procedure="clocking", plan=lambda seed: plan_of("clocking", seed),
        body=to_be_mended,
        lures="The chuck goes round one bolt the wrong way: the two errors add instead of taking from each other.",
        habit="Find both high spots, then put them across from each other.",
        question="Where is the plate high, and where the chuck? What brings one across from the other?",
    ),
    Drill(
        id="chip", title="A plate read on a chip", procedure="plate", plan=lambda seed: plan_of("plate", 12 * seed, TENTHS),
        body=chip_below,
        lures="One place stands out; the plate is called out of parallel for it.",
        habit="Wipe plate, parallels and stylus before the first reading; what stands out alone is read once more after wiping.",
        question="Does the place that stands out follow from its neighbors?", fault=named("burr"),
    ),
    Drill(
        id="shaft", title="Bent shaft or eccentric seat", procedure="shaft", plan=lambda seed: plan_of("shaft", seed % 4),
        body=bent_or_eccentric,
        lures="Runout is runout: but one is straightened, and the other is ground.",
        habit="Write down where each place is high: in one line along the shaft it is bent, every which way the seats are eccentric.",
        question="Are the places high on the same side, and most in the middle?", fault=shaft_fault,
    ),
    Drill(
        id="bed", title="A bed shimmed after the jaw", procedure="bed",
        plan=lambda seed: plan_of("bed", 4 * (seed % 5)), body=as_found,
        lures="The jaw is tapped true first; then a shim goes under the bed, and the jaw has moved.",
        habit="Bed first, jaw after: whatever lifts the vise is done before it is tapped.",
        question="What happens to the jaw when you lift the vise for a shim?",
    ),
    Drill(
        id="two_minutes", title="Two minutes to square a vise", procedure="vise",
        plan=lambda seed: vise_plan(seed, hinge=("low", "high")[seed % 2], limit=limit_mm("0.02", "over_jaw")),
        body=as_found, timed=True,
        lures="Nothing is hidden: it is only a race against your own best.",
        habit="Zero at the snug bolt, run to the far end, tap to zero, nuts down, prove.",
        question="Which end is snug?",
    ),
)  # fmt: skip


# -- any machine, without a drill ----------------------------------------------------------------

#: How a machine is to be.
LEVELS: dict[str, str] = {"easy": "easy", "usual": "as in a shop", "hard": "one thing wrong"}
#: The machines that can be chosen, and what may be wrong with them.
MACHINES: dict[str, tuple[Cause, ...]] = {
    "four_jaw": ("form", "loose", "burr", "square", "spring", "lost_motion", "lifting"),
    "throw": ("loose", "burr"),
    "two_planes": (),
    "faceplate": ("loose", "burr"),
    "adjustable": ("loose", "burr"),
    "packing": (),
    "clocking": (),
    "collet": (),
    "tailstock": (),
    "vise": ("loose", "burr", "spring"),
    "vises": (),
    "edge": ("loose", "burr"),
    "bed": ("loose",),
    "clamped": (),
    "tram": ("loose", "burr"),
    "centre": ("loose", "burr"),
    "column": (),
    "dowels": (),
}


def levels_of(procedure: str) -> dict[str, str]:
    """The levels of a machine: where nothing can be switched on, nothing is wrong with it."""
    return {level: words for level, words in LEVELS.items() if level != "hard" or MACHINES[procedure]}


def free(procedure: str, level: str, seed: int) -> Drill:
    """A machine of that kind to practice on, with nothing said beforehand.

    Raises
    ------
    KeyError
        When there is no such machine.
    """
    causes = MACHINES[procedure]
    rng = np.random.default_rng(seed)
    cause = causes[int(rng.integers(len(causes)))] if level == "hard" and causes else None
    own: dict[str, Callable[[int], BasePlan]] = {
        "four_jaw": chuck_plan, "vise": vise_plan, "throw": partial(plan_of, "throw", gauge=PLUNGER),
    }  # fmt: skip
    plan = own.get(procedure, partial(plan_of, procedure))
    make = chuck(kick_mm=0.008, kick_scatter_mm=0.001) if procedure == "four_jaw" else to_be_mended

    def body(made: BasePlan, rng: Rng) -> Body:
        found = troubled(cause, make)(made, rng) if cause else make(made, rng)
        if level == "easy":
            found.hands = replace(found.hands, gain=1.0, kick=0j, kick_scatter_mm=0.0, push_reads=1)
            if isinstance(found, SimulatedChuck):
                found.quirks = replace(found.quirks, gain=(1.0, 1.0), backlash_mm=0.0, form_mm=0.0)
        return found

    told = PROCEDURES[procedure].title
    return Drill(
        id=f"{procedure}.{level}", title=told, procedure=procedure, plan=plan, body=body,
        lures="", habit="Read, decide, move one thing, tighten, and read it all again.",
        question="What do the readings say: which way is it off, and by how much?",
    )  # fmt: skip


def drill_of(name: str, seed: int) -> Drill | None:
    """The drill of that name, or the machine; None when there is none."""
    found = next((drill for drill in DRILLS if drill.id == name), None)
    procedure, _, level = name.partition(".")
    if found is None and procedure in MACHINES and level in LEVELS:
        return free(procedure, level, seed)
    return found
