"""How fast is a set-up found among a million? Makes the data in a database of its own, asks, and shows the plans of the slowest.

The rows are those of a busy shop: 12 machines, 40 holders, 60 hands, 400 parts with words that come often and rarely, eleven years.
"""

from __future__ import annotations

import json
import os
import statistics
import time
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, timedelta
from typing import Any

import psycopg

from tests.core.bench_person import Person
from velvet_hand.core.desk import desk
from velvet_hand.store import database as db
from velvet_hand.store import found
from velvet_hand.store.found import Asked

NAME = "velvet_bench_logbook"
ROUNDS = 25
#: Slower than this a plan is looked at.
SLOW_MS = 50.0
MAKE = """
INSERT INTO setup (id, seq, standing, machine_id, machine, holder, holder_id, gauge_id, hand, procedure, outcome, search, summary,
                   opened_at, changed_at, projected)
SELECT gen_random_uuid(), 30, n > %(count)s - 12, 'm' || m, 'Machine ' || m, 'Holder ' || h, 'h' || h, 'g' || n %% 9, 'hand ' || p,
       'procedure ' || n %% 24, (ARRAY['holds', 'holds', 'holds', 'holds', 'outside', 'cannot_tell', 'accepted', NULL])[1 + n %% 8],
       'part ' || part || ' drum' || CASE WHEN n %% 3 = 0 THEN ' roller' ELSE '' END
         || CASE WHEN n %% 2 = 1 THEN ' flange' ELSE '' END || CASE WHEN n %% 5000 = 0 THEN ' platen' ELSE '' END
         || ' machine ' || m || ' holder ' || h || ' hand ' || p || ' number' || n,
       %(summary)s::jsonb, at, at, 99
FROM (SELECT n, n::bigint * 7919 %% 12 AS m, n::bigint * 104729 %% 40 AS h, n::bigint * 15485863 %% 60 AS p,
             n::bigint * 32452843 %% 400 AS part,
             timestamptz '2026-11-01' - make_interval(secs => (%(count)s - n) * 350.0) AS at
      FROM generate_series(1, %(count)s) n) made
"""


@contextmanager
def filled(count: int) -> Iterator[Any]:
    """A database with so many set-ups; it is dropped again."""
    admin = os.environ["VELVET_TEST_DATABASE_URL"]
    url = admin.rsplit("/", 1)[0] + f"/{NAME}"
    with psycopg.connect(admin, autocommit=True) as connection:
        connection.execute(f"DROP DATABASE IF EXISTS {NAME} WITH (FORCE)")
        connection.execute(f"CREATE DATABASE {NAME}")
    database = db.connect(url)
    try:
        db.migrate(database)
        summary = desk.summarize(desk.load(Person().events)).model_dump(mode="json")
        with psycopg.connect(url, autocommit=True) as connection:
            connection.execute(MAKE, {"count": count, "summary": json.dumps(summary)})
            connection.execute("VACUUM ANALYZE setup")
        with database.connection_context():
            yield database
    finally:
        database.close_all()
        with psycopg.connect(admin, autocommit=True) as connection:
            connection.execute(f"DROP DATABASE IF EXISTS {NAME} WITH (FORCE)")


def questions() -> dict[str, Asked]:
    """What people look for: nothing, often, rarely, never, and all at once."""
    old = date(2026, 11, 1) - timedelta(days=3600)
    return {
        "nothing: the latest": Asked(),
        "a word of every set-up": Asked(words="drum"),
        "a word of every third": Asked(words="roller"),
        "a word of every 5,000th": Asked(words="platen"),
        "a word of one": Asked(words="number123456"),
        "a word of none": Asked(words="heidel"),
        "the beginning of a word": Asked(words="pla"),
        "three words": Asked(words="roller 37 hand"),
        "a machine": Asked(machine="Machine 5"),
        "a holder and a verdict": Asked(holder="Holder 17", outcome="outside"),
        "a hand, not proven": Asked(hand="hand 9", outcome="cannot_tell"),
        "no proof yet": Asked(outcome="open"),
        "what stands": Asked(standing=True),
        "a day long ago": Asked(since=old, until=old),
        "words of a day long ago": Asked(words="drum roller", since=old, until=old + timedelta(days=30)),
        "a rare word at a holder": Asked(words="platen", holder="Holder 0"),
        "a common word at a holder, outside": Asked(words="roller", holder="Holder 23", outcome="outside"),
        "a common word never at that holder": Asked(words="flange", holder="Holder 2"),
        "two words never at that machine": Asked(words="flange dru", machine="Machine 6"),
        "what never comes together": Asked(words="roller", machine="Machine 3", holder="Holder 20", hand="hand 2"),
        "a machine never with that hand": Asked(machine="Machine 1", hand="hand 0"),
    }


def table(count: int) -> list[list[str]]:
    """Rows of the table: p50 and p95 of the first page and of the one after it, in ms; the plans of what is slow are printed."""
    rows = [["What is looked for", "found", "p50", "p95", "next page p95"]]
    with filled(count) as database:
        for title, asked in questions().items():
            listed, more = found.search(asked, size=12)
            first = _times(asked, "")
            after = _times(asked, more) if more else []
            rows.append(
                [title, str(len(listed)) + ("+" if more else ""), f"{statistics.median(first):.1f}", f"{_p95(first):.1f}",
                 f"{_p95(after):.1f}" if after else ""]
            )  # fmt: skip
            if _p95(first) > SLOW_MS:
                _explain(database, title, asked)
    return rows


def _explain(database: Any, title: str, asked: Asked) -> None:
    """Print how the database goes about it."""
    kept: list[tuple[str, Any]] = []
    ask = database.execute_sql

    def told(sql: str, values: Any = None, **more: Any) -> Any:
        kept.append((sql, values))
        return ask(sql, values, **more)

    database.execute_sql = told
    try:
        found.search(asked, size=12)
    finally:
        del database.execute_sql
    for sql, values in (one for one in kept if not one[0].startswith("SET")):
        print(f"\n{title}:")
        print("\n".join(row[0] for row in ask(f"EXPLAIN (ANALYZE, BUFFERS) {sql}", values)))


def _times(asked: Asked, after: str) -> list[float]:
    times = []
    for _ in range(ROUNDS):
        began = time.perf_counter()
        found.search(asked, after, size=12)
        times.append(1000 * (time.perf_counter() - began))
    return times


def _p95(times: list[float]) -> float:
    return sorted(times)[int(0.95 * (len(times) - 1))]
