"""Wrong on purpose: the core is changed in one place, and the tests have to say so. ``./velvet mutants --help``

Beside a list of changes that matter to somebody at a machine (a sign, a name of a corner, a term of a band), seeded ones are made
of the core's arithmetic: a plus for a minus, a ``max`` for a ``min``, a bound that lets its end in, a number twice as large.
Work is done on copies; nothing of the tree is touched.
"""

from __future__ import annotations

import argparse
import ast
import os
import random
import shutil
import subprocess
import sys
import tempfile
from collections import defaultdict
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass
from pathlib import Path
from queue import SimpleQueue
from xml.etree import ElementTree

ROOT = Path(__file__).parents[1]
CORE = "velvet_hand/core"
#: Where seeded mutants are made: what computes and judges.
ROOMS = (
    "fit",
    "measure",
    "budget.py",
    "verdict.py",
    "estimate",
    "readings.py",
    "engine/learning.py",
    "engine/answers.py",
    "move.py",
    "told.py",
)
SWAPS: dict[type[ast.AST], tuple[str, str]] = {
    ast.Add: ("+", "-"),
    ast.Sub: ("-", "+"),
    ast.Mult: ("*", "/"),
    ast.Div: ("/", "*"),
    ast.Lt: ("<", ">="),
    ast.Gt: (">", "<="),
    ast.LtE: ("<=", ">"),
    ast.GtE: (">=", "<"),
}


@dataclass(frozen=True, slots=True)
class Mutant:
    """One change: what stands in a file of the core, and what takes its place (the first time it stands there after ``start``)."""

    name: str
    file: str
    old: str
    new: str
    start: int = 0

    def made_in(self, tree: Path) -> None:
        """Change it there. ValueError when the code no longer reads like that."""
        path = tree / CORE / self.file
        source = path.read_text()
        at = source.find(self.old, self.start)
        if at < 0:
            raise ValueError(f"{self.name}: {self.file} has no {self.old!r}")
        path.write_text(source[:at] + self.new + source[at + len(self.old) :])


LISTED = (
    Mutant("the surest of two rings speaks for both", "procedures/reversal/procedure.py", "u = max(look", "u = min(look"),
    Mutant("the surest of a collet's rings speaks for all", "procedures/collet/procedure.py", "u = max(look", "u = min(look"),
    Mutant("the floor is not stretched", "budget.py", "floor_mm / 2 * stretch", "floor_mm / 2"),
    Mutant("lost motion is not stretched", "budget.py", "lost_motion_mm / 2 * stretch", "lost_motion_mm / 2"),
    Mutant("a ring's floor is twice as much", "measure/ring.py", "floor_mm=self.floor_mm", "floor_mm=2 * self.floor_mm"),
    Mutant("a tenth of the drift", "budget.py", "drift_part * abs(gauge", "drift_part / 10 * abs(gauge"),
    Mutant("half of a shaft's band", "procedures/shaft/procedure.py", "budget(2 * u_line", "budget(u_line"),
    Mutant(
        "two vises whose level is known for sure", "procedures/vises/look.py", "hypot(k.line.u_level_mm,", "hypot(0.0,"
    ),
    Mutant("twice the twist", "procedures/plate/look.py", "[3] * width_mm * depth", "[3] * 2 * width_mm * depth"),
    Mutant("the plate's low corner called high", "procedures/plate/look.py", "look.plane.b > 0", "look.plane.b < 0"),
    Mutant("the plate's low side called high", "procedures/plate/look.py", "look.plane.a > 0", "look.plane.a < 0"),
    Mutant("a first answer taken for sure", "estimate/pairs.py", "(MISSED * own[i]) ** 2", "0.0"),
    Mutant("the best of several leads", "verdict.py", "-(v.value_mm + v.band_mm)", "(v.value_mm + v.band_mm)"),
    Mutant("what holds leads", "verdict.py", "-rank[v.outcome]", "rank[v.outcome]"),
    Mutant("the other corner is struck", "plan/edge.py", "way = -plan.gauge_way if", "way = -plan.gauge_way if not"),
    Mutant("the other way is said", "plan/edge.py", "way = plan.gauge_way if", "way = plan.gauge_way if not"),
    Mutant("right for left under a bed", "procedures/bed/procedure.py", '"front left", "front right"', '"front right", "front left"'),
    Mutant("a reading left out unasked", "measure/ring.py", '"wild" if look.wild else', '"wild" if not look else'),
    Mutant("spots on one side prove the other", "measure/ring.py", "UNSEEN_DEG = 200.0", "UNSEEN_DEG = 400.0"),
    Mutant("a low side cut off flat", "measure/ring.py", '"preload" if look.flat_low else None', "None"),
    Mutant("the end of the travel is on the dial", "measure/base.py", "travel_mm * (1 - 1e-9)", "travel_mm * 2"),
    Mutant("a plate's unknown place is level", "procedures/plate/look.py", "*(look.plane.at(x, y) for x, y in missing)", "*()"),
    Mutant("a bed's unknown place is level", "fit/plane.py", "+ self.noise_mm**2) ** 0.5)", ") ** 0.5)"),
    Mutant("half of a machine's floor", "procedures/machine/procedure.py", "return 2 * self.spot_mm", "return self.spot_mm"),
    Mutant("the other parallel is shimmed", "procedures/clamped/procedure.py", "if wanted > 0 else (1", "if wanted < 0 else (1"),
    Mutant("a shim lifts the other side", "procedures/clamped/procedure.py", "p.number == 2 else 1 - part", "p.number == 1 else 1 - part"),
    Mutant("a move the wrong way teaches", "engine/answers.py", "if known.lost or wrong:", "if known.lost:"),
    Mutant("a shift is kept by the indicator", "engine/tapping.py", "sign * look.fit.mm", "look.fit.mm"),
    Mutant("what is out of round is brought to its middle", "engine/jaws/look.py", "if aims_truest(plan) else", "if None else"),
    Mutant("a look is held against one reading", "measure/ring.py", "return found if variance < self.variance", "return None if found"),
    Mutant("its room is twice as wide", "estimate/form.py", "np.mean(far**2)", "np.mean(4 * far**2)"),
    Mutant("form is nothing where nobody read", "estimate/form.py", "most = apart + bands", "most = apart"),
    Mutant("what was not proved teaches", "engine/answers.py", 'state.verdict.outcome != "holds"', "False"),
    Mutant("memory is as sure as its mean", "estimate/lessons.py", "w * (v + (part * kind.sd) ** 2", "w * (v"),
    Mutant("what foresaw worse is believed", "estimate/lessons.py", "anew.foresaw - kept.foresaw", "kept.foresaw - anew.foresaw"),
    Mutant("a slip is another holder", "estimate/kalman.py", "2 * math.log1p(surprise / TAILS)", "2 * surprise"),
    Mutant("a turn lifts the sweep the other way", "estimate/leaning.py", "level -= turned", "level += turned"),
    Mutant("the axis lies on the other side", "estimate/leaning.py", "row[5:7] = -turned_mm", "row[5:7] = turned_mm"),
    Mutant("a fresh zero may lose what is on the dial", "engine/beyond.py", "for other in known.values())", "for other in ())"),
    Mutant("an aim past the dial", "engine/beyond.py", "abs(aim_mm) <= most", "abs(aim_mm) <= 9 * most"),
    Mutant("the proof looks where it looked before", "plan/ring.py", "in round_deg) / 2", "in round_deg) / 90"),
)  # fmt: skip


def seeded(seed: int, count: int) -> list[Mutant]:
    """``count`` of all the changes of the core's arithmetic, the same for the same seed."""
    files = [
        p
        for room in ROOMS
        for p in ([ROOT / CORE / room] if room.endswith(".py") else sorted((ROOT / CORE / room).glob("*.py")))
    ]
    found = [mutant for path in files for mutant in _of(path)]
    return random.Random(seed).sample(found, min(count, len(found)))


def _of(path: Path) -> Iterator[Mutant]:
    source, file = path.read_text(), str(path.relative_to(ROOT / CORE))
    lines = [0]
    for line in source.splitlines(keepends=True):
        lines.append(lines[-1] + len(line))
    for node in ast.walk(ast.parse(source)):
        for start, old, new in _changes(node, source, lines):
            number = source.count("\n", 0, start) + 1
            said = source.splitlines()[number - 1].strip()
            yield Mutant(f"{old} → {new} in {file}:{number}: {said}", file, old, new, start)


def _changes(node: ast.AST, source: str, lines: list[int]) -> Iterator[tuple[int, str, str]]:
    def at(line: int | None, column: int | None) -> int:
        begin = lines[(line or 1) - 1]
        return begin + len(source[begin:].encode()[: column or 0].decode())

    pairs: list[tuple[ast.expr, ast.AST]] = []
    if isinstance(node, ast.BinOp):
        pairs = [(node.left, node.op)]
    elif isinstance(node, ast.Compare):
        pairs = [(node.left, node.ops[0])]
    elif isinstance(node, ast.Call) and isinstance(node.func, ast.Name) and node.func.id in ("max", "min"):
        yield at(node.lineno, node.col_offset), node.func.id, "min" if node.func.id == "max" else "max"
    elif isinstance(node, ast.UnaryOp) and isinstance(node.op, ast.USub):
        yield at(node.lineno, node.col_offset), "-", "+"
    elif isinstance(node, ast.Constant) and isinstance(node.value, float) and node.value:
        start = at(node.lineno, node.col_offset)
        yield start, source[start : at(node.end_lineno, node.end_col_offset)], repr(2 * node.value)
    for left, op in pairs:
        if type(op) in SWAPS:
            yield at(left.end_lineno, left.end_col_offset), *SWAPS[type(op)]


def copy_to(tree: Path) -> None:
    """All that the core's tests need; the policy's stand on the machines of the bench."""
    for name in ("velvet_hand", "tests", "bench"):
        shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tree)


def passes_in(tree: Path, *arguments: str) -> bool:
    """Whether the core's tests pass there, up to the first that does not."""
    command = [sys.executable, "-m", "pytest", "-x", "-q", "-p", "no:cacheprovider", *arguments]
    env = {**os.environ, "PYTHONDONTWRITEBYTECODE": "1", "PYTHONPATH": str(tree)}
    done = subprocess.run(command, cwd=tree, env=env, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=False)
    return done.returncode == 0


def cheapest_first(tree: Path, workers: int) -> list[str]:
    """The files of the core's tests, the quickest first, so that most mutants die early. Empty when one fails without a change."""
    told = tree / "times.xml"
    if not passes_in(tree, "tests/core", f"--junitxml={told}", "-n", str(workers)):
        return []
    took: dict[str, float] = defaultdict(float)
    for case in ElementTree.parse(told).iter("testcase"):
        took[case.attrib["classname"].replace(".", "/") + ".py"] += float(case.attrib["time"])
    return sorted(took, key=took.__getitem__)


def survives(mutant: Mutant, tree: Path, tests: list[str]) -> bool:
    """Whether all these tests pass with it in the tree; the tree is as before afterwards."""
    path = tree / CORE / mutant.file
    before = path.read_text()
    mutant.made_in(tree)
    try:
        return passes_in(tree, *tests)
    finally:
        path.write_text(before)


def say(line: str) -> None:
    """A line on the screen, at once."""
    sys.stdout.write(line + "\n")
    sys.stdout.flush()


def hunt(mutants: list[Mutant], workers: int) -> list[Mutant] | None:
    """Those that no test found; None when the tests fail without any change, so that a death would mean nothing."""
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(workers) as pool:
        trees: SimpleQueue[Path] = SimpleQueue()
        for number in range(workers):
            tree = Path(folder) / str(number)
            copy_to(tree)
            trees.put(tree)
        tests = cheapest_first(Path(folder) / "0", workers)
        if not tests:
            return None

        def one(mutant: Mutant) -> bool:
            tree = trees.get()
            try:
                lives = survives(mutant, tree, tests)
            finally:
                trees.put(tree)
            say(f"{'LIVES' if lives else 'dies '} {mutant.name}")
            return lives

        return [m for m, lives in zip(mutants, pool.map(one, mutants), strict=True) if lives]


def main() -> int:
    """Exit code 1 when a listed one lives or more than a tenth of the seeded ones, 2 when the tests fail as they are."""
    parser = argparse.ArgumentParser(prog="./velvet mutants", description=(__doc__ or "").split("\n\n")[1])
    parser.add_argument("--seeded", type=int, default=0, metavar="N", help="make N seeded ones too (150 take hours)")
    parser.add_argument("--seed", type=int, default=1, help="which ones (default 1)")
    parser.add_argument("--only-seeded", action="store_true", help="leave the listed ones out")
    parser.add_argument("--jobs", type=int, default=2, help="how many at a time (default 2)")
    chosen = parser.parse_args()
    listed, made = () if chosen.only_seeded else LISTED, seeded(chosen.seed, chosen.seeded)
    alive = hunt([*listed, *made], chosen.jobs)
    if alive is None:
        say("The tests fail without any change; mend them first.")
        return 2
    few, many = ([m for m in alive if m in some] for some in (listed, made))
    say(f"listed: {len(few)} of {len(listed)} live; seeded: {len(many)} of {len(made)} live")
    return int(bool(few) or 10 * len(many) > len(made))


if __name__ == "__main__":
    sys.exit(main())
