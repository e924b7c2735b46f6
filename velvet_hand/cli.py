"""``python -m velvet_hand.cli``: migrate, serve, openapi. The shell script ./velvet calls these."""

from __future__ import annotations

import argparse
import errno
import json
import os
import socket
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


#: So many ports from the wanted one on are tried.
PORTS = 50


def _bound(host: str, wanted: int) -> socket.socket:
    """A listening socket at the wanted port or the first free one after it; whoever binds first has it."""
    for port in range(wanted, wanted + PORTS):
        found = socket.socket()
        found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        try:
            found.bind((host, port))
            found.listen(64)
        except OSError as taken:
            found.close()
            if taken.errno != errno.EADDRINUSE:
                raise SystemExit(f"Nothing can listen at {host}:{port}: {taken.strerror}.") from taken
            continue
        return found
    raise SystemExit(f"No free port from {wanted} to {wanted + PORTS - 1}.")


def _serve(host: str, wanted: int, told: Path) -> None:
    """Take a port, write process and port to ``told``, and become the server."""
    listening = _bound(host, wanted)
    listening.set_inheritable(True)
    told.write_text(f"{os.getpid()} {listening.getsockname()[1]}\n")
    os.execv(
        sys.executable,
        [sys.executable, "-m", "gunicorn", "--no-control-socket", "-k", "gthread", "--workers", "1", "--threads", "64",
         "--graceful-timeout", "3", "--bind", f"fd://{listening.fileno()}", "--worker-tmp-dir", "/dev/shm",
         "--log-level", "warning", "velvet_hand.api.wsgi:app"],
    )  # fmt: skip


def main(arguments: list[str] | None = None) -> int:
    """Run one command; returns the exit code."""
    parser = argparse.ArgumentParser(prog="velvet_hand")
    commands = parser.add_subparsers(dest="command", required=True)
    migrate = commands.add_parser("migrate", help="bring the tables up to date")
    migrate.add_argument("--demo", action="store_true", help="and load the sample world into an empty store")
    commands.add_parser("openapi", help="write the OpenAPI document").add_argument("target", type=Path)
    serve = commands.add_parser("serve", help="serve at a free port")
    serve.add_argument("--host", default="127.0.0.1")
    serve.add_argument("--port", type=int, default=8300)
    serve.add_argument("--told", type=Path, required=True, help="where process and port are written")
    asked = parser.parse_args(arguments)
    if asked.command == "openapi":
        _openapi(asked.target)
    elif asked.command == "serve":
        _serve(asked.host, asked.port, asked.told)
    else:
        _migrate(from_environment(), asked.demo)
    return 0


if __name__ == "__main__":
    sys.exit(main())
