"""Browser tests look into the same store as the server."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from velvet_hand.store import database as db


@pytest.fixture(scope="module", autouse=True)
def _store(database_url: str) -> Iterator[None]:
    database = db.connect(database_url)
    with database.connection_context():
        yield
    database.close_all()
