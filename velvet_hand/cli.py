"""``python -m velvet_hand.cli``: migrate, openapi. The shell script ./velvet calls these."""

from __future__ import annotations

import argparse
import json
import sys
from pathlib import Path

from .settings import Settings, from_environment


def _migrate(settings: Settings, demo: bool) -> None:
    """Bring the database up to date; what is heavy is only imported when there is something to do."""
    from .store import database as db
    from .store import tables

    database = db.connect(settings.database_url)
    for name in db.migrate(database):
        print(f"migrated: {name}")
    with database.connection_context():
        if tables.out_of_date():
            from .store import setups

            print(f"set-ups read anew: {setups.rebuild()}")
        if demo and tables.nothing_yet():
            from .demo import world

            world.load()
            print("demo data loaded")
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
    migrate = commands.add_parser("migrate", help="bring the tables up to date")
    migrate.add_argument("--demo", action="store_true", help="and load the sample world into an empty store")
    commands.add_parser("openapi", help="write the OpenAPI document").add_argument("target", type=Path)
    asked = parser.parse_args(arguments)
    if asked.command == "openapi":
        _openapi(asked.target)
    else:
        _migrate(from_environment(), asked.demo)
    return 0


if __name__ == "__main__":
    sys.exit(main())
