"""The house stands as docs/architecture.md draws it, as far as import-linter cannot see."""

from __future__ import annotations

import ast
import multiprocessing
import re
import sys
from importlib import import_module
from pathlib import Path

import numpy  # noqa: F401 - loaded before the forks, so that each is quick
import pydantic  # noqa: F401
import pytest
import scipy.optimize  # noqa: F401

from tests.mutants import LISTED, copy_to, passes_in, survives
from velvet_hand.core.plan.any import FOLDERS, plan_classes, procedure_ids

ROOT = Path(__file__).resolve().parent.parent
CORE = ROOT / "velvet_hand" / "core"
#: No file is longer.
MOST_LINES = 400
#: What the core may lean on besides Python itself.
ALLOWED = {"numpy", "scipy", "re2", "pydantic", "pydantic_core", "typing_extensions", "velvet_hand"}
#: Whatever is imported first may be what builds the schema of the events.
FIRST = (
    *(f"procedures.{name}.plan" for name in procedure_ids()),
    "plan.any",
    "setup.events",
    "procedures.registry",
    "desk.desk",
    "operator",
)


def test_the_core_leans_on_nothing_but_what_is_allowed() -> None:
    found = set()
    for path in CORE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Import):
                found |= {alias.name.split(".")[0] for alias in node.names}
            elif isinstance(node, ast.ImportFrom) and not node.level and node.module:
                found.add(node.module.split(".")[0])
    assert found - ALLOWED <= set(sys.stdlib_module_names)


def _alone(module: str) -> None:
    for name in [n for n in sys.modules if n.startswith("velvet_hand")]:
        del sys.modules[name]
    import_module(module)


@pytest.mark.parametrize("module", FIRST)
def test_any_module_can_be_imported_first(module: str) -> None:
    """Plans are found by their folders while a schema is built; no order of imports may break that."""
    child = multiprocessing.get_context("fork").Process(target=_alone, args=(f"velvet_hand.core.{module}",))
    child.start()
    child.join()
    assert child.exitcode == 0


def test_a_procedure_is_a_folder_with_plan_procedure_and_machine() -> None:
    for name in procedure_ids():
        there = {p.name for p in (FOLDERS / name).glob("*.py")}
        assert there >= {"__init__.py", "plan.py", "procedure.py", "sim.py"}, name
    loose = {p.name for p in FOLDERS.glob("*.py")}
    assert loose == {"__init__.py", "registry.py"}
    ids = [c.model_fields["procedure"].default for c in plan_classes()]
    assert sorted(ids) == list(procedure_ids())


def test_no_file_is_too_long_to_be_read_at_once() -> None:
    rooms = ("velvet_hand", "tests", "bench", "scripts", "web/src")
    files = [p for room in rooms for kind in ("py", "ts", "vue", "css") for p in (ROOT / room).rglob(f"*.{kind}")]
    assert len(files) > 300
    long = {p.name: n for p in files if (n := len(p.read_text().splitlines())) > MOST_LINES and p.name != "schema.d.ts"}
    assert long == {}


def test_no_test_of_the_browser_waits_for_a_time() -> None:
    """See tests/e2e/waiting.py for what to wait for."""
    assert [p.name for p in (ROOT / "tests" / "e2e").glob("*.py") if "wait_for_timeout" in p.read_text()] == []


def test_every_listed_mutant_can_still_be_made() -> None:
    for mutant in LISTED:
        assert mutant.old in (CORE / mutant.file).read_text(), mutant.name


def test_a_mutant_dies_in_a_copy_where_all_passes_without_it(tmp_path: Path) -> None:
    copy_to(tmp_path)
    assert passes_in(tmp_path, "tests/core", "--collect-only")
    known = ["tests/core/test_verdict.py"]
    assert passes_in(tmp_path, *known)
    assert not survives(next(m for m in LISTED if m.name == "the floor is not stretched"), tmp_path, known)


def test_every_picture_that_a_document_shows_is_there() -> None:
    for page in (ROOT / "README.md", ROOT / "CONTRIBUTING.md", *sorted((ROOT / "docs").rglob("*.md"))):
        for link in re.findall(r"\]\(([^)#:]+\.(?:png|svg|md))\)", page.read_text()):
            assert (page.parent / link).exists(), f"{page.relative_to(ROOT)}: {link}"
