"""Shared fixtures: a migrated database, an app, a real server, a browser."""

from __future__ import annotations

import os
import re
import sys
import zlib
from collections.abc import Generator, Iterator
from typing import Any
from uuid import uuid4

import pytest
from hypothesis import settings
from xdist.scheduler.loadscope import LoadScopeScheduling

from tests.e2e.waiting import watch
from tests.support import BROWSER, CHROMIUM, ROOT, Server, drop_database, fill_shop, fresh_database

# How long an example takes says nothing about whether it is right; and what is tried is the same in every run.
settings.register_profile("untimed", deadline=None, derandomize=True)
settings.load_profile("untimed")


#: Did the test itself fail? Set before its fixtures end.
FAILED = pytest.StashKey[bool]()


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """Tell the fixtures how the test went."""
    report = yield
    if report.when == "call":
        item.stash[FAILED] = report.failed
    return report


#: The tests of a file that takes longest go in so many parts.
PARTS = {"test_lathe.py": 3, "test_pages.py": 2}
#: A file of the core that works each procedure once for several tests.
BY_PROCEDURE = "test_lathe_pictures.py"


class Together(LoadScopeScheduling):  # type: ignore[misc]  # it has no types
    """What shares a database and a server goes to one worker, so that those are started once; the core's tests go
    wherever there is room.
    """

    def _split_scope(self, nodeid: str) -> str:
        path, parameters = nodeid.partition("::")[0], nodeid.partition("[")[2]
        if path.endswith(BY_PROCEDURE):
            procedure = next((word for word in re.split("[]-]", parameters) if word[:1].isalpha()), "")
            return f"{path} {procedure}"
        if "/core/" in path:
            return nodeid
        parts = PARTS.get(path.rpartition("/")[2], 1)
        return f"{path} {zlib.crc32(nodeid.encode()) % parts}"


def pytest_xdist_make_scheduler(config: pytest.Config, log: Any) -> LoadScopeScheduling:
    """In the order that they were found."""
    return Together(config, log)


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """The browser's tests first: they wait for pages while others compute."""
    items.sort(key=lambda item: "e2e" not in item.path.parts)


@pytest.fixture(scope="session")
def admin_url() -> str:
    url = os.environ.get("VELVET_TEST_DATABASE_URL")
    if not url:
        pytest.skip("no database: run through ./velvet test")
    return url


@pytest.fixture(scope="module")
def database_url(admin_url: str) -> Iterator[str]:
    """A migrated database with machines, chucks and gauges, for one test module."""
    from velvet_hand.store import database as db

    name = f"t_{uuid4().hex[:12]}"
    url = fresh_database(admin_url, name)
    database = db.connect(url)
    db.migrate(database)
    with database.connection_context():
        fill_shop()
    database.close_all()
    yield url
    drop_database(admin_url, name)


@pytest.fixture(scope="module")
def client(database_url: str) -> Iterator[Any]:
    """A client of the application on that database."""
    from velvet_hand.api import create_app
    from velvet_hand.settings import Settings

    app = create_app(Settings(database_url=database_url, web_dir=ROOT / "web" / "dist"))
    yield app.test_client()
    app.extensions["database"].close_all()


@pytest.fixture(scope="module")
def server(database_url: str) -> Iterator[Server]:
    running = Server(database_url)
    running.start()
    yield running
    running.close()


@pytest.fixture(scope="session")
def browser() -> Iterator[Any]:
    """One for each worker; what a test does in it stays in a context of its own."""
    from playwright.sync_api import sync_playwright

    with sync_playwright() as playwright:
        found = playwright.chromium.launch(executable_path=BROWSER, args=CHROMIUM)
        yield found
        found.close()


@pytest.fixture
def page(browser: Any, server: Server, request: pytest.FixtureRequest) -> Iterator[Any]:
    """A page of its own; without the worker that keeps a megabyte of files for later, but where ``opens_offline`` asks for it."""
    worker = "allow" if request.node.get_closest_marker("opens_offline") else "block"
    context = browser.new_context(
        viewport={"width": 1280, "height": 800}, base_url=server.url, locale="en-GB", service_workers=worker,
        reduced_motion="reduce",  # what slides or fades is not asked about, and is drawn sixty times a second
    )  # fmt: skip
    made = watch(context.new_page())
    faults: list[str] = []
    made.on("pageerror", lambda error: faults.append(str(error)))
    met: list[str] = []
    made.on("requestfailed", lambda asked: met.append(f"{asked.method} {asked.url}: {asked.failure}"))
    made.on("request", lambda asked: met.append(f"{asked.method} {asked.url}"))
    made.on("response", lambda got: met.append(f"{got.status} {got.url}"))
    yield made
    if request.node.stash.get(FAILED, False):  # a run elsewhere leaves nothing else to look at
        focused = made.evaluate("() => document.activeElement?.outerHTML.slice(0, 400)")
        sys.stderr.write("\n".join((made.url, made.locator("body").inner_text(), focused, *met[-30:])))
    if os.environ.get("VELVET_LAST_SHOT"):
        made.screenshot(path=os.environ["VELVET_LAST_SHOT"], animations="disabled")
    context.close()
    assert not faults, faults
