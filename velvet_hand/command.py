"""The command line ``velvet-hand``: sums, set-ups and whole installations without the screen; JSON on standard output.

It ends with 0 when it is done, 2 when the line itself is wrong, 3 when what was given cannot be used, 4 when there is no such thing, 5 when
the database does not answer. What went wrong is JSON on standard error, in the words of the screen.
"""

from __future__ import annotations

import json
import sys
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, get_args
from uuid import UUID

import click
from click.shell_completion import get_completion_class
from peewee import OperationalError
from pydantic import TypeAdapter, ValidationError

from .core.desk import desk
from .core.errors import BadInput, NotFound, VelvetHandError
from .core.setup import events as ev
from .core.sums import registry
from .core.sums.base import work
from .core.units import Typed, Unit
from .core.wording import Text, plain

BAD, MISSING, AWAY = 3, 4, 5
UNITS = get_args(Unit)
#: Figures are written to this (mm).
FINE_MM = 0.0001
_EVENTS = TypeAdapter(list[ev.Event])


def _say(what: Any) -> None:
    click.echo(json.dumps(what, ensure_ascii=False, indent=1))


def _stop(code: int, error: VelvetHandError) -> None:
    told = {"code": error.code, "why": error.why, "fix": error.fix, "field": error.field}
    click.echo(json.dumps(told, ensure_ascii=False), err=True)
    sys.exit(code)


@contextmanager
def _in_words() -> Iterator[None]:
    """What goes wrong is told in words, and says so by how it ends."""
    try:
        yield
    except NotFound as missing:
        _stop(MISSING, missing)
    except VelvetHandError as bad:
        _stop(BAD, bad)
    except BrokenPipeError:  # nobody listens any more: that ends as everywhere
        raise
    except OSError as kept:
        words = f"{kept.filename or 'The file'}: {kept.strerror or 'it cannot be used'}."
        _stop(BAD, BadInput("field_invalid", words, "Take another place, or make room there.", "file"))
    except OperationalError as away:
        words = "The database does not answer."
        _stop(AWAY, BadInput("busy", words, f"Start it: ./velvet start. ({str(away).splitlines()[0]})"))


@contextmanager
def _database() -> Iterator[None]:
    from .settings import from_environment
    from .store import database as db

    database = db.connect(from_environment().database_url)
    try:
        with _in_words():
            db.migrate(database)
            with database.connection_context():
                yield
    finally:
        database.close_all()


@click.group()
def main() -> None:
    """Indicating work, without the screen. JSON comes out; docs/exchange.md says how it ends."""


@main.command("sum")
@click.argument("name")
@click.argument("figures", nargs=-1, metavar="[FIGURE=VALUE]...")
@click.option(
    "--unit", type=click.Choice(UNITS), default="mm", show_default=True, help="Of bare figures, and of what comes out."
)
def sum_(name: str, figures: tuple[str, ...], unit: Unit) -> None:
    """Work out a sum: velvet-hand sum sine bar=100 angle=5.5

    The figure that was given last stays; what it is an answer to is turned round. "velvet-hand sum list" tells all of them.
    """
    with _in_words():
        if name == "list":
            _say(
                [{"sum": s.id, "title": s.title, "figures": [f.id for f in s.figures]} for s in registry.SUMS.values()]
            )
            return
        one = registry.sum_of(name)
        typed = []
        for given in figures:
            figure, equals, text = given.partition("=")
            if not equals or figure not in [f.id for f in one.figures]:
                words = "Its figures: " + ", ".join(f.id for f in one.figures) + "."
                raise BadInput("field_invalid", f"“{given[:40]}” is no figure of this sum.", words, figure[:40])
            typed.append((figure, Typed(text=text, unit=unit)))
        found = work(one, typed, unit)
        if found.faults:
            fault = found.faults[0]
            raise BadInput("field_invalid", fault.why, fault.fix, fault.figure)
        shown = {
            f.id: {"label": f.label, "value": f.text, "unit": f.unit, "beside": f.beside, "follows": f.follows}
            for f in found.figures
        }
        _say(
            {
                "sum": one.id,
                "figures": shown,
                "told": [plain(t, unit, FINE_MM) for t in found.told],
                "formula": one.formula,
            }
        )


@main.command()
@click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))
@click.option("--unit", type=click.Choice(UNITS), help="Of what comes out; the set-up’s own when it is not said.")
def solve(file: Path, unit: Unit | None) -> None:
    """Readings in, moves and verdict out.

    FILE holds the events of a set-up as JSON, as its page in the Logbook gives them.
    """
    with _in_words():
        try:
            events = _EVENTS.validate_json(file.read_bytes(), strict=False)
            state = desk.load(events)
        except (ValidationError, AssertionError, IndexError) as bad:
            where = ".".join(str(p) for p in bad.errors()[0]["loc"]) if isinstance(bad, ValidationError) else "events"
            said = f"This is no set-up{': ' * bool(where)}{where}."
            raise BadInput("field_invalid", said, "Take the JSON of a set-up.", "file") from bad
        view, solution = desk.show(events, "", state), desk.procedure_of(state.plan).solution(state)
        told_in, finest = unit or state.plan.unit, state.plan.gauge.resolution_mm

        def words(parts: Text) -> str:
            return plain(parts, told_in, finest)

        _say(
            {
                "part": view.part, "step": view.step, "unit": told_in, "headline": words(view.panels[0].headline),
                "moves": [
                    {"sentence": words(m.sentence), "watch": m.needle.label if m.needle else None, "now_mm": m.now_mm, "aim_mm": m.aim_mm}
                    for m in solution.moves
                ],
                "figures": {f.id: {"label": f.label, "mm": f.mm, "u_mm": f.u_mm} for f in solution.figures},
                "judged": solution.judged.model_dump(mode="json") if solution.judged else None,
                "verdict": state.verdict.model_dump(mode="json") if state.verdict else None,
            }
        )  # fmt: skip


@main.command()
@click.argument("drill")
@click.argument("file", required=False, type=click.Path(exists=True, dir_okay=False, path_type=Path))
@click.option("--seed", type=click.IntRange(0, 10**9), default=1, show_default=True, help="Which hidden machine.")
@click.option("--advice", type=click.Choice(["off", "asked", "full"]), default="asked", show_default=True)
@click.option(
    "--unit", type=click.Choice(UNITS), default="mm", show_default=True, help="Of the dial, and of what is told."
)
def practice(drill: str, file: Path | None, seed: int, advice: Any, unit: Unit) -> None:
    """A hidden machine to read and to move: velvet-hand practice half --seed 7 done.json

    FILE is a list of what was done so far, as JSON, in the form of the API; what may be seen after that is told, and how it went when
    it is over. "velvet-hand practice list" tells the drills.
    """
    from .core.practice.told import at_the_bench, listed

    with _in_words():
        if drill == "list":
            _say(listed())
            return
        _say(at_the_bench(drill, seed, advice, unit, file.read_bytes() if file else b"[]"))


@main.command()
@click.argument("file", type=click.Path(dir_okay=False, writable=True, path_type=Path))
def export(file: Path) -> None:
    """The whole installation into FILE."""
    from .exchange import archive

    with _database():
        half = file.with_name(file.name + ".part")
        with half.open("wb") as target:
            archive.write(target)
        half.replace(file)  # an interrupted one leaves no half archive under its name
        _say({"file": str(file), "bytes": file.stat().st_size})


@main.command("import")
@click.argument("file", type=click.Path(exists=True, dir_okay=False, path_type=Path))
def import_(file: Path) -> None:
    """Read the archive FILE back: all of it, or nothing."""
    from .exchange import archive

    with _database(), file.open("rb") as source:
        taken = archive.read_back(source)
        _say({"things": taken.things, "setups": taken.setups, "known": taken.known})


@main.command()
@click.argument("setup_id", type=click.UUID)
@click.argument("file", type=click.Path(dir_okay=False, writable=True, path_type=Path))
@click.option("--kind", type=click.Choice(["record", "sheet"]), default="record", show_default=True)
@click.option("--size", type=click.Choice(["a4", "letter"]), default="a4", show_default=True)
@click.option("--unit", type=click.Choice(UNITS), help="The set-up’s own when it is not said.")
@click.option(
    "--address",
    default="http://127.0.0.1:8300",
    show_default=True,
    help="Where the shop’s pages are, for the code on it.",
)
def report(setup_id: UUID, file: Path, kind: str, size: Any, unit: Unit | None, address: str) -> None:
    """A paper of a set-up into FILE, as PDF."""
    from .reports import page, paper
    from .store import setups

    with _database():
        kept = setups.read(setup_id)
        made = (paper.record if kind == "record" else paper.sheet)(kept.events, kept.state, unit)
        file.write_bytes(page.pdf(made, f"{address}/logbook/{setup_id}", size))
        _say({"file": str(file), "bytes": file.stat().st_size})


@main.command()
@click.argument("shell", type=click.Choice(["bash", "zsh", "fish"]))
def completion(shell: str) -> None:
    """What makes SHELL finish commands and options by itself: eval "$(velvet-hand completion bash)" """
    found = get_completion_class(shell)
    assert found is not None
    click.echo(found(main, {}, "velvet-hand", "_VELVET_HAND_COMPLETE").source())


if __name__ == "__main__":
    main(prog_name="velvet-hand")
