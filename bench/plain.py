"""What is done without a program, on the same machines: half the difference, or the far end to zero; all readings within the limit are
good.
"""

from __future__ import annotations

from contextlib import suppress

from bench.physics import DEAD_MM, Chuck, Vise
from velvet_hand.core.move import Jaw, Jaws, Needle, Tap
from velvet_hand.core.plan.base import BasePlan
from velvet_hand.core.sim.body import WrongWay
from velvet_hand.core.wording import text

PAIRS = ((1, 3), (2, 4))


def half(chuck: Chuck, plan: BasePlan, both: bool, most: int) -> tuple[int, bool]:
    """Passes of four readings until they are good after tightening, and whether that came. It has the needle's sense for nothing.

    Parameters
    ----------
    both
        Both pairs are moved from one pass; or only the worse.
    most
        So many passes, and it is given up.
    """
    chuck.zero(0.0)
    push = chuck.quirks.push_reads
    for number in range(1, most + 1):
        seen = {jaw: float(chuck.read(90.0 * (jaw - 1))) * push for jaw in (1, 2, 3, 4)}
        if max(seen.values()) - min(seen.values()) <= plan.limit.mm:
            if chuck.tight:
                return number, True
            chuck.tighten()
            continue
        worst = sorted(PAIRS, key=lambda pair: -abs(seen[pair[0]] - seen[pair[1]]))
        for a, b in worst if both else worst[:1]:
            high, low = (a, b) if seen[a] > seen[b] else (b, a)
            with suppress(WrongWay):  # the other pair has brought it past the mean already
                chuck.do(_move(high, low, seen[high] * push, (seen[a] + seen[b]) / 2 * push))
    return most, False


def _move(high: int, low: int, now: float, aim: float) -> Jaws:
    draw, ease = (Jaw(number=n, at_deg=90.0 * (n - 1), mm=None, key_deg=None) for n in (high, low))
    needle = Needle(label="", deg=90.0 * (high - 1), now_mm=now, aim_mm=aim, goes="falls")
    return Jaws(
        pass_no=1, draw=draw, ease=ease, needle=needle, title="", sentence=(), reason=(), half_sentence=(), back=()
    )


def tap(vise: Vise, plan: BasePlan, whole: bool, most: int) -> tuple[int, bool]:
    """Passes of two readings until both ends agree after tightening, and whether that came.

    Parameters
    ----------
    whole
        The far end is tapped until the needle shows what it shows at the bolt, whatever the other end does then; or to the mean of both.
    most
        So many passes, and it is given up.
    """
    near_mm, far_mm = (vise.edge_plan.spots_mm[i] for i in (0, -1))
    for number in range(1, most + 1):
        vise.zero(near_mm)
        near, far = vise.read(near_mm), vise.read(far_mm)
        if isinstance(near, str) or isinstance(far, str):
            break
        if abs(near - far) <= plan.limit.mm:
            if vise.tight:
                return number, True
            vise.tighten()
            continue
        dead = abs(far_mm - vise.bolts.swing_mm) < DEAD_MM
        at_mm, now = (near_mm, near) if dead else (far_mm, far)
        _tapped(vise, at_mm, now, near if whole and not dead else (near + far) / 2)
    return most, False


def _tapped(vise: Vise, x_mm: float, now: float, aim: float) -> None:
    for way in ("away from you", "toward you"):  # the needle says which
        needle = Needle(label="", deg=0.0, x_mm=x_mm, now_mm=now, aim_mm=aim, goes="falls" if aim < now else "rises")
        move = Tap(pass_no=1, x_mm=x_mm, toward=True, mm=None, needle=needle, title="", sentence=text(way), reason=())
        try:
            return vise.do(move)
        except WrongWay:
            continue
