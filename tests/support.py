"""What tests and benchmarks share: a plan to start from, a database of one's own, a real server."""

from __future__ import annotations

import os
import signal
import socket
import subprocess
import sys
import time
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

import psycopg

from velvet_hand.core.gauge import Gauge
from velvet_hand.core.plans import FourJawPlan, Limit, Workpiece
from velvet_hand.core.shop import Holder, Machine
from velvet_hand.core.units import Typed

ROOT = Path(__file__).resolve().parent.parent


def make_plan(**changes: Any) -> FourJawPlan:
    """A plan with a fine plunger gauge; ``surface``, ``travel_mm``, ``numbering``, ``limit_thou`` are shorthand."""
    surface = changes.pop("surface", "outside")
    travel = changes.pop("travel_mm", 3.0)
    numbering = changes.pop("numbering", "ccw")
    limit = changes.pop("limit_thou", "0.5")
    kind = changes.pop("limit_kind", "tir")
    lead = changes.pop("lead_mm", 4.0)
    graduation = changes.pop("graduation_mm", 0.00254)
    floor = changes.pop("floor_mm", 0.001)
    base: dict[str, Any] = {
        "part": Workpiece(name="drum", diameter=Typed(text="62", unit="mm"), surface=surface),
        "machine": Machine(id="m", name="Bramble lathe", kind="lathe", floor_mm=floor),
        "holder": Holder(
            id="h",
            name="Four-jaw 200",
            kind="four_jaw_independent",
            diameter_mm=200,
            min_work_mm=5,
            max_work_mm=180,
            lead_mm=lead,
            numbering=numbering,
            rings_mm=(30, 45),
        ),
        "gauge": Gauge(
            id="g",
            name="Plunger",
            kind="plunger",
            graduation_mm=graduation,
            travel_mm=travel,
            turn_mm=2.54,
            tip_radius_mm=1,
        ),
        "limit": Limit(kind=kind, typed=Typed(text=limit, unit="thou")),
        "unit": "thou",
    }
    return FourJawPlan(**{**base, **changes})


def fresh_database(admin_url: str, name: str) -> str:
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'CREATE DATABASE "{name}"')
    return admin_url.rsplit("/", 1)[0] + f"/{name}"


def drop_database(admin_url: str, name: str) -> None:
    with psycopg.connect(admin_url, autocommit=True) as connection:
        connection.execute(f'DROP DATABASE "{name}" WITH (FORCE)')


def fill_shop() -> None:
    from datetime import date

    from velvet_hand.demo import lathe, mill, world
    from velvet_hand.store import shop

    things = world.stocked((*world.gauges(date(2026, 1, 5)), *lathe.GAUGES, *mill.GAUGES))
    for thing in things:
        shop.save(thing)


@dataclass
class Server:
    """A real server that can be killed and started again on the same port."""

    database_url: str
    socket: socket.socket = field(default_factory=socket.socket)
    process: subprocess.Popen[bytes] | None = None

    def __post_init__(self) -> None:
        self.socket.bind(("127.0.0.1", 0))
        self.socket.listen(64)

    @property
    def url(self) -> str:
        return f"http://127.0.0.1:{self.socket.getsockname()[1]}"

    def start(self) -> None:
        """The listening socket is handed over, so there is no race for a port."""
        number = self.socket.fileno()
        os.set_inheritable(number, True)
        self.process = subprocess.Popen(
            [sys.executable, "-m", "gunicorn", "--no-control-socket", "-k", "gthread", "--workers", "1",
             "--threads", "24", "--graceful-timeout", "1", "--log-level", "warning", "-b", f"fd://{number}",
             "velvet_hand.api.wsgi:app"],
            cwd=ROOT, pass_fds=[number], env={**os.environ, "VELVET_DATABASE_URL": self.database_url},
            start_new_session=True,
        )  # fmt: skip
        self._wait()

    def _wait(self) -> None:
        import urllib.request

        for _ in range(200):
            try:
                with urllib.request.urlopen(self.url + "/api/health", timeout=2):
                    return
            except OSError:
                time.sleep(0.1)
        raise AssertionError("the server did not come up")

    def kill(self) -> None:
        """As a power cut would: no goodbye."""
        assert self.process is not None
        os.killpg(self.process.pid, signal.SIGKILL)
        self.process.wait()
        # Nobody listens any more: connections have to fail, not to wait in the backlog.
        port = self.socket.getsockname()[1]
        self.socket.close()
        self.socket = socket.socket()
        self.socket.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        for _ in range(100):  # the killed workers let go of it a moment later
            try:
                self.socket.bind(("127.0.0.1", port))
                return
            except OSError:
                time.sleep(0.05)
        raise AssertionError("the port did not come free")

    def restart(self) -> None:
        self.socket.listen(64)
        self.start()


CHROMIUM = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
