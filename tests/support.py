"""What tests and benchmarks share: a plan to start from, a database of one's own, a real server."""

from __future__ import annotations

import itertools
import multiprocessing
import os
import runpy
import signal
import socket
import sys
import time
from collections.abc import Callable, Sequence
from contextlib import suppress
from dataclasses import dataclass, field
from multiprocessing.process import BaseProcess
from pathlib import Path
from typing import Any, TypeVar

import psycopg

from velvet_hand.core.desk import desk
from velvet_hand.core.procedures.four_jaw.plan import FourJawPlan
from velvet_hand.core.readings import Station
from velvet_hand.core.setup import events as ev
from velvet_hand.core.sim.body import Body
from velvet_hand.core.sim.example import four_jaw_plan

ROOT = Path(__file__).resolve().parent.parent
T = TypeVar("T")


def make_plan(**changes: Any) -> FourJawPlan:
    """A plan with a fine plunger gauge; shorthand as in ``four_jaw_plan``."""
    return FourJawPlan(**four_jaw_plan(**changes))


def fresh_database(admin_url: str, name: str) -> str:
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'CREATE DATABASE "{name}"')
    return admin_url.rsplit("/", 1)[0] + f"/{name}"


def drop_database(admin_url: str, name: str) -> None:
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def fill_shop() -> None:
    from datetime import date

    from velvet_hand.demo import world

    world.stock_the_shop(date(2026, 1, 5))


#: Has the application's modules already: each server is there two seconds sooner.
READY = multiprocessing.get_context("forkserver")
READY.set_forkserver_preload(["velvet_hand.api", "scipy.optimize", "gunicorn.app.wsgiapp", "gunicorn.workers.gthread"])


def _serve(listening: socket.socket, environment: dict[str, str]) -> None:
    """Be gunicorn, in a group of processes of its own."""
    os.setsid()
    os.chdir(ROOT)
    os.environ.update(environment)
    sys.argv = [
        "gunicorn", "--no-control-socket", "-k", "gthread", "--workers", "1", "--threads", "24",
        "--graceful-timeout", "1", "--log-level", "warning", "-b", f"fd://{listening.fileno()}",
        "velvet_hand.api.wsgi:app",
    ]  # fmt: skip
    runpy.run_module("gunicorn", run_name="__main__")


@dataclass
class Server:
    """A real server that can be killed and started again on the same port.

    The port is reserved for its whole life by a socket that is bound but never listens: nobody else can take it, and
    while no server runs a connection is refused instead of waiting in a backlog.
    """

    database_url: str
    process: BaseProcess | None = None
    _reserved: socket.socket = field(init=False)

    def __post_init__(self) -> None:
        self._reserved = self._bound(0)

    @staticmethod
    def _bound(port: int) -> socket.socket:
        found = socket.socket()
        found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        found.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
        found.bind(("127.0.0.1", port))
        return found

    @property
    def port(self) -> int:
        return int(self._reserved.getsockname()[1])

    @property
    def pid(self) -> int:
        assert self.process is not None
        assert self.process.pid is not None
        return self.process.pid

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.port}"

    def start(self) -> None:
        """The listening socket is handed over, so there is no race for the port."""
        with self._bound(self.port) as listening:
            listening.listen(64)
            environment = {**os.environ, "VELVET_DATABASE_URL": self.database_url}
            self.process = READY.Process(target=_serve, args=(listening, environment), daemon=True)
            self.process.start()
        self._wait()

    def _wait(self) -> None:
        import urllib.request

        for _ in range(600):
            try:
                with urllib.request.urlopen(self.url + "/api/health", timeout=30):
                    return
            except OSError:
                assert self.process is not None
                assert self.process.is_alive(), "the server ended"
                time.sleep(0.1)
        raise AssertionError("the server did not come up")

    def kill(self) -> None:
        """As a power cut would: no goodbye. Returns when nobody listens any more."""
        if self.process is None:
            return
        with suppress(ProcessLookupError):  # it ended by itself
            os.killpg(self.pid, signal.SIGKILL)
        self.process.join()
        self.process = None
        while self._answers():  # its workers let go of the listening socket a moment after they are killed
            time.sleep(0.01)

    def _answers(self) -> bool:
        with socket.socket() as tried:
            return tried.connect_ex(("127.0.0.1", self.port)) == 0

    def close(self) -> None:
        """Kill it and give the port back."""
        self.kill()
        self._reserved.close()


#: Debian's Chromium without a window of its own: a page costs it half of what the whole browser takes.
BROWSER = "/usr/bin/chromium-headless-shell"
CHROMIUM = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]


def paper(events: Sequence[ev.Event]) -> ev.PressTested | None:
    """Paper under a stylus whose needle stood still in a proof: it goes the way it went before."""
    state = desk.load(events)
    one = state.being_read
    still = desk.procedure_of(state.plan).stood_still(state, one) if one else None
    if still is None:
        return None
    return ev.PressTested(went="plus" if state.pushed(still.slot) == 1 else "minus", gauge="far" if still.slot else "")


def as_a(kind: type[T], thing: object) -> T:
    """The thing, which has to be one of that kind."""
    assert isinstance(thing, kind), thing
    return thing


def there(thing: T | None) -> T:
    """What has to be there."""
    assert thing is not None
    return thing


def misread(work: Body, change: Callable[[float, int], float | str]) -> None:
    """What the needle of that machine shows is changed, reading by reading; their number counts from 0."""
    count = itertools.count()

    class Misread(type(work)):  # type: ignore[misc]  # whichever it is
        def read(self, spot: Station) -> float | str:
            value: float | str = super().read(spot)
            return value if isinstance(value, str) or spot.reads != "needle" else change(value, next(count))

    work.__class__ = Misread
