"""The start script and its private cluster: crashes, taken ports, two checkouts, nonsense."""

from __future__ import annotations

import os
import re
import shutil
import signal
import socket
import subprocess
from collections.abc import Iterator
from pathlib import Path

import psycopg
import pytest

from tests.support import ROOT


def run(*command: str, var: Path | None = None, **more: str) -> subprocess.CompletedProcess[str]:
    env = {**os.environ, "VELVET_PG_DURABLE": "1", **more}  # as for real work, not as for other tests
    env.pop("VELVET_PG_PORT", None)
    if var is not None:
        env["VELVET_VAR"] = str(var)
    return subprocess.run(command, cwd=ROOT, env=env, text=True, capture_output=True, timeout=600, check=False)


@pytest.fixture
def var() -> Iterator[Path]:
    folder = ROOT / "var" / f"test-script-{os.getpid()}"
    folder.mkdir(parents=True)
    yield folder
    run("scripts/pg", "stop", var=folder)
    shutil.rmtree(folder, ignore_errors=True)


def url(var: Path) -> str:
    return run("scripts/pg", "url", "velvet_try", var=var).stdout.strip()


def test_help_and_nonsense() -> None:
    shown = run("./velvet", "help")
    assert shown.returncode == 0
    for command in ("demo", "start", "stop", "test", "bench"):
        assert f"./velvet {command}" in shown.stdout
    wrong = run("./velvet", "brew")
    assert wrong.returncode == 2
    assert "./velvet demo" in wrong.stderr
    assert run("./velvet", "start", VELVET_PORT="eighty").returncode == 1
    assert "VELVET_PORT is a number" in run("./velvet", "start", VELVET_PORT="80").stderr


def test_a_cluster_left_over_by_a_crash_comes_back_with_what_was_committed(var: Path) -> None:
    assert run("scripts/pg", "start", var=var).returncode == 0
    with psycopg.connect(url(var), autocommit=True) as connection:
        connection.execute("CREATE TABLE kept AS SELECT 7 AS n")
    pid = int(run("cat", str(_place(var) / "data" / "postmaster.pid")).stdout.split()[0])
    busy = psycopg.connect(url(var))
    busy.pgconn.send_query(b"SELECT count(*) FROM generate_series(1, 10000000)")  # this one outlives it for a while
    os.kill(pid, signal.SIGKILL)
    again = run("scripts/pg", "start", var=var)
    busy.close()
    assert again.returncode == 0, again.stderr
    with psycopg.connect(url(var)) as connection:
        assert connection.execute("SELECT n FROM kept").fetchone() == (7,)


def _place(var: Path) -> Path:
    other = var / "pg.place"
    return Path(other.read_text().strip()) if other.exists() else var / "pg"


def test_starting_and_stopping_twice_changes_nothing(var: Path) -> None:
    for _ in range(2):
        assert run("scripts/pg", "start", var=var).returncode == 0
    assert run("scripts/pg", "status", var=var).stdout.startswith("running on 127.0.0.1:")
    for _ in range(2):
        stopped = run("scripts/pg", "stop", var=var)
        assert (stopped.returncode, stopped.stderr) == (0, "")
    assert run("scripts/pg", "status", var=var).stdout.strip() == "stopped"


def test_a_port_that_is_taken_is_left_alone(var: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        port = taken.getsockname()[1]
        (var / "pg.port").write_text(str(port))
        assert run("scripts/pg", "start", var=var).returncode == 0
        shown = run("scripts/pg", "status", var=var).stdout
    found = re.search(r":(\d+)", shown)
    assert found is not None
    assert int(found[1]) > port


def test_a_half_made_cluster_is_made_anew(var: Path) -> None:
    assert run("scripts/pg", "start", var=var).returncode == 0
    assert run("scripts/pg", "stop", var=var).returncode == 0
    place = _place(var)
    run("mv", str(place / "data"), str(place / "data.new"))
    run("rm", "-f", str(place / "data.new" / "PG_VERSION"))
    assert run("scripts/pg", "start", var=var).returncode == 0
    assert url(var).startswith("postgresql://velvet:")
