"""``python -m velvet_hand.cli``: migrate, demo, openapi. The shell script ./velvet calls these."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from .settings import Settings, from_environment


def _migrate(settings: Settings) -> None:
    from .store import database as db
    from .store import setups

    database = db.connect(settings.database_url)
    for name in db.migrate(database):
        print(f"migrated: {name}")
    with database.connection_context():
        if made := setups.rebuild():
            print(f"set-ups read anew: {made}")
    database.close_all()


def _demo(settings: Settings) -> None:
    from .demo import world
    from .store import database as db

    database = db.connect(settings.database_url)
    with database.connection_context():
        print("demo data loaded" if world.load_once() else "demo data is there already")
    database.close_all()


def _openapi(target: Path) -> None:
    from .api import create_app

    app = create_app(Settings(database_url="postgresql://nobody@127.0.0.1:1/none", web_dir=Path()))
    with app.test_request_context():
        target.write_text(json.dumps(app.api_doc, indent=1, ensure_ascii=False, sort_keys=True) + "\n")


def main(arguments: list[str] | None = None) -> int:
    """Run one command; returns the exit code."""
    parser = argparse.ArgumentParser(prog="velvet_hand")
    commands = parser.add_subparsers(dest="command", required=True)
    commands.add_parser("migrate", help="bring the tables up to date")
    commands.add_parser("demo", help="load the sample world, once")
    commands.add_parser("openapi", help="write the OpenAPI document").add_argument("target", type=Path)
    asked = parser.parse_args(arguments)
    if asked.command == "openapi":
        _openapi(asked.target)
    elif asked.command == "migrate":
        _migrate(from_environment())
    else:
        _demo(from_environment())
    return 0


if __name__ == "__main__":
    sys.exit(main())
